#include "shape/whole.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "base/names.h"
#include "base/text.h"
#include "level/ground.h"
#include "level/hold_outside.h"
#include "level/strata.h"
#include "shape/altitudes.h"
#include "shape/bands.h"
#include "shape/crumble.h"
#include "shape/rain_wash.h"
#include "shape/steps.h"

namespace jam {

namespace {

constexpr std::array<std::string_view, kWholeKinds> kNames = {"raise",    "scale",     "smooth",       "noise",
                                                              "crumble",  "rain-wash", "soften-steps", "remove-spikes",
                                                              "generate", "flatten"};
constexpr std::array<std::string_view, kMeetings> kMeetingNames = {"replace", "add", "highest", "lowest"};

Status within(const char* field, float v, float low, float high, const char* unit) {
    if (std::isfinite(v) && v >= low && v <= high) return {};
    return Error{"", field, "it is " + number(v), "use " + number(low) + " to " + number(high) + unit};
}

Status checkWish(const WholeWish& w) {
    switch (w.kind) {
        case WholeKind::raise: return within("metres", w.metres, -kFarHeight, kFarHeight, " m");
        case WholeKind::scale:
            for (const Status& s : {within("low", w.low, -kFarHeight, kFarHeight, " m"),
                                    within("high", w.high, -kFarHeight, kFarHeight, " m")})
                if (!s) return s;
            if (!(w.low < w.high))
                return Error{"", "high", "it is not above the lowest height", "give it a greater height"};
            return {};
        case WholeKind::smooth: return within("width", w.width, 0.05f, 500, " m");
        case WholeKind::noise:
            for (const Status& s : {within("scale", w.noise.scale, kMinBumps, kMaxBumps, " m"),
                                    within("relief", w.noise.amplitude, kMinRate, kMaxRate, " m")})
                if (!s) return s;
            return within("octaves", static_cast<float>(w.noise.octaves), 1, kMaxOctaves, "");
        case WholeKind::crumble:
            if (const Status s = within("angle", w.angle, kMinAngle, kMaxAngle, " degrees"); !s) return s;
            return within("years", w.years, 0.1f, 1000, "");
        case WholeKind::rainWash: return within("years", w.years, 0.1f, 1000, "");
        case WholeKind::softenSteps: return within("step", w.step, 1e-4f, 100, " m");
        case WholeKind::removeSpikes: return within("spike", w.spike, 0.01f, 1000, " m");
        case WholeKind::generate: return checkLandscape(w.landscape);
        case WholeKind::flatten: return within("height", w.height, -kFarHeight, kFarHeight, " m");
    }
    return {};
}

bool noiseAll(Raster<float>& ground, const Level& level, const Roughness& noise, const Context& context) {
    const Raster<float> before = ground;
    const int halo = noiseHalo(level, noise);
    return inBands(ground.depth(), context, [&](int first, int end) {
        const Raster<float> window = windowOf(before, first, end, halo);
        roughen(window.view(), 0, first, level, noise, ground.view().part(0, first, ground.width(), end - first));
    });
}

// f(x, z, share) for every sample of which the fence holds a share.
template <class F>
void eachInside(const Level& level, F f) {
    for (int z = 0; z < level.rows; ++z)
        for (int x = 0; x < level.columns; ++x)
            if (const float m = fenceShare(level, x, z); m > 0) f(x, z, m);
}

// The plane that comes nearest, in the sense of least squares, to the ground along the fence's rim: the samples inside
// that have one outside beside them, or lie on the level's edge.
struct Plane {
    double height = 0, perX = 0, perZ = 0;  // at sample (x, z): height + perX * x + perZ * z
};
Plane planeThroughRim(const Raster<float>& ground, const Level& level) {
    const auto inside = [&](int x, int z) { return level.bounds().contains(x, z) && fenceShare(level, x, z) >= 0.5f; };
    double n = 0, sx = 0, sz = 0, sh = 0, xx = 0, xz = 0, zz = 0, xh = 0, zh = 0;
    const double cx = level.columns / 2.0, cz = level.rows / 2.0;  // sums stay small about the middle
    eachInside(level, [&](int x, int z, float) {
        if (!inside(x, z) || (inside(x - 1, z) && inside(x + 1, z) && inside(x, z - 1) && inside(x, z + 1))) return;
        const double u = x - cx, v = z - cz, h = ground.at(x, z);
        n += 1, sx += u, sz += v, sh += h;
        xx += u * u, xz += u * v, zz += v * v, xh += u * h, zh += v * h;
    });
    if (n == 0) return {};
    const double a = xx - sx * sx / n, b = xz - sx * sz / n, d = zz - sz * sz / n, p = xh - sx * sh / n,
                 q = zh - sz * sh / n, det = a * d - b * b;
    Plane plane;
    if (std::abs(det) > 1e-9 * std::max(a * d, 1.0)) {
        plane.perX = (p * d - q * b) / det;
        plane.perZ = (q * a - p * b) / det;
    }
    plane.height = (sh - plane.perX * sx - plane.perZ * sz) / n - plane.perX * cx - plane.perZ * cz;
    return plane;
}

Plane flatTarget(const Raster<float>& ground, const Level& level, const WholeWish& w) {
    if (w.flattenTo == FlattenTo::height) return {w.height};
    if (w.flattenTo == FlattenTo::rim) return planeThroughRim(ground, level);
    double sum = 0, share = 0;
    eachInside(level, [&](int x, int z, float m) { sum += m * ground.at(x, z), share += m; });
    return {share > 0 ? sum / share : 0};
}

bool run(Raster<float>& ground, const Level& level, const WholeWish& w, const Context& context) {
    const auto each = [&](auto f) {
        return inBands(ground.depth(), context, [&](int first, int end) {
            for (int z = first; z < end; ++z)
                for (int x = 0; x < ground.width(); ++x) ground.at(x, z) = f(ground.at(x, z), x, z);
        });
    };
    switch (w.kind) {
        case WholeKind::raise: return each([&](float h, int, int) { return h + w.metres; });
        case WholeKind::scale: {
            float low = ground.at(0, 0), high = low;
            bool first = true;
            eachInside(level, [&](int x, int z, float) {
                const float h = ground.at(x, z);
                low = first ? h : std::min(low, h), high = first ? h : std::max(high, h);
                first = false;
            });
            const double per = high > low ? (static_cast<double>(w.high) - w.low) / (static_cast<double>(high) - low)
                                          : 0;
            return each(
                [&](float h, int, int) { return static_cast<float>(w.low + (static_cast<double>(h) - low) * per); });
        }
        case WholeKind::smooth: return smoothAll(ground, static_cast<float>(w.width / level.spacing), context);
        case WholeKind::noise: return noiseAll(ground, level, w.noise, context);
        case WholeKind::crumble:
            return crumbleAll(ground, level.spacing, w.angle,
                              std::max(1, static_cast<int>(std::lround(w.years * kCrumblePassesPerYear))), context);
        case WholeKind::rainWash: return rainWashAll(ground, level.spacing, w.years, w.seed, context);
        case WholeKind::softenSteps: return softenSteps(ground, w.step, context);
        case WholeKind::removeSpikes: return removeSpikes(ground, w.spike, context);
        case WholeKind::generate: {
            Raster<float> made;
            if (!generateLandscape(w.landscape, level, made, context)) return false;
            return each([&](float h, int x, int z) {
                const float g = made.at(x, z);
                switch (w.meeting) {
                    case Meeting::replace: return level.startHeight + g;
                    case Meeting::add: return h + g;
                    case Meeting::highest: return std::max(h, level.startHeight + g);
                    case Meeting::lowest: return std::min(h, level.startHeight + g);
                }
                return h;
            });
        }
        case WholeKind::flatten: {
            const Plane to = flatTarget(ground, level, w);
            return each([&](float, int x, int z) { return static_cast<float>(to.height + to.perX * x + to.perZ * z); });
        }
    }
    return true;
}

// What lifting or scaling makes of a height.
Altitudes altitudesOf(const WholeWish& w, float low, float high) {
    if (w.kind == WholeKind::raise) return {1, w.metres};
    if (!(high > low)) return {1, static_cast<double>(w.low) - low};  // flat ground comes to lie at the lowest
    const double scale = (static_cast<double>(w.high) - w.low) / (static_cast<double>(high) - low);
    return {scale, w.low - scale * low};
}

// The highest stratum that lies below all that owns ground, so that what is added to it moves ground under courses too;
// null when none can be shaped.
Stratum* underCourses(Level& level) {
    Stratum* found = nullptr;
    for (Stratum& s : level.strata) {
        if (s.mixes() && s.visible) break;
        if (!s.mixes() && s.visible && s.opacity > 0 && !s.locked) found = &s;
    }
    return found;
}

// The level with everything in it lifted or scaled.
Result<WholeOutcome> reshapeAlong(const Level& level, const WholeWish& wish, const Context& context) {
    float low = INFINITY, high = -INFINITY;
    Raster<float> row(level.columns, 1);
    for (int z = 0; z < level.rows; ++z) {
        if (context.cancelled()) return cancelledError();
        readGround(level, {0, z, level.columns, z + 1}, row.view());
        const auto [least, most] = std::minmax_element(row.view().data, row.view().data + level.columns);
        low = std::min(low, *least), high = std::max(high, *most);
    }
    const Altitudes map = altitudesOf(wish, low, high);
    for (const Stratum& s : level.strata)
        if (s.locked && map.scale != 1)
            return Error{"", "", "“" + s.name + "” is protected", "let it go in the sheet, or scale the ground alone"};
    Result<Level> moved = moveAltitudes(level, map, context);
    if (!moved) return moved.error();
    const auto by = [&](float h) { return static_cast<float>(map.of(h) - h); };
    return WholeOutcome{moved.take(), 0, std::max({by(low), by(high), 0.f}), std::max({-by(low), -by(high), 0.f})};
}

}  // namespace

std::string_view wholeName(WholeKind kind) { return kNames[static_cast<size_t>(kind)]; }
std::optional<WholeKind> wholeFromName(std::string_view name) { return fromName<WholeKind>(kNames, name); }
std::string_view meetingName(Meeting meeting) { return kMeetingNames[static_cast<size_t>(meeting)]; }
std::optional<Meeting> meetingFromName(std::string_view name) { return fromName<Meeting>(kMeetingNames, name); }

Result<WholeOutcome> reshapeWhole(const Level& level, const WholeWish& wish, const Context& context) {
    if (Status s = checkWish(wish); !s) return s.error();
    if (level.fenced && level.fence.presentTiles() == 0)
        return Error{"", "fence", "it holds nothing, so nothing would change", "drop it, or draw another"};
    const bool along = wish.along && wish.stratum.empty() &&
                       (wish.kind == WholeKind::raise || wish.kind == WholeKind::scale);
    if (along && !level.fenced) return reshapeAlong(level, wish, context);
    WholeOutcome outcome{level, 0, 0, 0};
    if (!wish.stratum.empty()) {
        if (level.strata.size() >= kMaxStrata)
            return Error{"", "stratum", "the level has " + std::to_string(kMaxStrata) + " strata already",
                         "merge some first"};
        outcome.level.activeStratum = addStratum(outcome.level, wish.stratum,
                                                 static_cast<int>(level.strata.size()) - 1);
    }
    if (Status s = checkShapeable(outcome.level); !s) return s.error();
    Raster<float> before(level.columns, level.rows);
    readGround(level, level.bounds(), before.view());
    if (context.cancelled()) return cancelledError();
    Raster<float> after = before;
    if (!run(after, level, wish, context)) return cancelledError();
    if (level.fenced)
        for (int z = 0; z < level.rows; ++z)
            for (int x = 0; x < level.columns; ++x) {
                const float m = fenceShare(level, x, z), b = before.at(x, z);
                float& a = after.at(x, z);
                a = m == 1 ? a : b + (a - b) * m;
            }
    long long beyond = 0;
    for (int z = 0; z < level.rows; ++z)
        for (int x = 0; x < level.columns; ++x) {
            const float a = after.at(x, z), d = std::clamp(a, level.lowest, level.highest) - before.at(x, z);
            beyond += a < level.lowest || a > level.highest;
            outcome.rise = std::max(outcome.rise, d);
            outcome.fall = std::max(outcome.fall, -d);
        }
    outcome.clipped = static_cast<double>(beyond) / (static_cast<double>(level.columns) * level.rows);
    Stratum* under = along ? underCourses(outcome.level) : nullptr;
    if (under) {
        eachInside(level, [&](int x, int z, float) {
            const float d = std::clamp(after.at(x, z), level.lowest, level.highest) - before.at(x, z);
            under->heights.set(x, z, under->heights.at(x, z) + d / under->opacity);
        });
    } else {
        writeGround(outcome.level, level.bounds(), before.view(), after.view());
    }
    if (along) {
        float low = INFINITY, high = -INFINITY;
        eachInside(level, [&](int x, int z, float) {
            low = std::min(low, before.at(x, z)), high = std::max(high, before.at(x, z));
        });
        moveInsideFence(outcome.level, altitudesOf(wish, low, high));
    }
    return outcome;
}

}  // namespace jam
