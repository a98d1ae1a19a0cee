// What a body gets to in one go where it cannot walk: by a step, a jump, a drop.
#pragma once

#include <algorithm>

#include "walk/reach.h"

namespace jam {

// Where flights may go from a sample, the nearest first, with how high they are there at most.
class Flights {
public:
    // `standing`: without a run before, so not quite as far.
    Flights(const Body& body, double spacing, bool standing = false);

    struct Hop {
        int8_t dc, dr;
        float height;        // metres over where it began, at most
        uint16_t before[2];  // the hops on the way there, by one of which it must have come; itself for neighbours
        float far;           // metres on the map
    };
    const std::vector<Hop>& hops() const { return hops_; }

    // f(c, r, hop) for every sample that is flown over or landed on from the firm sample (c, r) without crossing its
    // own piece again; samples of no ground are flown over. Precondition: one call at a time for each `passed`.
    template <class F>
    void from(const ReachGround& g, int c, int r, std::vector<uint8_t>& passed, F f) const {
        const uint32_t own = g.nodes.at(c, r);
        const float height = g.heights.at(c, r);
        // Nobody jumps out of deep water.
        const bool bound = !g.deep.empty() && g.deep[g.at(c, r)] > kTooDeepToJump;
        passed.assign(hops_.size(), 0);
        size_t lastPassed = 0;
        for (size_t i = 0; i < hops_.size(); ++i) {
            const Hop& h = hops_[i];
            if (i >= 8 && bound) break;
            if (i >= 8 && !passed[h.before[0]] && !passed[h.before[1]]) {
                if (i - lastPassed > quiet_) break;  // nothing on a whole ring: nothing farther
                continue;
            }
            const int x = c + h.dc, z = r + h.dr;
            if (x < 0 || z < 0 || x >= g.columns || z >= g.rows) continue;
            if (g.nodes.at(x, z) == own) continue;
            const bool ground = g.kinds.at(x, z) != ReachGround::kNone;
            const float most = bound ? std::min(h.height, g.body.step) : h.height;
            if (ground && (i < 8 ? g.brow(c, r, x, z) : g.heights.at(x, z)) > height + most) continue;
            passed[i] = 1;
            lastPassed = i;
            if (ground) f(x, z, h);
        }
    }

private:
    static constexpr uint8_t kTooDeepToJump = 127;  // of ReachGround::deep: half of what it can stand in
    std::vector<Hop> hops_;
    size_t quiet_ = 0;
};

}  // namespace jam
