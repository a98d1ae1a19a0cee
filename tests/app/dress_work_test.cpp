// Dressing the ground through the real window: kinds, brushes, rules, what is put down and moved by hand.
#include <catch2/catch.hpp>

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QDoubleSpinBox>
#include <QFile>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QTemporaryDir>
#include <QToolButton>

#include "course/bake.h"
#include "course/footprint.h"
#include "cover/rules.h"
#include "dress/kinds.h"
#include "dress/plantings.h"
#include "dress/shipped_kinds.h"
#include "files/level_file.h"
#include "hands/single_hand.h"
#include "level/ground.h"
#include "level/opening.h"
#include "levels.h"
#include "panels/number_field.h"
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
    CHECK(pulled.turn == Approx(270).margin(3));  // its front, +Z, looks east
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

TEST_CASE("a click beside a course lets a line run along it, and a click on one of it leaves a gate") {
    DressStage stage;
    stage.add("Post and rails");
    stage.place.document.edit("Lane", [](Level& l) {
        Course lane;
        lane.smooth = false;
        lane.posts = {Post{-30, 5, {}, 4, 2, 0}, Post{30, 5, {}, 4, 2, 0}};
        addCourse(l, "lane", lane);
    });
    stage.settle();
    stage.find<QToolButton>("lineOfThemButton")->click();
    // To the south of it, five metres from its middle.
    const auto click = [&](const QPoint& at) {
        stage.press(at);
        stage.release(at);
        stage.settle();
    };
    click(stage.pixelOf(4, 10));
    const size_t count = stage.level().singles.size();
    REQUIRE(count > 15);
    for (const Single& s : stage.level().singles) {
        CHECK(s.z == Approx(10).margin(0.5));
        CHECK(std::abs(s.x) < 31);
    }
    const Single fifth = stage.level().singles[5];
    click(stage.view().pixelOf({fifth.x, 0.5, fifth.z})->toPoint());
    CHECK(stage.level().singles.size() == count - 1);
    CHECK_FALSE(stage.level().single(fifth.id));
}

TEST_CASE("the ground under a kind is evened, covered and opened from the sheet, and given back") {
    DressStage stage;
    stage.place.document.edit("Slope", [](Level& l) {
        for (int z = 0; z < l.rows; ++z)
            for (int x = 0; x < l.columns; ++x) l.strata[0].heights.set(x, z, 0.3f * static_cast<float>(x));
    });
    stage.add("Start hut");
    stage.find<QToolButton>("putOneButton")->click();
    stage.press(stage.pixelOf(5, 5));
    stage.release(stage.pixelOf(5, 5));
    stage.settle();
    REQUIRE(stage.level().singles.size() == 1);
    const Level before = stage.level();
    const Single s = before.singles.front();
    const auto rise = [&] { return altitudeAt(stage.level(), s.x + 1, s.z) - altitudeAt(stage.level(), s.x - 1, s.z); };
    CHECK(rise() == Approx(0.6).margin(0.02));
    stage.find<QToolButton>("partKind")->click();
    stage.find<QToolButton>("foldFootprint")->click();
    stage.settle();
    stage.find<QCheckBox>("footprint")->click();
    stage.settle();
    CHECK(rise() == Approx(0).margin(1e-3));
    for (const char* id : {"hatchWide", "hatchLong"})
        stage.find<NumberField>(id)->findChild<QDoubleSpinBox*>()->setValue(2);
    stage.settle();
    CHECK_FALSE(groundAt(stage.level(), s.x, s.z));
    auto* track = stage.find<QComboBox>("footprintTrack");
    track->setCurrentIndex(1);
    emit track->activated(1);
    stage.settle();
    const Stratum& under = stage.level().strata[static_cast<size_t>(footprintPlace(stage.level(), s.kind))];
    CHECK(under.course->track == stage.level().layers[1].id);
    stage.find<QCheckBox>("footprint")->click();
    stage.settle();
    CHECK(stage.level().hatches.presentTiles() == 0);
    CHECK(stage.level().layers[1].rules.empty());
    CHECK(rise() == Approx(0.6).margin(0.02));
}

