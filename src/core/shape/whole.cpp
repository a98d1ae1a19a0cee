#include "shape/whole.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "base/names.h"
#include "base/parallel.h"
#include "base/text.h"
#include "level/ground.h"
#include "shape/crumble.h"
#include "shape/rain_wash.h"
#include "shape/smooth.h"

namespace jam {

namespace {

constexpr std::array<std::string_view, kWholeKinds> kNames = {"raise", "scale", "smooth", "noise", "crumble", "rain-wash", "soften-steps", "remove-spikes", "generate"};
constexpr std::array<std::string_view, kMeetings> kMeetingNames = {"replace", "add", "highest", "lowest"};
constexpr int kBand = 128;  // rows at a time, so that cancel and progress are looked at often

Status within(const char* field, float v, float low, float high, const char* unit) {
    if (std::isfinite(v) && v >= low && v <= high) return {};
    return Error{"", field, "it is " + number(v), "use " + number(low) + " to " + number(high) + unit};
}

Status checkWish(const WholeWish& w) {
    switch (w.kind) {
        case WholeKind::raise: return within("metres", w.metres, -kFarHeight, kFarHeight, " m");
        case WholeKind::scale:
            for (const Status& s : {within("low", w.low, -kFarHeight, kFarHeight, " m"), within("high", w.high, -kFarHeight, kFarHeight, " m")}) if (!s) return s;
            if (!(w.low < w.high)) return Error{"", "high", "it is not above the lowest height", "give it a greater height"};
            return {};
        case WholeKind::smooth: return within("width", w.width, 0.05f, 500, " m");
        case WholeKind::noise:
            for (const Status& s : {within("scale", w.noise.scale, kMinBumps, kMaxBumps, " m"), within("relief", w.noise.amplitude, kMinRate, kMaxRate, " m")}) if (!s) return s;
            return within("octaves", static_cast<float>(w.noise.octaves), 1, kMaxOctaves, "");
        case WholeKind::crumble:
            if (const Status s = within("angle", w.angle, kMinAngle, kMaxAngle, " degrees"); !s) return s;
            return within("years", w.years, 0.1f, 1000, "");
        case WholeKind::rainWash: return within("years", w.years, 0.1f, 1000, "");
        case WholeKind::softenSteps: return within("step", w.step, 1e-4f, 100, " m");
        case WholeKind::removeSpikes: return within("spike", w.spike, 0.01f, 1000, " m");
        case WholeKind::generate: return checkLandscape(w.landscape);
    }
    return {};
}

// f(first, end) over bands of rows; false when cancelled in between.
template <class F>
bool inBands(int rows, const Context& context, F f) {
    for (int z = 0; z < rows; z += kBand) {
        if (context.cancelled()) return false;
        context.report(static_cast<double>(z) / rows);
        f(z, std::min(z + kBand, rows));
    }
    return !context.cancelled();
}

// Part of a longer task: progress runs from `from` to `to`.
Context partOf(const Context& whole, double from, double to) {
    Context part = whole;
    part.progress = [&whole, from, to](double share) { whole.report(from + share * (to - from)); };
    return part;
}

// Rows [first - halo, end + halo) with `halo` columns beside, the edges repeated.
Raster<float> windowOf(const Raster<float>& ground, int first, int end, int halo) {
    Raster<float> window(ground.width() + 2 * halo, end - first + 2 * halo);
    for (int z = 0; z < window.depth(); ++z) {
        const float* from = ground.view().row(std::clamp(first - halo + z, 0, ground.depth() - 1));
        float* to = window.view().row(z);
        std::fill_n(to, halo, from[0]);
        std::copy_n(from, ground.width(), to + halo);
        std::fill_n(to + halo + ground.width(), halo, from[ground.width() - 1]);
    }
    return window;
}

bool noiseAll(Raster<float>& ground, const Level& level, const Roughness& noise, const Context& context) {
    const Raster<float> before = ground;
    const int halo = noiseHalo(level, noise);
    return inBands(ground.depth(), context, [&](int first, int end) {
        const Raster<float> window = windowOf(before, first, end, halo);
        roughen(window.view(), 0, first, level, noise, ground.view().part(0, first, ground.width(), end - first));
    });
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
            for (int z = 0; z < ground.depth(); ++z)
                for (int x = 0; x < ground.width(); ++x) low = std::min(low, ground.at(x, z)), high = std::max(high, ground.at(x, z));
            const double per = high > low ? (static_cast<double>(w.high) - w.low) / (static_cast<double>(high) - low) : 0;
            return each([&](float h, int, int) { return static_cast<float>(w.low + (static_cast<double>(h) - low) * per); });
        }
        case WholeKind::smooth: return smoothAll(ground, static_cast<float>(w.width / level.spacing), context);
        case WholeKind::noise: return noiseAll(ground, level, w.noise, context);
        case WholeKind::crumble: return crumbleAll(ground, level.spacing, w.angle, std::max(1, static_cast<int>(std::lround(w.years * kCrumblePassesPerYear))), context);
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
    }
    return true;
}

}  // namespace

