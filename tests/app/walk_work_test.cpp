// Walking through the real window: dropping in, keys and mouse, falling out, coming back; spots, who gets where,
// mending.
#include <catch2/catch.hpp>

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTableWidget>
#include <QTemporaryDir>

#include "edits/spot_edits.h"
#include "files/walk_file.h"
#include "hands/walk_hand.h"
#include "levels.h"
#include "panels/trail.h"
#include "stage.h"
#include "stations/walk/walk_station.h"
#include "watch/reach_watch.h"
#include "water/water.h"
#include "yard.h"

using namespace jam;
using namespace jam::test;

TEST_CASE("one drops in at the cursor, walks by keys and mouse, and Esc returns exactly to where one was") {
    WalkStage stage;
    const Camera before = stage.view().camera();
    stage.dropIn(40, 60);
    REQUIRE(stage.walker());
    CHECK(stage.view().camera().at.y == Approx(0.93 * 1.8).margin(0.01));
    CHECK(stage.view().camera().at.x == Approx(stage.x(40)).margin(1));
    CHECK(stage.view().camera().yaw == before.yaw);
    // North by W, and by the eye's new direction after the mouse turned it.
    const double z = stage.walker()->state().z;
    stage.hold(Qt::Key_W);
    REQUIRE(stage.waitFor([&] { return stage.walker()->state().z < z - 6; }));
    stage.let(Qt::Key_W);
    REQUIRE(stage.waitFor([&] { return stage.walker()->state().vz == 0; }));
    stage.move({300, 300}, Qt::NoButton);
    stage.move({400, 300}, Qt::NoButton);
    REQUIRE(stage.waitFor([&] { return std::abs(stage.view().camera().yaw - 16) < 1; }));
    stage.move({400, 250}, Qt::NoButton);
    REQUIRE(stage.waitFor([&] { return stage.view().camera().pitch > 2; }));
    const double x = stage.walker()->state().x;
    stage.hold(Qt::Key_D);
    stage.hold(Qt::Key_Shift);
    REQUIRE(stage.waitFor([&] { return stage.walker()->state().x > x + 6; }));
    CHECK(std::hypot(stage.walker()->state().vx, stage.walker()->state().vz) > 13);
    stage.let(Qt::Key_D);
    stage.let(Qt::Key_Shift);
    // Space jumps; keys of commands do nothing meanwhile.
    const bool contours = stage.view().sight().contours;
    stage.hold(Qt::Key_Space);
    REQUIRE(stage.waitFor([&] { return stage.walker()->state().y > 0.5; }));
    stage.let(Qt::Key_Space);
    for (const int k : {Qt::Key_C, Qt::Key_P, Qt::Key_Tab, Qt::Key_1, Qt::Key_Home}) stage.key(k);
    CHECK(stage.view().sight().contours == contours);
    REQUIRE(stage.walker());
    stage.key(Qt::Key_Escape);
    CHECK_FALSE(stage.view().handBusy());
    CHECK(stage.view().camera() == before);
    CHECK(stage.view().sight().under.metres == 0);
    CHECK(stage.steps() == 0);
    // Let go, keys travel again.
    stage.hold(Qt::Key_W);
    REQUIRE(stage.waitFor([&] { return !(stage.view().camera() == before); }));
    stage.let(Qt::Key_W);
}

TEST_CASE("a walk falls off the edge, is told so, begins again by Enter and goes back by Esc; the cart sinks") {
    WalkStage stage;
    stage.dropIn(100, 46);
    const Camera camera = stage.view().camera();
    // One looks north, so that right is east.
    QTest::keyPress(stage.canvas(), Qt::Key_D);
    REQUIRE(stage.waitFor([&] { return stage.walker()->state().gait == Gait::lost; }));
    CHECK(QString::fromStdString(lossInWords(stage.level(), stage.walker()->state())).contains("edge"));
    CHECK(stage.window.findChild<QLabel*>("said")->text().contains("fell off the"));
    QTest::keyRelease(stage.canvas(), Qt::Key_D);
    stage.key(Qt::Key_Return);
    CHECK(stage.walker()->state().gait == Gait::firm);
    CHECK(stage.walker()->state().x == Approx(camera.at.x).margin(0.5));
    stage.key(Qt::Key_Escape);
    CHECK_FALSE(stage.view().handBusy());

    stage.find<QComboBox>("body")->setCurrentText("cart");
    emit stage.find<QComboBox>("body")->activated(2);
    stage.rest();
    CHECK(stage.level().body == "cart");
    stage.dropIn(26, 78);
    CHECK(stage.waitFor([&] { return stage.window.findChild<QLabel*>("said")->text().contains("sank in pond"); }));
    CHECK(stage.walker()->state().gait == Gait::lost);
    stage.key(Qt::Key_Escape);
}

