#include <catch2/catch.hpp>

#include <sys/resource.h>
#include <unistd.h>
#include <atomic>
#include <cmath>
#include <filesystem>
#include <mutex>
#include <numeric>
#include <set>
#include <thread>

#include "base/noise.h"
#include "base/parallel.h"
#include "base/region.h"
#include "base/result.h"
#include "base/text.h"
#include "files/disk.h"
#include "files/fields.h"
#include "level/history.h"
#include "levels.h"
#include "survey/sunlight.h"

using namespace jam;
using namespace jam::test;

TEST_CASE("an error reads as one sentence, whatever parts it has") {
    CHECK(Error{"a.png", "width", "it is 0", "choose another"}.sentence() == "a.png: width: it is 0; choose another.");
    CHECK(Error{"", "width", "it is 0", "choose another"}.sentence() == "width: it is 0; choose another.");
    CHECK(Error{"a.png", "", "it is 0", ""}.sentence() == "a.png: it is 0.");
    CHECK(number(8193) == "8193");
    CHECK(number(-0.25) == "-0.25");
    CHECK(number(std::nan("")) == "nan");
}

TEST_CASE("regions join and clip as sets of samples do, for all tiny ones", "[exhaustive]") {
    const auto holds = [](const Region& r, int x, int z) { return !r.empty() && r.contains(x, z); };
    for (int a = 0; a < 81; ++a)
        for (int b = 0; b < 81; ++b) {
            const Region p{a % 3, a / 3 % 3, a / 9 % 3, a / 27 % 3}, q{b % 3, b / 3 % 3, b / 9 % 3, b / 27 % 3};
            const Region joined = p.joined(q), clipped = p.clipped(q);
            for (int z = 0; z < 3; ++z)
                for (int x = 0; x < 3; ++x) {
                    const bool inP = holds(p, x, z), inQ = holds(q, x, z);
                    if (inP || inQ) REQUIRE(holds(joined, x, z));
                    REQUIRE(holds(clipped, x, z) == (inP && inQ));
                }
            if (p.empty()) REQUIRE((joined == q));
        }
}

TEST_CASE("parallel work covers every index once, whatever the threads and grain") {
    for (const int threads : {1, 2, 4})
        for (const int grain : {1, 7, 1000}) {
            const ThreadLimit limit(threads);
            std::vector<int> seen(500, 0);
            parallelFor(500, grain, [&](int begin, int end) {
                for (int i = begin; i < end; ++i) ++seen[static_cast<size_t>(i)];
            });
            CHECK(std::accumulate(seen.begin(), seen.end(), 0) == 500);
            CHECK(*std::max_element(seen.begin(), seen.end()) == 1);
        }
    bool called = false;
    parallelFor(0, 1, [&](int, int) { called = true; });
    CHECK_FALSE(called);
}

TEST_CASE("work that gives way comes out the same, at low priority in all its threads, and troubles come through") {
    const auto priority = [] { return getpriority(PRIO_PROCESS, static_cast<id_t>(gettid())); };
    const int before = priority();
    std::thread([&] {
        giveWay();
        std::mutex mutex;
        std::set<int> priorities;
        for (const int grain : {1, 7, 1000}) {
            std::vector<int> seen(500, 0);
            parallelFor(500, grain, [&](int begin, int end) {
                const std::lock_guard lock(mutex);
                priorities.insert(priority());
                for (int i = begin; i < end; ++i) ++seen[static_cast<size_t>(i)];
            });
            CHECK(std::all_of(seen.begin(), seen.end(), [](int n) { return n == 1; }));
        }
        CHECK(*priorities.begin() >= 10);
        // Split twice it is still all of it, once.
        std::atomic<int> sum{0};
        parallelFor(20, 1, [&](int begin, int end) {
            for (int i = begin; i < end; ++i)
                parallelFor(30, 1, [&](int from, int to) { sum += (to - from) * (i + 1); });
        });
        CHECK(sum == 30 * 210);
        CHECK_THROWS_AS(parallelFor(100, 1,
                                    [](int begin, int) {
                                        if (begin > 40) throw std::bad_alloc();
                                    }),
                        std::bad_alloc);
        int after = 0;
        parallelFor(1, 1, [&](int, int) { ++after; });
        CHECK(after == 1);
    }).join();
    CHECK(priority() == before);  // and nobody else does
}

TEST_CASE("noise repeats with its period, stays in range and is smooth") {
    for (int i = 0; i < 500; ++i) {
        const float x = static_cast<float>(i) * 0.173f, z = static_cast<float>(i) * 0.091f;
        const float n = fractalNoise(x, z, 9, 4, 0.5f, 8);
        CHECK(std::abs(n) <= 1.05f);
        CHECK(fractalNoise(x + 8, z, 9, 4, 0.5f, 8) == Approx(n).margin(1e-3));
        CHECK(fractalNoise(x, z + 8, 9, 4, 0.5f, 8) == Approx(n).margin(1e-3));
        CHECK(std::abs(fractalNoise(x + 0.001f, z, 9, 4) - fractalNoise(x, z, 9, 4)) < 0.05f);
    }
}

