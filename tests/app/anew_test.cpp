// Every panel shows what a panel made anew on the same level would show: after undo, after another level was opened,
// after what it shows was deleted elsewhere.
#include <catch2/catch.hpp>

#include <QAbstractButton>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMap>
#include <QSlider>
#include <QSpinBox>
#include <QTableWidget>

#include "commit/commit.h"
#include "course/bake.h"
#include "cover/rules.h"
#include "dress/kinds.h"
#include "fence/fence.h"
#include "level/strata.h"
#include "levels.h"
#include "panels/bench.h"
#include "panels/sheet.h"
#include "stage.h"
#include "walk/spots.h"
#include "water/water.h"

using namespace jam;
using namespace jam::test;

namespace {

Level furnished(uint32_t seed) {
    Level level = lopsidedLevel(seed);
    const Level before = level;
    for (const CourseUse use : {CourseUse::carve, CourseUse::grade}) {
        Course c;
        c.use = use, c.sunk = use == CourseUse::carve ? 1.f : 0.f;
        for (const double share : {0.2, 0.5, 0.9}) {
            Post p;
            p.x = level.originX + share * level.width();
            p.z = level.originZ + (use == CourseUse::carve ? 0.3 : 0.6) * level.depth();
            p.height = 20 - 9 * static_cast<float>(share);
            p.width = 2 + static_cast<float>(seed);
            c.posts.push_back(p);
        }
        addCourse(level, use == CourseUse::carve ? "bed" : "road", c);
    }
    Stream brook;
    brook.name = "brook", brook.course = level.strata[level.strata.size() - 2].id;
    REQUIRE(addStream(level, brook));
    for (const char* name : {"one", "two"}) {
        Spot s;
        s.name = name, s.kind = name, s.x = level.originX + 150 + 20.0 * static_cast<double>(level.spots.size());
        s.z = level.originZ + 20;
        REQUIRE(addSpot(level, s));
    }
    keepFence(level, "nothing");
    Kind extra = level.kinds.back();
    extra.name = "more " + std::to_string(seed), extra.rows = Rows::direction,
    extra.sizeTo = 1.5f + static_cast<float>(seed);
    extra.keepsOff.push_back({KeptOff::What::water, 0, 2});
    REQUIRE(addKind(level, extra));
    Result<Commit> done = commitWork(before, std::move(level));
    REQUIRE(done);
    return std::move(done.value().level);
}

// What a control shows: its value, whether it can be used and seen.
QString shownBy(const QWidget* w) {
    QString value;
    if (const auto* b = qobject_cast<const QAbstractButton*>(w)) value = b->text() + (b->isChecked() ? " on" : " off");
    else if (const auto* c = qobject_cast<const QComboBox*>(w)) {
        for (int i = 0; i < c->count(); ++i) value += (i == c->currentIndex() ? "*" : "") + c->itemText(i) + ";";
    } else if (const auto* d = qobject_cast<const QDoubleSpinBox*>(w)) value = d->text();
    else if (const auto* n = qobject_cast<const QSpinBox*>(w)) value = n->text();
    else if (const auto* l = qobject_cast<const QLineEdit*>(w)) value = l->text();
    else if (const auto* t = qobject_cast<const QLabel*>(w)) value = t->text();
    else if (const auto* list = qobject_cast<const QListWidget*>(w)) {
        for (int i = 0; i < list->count(); ++i) value += list->item(i)->text() + ";";
    } else if (const auto* table = qobject_cast<const QTableWidget*>(w)) {
        for (int r = 0; r < table->rowCount(); ++r)
            for (int k = 0; k < table->columnCount(); ++k)
                value += (table->item(r, k) ? table->item(r, k)->text() : QString()) + ";";
    } else return {};
    return value + (w->isEnabled() ? "" : " (disabled)");
}

// All that is seen at every station, by what it is.
QMap<QString, QString> picture(Stage& stage) {
    QMap<QString, QString> all;
    for (const auto& station : stage.window.stations()) {
        stage.window.actions()[station->id().constData()]->trigger();
        stage.settle();
        REQUIRE(stage.waitFor([&] { return stage.window.reach().fresh(); }));
        QMap<QString, int> count;
        for (QWidget* part : {static_cast<QWidget*>(stage.window.sheet()), static_cast<QWidget*>(stage.window.bench())})
            for (const QWidget* w : part->findChildren<QWidget*>()) {
                // The list of what was done is another one, of course, and what was said in passing.
                if (!w->isVisible() || w->objectName() == "history" || w->objectName() == "said" ||
                    w->objectName().startsWith("qt_") || qobject_cast<const QSlider*>(w))
                    continue;
                const QString shows = shownBy(w);
                if (shows.isNull()) continue;
                QString key = station->id() + " " + w->metaObject()->className();
                for (const QWidget* p = w; p; p = p->parentWidget())
                    if (!p->objectName().isEmpty()) key += "<" + p->objectName();
                all[key + " " + QString::number(count[key]++)] = shows;
            }
        all[station->id() + " on the trail"] = station->state().text;
    }
    return all;
}

// The same choices in another window.
void choose(Stage& to, const Stage& from) {
    const Standpoint& s = from.place.standpoint;
    to.place.chooseLayer(s.layer());
    to.place.standpoint.setCourse(s.course(), s.post());
    to.place.standpoint.setWater(s.water());
    to.place.standpoint.setSpot(s.spot());
}

void checkAsAnew(Stage& stage, const char* after) {
    stage.settle();
    Stage fresh(stage.place.document.standing());
    choose(fresh, stage);
    const QMap<QString, QString> now = picture(stage), anew = picture(fresh);
    INFO("after " << after);
    QStringList differ;
    for (const QString& key : now.keys() + anew.keys())
        if (now.value(key) != anew.value(key) && !differ.join("\n").contains(key))
            differ << key + ":\n    shows “" + now.value(key) + "”\n    anew  “" + anew.value(key) + "”";
    INFO(differ.join("\n").toStdString());
    CHECK(differ.isEmpty());
}

}  // namespace

