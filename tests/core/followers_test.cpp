// Living rules over time: chains, circles, hands, whole-ground work, crops. What follows must be where it would be if
// all were laid anew, whatever led there.
#include <catch2/catch.hpp>

#include "commit/commit.h"
#include "course/bake.h"
#include "cover/paint.h"
#include "cover/rules.h"
#include "files/level_file.h"
#include "folder.h"
#include "level/history.h"
#include "level/hold_outside.h"
#include "level/resize.h"
#include "levels.h"
#include "shape/whole.h"
#include "stroke/stroker.h"
#include "survey/check.h"
#include "tools/tool.h"

using namespace jam;
using namespace jam::test;

namespace {

Rule nearLayer(uint32_t layer, float from, float to, RuleEffect way = RuleEffect::add) {
    Rule r{RuleKind::layer, way, from, to, 2};
    r.layer = layer;
    return r;
}

// Everything that is alive, laid anew.
Level laidAnew(Level level) {
    for (const Layer& l : std::vector<Layer>(level.layers))
        if (l.alive) refreshLaid(level, l.id);
    return level;
}

bool sameCover(const Level& a, const Level& b) {
    for (size_t i = 0; i < a.layers.size(); ++i)
        if (!(a.layers[i].coverage == b.layers[i].coverage) || !(a.layers[i].base == b.layers[i].base) ||
            !(a.layers[i].held == b.layers[i].held))
            return false;
    return true;
}

// Rules of every kind, each looking at a layer below or above, at random.
std::vector<Rule> someRules(Random& random, const Level& level, size_t own) {
    std::vector<Rule> rules;
    for (int i = wholeBetween(random, 1, 3); i > 0; --i) {
        Rule r;
        r.kind = static_cast<RuleKind>(wholeBetween(random, 0, kRuleKinds - 1));
        r.way = static_cast<RuleEffect>(i > 1 && !rules.empty() ? wholeBetween(random, 0, 2) : 0);
        size_t other = own;
        while (other == own)
            other = static_cast<size_t>(wholeBetween(random, 0, static_cast<int>(level.layers.size()) - 1));
        r.layer = level.layers[other].id;
        switch (r.kind) {
            case RuleKind::slope: r.from = 8, r.to = 60; break;
            case RuleKind::altitude: r.from = 0, r.to = 40; break;
            case RuleKind::curvature: r.from = -0.2f, r.to = 1, r.fade = 0.2f; break;
            case RuleKind::facing: r.from = 200, r.to = 60; break;
            case RuleKind::layer: r.from = 0, r.to = static_cast<float>(between(random, 0, 9)), r.fade = 3; break;
            case RuleKind::course:
                r.from = 0, r.to = 6, r.fade = 3;
                for (const Stratum& s : level.strata)
                    if (s.course) r.layer = s.id;
                break;
            case RuleKind::low: r.from = 0, r.to = 12, r.level = 3; break;
            case RuleKind::depth: r.from = 0, r.to = 3, r.fade = 1; break;
            case RuleKind::shore: r.from = -2, r.to = 4, r.fade = 2; break;
            case RuleKind::above: r.from = 0, r.to = 2, r.fade = 1, r.reach = 9; break;
            case RuleKind::noise: r.from = 0, r.to = 0.5f, r.fade = 0.1f, r.seed = random(); break;
        }
        rules.push_back(r);
    }
    return rules;
}

// A lane across a corner of a level.
Course laneOver(const Level& level) {
    Course lane;
    for (const double share : {0.1, 0.35})
        lane.posts.push_back(
            {level.originX + share * level.width(), level.originZ + (0.8 - share) * level.depth(), {}, 4, 5});
    return lane;
}

}  // namespace

