#include "base/range.h"

#include <cmath>

#include "base/text.h"

namespace jam {

Status checkRange(const std::string& field, double value, double lowest, double highest, const std::string& unit) {
    if (std::isfinite(value) && value >= lowest && value <= highest) return {};
    return Error{"", field, "it is " + number(value), "use " + number(lowest) + " to " + number(highest) + unit};
}

}  // namespace jam
