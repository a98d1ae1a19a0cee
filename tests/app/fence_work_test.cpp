// Fences through the real window: drawn, found, changed, kept, worked inside, dropped and brought back.
#include <catch2/catch.hpp>

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QInputDialog>
#include <QPushButton>
#include <QToolButton>

#include "fence/fence.h"
#include "level/ground.h"
#include "levels.h"
#include "panels/fence_panel.h"
#include "stage.h"

using namespace jam;
using namespace jam::test;

namespace {

struct FenceStage : Stage {
    FenceStage(Level level = flatLevel(129, 193, 3)) : Stage(std::move(level)) {
        settle();
        find<QToolButton>("partFence")->click();
    }
    void click(const char* id) {
        find<QAbstractButton>(id)->click();
        REQUIRE(waitFor([&] { return !window.work().running(); }));
        settle();
    }
    void set(const char* id, double value) { find<QWidget>(id)->findChild<QDoubleSpinBox*>()->setValue(value); }
    const Level& level() { return place.document.level(); }
    float at(double x, double z) {
        return groundSample(level(), static_cast<int>(std::lround(level().toColumn(x))),
                            static_cast<int>(std::lround(level().toRow(z))));
    }
    bool inside(double x, double z) {
        return level().fenced && level().fence.at(static_cast<int>(std::lround(level().toColumn(x))),
                                                  static_cast<int>(std::lround(level().toRow(z)))) > kInside / 2;
    }
    size_t steps() { return place.document.history().entries().size(); }
};

}  // namespace

TEST_CASE("a walled yard: a rectangle, raised, shrunk and lowered again") {
    FenceStage stage;
    stage.window.actions()["plan"]->trigger();
    stage.settle();
    stage.click("fenceRectangle");
    const size_t before = stage.steps();
    stage.drag(stage.pixelOf(-30, -20), stage.pixelOf(20, 35));
    stage.settle();
    REQUIRE(stage.steps() == before + 1);
    CHECK(stage.inside(-28, -18));
    CHECK(stage.inside(18, 33));
    CHECK_FALSE(stage.inside(24, 0));
    CHECK_FALSE(stage.inside(0, 40));
    stage.set("fenceBy", 5);
    stage.set("fenceMetres", 4);
    stage.click("fenceRaise");
    stage.click("fenceShrink");
    stage.click("fenceLower");
    CHECK(stage.steps() == before + 4);  // four actions, no more
    CHECK(stage.at(0, 0) == 0);
    CHECK(stage.at(-28, 0) == 5);
    CHECK(stage.at(18, 0) == 5);
    CHECK(stage.at(0, 33) == 5);
    CHECK(stage.at(-40, 0) == 0);
}

TEST_CASE("brushes keep to the fence, on the ground and in the cover; F drops it and brings it back") {
    FenceStage stage;
    stage.window.actions()["plan"]->trigger();
    stage.click("fenceLasso");
    stage.press(stage.pixelOf(-30, -30));
    for (const auto& [x, z] : {std::pair{0, -30}, {0, 30}, {-30, 30}}) stage.move(stage.pixelOf(x, z));
    stage.release(stage.pixelOf(-30, 30));
    stage.settle();
    REQUIRE(stage.inside(-15, 0));
    CHECK_FALSE(stage.inside(15, 0));
    // The brush is taken up again by its key, and works across the edge.
    stage.key(Qt::Key_1);
    CHECK(stage.place.standpoint.fenceWay() == FenceWay::none);
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.radius = 20; });
    stage.drag(stage.pixelOf(-8, 0), stage.pixelOf(8, 0));
    CHECK(stage.at(-6, 0) > 0.1);
    CHECK(stage.at(6, 0) == 0);
    stage.key(Qt::Key_F);
    CHECK_FALSE(stage.level().fenced);
    stage.drag(stage.pixelOf(-8, 0), stage.pixelOf(8, 0));
    CHECK(stage.at(6, 0) > 0.1);
    stage.key(Qt::Key_F);
    REQUIRE(stage.level().fenced);
    stage.key(Qt::Key_F4);
    const uint32_t layer = stage.level().layers[1].id;
    stage.place.standpoint.setLayer(layer);
    stage.drag(stage.pixelOf(-8, 0), stage.pixelOf(8, 0));
    const auto cover = [&](double x, double z) {
        return stage.level().layer(layer)->coverage.at(static_cast<int>(std::lround(stage.level().toColumn(x))),
                                                       static_cast<int>(std::lround(stage.level().toRow(z))));
    };
    CHECK(cover(-6, 0) > 1000);
    CHECK(cover(6, 0) == 0);
    // Fill keeps to it as well; the panel is there at Cover too.
    stage.find<QToolButton>("partFence")->click();
    stage.place.standpoint.setLayer(layer);
    stage.click("fenceFill");
    CHECK(cover(-25, 20) == kFullCover);
    CHECK(cover(25, 20) == 0);
    stage.place.document.undo();
    CHECK(cover(-25, 20) == 0);
}

