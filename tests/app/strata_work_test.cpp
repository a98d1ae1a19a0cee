// Strata in the sheet: the list, its buttons, what they do to the ground that is seen.
#include <catch2/catch.hpp>

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QInputDialog>
#include <QToolButton>

#include "level/ground.h"
#include "levels.h"
#include "panels/readout.h"
#include "stage.h"
#include "stations/shape/strata_panel.h"
#include "stations/shape/whole_panel.h"

using namespace jam;
using namespace jam::test;

namespace {

struct StrataStage : Stage {
    StrataStage() : Stage(flatLevel(129, 257, 3)) {
        button("partStrata")->click();
        settle();
    }
    QToolButton* button(const char* id) { return window.findChild<QToolButton*>(id); }
    StrataList& list() { return *window.findChild<StrataList*>(); }
    const Level& level() { return place.document.level(); }
    double middle() { return altitudeAt(level(), 0, 0); }
    void mound() {
        StrokeSettings s = usualSettings(Tool::raise);
        s.radius = 30;
        place.toolbox.changeSettings([&](StrokeSettings& now) { now = s; });
        const QPoint at = pixelOf(0, 0);
        press(at);
        QTest::qWait(300);
        release(at);
        settle();
    }
};

}  // namespace

TEST_CASE("strokes go to the chosen stratum, which can be dimmed, hidden and deleted with what it adds") {
    StrataStage stage;
    stage.mound();
    const double ground = stage.middle();
    REQUIRE(ground > 0.5);
    stage.button("addStratum")->click();
    REQUIRE(stage.level().strata.size() == 2);
    CHECK(stage.level().activeStratum == stage.level().strata[1].id);
    stage.mound();
    const double both = stage.middle(), upper = both - ground;
    REQUIRE(upper > 0.5);
    CHECK(groundParts(stage.level(), 64, 128)[1] == Approx(upper).margin(0.01));

    // Half of it, by the field: one step, however often it is turned.
    const size_t steps = stage.place.document.history().entries().size();
    auto* opacity = stage.window.findChild<QWidget*>("stratumOpacity")->findChild<QDoubleSpinBox*>();
    opacity->setValue(120);
    opacity->setValue(50);
    CHECK(stage.middle() == Approx(ground + upper / 2).margin(0.01));
    CHECK(stage.place.document.history().entries().size() == steps + 1);

    const QImage seen = stage.picture();
    QTest::mouseClick(&stage.list(), Qt::LeftButton, {}, stage.list().eye(1).center());
    stage.settle();
    CHECK(stage.middle() == Approx(ground).margin(0.001));
    CHECK(stage.picture() != seen);
    // Nothing can be shaped in what does not show, and it says so.
    const QPoint at = stage.pixelOf(0, 0);
    stage.drag(at, at + QPoint(10, 0));
    CHECK(stage.middle() == Approx(ground).margin(0.001));
    CHECK(stage.window.lastMessage().contains("does not show"));
    // Space on the list is the eye.
    stage.list().setFocus();
    QTest::keyClick(&stage.list(), Qt::Key_Space);
    CHECK(stage.middle() == Approx(ground + upper / 2).margin(0.01));

    stage.button("protectStratum")->click();
    stage.button("removeStratum")->click();
    CHECK(stage.level().strata.size() == 2);
    CHECK(stage.window.lastMessage().contains("protected"));
    stage.button("protectStratum")->click();
    stage.button("removeStratum")->click();
    CHECK(stage.level().strata.size() == 1);
    CHECK(stage.middle() == Approx(ground).margin(0.001));
    stage.button("removeStratum")->click();
    CHECK(stage.window.lastMessage().contains("only stratum"));
    for (size_t i = stage.place.document.history().place(); i > 0; --i) stage.place.document.undo();
    CHECK(stage.level() == flatLevel(129, 257, 3));
}

