// How sharp a picture is that a software driver draws: what moves is quick, and in fewer pixels where that is slow.
#pragma once

#include "render/quality.h"

namespace jam {

// The coarse ones are quick and in fewer pixels, into a picture beside the kept one.
enum class Finish { coarsest, coarse, quick, full };
constexpr bool isCoarse(Finish finish) { return finish <= Finish::coarse; }
// Of the pixels each way.
constexpr double shareOf(Finish finish) {
    return finish == Finish::coarsest ? 0.5 : finish == Finish::coarse ? 2.0 / 3 : 1;
}
// `grain`: for a quick one.
constexpr Quality qualityOf(Finish finish, const GrainFade& grain = kMovingGrain) {
    constexpr double kStrayPixels = 1;  // of a moving picture's own
    if (finish == Finish::full) return {};
    return {grain, static_cast<float>(shareOf(finish)), kStrayPixels / shareOf(finish), false};
}

}  // namespace jam
