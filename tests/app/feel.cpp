// How the window feels: real events in, changed pixels out, in twelve views of a level. Every row is the worst of them,
// against a flat frame of the same run. jamhill-feel LEVEL [VIEW]
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <functional>
#include <QApplication>
#include <QElapsedTimer>
#include <QMouseEvent>
#include <QWheelEvent>
#include <string>
#include <vector>

#include "files/layer_set.h"
#include "files/level_file.h"
#include "level/ground.h"
#include "start.h"
#include "taking.h"
#include "window/main_window.h"

using namespace jam;
using test::Sample;
using test::Taking;

namespace {

using Samples = std::vector<Sample>;

struct Figures {
    double median = 0, p95 = 0, worst = 0;
};

Figures figuresOf(const Samples& samples, bool undisturbed = false) {
    std::vector<double> ms;
    for (const Sample& s : samples)
        if (!undisturbed || !s.stolen) ms.push_back(s.ms);
    if (ms.empty()) return {};
    std::sort(ms.begin(), ms.end());
    const auto at = [&](double share) { return ms[static_cast<size_t>(share * static_cast<double>(ms.size() - 1))]; };
    return {at(0.5), at(0.95), ms.back()};
}

class Feel {
public:
    Feel(MainWindow& window, Workplace& place) : view_(*window.view()), window_(window), place_(place) {
        clock_.start();
    }

