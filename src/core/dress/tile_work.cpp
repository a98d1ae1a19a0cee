#include "dress/tile_work.h"

#include <algorithm>
#include <cmath>
#include <tuple>

#include "base/maths.h"
#include "base/noise.h"
#include "dress/chance.h"
#include "dress/pattern.h"
#include "grid/distance.h"
#include "level/ground.h"
#include "level/opening.h"

namespace jam {

namespace {

struct Upright {
    float lean, leanTo;
};

// From a direction that is up but for its length.
Upright uprightOf(double x, double y, double z) {
    const double flat = std::hypot(x, z);
    return {static_cast<float>(std::atan2(flat, y) * kDegrees),
            flat < 1e-9 ? 0.f : static_cast<float>(std::fmod(std::atan2(x, -z) * kDegrees + 360, 360))};
}

// How a kind stands on ground that rises by (east, south) metres a metre, tilted by two random numbers.
Upright standsOn(const Kind& kind, double east, double south, double much, double way) {
    double x = -east * static_cast<double>(kind.lean), z = -south * static_cast<double>(kind.lean);
    if (kind.tilt > 0) {
        const double by = std::tan(std::min(static_cast<double>(kind.tilt) * much, 85.0) * kRadians), a = kTurn * way;
        x += by * std::cos(a), z += by * std::sin(a);
    }
    return uprightOf(x, 1, z);
}

// The way of a line nearest to a place, degrees clockwise from north.
double headingBy(const std::vector<LinePoint>& line, double x, double z, double& away) {
    double heading = 0;
    for (size_t i = 0; i + 1 < line.size(); ++i) {
        const double dx = line[i + 1].x - line[i].x, dz = line[i + 1].z - line[i].z, square = dx * dx + dz * dz;
        if (square <= 0) continue;
        const double t = std::clamp(((x - line[i].x) * dx + (z - line[i].z) * dz) / square, 0.0, 1.0);
        const double far = std::hypot(line[i].x + t * dx - x, line[i].z + t * dz - z);
        if (far < away) away = far, heading = std::atan2(dx, -dz) * kDegrees;
    }
    return heading;
}

double distanceTo(const std::vector<LinePoint>& line, double x, double z) {
    double away = 1e30;
    headingBy(line, x, z, away);
    return away;
}

constexpr double kRowsReach = 60;  // metres beside a course that its rows go

}  // namespace

// One tile of one kind.
class TileWork {
public:
    TileWork(Plantings& all, size_t kind, int tx, int tz)
        : all_(all), level_(all.level_), kind_(level_.kinds[kind]), place_(kind),
          samples_(Region{tx * Plantings::kTile, tz * Plantings::kTile, (tx + 1) * Plantings::kTile + 1,
                          (tz + 1) * Plantings::kTile + 1}
                       .clipped(level_.bounds())),
          tx_(tx), tz_(tz), x0_(level_.originX + tx * Plantings::kTile * level_.spacing),
          z0_(level_.originZ + tz * Plantings::kTile * level_.spacing), x1_(x0_ + Plantings::kTile * level_.spacing),
          z1_(z0_ + Plantings::kTile * level_.spacing) {
        // The last ones hold the level's far sides too.
        if (tx + 1 == all.tilesAcross()) x1_ = std::nextafter(level_.originX + level_.width(), 1e30);
        if (tz + 1 == all.tilesDown()) z1_ = std::nextafter(level_.originZ + level_.depth(), 1e30);
    }

    std::vector<Planting> make() {
        if (kind_.hidden) return {};
        if (readDensity()) {
            keepOff();
            switch (kind_.rows) {
                case Rows::none: eachOfPattern(); break;
                case Rows::direction: eachOfRows(); break;
                case Rows::course: eachAlongCourse(); break;
                case Rows::contour: eachAlongContours(); break;
            }
        }
        for (const Single& s : level_.singles)
            if (s.kind == kind_.id && holds(s.x, s.z)) found_.push_back(standing(level_, kind_, s));
        return std::move(found_);
    }

private:
    bool holds(double x, double z) const { return x >= x0_ && z >= z0_ && x < x1_ && z < z1_; }

