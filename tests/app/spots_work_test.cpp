// Spots, who gets where, and mending, through the real window.
#include <catch2/catch.hpp>

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QTableWidget>
#include <QToolButton>

#include "edits/spot_edits.h"
#include "hands/walk_hand.h"
#include "level/ground.h"
#include "levels.h"
#include "panels/trail.h"
#include "stage.h"
#include "stations/walk/walk_station.h"
#include "watch/reach_watch.h"
#include "water/water.h"
#include "yard.h"

using namespace jam;
using namespace jam::test;

TEST_CASE("spots are put down, named, moved with their pads, and undone; wrong input is refused") {
    WalkStage stage;
    CHECK(stage.told() == "no spots yet");
    const uint32_t gate = stage.put(40, 60);
    REQUIRE(gate);
    CHECK(stage.level().spot(gate)->kind == "start");
    CHECK_FALSE(stage.find<QPushButton>("putSpot")->isChecked());
    // Esc, wherever the keyboard is, and the next click puts down nothing.
    for (const bool inButton : {true, false}) {
        stage.find<QPushButton>("putSpot")->click();
        CHECK(stage.find<QPushButton>("putSpot")->isChecked());
        QWidget* at = inButton ? static_cast<QWidget*>(stage.find<QPushButton>("putSpot")) : stage.canvas();
        at->setFocus();
        QTest::keyClick(at, Qt::Key_Escape);
        CHECK_FALSE(stage.find<QPushButton>("putSpot")->isChecked());
        stage.click(80, 70);
        CHECK(stage.level().spots.size() == 1);
    }
    const uint32_t goal = stage.put(80, 70);
    CHECK(stage.level().spot(goal)->kind == "goal");
    CHECK(stage.find<QListWidget>("spots")->count() == 2);
    CHECK(stage.told() == "1 way out");
    // A name that is taken, and one that is not.
    auto* name = stage.find<QLineEdit>("spotName");
    name->setFocus();
    name->setText("Start");
    QTest::keyClick(name, Qt::Key_Return);
    CHECK(stage.level().spot(goal)->name == "Goal");
    CHECK(stage.window.findChild<QLabel*>("said")->text().contains("already"));
    name->setText("Barn");
    QTest::keyClick(name, Qt::Key_Return);
    CHECK(stage.level().spot(goal)->name == "Barn");
    stage.canvas()->setFocus();
    // On a pad in the slope of the pond's shore.
    const uint32_t shore = stage.put(38, 82);
    const double before = altitudeAt(stage.level(), stage.x(42), stage.z(82));
    stage.find<QCheckBox>("spotPad")->click();
    stage.rest();
    CHECK(stage.level().spot(shore)->pad != 0);
    const double even = altitudeAt(stage.level(), stage.x(38), stage.z(82));
    CHECK(altitudeAt(stage.level(), stage.x(34), stage.z(82)) == Approx(even).margin(0.01));
    // Pulled elsewhere: the ground follows at once; Esc takes it back.
    const QPoint from = stage.pixelOf(stage.x(38), stage.z(82)), to = stage.pixelOf(stage.x(70), stage.z(82));
    const size_t steps = stage.steps();
    stage.press(from);
    stage.move((from + to) / 2);
    stage.move(to);
    CHECK(stage.place.document.previewing());
    CHECK(altitudeAt(stage.level(), stage.x(34), stage.z(82)) != Approx(even).margin(0.01));
    stage.key(Qt::Key_Escape);
    CHECK(stage.steps() == steps);
    CHECK(altitudeAt(stage.level(), stage.x(34), stage.z(82)) == Approx(even).margin(0.01));
    stage.release(to);
    stage.drag(from, to);
    stage.rest();
    CHECK(stage.steps() == steps + 1);
    CHECK(stage.level().spot(shore)->x == Approx(stage.x(70)).margin(1));
    CHECK(altitudeAt(stage.level(), stage.x(42), stage.z(82)) == Approx(before).margin(1e-3));
    stage.place.document.undo();
    stage.rest();
    CHECK(stage.level().spot(shore)->x == Approx(stage.x(38)).margin(1));
    // Off the level: told, and it stays.
    stage.find<QToolButton>("removeSpot")->click();
    stage.rest();
    CHECK(stage.level().spot(shore) == nullptr);
    CHECK(stage.level().strata.size() == 1);
    CHECK(stage.told() == "1 way out");
}

