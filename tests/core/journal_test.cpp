// The recovery journal: what was done comes back to the bit, whatever ended it.
#include <catch2/catch.hpp>

#include <atomic>
#include <filesystem>
#include <fstream>

#include "files/archive.h"
#include "files/level_file.h"
#include "folder.h"
#include "journal/database.h"
#include "journal/recover.h"
#include "level/history.h"
#include "level/resize.h"
#include "levels.h"
#include "sequences.h"
#include "stroke/stroker.h"
#include "tools/tool.h"

using namespace jam;
using namespace jam::test;

namespace {

// A level with its history and its journal, as a window has them.
struct Desk {
    std::filesystem::path folder;
    History history;
    std::unique_ptr<Journal> journal;
    uint64_t told = 0, last = 0;

    // Of a level that lies in a file, or nowhere.
    Desk(std::filesystem::path where, const Level& level, const std::filesystem::path& file = {})
        : folder(std::move(where)), history(level, "Start"),
          journal(std::make_unique<Journal>(folder, file, file.empty() ? "" : fileIdentity(file).value(),
                                            history.serial(), level, nullptr)) {}
    void record() {
        const auto& e = history.entries()[history.place()];
        journal->record(e.serial, e.what, e.level);
    }
    void push(Level level, const std::string& what) {
        history.push(std::move(level), what);
        record();
    }
    void save(const std::filesystem::path& file, bool cutShort = false) {
        journal->saveBegins();
        REQUIRE(saveLevel(history.now(), file, {},
                          [&](const std::string& identity) { journal->aboutToSave(file, identity); }));
        if (!cutShort) journal->saved();
    }
    // As if the program had been killed.
    void killed() {
        REQUIRE(journal->settle());
        journal.reset();
    }
    TakenUp takenUp() {
        killed();
        const std::vector<KeptWork> all = keptWork(folder);
        REQUIRE(all.size() == 1);
        Result<TakenUp> taken = takeUpWork(all.front().journal);
        if (!taken) FAIL(taken.error().sentence());
        return taken.take();
    }
};

Level stroked(Level level, double x, double z, Tool tool = Tool::raise) {
    Stroke s;
    s.settings = usualSettings(tool);
    s.settings.radius = 12;
    s.points = {{x, z, 1, 0}, {x + 15, z + 4, 1, 0.3}};
    REQUIRE(runStroke(level, s));
    return level;
}

Level opened(const std::filesystem::path& file) {
    Result<Level> level = loadLevel(file);
    REQUIRE(level);
    return level.take();
}

std::vector<std::string> whats(const History& h) {
    std::vector<std::string> all;
    for (const auto& e : h.entries()) all.push_back(e.what);
    return all;
}

size_t filesIn(const std::filesystem::path& folder) {
    size_t n = 0;
    std::error_code none;
    for ([[maybe_unused]] const auto& e : std::filesystem::directory_iterator(folder, none)) ++n;
    return n;
}

}  // namespace

TEST_CASE("strokes on a level that was never saved come back with their history") {
    const Folder folder;
    Level level = sequenceStart(3);
    Desk desk(folder.path / "state", level);
    desk.push(stroked(desk.history.now(), 330, -40), "Raise");
    desk.push(stroked(desk.history.now(), 380, -30, Tool::lower), "Lower");
    desk.push(stroked(desk.history.now(), 360, -50), "Raise again");
    desk.history.undo();
    desk.record();
    const TakenUp back = desk.takenUp();
    CHECK(back.file.empty());
    CHECK(back.history.now() == desk.history.now());
    CHECK(whats(back.history) == std::vector<std::string>{"Start", "Raise", "Lower", "Raise again"});
    CHECK(back.history.place() == 2);
    for (size_t i = 0; i < 4; ++i) CHECK(back.history.entries()[i].level == desk.history.entries()[i].level);
}

