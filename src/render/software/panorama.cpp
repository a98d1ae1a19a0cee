#include "render/software/panorama.h"

#include <algorithm>
#include <cmath>
#include <cstring>

#include "base/maths.h"
#include "base/parallel.h"

namespace jam {

namespace {

constexpr int kRowsAThread = 64;  // at least
// Of the picture, that may be missing: more is drawn as quickly as a whole one.
constexpr double kMuch = 0.5;

using Span = Turned::Span;

// What nothing covers yet of a row of pixels.
class Uncovered {
public:
    void begin(int width) { parts_.assign(1, {0, width}); }
    const std::vector<Span>& parts() const { return parts_; }
    // Tells what of it is covered now.
    template <class F>
    void cover(const Span& by, F tell) {
        if (by.empty()) return;
        left_.clear();
        for (const Span& p : parts_) {
            const Span both{std::max(p.first, by.first), std::min(p.end, by.end)};
            if (both.empty()) {
                left_.push_back(p);
                continue;
            }
            tell(both);
            if (p.first < both.first) left_.push_back({p.first, both.first});
            if (both.end < p.end) left_.push_back({both.end, p.end});
        }
        parts_.swap(left_);
    }
    void cover(const Span& by) {
        cover(by, [](const Span&) {});
    }

private:
    std::vector<Span> parts_, left_;
};

// What is missing beside an edge of the picture, as pixels from the edge and along it.
struct Edge {
    int deep = 0;
    Span missing;
    void take(int pixels, int first, int end) {
        deep = std::max(deep, pixels);
        missing = missing.empty() ? Span{first, end} : Span{std::min(missing.first, first), std::max(missing.end, end)};
    }
    int pixels() const { return deep * (missing.end - missing.first); }
    // The strip that has it, and twice as far along it as is drawn ahead, in pixels of the wider picture.
    int across() const { return Panorama::kAhead + deep + Panorama::kFade; }
    Span along(int pixels) const {
        return {std::max(missing.first - Panorama::kAhead, 0), std::min(missing.end + 3 * Panorama::kAhead, pixels)};
    }
};

// As far as is drawn ahead on all sides, in pixels of the same size.
Camera widened(const Camera& camera) {
    Camera c = camera;
    c.width += 2 * Panorama::kAhead, c.height += 2 * Panorama::kAhead;
    c.fieldOfView = 2 * std::atan(std::tan(camera.fieldOfView * kRadians / 2) * c.height / camera.height) / kRadians;
    return c;
}

}  // namespace

void Panorama::forget() {
    picture_ = {};
    strips_.clear();
}

bool Panorama::holds(const Camera& c, const Sight& sight) const {
    return !empty() && picture_.by.camera.turnsInto(c) && sight == sight_;
}

void Panorama::take(const Camera& c, const Sight& sight, const uint8_t* bgra, int bytesPerRow) {
    if (!holds(c, sight)) forget();
    sight_ = sight;
    picture_.by = {c, {0, 0, c.width, c.height}};
    const auto width = static_cast<size_t>(c.width);
    picture_.pixels.resize(width * static_cast<size_t>(c.height));
    for (int y = 0; y < c.height; ++y)
        std::memcpy(picture_.pixels.data() + static_cast<size_t>(y) * width,
                    bgra + static_cast<ptrdiff_t>(y) * bytesPerRow, width * 4);
}

std::optional<std::vector<Panorama::Glimpse>> Panorama::missing(const Camera& camera) const {
    const Parts parts = partsFor(camera);
    Edge left, right, top, bottom;
    Uncovered row;
    const int width = camera.width, height = camera.height;
    // From the middle outwards, so that what is missing in a corner goes to a strip that is there anyway.
    for (int k = 0; k < height; ++k) {
        const int y = k % 2 ? height / 2 - 1 - k / 2 : height / 2 + k / 2;
        row.begin(width);
        row.cover(parts.picture.span(y, 0));
        for (size_t i = parts.strips.size(); i-- > 0 && !row.parts().empty();) row.cover(parts.strips[i].span(y, 0));
        for (const Span& part : row.parts()) {
            const int toLeft = part.end, toRight = width - part.first, toTop = y + 1, toBottom = height - y;
            const int least = std::min({toLeft, toRight, toTop, toBottom});
            if (toLeft <= left.deep || toLeft == least) left.take(toLeft, y, y + 1);
            else if (toRight <= right.deep || toRight == least) right.take(toRight, y, y + 1);
            else if (toTop == least) top.take(toTop, part.first, part.end);
            else bottom.take(toBottom, part.first, part.end);
        }
    }
    if (left.pixels() + right.pixels() + top.pixels() + bottom.pixels() > kMuch * width * height) return std::nullopt;
    const Camera wide = widened(camera);
    std::vector<Glimpse> glimpses;
    const auto strip = [&](const Edge& e, const PixelRect& part) {
        if (e.deep > 0) glimpses.push_back({wide, part});
    };
    const Span down = left.along(wide.height), beside = right.along(wide.height), above = top.along(wide.width),
               below = bottom.along(wide.width);
    strip(left, {0, down.first, left.across(), down.end - down.first});
    strip(right, {wide.width - right.across(), beside.first, right.across(), beside.end - beside.first});
    strip(top, {above.first, 0, above.end - above.first, top.across()});
    strip(bottom, {below.first, wide.height - bottom.across(), below.end - below.first, bottom.across()});
    return glimpses;
}

uint32_t* Panorama::room(const Glimpse& g) {
    strips_.push_back({g, {}});
    strips_.back().pixels.resize(static_cast<size_t>(g.part.width) * static_cast<size_t>(g.part.height));
    return strips_.back().pixels.data();
}

Panorama::Parts Panorama::partsFor(const Camera& camera) const {
    Parts parts{Turned(picture_.by.camera, picture_.by.part, camera), {}};
    for (const Seen& s : strips_) parts.strips.emplace_back(s.by.camera, s.by.part, camera);
    return parts;
}

void Panorama::show(const Camera& camera, uint8_t* bgra, int bytesPerRow) {
    const Parts parts = partsFor(camera);
    const Turned& picture = parts.picture;
    parallelFor(camera.height, kRowsAThread, [&](int begin, int end) {
        Uncovered left;
        for (int y = begin; y < end; ++y) {
            auto* row = reinterpret_cast<uint32_t*>(bgra + static_cast<ptrdiff_t>(y) * bytesPerRow);
            const auto drawn = [&](const Span& span) {
                picture.draw(y, span, picture_.pixels.data(), row + span.first);
            };
            left.begin(camera.width);
            left.cover(picture.span(y, kFade), drawn);
            for (size_t i = parts.strips.size(); i-- > 0 && !left.parts().empty();)
                left.cover(parts.strips[i].span(y, 0), [&](const Span& span) {
                    parts.strips[i].draw(y, span, strips_[i].pixels.data(), row + span.first);
                    picture.fade(y, span, picture_.pixels.data(), kFade, row + span.first);
                });
            left.cover(picture.span(y, 0), drawn);
        }
    });
    if (strips_.size() <= kMostStrips) return;
    strips_.clear();
    take(camera, sight_, bgra, bytesPerRow);
}

}  // namespace jam
