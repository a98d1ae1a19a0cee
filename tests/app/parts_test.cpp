// Parts of the window by themselves.
#include <catch2/catch.hpp>

#include <QFile>
#include <QKeySequenceEdit>
#include <QLabel>
#include <QSet>
#include <QSettings>
#include <QSlider>
#include <QTest>
#include <cmath>

#include "cover/weights.h"
#include "levels.h"
#include "panels/chart.h"
#include "panels/keys_dialog.h"
#include "panels/number_field.h"
#include "panels/sheet.h"
#include "panels/trail.h"
#include "stage.h"
#include "theme.h"
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

TEST_CASE("a key can be changed, is remembered, and a taken one is refused") {
    Stage stage(flatLevel(33, 33, 2));
    Actions& actions = stage.window.actions();
    KeysDialog dialog(actions);
    auto* edit = dialog.findChild<QKeySequenceEdit*>("key-plan");
    REQUIRE(edit);
    edit->setKeySequence(QKeySequence("Ctrl+Z"));
    emit edit->editingFinished();
    CHECK(actions["plan"]->shortcut() == QKeySequence("P"));
    edit->setKeySequence(QKeySequence("Ctrl+Shift+P"));
    emit edit->editingFinished();
    CHECK(actions["plan"]->shortcut() == QKeySequence("Ctrl+Shift+P"));
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

TEST_CASE("jobs report, can be cancelled, and run one at a time") {
    Jobs jobs;
    double most = 0;
    bool done = false, sawCancel = false;
    QObject::connect(&jobs, &Jobs::progressed, [&](double share) { most = std::max(most, share); });
    REQUIRE(jobs.start("Counting", [](const Context& c) { for (int i = 0; i <= 10; ++i) c.report(i / 10.0); }, [&] { done = true; }));
    CHECK_FALSE(jobs.start("Another", [](const Context&) {}, [] {}));
    CHECK(jobs.what() == "Counting");
    jobs.wait();
    CHECK(done);
    CHECK(most == 1);
    REQUIRE(jobs.start("Endless", [&](const Context& c) { while (!c.cancelled()) std::this_thread::yield(); sawCancel = true; }, [] {}));
    QTest::qWait(20);
    CHECK(jobs.running());
    jobs.cancel();
    jobs.wait();
    CHECK(sawCancel);
    CHECK_FALSE(jobs.running());
}

TEST_CASE("the trail tells the truth about the level") {
    Level level = hillyLevel(129, 129, 3, 3);
    level.layers[2].coverage = TiledGrid<uint16_t>(129, 129, 0);
    Stage stage(level);
    const Findings& f = *stage.window.surveyor().findings();
    const GroundFigures r = surveyGround(level);
    CHECK(f.relief.highest == r.highest);
    CHECK(f.relief.steepest == r.steepest);
    CHECK(f.shares == layerShares(level));
    CHECK(stage.window.trail()->station(Station::cover)->state() == "1 of 3 layers unused");
    CHECK(stage.window.trail()->station(Station::layOut)->state() == "128 × 128 m, every 1 m");
    stage.drag(stage.pixelOf(-20, 10), stage.pixelOf(20, 10));
    stage.settle();
    CHECK(stage.window.surveyor().findings()->relief.highest == surveyGround(stage.session.level()).highest);
    CHECK(stage.window.trail()->station(Station::shape)->state().contains(QString::number(std::lround(surveyGround(stage.session.level()).highest))));
}

TEST_CASE("a click on the chart goes to that place") {
    Stage stage(hillyLevel(129, 129, 3, 2));
    auto* chart = stage.window.bench()->findChild<Chart*>();
    QTest::mouseClick(chart, Qt::LeftButton, {}, {chart->width() * 3 / 4, chart->height() / 4});
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
    QTest::qWait(100);
    CHECK_FALSE(stage.window.bench()->isVisible());
    CHECK_FALSE(stage.window.trail()->isVisible());
    CHECK(stage.canvas()->height() > height);
    stage.window.actions()["fullView"]->trigger();
    QTest::qWait(100);
    CHECK(stage.window.bench()->isVisible());
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
