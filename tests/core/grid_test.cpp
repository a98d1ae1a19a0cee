#include <catch2/catch.hpp>

#include <thread>

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

TEST_CASE("equality looks at samples, not at pointers") {
    TiledGrid<float> a(70, 70, 0), b(70, 70, 0);
    a.set(1, 1, 0);
    CHECK(a == b);
    a.set(69, 69, 1);
    CHECK_FALSE(a == b);
    b.set(69, 69, 1);
    CHECK(a == b);
}
