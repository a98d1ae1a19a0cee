// What a body gets to in one go where it cannot walk: by a step, a jump, a drop.
#pragma once

#include <algorithm>
#include <utility>
#include <vector>

#include "walk/reach.h"

namespace jam {

// Where flights may go from a sample, the nearest first, with how high they are there at most.
class Flights {
public:
    // `standing`: without a run before, so not quite as far.
    Flights(const Body& body, double spacing, bool standing = false);

    struct Hop {
        int8_t dc, dr;
        float height;  // metres over where it began, at most
        float far;     // metres on the map
    };
    const std::vector<Hop>& hops() const { return hops_; }
    static constexpr uint16_t kBeside = 8;  // hops, the first ones
    // A hop that is not beside, and the one or two that a flight comes from: those whose ring is one nearer and that
    // its straight line back passes by. Ring by ring.
    struct Onward {
        uint16_t hop, before[2];
    };
    const std::vector<Onward>& onwards() const { return onwards_; }
    // Nobody jumps out of deep water.
    static bool isBound(const ReachGround& g, int c, int r) {
        return !g.deep.empty() && g.deep[g.at(c, r)] > kTooDeepToJump;
    }

    // What one thread remembers between flights.
    struct Memory {
        std::vector<uint32_t> passed;  // the last flight that went by each hop
        std::vector<uint16_t> front;
        uint32_t flight = 0;
    };
    // f(c, r, hop, node) for every sample that is flown over or landed on from the firm sample (c, r) without crossing
    // its own piece again; samples of no ground are flown over.
    template <class F>
    void from(const ReachGround& g, int c, int r, Memory& memory, F f) const {
        const uint32_t own = g.nodes.at(c, r);
        const float height = g.heights.at(c, r);
        const bool bound = isBound(g, c, r);
        memory.passed.resize(hops_.size(), 0);
        ++memory.flight;
        memory.front.clear();
        const auto pass = [&](uint16_t i) {
            if (std::exchange(memory.passed[i], memory.flight) == memory.flight) return;
            const Hop& h = hops_[i];
            const int x = c + h.dc, z = r + h.dr;
            if (x < 0 || z < 0 || x >= g.columns || z >= g.rows) return;
            const float most = height + (bound ? std::min(h.height, g.body.step) : h.height);
            const uint32_t node = g.nodes.at(x, z);
            const bool ground = node != ReachGround::kNoNode;
            if (node == own || (ground && (i < kBeside ? g.brow(c, r, x, z) : g.heights.at(x, z)) > most)) return;
            memory.front.push_back(i);
            if (ground) f(x, z, h, node);
        };
        for (uint16_t i = 0; i < kBeside; ++i) pass(i);
        if (bound) return;
        for (size_t i = 0; i < memory.front.size(); ++i) {
            const uint16_t at = memory.front[i];
            for (uint32_t k = begins_[at]; k < begins_[at + 1u]; ++k) pass(after_[k]);
        }
    }

private:
    static constexpr uint8_t kTooDeepToJump = 127;  // of ReachGround::deep: half of what it can stand in
    std::vector<Hop> hops_;                         // the nearest first
    std::vector<Onward> onwards_;
    // The hops that a flight may go on to from each.
    std::vector<uint16_t> after_;
    std::vector<uint32_t> begins_;
};

}  // namespace jam