TEST_CASE("who gets where is told, shown, found and mended until the trail passes") {
    WalkStage stage;
    const uint32_t gate = stage.put(30, 30), barn = stage.put(90, 70), stack = stage.put(60, 22);
    CHECK(stage.told() == "2 of 3 spots reached");
    CHECK(stage.window.findChild<Trail*>()->station("walk")->mood() == Station::Mood::warns);
    auto* table = stage.find<QTableWidget>("reachTable");
    REQUIRE(table->rowCount() == 3);
    CHECK(table->item(0, 1)->text() == QString::fromUtf8("✓"));
    CHECK(table->item(0, 2)->text() == QString::fromUtf8("✕"));
    CHECK(table->item(2, 0)->text() == QString::fromUtf8("✓"));
    // The way is found and drawn, and told.
    table->setCurrentCell(0, 1);
    REQUIRE(stage.waitFor([&] { return stage.window.reach().way() != nullptr; }));
    const auto& marks = stage.view().marks().of("walk");
    CHECK(std::count_if(marks.begin(), marks.end(),
                        [](const auto& m) { return m.kind == GroundMark::Kind::way && m.line.size() > 10; }) == 1);
    CHECK(stage.find<QLabel>("waySays")->text().startsWith("Start to Goal: 7"));
    CHECK(stage.window.reach().way()->length == Approx(std::hypot(60, 40)).epsilon(0.06));
    table->setCurrentCell(0, 2);
    stage.rest();
    CHECK(stage.find<QLabel>("waySays")->text().contains("no way leads there"));
    // The overlay: green where one gets, grey on the stack.
    Sight sight = stage.view().sight();
    sight.overlay = Overlay::reach;
    stage.view().setSight(sight);
    stage.rest();
    const QImage picture = stage.picture();
    const double ratio = stage.view().devicePixelRatioF();
    const auto colour = [&](int c, int r) {
        return QColor(picture.pixel((stage.pixelOf(stage.x(c), stage.z(r)) * ratio)));
    };
    CHECK(colour(45, 50).green() > colour(45, 50).blue() + 30);
    CHECK(std::abs(colour(60, 24).green() - colour(60, 24).red()) < 25);
    CHECK(colour(60, 24).green() < colour(45, 50).green());
    // The way out is gone to and banked up; a ramp leads onto the stack.
    auto* places = stage.find<QListWidget>("reachPlaces");
    REQUIRE(places->item(0)->text().startsWith("Way out in the east"));
    const auto choose = [&](int row) {
        places->setCurrentRow(row);
        QTest::mouseClick(places->viewport(), Qt::LeftButton, {}, places->visualItemRect(places->item(row)).center());
        stage.rest();
    };
    choose(0);
    const auto middle = stage.view().pick(QPointF(stage.view().width() / 2.0, stage.view().height() / 2.0));
    REQUIRE(middle);
    CHECK(middle->x > stage.x(110));
    CHECK(stage.view().camera().yaw == Approx(90));
    stage.find<QPushButton>("mendReach")->click();
    stage.rest();
    CHECK(stage.told() == "2 of 3 spots reached");
    CHECK(stage.window.reach().reach()->waysOut.empty());
    REQUIRE(places->item(0)->text().contains("with Supply"));
    choose(0);
    stage.find<QPushButton>("mendReach")->click();
    stage.rest();
    CHECK(stage.told() == "3 spots reached, no way out");
    CHECK(stage.window.findChild<Trail*>()->station("walk")->mood() == Station::Mood::passes);
    CHECK(stage.level().strata.back().name == "Ramp");
    CHECK(stage.window.reach().reach()->reaches(gate, stack));
    // A stroke across the gate changes it, by itself.
    stage.place.document.undo();
    stage.place.document.undo();
    stage.rest();
    CHECK(stage.told() == "2 of 3 spots reached");
    CHECK(stage.window.reach().reach()->reaches(gate, barn));
}

