#include "walk/reach_solids.h"

#include <algorithm>
#include <cmath>

#include "base/parallel.h"
#include "level/ground.h"
#include "walk/solids.h"

namespace jam {

namespace {

constexpr uint8_t kUpper = 1, kLower = 2;

class Putting {
public:
    Putting(const Body& body, ReachGround& ground, Solids& solids)
        : body_(body), g_(ground), solids_(solids), ground_(ground.heights),
          touched_(ground.columns - 1, ground.rows - 1), on_(ground.columns, ground.rows) {}

    bool put(const Context& context) {
        solids_.each([&](const Solid& s) { raise(s); });
        if (context.cancelled()) return false;
        parallelFor(g_.rows - 1, 16, [&](int first, int end) {
            std::vector<uint8_t> fine;
            std::vector<int> front;
            for (int r = first; r < end && !context.cancelled(); ++r)
                for (int c = 0; c + 1 < g_.columns; ++c)
                    if (touched_.at(c, r)) look(c, r, fine, front);
        });
        return !context.cancelled();
    }

private:
    bool barsAt(const Solid& s, double ground) const {
        return s.bars(ground + static_cast<double>(body_.step), ground + static_cast<double>(body_.height));
    }
    double groundAt(double x, double z) const {
        return inclineIn(ground_, std::clamp((x - g_.originX) / g_.spacing, 0.0, g_.columns - 1.0),
                         std::clamp((z - g_.originZ) / g_.spacing, 0.0, g_.rows - 1.0))
            .height;
    }
    // f(column, row) for the samples within `far` metres of what is round a solid.
    template <class F>
    void eachRound(const Solid& s, double far, F f) const {
        const double reach = (s.radius + far) / g_.spacing, c = (s.x - g_.originX) / g_.spacing,
                     r = (s.z - g_.originZ) / g_.spacing;
        const int x0 = std::max(static_cast<int>(std::ceil(c - reach)), 0),
                  x1 = std::min(static_cast<int>(std::floor(c + reach)), g_.columns - 1);
        const int z0 = std::max(static_cast<int>(std::ceil(r - reach)), 0),
                  z1 = std::min(static_cast<int>(std::floor(r + reach)), g_.rows - 1);
        for (int z = z0; z <= z1; ++z)
            for (int x = x0; x <= x1; ++x) f(x, z);
    }

    void raise(const Solid& s) {
        // No step between samples that lie farther off comes nearer to it than the body is wide, not even across a
        // cell.
        const double girth = static_cast<double>(body_.radius),
                     thick = 2 * s.radius >= g_.spacing ? std::hypot(girth, std::sqrt(0.5) * g_.spacing) : 0;
        ++last_;
        eachRound(s, thick, [&](int c, int r) {
            const double h = ground_.at(c, r);
            if (!barsAt(s, h) || s.away(xOf(c), zOf(r)).metres > thick) return;
            float& height = g_.heights.at(c, r);
            if (height >= static_cast<float>(s.top)) return;
            height = static_cast<float>(s.top);
            on_.at(c, r) = last_;
        });
        // Every cell that it comes near is looked at.
        eachRound(s, std::max(girth, thick) + 1.5 * g_.spacing, [&](int c, int r) {
            if (c + 1 < g_.columns && r + 1 < g_.rows) touched_.at(c, r) = 1;
        });
    }

    double xOf(double c) const { return g_.originX + c * g_.spacing; }
    double zOf(double r) const { return g_.originZ + r * g_.spacing; }

    // On top of one thing alone, which a jump gets on to.
    bool onTop(int c, int r, int x, int z) const {
        const uint32_t which = on_.at(c, r);
        if (which == 0 || on_.at(c + 1, r + 1) != which || on_.at(x, z) != which) return false;
        const double top = g_.heights.at(c, r), high = static_cast<double>(body_.step + body_.jump);
        double least = 1e30;
        bool within = true;
        for (const auto& corner : {std::array{c, r}, {c + 1, r + 1}, {x, z}}) {
            const int u = corner[0], v = corner[1];
            least = std::min(least, top - static_cast<double>(ground_.at(u, v)));
            bool carried = false;
            solids_.near(xOf(u), zOf(v), 0, [&](const Solid& s) {
                carried = carried || (s.carries && static_cast<float>(s.top) == g_.heights.at(u, v) &&
                                      s.away(xOf(u), zOf(v)).metres <= 0);
            });
            within = within && carried;
        }
        return within && least <= high;
    }

