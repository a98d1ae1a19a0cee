// What stands brings its ground: footprints, their openings and layers; restyling; lines beside courses.
#include <catch2/catch.hpp>

#include <set>

#include "base/maths.h"
#include "commit/commit.h"
#include "course/bake.h"
#include "course/footprint.h"
#include "cover/blend.h"
#include "cover/course_layers.h"
#include "dress/arrange.h"
#include "dress/plantings.h"
#include "dressed.h"
#include "files/level_file.h"
#include "files/stroke_file.h"
#include "folder.h"
#include "level/ground.h"
#include "level/opening.h"
#include "level/strata.h"
#include "stroke/stroker.h"
#include "survey/check.h"
#include "survey/openings.h"
#include "tools/tool.h"

using namespace jam;
using namespace jam::test;

namespace {

uint32_t kindOf(Level& level, const char* recipe) {
    const uint32_t id = addGrown(level, recipe);
    Kind& k = *level.kind(id);
    k.sizeFrom = k.sizeTo = 1;
    return id;
}

uint32_t put(Level& level, uint32_t kind, double x, double z, float turn = 0, float size = 1) {
    Single s;
    s.kind = kind, s.x = x, s.z = z, s.turn = turn, s.size = size;
    return putSingle(level, s).value();
}

Level committed(const Level& before, Level after) {
    Result<Commit> done = commitWork(before, std::move(after));
    REQUIRE(done);
    return std::move(done.value().level);
}

Raster<float> groundOf(const Level& level) {
    Raster<float> all(level.columns, level.rows);
    readGround(level, level.bounds(), all.view());
    return all;
}

bool same(const Raster<float>& a, const Raster<float>& b) {
    for (int z = 0; z < a.depth(); ++z)
        if (!std::equal(a.view().row(z), a.view().row(z) + a.width(), b.view().row(z))) return false;
    return true;
}

// Metres from a place to the outline of a hut, by its own turned box; less than 0 inside.
double beyondBox(const Level& level, const Single& s, double x, double z) {
    const Outlined o = outlineOfKind(*level.kind(s.kind));
    const double a = static_cast<double>(s.turn) * kRadians, dx = x - s.x, dz = z - s.z, size = s.size;
    const double right = dx * std::cos(a) + dz * std::sin(a), back = -dx * std::sin(a) + dz * std::cos(a);
    const double ex = std::max(o.west * size - right, right - o.east * size),
                 ez = std::max(o.north * size - back, back - o.south * size);
    return ex > 0 && ez > 0 ? std::hypot(ex, ez) : std::max(ex, ez);
}

}  // namespace

TEST_CASE("a footprint evens the ground under each that was put down, moves with it, and gives all of it back") {
    Level level = lopsidedHills(3);
    const uint32_t hut = kindOf(level, "hut"), other = kindOf(level, "stone");
    level = committed(level, level);
    const Raster<float> bare = groundOf(level);
    Level next = level;
    const Footprint wish{0, 1.2f, 3};
    REQUIRE(setFootprint(next, hut, wish));
    level = committed(level, next);
    CHECK(same(groundOf(level), bare));  // nobody stands there yet
    next = level;
    const uint32_t first = put(next, hut, 13, 1233, 35), second = put(next, hut, 71.5, 1262, 260, 1.7f);
    put(next, other, 40, 1240);
    level = committed(level, next);
    const Raster<float> evened = groundOf(level);
    int even = 0, left = 0, partly = 0;
    for (int r = 0; r < level.rows; ++r)
        for (int c = 0; c < level.columns; ++c) {
            const double x = level.originX + c * level.spacing, z = level.originZ + r * level.spacing;
            double nearest = 1e9;
            const Single* by = nullptr;
            for (const uint32_t id : {first, second})
                if (const double d = beyondBox(level, *level.single(id), x, z); d < nearest)
                    nearest = d, by = level.single(id);
            if (nearest < 1.1) {
                ++even;
                Level below = level;
                below.strata.resize(static_cast<size_t>(footprintPlace(level, hut)));
                CHECK(evened.at(c, r) == Approx(altitudeAt(below, by->x, by->z)).margin(1e-3));
            } else if (nearest > 12) {
                ++left;
                CHECK(evened.at(c, r) == bare.at(c, r));
            } else if (evened.at(c, r) != bare.at(c, r)) {
                ++partly;
            }
        }
    CHECK(even > 40);
    CHECK(left > 5000);
    CHECK(partly > 30);
    CHECK(checkLevel(level).empty());
    // Its foot stands on what is even.
    const Single s = *level.single(second);
    CHECK(standing(level, *level.kind(hut), s).y ==
          Approx(altitudeAt(level, s.x, s.z) - level.kind(hut)->sink).margin(0.01));
    // Moved, the ground that it had is as it was, to the bit.
    next = level;
    Single moved = *next.single(first);
    moved.x = 95, moved.z = 1220;
    REQUIRE(changeSingle(next, moved));
    const Level there = committed(level, next);
    const int c = static_cast<int>(there.toColumn(13)), r = static_cast<int>(there.toRow(1233));
    CHECK(groundOf(there).at(c, r) == bare.at(c, r));
    CHECK(groundOf(there).at(static_cast<int>(there.toColumn(95)), static_cast<int>(there.toRow(1220))) ==
          Approx(altitudeAt(there, 95, 1220)).margin(1e-4));
    // The ground raised below it takes it along.
    next = there;
    for (int z = 0; z < next.rows; ++z)
        for (int x = 0; x < next.columns; ++x) next.strata[0].heights.set(x, z, next.strata[0].heights.at(x, z) + 5);
    const Level raised = committed(there, next);
    CHECK(altitudeAt(raised, 95, 1220) == Approx(altitudeAt(there, 95, 1220) + 5).margin(1e-3));
    // Gone, all of it is back; with the kind goes its footprint.
    next = there;
    REQUIRE(removeSingle(next, first));
    REQUIRE(removeSingle(next, second));
    CHECK(same(groundOf(committed(there, next)), bare));
    next = there;
    REQUIRE(removeKind(next, hut));
    const Level without = committed(there, next);
    CHECK(same(groundOf(without), bare));
    CHECK(footprintPlace(without, hut) == -1);
}

