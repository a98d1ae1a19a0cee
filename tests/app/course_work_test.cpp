// Courses through the real window: pulled, lengthened, moved, inserted, followed by ground and layers.
#include <catch2/catch.hpp>

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QToolButton>

#include "course/bake.h"
#include "cover/weights.h"
#include "level/ground.h"
#include "levels.h"
#include "looks/theme.h"
#include "panels/bench.h"
#include "panels/course_profile.h"
#include "panels/section.h"
#include "stage.h"
#include "stations/shape/strata_panel.h"

using namespace jam;
using namespace jam::test;

namespace {

// Ground that rises to the east: 0 m in the west, 24 m in the east.
Level rising() {
    Level level = flatLevel(161, 193, 4);
    level.highest = 300;
    for (int r = 0; r < level.rows; ++r)
        for (int c = 0; c < level.columns; ++c)
            level.strata[0].heights.set(c, r, 0.3f * static_cast<float>(std::clamp(c - 40, 0, 80)));
    return level;
}

struct CourseStage : Stage {
    CourseStage() : Stage(rising()) {
        place.toolbox.changeSettings([](StrokeSettings& s) { s.radius = 12; });
        settle();
        window.actions()["plan"]->trigger();
        find<QToolButton>("partCourses")->click();
        settle();
    }
    void set(const char* id, double value) {
        find<QWidget>(id)->findChild<QDoubleSpinBox*>()->setValue(value);
        settle();
    }
    const Level& level() { return place.document.level(); }
    float at(double x, double z) {
        return groundSample(level(), static_cast<int>(std::lround(level().toColumn(x))),
                            static_cast<int>(std::lround(level().toRow(z))));
    }
    const Course& course() { return *level().stratum(place.standpoint.course())->course; }
    size_t steps() { return place.document.history().place() + 1; }
    void pull(double x0, double z0, double x1, double z1, Qt::KeyboardModifiers keys = {}) {
        drag(pixelOf(x0, z0), pixelOf(x1, z1), keys);
        settle();
    }
    void click(double x, double z, Qt::KeyboardModifiers keys = {}) {
        press(pixelOf(x, z), keys);
        release(pixelOf(x, z));
        settle();
    }
};

}  // namespace

TEST_CASE("a ramp by one pull; other strokes; then its post is dragged and the ramp follows") {
    CourseStage stage;
    const Level before = stage.level();
    stage.pull(-40, 0, 60, 0);
    REQUIRE(stage.steps() == 2);
    REQUIRE(stage.level().strata.size() == 2);
    CHECK(stage.course().posts.size() == 2);
    // Even from foot to head: on this ground the ramp cuts and fills.
    const double head = 24;
    CHECK(stage.at(10, 0) == Approx(head / 2).margin(0.3));
    CHECK(stage.at(-20, 0) > 1);
    CHECK(stage.at(-20, 40) == groundSample(before, 60, 136));
    CHECK(stage.find<QLabel>("courseFigures")->text().contains("100"));

    // Strokes elsewhere, and beside it.
    stage.key(Qt::Key_1);
    CHECK_FALSE(stage.place.standpoint.coursing());
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.radius = 12, s.strength = 20; });
    stage.press(stage.pixelOf(-50, 50));
    QTest::qWait(250);
    stage.release(stage.pixelOf(-50, 50));
    const float sculpted = stage.at(-50, 50);
    // On the course itself nothing is piled up under it, and it says why.
    const float owned = stage.at(10, 0);
    stage.drag(stage.pixelOf(10, 0), stage.pixelOf(12, 0));
    CHECK(stage.at(10, 0) == owned);
    CHECK(stage.window.lastMessage().contains("owns the ground"));
    stage.place.document.undo();
    REQUIRE(sculpted > 0.5);

    // A week later: the head is dragged to the south.
    stage.find<QToolButton>("partCourses")->click();
    stage.settle();
    stage.click(10, 0);  // chooses it by its line
    CHECK(stage.course().posts.size() == 2);
    const size_t steps = stage.steps();
    stage.press(stage.pixelOf(60, 0));
    stage.move(stage.pixelOf(60, 30));
    // The ground follows the hand already, and nothing is a step yet.
    CHECK(stage.place.document.previewing());
    CHECK(stage.at(10, 15) == Approx(head / 2).margin(1));
    stage.move(stage.pixelOf(60, 60));
    stage.release(stage.pixelOf(60, 60));
    stage.settle();
    CHECK(stage.steps() == steps + 1);
    CHECK_FALSE(stage.place.document.previewing());
    CHECK(stage.at(10, 30) == Approx(head / 2).margin(0.3));
    CHECK(stage.at(40, -5) == Approx(groundSample(before, 120, 91)).margin(1e-3));  // where it lay before
    CHECK(stage.at(-50, 50) == sculpted);
    // Esc in the middle takes it back.
    stage.press(stage.pixelOf(60, 60));
    stage.move(stage.pixelOf(30, -60));
    stage.key(Qt::Key_Escape);
    stage.release(stage.pixelOf(30, -60));
    stage.settle();
    CHECK(stage.steps() == steps + 1);
    CHECK(stage.at(10, 30) == Approx(head / 2).margin(0.3));
    // In the list of strata it is dimmed, not beyond all of it, and protected; brushes keep their stratum.
    stage.find<QToolButton>("partStrata")->click();
    auto* list = stage.find<StrataList>("strata");
    QTest::mouseClick(list, Qt::LeftButton, {}, list->entry(1).center());
    CHECK(list->chosen() == stage.level().strata[1].id);
    CHECK(stage.level().activeStratum == stage.level().strata[0].id);
    stage.set("stratumOpacity", 50);
    CHECK(stage.at(10, 30) == Approx((head / 2 + groundSample(before, 90, 126)) / 2).margin(0.3));
    stage.set("stratumOpacity", 180);
    CHECK(stage.level().strata[1].opacity == 1);
    stage.find<QToolButton>("protectStratum")->click();
    stage.find<QToolButton>("removeStratum")->click();
    CHECK(stage.level().strata.size() == 2);
    stage.find<QToolButton>("protectStratum")->click();
    stage.find<QToolButton>("partCourses")->click();
    stage.settle();
    // Deleted, the ground under it is back bit for bit.
    stage.find<QToolButton>("removeCourse")->click();
    stage.settle();
    CHECK(stage.level().strata.size() == 1);
    CHECK(stage.at(10, 30) == groundSample(before, 90, 126));
}

