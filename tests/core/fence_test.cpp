// Fences: where they lie, how they are changed, and that everything keeps to them.
#include "fence/fence.h"

#include <catch2/catch.hpp>
#include <cmath>
#include <set>

#include "cover/mix.h"
#include "cover/rules.h"
#include "cover/weights.h"
#include "files/level_file.h"
#include "folder.h"
#include "level/changes.h"
#include "level/ground.h"
#include "level/hold_outside.h"
#include "level/rasters.h"
#include "level/resize.h"
#include "level/strata.h"
#include "levels.h"
#include "shape/whole.h"
#include "stroke/stroker.h"
#include "survey/check.h"
#include "tools/tool.h"

using namespace jam;
using namespace jam::test;

namespace {

// Everything that lies where the fence is 0 must be as it was, on every raster.
void checkOutside(const Level& before, const Level& after) {
    const Fence& fence = after.fence;
    bool kept = true, changed = false;
    eachRasterOfBoth(after, before, [&](const auto& kind, const auto& now, const auto* was) {
        if (now.columns() == 0 || std::string_view(kind.name).starts_with("fence")) return;
        const int f = kind.resolution == Resolution::cover ? after.coverFactor : 1;
        for (int z = 0; z < now.rows(); ++z)
            for (int x = 0; x < now.columns(); ++x) {
                const auto old = was ? was->at(x, z) : now.defaultValue();
                if (now.at(x, z) == old) continue;
                changed = true;
                const int c = std::min((x + f / 2) / f, after.columns - 1),
                          r = std::min((z + f / 2) / f, after.rows - 1);
                if (fence.at(c, r) == 0) kept = false;
            }
    });
    // And what stands by hand.
    for (const Single& s : after.singles)
        if (!before.single(s.id)) {
            changed = true;
            const int c = static_cast<int>(std::lround(after.toColumn(s.x))),
                      r = static_cast<int>(std::lround(after.toRow(s.z)));
            if (fence.at(c, r) == 0) kept = false;
        }
    CHECK(kept);
    CHECK(changed);
    for (int z = 0; z < after.rows; ++z)
        for (int x = 0; x < after.columns; ++x)
            if (fence.at(x, z) == 0) kept = kept && groundSample(after, x, z) == groundSample(before, x, z);
    CHECK(kept);
}

Rule between(RuleKind kind, float from, float to) {
    Rule r;
    r.kind = kind, r.from = from, r.to = to, r.fade = 0, r.reach = 0;
    return r;
}

// A lopsided level with a fence off its middle: a triangle, softened.
Level fencedLevel() {
    Level level = lopsidedLevel();
    const double x = level.originX, z = level.originZ, w = level.width(), d = level.depth();
    REQUIRE(joinFence(
        level,
        insidePolygon(level, {{x + 0.35 * w, z + 0.3 * d}, {x + 0.62 * w, z + 0.5 * d}, {x + 0.4 * w, z + 0.8 * d}}),
        FenceJoin::replace));
    REQUIRE(featherFence(level, 3));
    return level;
}

int inside(const Level& level) {
    int n = 0;
    for (int z = 0; z < level.rows; ++z)
        for (int x = 0; x < level.columns; ++x) n += level.fence.at(x, z) > kInside / 2;
    return n;
}

}  // namespace

TEST_CASE("a fenced stroke changes nothing where the fence is 0, on any raster, with any tool and mirror") {
    const auto tool = static_cast<Tool>(GENERATE(range(0, kTools)));
    const bool mirrored = GENERATE(false, true);
    Level level = fencedLevel();
    Stroke s;
    s.settings = usualSettings(tool);
    s.settings.radius = 30;
    s.settings.strength = std::min(s.settings.strength * 4, hasRate(tool) ? 20.f : 1.f);
    s.settings.layer = level.layers[3].id;
    s.settings.from = level.layers[1].id;
    s.settings.angle = 3;
    if (mirrored) s.settings.mirror.kind = MirrorKind::acrossBoth;
    level.layers[3].rules = {{RuleKind::altitude, RuleEffect::add, -50, 400, 3}};
    // Something to rinse, and to restore.
    for (int z = 0; z < level.rows; ++z)
        for (int x = 0; x < level.columns; ++x) level.wash.set(x, z, {10, 20, 30, 60000});
    giveWork(level, tool);
    s.settings.kind = level.kinds[0].id;
    const double x = level.originX + 0.4 * level.width(), z = level.originZ + 0.5 * level.depth();
    for (int i = 0; i < 9; ++i) s.points.push_back({x + 3.3 * i, z - 1.7 * i, 1, 0.12 * i});
    const Level before = level;
    INFO(toolName(tool));
    Stroker stroker(s.settings, level);
    for (const StrokePoint& p : s.points) stroker.add(level, p);
    stroker.finish(level);
    checkOutside(before, level);
}

