#include "water/rise.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <limits>
#include <queue>
#include <tuple>

#include "grid/bits.h"
#include "level/ground.h"
#include "level/opening.h"

namespace jam {

namespace {

// Heights as whole numbers of the same order.
uint32_t ordered(float v) {
    const auto b = std::bit_cast<uint32_t>(v);
    return b & 0x80000000u ? ~b : b | 0x80000000u;
}

// A queue for keys that never fall below the last one taken (Ahuja, Mehlhorn, Orlin and Tarjan, 1990): they lie in
// buckets by the highest bit in which they differ from it.
class RadixHeap {
public:
    bool empty() const { return size_ == 0; }
    void push(uint32_t key, uint32_t value) {
        buckets_[bucket(key)].push_back({key, value});
        ++size_;
    }
    std::pair<uint32_t, uint32_t> pop() {
        if (buckets_[0].empty()) {
            size_t b = 1;
            while (buckets_[b].empty()) ++b;
            last_ = std::min_element(buckets_[b].begin(), buckets_[b].end())->first;
            for (const auto& e : buckets_[b]) buckets_[bucket(e.first)].push_back(e);
            buckets_[b].clear();
        }
        const auto e = buckets_[0].back();
        buckets_[0].pop_back();
        --size_;
        return e;
    }

private:
    size_t bucket(uint32_t key) const {
        return key == last_ ? 0 : static_cast<size_t>(32 - std::countl_zero(key ^ last_));
    }

    std::vector<std::pair<uint32_t, uint32_t>> buckets_[33];
    uint32_t last_ = 0;
    size_t size_ = 0;
};

}  // namespace

bool fillToBrim(View<const float> ground, View<float> out, const Context& context) {
    const int w = ground.width, d = ground.depth;
    std::vector<uint8_t> seen(static_cast<size_t>(w) * static_cast<size_t>(d));
    RadixHeap open;
    std::vector<uint32_t> pit;  // samples that are below the water already: no order among them is needed
    const auto take = [&](int x, int z, float level) {
        const auto i = static_cast<size_t>(z) * static_cast<size_t>(w) + static_cast<size_t>(x);
        if (seen[i]) return;
        seen[i] = 1;
        const float h = ground.at(x, z);
        out.at(x, z) = std::max(h, level);
        if (h <= level) pit.push_back(static_cast<uint32_t>(i));
        else open.push(ordered(h), static_cast<uint32_t>(i));
    };
    constexpr float kBelowAll = -std::numeric_limits<float>::infinity();
    for (int x = 0; x < w; ++x) take(x, 0, kBelowAll), take(x, d - 1, kBelowAll);
    for (int z = 0; z < d; ++z) take(0, z, kBelowAll), take(w - 1, z, kBelowAll);
    size_t count = 0;
    while (!open.empty() || !pit.empty()) {
        uint32_t i;
        if (!pit.empty()) {
            i = pit.back();
            pit.pop_back();
        } else {
            i = open.pop().second;
        }
        const int x = static_cast<int>(i % static_cast<uint32_t>(w)),
                  z = static_cast<int>(i / static_cast<uint32_t>(w));
        const float level = out.at(x, z);
        for (const auto& [dx, dz] : kJoined)
            if (x + dx >= 0 && z + dz >= 0 && x + dx < w && z + dz < d) take(x + dx, z + dz, level);
        if ((++count & 0xffff) == 0) {
            if (context.cancelled()) return false;
            context.report(static_cast<double>(count) / (static_cast<double>(w) * d));
        }
    }
    return true;
}

struct Rise::Impl {
    static constexpr int kTile = TiledGrid<float>::kTile;
    struct Tile {
        std::array<float, kTile * kTile> ground;
        std::array<uint8_t, kTile * kTile> came{};  // 0 not seen, 7 the first, otherwise 1 + the way back in kJoined
    };
    struct Open {
        float ground;
        int column, row;
        // The lowest first; among equals in reading order, so that the outcome is one.
        bool operator<(const Open& o) const {
            return std::tie(ground, row, column) > std::tie(o.ground, o.row, o.column);
        }
    };
    explicit Impl(const Level& l) : level(l), gaps(hasGaps(l)), across((l.columns + kTile - 1) / kTile) {
        tiles.resize(static_cast<size_t>(across) * static_cast<size_t>((l.rows + kTile - 1) / kTile));
    }
    Tile& tileOf(int c, int r) {
        auto& t = tiles[static_cast<size_t>(r / kTile) * static_cast<size_t>(across) + static_cast<size_t>(c / kTile)];
        if (!t) {
            t = std::make_unique<Tile>();
            const int x = c / kTile * kTile, z = r / kTile * kTile;
            readGround(level, Region{x, z, x + kTile, z + kTile}.clipped(level.bounds()),
                       {t->ground.data(), kTile, kTile, kTile});
        }
        return *t;
    }
    void reach(int c, int r, uint8_t came) {
        Tile& t = tileOf(c, r);
        const auto at = static_cast<size_t>(r % kTile * kTile + c % kTile);
        if (t.came[at]) return;
        t.came[at] = came;
        // Water falls through where there is no ground.
        const bool gone = gaps && gapSample(level, c, r) > kGapEdge;
        open.push({gone ? -std::numeric_limits<float>::infinity() : t.ground[at], c, r});
    }
    bool outAt(int c, int r) const {
        return c == 0 || r == 0 || c == level.columns - 1 || r == level.rows - 1 ||
               (gaps && gapSample(level, c, r) > kGapEdge);
    }

