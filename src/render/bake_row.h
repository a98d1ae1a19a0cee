// A row of samples as light falls on them, for bake(): loops over one quantity at a time, which compilers turn into
// vectors.
#pragma once

#include <cstdint>
#include <vector>

#include "light.h"

namespace jam {

class BakeRow {
public:
    explicit BakeRow(int samples);

    // Sets the unit normals of every `every`-th sample of a row of ground, from three rows that reach one sample to
    // each side. `per`: one by twice the spacing.
    void slopes(const float* above, const float* middle, const float* below, int every, float per);
    // Light that arrives: shade[i * every] times even[i], at most 255; null for all of it.
    void shadeSun(const uint8_t* shade, int every) { shadeInto(sun, shade, every); }
    void shadeSky(const uint8_t* shade, int every) { shadeInto(open, shade, every); }
    // out[i]: RGBA of normal's east and south, sun, openness.
    void surface(uint32_t* out) const;
    // out[i]: RGB as shown of every `every`-th of these samples; A as given. Colours are linear, of the ground before
    // any light.
    struct Ground {
        const float *red, *green, *blue;
        const uint8_t* grain;
    };
    void lit(const LightLook& light, const Ground& ground, int every, uint32_t* out) const;

    std::vector<float> east, up, south;
    std::vector<float> even;          // a factor of all light, set by the caller
    std::vector<uint32_t> sun, open;  // [0, 255]

private:
    void shadeInto(std::vector<uint32_t>& out, const uint8_t* shade, int every) const;
};

}  // namespace jam
