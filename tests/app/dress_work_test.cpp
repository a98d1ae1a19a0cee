// Dressing the ground through the real window: kinds, brushes, rules, what is put down and moved by hand.
#include <catch2/catch.hpp>

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QTemporaryDir>
#include <QToolButton>

#include "cover/rules.h"
#include "dress/kinds.h"
#include "dress/plantings.h"
#include "dress/shipped_kinds.h"
#include "files/level_file.h"
#include "hands/single_hand.h"
#include "level/ground.h"
#include "levels.h"
#include "panels/trail.h"
#include "stage.h"
#include "stations/dress/dress_station.h"
#include "stations/dress/kind_strip.h"
#include "watch/surveyor.h"

using namespace jam;
using namespace jam::test;

namespace {

struct DressStage : Stage {
    DressStage() : Stage(flatLevel(161, 121, 2)) {
        window.actions()["plan"]->trigger();
        key(Qt::Key_F6);
        settle();
    }
    const Level& level() { return place.document.level(); }
    // Adds one of the shipped kinds by the menu of the bench.
    void add(const char* name) {
        auto* strip = window.findChild<KindStrip*>();
        answer([name](QWidget* menu) {
            for (QAction* a : static_cast<QMenu*>(menu)->actions())
                if (a->text() == name) {
                    a->trigger();
                    menu->close();
                    return;
                }
            FAIL_CHECK("no kind " << name);
            menu->close();
        });
        QTest::mouseClick(strip, Qt::LeftButton, {}, strip->tile(static_cast<int>(level().kinds.size())).center());
        settle();
    }
    std::vector<Planting> standing(size_t kind = 0) {
        Plantings all(level());
        std::vector<Planting> found;
        for (int tz = 0; tz < all.tilesDown(); ++tz)
            for (int tx = 0; tx < all.tilesAcross(); ++tx)
                for (const Planting& p : all.tile(kind, tx, tz)) found.push_back(p);
        return found;
    }
    void rub(double x, double z) {
        press(pixelOf(x, z));
        QTest::qWait(250);
        release(pixelOf(x, z));
        settle();
    }
    QString told() { return window.findChild<Trail*>()->station("dress")->state(); }
    size_t steps() { return place.document.history().place(); }
};

}  // namespace

TEST_CASE("a kind is added at the bench, planted, thinned, cleared, and each is one step that is undone") {
    DressStage stage;
    CHECK(stage.told() == "nothing yet");
    stage.drag(stage.pixelOf(0, 0), stage.pixelOf(5, 0));
    CHECK(stage.window.lastMessage().contains("Add a kind"));
    stage.add("Damson tree");
    REQUIRE(stage.level().kinds.size() == 1);
    CHECK(stage.place.standpoint.kind() == stage.level().kinds[0].id);
    const QImage bare = stage.picture();
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.radius = 18, s.strength = 1, s.onHundred = 6; });
    stage.rub(0, 0);
    const auto planted = stage.standing();
    CHECK(planted.size() > 10);
    for (const Planting& p : planted) CHECK(std::hypot(p.x, p.z) < 19);
    CHECK(stage.picture() != bare);
    CHECK(stage.told() == QString("%1 stand").arg(planted.size()));
    const size_t after = stage.steps();
    // Thinned, by Shift: what is left stands where it stood.
    stage.press(stage.pixelOf(6, 0), Qt::ShiftModifier);
    QTest::qWait(200);
    stage.release(stage.pixelOf(6, 0));
    stage.settle();
    CHECK(stage.steps() == after + 1);
    const auto thinned = stage.standing();
    CHECK(thinned.size() < planted.size());
    for (const Planting& p : thinned) CHECK(std::find(planted.begin(), planted.end(), p) != planted.end());
    stage.window.actions()["undo"]->trigger();
    CHECK(stage.standing() == planted);
    stage.place.takeUp(Tool::clearAway);
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.radius = 30; });
    stage.rub(0, 0);
    CHECK(stage.standing().empty());
    CHECK(stage.picture() == bare);
    stage.window.actions()["undo"]->trigger();
    stage.window.actions()["undo"]->trigger();
    stage.window.actions()["undo"]->trigger();
    CHECK(stage.level().kinds.empty());
    stage.settle();
    CHECK(stage.told() == "nothing yet");
}

