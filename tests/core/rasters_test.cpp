// Every registered raster, walked: it is saved and read, resized, counted, and found when it changes. And sets of
// tiles.
#include <set>

#include "commit/commit.h"
#include "files/level_file.h"
#include "folder.h"
#include "level/history.h"
#include "level/rasters.h"
#include "level/resize.h"
#include "level/strata.h"
#include "levels.h"
#include "stroke/stroker.h"
#include "survey/check.h"

#include <catch2/catch.hpp>

using namespace jam;
using namespace jam::test;

namespace {

// Another value for one sample, of any type.
float other(float v) { return v + 1.25f; }
uint8_t other(uint8_t v) { return static_cast<uint8_t>(v ^ 0x53); }
uint16_t other(uint16_t v) { return static_cast<uint16_t>(v ^ 0x1234); }
Wet other(Wet w) { return {w.wet() ? w.surface + 1 : 3.f, w.body + 1}; }
Wash other(Wash w) {
    return {static_cast<uint16_t>(w.red ^ 7), w.green, w.blue, static_cast<uint16_t>(w.strength ^ 0x4321)};
}

// The `index`th raster that has samples: f(kind, grid). False when there are no more.
template <class L, class F>
bool withRaster(L& level, int index, F f) {
    int at = 0;
    bool found = false;
    eachRaster(level, [&](const auto& kind, const auto&, uint32_t, auto& grid) {
        if (grid.columns() == 0 || at++ != index) return;
        found = true;
        f(kind, grid);
    });
    return found;
}

}  // namespace

TEST_CASE("every raster of a level is told apart by its name, and has the size that its description says") {
    const Level level = lopsidedLevel();
    std::set<std::string> names;
    int rasters = 0;
    eachRaster(level, [&](const auto& kind, const auto& owner, uint32_t id, const auto& grid) {
        CHECK(names.insert(std::string(kind.name) + std::to_string(id)).second);
        const bool there = !kind.there || kind.there(owner);
        CHECK(grid.columns() == (there ? columnsOf(level, kind.resolution) : 0));
        rasters += there;
    });
    CHECK(rasters == 6 + 2 + 10 + 2 + 8);  // wash, two of gaps, fence and water, strata, coverages, two of the layer
                                           // with living rules, and three of each kind
    CHECK(checkLevel(level).empty());
}

TEST_CASE("a change of any raster is found, saved, undone and counted") {
    const Level before = lopsidedLevel();
    const Folder folder;
    for (int i = 0;; ++i) {
        Level after = before;
        const char* name = nullptr;
        Shows shows{};
        bool stored = true;
        size_t tile = 0;
        const bool there = withRaster(after, i, [&](const auto& kind, auto& grid) {
            grid.set(grid.columns() - 3, 2, other(grid.at(grid.columns() - 3, 2)));
            name = kind.name, shows = kind.shows, stored = kind.kStored;
            tile = 64 * 64 * sizeof(grid.at(0, 0));
        });
        if (!there) break;
        INFO(name << " " << i);
        CHECK_FALSE(after == before);
        const Change change = changesBetween(after, before);
        CHECK(change.ground.empty() == (shows != Shows::ground));
        CHECK(change.cover.empty() == (shows != Shows::weights));
        CHECK(change.wash.empty() == (shows != Shows::wash));
        CHECK(change.gaps.empty() == (shows != Shows::gaps));
        CHECK(change.water.empty() == (shows != Shows::water));
        size_t tiles = 0;
        for (const Shows shown : kAllShown) tiles += change.of(shown).tiles();
        CHECK(tiles == (shows == Shows::nothing ? 0 : 1));
        const size_t bytes = bytesBeside(after, before);
        CHECK(bytes >= tile);
        CHECK(bytes < tile + 4096);
        History history(before, "start");
        history.push(after, "change");
        history.undo();
        CHECK(history.now() == before);
        const auto file = folder.path / "level.jamhill";
        REQUIRE(saveLevel(after, file));
        const Result<Level> read = loadLevel(file);
        REQUIRE(read);
        // What follows is made anew and not stored.
        CHECK(read.value() == (stored ? after : before));
    }
}

