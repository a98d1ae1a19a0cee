#include "dress/plantings.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "base/parallel.h"
#include "dress/chance.h"
#include "dress/kinds.h"
#include "dress/tile_work.h"
#include "level/ground.h"

namespace jam {

std::vector<bool> withThoseKeptOff(const Level& level, bool (*wanted)(const Kind&)) {
    std::vector<bool> needed(level.kinds.size());
    for (size_t kind = level.kinds.size(); kind-- > 0;) {
        const Kind& k = level.kinds[kind];
        needed[kind] = needed[kind] || wanted(k);
        for (const KeptOff& o : k.keepsOff)
            if (needed[kind] && o.what == KeptOff::What::kind)
                if (const int other = level.kindIndex(o.id); other >= 0 && static_cast<size_t>(other) < kind)
                    needed[static_cast<size_t>(other)] = true;
    }
    return needed;
}

double kindReach(const Level& level, const Kind& kind) {
    double reach = std::max<double>(kind.apart, contourReach(kind));
    for (const KeptOff& k : kind.keepsOff) {
        double own = k.metres;
        if (k.what == KeptOff::What::kind)
            for (const Kind& other : level.kinds) {
                if (other.id == kind.id) break;  // those after it do not count
                if (other.id == k.id) own += kindReach(level, other);
            }
        reach = std::max(reach, own);
    }
    return reach;
}

std::array<float, 4> quaternionOf(const Planting& p) {
    // Clockwise seen from above, about the upright; then leaned about the axis to the right of where it leans to.
    const double turn = -static_cast<double>(p.turn) * kRadians / 2, lean = static_cast<double>(p.lean) * kRadians / 2,
                 to = static_cast<double>(p.leanTo) * kRadians;
    const double ys = std::sin(turn), yc = std::cos(turn), s = std::sin(lean), c = std::cos(lean), ax = -std::cos(to),
                 az = -std::sin(to);
    // (ax s, 0, az s, c) times (0, ys, 0, yc).
    return {static_cast<float>(ax * s * yc - az * s * ys), static_cast<float>(c * ys),
            static_cast<float>(az * s * yc + ax * s * ys), static_cast<float>(c * yc)};
}

Planting standing(const Level& level, const Kind& kind, const Single& s) {
    Planting p;
    p.single = s.id;
    p.x = s.x, p.z = s.z;
    p.y = static_cast<float>(altitudeAt(level, s.x, s.z)) + s.above - kind.sink;
    if (kind.sinkShare > 0) p.y -= kind.sinkShare * s.size * heightOf(kind);
    p.size = s.size;
    p.turn = s.turn;
    p.lean = s.lean, p.leanTo = s.leanTo;
    p.variant = s.variant;
    p.tint = tintOf(kind, Chance(s.id, kind.seed).of(6));
    return p;
}

std::vector<Plantings::Tile>& Plantings::tilesOf(size_t kind) {
    if (tiles_.size() < level_.kinds.size()) tiles_.resize(level_.kinds.size());
    std::vector<Tile>& tiles = tiles_[kind];
    if (tiles.empty()) {
        tiles.resize(static_cast<size_t>(tilesAcross()) * static_cast<size_t>(tilesDown()));
        heights_.resize(level_.kinds.size());
        heights_[kind] = level_.kinds[kind].sinkShare > 0 ? heightOf(level_.kinds[kind]) : 0;
    }
    return tiles;
}

const std::vector<Planting>& Plantings::tile(size_t kind, int tx, int tz) {
    Tile& t = tilesOf(kind)[at(tx, tz)];
    if (!t) t = std::make_shared<const std::vector<Planting>>(plantTile(*this, kind, tx, tz));
    return *t;
}

std::shared_ptr<const std::vector<Planting>> Plantings::known(size_t kind, int tx, int tz) const {
    return kind < tiles_.size() && !tiles_[kind].empty() ? tiles_[kind][at(tx, tz)] : nullptr;
}

bool Plantings::prepare(const Region& ground, const Context& context, bool (*wanted)(const Kind&)) {
    const Region part = TiledGrid<float>::tilesOf(ground.clipped(level_.bounds()));
    const double wide = kTile * level_.spacing;
    if (!part.empty()) lines();
    const std::vector<bool> needed = wanted ? withThoseKeptOff(level_, wanted)
                                            : std::vector<bool>(level_.kinds.size(), true);
    // In their order, and farther out where those that follow look: then no tile waits for another.
    for (size_t kind = 0; kind < level_.kinds.size() && !part.empty(); ++kind) {
        if (!needed[kind]) continue;
        double far = 0;
        for (size_t k = kind + 1; k < level_.kinds.size(); ++k) far = std::max(far, kindReach(level_, level_.kinds[k]));
        const Region all =
            part.grown(static_cast<int>(std::ceil(far / wide))).clipped({0, 0, tilesAcross(), tilesDown()});
        std::vector<Tile>& tiles = tilesOf(kind);
        parallelFor(all.depth() * all.width(), 1, [&](int first, int end) {
            for (int i = first; i < end && !context.cancelled(); ++i) {
                const int tx = all.x0 + i % all.width(), tz = all.z0 + i / all.width();
                Tile& t = tiles[at(tx, tz)];
                if (!t) t = std::make_shared<const std::vector<Planting>>(plantTile(*this, kind, tx, tz));
            }
        });
        context.report(static_cast<double>(kind + 1) / static_cast<double>(level_.kinds.size()));
    }
    return !context.cancelled();
}

const std::vector<Plantings::Line>& Plantings::lines() {
    if (lines_) return *lines_;
    double far = 0;
    for (const Kind& k : level_.kinds)
        for (const KeptOff& o : k.keepsOff)
            if (o.what == KeptOff::What::course) far = std::max<double>(far, o.metres);
    auto all = std::make_shared<std::vector<Line>>();
    all->reserve(level_.strata.size());
    CourseLines lines(level_);
    for (size_t i = 0; i < level_.strata.size(); ++i) {
        const Stratum& s = level_.strata[i];
        if (!s.leads() || !s.visible) continue;
        Line& line = all->emplace_back();
        line.course = s.id;
        line.points = lines.of(i);
        for (const LinePoint& p : line.points) line.half = std::max(line.half, p.width / 2);
        line.legs = std::make_unique<const LegsBy>(line.points, level_.originX, level_.originZ, kTile * level_.spacing,
                                                   tilesAcross(), tilesDown(), far + 1);
    }
    lines_ = std::move(all);
    return *lines_;
}

long long Plantings::knownWithin(size_t kind, double x, double z, double radius) const {
    const double wide = kTile * level_.spacing;
    const auto place = [wide](double metres, int count) {
        return std::clamp(static_cast<int>(std::floor(metres / wide)), 0, count - 1);
    };
    const int x0 = place(x - radius - level_.originX, tilesAcross()),
              x1 = place(x + radius - level_.originX, tilesAcross());
    const int z0 = place(z - radius - level_.originZ, tilesDown()),
              z1 = place(z + radius - level_.originZ, tilesDown());
    long long count = 0;
    for (int tz = z0; tz <= z1; ++tz)
        for (int tx = x0; tx <= x1; ++tx)
            if (const auto tile = known(kind, tx, tz))
                count += std::count_if(tile->begin(), tile->end(), [&](const Planting& p) {
                    return (p.x - x) * (p.x - x) + (p.z - z) * (p.z - z) <= radius * radius;
                });
    return count;
}

bool Plantings::byCourse(int tx, int tz, double x, double z, double metres, uint32_t course) {
    for (const Line& line : lines()) {
        if ((course != 0 && course != line.course) || !line.legs->any(tx, tz)) continue;
        const Near n = line.legs->nearest(tx, tz, x, z);
        if (n.away - n.width / 2 < metres) return true;
    }
    return false;
}

TileSet Plantings::follow(const Level& now, const Change& change) {
    const Region all = now.bounds();
    const bool afresh = change.raster || now.kinds.size() != level_.kinds.size() || !sameRaster(now, level_) ||
                        !std::equal(now.kinds.begin(), now.kinds.end(), level_.kinds.begin(),
                                    [](const Kind& a, const Kind& b) { return a.id == b.id; });
    level_ = now;
    if (afresh) {
        tiles_.clear();
        lines_.reset();
        return all;
    }
    if (!change.strata.empty() || !change.ground.empty() || !change.kinds.empty()) lines_.reset();
    TileSet touched;
    const double wide = level_.spacing;
    for (size_t kind = 0; kind < level_.kinds.size(); ++kind) {
        const Kind& k = level_.kinds[kind];
        const auto looksAt = [&](KeptOff::What what) {
            return std::any_of(k.keepsOff.begin(), k.keepsOff.end(), [&](const KeptOff& o) { return o.what == what; });
        };
        const bool lines = k.turning == Turning::course || k.rows == Rows::course || looksAt(KeptOff::What::course);
        const bool named = std::find(change.kinds.begin(), change.kinds.end(), k.id) != change.kinds.end();
        TileSet again;
        if (named || (lines && !change.strata.empty()) || (looksAt(KeptOff::What::spot) && change.spots)) again = all;
        else {
            again = change.ground.joined(change.gaps);
            // Of which kinds the density differs is not told: one tile too many costs little.
            again.add(change.plantings.coarser(level_.coverFactor).clipped(all));
            if (looksAt(KeptOff::What::water)) again.add(change.water);
            if (looksAt(KeptOff::What::kind)) again.add(touched);
            again = again.grown(static_cast<int>(std::ceil(kindReach(level_, k) / wide)) + 1, all);
        }
        if (again.empty() || kind >= tiles_.size() || tiles_[kind].empty()) {
            touched.add(again);
            continue;
        }
        if (named) tiles_[kind].clear();
        else again.each([&](int tx, int tz, const Region&) { tiles_[kind][at(tx, tz)].reset(); });
        touched.add(again);
    }
    return touched;
}

}  // namespace jam
