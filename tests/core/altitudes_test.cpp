// Lifting and scaling all of a level, with everything in it that has an altitude.
#include <catch2/catch.hpp>

#include <cmath>

#include "commit/commit.h"
#include "course/bake.h"
#include "cover/rules.h"
#include "fence/fence.h"
#include "level/ground.h"
#include "level/hold_outside.h"
#include "level/strata.h"
#include "levels.h"
#include "match/neighbour.h"
#include "shape/altitudes.h"
#include "shape/whole.h"
#include "survey/check.h"
#include "walk/spots.h"
#include "water/water.h"

using namespace jam;
using namespace jam::test;

namespace {

Level committed(const Level& before, Level after) {
    Result<Commit> done = commitWork(before, std::move(after));
    if (!done) FAIL(done.error().sentence());
    return std::move(done.value().level);
}

Course through(const Level& level, CourseUse use, std::optional<float> height, double z) {
    Course c;
    c.use = use;
    if (use == CourseUse::carve) c.sunk = 1.5f;
    for (const double share : {0.3, 0.6, 0.85}) {
        Post p;
        p.x = level.originX + share * level.width(), p.z = level.originZ + z * level.depth();
        p.width = 5, p.shoulder = 6;
        if (height) p.height = *height - static_cast<float>(share);
        c.posts.push_back(p);
    }
    return c;
}

// Everything that has an altitude, some of it twice: posts with and without a height, a bank, a bed with its stream, a
// pad, a border, pools, rules.
Level furnished() {
    const Level before = lopsidedLevel();
    Level level = before;
    addCourse(level, "road", through(level, CourseUse::grade, 14.f, 0.3));
    addCourse(level, "lane", through(level, CourseUse::grade, {}, 0.5));
    addCourse(level, "wall", through(level, CourseUse::bank, 2.f, 0.62));
    const uint32_t bed = addCourse(level, "bed", through(level, CourseUse::carve, 9.f, 0.75));
    Stream stream;
    stream.name = "brook", stream.course = bed;
    REQUIRE(addStream(level, stream));
    Spot spot;
    spot.name = "start", spot.x = level.originX + 150, spot.z = level.originZ + 20;
    const uint32_t id = addSpot(level, spot).value();
    REQUIRE(setPad(level, id, Pad{4, 3, 11.f}));
    Rule low;
    low.kind = RuleKind::low, low.level = 2, low.from = 0, low.to = 8;
    level.layers[5].rules.push_back(low);
    level.lowest = -60, level.highest = 90;
    return committed(before, std::move(level));
}

// Same spots of a pair of levels, sample by sample: of the ground, the water over it, and the weights of layers.
void checkMoved(const Level& now, const Level& before, const Altitudes& map, double margin) {
    for (int r = 0; r < now.rows; ++r)
        for (int c = 0; c < now.columns; ++c) {
            REQUIRE(groundSample(now, c, r) == Approx(map.of(groundSample(before, c, r))).margin(margin));
            const Wet a = now.water.at(c, r), b = before.water.at(c, r);
            if (map.scale == 1 && std::abs(map.lift) < 100) REQUIRE(a.body == b.body);
        }
}

WholeWish lift(float metres) {
    WholeWish w;
    w.kind = WholeKind::raise;
    w.metres = metres;
    return w;
}

}  // namespace

