// What stands in the way of a body: plantings of kinds that block, as upright prisms over their outlines on the map.
// Looked up by place; worked out tile by tile when first asked for.
#pragma once

#include <array>
#include <cmath>
#include <memory>
#include <vector>

#include "dress/plantings.h"

namespace jam {

struct Solid {
    double x = 0, z = 0;       // metres: the middle of its outline
    double foot = 0, top = 0;  // metres
    double radius = 0;         // metres: no part of the outline lies farther from the middle
    bool carries = false;      // one may stand on its top
    // Convex, clockwise seen from above, in metres on the map; empty: a circle of that radius.
    std::vector<std::array<double, 2>> outline;

    // Metres from its outline, less than 0 inside; and the direction on the map that leads away from it.
    struct Away {
        double metres, east, south;
    };
    Away away(double px, double pz) const;
    // Whether it bars a body at some height, which may get on to what is no higher than `climb`: altitudes.
    bool bars(double climb, double head) const { return top > climb && foot < head; }
};

class Solids {
public:
    // The level must live as long, unchanged.
    explicit Solids(const Level& level);

    // Nothing blocks on this level.
    bool none() const { return kinds_.empty(); }
    // Works all of it out, on several threads; false when cancelled.
    bool prepare(const Context& context);

    // f(solid) for each whose outline may come within `reach` metres of a place.
    template <class F>
    void near(double x, double z, double reach, F f) {
        if (none()) return;
        eachTile(x, z, reach + largest_, [&](Tile& t) {
            for (const Solid& s : t.large)
                if (within(s, x, z, reach)) f(s);
        });
        eachTile(x, z, reach + kSmall, [&](Tile& t) {
            const double far = reach + kSmall;
            const int c0 = bin(x - far - t.x), c1 = bin(x + far - t.x), r0 = bin(z - far - t.z),
                      r1 = bin(z + far - t.z);
            for (int r = r0; r <= r1; ++r)
                for (int c = c0; c <= c1; ++c)
                    for (const Solid& s : t.bins[static_cast<size_t>(r * across_ + c)])
                        if (within(s, x, z, reach)) f(s);
        });
    }
    // f(solid) for all of them.
    template <class F>
    void each(F f) {
        for (int tz = 0; !none() && tz < plantings_.tilesDown(); ++tz)
            for (int tx = 0; tx < plantings_.tilesAcross(); ++tx) {
                const Tile& t = tile(tx, tz);
                for (const Solid& s : t.large) f(s);
                for (const auto& some : t.bins)
                    for (const Solid& s : some) f(s);
            }
    }

private:
    static constexpr double kSmall = 2, kBin = 4;  // metres: what reaches farther is kept apart; the side of a bin
    struct Tile {
        double x = 0, z = 0;  // metres: its north-west corner
        std::vector<Solid> large;
        std::vector<std::vector<Solid>> bins;
    };
    // A kind that blocks: the outlines of its variants at size 1, which are turned with it; empty for round ones.
    struct Blocking {
        size_t kind;
        std::vector<std::vector<std::array<double, 2>>> outlines;
        std::vector<double> heights;
    };

    static bool within(const Solid& s, double x, double z, double reach) {
        const double far = s.radius + reach;
        return (s.x - x) * (s.x - x) + (s.z - z) * (s.z - z) <= far * far;
    }
    int bin(double metres) const { return std::clamp(static_cast<int>(std::floor(metres / kBin)), 0, across_ - 1); }
    Tile& tile(int tx, int tz);
    template <class F>
    void eachTile(double x, double z, double far, F f) {
        const Level& level = plantings_.level();
        const double wide = Plantings::kTile * level.spacing;
        const auto place = [wide](double metres, int count) {
            return std::clamp(static_cast<int>(std::floor(metres / wide)), 0, count - 1);
        };
        const int x0 = place(x - far - level.originX, plantings_.tilesAcross()),
                  x1 = place(x + far - level.originX, plantings_.tilesAcross());
        const int z0 = place(z - far - level.originZ, plantings_.tilesDown()),
                  z1 = place(z + far - level.originZ, plantings_.tilesDown());
        for (int tz = z0; tz <= z1; ++tz)
            for (int tx = x0; tx <= x1; ++tx) f(tile(tx, tz));
    }
    Solid solidOf(const Blocking& kind, const Planting& p) const;

    Plantings plantings_;
    std::vector<Blocking> kinds_;
    double largest_ = 0;  // metres: the largest radius of any
    int across_ = 1;      // bins of a tile, each way
    std::vector<std::unique_ptr<Tile>> tiles_;
};

}  // namespace jam