TEST_CASE("under water the view takes the water's colour, and comes back out") {
    WalkStage stage;
    stage.dropIn(26, 78);
    REQUIRE(stage.waitFor([&] { return stage.walker()->state().gait == Gait::swimming; }));
    const auto blueness = [&] {
        const QImage p = stage.picture();
        long long red = 0, blue = 0;
        for (int y = 0; y < p.height(); y += 7)
            for (int x = 0; x < p.width(); x += 7) red += qRed(p.pixel(x, y)), blue += qBlue(p.pixel(x, y));
        return std::pair(red, blue);
    };
    const auto above = blueness();
    stage.hold(Qt::Key_C);
    REQUIRE(stage.waitFor([&] { return stage.walker()->state().y < -4.2; }));
    CHECK(stage.view().sight().under.metres > 0);
    const auto below = blueness();
    CHECK(below.first < 0.6 * static_cast<double>(above.first));
    CHECK(below.second > 1.3 * static_cast<double>(below.first));
    stage.let(Qt::Key_C);
    REQUIRE(stage.waitFor([&] { return stage.view().sight().under.metres == 0; }));
    // Who leaves while under water looks through air again.
    stage.hold(Qt::Key_C);
    REQUIRE(stage.waitFor([&] { return stage.view().sight().under.metres > 0; }));
    stage.key(Qt::Key_Escape);
    CHECK(stage.view().sight().under.metres == 0);
    stage.let(Qt::Key_C);
}

TEST_CASE("whatever ends a walk, one looks from where one looked before") {
    WalkStage stage;
    stage.put(40, 60);
    const Camera before = stage.view().camera();
    const std::pair<const char*, std::function<void()>> ends[] = {
        {"lost focus", [&] { stage.loseFocus(); }},
        {"a dialog", [&] { stage.dismissDialog(); }},
        {"another station",
         [&] { stage.place.standpoint.setStation("light"), stage.place.standpoint.setStation("walk"); }},
        {"finished work",
         [&] {
             stage.window.work().start<int>(
                 "Nothing", [](const Context&) -> Result<int> { return 1; }, [](Result<int>) {});
             stage.window.work().wait();
         }},
        {"another walk", [&] { stage.window.actions()["dropIn"]->trigger(), stage.key(Qt::Key_Escape); }},
        {"undo", [&] { stage.window.actions()["undo"]->trigger(); }}};
    for (const auto& [name, end] : ends) {
        CAPTURE(name);
        stage.find<QPushButton>("dropIn")->click();
        REQUIRE(stage.walker());
        stage.hold(Qt::Key_W);
        REQUIRE(stage.waitFor([&] { return stage.walker()->state().vz != 0 || stage.walker()->state().vx != 0; }));
        end();
        CHECK(stage.waitFor([&] { return !stage.view().handBusy(); }));
        CHECK(stage.view().camera() == before);
        stage.let(Qt::Key_W);
        if (std::string(name) != "undo") continue;
        CHECK(stage.level().spots.empty());
        stage.window.actions()["redo"]->trigger();
    }
}