TEST_CASE("what stands on something else leaves the ground alone") {
    Level level = lopsidedHills(4);
    const uint32_t hut = kindOf(level, "hut");
    REQUIRE(setFootprint(level, hut, Footprint()));
    level = committed(level, level);
    const Raster<float> bare = groundOf(level);
    Level next = level;
    const uint32_t id = put(next, hut, 20, 1240);
    next.single(id)->above = 2.5f;
    CHECK(same(groundOf(committed(level, next)), bare));
}

TEST_CASE("an opening comes with what stands, where it faces, and water and who walks know it") {
    Level level = lopsidedHills(6);
    const uint32_t hut = kindOf(level, "hut");
    Footprint f{0, 6, 4};
    f.hatchWide = 3, f.hatchLong = 5, f.hatchAhead = 4;
    REQUIRE(setFootprint(level, hut, f));
    level = committed(level, level);
    CHECK_FALSE(hasGaps(level));
    Level next = level;
    put(next, hut, 30, 1250, 270);  // its front looks east
    Result<Commit> done = commitWork(level, next);
    REQUIRE(done);
    level = done.value().level;
    CHECK_FALSE(done.value().change.gaps.empty());
    CHECK(hasOpenings(level));
    for (const auto& [x, z, ground] : std::initializer_list<std::tuple<double, double, bool>>{{34, 1250, false},
                                                                                              {36.3, 1250, false},
                                                                                              {36.8, 1250, true},
                                                                                              {31.7, 1250, false},
                                                                                              {31.2, 1250, true},
                                                                                              {34, 1251.3, false},
                                                                                              {34, 1251.8, true},
                                                                                              {34, 1248.2, true},
                                                                                              {26, 1250, true}}) {
        INFO(x << " " << z);
        CHECK(groundAt(level, x, z) == ground);
    }
    CHECK(surveyOpenings(level, 40).size() == 1);
    // Saved and opened it is there again; hidden or gone, the ground is whole.
    const Folder folder;
    REQUIRE(saveLevel(level, folder.path / "a.jamhill"));
    const Result<Level> again = loadLevel(folder.path / "a.jamhill");
    REQUIRE(again);
    CHECK(again.value() == level);
    next = level;
    next.strata[static_cast<size_t>(footprintPlace(level, hut))].visible = false;
    CHECK_FALSE(hasGaps(committed(level, next)));
    next = level;
    REQUIRE(removeSingle(next, next.singles.front().id));
    CHECK_FALSE(hasGaps(committed(level, next)));
    next = level;
    REQUIRE(setFootprint(next, hut, std::nullopt));
    CHECK_FALSE(hasGaps(committed(level, next)));
    next = level;
    REQUIRE(removeKind(next, hut));
    CHECK_FALSE(hasGaps(committed(level, next)));
    // What a hand opened stays.
    next = level;
    next.opening.set(5, 5, 255);
    next.singles.clear();
    const Level painted = committed(level, next);
    CHECK(painted.opening.at(5, 5) == 255);
    CHECK(painted.hatches.presentTiles() == 0);
}

