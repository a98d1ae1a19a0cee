// Other samples from the same raster.
#pragma once

#include "base/context.h"
#include "grid/view.h"

namespace jam {

// Nearest keeps values as they are; linear never overshoots; cubic is that of Keys, "Cubic convolution interpolation
// for digital image processing", 1981. Where samples become fewer, linear and cubic are widened by as much, so that
// fine ripples do not fold into false hills.
enum class Kernel { nearest, linear, cubic };

// Samples and their weights for one output sample along one axis; weights add up to one.
struct Taps {
    int first = 0;
    std::vector<float> weights;
};

// Output sample i lies at offset + i * ratio in an input of `from` samples, whose edges are repeated.
std::vector<Taps> tapsFor(int from, int to, double ratio, double offset, Kernel kernel);

// Resamples a whole raster. False when cancelled; `to` is then unspecified.
bool resampleRaster(View<const float> from, View<float> to, double ratioX, double ratioZ, double offsetX,
                    double offsetZ, Kernel kernel, const Context& context = {});

}  // namespace jam
