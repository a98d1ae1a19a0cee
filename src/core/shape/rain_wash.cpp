#include "shape/rain_wash.h"

#include <array>
#include <cmath>

#include "base/noise.h"
#include "base/parallel.h"
#include "grid/extents.h"
#include "grid/scratch.h"
#include "shape/settle.h"

namespace jam {

namespace {

constexpr float kInertia = 0.12f;  // how much a drop keeps its direction
constexpr float kCapacity = 7;     // load per speed, slope and water
constexpr float kLeastSlope = 0.01f;
constexpr float kDig = 0.35f, kDrop = 0.25f, kDry = 0.025f, kGravity = 4;
constexpr int kDigReach = 2;  // samples around a drop that it digs in

// A drop runs kDropSteps samples at most, digs kDigReach around it and its load spreads 2.
constexpr int kReach = kDropSteps + kDigReach + 4;
// Blocks of one colour lie a whole block apart, so that drops that start in two of them never touch the same sample.
constexpr int kBlock = 192, kColours = 4;
static_assert(2 * kReach < kBlock);
int colourOf(int bx, int bz) { return (bx & 1) + 2 * (bz & 1); }

constexpr int kDent = 2 * kDigReach + 1;

struct Dent {
    int x, z;
    float share;
};

// A soft round dent whose shares add up to one.
struct Dents {
    std::vector<Dent> all;
    std::array<std::array<float, kDent>, kDent> rows{};  // the same as rows; 0 outside the round

    Dents() {
        float sum = 0;
        for (int z = -kDigReach; z <= kDigReach; ++z)
            for (int x = -kDigReach; x <= kDigReach; ++x) {
                const float w = kDigReach + 0.5f - std::sqrt(static_cast<float>(x * x + z * z));
                if (w > 0) all.push_back({x, z, w}), sum += w;
            }
        for (Dent& d : all) {
            d.share /= sum;
            rows[static_cast<size_t>(d.z + kDigReach)][static_cast<size_t>(d.x + kDigReach)] = d.share;
        }
    }
};
const Dents& dents() {
    static const Dents all;
    return all;
}

class Rain {
public:
    // `start` is the ground as it is now; the one that is worked on may be another.
    Rain(View<const float> start, View<float> ground, View<const float> mask, double spacing)
        : h_(ground), start_(start), mask_(mask), extents_(mask), load_(ground.width + 2, ground.depth + 2),
          open_(ground.width, ground.depth), perMetre_(static_cast<float>(1 / spacing)),
          metre_(static_cast<float>(spacing)) {
        parallelFor(load_.depth(), kRowsPerThread, [&](int first, int end) {
            std::fill_n(load_.view().row(first), static_cast<ptrdiff_t>(load_.width()) * (end - first), 0.f);
        });
        parallelFor(h_.depth, kRowsPerThread, [&](int first, int end) { findOpen(first, end); });
    }

