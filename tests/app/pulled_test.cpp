// What is pulled in panels is let go at every moment that ends hands: Esc takes it back, another window keeps it, and
// another level is never touched by it.
#include <catch2/catch.hpp>

#include "course/bake.h"
#include "level/strata.h"
#include "levels.h"
#include "panels/bend_edit.h"
#include "panels/course_profile.h"
#include "panels/section.h"
#include "stage.h"
#include "stations/cover/layer_strip.h"
#include "stations/light/sun_dial.h"
#include "stations/shape/strata_panel.h"

using namespace jam;
using namespace jam::test;

namespace {

Level furnished() {
    Level level = hillyLevel(129, 65, 4, 5);
    addStratum(level, "upper", 0);
    Course c;
    for (const double share : {0.2, 0.8}) {
        Post p;
        p.x = level.originX + share * level.width(), p.z = level.originZ + 0.4 * level.depth();
        p.height = 10;
        c.posts.push_back(p);
    }
    addCourse(level, "road", c);
    return level;
}

// There may be several, of which one is seen.
template <class W>
W* seen(Stage& stage) {
    for (W* w : stage.window.findChildren<W*>())
        if (w->isVisible()) return w;
    return nullptr;
}

// One thing that is pulled: how it is shown, where it is taken, and how far it is pulled.
struct Held {
    const char* name;
    std::function<Pulled*(Stage&)> show;
    std::function<QPoint(Pulled*)> at;
    QPoint by;
};

std::vector<Held> all() {
    const auto station = [](Stage& s, const char* id) {
        s.window.actions()[id]->trigger();
        s.settle();
    };
    return {
        {"section",
         [=](Stage& s) -> Pulled* {
             station(s, "shape");
             s.move(s.pixelOf(0, 0), Qt::NoButton);
             s.settle();
             return seen<Section>(s);
         },
         [](Pulled* p) { return static_cast<Section*>(p)->grip(Section::Grip::edge).toPoint(); },
         {25, 0}},
        {"bend",
         [=](Stage& s) -> Pulled* {
             station(s, "shape");
             s.place.toolbox.changeSettings([](StrokeSettings& x) { x.falloff.curve = Curve::bent; });
             s.settle();
             return seen<BendEdit>(s);
         },
         [](Pulled* p) { return static_cast<BendEdit*>(p)->knob(0).toPoint(); },
         {0, 22}},
        {"sun",
         [=](Stage& s) -> Pulled* {
             station(s, "light");
             return seen<SunDial>(s);
         },
         [](Pulled* p) { return static_cast<SunDial*>(p)->sunPlace().toPoint(); },
         {-40, 30}},
        {"profile",
         [=](Stage& s) -> Pulled* {
             station(s, "shape");
             const Level& l = s.place.document.level();
             s.place.standpoint.setCourse(l.strata.back().id, 0);
             s.place.standpoint.setCoursing(true);
             s.settle();
             return seen<CourseProfile>(s);
         },
         [](Pulled* p) { return static_cast<CourseProfile*>(p)->postAt(0).toPoint(); },
         {0, -20}},
        {"strata",
         [=](Stage& s) -> Pulled* {
             station(s, "shape");
             s.find<QToolButton>("partStrata")->click();
             s.settle();
             return seen<StrataList>(s);
         },
         [](Pulled* p) { return QPoint(p->width() / 2, 8); },
         {0, 70}},
        {"layers",
         [=](Stage& s) -> Pulled* {
             station(s, "cover");
             return seen<LayerStrip>(s);
         },
         [](Pulled*) { return QPoint(20, 20); },
         {190, 0}},
    };
}

void mouse(QWidget* w, QEvent::Type type, const QPoint& at) {
    const bool held = type != QEvent::MouseButtonRelease;
    QMouseEvent e(type, at, w->mapToGlobal(at), type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton,
                  held ? Qt::LeftButton : Qt::NoButton, {});
    QApplication::sendEvent(w, &e);
}

}  // namespace

TEST_CASE("whatever is pulled in a panel is taken back by Esc, and kept when the moment ends otherwise") {
    for (const Held& thing : all()) {
        INFO(thing.name);
        Stage stage(furnished());
        Document& document = stage.place.document;
        Pulled* widget = thing.show(stage);
        REQUIRE(widget);
        REQUIRE(widget->isVisible());
        const Level level = document.standing();
        const StrokeSettings brush = stage.place.toolbox.settings();
        const auto pull = [&] {
            const QPoint at = thing.at(widget);
            mouse(widget, QEvent::MouseButtonPress, at);
            REQUIRE(widget->pulling());
            mouse(widget, QEvent::MouseMove, at + thing.by / 2);
            mouse(widget, QEvent::MouseMove, at + thing.by);
        };
        const auto same = [&] {
            return document.standing() == level && document.level() == level && stage.place.toolbox.settings() == brush;
        };
        pull();
        QTest::keyClick(widget, Qt::Key_Escape);
        CHECK_FALSE(widget->pulling());
        CHECK(same());
        mouse(widget, QEvent::MouseMove, thing.at(widget) + thing.by);
        mouse(widget, QEvent::MouseButtonRelease, thing.at(widget) + thing.by);
        CHECK(same());
        // Another window comes.
        pull();
        QEvent away(QEvent::WindowDeactivate);
        QApplication::sendEvent(&stage.window, &away);
        CHECK_FALSE(widget->pulling());
        CHECK_FALSE(same());
        CHECK_FALSE(document.previewing());
        const Level kept = document.standing();
        mouse(widget, QEvent::MouseMove, thing.at(widget));
        mouse(widget, QEvent::MouseButtonRelease, thing.at(widget));
        CHECK(document.standing() == kept);
        // Another level.
        pull();
        document.open(ReadyLevel(flatLevel(65, 65, 2)), {}, "Open");
        CHECK_FALSE(widget->pulling());
        mouse(widget, QEvent::MouseButtonRelease, QPoint(5, 5));
        CHECK(document.standing() == flatLevel(65, 65, 2));
        CHECK(document.history().entries().size() == 1);
    }
}
