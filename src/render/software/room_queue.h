// Room for large textures on the graphics side. Software drivers clear it as they take it, which is a fifth of a second
// for the heights of the largest level; so it can be taken beside the window, by whoever calls next() and done() on a
// thread with a context of its own that shares textures with the one that draws.
#pragma once

#include <condition_variable>
#include <deque>
#include <mutex>
#include <optional>

#include "render/helpers.h"

namespace jam {

// Threads: any.
class RoomQueue : public RoomHelper {
public:
    bool want(const RoomWish& wish) override;
    bool waits(unsigned texture) override;
    void forget(unsigned texture) override;

    // Waits for a wish; none when stop() was called.
    std::optional<RoomWish> next();
    // Room for what next() gave is there, for all contexts.
    void done();
    // From the start, until start() is called, and from stop() on, nobody takes room.
    void start();
    void stop();

private:
    std::mutex busy_;
    std::condition_variable change_;
    std::deque<RoomWish> line_;  // the first is being taken while `taking_`
    bool taking_ = false, helped_ = false, stopped_ = false;
};

// Takes room as a wish says, with a context current that shares the texture, and waits until it is there.
void takeWanted(const RoomWish& wish);

}  // namespace jam