TEST_CASE("keys lead along a way that was found, from the spot that one drops in at to the goal") {
    WalkStage stage;
    const uint32_t gate = stage.put(30, 60), barn = stage.put(80, 40);
    stage.find<QTableWidget>("reachTable")->setCurrentCell(0, 1);
    REQUIRE(stage.waitFor([&] { return stage.window.reach().way() != nullptr; }));
    const Way way = *stage.window.reach().way();
    const Spot goal = *stage.level().spot(barn);
    // Nothing lies between: the way is straight, and its spot is turned to look along it.
    stage.place.standpoint.setSpot(gate);
    const double bearing =
        std::atan2(way.points.back().x - way.points.front().x, way.points.front().z - way.points.back().z) * 57.29578;
    stage.find<QWidget>("spotFacing")->findChild<QDoubleSpinBox*>()->setValue(std::round(bearing));
    stage.rest();
    CHECK(stage.level().spot(gate)->facing == std::round(bearing));
    stage.find<QPushButton>("dropIn")->click();
    REQUIRE(stage.walker());
    CHECK(stage.view().camera().yaw == Approx(std::round(bearing)).margin(0.01));
    stage.hold(Qt::Key_W);
    CHECK(stage.waitFor(
        [&] { return std::hypot(stage.walker()->state().x - goal.x, stage.walker()->state().z - goal.z) < 1.5; }));
    stage.let(Qt::Key_W);
    stage.key(Qt::Key_Escape);
    // Its trace is drawn afterwards.
    const auto& marks = stage.view().marks().of("walk");
    CHECK(std::any_of(marks.begin(), marks.end(),
                      [](const auto& m) { return m.kind == GroundMark::Kind::trace && m.line.size() > 10; }));
}

TEST_CASE("a new spot comes with even ground under it in one step, when that is wished") {
    WalkStage stage;
    stage.find<QCheckBox>("newSpotsOnPads")->click();
    const uint32_t spot = stage.put(38, 82);
    CHECK(stage.steps() == 1);
    CHECK(padOf(stage.level(), *stage.level().spot(spot)));
    CHECK(altitudeAt(stage.level(), stage.x(34), stage.z(82)) ==
          Approx(altitudeAt(stage.level(), stage.x(38), stage.z(82))).margin(0.01));
    stage.place.document.undo();
    CHECK(stage.level().strata.size() == 1);
}

TEST_CASE("the numbers of a body become one of the level's own, and are refused when they make none") {
    WalkStage stage;
    stage.put(30, 40);
    emit stage.find<QComboBox>("body")->activated(0);  // the walker
    stage.rest();
    CHECK(stage.level().body == "walker");
    auto* slope = stage.window.findChild<QWidget*>("bodySlope")->findChild<QDoubleSpinBox*>();
    CHECK(slope->value() == 40);
    slope->setValue(60);
    stage.rest();
    CHECK(stage.level().body == "my walker");
    CHECK(bodyOf(stage.level()).slope == 60);
    CHECK(kBodies[0].slope == 40);
    slope->setValue(62);
    stage.rest();
    CHECK(stage.level().bodies.size() == 2);
    // Walking faster than running takes the run along.
    stage.window.findChild<QWidget*>("bodyPace")->findChild<QDoubleSpinBox*>()->setValue(9);
    CHECK(bodyOf(stage.level()).run == 9);
    CHECK(stage.find<QComboBox>("body")->currentText() == "my walker");
    stage.place.document.undo();
    stage.place.document.undo();
    CHECK(bodyOf(stage.level()).name == "walker");
}