TEST_CASE("a file is there whole or not at all") {
    const std::filesystem::path path = std::filesystem::temp_directory_path() /
                                       ("jamhill-atomic-" + std::to_string(::getpid()));
    {
        AtomicFile file(path);
        REQUIRE(file.write({1, 2, 3}));
        CHECK_FALSE(std::filesystem::exists(path));
    }
    CHECK_FALSE(std::filesystem::exists(path));
    AtomicFile file(path);
    const auto part = file.path();
    REQUIRE(file.write({1, 2, 3}));
    REQUIRE(file.commit());
    CHECK(readFile(path, 10).value() == Bytes{1, 2, 3});
    CHECK_FALSE(std::filesystem::exists(part));
    CHECK(readFile(path, 2).error().sentence().find("more than") != std::string::npos);
    std::filesystem::remove(path);
    CHECK(readFile("/dev/zero", 10).error().problem == "it is not an ordinary file");
}

TEST_CASE("the first thing wrong in a JSON text is named by its path") {
    const auto wrong = [](const std::string& text) {
        const Result<Json> json = parseJson(text, "f.json");
        REQUIRE(json);
        std::optional<Error> error;
        Fields f(json.value(), "f.json", error);
        f.number("a", 0, 10, 5);
        f.each("list", 3, [](Fields item) {
            item.whole("n", 1, 9);
            item.flag("on", true);
            item.text("t", "");
        });
        return error ? error->field : std::string("nothing");
    };
    CHECK(wrong(R"({"list":[{"n":1}]})") == "nothing");
    CHECK(wrong(R"({"a":11,"list":[]})") == "a");
    CHECK(wrong(R"({"a":"x","list":[]})") == "a");
    CHECK(wrong(R"({})") == "list");
    CHECK(wrong(R"({"list":{}})") == "list");
    CHECK(wrong(R"({"list":[1]})") == "list[0]");
    CHECK(wrong(R"({"list":[{"n":1},{"n":1.5}]})") == "list[1].n");
    CHECK(wrong(R"({"list":[{"n":1},{"n":1,"on":3}]})") == "list[1].on");
    CHECK(wrong(R"({"list":[{"n":1,"t":7}]})") == "list[0].t");
    CHECK(wrong(R"({"list":[{"n":1},{"n":1},{"n":1},{"n":1}]})") == "list");
}

TEST_CASE("replacing the present entry keeps one step and drops what was undone") {
    History h(flatLevel(65, 65), "start");
    Level a = h.now(), b = h.now();
    a.sun.azimuth = 10;
    b.sun.azimuth = 20;
    h.push(a, "Turn the sun");
    const uint64_t first = h.serial();
    h.replaceNow(b);
    CHECK(h.entries().size() == 2);
    CHECK(h.now().sun.azimuth == 20);
    CHECK(h.entries().back().what == "Turn the sun");
    CHECK(h.serial() != first);
    h.undo();
    CHECK(h.now().sun.azimuth == 300);
}

TEST_CASE("openness of a part is that of the whole, wherever the part lies", "[property]") {
    const Level level = hillyLevel(560, 75, 4, 1);  // wider than what is worked on at once
    Raster<uint8_t> whole(level.columns, level.rows);
    readOpenness(level, whole.view());
    Random random(3);
    for (int round = 0; round < 8; ++round) {
        const int x = wholeBetween(random, 0, 540), z = wholeBetween(random, 0, 60);
        const Region part =
            Region{x, z, x + wholeBetween(random, 1, 200), z + wholeBetween(random, 1, 40)}.clipped(level.bounds());
        Raster<uint8_t> out(level.columns, level.rows, 7);
        readOpenness(level, out.view(), part);
        bool same = true, outside = true;
        for (int r = 0; r < level.rows; ++r)
            for (int c = 0; c < level.columns; ++c)
                if (part.contains(c, r)) same &= out.at(c, r) == whole.at(c, r);
                else outside &= out.at(c, r) == 7;
        CHECK(same);
        CHECK(outside);
    }
    // What lies farther from a change than the reach stays as it was.
    Level raised = level;
    raised.strata[0].heights.set(300, 30, 60);
    Raster<uint8_t> after(level.columns, level.rows);
    readOpenness(raised, after.view());
    const Region near = Region{300, 30, 301, 31}.grown(opennessReach(level));
    bool same = true, differs = false;
    for (int r = 0; r < level.rows; ++r)
        for (int c = 0; c < level.columns; ++c) {
            differs |= after.at(c, r) != whole.at(c, r);
            same &= near.contains(c, r) || after.at(c, r) == whole.at(c, r);
        }
    CHECK(same);
    CHECK(differs);
}

TEST_CASE("hollows see less sky than plains, and crests as much") {
    Level level = flatLevel(101, 101);
    for (int r = 0; r < 101; ++r)
        for (int c = 0; c < 101; ++c) {
            const double d = std::hypot(c - 50, r - 50);
            level.strata[0].heights.set(c, r, d < 8 ? -10.f : 0.f);
        }
    Raster<uint8_t> open(101, 101);
    readOpenness(level, open.view());
    CHECK(open.at(10, 10) == 255);
    CHECK(open.at(50, 50) < 200);
    CHECK(open.at(50, 50) < open.at(40, 50));
    for (const float azimuth : {0.f, 90.f, 180.f, 270.f}) {
        const Direction d = towardsSun({azimuth, 30});
        CHECK(std::hypot(d.x, d.y, d.z) == Approx(1));
        CHECK(d.y == Approx(0.5));
    }
    CHECK(towardsSun({90, 30}).x > 0.8);  // east
    CHECK(towardsSun({0, 30}).z < -0.8);  // north
}
