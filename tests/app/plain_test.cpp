// Plain to see: what a newcomer meets, driven through the real window; also run at two device pixels to a pixel.
#include <catch2/catch.hpp>

#include <cmath>
#include <QAbstractItemView>
#include <QAbstractSpinBox>
#include <QLabel>
#include <QListWidget>
#include <QScrollArea>

#include "level/ground.h"
#include "levels.h"
#include "looks/theme.h"
#include "panels/bench.h"
#include "panels/brush_shelf.h"
#include "panels/first_minute.h"
#include "panels/readout.h"
#include "panels/section.h"
#include "panels/sheet.h"
#include "panels/trail.h"
#include "stage.h"
#include "stations/cover/layer_strip.h"
#include "stations/lay_out/layout_dialog.h"

using namespace jam;
using namespace jam::test;

namespace {

int lightOf(QRgb c) { return (3 * qRed(c) + 5 * qGreen(c) + 2 * qBlue(c)) / 10; }

// How much brightness differs over a square of the picture around a place on the ground.
double unrest(const QImage& picture, const QPointF& middle, double ratio, int reach) {
    int least = 255, most = 0;
    for (int y = -reach; y <= reach; ++y)
        for (int x = -reach; x <= reach; ++x) {
            const QPoint p = (middle * ratio).toPoint() + QPoint(x, y);
            if (!picture.rect().contains(p)) continue;
            const int l = lightOf(picture.pixel(p));
            least = std::min(least, l), most = std::max(most, l);
        }
    return most - least;
}

// Even ground with a bump of a metre over twenty, and a pit of ten over ninety.
Level bumped() {
    Level level = flatLevel(257, 257, 3);
    Raster<float> flat(257, 257, 0.f), ground(257, 257, 0.f);
    const auto form = [&](double x, double z, double radius, double height) {
        for (int r = 0; r < 257; ++r)
            for (int c = 0; c < 257; ++c) {
                const double d = std::hypot(c - 128 - x, r - 128 - z) / radius;
                if (d < 1) ground.at(c, r) += static_cast<float>(height * 0.5 * (1 + std::cos(d * 3.14159265)));
            }
    };
    form(40, 60, 10, 1);
    form(-50, 40, 45, -10);
    writeGround(level, level.bounds(), flat.view(), ground.view());
    return level;
}

bool hasInk(const QIcon& icon, const QColor& ink) {
    const QImage image = icon.pixmap(64, 64).toImage();
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x)
            if (const QColor c = image.pixelColor(x, y); c.alpha() > 200)
                return std::abs(c.lightness() - ink.lightness()) < 60;
    return false;
}

}  // namespace

TEST_CASE("relief is lifted while shaping, elsewhere less unless that is wished, and never in one's level") {
    Stage stage(bumped());
    Camera c = stage.view().camera();
    c.at = {0, 60, 150};
    c.pitch = -28;
    c.yaw = 0;
    stage.view().setCamera(c);
    const double ratio = stage.window.devicePixelRatioF();
    const QPointF bump = *stage.view().pixelOf({40, 0, 60}), even = *stage.view().pixelOf({70, 0, 90});
    const auto seen = [&](const QPointF& at) {
        return unrest(stage.picture(), at, ratio, static_cast<int>(26 * ratio));
    };
    Standpoint& stand = stage.place.standpoint;
    const double lifted = seen(bump);
    const int evenThen = lightOf(stage.picture().pixel((even * ratio).toPoint()));
    stand.setStation("cover");
    const double plain = seen(bump);
    INFO("lifted " << lifted << ", plain " << plain);
    CHECK(lifted > 1.2 * plain);
    CHECK(lifted > 30);
    // Even ground keeps its brightness.
    CHECK(std::abs(lightOf(stage.picture().pixel((even * ratio).toPoint())) - evenThen) <= 4);
    ReliefChoice choice = stand.relief();
    choice.always = true;
    stand.setRelief(choice);
    CHECK(std::abs(seen(bump) - lifted) <= 4);
    // In one tone no layer is told from another.
    choice.oneTone = true;
    stand.setRelief(choice);
    const QColor tone = stage.picture().pixelColor((even * ratio).toPoint());
    CHECK(std::abs(tone.red() - tone.blue()) < 45);
    choice.lift = 0;
    stand.setRelief(choice);
    CHECK(seen(bump) < lifted);
    CHECK(stage.place.document.history().entries().size() == 1);
}