    // All in units of the spacing: heights too, so that slopes have none.
    void fall(float x, float z) {
        float dirX = 0, dirZ = 0, speed = 1, water = 1, load = 0, dugInAll = 0;
        std::array<Dent, kDropSteps> dugAt;  // where it dug, and how much
        int holes = 0;
        // What may not be laid down goes back to where it came from, or it would pile up along the brim of the mask.
        const auto giveBack = [&](float amount) {
            for (int i = 0; i < holes; ++i) {
                const Dent& hole = dugAt[static_cast<size_t>(i)];
                dig(hole.x, hole.z, -hole.share * amount / dugInAll);
            }
        };
        int cx = static_cast<int>(x), cz = static_cast<int>(z);
        for (int step = 0; step < kDropSteps; ++step) {
            cx = static_cast<int>(x), cz = static_cast<int>(z);
            const float u = x - static_cast<float>(cx), v = z - static_cast<float>(cz);
            const float nw = h_.at(cx, cz), ne = h_.at(cx + 1, cz), sw = h_.at(cx, cz + 1), se = h_.at(cx + 1, cz + 1);
            const float gx = ((ne - nw) * (1 - v) + (se - sw) * v) * perMetre_,
                        gz = ((sw - nw) * (1 - u) + (se - ne) * u) * perMetre_;
            const float here = (nw + u * (ne - nw)) * (1 - v) + (sw + u * (se - sw)) * v;
            dirX = dirX * kInertia - gx * (1 - kInertia);
            dirZ = dirZ * kInertia - gz * (1 - kInertia);
            const float length = std::sqrt(dirX * dirX + dirZ * dirZ);
            if (length < 1e-6f) break;
            dirX /= length, dirZ /= length;
            const float nextX = x + dirX, nextZ = z + dirZ;
            if (!holds(nextX, nextZ) || mask_.at(static_cast<int>(nextX), static_cast<int>(nextZ)) <= 0) {
                return giveBack(load);
            }
            const float fall = (here - heightAt(nextX, nextZ)) * perMetre_;  // > 0 downhill
            const float strength = mask_.at(cx, cz);
            const float capacity = std::max(fall, kLeastSlope) * speed * water * kCapacity;
            if (fall < 0) {
                // A hollow: fill it as far as the load lasts, but not beyond its rim.
                const float rest = std::min(-fall, load) * strength;
                drop(cx, cz, u, v, rest), load -= rest;
            } else if (load > capacity) {
                const float rest = (load - capacity) * kDrop * strength;
                drop(cx, cz, u, v, rest), load -= rest;
            } else {
                const float dug = std::min((capacity - load) * kDig, fall * 0.5f) * strength;
                dig(cx, cz, dug), load += dug, dugInAll += dug;
                if (dug > 0) dugAt[static_cast<size_t>(holes++)] = {cx, cz, dug};
            }
            speed = std::sqrt(std::max(speed * speed + fall * kGravity, 0.f));
            speed = std::min(speed, 6.f);
            water *= 1 - kDry;
            x = nextX, z = nextZ;
        }
        cx = static_cast<int>(x), cz = static_cast<int>(z);
        const float rest = load * mask_.at(cx, cz);
        drop(cx, cz, x - static_cast<float>(cx), z - static_cast<float>(cz), rest);
        giveBack(load - rest);
    }

    void settle() { jam::settle(h_, start_, load_.view(), mask_, extents_); }

private:
    // Places where a whole dent fits into ground that may be touched; digging there needs no look around. Drops never
    // ask elsewhere.
    void findOpen(int first, int end) {
        // How many samples of a column may be touched, one below the other, down to the last row of a dent.
        std::vector<float> run(static_cast<size_t>(h_.width));
        for (int z = first - kDigReach; z < end; ++z) {
            const int last = z + kDigReach;
            if (last < 0) continue;
            const float* mask = last < h_.depth ? mask_.row(last) : nullptr;
            if (!mask) std::fill(run.begin(), run.end(), 0.f);
            float* __restrict deep = run.data();
            for (int x = 0; mask && x < h_.width; ++x) deep[x] = mask[x] > 0 ? deep[x] + 1 : 0;
            if (z < first) continue;
            const auto [from, to] = extents_.row(z);
            if (from >= to) continue;
            float* __restrict open = open_.view().row(z);
            std::fill_n(open + from, to - from, 0.f);
            for (int x = from; x + kDent <= to; ++x) {
                float least = deep[x];
                for (int k = 1; k < kDent; ++k) least = std::min(least, deep[x + k]);
                open[x + kDigReach] = least >= kDent ? 1.f : 0.f;
            }
        }
    }

    bool holds(float x, float z) const {
        return x >= 0 && z >= 0 && x < static_cast<float>(h_.width - 1) && z < static_cast<float>(h_.depth - 1);
    }

    float heightAt(float x, float z) const {
        const int c = static_cast<int>(x), r = static_cast<int>(z);
        const float u = x - static_cast<float>(c), v = z - static_cast<float>(r);
        const float top = h_.at(c, r) + u * (h_.at(c + 1, r) - h_.at(c, r)),
                    bottom = h_.at(c, r + 1) + u * (h_.at(c + 1, r + 1) - h_.at(c, r + 1));
        return top + v * (bottom - top);
    }

