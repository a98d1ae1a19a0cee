#include "memory.h"

#include <algorithm>

#include "lit_map.h"
#include "material_textures.h"
#include "near_window.h"

namespace jam {

size_t drawingMemory(const NewLevel& wish, int layers) {
    const auto columns = static_cast<size_t>(wish.columns), rows = static_cast<size_t>(wish.rows),
               ground = columns * rows;
    const auto stride = static_cast<size_t>(LitMap::strideFor(wish.columns, wish.rows, wish.spacing));
    const size_t lit = ground / (stride * stride) * 16 / 3;  // four bytes, and a third more for mipmaps
    const size_t heights = 4 * ground, light = 2 * ground;   // sun and openness, a byte each
    const auto factor = static_cast<size_t>(wish.coverFactor);
    const size_t nearCover = std::min<size_t>(columns * factor, NearWindow::kMostCover) *
                             std::min<size_t>(rows * factor, NearWindow::kMostCover);
    const size_t slices = (static_cast<size_t>(layers) + 3) / 4;
    const size_t nearby = nearCover * (4 * slices + 1) + nearCover / (factor * factor) * 4;
    // Colour and relief with mipmaps, and both again as they were decoded.
    constexpr size_t kPicture = 4ull * MaterialTextures::kSize * MaterialTextures::kSize;
    return heights + lit + light + nearby + static_cast<size_t>(layers) * kPicture * 5;
}

}  // namespace jam