    // The density over the tile; false when nothing stands there.
    bool readDensity() {
        const int f = level_.coverFactor;
        cover_ = {samples_.x0 * f, samples_.z0 * f, (samples_.x1 - 1) * f + 1, (samples_.z1 - 1) * f + 1};
        bool any = kind_.coverage.defaultValue() > 0;
        kind_.coverage.eachPart(cover_,
                                [&](int tx, int tz, const Region&) { any = any || kind_.coverage.tile(tx, tz); });
        if (!any) return false;
        density_ = Raster<uint16_t>(cover_.width(), cover_.depth());
        kind_.coverage.read(cover_, density_.view());
        uint16_t most = 0;
        for (int z = 0; z < cover_.depth(); ++z)
            most = std::max(most, *std::max_element(density_.view().row(z), density_.view().row(z) + cover_.width()));
        return most > 0;
    }

    // A raster of the cover's between its samples, in whole numbers.
    int between(const Raster<uint16_t>& raster, double x, double z) const {
        const double per = level_.coverSpacing();
        const double c = std::clamp((x - level_.originX) / per - cover_.x0, 0.0, cover_.width() - 1.0),
                     r = std::clamp((z - level_.originZ) / per - cover_.z0, 0.0, cover_.depth() - 1.0);
        const int i = std::min(static_cast<int>(c), cover_.width() - 2),
                  k = std::min(static_cast<int>(r), cover_.depth() - 2);
        const auto u = static_cast<int>((c - i) * 256), v = static_cast<int>((r - k) * 256);
        const auto at = [&](int dx, int dz) { return static_cast<int>(raster.at(i + dx, k + dz)); };
        const int top = at(0, 0) * (256 - u) + at(1, 0) * u, low = at(0, 1) * (256 - u) + at(1, 1) * u;
        return static_cast<int>((static_cast<int64_t>(top) * (256 - v) + static_cast<int64_t>(low) * v) >> 16);
    }
    int densityAt(double x, double z) const { return between(density_, x, z); }
    // Times so large by hand.
    float resizedAt(double x, double z) {
        if (kind_.sizes.presentTiles() == 0) return 1;
        if (sizes_.width() == 0) {
            sizes_ = Raster<uint16_t>(cover_.width(), cover_.depth());
            kind_.sizes.read(cover_, sizes_.view());
        }
        return static_cast<float>(std::exp2((between(sizes_, x, z) - kSameSize) / kSizeStep));
    }
    // The most that it is within a box of metres.
    int mostIn(double x0, double z0, double x1, double z1) const {
        const double per = level_.coverSpacing();
        const auto column = [&](double x) {
            return static_cast<int>(std::floor((x - level_.originX) / per)) - cover_.x0;
        };
        const auto row = [&](double z) { return static_cast<int>(std::floor((z - level_.originZ) / per)) - cover_.z0; };
        const int c0 = std::clamp(column(x0), 0, cover_.width() - 1),
                  c1 = std::clamp(column(x1) + 2, c0 + 1, cover_.width());
        const int r0 = std::clamp(row(z0), 0, cover_.depth() - 1), r1 = std::clamp(row(z1) + 2, r0 + 1, cover_.depth());
        uint16_t most = 0;
        for (int r = r0; r < r1; ++r) {
            const uint16_t* d = density_.view().row(r);
            most = std::max(most, *std::max_element(d + c0, d + c1));
        }
        return most;
    }
    // Times so many, in and between clumps; at most, and at a place.
    double clumpMost() const { return kind_.clump > 0 ? 1 + static_cast<double>(kind_.clumpTight) : 1; }
    double clumpAt(double x, double z) const {
        if (kind_.clump <= 0) return 1;
        const double per = 1.6 / static_cast<double>(kind_.clump), tight = kind_.clumpTight;
        const double n = 0.5 *
                         std::erfc(-static_cast<double>(fractalNoise(
                                       static_cast<float>(x * per), static_cast<float>(z * per), kind_.seed + 401, 2)) /
                                   0.4);
        return 1 - tight + 2 * tight * smoothstep((n - 0.5) / (0.08 + 0.5 * (1 - tight)) * 0.5 + 0.5);
    }

