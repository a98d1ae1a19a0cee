// Clips, openings, land, neighbours and heightmaps as strata through the real window.
#include <catch2/catch.hpp>

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QToolButton>

#include "clip/clip.h"
#include "files/level_file.h"
#include "folder.h"
#include "hands/clip_hand.h"
#include "house/shelf.h"
#include "level/ground.h"
#include "level/opening.h"
#include "levels.h"
#include "match/neighbour.h"
#include "stage.h"
#include "stations/lay_out/import_dialog.h"

using namespace jam;
using namespace jam::test;

namespace {

// A dome of 12 m round (-30, -20), 18 m wide, painted with the second layer.
Level domeLevel() {
    Level l = flatLevel(161, 141, 3);
    l.lowest = -50, l.highest = 200;
    for (int r = 0; r < l.rows; ++r)
        for (int c = 0; c < l.columns; ++c) {
            const double away = std::hypot(l.originX + c + 30, l.originZ + r + 20);
            if (away < 18) l.strata[0].heights.set(c, r, static_cast<float>(12 * (1 - away / 18)));
            if (away < 14) l.layers[1].coverage.set(c, r, kFullCover);
        }
    return l;
}

struct ClipStage : Stage {
    ClipStage() : Stage(domeLevel()) {
        settle();
        key(Qt::Key_F3);
        window.actions()["plan"]->trigger();
        settle();
        find<QToolButton>("partClips")->click();
        settle();
    }
    void click(const char* id) {
        find<QAbstractButton>(id)->click();
        rest();
    }
    // Until the preview shows what was asked for.
    void rest() {
        REQUIRE(waitFor([&] {
            return !window.work().running() &&
                   (!clips().held() || !clips().trouble().isEmpty() || place.document.previewing());
        }));
        settle();
    }
    void set(const char* id, double value) {
        find<QWidget>(id)->findChild<QDoubleSpinBox*>()->setValue(value);
        QTest::qWait(60);
        rest();
    }
    Clips& clips() { return place.clips; }
    const Level& level() { return place.document.level(); }
    float at(double x, double z) { return static_cast<float>(altitudeAt(level(), x, z)); }
    size_t steps() { return place.document.history().entries().size(); }
    void lift() {
        drag(pixelOf(-50, -40), pixelOf(-10, 0));
        rest();
        REQUIRE(clips().held());
    }
    QPoint pixel(const std::optional<QPointF>& at) {
        REQUIRE(at);
        return at->toPoint();
    }
};

}  // namespace

TEST_CASE("a piece of ground is lifted, moved, turned, scaled by its handles, and set down as one step") {
    ClipStage stage;
    const size_t before = stage.steps();
    stage.lift();
    CHECK(stage.clips().held()->columns == Approx(41).margin(2));
    CHECK(stage.steps() == before);
    CHECK(stage.at(30, 20) == 0);
    // Dragged by its middle; the preview follows and is no step.
    stage.drag(stage.pixelOf(-40, -32), stage.pixelOf(20, 8));
    QTest::qWait(60);
    stage.rest();
    CHECK(stage.clips().placement().x == Approx(30).margin(2));
    CHECK(stage.at(30, 20) == Approx(12).margin(1.5));
    CHECK(stage.at(-30, -20) == Approx(12).margin(0.5));  // what was lifted stays
    CHECK(stage.steps() == before);
    CHECK(groundSample(stage.place.document.standing(), 110, 90) == 0);
    // Twice as large by a corner, a quarter turn by the knob, raised by the arrow.
    ClipHandles h = clipHandles(stage.view());
    const QPoint middle = stage.pixel(h.middle), corner = stage.pixel(h.corners[2]);
    stage.drag(corner, middle + (corner - middle) * 3 / 2);
    stage.rest();
    CHECK(stage.clips().placement().scale == Approx(1.5).margin(0.1));
    h = clipHandles(stage.view());
    const QPoint knob = stage.pixel(h.turn), out = knob - middle;
    stage.drag(knob, middle + QPoint(-out.y(), out.x()));
    stage.rest();
    CHECK(stage.clips().placement().turn == Approx(90).margin(3));
    h = clipHandles(stage.view());
    stage.set("clipTurn", 0);
    stage.set("clipScale", 100);
    stage.set("clipRaise", 3);
    CHECK(stage.at(30, 20) == Approx(15).margin(1.5));
    CHECK(stage.at(48, 38) == Approx(3).margin(0.3));
    stage.set("clipFeather", 6);
    CHECK(stage.at(49, 38) < 1.5);
    stage.click("clipSet");
    CHECK_FALSE(stage.clips().held());
    CHECK(stage.steps() == before + 1);
    CHECK(stage.at(30, 20) == Approx(15).margin(1.5));
    // The layer came along.
    const Level& l = stage.level();
    CHECK(l.layers[1].coverage.at(static_cast<int>(l.toColumn(30)), static_cast<int>(l.toRow(20))) == kFullCover);
    stage.key(Qt::Key_Z, Qt::ControlModifier);
    stage.settle();
    CHECK(stage.at(30, 20) == 0);
}