TEST_CASE("what keeps pictures in the theme's colours draws them again on a switch") {
    Stage stage(flatLevel(65, 65, 2));
    const auto look = [&] {
        const QColor ink = theme().text;
        CHECK(hasInk(stage.window.trail()->findChild<QToolButton*>("menu")->icon(), ink));
        int curves = 0, tips = 0;
        for (const auto* b : stage.window.findChildren<QToolButton*>()) {
            const bool curve = b->toolTip().startsWith("Falloff:"), tip = b->toolTip().startsWith("Tip:");
            if (!curve && !tip) continue;
            curves += curve, tips += tip;
            INFO(b->toolTip().toStdString());
            CHECK(hasInk(b->icon(), ink));
        }
        CHECK(curves >= kCurves);
        CHECK(tips >= 2);
    };
    look();
    stage.window.actions()["theme"]->trigger();
    look();
    stage.window.actions()["theme"]->trigger();
    look();
}

TEST_CASE("a step of the hand says how much it moved, and the list of steps folds") {
    Stage stage(flatLevel(129, 129, 2));
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.flow = false, s.strength = 2.5f, s.radius = 12; });
    stage.place.strokeAlong({{0, 0, 0}}, 1, false);
    stage.place.strokeAlong({{20, 0, 20}}, 1, true);
    const auto& entries = stage.place.document.history().entries();
    const float up = altitudeAt(entries[1].level, 0, 0), down = altitudeAt(entries[2].level, 20, 20);
    CHECK(QString::fromStdString(entries[1].what) == QString("Raise +%1 m").arg(up, 0, 'f', 1));
    CHECK(QString::fromStdString(entries[2].what) == QString("Lower −%1 m").arg(-down, 0, 'f', 1));
    QListWidget* list = stage.window.findChild<QListWidget*>("history");
    CHECK(list->isVisible());
    auto* fold = stage.window.findChild<QToolButton*>("what-was-done");
    QTest::mouseClick(fold, Qt::LeftButton);
    CHECK_FALSE(list->isVisible());
    QTest::mouseClick(fold, Qt::LeftButton);
    CHECK(list->isVisible());
}

TEST_CASE("without the cursor on the ground the section and the readout tell of the view's middle") {
    Stage stage(hillyLevel(129, 129, 4, 3));
    stage.place.standpoint.setCursor(std::nullopt);
    const auto told = [&] { return stage.window.bench()->readout()->text(); };
    REQUIRE(stage.place.standpoint.seen());
    const glm::dvec3 middle = *stage.place.standpoint.seen();
    const auto pixel = stage.view().pixelOf(middle);
    REQUIRE(pixel);
    CHECK(std::abs(pixel->x() - stage.view().width() / 2.0) < 3);
    CHECK(std::abs(pixel->y() - stage.view().height() / 2.0) < 3);
    CHECK(told().contains("Middle"));
    CHECK(told().contains(QString("x %1").arg(middle.x, 0, 'f', 1)));
    Camera c = stage.view().camera();
    c.at.x += 15;
    stage.view().setCamera(c);
    CHECK_FALSE(told().contains(QString("x %1 ").arg(middle.x, 0, 'f', 1)));
    // With the cursor on the ground it is the cursor's again.
    stage.move(stage.view().pixelOf({5, altitudeAt(stage.place.document.level(), 5, 5), 5})->toPoint(), Qt::NoButton);
    CHECK_FALSE(told().contains("Middle"));
}