    const Level& level;
    bool gaps;
    int across;
    std::vector<std::unique_ptr<Tile>> tiles;
    std::priority_queue<Open> open;
};

Rise::Rise(const Level& level, int column, int row) : impl_(std::make_unique<Impl>(level)) {
    impl_->reach(column, row, 7);
}
Rise::~Rise() = default;

std::optional<Rise::Step> Rise::next() {
    if (impl_->open.empty()) return std::nullopt;
    const Impl::Open o = impl_->open.top();
    impl_->open.pop();
    for (size_t i = 0; i < kJoined.size(); ++i) {
        const int c = o.column + kJoined[i][0], r = o.row + kJoined[i][1];
        // The way back is the neighbour in the pair: they come two by two.
        if (impl_->level.bounds().contains(c, r)) impl_->reach(c, r, static_cast<uint8_t>(1 + (i ^ 1)));
    }
    return Step{o.column, o.row, o.ground, impl_->outAt(o.column, o.row)};
}

std::pair<int, int> Rise::from(int column, int row) const {
    const uint8_t came =
        impl_->tileOf(column, row).came[static_cast<size_t>(row % Impl::kTile * Impl::kTile + column % Impl::kTile)];
    if (came == 0 || came == 7) return {column, row};
    const auto& way = kJoined[static_cast<size_t>(came - 1)];
    return {column + way[0], row + way[1]};
}

std::vector<Brim> brimsAt(const Level& level, double x, double z, float above, size_t most, const Context& context) {
    const auto [c, r] = nearestSample(level, x, z);
    std::vector<Brim> found;
    Rise rise(level, c, r);
    // The bottom that it rises from, how high it stands, and the lowest that it met since it last rose.
    struct Place {
        float ground;
        int column, row;
    };
    Place bottom{groundSample(level, c, r), c, r}, met = bottom;
    float stands = bottom.ground;
    size_t count = 0;
    while (found.size() < most) {
        const std::optional<Rise::Step> s = rise.next();
        if (!s || ((++count & 0xfff) == 0 && context.cancelled())) return found;
        // What is lower by little is only another place of the same hollow, once that rises above both.
        if (s->ground > stands) stands = s->ground, bottom = met;
        const bool hollow = stands - bottom.ground >= kLeastHollow,
                   runs = s->ground < bottom.ground - kLeastHollow || s->out;
        if (hollow && runs && stands > above)
            found.push_back({stands, stands - bottom.ground, bottom.column, bottom.row, s->out});
        if (s->out) return found;
        if (s->ground < met.ground) met = {s->ground, s->column, s->row};
        if (runs || (!hollow && s->ground < bottom.ground)) bottom = met, stands = met.ground;
    }
    return found;
}

}  // namespace jam
