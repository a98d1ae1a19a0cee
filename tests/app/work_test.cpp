// A designer's work, through the real window.
#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>
#include <QLineEdit>
#include <QListWidget>
#include <QToolButton>

#include "cover/weights.h"
#include "files/png.h"
#include "level/ground.h"
#include "levels.h"
#include "paintable.h"
#include "panels/bench.h"
#include "panels/readout.h"
#include "panels/section.h"
#include "panels/sheet.h"
#include "panels/trail.h"
#include "stage.h"
#include "stations/cover/layer_strip.h"
#include "stations/lay_out/import_dialog.h"
#include "stations/lay_out/layout_dialog.h"
#include "stations/light/sun_dial.h"
#include "survey/check.h"

using namespace jam;
using namespace jam::test;

TEST_CASE("a drag raises the ground where the cursor is, and undo restores it exactly", "[card]") {
    Stage stage(paintable());
    const Level before = stage.place.document.level();
    const QImage picture = stage.picture();
    const QPoint from = stage.pixelOf(-30, 10), to = stage.pixelOf(30, 10);
    stage.drag(from, to);
    stage.settle();
    CHECK(altitudeAt(stage.place.document.level(), 0, 10) > 0.5);
    CHECK(altitudeAt(stage.place.document.level(), -100, -100) == 0);
    CHECK(stage.place.document.dirty());
    CHECK(differenceNear(stage.picture(), picture, stage.pixelOf(0, 10), 40) > 1);
    const Level raised = stage.place.document.level();

    stage.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(stage.place.document.level() == before);
    CHECK(stage.picture() == picture);
    stage.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(stage.place.document.level() == raised);
    CHECK(checkLevel(raised).empty());
}

TEST_CASE("Shift lowers, and holding still goes on building", "[card]") {
    Stage stage(paintable());
    const QPoint at = stage.pixelOf(0, 0);
    stage.press(at, Qt::ShiftModifier);
    const auto altitude = [&] { return altitudeAt(stage.place.document.level(), 0, 0); };
    CHECK(stage.waitFor([&] { return altitude() < -0.1; }));
    const double first = altitude();
    CHECK(stage.waitFor([&] { return altitude() < first - 0.5; }));
    stage.release(at);
    CHECK(stage.place.document.history().entries().back().what.starts_with("Lower −"));
    CHECK(stage.place.document.history().entries().size() == 2);
}

TEST_CASE("soften, carry and break up are strokes of the hand at Cover, each one undo step") {
    Level level = paintable();
    for (int r = 0; r < 129; ++r)
        for (int c = 64; c < 129; ++c)
            level.layers[1].coverage.set(c, r, static_cast<uint16_t>(std::min((c - 64) * 9000, 65535)));
    Stage stage(level);
    stage.place.standpoint.setStation("cover");
    stage.place.chooseLayer(level.layers[1].id);
    for (const auto& [key, tool] :
         {std::pair{Qt::Key_I, Tool::soften}, {Qt::Key_U, Tool::carry}, {Qt::Key_Y, Tool::breakUp}}) {
        stage.key(key);
        INFO(toolName(tool));
        REQUIRE(stage.place.toolbox.tool() == tool);
        CHECK(stage.place.standpoint.station() == "cover");
        stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.radius = 14, s.strength = 0.8f; });
        stage.drag(stage.pixelOf(20, -30), stage.pixelOf(-10, 30));
        CHECK_FALSE(stage.place.document.level() == level);
        CHECK(stage.place.document.level().strata == level.strata);
        CHECK(checkLevel(stage.place.document.level()).empty());
        stage.key(Qt::Key_Z, Qt::ControlModifier);
        REQUIRE(stage.place.document.level() == level);
    }
}