TEST_CASE("nothing lies on the disk before the first step, and nothing after a clean end") {
    const Folder folder;
    const Level level = sequenceStart(4);
    {
        Desk desk(folder.path / "state", level);
        REQUIRE(desk.journal->settle());
        CHECK(filesIn(folder.path / "state") == 0);
        desk.push(stroked(level, 330, -40), "Raise");
        REQUIRE(desk.journal->settle());
        CHECK(filesIn(folder.path / "state") > 0);
        CHECK(keptWork(folder.path / "state").empty());  // somebody writes it
        desk.journal->end();
    }
    CHECK(filesIn(folder.path / "state") == 0);
}

TEST_CASE("a save empties the journal, and what comes after it goes on from the file") {
    const Folder folder;
    const auto file = folder.path / "a.jamhill";
    REQUIRE(saveLevel(sequenceStart(5), file));
    Desk desk(folder.path / "state", opened(file), file);
    desk.push(stroked(desk.history.now(), 330, -40), "Raise");
    desk.save(file);
    REQUIRE(desk.journal->settle());
    SECTION("killed right after, there is nothing to take up") {
        desk.killed();
        CHECK(keptWork(folder.path / "state").empty());
        CHECK(filesIn(folder.path / "state") == 0);
    }
    SECTION("later steps are there, without the earlier ones") {
        desk.push(stroked(desk.history.now(), 400, -20), "Later");
        const TakenUp back = desk.takenUp();
        CHECK(back.history.now() == desk.history.now());
        CHECK(whats(back.history) == std::vector<std::string>{"Saved", "Later"});
        CHECK(back.file == file);
    }
    SECTION("undone past the save it is as it was before it") {
        desk.history.undo();
        desk.record();
        const TakenUp back = desk.takenUp();
        CHECK(back.history.now() == desk.history.now());
    }
    SECTION("saved under another name, it goes on from that") {
        desk.push(stroked(desk.history.now(), 400, -20), "Later");
        desk.save(folder.path / "b.jamhill");
        std::filesystem::remove(file);
        desk.push(stroked(desk.history.now(), 380, -60), "Latest");
        const TakenUp back = desk.takenUp();
        CHECK(back.file == folder.path / "b.jamhill");
        CHECK(back.history.now() == desk.history.now());
    }
}

TEST_CASE("a save that was cut short counts by what lies in its place") {
    const Folder folder;
    const auto file = folder.path / "a.jamhill";
    REQUIRE(saveLevel(sequenceStart(6), file));
    const Level first = opened(file);
    Desk desk(folder.path / "state", first, file);
    desk.push(stroked(first, 330, -40), "Raise");
    const auto old = folder.path / "old.jamhill";
    std::filesystem::copy(file, old);
    desk.save(file, true);
    SECTION("the new file is there") {
        SECTION("and something was done meanwhile") {
            desk.push(stroked(desk.history.now(), 400, -20), "Meanwhile");
            const TakenUp back = desk.takenUp();
            CHECK(back.history.now() == desk.history.now());
            CHECK(whats(back.history) == std::vector<std::string>{"Saved", "Meanwhile"});
        }
        SECTION("and nothing else was done: all of it is safe") {
            desk.killed();
            CHECK(keptWork(folder.path / "state").empty());
        }
    }
    SECTION("the old one still is") {
        std::filesystem::rename(old, file);
        const TakenUp back = desk.takenUp();
        CHECK(back.history.now() == desk.history.now());
        CHECK(whats(back.history) == std::vector<std::string>{"Saved", "Raise"});
    }
    SECTION("something else does") {
        desk.killed();
        REQUIRE(saveLevel(sequenceStart(7), file));
        const auto all = keptWork(folder.path / "state");
        REQUIRE(all.size() == 1);
        const Result<TakenUp> taken = takeUpWork(all.front().journal);
        REQUIRE_FALSE(taken);
        CHECK(taken.error().file == file.string());
        // It is still there, for when the file is back.
        std::filesystem::rename(old, file);
        CHECK(takeUpWork(all.front().journal));
    }
}

TEST_CASE("what was taken up goes on in the same journal, and may be taken up again") {
    const Folder folder;
    Level level = sequenceStart(8);
    Desk desk(folder.path / "state", level);
    desk.push(stroked(level, 330, -40), "Raise");
    TakenUp back = desk.takenUp();
    desk.history = std::move(back.history);
    desk.journal = std::make_unique<Journal>(std::move(back.database), desk.history.serial(), desk.history.now(),
                                             nullptr);
    desk.push(stroked(desk.history.now(), 380, -60), "Second");
    desk.history.undo();
    desk.record();
    const TakenUp again = desk.takenUp();
    CHECK(again.history.now() == desk.history.now());
    CHECK(whats(again.history) == std::vector<std::string>{"Start", "Raise", "Second"});
    CHECK(again.history.place() == 1);
}

