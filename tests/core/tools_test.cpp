// Every registered tool and setting, walked: what is said of them, and that it is true.
#include <cmath>
#include <set>

#include "files/settings_json.h"
#include "files/stroke_file.h"
#include "level/ground.h"
#include "levels.h"
#include "stroke/stroker.h"
#include "tools/tool.h"

#include <catch2/catch.hpp>

using namespace jam;
using namespace jam::test;

namespace {

std::vector<const Setting*> allSettings() {
    std::vector<const Setting*> all(commonSettings().begin(), commonSettings().end());
    all.insert(all.end(), ownSettings().begin(), ownSettings().end());
    all.push_back(&settings::rate);
    all.push_back(&settings::share);
    return all;
}

// What a tool needs, given; the layer is the fourth, the other one the second.
Stroke strokeWith(Tool tool, Level& level) {
    Stroke s;
    s.settings = usualSettings(tool);
    s.settings.radius = 14;
    s.settings.layer = level.layers[3].id;
    s.settings.from = level.layers[1].id;
    s.settings.kind = level.kinds[0].id;
    s.settings.angle = 6;
    level.layers[3].rules = {{RuleKind::altitude, RuleEffect::add, -50, 400, 3}};
    const double x = level.originX + 0.4 * level.width(), z = level.originZ + 0.55 * level.depth();
    for (int i = 0; i < 9; ++i)
        s.points.push_back({x + 3.3 * i, z - 1.7 * i, 0.5f + 0.05f * static_cast<float>(i), 0.12 * i});
    return s;
}

}  // namespace

TEST_CASE("every tool says what it is, in words that belong to it alone") {
    std::set<std::string_view> names;
    std::set<std::string> titles;
    for (int t = 0; t < kTools; ++t) {
        const auto tool = static_cast<Tool>(t);
        const ToolSpec& spec = specOf(tool);
        INFO(spec.name);
        CHECK(names.insert(spec.name).second);
        CHECK(titles.insert(spec.title).second);
        CHECK(toolFromName(spec.name) == tool);
        CHECK((spec.ground != nullptr) == (spec.changes == Changes::ground));
        CHECK((spec.cover != nullptr) == (spec.changes != Changes::ground));
        CHECK(checkSettings(usualSettings(tool)));
        if (spec.inverse) CHECK(inverse(*spec.inverse) == tool);
        for (const OwnSetting& own : spec.settings) {
            REQUIRE(own.setting);
            const auto all = ownSettings();
            CHECK(std::find(all.begin(), all.end(), own.setting) != all.end());
        }
    }
    CHECK_FALSE(toolFromName("excavator"));
}

TEST_CASE("every setting of a single tool belongs to one, and every number keeps to its range") {
    for (const Setting* own : ownSettings()) {
        int users = 0;
        for (int t = 0; t < kTools; ++t) users += uses(static_cast<Tool>(t), *own);
        INFO(own->name);
        CHECK(users > 0);
    }
    for (const Setting* s : allSettings()) {
        INFO(s->name);
        CHECK(std::string_view(s->title).size() > 2);
        CHECK(std::string_view(s->tip).size() > 8);
        if (s->kind != Setting::Kind::number) continue;
        StrokeSettings x = usualSettings(s == &settings::share ? Tool::smooth : Tool::raise);
        REQUIRE(s->get(x) >= s->low);
        REQUIRE(s->get(x) <= s->high);
        for (const double beyond : {s->high * 1.5 + 1, s->low - 1 - std::abs(s->low)}) {
            StrokeSettings y = x;
            s->set(y, beyond);
            if (s->whole && beyond < 0) continue;  // an unsigned number has no below
            CHECK_FALSE(checkSettings(y));
            bringIntoRange(y);
            CHECK(checkSettings(y));
            CHECK(s->get(y) == Approx(beyond > s->high ? s->high : s->low));
        }
        const double middle = s->whole ? std::floor((s->low + std::min(s->high, 1e6)) / 2) : (s->low + s->high) / 2;
        s->set(x, middle);
        CHECK(s->get(x) == Approx(middle));
    }
}

TEST_CASE("every setting goes to a file and comes back, for every tool") {
    Random random(8);
    for (int t = 0; t < kTools; ++t) {
        const auto tool = static_cast<Tool>(t);
        StrokeSettings s = usualSettings(tool);
        for (const Setting* c : commonSettings()) {
            if (c->kind == Setting::Kind::number || c->kind == Setting::Kind::maybe)
                c->set(s, c->low + (c->high - c->low) * between(random, 0.2, 0.8));
            if (c->kind == Setting::Kind::flag) c->set(s, wholeBetween(random, 0, 1));
        }
        s.limits.floor = std::min(*s.limits.floor, *s.limits.ceiling);
        for (const OwnSetting& own : specOf(tool).settings) {
            const Setting& o = *own.setting;
            if (o.kind == Setting::Kind::number || o.kind == Setting::Kind::maybe)
                o.set(s, o.whole ? 5 : o.low + (o.high - o.low) * between(random, 0.2, 0.8));
            if (o.kind == Setting::Kind::choice) o.set(s, static_cast<double>(o.choices.size() - 1));
            if (o.kind == Setting::Kind::colour) s.colour = {0.1f, 0.6f, 0.3f};
        }
        bringIntoRange(s);
        const Result<Preset> back = parsePreset(writePreset({"kept", s}), "brush", {});
        INFO(toolName(tool) << (back ? std::string() : back.error().sentence()));
        REQUIRE(back);
        CHECK(back.value().settings == s);
    }
}

