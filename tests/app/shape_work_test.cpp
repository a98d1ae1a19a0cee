// Shaping by hand through the real window: ways of stroking, tips, mirrors, handles, looking back, the tape, overlays
// and work on the whole ground.
#include <catch2/catch.hpp>

#include <cmath>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFile>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QTemporaryDir>
#include <QToolButton>

#include "house/shelf.h"
#include "level/ground.h"
#include "level/opening.h"
#include "levels.h"
#include "panels/bench.h"
#include "panels/bend_edit.h"
#include "panels/brush_shelf.h"
#include "panels/number_field.h"
#include "panels/section.h"
#include "panels/sheet.h"
#include "stage.h"
#include "stations/shape/whole_panel.h"
#include "survey/check.h"

using namespace jam;
using namespace jam::test;

namespace {

Level plain(int size = 161) {
    Level level = flatLevel(size, size, 0, 2);
    addLayer(level, plainLayer("Moss", 60, 90, 40));
    addLayer(level, plainLayer("Brick", 190, 60, 40));
    return level;
}

double heightAt(Stage& stage, double x, double z) { return altitudeAt(stage.place.document.level(), x, z); }

void use(Stage& stage, Tool tool, float radius, float strength) {
    stage.place.toolbox.setTool(tool);
    stage.place.toolbox.changeSettings([&](StrokeSettings& s) { s.radius = radius, s.strength = strength; });
}

// Pixels that differ between two pictures.
int differing(const QImage& a, const QImage& b) {
    int n = 0;
    for (int y = 0; y < a.height(); ++y)
        for (int x = 0; x < a.width(); ++x) n += a.pixel(x, y) != b.pixel(x, y);
    return n;
}

}  // namespace

TEST_CASE("every tool's key chooses it and a drag with it is one step that undo takes back exactly") {
    Level level = hillyLevel(161, 161, 5, 2);
    Stage stage(level);
    const int keys[] = {Qt::Key_1, Qt::Key_2, Qt::Key_3, Qt::Key_4, Qt::Key_5, Qt::Key_6,
                        Qt::Key_7, Qt::Key_8, Qt::Key_9, Qt::Key_0, Qt::Key_R};
    for (int t = 0; t <= static_cast<int>(Tool::restore); ++t) {
        stage.key(keys[t]);
        INFO(toolName(static_cast<Tool>(t)));
        REQUIRE(stage.place.toolbox.tool() == static_cast<Tool>(t));
        stage.place.toolbox.changeSettings(
            [](StrokeSettings& s) { s.radius = 18, s.angle = 8, s.strength = hasRate(s.tool) ? 6.f : 0.6f; });
        stage.drag(stage.pixelOf(-30, 10), stage.pixelOf(20, 10));
        CHECK_FALSE(stage.place.document.level() == level);
        CHECK(stage.place.document.history().entries().size() == 2);
        CHECK(checkLevel(stage.place.document.level()).empty());
        stage.key(Qt::Key_Z, Qt::ControlModifier);
        REQUIRE(stage.place.document.level() == level);
    }
}

TEST_CASE("openings and land are made and taken back by their keys, where there is no ground too") {
    for (const auto& [tool, key, shift] : {std::tuple{Tool::openUp, Qt::Key_O, false},
                                           {Tool::closeUp, Qt::Key_O, true},
                                           {Tool::takeLand, Qt::Key_M, false},
                                           {Tool::addLand, Qt::Key_M, true}}) {
        Level level = hillyLevel(161, 161, 5, 2);
        giveWork(level, tool);
        Stage stage(level);
        stage.key(key, shift ? Qt::ShiftModifier : Qt::NoModifier);
        INFO(toolName(tool));
        REQUIRE(stage.place.toolbox.tool() == tool);
        stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.radius = 18; });
        stage.drag(stage.pixelOf(-30, 10), stage.pixelOf(20, 10));
        CHECK(stage.place.document.history().entries().size() == 2);
        CHECK(groundAt(stage.place.document.level(), 0, 10) == shift);
        stage.key(Qt::Key_Z, Qt::ControlModifier);
        REQUIRE(stage.place.document.level() == level);
    }
}