    void look(int c, int r, std::vector<uint8_t>& fine, std::vector<int>& front) {
        uint8_t& cell = g_.cells.at(c, r);
        const uint8_t stands = cell;
        uint8_t tops = 0;
        if (onTop(c, r, c + 1, r)) tops |= kUpper;
        if (onTop(c, r, c, r + 1)) tops |= kLower;
        const auto raised = [&](int x, int z) { return on_.at(x, z) != 0; };
        cell = tops;
        if (stands == 0) return;
        const int n = std::clamp(static_cast<int>(std::ceil(g_.spacing / kFineStep)), 2, kFineSteps), side = n + 1;
        // 0 free, 1 barred or too steep, 2 come by.
        fine.assign(static_cast<size_t>(side * side), 0);
        const auto at = [&](int i, int k) -> uint8_t& { return fine[static_cast<size_t>(k * side + i)]; };
        for (int k = 0; k < side; ++k)
            for (int i = 0; i < side; ++i)
                if (!((i >= k && (stands & kUpper)) || (i <= k && (stands & kLower)))) at(i, k) = 1;
        const double girth = static_cast<double>(body_.radius), half = g_.spacing / 2;
        bool any = false;
        solids_.near(xOf(c + 0.5), zOf(r + 0.5), girth + 1.5 * half, [&](const Solid& s) {
            if (!barsAt(s, groundAt(s.x, s.z))) return;
            for (int k = 0; k < side; ++k)
                for (int i = 0; i < side; ++i)
                    if (at(i, k) == 0 &&
                        s.away(xOf(c + static_cast<double>(i) / n), zOf(r + static_cast<double>(k) / n)).metres < girth)
                        at(i, k) = 1, any = true;
        });
        const bool corners[2][2] = {{raised(c, r), raised(c + 1, r)}, {raised(c, r + 1), raised(c + 1, r + 1)}};
        const auto stays = [&](uint8_t which, int x, int z) {
            if (!(stands & which) || corners[0][0] || corners[1][1] || corners[z][x]) return false;
            if (!any) return true;
            if (at(0, 0) == 1 || at(n, n) == 1 || at(x * n, z * n) == 1) return false;
            // From the north-west corner to the two others.
            std::vector<uint8_t> passed = fine;
            const auto take = [&](int i, int k) {
                if (i < 0 || k < 0 || i > n || k > n) return;
                uint8_t& f = passed[static_cast<size_t>(k * side + i)];
                if (f == 0) f = 2, front.push_back(k * side + i);
            };
            front.clear();
            take(0, 0);
            while (!front.empty()) {
                const int i = front.back() % side, k = front.back() / side;
                front.pop_back();
                take(i - 1, k), take(i + 1, k), take(i, k - 1), take(i, k + 1);
            }
            const auto come = [&](int i, int k) { return passed[static_cast<size_t>(k * side + i)] == 2; };
            return come(n, n) && come(x * n, z * n);
        };
        if (stays(kUpper, 1, 0)) cell |= kUpper;
        if (stays(kLower, 0, 1)) cell |= kLower;
    }

    const Body& body_;
    ReachGround& g_;
    Solids& solids_;
    const Raster<float> ground_;  // as it was before anything stood on it
    Raster<uint8_t> touched_;     // cells
    Raster<uint32_t> on_;         // which solid raised a sample, 0 for none
    uint32_t last_ = 0;
};

}  // namespace

bool putSolids(const Level& level, const Body& body, const Context& context, ReachGround& ground) {
    Solids solids(level);
    if (solids.none()) return true;
    return solids.prepare(context) && Putting(body, ground, solids).put(context);
}

}  // namespace jam
