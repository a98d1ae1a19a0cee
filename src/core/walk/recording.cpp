#include "walk/recording.h"

#include <cmath>

#include "base/text.h"

namespace jam {

uint64_t WalkRecord::steps() const {
    uint64_t all = 0;
    for (const Run& r : runs) all += r.steps;
    return all;
}

void WalkRecord::add(const WalkInput& input) {
    if (runs.empty() || !(runs.back().input == input)) runs.push_back({input, 0});
    ++runs.back().steps;
}

WalkRecord recordAt(const Level& level, const Body& body, double x, double z) {
    return {level.name, level.columns, level.rows, level.spacing, level.originX, level.originZ, body, x, z, {}};
}

Status checkRecord(const Level& level, const WalkRecord& r) {
    if (r.level != level.name || r.columns != level.columns || r.rows != level.rows || r.spacing != level.spacing ||
        r.originX != level.originX || r.originZ != level.originZ)
        return Error{"", "level",
                     "it was walked in \"" + r.level + "\" (" + std::to_string(r.columns) + " x " +
                         std::to_string(r.rows) + " samples of " + number(r.spacing) + " m), not in \"" + level.name +
                         "\" as it is now",
                     "open the level that it belongs to"};
    if (!level.holds(r.x, r.z)) return Error{"", "start", "it begins outside of the level", "record it again"};
    return {};
}

Replayed replayWalk(const Level& level, const WalkRecord& record, const Context& context) {
    Walker walker(level, record.body, record.x, record.z);
    Replayed out;
    uint64_t step = 0;
    const uint64_t all = record.steps();
    const auto note = [&] { out.trace.push_back({walker.state().x, walker.state().y, walker.state().z}); };
    note();
    for (const WalkRecord::Run& run : record.runs)
        for (uint32_t i = 0; i < run.steps; ++i) {
            const WalkState was = walker.state();
            walker.step(run.input);
            const WalkState& s = walker.state();
            out.length += std::sqrt((s.x - was.x) * (s.x - was.x) + (s.y - was.y) * (s.y - was.y) +
                                    (s.z - was.z) * (s.z - was.z));
            if (++step % (Walker::kStepsASecond / 10) == 0) note();
            if (step % 8192 == 0) {
                context.report(static_cast<double>(step) / static_cast<double>(all));
                if (context.cancelled()) return out;
            }
        }
    out.end = walker.state();
    return out;
}

}  // namespace jam