TEST_CASE("whole-ground work and fills keep to the fence") {
    const int kind = GENERATE(range(0, kWholeKinds));
    const Level level = fencedLevel();
    WholeWish w;
    w.kind = static_cast<WholeKind>(kind);
    w.years = 0.5f;
    w.spike = 0.05f, w.step = 0.5f;
    INFO(wholeName(w.kind));
    Result<WholeOutcome> done = reshapeWhole(level, w);
    REQUIRE(done);
    checkOutside(level, done.value().level);
    w.stratum = "apart";
    done = reshapeWhole(level, w);
    REQUIRE(done);
    checkOutside(level, done.value().level);
    CHECK(done.value().level.strata.size() == level.strata.size() + 1);

    if (kind > 0) return;
    Level filled = level;
    REQUIRE(fillLayer(filled, level.layers[3].id, 1, {}));
    checkOutside(level, filled);
    Level baked = level;
    baked.layers[3].rules = {{RuleKind::altitude, RuleEffect::add, -50, 400, 3}};
    const Level start = baked;
    REQUIRE(bakeRules(baked, level.layers[3].id));
    checkOutside(start, baked);
}

TEST_CASE("an empty fence refuses work, in words, and one out of force does not") {
    Level level = lopsidedLevel();
    level.fenced = true;
    Stroke s;
    s.points = {{level.originX + 60, level.originZ + 60, 1, 0}};
    const Level before = level;
    const Result<Change> no = runStroke(level, s);
    REQUIRE_FALSE(no);
    CHECK(no.error().sentence().find("fence holds nothing") != std::string::npos);
    CHECK(level == before);
    CHECK_FALSE(reshapeWhole(level, {}));
    level.fenced = false;
    CHECK(runStroke(level, s));
}

TEST_CASE("inside a fence ground is flattened to a height, its mean, or the plane through its rim") {
    Level level = flatLevel(90, 70, 1);
    // A tilted plane with a mound in the middle of the fence.
    for (int z = 0; z < 70; ++z)
        for (int x = 0; x < 90; ++x)
            level.strata[0].heights.set(x, z,
                                        0.2f * static_cast<float>(x) - 0.1f * static_cast<float>(z) +
                                            (std::hypot(x - 50, z - 30) < 8 ? 6.f : 0.f));
    const MapPlace a{level.originX + 35, level.originZ + 15}, b{level.originX + 65, level.originZ + 45};
    REQUIRE(joinFence(level, insidePolygon(level, {a, {b.x, a.z}, b, {a.x, b.z}}), FenceJoin::replace));
    CHECK(inside(level) == 31 * 31);
    CHECK(fenceArea(level) == Approx(31 * 31));
    WholeWish w;
    w.kind = WholeKind::flatten;
    w.flattenTo = FlattenTo::rim;
    const Level rim = reshapeWhole(level, w).take().level;
    for (const auto& [x, z] : {std::pair{50, 30}, {36, 16}, {64, 20}, {10, 10}})
        CHECK(groundSample(rim, x, z) == Approx(0.2 * x - 0.1 * z).margin(1e-3));
    w.flattenTo = FlattenTo::mean;
    double sum = 0;
    for (int z = 15; z <= 45; ++z)
        for (int x = 35; x <= 65; ++x) sum += groundSample(level, x, z);
    const Level mean = reshapeWhole(level, w).take().level;
    CHECK(groundSample(mean, 40, 40) == Approx(sum / (31 * 31)).margin(1e-3));
    w.flattenTo = FlattenTo::height;
    w.height = 17;
    const Level height = reshapeWhole(level, w).take().level;
    CHECK(groundSample(height, 65, 45) == 17);
    CHECK(groundSample(height, 66, 45) == groundSample(level, 66, 45));
    // Scaling looks at what lies inside alone.
    w.kind = WholeKind::scale;
    w.low = 30, w.high = 40;
    const Level scaled = reshapeWhole(level, w).take().level;
    float low = 1000, high = -1000;
    for (int z = 15; z <= 45; ++z)
        for (int x = 35; x <= 65; ++x)
            low = std::min(low, groundSample(scaled, x, z)), high = std::max(high, groundSample(scaled, x, z));
    CHECK(low == Approx(30));
    CHECK(high == Approx(40));
}