    // A mouse move until the mark stands there and the screen has it, from when a hand would have made it: the next
    // moves do not wait for what is under way.
    Sample hover(const QPointF& at) {
        const Taking taking;
        const double made = std::max(now(), lastMove_ + kMoveMs);
        while (now() < made) QApplication::processEvents();
        lastMove_ = made;
        QApplication::postEvent(
            &view_, new QMouseEvent(QEvent::MouseMove, at, view_.mapToGlobal(at), Qt::NoButton, Qt::NoButton, {}));
        const auto before = place_.standpoint.cursor();
        while (place_.standpoint.cursor() == before && now() < made + 5000) QApplication::processEvents();
        QApplication::sendPostedEvents();
        QApplication::processEvents(QEventLoop::ExcludeUserInputEvents);
        return {now() - made, taking.taken().stolen};
    }
    // Hovers on a circle for so many moves.
    Samples hovers(int moves) {
        Samples ms;
        lastMove_ = 0;
        for (int i = 0; i < moves; ++i) {
            const double a = 0.4 * i;
            const QPointF at(view_.width() * (0.5 + 0.2 * std::cos(a)), view_.height() * (0.62 + 0.15 * std::sin(a)));
            // Where no ground is seen there is no mark to wait for.
            if (view_.pick(at)) ms.push_back(hover(at));
        }
        return ms;
    }
    void rest() {
        QElapsedTimer clock;
        clock.start();
        while ((!view_.settled() || window_.surveyor().busy() || place_.document.catchingUp() ||
                window_.work().running()) &&
               clock.elapsed() < 60000)
            QApplication::processEvents(QEventLoop::WaitForMoreEvents, 20);
    }
    void wheel(int steps) {
        const QPointF at(view_.width() / 2.0, view_.height() * 0.6);
        QWheelEvent e(at, view_.mapToGlobal(at), {}, {0, 120 * steps}, {}, {}, Qt::NoScrollPhase, false);
        QApplication::sendEvent(&view_, &e);
    }
    void look(const Camera& from) { view_.setCamera(from); }
    // A look turned by so many degrees, until it is on the screen.
    Sample frame(double yaw) {
        Camera c = view_.camera();
        c.yaw += yaw;
        return frame(c);
    }
    // A sixtieth of a second of travelling to the right.
    Sample travelled() { return frame(view_.navigator().travel(view_.camera(), 0, 1, 0, 1 / 60.0)); }
    Sample frame(const Camera& c) {
        const Taking taking;
        view_.setCamera(c);
        QApplication::processEvents();
        return taking.taken();
    }
    // A stroke over the middle of the view: each mouse move until the dab is in the picture.
    Samples stroke() {
        Samples ms;
        const QPointF from(view_.width() * 0.4, view_.height() * 0.62);
        mouse(QEvent::MouseButtonPress, from, Qt::LeftButton, Qt::LeftButton);
        for (int i = 1; i <= 50; ++i) {
            const double made = now();
            const Taking taking;
            mouse(QEvent::MouseMove, from + QPointF(4 * i, 14 * std::sin(i * 0.3)), Qt::NoButton, Qt::LeftButton);
            QApplication::processEvents(QEventLoop::ExcludeUserInputEvents);
            ms.push_back(taking.taken());
            while (now() < made + 25) QApplication::processEvents();  // a hand moves no faster
        }
        mouse(QEvent::MouseButtonRelease, from, Qt::LeftButton, Qt::NoButton);
        return ms;
    }
    // Uses something for the first time, then hovers while what it needs is made.
    Samples first(const std::function<void()>& use) {
        const Taking taking;
        use();
        QApplication::processEvents();
        Samples ms{taking.taken()};
        while (taking.ms() < 700) {
            if (!view_.pick({view_.width() * 0.5, view_.height() * 0.62})) QApplication::processEvents();
            const Samples some = hovers(3);
            ms.insert(ms.end(), some.begin(), some.end());
        }
        return ms;
    }
    GroundView& view() { return view_; }

private:
    static constexpr double kMoveMs = 8;  // from one move of a mouse to the next
    double now() const { return static_cast<double>(clock_.nsecsElapsed()) * 1e-6; }
    void mouse(QEvent::Type type, const QPointF& at, Qt::MouseButton button, Qt::MouseButtons held) {
        QMouseEvent e(type, at, view_.mapToGlobal(at), button, held, {});
        QApplication::sendEvent(&view_, &e);
    }
    GroundView& view_;
    MainWindow& window_;
    Workplace& place_;
    QElapsedTimer clock_;
    double lastMove_ = 0;
};

struct Lookout {
    const char* name;
    double x, z, above, yaw, pitch;
};
// Shares of the level's half width and depth; heights in metres.
constexpr Lookout kViews[] = {{"overview", 0, 1.1, 420, 0, -32},         {"plan", 0, 0, 1100, 0, -89},
                              {"walking, meadow", 0.3, 0.3, 1.8, 20, 0}, {"walking, course", -0.4, 0.1, 1.8, 10, -4},
                              {"yard", 0.45, 0.6, 6, 210, -15},          {"terraces", -0.5, -0.1, 20, 330, -18},
                              {"cliff", 0.1, -0.5, 12, 340, 2},          {"pond", 0.29, 0.72, 12, 0, -22},
                              {"30 m", -0.2, 0.4, 30, 90, -20},          {"80 m", 0.2, -0.2, 80, 150, -25},
                              {"150 m", -0.1, 0.6, 150, 0, -30},         {"300 m", 0.4, 0.5, 300, 320, -35}};

void row(const char* what, const char* where, const Figures& f, double flat, const char* goal) {
    std::printf("%-34s %6.1f %8.1f %8.1f %8.1f %7.2f %7.2f %7.2f  %-20s %s\n", what, flat, f.median, f.p95, f.worst,
                f.median / flat, f.p95 / flat, f.worst / flat, goal, where);
}

}  // namespace