TEST_CASE("a layer lies on a footprint and another round it, and both follow what stands") {
    Level level = lopsidedHills(8);
    const uint32_t hut = kindOf(level, "hut");
    REQUIRE(setFootprint(level, hut, Footprint{0, 1, 5}));
    Level next = level;
    const uint32_t id = put(next, hut, 20, 1240);
    const uint32_t worn = level.layers[1].id, verge = level.layers[2].id;
    layOnCourse(next, next.strata[static_cast<size_t>(footprintPlace(next, hut))].id, worn, verge);
    level = committed(level, next);
    const auto covers = [](const Level& l, uint32_t layer, double x, double z) {
        return l.layer(layer)->coverage.at(static_cast<int>(std::lround((x - l.originX) / l.coverSpacing())),
                                           static_cast<int>(std::lround((z - l.originZ) / l.coverSpacing())));
    };
    CHECK(covers(level, worn, 20, 1240) == kFullCover);
    CHECK(covers(level, worn, 60, 1240) == 0);
    const double beside = 20 + outlineOfKind(*level.kind(hut)).east + 1 + 2.4;
    CHECK(covers(level, verge, beside, 1240) > 0);
    next = level;
    next.single(id)->x = 60;
    const Level moved = committed(level, next);
    CHECK(covers(moved, worn, 20, 1240) == 0);
    CHECK(covers(moved, worn, 60, 1240) == kFullCover);
    CHECK(checkLevel(moved).empty());
}

TEST_CASE("clearing what stands away with a brush gives its ground back") {
    Level level = lopsidedHills(9);
    const uint32_t hut = kindOf(level, "hut");
    level = committed(level, level);
    const Raster<float> bare = groundOf(level);
    Level next = level;
    REQUIRE(setFootprint(next, hut, Footprint{0, 1, 5}));
    put(next, hut, 20, 1240);
    level = committed(level, next);
    REQUIRE_FALSE(same(groundOf(level), bare));
    Stroke stroke;
    stroke.settings = usualSettings(Tool::clearAway);
    stroke.settings.kind = hut;
    stroke.points = {{20, 1240, 1, 0}};
    REQUIRE(runStroke(level, stroke));
    CHECK(level.singles.empty());
    CHECK(same(groundOf(level), bare));
}

TEST_CASE("footprints refuse what files could not keep") {
    Level level = lopsidedHills(2);
    const uint32_t hut = kindOf(level, "hut");
    CHECK_FALSE(setFootprint(level, hut + 50, Footprint()));
    for (const FootprintNumber& n : kFootprintNumbers)
        for (const double v : {n.low - 1, n.high + 1, std::nan("")}) {
            Footprint f;
            f.*n.value = static_cast<float>(v);
            const Status s = setFootprint(level, hut, f);
            INFO(n.name << " " << v);
            REQUIRE_FALSE(s);
            CHECK(s.error().field.find(n.name) != std::string::npos);
        }
    // It is of its kind, which has one: a copy could not be kept.
    REQUIRE(setFootprint(level, hut, Footprint()));
    const size_t strata = level.strata.size();
    CHECK_FALSE(duplicateStratum(level, level.strata[static_cast<size_t>(footprintPlace(level, hut))].id));
    CHECK(level.strata.size() == strata);
    // At the ends of their ranges it is kept, and opened again.
    Footprint most;
    for (const FootprintNumber& n : kFootprintNumbers) most.*n.value = static_cast<float>(n.high);
    REQUIRE(setFootprint(level, hut, most));
    put(level, hut, level.originX, level.originZ + level.depth());
    const Level kept = committed(lopsidedHills(2), level);
    const Folder folder;
    REQUIRE(saveLevel(kept, folder.path / "a.jamhill"));
    const Result<Level> again = loadLevel(folder.path / "a.jamhill");
    REQUIRE(again);
    CHECK(again.value() == kept);
}

