// Slab tests after Kay and Kajiya, "Ray Tracing Complex Scenes" (1986); triangles after Möller and Trumbore,
// "Fast, Minimum Storage Ray/Triangle Intersection" (1997).
#include "survey/pick.h"

#include <algorithm>
#include <cmath>
#include <glm/geometric.hpp>
#include <limits>

#include "level/ground.h"
#include "level/opening.h"

namespace jam {

namespace {

constexpr double kNone = std::numeric_limits<double>::infinity();

// Ray parameter range within which the ray lies in [low, high] on one axis.
void clipAxis(double from, double along, double low, double high, double& enter, double& leave) {
    if (std::abs(along) < 1e-300) {
        if (from < low || from > high) leave = -kNone;
        return;
    }
    double a = (low - from) / along, b = (high - from) / along;
    if (a > b) std::swap(a, b);
    enter = std::max(enter, a);
    leave = std::min(leave, b);
}

double meetTriangle(const Ray& ray, const glm::dvec3& a, const glm::dvec3& b, const glm::dvec3& c) {
    constexpr double kSeam = 1e-9;  // neighbours overlap by a hair, so that no ray slips between them
    const glm::dvec3 ab = b - a, ac = c - a, p = glm::cross(ray.along, ac);
    const double det = glm::dot(ab, p);
    if (det == 0) return kNone;
    const glm::dvec3 t = ray.from - a;
    const double u = glm::dot(t, p) / det;
    if (u < -kSeam || u > 1 + kSeam) return kNone;
    const glm::dvec3 q = glm::cross(t, ab);
    const double v = glm::dot(ray.along, q) / det;
    if (v < -kSeam || u + v > 1 + kSeam) return kNone;
    const double s = glm::dot(ac, q) / det;
    return s >= 0 ? s : kNone;
}

// In a ray whose x and z are counted in samples, the nearest meeting with the two triangles of a cell.
double meetCell(const Level& level, const Ray& ray, int c, int r, Meet meet) {
    auto corner = [&](int dc, int dr) { return glm::dvec3(c + dc, groundSample(level, c + dc, r + dr), r + dr); };
    const glm::dvec3 nw = corner(0, 0), se = corner(1, 1);
    const double east = meetTriangle(ray, nw, corner(1, 0), se), west = meetTriangle(ray, nw, corner(0, 1), se);
    if (meet == Meet::surface || !mayHaveGaps(level, {c, r, c + 2, r + 2})) return std::min(east, west);
    const auto solid = [&](double s) {
        if (s == kNone) return s;
        const double column = std::clamp<double>(ray.from.x + s * ray.along.x, c, c + 1),
                     row = std::clamp<double>(ray.from.z + s * ray.along.z, r, r + 1);
        return gapBetween(level, column, row) < kGapEdge ? s : kNone;
    };
    return std::min(solid(east), solid(west));
}

Ray inSamples(const Level& level, const Ray& ray) {
    return {{level.toColumn(ray.from.x), ray.from.y, level.toRow(ray.from.z)},
            {ray.along.x / level.spacing, ray.along.y, ray.along.z / level.spacing}};
}

double enterBlock(const Ray& ray, double x0, double x1, double z0, double z1, HeightSpan span, double reach) {
    double enter = 0, leave = reach;
    clipAxis(ray.from.x, ray.along.x, x0, x1, enter, leave);
    clipAxis(ray.from.z, ray.along.z, z0, z1, enter, leave);
    clipAxis(ray.from.y, ray.along.y, span.low - 1e-4, span.high + 1e-4, enter, leave);
    return enter <= leave ? enter : kNone;
}

struct Descent {
    const Level& level;
    const HeightPyramid& pyramid;
    Ray ray;
    Meet meet;
    double best;

    void visitCells(int bx, int bz) {
        const int c1 = std::min((bx + 1) * HeightPyramid::kBlock, level.columns - 1);
        const int r1 = std::min((bz + 1) * HeightPyramid::kBlock, level.rows - 1);
        for (int r = bz * HeightPyramid::kBlock; r < r1; ++r) {
            // Columns that the ray crosses within this row of cells.
            double enter = 0, leave = best;
            clipAxis(ray.from.z, ray.along.z, r - 1e-9, r + 1 + 1e-9, enter, leave);
            if (enter > leave) continue;
            const double xa = ray.from.x + enter * ray.along.x, xb = ray.from.x + leave * ray.along.x;
            const double low = std::clamp(std::floor(std::min(xa, xb) - 1e-9), -1.0, 1e6);
            const double high = std::clamp(std::floor(std::max(xa, xb) + 1e-9), -1.0, 1e6);
            const int from = std::max(static_cast<int>(low), bx * HeightPyramid::kBlock);
            const int to = std::min(static_cast<int>(high), c1 - 1);
            for (int c = from; c <= to; ++c) best = std::min(best, meetCell(level, ray, c, r, meet));
        }
    }

    void visit(int n, int bx, int bz) {
        if (n == 0) return visitCells(bx, bz);
        struct Child {
            double enter;
            int bx, bz;
        } children[4];
        int count = 0;
        const int below = n - 1, size = HeightPyramid::kBlock << below;
        for (int k = 0; k < 4; ++k) {
            const int x = bx * 2 + k % 2, z = bz * 2 + k / 2;
            if (x >= pyramid.across(below) || z >= pyramid.down(below)) continue;
            const double enter = enterBlock(ray, static_cast<double>(x) * size, static_cast<double>(x + 1) * size,
                                            static_cast<double>(z) * size, static_cast<double>(z + 1) * size,
                                            pyramid.span(below, x, z), best);
            if (enter == kNone) continue;
            int at = count++;  // near to far
            for (; at > 0 && children[at - 1].enter > enter; --at) children[at] = children[at - 1];
            children[at] = {enter, x, z};
        }
        for (int k = 0; k < count; ++k)
            if (children[k].enter <= best) visit(below, children[k].bx, children[k].bz);
    }
};

}  // namespace

std::optional<glm::dvec3> pickGround(const Level& level, const HeightPyramid& pyramid, const Ray& ray, double reach,
                                     Meet meet) {
    Descent d{level, pyramid, inSamples(level, ray), meet, reach};
    const double missed = std::nextafter(reach, kNone);
    d.best = missed;
    const int top = pyramid.levels() - 1, size = HeightPyramid::kBlock << top;
    if (enterBlock(d.ray, 0, size, 0, size, pyramid.whole(), reach) != kNone) d.visit(top, 0, 0);
    if (d.best >= missed) return std::nullopt;
    return ray.from + d.best * ray.along;
}

}  // namespace jam
