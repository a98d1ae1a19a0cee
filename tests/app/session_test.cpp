// The session without any window: what it keeps, what it tells.
#include <catch2/catch.hpp>

#include <QSignalSpy>

#include "cover/weights.h"
#include "level/ground.h"
#include "levels.h"
#include "session.h"

using namespace jam;
using namespace jam::test;

namespace {

glm::dvec3 at(double x, double z) { return {x, 0, z}; }

void strokeAcross(Session& s, bool inverted = false) {
    s.beginStroke(at(-20, 0), 1, inverted);
    s.continueStroke(at(20, 0), 1, 0.4);
    s.endStroke();
}

}  // namespace

TEST_CASE("a stroke is one step, told as it grows") {
    Session s(flatLevel(129, 129, 2));
    QSignalSpy changed(&s, &Session::changed), edited(&s, &Session::edited);
    s.beginStroke(at(-20, 0), 1, false);
    CHECK(s.stroking());
    CHECK(changed.count() == 1);
    CHECK(edited.count() == 0);
    CHECK(altitudeAt(s.strokeGround(), -20, 0) == 0);  // picking stays on the ground as it was
    CHECK(altitudeAt(s.level(), -20, 0) > 0);
    s.continueStroke(at(20, 0), 1, 0.4);
    s.endStroke();
    CHECK(changed.count() == 2);
    CHECK(edited.count() == 1);
    CHECK(s.history().entries().size() == 2);
    const News news = changed.back().at(0).value<News>();
    CHECK(news.change.ground.contains(64, 64));
    CHECK(news.spots.front().heights.high >= altitudeAt(s.level(), 0, 0));
}

TEST_CASE("the pyramid always fits the level that is seen") {
    Session s(hillyLevel(129, 129, 3, 2));
    const auto fits = [&] {
        const HeightPyramid fresh(s.level());
        for (int z = 0; z < fresh.down(0); ++z)
            for (int x = 0; x < fresh.across(0); ++x)
                if (fresh.span(0, x, z).high != s.pyramid().span(0, x, z).high || fresh.span(0, x, z).low != s.pyramid().span(0, x, z).low) return false;
        return true;
    };
    strokeAcross(s);
    CHECK(fits());
    s.undo();
    CHECK(fits());
    s.redo();
    CHECK(fits());
    s.beginStroke(at(0, 30), 1, true);
    s.cancelStroke();
    CHECK(fits());
    s.open(hillyLevel(65, 90, 8, 1), {}, "other");
    CHECK(fits());
}

TEST_CASE("unsaved work is known as such, also after undo and redo") {
    Session s(flatLevel(65, 65, 2));
    s.markSaved("a.jamhill", s.history().serial());
    CHECK_FALSE(s.dirty());
    strokeAcross(s);
    CHECK(s.dirty());
    s.undo();
    CHECK_FALSE(s.dirty());
    s.redo();
    CHECK(s.dirty());
    s.markSaved("a.jamhill", s.history().serial());
    CHECK_FALSE(s.dirty());
    s.undo();
    CHECK(s.dirty());
    strokeAcross(s);  // another step in the same place is not the saved one
    CHECK(s.dirty());
    s.open(flatLevel(65, 65, 1), {}, "New level");
    CHECK(s.dirty());
    s.open(flatLevel(65, 65, 1), "b.jamhill", "Open");
    CHECK_FALSE(s.dirty());
}

TEST_CASE("saving in the background marks what was saved, not what came after") {
    Session s(flatLevel(65, 65, 2));
    strokeAcross(s);
    const uint64_t saved = s.history().serial();
    strokeAcross(s);
    s.markSaved("a.jamhill", saved);
    CHECK(s.dirty());
    s.undo();
    CHECK_FALSE(s.dirty());
}

TEST_CASE("turning one knob is one step, another knob another") {
    Session s(flatLevel(65, 65, 2));
    for (int i = 1; i <= 5; ++i) s.edit("Tile size", [i](Level& l) { l.layers[0].tileSize = i; }, "tile");
    CHECK(s.history().entries().size() == 2);
    s.edit("Blend", [](Level& l) { l.layers[0].blend = 0.1f; }, "blend");
    CHECK(s.history().entries().size() == 3);
    s.edit("Rename", [](Level& l) { l.name = "x"; });
    s.edit("Rename", [](Level& l) { l.name = "y"; });
    CHECK(s.history().entries().size() == 5);
    s.stepTo(1);
    CHECK(s.level().layers[0].tileSize == 5);
    CHECK(s.level().layers[0].blend == 0.6f);
    s.undo();
    CHECK(s.level().layers[0].tileSize == 4);
}

TEST_CASE("settings are kept in range and per tool") {
    Session s(flatLevel(65, 65, 2));
    QSignalSpy told(&s, &Session::settingsChanged);
    s.changeSettings([](StrokeSettings& x) { x.radius = 1e9f; x.strength = -4; x.falloff.softness = 7; x.smoothing = 3; });
    CHECK(s.settings().radius == kMaxRadius);
    CHECK(s.settings().strength == 0.01f);
    CHECK(s.settings().falloff.softness == 1);
    CHECK(s.settings().smoothing == 0.5f);
    CHECK(checkSettings(s.settings()));
    CHECK(told.count() == 1);
    s.changeSettings([](StrokeSettings&) {});
    CHECK(told.count() == 1);
    for (int t = 0; t < kTools; ++t) {
        s.setTool(static_cast<Tool>(t));
        CHECK(checkSettings(s.settings()));
        CHECK(s.settings().tool == static_cast<Tool>(t));
    }
    s.setTool(Tool::raise);
    CHECK(s.settings().radius == kMaxRadius);
}

