#include "level/strata.h"

#include <algorithm>

#include "base/names.h"
#include "level/changes.h"
#include "level/ground.h"
#include "level/things.h"

namespace jam {

namespace {

std::string quoted(const Stratum& s) { return "“" + s.name + "”"; }

Status checkFree(const Stratum& s) {
    if (s.locked) return Error{"", "", quoted(s) + " is protected", "let it go in the sheet to change it"};
    return {};
}
// What ran along a course goes with it.
void dropStreams(Level& level, uint32_t course) {
    std::erase_if(level.streams, [course](const Stream& s) { return s.course == course; });
}

Status checkShown(const Stratum& s) {
    if (!s.visible || s.opacity == 0)
        return Error{"", "", quoted(s) + " does not show, so merging would lose it", "show it first, or delete it"};
    return {};
}

}  // namespace

uint32_t addStratum(Level& level, const std::string& name, int place) {
    assert(level.strata.size() < kMaxStrata);
    Stratum s;
    s.id = level.nextId++;
    s.name = name;
    s.heights = TiledGrid<float>(level.columns, level.rows, 0.f);
    const uint32_t id = s.id;
    level.strata.insert(level.strata.begin() + place + 1, std::move(s));
    return id;
}

Status moveStratum(Level& level, uint32_t id, int to) {
    const int from = level.stratumIndex(id);
    if (from < 0) return goneError(ThingKind::stratum);
    auto& list = level.strata;
    to = std::clamp(to, 0, static_cast<int>(list.size()) - 1);
    if (from < to) std::rotate(list.begin() + from, list.begin() + from + 1, list.begin() + to + 1);
    else std::rotate(list.begin() + to, list.begin() + from, list.begin() + from + 1);
    return {};
}

Result<uint32_t> duplicateStratum(Level& level, uint32_t original) {
    const int place = level.stratumIndex(original);
    if (place < 0) return goneError(ThingKind::stratum);
    if (level.strata.size() >= kMaxStrata)
        return Error{"", "strata", "a level has at most " + std::to_string(kMaxStrata), "merge some first"};
    Stratum copy = level.strata[static_cast<size_t>(place)];
    if (copy.course && copy.course->footprint)
        return Error{"", "", quoted(copy) + " is what its kind makes of the ground", "double the kind, at Dress"};
    copy.id = level.nextId++;
    copy.name = shortened(copy.name, kMostName - 5) + " copy";
    copy.visible = false;
    copy.locked = false;
    const uint32_t id = copy.id;
    level.strata.insert(level.strata.begin() + place + 1, std::move(copy));
    return id;
}

Status removeStratum(Level& level, uint32_t id) {
    const int place = level.stratumIndex(id);
    if (place < 0) return goneError(ThingKind::stratum);
    const Stratum& gone = level.strata[static_cast<size_t>(place)];
    if (const Status s = checkFree(gone); !s) return s;
    const auto plain = std::count_if(level.strata.begin(), level.strata.end(),
                                     [](const Stratum& s) { return !s.mixes(); });
    if (!gone.mixes() && plain == 1)
        return Error{"", "", quoted(gone) + " is the only stratum", "add another one before it is deleted"};
    const bool active = gone.id == level.activeStratum;
    dropStreams(level, id);
    level.strata.erase(level.strata.begin() + place);
    if (!active) return {};
    // Brushes go on in the nearest below that is a stratum, or else in the lowest.
    level.activeStratum = 0;
    for (size_t i = 0; i < level.strata.size(); ++i) {
        const Stratum& s = level.strata[i];
        if (!s.mixes() && (level.activeStratum == 0 || static_cast<int>(i) < place)) level.activeStratum = s.id;
    }
    return {};
}

Status mergeStratumDown(Level& level, uint32_t id) {
    const int place = level.stratumIndex(id);
    if (place < 0) return goneError(ThingKind::stratum);
    if (place == 0)
        return Error{"", "", quoted(level.strata[0]) + " lies at the bottom", "move it over the one it is to go into"};
    const Stratum& upper = level.strata[static_cast<size_t>(place)];
    Stratum& lower = level.strata[static_cast<size_t>(place) - 1];
    for (const Status& s : {checkFree(upper), checkFree(lower), checkShown(upper), checkShown(lower)})
        if (!s) return s;
    if (lower.border)
        return Error{"", "", quoted(lower) + " fits a border, which would no longer be met",
                     "merge it down first, or move it"};
    if (lower.course)
        return Error{"", "", quoted(lower) + " is a course, and what is merged into it would end its posts",
                     "merge it down first, or move it"};
    TiledGrid<float> merged(level.columns, level.rows, 0.f);
    Raster<float> below, with;
    for (int tz = 0; tz < merged.tilesDown(); ++tz)
        for (int tx = 0; tx < merged.tilesAcross(); ++tx) {
            const float *a = lower.heights.tile(tx, tz), *b = upper.heights.tile(tx, tz);
            if (!a && !b && !(upper.mixes() && upper.owned.tile(tx, tz))) continue;
            const Region tile = merged.tileRegion(tx, tz);
            with.reshape(tile.width(), tile.depth());
            if (upper.mixes()) {
                below.reshape(tile.width(), tile.depth());
                readGroundBelow(level, static_cast<size_t>(place) - 1, tile, below.view());
                readGroundBelow(level, static_cast<size_t>(place) + 1, tile, with.view());
            }
            for (int z = 0; z < tile.depth(); ++z)
                for (int x = 0; x < tile.width(); ++x) {
                    const size_t at = static_cast<size_t>(z) * TiledGrid<float>::kTile + static_cast<size_t>(x);
                    float& m = with.at(x, z);
                    if (upper.mixes()) m -= below.at(x, z);
                    else m = (a ? lower.opacity * a[at] : 0) + (b ? upper.opacity * b[at] : 0);
                }
            merged.write(tile, with.view());
        }
    lower.heights = std::move(merged);
    lower.opacity = 1;
    if (level.activeStratum == upper.id) level.activeStratum = lower.id;
    dropStreams(level, id);
    level.strata.erase(level.strata.begin() + place);
    return {};
}

Result<Level> moveShaping(const Level& now, const Level& before, uint32_t target) {
    assert(sameRaster(now, before));
    Level next = now;
    next.activeStratum = target;
    if (const Status s = checkShapeable(next); !s) return s.error();
    TileSet moved;
    for (Stratum& s : next.strata) {
        const Stratum* was = before.stratum(s.id);
        if (!was || s.id == target || s.mixes() || s.locked) continue;
        s.heights.eachChangedTile(was->heights, [&](int tx, int tz) { moved.add(s.heights.tileRegion(tx, tz)); });
        s.heights = was->heights;
    }
    if (moved.empty())
        return Error{"", "", "The last step shaped no other stratum", "choose the one that is to have it instead"};
    Raster<float> from, to;
    moved.each([&](int, int, const Region& tile) {
        from.reshape(tile.width(), tile.depth());
        to.reshape(tile.width(), tile.depth());
        readGround(next, tile, from.view());
        readGround(now, tile, to.view());
        writeGround(next, tile, from.view(), to.view());
    });
    return next;
}

}  // namespace jam