TEST_CASE("a layer that follows one below it does not eat what it follows") {
    Level level = flatLevel(65, 49, 3, 1.5, 2);
    for (int r = 30; r < 50; ++r)
        for (int c = 20; c < 60; ++c) level.layers[1].coverage.set(c, r, kFullCover);
    Layer& l = level.layers[2];
    l.rules = {nearLayer(level.layers[1].id, 0, 6)};
    wakeRules(level, l.id, false);
    CHECK(level.layers[2].coverage.at(40, 40) == kFullCover);
    CHECK(level.layers[2].coverage.at(40, 5) == 0);
    const Level once = level;
    for (int i = 0; i < 4; ++i) {
        refreshLaid(level, level.layers[2].id);
        CHECK(sameCover(level, once));
    }
}

TEST_CASE("a layer follows one above it where that was painted, and not where rules laid it") {
    Level level = flatLevel(65, 49, 3, 1.5, 2);
    const uint32_t lower = level.layers[1].id, upper = level.layers[2].id;
    level.layers[2].rules = {{RuleKind::altitude, RuleEffect::add, -50, 50, 1}};
    wakeRules(level, upper, false);
    level.layers[1].rules = {nearLayer(upper, 0, 3)};
    wakeRules(level, lower, false);
    CHECK(level.layers[2].coverage.at(60, 40) == kFullCover);
    CHECK(level.layers[1].coverage.at(60, 40) == 0);
    Stroke s;
    s.settings = usualSettings(Tool::paint);
    s.settings.radius = 8, s.settings.strength = 1, s.settings.falloff.softness = 0, s.settings.layer = upper;
    s.points = {{0, 0, 1, 0}};
    REQUIRE(runStroke(level, s));
    CHECK(level.layers[1].coverage.at(64, 48) == kFullCover);
    CHECK(level.layers[1].coverage.at(4, 4) == 0);
    // A plain layer above counts wherever it covers.
    restRules(level, upper);
    refreshLaid(level, lower);
    CHECK(level.layers[1].coverage.at(4, 4) == kFullCover);
}

TEST_CASE("laying layers by living rules again changes nothing, for every kind and order of rules", "[property]") {
    Random random(31);
    for (int round = 0; round < 40; ++round) {
        Level level = lopsidedLevel(static_cast<uint32_t>(round));
        restRules(level, level.layers[2].id);
        for (int i = 0; i < 4; ++i) {
            const auto own = static_cast<size_t>(wholeBetween(random, 1, 9));
            if (level.layers[own].locked || level.layers[own].alive) continue;
            level.layers[own].rules = someRules(random, level, own);
            wakeRules(level, level.layers[own].id, i % 2);
        }
        const Level laid = laidAnew(level);
        INFO("round " << round);
        CHECK(sameCover(laidAnew(laid), laid));
        // And so does a refresh that is told that everything changed.
        Level told = laid;
        refreshRules(told, {told.bounds(), told.coverBounds(), told.bounds()});
        CHECK(sameCover(told, laid));
        CHECK(checkLevel(laid).empty());
    }
}

TEST_CASE("chains of living rules end where a full refresh ends, after any stroke", "[property]") {
    Random random(77);
    for (int round = 0; round < 12; ++round) {
        Level level = lopsidedLevel(static_cast<uint32_t>(round));
        // The fourth follows the third, which follows the second, which follows the ground; the sixth the fourth.
        const auto wake = [&](size_t i, std::vector<Rule> rules) {
            level.layers[i].rules = std::move(rules);
            wakeRules(level, level.layers[i].id, false);
        };
        wake(3, {nearLayer(level.layers[2].id, 0, 5), {RuleKind::slope, RuleEffect::never, 30, 90, 5}});
        wake(5, {nearLayer(level.layers[3].id, 1, 4)});
        wake(8, {nearLayer(level.layers[5].id, 0, 7), nearLayer(level.layers[1].id, 0, 2, RuleEffect::never)});
        level = laidAnew(level);
        for (int i = 0; i < 6; ++i) {
            Stroke s;
            s.settings = usualSettings(static_cast<Tool>(wholeBetween(random, 0, kTools - 1)));
            s.settings.radius = static_cast<float>(between(random, 4, 20));
            s.settings.layer =
                level.layers[std::array<size_t, 4>{1, 3, 5, 8}[static_cast<size_t>(wholeBetween(random, 0, 3))]].id;
            s.settings.from = level.layers[7].id;
            s.settings.seed = random();
            for (int p = 0; p < 4; ++p)
                s.points.push_back({level.originX + between(random, 0, level.width()),
                                    level.originZ + between(random, 0, level.depth()), 1, 0.2 * p});
            if (!runStroke(level, s)) continue;
            INFO("round " << round << ", stroke " << i << ": " << toolName(s.settings.tool));
            CHECK(sameCover(laidAnew(level), level));
        }
        CHECK(checkLevel(level).empty());
    }
}

