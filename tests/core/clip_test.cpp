// Clips: lifted, fitted, set down.
#include "clip/clip.h"

#include <catch2/catch.hpp>
#include <cmath>
#include <set>

#include "clip/fit_layers.h"
#include "clip/set_down.h"
#include "commit/commit.h"
#include "cover/rules.h"
#include "cover/weights.h"
#include "files/level_file.h"
#include "folder.h"
#include "level/changes.h"
#include "level/ground.h"
#include "level/opening.h"
#include "level/strata.h"
#include "levels.h"
#include "survey/check.h"

using namespace jam;
using namespace jam::test;

namespace {

// Without living rules, which would follow the ground that is set down.
Level workedLevel(uint32_t seed = 3) {
    Level l = lopsidedLevel(seed);
    for (Layer& layer : l.layers) layer.alive = false, layer.base = layer.held = {}, layer.rules.clear();
    l.activeStratum = l.strata[0].id;
    return l;
}

Placement middleOf(const Level& level, const Region& box) {
    Placement p;
    p.x = level.originX + (box.x0 + box.x1 - 1) / 2.0 * level.spacing;
    p.z = level.originZ + (box.z0 + box.z1 - 1) / 2.0 * level.spacing;
    return p;
}

Level placed(const Level& level, const Level& clip, const Placement& p, const SetDownWish& wish = {}) {
    Result<Level> done = setDown(level, clip, {p}, wish);
    if (!done) FAIL(done.error().sentence());
    return done.take();
}

// The ground, the weights, the wash and the gaps, sample by sample.
void checkSameLook(const Level& a, const Level& b) {
    REQUIRE(a.layers.size() == b.layers.size());
    for (int r = 0; r < a.rows; ++r)
        for (int c = 0; c < a.columns; ++c) {
            REQUIRE(groundSample(a, c, r) == groundSample(b, c, r));
            REQUIRE(a.wash.at(c, r) == b.wash.at(c, r));
            REQUIRE(gapSample(a, c, r) == gapSample(b, c, r));
        }
    const auto one = weightsOf(a), other = weightsOf(b);
    for (size_t i = 0; i < one.size(); ++i)
        for (int r = 0; r < a.coverRows(); ++r)
            for (int c = 0; c < a.coverColumns(); ++c) REQUIRE(one[i].at(c, r) == other[i].at(c, r));
}

}  // namespace

TEST_CASE("a clip that is lifted and set down again changes nothing") {
    const Level level = workedLevel();
    for (const Region& box : {Region{20, 11, 61, 48}, Region{100, 50, 144, 81}, Region{0, 0, 149, 85}}) {
        const Level clip = liftClip(level, box, "piece").take();
        CHECK(checkLevel(clip).empty());
        CHECK(clip.columns == box.width());
        for (const ClipJoin join : {ClipJoin::replace, ClipJoin::higher, ClipJoin::lower}) {
            SetDownWish wish;
            wish.join = join;
            const Level after = placed(level, clip, middleOf(level, box), wish);
            CHECK(changesBetween(after, level).empty());
        }
        // Also when it is kept in a file meanwhile, and when it fades in from its edge.
        const Folder folder;
        REQUIRE(saveLevel(clip, folder.path / "clip.jamhill"));
        const Level back = loadLevel(folder.path / "clip.jamhill").take();
        SetDownWish soft;
        soft.feather = 9;
        checkSameLook(placed(level, back, middleOf(level, box), soft), level);
    }
    // By a fence, whose shape it has.
    Level fenced = level;
    fenced.fenced = true;
    for (int r = 30; r < 60; ++r)
        for (int c = 40 + r % 7; c < 90; ++c) fenced.fence.set(c, r, static_cast<uint16_t>(c * 700));
    const Level shaped = liftFenced(fenced, "shaped").take();
    CHECK(shaped.columns == 50);
    CHECK(shaped.rows == 30);
    CHECK(shaped.fence.at(10, 3) == fenced.fence.at(50, 33));
    checkSameLook(placed(level, shaped, middleOf(level, {40, 30, 90, 60})), level);
}