TEST_CASE("in the middle of a replayed walk every exit leads back, and every key and button does what it says") {
    WalkStage stage;
    stage.put(40, 60);
    // A walk to be walked again: some seconds north.
    stage.dropIn(60, 70);
    REQUIRE(stage.walker());
    stage.hold(Qt::Key_W);
    REQUIRE(stage.waitFor([&] { return stage.walker()->state().z < stage.z(45); }));
    stage.let(Qt::Key_W);
    stage.key(Qt::Key_Escape);
    const auto walk = stage.station().lastWalk();
    REQUIRE(walk);
    const WalkState end = replayWalk(stage.level(), *walk).end;
    const Camera before = stage.view().camera();
    const size_t steps = stage.steps();
    const Level level = stage.level();
    const Tool tool = stage.place.toolbox.tool();
    const auto again = [&] {
        stage.window.findChild<QPushButton*>("walkAgain")->click();
        REQUIRE(stage.walker());
        REQUIRE(stage.waitFor([&] { return stage.walker()->state().z < walk->z - 2; }));
    };
    const std::pair<const char*, std::function<void()>> exits[] = {
        {"Esc", [&] { stage.key(Qt::Key_Escape); }},
        {"lost focus", [&] { stage.loseFocus(); }},
        {"a dialog", [&] { stage.dismissDialog(); }},
        {"another station",
         [&] { stage.place.standpoint.setStation("light"), stage.place.standpoint.setStation("walk"); }},
        {"another walk", [&] { stage.window.actions()["dropIn"]->trigger(), stage.key(Qt::Key_Escape); }}};
    for (const auto& [name, leave] : exits) {
        CAPTURE(name);
        again();
        leave();
        CHECK(stage.waitFor([&] { return !stage.view().handBusy(); }));
        CHECK(stage.view().camera() == before);
        CHECK(stage.steps() == steps);
        // What was walked last is what can be walked again.
        stage.place.standpoint.setStation("walk");
        REQUIRE(stage.station().lastWalk());
        if (std::string(name) == "another walk") break;
    }
    // Keys of tools, of undo and of the wheel of commands do nothing meanwhile, nor does the mouse.
    const auto sameAgain = [&] {
        stage.window.station<WalkStation>()->keep(walk);
        again();
    };
    sameAgain();
    for (const int key : {Qt::Key_1, Qt::Key_2, Qt::Key_H, Qt::Key_R, Qt::Key_Delete}) {
        CAPTURE(key);
        stage.key(key);
        REQUIRE(stage.walker());
    }
    stage.press({200, 200});
    stage.move({240, 220});
    stage.release({240, 220});
    REQUIRE(stage.walker());
    CHECK(stage.place.toolbox.tool() == tool);
    CHECK(stage.steps() == steps);
    CHECK(stage.level() == level);
    // Shift alone does not take over: it ends where it ended.
    stage.hold(Qt::Key_Shift);
    REQUIRE(stage.waitFor(
        [&] { return std::hypot(stage.walker()->state().x - end.x, stage.walker()->state().z - end.z) < 0.4; }));
    stage.let(Qt::Key_Shift);
    // Enter begins again from where it began.
    stage.key(Qt::Key_Return);
    REQUIRE(stage.walker());
    CHECK(std::abs(stage.walker()->state().z - walk->z) < 3);
    // Who takes a key goes on by himself, and stands still when that is let go.
    stage.hold(Qt::Key_S);
    REQUIRE(stage.waitFor([&] { return stage.walker()->state().z > walk->z + 2; }));
    stage.let(Qt::Key_S);
    REQUIRE(stage.waitFor([&] { return stage.walker()->state().vz == 0; }));
    const double z = stage.walker()->state().z;
    QTest::qWait(300);
    CHECK(stage.walker()->state().z == z);
    stage.key(Qt::Key_Escape);
    CHECK(stage.view().camera() == before);
}

TEST_CASE("the body goes along a way by itself, and a walk is kept, walked again and refused elsewhere") {
    WalkStage stage;
    stage.put(30, 40);
    const uint32_t barn = stage.put(90, 70);
    stage.find<QTableWidget>("reachTable")->setCurrentCell(0, 1);
    REQUIRE(stage.waitFor([&] { return stage.window.reach().way() != nullptr; }));
    auto* along = stage.window.findChild<QPushButton*>("goAlong");
    REQUIRE(along->isEnabled());
    along->click();
    REQUIRE(stage.walker());
    const Spot goal = *stage.level().spot(barn);
    REQUIRE(stage.waitFor(
        [&] { return std::hypot(stage.walker()->state().x - goal.x, stage.walker()->state().z - goal.z) < 0.8; }));
    const WalkState end = stage.walker()->state();
    stage.key(Qt::Key_Escape);
    const auto walk = stage.station().lastWalk();
    REQUIRE(walk);
    CHECK(walk->seconds() > 3);
    CHECK(std::hypot(replayWalk(stage.level(), *walk).end.x - end.x, replayWalk(stage.level(), *walk).end.z - end.z) <
          0.3);
    stage.window.findChild<QPushButton*>("walkAgain")->click();
    REQUIRE(stage.walker());
    REQUIRE(stage.waitFor(
        [&] { return std::hypot(stage.walker()->state().x - goal.x, stage.walker()->state().z - goal.z) < 0.8; }));
    // Who takes a key goes on by himself.
    const double z = stage.walker()->state().z;
    stage.hold(Qt::Key_S);
    REQUIRE(stage.waitFor([&] { return std::abs(stage.walker()->state().z - z) > 3; }));
    stage.let(Qt::Key_S);
    stage.key(Qt::Key_Escape);
    // Another level has no last walk.
    stage.place.document.open(yard(), {}, "again");
    stage.rest();
    CHECK_FALSE(stage.station().lastWalk());
}