TEST_CASE("a walled yard takes four actions and has upright walls") {
    Level level = flatLevel(80, 60, 1);
    const MapPlace a{level.originX + 20, level.originZ + 10}, b{level.originX + 50, level.originZ + 40};
    REQUIRE(joinFence(level, insidePolygon(level, {a, {b.x, a.z}, b, {a.x, b.z}}), FenceJoin::replace));
    WholeWish w;
    w.metres = 5;
    level = reshapeWhole(level, w).take().level;
    REQUIRE(growFence(level, -3));
    w.metres = -5;
    level = reshapeWhole(level, w).take().level;
    const auto at = [&](int x, int z) { return groundSample(level, x, z); };
    for (int z = 10; z <= 40; ++z) {
        CHECK(at(19, z) == 0);
        for (int x = 20; x < 23; ++x) CHECK(at(x, z) == 5);
        CHECK(at(23, z) == (z < 13 || z > 37 ? 5 : 0));
        CHECK(at(50, z) == 5);
        CHECK(at(51, z) == 0);
    }
}

TEST_CASE("fences are joined, turned inside out, grown and softened") {
    Level level = flatLevel(120, 80, 1, 2);
    const auto box = [&](double x0, double z0, double x1, double z1) {
        const double x = level.originX, z = level.originZ;
        return insidePolygon(level, {{x + x0, z + z0}, {x + x1, z + z0}, {x + x1, z + z1}, {x + x0, z + z1}});
    };
    REQUIRE(joinFence(level, box(20, 20, 100, 60), FenceJoin::replace));  // 41 x 21 samples
    CHECK(inside(level) == 41 * 21);
    Level other = level;
    joinFence(other, box(80, 40, 140, 100), FenceJoin::add);  // 31 x 31, sharing 11 x 11
    CHECK(inside(other) == 41 * 21 + 31 * 31 - 11 * 11);
    other = level;
    joinFence(other, box(80, 40, 140, 100), FenceJoin::takeAway);
    CHECK(inside(other) == 41 * 21 - 11 * 11);
    other = level;
    joinFence(other, box(80, 40, 140, 100), FenceJoin::meet);
    CHECK(inside(other) == 11 * 11);
    other = level;
    invertFence(other);
    CHECK(inside(other) == 120 * 80 - 41 * 21);
    invertFence(other);
    CHECK(other.fence == level.fence);
    // Out of force it counts as none.
    other.fenced = false;
    joinFence(other, box(80, 40, 140, 100), FenceJoin::add);
    CHECK(inside(other) == 31 * 31);

    const auto width = [](const Level& l) {
        int n = 0;
        for (int x = 0; x < l.columns; ++x) n += l.fence.at(x, 20) > kInside / 2;
        return n;
    };
    other = level;
    growFence(other, 6);  // three samples either side
    CHECK(width(other) == 47);
    CHECK(other.fence.at(7, 7) == 0);  // corners are round
    CHECK(other.fence.at(7, 20) == kInside);
    growFence(other, -6);
    CHECK(width(other) == 41);
    growFence(other, -1000);
    CHECK(fenceEmpty(other));
    // Softened, the edge stays where it is, and the area too.
    other = level;
    featherFence(other, 10);
    CHECK(other.fence.at(10, 20) == Approx(kInside / 2.0).epsilon(0.2));
    CHECK(other.fence.at(16, 20) > 0.95 * kInside);
    CHECK(other.fence.at(4, 20) < 0.05 * kInside);
    CHECK(fenceArea(other) == Approx(fenceArea(level)).epsilon(0.02));
}