TEST_CASE("a protected layer is left alone, in words, and solo shows where a layer lies", "[card]") {
    Level level = paintable();
    for (int r = 0; r < 129; ++r)
        for (int c = 70; c < 129; ++c) level.layers[1].coverage.set(c, r, kFullCover);
    Stage stage(level);
    stage.place.standpoint.setStation("cover");
    stage.place.chooseLayer(level.layers[1].id);
    stage.view().plan();
    const QImage bare = stage.picture();
    QTest::mouseClick(stage.window.findChild<QToolButton*>("soloLayer"), Qt::LeftButton);
    const QImage heat = stage.picture();
    CHECK(heat.pixelColor(stage.pixelOf(60, 0)).lightness() > heat.pixelColor(stage.pixelOf(-60, 0)).lightness() + 80);
    // Another layer, another picture; without solo the ground is as it was.
    stage.place.chooseLayer(level.layers[2].id);
    CHECK_FALSE(stage.picture() == heat);
    QTest::mouseClick(stage.window.findChild<QToolButton*>("soloLayer"), Qt::LeftButton);
    CHECK(stage.picture() == bare);

    stage.place.chooseLayer(level.layers[1].id);
    QTest::mouseClick(stage.window.findChild<QToolButton*>("keepLayer"), Qt::LeftButton);
    REQUIRE(stage.place.document.level().layers[1].locked);
    const Level kept = stage.place.document.level();
    stage.drag(stage.pixelOf(-40, 0), stage.pixelOf(40, 0));
    CHECK(stage.place.document.level() == kept);
    CHECK(stage.window.lastMessage().contains("protected"));
    // Painting another one does not thin it.
    stage.place.chooseLayer(level.layers[2].id);
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.strength = 1; });
    stage.drag(stage.pixelOf(-40, 0), stage.pixelOf(40, 0));
    CHECK(stage.place.document.level().layers[1].coverage == kept.layers[1].coverage);
    CHECK_FALSE(stage.place.document.level() == kept);
}

TEST_CASE("paint that is limited to steep ground stays off the flat") {
    Level level = paintable();
    for (int r = 0; r < 129; ++r)
        for (int c = 0; c < 129; ++c)
            level.strata[0].heights.set(c, r, c > 64 ? static_cast<float>(std::min(c - 64, 20)) * 3.f : 0.f);
    Stage stage(level);
    stage.place.standpoint.setStation("cover");
    stage.place.chooseLayer(level.layers[1].id);
    stage.place.toolbox.changeSettings(
        [](StrokeSettings& s) { s.radius = 50, s.strength = 1, s.falloff.softness = 0.1f, s.where.slopeFrom = 30.f; });
    stage.view().plan();
    stage.drag(stage.pixelOf(10, -5), stage.pixelOf(10, 5));
    CHECK(weightsAt(stage.place.document.level(), 72, 64)[1] > 200);
    CHECK(weightsAt(stage.place.document.level(), 50, 64)[1] == 0);
}

TEST_CASE("Esc takes the stroke in hand back", "[card]") {
    Stage stage(paintable());
    const Level before = stage.place.document.level();
    stage.press(stage.pixelOf(0, 0));
    CHECK(stage.waitFor([&] { return !(stage.place.document.level() == before); }));
    QTest::keyClick(stage.canvas(), Qt::Key_Escape);
    CHECK(stage.place.document.level() == before);
    stage.release(stage.pixelOf(0, 0));
    CHECK(stage.place.document.level() == before);
    CHECK(stage.place.document.history().entries().size() == 1);
}

TEST_CASE("a paint drag changes the pixels and the readout, and Shift uncovers what lies below", "[card]") {
    Stage stage(paintable());
    QTest::mouseClick(stage.window.trail()->station("cover"), Qt::LeftButton);
    CHECK(stage.place.standpoint.station() == "cover");
    QTest::mouseClick(stage.window.findChild<LayerStrip*>(), Qt::LeftButton, {},
                      stage.window.findChild<LayerStrip*>()->tile(1).center());
    CHECK(stage.place.document.level().layer(stage.place.standpoint.layer())->name == "Brick");
    const QImage before = stage.picture();
    const Level plain = stage.place.document.level();
    const QPoint at = stage.pixelOf(10, 0);
    stage.drag(stage.pixelOf(-20, 0), stage.pixelOf(30, 0));
    stage.settle();
    CHECK(weightsAt(stage.place.document.level(), 64 + 5, 64)[1] > 150);
    const QImage painted = stage.picture();
    CHECK(differenceNear(painted, before, at, 8) > 15);
    CHECK(qRed(painted.pixel(at)) > qGreen(painted.pixel(at)) + 20);
    stage.move(at, Qt::NoButton);
    CHECK(stage.window.bench()->readout()->text().contains("Brick"));

    for (int i = 0; i < 4; ++i) stage.drag(stage.pixelOf(-24, 0), stage.pixelOf(34, 0), Qt::ShiftModifier);
    stage.settle();
    CHECK(weightsAt(stage.place.document.level(), 64 + 5, 64)[1] < 40);
    for (int i = 0; i < 5; ++i) stage.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(stage.place.document.level() == plain);
    CHECK(stage.picture() == before);
}