TEST_CASE("at 1024 x 700 most of thirteen layers are in sight, and every brush has its name") {
    Stage stage(flatLevel(129, 129, 13));
    stage.place.standpoint.setStation("cover");
    stage.window.resize(1280, 760);
    stage.settle();
    stage.window.resize(1024, 700);  // while the layers are shown
    stage.settle();
    auto* strip = stage.window.findChild<LayerStrip*>();
    const QRect seen = strip->visibleRegion().boundingRect();
    int whole = 0;
    for (int i = 0; i < 13; ++i) whole += seen.contains(strip->tile(i));
    CHECK(whole >= 8);
    // Layers are chosen and reordered in two rows as in one.
    const uint32_t first = stage.place.document.level().layers[0].id;
    QTest::mouseClick(strip, Qt::LeftButton, {}, strip->tile(8).center());
    CHECK(stage.place.standpoint.layer() == stage.place.document.level().layers[8].id);
    const uint32_t moved = stage.place.document.level().layers[8].id;
    const QPoint from = strip->tile(8).center(), to = strip->tile(1).center() - QPoint(20, 0);
    QTest::mousePress(strip, Qt::LeftButton, {}, from);
    QMouseEvent move(QEvent::MouseMove, to, strip->mapToGlobal(to), Qt::NoButton, Qt::LeftButton, {});
    QCoreApplication::sendEvent(strip, &move);
    QTest::mouseRelease(strip, Qt::LeftButton, {}, to);
    CHECK(stage.place.document.level().layers[1].id == moved);
    CHECK(stage.place.document.level().layers[0].id == first);
    for (const char* station : {"shape", "cover"}) {
        stage.place.standpoint.setStation(station);
        for (const auto* b : stage.window.bench()->findChildren<QToolButton*>())
            if (b->isVisible() && b->toolButtonStyle() == Qt::ToolButtonTextUnderIcon)
                CHECK(b->fontMetrics().horizontalAdvance(b->text()) <= b->width());
    }
    for (const StationButton* b : stage.window.trail()->findChildren<StationButton*>())
        CHECK(b->geometry().right() < stage.window.width());
}

TEST_CASE("every button without words tells what it is for") {
    Stage stage(flatLevel(65, 65, 2));
    for (const char* station : {"layOut", "shape", "cover", "light", "handOver"}) {
        stage.place.standpoint.setStation(station);
        for (const auto* b : stage.window.findChildren<QToolButton*>()) {
            if (!b->isVisible() || b->property("fold").toBool()) continue;
            if (b->parent()->inherits("QLineEdit")) continue;  // the sign of a search field
            INFO(station << " " << b->objectName().toStdString());
            CHECK((!b->toolTip().isEmpty() || !b->text().isEmpty()));
            if (const QAction* a = b->defaultAction(); a && !a->shortcut().isEmpty())
                CHECK(b->toolTip().contains(a->shortcut().toString(QKeySequence::NativeText)));
        }
    }
}

TEST_CASE("a level is shaped and painted by keyboard alone") {
    Stage stage(flatLevel(129, 257, 3));
    Document& d = stage.place.document;
    const auto hold = [&](int key, int ms) {
        QTest::keyPress(stage.canvas(), static_cast<Qt::Key>(key));
        QTest::qWait(ms);
        QTest::keyRelease(stage.canvas(), static_cast<Qt::Key>(key));
    };
    // The hand works in the middle of the view, and goes along with what travels.
    const double yaw = stage.view().camera().yaw;
    hold(Qt::Key_Right, 120);
    CHECK(stage.view().camera().yaw > yaw);
    QTest::keyPress(stage.canvas(), Qt::Key_Return);
    CHECK(d.stroking());
    hold(Qt::Key_W, 200);
    CHECK(d.stroking());
    QTest::keyRelease(stage.canvas(), Qt::Key_Return);
    CHECK_FALSE(d.stroking());
    CHECK(d.history().entries().size() == 2);
    // Esc takes it back in the middle.
    QTest::keyPress(stage.canvas(), Qt::Key_Return);
    QTest::qWait(60);
    stage.key(Qt::Key_Escape);
    QTest::keyRelease(stage.canvas(), Qt::Key_Return);
    CHECK(d.history().entries().size() == 2);

    stage.key(Qt::Key_F4);
    const uint32_t first = stage.place.standpoint.layer();
    stage.key(Qt::Key_Period);
    CHECK(stage.place.standpoint.layer() == d.level().layers[2].id);
    stage.key(Qt::Key_Period);
    CHECK(stage.place.standpoint.layer() == d.level().layers[2].id);
    stage.key(Qt::Key_Comma);
    CHECK(stage.place.standpoint.layer() == first);
    hold(Qt::Key_Return, 120);
    CHECK(d.history().entries().size() == 3);
    CHECK(d.level().layer(first)->coverage.presentTiles() > 0);

    // Every part of the window is reached; Tab goes on inside one, and Esc comes back to the ground.
    const auto focus = [] { return QApplication::focusWidget(); };
    const auto next = [&] { QTest::keyClick(focus(), Qt::Key_Tab, Qt::ControlModifier); };
    next();
    CHECK(stage.window.findChild<Bench*>()->isAncestorOf(focus()));
    next();
    auto* sheet = stage.window.findChild<Sheet*>();
    REQUIRE(sheet->isAncestorOf(focus()));
    const QWidget* there = focus();
    QTest::keyClick(focus(), Qt::Key_Tab);
    CHECK(focus() != there);
    CHECK(sheet->isVisible());
    QTest::keyClick(focus(), Qt::Key_Escape);
    CHECK(focus() == stage.canvas());
    stage.key(Qt::Key_Tab);
    CHECK_FALSE(sheet->isVisible());
    bool menu = false;
    stage.answer([&](QWidget* w) { menu = w->inherits("QMenu"), QTest::keyClick(w, Qt::Key_Escape); });
    stage.key(Qt::Key_F10);
    CHECK(stage.waitFor([&] { return menu; }));
}