    // Shares go to samples that may be touched only, all of it to those.
    void drop(int cx, int cz, float u, float v, float amount) {
        if (amount <= 0) return;
        const std::array<Dent, 4> corners = {{{cx, cz, (1 - u) * (1 - v)},
                                              {cx + 1, cz, u * (1 - v)},
                                              {cx, cz + 1, (1 - u) * v},
                                              {cx + 1, cz + 1, u * v}}};
        float sum = 0;
        for (const Dent& c : corners)
            if (mask_.at(c.x, c.z) > 0) sum += c.share;
        const auto put = [&](int x, int z, float metres) { h_.at(x, z) += metres, load_.at(x + 1, z + 1) += metres; };
        if (sum <= 0) return put(cx, cz, amount * metre_);
        for (const Dent& c : corners)
            if (mask_.at(c.x, c.z) > 0) put(c.x, c.z, amount * metre_ * c.share / sum);
    }

    // Takes an amount from the samples around, or gives it back when it is negative.
    void dig(int cx, int cz, float amount) {
        if (amount == 0) return;
        if (open_.at(cx, cz) > 0) {
            const float metres = amount * metre_;
            for (int z = 0; z < kDent; ++z) {
                float* row = h_.row(cz - kDigReach + z) + cx - kDigReach;
                const auto& shares = dents_.rows[static_cast<size_t>(z)];
                for (int x = 0; x < kDent; ++x) row[x] -= metres * shares[static_cast<size_t>(x)];
            }
            return;
        }
        float sum = 0;
        const auto usable = [&](int x, int z) {
            return x >= 0 && z >= 0 && x < h_.width && z < h_.depth && mask_.at(x, z) > 0;
        };
        for (const Dent& d : dents_.all)
            if (usable(cx + d.x, cz + d.z)) sum += d.share;
        for (const Dent& d : dents_.all)
            if (usable(cx + d.x, cz + d.z)) h_.at(cx + d.x, cz + d.z) -= amount * metre_ * d.share / sum;
    }