TEST_CASE("restyling turns what stands under the brush into another kind, where it stands") {
    Level level = lopsidedHills(11);
    const uint32_t bush = kindOf(level, "bush"), tuft = kindOf(level, "tuft"), stone = kindOf(level, "stone");
    for (const uint32_t id : {bush, tuft}) fill(level, id, 8);
    level.kind(tuft)->seed = 9;  // of one seed they would stand in the same places
    const uint32_t single = put(level, bush, 22, 1241, 77);
    level = committed(level, level);
    const auto places = [](const Level& l, uint32_t kind, bool inside) {
        Plantings all(l);
        std::set<std::pair<double, double>> found;
        const auto at = static_cast<size_t>(l.kindIndex(kind));
        for (int tz = 0; tz < all.tilesDown(); ++tz)
            for (int tx = 0; tx < all.tilesAcross(); ++tx)
                for (const Planting& p : all.tile(at, tx, tz))
                    if ((std::hypot(p.x - 20, p.z - 1240) < 8) == inside) found.insert({p.x, p.z});
        return found;
    };
    Stroke stroke;
    stroke.settings = usualSettings(Tool::restyle);
    stroke.settings.kind = stone, stroke.settings.ofKind = bush;
    stroke.settings.radius = 10, stroke.settings.falloff.softness = 0, stroke.settings.flow = false;
    stroke.points = {{20, 1240, 1, 0}};
    Level after = level;
    REQUIRE(runStroke(after, stroke));
    const auto was = places(level, bush, true);
    REQUIRE(was.size() > 5);
    CHECK(places(after, stone, true) == was);
    CHECK(places(after, bush, true).empty());
    CHECK(places(after, tuft, true) == places(level, tuft, true));
    CHECK(places(after, tuft, false) == places(level, tuft, false));
    CHECK(after.single(single)->kind == stone);
    CHECK(after.single(single)->turn == 77);
    CHECK(checkLevel(after).empty());
    // What it was turned into stays where the rules of its own density say nothing.
    CHECK(after.kind(stone)->held == level.kind(stone)->held);
    // Shift turns it back; without a kind to turn, every other is.
    Stroke back = stroke;
    back.settings = inverted(back.settings);
    REQUIRE(runStroke(after, back));
    CHECK(places(after, bush, true) == was);
    stroke.settings.ofKind = 0;
    Level every = level;
    REQUIRE(runStroke(every, stroke));
    CHECK(places(every, stone, true).size() == was.size() + places(level, tuft, true).size());
    // Half of the way turns about half of them, and a protected kind stays.
    stroke.settings.strength = 0.5f;
    Level half = level;
    REQUIRE(runStroke(half, stroke));
    const size_t all = places(every, stone, true).size(), some = places(half, stone, true).size();
    CHECK(some > all / 4);
    CHECK(some < all * 3 / 4);
    Level kept = level;
    kept.kind(bush)->locked = true;
    stroke.settings.strength = 1;
    REQUIRE(runStroke(kept, stroke));
    CHECK(places(kept, bush, true) == was);
    // A stroke file names both kinds.
    stroke.settings.ofKind = tuft;
    const Result<std::vector<Stroke>> read = parseStrokes(writeStrokes({stroke}, level), "s", level, {});
    REQUIRE(read);
    CHECK(read.value().front() == stroke);
}

TEST_CASE("restyling that needs more singles than there may be is refused and changes nothing") {
    Level level = lopsidedHills(12);
    const uint32_t bush = kindOf(level, "bush"), stone = kindOf(level, "stone");
    fill(level, bush, 100);
    for (size_t i = 0; i + 20 < kMaxSingles; ++i) {
        Single s;
        s.id = level.nextId++, s.kind = stone, s.x = level.originX + 150, s.z = level.originZ + 5;
        level.singles.push_back(s);
    }
    Stroke stroke;
    stroke.settings = usualSettings(Tool::restyle);
    stroke.settings.kind = stone;
    stroke.settings.radius = 20;
    stroke.points = {{20, 1240, 1, 0}};
    const Level before = level;
    const Result<Change> done = runStroke(level, stroke);
    REQUIRE_FALSE(done);
    CHECK(done.error().field == "singles");
    CHECK(level == before);
}

TEST_CASE("a line runs beside a course, on the side of the place that was named") {
    Level level = lopsidedHills(13);
    Course c;
    c.posts = {Post{0, 1230, {}, 4, 4, 0}, Post{40, 1232, {}, 4, 4, 0}, Post{70, 1255, {}, 4, 4, 0}};
    addCourse(level, "lane", c);
    CHECK_FALSE(lineBesideCourse(level, 20, 1270, 5));
    for (const auto& [x, z] : {std::pair(21.0, 1225.0), std::pair(21.0, 1238.0), std::pair(63.0, 1256.0)}) {
        const auto line = lineBesideCourse(level, x, z, 30);
        REQUIRE(line);
        REQUIRE(line.value().size() > 10);
        // Through the place, and everywhere as far from the course as that.
        const auto& course = lineOf(level, level.strata.size() - 1);
        const auto away = [&](double px, double pz) {
            double least = 1e9;
            for (const LinePoint& p : course) least = std::min(least, std::hypot(p.x - px, p.z - pz));
            return least;
        };
        double nearest = 1e9;
        const double far = away(x, z);
        for (const auto& p : line.value()) {
            nearest = std::min(nearest, std::hypot(p[0] - x, p[1] - z));
            CHECK(away(p[0], p[1]) == Approx(far).margin(0.35));
        }
        CHECK(nearest < 1);
    }
    const uint32_t rail = kindOf(level, "post");
    const auto line = lineBesideCourse(level, 21, 1225, 30);
    REQUIRE(putLine(level, rail, line.value()));
    CHECK(level.singles.size() > 10);
    // A gate: one is taken out, the rest stays a line.
    const size_t count = level.singles.size();
    REQUIRE(removeSingle(level, level.singles[count / 2].id));
    CHECK(groupOf(level, level.singles.front().id).size() == count - 1);
}
