// The things of a level that have ids. Work that ends later finds what it was begun on by these, and not by its place.
#pragma once

#include <cstdint>

#include "base/result.h"

namespace jam {

struct Level;

// A course is a stratum with posts; `stratum` means any of them.
enum class ThingKind { layer, stratum, course, pool, stream, spot, fence, kind, single };
constexpr int kThingKinds = 9;

struct Thing {
    ThingKind kind;
    uint32_t id;
};

bool has(const Level& level, const Thing& thing);
// What work says that finds a thing gone which it was begun on: "The layer is gone; choose another."
Error goneError(ThingKind kind);

}  // namespace jam