TEST_CASE("fences are found by what lies there") {
    Level level = lopsidedLevel();
    const auto fence = [&](const FenceSource& source) {
        Level l = level;
        REQUIRE(joinFence(l, source, FenceJoin::replace));
        return l;
    };
    const Level high = fence(byRule(level, between(RuleKind::altitude, 10, 400)));
    const Level edge = fence(nearEdge(level, 9));
    const uint32_t id = level.layers[3].id;
    const Level layer = fence(whereLayer(level, id));
    const double x = level.originX + 50 * level.spacing, z = level.originZ + 40 * level.spacing;
    const Level line = fence(alongLine(level, {{x, z}, {x + 30, z}, {x + 30, z + 20}}, 12, 0));
    const Level soft = fence(alongLine(level, {{x, z}}, 60, 1));
    const Level near = fence(connectedLayer(level, x, z));
    const auto mixHere = mixAt(level, x, z);
    const auto most = static_cast<size_t>(std::max_element(mixHere.begin(), mixHere.end()) - mixHere.begin());
    bool right = true;
    int connected = 0;
    for (int r = 0; r < level.rows; ++r)
        for (int c = 0; c < level.columns; ++c) {
            const double px = level.originX + c * level.spacing, pz = level.originZ + r * level.spacing;
            const float h = groundSample(level, c, r);
            right = right && (high.fence.at(c, r) > 0) == (h >= 10);
            const int in = std::min({c, r, level.columns - 1 - c, level.rows - 1 - r});
            right = right && (edge.fence.at(c, r) > 0) == (in <= 6);
            const auto mix = mixAt(level, px, pz);
            right = right && std::abs(layer.fence.at(c, r) / 65535.0 - mix[3]) < 1e-3;
            const double leg1 = px < x        ? std::hypot(px - x, pz - z)
                                : px > x + 30 ? std::hypot(px - x - 30, pz - z)
                                              : std::abs(pz - z);
            const double leg2 = pz < z        ? std::hypot(px - x - 30, pz - z)
                                : pz > z + 20 ? std::hypot(px - x - 30, pz - z - 20)
                                              : std::abs(px - x - 30);
            if (std::abs(std::min(leg1, leg2) - 6) > 1e-9)
                right = right && (line.fence.at(c, r) > 0) == (std::min(leg1, leg2) < 6);
            if (near.fence.at(c, r)) {
                ++connected;
                right = right && (mix[most] >= 0.499f || (c == 50 && r == 40));
            }
        }
    CHECK(right);
    CHECK(connected > 3);
    CHECK(near.fence.at(50, 40) == kInside);
    CHECK(soft.fence.at(50, 40) == kInside);
    CHECK(soft.fence.at(60, 40) == Approx(kInside / 2.0).margin(3));  // half way out
    CHECK(soft.fence.at(70, 40) == 0);

    addStratum(level, "lane", 1);
    Stratum& lane = level.strata[2];
    lane.course = Course{};
    lane.owned = TiledGrid<float>(level.columns, level.rows, 0.f);
    lane.owned.set(70, 30, 1);
    const Level by = fence(nearCourse(level, lane.id, 9));
    CHECK(by.fence.at(76, 30) == kInside);
    CHECK(by.fence.at(77, 30) == 0);
    const Level none = fence(nearCourse(level, level.strata[0].id, 9));
    CHECK(fenceEmpty(none));
}

