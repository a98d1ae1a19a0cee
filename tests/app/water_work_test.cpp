// Water through the real window: filled, pulled, its leak told and mended, streams drawn, rules that follow.
#include <catch2/catch.hpp>

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QToolButton>

#include "cover/rules.h"
#include "cover/weights.h"
#include "level/ground.h"
#include "levels.h"
#include "panels/readout.h"
#include "panels/trail.h"
#include "stage.h"
#include "watch/surveyor.h"
#include "water/figures.h"

using namespace jam;
using namespace jam::test;

namespace {

// A basin off the middle whose rim in the east is low, in ground that falls to the east beyond it.
Level basin() {
    Level l = flatLevel(181, 141, 3);
    l.lowest = -50, l.highest = 200;
    for (int r = 0; r < l.rows; ++r)
        for (int c = 0; c < l.columns; ++c) {
            const double away = std::hypot(c - 70.0, r - 76.0);
            double h = 12 + 0.02 * (90 - c);
            if (away < 30) h = 4 + 8 * away * away / 900;
            if (c > 70 && std::abs(r - 76) < 5) h = std::min(h, away < 24 ? 9.0 : 9 - 0.03 * (c - 94));
            l.strata[0].heights.set(c, r, static_cast<float>(h));
        }
    return l;
}

struct WaterStage : Stage {
    WaterStage() : Stage(basin()) {
        settle();
        window.actions()["plan"]->trigger();
        key(Qt::Key_F5);
        settle();
    }
    const Level& level() { return place.document.level(); }
    double x(int c) { return level().originX + c; }
    double z(int r) { return level().originZ + r; }
    void click(int c, int r, Qt::KeyboardModifiers keys = {}) {
        press(pixelOf(x(c), z(r)), keys);
        release(pixelOf(x(c), z(r)));
        settle();
    }
    void set(const char* id, double value) {
        find<QWidget>(id)->findChild<QDoubleSpinBox*>()->setValue(value);
        settle();
    }
    void push(const char* id) {
        find<QPushButton>(id)->click();
        settle();
    }
    QString told() { return window.findChild<Trail*>()->station("water")->state(); }
    QListWidget* cards() { return find<QListWidget>("waters"); }
    size_t steps() { return place.document.history().place(); }
};

}  // namespace

TEST_CASE("a click fills a hollow to its brim, pulling moves its surface, and its leak is told and mended") {
    WaterStage stage;
    CHECK(stage.told() == "no water yet");
    // Where water runs off nothing is made.
    stage.click(150, 20);
    CHECK(stage.level().pools.empty());
    stage.click(68, 74);
    REQUIRE(stage.level().pools.size() == 1);
    const uint32_t id = stage.level().pools[0].id;
    CHECK(stage.place.standpoint.water() == id);
    const float brim = stage.level().pools[0].height;
    CHECK(brim == Approx(9).margin(0.1));
    CHECK(stage.told() == "1 pool closed");
    CHECK(stage.cards()->count() == 1);
    CHECK(stage.cards()->selectedItems().size() == 1);
    CHECK(stage.find<QLabel>("waterFigures")->text().contains("Full to the brim"));
    CHECK_FALSE(stage.find<QPushButton>("toBrim")->isEnabled());
    CHECK(stage.level().water.at(70, 76).body == id);

    // Pulled up from above it moves by what a metre measures at least; Esc takes that back.
    const QPoint at = stage.pixelOf(stage.x(66), stage.z(80));
    const size_t steps = stage.steps();
    stage.press(at);
    stage.move(at - QPoint(0, 30));
    CHECK(stage.place.document.previewing());
    CHECK(stage.level().pools[0].height > brim);
    stage.key(Qt::Key_Escape);
    CHECK(stage.level().pools[0].height == brim);
    CHECK(stage.steps() == steps);
    stage.release(at);
    CHECK(stage.steps() == steps);
    stage.drag(at, at - QPoint(0, 6));
    stage.settle();
    CHECK(stage.steps() == steps + 1);
    const float higher = stage.level().pools[0].height;
    CHECK(higher > brim + 0.2f);
    const auto leak = leakOf(stage.level(), stage.level().pools[0]);
    REQUIRE(leak);
    CHECK(stage.told() == QString("Pool leaks east, %1 m short").arg(higher - brim, 0, 'f', 1));
    CHECK(stage.find<QLabel>("leakSays")->text().contains("leaks in the east"));
    // The way it runs is drawn, and a click on the trail goes there.
    const auto& marks = stage.view().marks().of("water");
    CHECK(std::count_if(marks.begin(), marks.end(),
                        [](const auto& m) { return m.kind == GroundMark::Kind::leak && m.line.size() > 5; }) == 1);
    const Camera before = stage.view().camera();
    StationButton* button = stage.window.findChild<Trail*>()->station("water");
    QTest::mouseClick(button, Qt::LeftButton, {}, QPoint(60, button->height() * 3 / 4));  // on its state
    stage.settle();
    CHECK_FALSE(stage.view().camera() == before);
    CHECK(std::hypot(stage.place.standpoint.seen()->x - leak->x, stage.place.standpoint.seen()->z - leak->z) < 30);

    // Lowered, undone, dammed.
    stage.push("mendLower");
    CHECK(stage.level().pools[0].height == leak->brim);
    CHECK(stage.told() == "1 pool closed");
    stage.place.document.undo();
    stage.settle();
    CHECK(stage.told().contains("leaks east"));
    stage.set("damWidth", 2);
    stage.push("mendDam");
    CHECK(stage.told() == "1 pool closed");
    CHECK(stage.level().pools[0].height == higher);
    CHECK_FALSE(leakOf(stage.level(), stage.level().pools[0]));
    CHECK(QString::fromStdString(stage.place.document.history().entries().back().what) == "Dam for Pool");
}