TEST_CASE("fences are drawn by brush, by a line of clicks and round connected ground, added and taken away") {
    FenceStage stage;
    stage.window.actions()["plan"]->trigger();
    stage.settle();
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.radius = 6, s.falloff.softness = 0; });
    stage.click("fenceLine");
    stage.press(stage.pixelOf(-40, 0));
    stage.release(stage.pixelOf(-40, 0));
    stage.press(stage.pixelOf(0, 0));
    stage.release(stage.pixelOf(0, 0));
    stage.press(stage.pixelOf(0, 40));
    stage.release(stage.pixelOf(0, 40));
    stage.key(Qt::Key_Return);
    stage.settle();
    REQUIRE(stage.inside(-20, 0));
    CHECK(stage.inside(0, 20));
    CHECK_FALSE(stage.inside(-20, 9));
    CHECK_FALSE(stage.inside(20, 0));
    // Shift adds, Ctrl takes away.
    stage.click("fenceBrush");
    stage.drag(stage.pixelOf(15, 0), stage.pixelOf(30, 0), Qt::ShiftModifier);
    CHECK(stage.inside(25, 0));
    CHECK(stage.inside(-20, 0));
    stage.drag(stage.pixelOf(-20, -1), stage.pixelOf(-10, 1), Qt::ControlModifier);
    CHECK_FALSE(stage.inside(-15, 0));
    CHECK(stage.inside(-35, 0));
    const size_t steps = stage.steps();
    // Taking everything away is refused, in words, and nothing changes.
    stage.place.standpoint.setFenceJoin(FenceJoin::meet);
    stage.drag(stage.pixelOf(40, 60), stage.pixelOf(45, 60));
    CHECK(stage.steps() == steps);
    CHECK(stage.window.lastMessage().contains("Nothing would lie inside"));
    // Esc in the middle draws nothing.
    stage.place.standpoint.setFenceJoin(FenceJoin::replace);
    stage.click("fenceRectangle");
    stage.press(stage.pixelOf(-10, -10));
    stage.move(stage.pixelOf(10, 10));
    stage.key(Qt::Key_Escape);
    stage.release(stage.pixelOf(10, 10));
    CHECK(stage.steps() == steps);
    stage.click("fenceConnected");
    stage.press(stage.pixelOf(40, 60));
    stage.release(stage.pixelOf(40, 60));
    CHECK(stage.inside(-60, -80));  // one layer covers everything
}