TEST_CASE("living rules follow work on the whole ground, crops and resampling, and what the hand holds moves along") {
    Level level = lopsidedLevel();
    Stroke s;
    s.settings = usualSettings(Tool::erase);
    s.settings.layer = level.layers[2].id;
    s.settings.strength = 1, s.settings.radius = 12, s.settings.falloff.softness = 0;
    const double x = level.originX + 120, z = level.originZ + 60;
    s.points = {{x, z, 1, 0}};
    REQUIRE(runStroke(level, s));
    const auto atHand = [&](const Level& l) {
        const int c = static_cast<int>((x - l.originX) / l.coverSpacing()),
                  r = static_cast<int>((z - l.originZ) / l.coverSpacing());
        return std::pair{l.layers[2].coverage.at(c, r), l.layers[2].held.at(c, r)};
    };
    REQUIRE(atHand(level).second == kFullCover);
    REQUIRE(atHand(level).first == 0);
    WholeWish wish;
    wish.kind = WholeKind::noise;
    wish.noise.amplitude = 9;
    const Result<WholeOutcome> rough = reshapeWhole(level, wish);
    REQUIRE(rough);
    const Result<Level> cropped = cropLevel(level, {30, 10, 149, 85}), finer = resampleLevel(level, 297, 169, 0.75);
    for (const Level* after : {&rough.value().level, &cropped.value(), &finer.value()}) {
        const Result<Commit> done = commitWork(level, *after);
        REQUIRE(done);
        const Level& now = done.value().level;
        CHECK(sameCover(laidAnew(now), now));
        CHECK(atHand(now) == std::pair{uint16_t{0}, kFullCover});
        CHECK(checkLevel(now).empty());
    }
    CHECK_FALSE(sameCover(commitWork(level, rough.value().level).value().level, level));
}

TEST_CASE("other rules are run only where they may differ, and give what running all of them gives", "[property]") {
    Random random(77);
    long long looked = 0, all = 0;
    for (int round = 0; round < 60; ++round) {
        Level level = lopsidedLevel(static_cast<uint32_t>(round % 7));
        addCourse(level, "lane", laneOver(level));
        const size_t own = round % 2 ? 2 : 5;
        const uint32_t id = level.layers[own].id;
        const std::vector<Rule> first = someRules(random, level, own), more = someRules(random, level, own);
        changeRules(level, id, first);
        wakeRules(level, id, round % 3 == 0);
        // One in the middle is another, or one comes, or one goes.
        std::vector<Rule> second = first;
        second.insert(second.begin() + wholeBetween(random, 0, static_cast<int>(second.size())), more.front());
        if (round % 3 == 1) second.erase(second.begin() + wholeBetween(random, 0, static_cast<int>(second.size()) - 1));
        Level slow = level;
        slow.layer(id)->rules = second;
        refreshLaid(slow, id);
        const TileSet told = changeRules(level, id, second);
        INFO("round " << round);
        REQUIRE(level.layer(id)->rules == second);
        REQUIRE(sameCover(level, slow));
        looked += told.area(), all += level.coverBounds().area();
    }
    CHECK(looked < all * 9 / 10);
}

