#include "walk/ways.h"

#include <algorithm>
#include <cmath>
#include <queue>

#include "base/maths.h"
#include "walk/flights.h"
#include "walk/footing.h"
#include "walk/walker.h"

namespace jam {

namespace {

using Kind = ReachGround::Kind;
// Seconds by which one would rather walk than leap, and rather leap than slide where the ground leads.
constexpr double kLeap = 4, kSlide = 8;
// By how much farther one would rather walk than along a wall or a brink.
constexpr double kBrink = 1.5;
// Seconds that a fall takes.
double falling(double metres) { return std::sqrt(2 * metres / Walker::kGravity); }

// Whether one can walk from a sample straight to one beside it, over a triangle's side or across two triangles.
bool walks(const ReachGround& g, int c, int r, int dc, int dr) {
    const auto cell = [&](int x, int z) -> int {
        return x >= 0 && z >= 0 && x + 1 < g.columns && z + 1 < g.rows ? g.cells.at(x, z) : 0;
    };
    const int x = std::min(c, c + dc), z = std::min(r, r + dr);
    if (dr == 0) return (cell(x, r) & 1) || (cell(x, r - 1) & 2);
    if (dc == 0) return (cell(c - 1, z) & 1) || (cell(c, z) & 2);
    return dc == dr ? cell(x, z) != 0 : cell(x, z) == 3;
}

// Whether one can stand on all six triangles round a sample: neither wall nor brink lies by it.
bool open(const ReachGround& g, int c, int r) {
    return !g.byBorder(c, r) && g.cells.at(c - 1, r - 1) == 3 && (g.cells.at(c, r - 1) & 2) &&
           (g.cells.at(c - 1, r) & 1) && g.cells.at(c, r) == 3;
}

struct Step {
    uint32_t from;
    Stretch by;
};

class Search {
public:
    // `body` leaps; it may be weaker than the one of the ground.
    Search(const ReachGround& g, const Body& body, bool standing) : g_(g), flights_(body, g.spacing, standing) {}

    // The samples on the way and how each was come to; empty when there is none.
    std::vector<std::pair<uint32_t, Stretch>> run(uint32_t from, uint32_t to, const Context& context);

private:
    double guess(uint32_t at, uint32_t to) const {
        const auto n = static_cast<uint32_t>(g_.columns);
        const double c = static_cast<double>(at % n) - to % n, r = static_cast<double>(at / n) - to / n;
        return g_.spacing * std::sqrt(c * c + r * r) / static_cast<double>(g_.body.run);
    }
    // Seconds for a metre at a sample.
    double slowness(int c, int r) const {
        const double deep = g_.deep.empty() ? 0 : g_.deep[g_.at(c, r)] / 255.0;
        return 1 / (paceInWater(deep) * static_cast<double>(g_.body.run));
    }
    template <class F>
    void eachStep(int c, int r, F f);

