// The session without any window: what it keeps, what it tells.
#include <catch2/catch.hpp>

#include <QSignalSpy>
#include <QTest>

#include "cover/rules.h"
#include "cover/weights.h"
#include "level/ground.h"
#include "levels.h"
#include "tasks/task.h"
#include "workplace/workplace.h"

using namespace jam;
using namespace jam::test;

namespace {

glm::dvec3 at(double x, double z) { return {x, 0, z}; }

void strokeAcross(Workplace& s, bool inverted = false) {
    s.beginStroke(at(-20, 0), 1, inverted);
    s.continueStroke(at(20, 0), 1, 0.4);
    s.endStroke();
}

}  // namespace

TEST_CASE("a stroke is one step, told as it grows") {
    Workplace s(flatLevel(129, 129, 2));
    QSignalSpy told(&s.document, &Document::changed);
    const auto count = [&](About what) {
        return std::count_if(told.begin(), told.end(),
                             [&](const QList<QVariant>& one) { return one[0].value<News>().about.testFlag(what); });
    };
    s.beginStroke(at(-20, 0), 1, false);
    CHECK(s.document.stroking());
    CHECK(count(About::samples) == 1);
    CHECK(count(About::history) == 0);
    CHECK(altitudeAt(s.document.strokeGround(), -20, 0) == 0);  // picking stays on the ground as it was
    CHECK(altitudeAt(s.document.level(), -20, 0) > 0);
    s.continueStroke(at(20, 0), 1, 0.4);
    s.endStroke();
    CHECK(count(About::samples) == 2);
    CHECK(count(About::history) == 1);
    CHECK(count(About::stroke) == 1);
    CHECK(told.count() == 3);
    CHECK(s.document.history().entries().size() == 2);
    const News news = told[1].at(0).value<News>();
    CHECK(news.change.ground.contains(64, 64));
    // The spots hold all of the ground that changed, with what it has.
    const Level& now = s.document.level();
    int missed = 0;
    news.change.ground.each([&](int, int, const Region& part) {
        for (int z = part.z0; z < part.z1; ++z)
            for (int x = part.x0; x < part.x1; ++x) {
                const float high = groundSample(now, x, z);
                missed += std::none_of(news.patches.begin(), news.patches.end(), [&](const ChangedPatch& spot) {
                    return spot.ground.contains(x, z) && spot.heights.high >= high && spot.heights.low <= high;
                });
            }
    });
    CHECK(missed == 0);
    CHECK(altitudeAt(now, 0, 0) > 1);
}

TEST_CASE("the pyramid always fits the level that is seen") {
    Workplace s(hillyLevel(129, 129, 3, 2));
    const auto fits = [&] {
        const HeightPyramid fresh(s.document.level());
        for (int z = 0; z < fresh.down(0); ++z)
            for (int x = 0; x < fresh.across(0); ++x)
                if (fresh.span(0, x, z).high != s.document.pyramid().span(0, x, z).high ||
                    fresh.span(0, x, z).low != s.document.pyramid().span(0, x, z).low)
                    return false;
        return true;
    };
    strokeAcross(s);
    CHECK(fits());
    s.document.undo();
    CHECK(fits());
    s.document.redo();
    CHECK(fits());
    s.beginStroke(at(0, 30), 1, true);
    s.document.cancelStroke();
    CHECK(fits());
    s.document.open(hillyLevel(65, 90, 8, 1), {}, "other");
    CHECK(fits());
}

TEST_CASE("unsaved work is known as such, also after undo and redo") {
    Workplace s(flatLevel(65, 65, 2));
    s.document.markSaved("a.jamhill", s.document.history().serial(), s.document.standing());
    CHECK_FALSE(s.document.dirty());
    strokeAcross(s);
    CHECK(s.document.dirty());
    s.document.undo();
    CHECK_FALSE(s.document.dirty());
    s.document.redo();
    CHECK(s.document.dirty());
    s.document.markSaved("a.jamhill", s.document.history().serial(), s.document.standing());
    CHECK_FALSE(s.document.dirty());
    s.document.undo();
    CHECK(s.document.dirty());
    strokeAcross(s);  // another step in the same place is not the saved one
    CHECK(s.document.dirty());
    s.document.open(flatLevel(65, 65, 1), {}, "New level");
    CHECK(s.document.dirty());
    s.document.open(flatLevel(65, 65, 1), "b.jamhill", "Open");
    CHECK_FALSE(s.document.dirty());
}

