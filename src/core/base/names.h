// Words for enumerators, as they stand in files and on the command line; and the names that people give.
#pragma once

#include <algorithm>
#include <array>
#include <optional>
#include <string>
#include <string_view>

#include "base/result.h"

namespace jam {

constexpr size_t kMostName = 500;  // bytes (UTF-8) of any name in a level; what fields, commands and readers share

// Errors: longer than kMostName, or no text.
Status checkName(const std::string& name);
// The beginning of a name, so that no more than `most` bytes are left; letters stay whole.
std::string shortened(std::string name, size_t most = kMostName);

// The enumerator whose name stands at its place in the list; none when the name is not in it.
template <class E, size_t N>
std::optional<E> fromName(const std::array<std::string_view, N>& names, std::string_view name) {
    const auto at = std::find(names.begin(), names.end(), name);
    if (at == names.end()) return std::nullopt;
    return static_cast<E>(at - names.begin());
}

// `wish`, or that with the first number that makes it one for which taken(name) does not hold; shortened so that both
// fit. taken() says whether something has the name, and nothing else, or no number would ever do.
template <class Taken>
std::string freeName(const std::string& wish, Taken taken) {
    std::string name = shortened(wish);
    for (int n = 2; taken(name); ++n) {
        const std::string number = " " + std::to_string(n);
        name = shortened(wish, kMostName - number.size()) + number;
    }
    return name;
}

}  // namespace jam