TEST_CASE("put away, undone, taken up by another tool or left in a drag, a clip leaves the ground as it was") {
    ClipStage stage;
    const Level before = stage.place.document.standing();
    const auto same = [&] { return stage.level() == before && stage.place.document.standing() == before; };
    stage.lift();
    stage.set("clipX", 30);
    CHECK_FALSE(same());
    stage.click("clipAway");
    CHECK(same());
    stage.lift();
    stage.set("clipZ", 30);
    stage.key(Qt::Key_Escape);
    CHECK_FALSE(stage.clips().held());
    CHECK(same());
    stage.lift();
    stage.press(stage.pixelOf(-40, -30));
    stage.move(stage.pixelOf(10, 10));
    stage.key(Qt::Key_Escape);
    stage.release(stage.pixelOf(10, 10));
    stage.rest();
    CHECK(stage.clips().placement().x == Approx(-30).margin(2));
    stage.set("clipX", 20);
    stage.key(Qt::Key_1);  // a brush is taken up
    stage.settle();
    CHECK_FALSE(stage.clips().held());
    CHECK_FALSE(stage.clips().clipping());
    CHECK(same());
    stage.find<QToolButton>("partClips")->click();
    stage.lift();
    stage.press(stage.pixelOf(-40, -30));
    stage.move(stage.pixelOf(10, 10));
    stage.key(Qt::Key_F4);  // in the middle of a drag
    stage.release(stage.pixelOf(10, 10));
    stage.settle();
    CHECK(same());
    CHECK_FALSE(stage.place.document.previewing());
    // What cannot be set down says why, and is not.
    stage.key(Qt::Key_F3);
    stage.find<QToolButton>("partClips")->click();
    stage.lift();
    stage.set("clipRaise", 400);
    CHECK(stage.find<QLabel>("clipTrouble")->text().contains("level ends at"));
    CHECK_FALSE(stage.find<QPushButton>("clipSet")->isEnabled());
    stage.key(Qt::Key_Return, Qt::ControlModifier);
    stage.settle();
    CHECK(stage.place.document.standing() == before);
}

TEST_CASE("a clip is repeated along a line of clicks, kept with a picture, and comes back to the cursor") {
    ClipStage stage;
    stage.lift();
    stage.set("clipScale", 30);
    auto* along = stage.find<QComboBox>("clipAlong");
    along->setCurrentIndex(1);
    emit along->activated(1);
    stage.set("clipEvery", 15);
    const auto click = [&](double x, double z) {
        stage.press(stage.pixelOf(x, z));
        stage.release(stage.pixelOf(x, z));
    };
    click(-20, 40);
    click(26, 40);
    stage.key(Qt::Key_Return);
    QTest::qWait(60);
    stage.rest();
    REQUIRE(stage.clips().places());
    CHECK(stage.clips().places().value().size() == 4);
    for (const double x : {-20.0, -5.0, 10.0, 25.0}) CHECK(stage.at(x, 40) > 8);
    CHECK(stage.at(-12.5, 40) < 5);
    // Kept: a level file and a picture.
    stage.find<QLineEdit>("clipName")->setText("Little dome");
    stage.click("keepClip");
    const std::vector<Shelf::KeptClip> kept = stage.window.shelf().clips();
    const auto own = std::find_if(kept.begin(), kept.end(), [](const auto& k) { return k.own; });
    REQUIRE(own != kept.end());
    CHECK(own->name == "Little dome");
    CHECK_FALSE(QImage(own->picture).isNull());
    const Level file = loadLevel(own->file.toStdString()).take();
    CHECK(file.layers.size() == 2);  // only those that show
    stage.click("clipSet");
    CHECK(stage.at(10, 40) > 8);
    // Here again by its key.
    stage.move(stage.pixelOf(50, -40), Qt::NoButton);
    stage.key(Qt::Key_V, Qt::ControlModifier);
    QTest::qWait(60);
    stage.rest();
    REQUIRE(stage.clips().held());
    CHECK(stage.clips().placement().x == Approx(50).margin(1));
    CHECK(stage.at(50, -40) > 8);
    stage.click("clipAway");
    // And from the list.
    auto* list = stage.find<QListWidget>("clipList");
    emit list->itemClicked(list->item(static_cast<int>(own - kept.begin())));
    stage.rest();
    REQUIRE(stage.clips().held());
    CHECK(stage.clips().wish().sit);
    list->setCurrentRow(static_cast<int>(own - kept.begin()));
    stage.click("removeClip");
    CHECK(std::none_of(stage.window.shelf().clips().begin(), stage.window.shelf().clips().end(),
                       [](const auto& k) { return k.own; }));
}

