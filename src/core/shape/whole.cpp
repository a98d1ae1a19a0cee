#include "shape/whole.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "base/names.h"
#include "base/text.h"
#include "level/ground.h"
#include "level/strata.h"
#include "shape/bands.h"
#include "shape/crumble.h"
#include "shape/rain_wash.h"
#include "shape/steps.h"

namespace jam {

namespace {

constexpr std::array<std::string_view, kWholeKinds> kNames = {
    "raise", "scale", "smooth", "noise", "crumble", "rain-wash", "soften-steps", "remove-spikes", "generate"};
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
                for (int x = 0; x < ground.width(); ++x)
                    low = std::min(low, ground.at(x, z)), high = std::max(high, ground.at(x, z));
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

}  // namespace jam