TEST_CASE("rules given, changed and woken inside a fence leave the ground outside to the hand", "[property]") {
    for (const bool alive : {false, true}) {
        Level level = lopsidedLevel();
        const uint32_t id = level.layers[5].id;
        changeRules(level, id, {{RuleKind::altitude, RuleEffect::add, -5, 12, 3}});
        if (alive) wakeRules(level, id, false);
        // North-west of the middle all counts, beyond it softly less.
        level.fenced = true;
        for (int r = 0; r < level.rows; ++r)
            for (int c = 0; c < level.columns; ++c)
                level.fence.set(c, r, static_cast<uint16_t>(std::clamp(kInside * (80 - c - r) / 20.f, 0.f, 65535.f)));
        const Level before = level;
        Level open = level;
        open.fenced = false;
        for (Level* l : {&level, &open}) {
            if (!alive) wakeRules(*l, id, false);
            // In steps, as a slider does: soft places do not creep.
            for (const float to : {15.f, 60.f, 25.f})
                changeRules(*l, id, {{RuleKind::altitude, RuleEffect::add, -5, to, 3}});
        }
        const auto cover = [&](const Level& l, int x, int z) {
            return static_cast<int>(l.layer(id)->coverage.at(x, z));
        };
        int outside = 0, soft = 0;
        for (int z = 0; z < level.coverRows(); ++z)
            for (int x = 0; x < level.coverColumns(); ++x) {
                const float f = fenceShare(level, std::min((x + 1) / 2, level.columns - 1),
                                           std::min((z + 1) / 2, level.rows - 1));
                const int was = cover(before, x, z), wanted = cover(open, x, z), is = cover(level, x, z);
                REQUIRE(std::abs(is - (was + f * (wanted - was))) <= 3);
                if (f == 0) REQUIRE(is == was);
                outside += f == 0 && wanted != was, soft += f > 0 && f < 1 && wanted != was;
            }
        CHECK(outside > 100);
        CHECK(soft > 100);
        CHECK(checkLevel(level).empty());
        // Later the ground changes, without a fence: inside the layer follows, outside the hand has it.
        level.fenced = open.fenced = false;
        Level moved = level, free = open;
        for (Level* l : {&moved, &free})
            for (int r = 0; r < l->rows; ++r)
                for (int c = 0; c < l->columns; ++c)
                    l->strata[0].heights.set(c, r, l->strata[0].heights.at(c, r) + 100);
        moved = commitWork(level, moved).take().level, free = commitWork(open, free).take().level;
        int held = 0, followed = 0, elsewhere = 0;
        for (int z = 0; z < level.coverRows(); ++z)
            for (int x = 0; x < level.coverColumns(); ++x) {
                const bool out = (x + 1) / 2 + (z + 1) / 2 >= 80;
                // Woken in the fence they never lay anything outside; alive before, what nobody changed goes on living.
                if (out && !alive) REQUIRE(cover(moved, x, z) == cover(before, x, z));
                elsewhere += out && alive && cover(moved, x, z) != cover(before, x, z);
                if (out && cover(open, x, z) != cover(before, x, z)) {
                    REQUIRE(cover(moved, x, z) == cover(level, x, z));
                    ++held;
                }
                if ((x + 1) / 2 + (z + 1) / 2 <= 60 && cover(free, x, z) != cover(open, x, z)) {
                    REQUIRE(cover(moved, x, z) == cover(free, x, z));
                    ++followed;
                }
            }
        CHECK(held > 100);
        CHECK((elsewhere > 100) == alive);
        CHECK(followed > 100);
    }
}

