// The command line, killed at random moments: files are the old ones or the new ones, each whole.
#include <catch2/catch.hpp>

#include <fcntl.h>
#include <signal.h>
#include <unistd.h>
#include <chrono>
#include <cstdlib>
#include <map>
#include <thread>

#include "desk.h"
#include "levels.h"

using namespace jam;
using namespace jam::test;

namespace {

using Words = std::vector<std::string>;
using Clock = std::chrono::steady_clock;

// Runs a command, or kills it after so many microseconds. Whether it ended by itself.
bool ends(const Desk& desk, const Words& words, std::optional<int> micros) {
    const pid_t child = ::fork();
    if (child == 0) {
        ::setenv("JAMHILL_SHARE", JAMHILL_SHARE_FOLDER, 1);
        const int nothing = ::open("/dev/null", O_WRONLY);
        ::dup2(nothing, 1), ::dup2(nothing, 2);
        std::vector<char*> args{const_cast<char*>(JAMHILL_CLI)};
        for (const std::string& w : words) args.push_back(const_cast<char*>(w.c_str()));
        args.push_back(nullptr);
        if (::chdir(desk.path.c_str()) == 0) ::execv(JAMHILL_CLI, args.data());
        ::_exit(99);
    }
    if (micros) std::this_thread::sleep_for(std::chrono::microseconds(*micros)), ::kill(child, SIGKILL);
    int status = 0;
    ::waitpid(child, &status, 0);
    return WIFEXITED(status) && WEXITSTATUS(status) == 0;
}

// What lies in the desk, but for what a killed run left half written.
std::map<std::string, Bytes> contents(const Desk& desk, int* halves = nullptr) {
    std::map<std::string, Bytes> all;
    for (const auto& f : fs::recursive_directory_iterator(desk.path)) {
        if (!f.is_regular_file()) continue;
        const std::string name = fs::relative(f.path(), desk.path).string();
        if (name.find(".part-") == std::string::npos) all[name] = bytesOf(f.path());
        else if (halves) ++*halves;
    }
    return all;
}

void restore(const Desk& desk, const std::map<std::string, Bytes>& all) {
    for (const auto& f : fs::directory_iterator(desk.path)) fs::remove_all(f.path());
    for (const auto& [name, bytes] : all) {
        fs::create_directories((desk.path / name).parent_path());
        put(desk.path / name, bytes);
    }
}

}  // namespace

TEST_CASE("a command that is killed at any moment leaves every file as it was, or whole as it became") {
    const char* many = std::getenv("JAMHILL_KILLS");
    const int kills = many ? std::atoi(many) : 80;
    const Desk desk;
    REQUIRE(saveLevel(lopsidedLevel(), desk.path / "a.jamhill"));
    desk.write("s.json", R"({"format": "jamhill-strokes", "version": 1, "strokes": [
        {"tool": "raise", "radius": 30, "strength": 1, "points": [[0, 0, 1, 0], [0, 0, 1, 2]]}]})");
    REQUIRE(ends(desk, {"export", "a.jamhill", "out"}, {}));
    // Another level than the one that was handed over.
    REQUIRE(ends(desk, {"reshape", "a.jamhill", "raise", "--metres", "2"}, {}));
    const auto before = contents(desk);
    const std::vector<Words> commands{{"stroke", "a.jamhill", "s.json"},
                                      {"reshape", "a.jamhill", "raise", "--metres", "3"},
                                      {"resample", "a.jamhill", "--spacing", "2"},
                                      {"export", "a.jamhill", "out"}};
    Random random(11);
    int early = 0, late = 0, writing = 0;
    for (const Words& words : commands) {
        CAPTURE(words[0]);
        const auto begin = Clock::now();
        REQUIRE(ends(desk, words, {}));
        const double whole = std::chrono::duration<double, std::micro>(Clock::now() - begin).count();
        const auto after = contents(desk);
        REQUIRE(after != before);
        for (int i = 0; i < kills / static_cast<int>(commands.size()); ++i) {
            restore(desk, before);
            const bool done = ends(desk, words, static_cast<int>(between(random, i % 2 ? 0.6 : 0.02, 1.05) * whole));
            int halves = 0;
            const auto now = contents(desk, &halves);
            for (const auto& [name, bytes] : now) {
                CAPTURE(i, name, done);
                // While a set is exchanged, what was there steps aside for a moment; a backup is the level before.
                std::string as = name;
                if (as.ends_with(".before")) as.resize(as.size() - 7);
                if (as.ends_with("~part")) as = "a.jamhill";
                bool known = false;
                for (const auto* all : {&before, &after})
                    for (const std::string& like : {as, name == "a.jamhill~" ? std::string("a.jamhill") : as})
                        if (const auto at = all->find(like); at != all->end()) known = known || at->second == bytes;
                CHECK(known);
            }
            CHECK(now.contains("a.jamhill"));
            CHECK(loadLevel(desk.path / "a.jamhill"));
            (now == before && halves == 0 ? early : now == after ? late : writing)++;
            if (done) CHECK(now == after);
            // Whatever was left, the same command does its work.
            if (i % 4 == 0) {
                REQUIRE(ends(desk, words, {}));
                CHECK(loadLevel(desk.path / "a.jamhill"));
            }
        }
        restore(desk, before);
    }
    std::printf("%d killed before they wrote, %d while they did, %d after\n", early, writing, late);
    CHECK(early > 0);
    CHECK(writing > 0);
    CHECK(late > 0);
}
