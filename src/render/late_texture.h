// A large texture whose room may come later than it does.
#pragma once

#include <memory>

#include "gl.h"
#include "rooms.h"

namespace jam {

class LateTexture {
public:
    LateTexture() = default;
    LateTexture(LateTexture&&) = default;
    LateTexture& operator=(LateTexture&& o) noexcept {
        std::swap(rooms_, o.rooms_);
        std::swap(texture_, o.texture_);
        return *this;
    }
    ~LateTexture() {
        if (texture_ && rooms_) rooms_->forget(texture_);
    }

    // Begins: with nobody to take room beside, it is there at once. The texture stays bound.
    static LateTexture begin(std::shared_ptr<Rooms> rooms, RoomWish wish) {
        LateTexture t;
        t.texture_ = makeTexture();
        wish.texture = t.texture_;
        glBindTexture(targetOf(wish.slices), t.texture_);
        if (rooms && rooms->want(wish)) t.rooms_ = std::move(rooms);
        else takeRoom(wish.kind, wish.width, wish.height, wish.levels, wish.slices);
        return t;
    }
    bool begun() const { return texture_ != 0; }
    // Whether its room is there.
    bool there() const {
        if (rooms_ && !rooms_->waits(texture_)) rooms_.reset();
        return texture_ && !rooms_;
    }
    // None before its room is there.
    const GlTexture& texture() const {
        static const GlTexture none;
        return there() ? texture_ : none;
    }

private:
    mutable std::shared_ptr<Rooms> rooms_;  // while it may wait
    GlTexture texture_;
};

}  // namespace jam