TEST_CASE("four quarter turns are the identity, and so are two mirrors") {
    // A square with an odd side turns about a sample.
    const Level level = workedLevel(5);
    const Region box{30, 20, 71, 61};
    const Placement there = middleOf(level, box);
    Level now = level;
    for (int k = 1; k <= 4; ++k) {
        const Level clip = liftClip(now, box, "turned").take();
        Placement p = there;
        p.turn = 90;
        now = placed(now, clip, p);
        // Clockwise seen from above: what was north is east.
        if (k == 1) CHECK(groundSample(now, 70, 25) == Approx(groundSample(level, 35, 20)).margin(1e-4));
        if (k == 1) CHECK(std::abs(groundSample(now, 70, 25) - groundSample(level, 70, 25)) > 0.05);
    }
    for (int r = 0; r < level.rows; ++r)
        for (int c = 0; c < level.columns; ++c)
            REQUIRE(groundSample(now, c, r) == Approx(groundSample(level, c, r)).margin(2e-5));
    const auto one = weightsOf(level), other = weightsOf(now);
    for (size_t i = 0; i < one.size(); ++i)
        for (int r = 0; r < level.coverRows(); ++r)
            for (int c = 0; c < level.coverColumns(); ++c) REQUIRE(one[i].at(c, r) == other[i].at(c, r));
    CHECK(now.wash == level.wash);
    CHECK(now.opening == level.opening);
    // A whole turn at once is nothing to the bit, oblong or not.
    const Region oblong{30, 20, 72, 51};
    Placement whole = middleOf(level, oblong);
    whole.turn = 360;
    CHECK(changesBetween(placed(level, liftClip(level, oblong, "o").take(), whole), level).empty());
    Placement mirrored = there;
    mirrored.mirror = true;
    Level twice = placed(level, liftClip(level, box, "m").take(), mirrored);
    CHECK(groundSample(twice, 30, 33) == Approx(groundSample(level, 70, 33)).margin(1e-4));
    twice = placed(twice, liftClip(twice, box, "m").take(), mirrored);
    for (int r = 0; r < level.rows; ++r)
        for (int c = 0; c < level.columns; ++c)
            REQUIRE(groundSample(twice, c, r) == Approx(groundSample(level, c, r)).margin(2e-5));
}

TEST_CASE("a clip scaled up and down again comes back within a few per cent of its relief") {
    Level level = hillyLevel(241, 201, 4);
    const Region box{100, 80, 141, 121};
    const Level clip = liftClip(level, box, "small").take();
    Level big = flatLevel(241, 201, 3);
    big.lowest = -500, big.highest = 900;
    Placement p;
    p.scale = 3;
    big = placed(big, clip, p);
    Level lifted = liftClip(big, {60, 40, 181, 161}, "big").take();
    CHECK(lifted.columns == 121);
    Level back = flatLevel(241, 201, 3);
    back.lowest = -500, back.highest = 900;
    p.scale = 1.0 / 3;
    back = placed(back, lifted, p);
    float low = 1e9f, high = -1e9f;
    double worst = 0;
    for (int r = 0; r < 41; ++r)
        for (int c = 0; c < 41; ++c) {
            const float was = groundSample(level, 100 + c, 80 + r);
            low = std::min(low, was), high = std::max(high, was);
            if (r > 2 && c > 2 && r < 38 && c < 38)
                worst = std::max<double>(worst, std::abs(groundSample(back, 100 + c, 80 + r) - was));
        }
    INFO("worst " << worst << " of " << high - low);
    CHECK(worst < 0.04 * (high - low));
}

