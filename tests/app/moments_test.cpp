// Wrong keys at the wrong moment: saving while a preview stands, dialogs in the middle of a stroke, work that finishes
// late, levels that are replaced below the hand. Nothing is lost, nothing goes on by itself, nothing ends the program.
#include <catch2/catch.hpp>
#include <chrono>
#include <thread>

#include <QAction>
#include <QApplication>
#include <QComboBox>
#include <QDialog>
#include <QFocusEvent>
#include <QListWidget>
#include <QMessageBox>
#include <QPushButton>
#include <QTemporaryDir>

#include "cover/rules.h"
#include "files/level_file.h"
#include "level/ground.h"
#include "levels.h"
#include "panels/trail.h"
#include "stage.h"
#include "stations/cover/cover_station.h"
#include "stations/hand_over/hand_over_station.h"
#include "stations/shape/whole_panel.h"
#include "survey/check.h"

using namespace jam;
using namespace jam::test;

namespace {

Level small() {
    Level level = hillyLevel(129, 97, 6, 4);
    level.name = "small";
    return level;
}

// Presses one of the buttons that every desktop knows.
void answerWith(Stage& stage, QMessageBox::StandardButton which) {
    stage.answer([which](QWidget* open) {
        auto* box = qobject_cast<QMessageBox*>(open);
        REQUIRE(box);
        REQUIRE(box->button(which));
        box->button(which)->click();
    });
}

void strokeOn(Stage& stage, double x, double z) {
    const QPoint at = stage.pixelOf(x, z);
    stage.drag(at, at + QPoint(20, 4));
}

// A preview of noise over all, as a designer makes one.
void previewNoise(Stage& stage) {
    stage.window.actions()["whole"]->trigger();
    auto* whole = stage.window.findChild<WholePanel*>();
    whole->choose(static_cast<int>(WholeKind::noise));
    REQUIRE(stage.waitFor([&] { return stage.place.document.previewing(); }));
}

struct Files {
    QTemporaryDir folder;
    QString path(const char* name) const { return folder.filePath(name); }
};

}  // namespace

// --- what is saved ------------------------------------------------------------------------------------------------

TEST_CASE("what is saved and handed over is the level as it stands, never a preview of it") {
    Stage stage(small());
    const Files files;
    strokeOn(stage, 0, 0);
    previewNoise(stage);
    const Level standing = stage.place.document.standing();
    REQUIRE_FALSE(stage.place.document.level() == standing);
    stage.window.saveTo(files.path("a.jamhill"));
    stage.window.work().wait();
    const Result<Level> saved = loadLevel(files.path("a.jamhill").toStdString());
    REQUIRE(saved);
    CHECK(saved.value() == standing);
    CHECK(stage.place.document.previewing());
    CHECK_FALSE(stage.place.document.dirty());
    HandoverWish wish;
    stage.window.station<HandOverStation>()->handOverTo(files.path("preview"), wish);
    stage.window.work().wait();
    stage.place.document.dropPreview();
    stage.window.station<HandOverStation>()->handOverTo(files.path("plain"), wish);
    stage.window.work().wait();
    const auto read = [&](const char* folder) {
        return readFile((files.path(folder) + "/heightmap.png").toStdString(), 1u << 28).take();
    };
    CHECK(read("preview") == read("plain"));
}

TEST_CASE("saving while looking back saves what is, not what was") {
    Stage stage(small());
    const Files files;
    strokeOn(stage, 0, 0);
    stage.place.document.lookBack(true);
    REQUIRE(stage.place.document.lookingBack());
    const Level standing = stage.place.document.standing();
    REQUIRE_FALSE(stage.place.document.level() == standing);
    stage.window.saveTo(files.path("a.jamhill"));
    stage.window.work().wait();
    CHECK(loadLevel(files.path("a.jamhill").toStdString()).value() == standing);
}

