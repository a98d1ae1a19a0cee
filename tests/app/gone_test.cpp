// Late work on what is gone or is another by then: menus and buttons that were there before, work that finishes on a
// newer level, looking back while a button is pressed, surveys that run out of memory.
#include <catch2/catch.hpp>

#include <atomic>
#include <QAction>
#include <QApplication>
#include <QCheckBox>
#include <QDialog>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSignalSpy>
#include <QTemporaryDir>
#include <QTimer>
#include <thread>

#include "cover/mix.h"
#include "cover/rules.h"
#include "files/level_file.h"
#include "level/ground.h"
#include "level/strata.h"
#include "levels.h"
#include "stage.h"
#include "stations/cover/cover_station.h"
#include "stations/cover/layer_strip.h"
#include "stations/hand_over/hand_over_station.h"
#include "stations/shape/strata_panel.h"
#include "stations/shape/whole_panel.h"
#include "survey/check.h"
#include "tasks/when_rested.h"
#include "water/water.h"
#include "workplace/clips.h"

using namespace jam;
using namespace jam::test;

namespace {

Level small() {
    Level level = hillyLevel(129, 97, 6, 4);
    level.name = "small";
    addStratum(level, "upper", 0);
    level.layers[2].rules = {{RuleKind::slope, RuleEffect::add, 0, 30, 5}};
    return level;
}

// Every action of a menu and of those in it.
QList<QAction*> allOf(QMenu* menu) {
    QList<QAction*> all;
    for (QAction* a : menu->actions())
        if (a->menu()) all += allOf(a->menu());
        else if (!a->isSeparator()) all << a;
    return all;
}

void sound(Stage& stage) {
    stage.window.work().wait();
    stage.settle();
    CHECK(checkLevel(stage.place.document.standing()).empty());
}

}  // namespace

TEST_CASE("a layer's menu that is open while the layer goes does nothing but say so") {
    Stage stage(small());
    Document& document = stage.place.document;
    stage.window.actions()["cover"]->trigger();
    stage.settle();
    const int count = [&] {
        int n = 0;
        stage.place.chooseLayer(document.level().layers[2].id);
        stage.answer([&](QWidget* open) {
            n = static_cast<int>(allOf(qobject_cast<QMenu*>(open)).size());
            open->close();
        });
        emit stage.window.findChild<LayerStrip*>()->menuWanted(document.level().layers[2].id, {300, 300});
        return n;
    }();
    REQUIRE(count > 8);
    // Files that some ask for are not chosen.
    QTimer closing;
    QObject::connect(&closing, &QTimer::timeout, &closing, [] {
        if (auto* dialog = qobject_cast<QDialog*>(QApplication::activeModalWidget())) dialog->reject();
    });
    closing.start(20);
    for (int i = 0; i < count; ++i) {
        document.open(ReadyLevel(small()), {}, "Open");
        const uint32_t id = document.level().layers[2].id;
        stage.place.chooseLayer(id);
        QString what;
        Level without;
        stage.answer([&](QWidget* open) {
            QAction* a = allOf(qobject_cast<QMenu*>(open))[i];
            what = a->text();
            // It goes meanwhile, as when work finishes.
            document.edit("Delete layer", [&](Level& l) { REQUIRE(removeLayer(l, id)); });
            without = document.standing();
            open->close();
            a->trigger();
        });
        emit stage.window.findChild<LayerStrip*>()->menuWanted(id, {300, 300});
        INFO(what.toStdString());
        REQUIRE_FALSE(what.isEmpty());
        sound(stage);
        CHECK(document.standing() == without);
    }
}

TEST_CASE("work on a layer, a pool or a course that goes while it runs is refused in words") {
    Stage stage(small());
    Document& document = stage.place.document;
    const uint32_t layer = document.level().layers[2].id;
    std::atomic<bool> go{false};
    const auto late = [&](const std::function<Status(Level&)>& work) {
        go = false;
        stage.window.workOn("Late", LevelJob::onAll([&go, work](Level& l, const Context&) {
                                while (!go) std::this_thread::sleep_for(std::chrono::milliseconds(2));
                                return work(l);
                            }));
    };
    late([layer](Level& l) { return mergeDown(l, layer); });
    document.edit("Delete layer", [&](Level& l) { REQUIRE(removeLayer(l, layer)); });
    const Level without = document.standing();
    go = true;
    sound(stage);
    CHECK(document.standing() == without);
    CHECK(stage.window.lastMessage().contains("gone"));
    // Begun on one level, it does not end in another that has as many steps.
    document.open(ReadyLevel(small()), {}, "Open");
    document.edit("Step", [](Level& l) { l.sun.azimuth = 7; });
    late([](Level& l) -> Status {
        l.strata[0].heights.set(3, 3, 44);
        return {};
    });
    Level other = flatLevel(65, 65, 2);
    other.name = "other";
    document.open(ReadyLevel(other), {}, "Open");
    document.edit("Step", [](Level& l) { l.sun.azimuth = 9; });
    go = true;
    sound(stage);
    CHECK(document.standing().name == "other");
    CHECK(document.standing().columns == 65);
}

TEST_CASE("buttons of strata do nothing to the standing level while another is looked at") {
    Stage stage(small());
    Document& document = stage.place.document;
    stage.window.actions()["shape"]->trigger();
    stage.settle();
    stage.find<QToolButton>("partStrata")->click();
    // The step before had three strata, the standing level has one.
    document.edit("Add", [](Level& l) { l.activeStratum = addStratum(l, "third", 1); });
    document.edit("Delete", [](Level& l) {
        REQUIRE(removeStratum(l, l.strata[2].id));
        REQUIRE(removeStratum(l, l.strata[1].id));
    });
    const Level standing = document.standing();
    document.lookBack(true);
    REQUIRE(document.level().strata.size() == 3);
    for (const char* id :
         {"mergeStratum", "removeStratum", "duplicateStratum", "addStratum", "protectStratum", "takeStep"}) {
        stage.find<QToolButton>(id)->click();
        INFO(id);
        CHECK(document.standing() == standing);
    }
    document.lookBack(false);
    CHECK(document.level() == standing);
    sound(stage);
}

