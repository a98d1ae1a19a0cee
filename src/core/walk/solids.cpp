#include "walk/solids.h"

#include <algorithm>

#include "base/maths.h"
#include "dress/kinds.h"
#include "grow/recipe.h"

namespace jam {

namespace {

using Point = std::array<double, 2>;

double cross(const Point& o, const Point& a, const Point& b) {
    return (a[0] - o[0]) * (b[1] - o[1]) - (a[1] - o[1]) * (b[0] - o[0]);
}

// Andrew, "Another efficient algorithm for convex hulls in two dimensions", 1979. Clockwise as the map is seen, where z
// runs south.
std::vector<Point> hullOf(std::vector<Point> points) {
    std::sort(points.begin(), points.end());
    points.erase(std::unique(points.begin(), points.end()), points.end());
    if (points.size() < 3) return points;
    std::vector<Point> hull(2 * points.size());
    size_t n = 0;
    const auto add = [&](const Point& p, size_t least) {
        while (n >= least && cross(hull[n - 2], hull[n - 1], p) <= 0) --n;
        hull[n++] = p;
    };
    for (const Point& p : points) add(p, 2);
    const size_t lower = n + 1;
    for (size_t i = points.size() - 1; i-- > 0;) add(points[i], lower);
    hull.resize(n - 1);
    return hull;
}

// What of a mesh lies between its foot and a height, seen from above.
std::vector<Point> planOf(const Mesh& mesh, double height) {
    std::vector<Point> plan;
    for (const MeshVertex& v : mesh.vertices)
        if (v.at[1] >= 0 && static_cast<double>(v.at[1]) <= height)
            plan.push_back({static_cast<double>(v.at[0]), static_cast<double>(v.at[2])});
    if (plan.empty())
        for (const MeshVertex& v : mesh.vertices)
            plan.push_back({static_cast<double>(v.at[0]), static_cast<double>(v.at[2])});
    return plan;
}

std::vector<Point> boxRound(const std::vector<Point>& plan) {
    Point low = plan.front(), high = plan.front();
    for (const Point& p : plan)
        for (size_t i = 0; i < 2; ++i) low[i] = std::min(low[i], p[i]), high[i] = std::max(high[i], p[i]);
    return {{low[0], low[1]}, {high[0], low[1]}, {high[0], high[1]}, {low[0], high[1]}};
}

}  // namespace

Solid::Away Solid::away(double px, double pz) const {
    if (outline.empty()) {
        const double dx = px - x, dz = pz - z, far = std::sqrt(dx * dx + dz * dz);
        return far > 0 ? Away{far - radius, dx / far, dz / far} : Away{-radius, 1, 0};
    }
    Away inside{-1e30, 1, 0}, outside{1e30, 1, 0};
    for (size_t i = 0; i < outline.size(); ++i) {
        const Point &a = outline[i], &b = outline[(i + 1) % outline.size()];
        const double ex = b[0] - a[0], ez = b[1] - a[1], square = ex * ex + ez * ez;
        if (square <= 0) continue;
        const double length = std::sqrt(square), east = ez / length, south = -ex / length;
        const double beyond = (px - a[0]) * east + (pz - a[1]) * south;
        if (beyond > inside.metres) inside = {beyond, east, south};
        const double t = std::clamp(((px - a[0]) * ex + (pz - a[1]) * ez) / square, 0.0, 1.0);
        const double dx = px - a[0] - t * ex, dz = pz - a[1] - t * ez, far = std::sqrt(dx * dx + dz * dz);
        if (far < outside.metres) outside = far > 0 ? Away{far, dx / far, dz / far} : Away{0, east, south};
    }
    return inside.metres <= 0 ? inside : outside;
}

Solids::Solids(const Level& level) : plantings_(level) {
    for (size_t k = 0; k < level.kinds.size(); ++k) {
        const Kind& kind = level.kinds[k];
        if (kind.blocks == Blocks::nothing || kind.hidden) continue;
        const float most = largestOf(level, kind);
        if (most == 0) continue;
        Blocking blocking{k, {}, {}};
        double radius = kind.blockRadius;
        if (kind.blocks == Blocks::box || kind.blocks == Blocks::hull) {
            radius = 0;
            const auto meshes = meshesOf(kind);
            for (const auto& variant : meshes->variants) {
                const Mesh& mesh = variant[static_cast<size_t>(Detail::near)];
                const std::vector<Point> plan = planOf(mesh, static_cast<double>(kind.blockHeight));
                blocking.outlines.push_back(kind.blocks == Blocks::box ? boxRound(plan) : hullOf(plan));
                blocking.heights.push_back(std::min<double>(mesh.height(), kind.blockHeight));
                for (const Point& p : blocking.outlines.back()) radius = std::max(radius, std::hypot(p[0], p[1]));
            }
        }
        largest_ = std::max(largest_, radius * static_cast<double>(most));
        kinds_.push_back(std::move(blocking));
    }
    across_ = std::max(static_cast<int>(std::ceil(Plantings::kTile * level.spacing / kBin)), 1);
    if (!none())
        tiles_.resize(static_cast<size_t>(plantings_.tilesAcross()) * static_cast<size_t>(plantings_.tilesDown()));
}

bool Solids::prepare(const Context& context) {
    if (none()) return true;
    if (!plantings_.prepare(plantings_.level().bounds(), context,
                            [](const Kind& k) { return k.blocks != Blocks::nothing && !k.hidden; }))
        return false;
    for (int tz = 0; tz < plantings_.tilesDown(); ++tz)
        for (int tx = 0; tx < plantings_.tilesAcross() && !context.cancelled(); ++tx) tile(tx, tz);
    return !context.cancelled();
}

Solid Solids::solidOf(const Blocking& b, const Planting& p) const {
    const Kind& kind = plantings_.level().kinds[b.kind];
    const double size = p.size;
    Solid s;
    s.x = p.x, s.z = p.z;
    s.foot = p.y;
    s.carries = kind.blocks != Blocks::capsule;
    if (b.outlines.empty()) {
        s.radius = static_cast<double>(kind.blockRadius) * size;
        s.top = s.foot + static_cast<double>(kind.blockHeight) * size;
        return s;
    }
    const size_t variant = std::min<size_t>(p.variant, b.outlines.size() - 1);
    s.top = s.foot + b.heights[variant] * size;
    const double a = static_cast<double>(p.turn) * kRadians, cosine = std::cos(a) * size, sine = std::sin(a) * size;
    for (const Point& at : b.outlines[variant]) {
        s.outline.push_back({s.x + at[0] * cosine - at[1] * sine, s.z + at[0] * sine + at[1] * cosine});
        s.radius = std::max(s.radius, std::hypot(at[0], at[1]) * size);
    }
    return s;
}

Solids::Tile& Solids::tile(int tx, int tz) {
    auto& t = tiles_[static_cast<size_t>(tz) * static_cast<size_t>(plantings_.tilesAcross()) + static_cast<size_t>(tx)];
    if (t) return *t;
    t = std::make_unique<Tile>();
    const Level& level = plantings_.level();
    const double wide = Plantings::kTile * level.spacing;
    t->x = level.originX + tx * wide, t->z = level.originZ + tz * wide;
    t->bins.resize(static_cast<size_t>(across_) * static_cast<size_t>(across_));
    for (const Blocking& b : kinds_)
        for (const Planting& p : plantings_.tile(b.kind, tx, tz)) {
            Solid s = solidOf(b, p);
            if (s.radius > kSmall) t->large.push_back(std::move(s));
            else t->bins[static_cast<size_t>(bin(s.z - t->z) * across_ + bin(s.x - t->x))].push_back(std::move(s));
        }
    return *t;
}

}  // namespace jam