TEST_CASE("Alt picks the layer or the height under the cursor") {
    Level level = paintable();
    level.layers[2].coverage.set(64, 64, kFullCover);
    for (int r = 60; r < 69; ++r)
        for (int c = 60; c < 69; ++c)
            level.layers[2].coverage.set(c, r, kFullCover), level.strata[0].heights.set(c, r, 7);
    Stage stage(level);
    stage.place.standpoint.setStation("cover");
    QTest::mouseClick(stage.canvas(), Qt::LeftButton, Qt::AltModifier, stage.pixelOf(0, 0));
    CHECK(stage.place.document.level().layer(stage.place.standpoint.layer())->name == "Snow");
    stage.key(Qt::Key_5);
    CHECK(stage.place.toolbox.tool() == Tool::flatten);
    QTest::mouseClick(stage.canvas(), Qt::LeftButton, Qt::AltModifier, stage.pixelOf(0, 0));
    REQUIRE(stage.place.toolbox.settings().height);
    CHECK(*stage.place.toolbox.settings().height == Approx(7).margin(0.01));
    CHECK(stage.place.document.history().entries().size() == 1);
}

TEST_CASE("the section's handles are the brush") {
    Stage stage(paintable());
    stage.move(stage.pixelOf(0, 0), Qt::NoButton);
    Section* section = stage.window.bench()->section();
    const auto pull = [&](Section::Grip grip, const QPointF& by) {
        const QPoint from = section->grip(grip).toPoint(), to = (section->grip(grip) + by).toPoint();
        QTest::mousePress(section, Qt::LeftButton, {}, from);
        QMouseEvent e(QEvent::MouseMove, to, section->mapToGlobal(to), Qt::NoButton, Qt::LeftButton, {});
        QCoreApplication::sendEvent(section, &e);
        QTest::mouseRelease(section, Qt::LeftButton, {}, to);
    };
    const StrokeSettings before = stage.place.toolbox.settings();
    pull(Section::Grip::edge, {30, 0});
    CHECK(stage.place.toolbox.settings().radius > before.radius * 1.1f);
    const float strength = stage.place.toolbox.settings().strength;
    pull(Section::Grip::crown, {0, 12});
    CHECK(stage.place.toolbox.settings().strength < strength);
    pull(Section::Grip::shoulder, {-20, 0});
    CHECK(stage.place.toolbox.settings().falloff.softness < 0.9f);
}

TEST_CASE("keys change radius and tool, and each tool keeps its settings") {
    Stage stage(paintable());
    const float radius = stage.place.toolbox.settings().radius;
    stage.key(Qt::Key_BracketRight);
    CHECK(stage.place.toolbox.settings().radius > radius);
    stage.key(Qt::Key_3);
    CHECK(stage.place.toolbox.tool() == Tool::smooth);
    CHECK(stage.place.toolbox.settings().radius == radius);
    stage.key(Qt::Key_BracketLeft);
    CHECK(stage.place.toolbox.settings().radius < radius);
    stage.key(Qt::Key_1);
    CHECK(stage.place.toolbox.settings().radius > radius);
}

