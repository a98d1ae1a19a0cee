#include "places.h"

#include "commit/commit.h"
#include "level/strata.h"
#include "survey/mend_reach.h"
#include "walk/spots.h"

namespace jam::samples {

namespace {

Status putSpots(Level& level) {
    const struct {
        const char *name, *kind;
        double x, z, facing;
        std::optional<Pad> pad;
    } all[] = {{"Start hut", "start", -300, -290, 105, std::nullopt},
               {"Jam kitchen", "goal", 318, 392, 330, std::nullopt},
               {"Mill landing", "supply", 196, 338, 290, Pad{5, 4, std::nullopt}},
               {"Orchard lookout", "lookout", -230, 60, 120, Pad{6, 7, std::nullopt}}};
    for (const auto& a : all) {
        Spot s;
        s.name = a.name, s.kind = a.kind;
        s.x = a.x, s.z = a.z, s.facing = a.facing;
        const Result<uint32_t> id = addSpot(level, s);
        if (!id) return id.error();
        if (a.pad)
            if (const Status fine = setPad(level, id.value(), a.pad); !fine) return fine;
    }
    return {};
}

}  // namespace

Result<Level> makePlayable(Level level) {
    Level next = level;
    if (const Status s = putSpots(next); !s) return s.error();
    Result<Commit> made = commitWork(level, std::move(next));
    if (!made) return made.error();
    level = std::move(made.value().level);
    const uint32_t active = level.activeStratum;
    level.activeStratum = addStratum(level, "Hedge bank", static_cast<int>(level.strata.size()) - 1);
    for (int n = 0; n < 8; ++n) {
        const Reach reach = surveyReach(level, kBodies[1]);
        if (reach.waysOut.empty()) break;
        Result<Mended> done = bankAlong(level, reach, reach.waysOut.front(), {2.6f, 1.5f});
        if (!done) return done.error();
        level = std::move(done.value().level);
    }
    level.activeStratum = active;
    return level;
}

}  // namespace jam::samples
