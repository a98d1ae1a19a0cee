// Whether a number that came from outside lies in its range.
#pragma once

#include <string>

#include "base/result.h"

namespace jam {

// Errors: it does not, or is no number; the remedy names the range, with `unit` (" m") behind it.
Status checkRange(const std::string& field, double value, double lowest, double highest, const std::string& unit);

}  // namespace jam
