// Whether the window answers at any size of level: how long one event kept it at most, and what memory it took, while a
// level is opened, looked at, worked on, undone, lit otherwise and saved. jamhill-sizes LEVEL...
#include <cstdio>
#include <fstream>
#include <functional>
#include <QElapsedTimer>
#include <QMouseEvent>

#include "level/ground.h"
#include "levels.h"
#include "looks/memory_words.h"
#include "start.h"
#include "taking.h"
#include "window/main_window.h"

using namespace jam;

namespace {

// ms that one event took, since they were set to 0; the second where the machine itself stood still meanwhile.
double longest = 0, longestStolen = 0;

class TimedApp : public QApplication {
public:
    using QApplication::QApplication;
    bool notify(QObject* receiver, QEvent* event) override {
        if (depth_ > 0) return QApplication::notify(receiver, event);
        const test::Taking taking;
        ++depth_;
        const bool taken = QApplication::notify(receiver, event);
        --depth_;
        const test::Sample took = taking.taken();
        double& most = took.stolen ? longestStolen : longest;
        most = std::max(most, took.ms);
        return taken;
    }

private:
    int depth_ = 0;
};

// A line of /proc/self/status in megabytes.
long megabytes(const std::string& line) {
    std::ifstream in("/proc/self/status");
    for (std::string word; in >> word;)
        if (long kb = 0; word == line && in >> kb) return kb / 1024;
    return 0;
}

// Does something as an event of its own, so that what it does at once counts too.
void asEvent(const std::function<void()>& act) {
    QMetaObject::invokeMethod(qApp, act, Qt::QueuedConnection);
    QApplication::processEvents();
}

class Sizes {
public:
    Sizes(MainWindow& window, Workplace& place) : window_(window), view_(*window.view()), place_(place) {}

    void step(const char* what, const std::function<void()>& act) {
        longest = longestStolen = 0;
        QElapsedTimer clock;
        clock.start();
        act();
        double settled = 0;
        do {
            QApplication::processEvents(QEventLoop::WaitForMoreEvents, 20);
            if (settled == 0 && view_.settled() && !window_.work().running()) settled = clock.elapsed() * 1e-3;
        } while ((!view_.settled() || window_.surveyor().busy() || place_.document.catchingUp() ||
                  window_.work().running()) &&
                 clock.elapsed() < 180000);
        std::printf(
            "  %-28s longest wait %7.0f ms   picture whole after %6.1f s   all at rest after %6.1f s   %5ld MB\n", what,
            longest, settled, clock.elapsed() * 1e-3, megabytes("VmRSS:"));
        if (longestStolen > longest)
            std::printf("  %-28s              %7.0f ms where the machine itself stood still\n", "", longestStolen);
        std::fflush(stdout);
    }

    // The first picture of all, of a small level: the driver makes or loads every shader.
    void start() {
        step("start", [] {});
    }
    void measure(const QString& path) {
        step("open", [&] { asEvent([&] { window_.openFile(path); }); });
        const Level& l = place_.document.level();
        const auto layers = static_cast<int>(l.layers.size());
        const NewLevel wish{l.name, l.columns, l.rows, l.spacing, l.lowest, l.highest, l.startHeight, l.coverFactor};
        std::printf("  (%d x %d samples, %d layers; told before it is made: %d MB with four painted, %d MB with all)\n",
                    l.columns, l.rows, layers, megabytesFor(wish, 4, layers), megabytesFor(wish, layers, layers));
        step("look at it from 20 m", [&] {
            Camera c = view_.camera();
            c.at = {l.originX + l.width() * 0.5, 0, l.originZ + l.depth() * 0.5};
            c.at.y = altitudeAt(l, c.at.x, c.at.z) + 20;
            c.pitch = -20;
            asEvent([&] { view_.setCamera(c); });
        });
        place_.toolbox.changeSettings([&](StrokeSettings& s) { s.radius = static_cast<float>(64 * l.spacing); });
        step("a stroke of two seconds", [&] { stroke(); });
        place_.toolbox.setTool(Tool::noise);
        place_.toolbox.changeSettings([&](StrokeSettings& s) { s.radius = static_cast<float>(600 * l.spacing); });
        step("two seconds of noise, R = 600", [&] { stroke(); });
        place_.toolbox.setTool(Tool::raise);
        step("undo it", [&] { asEvent([&] { place_.document.undo(); }); });
        step("turn the sun",
             [&] { asEvent([&] { place_.document.edit("Sun", [](Level& level) { level.sun.azimuth += 50; }); }); });
        // As the field is pulled: a step every 50 ms.
        step("dim a stratum, 20 steps", [&] {
            for (int i = 1; i <= 20; ++i) {
                QElapsedTimer clock;
                clock.start();
                asEvent([&] {
                    place_.document.edit(
                        "Dim", [i](Level& level) { level.strata[0].opacity = 1 - 0.01f * static_cast<float>(i); },
                        "opacity");
                });
                while (clock.elapsed() < 50) QApplication::processEvents();
            }
        });
        step("save", [&] { asEvent([&] { window_.saveTo(folder_.filePath("saved.jamhill")); }); });
        std::printf("  most memory at any time: %ld MB\n", megabytes("VmHWM:"));
    }

private:
    void mouse(QEvent::Type type, const QPointF& at, Qt::MouseButtons held) {
        QMouseEvent e(type, at, view_.mapToGlobal(at), type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton, held,
                      {});
        QApplication::sendEvent(&view_, &e);
    }
    void stroke() {
        const QPointF from(view_.width() * 0.3, view_.height() * 0.6);
        mouse(QEvent::MouseButtonPress, from, Qt::LeftButton);
        for (int i = 0; i < 80; ++i) {
            QElapsedTimer clock;
            clock.start();
            mouse(QEvent::MouseMove, from + QPointF(5 * i, 20 * std::sin(i * 0.2)), Qt::LeftButton);
            while (clock.elapsed() < 25) QApplication::processEvents();
        }
        mouse(QEvent::MouseButtonRelease, from, Qt::NoButton);
    }

    MainWindow& window_;
    GroundView& view_;
    Workplace& place_;
    QTemporaryDir folder_;
};

}  // namespace

int main(int count, char** words) {
    const test::BasicStart<TimedApp> start(count, words);
    if (count < 2) return std::fprintf(stderr, "usage: jamhill-sizes LEVEL...\n"), 2;
    auto surface = makeSurface(Drawing::automatic, nullptr);
    if (!surface) return std::fprintf(stderr, "There is no OpenGL.\n"), 2;
    Workplace place(test::flatLevel(129, 129));
    MainWindow window(place, {}, surface.take());
    window.setQuiet(true);
    window.show();
    Sizes sizes(window, place);
    sizes.start();
    for (int i = 1; i < count; ++i) {
        std::printf("%s\n", words[i]);
        sizes.measure(QString::fromLocal8Bit(words[i]));
    }
    return 0;
}
