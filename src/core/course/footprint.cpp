#include "course/footprint.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "base/names.h"
#include "base/range.h"
#include "course/bake.h"
#include "grow/recipe.h"
#include "level/things.h"

namespace jam {

namespace {

const Footprint* footprintOf(const Stratum& s) {
    return s.course && s.course->footprint ? &*s.course->footprint : nullptr;
}

// How deep a place lies inside the opening of a single, in metres; less than 0 outside.
double insideHatch(const Footprint& f, const Single& s, double x, double z) {
    const double a = static_cast<double>(s.turn) * kRadians, size = s.size, dx = x - s.x, dz = z - s.z;
    // Across where it faces, and ahead: the front of a mesh is its +Z, as in glTF.
    const double across = dx * std::cos(a) + dz * std::sin(a), ahead = dz * std::cos(a) - dx * std::sin(a);
    return std::min(0.5 * f.hatchWide * size - std::abs(across),
                    0.5 * f.hatchLong * size - std::abs(ahead - static_cast<double>(f.hatchAhead) * size));
}

void cutHatch(const Level& level, const Footprint& f, const Single& s, Gaps& gaps) {
    const double reach = (std::hypot(f.hatchWide, f.hatchLong) / 2 + std::abs(static_cast<double>(f.hatchAhead))) *
                             static_cast<double>(s.size) +
                         level.spacing;
    const Region all = Region{static_cast<int>(std::floor(level.toColumn(s.x - reach))),
                              static_cast<int>(std::floor(level.toRow(s.z - reach))),
                              static_cast<int>(std::ceil(level.toColumn(s.x + reach))) + 1,
                              static_cast<int>(std::ceil(level.toRow(s.z + reach))) + 1}
                           .clipped(level.bounds());
    if (all.empty()) return;
    Raster<uint8_t> now(all.width(), all.depth());
    gaps.read(all, now.view());
    bool any = false;
    for (int r = all.z0; r < all.z1; ++r)
        for (int c = all.x0; c < all.x1; ++c) {
            const double deep = insideHatch(f, s, level.originX + c * level.spacing, level.originZ + r * level.spacing);
            // From nothing to all over one sample, half way at the rim, so that it is cut right there.
            const auto value =
                static_cast<uint8_t>(std::lround(std::clamp(127.5 + 255 * deep / level.spacing, 0.0, 255.0)));
            uint8_t& at = now.at(c - all.x0, r - all.z0);
            any |= value > at;
            at = std::max(at, value);
        }
    if (any) gaps.write(all, now.view());
}

Gaps hatchesOf(const Level& level) {
    Gaps all(level.columns, level.rows, 0);
    for (const Stratum& s : level.strata)
        if (const Footprint* f = footprintOf(s); f && s.visible && f->hasHatch())
            eachOnFootprint(level, *f, [&](const Single& one) { cutHatch(level, *f, one, all); });
    return all;
}

}  // namespace

int footprintPlace(const Level& level, uint32_t kind) {
    for (size_t i = 0; i < level.strata.size(); ++i)
        if (const Footprint* f = footprintOf(level.strata[i]); f && f->kind == kind) return static_cast<int>(i);
    return -1;
}

Status checkFootprint(const Footprint& footprint) {
    for (const FootprintNumber& n : kFootprintNumbers)
        if (const Status s = checkRange(std::string("footprint, ") + n.name, footprint.*n.value, n.low, n.high, " m");
            !s)
            return s;
    return {};
}

Status setFootprint(Level& level, uint32_t kind, const std::optional<Footprint>& footprint) {
    const Kind* k = level.kind(kind);
    if (!k) return goneError(ThingKind::kind);
    int place = footprintPlace(level, kind);
    if (!footprint) {
        if (place >= 0) level.strata.erase(level.strata.begin() + place);
        return {};
    }
    if (const Status fine = checkFootprint(*footprint); !fine) return fine;
    if (place < 0) {
        Course c;
        c.use = CourseUse::footprint;
        c.footprint = footprint;
        c.footprint->kind = kind;
        const Result<uint32_t> id = addCourseBelowOthers(level, shortened("Under: " + k->name), std::move(c));
        if (!id) return id.error();
        place = level.stratumIndex(id.value());
    }
    Footprint& f = *level.strata[static_cast<size_t>(place)].course->footprint;
    f = *footprint;
    f.kind = kind;
    return {};
}

Outlined outlineOfKind(const Kind& kind) {
    const auto meshes = meshesOf(kind);
    Outlined o{1e9, 1e9, -1e9, -1e9};
    for (const MeshVertex& v : meshes->variants.back()[static_cast<size_t>(Detail::near)].vertices) {
        const double x = v.at[0], z = v.at[2];
        o = {std::min(o.west, x), std::min(o.north, z), std::max(o.east, x), std::max(o.south, z)};
    }
    if (o.west > o.east) return {0, 0, 0, 0};
    return o;
}

void nameFootprints(const Level& level, Change& change) {
    for (const Stratum& s : level.strata) {
        const Footprint* f = footprintOf(s);
        if (!f || std::find(change.kinds.begin(), change.kinds.end(), f->kind) == change.kinds.end()) continue;
        if (std::find(change.strata.begin(), change.strata.end(), s.id) == change.strata.end())
            change.strata.push_back(s.id);
    }
}

long long hatchesWork(const Level& level, const Change& change) {
    if (change.strata.empty() && change.kinds.empty() && !change.raster) return 0;
    const bool wished = std::any_of(level.strata.begin(), level.strata.end(), [](const Stratum& s) {
        const Footprint* f = footprintOf(s);
        return f && f->hasHatch();
    });
    // Those of one that is gone go.
    return wished || level.hatches.presentTiles() > 0 ? 1 : 0;
}

TileSet refreshHatches(Level& level, const Change& change) {
    TileSet made;
    if (hatchesWork(level, change) == 0) return made;
    Gaps next = hatchesOf(level);
    if (next.columns() == level.hatches.columns() && next.rows() == level.hatches.rows()) {
        next.shareEqualTiles(level.hatches);
        next.eachChangedTile(level.hatches, [&](int tx, int tz) { made.add(next.tileRegion(tx, tz)); });
    } else {
        made.add(level.bounds());
    }
    level.hatches = std::move(next);
    return made;
}

void refillHatches(Level& level) { level.hatches = hatchesOf(level); }

}  // namespace jam
