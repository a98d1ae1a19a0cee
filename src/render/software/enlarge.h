// Enlarges a picture evenly, for one that was drawn in fewer pixels while it moves.
#pragma once

#include <cstdint>
#include <vector>

namespace jam {

// One line of enlarging: pixel i lies between `from[i]` and the next, `share[i]` of 256 towards it. Centres of pixels
// stay where they are; beyond the outermost centres the outermost count.
struct Enlarged {
    std::vector<int> from;
    std::vector<uint32_t> share;  // 0 .. 255
    std::vector<uint16_t> bytes;  // the same for each of the four bytes of a pixel
};
// For pixels [first, end) of `whole` that are made of `few`. Preconditions: 2 <= few <= whole, 0 <= first <= end <=
// whole.
Enlarged enlarged(int few, int whole, int first, int end);

// A row enlarged: out[i] lies between in[from[i]] and in[from[i] + 1], four bytes each.
void enlarge(const uint32_t* in, const Enlarged& along, uint32_t* out);
// Bytes between those of two rows, `share` of 256 towards b.
void between(const uint8_t* a, const uint8_t* b, uint32_t share, int n, uint8_t* out);

// All of it: `rows` holds `depth` rows of `width` pixels from the bottom, the topmost of which is row `top` for `down`.
void enlargeRows(const uint32_t* rows, int width, int depth, int top, const Enlarged& across, const Enlarged& down,
                 uint8_t* out, int bytesPerRow);

}  // namespace jam
