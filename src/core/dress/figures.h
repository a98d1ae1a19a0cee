// What is told of all that stands: how many, and which of it floats or is drowned. Kept by tiles, so that a change
// looks again where it was made.
#pragma once

#include <optional>

#include "dress/plantings.h"

namespace jam {

struct KindFigures {
    long long standing = 0;
    // So many are not right, and where one of them is: x, z.
    struct Amiss {
        long long count = 0;
        std::optional<std::array<double, 2>> at;

        bool operator==(const Amiss&) const = default;
    };
    Amiss floats;    // the ground under the rim of its foot lies lower than it is sunk
    Amiss drowned;   // water stands over its head, and no rule of its own put it there
    Amiss inTheWay;  // it blocks, and stands on the even part of a course or on a spot

    bool operator==(const KindFigures&) const = default;
};
constexpr double kSpotClear = 1;  // metres round a spot that are its own

class DressFigures {
public:
    // Looks again at what `change` may have altered, at everything without one. False when cancelled; it is to be made
    // anew then.
    bool follow(const Level& level, const Change* change, const Context& context = {});
    // By the id of the kind; of one without a place in the level nothing stands.
    const KindFigures& of(uint32_t kind) const;
    const std::map<uint32_t, KindFigures>& all() const { return all_; }
    // All that stands, tile by tile; null on a level without kinds.
    const Plantings* plantings() const { return plantings_ ? &*plantings_ : nullptr; }

private:
    struct Tallied {
        std::shared_ptr<const std::vector<Planting>> tile;  // what was counted
        KindFigures figures;
    };
    std::optional<Plantings> plantings_;
    std::map<uint32_t, std::vector<Tallied>> tallies_;  // by kinds, then by tiles
    std::map<uint32_t, KindFigures> all_;
};

// How far a planting's foot hangs over the ground at its lowest, in metres; at most 0 where it stands in it.
double gapBelow(const Level& level, const Kind& kind, const Planting& planting);

// Lets singles of a kind that float, or of every kind for 0, down until no part of their foot does; how many that were.
int settleSingles(Level& level, uint32_t kind = 0);

}  // namespace jam
