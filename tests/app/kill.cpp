// Kills the window at random moments while strokes, undo, saves and hand overs run, and looks what is left each time:
// jamhill-kill TIMES SEED. The program is its own victim: jamhill-kill --victim FOLDER SEED.
#include <fcntl.h>
#include <sys/wait.h>
#include <unistd.h>
#include <csignal>
#include <cstdio>
#include <cstring>
#include <fstream>
#include <map>
#include <QElapsedTimer>
#include <QMouseEvent>
#include <set>
#include <sstream>

#include "files/level_file.h"
#include "files/level_text.h"
#include "folder.h"
#include "journal/recover.h"
#include "level/rasters.h"
#include "levels.h"
#include "start.h"
#include "stations/hand_over/hand_over_station.h"
#include "window/main_window.h"

using namespace jam;

namespace {

// All that a file keeps of a level, as one number.
uint64_t hashOf(const Level& level) {
    uint64_t hash = 0xcbf29ce484222325;
    const auto add = [&](const void* bytes, size_t n) {
        for (size_t i = 0; i < n; ++i) hash = (hash ^ static_cast<const uint8_t*>(bytes)[i]) * 0x100000001b3;
    };
    const std::string text = levelText(level);
    add(text.data(), text.size());
    eachRaster(level, [&](const auto& kind, const auto&, uint32_t, const auto& grid) {
        if (!kind.kStored) return;
        for (int z = 0; z < grid.rows(); ++z)
            for (int x = 0; x < grid.columns(); ++x) {
                const auto sample = grid.at(x, z);
                add(&sample, sizeof sample);
            }
    });
    return hash;
}

std::filesystem::path levelIn(const std::filesystem::path& folder) { return folder / "a.jamhill"; }

void note(int log, const std::string& what, uint64_t hash) {
    const std::string line = what + " " + std::to_string(hash) + "\n";
    (void)!::write(log, line.data(), line.size());
}

// --- the victim -----------------------------------------------------------------------------------------------------

class Victim {
public:
    Victim(MainWindow& window, Workplace& place, std::filesystem::path folder, uint32_t seed, int log)
        : window_(window), place_(place), folder_(std::move(folder)), random_(seed), log_(log) {
        QObject::connect(&window_.work(), &Task::ended, &window_, [this] { say("rest"); });
    }
    // Until it is killed.
    [[noreturn]] void work() {
        save();
        wait(3000, [this] { return !window_.work().running(); });
        safe();
        say("ready");
        for (;;) {
            switch (random_() % 10) {
                case 0: save(); break;
                case 1: handOver(); break;
                case 2: place_.document.undo(); break;
                case 3: place_.document.redo(); break;
                case 4:
                    place_.document.edit("Turn the sun",
                                         [this](Level& l) { l.sun.azimuth = static_cast<float>(random_() % 360); });
                    break;
                case 5: safe(); break;
                default: stroke();
            }
            wait(static_cast<int>(random_() % 60), [] { return false; });
        }
    }

private:
    void say(const std::string& what, uint64_t hash = 0) { note(log_, what, hash); }
    template <class F>
    void wait(int ms, F until) {
        QElapsedTimer clock;
        clock.start();
        while (clock.elapsed() < ms && !until()) QApplication::processEvents(QEventLoop::AllEvents, 5);
    }
    // All so far is on the disk.
    void safe() {
        const uint64_t hash = hashOf(place_.document.standing());
        if (window_.keeping().settle()) say("safe", hash);
    }
    void save() {
        say("save");
        window_.saveTo(QString::fromStdString(levelIn(folder_).string()), [this] { say("saved"); });
    }
    void handOver() {
        say("handover");
        window_.station<HandOverStation>()->handOverTo(QString::fromStdString((folder_ / "out").string()), {});
    }
    void mouse(QEvent::Type type, const QPointF& at, Qt::MouseButton held) {
        GroundView& view = *window_.view();
        QMouseEvent e(type, at, view.mapToGlobal(at), type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton, held,
                      Qt::NoModifier);
        QApplication::sendEvent(&view, &e);
    }
    void stroke() {
        say("stroke");
        const GroundView& view = *window_.view();
        QPointF at(view.width() * (0.2 + 0.01 * (random_() % 60)), view.height() * (0.5 + 0.01 * (random_() % 40)));
        mouse(QEvent::MouseButtonPress, at, Qt::LeftButton);
        for (unsigned i = 0, n = 3 + random_() % 12; i < n; ++i) {
            at += QPointF(4, 2);
            mouse(QEvent::MouseMove, at, Qt::LeftButton);
            wait(8, [] { return false; });
        }
        mouse(QEvent::MouseButtonRelease, at, Qt::NoButton);
        say("stroked");
    }

