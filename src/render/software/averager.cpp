#include "render/software/averager.h"

#include <algorithm>
#include <cstdlib>

namespace jam {

namespace {
constexpr int kFew = 4;  // passes until the picture that stood alone counts no more
}

void Averager::resize(int width, int height) {
    width_ = width;
    sums_.assign(static_cast<size_t>(width) * static_cast<size_t>(height), {});
    first_.assign(sums_.size(), 0);
}

void Averager::forget(const PixelRect& part) {
    if (!any_) return;
    any_ = static_cast<size_t>(part.width) * static_cast<size_t>(part.height) < sums_.size();
    for (int y = part.y; y < part.y + part.height; ++y)
        std::fill_n(sums_.begin() + static_cast<ptrdiff_t>(at(part.x, y)), part.width, Sum{});
}

int Averager::add(const PixelRect& part, const uint8_t* bgra, int bytesPerRow, uint32_t* picture) {
    any_ = true;
    int most = 0;
    for (int y = 0; y < part.height; ++y) {
        const uint8_t* from = bgra + static_cast<ptrdiff_t>(y) * bytesPerRow;
        for (int x = 0; x < part.width; ++x, from += 4) {
            const size_t i = at(part.x + x, part.y + y);
            Sum& sum = sums_[i];
            if (sum.passes >= kPasses) continue;
            const uint32_t before = picture[i];
            if (sum.passes == 0) first_[i] = before;
            sum.blue = static_cast<uint16_t>(sum.blue + from[0]),
            sum.green = static_cast<uint16_t>(sum.green + from[1]);
            sum.red = static_cast<uint16_t>(sum.red + from[2]), ++sum.passes;
            const bool alone = sum.passes < kFew;
            const uint32_t count = sum.passes + (alone ? 1u : 0u), half = count / 2, old = alone ? first_[i] : 0;
            const uint32_t blue = (sum.blue + (old & 255) + half) / count,
                           green = (sum.green + (old >> 8 & 255) + half) / count,
                           red = (sum.red + (old >> 16 & 255) + half) / count;
            picture[i] = 0xff000000u | red << 16 | green << 8 | blue;
            most = std::max({most, std::abs(static_cast<int>(blue) - static_cast<int>(before & 255)),
                             std::abs(static_cast<int>(green) - static_cast<int>(before >> 8 & 255)),
                             std::abs(static_cast<int>(red) - static_cast<int>(before >> 16 & 255))});
        }
    }
    return most;
}

void Averager::finish(const PixelRect& part) {
    for (int y = part.y; y < part.y + part.height; ++y)
        for (int x = part.x; x < part.x + part.width; ++x) sums_[at(x, y)].passes = kPasses;
}

bool Averager::wants(const PixelRect& part, int passes) const {
    for (int y = part.y; y < part.y + part.height; ++y)
        for (int x = part.x; x < part.x + part.width; ++x)
            if (sums_[at(x, y)].passes < passes) return true;
    return false;
}

}  // namespace jam