TEST_CASE("a straight stroke runs from press to release, and Ctrl keeps it to a direction") {
    Stage stage(plain());
    use(stage, Tool::raise, 6, 20);
    stage.place.toolbox.setPath(StrokePath::straight);
    const QPoint from = stage.pixelOf(-60, 20), to = stage.pixelOf(60, 28);
    stage.press(from);
    stage.move(stage.pixelOf(0, -40));  // the way there does not matter
    CHECK(stage.place.document.history().entries().size() == 1);
    stage.move(to);
    stage.release(to);
    CHECK(stage.place.document.history().entries().size() == 2);
    CHECK(heightAt(stage, 0, 24) > 1);
    CHECK(heightAt(stage, 0, -40) == 0);
    stage.place.document.undo();

    stage.press(from);
    QMouseEvent e(QEvent::MouseMove, to, stage.canvas()->mapToGlobal(to), Qt::NoButton, Qt::LeftButton,
                  Qt::ControlModifier);
    QCoreApplication::sendEvent(stage.canvas(), &e);
    stage.release(to);
    // Due east of where it began, although the hand ended 8 m further south.
    CHECK(heightAt(stage, 50, 20) > 1);
    CHECK(heightAt(stage, 50, 28) < 0.3);
}

TEST_CASE("a line of clicks bends at each, a double click ends it, Backspace and Esc take back") {
    Stage stage(plain());
    use(stage, Tool::raise, 6, 20);
    stage.key(Qt::Key_L);
    stage.key(Qt::Key_L);
    CHECK(stage.place.toolbox.path() == StrokePath::corners);
    const auto click = [&](double x, double z) {
        QTest::mouseClick(stage.canvas(), Qt::LeftButton, {}, stage.pixelOf(x, z));
    };
    click(-50, 0);
    click(0, 0);
    click(-40, 60);
    stage.key(Qt::Key_Backspace);
    click(0, 50);
    CHECK(stage.place.document.history().entries().size() == 1);
    stage.key(Qt::Key_Return);
    CHECK(stage.place.document.history().entries().size() == 2);
    CHECK(heightAt(stage, -25, 0) > 1);
    CHECK(heightAt(stage, 0, 25) > 1);
    CHECK(heightAt(stage, -40, 60) == 0);
    click(60, 60);
    click(60, -60);
    stage.key(Qt::Key_Escape);
    CHECK(stage.place.document.history().entries().size() == 2);
    click(60, 60);
    QTest::mouseDClick(stage.canvas(), Qt::LeftButton, {}, stage.pixelOf(60, -20));
    CHECK(stage.place.document.history().entries().size() == 3);
}

TEST_CASE("mirrored by hand, both sides rise alike and the picture shows the images of the mark") {
    Stage stage(plain());
    use(stage, Tool::raise, 15, 10);
    auto* mirror = stage.window.findChild<QComboBox*>("mirror");
    QTest::keyClick(mirror, Qt::Key_Down);
    emit mirror->activated(static_cast<int>(MirrorKind::acrossX));
    CHECK(stage.place.toolbox.mirror().kind == MirrorKind::acrossX);
    stage.drag(stage.pixelOf(40, 0), stage.pixelOf(60, 20));
    for (const auto& [x, z] : {std::pair{42.0, 4.0}, {55.0, 12.0}, {60.0, 20.0}}) {
        CHECK(heightAt(stage, x, z) > 0.5);
        CHECK(heightAt(stage, -x, z) == heightAt(stage, x, z));
    }
}

