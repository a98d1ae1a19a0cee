#include "grid/scratch.h"

#include <algorithm>
#include <mutex>
#include <vector>

namespace jam {

namespace {

struct Room {
    std::unique_ptr<float[]> floats;
    size_t size;
};

class Rooms {
public:
    // The smallest that holds so many, but none that is far too large, which others may want.
    Room take(size_t size) {
        {
            const std::lock_guard lock(mutex_);
            auto best = free_.end();
            for (auto r = free_.begin(); r != free_.end(); ++r)
                if (r->size >= size && r->size <= 4 * size && (best == free_.end() || r->size < best->size)) best = r;
            if (best != free_.end()) {
                Room room = std::move(*best);
                free_.erase(best);
                kept_ -= room.size;
                return room;
            }
        }
        return {std::unique_ptr<float[]>(new float[size]), size};
    }
    void giveBack(Room room) {
        const std::lock_guard lock(mutex_);
        if (keeping_ == 0) return;
        kept_ += room.size;
        free_.push_back(std::move(room));
        // Those that lay longest go first.
        while (kept_ * sizeof(float) > Scratch::kMost) {
            kept_ -= free_.front().size;
            free_.erase(free_.begin());
        }
    }
    void keep(int more) {
        const std::lock_guard lock(mutex_);
        keeping_ += more;
        if (keeping_ > 0) return;
        free_.clear();
        kept_ = 0;
    }
    size_t kept() {
        const std::lock_guard lock(mutex_);
        return kept_ * sizeof(float);
    }

private:
    std::mutex mutex_;
    std::vector<Room> free_;
    size_t kept_ = 0;  // floats
    int keeping_ = 0;
};

Rooms& rooms() {
    static Rooms all;
    return all;
}

}  // namespace

Scratch::Scratch(int width, int depth) : width_(width), depth_(depth) {
    Room room = rooms().take(std::max(static_cast<size_t>(width) * static_cast<size_t>(depth), size_t{1}));
    room_ = std::move(room.floats);
    size_ = room.size;
}

Scratch::~Scratch() { rooms().giveBack({std::move(room_), size_}); }

Scratch::Keeping::Keeping() { rooms().keep(1); }
Scratch::Keeping::~Keeping() { rooms().keep(-1); }
size_t Scratch::kept() { return rooms().kept(); }

}  // namespace jam