TEST_CASE("lifting everything leaves all as it was to each other") {
    const Level before = furnished();
    for (const float metres : {10.f, -25.f, 0.125f, 9000.f}) {
        const Result<WholeOutcome> out = reshapeWhole(before, lift(metres));
        REQUIRE(out);
        CHECK(out.value().rise == Approx(std::max(metres, 0.f)).epsilon(1e-3));
        CHECK(out.value().fall == Approx(std::max(-metres, 0.f)).epsilon(1e-3));
        const Level after = committed(before, out.value().level);
        CHECK(checkLevel(after).empty());
        checkMoved(after, before, {1, metres}, metres > 1000 ? 0.02 : 1e-3);
        CHECK(after.startHeight == before.startHeight + metres);
        CHECK(after.lowest == before.lowest + metres);
        CHECK(after.highest == before.highest + metres);
        CHECK(after.pools[0].height == Approx(before.pools[0].height + metres));
        CHECK(after.pools[0].leaks == before.pools[0].leaks);
        CHECK(padOf(after, after.spots[0])->height == Approx(11 + metres));
        CHECK(after.layers[2].rules[1].from == before.layers[2].rules[1].from + metres);
        CHECK(after.layers[5].rules[0].level == 2 + metres);
        CHECK(after.strata[0].heights == before.strata[0].heights);  // the start moved under it
        const auto courseOf = [](const Level& l, const char* name) -> const Course& {
            for (const Stratum& s : l.strata)
                if (s.name == name) return *s.course;
            FAIL(name);
            return *l.strata[0].course;
        };
        CHECK(*courseOf(after, "road").posts[1].height == Approx(*courseOf(before, "road").posts[1].height + metres));
        CHECK(courseOf(after, "wall") == courseOf(before, "wall"));
        CHECK(courseOf(after, "lane") == courseOf(before, "lane"));
        // Living rules by altitude give what they gave.
        if (std::abs(metres) > 100) continue;
        int most = 0;
        for (int r = 0; r < after.coverRows(); ++r)
            for (int c = 0; c < after.coverColumns(); ++c)
                most = std::max(most, std::abs(after.layers[2].base.at(c, r) - before.layers[2].base.at(c, r)));
        CHECK(most < 100);
    }
}

TEST_CASE("lifting all and lowering it again gives the level back") {
    const Level before = furnished();
    const Level up = committed(before, reshapeWhole(before, lift(16)).take().level);
    const Level back = committed(up, reshapeWhole(up, lift(-16)).take().level);
    CHECK(back.pools == before.pools);
    CHECK(back.spots == before.spots);
    CHECK(back.startHeight == before.startHeight);
    CHECK(back.lowest == before.lowest);
    checkMoved(back, before, {}, 1e-5);
}

TEST_CASE("scaling everything scales what has an altitude") {
    const Level before = furnished();
    WholeWish w;
    w.kind = WholeKind::scale;
    w.low = 3, w.high = 27;
    const Result<WholeOutcome> out = reshapeWhole(before, w);
    REQUIRE(out);
    const Level after = committed(before, out.value().level);
    CHECK(checkLevel(after).empty());
    float low = 1e9f, high = -1e9f, wasLow = 1e9f, wasHigh = -1e9f;
    for (int r = 0; r < after.rows; ++r)
        for (int c = 0; c < after.columns; ++c) {
            low = std::min(low, groundSample(after, c, r)), high = std::max(high, groundSample(after, c, r));
            wasLow = std::min(wasLow, groundSample(before, c, r));
            wasHigh = std::max(wasHigh, groundSample(before, c, r));
        }
    CHECK(low == Approx(3).margin(0.01));
    CHECK(high == Approx(27).margin(0.01));
    const Altitudes map{24.0 / (static_cast<double>(wasHigh) - wasLow),
                        3 - 24.0 * wasLow / (static_cast<double>(wasHigh) - wasLow)};
    checkMoved(after, before, map, 0.01);
    CHECK(after.pools[0].height == Approx(map.of(before.pools[0].height)).margin(1e-3));
    CHECK(after.highest == Approx(map.of(before.highest)).margin(1e-3));
    // Protected ground is not scaled.
    Level held = before;
    held.strata[0].locked = true;
    CHECK_FALSE(reshapeWhole(held, w));
    CHECK(reshapeWhole(held, lift(5)));
    // Flat ground has no height to scale: it comes to lie at the lowest.
    const Level flat = flatLevel(20, 9);
    CHECK(groundSample(reshapeWhole(flat, w).value().level, 4, 4) == 3);
}

TEST_CASE("the ground alone leaves all else where it is") {
    const Level before = furnished();
    WholeWish w = lift(7);
    w.along = false;
    const Level alone = reshapeWhole(before, w).take().level;
    w.along = true;
    w.stratum = "of its own";
    const Level apart = reshapeWhole(before, w).take().level;
    for (const Level& l : {alone, apart}) {
        CHECK(l.startHeight == before.startHeight);
        CHECK(l.highest == before.highest);
        CHECK(l.pools == before.pools);
        for (const Stratum& s : before.strata) CHECK(l.stratum(s.id)->course == s.course);
        CHECK(l.layers == before.layers);
        CHECK(groundSample(l, 10, 70) == Approx(groundSample(before, 10, 70) + 7).margin(1e-3));
    }
}