TEST_CASE("saving in the background marks what was saved, not what came after") {
    Workplace s(flatLevel(65, 65, 2));
    strokeAcross(s);
    const uint64_t saved = s.document.history().serial();
    strokeAcross(s);
    s.document.markSaved("a.jamhill", saved, *s.document.stepLevel(saved));
    CHECK(s.document.dirty());
    s.document.undo();
    CHECK_FALSE(s.document.dirty());
}

TEST_CASE("turning one knob is one step, another knob another") {
    Workplace s(flatLevel(65, 65, 2));
    for (int i = 1; i <= 5; ++i)
        s.document.edit(
            "Tile size", [i](Level& l) { l.layers[0].tileSize = i; }, "tile");
    CHECK(s.document.history().entries().size() == 2);
    s.document.edit(
        "Blend", [](Level& l) { l.layers[0].blend = 0.1f; }, "blend");
    CHECK(s.document.history().entries().size() == 3);
    s.document.edit("Rename", [](Level& l) { l.name = "x"; });
    s.document.edit("Rename", [](Level& l) { l.name = "y"; });
    CHECK(s.document.history().entries().size() == 5);
    s.document.stepTo(1);
    CHECK(s.document.level().layers[0].tileSize == 5);
    CHECK(s.document.level().layers[0].blend == 0.6f);
    s.document.undo();
    CHECK(s.document.level().layers[0].tileSize == 4);
}

TEST_CASE("settings are kept in range and per tool") {
    Workplace s(flatLevel(65, 65, 2));
    QSignalSpy told(&s.toolbox, &Toolbox::settingsChanged);
    s.toolbox.changeSettings([](StrokeSettings& x) {
        x.radius = 1e9f;
        x.strength = -4;
        x.falloff.softness = 7;
        x.smoothing = 3;
    });
    CHECK(s.toolbox.settings().radius == kMaxRadius);
    CHECK(s.toolbox.settings().strength == 0.01f);
    CHECK(s.toolbox.settings().falloff.softness == 1);
    CHECK(s.toolbox.settings().smoothing == 0.5f);
    CHECK(checkSettings(s.toolbox.settings()));
    CHECK(told.count() == 1);
    s.toolbox.changeSettings([](StrokeSettings&) {});
    CHECK(told.count() == 1);
    for (int t = 0; t < kTools; ++t) {
        s.toolbox.setTool(static_cast<Tool>(t));
        CHECK(checkSettings(s.toolbox.settings()));
        CHECK(s.toolbox.settings().tool == static_cast<Tool>(t));
    }
    s.toolbox.setTool(Tool::raise);
    CHECK(s.toolbox.settings().radius == kMaxRadius);
}

TEST_CASE("a station brings a tool that belongs to it") {
    Workplace s(flatLevel(65, 65, 2));
    s.standpoint.setStation("cover");
    CHECK(s.toolbox.tool() == Tool::paint);
    s.toolbox.setTool(Tool::erase);
    s.standpoint.setStation("light");
    s.standpoint.setStation("cover");
    CHECK(s.toolbox.tool() == Tool::erase);
    s.standpoint.setStation("shape");
    CHECK(s.toolbox.tool() == Tool::raise);
}