TEST_CASE(
    "one tree of an orchard is moved, the ground raised below it, saved and opened, and stands where it was put") {
    DressStage stage;
    stage.add("Young damson");
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.radius = 25, s.strength = 1, s.onHundred = 3; });
    stage.rub(0, 0);
    const auto before = stage.standing();
    REQUIRE(before.size() > 5);
    stage.find<QToolButton>("chooseButton")->click();
    CHECK_FALSE(stage.place.brushing());
    const Planting one = before.front();
    const auto top = stage.view().pixelOf({one.x, static_cast<double>(one.y) + 0.4, one.z});
    REQUIRE(top);
    // A click chooses it and changes nothing; a pull moves it.
    const size_t steps = stage.steps();
    stage.press(top->toPoint());
    stage.release(top->toPoint());
    REQUIRE(stage.place.standpoint.chosen().size() == 1);
    CHECK(stage.place.standpoint.chosen()[0].planting.place == one.place);
    CHECK(stage.steps() == steps);
    const QPoint to = stage.pixelOf(one.x + 9, one.z + 4);
    stage.drag(stage.pixelOf(one.x, one.z), to);
    stage.settle();
    INFO(stage.window.lastMessage().toStdString() << ", chosen " << stage.place.standpoint.chosen().size());
    CHECK(stage.steps() == steps + 1);
    REQUIRE(stage.level().singles.size() == 1);
    const Single moved = stage.level().singles[0];
    CHECK(moved.x == Approx(one.x + 9).margin(1.5));
    CHECK(moved.z == Approx(one.z + 4).margin(1.5));
    CHECK(moved.size == one.size);
    CHECK(stage.standing().size() == before.size());
    // Raised below it, it comes up with the ground.
    const float foot = standing(stage.level(), stage.level().kinds[0], moved).y;
    stage.place.takeUp(Tool::raise);
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.radius = 12, s.strength = 20; });
    stage.rub(moved.x, moved.z);
    CHECK(standing(stage.level(), stage.level().kinds[0], stage.level().singles[0]).y > foot + 0.5f);
    const QTemporaryDir folder;
    const std::filesystem::path file = folder.filePath("dressed.jamhill").toStdString();
    REQUIRE(saveLevel(stage.place.document.standing(), file));
    CHECK(loadLevel(file).take() == stage.place.document.standing());
    stage.window.actions()["undo"]->trigger();
    stage.window.actions()["undo"]->trigger();
    CHECK(stage.standing() == before);
    CHECK(stage.level().singles.empty());
}

TEST_CASE("one is put down by a click, turned and sized by a pull, changed in numbers and deleted") {
    DressStage stage;
    stage.add("Start hut");
    stage.find<QToolButton>("putOneButton")->click();
    const QPoint at = stage.pixelOf(-10, 5);
    stage.press(at);
    stage.release(at);
    stage.settle();
    REQUIRE(stage.level().singles.size() == 1);
    CHECK(stage.level().singles[0].size == Approx(1));
    stage.drag(stage.pixelOf(25, 5), stage.pixelOf(45, 5));
    stage.settle();
    REQUIRE(stage.level().singles.size() == 2);
    const Single pulled = stage.level().singles[1];
    CHECK(pulled.turn == Approx(90).margin(3));
    CHECK(pulled.x == Approx(25).margin(1));
    CHECK(pulled.size > 0.6f);
    // Esc ends it; chosen, it shows in the sheet.
    stage.key(Qt::Key_Escape);
    CHECK(stage.place.standpoint.dressWay() == DressWay::brush);
    stage.find<QToolButton>("chooseButton")->click();
    const auto pixel = stage.view().pixelOf({pulled.x, altitudeAt(stage.level(), pulled.x, pulled.z) + 1, pulled.z});
    stage.press(pixel->toPoint());
    stage.release(pixel->toPoint());
    REQUIRE(stage.place.standpoint.chosen().size() == 1);
    auto* turn = stage.find<QWidget>("singleTurn")->findChild<QDoubleSpinBox*>();
    CHECK(turn->value() == Approx(pulled.turn).margin(1));
    turn->setValue(200);
    CHECK(stage.level().singles[1].turn == Approx(200));
    stage.key(Qt::Key_Delete);
    stage.settle();
    CHECK(stage.level().singles.size() == 1);
    CHECK(stage.place.standpoint.chosen().empty());
}

TEST_CASE(
    "rules say where a kind stands, what it keeps off and how it grows show at once, and wrong names are refused") {
    DressStage stage;
    stage.add("Meadow tuft");
    stage.add("Boulder");
    stage.find<QToolButton>("partKindRules")->click();
    stage.find<QPushButton>("addRule")->click();
    stage.settle();
    REQUIRE(stage.level().kinds[1].rules.size() == 1);
    CHECK(stage.standing(1).empty());  // steep ground is none here
    stage.place.document.tryEdit("rule", [](Level& l) -> Status {
        std::vector<Rule> rules = l.kinds[1].rules;
        rules[0].from = 0;
        changeRules(l, l.kinds[1].id, rules);
        return {};
    });
    CHECK(stage.standing(1).size() > 50);
    // The slider of how many.
    stage.find<QToolButton>("partKind")->click();
    auto* density = stage.find<QWidget>("density")->findChild<QDoubleSpinBox*>();
    const auto few = stage.standing(1);
    density->setValue(2);
    const auto many = stage.standing(1);
    CHECK(many.size() > few.size());
    for (const Planting& p : few) CHECK(std::find(many.begin(), many.end(), p) != many.end());
    // It keeps off the edge.
    auto* keep = stage.window.findChild<QComboBox*>("keepsOff");
    emit keep->activated(keep->findText("the level's edge"));
    REQUIRE(stage.level().kinds[1].keepsOff.size() == 1);
    for (const Planting& p : stage.standing(1)) CHECK(std::abs(p.x) <= 80 - 1.4);
    auto* name = stage.find<QLineEdit>("kindName");
    name->setText("Meadow tuft");
    emit name->editingFinished();
    CHECK(stage.level().kinds[1].name == "Boulder");
    CHECK(name->text() == "Boulder");
    name->setText("Rock");
    emit name->editingFinished();
    CHECK(stage.level().kinds[1].name == "Rock");
    // What floats is told on the trail, with a way to mend it.
    stage.place.document.tryEdit("put", [](Level& l) -> Status {
        Single s;
        s.kind = l.kinds[1].id, s.above = 3;
        const Result<uint32_t> put = putSingle(l, s);
        return put ? Status() : put.error();
    });
    stage.settle();
    CHECK(stage.waitFor([&] { return stage.told().contains("float"); }));
}
