// A walk that can be walked again: who, where, and what the hands asked for, step by step.
#pragma once

#include "base/context.h"
#include "walk/walker.h"

namespace jam {

struct WalkRecord {
    struct Run {
        WalkInput input;
        uint32_t steps = 0;
        bool operator==(const Run&) const = default;
    };
    // The level that it belongs to; its ground may change meanwhile.
    std::string level;
    int columns = 0, rows = 0;
    double spacing = 1, originX = 0, originZ = 0;
    Body body;
    double x = 0, z = 0;  // metres: where it begins
    std::vector<Run> runs;

    bool operator==(const WalkRecord&) const = default;
    uint64_t steps() const;
    double seconds() const { return static_cast<double>(steps()) * Walker::kStep; }
    // Adds one step. What goes on is one run.
    void add(const WalkInput& input);
};
constexpr uint64_t kMostWalkSteps = 3ull * 3600 * Walker::kStepsASecond;  // three hours
constexpr size_t kMostWalkRuns = 2'000'000;

// An empty record of a walk that begins there.
WalkRecord recordAt(const Level& level, const Body& body, double x, double z);
// Errors: it belongs to another level; it begins outside of it.
Status checkRecord(const Level& level, const WalkRecord& record);

struct Replayed {
    WalkState end;
    double length = 0;                         // metres along the way
    std::vector<std::array<double, 3>> trace;  // x, y, z, ten times a second
};
// Walks it again, on the ground as it is now. Unspecified when cancelled. Precondition: checkRecord().
Replayed replayWalk(const Level& level, const WalkRecord& record, const Context& context = {});

}  // namespace jam