TEST_CASE("what differs between two levels is told object by object, and only where it can be seen") {
    const Level before = lopsidedLevel();
    const auto differs = [&](const std::function<void(Level&)>& change) {
        Level after = before;
        change(after);
        const Change there = changesBetween(after, before), back = changesBetween(before, after);
        CHECK(there.ground == back.ground);
        CHECK(there.cover == back.cover);
        return there;
    };
    CHECK(differs([](Level&) {}).empty());
    // The upper stratum has heights in the east only.
    for (const auto& change : std::vector<std::function<void(Level&)>>{[](Level& l) { l.strata[1].opacity = 0.3f; },
                                                                       [](Level& l) { l.strata[1].visible = false; },
                                                                       [](Level& l) { l.strata.pop_back(); }}) {
        const Change c = differs(change);
        CHECK(c.ground.tiles() == 4);
        CHECK_FALSE(c.ground.contains(20, 40));
        CHECK(c.strata == std::vector<uint32_t>{before.strata[1].id});
        CHECK(c.cover.empty());
    }
    CHECK(differs([](Level& l) { l.startHeight += 1; }).ground.bounds() == before.bounds());
    // Hiding a layer: where it covers. Hiding the lowest, or another order: everywhere.
    const Change hidden = differs([](Level& l) { l.layers[7].hidden = true; });
    CHECK_FALSE(hidden.cover.empty());
    CHECK(hidden.layers == std::vector<uint32_t>{before.layers[7].id});
    CHECK(hidden.looks);
    CHECK(differs([](Level& l) { l.layers[0].hidden = true; }).cover.bounds() == before.coverBounds());
    CHECK(differs([](Level& l) { REQUIRE(moveLayer(l, l.layers[3].id, 5)); }).cover.bounds() == before.coverBounds());
    // A name concerns lists, a look the picture, a blend of two both layers' borders.
    const Change named = differs([](Level& l) { l.layers[7].name = "other"; });
    CHECK((named.layers.size() == 1 && !named.looks && !named.samples()));
    const Change look = differs([](Level& l) { l.layers[7].look.turn += 1; });
    CHECK((look.layers.size() == 1 && look.looks && !look.samples()));
    CHECK(differs([](Level& l) { setBlendBetween(l, l.layers[1].id, l.layers[3].id, {}); }).looks);
    CHECK(differs([](Level& l) { l.sun.elevation += 1; }).sun);
    CHECK(differs([](Level& l) { l.name = "other"; }).name);
}

TEST_CASE("levels in which the same id means something else are compared all the same") {
    // After undoing, what is made next gets the id that went; a view that draws late compares the two.
    const Level before = lopsidedLevel();
    Level course = before, plain = before;
    for (Level* l : {&course, &plain}) addStratum(*l, "new", 1);
    Stratum& mixes = course.strata.back();
    mixes.course = Course{};
    mixes.course->posts.resize(2);
    mixes.owned = TiledGrid<float>(course.columns, course.rows, 0.f);
    mixes.owned.set(70, 20, 1);
    plain.strata.back().heights.set(3, 3, 2);
    for (const auto& [now, was] : {std::pair{&course, &plain}, {&plain, &course}}) {
        const Change c = changesBetween(*now, *was);
        CHECK(c.ground.contains(70, 20));
        CHECK(c.ground.contains(3, 3));
    }
    // Two that were made apart share nothing, not even the rasters that neither has.
    Level apart = before;
    addStratum(apart, "new", 1);
    apart.strata.back().heights.set(9, 9, 1);
    Change all;
    all.ground = before.bounds();
    CHECK(changesBetween(apart, plain, &all).ground.contains(9, 9));
}