    MainWindow& window_;
    Workplace& place_;
    const std::filesystem::path folder_;
    test::Random random_;
    const int log_;
};

int victim(int count, char** words) {
    const std::filesystem::path folder = words[2];
    const auto seed = static_cast<uint32_t>(std::atoi(words[3]));
    const test::BasicStart<QApplication> start(count, words);
    auto surface = makeSurface(Drawing::automatic, nullptr);
    if (!surface) return 2;
    Workplace place(test::hillyLevel(193, 129, seed, 5));
    // Before the window is told, so that nothing is on the disk that is not in the log.
    const int log = ::open((folder / "log").c_str(), O_WRONLY | O_CREAT | O_APPEND, 0600);
    uint64_t revision = 0;
    QObject::connect(&place.document, &Document::changed, qApp, [&place, &revision, log] {
        const History& h = place.document.history();
        if (h.revision() != revision) revision = h.revision(), note(log, "made", hashOf(h.now()));
    });
    MainWindow window(place, {test::plainLayer("Clay", 150)}, surface.take(), folder / "state");
    window.setQuiet(true);
    window.show();
    Victim(window, place, folder, seed, log).work();
}

// --- who kills ------------------------------------------------------------------------------------------------------

struct Line {
    std::string what;
    uint64_t hash = 0;
};

std::vector<Line> logOf(const std::filesystem::path& folder) {
    std::vector<Line> all;
    std::ifstream in(folder / "log");
    for (std::string text; std::getline(in, text);) {
        std::istringstream words(text);
        Line l;
        if (words >> l.what >> l.hash) all.push_back(l);
    }
    return all;
}

bool ready(const std::filesystem::path& folder) {
    for (const Line& l : logOf(folder))
        if (l.what == "ready") return true;
    return false;
}

// What it was at when it was killed.
std::string during(const std::vector<Line>& log) {
    bool strokes = false, works = false;
    std::string work;
    for (const Line& l : log) {
        if (l.what == "stroke") strokes = true;
        if (l.what == "stroked") strokes = false;
        if (l.what == "save" || l.what == "handover") works = true, work = l.what;
        if (l.what == "rest") works = false;
    }
    return (works ? work : std::string("no work")) + (strokes ? ", in a stroke" : ", between strokes");
}

// What is wrong with what is left, or nothing.
std::string wrongIn(const std::filesystem::path& folder, const std::vector<Line>& log) {
    // One of those that were made since all was known to be safe, or that itself.
    std::set<uint64_t> may;
    for (const Line& l : log) {
        if (l.what == "safe") may.clear();
        if (l.what == "safe" || l.what == "made") may.insert(l.hash);
    }
    const Result<Level> file = loadLevel(levelIn(folder));
    if (!file) return "the file does not open: " + file.error().sentence();
    std::set<uint64_t> made;
    for (const Line& l : log) made.insert(l.hash);
    if (!made.contains(hashOf(file.value()))) return "the file is neither the old nor the new one";
    const std::vector<KeptWork> kept = keptWork(folder / "state");
    if (kept.size() > 1) return "more than one journal is left";
    if (kept.empty())
        return may.contains(hashOf(file.value())) ? "" : "nothing is offered, and the file has not all of it";
    const Result<TakenUp> taken = takeUpWork(kept.front().journal);
    if (!taken) return "it cannot be taken up: " + taken.error().sentence();
    const uint64_t back = hashOf(taken.value().history.now());
    if (may.contains(back)) return "";
    // How far behind it is, for whoever looks for the reason.
    std::string end;
    int behind = -1;
    for (size_t i = log.size(); i-- > 0;) {
        if (log.size() - i < 14) end = log[i].what + " " + std::to_string(log[i].hash % 10000) + ", " + end;
        if (behind < 0 && log[i].hash == back) behind = static_cast<int>(log.size() - i);
    }
    return "what is taken up (" + std::to_string(back % 10000) +
           ") is not what was done last: " + (behind < 0 ? "it never was" : std::to_string(behind) + " lines behind") +
           "; " + end;
}

int kills(const char* self, int times, uint32_t seed) {
    test::Random random(seed);
    std::map<std::string, int> fell;
    int failed = 0;
    for (int i = 0; i < times; ++i) {
        const test::Folder folder;
        const std::string where = folder.path.string(), number = std::to_string(seed * 1000 + static_cast<uint32_t>(i));
        const pid_t child = ::fork();
        if (child == 0) {
            const int nowhere = ::open("/dev/null", O_WRONLY);
            ::dup2(nowhere, 2);
            ::execl(self, self, "--victim", where.c_str(), number.c_str(), nullptr);
            ::_exit(9);
        }
        for (int k = 0; k < 6000 && !ready(folder.path); ++k) ::usleep(10'000);
        ::usleep(static_cast<useconds_t>(1000 * test::wholeBetween(random, 0, 1500)));
        ::kill(child, SIGKILL);
        int status = 0;
        ::waitpid(child, &status, 0);
        const std::vector<Line> log = logOf(folder.path);
        std::string wrong = !WIFSIGNALED(status) ? "it ended by itself" : !ready(folder.path) ? "it never began" : "";
        if (wrong.empty()) wrong = wrongIn(folder.path, log);
        ++fell[during(log)];
        if (wrong.empty()) continue;
        ++failed;
        std::printf("kill %d (%s): %s\n", i, during(log).c_str(), wrong.c_str());
    }
    for (const auto& [what, n] : fell) std::printf("%4d during %s\n", n, what.c_str());
    std::printf("%d of %d kills lost something\n", failed, times);
    // Of enough kills some fall inside and outside of each kind of work.
    if (times >= 100)
        for (const char* what : {"save, in a stroke", "save, between strokes", "handover, in a stroke",
                                 "handover, between strokes", "no work, in a stroke", "no work, between strokes"})
            if (!fell[what]) std::printf("none fell during %s\n", what), ++failed;
    return failed ? 1 : 0;
}

}  // namespace

int main(int count, char** words) {
    if (count == 4 && std::strcmp(words[1], "--victim") == 0) return victim(count, words);
    if (count != 3) return std::fprintf(stderr, "usage: jamhill-kill TIMES SEED\n"), 2;
    return kills(words[0], std::atoi(words[1]), static_cast<uint32_t>(std::atoi(words[2])));
}