TEST_CASE("a tip from the bench stamps its shape with one click") {
    Stage stage(plain());
    use(stage, Tool::raise, 40, 30);
    const auto buttons = stage.window.findChild<TipRow*>()->findChildren<QToolButton*>();
    REQUIRE(buttons.size() >= 8);  // round, square, five pictures, and the one that adds more
    for (QToolButton* b : buttons)
        if (b->property("tip").toString() == "crater rim") QTest::mouseClick(b, Qt::LeftButton);
    REQUIRE(stage.place.toolbox.settings().tip.picture);
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.flow = false, s.falloff.softness = 0.2f; });
    QTest::mouseClick(stage.canvas(), Qt::LeftButton, {}, stage.pixelOf(0, 0));
    // The rim stands above the bowl.
    CHECK(heightAt(stage, 24, 0) > heightAt(stage, 0, 0) + 4);
    CHECK(stage.place.document.history().entries().size() == 2);
}

TEST_CASE("tips and brushes are added from files, kept under names and come back") {
    const QTemporaryDir folder;
    Stage stage(plain());
    Shelf& shelf = stage.window.shelf();
    const size_t tips = shelf.tips().size(), brushes = shelf.brushes().size();
    QImage picture(40, 40, QImage::Format_Grayscale8);
    picture.fill(200);
    REQUIRE(picture.save(folder.filePath("plateau.png")));
    REQUIRE(shelf.addTip(folder.filePath("plateau.png")));
    CHECK(shelf.tips().size() == tips + 1);
    CHECK_FALSE(shelf.addTip(folder.filePath("none.png")));

    use(stage, Tool::terrace, 33, 0.7f);
    stage.place.toolbox.changeSettings([&](StrokeSettings& s) {
        s.step = 2.5f, s.tip.shape = TipShape::picture, s.tip.picture = shelf.tips().back();
    });
    REQUIRE(shelf.keep("My steps", stage.place.toolbox.settings()));
    REQUIRE(shelf.brushes().size() == brushes + 1);
    auto* list = stage.window.findChild<BrushList*>()->list();
    CHECK(list->item(list->count() - 1)->text() == "My steps");
    stage.key(Qt::Key_1);
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.radius = 5; });
    emit list->itemClicked(list->item(list->count() - 1));
    CHECK(stage.place.toolbox.tool() == Tool::terrace);
    CHECK(stage.place.toolbox.settings().radius == 33);
    CHECK(stage.place.toolbox.settings().step == 2.5f);
    CHECK_FALSE(shelf.removeBrush(0));  // came with the program
    const QString file = shelf.brushes().back().file;
    REQUIRE(QFile::copy(file, folder.filePath("shared.json")));
    REQUIRE(shelf.removeBrush(shelf.brushes().size() - 1));
    CHECK(shelf.brushes().size() == brushes);
    stage.drop(folder.filePath("shared.json"));
    CHECK(shelf.brushes().size() == brushes + 1);
    REQUIRE(shelf.removeBrush(shelf.brushes().size() - 1));
    QFile::remove(Shelf::ownFolder() + "/tips/plateau.png");
}

TEST_CASE("tools keep their own settings, or share the brush") {
    Stage stage(plain());
    use(stage, Tool::raise, 11, 3);
    use(stage, Tool::smooth, 44, 0.2f);
    stage.place.toolbox.setTool(Tool::raise);
    CHECK(stage.place.toolbox.settings().radius == 11);
    stage.place.toolbox.setShared(true);
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.radius = 70; });
    stage.place.toolbox.setTool(Tool::smooth);
    CHECK(stage.place.toolbox.settings().radius == 70);
    CHECK(stage.place.toolbox.settings().strength == Approx(0.2f));
}