TEST_CASE("on a large level what takes long to fence is worked out beside the window") {
    FenceStage stage(flatLevel(2200, 1900, 2));
    stage.window.actions()["plan"]->trigger();
    stage.settle();
    stage.click("fenceConnected");
    const size_t before = stage.steps();
    stage.press(stage.pixelOf(40, 60));
    stage.release(stage.pixelOf(40, 60));
    CHECK(stage.window.work().running());
    CHECK(stage.steps() == before);
    REQUIRE(stage.waitFor([&] { return !stage.window.work().running(); }));
    CHECK(stage.steps() == before + 1);
    CHECK(stage.inside(-1000, 900));
    // What is small is there at once.
    stage.click("fenceRectangle");
    stage.drag(stage.pixelOf(-300, -200), stage.pixelOf(200, 300));
    CHECK_FALSE(stage.window.work().running());
    CHECK(stage.inside(0, 0));
    CHECK_FALSE(stage.inside(-1000, 900));
    // Dropped in the middle, it leaves everything as it was.
    const size_t then = stage.steps();
    stage.drag(stage.pixelOf(-1090, -940), stage.pixelOf(1090, 940));
    REQUIRE(stage.window.work().running());
    stage.window.work().cancel();
    REQUIRE(stage.waitFor([&] { return !stage.window.work().running(); }));
    if (stage.steps() == then) CHECK(stage.window.lastMessage().contains("cancelled"));
    else CHECK(stage.inside(-1000, 900));  // it was done before it could be
}

TEST_CASE("fences are found by what lies there, changed, kept and recalled") {
    FenceStage stage;
    stage.place.document.edit("Slope", [](Level& l) {
        for (int r = 0; r < l.rows; ++r)
            for (int c = 0; c < l.columns; ++c)
                l.strata[0].heights.set(c, r, c > 80 ? 1.2f * static_cast<float>(c - 80) : 0.f);
    });
    stage.set("fenceFrom", 30);
    stage.set("fenceFade", 0);
    stage.click("fenceFind");
    REQUIRE(stage.inside(40, 0));
    CHECK_FALSE(stage.inside(-20, 0));
    stage.answer([](QWidget* w) {
        auto* ask = qobject_cast<QInputDialog*>(w);
        REQUIRE(ask);
        ask->setTextValue("steep");
        ask->accept();
    });
    stage.find<QToolButton>("keepFence")->click();
    REQUIRE(stage.level().fences.size() == 1);
    stage.click("fenceInvert");
    CHECK(stage.inside(-20, 0));
    CHECK_FALSE(stage.inside(40, 0));
    // A range that holds nothing is refused and the fence stays.
    stage.set("fenceFrom", 80);
    stage.set("fenceTo", 85);
    stage.answer([](QWidget* w) { QTest::keyClick(w, Qt::Key_Escape); });
    stage.click("fenceFind");
    CHECK(stage.inside(-20, 0));
    stage.click("recallFence");
    CHECK(stage.inside(40, 0));
    stage.click("fenceFlatHeight");
    CHECK(stage.at(40, 0) == 0);
    stage.find<QToolButton>("forgetFence")->click();
    CHECK(stage.level().fences.empty());
}

TEST_CASE("the fence is seen on the ground: its edge moves, and the hatching can be turned off") {
    FenceStage stage;
    stage.window.actions()["plan"]->trigger();
    stage.settle();
    const QImage bare = stage.picture();
    stage.place.document.edit("Fence", [](Level& l) {
        joinFence(l, insidePolygon(l, {{-20, -30}, {25, -30}, {25, 30}, {-20, 30}}), FenceJoin::replace);
    });
    stage.settle();
    const QImage hatched = stage.picture();
    CHECK(hatched != bare);
    const auto edge = [&] {
        const QPoint at = stage.view().mapTo(&stage.window, stage.pixelOf(0, -30.5));
        return stage.screen().copy(QRect(at - QPoint(30, 4), QSize(60, 8)));
    };
    QTest::qWait(300);
    const QImage now = edge();
    QTest::qWait(300);
    CHECK(edge() != now);
    CHECK(stage.picture() == hatched);  // and nothing else was drawn for it
    stage.find<QCheckBox>("fenceTint")->click();
    stage.settle();
    CHECK(stage.picture() == bare);
    stage.find<QCheckBox>("fenceTint")->click();
    stage.settle();
    stage.key(Qt::Key_F);
    stage.settle();
    CHECK(stage.picture() == bare);
}