TEST_CASE("a walk is saved to a file and opened from it, and a file that is none or of another level is refused") {
    WalkStage stage;
    QTemporaryDir folder;
    const QString path = folder.filePath("to the gap.walk");
    const auto name = [&](const QString& file) {
        stage.answer([file](QWidget* dialog) {
            auto* field = dialog->findChild<QLineEdit*>("fileNameEdit");
            REQUIRE(field);
            field->setText(file);
            QTest::keyClick(field, Qt::Key_Return);
        });
    };
    const auto said = [&] { return stage.window.findChild<QLabel*>("said")->text(); };
    auto *save = stage.window.findChild<QPushButton*>("saveWalk"),
         *open = stage.window.findChild<QPushButton*>("openWalk");
    CHECK_FALSE(save->isEnabled());
    stage.dropIn(40, 60);
    stage.hold(Qt::Key_W);
    REQUIRE(stage.waitFor([&] { return stage.walker()->state().z < stage.z(52); }));
    stage.let(Qt::Key_W);
    REQUIRE(stage.waitFor([&] { return stage.walker()->state().vz == 0; }));
    const WalkState end = stage.walker()->state();
    stage.key(Qt::Key_Escape);
    REQUIRE(save->isEnabled());
    name(folder.filePath("to the gap"));  // the ending comes by itself
    save->click();
    REQUIRE(QFileInfo::exists(path));
    const auto kept = stage.station().lastWalk();
    const Result<WalkRecord> read = readWalk(path.toStdString(), stage.level());
    REQUIRE(read);
    CHECK(read.value() == *kept);
    // Another walk, then the file: it goes the old way to the same place, and Esc leads back to the eye.
    stage.dropIn(80, 70);
    stage.key(Qt::Key_Escape);
    const Camera eye = stage.view().camera();
    name(path);
    open->click();
    REQUIRE(stage.walker());
    REQUIRE(stage.waitFor([&] { return std::abs(stage.walker()->state().z - end.z) < 1e-3; }));
    CHECK(stage.walker()->state().x == Approx(end.x).margin(1e-3));
    stage.key(Qt::Key_Escape);
    CHECK(stage.view().camera() == eye);
    // What is no walk changes nothing.
    QFile none(folder.filePath("none.walk"));
    REQUIRE(none.open(QIODevice::WriteOnly));
    none.write("{\"walk\": 12");
    none.close();
    const auto before = stage.station().lastWalk();
    name(none.fileName());
    open->click();
    CHECK_FALSE(stage.walker());
    CHECK(stage.station().lastWalk() == before);
    CHECK(said().contains("none.walk"));
    // Nor does a walk of another level.
    Level other = flatLevel(41, 41, 3);
    other.name = "elsewhere";
    stage.place.document.open(other, {}, "another");
    stage.rest();
    name(path);
    open->click();
    CHECK_FALSE(stage.walker());
    CHECK_FALSE(stage.station().lastWalk());
    INFO(said().toStdString());
    CHECK(said().contains("to the gap"));
}

TEST_CASE("the cursor of the view comes back as it was before the walk") {
    WalkStage stage;
    for (const Qt::CursorShape shape : {Qt::CrossCursor, Qt::SplitHCursor}) {
        stage.view().setCursor(shape);
        stage.dropIn(40, 60);
        REQUIRE(stage.walker());
        CHECK(stage.view().cursor().shape() == Qt::BlankCursor);
        stage.key(Qt::Key_Escape);
        CHECK(stage.view().cursor().shape() == shape);
    }
}
