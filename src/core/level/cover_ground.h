// Which ground a sample of the cover belongs to.
#pragma once

#include <algorithm>

namespace jam {

// The column (or row) of the ground sample nearest to the cover's; of two the farther. `factor` cover samples lie on
// each ground sample, of which there are `samples`.
inline int groundUnder(int coverAt, int factor, int samples) {
    return std::min((coverAt + factor / 2) / factor, samples - 1);
}

}  // namespace jam