TEST_CASE("what the fence holds is lifted by Ctrl+C, in its shape") {
    ClipStage stage;
    stage.key(Qt::Key_C, Qt::ControlModifier);
    CHECK_FALSE(stage.clips().held());
    stage.find<QToolButton>("partFence")->click();
    stage.click("fenceLasso");
    stage.press(stage.pixelOf(-48, -20));
    for (const auto& [x, z] : {std::pair{-30, -38}, {-12, -20}, {-30, -2}}) stage.move(stage.pixelOf(x, z));
    stage.release(stage.pixelOf(-30, -2));
    stage.settle();
    REQUIRE(stage.level().fenced);
    stage.key(Qt::Key_C, Qt::ControlModifier);
    stage.settle();
    REQUIRE(stage.clips().held());
    const Level& clip = *stage.clips().held();
    CHECK(clip.fence.at(0, 0) == 0);
    CHECK(clip.fence.at(clip.columns / 2, clip.rows / 2) == kInside);
}

TEST_CASE("an opening is cut, looked through, closed; land is taken with a cliff") {
    ClipStage stage;
    stage.key(Qt::Key_O);
    CHECK(stage.place.toolbox.tool() == Tool::openUp);
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.radius = 8; });
    const QImage whole = stage.picture();
    const QPoint spot = stage.pixelOf(40, 30);
    stage.press(spot);
    stage.release(spot);
    stage.settle();
    CHECK_FALSE(groundAt(stage.level(), 40, 30));
    CHECK(groundAt(stage.level(), 40, 42));
    const QImage holed = stage.picture();
    CHECK(qGray(holed.pixel(spot)) < qGray(whole.pixel(spot)) / 2);
    CHECK(holed.pixel(stage.pixelOf(10, 50)) == whole.pixel(stage.pixelOf(10, 50)));
    // One looks through it with other tools, and works on it with this one.
    CHECK(stage.view().pick(spot).has_value());
    stage.key(Qt::Key_1);
    CHECK_FALSE(stage.view().pick(spot).has_value());
    stage.key(Qt::Key_O);
    stage.press(spot, Qt::ShiftModifier);
    stage.release(spot);
    stage.settle();
    // Closed where the brush is at least at half strength; all of it with a larger one.
    CHECK(groundAt(stage.level(), 40, 30));
    stage.key(Qt::Key_Z, Qt::ControlModifier);
    stage.settle();
    CHECK_FALSE(groundAt(stage.level(), 40, 30));
    // The survey finds it, and says that it can be got at.
    stage.find<QToolButton>("partEdges")->click();
    REQUIRE(stage.waitFor([&] { return stage.find<QLabel>("openingsFound")->text() == "One opening."; }));
    // One over everything is refused in words.
    const size_t steps = stage.steps();
    stage.find<QPushButton>("openFence")->click();
    REQUIRE(stage.waitFor([&] { return !stage.window.work().running(); }));
    stage.settle();
    CHECK(stage.steps() == steps);
    CHECK(groundAt(stage.level(), 0, 60));
    // Land by the fence.
    stage.find<QToolButton>("partFence")->click();
    stage.find<QAbstractButton>("fenceRectangle")->click();
    stage.drag(stage.pixelOf(-60, -50), stage.pixelOf(60, 50));
    stage.settle();
    stage.find<QToolButton>("partEdges")->click();
    stage.find<QPushButton>("landFence")->click();
    REQUIRE(stage.waitFor([&] { return !stage.window.work().running(); }));
    stage.settle();
    CHECK_FALSE(groundAt(stage.level(), 70, 0));
    CHECK(groundAt(stage.level(), 50, 0));
    stage.find<QWidget>("cliff")->findChild<QDoubleSpinBox*>()->setValue(20);
    stage.settle();
    CHECK(stage.level().cliff == 20);
    // From the south one sees the cliff below the land's edge.
    Camera low = stage.view().camera();
    low.at = {0, 6, 130};
    low.yaw = 0, low.pitch = -8;
    stage.view().setCamera(low);
    stage.settle();
    const QImage cliff = stage.picture();
    const auto edge = stage.view().pixelOf({0, -8, 50});
    REQUIRE(edge);
    const QColor below = cliff.pixelColor(edge->toPoint());
    CHECK(below.red() > below.blue());  // earth, and no sky
    // Undone altogether.
    while (stage.place.document.history().canUndo()) stage.key(Qt::Key_Z, Qt::ControlModifier), stage.settle();
    CHECK_FALSE(hasGaps(stage.level()));
}

