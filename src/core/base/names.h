// Words for enumerators, as they stand in files and on the command line.
#pragma once

#include <algorithm>
#include <array>
#include <optional>
#include <string>
#include <string_view>

namespace jam {

// The enumerator whose name stands at its place in the list; none when the name is not in it.
template <class E, size_t N>
std::optional<E> fromName(const std::array<std::string_view, N>& names, std::string_view name) {
    const auto at = std::find(names.begin(), names.end(), name);
    if (at == names.end()) return std::nullopt;
    return static_cast<E>(at - names.begin());
}

// `wish`, or that with the first number that makes it one for which taken(name) does not hold.
template <class Taken>
std::string freeName(const std::string& wish, Taken taken) {
    std::string name = wish;
    for (int n = 2; taken(name); ++n) name = wish + " " + std::to_string(n);
    return name;
}

}  // namespace jam