TEST_CASE("a clip goes where it is put: moved, raised, turned and scaled, against a plain look-up") {
    const Level level = workedLevel(7);
    const Level clip = liftClip(level, {90, 30, 131, 71}, "bump").take();
    Level onto = flatLevel(201, 161, 10, 1.5, 2);
    onto.lowest = -200, onto.highest = 400;
    onto.originX = -50, onto.originZ = 20;
    for (size_t i = 0; i < onto.layers.size(); ++i) onto.layers[i].name = level.layers[i].name;
    Placement p;
    p.x = 110, p.z = 130, p.turn = 33, p.scale = 1.4, p.raise = 6, p.heightScale = 0.5, p.mirror = true;
    const Level after = placed(onto, clip, p);
    const double foot = clipFoot(clip), turn = 33 * 3.14159265358979 / 180;
    Random random(2);
    int inside = 0;
    for (int i = 0; i < 2000; ++i) {
        const int c = wholeBetween(random, 0, 200), r = wholeBetween(random, 0, 160);
        const double dx = onto.originX + 1.5 * c - p.x, dz = onto.originZ + 1.5 * r - p.z;
        // Back through the turn, the scale and the mirror.
        const double east = -(dx * std::cos(turn) + dz * std::sin(turn)) / 1.4,
                     south = (-dx * std::sin(turn) + dz * std::cos(turn)) / 1.4;
        const double column = (east + clip.width() / 2) / 1.5, row = (south + clip.depth() / 2) / 1.5;
        if (column < 0 || row < 0 || column > 40 || row > 40) {
            CHECK(groundSample(after, c, r) == 0);
            continue;
        }
        ++inside;
        // Bilinear is near enough to bicubic to tell a wrong place from a right one.
        const int x = std::min(static_cast<int>(column), 39), z = std::min(static_cast<int>(row), 39);
        const double u = column - x, v = row - z;
        const double h = (groundSample(clip, x, z) * (1 - u) + groundSample(clip, x + 1, z) * u) * (1 - v) +
                         (groundSample(clip, x, z + 1) * (1 - u) + groundSample(clip, x + 1, z + 1) * u) * v;
        CHECK(groundSample(after, c, r) == Approx(foot + 0.5 * (h - foot) + 6).margin(0.4));
    }
    CHECK(inside > 100);
    const auto corners = cornersOf(clip, p);
    // Mirrored, what was west lies east before it is turned.
    CHECK(corners[0].x == Approx(p.x + 42 * std::cos(turn) + 42 * std::sin(turn)));
    CHECK(corners[0].z == Approx(p.z + 42 * std::sin(turn) - 42 * std::cos(turn)));
}

TEST_CASE("add, higher and lower do as they say, a feather fades, and a clip sits on the ground") {
    Level dome = flatLevel(41, 41, 1);
    dome.startHeight = 0;
    for (int r = 0; r < 41; ++r)
        for (int c = 0; c < 41; ++c)
            dome.strata[0].heights.set(c, r, 20 + std::max(0.f, 10 - static_cast<float>(std::hypot(c - 20, r - 20))));
    const Level clip = liftClip(dome, {5, 5, 36, 36}, "dome").take();
    CHECK(clipFoot(clip) == Approx(20));
    Level slope = flatLevel(101, 81, 1);
    for (int r = 0; r < 81; ++r)
        for (int c = 0; c < 101; ++c) slope.strata[0].heights.set(c, r, 0.5f * static_cast<float>(c));
    Placement p;
    p.x = 10, p.z = -5;
    const auto at = [&](ClipJoin join, double feather, bool sit, int dc, int dr = 0) {
        SetDownWish wish;
        wish.join = join, wish.feather = feather, wish.sit = sit;
        return groundSample(placed(slope, clip, p, wish), 60 + dc, 35 + dr);
    };
    CHECK(at(ClipJoin::add, 0, false, 0) == 40);  // 30 and the dome's 10
    CHECK(at(ClipJoin::add, 0, false, 15) == 37.5f);
    CHECK(at(ClipJoin::replace, 0, false, 0) == 30);
    CHECK(at(ClipJoin::replace, 0, false, 14) == 20);
    CHECK(at(ClipJoin::replace, 0, false, 16) == 38);  // beside it
    CHECK(at(ClipJoin::higher, 0, false, 14) == 37);
    CHECK(at(ClipJoin::lower, 0, false, 14) == 20);
    CHECK(at(ClipJoin::lower, 0, false, 0) == 30);
    // The mean of the rim is where the slope is in its middle.
    CHECK(at(ClipJoin::replace, 0, true, 0) == Approx(40));
    CHECK(at(ClipJoin::replace, 0, true, 12) == Approx(30));
    // Faded in over ten metres: at the edge nothing, half way half, and all of it from there on.
    CHECK(at(ClipJoin::replace, 10, false, 15) == Approx(37.5).margin(1e-4));
    CHECK(at(ClipJoin::replace, 10, false, 10) == Approx((35 + 20) / 2.0).margin(1.2));
    CHECK(at(ClipJoin::replace, 10, false, 3) == Approx(27));
}

