// Benchmarks in pairs: ours and a baseline of the same run, printed as a table of ratios.
#pragma once

#include <benchmark/benchmark.h>
#include <functional>
#include <string>
#include <vector>

namespace jam::bench {

enum class Goal { atLeast, atMost };  // the ratio is baseline / ours (a speed) or ours / baseline (a cost)

// Registers the pair; each body runs once per iteration. Bodies capture by value or outlive run().
void pair(const std::string& name, Goal kind, double goal, std::function<void()> ours, std::function<void()> baseline);
// A row whose figures were counted, not timed.
void figure(const std::string& name, Goal kind, double goal, double ours, double baseline);
// Runs all pairs several times, takes medians, prints the table.
int run(int count, char** words);

}  // namespace jam::bench
