// Setting a clip down on a level.
#pragma once

#include <array>
#include <string>
#include <string_view>
#include <vector>

#include "base/context.h"
#include "fence/fence.h"

namespace jam {

// Where and how a clip lies. It is mirrored first, then scaled, then turned, about its middle.
struct Placement {
    double x = 0, z = 0;     // metres: where its middle comes to lie
    double turn = 0;         // degrees clockwise seen from above, [-360, 360]
    double scale = 1;        // along the ground, [kMinClipScale, kMaxClipScale]
    double heightScale = 1;  // of its heights above its foot (clipFoot), [-kMaxClipScale, kMaxClipScale]
    double raise = 0;        // metres, [-kFarHeight, kFarHeight]
    bool mirror = false;     // west and east change sides

    bool operator==(const Placement&) const = default;
};
constexpr double kMinClipScale = 0.05, kMaxClipScale = 20;

enum class ClipJoin {
    replace,  // its altitudes
    add,      // its heights above its foot, on the ground there is
    higher,   // its altitudes where they are higher
    lower     // and where they are lower
};
constexpr int kClipJoins = 4;
std::string_view clipJoinName(ClipJoin join);  // "replace", "add", "higher", "lower"
std::optional<ClipJoin> clipJoinFromName(std::string_view name);

struct SetDownWish {
    ClipJoin join = ClipJoin::replace;
    double feather = 0;  // metres from its edge inwards over which it fades in, [0, 1000]
    bool heights = true, cover = true, wash = true, gaps = true, plantings = true;  // what of it is set down
    bool sit = false;     // each raised or lowered so that its rim lies on the ground in the mean, before `raise`
    std::string stratum;  // when it has a name, the heights become a stratum of their own, which brushes go to then
};

// Sets a clip down in each of the places, one after the other. A clip whose samples can fall on the level's (same
// spacing and scale 1 or what comes to that, turned by quarters) is moved by up to half a sample so that they do, and
// they come through to the bit; otherwise heights are bicubic and all else bilinear, and a clip finer than the level is
// averaged first. Its pools come along where its altitudes replace the ground's. It keeps to the fence. Layers and
// kinds are those of the same name (clip/fit_layers.h); living rules leave alone what it laid. Protected and hidden
// ones stay. What stands comes as densely as it stood, and what was put down by hand where it was; both in place of
// what stands there. Errors: a number out of range, a clip larger than the level or wholly beside it, ground that would
// leave the level's range, a stratum that cannot be shaped, too many layers or strata, or cancelled.
Result<Level> setDown(const Level& level, const Level& clip, const std::vector<Placement>& places,
                      const SetDownWish& wish, const Context& context = {});

// The corners of a placed clip on the map: those that were its north-west, north-east, south-east and south-west.
std::array<MapPlace, 4> cornersOf(const Level& clip, const Placement& place);
// By how much the clip has to be raised so that its rim lies on the ground in the mean.
double raiseToSit(const Level& level, const Level& clip, const Placement& place);

// The line of the course at `place` in the level's strata, on the map.
std::vector<MapPlace> courseLine(const Level& level, size_t place);
// Places along a line, `spacing` metres apart, from its beginning; each turned so that the clip's east looks along,
// beyond `like.turn`. Errors: a line without length, a spacing that is none, or more than kMostPlaces places.
Result<std::vector<Placement>> placesAlong(const std::vector<MapPlace>& line, double spacing, const Placement& like);
constexpr size_t kMostPlaces = 2000;

}  // namespace jam
