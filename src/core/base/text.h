// Numbers as people write them, and text that came from outside, for messages and files.
#pragma once

#include <string>
#include <string_view>

namespace jam {

// Shortest text that names the number to six digits: "0.5", "8193", "-12.25", "nan".
std::string number(double value);

// Whether it is text at all, as all files keep it (UTF-8). Names of files need not be.
bool isText(std::string_view bytes);
// The same with "?" for each byte that belongs to no letter.
std::string asText(std::string_view bytes);

}  // namespace jam