TEST_CASE("every tool works on a lopsided level, in its stratum, and the same from a file") {
    for (int t = 0; t < kTools; ++t) {
        const auto tool = static_cast<Tool>(t);
        Level level = lopsidedLevel();
        Stroke s = strokeWith(tool, level);
        giveWork(level, tool);
        const Level before = level;
        INFO(toolName(tool));
        const Result<Change> done = runStroke(level, s);
        REQUIRE(done);
        CHECK_FALSE(level == before);
        CHECK(level.strata[0].heights == before.strata[0].heights);    // the active one is the other
        CHECK(level.layers[6].coverage == before.layers[6].coverage);  // protected
        const Change truth = changesBetween(level, before);            // found by looking, against what was told
        CHECK(truth.ground.tiles() <= done.value().ground.tiles());
        CHECK(truth.cover.tiles() <= done.value().cover.tiles());
        CHECK(truth.wash.tiles() <= done.value().wash.tiles());
        CHECK(truth.gaps.tiles() <= done.value().gaps.tiles());
        Level replayed = before;
        const Result<std::vector<Stroke>> read = parseStrokes(writeStrokes({s}, before), "strokes.json", before, {});
        REQUIRE(read);
        REQUIRE(runStroke(replayed, read.value().front()));
        CHECK(replayed == level);
        // Outside of what was told nothing differs: sample by sample.
        for (int r = 0; r < level.rows; ++r)
            for (int c = 0; c < level.columns; ++c)
                if (!done.value().ground.contains(c, r) && groundSample(level, c, r) != groundSample(before, c, r)) {
                    FAIL("ground at " << c << ", " << r);
                }
    }
}

TEST_CASE("what a tool needs and does not find is told in a sentence, and nothing changes") {
    Level level = lopsidedLevel();
    const auto refused = [&](Tool tool, const std::function<void(Stroke&, Level&)>& spoil) {
        Level tried = level;
        Stroke s = strokeWith(tool, tried);
        spoil(s, tried);
        const Level before = tried;
        const Result<Change> done = runStroke(tried, s);
        INFO(toolName(tool));
        REQUIRE_FALSE(done);
        CHECK(tried == before);
        return done.error();
    };
    for (int t = 0; t < kTools; ++t) {
        const auto tool = static_cast<Tool>(t);
        const ToolNeeds& needs = specOf(tool).needs;
        if (needs.layer) {
            CHECK(refused(tool, [](Stroke& s, Level&) { s.settings.layer = 999; }).field == "layer");
            CHECK(refused(tool, [](Stroke& s, Level& l) {
                      s.settings.layer = l.layers[6].id;
                  }).problem.find("protected") != std::string::npos);
            CHECK(refused(tool, [](Stroke& s, Level& l) {
                      s.settings.layer = l.layers[4].id, l.layers[4].rules = {Rule{}};
                  }).problem.find("hidden") != std::string::npos);
        }
        if (needs.above)
            CHECK(refused(tool, [](Stroke& s, Level& l) {
                      s.settings.layer = l.layers[0].id;
                  }).problem.find("covers everything") != std::string::npos);
        if (needs.rules)
            CHECK(refused(tool, [](Stroke&, Level& l) { l.layers[3].rules.clear(); }).problem.find("no rules") !=
                  std::string::npos);
        if (needs.other)
            CHECK(refused(tool, [](Stroke& s, Level&) { s.settings.from = s.settings.layer; }).field == "from");
        if (needs.kind) {
            CHECK(refused(tool, [](Stroke& s, Level&) { s.settings.kind = 999; }).field == "kind");
            CHECK(refused(tool, [](Stroke&, Level& l) { l.kinds[0].locked = true; }).problem.find("protected") !=
                  std::string::npos);
            CHECK(refused(tool, [](Stroke&, Level& l) { l.kinds[0].hidden = true; }).problem.find("hidden") !=
                  std::string::npos);
        }
        if (needs.reference)
            CHECK(refused(tool, [](Stroke& s, Level&) { s.settings.restore = RestoreTo::reference; }).field ==
                  "restore");
        if (shapesGround(tool)) {
            CHECK(refused(tool, [](Stroke&, Level& l) { l.strata[1].visible = false; }).problem.find("upper") !=
                  std::string::npos);
            CHECK(refused(tool, [](Stroke&, Level& l) { l.strata[1].opacity = 0; }).problem.find("does not show") !=
                  std::string::npos);
        }
    }
}