TEST_CASE("looking back to the last save shows that save, whatever was done while it was written") {
    Stage stage(small());
    const Files files;
    strokeOn(stage, 0, 0);
    const Level atSave = stage.place.document.standing();
    stage.window.saveTo(files.path("a.jamhill"));
    strokeOn(stage, 20, 10);
    stage.window.work().wait();
    strokeOn(stage, -20, 10);
    CHECK(stage.place.document.dirty());
    stage.place.document.setLooksAtSave(true);
    stage.place.document.lookBack(true);
    CHECK(stage.place.document.level() == atSave);
    stage.place.document.lookBack(false);
    CHECK(stage.place.document.level() == stage.place.document.standing());
}

// --- leaving and replacing ----------------------------------------------------------------------------------------

TEST_CASE("leaving with unsaved changes asks, and does what was answered") {
    const Files files;
    SECTION("cancel stays") {
        Stage stage(small());
        strokeOn(stage, 0, 0);
        answerWith(stage, QMessageBox::Cancel);
        CHECK_FALSE(stage.window.close());
        CHECK(stage.window.isVisible());
        CHECK(stage.place.document.dirty());
    }
    SECTION("discard leaves") {
        Stage stage(small());
        strokeOn(stage, 0, 0);
        answerWith(stage, QMessageBox::Discard);
        CHECK(stage.window.close());
    }
    SECTION("save saves first") {
        Stage stage(small());
        stage.window.saveTo(files.path("a.jamhill"));
        stage.window.work().wait();
        strokeOn(stage, 0, 0);
        const Level standing = stage.place.document.standing();
        answerWith(stage, QMessageBox::Save);
        CHECK(stage.window.close());
        CHECK(loadLevel(files.path("a.jamhill").toStdString()).value() == standing);
    }
    SECTION("nothing to save asks nothing") {
        Stage stage(small());
        stage.window.saveTo(files.path("a.jamhill"));
        stage.window.work().wait();
        CHECK(stage.window.close());
    }
}

TEST_CASE("strokes made while a level is being opened are asked about, not lost") {
    const Files files;
    Level other = flatLevel(65, 65, 2);
    other.name = "other";
    REQUIRE(saveLevel(other, files.path("other.jamhill").toStdString()));
    Stage stage(small());
    stage.window.saveTo(files.path("mine.jamhill"));
    stage.window.work().wait();
    for (const bool stays : {true, false}) {
        stage.window.openFile(files.path("other.jamhill"));
        stage.place.strokeAlong({{0, 0, 0}, {10, 0, 0}}, 1,
                                false);  // before events are handled: the level is not there yet
        const Level mine = stage.place.document.standing();
        answerWith(stage, stays ? QMessageBox::Cancel : QMessageBox::Discard);
        stage.window.work().wait();
        stage.settle();
        CHECK(stage.place.document.standing().name == (stays ? "small" : "other"));
        if (stays) CHECK(stage.place.document.standing() == mine);
    }
}

TEST_CASE("closing while something is read ends it, and nothing is told afterwards") {
    const Files files;
    REQUIRE(saveLevel(hillyLevel(700, 600, 2, 4), files.path("large.jamhill").toStdString()));
    Stage stage(small());
    stage.window.saveTo(files.path("mine.jamhill"));
    stage.window.work().wait();
    const QString before = stage.window.lastMessage();
    stage.window.openFile(files.path("large.jamhill"));
    CHECK(stage.window.work().running());
    CHECK(stage.window.close());
    CHECK_FALSE(stage.window.work().running());
    CHECK(stage.waitFor([] { return Task::underWay() == 0; }));
    CHECK(stage.window.lastMessage() == before);
    CHECK(stage.place.document.standing().name == "small");
    CHECK(QApplication::activeModalWidget() == nullptr);
}

// --- the hand is let go -------------------------------------------------------------------------------------------

