// What runs beside the window: tasks by themselves, long work, saving in its turn, and jobs on what is gone meanwhile.
#include <catch2/catch.hpp>

#include <sys/resource.h>
#include <unistd.h>
#include <QPushButton>
#include <QSignalSpy>
#include <QTest>

#include "cover/mix.h"
#include "files/level_file.h"
#include "folder.h"
#include "level/strata.h"
#include "levels.h"
#include "stage.h"
#include "stations/shape/whole_panel.h"

using namespace jam;
using namespace jam::test;

namespace {

// Runs until it is asked to stop, and says then that it was.
Result<int> endless(const Context& c) {
    while (!c.cancelled()) std::this_thread::yield();
    return cancelledError();
}

}  // namespace

TEST_CASE("a task runs the latest of what it is given, one thread at a time, and tells of no other") {
    Task task(Task::Priority::asked);
    std::vector<int> told;
    std::atomic<int> at{0}, most{0};
    for (int i = 0; i < 30; ++i) {
        task.run<int>(
            "Counting",
            [&, i](const Context& c) -> Result<int> {
                most = std::max(most.load(), ++at);
                for (int k = 0; k < 20 && !c.cancelled(); ++k)
                    std::this_thread::sleep_for(std::chrono::microseconds(100));
                --at;
                return i;
            },
            [&](Result<int> r) { told.push_back(r.value()); });
        if (i == 9) task.wait();
        if (i % 4 == 0) QTest::qWait(1);
    }
    CHECK(task.running());
    CHECK(task.what() == "Counting");
    task.wait();
    CHECK_FALSE(task.running());
    CHECK(most == 1);
    CHECK(std::is_sorted(told.begin(), told.end()));
    CHECK(std::count(told.begin(), told.end(), 9) == 1);
    CHECK(told.back() == 29);
    // Dropped, it is not told; cancelled, it tells what came of it.
    told.clear();
    bool cancelled = false;
    const auto tell = [&](Result<int> r) { cancelled = !r && wasCancelled(r.error()); };
    task.run<int>("Endless", endless, tell);
    task.drop();
    CHECK_FALSE(task.running());
    QTest::qWait(30);
    CHECK_FALSE(cancelled);
    task.run<int>("Endless", endless, tell);
    task.cancel();
    CHECK(task.running());
    task.wait();
    CHECK(cancelled);
}

TEST_CASE("what comes afterwards has its turn when nothing runs, even what runs again first") {
    Task task(Task::Priority::asked);
    std::string order;
    task.afterwards([&] { order += "a"; });
    CHECK(order == "a");  // nothing ran
    const auto quick = [](const Context&) -> Result<int> { return 1; };
    task.run<int>("One", quick, [&](Result<int>) {
        order += "1";
        task.run<int>("Two", quick, [&](Result<int>) { order += "2"; });
    });
    task.afterwards([&] {
        order += "b";
        task.run<int>("Three", quick, [&](Result<int>) { order += "3"; });
    });
    task.afterwards([&] { order += "c"; });
    CHECK(task.hasTurns());
    CHECK(order == "a");
    task.wait();
    CHECK(order == "a12b3c");
    // What is stopped altogether has no turns left.
    task.run<int>("Endless", endless, [&](Result<int>) { order += "!"; });
    task.afterwards([&] { order += "?"; });
    task.stop();
    QTest::qWait(20);
    CHECK(order == "a12b3c");
    CHECK_FALSE(task.hasTurns());
}

TEST_CASE("a task aside gives way, and one that is asked for does not; a task that goes waits for its thread") {
    const auto priority = [](const Context&) -> Result<int> {
        return getpriority(PRIO_PROCESS, static_cast<id_t>(gettid()));
    };
    const int own = priority({}).value();
    for (const auto& [kind, least] : {std::pair{Task::Priority::asked, own}, {Task::Priority::aside, 10}}) {
        Task task(kind);
        int seen = -100;
        task.run<int>("Looking", priority, [&](Result<int> r) { seen = r.value(); });
        task.wait();
        CHECK(seen >= least);
        CHECK((seen == own) == (kind == Task::Priority::asked));
    }
    std::atomic<bool> over{false};
    {
        Task task(Task::Priority::aside);
        task.run<int>(
            "Late",
            [&](const Context& c) -> Result<int> {
                while (!c.cancelled()) std::this_thread::yield();
                std::this_thread::sleep_for(std::chrono::milliseconds(20));
                over = true;
                return 1;
            },
            [](Result<int>) { FAIL("it was told"); });
    }
    CHECK(over);
}

TEST_CASE("work reports, can be cancelled, and runs one at a time") {
    Work work;
    QSignalSpy said(&work, &Work::said);
    double most = 0;
    int got = 0;
    QObject::connect(&work, &Work::progressed, [&](double share) { most = std::max(most, share); });
    REQUIRE(work.start<int>(
        "Counting",
        [](const Context& c) -> Result<int> {
            for (int i = 0; i <= 10; ++i) c.report(i / 10.0);
            return 42;
        },
        [&](Result<int> r) { got = r.value(); }));
    CHECK_FALSE(work.start<int>(
        "Another", [](const Context&) -> Result<int> { return 1; }, [](Result<int>) {}));
    CHECK(said.count() == 1);
    CHECK(work.what() == "Counting");
    work.wait();
    CHECK(got == 42);
    CHECK(most == 1);
    bool cancelled = false;
    REQUIRE(work.start<int>("Endless", endless, [&](Result<int> r) { cancelled = !r && wasCancelled(r.error()); }));
    CHECK(work.running());
    work.cancel();
    work.wait();
    CHECK(cancelled);
    CHECK_FALSE(work.running());
}

