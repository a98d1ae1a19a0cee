// Disks that are full or broken, and no memory, at every call that saving, handing over, opening, work and the journal
// make: a sentence, and everything as it was.
#include <catch2/catch.hpp>

#include <map>

#include "failing.h"
#include "files/archive.h"
#include "files/level_file.h"
#include "files/settings_json.h"
#include "files/walk_file.h"
#include "folder.h"
#include "handover/handover.h"
#include "journal/recover.h"
#include "level/history.h"
#include "level/resize.h"
#include "levels.h"
#include "shape/whole.h"
#include "stroke/stroker.h"
#include "survey/check.h"
#include "walk/reach.h"
#include "walk/recording.h"
#include "walk/spots.h"

using namespace jam;
using namespace jam::test;
namespace fs = std::filesystem;

namespace {

std::map<std::string, Bytes> contents(const fs::path& folder) {
    std::map<std::string, Bytes> all;
    for (const auto& f : fs::recursive_directory_iterator(folder))
        if (f.is_regular_file()) all[fs::relative(f.path(), folder).string()] = bytesOf(f.path());
    return all;
}

// Does `work` with a fault at its first call of that kind, its second, and so on, until it meets none. `after(ended)`
// is told each time whether it went well. How often it met one.
template <class Work, class After>
int atEvery(Fails what, bool onwards, Work work, After after, int step = 1) {
    for (int at = 1;; at += step) {
        REQUIRE(at < 100'000);
        bool good = false, struck = false;
        {
            const Failing failing(what, at, onwards);
            try {
                const Status done = work();
                good = static_cast<bool>(done);
                struck = failing.struck();
                if (!done && done.error().sentence().size() < 20) FAIL("refused without a sentence");
            } catch (const std::bad_alloc&) {
                struck = true;  // said in words by the task or program that asked for it
            }
        }
        CAPTURE(static_cast<int>(what), onwards, at);
        after(good);
        if (!struck) {
            REQUIRE(good);
            return at - 1;
        }
    }
}

constexpr Fails kOfDisks[] = {Fails::write, Fails::sync, Fails::rename};

// Small, with something of everything.
Level wholeLevel(uint32_t seed) { return cropLevel(lopsidedLevel(seed), {60, 20, 150, 75}).take(); }

}  // namespace

TEST_CASE("a disk that fails at any call of a save leaves the level file as it was, or the new one whole") {
    const Level old = wholeLevel(3), next = wholeLevel(4);
    for (const Fails what : kOfDisks)
        for (const bool onwards : {false, true}) {
            int faults = 0;
            for (const bool twice : {false, true}) {  // without a save before it, and with
                const Folder folder;
                const fs::path file = folder.path / "a.jamhill";
                REQUIRE(saveLevel(old, file));
                if (twice) REQUIRE(saveLevel(old, file));
                const auto before = contents(folder.path);
                faults += atEvery(
                    what, onwards, [&] { return saveLevel(next, file); },
                    [&](bool good) {
                        if (!good) {
                            CHECK(contents(folder.path) == before);
                            return;
                        }
                        CHECK(loadLevel(file).value() == next);
                        CHECK(folder.files() <= 2);
                        fs::remove_all(file), fs::remove_all(backupOf(file));
                        for (const auto& [name, bytes] : before) put(folder.path / name, bytes);
                    });
            }
            CHECK(faults > 0);
        }
}

TEST_CASE("a disk that fails at any call of a hand over leaves the earlier set as it was") {
    const Level old = wholeLevel(3), next = cropLevel(wholeLevel(4), {0, 0, 40, 40}).take();
    for (const Fails what : kOfDisks)
        for (const bool onwards : {false, true}) {
            const Folder folder;
            const fs::path out = folder.path / "out";
            REQUIRE(handOver(old, out, {}));
            const auto before = contents(folder.path);
            const int faults = atEvery(
                what, onwards,
                [&]() -> Status {
                    const auto done = handOver(next, out, {});
                    return done ? Status{} : Status{done.error()};
                },
                [&](bool good) {
                    if (!good) CHECK(contents(folder.path) == before);
                    else REQUIRE(handOver(old, out, {}));
                });
            CHECK(faults > 0);
        }
}

TEST_CASE("a disk that fails while a brush or a walk is kept leaves the one before") {
    const Folder folder;
    Preset brush{"Craggy", {}};
    const Level level = hillyLevel(65, 65, 1);
    const WalkRecord walk = recordAt(level, kBodies[0], level.originX + 20, level.originZ + 20);
    const fs::path one = folder.path / "brush.json", other = folder.path / "walk.json";
    put(one, {1, 2}), put(other, {3});
    const auto before = contents(folder.path);
    for (const Fails what : kOfDisks) {
        const auto again = [&](bool good) {
            if (!good) CHECK(contents(folder.path) == before);
            put(one, {1, 2}), put(other, {3});
        };
        CHECK(atEvery(
                  what, true, [&] { return savePreset(brush, one); }, again) > 0);
        CHECK(atEvery(
                  what, true, [&] { return writeWalk(walk, other); }, again) > 0);
    }
}

namespace {

// Three steps, journalled; then `work` with faults, then one more step, and the program is killed. What comes back is
// one of the levels that there were, and the last one when the disk took it again.
struct Journalled {
    Folder folder;
    History history{wholeLevel(3), "Start"};
    int troubles = 0;
    std::unique_ptr<Journal> journal = std::make_unique<Journal>(folder.path, fs::path(), "", history.serial(),
                                                                 history.now(), [this](const Error& e) {
                                                                     ++troubles;
                                                                     if (e.sentence().size() < 20) troubles += 100;
                                                                 });