    // Where water is kept off, at the ground's samples.
    void keepOff() {
        gaps_ = mayHaveGaps(level_, samples_);
        gapsBeside_ = mayHaveGaps(
            level_,
            samples_.grown(static_cast<int>(std::ceil(kMostKeptOff / level_.spacing)) + 1).clipped(level_.bounds()));
        for (const KeptOff& k : kind_.keepsOff) {
            if (k.what != KeptOff::What::water || level_.water.presentTiles() == 0) continue;
            const double far = static_cast<double>(k.metres) / level_.spacing;
            const Raster<float> away = distancesTo(samples_, level_.bounds(), far + 1,
                                                   [&](int x, int z) { return level_.water.at(x, z).wet(); });
            if (off_.width() == 0) off_ = Raster<uint8_t>(samples_.width(), samples_.depth());
            for (int z = 0; z < samples_.depth(); ++z)
                for (int x = 0; x < samples_.width(); ++x) off_.at(x, z) |= static_cast<double>(away.at(x, z)) <= far;
        }
    }
    bool keptOff(double x, double z) {
        if (gaps_ && !groundAt(level_, x, z)) return true;
        if (off_.width() > 0) {
            const int c = std::clamp(static_cast<int>(std::lround(level_.toColumn(x))) - samples_.x0, 0,
                                     samples_.width() - 1),
                      r = std::clamp(static_cast<int>(std::lround(level_.toRow(z))) - samples_.z0, 0,
                                     samples_.depth() - 1);
            if (off_.at(c, r)) return true;
        }
        for (const KeptOff& k : kind_.keepsOff) {
            const double m = k.metres;
            switch (k.what) {
                case KeptOff::What::edge:
                    if (x - level_.originX < m || z - level_.originZ < m || level_.originX + level_.width() - x < m ||
                        level_.originZ + level_.depth() - z < m)
                        return true;
                    break;
                case KeptOff::What::spot:
                    for (const Spot& s : level_.spots)
                        if (std::hypot(s.x - x, s.z - z) < m) return true;
                    break;
                case KeptOff::What::opening:
                    if (gapsBeside_ && goneWithin(x, z, m)) return true;
                    break;
                case KeptOff::What::kind:
                    for (size_t i = 0; i < place_; ++i)
                        if (level_.kinds[i].id == k.id && standsWithin(i, x, z, m)) return true;
                    break;
                case KeptOff::What::course:
                    if (all_.byCourse(tx_, tz_, x, z, m, k.id)) return true;
                    break;
                case KeptOff::What::water: break;
            }
        }
        if (kind_.apart > 0)
            for (const Single& s : level_.singles)
                if (s.kind == kind_.id && std::hypot(s.x - x, s.z - z) < static_cast<double>(kind_.apart)) return true;
        return false;
    }
    bool goneWithin(double x, double z, double m) const {
        const double per = level_.spacing;
        const int reach = static_cast<int>(std::ceil(m / per));
        const int c = static_cast<int>(std::lround(level_.toColumn(x))),
                  r = static_cast<int>(std::lround(level_.toRow(z)));
        for (int v = r - reach; v <= r + reach; ++v)
            for (int u = c - reach; u <= c + reach; ++u)
                if (level_.bounds().contains(u, v) && gapSample(level_, u, v) >= kGapEdge &&
                    std::hypot(level_.originX + u * per - x, level_.originZ + v * per - z) < m)
                    return true;
        return false;
    }
    bool standsWithin(size_t kind, double x, double z, double m) {
        const double wide = Plantings::kTile * level_.spacing;
        const auto clamped = [](double v, int count) {
            return std::clamp(static_cast<int>(std::floor(v)), 0, count - 1);
        };
        const int tx0 = clamped((x - m - level_.originX) / wide, all_.tilesAcross()),
                  tx1 = clamped((x + m - level_.originX) / wide, all_.tilesAcross());
        const int tz0 = clamped((z - m - level_.originZ) / wide, all_.tilesDown()),
                  tz1 = clamped((z + m - level_.originZ) / wide, all_.tilesDown());
        for (int tz = tz0; tz <= tz1; ++tz)
            for (int tx = tx0; tx <= tx1; ++tx)
                for (const Planting& p : all_.tile(kind, tx, tz))
                    if (std::hypot(p.x - x, p.z - z) < m) return true;
        return false;
    }

