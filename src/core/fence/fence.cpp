#include "fence/fence.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "cover/rule_masks.h"
#include "cover/weights.h"
#include "grid/bits.h"
#include "grid/distance.h"
#include "shape/bands.h"
#include "shape/smooth.h"

namespace jam {

namespace {

uint16_t stored(float share) { return static_cast<uint16_t>(std::lround(std::clamp(share, 0.f, 1.f) * kInside)); }
float shareOf(uint16_t mask) { return static_cast<float>(mask) / kInside; }

// What a mask says, or its inverse.
FenceSource fromMask(Fence mask, bool inverse = false) {
    return {[mask = std::move(mask), inverse](const Region& region, View<float> out) {
        Raster<uint16_t> bits(region.width(), region.depth());
        mask.read(region, bits.view());
        for (int z = 0; z < region.depth(); ++z)
            for (int x = 0; x < region.width(); ++x)
                out.at(x, z) = shareOf(inverse ? static_cast<uint16_t>(kInside - bits.at(x, z)) : bits.at(x, z));
    }};
}

// The square of the distance to a leg of a line.
double squareToLeg(double px, double pz, const MapPlace& a, const MapPlace& b) {
    const double dx = b.x - a.x, dz = b.z - a.z, square = dx * dx + dz * dz;
    const double t = square > 0 ? std::clamp(((px - a.x) * dx + (pz - a.z) * dz) / square, 0.0, 1.0) : 0;
    const double ax = px - a.x - t * dx, az = pz - a.z - t * dz;
    return ax * ax + az * az;
}

constexpr double kThinned = 0.1;  // of half its width lie the places of a line apart at least

// f(x metres, z metres) for every sample of a region.
template <class F>
void eachPlace(const Level& frame, const Region& region, View<float> out, F f) {
    for (int z = region.z0; z < region.z1; ++z)
        for (int x = region.x0; x < region.x1; ++x)
            out.at(x - region.x0, z - region.z0) =
                static_cast<float>(f(frame.originX + x * frame.spacing, frame.originZ + z * frame.spacing));
}

// The samples that lie in a rectangle given in metres, and all on its border.
Region samplesIn(const Level& frame, double x0, double z0, double x1, double z1) {
    const auto sample = [](double at) { return static_cast<int>(std::clamp(at, -1e8, 1e8)); };
    return {sample(std::floor(frame.toColumn(x0))), sample(std::floor(frame.toRow(z0))),
            sample(std::ceil(frame.toColumn(x1))) + 1, sample(std::ceil(frame.toRow(z1))) + 1};
}
double areaOf(const Region& r) { return r.empty() ? 0 : static_cast<double>(r.width()) * r.depth(); }

// Size, place and spacing alone, so that sources hold no samples they do not look at.
Level frameOf(const Level& level) {
    Level frame;
    frame.columns = level.columns, frame.rows = level.rows;
    frame.spacing = level.spacing;
    frame.originX = level.originX, frame.originZ = level.originZ;
    frame.coverFactor = level.coverFactor;
    return frame;
}

// The cover samples that lie on the ground samples of a region.
template <class Read>
void onGround(const Level& level, const Region& region, View<float> out, Read read) {
    const int f = level.coverFactor;
    const Region cover{region.x0 * f, region.z0 * f, (region.x1 - 1) * f + 1, (region.z1 - 1) * f + 1};
    Raster<float> fine(cover.width(), cover.depth());
    read(cover, fine.view());
    for (int z = 0; z < region.depth(); ++z)
        for (int x = 0; x < region.width(); ++x) out.at(x, z) = fine.at(x * f, z * f);
}

void readLayerShare(const Level& level, size_t layer, const Region& cover, View<float> out) {
    std::vector<Raster<uint8_t>> rasters(level.layers.size(), Raster<uint8_t>(cover.width(), cover.depth()));
    std::vector<View<uint8_t>> planes;
    for (auto& r : rasters) planes.push_back(r.view());
    readWeights(level, cover, planes);
    for (int z = 0; z < cover.depth(); ++z)
        for (int x = 0; x < cover.width(); ++x) out.at(x, z) = planes[layer].at(x, z) / 255.0f;
}

// Sheer edges, so that walls along them stand upright: 1 at so many metres inside (positive), 0 outside.
double edgeAt(double inside) { return inside >= 0 ? 1 : 0; }

}  // namespace

FenceSource insidePolygon(const Level& level, std::vector<MapPlace> corners) {
    assert(corners.size() >= 3);
    const auto [west, east] = std::minmax_element(corners.begin(), corners.end(),
                                                  [](const auto& a, const auto& b) { return a.x < b.x; });
    const auto [north, south] = std::minmax_element(corners.begin(), corners.end(),
                                                    [](const auto& a, const auto& b) { return a.z < b.z; });
    const Region reach = samplesIn(level, west->x, north->z, east->x, south->z).grown(1);
    const auto read = [frame = frameOf(level), corners = std::move(corners)](const Region& region, View<float> out) {
        constexpr double kNear = 1e-9;  // of a sample; corners on samples count as inside
        std::vector<double> crossings;
        for (int z = region.z0; z < region.z1; ++z) {
            float* row = out.row(z - region.z0);
            std::fill_n(row, region.width(), 0.f);
            const auto fill = [&](double from, double to) {
                const int x0 = std::max(static_cast<int>(std::ceil(from - kNear)), region.x0),
                          x1 = std::min(static_cast<int>(std::floor(to + kNear)), region.x1 - 1);
                for (int x = x0; x <= x1; ++x) row[x - region.x0] = 1;
            };
            crossings.clear();
            for (size_t i = 0, k = corners.size() - 1; i < corners.size(); k = i++) {
                const double az = frame.toRow(corners[k].z), bz = frame.toRow(corners[i].z),
                             ax = frame.toColumn(corners[k].x), bx = frame.toColumn(corners[i].x);
                // Edges along a row belong to it, whichever side they are of.
                if (std::abs(az - z) < kNear && std::abs(bz - z) < kNear) fill(std::min(ax, bx), std::max(ax, bx));
                if ((az > z) != (bz > z)) crossings.push_back(ax + (bx - ax) * (z - az) / (bz - az));
            }
            std::sort(crossings.begin(), crossings.end());
            for (size_t i = 0; i + 1 < crossings.size(); i += 2) fill(crossings[i], crossings[i + 1]);
        }
    };
    return {read, reach, areaOf(reach.clipped(level.bounds()))};
}

FenceSource alongLine(const Level& level, std::vector<MapPlace> places, double width, float softness) {
    assert(!places.empty());
    const double half = width / 2;
    // A hand gives far more places than the line needs to look the same.
    std::vector<MapPlace> line{places.front()};
    for (size_t i = 1; i < places.size(); ++i)
        if (i + 1 == places.size() ||
            std::hypot(places[i].x - line.back().x, places[i].z - line.back().z) > half * kThinned)
            line.push_back(places[i]);
    if (line.size() == 1) line.push_back(line.front());
    struct Leg {
        MapPlace a, b;
        Region reach;
    };
    std::vector<Leg> legs;
    Region whole;
    double visits = 0;
    for (size_t i = 1; i < line.size(); ++i) {
        const MapPlace &a = line[i - 1], &b = line[i];
        const Region reach = samplesIn(level, std::min(a.x, b.x) - half, std::min(a.z, b.z) - half,
                                       std::max(a.x, b.x) + half, std::max(a.z, b.z) + half);
        legs.push_back({a, b, reach});
        whole = whole.empty() ? reach : whole.joined(reach);
        visits += areaOf(reach.clipped(level.bounds()));
    }
    const auto read = [frame = frameOf(level), legs = std::move(legs), half, softness](const Region& region,
                                                                                       View<float> out) {
        const double soft = half * softness;
        const bool sheer = soft <= frame.spacing;
        for (int z = 0; z < region.depth(); ++z) std::fill_n(out.row(z), region.width(), 0.f);
        for (const auto& [a, b, reach] : legs) {
            const Region part = reach.clipped(region);
            for (int z = part.z0; z < part.z1; ++z)
                for (int x = part.x0; x < part.x1; ++x) {
                    const double square = squareToLeg(frame.originX + x * frame.spacing,
                                                      frame.originZ + z * frame.spacing, a, b);
                    if (square > half * half) continue;
                    const double in = half - std::sqrt(square);
                    const float share = sheer ? 1.f : smoothstep(static_cast<float>(in / soft));
                    float& most = out.at(x - region.x0, z - region.z0);
                    most = std::max(most, share);
                }
        }
    };
    return {read, whole, visits};
}

FenceSource whereLayer(const Level& level, uint32_t layer) {
    return {[level, layer](const Region& region, View<float> out) {
        const int at = level.layerIndex(layer);
        onGround(level, region, out, [&](const Region& cover, View<float> fine) {
            if (at >= 0) return readLayerShare(level, static_cast<size_t>(at), cover, fine);
            for (int z = 0; z < fine.depth; ++z) std::fill_n(fine.row(z), fine.width, 0.f);
        });
    }};
}

FenceSource connectedLayer(const Level& level, double x, double z, const Context& context) {
    Fence found(level.columns, level.rows, 0);
    const int c = static_cast<int>(std::lround(level.toColumn(x))), r = static_cast<int>(std::lround(level.toRow(z)));
    if (!level.bounds().contains(c, r)) return fromMask(std::move(found));
    const auto mix = mixAt(level, x, z);
    const auto most = static_cast<size_t>(
        std::max_element(mix.begin(), mix.begin() + static_cast<long>(level.layers.size())) - mix.begin());
    BitTiles seeds(level.columns, level.rows);
    seeds.set(c, r);
    // Where the layer shows more than any other could; tile by tile, as far as one gets.
    constexpr int kTile = Fence::kTile;
    const auto shows = [&](int tx, int tz, TileBits& bits) {
        const Region part = Region{tx * kTile, tz * kTile, (tx + 1) * kTile, (tz + 1) * kTile}.clipped(level.bounds());
        Raster<float> share(part.width(), part.depth());
        onGround(level, part, share.view(),
                 [&](const Region& cover, View<float> fine) { readLayerShare(level, most, cover, fine); });
        bits = {};
        for (int v = 0; v < part.depth(); ++v)
            for (int u = 0; u < part.width(); ++u)
                bits[static_cast<size_t>(v)] |= static_cast<uint64_t>(share.at(u, v) >= 0.5f) << u;
        if (part.contains(c, r)) bits[static_cast<size_t>(r - part.z0)] |= 1ull << (c - part.x0);
    };
    const BitTiles joined = flood(seeds, shows, context);
    joined.eachTile([&](int tx, int tz, const TileBits& bits) {
        uint16_t* to = found.writableTile(tx, tz);
        for (size_t v = 0; v < kTile; ++v)
            for (size_t u = 0; u < kTile; ++u) to[v * kTile + u] = bits[v] >> u & 1 ? kInside : 0;
    });
    FenceSource source = fromMask(std::move(found));
    source.reach = joined.bounds();
    return source;
}

FenceSource byRule(const Level& level, const Rule& rule) {
    return {[level, rule](const Region& region, View<float> out) {
        onGround(level, region, out,
                 [&](const Region& cover, View<float> fine) { readRules(level, 0, {rule}, cover, fine); });
    }};
}

FenceSource nearEdge(const Level& level, double metres) {
    return {[frame = frameOf(level), metres](const Region& region, View<float> out) {
        eachPlace(frame, region, out, [&](double x, double z) {
            const double in = std::min({x - frame.originX, z - frame.originZ, frame.originX + frame.width() - x,
                                        frame.originZ + frame.depth() - z});
            return edgeAt(metres - in);
        });
    }};
}

FenceSource nearCourse(const Level& level, uint32_t stratum, double metres) {
    return {[level, stratum, metres](const Region& region, View<float> out) {
        const Stratum* s = level.stratum(stratum);
        const bool there = s && s->course;
        const Raster<float> away = distancesTo(region, level.bounds(), metres / level.spacing + 1,
                                               [&](int x, int z) { return there && s->owned.at(x, z) > 0.5f; });
        for (int z = 0; z < region.depth(); ++z)
            for (int x = 0; x < region.width(); ++x)
                out.at(x, z) = static_cast<float>(edgeAt(metres - away.at(x, z) * level.spacing));
    }};
}

FenceSource keptFence(const Level& level, uint32_t id) {
    const auto at = std::find_if(level.fences.begin(), level.fences.end(), [id](const auto& f) { return f.id == id; });
    return fromMask(at == level.fences.end() ? Fence(level.columns, level.rows, 0) : at->mask);
}

bool joinFence(Level& level, const FenceSource& source, FenceJoin join, const Context& context) {
    const Fence none(level.columns, level.rows, 0), before = level.fenced ? level.fence : none;
    // Beyond the source's reach what is added to or taken from stays, and nothing else is left.
    level.fence = join == FenceJoin::add || join == FenceJoin::takeAway ? before : none;
    level.fenced = true;
    const Region part = source.reach.clipped(level.bounds());
    Raster<float> comes;
    Raster<uint16_t> mask;
    const bool done = inBands(part.depth(), context, [&](int first, int end) {
        const Region rows{part.x0, part.z0 + first, part.x1, part.z0 + end};
        comes.reshape(rows.width(), rows.depth());
        mask.reshape(rows.width(), rows.depth());
        source.read(rows, comes.view());
        before.read(rows, mask.view());
        for (int z = 0; z < rows.depth(); ++z)
            for (int x = 0; x < rows.width(); ++x) {
                uint16_t& m = mask.at(x, z);
                const uint16_t c = stored(comes.at(x, z));
                switch (join) {
                    case FenceJoin::replace: m = c; break;
                    case FenceJoin::add: m = std::max(m, c); break;
                    case FenceJoin::takeAway: m = std::min<uint16_t>(m, kInside - c); break;
                    case FenceJoin::meet: m = std::min(m, c); break;
                }
            }
        level.fence.write(rows, mask.view());
    });
    level.fence.dropDefaultTiles();
    return done;
}

bool invertFence(Level& level, const Context& context) {
    return joinFence(level, fromMask(level.fenced ? level.fence : Fence(level.columns, level.rows, 0), true),
                     FenceJoin::replace, context);
}

bool growFence(Level& level, double metres, const Context& context) {
    const double most = std::abs(metres) / level.spacing + 2;
    // Outwards one looks for the inside, inwards for the outside.
    const bool outwards = metres > 0;
    const Fence before = level.fence;
    return joinFence(level, {[&](const Region& region, View<float> out) {
                         const Raster<float> away = distancesTo(region, level.bounds(), most, [&](int x, int z) {
                             return (before.at(x, z) > kInside / 2) == outwards;
                         });
                         for (int z = 0; z < region.depth(); ++z)
                             for (int x = 0; x < region.width(); ++x) {
                                 // The edge lies half a sample beyond the last one inside.
                                 const bool reached = away.at(x, z) <= std::abs(metres) / level.spacing + 1e-6;
                                 out.at(x, z) = reached == outwards ? 1.f : 0.f;
                             }
                     }},
                     FenceJoin::replace, context);
}

bool featherFence(Level& level, double metres, const Context& context) {
    // A Gaussian whose edge runs from 2 % to 98 % over twice the metres.
    const auto sigma = static_cast<float>(std::max(metres / 2.05 / level.spacing, 0.01));
    const int halo = boxReach(sigma);
    const Fence before = level.fence;
    return joinFence(level, {[&](const Region& region, View<float> out) {
                         const Region wide = region.grown(halo);
                         Raster<float> around(wide.width(), wide.depth());
                         for (int z = wide.z0; z < wide.z1; ++z)
                             for (int x = wide.x0; x < wide.x1; ++x)
                                 around.at(x - wide.x0, z - wide.z0) = shareOf(
                                     before.at(std::clamp(x, 0, level.columns - 1), std::clamp(z, 0, level.rows - 1)));
                         boxMean(around.view(), halo, sigma, out);
                     }},
                     FenceJoin::replace, context);
}

bool fenceEmpty(const Level& level) {
    if (level.fence.presentTiles() == 0) return true;
    for (int tz = 0; tz < level.fence.tilesDown(); ++tz)
        for (int tx = 0; tx < level.fence.tilesAcross(); ++tx)
            if (const uint16_t* t = level.fence.tile(tx, tz);
                t && std::any_of(t, t + Fence::kTile * Fence::kTile, [](uint16_t m) { return m > 0; }))
                return false;
    return true;
}

double fenceArea(const Level& level) {
    double samples = 0;
    for (int tz = 0; tz < level.fence.tilesDown(); ++tz)
        for (int tx = 0; tx < level.fence.tilesAcross(); ++tx)
            if (const uint16_t* t = level.fence.tile(tx, tz))
                for (int i = 0; i < Fence::kTile * Fence::kTile; ++i) samples += shareOf(t[i]);
    return samples * level.spacing * level.spacing;
}

uint32_t keepFence(Level& level, const std::string& name) {
    const auto at = std::find_if(level.fences.begin(), level.fences.end(),
                                 [&](const KeptFence& f) { return f.name == name; });
    if (at != level.fences.end()) {
        at->mask = level.fence;
        return at->id;
    }
    assert(level.fences.size() < kMaxFences);
    level.fences.push_back({level.nextId++, name, level.fence});
    return level.fences.back().id;
}

}  // namespace jam