TEST_CASE("a dialog in the middle of a stroke ends the stroke, which stays") {
    Stage stage(small());
    const QPoint at = stage.pixelOf(0, 0);
    stage.press(at);
    stage.move(at + QPoint(10, 0));
    REQUIRE(stage.waitFor([&] { return stage.place.document.stroking(); }));
    bool behind = true;
    stage.answer([&](QWidget* open) {
        behind = stage.place.document.stroking();
        static_cast<QDialog*>(open)->reject();
    });
    stage.window.actions()["keys"]->trigger();
    CHECK_FALSE(behind);
    CHECK(stage.place.document.history().entries().size() == 2);
    const Level after = stage.place.document.standing();
    QTest::qWait(200);
    stage.move(at + QPoint(30, 0));
    QTest::qWait(100);
    CHECK(stage.place.document.level() == after);
    CHECK_FALSE(stage.view().handBusy());
}

TEST_CASE("a brush slower than its stamps slows its own clock, and stops when it is let go") {
    Stage stage(small());
    Document& document = stage.place.document;
    stage.place.toolbox.setTool(Tool::raise);
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.radius = 12, s.strength = 2; });
    // Work that takes long, after each time that the brush did something.
    constexpr double slow = 0.15;
    int times = 0;
    const auto connection = document.on(About::samples, &document, [&] {
        if (!document.stroking()) return;
        ++times;
        std::this_thread::sleep_for(std::chrono::duration<double>(slow));
    });
    const QPoint at = stage.pixelOf(0, 0);
    const double before = altitudeAt(document.level(), 0, 0);
    QElapsedTimer wall;
    wall.start();
    stage.press(at);
    REQUIRE(stage.waitFor([&] { return times >= 8; }));
    const double brush = (altitudeAt(document.level(), 0, 0) - before) / 2;  // seconds of its own
    const double seconds = static_cast<double>(wall.elapsed()) / 1000;
    // All but 40 ms of each time does not count for it; the first touch is one stamp more.
    CHECK(brush > 0.2);
    CHECK(brush <= seconds - (times - 1) * (slow - 0.04) + 0.06);
    stage.release(at);
    const Level after = document.level();
    for (int i = 0; i < 10; ++i) QTest::qWait(20);
    CHECK(document.level() == after);
    QObject::disconnect(connection);
}

TEST_CASE("a hand that waits behind the camera's is let go with it") {
    Stage stage(small());
    const Level before = stage.place.document.standing();
    stage.place.toolbox.setTool(Tool::raise);
    stage.place.toolbox.setPath(StrokePath::corners);
    const QPoint at = stage.pixelOf(0, 0);
    stage.press(at);
    stage.release(at);
    REQUIRE(stage.view().handBusy());  // a line that waits for its next corner
    stage.press(at + QPoint(40, 10), {}, Qt::RightButton);
    stage.move(at + QPoint(60, 10), Qt::RightButton);
    REQUIRE(stage.view().handBusy());
    SECTION("when the station changes") { stage.place.standpoint.setStation("light"); }
    SECTION("when a dialog opens") { stage.dismissDialog(); }
    CHECK_FALSE(stage.view().handBusy());
    stage.release(at + QPoint(60, 10), Qt::RightButton);
    stage.move(at + QPoint(80, 10), Qt::NoButton);
    CHECK_FALSE(stage.view().handBusy());
    // Whatever letting go makes of the line, it is one step that can be taken back.
    while (stage.place.document.history().canUndo()) stage.place.document.undo();
    CHECK(stage.place.document.standing() == before);
}

TEST_CASE("the keys that are pressed while the list of keys is open change none of them, and Esc closes it") {
    Stage stage(small());
    QHash<QString, QKeySequence> before;
    for (QAction* a : stage.window.actions().all()) before[a->objectName()] = a->shortcut();
    bool closed = false;
    stage.answer([&](QWidget* open) {
        open->activateWindow();
        QTest::qWait(50);
        for (const int key : {Qt::Key_2, Qt::Key_W, Qt::Key_F3})
            QTest::keyClick(open->focusWidget() ? open->focusWidget() : open, static_cast<Qt::Key>(key));
        QTest::keyClick(open->focusWidget() ? open->focusWidget() : open, Qt::Key_Escape);
        closed = !open->isVisible();
        if (!closed) static_cast<QDialog*>(open)->reject();
    });
    stage.window.actions()["keys"]->trigger();
    CHECK(closed);
    for (QAction* a : stage.window.actions().all()) CHECK(a->shortcut() == before[a->objectName()]);
}