TEST_CASE("clicks lengthen a course, Ctrl puts a post into its line, and posts are deleted") {
    CourseStage stage;
    stage.pull(-60, -40, 0, -40);
    stage.click(0, 10);
    REQUIRE(stage.course().posts.size() == 3);
    CHECK(stage.place.standpoint.post() == 2);
    stage.click(-75, -40);  // nearer to the first
    REQUIRE(stage.course().posts.size() == 4);
    CHECK(stage.course().posts.front().x < -70);
    stage.find<QCheckBox>("courseSmooth")->click();
    CHECK_FALSE(stage.course().smooth);
    stage.pull(0, -15, 20, -15, Qt::ControlModifier);
    REQUIRE(stage.course().posts.size() == 5);
    CHECK(stage.course().posts[3].x == Approx(20).margin(1.5));
    stage.find<QToolButton>("insertPost")->click();
    CHECK(stage.course().posts.size() == 6);
    stage.find<QToolButton>("removePost")->click();
    stage.find<QToolButton>("removePost")->click();
    CHECK(stage.course().posts.size() == 4);
    stage.find<QCheckBox>("courseClosed")->click();
    CHECK(stage.course().closed);
    // A second one.
    stage.find<QToolButton>("newCourse")->click();
    stage.pull(-60, 60, 60, 60);
    CHECK(stage.level().strata.size() == 3);
    CHECK(stage.course().posts.size() == 2);
    for (size_t i = stage.steps() - 1; i > 0; --i) stage.place.document.undo();
    CHECK(stage.level().strata.size() == 1);
    stage.settle();
    stage.pull(-30, 0, 30, 0);  // what was chosen is gone; another begins
    CHECK(stage.level().strata.size() == 2);
    // Too short is none.
    stage.find<QToolButton>("newCourse")->click();
    stage.click(-60, 60);
    CHECK(stage.level().strata.size() == 2);
    CHECK(stage.window.lastMessage().contains("pull to its head"));
}