    // Whether a place of a lower rank lies within `apart` of one of the pattern.
    bool crowded(const PatternPlace& p) const {
        const double apart = kind_.apart;
        if (apart <= 0) return false;
        const auto block = [](double v) { return static_cast<int>(std::floor(v / kBlock)); };
        // Places are shaken over the sides of their blocks by less than half of their distance.
        const double reach = apart + kPlaceApart;
        for (int bz = block(p.z - reach); bz <= block(p.z + reach); ++bz)
            for (int bx = block(p.x - reach); bx <= block(p.x + reach); ++bx) {
                bool near = false;
                eachPlace(bx, bz, kind_.seed, [&](const PatternPlace& o) {
                    if (o.rank > p.rank) return false;
                    // Two of different patches may have the same rank: then the one farther north, or west, counts.
                    const bool before = o.rank < p.rank || o.z < p.z || (o.z == p.z && o.x < p.x);
                    near = before && std::hypot(o.x - p.x, o.z - p.z) < apart;
                    return !near;
                });
                if (near) return true;
            }
        return false;
    }

    void eachOfPattern() {
        const auto first = [](double v) { return static_cast<int>(std::floor((v - kPlaceApart) / kBlock)); };
        const auto last = [](double v) { return static_cast<int>(std::floor((v + kPlaceApart) / kBlock)); };
        for (int bz = first(z0_); bz <= last(z1_); ++bz)
            for (int bx = first(x0_); bx <= last(x1_); ++bx) {
                const double most = mostIn(bx * kBlock - kPlaceApart, bz * kBlock - kPlaceApart,
                                           (bx + 1) * kBlock + kPlaceApart, (bz + 1) * kBlock + kPlaceApart) *
                                    clumpMost();
                eachPlace(bx, bz, kind_.seed, [&](const PatternPlace& p) {
                    if (p.rank >= most) return false;
                    if (!holds(p.x, p.z) || p.rank >= densityAt(p.x, p.z) * clumpAt(p.x, p.z) || crowded(p))
                        return true;
                    take(placeName(pattern::floorDiv(bx, kPatchBlocks), pattern::floorDiv(bz, kPatchBlocks), p.rank),
                         p.x, p.z);
                    return true;
                });
            }
    }

    // Of a place that stands for so many square metres.
    bool dense(int rank, double area, double x, double z) const {
        return rank < densityAt(x, z) * clumpAt(x, z) * area / (kPlaceApart * kPlaceApart);
    }

    void eachOfRows() {
        const double a = static_cast<double>(kind_.rowDirection) * kRadians, ax = std::sin(a), az = -std::cos(a);
        const double in = kind_.inRow, apart = kind_.rowApart;
        // Metres along and across of the tile's corners.
        double u0 = 1e30, u1 = -1e30, v0 = 1e30, v1 = -1e30;
        for (const double x : {x0_, x1_})
            for (const double z : {z0_, z1_}) {
                const double u = x * ax + z * az, v = -x * az + z * ax;
                u0 = std::min(u0, u), u1 = std::max(u1, u), v0 = std::min(v0, v), v1 = std::max(v1, v);
            }
        for (int r = static_cast<int>(std::floor(v0 / apart)) - 1; r <= static_cast<int>(std::ceil(v1 / apart)); ++r)
            for (int c = static_cast<int>(std::floor(u0 / in)) - 1; c <= static_cast<int>(std::ceil(u1 / in)); ++c) {
                const double u = (c + 0.5) * in, v = (r + 0.5) * apart;
                const double x = u * ax - v * az, z = u * az + v * ax;
                const uint16_t rank = patternRank(c, r);
                if (holds(x, z) && dense(rank, in * apart, x, z)) take(placeName(c, r, rank), x, z);
            }
    }