TEST_CASE("a line is pulled, chosen as one, moved, dissolved, and one of it deleted as a gate") {
    DressStage stage;
    stage.add("Post and rails");
    stage.find<QToolButton>("lineOfThemButton")->click();
    const size_t before = stage.steps();
    // Too short is no line, and says so while it is pulled; a click puts nothing down.
    stage.press(stage.pixelOf(0, 0));
    stage.release(stage.pixelOf(0, 0));
    CHECK(stage.level().singles.empty());
    CHECK(stage.steps() == before);
    stage.drag(stage.pixelOf(-20, 8), stage.pixelOf(10, 8));
    stage.settle();
    const size_t count = stage.level().singles.size();
    REQUIRE(count > 8);
    CHECK(stage.steps() == before + 1);
    for (const Single& s : stage.level().singles) CHECK(s.z == Approx(8).margin(0.8));
    // One press chooses all of it, and with Ctrl one alone.
    stage.find<QToolButton>("chooseButton")->click();
    const Single third = stage.level().singles[2], fourth = stage.level().singles[3];
    const auto pixelOfOne = [&](const Single& s) {
        const auto q = stage.view().pixelOf({s.x, 0.5, s.z});
        REQUIRE(q);
        return q->toPoint();
    };
    stage.press(pixelOfOne(third));
    stage.release(pixelOfOne(third));
    CHECK(stage.place.standpoint.chosen().size() == count);
    stage.press(pixelOfOne(fourth), Qt::ControlModifier);
    stage.release(pixelOfOne(fourth));
    REQUIRE(stage.place.standpoint.chosen().size() == 1);
    CHECK(stage.place.standpoint.chosen()[0].planting.single == fourth.id);
    stage.key(Qt::Key_Delete);
    stage.settle();
    CHECK(stage.level().singles.size() == count - 1);
    CHECK_FALSE(stage.level().single(fourth.id));
    // The rest of it moves together.
    stage.drag(pixelOfOne(third), pixelOfOne(third) + QPoint(0, 40));
    stage.settle();
    const double moved = stage.level().single(third.id)->z - third.z;
    CHECK(std::abs(moved) > 1);
    for (const Single& s : stage.level().singles) CHECK(s.z == Approx(third.z + moved).margin(0.6));
    REQUIRE(stage.place.standpoint.chosen().size() == count - 1);
    stage.find<QToolButton>("dissolveGroup")->click();
    stage.settle();
    for (const Single& s : stage.level().singles) CHECK(s.group == 0);
    stage.find<QToolButton>("groupThem")->click();
    stage.settle();
    CHECK(stage.level().singles[0].group != 0);
}

TEST_CASE("Alt takes up the kind under the cursor, and the mark tells how many stand under the brush") {
    DressStage stage;
    stage.add("Boulder");
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.radius = 18, s.strength = 1, s.onHundred = 3; });
    stage.rub(0, 0);
    const uint32_t stones = stage.level().kinds[0].id;
    const auto there = stage.standing();
    REQUIRE_FALSE(there.empty());
    stage.add("Ash");
    CHECK(stage.place.standpoint.kind() != stones);
    const size_t steps = stage.steps();
    stage.press(stage.pixelOf(there[0].x, there[0].z), Qt::AltModifier);
    stage.release(stage.pixelOf(there[0].x, there[0].z));
    CHECK(stage.place.standpoint.kind() == stones);
    CHECK(stage.steps() == steps);
    stage.press(stage.pixelOf(-60, -40), Qt::AltModifier);
    stage.release(stage.pixelOf(-60, -40));
    CHECK(stage.window.lastMessage().contains("Nothing stands there"));
    stage.settle();
    stage.move(stage.pixelOf(0, 0), Qt::NoButton);
    stage.settle();
    const auto& marks = stage.view().marks().all();
    REQUIRE(marks.count("underBrush"));
    REQUIRE(marks.at("underBrush").size() == 1);
    const auto within = std::count_if(there.begin(), there.end(),
                                      [](const Planting& p) { return std::hypot(p.x, p.z) < 18; });
    CHECK(std::abs(marks.at("underBrush")[0].label.split(' ')[0].toLongLong() - within) <= 1);
    stage.move(stage.pixelOf(-60, -40), Qt::NoButton);
    stage.settle();
    CHECK(marks.at("underBrush")[0].label == "none here");
    stage.key(Qt::Key_F3);
    stage.settle();
    CHECK((!marks.count("underBrush") || marks.at("underBrush").empty()));
}