TEST_CASE("fences are kept by name, in the file, and through another size") {
    const Folder folder;
    Level level = fencedLevel();
    const uint32_t id = keepFence(level, "orchard");
    CHECK(keepFence(level, "orchard") == id);
    REQUIRE(level.fences.size() == 1);
    const Level before = level;
    invertFence(level);
    CHECK(changesBetween(level, before).fence);
    CHECK(changesBetween(level, before).ground.empty());
    // Kept again under its name, it is what it is now.
    Level again = level;
    CHECK(keepFence(again, "orchard") == id);
    REQUIRE(again.fences.size() == 1);
    CHECK(again.fences[0].mask == level.fence);
    CHECK_FALSE(again.fences[0].mask == before.fence);
    const uint32_t other = keepFence(level, "all else");
    level.fenced = false;
    CHECK(checkLevel(level).empty());
    REQUIRE(saveLevel(level, folder.path / "a.jamhill"));
    const Result<Level> read = loadLevel(folder.path / "a.jamhill");
    REQUIRE(read);
    CHECK(read.value() == level);
    REQUIRE(joinFence(level, keptFence(level, id), FenceJoin::replace));
    CHECK(level.fence == before.fence);
    REQUIRE(joinFence(level, keptFence(level, other), FenceJoin::add));
    // With soft edges the two do not quite make everything.
    CHECK(inside(level) >= level.columns * level.rows - 1);

    const Result<Level> finer = resampleLevel(before, 2 * level.columns - 1, 2 * level.rows - 1, level.spacing / 2);
    REQUIRE(finer);
    REQUIRE(finer.value().fences.size() == 1);
    CHECK(finer.value().fences[0].mask.at(2 * 55, 2 * 50) == Approx(before.fence.at(55, 50)).margin(3));
    CHECK(fenceArea(finer.value()) == Approx(fenceArea(before)).epsilon(0.02));
    const Result<Level> cut = cropLevel(before, {30, 10, 100, 90});
    REQUIRE(cut);
    CHECK(cut.value().fences[0].mask.at(25, 40) == before.fences[0].mask.at(55, 50));
    CHECK(checkLevel(cut.value()).empty());
}

namespace {

// Every source there is, on a level where each finds something.
std::vector<FenceSource> allSources(const Level& level) {
    const auto at = [&](double u, double v) {
        return MapPlace{level.originX + u * level.width(), level.originZ + v * level.depth()};
    };
    const MapPlace middle = at(0.4, 0.6);
    return {insidePolygon(level, {at(0.2, 0.3), at(0.7, 0.25), at(0.5, 0.8)}),
            insidePolygon(level, {at(-0.2, -0.3), at(0.4, 0.1), at(0.1, 0.6)}),
            alongLine(level, {at(0.1, 0.5), at(0.6, 0.5), at(0.6, 1.2)}, 14, 0),
            alongLine(level, {middle}, 30, 1),
            whereLayer(level, level.layers[3].id),
            connectedLayer(level, middle.x, middle.z),
            byRule(level, between(RuleKind::altitude, 5, 300)),
            nearEdge(level, 8)};
}

}  // namespace

TEST_CASE("beyond a source's reach nothing counts, and what a fence was there stays or goes", "[property]") {
    Level level = lopsidedLevel();
    const Level fenced = [&] {
        Level l = level;
        joinFence(l,
                  insidePolygon(l, {{l.originX - 5, l.originZ - 5},
                                    {l.originX + 0.8 * l.width(), l.originZ - 5},
                                    {l.originX + 0.6 * l.width(), l.originZ + l.depth() + 5}}),
                  FenceJoin::replace);
        featherFence(l, 6);
        return l;
    }();
    int narrow = 0;
    for (const FenceSource& source : allSources(level)) {
        Raster<float> counts(level.columns, level.rows);
        source.read(level.bounds(), counts.view());
        double inside = 0;
        for (int z = 0; z < level.rows; ++z)
            for (int x = 0; x < level.columns; ++x) {
                inside += counts.at(x, z);
                if (!source.reach.contains(x, z)) REQUIRE(counts.at(x, z) == 0);
            }
        REQUIRE(inside > 10);
        narrow += source.reach.clipped(level.bounds()) != level.bounds();
        for (const FenceJoin join : {FenceJoin::replace, FenceJoin::add, FenceJoin::takeAway, FenceJoin::meet})
            for (const Level& before : {level, fenced}) {
                Level after = before;
                REQUIRE(joinFence(after, source, join));
                CHECK(after.fenced);
                int wrong = 0;
                for (int z = 0; z < level.rows; ++z)
                    for (int x = 0; x < level.columns; ++x) {
                        const int was = before.fenced ? before.fence.at(x, z) : 0;
                        const int comes = static_cast<int>(std::lround(counts.at(x, z) * kInside));
                        const int wanted = join == FenceJoin::replace    ? comes
                                           : join == FenceJoin::add      ? std::max(was, comes)
                                           : join == FenceJoin::takeAway ? std::min(was, kInside - comes)
                                                                         : std::min(was, comes);
                        wrong += after.fence.at(x, z) != wanted;
                    }
                CHECK(wrong == 0);
            }
    }
    CHECK(narrow >= 4);
}