TEST_CASE("a station brings a tool that belongs to it") {
    Session s(flatLevel(65, 65, 2));
    s.setStation(Station::cover);
    CHECK(s.tool() == Tool::paint);
    s.setTool(Tool::erase);
    s.setStation(Station::light);
    s.setStation(Station::cover);
    CHECK(s.tool() == Tool::erase);
    s.setStation(Station::shape);
    CHECK(s.tool() == Tool::raise);
}

TEST_CASE("Shift turns fill into cut and paint into erase") {
    Session s(flatLevel(65, 65, 2));
    s.setTool(Tool::flatten);
    s.changeSettings([](StrokeSettings& x) { x.earthwork = Earthwork::fill; x.height = -5; x.strength = 1; x.radius = 40; });
    strokeAcross(s);
    CHECK(altitudeAt(s.level(), 0, 0) == 0);  // filling cannot dig
    CHECK(s.history().entries().size() == 1);
    strokeAcross(s, true);
    CHECK(altitudeAt(s.level(), 0, 0) == Approx(-5).margin(0.01));
    s.setTool(Tool::paint);
    s.setLayer(s.level().layers[1].id);
    s.changeSettings([](StrokeSettings& x) { x.strength = 1; });
    strokeAcross(s);
    CHECK(weightsAt(s.level(), 32, 32)[1] == 255);
    CHECK(s.history().entries().back().what == "Paint layer 1");
    strokeAcross(s, true);
    CHECK(weightsAt(s.level(), 32, 32)[1] == 0);
    CHECK(s.history().entries().back().what == "Erase layer 1");
}

TEST_CASE("what cannot be done is said, not ignored") {
    Session s(flatLevel(65, 65, 2));
    QSignalSpy said(&s, &Session::said);
    s.setStation(Station::cover);
    s.setLayer(s.level().layers[0].id);
    strokeAcross(s, true);
    CHECK(said.count() == 1);
    CHECK(s.history().entries().size() == 1);
    s.edit("Hide", [](Level& l) { l.layers[1].hidden = true; });
    s.setLayer(s.level().layers[1].id);
    strokeAcross(s);
    CHECK(said.count() == 2);
    CHECK(s.history().entries().size() == 2);
}

TEST_CASE("the chosen layer survives undo when it can") {
    Session s(flatLevel(65, 65, 3));
    const uint32_t second = s.level().layers[1].id;
    s.setLayer(second);
    s.edit("Delete layer", [](Level& l) { removeLayer(l, 1); });
    CHECK(s.level().layer(s.layer()) != nullptr);
    CHECK(s.layer() != second);
    s.undo();
    s.setLayer(second);
    CHECK(s.layer() == second);
    s.setLayer(999);
    CHECK(s.layer() == second);
}

TEST_CASE("random work through the session is undone to the very bit", "[property]") {
    Random random(77);
    Session s(hillyLevel(129, 129, 5, 4));
    const Level start = s.level();
    std::vector<Level> states{start};
    for (int i = 0; i < 60; ++i) {
        s.setTool(static_cast<Tool>(wholeBetween(random, 0, kTools - 1)));
        s.setLayer(s.level().layers[static_cast<size_t>(wholeBetween(random, 1, 3))].id);
        s.changeSettings([&](StrokeSettings& x) { x.radius = static_cast<float>(between(random, 1, 60)); });
        s.beginStroke(at(between(random, -70, 70), between(random, -70, 70)), 1, wholeBetween(random, 0, 1));
        s.continueStroke(at(between(random, -70, 70), between(random, -70, 70)), static_cast<float>(between(random, 0.1, 1)), between(random, 0, 0.6));
        if (wholeBetween(random, 0, 4) == 0) s.cancelStroke();
        else s.endStroke();
        if (s.history().entries().size() > states.size()) states.push_back(s.level());
    }
    REQUIRE(states.size() > 20);
    for (size_t i = states.size(); i-- > 0;) {
        REQUIRE(s.level() == states[i]);
        s.undo();
    }
    REQUIRE(s.level() == start);
    for (size_t i = 1; i < states.size(); ++i) {
        s.redo();
        REQUIRE(s.level() == states[i]);
    }
}

TEST_CASE("painting tells only of the ground below the brush") {
    Level level = flatLevel(257, 257, 2);
    for (int r = 0; r < 257; ++r) level.strata[0].heights.set(3, r, 300);  // a wall far away
    Session s(level);
    QSignalSpy changed(&s, &Session::changed);
    s.setStation(Station::cover);
    s.setLayer(s.level().layers[1].id);
    s.beginStroke(at(40, 0), 1, false);
    s.endStroke();
    REQUIRE(changed.count() == 1);
    const News news = changed.back().at(0).value<News>();
    CHECK(news.change.ground.empty());
    CHECK_FALSE(news.change.cover.empty());
    CHECK(news.spots.front().heights.high == 0);
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