    void eachAlongCourse() {
        for (const Plantings::Line& line : all_.lines()) {
            if (line.course != kind_.rowCourse) continue;
            const double in = kind_.inRow, apart = kind_.rowApart, reach = line.half + kRowsReach;
            const auto& all = line.points;
            for (size_t i = 0; i + 1 < all.size(); ++i) {
                const LinePoint &a = all[i], &b = all[i + 1];
                if (std::max(a.x, b.x) + reach < x0_ || std::min(a.x, b.x) - reach > x1_ ||
                    std::max(a.z, b.z) + reach < z0_ || std::min(a.z, b.z) - reach > z1_ || b.along <= a.along)
                    continue;
                for (int c = static_cast<int>(std::ceil(a.along / in)); c * in < b.along; ++c) {
                    const double t = (c * in - a.along) / (b.along - a.along), long_ = std::hypot(b.x - a.x, b.z - a.z);
                    const double nx = -(b.z - a.z) / long_,
                                 nz = (b.x - a.x) / long_;  // to its right
                    const double half = 0.5 * (a.width + t * (b.width - a.width));
                    for (int r = 0; (r + 0.5) * apart < kRowsReach; ++r)
                        for (const int side : {1, -1}) {
                            const double off = half + (r + 0.5) * apart;
                            const double x = a.x + t * (b.x - a.x) + side * off * nx,
                                         z = a.z + t * (b.z - a.z) + side * off * nz;
                            const int row = side > 0 ? r : -1 - r;
                            const uint16_t rank = patternRank(c, row);
                            if (!holds(x, z) || !dense(rank, in * apart, x, z)) continue;
                            // On the inside of a bend rows would run into each other.
                            if (distanceTo(all, x, z) < off - 0.25 * apart) continue;
                            take(placeName(c, row, rank), x, z);
                        }
                }
            }
        }
    }

    // Places of a grid move up or down to the nearest contour; of those that come to lie too near in a row, the one of
    // the lower rank stays. All of that asks the ground alone, so that more density moves nothing.
    void eachAlongContours() {
        const double in = kind_.inRow, rise = kind_.rowApart, cell = in / 2, least = 0.7 * in;
        const int margin = static_cast<int>(std::ceil(contourReach(kind_) / level_.spacing)) + 1;
        const Region wide = samples_.grown(margin);
        Raster<float> ground(wide.width(), wide.depth());
        readGroundBeyond(level_, wide, ground.view());
        const auto at = [&](double x, double z) {
            return inclineIn(ground, std::clamp(level_.toColumn(x) - wide.x0, 0.0, wide.width() - 1.0),
                             std::clamp(level_.toRow(z) - wide.z0, 0.0, wide.depth() - 1.0));
        };
        struct Moved {
            double x = 0, z = 0, slope = 0;
            long row = 0;
            int rank = -1;  // -1: no contour is near
        };
        const auto first = [&](double v) { return static_cast<int>(std::floor((v - 2 * in) / cell)); };
        const auto last = [&](double v) { return static_cast<int>(std::floor((v + 2 * in) / cell)); };
        const int c0 = first(x0_), c1 = last(x1_), r0 = first(z0_), r1 = last(z1_), across = c1 - c0 + 1;
        std::vector<Moved> all(static_cast<size_t>(across) * static_cast<size_t>(r1 - r0 + 1));
        const auto of = [&](int c, int r) -> Moved& {
            return all[static_cast<size_t>(r - r0) * static_cast<size_t>(across) + static_cast<size_t>(c - c0)];
        };
        for (int r = r0; r <= r1; ++r)
            for (int c = c0; c <= c1; ++c) {
                const Chance chance(placeName(c, r, 0), kind_.seed);
                Moved m;
                const double x = (c + chance.of(11)) * cell, z = (r + chance.of(12)) * cell;
                m.x = x, m.z = z;
                Incline here = at(x, z);
                m.row = std::lround(here.height / rise);
                for (int step = 0; step < 3; ++step) {
                    const double e = here.east / level_.spacing, s = here.south / level_.spacing,
                                 square = e * e + s * s;
                    if (square < 1e-6) break;
                    const double by = (static_cast<double>(m.row) * rise - here.height) / square;
                    m.x += e * by, m.z += s * by, m.slope = std::sqrt(square);
                    if (std::hypot(m.x - x, m.z - z) > cell) break;
                    here = at(m.x, m.z);
                }
                if (m.slope > 0 && std::hypot(m.x - x, m.z - z) <= cell &&
                    std::abs(static_cast<double>(m.row) * rise - here.height) < 0.1 * rise)
                    m.rank = static_cast<int>(chance.of(13) * 65536);
                of(c, r) = m;
            }
        const int near = static_cast<int>(std::ceil((least + 2 * cell) / cell));
        for (int r = r0; r <= r1; ++r)
            for (int c = c0; c <= c1; ++c) {
                const Moved& m = of(c, r);
                if (m.rank < 0 || !holds(m.x, m.z)) continue;
                bool stays = true;
                for (int v = std::max(r - near, r0); v <= std::min(r + near, r1) && stays; ++v)
                    for (int u = std::max(c - near, c0); u <= std::min(c + near, c1) && stays; ++u) {
                        const Moved& o = of(u, v);
                        stays = o.rank < 0 || o.row != m.row || (u == c && v == r) ||
                                std::tuple(o.rank, v, u) > std::tuple(m.rank, r, c) ||
                                std::hypot(o.x - m.x, o.z - m.z) >= least;
                    }
                const uint64_t place = placeName(c, r, 0);
                // By how many the rows have room for there.
                if (stays && dense(static_cast<int>(Chance(place, kind_.seed).of(14) * 65536),
                                   std::min(in * rise / m.slope, 1e6), m.x, m.z))
                    take(place, m.x, m.z);
            }
    }

