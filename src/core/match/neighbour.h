// Neighbours: fitting the border of a level to that of the level that lies beside it.
#pragma once

#include "base/context.h"
#include "level/level.h"

namespace jam {

struct MatchWish {
    Side side = Side::north;            // of this level, where the neighbour lies
    double blend = 40;                  // metres inwards over which it is blended, [0, kMostBorderBlend]
    bool heights = true, cover = true;  // what is fitted
    std::string file;                   // the neighbour's, to be kept with the border
};

// Fits this level's side to the opposite one of a neighbour: afterwards the border samples of both are equal bit for
// bit, heights and, at the samples that both have, weights. Inwards the difference at the border fades away over
// `blend` metres, so no step between two samples grows by more than the difference times 1.5 * spacing / blend, and
// along the border by as much as the difference changes there. The heights become a border stratum over all others, in
// place of an earlier one of that side; layers are those of the same name, and missing ones come along; what was fitted
// is the hand's own where rules are alive. A fence does not matter. Where two neighbours meet at a corner and differ
// there, the one that is fitted last is met.
// Errors: another spacing or number of samples along the side, ground that would leave the level's range, too many
// strata or layers, a protected layer, nothing chosen, or cancelled.
Result<Level> matchBorder(const Level& level, const Level& neighbour, const MatchWish& wish,
                          const Context& context = {});

// The most that the two differ along the border: metres, and parts of 255 of any layer's weight (by name).
struct BorderGap {
    double height = 0;
    int weight = 0;
    bool none() const { return height == 0 && weight == 0; }
};
// Errors: as above, of spacing and size.
Result<BorderGap> borderGap(const Level& level, const Level& neighbour, Side side);

Side opposite(Side side);

}  // namespace jam