TEST_CASE("a pool is named, set by number, and wrong input leaves it as it was") {
    WaterStage stage;
    stage.click(68, 74);
    auto* name = stage.find<QLineEdit>("waterName");
    name->setFocus();
    name->setText("Mill pond");
    QTest::keyClick(name, Qt::Key_Return);
    stage.settle();
    CHECK(stage.level().pools[0].name == "Mill pond");
    stage.push("addSea");
    CHECK(stage.level().pools.size() == 2);
    CHECK(stage.level().pools[1].sea);
    CHECK(stage.level().water.at(178, 76).body == stage.level().pools[1].id);
    // Two of one name are refused, in words, and the field shows the old one.
    name = stage.find<QLineEdit>("waterName");
    name->setFocus();
    name->setText("Mill pond");
    QTest::keyClick(name, Qt::Key_Return);
    stage.settle();
    CHECK(stage.level().pools[1].name == "Sea");
    stage.set("waterHeight", 7.25);
    CHECK(stage.level().pools[1].height == 7.25f);
    stage.find<QToolButton>("foldWaterLook")->setChecked(true);
    stage.settle();
    stage.set("clearness", 3);
    CHECK(stage.level().pools[1].look.clearness == 3);
    stage.set("foam", 0.9);
    CHECK(stage.level().pools[1].look.foam == 0.9f);
    CHECK(stage.level().pools[0].look.foam == WaterLook{}.foam);
    // Chosen by its card, and deleted.
    stage.cards()->item(0)->setSelected(true);
    stage.settle();
    CHECK(stage.place.standpoint.water() == stage.level().pools[0].id);
    stage.find<QToolButton>("removeWater")->click();
    stage.settle();
    CHECK(stage.level().pools.size() == 1);
    CHECK_FALSE(stage.level().water.at(70, 76).wet());
    stage.place.document.undo();
    stage.settle();
    CHECK(stage.level().water.at(70, 76).wet());
}

TEST_CASE("the outline follows the brush while it works, and the step is what it would be at once") {
    WaterStage stage;
    stage.click(68, 74);
    const Level before = stage.place.document.standing();
    stage.key(Qt::Key_F3);
    stage.place.takeUp(Tool::lower);
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.radius = 10, s.strength = 8; });
    stage.settle();
    // Dug on the shore in the west: water comes in before the button is let go.
    const QPoint shore = stage.pixelOf(stage.x(40), stage.z(76));
    CHECK_FALSE(stage.level().water.at(40, 76).wet());
    stage.press(shore);
    CHECK(stage.waitFor([&] {
        stage.move(shore + QPoint(static_cast<int>(stage.steps() % 2), 0));
        stage.move(stage.pixelOf(stage.x(48), stage.z(76)));
        stage.move(shore);
        return stage.level().water.at(41, 76).wet();
    }));
    CHECK(stage.place.document.stroking());
    stage.release(shore);
    stage.settle();
    const Level after = stage.place.document.standing();
    Level anew = after;
    anew.water = TiledGrid<Wet>(anew.columns, anew.rows, {});
    refillWater(anew);
    CHECK(after.water == anew.water);
    CHECK(after.water.at(41, 76).wet());
    stage.place.document.undo();
    stage.settle();
    CHECK(stage.place.document.standing() == before);
}