TEST_CASE("the tape's key, or another level, in the middle of a tape") {
    Stage stage(small());
    QAction* tape = stage.window.actions()["tape"];
    const QPoint at = stage.pixelOf(0, 0);
    tape->trigger();
    stage.press(at);
    stage.move(at + QPoint(15, 5));
    CHECK(stage.place.standpoint.tape().size() == 2);
    tape->trigger();
    stage.move(at + QPoint(30, 5));
    CHECK(stage.place.standpoint.tape().empty());
    stage.release(at + QPoint(30, 5));
    tape->trigger();
    stage.press(at);
    stage.move(at + QPoint(15, 5));
    stage.place.document.open(flatLevel(33, 65, 1), {}, "other");
    stage.move(at + QPoint(30, 5));
    stage.release(at + QPoint(30, 5));
    CHECK(stage.place.standpoint.tape().empty());
}

// Every hand, let go at every moment of its life in every way.
TEST_CASE("every hand lets go completely, whatever ends its moment") {
    Stage stage(small());
    Document& document = stage.place.document;
    const QPoint at = stage.pixelOf(0, 0);
    struct HandCase {
        const char* name;
        std::function<void()> ready;  // before the press
        Qt::MouseButton button = Qt::LeftButton;
        Qt::KeyboardModifiers modifiers = {};
        std::function<void()> after = [] {};
    };
    QAction* tape = stage.window.actions()["tape"];
    const auto path = [&](StrokePath p) { return [&stage, p] { stage.place.toolbox.setPath(p); }; };
    const HandCase hands[] = {
        {"stroke", path(StrokePath::free)},
        {"straight line", path(StrokePath::straight)},
        {"line of clicks", path(StrokePath::corners)},
        {"handles",
         [&] {
             stage.place.toolbox.setPath(StrokePath::free), stage.move(at, Qt::NoButton),
                 stage.view().setHandling(true);
         }},
        {"tape",
         [&] { tape->trigger(); },
         Qt::LeftButton,
         {},
         [&] {
             if (tape->isChecked()) tape->trigger();
         }},
        {"looking", [] {}, Qt::RightButton},
        {"orbiting", [] {}, Qt::RightButton, Qt::ControlModifier},
        {"sliding", [] {}, Qt::MiddleButton},
        {"travelling",
         [&] { QTest::keyPress(stage.canvas(), Qt::Key_W); },
         Qt::RightButton,
         {},
         [&] { QTest::keyRelease(stage.canvas(), Qt::Key_W); }},
    };
    const std::pair<const char*, std::function<void()>> ends[] = {
        {"escape", [&] { stage.key(Qt::Key_Escape); }},
        {"lost focus", [&] { stage.loseFocus(); }},
        {"a dialog", [&] { stage.dismissDialog(); }},
        {"finished work",
         [&] {
             stage.window.work().start<int>(
                 "Nothing", [](const Context&) -> Result<int> { return 1; }, [](Result<int>) {});
             stage.window.work().wait();
         }},
        {"another level", [&] { document.open(small(), {}, "again"); }},
        {"another station",
         [&] { stage.place.standpoint.setStation("light"), stage.place.standpoint.setStation("shape"); }},
        {"another tool", [&] { stage.place.toolbox.setTool(Tool::smooth), stage.place.toolbox.setTool(Tool::raise); }},
        {"undo",
         [&] {
             stage.window.actions()["undo"]->trigger();
             stage.view().letGo();
         }},
    };
    for (const HandCase& hand : hands)
        for (const auto& [end, how] : ends)
            for (const int moment : {0, 1, 2}) {  // just pressed, moved, pressed again after a release
                INFO(hand.name << ", ended by " << end << ", moment " << moment);
                hand.ready();
                stage.press(at, hand.modifiers, hand.button);
                if (moment > 0) stage.move(at + QPoint(9, 4), hand.button);
                if (moment > 1) {
                    stage.release(at + QPoint(9, 4), hand.button);
                    stage.press(at + QPoint(12, 0), hand.modifiers, hand.button);
                }
                how();
                CHECK_FALSE(stage.view().handBusy());
                CHECK_FALSE(document.stroking());
                CHECK_FALSE(stage.view().handling());
                const Level left = document.level();
                const Camera camera = stage.view().camera();
                stage.move(at + QPoint(25, 9), hand.button);
                stage.release(at + QPoint(25, 9), hand.button);
                QTest::qWait(1);
                CHECK(document.level() == left);
                CHECK(stage.view().camera() == camera);
                hand.after();
                CHECK(document.level() == document.standing());
            }
    CHECK(checkLevel(document.standing()).empty());
}