TEST_CASE("words grow with those of the desktop, and nothing is cut off") {
    Stage stage(flatLevel(65, 65, 2));
    stage.window.resize(1270, 760);
    stage.settle();
    // The suite runs once more where the desktop writes larger (tests/CMakeLists.txt).
    const double wanted = QFontInfo(QGuiApplication::font()).pixelSize() / 15.0;
    CHECK(textScale() == std::clamp(wanted, 1.0, kMostTextScale));
    for (const char* station : {"layOut", "shape", "cover", "light", "handOver"}) {
        stage.place.standpoint.setStation(station);
        QTest::qWait(50);
        for (const auto* l : stage.window.findChildren<QLabel*>()) {
            if (!l->isVisible() || l->wordWrap() || l->text().isEmpty() || l->pixmap().width() > 0) continue;
            INFO(station << ": " << l->text().toStdString());
            CHECK(QFontInfo(l->font()).pixelSize() == scaled(13));
            CHECK(l->height() >= QFontMetrics(l->font()).height() - 2);
        }
        for (const auto* f : stage.window.findChildren<QAbstractSpinBox*>())
            if (f->isVisible()) CHECK(f->height() >= QFontMetrics(f->font()).height());
    }
    for (const StationButton* b : stage.window.trail()->findChildren<StationButton*>())
        CHECK(b->geometry().right() < stage.window.width());
}

TEST_CASE("the first minute is ticked off by doing, and then is gone for good") {
    Stage stage(flatLevel(257, 257, 3));
    FirstMinute& minute = *stage.window.firstMinute();
    QTest::mouseClick(minute.findChild<QToolButton*>("putAway"), Qt::LeftButton);
    CHECK_FALSE(minute.isVisible());
    stage.window.actions()["firstMinute"]->trigger();
    stage.settle();
    CHECK(minute.isVisible());
    for (int i = 0; i < FirstMinute::kSteps; ++i) CHECK_FALSE(minute.done(static_cast<FirstMinute::Step>(i)));
    // Not by another level, which is seen as a whole, and in which nothing is taken back.
    stage.place.document.edit("Sun", [](Level& l) { l.sun.azimuth += 5; });
    stage.place.document.open(flatLevel(129, 257, 3), {}, "other");
    stage.settle();
    CHECK_FALSE(minute.done(FirstMinute::move));
    CHECK_FALSE(minute.done(FirstMinute::takeBack));
    QTest::keyPress(stage.canvas(), Qt::Key_W);
    QTest::qWait(250);
    QTest::keyRelease(stage.canvas(), Qt::Key_W);
    CHECK(minute.done(FirstMinute::move));
    const QPoint middle(stage.view().width() / 2, stage.view().height() / 2);
    stage.drag(middle, middle + QPoint(40, 10));
    CHECK(minute.done(FirstMinute::shape));
    CHECK_FALSE(minute.done(FirstMinute::paint));
    CHECK_FALSE(minute.done(FirstMinute::takeBack));
    stage.key(Qt::Key_F4);
    stage.place.standpoint.setLayer(stage.place.document.level().layers[1].id);
    stage.drag(middle, middle + QPoint(40, 10));
    CHECK(minute.done(FirstMinute::paint));
    CHECK(FirstMinute::wanted());
    stage.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(minute.done(FirstMinute::takeBack));
    CHECK_FALSE(FirstMinute::wanted());
    // Put away in the middle, it is gone as well.
    minute.begin();
    CHECK(FirstMinute::wanted());
    QTest::mouseClick(minute.findChild<QToolButton*>("putAway"), Qt::LeftButton);
    CHECK_FALSE(minute.isVisible());
    CHECK_FALSE(FirstMinute::wanted());
}