    View<float> h_;
    View<const float> start_, mask_;
    Extents extents_;  // of the mask
    Scratch load_;     // metres that came to rest, with a border of 0
    Scratch open_;
    const Dents& dents_ = dents();
    float perMetre_, metre_;
};

// As rainOn(), with the ground as it was beside it.
void rainFrom(View<const float> start, View<float> ground, View<const float> mask, const Region& cloud, int count,
              uint32_t seed, double spacing) {
    const Region inside = cloud.clipped({0, 0, ground.width - 1, ground.depth - 1});
    if (inside.empty()) return;
    Rain rain(start, ground, mask, spacing);
    struct Start {
        float x, z;
    };
    const int across = (inside.width() + kBlock - 1) / kBlock, down = (inside.depth() + kBlock - 1) / kBlock;
    std::vector<std::vector<Start>> blocks(static_cast<size_t>(across * down));
    for (int i = 0; i < count; ++i) {
        const float x = static_cast<float>(inside.x0) + hashUnit(i, 1, seed) * static_cast<float>(inside.width());
        // Row after row, so that what a drop looks at is near at hand, and evenly.
        const float share = (static_cast<float>(i) + hashUnit(i, 2, seed)) / static_cast<float>(count);
        const float z = static_cast<float>(inside.z0) + share * static_cast<float>(inside.depth());
        const int cx = std::min(static_cast<int>(x), ground.width - 2),
                  cz = std::min(static_cast<int>(z), ground.depth - 2);
        // It rains as thick as the mask is strong.
        if (hashUnit(i, 3, seed) < mask.at(cx, cz))
            blocks[static_cast<size_t>((cz - inside.z0) / kBlock * across + (cx - inside.x0) / kBlock)].push_back(
                {std::min(x, static_cast<float>(ground.width) - 1.001f),
                 std::min(z, static_cast<float>(ground.depth) - 1.001f)});
    }
    for (int colour = 0; colour < kColours; ++colour) {
        std::vector<const std::vector<Start>*> apart;
        for (int bz = 0; bz < down; ++bz)
            for (int bx = 0; bx < across; ++bx)
                if (colourOf(bx, bz) == colour) apart.push_back(&blocks[static_cast<size_t>(bz * across + bx)]);
        parallelFor(static_cast<int>(apart.size()), 1, [&](int first, int end) {
            for (int i = first; i < end; ++i)
                for (const Start& s : *apart[static_cast<size_t>(i)]) rain.fall(s.x, s.z);
        });
    }
    rain.settle();
}

}  // namespace

void rainOn(View<float> ground, View<const float> mask, const Region& cloud, int count, uint32_t seed, double spacing) {
    const Scratch start(ground.width, ground.depth);
    for (int z = 0; z < ground.depth; ++z) std::copy_n(ground.row(z), ground.width, start.view().row(z));
    rainFrom(start.view(), ground, mask, cloud, count, seed, spacing);
}

Region rainWashGround(const StampSite& site, const Dab& dab, float share, uint32_t seed) {
    const int w = dab.region.width(), d = dab.region.depth();
    if (dab.region.empty()) return {};
    const auto rain = [&](const Sculpture& s) {
        const Scratch mask(w, d);
        readMask(s, 1, mask.view());
        const double drops = std::min(static_cast<double>(share) * kDropsPerStamp * w * d,
                                      static_cast<double>(kMostDropsPerStamp));
        // A share of a drop falls now and then.
        const int count = static_cast<int>(drops + hashUnit(0, 0, seed));
        rainFrom(s.middle(), s.after, mask.view(), {0, 0, w, d}, count, seed, s.spacing);
    };
    return sculpt(
        site, dab, {}, [](const Sculpture&, int, int) {}, rain);
}

bool rainWashAll(Raster<float>& ground, double spacing, float years, uint32_t seed, const Context& context) {
    const int w = ground.width(), d = ground.depth(), across = (w + kBlock - 1) / kBlock,
              down = (d + kBlock - 1) / kBlock;
    // Several showers, so that gullies of neighbouring blocks grow together.
    const int showers = std::clamp(static_cast<int>(std::ceil(years * 2)), 1, 400);
    const double perSample = static_cast<double>(years) * kDropsPerYear / showers;
    Raster<float> ones(kBlock + 2 * kReach, kBlock + 2 * kReach, 1.f);
    const int rounds = showers * kColours;
    for (int round = 0; round < rounds; ++round) {
        // Blocks shift from shower to shower, so that their borders leave no trace.
        const int shower = round / kColours, colour = round % kColours;
        const int offX = static_cast<int>(hashPoint(shower, 5, seed) % kBlock),
                  offZ = static_cast<int>(hashPoint(shower, 6, seed) % kBlock);
        if (context.cancelled()) return false;
        context.report(static_cast<double>(round) / rounds);
        std::vector<Region> blocks;
        for (int bz = 0; bz <= down; ++bz)
            for (int bx = 0; bx <= across; ++bx)
                if (colourOf(bx, bz) == colour) {
                    const Region b = Region{bx * kBlock - offX, bz * kBlock - offZ, (bx + 1) * kBlock - offX,
                                            (bz + 1) * kBlock - offZ}
                                         .clipped({0, 0, w, d});
                    if (!b.empty()) blocks.push_back(b);
                }
        parallelFor(static_cast<int>(blocks.size()), 1, [&](int first, int end) {
            for (int i = first; i < end; ++i) {
                if (context.cancelled()) return;
                const Region b = blocks[static_cast<size_t>(i)], window = b.grown(kReach).clipped({0, 0, w, d});
                const uint32_t own = hashPoint(b.x0, b.z0, seed + static_cast<uint32_t>(shower) * 7919u);
                const int count =
                    static_cast<int>(perSample * static_cast<double>(b.area()) + hashUnit(b.x0, b.z0, own));
                const Region cloud{b.x0 - window.x0, b.z0 - window.z0, b.x1 - window.x0, b.z1 - window.z0};
                rainOn(ground.view().part(window.x0, window.z0, window.width(), window.depth()),
                       ones.view().part(0, 0, window.width(), window.depth()), cloud, count, own, spacing);
            }
        });
    }
    return true;
}

}  // namespace jam
