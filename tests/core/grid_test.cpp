#include <catch2/catch.hpp>

#include <atomic>
#include <cstring>
#include <optional>
#include <thread>

#include "base/noise.h"
#include "base/parallel.h"
#include "grid/extents.h"
#include "grid/ground_rows.h"
#include "grid/noise_rows.h"
#include "grid/scratch.h"
#include "grid/tiled_grid.h"
#include "levels.h"

using namespace jam;
using namespace jam::test;

TEST_CASE("an untouched grid holds nothing but its default") {
    const TiledGrid<float> grid(200, 130, 3.5f);
    CHECK(grid.presentTiles() == 0);
    CHECK(grid.bytes() < 200);  // the table of tiles alone
    CHECK(grid.at(199, 129) == 3.5f);
    CHECK(grid.tilesAcross() == 4);
    CHECK(grid.tilesDown() == 3);
}

TEST_CASE("a copy shares every tile until one side writes") {
    TiledGrid<int> a(150, 150, 0);
    a.set(10, 10, 1);
    a.set(140, 140, 2);
    TiledGrid<int> b = a;
    CHECK(b.sharesAll(a));
    b.set(10, 10, 7);
    CHECK(a.at(10, 10) == 1);
    CHECK(b.at(10, 10) == 7);
    CHECK_FALSE(b.sharesTile(a, 0, 0));
    CHECK(b.sharesTile(a, 2, 2));
    CHECK(b.bytesBeside(a) == sizeof(TiledGrid<int>::Tile) + 9 * sizeof(void*));  // and a table of its own
    int changed = 0;
    b.eachChangedTile(a, [&](int, int) { ++changed; });
    CHECK(changed == 1);
}

TEST_CASE("writing what is already there clones nothing") {
    TiledGrid<float> a(100, 100, 0);
    a.set(5, 5, 2);
    TiledGrid<float> b = a;
    Raster<float> same(100, 100);
    a.read(a.bounds(), same.view());
    b.write(b.bounds(), same.view());
    CHECK(b.sharesAll(a));
}

TEST_CASE("reading and writing regions agrees with single samples", "[property]") {
    Random random(1);
    for (int round = 0; round < 200; ++round) {
        const int w = wholeBetween(random, 1, 150), d = wholeBetween(random, 1, 150);
        TiledGrid<int> grid(w, d, -1);
        std::vector<int> plain(static_cast<size_t>(w * d), -1);
        for (int k = 0; k < 5; ++k) {
            const int x0 = wholeBetween(random, 0, w - 1), z0 = wholeBetween(random, 0, d - 1);
            const Region r{x0, z0, wholeBetween(random, x0 + 1, w), wholeBetween(random, z0 + 1, d)};
            Raster<int> in(r.width(), r.depth());
            for (int z = 0; z < r.depth(); ++z)
                for (int x = 0; x < r.width(); ++x) {
                    in.at(x, z) = wholeBetween(random, 0, 9);
                    plain[static_cast<size_t>((r.z0 + z) * w + r.x0 + x)] = in.at(x, z);
                }
            grid.write(r, in.view());
        }
        Raster<int> out(w, d);
        grid.read(grid.bounds(), out.view());
        bool same = true;
        for (int z = 0; z < d; ++z)
            for (int x = 0; x < w; ++x) {
                const int expected = plain[static_cast<size_t>(z * w + x)];
                same &= out.at(x, z) == expected && grid.at(x, z) == expected;
            }
        REQUIRE(same);
    }
}

TEST_CASE("a copy on another thread keeps its samples while the first goes on writing") {
    TiledGrid<int> grid(256, 256, 0);
    grid.prepare(grid.bounds());
    for (int round = 0; round < 50; ++round) {
        grid.set(round, round, round + 1);
        std::thread reader([copy = grid, round] {
            for (int i = 0; i <= round; ++i)
                if (copy.at(i, i) != i + 1) std::abort();
        });
        for (int i = 0; i < 50; ++i) grid.set(200, i, i);
        reader.join();
    }
    SUCCEED();
}

TEST_CASE("tiles that hold the same are shared, all others stay") {
    TiledGrid<uint16_t> a(200, 150, 3), b(200, 150, 7);
    for (TiledGrid<uint16_t>* g : {&a, &b})
        for (int z = 0; z < 150; ++z)
            for (int x = 64; x < 200; ++x) g->set(x, z, static_cast<uint16_t>(x * z));
    b.set(130, 70, 9);
    const TiledGrid<uint16_t> was = a, other = b;
    a.shareEqualTiles(b);
    CHECK(a == was);
    CHECK(b == other);
    CHECK(a.sharesTile(b, 1, 0));
    CHECK_FALSE(a.sharesTile(b, 2, 1));
    // Whoever writes has tiles of its own again.
    a.set(70, 5, 60000);
    CHECK(b == other);
    CHECK_FALSE(a.sharesTile(b, 1, 0));
    CHECK(a.sharesTile(b, 1, 1));
}