TEST_CASE("panels show what panels made anew would show, whatever happened elsewhere") {
    Stage stage(furnished(3));
    Document& document = stage.place.document;
    const auto chooseSome = [&] {
        const Level& l = document.level();
        stage.place.standpoint.setCourse(l.strata.back().id, 1);
        stage.place.standpoint.setWater(l.pools[0].id);
        stage.place.standpoint.setSpot(l.spots[1].id);
        stage.place.chooseLayer(l.layers[2].id);
    };
    chooseSome();
    (void)picture(stage);  // every page was made, and has seen the level as it was
    SECTION("edits of everything, and undo") {
        document.edit("Much", [](Level& l) {
            l.name = "other";
            l.strata[0].opacity = 0.4f, l.strata[1].locked = true;
            l.strata.back().course->posts[1].width = 9;
            l.pools[0].height -= 1, l.pools[0].look.waves = 0.7f;
            l.streams[0].depth = 1.1f;
            l.spots[1].name = "two and a half", l.spots[1].facing = 77;
            l.layers[2].tileSize = 17, l.layers[2].look.turn = 33, l.layers[2].name = "Loam";
            l.layers[2].rules[0].to = 44;
            l.sun = {12, 66};
            l.cliff = 21;
            l.lowest -= 10, l.highest += 20, l.startHeight += 3;
            l.fences[0].name = "something";
        });
        checkAsAnew(stage, "edits");
        document.undo();
        checkAsAnew(stage, "undo");
        document.redo();
        checkAsAnew(stage, "redo");
    }
    SECTION("another level") {
        document.open(ReadyLevel(furnished(5)), {}, "Open");
        checkAsAnew(stage, "another level");
        document.open(ReadyLevel(flatLevel(65, 33, 2)), {}, "Open");
        checkAsAnew(stage, "an almost empty level");
    }
    SECTION("what was chosen is deleted elsewhere") {
        document.edit("Delete", [&](Level& l) {
            REQUIRE(removeStratum(l, l.strata.back().id));
            removeWater(l, l.pools[0].id);
            removeSpot(l, l.spots[1].id);
            REQUIRE(removeLayer(l, l.layers[2].id));
            l.fences.clear();
        });
        checkAsAnew(stage, "deleting");
        document.undo();
        checkAsAnew(stage, "undoing that");
    }
}
