#include "dress/pattern.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <memory>
#include <random>
#include <vector>

#include "base/noise.h"

namespace jam {

namespace pattern {

namespace {

constexpr int kSide = kPatchPlaces, kPart = kPatchPlaces / kPatchBlocks;
constexpr int kTried = 12;  // candidates for each next place

// Distances on the torus to what is taken, looked up by buckets that hold a few
// each.
class Taken {
public:
    Taken() { sort(1); }
    void add(int x, int z) {
        all_.push_back({x, z});
        if (all_.size() > 4 * static_cast<size_t>(across_) * static_cast<size_t>(across_) && across_ < kSide / 2)
            sort(across_ * 2);
        else bucket(x / wide_, z / wide_).push_back({x, z});
    }
    // The square of the distance to the nearest, or `enough` when that is no
    // farther than so.
    int nearest(int x, int z, int enough) const {
        int best = 2 * kSide * kSide;
        const int bx = x / wide_, bz = z / wide_;
        for (int ring = 0; ring <= across_ / 2 + 1; ++ring) {
            // What lies in farther rings is no nearer than this.
            const int least = std::max(ring - 1, 0) * wide_;
            if (least * least >= best) break;
            for (int v = -ring; v <= ring; ++v)
                for (int u = -ring; u <= ring; u += std::abs(v) == ring ? 1 : std::max(2 * ring, 1))
                    for (const auto& [tx, tz] : bucket(bx + u, bz + v)) {
                        const int dx = std::abs(tx - x), dz = std::abs(tz - z);
                        const int ex = std::min(dx, kSide - dx), ez = std::min(dz, kSide - dz);
                        best = std::min(best, ex * ex + ez * ez);
                    }
            if (best <= enough) return enough;
        }
        return best;
    }

private:
    struct Place {
        int x, z;
    };
    std::vector<Place>& bucket(int u, int v) {
        const int mask = across_ - 1;
        return buckets_[static_cast<size_t>((v & mask) * across_ + (u & mask))];
    }
    const std::vector<Place>& bucket(int u, int v) const { return const_cast<Taken*>(this)->bucket(u, v); }
    void sort(int across) {
        across_ = across;
        wide_ = kSide / across;
        buckets_.assign(static_cast<size_t>(across) * static_cast<size_t>(across), {});
        for (const Place& p : all_) bucket(p.x / wide_, p.z / wide_).push_back(p);
    }

    std::vector<Place> all_;
    std::vector<std::vector<Place>> buckets_;
    int across_ = 1, wide_ = kSide;
};

struct Order {
    std::vector<uint16_t> rank;  // by column and row
    std::vector<Ranked> blocks;  // 256 of each block, by rank

    Order() : rank(kSide * kSide), blocks(kSide * kSide) {
        std::minstd_rand random(20);
        std::vector<uint16_t> free(kSide * kSide);
        for (size_t i = 0; i < free.size(); ++i) free[i] = static_cast<uint16_t>(i);
        Taken taken;
        std::array<size_t, kPatchBlocks * kPatchBlocks> filled{};
        for (size_t n = 0; n < rank.size(); ++n) {
            size_t best = 0;
            int far = -1;
            for (int k = 0; k < kTried; ++k) {
                const size_t i = random() % free.size();
                const int d = n == 0 ? 0 : taken.nearest(free[i] % kSide, free[i] / kSide, far);
                if (d > far) far = d, best = i;
            }
            const int at = free[best], x = at % kSide, z = at / kSide;
            free[best] = free.back();
            free.pop_back();
            taken.add(x, z);
            rank[static_cast<size_t>(at)] = static_cast<uint16_t>(n);
            const auto b = static_cast<size_t>(z / kPart * kPatchBlocks + x / kPart);
            blocks[b * kPart * kPart + filled[b]++] = {static_cast<uint16_t>(n), static_cast<uint8_t>(x % kPart),
                                                       static_cast<uint8_t>(z % kPart)};
        }
    }
};

const Order& order() {
    static const Order made;
    return made;
}

}  // namespace

const Ranked* block(int column, int row) {
    return order().blocks.data() + static_cast<size_t>(row * kPatchBlocks + column) * kPart * kPart;
}

Lie lieOf(int patchX, int patchZ, uint32_t seed) {
    const uint32_t h = hashPoint(patchX, patchZ, seed);
    return {(h & 1) != 0, (h & 2) != 0, (h & 4) != 0, static_cast<int>(h >> 8 & 15), static_cast<int>(h >> 16 & 15)};
}

double shaken(int column, int row, uint32_t seed, int way) {
    const uint32_t h = hashPoint(column, row, seed + 7);
    return (way == 0 ? h & 0xffff : h >> 16) / 65536.0 - 0.5;
}

}  // namespace pattern

uint16_t patternRank(int column, int row) {
    return pattern::order().rank[static_cast<size_t>(row & 255) * kPatchPlaces + static_cast<size_t>(column & 255)];
}

}  // namespace jam