TEST_CASE("equality looks at samples, not at pointers") {
    TiledGrid<float> a(70, 70, 0), b(70, 70, 0);
    a.set(1, 1, 0);
    CHECK(a == b);
    a.set(69, 69, 1);
    CHECK_FALSE(a == b);
    b.set(69, 69, 1);
    CHECK(a == b);
}

TEST_CASE("scratch is handed out again, never twice at once, bounded, and given back") {
    { Scratch alone(300, 200); }
    CHECK(Scratch::kept() == 0);
    auto keeping = std::make_optional<Scratch::Keeping>();
    const float* first = nullptr;
    {
        Scratch one(300, 200), two(300, 200);
        CHECK(one.view().data != two.view().data);
        one.at(299, 199) = 7;
        CHECK(one.view().row(199)[299] == 7);
        CHECK(one.view().stride == 300);
        CHECK(Scratch::kept() == 0);
        first = one.view().data;
    }
    CHECK(Scratch::kept() == 2 * 300 * 200 * sizeof(float));
    {
        // A smaller one fits into the room of a larger one, but does not take one that is far too large.
        Scratch again(200, 290), tiny(20, 10);
        CHECK(again.width() == 200);
        CHECK(again.depth() == 290);
        CHECK(Scratch::kept() == 300 * 200 * sizeof(float));
        Scratch other(300, 200);
        CHECK((again.view().data == first || other.view().data == first));
        CHECK(Scratch::kept() == 0);
    }
    // More than is kept at most.
    for (int k = 1; k <= 6; ++k) {
        std::vector<std::unique_ptr<Scratch>> many;
        for (int i = 0; i < k; ++i) many.push_back(std::make_unique<Scratch>(4096, 4096));
        many.clear();
        CHECK(Scratch::kept() <= Scratch::kMost);
        CHECK(Scratch::kept() >= static_cast<size_t>(std::min(k, 4)) * 4096 * 4096 * sizeof(float));
    }
    // The last one that keeps counts.
    auto other = std::make_optional(*keeping);
    keeping.reset();
    CHECK(Scratch::kept() > 0);
    other.reset();
    CHECK(Scratch::kept() == 0);
    keeping.emplace();
    // From many threads, each has its own.
    std::atomic<int> wrong = 0;
    parallelFor(64, 1, [&](int begin, int end) {
        for (int i = begin; i < end; ++i) {
            Scratch mine(50, 40 + i);
            for (int z = 0; z < mine.depth(); ++z) std::fill_n(mine.view().row(z), 50, static_cast<float>(i));
            for (int z = 0; z < mine.depth(); ++z)
                for (int x = 0; x < 50; ++x) wrong += mine.at(x, z) != static_cast<float>(i);
        }
    });
    CHECK(wrong == 0);
}

TEST_CASE("loops over rows of ground do what they say, the same bits on all processors", "[property]") {
    Random random(9);
    const GroundRows &fast = groundRows(), &plain = plainGroundRows();
    const auto same = [](const std::vector<float>& a, const std::vector<float>& b) {
        return std::memcmp(a.data(), b.data(), sizeof(float) * a.size()) == 0;
    };
    for (int round = 0; round < 300; ++round) {
        const auto n = static_cast<size_t>(wholeBetween(random, 1, 70));
        const int count = static_cast<int>(n);
        const auto some = [&](double low, double high) {
            std::vector<float> v(n);
            for (float& f : v) f = static_cast<float>(between(random, low, high));
            return v;
        };
        const std::vector<float> h = some(-60, 60), ground = some(-60, 60);
        std::vector<float> a(n), b(n), wanted(n);
        fast.take(a.data(), h.data(), ground.data(), count, 4), plain.take(b.data(), h.data(), ground.data(), count, 4);
        for (size_t i = 0; i < n; ++i) wanted[i] += (h[i] - ground[i]) * 4;
        REQUIRE((same(a, b) && same(a, wanted)));

        std::vector<float> low = h, high = h;
        fast.span(low.data(), high.data(), ground.data(), count);
        std::vector<float> low2 = h, high2 = h;
        plain.span(low2.data(), high2.data(), ground.data(), count);
        for (size_t i = 0; i < n; ++i) {
            REQUIRE((low[i] == std::min(h[i], ground[i]) && high[i] == std::max(h[i], ground[i])));
            REQUIRE((low2[i] == low[i] && high2[i] == high[i]));
        }

        // One sample alone may differ, or lie at the border, and anywhere in the row.
        const auto at = static_cast<size_t>(wholeBetween(random, 0, count - 1));
        std::vector<float> before = some(-30, 30), after = before;
        if (round % 2) after[at] += 1;
        if (round % 3 == 0) before[at] = round % 4 < 2 ? 40.f : -35.f, after[at] = before[at];
        if (round % 5 == 0) after[at] = 99;
        std::vector<float> kept = after, other = after;
        const auto one = fast.compare(kept.data(), before.data(), count, -35, 40),
                   two = plain.compare(other.data(), before.data(), count, -35, 40);
        bool differs = false, held = false;
        for (size_t i = 0; i < n; ++i) {
            REQUIRE(kept[i] == std::clamp(after[i], -35.f, 40.f));
            differs = differs || kept[i] != before[i];
            held = held || before[i] <= -35 || before[i] >= 40;
        }
        REQUIRE((one.differs == differs && one.held == held && two.differs == differs && two.held == held));
        REQUIRE(same(kept, other));
    }
}

