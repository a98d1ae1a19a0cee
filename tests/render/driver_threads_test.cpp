// The driver's threads on processors of their own.
#include <sched.h>
#include <filesystem>
#include <fstream>
#include <map>
#include <set>

#include "picture.h"
#include "render/driver.h"
#include "render/software/driver_threads.h"

using namespace jam;
using namespace jam::test;

namespace {

std::vector<int> processorsOf(int thread) {
    cpu_set_t set;
    std::vector<int> out;
    if (sched_getaffinity(thread, sizeof set, &set) != 0) return out;
    for (int i = 0; i < CPU_SETSIZE; ++i)
        if (CPU_ISSET(i, &set)) out.push_back(i);
    return out;
}

// By name; several screens of the driver have the same.
std::multimap<std::string, std::vector<int>> threads() {
    std::multimap<std::string, std::vector<int>> out;
    for (const auto& task : std::filesystem::directory_iterator("/proc/self/task")) {
        std::string name;
        std::ifstream(task.path() / "comm") >> name;
        out.emplace(name, processorsOf(std::stoi(task.path().filename().string())));
    }
    return out;
}

}  // namespace

TEST_CASE("threads share the processors that may be used") {
    const std::vector<int> odd{3, 5, 8, 9, 12, 20, 21};
    for (const size_t c : {1u, 2u, 3u, 7u})
        for (int n = 1; n <= 9; ++n) {
            const std::vector<int> allowed(odd.begin(), odd.begin() + static_cast<ptrdiff_t>(c));
            std::map<int, int> users;
            for (int i = 0; i < n; ++i) {
                const std::vector<int> own = processorsFor(i, n, allowed);
                REQUIRE_FALSE(own.empty());
                for (int p : own) ++users[p];
            }
            CAPTURE(c, n);
            // None is left out, and none has two threads more than another.
            CHECK(users.size() == c);
            int most = 0, least = n;
            for (const auto& [p, times] : users) most = std::max(most, times), least = std::min(least, times);
            CHECK(most - least <= 1);
            for (const auto& [p, times] : users) CHECK(std::count(allowed.begin(), allowed.end(), p) == 1);
        }
}

TEST_CASE("the driver that draws on the processor draws on all of them, and no other thread is bound") {
    renderer();  // opens the context
    if (!driverIsSoftware()) return;
    const std::vector<int> allowed = processorsOf(0);
    int drawing = 0;
    std::set<int> used;
    for (const auto& [name, processors] : threads()) {
        CAPTURE(name);
        if (name.starts_with("llvmpipe-")) {
            ++drawing;
            if (allowed.size() > 1) CHECK(processors.size() < allowed.size());
            used.insert(processors.begin(), processors.end());
        } else {
            CHECK(processors == allowed);
        }
    }
    CHECK(drawing == spreadDriverThreads());
    if (drawing > 1) CHECK(std::vector<int>(used.begin(), used.end()) == allowed);
}