TEST_CASE("silt and a beach follow a pool that rises") {
    WaterStage stage;
    Rule depth, shore;
    depth.kind = RuleKind::depth, depth.from = 0.05f, depth.to = 200, depth.fade = 0;
    shore.kind = RuleKind::shore, shore.from = 0, shore.to = 3, shore.fade = 0;
    stage.place.document.edit("rules", [&](Level& l) {
        l.layers[1].rules = {depth};
        l.layers[2].rules = {shore};
        wakeRules(l, l.layers[1].id, false);
        wakeRules(l, l.layers[2].id, false);
    });
    stage.settle();
    CHECK(weightsAt(stage.level(), 70, 76)[1] == 0);
    stage.click(68, 74);
    CHECK(weightsAt(stage.level(), 70, 76)[1] == 255);
    const int west = [&] {
        for (int c = 70; c > 30; --c)
            if (!stage.level().water.at(c, 76).wet()) return c;
        return 0;
    }();
    CHECK(weightsAt(stage.level(), west - 1, 76)[2] == 255);
    CHECK(weightsAt(stage.level(), west - 6, 76)[2] == 0);
    stage.set("waterHeight", 6);
    CHECK(weightsAt(stage.level(), west + 2, 76)[1] == 0);
    CHECK(weightsAt(stage.level(), west - 1, 76)[2] == 0);
    CHECK(weightsAt(stage.level(), 70, 76)[1] == 255);
}

TEST_CASE("a stream is drawn by one pull, lengthened, and never drawn uphill") {
    WaterStage stage;
    stage.click(68, 74);
    stage.push("drawStream");
    CHECK(stage.place.standpoint.streaming());
    const auto pull = [&](int c0, int r0, int c1, int r1) {
        stage.drag(stage.pixelOf(stage.x(c0), stage.z(r0)), stage.pixelOf(stage.x(c1), stage.z(r1)));
        stage.settle();
    };
    // Uphill is refused, and nothing is left of the try.
    const Level before = stage.place.document.standing();
    pull(150, 20, 20, 20);
    CHECK(stage.level() == before);
    stage.place.standpoint.setCourse(0);
    pull(20, 30, 62, 70);
    REQUIRE(stage.level().streams.size() == 1);
    const Stream& s = stage.level().streams[0];
    CHECK(stage.place.standpoint.water() == s.id);
    CHECK(stage.level().stratum(s.course)->course->use == CourseUse::carve);
    CHECK(waterAt(stage.level(), stage.x(30), stage.z(39)).body == s.id);
    CHECK(streamFigures(stage.level(), s).into == stage.level().pools[0].id);
    CHECK(stage.told() == "1 pool, 1 stream closed");
    stage.set("streamDepth", 0.6);
    CHECK(stage.level().streams[0].depth == 0.6f);
    stage.set("streamSunk", 1.5);
    CHECK(stage.level().stratum(stage.level().streams[0].course)->course->sunk == 1.5f);
    const auto bed = [&] { return *stage.level().stratum(stage.level().streams[0].course)->course; };
    const double wide = bed().posts[0].width;
    stage.set("streamWidth", 3 * wide);
    for (const Post& p : bed().posts) CHECK(p.width == Approx(3 * wide));
    // Esc ends the drawing, and so does another station.
    stage.key(Qt::Key_Escape);
    CHECK_FALSE(stage.place.standpoint.streaming());
    CHECK_FALSE(stage.find<QPushButton>("drawStream")->isChecked());
    stage.push("drawStream");
    CHECK(stage.place.standpoint.streaming());
    stage.key(Qt::Key_F3);
    stage.settle();
    CHECK_FALSE(stage.place.standpoint.streaming());
    CHECK_FALSE(stage.place.standpoint.coursing());
    stage.key(Qt::Key_F5);
    stage.settle();
    CHECK_FALSE(stage.find<QPushButton>("drawStream")->isChecked());
}

TEST_CASE("water moves only while it is asked to") {
    WaterStage stage;
    stage.click(68, 74);
    stage.settle();
    CHECK(stage.view().settled());
    const float still = stage.view().sight().waterTime;
    QTest::qWait(400);
    CHECK(stage.view().sight().waterTime == still);
    CHECK(stage.view().settled());
    stage.find<QPushButton>("flow")->click();
    CHECK(stage.waitFor([&] { return stage.view().sight().waterTime > still + 0.3f; }));
    stage.key(Qt::Key_F3);  // elsewhere it rests again
    stage.settle();
    const float stopped = stage.view().sight().waterTime;
    QTest::qWait(400);
    CHECK(stage.view().sight().waterTime == stopped);
}

TEST_CASE("the readout and the depth overlay know water") {
    WaterStage stage;
    stage.click(68, 74);
    stage.place.standpoint.setCursor(glm::dvec3(stage.x(70), 4, stage.z(76)));
    stage.settle();
    CHECK(stage.window.findChild<Readout*>()->text().contains(
        QString("water %1 m").arg(depthAt(stage.level(), stage.x(70), stage.z(76)), 0, 'f', 2)));
    const QImage plain = stage.picture();
    stage.find<QComboBox>("overlay")->setCurrentIndex(static_cast<int>(Overlay::depth));
    emit stage.find<QComboBox>("overlay")->activated(static_cast<int>(Overlay::depth));
    stage.settle();
    CHECK(stage.find<QLabel>("overlayNumbers")->text().contains("of depth"));
    const QPoint middle = stage.pixelOf(stage.x(70), stage.z(76));
    CHECK(stage.picture().pixel(middle) != plain.pixel(middle));
}