TEST_CASE("blocks of ground are composed as their definition says, the same bits on all processors", "[property]") {
    Random random(13);
    const GroundRows &fast = groundRows(), &plain = plainGroundRows();
    for (int round = 0; round < 100; ++round) {
        // A block with room to its right that stays as it is.
        const int n = wholeBetween(random, 1, 64), rows = wholeBetween(random, 1, 20),
                  apart = n + wholeBetween(random, 0, 9);
        const auto some = [&](int size, double low, double high) {
            std::vector<float> v(static_cast<size_t>(size));
            for (float& f : v) f = static_cast<float>(between(random, low, high));
            return v;
        };
        const int tile = kHeightsApart * rows;
        const std::vector<float> h = some(tile, -60, 60), more = some(tile, -60, 60), owned = some(tile, 0, 1);
        const auto share = static_cast<float>(between(random, 0, 2));
        std::vector<float> a = some(apart * rows, -5, 5), b = a, wanted = a;
        const auto check = [&](const char* what, const auto& kernel, const auto& one) {
            INFO(what << ", " << rows << " rows of " << n);
            kernel(fast, RowBlock{a.data(), apart, n, rows}), kernel(plain, RowBlock{b.data(), apart, n, rows});
            for (int z = 0; z < rows; ++z)
                for (int x = 0; x < n; ++x) {
                    float& w = wanted[static_cast<size_t>(z * apart + x)];
                    w = one(w, static_cast<size_t>(z * kHeightsApart + x));
                }
            REQUIRE(std::memcmp(a.data(), wanted.data(), sizeof(float) * a.size()) == 0);
            REQUIRE(std::memcmp(b.data(), wanted.data(), sizeof(float) * b.size()) == 0);
        };
        check(
            "begin", [&](const GroundRows& k, const RowBlock& block) { k.begin(block, h.data(), share, 7); },
            [&](float, size_t i) { return 7 + share * h[i]; });
        check(
            "add", [&](const GroundRows& k, const RowBlock& block) { k.add(block, more.data(), share); },
            [&](float was, size_t i) { return was + share * more[i]; });
        check(
            "own", [&](const GroundRows& k, const RowBlock& block) { k.own(block, h.data(), owned.data(), 0.5f); },
            [&](float was, size_t i) { return (1 - 0.5f * owned[i]) * was + 0.5f * h[i]; });
        check(
            "keep", [&](const GroundRows& k, const RowBlock& block) { k.keep(block, -35, 40); },
            [&](float was, size_t) { return std::clamp(was, -35.f, 40.f); });
    }
}

TEST_CASE("nine neighbours in a row are spanned, the same on all processors", "[property]") {
    Random random(14);
    for (int round = 0; round < 100; ++round) {
        const int n = wholeBetween(random, 1, 70);
        std::vector<float> low, high;
        for (int i = 0; i < n + 8; ++i) {
            low.push_back(static_cast<float>(between(random, -60, 60)));
            high.push_back(low.back() + static_cast<float>(between(random, 0, 20)));
        }
        for (const GroundRows* rows : {&groundRows(), &plainGroundRows()}) {
            std::vector<float> l = low, h = high;
            rows->nine(l.data(), h.data(), n);
            for (int i = 0; i < n; ++i) {
                REQUIRE(l[static_cast<size_t>(i)] == *std::min_element(low.begin() + i, low.begin() + i + 9));
                REQUIRE(h[static_cast<size_t>(i)] == *std::max_element(high.begin() + i, high.begin() + i + 9));
            }
        }
    }
}

