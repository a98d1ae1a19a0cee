// Decodes a layer's pictures into what is drawn: all maps at one size, missing ones derived.
#pragma once

#include "base/result.h"
#include "cover/material.h"
#include "level/layer.h"

namespace jam {

// Decodes and resamples to `size`. A missing height comes from the colour's lightness, a missing normal from the
// height, a missing roughness is 0.9, a missing occlusion open. Errors: a picture that does not decode.
Result<Material> makeMaterial(const Layer& layer, int size);

}  // namespace jam