std::string_view wholeName(WholeKind kind) { return kNames[static_cast<size_t>(kind)]; }
std::optional<WholeKind> wholeFromName(std::string_view name) { return fromName<WholeKind>(kNames, name); }
std::string_view meetingName(Meeting meeting) { return kMeetingNames[static_cast<size_t>(meeting)]; }
std::optional<Meeting> meetingFromName(std::string_view name) { return fromName<Meeting>(kMeetingNames, name); }

Result<WholeOutcome> reshapeWhole(const Level& level, const WholeWish& wish, const Context& context) {
    if (Status s = checkWish(wish); !s) return s.error();
    if (Status s = checkShapeable(level); !s) return s.error();
    Raster<float> before(level.columns, level.rows);
    readGround(level, level.bounds(), before.view());
    if (context.cancelled()) return cancelledError();
    Raster<float> after = before;
    if (!run(after, level, wish, context)) return cancelledError();
    WholeOutcome outcome{level, 0, 0, 0};
    long long beyond = 0;
    for (int z = 0; z < level.rows; ++z)
        for (int x = 0; x < level.columns; ++x) {
            const float a = after.at(x, z), d = std::clamp(a, level.lowest, level.highest) - before.at(x, z);
            beyond += a < level.lowest || a > level.highest;
            outcome.rise = std::max(outcome.rise, d);
            outcome.fall = std::max(outcome.fall, -d);
        }
    outcome.clipped = static_cast<double>(beyond) / (static_cast<double>(level.columns) * level.rows);
    writeGround(outcome.level, level.bounds(), before.view(), after.view());
    return outcome;
}

Steps surveySteps(View<const float> g) {
    long long pairs = 0, same = 0;
    std::vector<float> rises;
    const int every = std::max(1, g.depth / 600);
    for (int z = 0; z < g.depth; z += every)
        for (int x = 0; x + 1 < g.width; ++x) {
            const float d = std::abs(g.at(x + 1, z) - g.at(x, z));
            ++pairs;
            if (d == 0) ++same;
            else rises.push_back(d);
        }
    Steps s;
    if (pairs) s.level = static_cast<double>(same) / static_cast<double>(pairs);
    if (!rises.empty()) {
        // The smallest difference but for a few per cent of odd ones.
        const auto at = rises.begin() + static_cast<long>(rises.size() / 50);
        std::nth_element(rises.begin(), at, rises.end());
        s.height = *at;
    }
    return s;
}

bool smoothAll(Raster<float>& ground, float sigma, const Context& context) {
    const Raster<float> before = ground;
    const float used = std::max(sigma, 0.4f);
    const int halo = boxReach(used);
    return inBands(ground.depth(), context, [&](int first, int end) {
        boxMean(windowOf(before, first, end, halo).view(), halo, used, ground.view().part(0, first, ground.width(), end - first));
    });
}