TEST_CASE("what rules laid where no hand was is in memory once after reading, and goes on living") {
    const Folder folder;
    Level level = lopsidedLevel();
    const uint32_t id = level.layers[5].id;
    changeRules(level, id, {{RuleKind::altitude, RuleEffect::add, -5, 12, 9}});
    wakeRules(level, id, false);
    Stroke s;
    s.settings = usualSettings(Tool::paint);
    s.settings.layer = id;
    s.settings.radius = 20;
    s.points = {{level.originX + 200, level.originZ + 100, 1, 0}, {level.originX + 205, level.originZ + 100, 1, 0.4}};
    REQUIRE(runStroke(level, s));
    REQUIRE(saveLevel(level, folder.path / "level.jamhill"));
    Level read = loadLevel(folder.path / "level.jamhill").take();
    CHECK(read == level);
    const Layer& l = read.layers[5];
    int shared = 0, apart = 0;
    for (int tz = 0; tz < l.base.tilesDown(); ++tz)
        for (int tx = 0; tx < l.base.tilesAcross(); ++tx)
            if (l.base.tile(tx, tz)) (l.base.sharesTile(l.coverage, tx, tz) ? shared : apart) += 1;
    CHECK(shared >= 4);
    CHECK(apart >= 1);
    // Changed by the ground it gives what it would have given without.
    const auto raised = [](Level l) {
        for (int c = 0; c < l.columns; ++c)
            for (int r = 0; r < 40; ++r) l.strata[0].heights.set(c, r, l.strata[0].heights.at(c, r) + 6);
        return l;
    };
    CHECK(sameCover(commitWork(read, raised(read)).take().level, commitWork(level, raised(level)).take().level));
    // So does a layer that lay everywhere by itself, inside a fence and outside.
    Layer& everywhere = level.layers[7];
    everywhere.coverage = TiledGrid<uint16_t>(level.coverColumns(), level.coverRows(), kFullCover);
    changeRules(level, everywhere.id, {{RuleKind::altitude, RuleEffect::add, -5, 12, 9}});
    level.fenced = true;
    level.fence.set(40, 40, kInside);
    wakeRules(level, everywhere.id, false);
    CHECK(everywhere.coverage.at(10, 160) == kFullCover);
    REQUIRE(saveLevel(level, folder.path / "level.jamhill"));
    CHECK(loadLevel(folder.path / "level.jamhill").value() == level);
}

TEST_CASE("a thousand random edits, undos, saves and reopenings give identical bits", "[property]") {
    const Folder folder;
    Random random(1000);
    Level start = lopsidedLevel(5);
    History history(start, "start");
    std::vector<std::pair<uint64_t, Level>> known{{history.serial(), start}};
    for (int i = 0; i < 1000; ++i) {
        const int what = wholeBetween(random, 0, 9);
        if (what < 5) {
            Level level = history.now();
            Stroke s;
            s.settings = usualSettings(static_cast<Tool>(wholeBetween(random, 0, kTools - 1)));
            s.settings.radius = static_cast<float>(between(random, 2, 9));
            s.settings.layer = level.layers[static_cast<size_t>(wholeBetween(random, 1, 9))].id;
            s.settings.from = level.layers[1].id;
            s.points = {{level.originX + between(random, 0, level.width()),
                         level.originZ + between(random, 0, level.depth()), 1, 0}};
            if (!runStroke(level, s)) continue;
            history.push(level, "stroke");
            known.emplace_back(history.serial(), history.now());
        } else if (what < 8) {
            history.stepTo(
                static_cast<size_t>(wholeBetween(random, 0, static_cast<int>(history.entries().size()) - 1)));
        } else if (i % 20 == 0) {
            REQUIRE(saveLevel(history.now(), folder.path / "level.jamhill"));
            const Result<Level> read = loadLevel(folder.path / "level.jamhill");
            REQUIRE(read);
            REQUIRE(read.value() == history.now());
        }
        if (i % 10 == 0)
            for (const auto& [serial, level] : known)
                if (serial == history.serial()) {
                    REQUIRE(level == history.now());
                }
    }
    history.stepTo(0);
    CHECK(history.now() == start);
    CHECK(known.size() > 200);
}
