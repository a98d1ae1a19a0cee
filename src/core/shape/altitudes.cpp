#include "shape/altitudes.h"

#include <algorithm>
#include <cmath>

#include "base/range.h"
#include "level/ground.h"
#include "level/hold_outside.h"

namespace jam {

namespace {

// What an item gives to the height h below it is (1 - opacity * owned) * h + opacity * heights. With every height
// mapped that is so again when heights become scale * heights + lift * owned.
void moveStratum(Stratum& s, const Altitudes& map) {
    const bool owns = s.mixes() && map.lift != 0;
    if (map.scale == 1 && !owns) return;
    TiledGrid<float>& grid = s.heights;
    for (int tz = 0; tz < grid.tilesDown(); ++tz)
        for (int tx = 0; tx < grid.tilesAcross(); ++tx) {
            const float* owned = owns ? s.owned.tile(tx, tz) : nullptr;
            if (!grid.tile(tx, tz) && !owned) continue;
            float* h = grid.writableTile(tx, tz);
            for (int i = 0; i < TiledGrid<float>::kTile * TiledGrid<float>::kTile; ++i)
                h[i] = static_cast<float>(map.scale * h[i] + (owned ? map.lift * owned[i] : 0));
        }
    grid.dropDefaultTiles();
}

// Heights of a course and what it measures from the ground.
void moveCourse(Course& c, const Altitudes& map) {
    for (Post& p : c.posts)
        if (p.height)
            *p.height = static_cast<float>(c.use == CourseUse::bank ? map.scale * *p.height : map.of(*p.height));
    c.sunk = static_cast<float>(std::min<double>(map.scale * c.sunk, kMaxSunk));
}

// Altitudes that a rule asks for. Those beyond what any level has say "and all beyond", and go on doing so.
void moveRule(Rule& r, const Altitudes& map) {
    const auto moved = [&](float h) {
        return std::abs(h) >= kFarHeight ? h
                                         : static_cast<float>(std::clamp<double>(map.of(h), -kFarHeight, kFarHeight));
    };
    if (r.kind == RuleKind::low) r.level = moved(r.level);
    if (r.kind != RuleKind::altitude) return;
    r.from = moved(r.from), r.to = moved(r.to);
    r.fade = static_cast<float>(std::min<double>(map.scale * r.fade, 2 * kFarHeight));
}

}  // namespace

Result<Level> moveAltitudes(const Level& level, const Altitudes& map, const Context& context) {
    const double low = map.of(level.lowest), high = map.of(level.highest);
    for (const Status& s : {checkRange("lowest ground", low, -kFarHeight, kFarHeight, " m"),
                            checkRange("highest ground", high, -kFarHeight, kFarHeight, " m")})
        if (!s) return s.error();
    if (high - low < kLeastHeightRange)
        return Error{"", "height range", "it would be less than 1 m", "scale it less, or the ground alone"};
    Level out = level;
    out.lowest = static_cast<float>(low), out.highest = static_cast<float>(high);
    out.startHeight = std::clamp(static_cast<float>(map.of(level.startHeight)), out.lowest, out.highest);
    for (size_t i = 0; i < out.strata.size(); ++i) {
        if (context.cancelled()) return cancelledError();
        Stratum& s = out.strata[i];
        moveStratum(s, map);
        if (s.course) moveCourse(*s.course, map);
        context.report(static_cast<double>(i + 1) / static_cast<double>(out.strata.size()));
    }
    for (Pool& p : out.pools) p.height = std::clamp(static_cast<float>(map.of(p.height)), out.lowest, out.highest);
    for (Layer& l : out.layers)
        for (Rule& r : l.rules) moveRule(r, map);
    for (const Stratum& s : out.strata)
        for (size_t i = 0; s.course && i < s.course->posts.size(); ++i)
            if (const Status fine = checkRange("“" + s.name + "”, height of post " + std::to_string(i + 1),
                                               s.course->posts[i].height.value_or(0), -kFarHeight, kFarHeight, " m");
                !fine)
                return fine.error();
    return out;
}

void moveInsideFence(Level& level, const Altitudes& map) {
    const auto moved = [&](float h, double x, double z) {
        const auto [c, r] = nearestSample(level, x, z);
        const double to = h + (map.of(h) - h) * fenceShare(level, c, r);
        return std::clamp(static_cast<float>(to), level.lowest, level.highest);
    };
    for (Stratum& s : level.strata)
        if (s.course && s.course->use != CourseUse::bank && !s.locked)
            for (Post& p : s.course->posts)
                if (p.height && level.holds(p.x, p.z)) *p.height = moved(*p.height, p.x, p.z);
    for (Pool& p : level.pools) p.height = moved(p.height, p.x, p.z);
}

}  // namespace jam
