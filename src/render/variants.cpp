#include "variants.h"

#include <algorithm>

namespace jam {

bool Variants::ready(unsigned features) {
    const std::lock_guard lock(busy_);
    if (stopped_ || ready_.contains(features)) return true;
    // What is asked for now comes before what may be of use some day.
    const bool fresh = wanted_.insert(features).second;
    const auto at = std::find(line_.begin(), line_.end(), features);
    if (at != line_.end()) line_.erase(at);
    else if (!fresh) return false;  // it is being made
    line_.push_front(features);
    change_.notify_one();
    return false;
}

void Variants::wantLater(unsigned features) {
    const std::lock_guard lock(busy_);
    if (ready_.contains(features) || !wanted_.insert(features).second) return;
    line_.push_back(features);
    change_.notify_one();
}

std::optional<unsigned> Variants::next() {
    std::unique_lock lock(busy_);
    change_.wait(lock, [this] { return stopped_ || !line_.empty(); });
    if (stopped_) return std::nullopt;
    const unsigned features = line_.front();
    line_.pop_front();
    return features;
}

void Variants::done(unsigned features) {
    const std::lock_guard lock(busy_);
    ready_.insert(features);
}

void Variants::stop() {
    const std::lock_guard lock(busy_);
    stopped_ = true;
    change_.notify_all();
}

}  // namespace jam
