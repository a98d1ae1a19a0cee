#include "level/history.h"

#include <algorithm>
#include <atomic>

namespace jam {

namespace {

uint64_t nextSerial() {
    static std::atomic<uint64_t> last{0};
    return ++last;
}

}  // namespace

History::History(Level start, std::string what, size_t byteBudget) : budget_(byteBudget) {
    entries_.push_back({std::move(what), std::move(start), 0, nextSerial()});
}

size_t History::bytes() const {
    size_t n = 0;
    for (const Entry& e : entries_) n += e.bytes;
    return n;
}

void History::replaceNow(Level level) {
    assert(canUndo());
    std::string what = std::move(entries_[place_].what);
    --place_;
    push(std::move(level), std::move(what));
}

void History::complete(Level level) {
    ++revision_;
    entries_[place_].level = std::move(level);
    for (size_t i = place_; i < std::min(place_ + 2, entries_.size()); ++i)
        entries_[i].bytes = i > 0 ? bytesBeside(entries_[i].level, entries_[i - 1].level) : 0;
}

void History::push(Level level, std::string what) {
    ++revision_;
    entries_.resize(place_ + 1);
    const size_t bytes = bytesBeside(level, now());
    entries_.push_back({std::move(what), std::move(level), bytes, nextSerial()});
    ++place_;
    size_t held = this->bytes();
    while (held > budget_ && place_ > 1) {
        entries_.pop_front();
        --place_;
        held -= entries_.front().bytes;
        entries_.front().bytes = 0;  // nothing before it is left to share with
    }
}

void History::stepTo(size_t place) {
    assert(place < entries_.size());
    place_ = place;
    ++revision_;
}

}  // namespace jam