TEST_CASE("every raster goes along when a level is cropped or resampled") {
    const Level level = lopsidedLevel();
    const Result<Level> cropped = cropLevel(level, {20, 11, 120, 80});
    REQUIRE(cropped);
    CHECK(checkLevel(cropped.value()).empty());
    eachRasterOfBoth(cropped.value(), level, [&](const auto& kind, const auto& small, const auto* large) {
        const int f = kind.resolution == Resolution::cover ? 2 : 1;
        if (small.columns() == 0) return;
        INFO(kind.name);
        for (int z = 0; z < small.rows(); ++z)
            for (int x = 0; x < small.columns(); ++x)
                if (!(small.at(x, z) == large->at(x + 20 * f, z + 11 * f))) {
                    FAIL("at " << x << ", " << z);
                }
    });
    const Result<Level> finer = resampleLevel(level, 297, 169, 0.75);
    REQUIRE(finer);
    CHECK(checkLevel(finer.value()).empty());
    // Samples that lie on old ones keep their values, but for rounding and the level's range.
    eachRasterOfBoth(finer.value(), level, [&](const auto& kind, const auto& fine, const auto* coarse) {
        if (fine.columns() == 0) return;
        INFO(kind.name);
        const int x = coarse->columns() / 3, z = coarse->rows() / 2;
        if constexpr (!std::remove_cvref_t<decltype(kind)>::kStored)
            CHECK(fine.presentTiles() == 0);  // the follower makes it anew
        else if constexpr (std::is_same_v<std::remove_cvref_t<decltype(fine.at(0, 0))>, Wash>)
            CHECK(fine.at(20, 140).strength == Approx(coarse->at(10, 70).strength).margin(2));
        else
            CHECK(static_cast<double>(fine.at(2 * x, 2 * z)) ==
                  Approx(static_cast<double>(coarse->at(x, z))).margin(1));
    });
}

TEST_CASE("pictures and tables of tiles are part of history's budget") {
    Level level = flatLevel(65, 65, 1);
    const Level before = level;
    Layer large = plainLayer("large");
    large.colour = std::make_shared<PictureFile>(PictureFile{"large.png", std::vector<uint8_t>(5000000)});
    addLayer(level, large);
    CHECK(bytesBeside(level, before) >= 5000000);
    Level twice = level;
    addLayer(twice, large);  // the same picture once more costs nothing
    CHECK(bytesBeside(twice, level) < 10000);
    History history(before, "start", 8000000);
    for (int i = 0; i < 4; ++i) {
        Level next = history.now();
        large.colour = std::make_shared<PictureFile>(PictureFile{"large.png", std::vector<uint8_t>(5000000)});
        next.layers[0].colour = large.colour;
        history.push(next, "swap");
    }
    CHECK(history.entries().size() <= 3);
}

TEST_CASE("a set of tiles holds what was put in, in few spots", "[property]") {
    Random random(4);
    const Region bounds{0, 0, 700, 500};
    for (int round = 0; round < 60; ++round) {
        TileSet set;
        Raster<uint8_t> truth(700, 500, 0);
        for (int i = wholeBetween(random, 0, 5); i > 0; --i) {
            const int x = wholeBetween(random, 0, 690), z = wholeBetween(random, 0, 490);
            const Region r =
                Region{x, z, x + wholeBetween(random, 1, 150), z + wholeBetween(random, 1, 90)}.clipped(bounds);
            set.add(r);
            for (int b = r.z0; b < r.z1; ++b) std::fill_n(truth.view().row(b) + r.x0, r.width(), 1);
        }
        const auto inSpots = [](const std::vector<Region>& spots, int x, int z) {
            return std::any_of(spots.begin(), spots.end(), [&](const Region& s) { return s.contains(x, z); });
        };
        const std::vector<Region> spots = set.spots(), fine = set.finer(4).spots(), coarse = set.coarser(2).spots(),
                                  grown = set.grown(9, bounds).spots();
        for (int i = 0; i < 400; ++i) {
            const int x = wholeBetween(random, 0, 699), z = wholeBetween(random, 0, 499);
            if (!truth.at(x, z)) continue;
            CHECK(set.contains(x, z));
            CHECK(inSpots(spots, x, z));
            for (const int d : {-3, 0, 3})
                if (4 * x + d >= 0 && 4 * z + d >= 0) CHECK(inSpots(fine, 4 * x + d, 4 * z + d));
            CHECK(inSpots(coarse, x / 2, z / 2));
            CHECK(inSpots(grown, std::min(x + 9, 699), std::max(z - 9, 0)));
        }
        CHECK(set.bounds() == set.clipped(bounds).bounds());
    }
    TileSet corners;
    for (const Region& r :
         {Region{3, 3, 9, 9}, Region{690, 3, 699, 9}, Region{3, 480, 9, 499}, Region{690, 480, 699, 499}})
        corners.add(r);
    REQUIRE(corners.spots().size() == 4);
    CHECK(corners.spots().front() == Region{3, 3, 9, 9});
    CHECK(corners.tiles() == 4);
}

