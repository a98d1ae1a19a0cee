#include "clip/lay_things.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "clip/clip.h"
#include "dress/kinds.h"
#include "water/water.h"

namespace jam {

namespace {
constexpr double kSamePlace = 1e-6;  // of a sample
}

Result<std::vector<uint32_t>> fitKinds(Level& level, const Level& clip) {
    std::vector<uint32_t> ids;
    for (const Kind& k : clip.kinds) {
        const auto own = std::find_if(level.kinds.begin(), level.kinds.end(),
                                      [&](const Kind& o) { return o.name == k.name; });
        const bool stands = k.coverage.presentTiles() > 0 ||
                            std::any_of(clip.singles.begin(), clip.singles.end(),
                                        [&](const Single& s) { return s.kind == k.id; });
        if (own != level.kinds.end() || !stands) {
            ids.push_back(own == level.kinds.end() ? 0 : own->id);
            continue;
        }
        Kind added = k;
        added.hidden = false;
        // Ids are of the level that it comes from.
        std::erase_if(added.keepsOff, [](const KeptOff& o) { return o.id != 0; });
        if (added.rows == Rows::course) added.rows = Rows::none;
        const Result<uint32_t> id = addKind(level, std::move(added));
        if (!id) return id.error();
        ids.push_back(id.value());
    }
    return ids;
}

Status laySingles(Level& level, const Level& clip, const std::vector<uint32_t>& kinds, const Placement& place,
                  const OntoMap& onMap, const std::function<bool(double x, double z)>& covered) {
    const auto laid = [&](uint32_t kind, double x, double z) {
        const Kind* own = level.kind(kind);
        return own && !own->locked && !own->hidden && level.holds(x, z) && covered(x, z);
    };
    std::vector<Single> gone;
    std::erase_if(level.singles, [&](const Single& s) {
        if (std::find(kinds.begin(), kinds.end(), s.kind) == kinds.end() || !laid(s.kind, s.x, s.z)) return false;
        gone.push_back(s);
        return true;
    });
    uint32_t free = 0;
    for (const auto* all : {&level.singles, &gone})
        for (const Single& s : *all) free = std::max(free, s.group);
    std::map<uint32_t, uint32_t> groups{{0, 0}};
    for (Single s : clip.singles) {
        const int at = clip.kindIndex(s.kind);
        const MapPlace m = onMap(s.x - clip.originX, s.z - clip.originZ);
        if (at < 0 || !laid(kinds[static_cast<size_t>(at)], m.x, m.z)) continue;
        const auto turned = [&](float degrees) {
            const double to = (place.mirror ? -static_cast<double>(degrees) : static_cast<double>(degrees)) +
                              place.turn;
            return static_cast<float>(std::fmod(to + 1080, 360));
        };
        s.kind = kinds[static_cast<size_t>(at)];
        s.x = m.x, s.z = m.z;
        s.turn = turned(s.turn), s.leanTo = turned(s.leanTo);
        const auto scale = static_cast<float>(place.scale);
        s.size = std::clamp(s.size * scale, static_cast<float>(kLeastSize), static_cast<float>(kMostSize));
        s.above = std::clamp(s.above * scale, -static_cast<float>(kMostSink), 1000.f);
        // One that comes to stand as one stood there is that one.
        const auto was = std::find_if(gone.begin(), gone.end(), [&](const Single& o) {
            Single same = s;
            same.id = o.id, same.group = o.group;
            if (std::hypot(s.x - o.x, s.z - o.z) < kSamePlace * level.spacing) same.x = o.x, same.z = o.z;
            return same == o;
        });
        if (was != gone.end()) {
            const auto after = [&](const Single& o) { return o.id > was->id; };
            level.singles.insert(std::find_if(level.singles.begin(), level.singles.end(), after), *was);
            gone.erase(was);
            continue;
        }
        if (const auto [to, added] = groups.try_emplace(s.group, free + 1); added) ++free;
        s.group = groups[s.group];
        if (const Result<uint32_t> put = putSingle(level, s); !put) return put.error();
    }
    return {};
}

Status layPools(Level& level, const Level& clip, const Placement& place, const OntoMap& onMap) {
    if (place.heightScale <= 0) return {};
    const double foot = clipFoot(clip);
    for (Pool pool : clip.pools) {
        if (pool.sea) continue;
        const MapPlace at = onMap(pool.x - clip.originX, pool.z - clip.originZ);
        pool.x = at.x, pool.z = at.z;
        pool.height = static_cast<float>(foot + place.heightScale * (pool.height - foot) + place.raise);
        if (!level.holds(pool.x, pool.z) || pool.height < level.lowest || pool.height > level.highest) continue;
        // Where that water stands already, nothing is to be added.
        if (waterAt(level, pool.x, pool.z).surface >= pool.height - 1e-3f) continue;
        pool.name = freeWaterName(level, pool.name);
        if (const Result<uint32_t> id = addPool(level, pool); !id) return id.error();
    }
    return {};
}

}  // namespace jam
