#include "walk/on_top.h"

#include <algorithm>

#include "dress/kinds.h"
#include "level/ground.h"
#include "level/things.h"
#include "walk/solids.h"

namespace jam {

Status standOnTop(Level& level, const std::vector<uint32_t>& ids) {
    const auto listed = [&](uint32_t id) { return std::find(ids.begin(), ids.end(), id) != ids.end(); };
    Level others = level;
    std::erase_if(others.singles, [&](const Single& s) { return listed(s.id); });
    Solids solids(others);
    Level next = level;
    for (const uint32_t id : ids) {
        Single* s = next.single(id);
        if (!s) return goneError(ThingKind::single);
        const double ground = altitudeAt(level, s->x, s->z);
        double top = ground;
        solids.near(s->x, s->z, 0, [&](const Solid& o) {
            if (o.carries && o.away(s->x, s->z).metres <= 0) top = std::max(top, o.top);
        });
        // As deep in what carries it as it would be in the ground.
        Single lifted = *s;
        lifted.above = static_cast<float>(top - ground);
        if (const Status fine = checkSingle(next, lifted); !fine) return fine;
        *s = lifted;
    }
    level = std::move(next);
    return {};
}

}  // namespace jam