TEST_CASE("one can fly, look, zoom, slide and orbit, and never sinks below the ground") {
    Level level = hillyLevel(129, 129, 3, 2);
    Stage stage(level);
    const auto above = [&] {
        return stage.view().camera().at.y -
               altitudeAt(stage.place.document.level(), stage.view().camera().at.x, stage.view().camera().at.z);
    };
    const Camera start = stage.view().camera();
    QTest::keyPress(stage.canvas(), Qt::Key_W);
    CHECK(stage.waitFor([&] { return stage.view().camera().at.z < start.at.z - 2; }));
    QTest::keyRelease(stage.canvas(), Qt::Key_W);
    const Camera stopped = stage.view().camera();
    QTest::qWait(60);
    CHECK(stage.view().camera() == stopped);

    stage.drag({300, 200}, {380, 230}, {}, Qt::RightButton);
    CHECK(stage.view().camera().yaw != Approx(stopped.yaw));
    CHECK(stage.view().camera().at == stopped.at);

    stage.key(Qt::Key_Home);
    const QPoint middle = stage.pixelOf(0, 0);
    const auto place = stage.view().pick(middle);
    REQUIRE(place);
    stage.drag(middle, middle + QPoint(60, 40), {}, Qt::MiddleButton);
    const auto slid = stage.view().camera().pixel(*place);
    REQUIRE(slid);
    CHECK(std::hypot(slid->x - middle.x() - 60, slid->y - middle.y() - 40) < 2);

    for (int i = 0; i < 60; ++i) {
        QWheelEvent wheel(middle, stage.canvas()->mapToGlobal(middle), {}, {0, 120}, Qt::NoButton, Qt::NoModifier,
                          Qt::NoScrollPhase, false);
        QCoreApplication::sendEvent(stage.canvas(), &wheel);
        if (i % 10 == 0) stage.drag({400, 200}, {500, 420}, Qt::ControlModifier, Qt::RightButton);
    }
    // Whatever that led to, the ground is pressed against from every side, and it gives nowhere.
    for (int side = 0; side < 8; ++side) {
        Camera c = stage.view().camera();
        c.at = {25.0 * std::cos(side), altitudeAt(level, 25.0 * std::cos(side), 25.0 * std::sin(side)) + 6,
                25.0 * std::sin(side)};
        c.yaw = 45 * side;
        c.pitch = -70;
        stage.view().setCamera(c);
        const QPoint centre(stage.canvas()->width() / 2, stage.canvas()->height() / 2);
        for (int i = 0; i < 30; ++i) {
            QWheelEvent wheel(centre, stage.canvas()->mapToGlobal(centre), {}, {0, 120}, Qt::NoButton, Qt::NoModifier,
                              Qt::NoScrollPhase, false);
            QCoreApplication::sendEvent(stage.canvas(), &wheel);
        }
        const Camera& now = stage.view().camera();
        REQUIRE(stage.place.document.level().holds(now.at.x, now.at.z));
        CHECK(above() > Navigator::kClearance - 0.01);
    }
    const Camera& c = stage.view().camera();
    CHECK(c.at.y < 100);
    stage.key(Qt::Key_P);
    CHECK(stage.view().camera().pitch < -89);
    CHECK(stage.view().pick({stage.canvas()->width() / 2.0, stage.canvas()->height() / 2.0}));
}

TEST_CASE("layers can be renamed, hidden, resized, reordered and deleted, and all of it undone") {
    Stage stage(paintable());
    stage.place.standpoint.setStation("cover");
    const Level before = stage.place.document.level();
    const QImage picture = stage.picture();
    auto* name = stage.window.sheet()->findChild<QLineEdit*>("layerName");
    name->setFocus();
    name->selectAll();
    QTest::keyClicks(name, "Old brick");
    QTest::keyClick(name, Qt::Key_Return);
    CHECK(stage.place.document.level().layer(stage.place.standpoint.layer())->name == "Old brick");
    QTest::mouseClick(stage.window.sheet()->findChild<QToolButton*>("hideLayer"), Qt::LeftButton);
    CHECK(stage.place.document.level().layer(stage.place.standpoint.layer())->hidden);
    // Painting a hidden layer is refused in words.
    stage.drag(stage.pixelOf(-20, 0), stage.pixelOf(30, 0));
    CHECK(stage.window.lastMessage().contains("hidden"));
    LayerStrip* strip = stage.window.findChild<LayerStrip*>();
    QTest::mousePress(strip, Qt::LeftButton, {}, strip->tile(1).center());
    QMouseEvent move(QEvent::MouseMove, strip->tile(2).center() + QPoint(30, 0),
                     strip->mapToGlobal(strip->tile(2).center() + QPoint(30, 0)), Qt::NoButton, Qt::LeftButton, {});
    QCoreApplication::sendEvent(strip, &move);
    QTest::mouseRelease(strip, Qt::LeftButton, {}, strip->tile(2).center() + QPoint(30, 0));
    CHECK(stage.place.document.level().layers[2].name == "Old brick");
    while (stage.place.document.history().canUndo()) stage.place.document.undo();
    CHECK(stage.place.document.level() == before);
    CHECK(stage.picture() == picture);
}