TEST_CASE("a level that was never handed over is never told as handed over") {
    const QTemporaryDir folder;
    Stage stage(small());
    Document& document = stage.place.document;
    auto* station = stage.window.station<HandOverStation>();
    CHECK(station->state().mood == Station::Mood::plain);
    document.edit("Step", [](Level& l) { l.sun.azimuth = 7; });
    station->handOverTo(folder.filePath("out"), {});
    sound(stage);
    CHECK(station->state().mood == Station::Mood::passes);
    document.undo();
    CHECK(station->state().mood == Station::Mood::plain);
    document.redo();
    CHECK(station->state().mood == Station::Mood::passes);
    // Another one with as many steps.
    document.open(ReadyLevel(small()), {}, "Open");
    CHECK(station->state().text.contains("not"));
    document.edit("Step", [](Level& l) { l.sun.azimuth = 7; });
    CHECK(station->state().mood == Station::Mood::plain);
    CHECK(station->state().text.contains("not"));
}

TEST_CASE("a survey that runs out of memory is told in words, and the next one goes on") {
    int runs = 0;
    bool found = false;
    WhenRested rested("Surveying", 1, [&]() -> WhenRested::Job {
        return [&](const Context&) -> WhenRested::Found {
            if (runs++ == 0) throw std::bad_alloc();
            return [&] { found = true; };
        };
    });
    QSignalSpy failed(&rested, &WhenRested::failed);
    rested.now();
    QTRY_COMPARE(failed.count(), 1);
    CHECK(failed[0][0].value<Error>().sentence().find("needs more memory") != std::string::npos);
    CHECK_FALSE(found);
    QTRY_VERIFY(!rested.busy());
    rested.now();
    QTRY_VERIFY(found);
}

TEST_CASE("work on the whole ground shows nothing before something was chosen") {
    Stage stage(small());
    Document& document = stage.place.document;
    const Level level = document.standing();
    stage.key(Qt::Key_H);
    auto* panel = stage.window.findChild<WholePanel*>();
    REQUIRE(panel->isVisible());
    stage.settle();
    CHECK_FALSE(panel->busy());
    CHECK_FALSE(document.previewing());
    CHECK(document.level() == level);
    // Lifted as it is suggested, with everything in it, and closed again.
    panel->findChild<QPushButton*>("wholeApply")->click();
    sound(stage);
    CHECK(document.standing().startHeight == level.startHeight + 10);
    CHECK(document.standing().highest == level.highest + 10);
    CHECK(document.standing().strata == level.strata);
    document.undo();
    panel->findChild<QCheckBox*>("wholeAlone")->click();
    REQUIRE(stage.waitFor([&] { return document.previewing(); }));
    CHECK(document.level().startHeight == level.startHeight);
    CHECK(groundSample(document.level(), 9, 9) == Approx(groundSample(level, 9, 9) + 10).margin(1e-3));
    stage.key(Qt::Key_H);
    CHECK(document.level() == level);
}

TEST_CASE("a clip that cannot be set down any more leaves nothing of its preview") {
    Stage stage(small());
    Document& document = stage.place.document;
    Clips& clips = stage.place.clips;
    stage.window.actions()["shape"]->trigger();
    clips.setClipping(true);
    REQUIRE(clips.lift({-30, -20}, {10, 15}));
    Placement p = clips.placement();
    p.x += 12;
    clips.move(p);
    const Level standing = document.standing();
    REQUIRE(stage.waitFor([&] { return document.previewing() && !(document.level() == standing); }));
    CHECK(clips.trouble().isEmpty());
    // Wholly beside the level, and far beyond its range.
    for (const bool beside : {true, false}) {
        Placement bad = p;
        if (beside) bad.x = 4000;
        else bad.raise = 9000;
        clips.move(bad);
        REQUIRE(stage.waitFor([&] { return !clips.trouble().isEmpty(); }));
        CHECK_FALSE(document.previewing());
        CHECK(document.level() == standing);
        clips.setDown();
        stage.settle();
        CHECK(document.standing() == standing);
        clips.move(p);
        REQUIRE(stage.waitFor([&] { return clips.trouble().isEmpty() && document.previewing(); }));
    }
    clips.putAway();
    CHECK(document.level() == standing);
}

TEST_CASE("a name that no file could keep is refused by name fields, and the level stays") {
    Stage stage(small());
    const Level before = stage.place.document.standing();
    for (const auto& [station, part, field] :
         {std::tuple{"layOut", "", "levelName"}, std::tuple{"cover", "partLayer", "layerName"}}) {
        stage.window.actions()[station]->trigger();
        stage.settle();
        if (*part) stage.find<QToolButton>(part)->click();
        auto* name = stage.find<QLineEdit>(field);
        name->setText(QString(600, 'n'));
        emit name->editingFinished();
        INFO(field);
        CHECK(stage.place.document.standing() == before);
        CHECK(stage.window.lastMessage().contains("longer than 500 bytes"));
        name->setText(QString(160, QChar(0x67ff)));
        emit name->editingFinished();
        CHECK_FALSE(stage.place.document.standing() == before);
        stage.place.document.undo();
    }
}