TEST_CASE("connected ground is what a slow search finds, over tiles and cover of any density", "[property]") {
    Random random(21);
    for (int round = 0; round < 8; ++round) {
        Level level = flatLevel(150, 93, 0, 1, round % 2 ? 2 : 1);
        addLayer(level, plainLayer("below", 50, 120, 40));
        addLayer(level, plainLayer("over", 200, 180, 90));
        // Winding bands with holes, so that the way leads through most tiles.
        const double phase = between(random, 0, 6), wide = between(random, 0.05, 0.4);
        for (int z = 0; z < level.coverRows(); ++z)
            for (int x = 0; x < level.coverColumns(); ++x) {
                const double u = x / static_cast<double>(level.coverFactor),
                             v = z / static_cast<double>(level.coverFactor);
                const bool over = std::sin(u / 9 + 2 * std::sin(v / 13) + phase) > wide && between(random, 0, 1) > 0.12;
                level.layers[1].coverage.set(x, z, over ? kFullCover : 0);
            }
        const int c = wholeBetween(random, 0, level.columns - 1), r = wholeBetween(random, 0, level.rows - 1);
        const auto covered = [&](int x, int z) {
            return level.layers[1].coverage.at(x * level.coverFactor, z * level.coverFactor) == kFullCover;
        };
        const bool kind = covered(c, r);
        std::set<std::pair<int, int>> found{{c, r}};
        std::vector<std::pair<int, int>> open{{c, r}};
        while (!open.empty()) {
            const auto [x, z] = open.back();
            open.pop_back();
            for (const auto& [dx, dz] :
                 {std::pair{1, 0}, {-1, 0}, {0, 1}, {0, -1}, {1, 1}, {-1, -1}})  // edges of the drawn triangles
                if (level.bounds().contains(x + dx, z + dz) && covered(x + dx, z + dz) == kind &&
                    found.insert({x + dx, z + dz}).second)
                    open.emplace_back(x + dx, z + dz);
        }
        Level after = level;
        REQUIRE(joinFence(after, connectedLayer(level, level.originX + c, level.originZ + r), FenceJoin::replace));
        int wrong = 0;
        for (int z = 0; z < level.rows; ++z)
            for (int x = 0; x < level.columns; ++x)
                wrong += after.fence.at(x, z) != (found.count({x, z}) ? kInside : 0);
        CAPTURE(round, c, r, found.size());
        CHECK(wrong == 0);
    }
}

TEST_CASE("a line of many places looks as if all of them counted") {
    const Level level = flatLevel(180, 120, 0, 0.5);
    std::vector<MapPlace> hand;
    for (int i = 0; i <= 2000; ++i) {
        const double t = i / 2000.0;
        hand.push_back({level.originX + 8 + 70 * t, level.originZ + 30 + 15 * std::sin(9 * t)});
    }
    const FenceSource source = alongLine(level, hand, 12, 0.5f);
    Raster<float> counts(level.columns, level.rows);
    source.read(level.bounds(), counts.view());
    double most = 0;
    for (int z = 0; z < level.rows; ++z)
        for (int x = 0; x < level.columns; ++x) {
            double away = 1e9;
            for (const MapPlace& p : hand)
                away = std::min(away, std::hypot(level.originX + 0.5 * x - p.x, level.originZ + 0.5 * z - p.z));
            const double t = std::clamp((6 - away) / 3, 0.0, 1.0);
            most = std::max(most, std::abs(counts.at(x, z) - t * t * (3 - 2 * t)));
        }
    CHECK(most < 0.02);
    // Far fewer samples are looked at than places times samples.
    CHECK(source.visits < 60.0 * level.columns * level.rows);
}