TEST_CASE(
    "a shape is dropped, sized in the dialog, taken in as a kind and shown with its picture; bad ones are refused") {
    DressStage stage;
    QTemporaryDir folder;
    const auto write = [&](const char* name, const QByteArray& bytes) {
        QFile file(folder.filePath(name));
        REQUIRE(file.open(QIODevice::WriteOnly));
        file.write(bytes);
        return folder.filePath(name);
    };
    QImage red(8, 8, QImage::Format_RGB32);
    red.fill(QColor(230, 20, 20));
    REQUIRE(red.save(folder.filePath("red.png")));
    write("crate.mtl", "newmtl m\nmap_Kd red.png\n");
    QByteArray obj = "mtllib crate.mtl\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\nusemtl m\n";
    for (const char* v :
         {"0 0 0", "200 0 0", "200 0 100", "0 0 100", "0 300 0", "200 300 0", "200 300 100", "0 300 100"})
        obj += QByteArray("v ") + v + "\n";
    for (const char* f : {"5 6 2 1", "6 7 3 2", "7 8 4 3", "8 5 1 4", "8 7 6 5"}) {
        obj += "f";
        int corner = 1;
        for (const QByteArray& c : QByteArray(f).split(' ')) obj += " " + c + "/" + QByteArray::number(corner++);
        obj += "\n";
    }
    const QString path = write("big crate.obj", obj);
    const size_t steps = stage.steps();
    // Cancelled, nothing happened.
    stage.answer([](QWidget* dialog) { static_cast<QDialog*>(dialog)->reject(); });
    stage.drop(path);
    stage.settle();
    CHECK(stage.steps() == steps);
    QString facts;
    stage.answer([&](QWidget* dialog) {
        // Centimetres were guessed; twice as tall is twice as large.
        CHECK(dialog->findChild<QDoubleSpinBox*>("shapeHeight")->value() == Approx(3));
        dialog->findChild<QDoubleSpinBox*>("shapeHeight")->setValue(6);
        CHECK(dialog->findChild<QDoubleSpinBox*>("shapeScale")->value() == Approx(0.02));
        dialog->findChild<QComboBox*>("upAxis")->setCurrentIndex(1);
        emit dialog->findChild<QComboBox*>("upAxis")->activated(1);
        CHECK(dialog->findChild<QDoubleSpinBox*>("shapeHeight")->value() == Approx(2));
        dialog->findChild<QComboBox*>("upAxis")->setCurrentIndex(0);
        emit dialog->findChild<QComboBox*>("upAxis")->activated(0);
        dialog->findChild<QLineEdit*>("takenName")->setText("");
        CHECK_FALSE(dialog->findChild<QPushButton*>("make")->isEnabled());
        dialog->findChild<QLineEdit*>("takenName")->setText("Crate");
        facts = dialog->findChild<QLabel*>("shapeFacts")->text();
        static_cast<QDialog*>(dialog)->accept();
    });
    stage.drop(path);
    stage.settle();
    CHECK(facts.contains("6.00 m tall"));
    CHECK(facts.contains("one picture"));
    REQUIRE(stage.level().kinds.size() == 1);
    const Kind& kind = stage.level().kinds[0];
    CHECK(kind.name == "Crate");
    REQUIRE(kind.taken);
    CHECK(heightOf(kind) == Approx(6));
    CHECK(kind.blocks == Blocks::hull);
    CHECK(stage.steps() == steps + 1);
    // One is put down, and it is red from above.
    stage.key(Qt::Key_V, Qt::ShiftModifier);
    stage.press(stage.pixelOf(0, 0));
    stage.release(stage.pixelOf(0, 0));
    REQUIRE(stage.level().singles.size() == 1);
    stage.place.standpoint.setDressWay(DressWay::brush);
    stage.settle();
    const QImage shown = stage.picture();
    int reds = 0;
    for (int y = 0; y < shown.height(); ++y)
        for (int x = 0; x < shown.width(); ++x) {
            const QColor c = shown.pixelColor(x, y);
            reds += c.red() > 110 && c.green() < c.red() / 2 && c.blue() < c.red() / 2;
        }
    CHECK(reds > 30);
    // Broken, it is refused in words, and nothing changes.
    const QString bad = write("broken.glb", "glTF");
    stage.answer([](QWidget* said) { said->close(); });
    stage.drop(bad);
    stage.settle();
    CHECK(stage.level().kinds.size() == 1);
}