TEST_CASE("looking round in the middle of a line of clicks lays it aside and takes it up again") {
    Stage stage(small());
    stage.place.toolbox.setPath(StrokePath::corners);
    const QPoint at = stage.pixelOf(0, 0);
    QTest::mouseClick(stage.canvas(), Qt::LeftButton, {}, at);
    stage.drag(at + QPoint(40, 40), at + QPoint(60, 44), {}, Qt::RightButton);
    REQUIRE(stage.view().handBusy());
    const QPoint next = stage.pixelOf(15, 5);
    QTest::mouseClick(stage.canvas(), Qt::LeftButton, {}, next);
    stage.key(Qt::Key_Return);
    CHECK_FALSE(stage.view().handBusy());
    CHECK(stage.place.document.history().entries().size() == 2);
    CHECK(altitudeAt(stage.place.document.standing(), 7, 2) > altitudeAt(small(), 7, 2));
}

// --- work that finishes late ----------------------------------------------------------------------------------------

TEST_CASE("work on a level that went on is done on what is there then, and neither is lost") {
    Stage stage(small());
    const Level before = stage.place.document.standing();
    stage.window.workOn("Higher", LevelJob::onAll([](Level& l, const Context&) -> Status {
                            for (int r = 0; r < 40; ++r)
                                l.strata[0].heights.set(5, r, l.strata[0].heights.at(5, r) + 7);
                            return {};
                        }));
    stage.place.strokeAlong({{20, 0, 10}, {30, 0, 10}}, 1, false);
    stage.window.work().wait();
    const Level& now = stage.place.document.standing();
    CHECK(groundSample(now, 5, 20) == groundSample(before, 5, 20) + 7);
    CHECK(altitudeAt(now, 25, 10) > altitudeAt(before, 25, 10));
    CHECK(stage.place.document.history().entries().size() == 3);
}

TEST_CASE("pictures become a layer although a stroke or a preview goes on when they are read") {
    const Files files;
    QImage image(64, 64, QImage::Format_RGB32);
    image.fill(QColor(90, 140, 60));
    REQUIRE(image.save(files.path("heath_colour.png")));
    for (const bool preview : {false, true}) {
        Stage stage(small());
        stage.place.standpoint.setStation("cover");
        bool answered = false;
        stage.answer([&](QWidget* open) {
            static_cast<QDialog*>(open)->accept();
            answered = true;
        });
        stage.window.station<CoverStation>()->addLayerFrom({files.path("heath_colour.png")});
        for (int i = 0; i < 400 && !answered; ++i) QTest::qWait(5);
        REQUIRE(answered);
        REQUIRE(stage.window.work().running());
        const QPoint at = stage.pixelOf(0, 0);
        if (preview) {
            Level shown = stage.place.document.standing();
            shown.strata[0].heights.set(9, 9, 50);
            stage.place.document.showPreview(commitWork(stage.place.document.standing(), shown).take());
        } else {
            stage.press(at);
            stage.move(at + QPoint(8, 0));
            REQUIRE(stage.place.document.stroking());
        }
        stage.window.work().wait();
        const Level& now = stage.place.document.standing();
        REQUIRE(now.layers.size() == 5);
        CHECK(stage.place.layer() == &stage.place.document.level().layers.back());
        CHECK(stage.place.document.history().entries().size() == (preview ? 2 : 3));
        CHECK(checkLevel(now).empty());
    }
}