TEST_CASE("a height picture comes in as a stratum, and the border is fitted to a neighbour") {
    const Folder folder;
    ClipStage stage;
    Pixels p{41, 31, 1, 16, {}};
    for (int z = 0; z < 31; ++z)
        for (int x = 0; x < 41; ++x) p.samples.push_back(static_cast<uint16_t>(x * 1600));
    put(folder.path / "rise.png", encodePng(p));
    const Level before = stage.place.document.standing();
    stage.answer([](QWidget* d) {
        auto* dialog = dynamic_cast<ImportDialog*>(d);
        REQUIRE(dialog);
        auto* becomes = dialog->findChild<QComboBox*>("becomes");
        becomes->setCurrentIndex(1);
        dialog->findChild<QDoubleSpinBox*>("white")->setValue(20);
        CHECK_FALSE(dialog->findChild<QComboBox*>("firstLayer")->isVisible());
        const auto buttons = dialog->findChildren<QPushButton*>();
        CHECK(
            std::any_of(buttons.begin(), buttons.end(), [](const QPushButton* b) { return b->text() == "Place it"; }));
        dialog->accept();
    });
    stage.drop(QString::fromStdString((folder.path / "rise.png").string()));
    REQUIRE(stage.waitFor([&] { return stage.clips().held() != nullptr; }));
    stage.rest();
    CHECK(stage.clips().wish().stratum == "rise");
    Placement there = stage.clips().placement();
    there.x = 30, there.z = 30;
    stage.clips().move(there);
    QTest::qWait(60);
    stage.rest();
    stage.click("clipSet");
    CHECK(stage.level().strata.size() == before.strata.size() + 1);
    CHECK(stage.level().strata.back().name == "rise");
    CHECK(stage.at(48, 30) - stage.at(12, 30) == Approx(36 / 40.0 * 20 * 1600 * 40 / 65535.0).margin(1));
    CHECK(stage.level().strata[0].heights == before.strata[0].heights);
    // A neighbour in the east.
    Level east = flatLevel(41, 141, 2);
    for (int r = 0; r < 141; ++r)
        for (int c = 0; c < 41; ++c) east.strata[0].heights.set(c, r, 3 + 0.02f * static_cast<float>(r));
    REQUIRE(saveLevel(east, folder.path / "east.jamhill"));
    stage.key(Qt::Key_F2);
    stage.find<QComboBox>("neighbourSide")->setCurrentIndex(1);
    const QImage alone = stage.picture();
    stage.place.neighbours.choose(Side::east, QString::fromStdString((folder.path / "east.jamhill").string()));
    REQUIRE(stage.waitFor([&] { return stage.place.neighbours.on(Side::east).strip != nullptr; }));
    stage.settle();
    CHECK(stage.find<QLabel>("neighbourSays")->text().contains("differ by up to 5.80 m"));
    // Its ghost is seen beyond the border.
    const auto beyond = stage.view().pixelOf({90, 3, 0});
    REQUIRE(beyond);
    CHECK(stage.picture().pixel(beyond->toPoint()) != alone.pixel(beyond->toPoint()));
    stage.find<QPushButton>("fitBorder")->click();
    REQUIRE(stage.waitFor([&] { return !stage.window.work().running(); }));
    stage.settle();
    CHECK(borderGap(stage.place.document.standing(), east, Side::east).value().none());
    CHECK(stage.find<QLabel>("neighbourSays")->text().contains("met"));
    // One that does not fit says why.
    REQUIRE(saveLevel(flatLevel(41, 140, 1), folder.path / "odd.jamhill"));
    stage.place.neighbours.choose(Side::east, QString::fromStdString((folder.path / "odd.jamhill").string()));
    REQUIRE(stage.waitFor([&] { return !stage.place.neighbours.on(Side::east).trouble.isEmpty(); }));
    CHECK(stage.find<QLabel>("neighbourSays")->text().contains("140 samples"));
    CHECK_FALSE(stage.find<QPushButton>("fitBorder")->isEnabled());
}
