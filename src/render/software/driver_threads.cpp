#include "render/software/driver_threads.h"

#include <sched.h>
#include <algorithm>
#include <filesystem>
#include <fstream>
#include <map>
#include <string>

namespace jam {

namespace {

// Mesa's software driver names its threads llvmpipe-0, llvmpipe-1, ...; every screen has such a set.
constexpr const char* kName = "llvmpipe-";

std::vector<int> allowedProcessors() {
    cpu_set_t set;
    std::vector<int> out;
    if (sched_getaffinity(0, sizeof set, &set) != 0) return out;
    for (int i = 0; i < CPU_SETSIZE; ++i)
        if (CPU_ISSET(i, &set)) out.push_back(i);
    return out;
}

// Number among the driver's threads, by its number in the system.
std::map<int, int> driverThreads() {
    namespace fs = std::filesystem;
    std::map<int, int> out;
    std::error_code gone;
    for (fs::directory_iterator i("/proc/self/task", gone), end; !gone && i != end; i.increment(gone)) {
        std::string name;
        std::ifstream(i->path() / "comm") >> name;
        if (!name.starts_with(kName)) continue;
        const std::string number = name.substr(std::char_traits<char>::length(kName));
        if (number.empty() || number.size() > 4 || !std::all_of(number.begin(), number.end(), ::isdigit)) continue;
        out[std::stoi(i->path().filename().string())] = std::stoi(number);
    }
    return out;
}

}  // namespace

std::vector<int> processorsFor(int i, int n, std::span<const int> allowed) {
    const auto all = static_cast<long long>(allowed.size());
    const long long first = i * all / n, end = std::max(first + 1, (i + 1) * all / n);
    return {allowed.begin() + first, allowed.begin() + end};
}

int spreadDriverThreads() {
    const std::vector<int> allowed = allowedProcessors();
    const std::map<int, int> threads = driverThreads();
    if (allowed.empty()) return 0;
    int last = 0;
    for (const auto& [id, number] : threads) last = std::max(last, number);
    for (const auto& [id, number] : threads) {
        cpu_set_t own;
        CPU_ZERO(&own);
        for (int p : processorsFor(number, last + 1, allowed)) CPU_SET(p, &own);
        sched_setaffinity(id, sizeof own, &own);  // a thread that has just ended needs none
    }
    return static_cast<int>(threads.size());
}

}  // namespace jam