TEST_CASE("holding the handles key, the brush is pulled on the ground") {
    Stage stage(plain());
    use(stage, Tool::raise, 20, 4);
    const QPoint at = stage.pixelOf(0, 0);
    stage.move(at, Qt::NoButton);
    QTest::keyPress(stage.canvas(), Qt::Key_B);
    REQUIRE(stage.view().handling());
    // The edge's handle lies to the right of the centre; pull it out to twice the radius.
    stage.drag(stage.pixelOf(20, 0), stage.pixelOf(40, 0));
    CHECK(stage.place.toolbox.settings().radius == Approx(40).margin(1.5));
    // Anywhere else: sideways for the radius, up for the strength.
    const float radius = stage.place.toolbox.settings().radius;
    stage.drag(QPoint(60, 60), QPoint(180, 20));
    CHECK(stage.place.toolbox.settings().radius == Approx(2 * radius).epsilon(0.05));
    CHECK(stage.place.toolbox.settings().strength == Approx(8).epsilon(0.05));
    QTest::keyRelease(stage.canvas(), Qt::Key_B);
    CHECK_FALSE(stage.view().handling());
    CHECK(stage.place.document.history().entries().size() == 1);
}

TEST_CASE("a held key shows the ground as it was, and letting go brings the present back") {
    Stage stage(plain());
    use(stage, Tool::raise, 30, 30);
    const Level before = stage.place.document.level();
    const QImage flat = stage.picture();
    stage.drag(stage.pixelOf(-30, 10), stage.pixelOf(30, 10));
    const Level after = stage.place.document.level();
    const QImage raised = stage.picture();
    QTest::keyPress(stage.canvas(), Qt::Key_V);
    CHECK(stage.place.document.level() == before);
    CHECK(stage.picture() == flat);
    CHECK(stage.window.lastMessage().contains("Raise"));
    // No stroke lands on what only is looked at.
    stage.drag(stage.pixelOf(-30, 10), stage.pixelOf(30, 10));
    QTest::keyRelease(stage.canvas(), Qt::Key_V);
    CHECK(stage.place.document.level() == after);
    CHECK(stage.picture() == raised);
    CHECK(stage.place.document.history().entries().size() == 2);
    stage.place.document.setLooksAtSave(true);
    CHECK(stage.place.document.lookBack(true).contains("save"));
    CHECK(stage.place.document.level() == before);
    stage.place.document.lookBack(false);
    CHECK(stage.place.document.level() == after);
}

TEST_CASE("restore brings back the start, the last save or a chosen step") {
    Stage stage(plain());
    use(stage, Tool::raise, 40, 40);
    stage.drag(stage.pixelOf(-20, 0), stage.pixelOf(20, 0));
    const double first = heightAt(stage, 0, 0);
    const uint64_t step = stage.place.document.history().serial();
    stage.drag(stage.pixelOf(-20, 0), stage.pixelOf(20, 0));
    REQUIRE(heightAt(stage, 0, 0) > first + 1);
    use(stage, Tool::restore, 60, 1);
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.falloff.softness = 0.1f; });
    const auto restoreFrom = [&](RestoreSource source, uint64_t serial) {
        stage.place.toolbox.setRestoreSource(source, serial);
        stage.drag(stage.pixelOf(-5, 0), stage.pixelOf(5, 0));
        const double h = heightAt(stage, 0, 0);
        stage.place.document.undo();
        return h;
    };
    CHECK(restoreFrom(RestoreSource::startHeight, 0) == Approx(0).margin(1e-3));
    CHECK(restoreFrom(RestoreSource::step, step) == Approx(first).margin(1e-3));
    CHECK(restoreFrom(RestoreSource::lastSave, 0) == Approx(0).margin(1e-3));
    // A step that is gone is said, and nothing happens.
    const Level before = stage.place.document.level();
    stage.place.toolbox.setRestoreSource(RestoreSource::step, 999999);
    stage.drag(stage.pixelOf(-5, 0), stage.pixelOf(5, 0));
    CHECK(stage.place.document.level() == before);
    CHECK(stage.window.lastMessage().contains("no longer"));
}

