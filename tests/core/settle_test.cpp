// What rain leaves behind, against a slow reading of its definition.
#include <catch2/catch.hpp>

#include <cmath>
#include <cstring>

#include "brush/rows.h"
#include "levels.h"
#include "shape/settle.h"

using namespace jam;
using namespace jam::test;

namespace {

struct Window {
    int w, d;
    Raster<float> ground, start, fallen, mask;  // what has fallen has a border

    // Some are round, as a dab is, so that rows begin and end in many columns.
    Window(Random& random, int width, int depth, double closed, bool round)
        : w(width), d(depth), ground(w, d), start(w, d), fallen(w + 2, d + 2, 0.f), mask(w, d, 0.f) {
        for (int z = 0; z < d; ++z)
            for (int x = 0; x < w; ++x) {
                start.at(x, z) = static_cast<float>(0.3 * x - 0.1 * z + between(random, -0.4, 0.4));
                const double across = (x + 0.5) / w * 2 - 1, down = (z + 0.5) / d * 2 - 1;
                const bool outside = round && across * across + down * down > 1;
                mask.at(x, z) = outside || between(random, 0, 1) < closed
                                    ? 0.f
                                    : static_cast<float>(between(random, 0.001, 1));
                const bool touched = mask.at(x, z) > 0 && between(random, 0, 1) < 0.4;
                fallen.at(x + 1, z + 1) = touched ? static_cast<float>(between(random, 0, 1.5)) : 0.f;
                const double dug = touched ? between(random, 0, 1) : 0;
                ground.at(x, z) = start.at(x, z) + fallen.at(x + 1, z + 1) - static_cast<float>(dug);
            }
    }
    bool free(int x, int z) const { return x >= 0 && z >= 0 && x < w && z < d && mask.at(x, z) > 0; }
};

template <class F>
void around(int x, int z, F f) {
    for (int nz = z - 1; nz <= z + 1; ++nz)
        for (int nx = x - 1; nx <= x + 1; ++nx)
            if (nx != x || nz != z) f(nx, nz);
}

double standsOut(const std::vector<double>& h, int w, int x, int z) {
    double top = -1e9, foot = 1e9;
    around(x, z, [&](int nx, int nz) {
        top = std::max(top, h[static_cast<size_t>(nz * w + nx)]);
        foot = std::min(foot, h[static_cast<size_t>(nz * w + nx)]);
    });
    const double own = h[static_cast<size_t>(z * w + x)];
    return own > top ? own - top : own < foot ? own - foot : 0;
}

// Sample by sample, in doubles; each gives to its neighbours by hand.
std::vector<double> settledSlowly(const Window& v) {
    const auto at = [&](int x, int z) { return static_cast<size_t>(z * v.w + x); };
    std::vector<double> h, start, load;
    for (int z = 0; z < v.d; ++z)
        for (int x = 0; x < v.w; ++x) {
            h.push_back(v.ground.at(x, z)), start.push_back(v.start.at(x, z));
            load.push_back(v.fallen.at(x + 1, z + 1));
        }
    for (int pass = 0; pass < 2; ++pass) {
        std::vector<double> next = load;
        for (int z = 0; z < v.d; ++z)
            for (int x = 0; x < v.w; ++x)
                around(x, z, [&](int nx, int nz) {
                    if (!v.free(x, z) || !v.free(nx, nz)) return;
                    const double share = nx == x || nz == z ? 0.125 : 0.0625;
                    next[at(x, z)] += share * (load[at(nx, nz)] - load[at(x, z)]);
                });
        for (size_t i = 0; i < h.size(); ++i) h[i] += next[i] - load[i];
        load = next;
    }
    for (int pass = 0; pass < 3; ++pass) {
        std::vector<double> next = h;
        for (int z = 1; z < v.d - 1; ++z)
            for (int x = 1; x < v.w - 1; ++x) {
                if (!v.free(x, z)) continue;
                const double now = standsOut(h, v.w, x, z), was = standsOut(start, v.w, x, z);
                const double made = now > 0   ? std::max(now - std::max(was, 0.0), 0.0)
                                    : now < 0 ? std::min(now - std::min(was, 0.0), 0.0)
                                              : 0.0;
                int takers = 0;
                around(x, z, [&](int nx, int nz) { takers += v.free(nx, nz); });
                around(x, z, [&](int nx, int nz) {
                    if (!v.free(nx, nz)) return;
                    next[at(nx, nz)] += made / takers, next[at(x, z)] -= made / takers;
                });
            }
        h = next;
    }
    return h;
}

}  // namespace

