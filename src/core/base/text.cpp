#include "base/text.h"

#include <algorithm>
#include <charconv>

namespace jam {

std::string number(double value) {
    // std::to_chars knows no locale.
    char text[32];
    const auto end = std::to_chars(text, text + sizeof text, value, std::chars_format::general, 6).ptr;
    return std::string(text, end);
}

namespace {

// Bytes of the letter that begins there; 0 when none does (RFC 3629: no overlong forms, no surrogates).
size_t letterAt(std::string_view s) {
    const auto byte = [&](size_t i) { return i < s.size() ? static_cast<unsigned char>(s[i]) : 0u; };
    const auto goesOn = [&](size_t i) { return (byte(i) & 0xC0u) == 0x80u; };
    const unsigned first = byte(0), second = byte(1);
    if (first < 0x80) return 1;
    if (first >= 0xC2 && first <= 0xDF) return goesOn(1) ? 2 : 0;
    if (first >= 0xE0 && first <= 0xEF) {
        const bool fine = goesOn(1) && goesOn(2) && !(first == 0xE0 && second < 0xA0) &&
                          !(first == 0xED && second >= 0xA0);
        return fine ? 3 : 0;
    }
    if (first >= 0xF0 && first <= 0xF4) {
        const bool fine = goesOn(1) && goesOn(2) && goesOn(3) && !(first == 0xF0 && second < 0x90) &&
                          !(first == 0xF4 && second >= 0x90);
        return fine ? 4 : 0;
    }
    return 0;
}

}  // namespace

bool isText(std::string_view bytes) {
    while (!bytes.empty()) {
        const size_t n = letterAt(bytes);
        if (n == 0) return false;
        bytes.remove_prefix(n);
    }
    return true;
}

std::string asText(std::string_view bytes) {
    std::string out;
    while (!bytes.empty()) {
        const size_t n = letterAt(bytes);
        out += n ? bytes.substr(0, n) : std::string_view("?");
        bytes.remove_prefix(std::max<size_t>(n, 1));
    }
    return out;
}

}  // namespace jam
