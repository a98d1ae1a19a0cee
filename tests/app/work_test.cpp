// A designer's work, through the real window.
#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>
#include <QTemporaryDir>
#include <QToolButton>

#include "cover/weights.h"
#include "files/field_level.h"
#include "files/level_file.h"
#include "files/png.h"
#include "level/ground.h"
#include "levels.h"
#include "panels/bench.h"
#include "panels/readout.h"
#include "panels/section.h"
#include "panels/sheet.h"
#include "panels/trail.h"
#include "stage.h"
#include "stations/cover/layer_strip.h"
#include "stations/hand_over/hand_over_station.h"
#include "stations/lay_out/import_dialog.h"
#include "stations/lay_out/layout_dialog.h"
#include "stations/light/sun_dial.h"
#include "survey/check.h"

using namespace jam;
using namespace jam::test;

namespace {

Level paintable(int size = 129) {
    Level level = flatLevel(size, size, 0, 2);
    addLayer(level, plainLayer("Moss", 60, 90, 40));
    addLayer(level, plainLayer("Brick", 190, 60, 40));
    addLayer(level, plainLayer("Snow", 235, 235, 240));
    return level;
}

// Mean difference of two pictures around a pixel, in steps of 0..255.
double differenceNear(const QImage& a, const QImage& b, const QPoint& at, int reach) {
    double sum = 0;
    int n = 0;
    for (int y = at.y() - reach; y <= at.y() + reach; ++y)
        for (int x = at.x() - reach; x <= at.x() + reach; ++x) {
            if (!a.rect().contains(x, y)) continue;
            const QRgb p = a.pixel(x, y), q = b.pixel(x, y);
            sum += std::abs(qRed(p) - qRed(q)) + std::abs(qGreen(p) - qGreen(q)) + std::abs(qBlue(p) - qBlue(q));
            n += 3;
        }
    return n ? sum / n : 0;
}

}  // namespace

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

TEST_CASE("save and reopen gives the identical level") {
    const QTemporaryDir folder;
    const QString path = folder.filePath("hill.jamhill");
    Stage stage(paintable());
    stage.drag(stage.pixelOf(-30, 10), stage.pixelOf(30, 10));
    stage.place.standpoint.setStation("cover");
    stage.drag(stage.pixelOf(-30, 30), stage.pixelOf(30, 30));
    const Level made = stage.place.document.level();
    stage.window.saveTo(path);
    stage.settle();
    CHECK_FALSE(stage.place.document.dirty());
    CHECK_FALSE(stage.window.windowTitle().contains('*'));
    const QImage picture = stage.picture();

    Stage again(paintable(65));
    again.window.openFile(path);
    again.settle();
    CHECK(again.place.document.level() == made);
    CHECK(again.place.document.path() == path);
    CHECK_FALSE(again.place.document.dirty());
    CHECK(again.window.windowTitle().contains("flat"));
    // And it looks the same.
    again.view().setCamera(stage.view().camera());
    const QImage reopened = again.picture();
    REQUIRE(reopened.size() == picture.size());
    CHECK(differenceNear(reopened, picture, picture.rect().center(), 300) < 0.5);
}

TEST_CASE("a file that cannot be opened or written is refused in words and the level stays") {
    const QTemporaryDir folder;
    Stage stage(paintable());
    stage.drag(stage.pixelOf(-30, 10), stage.pixelOf(30, 10));
    const Level before = stage.place.document.level();
    QFile bad(folder.filePath("bad.jamhill"));
    REQUIRE(bad.open(QIODevice::WriteOnly));
    bad.write("not a level at all");
    bad.close();
    stage.window.openFile(bad.fileName());
    stage.settle();
    CHECK(stage.window.lastMessage().contains("not a level file"));
    CHECK(stage.place.document.level() == before);
    stage.window.saveTo(folder.filePath("gone/deep/hill.jamhill"));
    stage.settle();
    CHECK(stage.window.lastMessage().contains("folder is gone"));
    CHECK(stage.place.document.dirty());
    stage.window.station<HandOverStation>()->handOverTo(bad.fileName() + "/under-a-file", {});
    stage.settle();
    CHECK(stage.window.lastMessage().contains("path"));
    CHECK(stage.place.document.level() == before);
}

