#include "ratios.h"

#include <algorithm>
#include <cstdio>
#include <map>

namespace jam::bench {

namespace {

struct Row {
    std::string name;
    Goal kind;
    double goal, ours = 0, baseline = 0;
    bool timed = true;
};
std::vector<Row>& rows() {
    static std::vector<Row> r;
    return r;
}

// Collects the median of each benchmark; prints nothing itself.
class Collector : public benchmark::BenchmarkReporter {
public:
    bool ReportContext(const Context&) override { return true; }
    void ReportRuns(const std::vector<Run>& runs) override {
        for (const Run& r : runs) {
            if (r.run_type == Run::RT_Iteration) times[r.benchmark_name()].push_back(r.GetAdjustedRealTime());
        }
    }
    double median(const std::string& name) {
        for (auto& [key, list] : times) {
            if (key.compare(0, name.size(), name) != 0 || (key.size() > name.size() && key[name.size()] != '/'))
                continue;
            std::sort(list.begin(), list.end());
            return list[list.size() / 2];
        }
        return 0;
    }
    std::map<std::string, std::vector<double>> times;
};

void put(const std::string& name, const std::function<void()>& body) {
    benchmark::RegisterBenchmark(name.c_str(),
                                 [body](benchmark::State& state) {
                                     for (auto _ : state) body();
                                 })
        ->Unit(benchmark::kMicrosecond)
        ->Repetitions(5)
        ->MinTime(0.05)
        ->UseRealTime();
}

}  // namespace

void pair(const std::string& name, Goal kind, double goal, std::function<void()> ours, std::function<void()> baseline) {
    rows().push_back({name, kind, goal});
    put(name + " [ours]", ours);
    put(name + " [baseline]", baseline);
}

void figure(const std::string& name, Goal kind, double goal, double ours, double baseline) {
    rows().push_back({name, kind, goal, ours, baseline, false});
}

int run(int count, char** words) {
    benchmark::Initialize(&count, words);
    Collector collector;
    benchmark::RunSpecifiedBenchmarks(&collector);
    std::printf("%-46s %12s %12s %8s  %s\n", "what", "ours", "baseline", "ratio", "goal");
    for (Row& r : rows()) {
        if (r.timed) {
            r.ours = collector.median(r.name + " [ours]");
            r.baseline = collector.median(r.name + " [baseline]");
            if (r.ours == 0) continue;  // filtered out
        }
        const double ratio = r.kind == Goal::atLeast ? r.baseline / r.ours : r.ours / r.baseline;
        const bool met = r.kind == Goal::atLeast ? ratio >= r.goal : ratio <= r.goal;
        std::printf("%-46s %9.1f %s %9.1f %s %8.2f  %s %g%s\n", r.name.c_str(), r.ours, r.timed ? "us" : "  ",
                    r.baseline, r.timed ? "us" : "  ", ratio, r.kind == Goal::atLeast ? ">=" : "<=", r.goal,
                    met ? "" : "  MISSED");
    }
    return 0;
}

}  // namespace jam::bench