    void step(int i) {
        Level next = history.now();
        for (int k = 0; k < 40; ++k) next.strata[0].heights.set(k, 3 + i, static_cast<float>(i));
        history.push(std::move(next), "step " + std::to_string(i));
        const auto& e = history.entries()[history.place()];
        journal->record(e.serial, e.what, e.level);
    }
    Level back() {
        (void)journal->settle();
        journal.reset();
        const std::vector<KeptWork> all = keptWork(folder.path);
        REQUIRE(all.size() == 1);
        Result<TakenUp> taken = takeUpWork(all.front().journal);
        if (!taken) FAIL(taken.error().sentence());
        return taken.value().history.now();
    }
};

}  // namespace

TEST_CASE("a journal on a disk that fails is told once, and has the last step again when the disk does its part") {
    for (const Fails what : {Fails::write, Fails::sync})
        for (const bool onwards : {false, true}) {
            int met = 0;
            for (int at = 1; at < 60; at += 3) {
                CAPTURE(static_cast<int>(what), onwards, at);
                Journalled j;
                j.step(1);
                REQUIRE(j.journal->settle());
                {
                    const Failing failing(what, at, onwards);
                    for (int i = 2; i < 5; ++i) j.step(i), (void)j.journal->settle();
                    met += failing.struck();
                }
                CHECK(j.troubles <= (onwards ? 1 : 2));
                j.step(5);
                const Level last = j.history.now();
                CHECK(j.back() == last);
            }
            CHECK(met > 0);
        }
}

#if !defined(__SANITIZE_ADDRESS__) && !defined(__SANITIZE_THREAD__)

TEST_CASE("no memory at any large allocation of opening and saving is told, and nothing is half done") {
    const Folder folder;
    const Level level = wholeLevel(3);
    const fs::path file = folder.path / "a.jamhill", other = folder.path / "b.jamhill";
    REQUIRE(saveLevel(level, file));
    std::optional<Level> open = level;
    const int opened = atEvery(
        Fails::memory, false,
        [&]() -> Status {
            Result<Level> read = loadLevel(file);
            if (!read) return read.error();
            open = read.take();
            return {};
        },
        [&](bool) { CHECK(*open == level); }, 3);
    CHECK(opened > 100);
    const int saved = atEvery(
        Fails::memory, false, [&] { return saveLevel(level, other); },
        [&](bool good) {
            if (good) CHECK(loadLevel(other).value() == level);
            fs::remove(other), fs::remove(backupOf(other));
            CHECK(folder.files() == 1);
        },
        3);
    CHECK(saved > 50);
}

TEST_CASE("no memory in a stroke, a survey or a reshaping leaves level and journal whole") {
    Journalled j;
    j.step(1);
    REQUIRE(j.journal->settle());
    const Level before = j.history.now();
    Stroke stroke;
    stroke.settings.radius = 20, stroke.settings.strength = 5;
    stroke.points = {{before.originX + 30, before.originZ + 30, 1, 0},
                     {before.originX + 90, before.originZ + 60, 1, 1}};
    const auto whole = [&](bool) {
        CHECK(j.history.now() == before);
        CHECK(checkLevel(before).empty());
    };
    CHECK(atEvery(
              Fails::memory, false,
              [&]() -> Status {
                  Level next = j.history.now();
                  const Result<Change> done = runStroke(next, stroke);
                  return done ? Status{} : Status{done.error()};
              },
              whole) > 20);
    CHECK(atEvery(
              Fails::memory, false,
              [&]() -> Status {
                  WholeWish wish;
                  wish.kind = WholeKind::noise;
                  const auto done = reshapeWhole(before, wish);
                  return done ? Status{} : Status{done.error()};
              },
              whole) > 5);
    CHECK(atEvery(
              Fails::memory, false,
              [&]() -> Status {
                  Level next = before;
                  Spot s;
                  s.name = "a", s.kind = "start", s.x = before.originX + 30, s.z = before.originZ + 30;
                  (void)addSpot(next, s);
                  (void)surveyReach(next, kBodies[0]);
                  return {};
              },
              whole) > 5);
    j.step(2);
    const Level last = j.history.now();
    CHECK(j.back() == last);
}

#endif
