// Loops over every so many samples of a row.
#pragma once

#include <cstddef>
#include <type_traits>

namespace jam {

// With a distance that the compiler knows it makes vectors of the samples: 1 is an integral_constant.
template <class Loop>
void withStep(int every, const Loop& loop) {
    if (every == 1) loop(std::integral_constant<size_t, 1>());
    else loop(static_cast<size_t>(every));
}

}  // namespace jam