TEST_CASE("posts have height, width, shoulders and banking, in the sheet and along the course's profile") {
    CourseStage stage;
    stage.pull(-40, 0, 60, 0);
    stage.set("postHeight", 40);
    CHECK(stage.course().posts[1].height == 40);
    CHECK_FALSE(stage.course().posts[0].height);
    CHECK(stage.at(10, 0) == Approx(20).margin(0.3));
    stage.set("postWidth", 20);
    CHECK(stage.course().posts[0].width == 20);  // all alike
    CHECK(stage.at(10, 9) == Approx(20).margin(0.4));
    stage.find<QCheckBox>("postsAlike")->click();
    stage.set("postWidth", 4);
    CHECK(stage.course().posts[0].width == 20);
    CHECK(stage.course().posts[1].width == 4);
    stage.find<QCheckBox>("postsAlike")->click();
    stage.set("postWidth", 12);
    stage.set("postBanking", 20);
    CHECK(stage.at(10, 4) - stage.at(10, -4) == Approx(8 * std::tan(20 / 57.29578)).margin(0.1));
    stage.set("postBanking", 0);

    Bench& bench = *stage.window.findChild<Bench*>();
    REQUIRE(bench.profile()->isVisible());
    const auto drag = [&](int post, int up) {
        const QPoint from = bench.profile()->postAt(post).toPoint();
        QTest::mousePress(bench.profile(), Qt::LeftButton, {}, from);
        QTest::mouseMove(bench.profile(), from - QPoint(0, up / 2));
        QTest::mouseMove(bench.profile(), from - QPoint(0, up));
        QTest::mouseRelease(bench.profile(), Qt::LeftButton, {}, from - QPoint(0, up));
        stage.settle();
    };
    const size_t steps = stage.steps();
    drag(1, -30);
    CHECK(stage.steps() == steps + 1);
    REQUIRE(stage.course().posts[1].height);
    CHECK(*stage.course().posts[1].height < 35);
    CHECK(stage.at(10, 0) == Approx(*stage.course().posts[1].height / 2).margin(0.3));
    stage.find<QCheckBox>("postFree")->click();
    CHECK_FALSE(stage.course().posts[1].height);
    CHECK(stage.at(10, 0) == Approx(12).margin(0.3));
    // Alt on the ground lifts it.
    stage.drag(stage.pixelOf(60, 0), stage.pixelOf(60, 0) - QPoint(0, 40), Qt::AltModifier);
    stage.settle();
    REQUIRE(stage.course().posts[1].height);
    stage.key(Qt::Key_1);
    CHECK_FALSE(bench.profile()->isVisible());
    CHECK(bench.section()->isVisible());
}

TEST_CASE("a course lays layers of its own, carves and banks") {
    CourseStage stage;
    stage.pull(-40, 0, 60, 0);
    const uint32_t track = stage.level().layers[2].id;
    auto* box = stage.find<QComboBox>("courseTrack");
    box->setCurrentIndex(box->findData(track));
    emit box->activated(box->currentIndex());
    REQUIRE(stage.waitFor([&] { return stage.course().track == track; }));
    stage.settle();
    const auto share = [&](double x, double z) { return mixAt(stage.level(), x, z)[2]; };
    CHECK(share(10, 0) > 0.95);
    CHECK(share(10, 30) < 0.05);
    stage.pull(60, 0, 60, 60);
    REQUIRE(stage.waitFor([&] { return !stage.place.document.catchingUp(); }));
    CHECK(share(10, 30) > 0.95);
    CHECK(share(10, 0) < 0.05);
    auto* use = stage.find<QComboBox>("courseUse");
    const auto choose = [&](CourseUse u) {
        use->setCurrentIndex(static_cast<int>(u));
        emit use->activated(use->currentIndex());
        stage.settle();
    };
    choose(CourseUse::bank);
    CHECK(stage.course().posts[0].height == 2);
    CHECK(stage.at(10, 30) == Approx(0.3 * 50 + 2).margin(0.3));
    choose(CourseUse::carve);
    // From its foot in the west it would have to run uphill, which is said.
    CHECK(stage.window.lastMessage().contains("uphill"));
    CHECK(stage.at(30, 42) == Approx(0).margin(0.3));
}