    void take(uint64_t place, double x, double z) {
        if (std::binary_search(kind_.gone.begin(), kind_.gone.end(), place) || keptOff(x, z)) return;
        if (ground_.width() == 0) {
            ground_ = Raster<float>(samples_.width(), samples_.depth());
            readGround(level_, samples_, ground_.view());
        }
        const Chance chance(place, kind_.seed);
        Planting p;
        p.place = place;
        p.x = x, p.z = z;
        const double c = std::clamp(level_.toColumn(x) - samples_.x0, 0.0, samples_.width() - 1.0),
                     r = std::clamp(level_.toRow(z) - samples_.z0, 0.0, samples_.depth() - 1.0);
        const Incline on = inclineIn(ground_, c, r);
        const Upright up = standsOn(kind_, on.east / level_.spacing, on.south / level_.spacing, chance.of(3),
                                    chance.of(4));
        p.lean = up.lean, p.leanTo = up.leanTo;
        p.size = kind_.sizeFrom + (kind_.sizeTo - kind_.sizeFrom) * static_cast<float>(chance.of(1));
        p.size = std::clamp(p.size * resizedAt(x, z), static_cast<float>(kLeastSize), static_cast<float>(kMostSize));
        p.y = static_cast<float>(on.height) - kind_.sink - kind_.sinkShare * p.size * all_.heights_[place_];
        p.turn = turnOf(chance.of(2), x, z, on.east, on.south);
        // What was taken in comes in one shape.
        p.variant = static_cast<uint8_t>(chance.of(5) * (kind_.taken ? 1 : std::max(kind_.growth.variants, 1)));
        p.tint = tintOf(kind_, chance.of(6));
        found_.push_back(p);
    }

    float turnOf(double chance, double x, double z, double east, double south) {
        double turn = 0;
        switch (kind_.turning) {
            case Turning::freely: return static_cast<float>(360 * chance);
            case Turning::downhill: turn = std::atan2(-east, south) * kDegrees; break;
            case Turning::steps: {
                const double step = kind_.turn;
                return static_cast<float>(step > 0 ? step * std::floor(chance * std::max(std::floor(360 / step), 1.0))
                                                   : 0);
            }
            case Turning::course: {
                double away = 1e30;
                for (const Plantings::Line& line : all_.lines()) {
                    const double before = away, heading = headingBy(line.points, x, z, away);
                    if (away < before) turn = heading;
                }
                break;
            }
        }
        const double all = std::fmod(turn + static_cast<double>(kind_.turn) + 720, 360);
        return static_cast<float>(all);
    }

    Plantings& all_;
    const Level& level_;
    const Kind& kind_;
    const size_t place_;  // of the kind in the list
    const Region samples_;
    const int tx_, tz_;
    double x0_, z0_, x1_, z1_;  // metres
    Region cover_;
    Raster<uint16_t> density_, sizes_;
    Raster<uint8_t> off_;
    Raster<float> ground_;
    bool gaps_ = false, gapsBeside_ = false;
    std::vector<Planting> found_;
};

std::vector<Planting> plantTile(Plantings& all, size_t kind, int tx, int tz) {
    return TileWork(all, kind, tx, tz).make();
}

}  // namespace jam
