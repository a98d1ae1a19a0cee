#include "walk/flight_rows.h"

#include <limits>

namespace jam {

namespace {

constexpr float kBeyond = std::numeric_limits<float>::infinity();

// The bits of 64 samples that `is` says yes to. Without packing bytes, so that it goes in whole vectors.
template <class Is>
uint64_t bitsOf(Is is) {
    static constexpr auto kBit = [] {
        std::array<uint32_t, 32> bit{};
        for (uint32_t i = 0; i < 32; ++i) bit[i] = 1u << i;
        return bit;
    }();
    uint32_t low = 0, high = 0;
    for (size_t i = 0; i < 32; ++i) low |= (0u - static_cast<uint32_t>(is(i))) & kBit[i];
    for (size_t i = 0; i < 32; ++i) high |= (0u - static_cast<uint32_t>(is(i + 32))) & kBit[i];
    return low | uint64_t{high} << 32;
}

// Which of 64 samples are high enough, with a lift, for what lies over there.
uint64_t highEnough(const float* from, float lift, const float* clear) {
    return bitsOf([=](size_t i) { return clear[i] <= from[i] + lift; });
}

// Which of them are, and leave their piece.
uint64_t flyOver(const float* from, float lift, const float* clear, const uint32_t* own, const uint32_t* node) {
    return bitsOf([=](size_t i) { return (clear[i] <= from[i] + lift) & (node[i] != own[i]); });
}

}  // namespace

template <class Is>
void FlightRows::Marks::make(size_t first, size_t end, Is is) {
    words_.assign(end / 64 + 2, 0);
    for (size_t at = (first + 63) / 64 * 64; at < end; at += 64)
        words_[at / 64] = bitsOf([=](size_t i) { return is(at + i); });
}

FlightRows::FlightRows(const Flights& flights, const ReachGround& g, int first, int end)
    : flights_(flights), ground_(g), first_(first), end_(end) {
    // The last word of a row may stand out.
    stride_ = (g.columns + kAtOnce - 1) / kAtOnce * kAtOnce + 2 * kRoom;
    const size_t all = static_cast<size_t>(stride_) * static_cast<size_t>(end - first + 2 * kRoom);
    nodes_.assign(all + kAtOnce, ReachGround::kNoNode);
    clear_.assign(all + kAtOnce, kBeyond), heights_.assign(all + kAtOnce, 0);
    for (int r = std::max(first - kRoom, 0); r < std::min(end + kRoom, g.rows); ++r) {
        const size_t to = place(0, r);
        for (int c = 0; c < g.columns; ++c) {
            const size_t at = to + static_cast<size_t>(c);
            nodes_[at] = g.nodes.at(c, r), heights_[at] = g.heights.at(c, r);
            clear_[at] = nodes_[at] == ReachGround::kNoNode ? -kBeyond : g.top(c, r);
        }
    }
    const uint32_t* node = nodes_.data();
    pieces_.make(0, all, [node, pieces = g.pieces](size_t at) { return node[at] < pieces; });
    grounds_.make(0, all, [node](size_t at) { return node[at] != ReachGround::kNoNode; });
    const auto row = static_cast<size_t>(stride_);
    for (size_t i = 0; i < alike_.size(); ++i)
        alike_[i].make(row + 1, all,
                       [node, back = i == 0 ? 1 : row + 2 - i](size_t at) { return node[at] == node[at - back]; });
    for (const Flights::Hop& h : flights.hops()) offsets_.push_back(h.dr * static_cast<ptrdiff_t>(stride_) + h.dc);
    passed_.assign(offsets_.size(), 0), leads_ = passed_;
}

uint64_t FlightRows::alike(size_t at, int dc, int dr) const {
    const ptrdiff_t step = dr * static_cast<ptrdiff_t>(stride_) + dc;
    if (step > 0) at += static_cast<size_t>(step), dc = -dc, dr = -dr;
    return alike_[dr == 0 ? 0 : static_cast<size_t>(dc + 2)].from(at);
}

void FlightRows::lead(int column, int row) {
    for (const uint16_t i : flown_) passed_[i] = leads_[i] = 0;
    flown_.clear();
    const size_t at = place(column, row);
    const auto hop = [&](size_t i) { return flights_.hops()[i]; };
    const auto to = [&](size_t i) { return static_cast<size_t>(static_cast<ptrdiff_t>(at) + offsets_[i]); };
    const uint32_t* own = &nodes_[at];
    const float *from = &heights_[at], *clear = &clear_[at];
    uint64_t inside = ~uint64_t{0}, bound = 0;
    for (size_t i = 0; i < Flights::kBeside; ++i) inside &= alike(at, hop(i).dc, hop(i).dr);
    const uint64_t edge = grounds_.from(at) & ~inside, firm = edge & pieces_.from(at);
    if (!edge) return;
    if (!ground_.deep.empty())
        for (int k = 0; k < std::min(kAtOnce, ground_.columns - column); ++k)
            bound |= uint64_t{Flights::isBound(ground_, column + k, row)} << k;
    for (uint16_t i = 0; i < Flights::kBeside; ++i) {
        const uint64_t other = edge & ~alike(at, hop(i).dc, hop(i).dr);
        if (!other) continue;
        // Across a cell, what is to be cleared may be a ridge; where there is no ground, nothing is.
        float brow[kAtOnce];
        const float* over = clear + offsets_[i];
        if (hop(i).dc == -hop(i).dr) {
            const float *a = from + hop(i).dc, *b = from + hop(i).dr * static_cast<ptrdiff_t>(stride_);
            for (int k = 0; k < kAtOnce; ++k)
                brow[k] = over[k] == -kBeyond ? over[k] : std::max(over[k], 0.5f * (a[k] + b[k]));
            over = brow;
        }
        const float lift = hop(i).height;
        passed_[i] = other & firm & ~bound & highEnough(from, lift, over);
        if (other & firm & bound)
            passed_[i] |= other & firm & bound & highEnough(from, std::min(lift, ground_.body.step), over);
        const uint64_t down = other & (firm | pieces_.from(to(i))) & highEnough(from, 0, over);
        leads_[i] = (passed_[i] | down) & grounds_.from(to(i));
        if (passed_[i] | leads_[i]) flown_.push_back(i);
    }
    const uint64_t leaps = firm & ~bound;
    for (const Flights::Onward& o : flights_.onwards()) {
        const uint16_t i = o.hop, before = o.before[0];
        uint64_t bits = leaps & (passed_[before] | passed_[o.before[1]]);
        if (bits) bits &= flyOver(from, hop(i).height, clear + offsets_[i], own, own + offsets_[i]);
        if (!bits) continue;
        passed_[i] = bits;
        // On steep ground farther off, it would slide down where what is nearer leads to. Where it came from the same
        // piece, that was told before.
        leads_[i] = bits & pieces_.from(to(i));
        if (leads_[i] & passed_[before])
            leads_[i] &= ~(passed_[before] & alike(to(i), hop(before).dc - hop(i).dc, hop(before).dr - hop(i).dr));
        flown_.push_back(i);
    }
}

}  // namespace jam