TEST_CASE("a mirrored stroke touches its corners and not the level between them") {
    Level level = flatLevel(1025, 1025, 1);
    Stroke s;
    s.settings.mirror = {MirrorKind::acrossBoth, 0, 0};
    s.settings.radius = 20;
    s.points = {{400, 380, 1, 0}, {410, 380, 1, 0.1}};
    const Result<Change> done = runStroke(level, s);
    REQUIRE(done);
    CHECK(done.value().ground.spots().size() == 4);
    CHECK(done.value().ground.tiles() < 30);
}

TEST_CASE("the same work gives the same level whoever commits it, and living rules follow all of it") {
    const Level before = lopsidedLevel();
    Level after = before;
    for (int r = 10; r < 40; ++r)
        for (int c = 60; c < 90; ++c)
            after.strata[0].heights.set(c, r, after.strata[0].heights.at(c, r) + static_cast<float>(c - 60));
    const Result<Commit> looked = commitWork(before, after);
    REQUIRE(looked);
    CHECK_FALSE(looked.value().change.raster);
    CHECK_FALSE(looked.value().level.layers[2].coverage == before.layers[2].coverage);
    const Change told = changesBetween(after, before);
    const Result<Commit> hinted = commitWork(before, after, {}, &told);
    REQUIRE(hinted);
    CHECK(hinted.value().level == looked.value().level);
    // Committing what is committed already changes nothing more.
    const Result<Commit> again = commitWork(before, looked.value().level);
    REQUIRE(again);
    CHECK(again.value().level == looked.value().level);
    // Another raster: rules follow there too.
    const Result<Level> cropped = cropLevel(before, {30, 0, 149, 85});
    const Result<Commit> smaller = commitWork(before, cropped.value());
    REQUIRE(smaller);
    CHECK(smaller.value().change.raster);
    std::atomic<bool> stop{true};
    Context context;
    context.cancel = &stop;
    const Result<Commit> cancelled = commitWork(before, after, context);
    REQUIRE_FALSE(cancelled);
    CHECK(wasCancelled(cancelled.error()));
}

TEST_CASE("a level whose chosen stratum does not show loads, and another one is at hand") {
    const Folder folder;
    Level level = lopsidedLevel();
    level.strata[1].visible = false;
    const auto file = folder.path / "level.jamhill";
    REQUIRE(saveLevel(level, file));
    Result<Level> read = loadLevel(file);
    REQUIRE(read);
    CHECK(read.value().activeStratum == level.strata[0].id);
    Stroke s;
    s.points = {{level.originX + 50, level.originZ + 40, 1, 0}};
    CHECK(runStroke(read.value(), s));
    level.strata[0].opacity = 0;
    REQUIRE(saveLevel(level, file));
    read = loadLevel(file);
    REQUIRE(read);
    const Level loaded = read.value();
    CHECK_FALSE(runStroke(read.value(), s));
    CHECK(read.value() == loaded);
    CHECK(resampleLevel(loaded, 75, 43, 3));  // and nothing else ends the program either
}
