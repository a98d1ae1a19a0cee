#include "cover/wash.h"

#include <algorithm>
#include <cmath>

#include "base/srgb.h"

namespace jam {

namespace {

// f(wash, mask) for every sample that the dab reaches.
template <class F>
Region eachWash(Level& level, const Dab& dab, float share, F f) {
    if (dab.region.empty()) return {};
    Raster<Wash> wash(dab.region.width(), dab.region.depth());
    level.wash.read(dab.region, wash.view());
    eachDabSample(dab, share, [&](int x, int z, float mask) {
        if (mask > 0) f(wash.at(x - dab.region.x0, z - dab.region.z0), mask);
    });
    level.wash.write(dab.region, wash.view());
    return dab.region;
}

uint16_t stored(float v) { return static_cast<uint16_t>(std::lround(std::clamp(v, 0.f, 1.f) * 65535)); }

}  // namespace

std::array<float, 3> washLight(const Wash& w) {
    const auto linear = [](uint16_t v) { return linearLight(static_cast<float>(v) / 65535); };
    return {linear(w.red), linear(w.green), linear(w.blue)};
}

Region washGround(Level& level, const Dab& dab, float share, const WashColour& colour) {
    return eachWash(level, dab, share, [&](Wash& w, float m) {
        const float before = w.strength / 65535.0f, kept = before * (1 - m), now = kept + m;
        const auto mixed = [&](uint16_t own, float laid) { return stored((own / 65535.0f * kept + laid * m) / now); };
        w.red = mixed(w.red, colour[0]);
        w.green = mixed(w.green, colour[1]);
        w.blue = mixed(w.blue, colour[2]);
        w.strength = std::max(stored(now), static_cast<uint16_t>(std::min(w.strength + 1, 65535)));
    });
}

Region rinseGround(Level& level, const Dab& dab, float share) {
    return eachWash(level, dab, share, [&](Wash& w, float m) {
        if (w.strength == 0) return;
        w.strength = std::min(stored(w.strength / 65535.0f * (1 - m)), static_cast<uint16_t>(w.strength - 1));
        if (w.strength == 0) w = {};
    });
}

}  // namespace jam