TEST_CASE("a newcomer's hill, lake bed and path on a new level are plainly seen") {
    Stage stage(flatLevel(33, 33, 2));
    stage.answer([](QWidget* open) {
        REQUIRE(qobject_cast<LayoutDialog*>(open));
        static_cast<QDialog*>(open)->accept();
    });
    stage.window.actions()["new"]->trigger();
    stage.window.activateWindow();  // as a window manager does when a dialog goes
    stage.settle();
    const auto level = [&]() -> const Level& { return stage.place.document.level(); };
    REQUIRE(level().columns == 513);
    CHECK(stage.place.standpoint.station() == "shape");
    // The brush fits what is seen.
    const double across = stage.view().metresAcross();
    CHECK(stage.place.toolbox.settings().radius == Approx(across / 12).epsilon(0.05));
    const double ratio = stage.window.devicePixelRatioF();
    const auto at = [&](double x, double z) {
        return stage.view().pixelOf({x, altitudeAt(level(), x, z), z})->toPoint();
    };
    const QImage before = stage.picture();
    const auto hold = [&](const QPoint& p, Qt::KeyboardModifiers held) {
        stage.press(p, held);
        QTest::qWait(1300);
        stage.release(p);
    };
    const QPoint hill = at(-90, 40), lake = at(100, 60);
    hold(hill, {});
    hold(lake, Qt::ShiftModifier);
    CHECK(altitudeAt(level(), -90, 40) > 3);
    CHECK(altitudeAt(level(), 100, 60) < -3);
    stage.key(Qt::Key_F4);
    REQUIRE(stage.place.standpoint.station() == "cover");
    stage.place.chooseLayer(level().layers[1].id);
    const QPoint from = at(-60, 150), to = at(80, 170);
    stage.press(from);
    for (int i = 1; i <= 20; ++i) {  // no faster than a careful hand
        stage.move(from + (to - from) * i / 20);
        QTest::qWait(40);
    }
    stage.release(to);
    stage.key(Qt::Key_F3);
    const QImage after = stage.picture();
    // Something differs by a tenth of the whole scale near each.
    const auto differs = [&](const QPoint& p, int reach) {
        int most = 0;
        const auto apart = [](const QColor& a, const QColor& b) {
            return std::max(
                {std::abs(a.red() - b.red()), std::abs(a.green() - b.green()), std::abs(a.blue() - b.blue())});
        };
        for (int y = -reach; y <= reach; y += 2)
            for (int x = -reach; x <= reach; x += 2) {
                const QPoint q = p * ratio + QPoint(x, y);
                if (after.rect().contains(q)) most = std::max(most, apart(after.pixelColor(q), before.pixelColor(q)));
            }
        return most;
    };
    const auto reach = static_cast<int>(40 * ratio);
    CHECK(differs(hill, reach) > 25);
    CHECK(differs(lake, reach) > 25);
    CHECK(differs(at(10, 160), reach) > 25);
    CHECK(stage.place.document.history().entries().size() == 4);
}
