// The legs of a course's line, looked up by place: which point of the line lies nearest to a sample.
#pragma once

#include <algorithm>
#include <cstdint>
#include <vector>

#include "base/region.h"
#include "course/line.h"

namespace jam {

// The nearest place of the line to a sample.
struct Near {
    double away = 1e30;  // metres, on the map
    double side = 0;     // metres to the right of it
    double height = 0, width = 0, shoulder = 0, banking = 0;
};

// Legs of a line, looked up by the square of the map that they may concern: those that reach into it, and those that do
// not but may lie nearer to something there than one that does. So what is found does not depend on the squares, and
// ground has no seams between them.
class LegsBy {
public:
    // `reach` beyond the even part, or the shoulder's when it is negative; by squares of `size` metres from an origin.
    // The line must live as long.
    LegsBy(const std::vector<LinePoint>& line, double x0, double z0, double size, int across, int down,
           double reachBeyond);
    // Whether a leg reaches into square (x, z).
    bool any(int x, int z) const { return reached_[index(x, z)]; }
    // Whether any of the legs of square (x, z) reaches into a part of it, between these metres.
    bool reach(int x, int z, double west, double north, double east, double south) const;
    // From the legs of square (x, z), to world (px, pz).
    Near nearest(int x, int z, double px, double pz) const { return nearest(legs_[index(x, z)], px, pz); }
    // The legs of square (x, z) that may be the nearest to something within `radius` of (px, pz), in their order.
    void among(int x, int z, double px, double pz, double radius, std::vector<uint32_t>& out) const;
    // From these legs.
    Near nearest(const std::vector<uint32_t>& legs, double px, double pz) const;

private:
    size_t index(int x, int z) const {
        return static_cast<size_t>(z) * static_cast<size_t>(across_) + static_cast<size_t>(x);
    }
    const std::vector<LinePoint>& line_;
    double x0_, z0_, size_;
    int across_, down_;
    std::vector<std::vector<uint32_t>> legs_;
    std::vector<bool> reached_;
    // What looking for the nearest needs of each leg.
    struct Leg {
        double x, z, dx, dz, perSquare, reach;
        // Of the place nearest to (px, pz): its share of the leg, and how far it is, squared.
        double at(double px, double pz) const {
            return std::clamp(((px - x) * dx + (pz - z) * dz) * perSquare, 0.0, 1.0);
        }
        double square(double px, double pz, double t) const {
            const double ox = px - x - t * dx, oz = pz - z - t * dz;
            return ox * ox + oz * oz;
        }
    };
    std::vector<Leg> flat_;
};

// f(x, z, nearest) for the samples of `region`, which lies in square (tx, tz), but for blocks of them that no leg
// reaches. Sample (x, z) lies at x0 + x * step, z0 + z * step.
template <class F>
void eachNear(const LegsBy& legs, int tx, int tz, const Region& region, double x0, double z0, double step, F f) {
    constexpr int kBlock = 4;
    std::vector<uint32_t> near;
    for (int bz = region.z0; bz < region.z1; bz += kBlock)
        for (int bx = region.x0; bx < region.x1; bx += kBlock) {
            const int ex = std::min(bx + kBlock, region.x1), ez = std::min(bz + kBlock, region.z1);
            if (!legs.reach(tx, tz, x0 + bx * step, z0 + bz * step, x0 + (ex - 1) * step, z0 + (ez - 1) * step))
                continue;
            legs.among(tx, tz, x0 + 0.5 * (bx + ex - 1) * step, z0 + 0.5 * (bz + ez - 1) * step, 0.75 * kBlock * step,
                       near);
            for (int z = bz; z < ez; ++z)
                for (int x = bx; x < ex; ++x) f(x, z, legs.nearest(near, x0 + x * step, z0 + z * step));
        }
}

}  // namespace jam
