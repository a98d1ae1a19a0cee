#include "render/software/variant_queue.h"

#include <algorithm>

namespace jam {

bool VariantQueue::ready(const Variant& variant) {
    const std::lock_guard lock(busy_);
    if (stopped_ || ready_.contains(variant)) return true;
    // What is asked for now comes before what may be of use some day.
    const bool fresh = wanted_.insert(variant).second;
    const auto at = std::find(line_.begin(), line_.end(), variant);
    if (at != line_.end()) line_.erase(at);
    else if (!fresh) return false;  // it is being made
    line_.push_front(variant);
    change_.notify_one();
    return false;
}

void VariantQueue::wantLater(const Variant& variant) {
    const std::lock_guard lock(busy_);
    if (ready_.contains(variant) || !wanted_.insert(variant).second) return;
    line_.push_back(variant);
    change_.notify_one();
}

std::optional<Variant> VariantQueue::next() {
    std::unique_lock lock(busy_);
    change_.wait(lock, [this] { return stopped_ || !line_.empty(); });
    if (stopped_) return std::nullopt;
    const Variant variant = line_.front();
    line_.pop_front();
    return variant;
}

void VariantQueue::done(const Variant& variant) {
    const std::lock_guard lock(busy_);
    ready_.insert(variant);
}

void VariantQueue::pause(std::chrono::milliseconds time) {
    std::unique_lock lock(busy_);
    change_.wait_for(lock, time, [this] { return stopped_; });
}

void VariantQueue::stop() {
    const std::lock_guard lock(busy_);
    stopped_ = true;
    change_.notify_all();
}

}  // namespace jam
