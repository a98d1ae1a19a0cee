// Every control of every page is used once, on an almost empty level and on a full one, with whatever it opens
// dismissed: nothing ends the program, and the level that is left can be kept. Every control has a name that can be
// read aloud.
#include <catch2/catch.hpp>

#include <QAbstractButton>
#include <QAbstractItemView>
#include <QAccessible>
#include <QDialog>
#include <QDir>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <QSet>
#include <QSlider>
#include <QSpinBox>
#include <QTimer>
#include <QWheelEvent>
#include <set>

#include "commit/commit.h"
#include "course/bake.h"
#include "fence/fence.h"
#include "files/level_file.h"
#include "folder.h"
#include "levels.h"
#include "panels/bench.h"
#include "panels/number_field.h"
#include "panels/sheet.h"
#include "stage.h"
#include "survey/check.h"
#include "tasks/level_job.h"
#include "walk/spots.h"
#include "water/water.h"

using namespace jam;
using namespace jam::test;

namespace {

// Dismisses whatever opens, for as long as it lives.
class Dismisser : public QObject {
public:
    explicit Dismisser(QObject* parent) : QObject(parent) {
        connect(&timer_, &QTimer::timeout, this, [] {
            if (QWidget* popup = QApplication::activePopupWidget()) popup->close();
            else if (auto* dialog = qobject_cast<QDialog*>(QApplication::activeModalWidget())) dialog->reject();
        });
        timer_.start(15);
    }

private:
    QTimer timer_;
};

// What a control is to a person, so that it is used once, however often its page is made anew.
QString whatIs(const QWidget* w) {
    QString words = QString(w->metaObject()->className()) + "|" + w->objectName() + "|" + w->accessibleName() + "|" +
                    w->toolTip();
    if (const auto* b = qobject_cast<const QAbstractButton*>(w)) words += "|" + b->text();
    for (const QWidget* p = w->parentWidget(); p; p = p->parentWidget())
        if (!p->objectName().isEmpty()) words += "<" + p->objectName();
    return words;
}

bool isControl(const QWidget* w) {
    return qobject_cast<const QAbstractButton*>(w) || qobject_cast<const QComboBox*>(w) ||
           qobject_cast<const QSlider*>(w) || qobject_cast<const QAbstractSpinBox*>(w) ||
           qobject_cast<const QLineEdit*>(w) || qobject_cast<const QAbstractItemView*>(w);
}

// Part of another control, which a person never meets by itself.
bool isInner(const QWidget* w) {
    for (const QWidget* p = w->parentWidget(); p; p = p->parentWidget())
        if (qobject_cast<const QComboBox*>(p) || qobject_cast<const QAbstractSpinBox*>(p) ||
            qobject_cast<const QLineEdit*>(p) || qobject_cast<const QAbstractItemView*>(p))
            return true;
    return w->objectName().startsWith("qt_");
}

void use(QWidget* w) {
    if (auto* b = qobject_cast<QAbstractButton*>(w)) {
        const bool twice = b->isCheckable() && !b->autoExclusive() && !b->group();
        for (int i = 0; i < (twice ? 2 : 1); ++i) b->click();
    } else if (auto* c = qobject_cast<QComboBox*>(w)) {
        for (int i = 0; i < c->count(); ++i) c->setCurrentIndex(i), emit c->activated(i);
    } else if (auto* s = qobject_cast<QSlider*>(w)) {
        for (const int v : {s->minimum(), s->maximum(), (s->minimum() + s->maximum()) / 2}) s->setValue(v);
    } else if (auto* d = qobject_cast<QDoubleSpinBox*>(w)) {
        for (const double v : {d->minimum(), d->maximum(), (d->minimum() + d->maximum()) / 2}) d->setValue(v);
    } else if (auto* n = qobject_cast<QSpinBox*>(w)) {
        for (const int v : {n->minimum(), n->maximum(), (n->minimum() + n->maximum()) / 2}) n->setValue(v);
    } else if (auto* l = qobject_cast<QLineEdit*>(w)) {
        if (l->isReadOnly()) return;
        l->setText("a name");
        emit l->textEdited(l->text());
        emit l->editingFinished();
    } else if (auto* v = qobject_cast<QAbstractItemView*>(w)) {
        const QModelIndex first = v->model()->index(0, 0);
        if (first.isValid()) v->setCurrentIndex(first), emit v->activated(first);
    }
}

// Uses what is seen and was not used yet, until nothing is left; how many that were.
int useAll(Stage& stage, QWidget* where, QSet<QString>& used) {
    int count = 0;
    for (bool found = true; found && count < 600;) {
        found = false;
        for (QWidget* w : where->findChildren<QWidget*>()) {
            if (!isControl(w) || isInner(w) || !w->isVisible() || !w->isEnabled()) continue;
            const QString what = whatIs(w);
            if (used.contains(what)) continue;
            used << what;
            UNSCOPED_INFO(what.toStdString());
            use(w);
            QTest::qWait(2);
            stage.place.document.cancelStroke();
            ++count;
            found = true;
            break;  // it may have made others, or let this page go
        }
    }
    return count;
}

Level empty() {
    Level level = flatLevel(33, 65, 1);
    level.name = "empty";
    return level;
}

// A level that has none of the things of another.
Level stranger() {
    Level level = flatLevel(65, 33, 2);
    level.nextId = 900;
    for (Layer& l : level.layers) l.id = level.nextId++;
    for (Stratum& s : level.strata) s.id = level.nextId++;
    level.activeStratum = level.strata[0].id;
    return level;
}

// Each job once more, on a level without any of its things, and on one without just one of them.
void runOnOthers(const std::vector<std::pair<QString, LevelJob>>& jobs, const Level& now) {
    for (const auto& [what, job] : jobs) {
        INFO(what.toStdString());
        const Result<Level> made = job(stranger(), {});
        if (made) CHECK(checkLevel(made.value()).empty());
        else CHECK(made.error().sentence().size() > 10);
        CHECK((job.things().empty() || !made));
        for (const Thing& thing : job.things()) {
            Level without = now;
            const auto is = [&](const auto& x) { return x.id == thing.id; };
            if (thing.kind == ThingKind::layer) std::erase_if(without.layers, is);
            else if (thing.kind == ThingKind::fence) std::erase_if(without.fences, is);
            else if (thing.kind == ThingKind::pool) std::erase_if(without.pools, is);
            else std::erase_if(without.strata, is);
            const Result<Level> refused = job(without, {});
            REQUIRE_FALSE(refused);
            CHECK(refused.error().sentence().find("is gone") != std::string::npos);
        }
    }
}

// Sixteen layers, and something in every list.
Level full() {
    Level level = lopsidedLevel();
    for (int i = 10; i < kMaxLayers; ++i) addLayer(level, plainLayer("more " + std::to_string(i)));
    Course c;
    c.use = CourseUse::carve, c.sunk = 1;
    for (const double share : {0.2, 0.5, 0.9}) {
        Post p;
        p.x = level.originX + share * level.width(), p.z = level.originZ + 0.4 * level.depth();
        p.height = 20 - 9 * static_cast<float>(share);
        c.posts.push_back(p);
    }
    const uint32_t bed = addCourse(level, "bed", c);
    Stream brook;
    brook.name = "brook", brook.course = bed;
    REQUIRE(addStream(level, brook));
    c.use = CourseUse::grade;
    for (Post& p : c.posts) p.z += 30;
    addCourse(level, "road", c);
    for (const char* name : {"one", "two"}) {
        Spot s;
        s.name = name, s.kind = name, s.x = level.originX + 150 + level.spots.size() * 20.0, s.z = level.originZ + 20;
        REQUIRE(addSpot(level, s));
    }
    level.fenced = true;
    for (int r = 20; r < 60; ++r)
        for (int x = 30; x < 100; ++x) level.fence.set(x, r, kInside);
    keepFence(level, "field");
    Result<Commit> done = commitWork(lopsidedLevel(), level);
    REQUIRE(done);
    return std::move(done.value().level);
}

}  // namespace

