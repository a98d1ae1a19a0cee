// What checks find, on the trail and before handing over; and the boxes that are made of the list of writers.
#include <catch2/catch.hpp>

#include <QCheckBox>
#include <QDir>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>

#include "folder.h"
#include "handover/handover.h"
#include "levels.h"
#include "panels/trail.h"
#include "panels/verdict_list.h"
#include "stage.h"
#include "stations/hand_over/hand_over_station.h"
#include "walk/spots.h"
#include "water/water.h"

using namespace jam;
using namespace jam::test;

namespace {

// A pool that stands higher than its rim, off the middle of an oblong level, and a layer that shows nowhere.
Level leaking() {
    Level level = flatLevel(129, 65, 2, 2);
    level.lowest = -50, level.highest = 120;
    for (int r = 20; r < 30; ++r)
        for (int c = 20; c < 30; ++c) level.strata[0].heights.set(c, r, -4);
    Level filled = level;
    Pool p;
    p.name = "Mill pond", p.height = 0.6f, p.x = level.originX + 50, p.z = level.originZ + 50;
    REQUIRE(addPool(filled, p));
    return std::move(commitWork(level, filled).value().level);
}

QStringList rows(Stage& stage) {
    QStringList all;
    const auto* list = stage.window.findChild<VerdictList*>()->findChild<QListWidget*>("verdicts");
    for (int i = 0; i < list->count(); ++i) all << list->item(i)->text();
    return all;
}

}  // namespace

TEST_CASE("what a check warns of stands on the trail, is gone to, listed before handing over, and mended there") {
    Stage stage(leaking());
    stage.settle();
    const auto* water = stage.window.trail()->station("water");
    CHECK(water->mood() == Station::Mood::warns);
    CHECK(water->state().startsWith("Mill pond leaks "));
    CHECK(water->state().endsWith("0.6 m short"));
    // A click on it goes there.
    emit stage.window.trail()->stateChosen("water");
    stage.settle();
    const auto there = stage.window.verdicts().place("water");
    REQUIRE(there);
    const auto looked = stage.view().pick(QPointF(stage.view().width() / 2.0, stage.view().height() / 2.0));
    REQUIRE(looked);
    CHECK(std::hypot(looked->x - there->x, looked->z - there->z) < 3);
    stage.window.actions()["handOver"]->trigger();
    stage.settle();
    CHECK(rows(stage).size() == 2);
    CHECK(rows(stage)[0] == water->state());
    CHECK(rows(stage)[1].endsWith("shows nowhere"));
    auto* list = stage.find<QListWidget>("verdicts");
    list->setCurrentRow(0);
    const auto mends = stage.window.findChild<VerdictList*>()->findChildren<QPushButton*>();
    REQUIRE(mends.size() == 2);
    CHECK(mends[0]->text() == "Lower it to its brim");
    mends[0]->click();
    stage.window.work().wait();
    stage.settle();
    CHECK(water->mood() == Station::Mood::passes);
    CHECK(rows(stage).size() == 1);
    CHECK(stage.place.document.history().entries().back().what == "Lower it to its brim");
    stage.place.document.undo();
    stage.settle();
    CHECK(water->mood() == Station::Mood::warns);
    // Deleted, it is not told of any more, before anything is looked at again.
    stage.place.document.edit("Delete", [](Level& l) { removeWater(l, l.pools[0].id); });
    CHECK(stage.window.verdicts().all("water").empty());
    stage.settle();
    CHECK(rows(stage).size() == 1);
}

TEST_CASE("spots that nobody gets to are told when reach is known, by the body that goes") {
    Level level = flatLevel(65, 129, 2, 2);
    for (int r = 0; r < 129; ++r)
        for (int c = 0; c < 65; ++c)
            if (std::min({c, r, 64 - c, 128 - r}) < 3) level.strata[0].heights.set(c, r, 30);
    for (int r = 40; r < 60; ++r)
        for (int c = 20; c < 40; ++c) level.strata[0].heights.set(c, r, 1.9f);
    level.highest = 60;
    for (const auto& [name, kind, z] : {std::tuple{"Gate", "start", 200.0}, {"Ledge", "goal", 100.0}}) {
        Spot s;
        s.name = name, s.kind = kind, s.x = level.originX + 60, s.z = level.originZ + z;
        REQUIRE(addSpot(level, s));
    }
    Stage stage(level);
    stage.settle();
    const auto* walk = stage.window.trail()->station("walk");
    CHECK(walk->mood() == Station::Mood::warns);
    CHECK(walk->state() == "1 of 2 spots reached");
    // Whoever stands on steeper ground gets up there.
    stage.place.document.edit("Runner", [](Level& l) { l.body = "runner"; });
    stage.settle();
    CHECK(walk->mood() == Station::Mood::passes);
}

TEST_CASE("every writer and each of its options has a box or a list, and what is chosen is what goes out") {
    const Folder folder;
    Stage stage(leaking());
    stage.window.actions()["handOver"]->trigger();
    stage.settle();
    const auto facts = [&] {
        QString all;
        for (const auto* l : stage.window.findChildren<QLabel*>()) all += l->text() + "\n";
        return all;
    };
    for (const Writer* w : writers()) {
        INFO(w->name);
        auto* box = stage.find<QCheckBox>(w->name);
        CHECK(box->isChecked() == w->usual);
        CHECK_FALSE(box->toolTip().isEmpty());
        for (const WriterOption& o : w->options) {
            INFO(o.name);
            if (o.words.empty()) CHECK(stage.find<QCheckBox>(o.name)->isChecked() == (o.usual == 1));
            else CHECK(stage.find<QComboBox>(o.name)->count() == static_cast<int>(o.words.size()));
        }
    }
    CHECK(facts().contains("heightmap.png: 129 × 65, 16 bits"));
    CHECK(facts().contains("water-depth.png"));
    stage.find<QCheckBox>("heightmap")->click();
    stage.find<QCheckBox>("single-weights")->click();
    stage.find<QComboBox>("weight-bits")->setCurrentIndex(1);
    CHECK_FALSE(facts().contains("heightmap.png"));
    stage.find<QLineEdit>("handOverFolder")->setText(QString::fromStdString((folder.path / "out").string()));
    stage.find<QPushButton>("handOver")->click();
    stage.window.work().wait();
    const QStringList files = QDir(QString::fromStdString((folder.path / "out").string())).entryList(QDir::Files);
    CHECK(files == QStringList{"manifest.json", "water-depth.png", "water.png", "weights-1.png"});
}