TEST_CASE("clips along a line are evenly apart and look along it") {
    const std::vector<MapPlace> line = {{0, 0}, {30, 0}, {30, 20}};
    Placement like;
    like.turn = 10, like.raise = 2;
    const std::vector<Placement> places = placesAlong(line, 10, like).take();
    REQUIRE(places.size() == 6);
    CHECK(places[0].x == 0);
    CHECK(places[0].turn == Approx(10));
    CHECK(places[4].x == 30);
    CHECK(places[4].z == Approx(10));
    CHECK(places[4].turn == Approx(100));
    CHECK(places[5].z == Approx(20));
    CHECK(places[5].raise == 2);
    CHECK(placesAlong({{1, 1}, {1, 1}}, 1, like).error().field == "line");
    CHECK(placesAlong(line, 0, like).error().field == "spacing");
    CHECK(placesAlong(line, 0.011, like).error().field == "spacing");
    CHECK(placesAlong(line, NAN, like).error().field == "spacing");
}

TEST_CASE("two layers that lie the other way round in the level weigh as they did in the clip") {
    Level clip = flatLevel(33, 21, 3);
    for (size_t i = 0; i < 3; ++i) clip.layers[i].name = std::string(1, static_cast<char>('a' + i));
    for (int r = 0; r < 21; ++r)
        for (int c = 0; c < 33; ++c) {
            clip.layers[1].coverage.set(c, r, static_cast<uint16_t>(c < 20 ? 60000 : 9000));
            clip.layers[2].coverage.set(c, r, static_cast<uint16_t>(r < 12 ? 40000 : 0));
        }
    for (const auto& [low, high] : {std::pair<size_t, size_t>{1, 2}, {0, 1}}) {
        Level level = flatLevel(65, 65, 3);
        for (size_t i = 0; i < 3; ++i) level.layers[i].name = clip.layers[i].name;
        std::swap(level.layers[low].name, level.layers[high].name);
        Level fitted = clip;
        REQUIRE(fitLayers(level, fitted));
        for (int r = 0; r < 21; ++r)
            for (int c = 0; c < 33; ++c) {
                const auto was = weightsAt(clip, c, r), is = weightsAt(fitted, c, r);
                for (size_t i = 0; i < 3; ++i) {
                    const size_t at = i == low ? high : i == high ? low : i;
                    REQUIRE(is[at] == was[i]);
                }
            }
    }
}

TEST_CASE("layers are those of the same name, in any order, and what is missing comes along") {
    const Level level = workedLevel();
    const Region box{60, 20, 101, 61};
    const Level clip = liftClip(level, box, "cover").take();
    Level other = level;
    std::swap(other.layers[3], other.layers[7]);
    std::swap(other.layers[0], other.layers[5]);
    other.layers[4].hidden = false;
    other.layers[8].name = "something else";
    other.layers[6].locked = false;
    for (Layer& l : other.layers) l.coverage = TiledGrid<uint16_t>(level.coverColumns(), level.coverRows(), 0);
    const Level after = placed(other, clip, middleOf(level, box));
    REQUIRE(after.layers.size() == 11);
    CHECK(after.layers.back().name == "layer 8");
    CHECK(checkLevel(after).empty());
    const auto was = weightsOf(level), is = weightsOf(after);
    const int f = level.coverFactor;
    for (size_t i = 0; i < after.layers.size(); ++i) {
        const auto at = std::find_if(level.layers.begin(), level.layers.end(),
                                     [&](const Layer& l) { return l.name == after.layers[i].name; });
        for (int r = box.z0 * f; r <= (box.z1 - 1) * f; ++r)
            for (int c = box.x0 * f; c <= (box.x1 - 1) * f; ++c)
                REQUIRE(is[i].at(c, r) ==
                        (at == level.layers.end() ? 0 : was[static_cast<size_t>(at - level.layers.begin())].at(c, r)));
    }
    // Without room for another layer nothing changes.
    Level full = other;
    while (full.layers.size() < kMaxLayers) addLayer(full, plainLayer("more " + std::to_string(full.layers.size())));
    CHECK(setDown(full, clip, {middleOf(level, box)}, {}).error().field == "layers");
    SetDownWish bare;
    bare.cover = false;
    CHECK(setDown(full, clip, {middleOf(level, box)}, bare));
}

