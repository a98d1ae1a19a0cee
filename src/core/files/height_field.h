// Heights as they were read from a file, before they mean metres.
#pragma once

#include <cmath>
#include <string>

#include "base/result.h"
#include "grid/view.h"

namespace jam {

constexpr int kMostFieldSamples = 16385;  // along a side of a heightmap; levels take kMaxSamples

struct HeightField {
    std::string name;    // file name
    std::string format;  // "PNG, 16 bits", for people
    Raster<float> values;
    float low = 0, high = 0;      // least and greatest value
    float black = 0, white = 0;   // values that the format's ends stand for: 0 and 255 or 65535; low and high where the
                                  // values are metres
    bool metres = false;          // the values are metres: the format says so, or custom
    double cellX = 0, cellZ = 0;  // metres between samples eastwards and southwards when the format says so, else 0
    double steps = 0;             // how many different values it may have, 0 for floats
    long long holes = 0;          // samples without a value, which were filled from their surroundings

    int width() const { return values.width(); }
    int depth() const { return values.depth(); }
    bool square() const { return std::abs(cellX - cellZ) <= 1e-3 * cellZ; }
};

// Errors: a side outside of kMinSamples to kMostFieldSamples.
Status checkFieldSize(const std::string& name, long long width, long long depth);

// Values that elevation data use for "no data" without saying so: -9999, -32768, -32767, and those beyond -1e30.
bool meansNothing(double value);

// Readers mark samples without a value with NaN. This fills them from what lies round them, as a skin stretched over
// the rim would: never above or below what is there. Returns how many there were; all of them when there is nothing to
// fill from. Averages go up a pyramid until no hole is left, come down again between samples, and are relaxed on every
// step (a coarse to fine solution of Laplace's equation). O(n).
long long fillHoles(Raster<float>& values);

}  // namespace jam