TEST_CASE("inside a fence what lies there goes along, and outside nothing does") {
    Level before = furnished();
    before.fenced = true;
    // The western three fifths, with a soft edge.
    for (int r = 0; r < before.rows; ++r)
        for (int c = 0; c < before.columns; ++c)
            before.fence.set(c, r, static_cast<uint16_t>(kInside * std::clamp((92 - c) / 8.0, 0.0, 1.0)));
    const Level after = committed(before, reshapeWhole(before, lift(6)).take().level);
    CHECK(after.startHeight == before.startHeight);
    CHECK(after.highest == before.highest);
    const auto tarn = before.pools[0];
    CHECK(after.pools[0].height == Approx(tarn.height + 6));
    for (size_t i = 0; i < before.strata.size(); ++i) {
        const auto &was = before.strata[i].course, &is = after.strata[i].course;
        if (!was) continue;
        for (size_t p = 0; p < was->posts.size(); ++p) {
            const Post& post = was->posts[p];
            if (!post.height || was->use == CourseUse::bank) CHECK(is->posts[p] == post);
            else {
                const auto [c, r] = nearestSample(before, post.x, post.z);
                CHECK(*is->posts[p].height == Approx(*post.height + 6 * fenceShare(before, c, r)).margin(1e-4));
            }
        }
    }
    // Courses whose posts lie on both sides run from one height to the other.
    const auto free = [](const Level& level, int c, int r) {
        return std::none_of(level.strata.begin(), level.strata.end(), [&](const Stratum& s) {
            return s.course && (s.owned.at(c, r) > 0 || s.heights.at(c, r) != 0);
        });
    };
    for (int r = 0; r < before.rows; ++r) {
        const float rise = groundSample(after, 60, r) - groundSample(before, 60, r);
        if (free(before, 60, r) && free(after, 60, r)) CHECK(rise == Approx(6).margin(1e-3));
        else CHECK(rise > 1);  // nothing is left in a trench
        if (before.opening.at(140, r) == 0) CHECK(groundSample(after, 140, r) == groundSample(before, 140, r));
    }
}

TEST_CASE("a lift beyond what levels may have is refused in words, and one that is cancelled leaves nothing") {
    const Level level = furnished();
    for (const float metres : {9950.f, -9950.f}) {
        const Result<WholeOutcome> out = reshapeWhole(level, lift(metres));
        REQUIRE_FALSE(out);
        CHECK(out.error().sentence().find("10000 m") != std::string::npos);
    }
    std::atomic<bool> stop{true};
    Context cancelled;
    cancelled.cancel = &stop;
    CHECK_FALSE(moveAltitudes(level, {1, 5}, cancelled));
    // A range that would be no range any more.
    CHECK_FALSE(moveAltitudes(level, {0.001, 0}));
}

TEST_CASE("a border that is lifted with all the rest still owns its side") {
    Level neighbour = hillyLevel(149, 60, 8, 2);
    neighbour.spacing = 1.5;
    Level level = lopsidedLevel();
    neighbour.originX = level.originX, neighbour.originZ = level.originZ - neighbour.depth();
    MatchWish wish;
    wish.side = Side::north;
    wish.blend = 20;
    wish.cover = false;
    const Level fitted = committed(level, matchBorder(level, neighbour, wish).take());
    const Level after = committed(fitted, reshapeWhole(fitted, lift(12)).take().level);
    checkMoved(after, fitted, {1, 12}, 1e-3);
    CHECK(after.strata.back().border == fitted.strata.back().border);
}

TEST_CASE("a change of the height range alone is a change of the ground") {
    const Level before = lopsidedLevel();
    Level after = before;
    after.highest = 12;
    CHECK(changesBetween(after, before).ground.bounds() == before.bounds());
    after = before;
    after.lowest = -3;
    CHECK(changesBetween(after, before).ground.bounds() == before.bounds());
}