TEST_CASE("the button hands over into the folder that is named") {
    const QTemporaryDir folder;
    Stage stage(paintable());
    stage.place.standpoint.setStation("handOver");
    auto* where = stage.window.sheet()->findChild<QLineEdit*>("handOverFolder");
    where->setText(folder.filePath("out"));
    QTest::mouseClick(stage.window.sheet()->findChild<QPushButton*>("handOver"), Qt::LeftButton);
    stage.settle();
    CHECK(QFile::exists(folder.filePath("out/heightmap.png")));
    CHECK(QFile::exists(folder.filePath("out/weights-1.png")));
    CHECK(QFile::exists(folder.filePath("out/manifest.json")));
    CHECK(stage.window.trail()->station("handOver")->state() == "as handed over");
    stage.drag(stage.pixelOf(-30, 10), stage.pixelOf(30, 10));  // not at a station with a brush: nothing happens
    CHECK(stage.place.document.history().entries().size() == 1);
    stage.place.standpoint.setStation("shape");
    stage.drag(stage.pixelOf(-30, 10), stage.pixelOf(30, 10));
    CHECK(stage.window.trail()->station("handOver")->state() == "changed since");
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

TEST_CASE("the lay-out dialog tells what a level costs and refuses what cannot be") {
    const std::vector<Layer> layers{plainLayer("Clay"), plainLayer("Fern")};
    LayoutDialog dialog(layers);
    dialog.show();
    auto* width = dialog.findChild<QDoubleSpinBox*>("width");
    auto* make = dialog.findChild<QPushButton*>("make");
    auto* cost = dialog.findChild<QLabel*>("cost");
    auto* wrong = dialog.findChild<QLabel*>("wrong");
    width->setValue(1024);
    CHECK(cost->text().contains("1025 × 513"));
    CHECK(make->isEnabled());
    width->setValue(20000);
    CHECK_FALSE(make->isEnabled());
    CHECK(wrong->text().contains("8193"));
    dialog.findChild<QDoubleSpinBox*>("spacing")->setValue(4);
    CHECK(make->isEnabled());
    dialog.findChild<QDoubleSpinBox*>("start")->setValue(900);
    CHECK_FALSE(make->isEnabled());
    dialog.findChild<QDoubleSpinBox*>("start")->setValue(10);
    dialog.findChild<QComboBox*>("firstLayer")->setCurrentIndex(1);
    const Result<Level> level = dialog.level();
    REQUIRE(level);
    CHECK(level.value().columns == 5001);
    CHECK(level.value().startHeight == 10);
    CHECK(level.value().layers[0].name == "Fern");
    // Generated ground has to fit below the highest.
    CHECK_FALSE(dialog.landscape());
    dialog.findChild<QComboBox*>("ground")->setCurrentIndex(3);
    dialog.findChild<QDoubleSpinBox*>("formHeight")->setValue(500);
    CHECK_FALSE(make->isEnabled());
    dialog.findChild<QDoubleSpinBox*>("formHeight")->setValue(80);
    CHECK(make->isEnabled());
    REQUIRE(dialog.landscape());
    CHECK(dialog.landscape()->kind == Landscape::island);
    CHECK(dialog.landscape()->height == 80);
}

TEST_CASE("dropping a level file opens it", "[card]") {
    const QTemporaryDir folder;
    const QString path = folder.filePath("dropped.jamhill");
    const Level level = hillyLevel(65, 65, 9, 2);
    REQUIRE(saveLevel(level, path.toStdString()));
    Stage stage(paintable());
    stage.drop(path);
    CHECK(stage.place.document.level() == level);
}

TEST_CASE("a heightmap becomes a level through the dialog, and eight bits are warned of") {
    const std::vector<Layer> layers{plainLayer("Clay"), plainLayer("Fern")};
    Pixels picture{9, 5, 1, 8, {}};
    for (int i = 0; i < 45; ++i) picture.samples.push_back(static_cast<uint16_t>(i * 5));
    const Bytes bytes = encodePng(picture);
    ImportDialog dialog(layers, bytes, decodeHeightField(bytes, "hills.png").take(), std::nullopt, "hills.png");
    dialog.show();
    CHECK(dialog.findChild<QLabel*>("warns")->text().contains("256 steps"));
    CHECK(dialog.levelName() == "hills");
    auto* black = dialog.findChild<QDoubleSpinBox*>("black");
    auto* white = dialog.findChild<QDoubleSpinBox*>("white");
    auto* make = dialog.findChild<QPushButton*>("make");
    white->setValue(-5);
    CHECK_FALSE(make->isEnabled());
    black->setValue(-10);
    white->setValue(41);
    dialog.findChild<QDoubleSpinBox*>("spacing")->setValue(2);
    dialog.findChild<QCheckBox*>("soften")->setChecked(false);
    CHECK(make->isEnabled());
    Level level = levelFromField(dialog.field(), dialog.wish()).take();
    CHECK(level.columns == 9);
    CHECK(level.depth() == 8);
    CHECK(groundSample(level, 0, 0) == Approx(-10));
    CHECK(groundSample(level, 8, 4) == Approx(-10 + 51 * 220 / 255.0));
    CHECK(level.lowest < -10);  // room to dig
    dialog.findChild<QComboBox*>("fit")->setCurrentIndex(1);
    CHECK(levelFromField(dialog.field(), dialog.wish()).value().columns == 257);
}

TEST_CASE("a raw heightmap with the wrong byte order looks like static, and is put right in the dialog") {
    Bytes bytes;
    for (int i = 0; i < 64 * 64; ++i) {
        const int v = 20000 + 150 * (i % 64) + 90 * (i / 64);
        bytes.push_back(static_cast<uint8_t>(v & 255));
        bytes.push_back(static_cast<uint8_t>(v >> 8));
    }
    const RawLayout wrong{64, 64, RawSample::u16, true, 0};
    ImportDialog dialog({plainLayer("Clay")}, bytes, decodeHeightField(bytes, "h.raw", wrong).take(), wrong, "h.raw");
    dialog.show();
    auto* warns = dialog.findChild<QLabel*>("warns");
    CHECK(warns->text().contains("static"));
    dialog.findChild<QComboBox*>("rawOrder")->setCurrentIndex(0);
    CHECK_FALSE(warns->text().contains("static"));
    CHECK(dialog.field().low == 20000);
    auto* make = dialog.findChild<QPushButton*>("make");
    dialog.findChild<QSpinBox*>("rawWidth")->setValue(640);
    CHECK_FALSE(make->isEnabled());
    CHECK(dialog.findChild<QLabel*>("wrong")->text().contains("bytes"));
    dialog.findChild<QSpinBox*>("rawWidth")->setValue(64);
    CHECK(make->isEnabled());
}

TEST_CASE("a picture dropped at Cover becomes a layer, one that is none is refused in words") {
    const QTemporaryDir folder;
    Stage stage(paintable());
    stage.place.standpoint.setStation("cover");
    const auto dropOn = [&](const QString& path) { stage.drop(path); };
    const auto accept = [](QWidget* dialog) { static_cast<QDialog*>(dialog)->accept(); };
    QImage image(64, 32, QImage::Format_RGB32);
    image.fill(QColor(30, 140, 200));
    for (const char* name : {"tarn.png", "tarn.jpg", "tarn.bmp"}) {
        const size_t before = stage.place.document.level().layers.size();
        REQUIRE(image.save(folder.filePath(name)));
        stage.answer(accept);
        dropOn(folder.filePath(name));
        stage.settle();
        REQUIRE(stage.place.document.level().layers.size() == before + 1);
        CHECK(stage.place.document.level().layers.back().name == "tarn");
        CHECK(stage.place.standpoint.layer() == stage.place.document.level().layers.back().id);
    }
    stage.drag(stage.pixelOf(-20, 0), stage.pixelOf(20, 0));
    const QImage picture = stage.picture();
    const QRgb p = picture.pixel(stage.pixelOf(0, 0));
    CHECK(qBlue(p) > qRed(p) + 30);
    QFile bad(folder.filePath("bad.jpg"));
    REQUIRE(bad.open(QIODevice::WriteOnly));
    bad.write("no picture");
    bad.close();
    const Level before = stage.place.document.level();
    dropOn(bad.fileName());
    CHECK(stage.window.lastMessage().contains("not a picture that can be read"));
    dropOn(folder.filePath("missing.png"));
    CHECK(stage.window.lastMessage().contains("does not exist"));
    CHECK(stage.place.document.level() == before);
}

TEST_CASE("a level holds at most sixteen layers, and says so") {
    const QTemporaryDir folder;
    Level level = flatLevel(33, 33, kMaxLayers);
    Stage stage(level);
    stage.place.standpoint.setStation("cover");
    QImage image(8, 8, QImage::Format_RGB32);
    image.fill(Qt::red);
    REQUIRE(image.save(folder.filePath("one-more.png")));
    stage.drop(folder.filePath("one-more.png"));
    CHECK(stage.place.document.level().layers.size() == kMaxLayers);
    CHECK(stage.window.lastMessage().contains("at most 16 layers"));
    // All sixteen can be chosen (that they are drawn: render_test).
    for (size_t i = 0; i < kMaxLayers; ++i) {
        stage.place.chooseLayer(stage.place.document.level().layers[i].id);
        CHECK(stage.place.standpoint.layer() == stage.place.document.level().layers[i].id);
    }
    stage.settle();
    CHECK(stage.view().settled());
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