TEST_CASE("Shift turns fill into cut and paint into erase") {
    Workplace s(flatLevel(65, 65, 2));
    s.toolbox.setTool(Tool::flatten);
    s.toolbox.changeSettings([](StrokeSettings& x) {
        x.earthwork = Earthwork::fill;
        x.height = -5;
        x.strength = 1;
        x.radius = 40;
    });
    strokeAcross(s);
    CHECK(altitudeAt(s.document.level(), 0, 0) == 0);  // filling cannot dig
    CHECK(s.document.history().entries().size() == 1);
    strokeAcross(s, true);
    CHECK(altitudeAt(s.document.level(), 0, 0) == Approx(-5).margin(0.01));
    s.toolbox.setTool(Tool::paint);
    s.chooseLayer(s.document.level().layers[1].id);
    s.toolbox.changeSettings([](StrokeSettings& x) { x.strength = 1; });
    strokeAcross(s);
    CHECK(weightsAt(s.document.level(), 32, 32)[1] == 255);
    CHECK(s.document.history().entries().back().what == "Paint layer 1");
    strokeAcross(s, true);
    CHECK(weightsAt(s.document.level(), 32, 32)[1] == 0);
    CHECK(s.document.history().entries().back().what == "Erase layer 1");
}

TEST_CASE("what cannot be done is said, not ignored") {
    Workplace s(flatLevel(65, 65, 2));
    QSignalSpy said(&s, &Workplace::said);
    s.standpoint.setStation("cover");
    s.chooseLayer(s.document.level().layers[0].id);
    strokeAcross(s, true);
    CHECK(said.count() == 1);
    CHECK(s.document.history().entries().size() == 1);
    s.document.edit("Hide", [](Level& l) { l.layers[1].hidden = true; });
    s.chooseLayer(s.document.level().layers[1].id);
    strokeAcross(s);
    CHECK(said.count() == 2);
    CHECK(s.document.history().entries().size() == 2);
}

TEST_CASE("the chosen layer survives undo when it can") {
    Workplace s(flatLevel(65, 65, 3));
    const uint32_t second = s.document.level().layers[1].id;
    s.chooseLayer(second);
    s.document.edit("Delete layer", [](Level& l) { REQUIRE(removeLayer(l, l.layers[1].id)); });
    CHECK(s.document.level().layer(s.standpoint.layer()) != nullptr);
    CHECK(s.standpoint.layer() != second);
    s.document.undo();
    s.chooseLayer(second);
    CHECK(s.standpoint.layer() == second);
    s.chooseLayer(999);
    CHECK(s.standpoint.layer() == second);
}

