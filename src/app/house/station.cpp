#include "house/station.h"

#include "watch/verdicts.h"

namespace jam {

std::optional<Station::State> Station::warned(const House& house) const {
    const auto first = house.verdicts.first(id_, Check::Weight::warns);
    if (!first) return std::nullopt;
    return State{first->brief, Mood::warns};
}

}  // namespace jam
