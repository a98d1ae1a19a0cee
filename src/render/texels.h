// Arithmetic on RGBA texels of four bytes.
#pragma once

#include <cstdint>

namespace jam {

// Four texels to one, channel by channel.
inline uint32_t meanOf(uint32_t a, uint32_t b, uint32_t c, uint32_t d) {
    uint32_t out = 0;
    for (int s = 0; s < 32; s += 8)
        out |= ((((a >> s) & 255) + ((b >> s) & 255) + ((c >> s) & 255) + ((d >> s) & 255) + 2) / 4) << s;
    return out;
}

}  // namespace jam
