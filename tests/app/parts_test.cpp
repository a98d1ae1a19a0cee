// Parts of the window by themselves.
#include <catch2/catch.hpp>

#include <cmath>
#include <QFile>
#include <QLabel>
#include <QLineEdit>
#include <QSet>
#include <QSettings>
#include <QSignalSpy>
#include <QSlider>
#include <QTableWidget>
#include <QTest>

#include "cover/weights.h"
#include "dress/cast.h"
#include "levels.h"
#include "looks/theme.h"
#include "looks/tool_looks.h"
#include "panels/after_hand.h"
#include "panels/bench.h"
#include "panels/chart.h"
#include "panels/keys_dialog.h"
#include "panels/number_field.h"
#include "panels/sheet.h"
#include "panels/trail.h"
#include "stage.h"
#include "survey/stretch.h"
#include "survey/sunlight.h"
#include "view/brush_mark.h"

using namespace jam;
using namespace jam::test;

namespace {

// Contrast of two colours (W3C, WCAG 2.1, success criterion 1.4.3).
double contrast(const QColor& a, const QColor& b) {
    const auto luminance = [](const QColor& c) {
        const auto part = [](double v) { return v <= 0.03928 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
        return 0.2126 * part(c.redF()) + 0.7152 * part(c.greenF()) + 0.0722 * part(c.blueF());
    };
    const double x = luminance(a), y = luminance(b);
    return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
}

}  // namespace

TEST_CASE("pictures beside the view look after a move, not right before the next, and once more at the end") {
    QObject owner;
    QElapsedTimer moved;
    int moves = 0, looks = 0, close = 0, seen = 0;
    auto* after = new AfterHand(&owner, [&] {
        ++looks;
        seen = moves;
        close += moved.nsecsElapsed() > 2'000'000 && moved.nsecsElapsed() < 7'000'000;
    });
    moved.start();
    for (; moves < 60; ++moves) {
        // A hand that moves every 8 ms, and no faster when the machine was away.
        while (moved.nsecsElapsed() < 8'000'000) QApplication::processEvents();
        moved.restart();
        after->later();
    }
    // Many moves are answered by one look.
    CHECK(looks >= 3);
    CHECK(looks <= 12);
    CHECK(close > looks / 2);
    QTRY_VERIFY_WITH_TIMEOUT(seen == moves, 1000);
    const int before = looks;
    QTest::qWait(150);
    CHECK(looks == before);
}

TEST_CASE("text can be read in both themes") {
    for (const ThemeChoice choice : {ThemeChoice::light, ThemeChoice::dark}) {
        applyTheme(choice);
        const Theme& t = theme();
        for (const QColor& ground : {t.panel, t.back, t.raised}) CHECK(contrast(t.text, ground) >= 7);
        CHECK(contrast(t.quiet, t.panel) >= 4.5);
        CHECK(contrast(t.onActive, t.active) >= 4.5);
        CHECK(contrast(t.passes, t.panel) >= 3);
        CHECK(contrast(t.warns, t.panel) >= 3);
        CHECK(rememberedTheme() == choice);
    }
}

TEST_CASE("every command has a text, a key of its own and, where it has a picture, one that exists") {
    Stage stage(flatLevel(33, 33, 2));
    QSet<QString> keys;
    for (const QAction* a : stage.window.actions().all()) {
        CHECK_FALSE(a->text().isEmpty());
        const QString key = a->shortcut().toString();
        INFO(a->objectName().toStdString() << " " << key.toStdString());
        CHECK_FALSE((!key.isEmpty() && keys.contains(key)));
        keys.insert(key);
        const QString name = a->property("iconName").toString();
        if (!name.isEmpty()) {
            CHECK(QFile::exists(":/icons/" + name + ".svg"));
            CHECK_FALSE(a->icon().isNull());
        }
    }
    for (const char* travel : {"W", "A", "S", "D", "Q", "E"}) CHECK_FALSE(keys.contains(travel));
}

TEST_CASE("keys are read first, changed on purpose, remembered, and one command has each") {
    Stage stage(flatLevel(33, 33, 2));
    Actions& actions = stage.window.actions();
    KeysDialog dialog(actions);
    dialog.show();
    auto* plan = dialog.findChild<KeyButton*>("key-plan");
    auto* said = dialog.findChild<QLabel*>("said");
    REQUIRE(plan);
    REQUIRE(said);
    // Pressed before anything was clicked, keys do nothing.
    QTest::keyClick(dialog.focusWidget(), Qt::Key_X);
    QTest::keyClick(plan, Qt::Key_X);
    CHECK(actions["plan"]->shortcut() == QKeySequence("P"));
    CHECK(actions["raise"]->shortcut() == QKeySequence(lookOf(Tool::raise).key));
    const auto choose = [&](Qt::Key key, Qt::KeyboardModifiers held = {}) {
        QTest::mouseClick(plan, Qt::LeftButton);
        CHECK(plan->waits());
        QTest::keyClick(plan, Qt::Key_Shift, Qt::ShiftModifier);  // on the way to a key with Shift
        QTest::keyClick(plan, key, held);
        CHECK_FALSE(plan->waits());
    };
    // A key of the hand's, Esc, and a taken one change nothing.
    for (const Qt::Key key : {Qt::Key_W, Qt::Key_Escape}) {
        choose(key);
        CHECK(actions["plan"]->shortcut() == QKeySequence("P"));
        CHECK(dialog.isVisible());
    }
    choose(Qt::Key_Z, Qt::ControlModifier);
    CHECK(actions["plan"]->shortcut() == QKeySequence("P"));
    CHECK(actions["undo"]->shortcut() == QKeySequence("Ctrl+Z"));
    CHECK(said->text().contains("Undo"));
    // Chosen twice it is taken over; the command that had it has none.
    choose(Qt::Key_Z, Qt::ControlModifier);
    CHECK(actions["plan"]->shortcut() == QKeySequence("Ctrl+Z"));
    CHECK(actions["undo"]->shortcut().isEmpty());
    dialog.findChild<QPushButton*>("usualKeys")->click();
    CHECK(actions["plan"]->shortcut() == QKeySequence("P"));
    CHECK(actions["undo"]->shortcut() == QKeySequence("Ctrl+Z"));
    choose(Qt::Key_Delete);
    CHECK(actions["plan"]->shortcut().isEmpty());
    choose(Qt::Key_P, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(actions["plan"]->shortcut() == QKeySequence("Ctrl+Shift+P"));
    // Searching leaves what fits, by name or by key.
    auto* commands = dialog.findChild<QTableWidget*>("commands");
    const auto shown = [&] {
        int n = 0;
        for (int row = 0; row < commands->rowCount(); ++row) n += !commands->isRowHidden(row);
        return n;
    };
    const int before = shown();
    auto* search = dialog.findChild<QLineEdit*>("search");
    search->setText("from above");
    CHECK(shown() == 1);
    search->setText("ctrl+shift+p");
    CHECK(shown() == 1);
    search->clear();
    CHECK(shown() == before);
    QTest::keyClick(&dialog, Qt::Key_Escape);
    CHECK_FALSE(dialog.isVisible());
    CHECK(QSettings().value("keys/plan").toString() == "Ctrl+Shift+P");
    const double pitch = stage.view().camera().pitch;
    stage.key(Qt::Key_P, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(stage.view().camera().pitch < pitch);
    actions.setKey(actions["plan"], QKeySequence("P"));
    QSettings().remove("keys/plan");
}

TEST_CASE("a number field's slider and number agree over the whole range") {
    NumberField field("Radius", " m", {0.5, 2000, 1, true});
    auto* slider = field.findChild<QSlider*>();
    double told = 0;
    QObject::connect(&field, &NumberField::changed, [&](double v) { told = v; });
    for (int p = 0; p <= 1000; p += 50) {
        slider->setValue(p);
        if (p > 0) CHECK(told == field.value());
        const int back = slider->value();
        CHECK(std::abs(back - p) <= 12);  // the slider's values are rounded to two digits
    }
    field.spin()->setValue(25);
    CHECK(told == 25);
    told = -1;
    field.setValue(40);
    CHECK(told == -1);  // showing is not changing
    CHECK(field.value() == 40);
}

TEST_CASE("a survey that follows what changed finds what a survey from the start finds", "[property]") {
    Stage stage(lopsidedLevel());
    Document& document = stage.place.document;
    const auto agree = [&] {
        stage.settle();
        const Level& level = document.level();
        const Findings& f = *stage.window.surveyor().findings();
        Raster<uint8_t> sun(level.columns, level.rows), open(level.columns, level.rows);
        readSunlight(level, sun.view());
        readOpenness(level, open.view());
        Plantings all(level);
        REQUIRE(all.prepare(level.bounds()));
        castShade(all, level.sun, sun.view(), open.view());
        bool shade = true;
        for (int z = 0; z < level.rows; ++z)
            for (int x = 0; x < level.columns; ++x)
                shade &= f.shade.sun->at(x, z) == sun.at(x, z) && f.shade.open->at(x, z) == open.at(x, z);
        CHECK(shade);
        CHECK(f.ground.highest == surveyGround(level).highest);
        CHECK(f.ground.mean == surveyGround(level).mean);
        CHECK(f.shares == layerShares(level));
        CHECK(f.stretched == stretchedShare(level, 0.5, {}));
        LevelPlan plan(Findings::kPlanSize);
        plan.follow(level, sun, nullptr);
        CHECK(f.levelPlan.ground() == plan.ground());
    };
    agree();
    document.edit("Mound", [](Level& l) { l.strata[0].heights.set(20, 60, l.strata[0].heights.at(20, 60) + 25); });
    agree();
    document.edit("Sun", [](Level& l) { l.sun.azimuth = 40; });
    agree();
    document.edit("Paint", [](Level& l) { l.layers[9].coverage.set(100, 20, kFullCover); });
    agree();
    document.edit("Sides", [](Level& l) { l.layers[1].sides = !l.layers[1].sides; });
    agree();
    document.edit("Hide", [](Level& l) { l.strata[1].visible = false; });
    agree();
    // What is seen follows as well: as another window sees it that comes to it now.
    const QImage followed = stage.picture();
    while (document.history().canUndo()) document.undo();
    agree();
    document.stepTo(document.history().entries().size() - 1);
    agree();
    CHECK(stage.picture() == followed);
    Stage other(document.level());
    other.view().setCamera(stage.view().camera());
    CHECK(other.picture() == followed);
}

TEST_CASE("a plan that follows changes is the one drawn anew, however many samples lie between its pixels",
          "[property]") {
    const int most = GENERATE(17, 40, 300);
    Level level = lopsidedLevel();
    const Raster<uint8_t> sun(level.columns, level.rows, 200);
    LevelPlan followed(most);
    REQUIRE(followed.follow(level, sun, nullptr));
    Random random(5);
    for (int round = 0; round < 60; ++round) {
        const Level before = level;
        int c = round == 0 ? level.columns - 1 : wholeBetween(random, 0, level.columns - 1),
            r = round == 1 ? level.rows - 1 : wholeBetween(random, 0, level.rows - 1);
        // Often where a tile begins, which the pixels before it look at as well.
        if (round % 8 >= 4) c -= c % 64, r -= r % 64;
        switch (round % 4) {
            case 0: level.strata[0].heights.set(c, r, static_cast<float>(between(random, -40, 40))); break;
            case 1: level.layers[9].coverage.set(c * level.coverFactor, r * level.coverFactor, kFullCover); break;
            case 2: level.opening.set(c, r, 255); break;
            case 3: level.wash.set(c, r, {65535, 0, 40000, 60000}); break;
        }
        const TileSet changed = touchedGround(level, changesBetween(level, before));
        REQUIRE(followed.follow(level, sun, &changed));
        LevelPlan anew(most);
        REQUIRE(anew.follow(level, sun, nullptr));
        INFO("at most " << most << " pixels, round " << round << " at " << c << ", " << r);
        REQUIRE(followed.ground() == anew.ground());
    }
}

TEST_CASE("the trail tells the truth about the level") {
    Level level = hillyLevel(129, 129, 3, 3);
    level.layers[2].coverage = TiledGrid<uint16_t>(129, 129, 0);
    Stage stage(level);
    const Findings& f = *stage.window.surveyor().findings();
    const GroundFigures r = surveyGround(level);
    CHECK(f.ground.highest == r.highest);
    CHECK(f.ground.steepest == r.steepest);
    CHECK(f.shares == layerShares(level));
    CHECK(stage.window.trail()->station("cover")->state() == "1 of 3 layers unused");
    CHECK(stage.window.trail()->station("layOut")->state() == "128 × 128 m, every 1 m");
    stage.drag(stage.pixelOf(-20, 10), stage.pixelOf(20, 10));
    stage.settle();
    CHECK(stage.window.surveyor().findings()->ground.highest == surveyGround(stage.place.document.level()).highest);
    CHECK(stage.window.trail()->station("shape")->state().contains(
        QString::number(std::lround(surveyGround(stage.place.document.level()).highest))));
}

TEST_CASE("a click on the chart goes to that place") {
    Stage stage(hillyLevel(129, 129, 3, 2));
    auto* chart = stage.window.bench()->findChild<Chart*>();
    const int side = std::min(chart->width(), chart->height()) - 4;  // of the square level in its middle
    QTest::mouseClick(chart, Qt::LeftButton, {}, QPoint(chart->width() + side / 2, chart->height() - side / 2) / 2);
    const auto seen = stage.view().pick({stage.canvas()->width() / 2.0, stage.canvas()->height() / 2.0});
    REQUIRE(seen);
    CHECK(seen->x == Approx(32).margin(6));
    CHECK(seen->z == Approx(-32).margin(6));
}

TEST_CASE("the brush mark lies on the ground at its true size") {
    const Level level = hillyLevel(129, 129, 3, 1);
    Camera c;
    c.at = {0, 120, 0};
    c.pitch = -89.9;
    const HeightPyramid pyramid(level);
    const BrushMark mark = markOf(level, c, {5, 0, 5}, {});  // a radius of 20 m
    REQUIRE_FALSE(mark.edge.isEmpty());
    for (int i = 0; i < mark.edge.elementCount(); ++i) {
        const auto place = pickGround(level, pyramid, c.ray(mark.edge.elementAt(i).x, mark.edge.elementAt(i).y));
        REQUIRE(place);
        CHECK(std::hypot(place->x - 5, place->z - 5) == Approx(20).margin(0.5));
    }
    CHECK(mark.half.boundingRect().width() < mark.edge.boundingRect().width());
    CHECK(markOf(level, c, {500, 0, 500}, {}).edge.isEmpty());
}

TEST_CASE("mirror images of the brush mark lie where their stamps fall, with the mirror's lines between") {
    const Level level = flatLevel(161, 161);
    Camera c;
    c.at = {0, 160, 0};
    c.pitch = -89.9;
    StrokeSettings s;
    s.radius = 10;
    for (int k = 0; k < kMirrorKinds; ++k) {
        s.mirror.kind = static_cast<MirrorKind>(k);
        const BrushMark mark = markOf(level, c, {40, 0, 15}, s);
        CHECK(mark.images.isEmpty() == (k == 0));
        CHECK(mirrorLines(level, c, s.mirror).isEmpty() == (k == 0));
        for (const MirrorImage& r : mirrorImages(level, s.mirror)) {
            double x = 40, z = 15;
            r.move(level, x, z);
            const auto p = c.pixel({x, 0, z});
            REQUIRE(p);
            const QPainterPath& path = r.image.identity() && r.turn == 0 ? mark.edge : mark.images;
            CHECK(path.contains(QPointF(p->x, p->y)));
        }
    }
}

TEST_CASE("full view hides everything but the ground, and back") {
    Stage stage(flatLevel(65, 65, 2));
    const int height = stage.canvas()->height();
    stage.window.actions()["fullView"]->trigger();
    CHECK(stage.waitFor([&] { return stage.canvas()->height() > height; }));
    CHECK_FALSE(stage.window.bench()->isVisible());
    CHECK_FALSE(stage.window.trail()->isVisible());
    stage.window.actions()["fullView"]->trigger();
    CHECK(stage.waitFor([&] { return stage.window.bench()->isVisible(); }));
    stage.window.actions()["sheet"]->trigger();
    CHECK_FALSE(stage.window.sheet()->isVisible());
    stage.window.actions()["sheet"]->trigger();
    CHECK(stage.window.sheet()->isVisible());
}

TEST_CASE("hovering costs no frame of the ground") {
    Stage stage(hillyLevel(129, 129, 3, 2));
    const QImage before = stage.picture();
    for (int i = 0; i < 50; ++i) {
        stage.move({100 + i * 5, 150 + i}, Qt::NoButton);
        CHECK(stage.view().settled());  // nothing was asked to be drawn again
    }
    CHECK(stage.picture() == before);
}
