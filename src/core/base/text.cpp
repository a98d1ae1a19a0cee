#include "base/text.h"

#include <charconv>

namespace jam {

std::string number(double value) {
    // std::to_chars knows no locale.
    char text[32];
    const auto end = std::to_chars(text, text + sizeof text, value, std::chars_format::general, 6).ptr;
    return std::string(text, end);
}

}  // namespace jam