TEST_CASE("the tape measures between two places") {
    Level level = plain();
    for (int r = 0; r < 161; ++r)
        for (int c = 0; c < 161; ++c) level.strata[0].heights.set(c, r, static_cast<float>(c) * 0.2f);
    Stage stage(level);
    stage.key(Qt::Key_T);
    REQUIRE(stage.view().taping());
    const QImage before = stage.screen();
    stage.drag(stage.pixelOf(-60, 0), stage.pixelOf(60, 0));
    REQUIRE(stage.place.standpoint.tape().size() == 2);
    const auto& tape = stage.place.standpoint.tape();
    CHECK(std::hypot(tape[1].x - tape[0].x, tape[1].z - tape[0].z) == Approx(120).margin(3));
    CHECK(tape[1].y - tape[0].y == Approx(12).margin(0.4));
    CHECK(stage.place.document.level() == level);
    CHECK(differing(stage.screen(), before) > 300);
    stage.key(Qt::Key_T);
    CHECK(stage.place.standpoint.tape().empty());
}

TEST_CASE("overlays colour the ground by what they show, and their numbers are true") {
    Level level = plain();
    // A wall of 45 degrees in the east half of flat ground.
    for (int r = 0; r < 161; ++r)
        for (int c = 0; c < 161; ++c)
            level.strata[0].heights.set(c, r, c > 100 ? static_cast<float>(std::min(c - 100, 20)) * 2.f : 0.f);
    Stage stage(level);
    stage.view().plan();
    const QImage bare = stage.picture();
    auto* overlay = stage.window.findChild<QComboBox*>("overlay");
    emit overlay->activated(static_cast<int>(Overlay::steepness));
    const QImage steep = stage.picture();
    CHECK(differing(steep, bare) > bare.width() * bare.height() / 8);
    const QColor flat = steep.pixelColor(stage.pixelOf(-60, 0)), wall = steep.pixelColor(stage.pixelOf(60, 0));
    CHECK(flat.green() > flat.red());  // passes
    CHECK(wall.red() > wall.green());  // does not
    auto* numbers = stage.window.findChild<QLabel*>("overlayNumbers");
    CHECK(numbers->text().contains("45."));
    for (const Overlay o : {Overlay::altitude, Overlay::curvature}) {
        emit overlay->activated(static_cast<int>(o));
        CHECK(differing(stage.picture(), steep) > 1000);
    }
    emit overlay->activated(0);
    CHECK(stage.picture() == bare);
    Sight look = stage.view().sight();
    look.grid = true;
    look.gridStep = 40;
    stage.view().setSight(look);
    const QImage grid = stage.picture();
    CHECK(differing(grid, bare) > 500);
    CHECK(grid.pixelColor(stage.pixelOf(-40, -22)).lightness() > bare.pixelColor(stage.pixelOf(-40, -22)).lightness());
}

TEST_CASE("work on the whole ground is previewed, compared, applied as one step, or let go") {
    Level level = hillyLevel(161, 161, 5, 2);
    Stage stage(level);
    stage.key(Qt::Key_H);
    WholePanel* panel = stage.window.findChild<WholePanel*>();
    REQUIRE(panel->isVisible());
    const auto wait = [&] {
        CHECK(stage.waitFor([&] { return !panel->busy(); }));
        stage.settle();
    };
    panel->choose(static_cast<int>(WholeKind::smooth));
    wait();
    REQUIRE(stage.place.document.previewing());
    CHECK_FALSE(stage.place.document.level() == level);
    CHECK(stage.place.document.history().entries().size() == 1);
    CHECK(stage.window.lastMessage().contains("Rises by"));
    // The key for looking back shows the ground before.
    const Level preview = stage.place.document.level();
    stage.canvas()->setFocus();
    QTest::keyPress(stage.canvas(), Qt::Key_V);
    CHECK(stage.place.document.level() == level);
    QTest::keyRelease(stage.canvas(), Qt::Key_V);
    CHECK(stage.place.document.level() == preview);
    // A stroke is refused meanwhile, in words.
    stage.drag(stage.pixelOf(-5, 0), stage.pixelOf(5, 0));
    CHECK(stage.place.document.level() == preview);
    QTest::mouseClick(panel->findChild<QPushButton*>("wholeApply"), Qt::LeftButton);
    CHECK(stage.place.document.history().entries().size() == 2);
    CHECK(stage.place.document.history().now() == preview);
    CHECK_FALSE(stage.place.document.previewing());
    // Another one, let go.
    panel->choose(static_cast<int>(WholeKind::raise));
    wait();
    REQUIRE(stage.place.document.previewing());
    QTest::mouseClick(panel->findChild<QPushButton*>("wholeClose"), Qt::LeftButton);
    CHECK_FALSE(panel->isVisible());
    CHECK(stage.place.document.level() == preview);
    stage.place.document.undo();
    CHECK(stage.place.document.level() == level);
}

