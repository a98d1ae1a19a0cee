// Work on the whole ground at once, or on all of it that lies inside the fence: made for a worker, with progress and
// cancel.
#pragma once

#include <string>
#include <string_view>

#include "base/context.h"
#include "shape/generate.h"
#include "shape/noise_ground.h"
#include "shape/steps.h"

namespace jam {

enum class WholeKind { raise, scale, smooth, noise, crumble, rainWash, softenSteps, removeSpikes, generate, flatten };
constexpr int kWholeKinds = 10;

std::string_view wholeName(WholeKind kind);  // "raise", "scale", ..., as on the command line
std::optional<WholeKind> wholeFromName(std::string_view name);

// What ground is flattened to: a height, the mean inside the fence, or the plane that comes nearest to its rim.
enum class FlattenTo { height, mean, rim };

// How generated ground meets the present one.
enum class Meeting { replace, add, highest, lowest };
constexpr int kMeetings = 4;
std::string_view meetingName(Meeting meeting);
std::optional<Meeting> meetingFromName(std::string_view name);

struct WholeWish {
    WholeKind kind = WholeKind::raise;
    // raise, scale: all that has an altitude goes along (shape/altitudes.h); otherwise the ground alone, which is also
    // so for a stratum of its own
    bool along = true;
    float metres = 10;          // raise: [-kFarHeight, kFarHeight]; negative lowers
    float low = 0, high = 100;  // scale: what the lowest and the highest ground become, metres; low < high
    float width = 8;            // smooth: standard deviation in metres, [0.05, 500]
    Roughness noise;            // noise
    float angle = 35;           // crumble: angle of rest in degrees, [1, 85]
    float years = 10;           // crumble, rain wash: [0.1, 1000]
    uint32_t seed = 1;          // rain wash
    float step = 1;             // soften steps: height of one step in metres, [0.0001, 100]
    float spike = 2;            // remove spikes: metres that a sample may stand out of its neighbours, [0.01, 1000]
    FlattenTo flattenTo = FlattenTo::mean;  // flatten
    float height = 0;                       // flatten to a height: metres
    LandscapeWish landscape;                // generate
    Meeting meeting = Meeting::replace;
    // When it has a name, the outcome becomes a stratum of its own over all others, which brushes go to then, so that
    // it can be turned down later.
    std::string stratum;
};

struct WholeOutcome {
    Level level;
    double clipped = 0;  // share of the samples that came to lie beyond the level's range and were held at its border
    float rise = 0, fall = 0;  // greatest change of height each way, metres, both >= 0
};

constexpr int kCrumblePassesPerYear = 6;

// Errors: a value out of its range, the stratum that brushes go to cannot be shaped, too many strata, an empty fence,
// or cancelled. `level` is never touched.
Result<WholeOutcome> reshapeWhole(const Level& level, const WholeWish& wish, const Context& context = {});

}  // namespace jam