TEST_CASE("strata are chosen and reordered by hand, and choosing is no step") {
    StrataStage stage;
    stage.button("addStratum")->click();
    stage.button("addStratum")->click();
    const uint32_t a = stage.level().strata[0].id, b = stage.level().strata[1].id, c = stage.level().strata[2].id;
    CHECK(stage.list().chosen() == c);
    const size_t steps = stage.place.document.history().entries().size();
    QTest::mouseClick(&stage.list(), Qt::LeftButton, {}, stage.list().entry(0).center());
    CHECK(stage.list().chosen() == a);
    QTest::keyClick(&stage.list(), Qt::Key_Up);
    CHECK(stage.list().chosen() == b);
    CHECK(stage.place.document.standing().activeStratum == b);
    CHECK(stage.place.document.history().entries().size() == steps);
    // The lowest one to the top.
    const auto drag = [&](int from, const QPoint& to) {
        const QPoint start = stage.list().entry(from).center();
        QTest::mousePress(&stage.list(), Qt::LeftButton, {}, start);
        QTest::mouseMove(&stage.list(), (start + to) / 2);
        QTest::mouseMove(&stage.list(), to);
        QTest::mouseRelease(&stage.list(), Qt::LeftButton, {}, to);
    };
    drag(0, stage.list().entry(2).topLeft() + QPoint(40, 2));
    CHECK(stage.level().strata[2].id == a);
    CHECK(stage.level().strata[1].id == c);
    CHECK(stage.level().strata[0].id == b);
    drag(1, stage.list().entry(0).bottomLeft() + QPoint(40, -2));
    CHECK(stage.level().strata[0].id == c);
    // Undo keeps what is chosen where it is still there.
    CHECK(stage.list().chosen() == c);
    stage.place.document.undo();
    CHECK(stage.list().chosen() == c);
    CHECK(stage.level().strata[0].id == b);
    stage.answer([](QWidget* w) {
        auto* ask = qobject_cast<QInputDialog*>(w);
        REQUIRE(ask);
        ask->setTextValue("Gullies");
        ask->accept();
    });
    QTest::mouseDClick(&stage.list(), Qt::LeftButton, {}, stage.list().entry(2).center());
    CHECK(stage.level().strata[2].name == "Gullies");
}

TEST_CASE("strata are merged and copied, and the last step is moved to another") {
    StrataStage stage;
    stage.mound();
    stage.button("addStratum")->click();
    stage.mound();
    const double both = stage.middle();
    // It was meant for the lower one.
    QTest::mouseClick(&stage.list(), Qt::LeftButton, {}, stage.list().entry(0).center());
    stage.button("takeStep")->click();
    CHECK(stage.middle() == Approx(both).margin(0.001));
    CHECK(groundParts(stage.level(), 64, 128)[1] == 0);
    stage.place.document.undo();
    CHECK(groundParts(stage.level(), 64, 128)[1] > 0.5);

    QTest::mouseClick(&stage.list(), Qt::LeftButton, {}, stage.list().entry(1).center());
    stage.button("duplicateStratum")->click();
    REQUIRE(stage.level().strata.size() == 3);
    CHECK(stage.middle() == Approx(both).margin(0.001));
    CHECK_FALSE(stage.level().strata[2].visible);
    stage.button("mergeStratum")->click();
    REQUIRE(stage.level().strata.size() == 2);
    CHECK(stage.middle() == Approx(both).margin(0.001));
    CHECK(groundParts(stage.level(), 64, 128)[0] == Approx(both).margin(0.001));
}

TEST_CASE("work on the whole ground becomes a stratum of its own when that is wished") {
    StrataStage stage;
    stage.mound();
    const double before = stage.middle();
    stage.key(Qt::Key_H);
    auto* panel = stage.window.findChild<WholePanel*>();
    panel->choose(static_cast<int>(WholeKind::raise));
    panel->findChild<QAbstractButton*>("wholeApart")->click();
    REQUIRE(stage.waitFor([&] { return !panel->busy() && stage.place.document.previewing(); }));
    panel->findChild<QAbstractButton*>("wholeApply")->click();
    REQUIRE(stage.waitFor([&] { return !stage.place.document.previewing(); }));
    REQUIRE(stage.level().strata.size() == 2);
    CHECK(stage.middle() == Approx(before + 10));
    stage.place.document.edit("Dim", [](Level& l) { l.strata[1].opacity = 0.3f; });
    CHECK(stage.middle() == Approx(before + 3));
    CHECK(stage.level().strata[1].name == "Raise or lower all");
}