TEST_CASE("what follows a large stroke catches up beside the window, and comes to the same level") {
    Level start = hillyLevel(400, 333, 5);
    Layer& laid = start.layers[1];
    laid.rules = {{}};
    laid.rules[0].kind = RuleKind::slope;
    laid.rules[0].from = 8, laid.rules[0].to = 90;
    wakeRules(start, laid.id, false);
    const uint32_t id = start.layers[1].id;
    Document d(start);
    StrokeSettings s;
    s.radius = 150;
    s.strength = 30;
    const Stroke stroke{s, {{0, 0, 1, 0}, {30, 10, 1, 0.4}}};
    const auto byHand = [&](bool drop = false) {
        d.beginStroke(s, {}, {});
        for (const StrokePoint& p : stroke.points) d.continueStroke(p);
        if (drop) d.cancelStroke();
        else d.endStroke("Raise");
    };
    const auto rest = [&] {
        for (int i = 0; i < 6000 && d.catchingUp(); ++i) QTest::qWait(10);
        REQUIRE_FALSE(d.catchingUp());
    };
    // The same through the core, which lets everything follow at once.
    Level once = start, twice, painted;
    REQUIRE(runStroke(once, stroke));
    twice = once;
    REQUIRE(runStroke(twice, stroke));

    byHand();
    REQUIRE(d.catchingUp());
    CHECK(d.history().entries().size() == 2);
    CHECK(d.standing().layer(id)->coverage == start.layer(id)->coverage);  // not yet
    CHECK(d.settled()({}).value() == once);                                // what would be saved now
    const uint64_t serial = d.history().serial();
    rest();
    CHECK(d.history().serial() == serial);
    CHECK(d.standing() == once);
    CHECK(d.level() == once);

    SECTION("another stroke, before the first was followed") {
        d.undo();
        byHand();
        REQUIRE(d.catchingUp());
        byHand();
        rest();
        CHECK(d.standing() == twice);
        // The step between was never followed; it is when one comes back to it, and only then.
        d.undo();
        CHECK(d.catchingUp());
        rest();
        CHECK(d.standing() == once);
        d.redo();
        CHECK_FALSE(d.catchingUp());
        CHECK(d.standing() == twice);
    }
    SECTION("a stroke that is taken back leaves what is owed") {
        d.undo();
        byHand();
        byHand(true);
        CHECK(d.catchingUp());
        rest();
        CHECK(d.standing() == once);
        CHECK(d.level() == once);
    }
    SECTION("an edit that needs no following carries it on") {
        d.undo();
        byHand();
        CHECK(d.edit("Sun", [](Level& l) { l.sun.azimuth += 10; }));
        CHECK(d.catchingUp());
        rest();
        once.sun.azimuth += 10;
        CHECK(d.standing() == once);
        // Over a step back there is nothing left of it.
        d.stepTo(0);
        CHECK_FALSE(d.catchingUp());
        CHECK(d.standing() == start);
    }
    SECTION("another level has nothing to do with it") {
        d.undo();
        byHand();
        d.open(hillyLevel(65, 70, 2), {}, "other");
        CHECK_FALSE(d.catchingUp());
        const Level other = d.standing();
        CHECK(QTest::qWaitFor([] { return Task::underWay() == 0; }, 60'000));
        CHECK(d.standing() == other);
    }
}

TEST_CASE("random work through the session is undone to the very bit", "[property]") {
    Random random(77);
    Workplace s(hillyLevel(129, 129, 5, 4));
    const Level start = s.document.level();
    std::vector<Level> states{start};
    for (int i = 0; i < 60; ++i) {
        s.toolbox.setTool(static_cast<Tool>(wholeBetween(random, 0, kTools - 1)));
        s.chooseLayer(s.document.level().layers[static_cast<size_t>(wholeBetween(random, 1, 3))].id);
        s.toolbox.changeSettings([&](StrokeSettings& x) { x.radius = static_cast<float>(between(random, 1, 60)); });
        s.beginStroke(at(between(random, -70, 70), between(random, -70, 70)), 1, wholeBetween(random, 0, 1));
        s.continueStroke(at(between(random, -70, 70), between(random, -70, 70)),
                         static_cast<float>(between(random, 0.1, 1)), between(random, 0, 0.6));
        if (wholeBetween(random, 0, 4) == 0) s.document.cancelStroke();
        else s.endStroke();
        if (s.document.history().entries().size() > states.size()) states.push_back(s.document.level());
    }
    REQUIRE(states.size() > 20);
    for (size_t i = states.size(); i-- > 0;) {
        REQUIRE(s.document.level() == states[i]);
        s.document.undo();
    }
    REQUIRE(s.document.level() == start);
    for (size_t i = 1; i < states.size(); ++i) {
        s.document.redo();
        REQUIRE(s.document.level() == states[i]);
    }
}

TEST_CASE("painting tells only of the ground below the brush") {
    Level level = flatLevel(257, 257, 2);
    for (int r = 0; r < 257; ++r) level.strata[0].heights.set(3, r, 300);  // a wall far away
    Workplace s(level);
    QSignalSpy told(&s.document, &Document::changed);
    s.standpoint.setStation("cover");
    s.chooseLayer(s.document.level().layers[1].id);
    s.beginStroke(at(40, 0), 1, false);
    s.endStroke();
    REQUIRE(told.count() == 2);  // its samples, then the step
    const News news = told.front().at(0).value<News>();
    CHECK(news.change.ground.empty());
    CHECK_FALSE(news.change.cover.empty());
    CHECK(news.patches.front().heights.high == 0);
}

TEST_CASE("a change of cover touches the ground below it, at every cover resolution") {
    for (const int factor : {1, 2, 4}) {
        const Level level = flatLevel(65, 65, 2, 1, factor);
        const Region cover{8 * factor, 4 * factor, 12 * factor + 1, 6 * factor + 1};
        const TileSet touched = touchedGround(level, Change{{}, cover});
        CHECK(touched.contains(8, 4));
        CHECK(touched.contains(12, 6));
        CHECK_FALSE(touched.contains(20, 5));
        CHECK(touchedGround(level, Change{Region{1, 1, 2, 2}, cover}).contains(1, 1));
        CHECK(touchedGround(level, {}).empty());
    }
}
