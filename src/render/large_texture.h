// A large texture whose room may come later than it does.
#pragma once

#include <memory>

#include "gl.h"
#include "helpers.h"

namespace jam {

class LargeTexture {
public:
    LargeTexture() = default;
    LargeTexture(LargeTexture&&) = default;
    LargeTexture& operator=(LargeTexture&& o) noexcept {
        std::swap(helper_, o.helper_);
        std::swap(texture_, o.texture_);
        return *this;
    }
    ~LargeTexture() {
        if (texture_ && helper_) helper_->forget(texture_);
    }

    // Begins: with nobody to take room beside, it is there at once. The texture stays bound.
    static LargeTexture begin(std::shared_ptr<RoomHelper> helper, RoomWish wish) {
        LargeTexture t;
        t.texture_ = makeTexture();
        wish.texture = t.texture_;
        glBindTexture(targetOf(wish.slices), t.texture_);
        if (helper && helper->want(wish)) t.helper_ = std::move(helper);
        else takeRoom(wish.kind, wish.width, wish.height, wish.levels, wish.slices);
        return t;
    }
    bool begun() const { return texture_ != 0; }
    // Whether its room is there.
    bool there() const {
        if (helper_ && !helper_->waits(texture_)) helper_.reset();
        return texture_ && !helper_;
    }
    // None before its room is there.
    const GlTexture& texture() const {
        static const GlTexture none;
        return there() ? texture_ : none;
    }

private:
    mutable std::shared_ptr<RoomHelper> helper_;  // while it may wait
    GlTexture texture_;
};

}  // namespace jam