TEST_CASE("taken up after a save that was cut short, it goes on from that save's file") {
    const Folder folder;
    const auto file = folder.path / "a.jamhill";
    REQUIRE(saveLevel(sequenceStart(6), file));
    Desk desk(folder.path / "state", opened(file), file);
    desk.push(stroked(desk.history.now(), 330, -40), "Raise");
    desk.save(file, true);
    desk.push(stroked(desk.history.now(), 400, -20), "Meanwhile");
    const auto goOn = [&] {
        TakenUp back = desk.takenUp();
        desk.history = std::move(back.history);
        desk.journal = std::make_unique<Journal>(std::move(back.database), desk.history.serial(), desk.history.now(),
                                                 nullptr);
    };
    goOn();
    // Another save, of which nothing but its beginning is known.
    desk.journal->saveBegins();
    desk.journal->aboutToSave(file, "0123456789abcdef");
    desk.push(stroked(desk.history.now(), 380, -60), "Then");
    const Level last = desk.history.now();
    goOn();
    CHECK(desk.history.now() == last);
    CHECK(whats(desk.history) == std::vector<std::string>{"Saved", "Meanwhile", "Then"});
    desk.save(file);
    desk.killed();
    CHECK(keptWork(folder.path / "state").empty());
}

TEST_CASE("a knob that is turned is one step") {
    const Folder folder;
    Level level = sequenceStart(9);
    Desk desk(folder.path / "state", level);
    for (int i = 0; i < 20; ++i) {
        Level turned = level;
        turned.sun.azimuth = static_cast<float>(10 * i);
        if (i == 0) desk.history.push(turned, "Turn the sun");
        else desk.history.replaceNow(turned);
        desk.journal->record(desk.history.serial(), "Turn the sun", turned, i > 0);
        if (i % 5 == 0) REQUIRE(desk.journal->settle());
    }
    const TakenUp back = desk.takenUp();
    CHECK(back.history.now() == desk.history.now());
    CHECK(whats(back.history) == std::vector<std::string>{"Start", "Turn the sun"});
}

TEST_CASE("whatever hands do comes back to the bit, and so does each step of it", "[property]") {
    for (uint32_t seed = 1; seed <= 6; ++seed) {
        const Folder folder;
        const Level start = sequenceStart(seed);
        const auto file = folder.path / "a.jamhill";
        REQUIRE(saveLevel(start, file));
        Player player(opened(file));
        Journal journal(folder.path / "state", file, fileIdentity(file).value(), player.history().serial(),
                        player.level(), nullptr);
        uint64_t revision = player.history().revision();
        for (const Step& step : randomSequence(seed * 77, 30)) {
            (void)player.play(step);
            if (player.history().revision() == revision) continue;
            revision = player.history().revision();
            const auto& e = player.history().entries()[player.history().place()];
            journal.record(e.serial, e.what, e.level);
        }
        REQUIRE(journal.settle());
        const std::filesystem::path copy = folder.path / "copy";
        std::filesystem::copy(folder.path / "state", copy);
        const auto all = keptWork(copy);
        REQUIRE(all.size() <= 1);
        if (all.empty()) continue;
        Result<TakenUp> taken = takeUpWork(all.front().journal);
        INFO("seed " << seed);
        if (!taken) FAIL(taken.error().sentence());
        CHECK(taken.value().history.now() == player.level());
        journal.end();
    }
}