TEST_CASE("the list of what was done steps to any point", "[card]") {
    Stage stage(paintable());
    std::vector<Level> levels{stage.place.document.level()};
    for (int i = 0; i < 3; ++i) {
        stage.drag(stage.pixelOf(-40 + 20 * i, 0), stage.pixelOf(-20 + 20 * i, 20));
        levels.push_back(stage.place.document.level());
    }
    QListWidget* list = stage.window.sheet()->historyList();
    REQUIRE(list->count() == 4);
    list->scrollToItem(list->item(1));
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(list->item(1)).center());
    CHECK(stage.place.document.level() == levels[1]);
    list->scrollToItem(list->item(3));
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(list->item(3)).center());
    CHECK(stage.place.document.level() == levels[3]);
}

TEST_CASE("turning the sun on the dial is one step and changes the picture") {
    Stage stage(hillyLevel(129, 129, 3, 2));
    stage.place.standpoint.setStation("light");
    const QImage before = stage.picture();
    auto* dial = stage.window.sheet()->findChild<SunDial*>();
    const QPoint from = dial->sunPlace().toPoint(), to(dial->width() / 2 + 50, dial->height() / 2 + 30);
    QTest::mousePress(dial, Qt::LeftButton, {}, from);
    for (int i = 1; i <= 5; ++i) {
        const QPoint p = from + (to - from) * i / 5;
        QMouseEvent e(QEvent::MouseMove, p, dial->mapToGlobal(p), Qt::NoButton, Qt::LeftButton, {});
        QCoreApplication::sendEvent(dial, &e);
    }
    QTest::mouseRelease(dial, Qt::LeftButton, {}, to);
    CHECK(stage.place.document.level().sun.azimuth == Approx(121).margin(2));
    CHECK(stage.place.document.history().entries().size() == 2);
    CHECK(differenceNear(stage.picture(), before, stage.pixelOf(0, 0), 60) > 3);
}

TEST_CASE("tile size is seen at once", "[card]") {
    Level level = flatLevel(65, 65, 0);
    Layer striped = plainLayer("striped");
    Pixels p{16, 16, 3, 8, {}};
    for (int i = 0; i < 256; ++i) {
        const uint16_t v = (i / 16) % 16 < 8 ? 40 : 220;
        p.samples.insert(p.samples.end(), {v, v, v});
    }
    striped.colour = std::make_shared<PictureFile>(PictureFile{"s.png", encodePng(p)});
    addLayer(level, striped);
    Stage stage(level);
    stage.place.standpoint.setStation("cover");
    Camera c = stage.view().camera();
    c.at = {0, 12, 14};
    c.pitch = -50;
    stage.view().setCamera(c);
    const QImage before = stage.picture();
    stage.place.document.edit(
        "Tile size", [](Level& l) { l.layers[0].tileSize = 11; }, "tile");
    const QImage after = stage.picture();
    CHECK_FALSE(after == before);
    stage.place.document.undo();
    CHECK(stage.picture() == before);
}

TEST_CASE("a driver that cannot draw on the screen draws beside it, with all that was shown, and work goes on",
          "[card]") {
    Stage stage(paintable());
    stage.drag({300, 250}, {340, 260});
    stage.settle();
    const QImage before = stage.picture();
    stage.view().drawBeside({"", "OpenGL", "the driver said no", "update it"});
    QApplication::processEvents();
    stage.settle();
    CHECK(stage.window.lastMessage().contains("the driver said no"));
    const QImage after = stage.picture();
    REQUIRE(after.size() == before.size());
    double differ = 0;
    for (int y = 0; y < after.height(); y += 3)
        for (int x = 0; x < after.width(); x += 3)
            differ += std::abs(qGreen(after.pixel(x, y)) - qGreen(before.pixel(x, y)));
    CHECK(differ / (after.height() / 3.0 * after.width() / 3.0) < 6);
    const uint64_t serial = stage.place.document.history().serial();
    stage.drag({350, 300}, {360, 320});
    stage.settle();
    CHECK(stage.place.document.history().serial() != serial);
}