int main(int count, char** words) {
    const test::Start start(count, words);
    if (count < 2) return std::fprintf(stderr, "usage: jamhill-feel LEVEL [VIEW]\n"), 2;
    Result<Level> level = loadLevel(words[1]);
    auto surface = makeSurface(Drawing::automatic, nullptr);
    if (!level || !surface) return std::fprintf(stderr, "The level cannot be read, or there is no OpenGL.\n"), 2;
    Workplace place(level.take());
    MainWindow window(place, {}, surface.take());
    window.setQuiet(true);
    window.show();
    Feel feel(window, place);
    feel.rest();
    // The baseline: a flat frame of the same view and size, by a renderer of its own.
    auto own = makeSurface(Drawing::software, nullptr).take();
    own->makeCurrent();
    SceneRenderer& scene = *own->presenter().scene();
    std::optional<Target> target(std::in_place);
    scene.sync(place.document.level(), place.document.pyramid());
    while (!scene.drawable()) scene.bring(feel.view().camera(), {}, 50);
    const auto flatFrame = [&] {
        own->makeCurrent();
        const Camera& c = feel.view().camera();
        std::vector<uint8_t> pixels(static_cast<size_t>(c.width * c.height * 4));
        target->resize(c.width, c.height);
        Samples ms;
        for (int i = 0; i < 12; ++i) {
            const Taking taking;
            scene.drawFlat(*target, c, {});
            target->read({0, 0, c.width, c.height}, pixels.data(), c.width * 4);
            ms.push_back(taking.taken());
        }
        return figuresOf(ms).median;
    };
    std::printf("%d x %d samples, %zu layers\n\n", place.document.level().columns, place.document.level().rows,
                place.document.level().layers.size());
    std::printf("%-34s %6s %8s %8s %8s %7s %7s %7s  %-20s %s\n", "worst of twelve views, ms", "flat", "median", "95 %",
                "worst", "med/f", "95/f", "worst/f", "goal (95 %, worst)", "where");
    double flat = 0;  // of the view at hand
    struct Seen {
        Figures f;
        double flat = 1;
        const char* where = "";
    };
    struct Worst {
        Seen ratio, slowest;  // against flat, and in milliseconds
        Seen single;          // by its slowest move, against flat
    };
    struct Row {
        double Figures::*by = &Figures::p95;
        Worst all{}, undisturbed{};
        size_t taken = 0, stolen = 0;
        void take(const Samples& ms, const char* name, double flatHere) {
            taken += ms.size();
            stolen +=
                static_cast<size_t>(std::count_if(ms.begin(), ms.end(), [](const Sample& s) { return s.stolen; }));
            for (const bool quiet : {false, true}) {
                Worst& w = quiet ? undisturbed : all;
                const Figures g = figuresOf(ms, quiet);
                if (g.*by / flatHere > w.ratio.f.*by / w.ratio.flat) w.ratio = {g, flatHere, name};
                if (g.*by > w.slowest.f.*by) w.slowest = {g, flatHere, name};
                if (g.worst / flatHere > w.single.f.worst / w.single.flat) w.single = {g, flatHere, name};
            }
        }
    } still, zoomed, undone, turned, went, stroked, retooled, firstUsed;
    turned.by = went.by = &Figures::median;
    for (const Lookout& v : kViews) {
        if (count > 2 && std::string(words[2]) != v.name) continue;
        const Level& l = place.document.level();
        Camera c = feel.view().camera();
        c.at = {l.originX + l.width() * (0.5 + v.x / 2), 0, l.originZ + l.depth() * (0.5 + v.z / 2)};
        c.at.y = altitudeAt(l, std::clamp(c.at.x, l.originX, l.originX + l.width()),
                            std::clamp(c.at.z, l.originZ, l.originZ + l.depth())) +
                 v.above;
        c.yaw = v.yaw, c.pitch = v.pitch;
        feel.look(c);
        feel.rest();
        flat = flatFrame();
        still.take(feel.hovers(40), v.name, flat);
        Samples ms;
        for (const int steps : {1, -1, 2, -2}) {
            feel.wheel(steps);
            QElapsedTimer clock;
            clock.start();
            // While the picture refines, and a little longer.
            while (clock.elapsed() < 900) {
                const Samples some = feel.hovers(5);
                ms.insert(ms.end(), some.begin(), some.end());
            }
        }
        zoomed.take(ms, v.name, flat);
        const glm::dvec3 at =
            place.standpoint.cursor().value_or(glm::dvec3(l.originX + l.width() / 2, 0, l.originZ + l.depth() / 2));
        place.strokeAlong({at}, 1, false);
        feel.rest();
        place.document.undo();
        undone.take(feel.hovers(60), v.name, flat);
        feel.look(c);
        feel.rest();
        ms.clear();
        for (const Tool t : {Tool::smooth, Tool::paint, Tool::raise}) {
            place.toolbox.setTool(t);
            const Samples some = feel.hovers(10);
            ms.insert(ms.end(), some.begin(), some.end());
        }
        retooled.take(ms, v.name, flat);
        place.toolbox.changeSettings([&](StrokeSettings& s) { s.radius = static_cast<float>(64 * l.spacing); });
        stroked.take(feel.stroke(), v.name, flat);
        feel.rest();
        place.document.undo();
        feel.rest();
        ms.clear();
        for (int i = 0; i < 30; ++i) ms.push_back(feel.frame(1.5));
        turned.take(ms, v.name, flat);
        feel.look(c);
        feel.rest();
        ms.clear();
        for (int i = 0; i < 30; ++i) ms.push_back(feel.travelled());
        went.take(ms, v.name, flat);
    }
    // With nothing in the driver's cache (XDG_CACHE_HOME=$(mktemp -d)) this is the first use on a new machine.
    const Sight usual = feel.view().sight();
    for (int o = 1; o <= static_cast<int>(Overlay::stretch) + 3; ++o) {
        const auto use = [&] {
            Sight s = usual;
            if (o <= static_cast<int>(Overlay::stretch)) s.overlay = static_cast<Overlay>(o);
            else (o == 6 ? s.contours : o == 7 ? s.grid : s.mesh) = true;
            feel.view().setSight(s);
        };
        firstUsed.take(feel.first(use), "overlays", flat);
    }
    feel.view().setSight(usual);
    for (int t = 0; t < kTools; ++t)
        firstUsed.take(feel.first([&] { place.toolbox.setTool(static_cast<Tool>(t)); }), "tools", flat);
    for (int k = 0; k < 4; ++k) {
        const auto look = [k](Level& level) {
            LayerLook& l = level.layers.front().look;
            if (k == 0) l.tiling = Tiling::broken;
            else (k == 1 ? l.farTimes : k == 2 ? l.variation : l.relief) = k == 1 ? 5.f : 0.5f;
        };
        firstUsed.take(feel.first([&] { place.document.edit("look", look); }), "layer looks", flat);
    }
    const auto print = [](const char* what, const Worst& w, const char* goal) {
        row(what, w.ratio.where, w.ratio.f, w.ratio.flat, goal);
        if (w.slowest.where != w.ratio.where) row("    slowest", w.slowest.where, w.slowest.f, w.slowest.flat, "");
        if (w.single.f.worst / w.single.flat > w.ratio.f.worst / w.ratio.flat)
            row("    slowest single move", w.single.where, w.single.f, w.single.flat, "");
    };
    const struct {
        const char* what;
        const Row& row;
        const char* goal;
    } kRows[] = {{"hover at rest", still, "<= 0.6"},
                 {"hover right after a zoom", zoomed, "<= 2, <= 4"},
                 {"hover right after an undo", undone, "<= 2, <= 4"},
                 {"hover right after another tool", retooled, "<= 2, <= 4"},
                 {"stroke, R = 64 samples", stroked, "<= 2"},
                 {"first use of overlays, tools, looks", firstUsed, "worst <= 2"},
                 {"looking round, frame to frame", turned, "median 1.6, <= 3"},
                 {"travelling, frame to frame", went, ""}};
    size_t taken = 0, stolen = 0;
    for (const auto& r : kRows) print(r.what, r.row.all, r.goal), taken += r.row.taken, stolen += r.row.stolen;
    own->makeCurrent();
    target.reset();
    if (stolen == 0) return 0;
    std::printf("\nwithout the %zu of %zu in which the machine itself was not let run\n", stolen, taken);
    for (const auto& r : kRows) print(r.what, r.row.undisturbed, r.goal);
    return 0;
}
