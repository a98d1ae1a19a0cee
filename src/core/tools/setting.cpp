#include "tools/setting.h"

#include <cmath>
#include <limits>

#include "base/maths.h"
#include "level/kind.h"

namespace jam {

namespace {

constexpr double kUnset = std::numeric_limits<double>::quiet_NaN();
// The shortest decimals of a float: 0.3f is kept as 0.3 and not as 0.30000001.
double plain(float v) { return v; }

// Reading and writing of plain numbers, flags, enumerators and ids.
template <auto member>
double get(const StrokeSettings& s) {
    return static_cast<double>(s.*member);
}
template <auto member>
void set(StrokeSettings& s, double v) {
    using T = std::remove_cvref_t<decltype(s.*member)>;
    if constexpr (std::is_enum_v<T>) s.*member = static_cast<T>(static_cast<int>(v));
    else if constexpr (std::is_same_v<T, bool>) s.*member = v != 0;
    else s.*member = static_cast<T>(v);
}
// The same of a part of the settings: part<&StrokeSettings::tip, &Tip::turn>.
template <auto part, auto member>
double getIn(const StrokeSettings& s) {
    return static_cast<double>((s.*part).*member);
}
template <auto part, auto member>
void setIn(StrokeSettings& s, double v) {
    using T = std::remove_cvref_t<decltype((s.*part).*member)>;
    if constexpr (std::is_same_v<T, bool>) (s.*part).*member = v != 0;
    else (s.*part).*member = static_cast<T>(v);
}
// Numbers that may be missing.
template <auto part, auto member>
double maybeIn(const StrokeSettings& s) {
    return (s.*part).*member ? plain(*((s.*part).*member)) : kUnset;
}
template <auto part, auto member>
void setMaybeIn(StrokeSettings& s, double v) {
    (s.*part).*member = std::isnan(v) ? std::nullopt : std::optional<float>(static_cast<float>(v));
}

constexpr Choice kEarthworks[] = {{"both", "Fill and cut"}, {"fill", "Only fill"}, {"cut", "Only cut"}};
constexpr Choice kSigns[] = {{"both", "Up and down"}, {"up", "Only up"}, {"down", "Only down"}};
constexpr Choice kBreaks[] = {
    {"noise", "By noise"}, {"tip", "By the picture tip"}, {"height", "By the layer's own height"}};
// What a layer setting says while none is named.
constexpr Choice kAnyLayer[] = {{"", "On any layer"}};
constexpr Choice kWhatever[] = {{"", "Whatever lies there"}};
constexpr Choice kAnyKind[] = {{"", "In place of every other kind"}};
constexpr Choice kNoRoom[] = {{"", "Choose what makes room"}};
constexpr Choice kRestores[] = {{"start", "The start height"}, {"reference", "Another state of the level"}};

bool byNoise(const StrokeSettings& s) { return s.tool != Tool::breakUp || s.breakBy == BreakBy::noise; }

// --- of every tool ------------------------------------------------------------------------------------------------

using S = StrokeSettings;
const Setting kRadius{.name = "radius",
                      .title = "Radius",
                      .tip = "From the middle of the brush to its edge.",
                      .unit = "m",
                      .low = kMinRadius,
                      .high = kMaxRadius,
                      .decimals = 1,
                      .logarithmic = true,
                      .get = get<&S::radius>,
                      .set = set<&S::radius>};
const Setting kSoftness{.name = "softness",
                        .title = "Soft edge",
                        .tip = "The share of the radius over which the brush fades.",
                        .unit = "%",
                        .low = 0,
                        .high = 1,
                        .shown = 100,
                        .get = getIn<&S::falloff, &Falloff::softness>,
                        .set = setIn<&S::falloff, &Falloff::softness>};
const Setting kSpacing{.name = "spacing",
                       .title = "Spacing",
                       .tip = "From one stamp to the next, as a share of the radius.",
                       .unit = "%",
                       .low = kMinSpacing,
                       .high = kMaxSpacing,
                       .shown = 100,
                       .logarithmic = true,
                       .get = get<&S::spacing>,
                       .set = set<&S::spacing>};
const Setting kFlow{.name = "flow",
                    .kind = Setting::Kind::flag,
                    .title = "Flow while holding still",
                    .tip = "Without it one click is one clean stamp, its strength in metres.",
                    .get = get<&S::flow>,
                    .set = set<&S::flow>};
const Setting kTipTurn{.name = "turn",
                       .group = "tip",
                       .title = "Turn",
                       .tip = "Clockwise, seen from above.",
                       .unit = "°",
                       .low = -360,
                       .high = 360,
                       .reach = 180,
                       .get = getIn<&S::tip, &Tip::turn>,
                       .set = setIn<&S::tip, &Tip::turn>};
const Setting kRandomTurn{.name = "randomTurn",
                          .kind = Setting::Kind::flag,
                          .group = "tip",
                          .title = "Another way each time",
                          .tip = "Each stamp is turned by chance.",
                          .get = getIn<&S::tip, &Tip::randomTurn>,
                          .set = setIn<&S::tip, &Tip::randomTurn>};
const Setting kFollow{.name = "follow",
                      .kind = Setting::Kind::flag,
                      .group = "tip",
                      .title = "Follow the stroke",
                      .tip = "The tip is turned the way the stroke runs.",
                      .get = getIn<&S::tip, &Tip::follow>,
                      .set = setIn<&S::tip, &Tip::follow>};
const Setting kScatter{.name = "scatter",
                       .group = "tip",
                       .title = "Scatter",
                       .tip = "How far beside the path stamps may fall, as a share of the radius.",
                       .unit = "%",
                       .low = 0,
                       .high = 2,
                       .shown = 100,
                       .get = getIn<&S::tip, &Tip::scatter>,
                       .set = setIn<&S::tip, &Tip::scatter>};
const Setting kPenStrength{.name = "strength",
                           .kind = Setting::Kind::flag,
                           .group = "pressure",
                           .title = "Changes the strength",
                           .tip = "How hard the pen presses changes the strength.",
                           .get = getIn<&S::pressure, &Pressure::strength>,
                           .set = setIn<&S::pressure, &Pressure::strength>};
const Setting kPenRadius{.name = "radius",
                         .kind = Setting::Kind::flag,
                         .group = "pressure",
                         .title = "Changes the radius",
                         .tip = "How hard the pen presses changes the radius.",
                         .get = getIn<&S::pressure, &Pressure::radius>,
                         .set = setIn<&S::pressure, &Pressure::radius>};
const Setting kPenCurve{.name = "curve",
                        .group = "pressure",
                        .title = "Curve",
                        .tip = "Below 1 a light touch does more, above 1 less.",
                        .low = 0.25,
                        .high = 4,
                        .decimals = 2,
                        .logarithmic = true,
                        .get = getIn<&S::pressure, &Pressure::curve>,
                        .set = setIn<&S::pressure, &Pressure::curve>};

constexpr double kFar = kFarHeight;
Setting limit(std::string_view name, const char* title, const char* tip, double (*get)(const S&),
              void (*set)(S&, double)) {
    return {.name = name,
            .kind = Setting::Kind::maybe,
            .title = title,
            .tip = tip,
            .unit = "m",
            .low = -kFar,
            .high = kFar,
            .decimals = 2,
            .get = get,
            .set = set};
}
Setting steepness(std::string_view name, const char* title, const char* tip, double (*get)(const S&),
                  void (*set)(S&, double)) {
    return {.name = name,
            .kind = Setting::Kind::maybe,
            .title = title,
            .tip = tip,
            .unit = "°",
            .low = 0,
            .high = 90,
            .decimals = 1,
            .get = get,
            .set = set,
            .first = 30};
}
const Setting kFloor = limit("floor", "Never below", "The brush does not push the ground lower.",
                             maybeIn<&S::limits, &HeightLimits::floor>, setMaybeIn<&S::limits, &HeightLimits::floor>);
const Setting kCeiling = limit("ceiling", "Never above", "The brush does not push the ground higher.",
                               maybeIn<&S::limits, &HeightLimits::ceiling>,
                               setMaybeIn<&S::limits, &HeightLimits::ceiling>);
const Setting kSlopeFrom = steepness("slopeFrom", "Steeper than", "Paint falls only on steeper ground.",
                                     maybeIn<&S::where, &PaintWhere::slopeFrom>,
                                     setMaybeIn<&S::where, &PaintWhere::slopeFrom>);
const Setting kSlopeTo = steepness("slopeTo", "Flatter than", "Paint falls only on flatter ground.",
                                   maybeIn<&S::where, &PaintWhere::slopeTo>,
                                   setMaybeIn<&S::where, &PaintWhere::slopeTo>);
const Setting kAltitudeFrom = limit("altitudeFrom", "Higher than", "Paint falls only on higher ground.",
                                    maybeIn<&S::where, &PaintWhere::altitudeFrom>,
                                    setMaybeIn<&S::where, &PaintWhere::altitudeFrom>);
const Setting kAltitudeTo = limit("altitudeTo", "Lower than", "Paint falls only on lower ground.",
                                  maybeIn<&S::where, &PaintWhere::altitudeTo>,
                                  setMaybeIn<&S::where, &PaintWhere::altitudeTo>);
const Setting kOnLayer{.name = "onLayer",
                       .kind = Setting::Kind::layer,
                       .title = "Only on",
                       .tip = "Paint falls only where this layer shows.",
                       .choices = kAnyLayer,
                       .get = getIn<&S::where, &PaintWhere::onLayer>,
                       .set = setIn<&S::where, &PaintWhere::onLayer>};
const Setting kOffLayer{.name = "offLayer",
                        .kind = Setting::Kind::layer,
                        .title = "Not on",
                        .tip = "Paint does not fall where this layer shows.",
                        .choices = kWhatever,
                        .get = getIn<&S::where, &PaintWhere::offLayer>,
                        .set = setIn<&S::where, &PaintWhere::offLayer>};

}  // namespace

// --- of single tools ----------------------------------------------------------------------------------------------

namespace settings {

const Setting rate{.name = "strength",
                   .title = "Strength",
                   .tip = "Metres a second at the middle of the brush; metres a stamp when it does not flow.",
                   .unit = "m/s",
                   .low = kMinRate,
                   .high = kMaxRate,
                   .decimals = 2,
                   .logarithmic = true,
                   .get = get<&S::strength>,
                   .set = set<&S::strength>};
const Setting share{.name = "strength",
                    .title = "Strength",
                    .tip = "The share of its way that one stamp goes.",
                    .unit = "%",
                    .low = kMinShare,
                    .high = 1,
                    .shown = 100,
                    .decimals = 1,
                    .logarithmic = true,
                    .get = get<&S::strength>,
                    .set = set<&S::strength>};
const Setting smoothing{.name = "grain",
                        .title = "Evens out",
                        .tip = "How wide the bumps are that go away, as a share of the radius.",
                        .unit = "%",
                        .low = 0,
                        .high = 0.5,
                        .shown = 100,
                        .get = get<&S::smoothing>,
                        .set = set<&S::smoothing>};
const Setting remains{.name = "keep",
                      .title = "Keeps",
                      .tip = "How much of the relief one stroke leaves, however often it passes.",
                      .unit = "%",
                      .low = 0,
                      .high = 0.95,
                      .shown = 100,
                      .get = get<&S::remains>,
                      .set = set<&S::remains>};
const Setting earthwork{.name = "way",
                        .kind = Setting::Kind::choice,
                        .title = "Earthwork",
                        .tip = "Whether ground is added, taken away, or both.",
                        .choices = kEarthworks,
                        .get = get<&S::earthwork>,
                        .set = set<&S::earthwork>};
const Setting height{
    .name = "height",
    .kind = Setting::Kind::maybe,
    .title = "To a set height",
    .tip = "Otherwise the height under the first touch counts.",
    .unit = "m",
    .low = -kFar,
    .high = kFar,
    .decimals = 2,
    .get = [](const S& s) { return s.height ? plain(*s.height) : kUnset; },
    .set = [](S& s,
              double v) { s.height = std::isnan(v) ? std::nullopt : std::optional<float>(static_cast<float>(v)); }};
const Setting step{.name = "step",
                   .title = "Step",
                   .tip = "The height from one tread to the next.",
                   .unit = "m",
                   .low = kMinStep,
                   .high = kMaxStep,
                   .decimals = 2,
                   .logarithmic = true,
                   .get = get<&S::step>,
                   .set = set<&S::step>};
const Setting riser{.name = "riser",
                    .title = "Soft riser",
                    .tip = "How much of each step rises: nothing is a wall, all is a soft wave.",
                    .unit = "%",
                    .low = 0,
                    .high = 1,
                    .shown = 100,
                    .get = get<&S::riser>,
                    .set = set<&S::riser>};
const Setting angle{.name = "angle",
                    .title = "Angle",
                    .tip = "The steepest that the ground stays.",
                    .unit = "°",
                    .low = kMinAngle,
                    .high = kMaxAngle,
                    .decimals = 1,
                    .get = get<&S::angle>,
                    .set = set<&S::angle>};
const Setting scale{.name = "scale",
                    .title = "Bumps",
                    .tip = "How wide the largest bumps are.",
                    .unit = "m",
                    .low = kMinBumps,
                    .high = kMaxBumps,
                    .decimals = 1,
                    .logarithmic = true,
                    .reach = 500,
                    .get = get<&S::scale>,
                    .set = set<&S::scale>,
                    .applies = byNoise};
const Setting amplitude{.name = "relief",
                        .title = "Height",
                        .tip = "How far the ground rises or falls at most. Passing again does not add to it.",
                        .unit = "m",
                        .low = kMinRate,
                        .high = kMaxRate,
                        .decimals = 2,
                        .logarithmic = true,
                        .get = get<&S::amplitude>,
                        .set = set<&S::amplitude>};
const Setting octaves{.name = "octaves",
                      .title = "Detail",
                      .tip = "How many times finer bumps ride on the larger ones.",
                      .unit = "octaves",
                      .low = 1,
                      .high = kMaxOctaves,
                      .whole = true,
                      .get = get<&S::octaves>,
                      .set = set<&S::octaves>};
const Setting noiseSign{.name = "noise",
                        .kind = Setting::Kind::choice,
                        .title = "Direction",
                        .tip = "Whether the ground rises, falls, or both.",
                        .choices = kSigns,
                        .get = get<&S::noise>,
                        .set = set<&S::noise>};
const Setting seed{.name = "seed",
                   .title = "Seed",
                   .tip = "Another number gives another pattern.",
                   .low = 0,
                   .high = 2000000000,
                   .whole = true,
                   .reach = 100000,
                   .get = get<&S::seed>,
                   .set = set<&S::seed>,
                   .applies = byNoise};
const Setting breakBy{.name = "breakBy",
                      .kind = Setting::Kind::choice,
                      .title = "Break up",
                      .tip = "What makes the edges irregular.",
                      .choices = kBreaks,
                      .get = get<&S::breakBy>,
                      .set = set<&S::breakBy>};
const Setting restore{.name = "restore",
                      .kind = Setting::Kind::choice,
                      .title = "Restore",
                      .tip = "What the brush brings back.",
                      .choices = kRestores,
                      .get = get<&S::restore>,
                      .set = set<&S::restore>};
const Setting from{.name = "from",
                   .kind = Setting::Kind::layer,
                   .title = "In place of",
                   .tip = "The layer that makes room for the chosen one.",
                   .choices = kNoRoom,
                   .get = get<&S::from>,
                   .set = set<&S::from>};
const Setting colour{
    .name = "colour", .kind = Setting::Kind::colour, .title = "Colour", .tip = "The colour that is washed on."};
const Setting target{.name = "target",
                     .title = "Coverage",
                     .tip = "How much of the ground the layer comes to show where the brush is strongest.",
                     .unit = "%",
                     .low = kMinShare,
                     .high = 1,
                     .shown = 100,
                     .get = get<&S::target>,
                     .set = set<&S::target>};
const Setting onHundred{.name = "onHundred",
                        .title = "On 100 m²",
                        .tip = "How many come to stand on 100 square metres where the brush is strongest.",
                        .low = 0.1,
                        .high = 1000,
                        .decimals = 1,
                        .logarithmic = true,
                        .get = get<&S::onHundred>,
                        .set = set<&S::onHundred>};
const Setting times{.name = "times",
                    .title = "Times as large",
                    .tip = "How much larger they become, or smaller below 1, where the brush is strongest.",
                    .unit = "×",
                    .low = 1 / kMostResized,
                    .high = kMostResized,
                    .decimals = 2,
                    .logarithmic = true,
                    .get = get<&S::times>,
                    .set = set<&S::times>};
const Setting ofKind{.name = "ofKind",
                     .kind = Setting::Kind::kind,
                     .title = "In place of",
                     .tip = "The kind that is turned into the chosen one.",
                     .choices = kAnyKind,
                     .get = get<&S::ofKind>,
                     .set = set<&S::ofKind>};
const Setting everyKind{.name = "everyKind",
                        .kind = Setting::Kind::flag,
                        .title = "Every kind",
                        .tip = "Clears away whatever stands there, and not the chosen kind alone.",
                        .get = get<&S::everyKind>,
                        .set = set<&S::everyKind>};

}  // namespace settings

std::span<const Setting* const> commonSettings() {
    static const Setting* const all[] = {&kRadius,       &kSoftness,   &kSpacing, &kFlow,        &kTipTurn,
                                         &kRandomTurn,   &kFollow,     &kScatter, &kPenStrength, &kPenRadius,
                                         &kPenCurve,     &kFloor,      &kCeiling, &kSlopeFrom,   &kSlopeTo,
                                         &kAltitudeFrom, &kAltitudeTo, &kOnLayer, &kOffLayer};
    return all;
}

std::span<const Setting* const> ownSettings() {
    using namespace settings;
    static const Setting* const all[] = {&smoothing, &remains,   &earthwork, &height,    &step,      &riser,   &angle,
                                         &scale,     &amplitude, &octaves,   &noiseSign, &seed,      &breakBy, &restore,
                                         &from,      &colour,    &target,    &onHundred, &everyKind, &times,   &ofKind};
    return all;
}

}  // namespace jam