TEST_CASE("erasing where living rules gave nothing is kept against them") {
    Level level = small();
    level.layers[2].rules = {{RuleKind::altitude, RuleEffect::add, 380, 400, 0}};
    wakeRules(level, level.layers[2].id, false);
    Stage stage(level);
    stage.place.chooseLayer(level.layers[2].id);
    stage.place.takeUp(Tool::erase);
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.strength = 1, s.radius = 12; });
    stage.place.strokeAlong({{0, 0, 0}, {1, 0, 0}}, 1, false);
    REQUIRE(stage.place.document.history().entries().size() == 2);
    // Rules that give everything now: the hand still holds this place.
    stage.place.document.edit("Rule", [](Level& l) {
        l.layers[2].rules[0].from = -100;
        refreshLaid(l, l.layers[2].id);
    });
    const Level& now = stage.place.document.standing();
    CHECK(now.layers[2].coverage.at(64, 48) < 2000);
    CHECK(now.layers[2].coverage.at(10, 10) == kFullCover);
}

TEST_CASE("a level without a stratum that shows opens, and the first stroke is refused in words") {
    Level level = small();
    level.strata[0].visible = false;
    Stage stage(level);
    strokeOn(stage, 0, 0);
    CHECK(stage.window.lastMessage().contains("does not show"));
    CHECK(stage.place.document.history().entries().size() == 1);
}

// --- at random ------------------------------------------------------------------------------------------------------

TEST_CASE("random hands never end the program, come to rest, and can be undone to the start", "[property]") {
    const Files files;
    for (const uint32_t seed : {1u, 2u, 3u}) {
        const Level start = lopsidedLevel(seed);
        Stage stage(start);
        Random random(seed);
        Document& document = stage.place.document;
        QList<QAction*> actions;
        const QStringList apart{"quit",   "menu", "open",      "new",      "import", "save",
                                "saveAs", "keys", "keepBrush", "fullView", "theme"};
        for (QAction* a : stage.window.actions().all())
            if (!apart.contains(a->objectName())) actions << a;
        QPoint at(300, 300);
        const Qt::MouseButton buttons[] = {Qt::LeftButton, Qt::LeftButton, Qt::LeftButton, Qt::RightButton,
                                           Qt::MiddleButton};
        Qt::MouseButton held = Qt::NoButton;
        const auto anywhere = [&] {
            return QPoint(wholeBetween(random, 0, stage.canvas()->width() - 1),
                          wholeBetween(random, 0, stage.canvas()->height() - 1));
        };
        for (int i = 0; i < 260; ++i) {
            switch (wholeBetween(random, 0, 11)) {
                case 0:
                case 1:
                case 2:
                    held = buttons[wholeBetween(random, 0, 4)];
                    at = anywhere();
                    stage.press(at, wholeBetween(random, 0, 4) ? Qt::NoModifier : Qt::ShiftModifier, held);
                    break;
                case 3:
                case 4:
                case 5: at = anywhere(), stage.move(at, held); break;
                case 6: stage.release(at, held), held = Qt::NoButton; break;
                case 7:
                case 8: actions[wholeBetween(random, 0, static_cast<int>(actions.size()) - 1)]->trigger(); break;
                case 9:
                    stage.key(std::array{Qt::Key_Escape, Qt::Key_Return, Qt::Key_Backspace,
                                         Qt::Key_W}[static_cast<size_t>(wholeBetween(random, 0, 3))]);
                    break;
                case 10:
                    if (!stage.window.work().running()) stage.window.saveTo(files.path("random.jamhill"));
                    break;
                case 11: QTest::qWait(wholeBetween(random, 0, 30)); break;
            }
        }
        stage.view().letGo(true);
        document.lookBack(false);
        document.dropPreview();
        stage.place.standpoint.setStation("light");
        stage.window.work().wait();
        stage.settle();
        CHECK(stage.view().settled());
        CHECK(checkLevel(document.standing()).empty());
        while (document.history().canUndo()) document.undo();
        INFO("seed " << seed);
        CHECK(document.level() == start);
    }
}
