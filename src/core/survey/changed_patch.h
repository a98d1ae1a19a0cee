// One of the few places of the ground where a change shows.
#pragma once

#include "survey/pyramid.h"

namespace jam {

struct ChangedPatch {
    Region ground;
    HeightSpan heights;  // that the ground there had and has
};

}  // namespace jam