    const ReachGround& g_;
    Flights flights_;
    Flights::Memory memory_;
};

template <class F>
void Search::eachStep(int c, int r, F f) {
    const float height = g_.heights.at(c, r);
    const bool firm = g_.kinds.at(c, r) == Kind::kFirm;
    const double brink = open(g_, c, r) ? 1 : kBrink;
    bool border = false;  // of its piece
    g_.eachBeside(c, r, [&](int x, int z) { border = border || g_.nodes.at(x, z) != g_.nodes.at(c, r); });
    g_.eachBeside(c, r, [&](int x, int z) {
        if (g_.kinds.at(x, z) == Kind::kNone) return;
        const double far = g_.spacing * (x != c && z != r ? std::sqrt(2.0) : 1.0), up = g_.heights.at(x, z) - height;
        if (firm && walks(g_, c, r, x - c, z - r)) {
            const bool swims = !g_.deep.empty() && g_.deep[g_.at(x, z)] == 255 && g_.deep[g_.at(c, r)] == 255;
            f(x, z, brink * std::sqrt(far * far + up * up) * slowness(x, z), swims ? Stretch::swim : Stretch::walk);
        } else if (g_.brow(c, r, x, z) <= height) {
            // Falling takes its time, and so does sorting oneself out below.
            f(x, z, far / static_cast<double>(g_.body.run) + falling(-up) + (firm ? 0.5 : kSlide), Stretch::drop);
        }
    });
    if (!firm || !border) return;
    flights_.from(g_, c, r, memory_, [&](int x, int z, const Flights::Hop& h, uint32_t) {
        if (g_.kinds.at(x, z) != Kind::kFirm) return;
        const double up = g_.heights.at(x, z) - height;
        f(x, z, h.far / static_cast<double>(g_.body.run) + falling(std::abs(up)) + kLeap,
          up < -1 && h.far < 2 ? Stretch::drop : Stretch::leap);
    });
}

std::vector<std::pair<uint32_t, Stretch>> Search::run(uint32_t from, uint32_t to, const Context& context) {
    const size_t n = static_cast<size_t>(g_.columns) * static_cast<size_t>(g_.rows);
    std::vector<float> best(n, 1e30f);
    std::vector<Step> came(n, Step{ReachGround::kNoNode, Stretch::walk});
    using Entry = std::pair<double, uint32_t>;
    std::priority_queue<Entry, std::vector<Entry>, std::greater<>> front;
    best[from] = 0;
    front.emplace(guess(from, to), from);
    const auto columns = static_cast<uint32_t>(g_.columns);
    for (size_t steps = 0; !front.empty(); ++steps) {
        if ((steps & 0xfff) == 0 && context.cancelled()) return {};
        const auto [cost, at] = front.top();
        front.pop();
        if (at == to) break;
        const double spent = best[at];
        if (cost > spent + guess(at, to) + 1e-3) continue;
        eachStep(static_cast<int>(at % columns), static_cast<int>(at / columns),
                 [&, at = at](int c, int r, double seconds, Stretch by) {
                     const auto next = static_cast<uint32_t>(g_.at(c, r));
                     const auto with = static_cast<float>(spent + seconds);
                     if (with >= best[next]) return;
                     best[next] = with;
                     came[next] = {at, by};
                     front.emplace(static_cast<double>(with) + guess(next, to), next);
                 });
    }
    std::vector<std::pair<uint32_t, Stretch>> way;
    if (best[to] > 1e29f) return way;
    for (uint32_t at = to; at != from; at = came[at].from) way.emplace_back(at, came[at].by);
    way.emplace_back(from, Stretch::walk);
    std::reverse(way.begin(), way.end());
    return way;
}

// Whether one can walk from a to b in a straight line, over triangles that can be stood on.
bool straight(const ReachGround& g, uint32_t a, uint32_t b) {
    const auto n = static_cast<uint32_t>(g.columns);
    const double c0 = a % n, r0 = a / n, dc = static_cast<double>(b % n) - c0, dr = static_cast<double>(b / n) - r0;
    const int steps = static_cast<int>(4 * std::max(std::abs(dc), std::abs(dr)));
    for (int i = 1; i < steps; ++i) {
        const double c = c0 + dc * i / steps, r = r0 + dr * i / steps;
        const int x = std::min(static_cast<int>(c), g.columns - 2), z = std::min(static_cast<int>(r), g.rows - 2);
        const double u = c - x, v = r - z;
        // On a side of a triangle, either counts; a quarter of a step aside, it must be both.
        const int need = std::abs(u - v) < 1e-6 ? 0 : u > v ? 1 : 2;
        if (need == 0 ? g.cells.at(x, z) == 0 : !(g.cells.at(x, z) & need)) {
            if (v < 1e-6 && z > 0 && (g.cells.at(x, z - 1) & 2)) continue;
            if (u < 1e-6 && x > 0 && (g.cells.at(x - 1, z) & 1)) continue;
            return false;
        }
    }
    return true;
}

// Leaves out what one can walk past.
std::vector<std::pair<uint32_t, Stretch>> pulled(const ReachGround& g,
                                                 const std::vector<std::pair<uint32_t, Stretch>>& way) {
    std::vector<std::pair<uint32_t, Stretch>> out{way.front()};
    for (size_t at = 0; at + 1 < way.size();) {
        size_t next = at + 1;
        const Stretch by = way[next].second;
        if (by == Stretch::walk || by == Stretch::swim)
            for (size_t far = at + 2; far < way.size() && way[far].second == by && far - at < 200; ++far) {
                if (!straight(g, way[at].first, way[far].first)) break;
                next = far;
            }
        out.push_back(way[next]);
        at = next;
    }
    return out;
}

// What the way is like, on the ground that is drawn.
void measure(const Level& level, Way& way, const Body& body) {
    Footing footing(level);
    const double run = body.run, most = std::tan(body.slope * kRadians);
    for (size_t i = 0; i + 1 < way.points.size(); ++i) {
        const WayPoint &a = way.points[i], &b = way.points[i + 1];
        const double dx = b.x - a.x, dz = b.z - a.z, far = std::sqrt(dx * dx + dz * dz);
        if (b.by == Stretch::leap || b.by == Stretch::drop) {
            (b.by == Stretch::leap ? way.leaps : way.drops) += 1;
            (b.y > a.y ? way.climb : way.fall) += std::abs(b.y - a.y);
            way.length += std::sqrt(far * far + (b.y - a.y) * (b.y - a.y));
            way.seconds += far / run + falling(std::abs(b.y - a.y)) + 0.5;
            continue;
        }
        const int pieces = std::max(1, static_cast<int>(std::ceil(far / (0.5 * level.spacing))));
        double height = a.y;
        for (int k = 1; k <= pieces; ++k) {
            const double t = static_cast<double>(k) / pieces, x = a.x + t * dx, z = a.z + t * dz;
            const Under u = footing.under(x, z);
            const double depth = u.depth(), to = b.by == Stretch::swim ? a.y + t * (b.y - a.y)
                                                 : u.land              ? u.ground
                                                                       : height;
            const double rise = to - height, piece = far / pieces, along = std::sqrt(piece * piece + rise * rise);
            way.length += along;
            way.deepest = std::max(way.deepest, depth);
            (rise > 0 ? way.climb : way.fall) += std::abs(rise);
            const double deep = std::clamp(depth / std::max<double>(body.wade, 0.1), 0.0, 1.0);
            way.seconds += along / (run * paceInWater(deep));
            // The ground's own, but along the side of a triangle that is too steep to stand on, that of the side.
            double tangent = std::sqrt(u.east * u.east + u.south * u.south);
            if (tangent > most) tangent = piece > 1e-9 ? std::abs(rise) / piece : 0;
            const double slope = std::atan(tangent) * kDegrees;
            if (b.by == Stretch::walk && slope > way.steepest) way.steepest = slope, way.steepX = x, way.steepZ = z;
            height = to;
        }
    }
}

}  // namespace

std::optional<Way> wayBetween(const Level& level, const ReachGround& g, double fromX, double fromZ, double toX,
                              double toZ, const Context& context) {
    const auto first = g.sampleUnder(fromX, fromZ), last = g.sampleUnder(toX, toZ);
    if (!first || !last) return std::nullopt;
    const auto from = static_cast<uint32_t>(g.at((*first)[0], (*first)[1])),
               to = static_cast<uint32_t>(g.at((*last)[0], (*last)[1]));
    // Leaps that are no great feat come first.
    Body careful = g.body;
    careful.jump *= 0.9f, careful.run *= 0.9f;
    auto found = Search(g, careful, true).run(from, to, context);
    const bool feat = found.empty();
    if (feat) found = Search(g, g.body, false).run(from, to, context);
    if (found.empty()) return std::nullopt;
    Way way;
    way.feat = feat;
    const auto n = static_cast<uint32_t>(g.columns);
    for (const auto& [at, by] : pulled(g, found)) {
        const auto c = static_cast<int>(at % n), r = static_cast<int>(at / n);
        way.points.push_back({g.xOf(c), static_cast<double>(g.heights.at(c, r)), g.zOf(r), by});
    }
    measure(level, way, g.body);
    return way;
}

}  // namespace jam
