// Which ground the sun reaches.
#pragma once

#include <vector>

#include "base/context.h"
#include "grid/tile_set.h"
#include "level/level.h"

namespace jam {

// Sun visibility of every sample, 0 in full shade to 255 in full sun, with a penumbra of about half a degree of
// sun height. One sweep away from the sun carries the height of the shadow along, so the cost is the same for
// every sun: one comparison per sample. `out` has columns x rows samples; unspecified when cancelled.
void readSunlight(const Level& level, View<uint8_t> out, const Context& context = {});

// The same, kept up to date: only lines that a change lies in, or that its shadow reaches, are swept again.
class SunShade {
public:
    // `out` holds what the last call made of it. Everything is worked out when `changed`, the ground that differs since
    // then, is null; it has to be when anything else differs. False when cancelled, and all is to be worked out then.
    bool follow(const Level& level, const TileSet* changed, View<uint8_t> out, const Context& context = {});

private:
    std::vector<std::vector<float>> before_;  // heights of the shadow at every kLines-th line
};

// How open every sample is to the sky, 0 to 255 (255 on level ground and above): hollows, seen at two widths,
// get less light from above. `out` has columns x rows samples. Only those inside `where` are written; they do not
// depend on what else is asked for. Unspecified when cancelled.
void readOpenness(const Level& level, View<uint8_t> out, const Region& where, const Context& context = {});
inline void readOpenness(const Level& level, View<uint8_t> out) { readOpenness(level, out, level.bounds()); }
// How far from a change of the ground openness can change, in samples.
int opennessReach(const Level& level);

// Unit vector towards the sun: x east, y up, z south.
struct Direction {
    double x, y, z;
};
Direction towardsSun(const Sun& sun);

}  // namespace jam