bool softenSteps(Raster<float>& ground, float step, const Context& context) {
    const Raster<float> before = ground;
    const int w = ground.width(), d = ground.depth();
    const float half = 0.5f * step;
    // Where the ground goes from one step to the next, its true height was half way between them. These heights are
    // known; what lies between is filled from them, from far to near, and then smoothed.
    Raster<float> known(w, d, 0.f), value(w, d, 0.f);
    const auto note = [&](int x, int z, float h) {
        known.at(x, z) += 1;
        value.at(x, z) += h;
    };
    const Context quiet{{}, context.cancel};  // parts too short to be told of
    if (!inBands(d, quiet, [&](int first, int end) {
            for (int z = first; z < end; ++z)
                for (int x = 0; x < w; ++x)
                    for (const auto& [nx, nz] : {std::pair{x + 1, z}, {x, z + 1}}) {
                        if (nx >= w || nz >= d) continue;
                        const float a = before.at(x, z), b = before.at(nx, nz), rise = std::abs(b - a);
                        if (rise < 0.25f * step || rise > 1.5f * step) continue;
                        note(x, z, 0.5f * (a + b));
                        note(nx, nz, 0.5f * (a + b));
                    }
        }))
        return false;
    const float fills[] = {48, 24, 12, 6, 3, 1.5f}, smooths[] = {5, 3, 3, 2, 2, 2, 2, 1.5f, 1.5f, 1.5f, 1.5f, 1, 1};
    const int parts = 2 * static_cast<int>(std::size(fills)) + static_cast<int>(std::size(smooths));
    int part = 0;
    const auto next = [&] {
        ++part;
        return partOf(context, (part - 1.0) / parts, static_cast<double>(part) / parts);
    };
    const auto near = [&](int x, int z, float h) { return std::clamp(h, before.at(x, z) - half, before.at(x, z) + half); };
    const auto each = [&](auto f) {
        return inBands(d, quiet, [&](int first, int end) {
            for (int z = first; z < end; ++z)
                for (int x = 0; x < w; ++x) ground.at(x, z) = near(x, z, f(x, z));
        });
    };
    for (const float sigma : fills) {
        Raster<float> weight = known, sum = value;
        if (!smoothAll(weight, sigma, next()) || !smoothAll(sum, sigma, next())) return false;
        // Near a known height the narrow mean is sure; far from all the wide one has to do.
        if (!each([&](int x, int z) {
                const float k = weight.at(x, z), h = ground.at(x, z);
                return k <= 1e-6f ? h : h + std::min(k * sigma * 4, 1.f) * (sum.at(x, z) / k - h);
            }))
            return false;
    }
    for (const float sigma : smooths) {
        if (!smoothAll(ground, sigma, next())) return false;
        // The known heights hold the shape while the ground between them is smoothed, but for the last touch.
        const bool last = part == parts;
        if (!each([&](int x, int z) { return !last && known.at(x, z) > 0 ? value.at(x, z) / known.at(x, z) : ground.at(x, z); })) return false;
    }
    return true;
}

bool removeSpikes(Raster<float>& ground, float spike, const Context& context) {
    const Raster<float> before = ground;
    return inBands(ground.depth(), context, [&](int first, int end) {
        const Raster<float> w = windowOf(before, first, end, 1);
        parallelFor(end - first, 16, [&](int a, int b) {
            for (int z = a; z < b; ++z)
                for (int x = 0; x < ground.width(); ++x) {
                    float near[8] = {w.at(x, z), w.at(x + 1, z), w.at(x + 2, z), w.at(x, z + 1), w.at(x + 2, z + 1), w.at(x, z + 2), w.at(x + 1, z + 2), w.at(x + 2, z + 2)};
                    std::sort(near, near + 8);
                    const float median = 0.5f * (near[3] + near[4]), h = w.at(x + 1, z + 1);
                    if (std::abs(h - median) > spike) ground.at(x, first + z) = median;
                }
        });
    });
}

}  // namespace jam
