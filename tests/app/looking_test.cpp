// Looking round: while the eye turns the picture is put together from what was seen before, and shows the level as it
// is at every moment.
#include <catch2/catch.hpp>
#include <cmath>

#include <QScreen>

#include "level/ground.h"
#include "levels.h"
#include "stage.h"

using namespace jam;
using namespace jam::test;

namespace {

// The ground as the screen shows it now, at rest or not.
QImage shownNow(Stage& stage) {
    QApplication::processEvents();
    const double ratio = stage.window.devicePixelRatioF();
    const QPoint at = stage.canvas()->mapTo(&stage.window, QPoint(0, 0));
    const QRectF part(at.x() * ratio, at.y() * ratio, stage.canvas()->width() * ratio,
                      stage.canvas()->height() * ratio);
    return QGuiApplication::primaryScreen()->grabWindow(0).toImage().copy(part.toRect());
}

int lightOf(QRgb c) { return (3 * qRed(c) + 5 * qGreen(c) + 2 * qBlue(c)) / 10; }

// How much two pictures differ, root mean square, in levels of brightness.
double apart(const QImage& a, const QImage& b) {
    REQUIRE(a.size() == b.size());
    double sum = 0;
    for (int y = 2; y < a.height() - 2; ++y)
        for (int x = 2; x < a.width() - 2; ++x) {
            const double d = lightOf(a.pixel(x, y)) - lightOf(b.pixel(x, y));
            sum += d * d;
        }
    return std::sqrt(sum / (a.width() * a.height()));
}

// A hand that has hold of the view and turns it.
struct Turning {
    Stage& stage;
    QPoint at{300, 200};
    explicit Turning(Stage& s) : stage(s) { stage.press(at, {}, Qt::RightButton); }
    ~Turning() { stage.release(at, Qt::RightButton); }
    void by(const QPoint& way, int steps = 6) {
        for (int i = 0; i < steps; ++i) {
            at += way;
            stage.move(at, Qt::RightButton);
            QApplication::processEvents();
        }
    }
};

Stage& looking(Stage& stage) {
    stage.place.standpoint.setStation("light");  // no mark of a brush
    Camera c = stage.view().camera();
    const Level& l = stage.place.document.level();
    c.at = {l.originX + 0.2 * l.width(), 0, l.originZ + 0.8 * l.depth()};
    c.at.y = altitudeAt(l, c.at.x, c.at.z) + 25;
    c.yaw = 40, c.pitch = -28;
    stage.view().setCamera(c);
    stage.settle();
    return stage;
}

}  // namespace

TEST_CASE("while the eye turns the picture stays sharp, and is where it comes to rest") {
    Stage stage(chequeredLevel(193, 161, 5, 5, 7));  // small fields, so that a blur or a shift is seen
    looking(stage);
    const QImage before = shownNow(stage);
    for (const QPoint way : {QPoint(9, 0), QPoint(-7, 3), QPoint(4, -9)}) {
        QImage moving;
        {
            Turning hand(stage);
            hand.by(way);
            moving = shownNow(stage);
        }
        stage.settle();
        const QImage rest = shownNow(stage);
        INFO(way.x() << ' ' << way.y() << ": " << apart(moving, rest) << " from rest, " << apart(before, rest)
                     << " moved");
        CHECK(apart(before, rest) > 25);
        CHECK(apart(moving, rest) < 9);
    }
}

TEST_CASE("a hand that holds the view still sees it become sharp") {
    Stage stage(chequeredLevel(193, 161, 5, 5, 7));
    looking(stage);
    QImage held;
    {
        Turning hand(stage);
        hand.by({8, 2});
        QTest::qWait(1500);
        held = shownNow(stage);
    }
    stage.settle();
    CHECK(held == shownNow(stage));
}

TEST_CASE("what changes while the eye turns is seen at once") {
    Stage stage(chequeredLevel(193, 161, 5, 5, 7));
    looking(stage);
    const auto changedBy = [&](auto change) {
        QImage before, changed, turned;
        {
            Turning hand(stage);
            hand.by({5, 1});
            before = shownNow(stage);
            change();
            QTest::qWait(700);  // the hand holds still
            changed = shownNow(stage);
            hand.by({3, 0});
            turned = shownNow(stage);
        }
        stage.settle();
        const QImage rest = shownNow(stage);
        INFO("changed by " << apart(before, changed) << ", then " << apart(turned, rest) << " from rest");
        CHECK(apart(before, changed) > 8);
        CHECK(apart(turned, rest) < 14);
    };
    SECTION("paint") {
        changedBy([&] {
            stage.place.document.edit("dark",
                                      [](Level& l) { l.layers[0].colour = plainLayer("night", 20, 20, 60).colour; });
        });
    }
    SECTION("an overlay") {
        changedBy([&] {
            Sight s = stage.view().sight();
            s.overlay = Overlay::steepness;
            stage.view().setSight(s);
        });
    }
    SECTION("flat light and back") {
        changedBy([&] { stage.view().setFlatLight(!stage.view().flatLight()); });
    }
    SECTION("undo") {
        stage.place.document.edit("dark",
                                  [](Level& l) { l.layers[0].colour = plainLayer("night", 20, 20, 60).colour; });
        stage.settle();
        changedBy([&] { stage.place.document.undo(); });
    }
    SECTION("ground") {
        changedBy([&] {
            stage.place.document.edit("hill", [](Level& l) {
                const Region all = l.bounds();
                Raster<float> old(l.columns, l.rows, 0.f), raised(l.columns, l.rows, 0.f);
                readGround(l, all, old.view());
                for (int z = 0; z < l.rows; ++z)
                    for (int x = 0; x < l.columns; ++x)
                        raised.at(x, z) = old.at(x, z) + 12 * std::sin(0.1f * static_cast<float>(x));
                writeGround(l, all, old.view(), raised.view());
            });
        });
    }
}