TEST_CASE("what came down settles as its definition says", "[property]") {
    Random random(71);
    for (int round = 0; round < 60; ++round) {
        // Down to windows without any inner sample, and some where most may not be touched.
        // A few are so high that they are worked on in bands.
        const int rows = round % 20 == 7 ? wholeBetween(random, 500, 900) : wholeBetween(random, 1, 30);
        Window v(random, wholeBetween(random, 1, 40), rows, round % 3 * 0.4, round % 4 > 1);
        const std::vector<double> wanted = settledSlowly(v);
        const Raster<float> before = v.ground;
        settle(v.ground.view(), v.start.view(), v.fallen.view(), v.mask.view(), Extents(v.mask.view()));
        INFO("round " << round << ", " << v.w << " x " << v.d);
        double sum = 0, sumBefore = 0, worst = 0;
        bool closedStays = true;
        for (int z = 0; z < v.d; ++z)
            for (int x = 0; x < v.w; ++x) {
                worst = std::max(worst, std::abs(v.ground.at(x, z) - wanted[static_cast<size_t>(z * v.w + x)]));
                closedStays = closedStays && (v.free(x, z) || v.ground.at(x, z) == before.at(x, z));
                sum += v.ground.at(x, z), sumBefore += before.at(x, z);
            }
        CHECK(worst < 2e-5);
        CHECK(closedStays);
        CHECK(sum == Approx(sumBefore).margin(1e-3));
    }
}

TEST_CASE("rows of what settles have the same bits on all processors", "[property]") {
    Random random(72);
    const RowKernels &fast = rowKernels(), &plain = plainRowKernels();
    for (int round = 0; round < 100; ++round) {
        const int n = wholeBetween(random, 1, 80);
        const auto some = [&](double low, double high, bool whole) {
            std::vector<float> v(static_cast<size_t>(n) + 2);
            for (float& f : v)
                f = whole ? static_cast<float>(wholeBetween(random, static_cast<int>(low), static_cast<int>(high)))
                          : static_cast<float>(between(random, low, high));
            return v;
        };
        const std::vector<float> a = some(-5, 5, false), h = some(-5, 5, false), b = some(-5, 5, false),
                                 ua = some(0, 1, true), u = some(0, 1, true), ub = some(0, 1, true),
                                 takers = some(0, 8, true), was = some(-2, 2, false);
        const auto same = [&](const auto& run) {
            std::vector<float> one = h, two = h;
            run(fast, one.data() + 1), run(plain, two.data() + 1);
            return std::memcmp(one.data(), two.data(), sizeof(float) * one.size()) == 0;
        };
        const auto p = [](const std::vector<float>& v) { return v.data() + 1; };
        CHECK(same([&](const RowKernels& k, float* out) { k.spread(out, p(a), p(h), p(b), p(ua), p(u), p(ub), n); }));
        CHECK(same([&](const RowKernels& k, float* out) { k.standOut(out, p(a), p(h), p(b), n); }));
        CHECK(same(
            [&](const RowKernels& k, float* out) { k.excess(out, p(a), p(h), p(b), p(was), p(u), p(takers), n); }));
        CHECK(same([&](const RowKernels& k, float* out) { k.shareOut(out, p(a), p(h), p(b), p(u), p(takers), n); }));
    }
}
