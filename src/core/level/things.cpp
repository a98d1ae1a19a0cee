#include "level/things.h"

#include <algorithm>
#include <string>

#include "level/level.h"

namespace jam {

bool has(const Level& level, const Thing& thing) {
    switch (thing.kind) {
        case ThingKind::layer: return level.layer(thing.id);
        case ThingKind::stratum: return level.stratum(thing.id);
        case ThingKind::course: return level.stratum(thing.id) && level.stratum(thing.id)->course;
        case ThingKind::pool: return level.pool(thing.id);
        case ThingKind::stream: return level.stream(thing.id);
        case ThingKind::spot: return level.spot(thing.id);
        case ThingKind::fence:
            return std::any_of(level.fences.begin(), level.fences.end(),
                               [&](const KeptFence& f) { return f.id == thing.id; });
        case ThingKind::kind: return level.kind(thing.id);
        case ThingKind::single: return level.single(thing.id);
    }
    return false;
}

Error goneError(ThingKind kind) {
    static const char* const names[kThingKinds] = {"layer", "stratum", "course", "pool",    "stream",
                                                   "spot",  "fence",   "kind",   "planting"};
    return {"", "", std::string("The ") + names[static_cast<size_t>(kind)] + " is gone", "choose another"};
}

}  // namespace jam