TEST_CASE("every control of every page is used once, on an almost empty level and on a full one") {
    const Folder folder;
    QDir::setCurrent(QString::fromStdString(folder.path.string()));  // what is written somewhere is written here
    std::set<std::string> worked;
    for (const bool isFull : {false, true}) {
        Stage stage(isFull ? full() : empty());
        Document& document = stage.place.document;
        QSettings().setValue("handOverFolder", QString::fromStdString((folder.path / "out").string()));
        Dismisser dismiss(&stage.window);
        std::vector<std::pair<QString, LevelJob>> jobs;
        QObject::connect(&stage.window, &MainWindow::workBegun, &stage.window,
                         [&](const QString& what, const LevelJob& job) { jobs.emplace_back(what, job); });
        for (const auto& station : stage.window.stations()) {
            // Each begins with the level as it was, and with something that can be taken back.
            document.open(ReadyLevel(isFull ? full() : empty()), {}, "Open");
            document.edit("Step", [](Level& l) { l.strata[0].heights.set(7, 9, 3); });
            const Level& level = document.level();
            if (isFull) {
                stage.place.standpoint.setCourse(level.strata[2].id, 1);
                stage.place.standpoint.setWater(level.pools[0].id);
                stage.place.standpoint.setSpot(level.spots[0].id);
                stage.place.chooseLayer(level.layers[2].id);
            }
            stage.window.actions()[station->id().constData()]->trigger();
            stage.settle();
            INFO(station->id().toStdString() << (isFull ? ", full" : ", empty"));
            QSet<QString> used;
            int count = useAll(stage, stage.window.sheet(), used);
            count += useAll(stage, stage.window.bench(), used);
            if (station->id() != "layOut") CHECK(count > 3);
            stage.window.work().cancel();
            stage.window.work().wait();
            stage.view().letGo();
            document.dropPreview();
            stage.settle();
            const Level& left = document.standing();
            CHECK(checkLevel(left).empty());
            const Status saved = saveLevel(left, folder.path / "left.jamhill");
            if (!saved) FAIL(saved.error().sentence());
            CHECK(loadLevel(folder.path / "left.jamhill").value() == left);
            runOnOthers(jobs, left);
            for (const auto& [what, job] : jobs) worked.insert(what.toStdString());
            jobs.clear();
        }
    }
    CHECK(worked.size() >= 12);
}

