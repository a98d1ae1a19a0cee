#include "render/software/room_queue.h"

#include <algorithm>

#include "render/gl.h"

namespace jam {

bool RoomQueue::want(const RoomWish& wish) {
    const std::lock_guard lock(busy_);
    if (!helped_ || stopped_) return false;
    line_.push_back(wish);
    change_.notify_all();
    return true;
}

bool RoomQueue::waits(unsigned texture) {
    const std::lock_guard lock(busy_);
    return std::any_of(line_.begin(), line_.end(), [texture](const RoomWish& w) { return w.texture == texture; });
}

void RoomQueue::forget(unsigned texture) {
    std::unique_lock lock(busy_);
    change_.wait(lock, [&] { return !taking_ || line_.front().texture != texture; });
    std::erase_if(line_, [texture](const RoomWish& w) { return w.texture == texture; });
}

std::optional<RoomWish> RoomQueue::next() {
    std::unique_lock lock(busy_);
    change_.wait(lock, [this] { return stopped_ || !line_.empty(); });
    if (stopped_) return std::nullopt;
    taking_ = true;
    return line_.front();
}

void RoomQueue::done() {
    const std::lock_guard lock(busy_);
    line_.pop_front();
    taking_ = false;
    change_.notify_all();
}

void RoomQueue::start() {
    const std::lock_guard lock(busy_);
    helped_ = true;
}

void RoomQueue::stop() {
    const std::lock_guard lock(busy_);
    stopped_ = true;
    change_.notify_all();
}

void takeWanted(const RoomWish& wish) {
    const GLenum target = targetOf(wish.slices);
    glBindTexture(target, wish.texture);
    takeRoom(wish.kind, wish.width, wish.height, wish.levels, wish.slices);
    glBindTexture(target, 0);
    glFinish();
}

}  // namespace jam
