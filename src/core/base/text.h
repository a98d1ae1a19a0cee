// Numbers as people write them, for messages and files.
#pragma once

#include <string>

namespace jam {

// Shortest text that names the number to six digits: "0.5", "8193", "-12.25", "nan".
std::string number(double value);

}  // namespace jam