TEST_CASE("a clip keeps to the fence, to protected layers, to its stratum, and wins over living rules") {
    Level level = lopsidedLevel();
    // All of it is the rules', nothing yet the hand's.
    level.layers[2].held = TiledGrid<uint16_t>(level.coverColumns(), level.coverRows(), 0);
    refreshLaid(level, level.layers[2].id);
    const Level clip = liftClip(level, {90, 30, 131, 71}, "c").take();
    level.fenced = true;
    for (int r = 0; r < level.rows; ++r)
        for (int c = 0; c < 50; ++c) level.fence.set(c, r, kInside);
    Placement p = middleOf(level, {30, 30, 71, 71});
    SetDownWish wish;
    wish.stratum = "Set down";
    wish.sit = true;
    const Level raw = placed(level, clip, p, wish);
    const Level after = commitWork(level, raw).value().level;
    CHECK(after.strata.back().name == "Set down");
    CHECK(after.activeStratum == after.strata.back().id);
    CHECK(after.strata[0].heights == level.strata[0].heights);
    CHECK(after.strata[1].heights == level.strata[1].heights);
    CHECK(after.layers[6].coverage == level.layers[6].coverage);
    CHECK(after.layers[4].coverage == level.layers[4].coverage);
    int changed = 0;
    for (int r = 0; r < level.rows; ++r)
        for (int c = 0; c < level.columns; ++c) {
            const bool same = groundSample(after, c, r) == groundSample(level, c, r);
            if (c >= 50 || c < 30 || r < 30 || r > 70) REQUIRE(same);
            else changed += !same;
        }
    CHECK(changed > 500);
    // The layer with living rules lies as the clip had it, and the rules let it.
    const int f = level.coverFactor;
    CHECK(after.layers[2].held.at(40 * f, 40 * f) == 65535);
    CHECK(after.layers[2].coverage.at(40 * f, 40 * f) == clip.layers[2].coverage.at(10 * f, 10 * f));
    CHECK(checkLevel(after).empty());
}

TEST_CASE("what cannot be set down is told in a sentence, and nothing changes") {
    const Level level = workedLevel();
    const Level clip = liftClip(level, {90, 30, 131, 71}, "c").take();
    const auto field = [&](const Placement& p, SetDownWish wish = {}) {
        const Result<Level> r = setDown(level, clip, {p}, wish);
        return r ? std::string("accepted") : r.error().field;
    };
    Placement p = middleOf(level, {30, 30, 71, 71});
    CHECK(field(p) == "accepted");
    Placement bad = p;
    bad.x = level.originX - 900;
    CHECK(field(bad) == "x");
    bad = p, bad.turn = NAN;
    CHECK(field(bad) == "turn");
    bad = p, bad.scale = 0;
    CHECK(field(bad) == "scale");
    bad = p, bad.scale = 19;
    CHECK(field(bad) == "scale");
    bad = p, bad.raise = 9000;
    CHECK(field(bad) == "raise");
    CHECK(setDown(level, clip, {bad}, {}).error().sentence().find("level ends at") != std::string::npos);
    SetDownWish wish;
    wish.heights = wish.cover = wish.wash = wish.gaps = wish.plantings = false;
    CHECK(field(p, wish) == "clip");
    wish = {}, wish.feather = -1;
    CHECK(field(p, wish) == "feather");
    CHECK_FALSE(setDown(level, clip, {}, {}));
    CHECK(liftClip(level, {-9, 0, 1, 40}, "none").error().field == "clip");
    CHECK(liftFenced(level, "none").error().field == "clip");
    Level empty = level;
    empty.fenced = true;
    CHECK(liftFenced(empty, "none").error().field == "clip");
    CHECK(setDown(empty, clip, {p}, {}).error().field == "fence");
    Level locked = level;
    locked.strata[0].locked = true;
    CHECK_FALSE(setDown(locked, clip, {p}, {}));
    std::atomic<bool> stop = true;
    Context context;
    context.cancel = &stop;
    CHECK(wasCancelled(setDown(level, clip, {p}, {}, context).error()));
    CHECK(clipJoinFromName("higher") == ClipJoin::higher);
    CHECK_FALSE(clipJoinFromName("high"));
}

TEST_CASE("the samples between two corners hold both, whichever comes first") {
    const Level l = workedLevel();
    const double x = l.originX + 30, z = l.originZ + 15;
    for (const auto& [x0, x1] : {std::pair{x, x + 12}, {x + 12, x}})
        for (const auto& [z0, z1] : {std::pair{z, z + 6}, {z + 6, z}})
            CHECK(samplesBetween(l, x0, z0, x1, z1) == Region{20, 10, 29, 15});
    CHECK(samplesBetween(l, -1e300, z, 1e300, z).clipped(l.bounds()) == Region{0, 10, 149, 11});
}