TEST_CASE("a long journal folds its older steps, and gives the same") {
    const Folder folder;
    Level level = sequenceStart(10);
    Desk desk(folder.path / "state", level);
    for (int i = 0; i < kMostJournalSteps + 20; ++i) {
        Level next = desk.history.now();
        if (i % 50 == 17) next = cropLevel(next, {0, 0, next.columns - 2, next.rows - 1}).take();
        else if (i % 50 == 23 && next.layers.size() > 2) REQUIRE(removeLayer(next, next.layers.back().id));
        else if (i % 50 == 31) addLayer(next, plainLayer("l" + std::to_string(i), 9));
        else {
            Stratum& s = *next.stratum(next.activeStratum);
            s.heights.set(i * 7 % next.columns, i * 3 % next.rows, static_cast<float>(i % 20));
        }
        desk.push(std::move(next), "Step " + std::to_string(i));
        if (i % 40 == 0) REQUIRE(desk.journal->settle());
    }
    REQUIRE(desk.journal->settle());
    const TakenUp back = desk.takenUp();
    CHECK(back.history.now() == desk.history.now());
    CHECK(back.history.entries().size() < static_cast<size_t>(kMostJournalSteps));
    CHECK(back.history.entries().back().what == "Step " + std::to_string(kMostJournalSteps + 19));
}

TEST_CASE("a journal that cannot be written says so once, goes on trying, and then has all of it") {
    const Folder folder;
    const auto state = folder.path / "state";
    std::ofstream(state) << "a file where a folder should be";
    std::atomic<int> said = 0;
    const Level level = sequenceStart(11);
    History history(level, "Start");
    auto journal = std::make_unique<Journal>(state, "", "", history.serial(), level,
                                             [&](const Error& e) { said += e.problem.empty() ? 100 : 1; });
    const auto push = [&](double x) {
        history.push(stroked(history.now(), x, -40), "Raise");
        journal->record(history.serial(), "Raise", history.now());
        (void)journal->settle();
    };
    push(330), push(350);
    CHECK(said == 1);
    CHECK_FALSE(journal->settle());
    std::filesystem::remove(state);
    push(370);
    CHECK(journal->settle());
    journal.reset();
    const auto all = keptWork(state);
    REQUIRE(all.size() == 1);
    Result<TakenUp> back = takeUpWork(all.front().journal);
    REQUIRE(back);
    CHECK(back.value().history.now() == history.now());
}

TEST_CASE("damaged journals are refused in words, or give a sound level") {
    const Folder folder;
    Level level = sequenceStart(12);
    Desk desk(folder.path / "state", level);
    desk.push(stroked(level, 330, -40), "Raise");
    desk.push(stroked(desk.history.now(), 360, -30), "Raise");
    desk.killed();
    const auto path = keptWork(folder.path / "state").front().journal;
    std::ifstream in(path, std::ios::binary);
    const std::string whole((std::istreambuf_iterator<char>(in)), {});
    REQUIRE(whole.size() > 10'000);
    Random random(1);
    int refused = 0;
    for (int i = 0; i < 300; ++i) {
        std::string bytes = whole;
        const int cuts = 1 + static_cast<int>(random() % 4);
        for (int k = 0; k < cuts; ++k) {
            const size_t at = random() % bytes.size();
            if (random() % 8 == 0) bytes.resize(at);
            else bytes[at] = static_cast<char>(random());
            if (bytes.empty()) break;
        }
        std::ofstream(path, std::ios::binary | std::ios::trunc) << bytes;
        (void)keptWork(folder.path / "state");
        // Whatever is wrong with it, nobody threw it away.
        REQUIRE(std::filesystem::exists(path));
        const Result<TakenUp> taken = takeUpWork(path);
        if (taken) continue;
        ++refused;
        CHECK_FALSE(taken.error().sentence().empty());
    }
    CHECK(refused > 50);
    // One that forgot its file says so.
    std::ofstream(path, std::ios::binary | std::ios::trunc) << whole;
    REQUIRE(Database::open(path, false)
                .value()
                ->run("INSERT OR REPLACE INTO about (key, value) VALUES ('base', 'somewhere')"));
    const Result<TakenUp> nowhere = takeUpWork(path);
    REQUIRE_FALSE(nowhere);
    CHECK(nowhere.error().sentence().size() > 20);
    // And thrown away, it is gone.
    std::ofstream(path, std::ios::binary | std::ios::trunc) << whole;
    REQUIRE(throwAway(path));
    CHECK(filesIn(folder.path / "state") == 0);
}