TEST_CASE("extents tell where in each row something is", "[property]") {
    Random random(15);
    for (int round = 0; round < 200; ++round) {
        const int w = wholeBetween(random, 1, 60), d = wholeBetween(random, 1, 12);
        Raster<float> raster(w, d, 0.f);
        for (int n = wholeBetween(random, 0, 6); n > 0; --n)
            raster.at(wholeBetween(random, 0, w - 1), wholeBetween(random, 0, d - 1)) = -0.5f;
        const Extents extents(raster.view());
        const int reach = wholeBetween(random, 0, 3);
        for (int z = 0; z < d; ++z) {
            const auto row = extents.row(z), near = extents.near(z, reach);
            int first = w, end = 0, from = w, to = 0;
            for (int k = 0; k < d; ++k)
                for (int x = 0; x < w; ++x) {
                    if (raster.at(x, k) == 0 || std::abs(k - z) > reach) continue;
                    if (k == z) first = std::min(first, x), end = x + 1;
                    from = std::min(from, std::max(x - reach, 0)), to = std::max(to, std::min(x + reach + 1, w));
                }
            INFO(w << " x " << d << ", row " << z << ", reach " << reach);
            CHECK(row.empty() == (end == 0));
            CHECK(near.empty() == (to == 0));
            if (end > 0) CHECK((row.x0 == first && row.x1 == end));
            if (to > 0) CHECK((near.x0 == from && near.x1 == to));
        }
    }
}

TEST_CASE("what lies between the points of a lattice is read the same on all processors", "[property]") {
    Random random(10);
    const GroundRows &fast = groundRows(), &plain = plainGroundRows();
    for (int round = 0; round < 300; ++round) {
        // Points close together and far apart, and a row that has some of both.
        const int n = wholeBetween(random, 1, 60);
        const double most = round % 3 == 0 ? 0.5 : round % 3 == 1 ? 1.0 : 2.5;
        std::vector<int> cell;
        double at = between(random, 0, 3);
        for (int i = 0; i < n; ++i) cell.push_back(static_cast<int>(at)), at += between(random, 0, most);
        const auto count = static_cast<size_t>(n), points = static_cast<size_t>(cell.back() + 2 + kLatticeBeyond);
        const auto some = [&](size_t size, double low, double high) {
            std::vector<float> v(size);
            for (float& f : v) f = static_cast<float>(between(random, low, high));
            return v;
        };
        const std::vector<float> heights = some(points, -60, 60), rise = some(points, -1, 1),
                                 within = some(count, 0, 1), fade = some(count, 0, 1), sum = some(count, -2, 2);
        std::vector<float> a(count), b(count), one = sum, two = sum;
        fast.between(a.data(), cell.data(), within.data(), n, heights.data());
        plain.between(b.data(), cell.data(), within.data(), n, heights.data());
        fast.bumps(one.data(), cell.data(), within.data(), fade.data(), n, heights.data(), rise.data(), 0.25f);
        plain.bumps(two.data(), cell.data(), within.data(), fade.data(), n, heights.data(), rise.data(), 0.25f);
        for (size_t i = 0; i < count; ++i) {
            const auto c = static_cast<size_t>(cell[i]);
            REQUIRE(a[i] == heights[c] + within[i] * (heights[c + 1] - heights[c]));
            REQUIRE(b[i] == a[i]);
            const float left = heights[c] * within[i] + rise[c], right = heights[c + 1] * (within[i] - 1) + rise[c + 1];
            REQUIRE(one[i] == sum[i] + 0.25f * (left + fade[i] * (right - left)));
            REQUIRE(two[i] == one[i]);
        }
    }
}

TEST_CASE("rows of noise have the bits of their samples taken one by one", "[property]") {
    Random random(12);
    for (int round = 0; round < 100; ++round) {
        const int n = wholeBetween(random, 1, 90), octaves = wholeBetween(random, 1, 6);
        const auto seed = static_cast<uint32_t>(wholeBetween(random, 0, 1000));
        // From many samples to a lattice cell to many cells to a sample, on both sides of 0; rows go down little by
        // little, by leaps and back up.
        const double step = std::pow(10.0, between(random, -2.5, 0.7)), from = between(random, -40, 40);
        std::vector<float> x, row(static_cast<size_t>(n));
        for (int i = 0; i < n; ++i) x.push_back(static_cast<float>(from + i * step));
        NoiseRows rows(x.data(), n, seed, octaves);
        auto z = static_cast<float>(between(random, -40, 40));
        for (int k = 0; k < 12; ++k) {
            rows.row(z, row.data());
            bool same = true;
            for (size_t i = 0; i < x.size(); ++i) same &= row[i] == fractalNoise(x[i], z, seed, octaves);
            INFO("step " << step << ", from " << from << ", z " << z << ", octaves " << octaves);
            REQUIRE(same);
            z += static_cast<float>(k % 5 == 4 ? between(random, -9, 9) : between(random, 0, 2 * step));
        }
    }
}
