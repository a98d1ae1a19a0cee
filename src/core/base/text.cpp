#include "base/text.h"

#include <cstdio>

namespace jam {

std::string number(double value) {
    char text[32];
    std::snprintf(text, sizeof text, "%.6g", value);
    return text;
}

}  // namespace jam
