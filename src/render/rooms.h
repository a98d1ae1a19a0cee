// Room for large textures on the graphics side. Software drivers clear it as they take it, which is a fifth of a second
// for the heights of the largest level; so it can be taken beside the window, by whoever calls next() and done() on a
// thread with a context of its own that shares textures with the one that draws.
#pragma once

#include <condition_variable>
#include <deque>
#include <mutex>
#include <optional>

namespace jam {

// What takeRoom() (gl.h) is told of a texture.
struct RoomWish {
    unsigned texture = 0, kind = 0;
    int width = 0, height = 0;
    int levels = 1, slices = 0;
    bool operator==(const RoomWish&) const = default;
};

// Threads: any.
class Rooms {
public:
    // Wants room for a texture. False when nobody takes any: the caller has to.
    bool want(const RoomWish& wish);
    // Whether a texture waits for its room. Once it does not, it is to be bound anew.
    bool waits(unsigned texture);
    // To be called before a texture goes: room is not wanted any more, nor being taken when this returns.
    void forget(unsigned texture);

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