TEST_CASE("what a job throws becomes an error in words, and what is abandoned is never told") {
    Work work;
    QString told;
    const auto tell = [&](Result<int> r) { told = r ? "done" : QString::fromStdString(r.error().sentence()); };
    REQUIRE(work.start<int>(
        "Too much", [](const Context&) -> Result<int> { throw std::bad_alloc(); }, tell));
    work.wait();
    CHECK(told.contains("memory"));
    REQUIRE(work.start<int>(
        "Broken", [](const Context&) -> Result<int> { throw std::runtime_error("the wheel came off"); }, tell));
    work.wait();
    CHECK(told.contains("the wheel came off"));
    told.clear();
    REQUIRE(work.start<int>(
        "Left",
        [](const Context& c) -> Result<int> {
            while (!c.cancelled()) std::this_thread::yield();
            return 1;
        },
        tell));
    work.stop();
    QTest::qWait(30);
    CHECK(told.isEmpty());
    CHECK_FALSE(work.running());
}

TEST_CASE("work makes room for the same owner's, and for nobody else's") {
    Work work;
    const int me = 1, other = 2;
    int got = 0;
    const auto quick = [](const Context&) -> Result<int> { return 5; };
    REQUIRE(work.start<int>(
        "Mine", endless, [&](Result<int>) { got = -1; }, true, &me));
    CHECK(work.isOf(&me));
    CHECK_FALSE(work.makes());
    CHECK_FALSE(work.start<int>(
        "Other", quick, [](Result<int>) {}, false, &other));
    CHECK_FALSE(work.start<int>("Nobody's", quick, [](Result<int>) {}));
    REQUIRE(work.start<int>(
        "Mine", quick, [&](Result<int> r) { got = r.value(); }, false, &me));
    CHECK(work.makes());
    work.wait();
    CHECK(got == 5);
    CHECK_FALSE(work.isOf(&me));
}

TEST_CASE("saving that is asked for while something runs waits its turn and keeps what that made") {
    const Folder folder;
    const QString path = QString::fromStdString((folder.path / "turn.jamhill").string());
    Stage stage(hillyLevel(65, 33, 2, 2));
    Document& document = stage.place.document;
    std::atomic<bool> go{false};
    stage.window.workOn("Sun", LevelJob::onAll([&](Level& l, const Context&) -> Status {
                            while (!go) std::this_thread::yield();
                            l.sun.azimuth = 77;
                            return {};
                        }));
    int safe = 0;
    for (int i = 0; i < 3; ++i) stage.window.saveTo(path, [&] { ++safe; });
    CHECK(stage.window.lastMessage().contains("Sun"));
    CHECK(stage.window.work().makes());
    CHECK_FALSE(QFile::exists(path));
    // The level goes on, so the work is done once more before the save has its turn.
    document.edit("Step", [](Level& l) { l.sun.elevation = 12; });
    go = true;
    stage.window.work().wait();
    CHECK(safe == 3);
    CHECK_FALSE(document.dirty());
    const Result<Level> saved = loadLevel((folder.path / "turn.jamhill").string());
    REQUIRE(saved);
    CHECK(saved.value().sun.azimuth == 77);
    CHECK(saved.value().sun.elevation == 12);
    CHECK(saved.value() == document.standing());
}

TEST_CASE("work on the whole ground that is applied while its preview is worked out becomes a step") {
    Stage stage(hillyLevel(129, 65, 2, 2));
    Document& document = stage.place.document;
    stage.window.actions()["shape"]->trigger();
    stage.key(Qt::Key_H);
    auto* panel = stage.window.findChild<WholePanel*>();
    REQUIRE(panel->isVisible());
    panel->choose(static_cast<int>(WholeKind::rainWash));
    REQUIRE(stage.waitFor([&] { return stage.window.work().isOf(panel); }));
    const size_t steps = document.history().entries().size();
    panel->findChild<QPushButton*>("wholeApply")->click();
    REQUIRE(stage.waitFor([&] { return !panel->busy(); }));
    CHECK(document.history().entries().size() == steps + 1);
    CHECK_FALSE(document.previewing());
}

TEST_CASE("a job is refused in words when any of its things is gone, and otherwise runs once on a copy") {
    Level level = hillyLevel(65, 33, 2, 3);
    const uint32_t a = level.layers[1].id, b = level.layers[2].id, upper = addStratum(level, "upper", 0);
    int runs = 0;
    const LevelJob job = LevelJob::on({{ThingKind::layer, a}, {ThingKind::layer, b}, {ThingKind::stratum, upper}},
                                      [&](Level& l, const Context&) -> Status {
                                          ++runs;
                                          l.layer(a)->tileSize = 9;
                                          return {};
                                      });
    const Level before = level;
    CHECK(job(level, {}).value().layer(a)->tileSize == 9);
    CHECK(level == before);
    for (const Thing& thing : job.things()) {
        Level without = level;
        if (thing.kind == ThingKind::layer) REQUIRE(removeLayer(without, thing.id));
        else REQUIRE(removeStratum(without, thing.id));
        const Result<Level> made = job(without, {});
        REQUIRE_FALSE(made);
        CHECK(made.error().sentence().find("is gone") != std::string::npos);
    }
    CHECK(runs == 1);
    // A stratum is no course, and ids of one kind are none of another.
    CHECK(has(level, {ThingKind::stratum, upper}));
    for (const ThingKind kind :
         {ThingKind::course, ThingKind::layer, ThingKind::pool, ThingKind::stream, ThingKind::spot, ThingKind::fence})
        CHECK_FALSE(has(level, {kind, upper}));
}
