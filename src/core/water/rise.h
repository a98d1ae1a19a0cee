// Water that rises over the ground: priority flood (Barnes, Lehman and Mulla, "Priority-Flood", 2014).
#pragma once

#include <memory>
#include <optional>
#include <vector>

#include "base/context.h"
#include "grid/view.h"
#include "level/level.h"

namespace jam {

// For every sample the height to which water can stand there before it runs over the edge of the view: the lowest
// height at which a way leads out. Samples are joined as the drawn triangles are (grid/bits.h). Heights are finite.
// Both views have the same size. False when cancelled; `out` is then unspecified.
bool fillToBrim(View<const float> ground, View<float> out, const Context& context = {});

// The same water rising from one place: it takes the lowest sample that it can reach, one after another, whether that
// lies below its level, where it runs down, or not, where it rises.
class Rise {
public:
    // Preconditions: the sample lies inside; the level lives as long.
    Rise(const Level& level, int column, int row);
    ~Rise();

    struct Step {
        int column, row;
        float ground;
        bool out;  // it leaves the level here: its edge, or a gap in the ground
    };
    // Empty when all has been taken.
    std::optional<Step> next();
    // Where it came from to a sample that it took; the first one comes from itself.
    std::pair<int, int> from(int column, int row) const;

private:
    struct Impl;
    std::unique_ptr<Impl> impl_;
};

// A height to which water can stand at a place before it runs over into lower ground, or out of the level.
struct Brim {
    float height = 0;         // metres
    float depth = 0;          // of the deepest place below it
    int column = 0, row = 0;  // that place
    bool out = false;         // beyond it water leaves the level
};

// Ground counts as lower from so many metres on, and hollows as hollows.
constexpr float kLeastHollow = 0.15f;
// The brims at world (x, z), from the smallest hollow that it lies in, or that water runs to from there, to the one
// beyond which it leaves the level. Hollows less than kLeastHollow deep are passed over; at most `most` are looked for.
// Only brims over `above` count. Empty when nothing holds water; when cancelled, those found so far.
std::vector<Brim> brimsAt(const Level& level, double x, double z, float above, size_t most = 1,
                          const Context& context = {});

}  // namespace jam
