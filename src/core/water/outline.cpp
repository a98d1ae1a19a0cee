#include "water/outline.h"

#include <unordered_map>

#include "level/changes.h"
#include "level/ground.h"

namespace jam {

namespace {

// A sample, which may lie one beyond the level, where it is always dry.
struct Corner {
    int c, r;
    bool wet;
};

// Edges between samples, each with a number: the sample of its north-west end and its direction.
uint64_t edgeKey(const Level& level, const Corner& a, const Corner& b) {
    const int c = std::min(a.c, b.c), r = std::min(a.r, b.r);
    const auto way = static_cast<uint64_t>(a.r == b.r ? 0 : a.c == b.c ? 1 : 2);
    return (static_cast<uint64_t>(r + 1) * static_cast<uint64_t>(level.columns + 2) + static_cast<uint64_t>(c + 1)) *
               3 +
           way;
}

}  // namespace

std::vector<Outline> outlineOf(const Level& level, const Pool& pool) {
    struct Step {
        uint64_t next;
        std::array<double, 2> at;
        bool used = false;
    };
    std::unordered_map<uint64_t, Step> steps;
    std::vector<uint64_t> order;  // so that the lines come in the same order every time
    const auto corner = [&](int c, int r) -> Corner {
        return {c, r, level.bounds().contains(c, r) && level.water.at(c, r).body == pool.id};
    };
    const auto held = [&](int c, int r) -> std::array<int, 2> {
        return {std::clamp(c, 0, level.columns - 1), std::clamp(r, 0, level.rows - 1)};
    };
    // Where the surface leaves the ground between a wet and a dry sample.
    const auto crossing = [&](const Corner& wet, const Corner& dry) -> std::array<double, 2> {
        const auto [wc, wr] = held(wet.c, wet.r);
        const auto [dc, dr] = held(dry.c, dry.r);
        const float low = groundSample(level, wc, wr), high = groundSample(level, dc, dr);
        const double t = high > low ? std::clamp((pool.height - low) / (high - low), 0.f, 1.f) : 1;
        return {level.originX + (wc + t * (dc - wc)) * level.spacing,
                level.originZ + (wr + t * (dr - wr)) * level.spacing};
    };
    // A triangle, its corners in the order in which east turns to south. The line enters by one edge and leaves by
    // another, with the wet corners on its right.
    const auto triangle = [&](const Corner& a, const Corner& b, const Corner& c) {
        const Corner* const all[] = {&a, &b, &c};
        for (int i = 0; i < 3; ++i) {
            const Corner &alone = *all[i], &next = *all[(i + 1) % 3], &last = *all[(i + 2) % 3];
            if (alone.wet == next.wet || alone.wet == last.wet) continue;
            const auto key = [&](const Corner& other) { return edgeKey(level, alone, other); };
            const auto point = [&](const Corner& other) {
                return alone.wet ? crossing(alone, other) : crossing(other, alone);
            };
            const Corner &from = alone.wet ? next : last, &to = alone.wet ? last : next;
            const uint64_t k = key(from);
            if (steps.emplace(k, Step{key(to), point(from)}).second) order.push_back(k);
            return;
        }
    };
    presentTiles(level.water).each([&](int tx, int tz, const Region& tile) {
        const Wet* t = level.water.tile(tx, tz);
        if (std::none_of(t, t + TiledGrid<Wet>::kTile * TiledGrid<Wet>::kTile,
                         [&](const Wet& w) { return w.body == pool.id; }))
            return;
        // Its cells, and those whose corners reach into it; what is met twice is the same.
        for (int r = tile.z0 - 1; r < tile.z1; ++r)
            for (int c = tile.x0 - 1; c < tile.x1; ++c) {
                const Corner nw = corner(c, r), ne = corner(c + 1, r), sw = corner(c, r + 1), se = corner(c + 1, r + 1);
                if (nw.wet == ne.wet && nw.wet == sw.wet && nw.wet == se.wet) continue;
                triangle(nw, ne, se);
                triangle(nw, se, sw);
            }
    });
    std::vector<Outline> lines;
    for (const uint64_t first : order) {
        Outline line;
        for (auto at = steps.find(first); at != steps.end() && !at->second.used; at = steps.find(at->second.next)) {
            at->second.used = true;
            if (line.empty() || line.back() != at->second.at) line.push_back(at->second.at);
        }
        if (line.size() > 1 && line.front() == line.back()) line.pop_back();
        if (line.size() >= 3) lines.push_back(std::move(line));
    }
    return lines;
}

}  // namespace jam