TEST_CASE("every control has a name that can be read aloud") {
    Stage stage(full());
    QSet<QString> nameless;
    for (const auto& station : stage.window.stations()) {
        stage.window.actions()[station->id().constData()]->trigger();
        QApplication::processEvents();
        for (const QWidget* w : stage.window.findChildren<QWidget*>()) {
            if (!isControl(w) || isInner(w) ||
                (!qobject_cast<const QAbstractButton*>(w) && !qobject_cast<const QSlider*>(w) && !w->isVisible()) ||
                (qobject_cast<const QPushButton*>(w) && !w->isVisible()))
                continue;
            QAccessibleInterface* i = QAccessible::queryAccessibleInterface(const_cast<QWidget*>(w));
            if (!i || i->text(QAccessible::Name).isEmpty()) nameless << whatIs(w);
        }
    }
    INFO(nameless.values().join("\n").toStdString());
    CHECK(nameless.isEmpty());
}

TEST_CASE("the wheel over a page scrolls it and turns nothing, but for a number that was clicked") {
    Stage stage(full());
    stage.window.actions()["shape"]->trigger();
    stage.settle();
    const auto wheel = [&](QWidget* w) {
        const QPoint at = w->rect().center();
        QWheelEvent e(at, w->mapToGlobal(at), {}, {0, -120}, Qt::NoButton, {}, Qt::NoScrollPhase, false);
        QApplication::sendEvent(w, &e);
        return e.isAccepted();
    };
    int looked = 0;
    for (auto* s : stage.window.sheet()->findChildren<QSlider*>()) {
        if (!s->isVisible()) continue;
        const int was = s->value();
        wheel(s);
        CHECK(s->value() == was);
        ++looked;
    }
    for (auto* c : stage.window.sheet()->findChildren<QComboBox*>()) {
        const int was = c->currentIndex();
        wheel(c);
        CHECK(c->currentIndex() == was);
    }
    REQUIRE(looked >= 3);
    auto* spin = stage.window.sheet()->findChildren<NumberField*>().front()->spin();
    for (auto* f : stage.window.sheet()->findChildren<NumberField*>())
        if (f->isVisible()) spin = f->spin();
    const double was = spin->value();
    wheel(spin);
    CHECK(spin->value() == was);
    spin->setFocus();
    wheel(spin);
    CHECK(spin->value() != was);
}