TEST_CASE("knobs beside the chosen post pull its width and shoulders, or those of all posts") {
    CourseStage stage;
    stage.pull(-40, 0, 60, 0);
    stage.click(-40, 0);
    REQUIRE(stage.place.standpoint.post() == 0);
    stage.set("postWidth", 20);
    stage.set("postShoulder", 9);
    stage.find<QCheckBox>("postsAlike")->setChecked(false);
    const Course made = stage.course();
    const double half = static_cast<double>(made.posts[0].width) / 2, rim = static_cast<double>(made.posts[0].shoulder);
    const size_t steps = stage.steps();
    const float beside = stage.at(-30, half + rim + 4);
    // Pulled out by 5 m: as much wider on either side. The ground follows while it is pulled.
    stage.press(stage.pixelOf(-40, half));
    stage.move(stage.pixelOf(-40, half + 3));
    stage.move(stage.pixelOf(-40, half + 5));
    CHECK(stage.place.document.previewing());
    CHECK(stage.at(-30, half + rim + 4) != beside);
    stage.release(stage.pixelOf(-40, half + 5));
    stage.settle();
    CHECK(stage.steps() == steps + 1);
    CHECK(stage.course().posts[0].width == Approx(2 * half + 10).margin(1));
    CHECK(stage.course().posts[0].shoulder == made.posts[0].shoulder);
    CHECK(stage.course().posts[1] == made.posts[1]);
    CHECK(stage.course().posts[0].x == made.posts[0].x);

    // The shoulder on the other side, of all posts.
    const double wide = static_cast<double>(stage.course().posts[0].width) / 2;
    const Course widened = stage.course();
    stage.pull(-40, -wide - rim, -40, -wide - rim - 6, Qt::ShiftModifier);
    CHECK(stage.steps() == steps + 2);
    CHECK(stage.course().posts[0].shoulder == Approx(rim + 6).margin(1));
    CHECK(stage.course().posts[1].shoulder == stage.course().posts[0].shoulder);
    CHECK(stage.course().posts[0].width == widened.posts[0].width);

    // All of them while they are alike, but for Shift.
    stage.find<QCheckBox>("postsAlike")->setChecked(true);
    stage.pull(-40, wide, -40, wide + 3);
    CHECK(stage.course().posts[1].width == stage.course().posts[0].width);
    stage.place.document.undo();
    stage.pull(-40, wide, -40, wide + 3, Qt::ShiftModifier);
    CHECK(stage.course().posts[1].width == widened.posts[1].width);
    stage.place.document.undo();

    // Nothing can be pulled to nothing; Esc takes it back.
    stage.pull(-40, wide, -40, 0);
    CHECK(stage.course().posts[0].width == Approx(kMinCourseWidth).margin(1));
    stage.place.document.undo();
    stage.press(stage.pixelOf(-40, wide));
    stage.move(stage.pixelOf(-40, wide + 8));
    stage.key(Qt::Key_Escape);
    stage.release(stage.pixelOf(-40, wide + 8));
    stage.settle();
    CHECK(stage.steps() == steps + 2);
    CHECK_FALSE(stage.place.document.previewing());
    CHECK(stage.course().posts[0].width == widened.posts[0].width);
}

TEST_CASE("marks that are kept over the picture are those that would be painted now") {
    CourseStage stage;
    stage.pull(-40, 0, 60, 0);
    const auto seen = [&] {
        stage.settle();
        QApplication::processEvents();
        return stage.screen().copy(stage.view().geometry());
    };
    const auto check = [&](const char* after) {
        INFO(after);
        seen();
        stage.view().marks().repaint();
        const QImage kept = seen();
        // Another camera and back, and none is kept.
        const Camera here = stage.view().camera();
        Camera there = here;
        there.yaw += 1;
        stage.view().setCamera(there);
        stage.settle();
        stage.view().setCamera(here);
        const QImage anew = seen();
        int differ = 0;
        for (int y = 0; y < kept.height(); ++y)
            for (int x = 0; x < kept.width(); ++x) {
                const QColor a = kept.pixelColor(x, y), b = anew.pixelColor(x, y);
                differ +=
                    std::abs(a.red() - b.red()) + std::abs(a.green() - b.green()) + std::abs(a.blue() - b.blue()) > 12;
            }
        CHECK(differ == 0);
    };
    check("a course");
    stage.click(-40, 0);
    check("another post");
    stage.set("postWidth", 20);
    check("a width");
    stage.pull(60, 0, 60, 40);
    check("a post that moved");
    stage.place.document.undo();
    check("undoing");
    stage.place.document.edit("a wall", [](Level& l) {
        for (int c = 0; c < l.columns; ++c) l.strata[0].heights.set(c, 60, 90);
    });
    check("other ground");
    stage.window.actions()["contours"]->trigger();
    check("contours");
    stage.view().marks().set("test", {{{{0, 30, 0}}, GroundMark::Kind::place, "here"}});
    check("a mark");
    stage.view().marks().set("test", {});
    check("no mark");
    applyTheme(ThemeChoice::light);
    check("the light theme");
    applyTheme(ThemeChoice::dark);
}