TEST_CASE("the whole ground is resampled and cropped as one step each") {
    const Level level = hillyLevel(161, 161, 5, 2);
    Stage stage(level);
    stage.key(Qt::Key_H);
    WholePanel* panel = stage.window.findChild<WholePanel*>();
    panel->choose(kWholeKinds);
    stage.settle();
    for (NumberField* f : panel->findChildren<NumberField*>())
        if (f->isVisible()) f->spin()->setValue(2);
    QTest::mouseClick(panel->findChild<QPushButton*>("wholeApply"), Qt::LeftButton);
    stage.settle();
    CHECK(stage.place.document.level().columns == 81);
    CHECK(stage.place.document.level().spacing == 2);
    CHECK(checkLevel(stage.place.document.level()).empty());
    // Cropped to another size, on another spacing.
    panel->choose(kWholeKinds + 1);
    stage.settle();
    QList<NumberField*> sizes;
    for (NumberField* f : panel->findChildren<NumberField*>())
        if (f->isVisible()) sizes << f;
    REQUIRE(sizes.size() == 2);
    sizes[0]->spin()->setValue(100);
    sizes[1]->spin()->setValue(60);
    QTest::mouseClick(panel->findChild<QPushButton*>("wholeApply"), Qt::LeftButton);
    stage.settle();
    CHECK(stage.place.document.level().columns == 51);
    CHECK(stage.place.document.level().rows == 31);
    CHECK(checkLevel(stage.place.document.level()).empty());
    CHECK(stage.place.document.history().entries().size() == 3);
    stage.place.document.undo();
    stage.place.document.undo();
    CHECK(stage.place.document.level() == level);
}

TEST_CASE("the bent falloff follows the points that are pulled, and never rises") {
    Stage stage(plain());
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.falloff.curve = Curve::bent; });
    BendEdit* edit = nullptr;
    for (BendEdit* e : stage.window.findChildren<BendEdit*>())
        if (e->isVisible()) edit = e;
    REQUIRE(edit);
    const QPoint from = edit->knob(1).toPoint();
    QTest::mousePress(edit, Qt::LeftButton, {}, from);
    QTest::mouseMove(edit, QPoint(from.x(), 14));
    QMouseEvent e(QEvent::MouseMove, QPoint(from.x(), 14), edit->mapToGlobal(QPoint(from.x(), 14)), Qt::NoButton,
                  Qt::LeftButton, {});
    QCoreApplication::sendEvent(edit, &e);
    QTest::mouseRelease(edit, Qt::LeftButton, {}, QPoint(from.x(), 14));
    const Bend bend = stage.place.toolbox.settings().falloff.bend;
    CHECK(bend.twoThirds > 0.9f);
    CHECK(bend.third >= bend.twoThirds);
}

TEST_CASE("brush settings are remembered from one start to the next") {
    Level level = plain(33);
    {
        Stage stage(level);
        use(stage, Tool::crumble, 123, 0.42f);
        stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.angle = 21; });
        stage.window.close();
    }
    Stage stage(level);
    stage.place.toolbox.setTool(Tool::crumble);
    CHECK(stage.place.toolbox.settings().radius == 123);
    CHECK(stage.place.toolbox.settings().angle == 21);
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.radius = 25, s.angle = 35; });
    stage.window.close();
}
