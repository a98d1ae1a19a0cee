// The ground as light falls on it: rows of samples at once, against one sample after the other.
#include <catch2/catch.hpp>
#include <cmath>
#include <map>

#include "level/ground.h"
#include "levels.h"
#include "render/bake.h"

using namespace jam;
using namespace jam::test;

namespace {

// Shade and materials that differ everywhere.
struct Fixture {
    Fixture(Level l, uint32_t seed) : level(std::move(l)) {
        Random random(seed);
        const auto some = [&](double low) {
            auto shade = std::make_shared<Raster<uint8_t>>(level.columns, level.rows);
            for (int z = 0; z < level.rows; ++z)
                for (int x = 0; x < level.columns; ++x)
                    shade->at(x, z) = static_cast<uint8_t>(between(random, low, 255));
            return shade;
        };
        shade = {some(0), some(120)};
        for (size_t i = 0; i < level.layers.size(); ++i) {
            MaterialMeans m;
            for (float& c : m.linear) c = static_cast<float>(between(random, 0.02, 0.6));
            for (int k = 0; k < MaterialMeans::kGrain * MaterialMeans::kGrain; ++k)
                m.grain.push_back(static_cast<float>(between(random, -0.5, 0.5)));
            means.push_back(m);
        }
    }
    BakeSource source(float lift, bool hatched = false) const {
        BakeSource s(level, means, lightLook(level.sun, false), shade, {lift, false});
        s.hatched = hatched;
        return s;
    }
    Level level;
    Shade shade;
    std::vector<MaterialMeans> means;
};

int channel(uint32_t packed, int i) { return static_cast<int>(packed >> (8 * i) & 255); }

int apart(uint32_t a, uint32_t b) {
    int most = 0;
    for (int i = 0; i < 4; ++i) most = std::max(most, std::abs(channel(a, i) - channel(b, i)));
    return most;
}

template <class T>
bool same(const Raster<T>& a, const Raster<T>& b) {
    if (a.width() != b.width() || a.depth() != b.depth()) return false;
    for (int z = 0; z < a.depth(); ++z)
        for (int x = 0; x < a.width(); ++x)
            if (a.at(x, z) != b.at(x, z)) return false;
    return true;
}

// Relief as relief.h tells it, from nothing but heights.
double reliefAt(const Level& l, int x, int z, float lift) {
    const auto h = [&](int column, int row) {
        return static_cast<double>(
            groundSample(l, std::clamp(column, 0, l.columns - 1), std::clamp(row, 0, l.rows - 1)));
    };
    const auto soft = [](double v) { return v / (1 + std::abs(v)); };
    const int near = static_cast<int>(std::lround(2 / l.spacing)), wide = static_cast<int>(std::lround(8 / l.spacing));
    const double east = (h(x + near, z) - h(x - near, z)) / (2 * near * l.spacing),
                 south = (h(x, z + near) - h(x, z - near)) / (2 * near * l.spacing);
    double lit = 0;
    for (const auto& [aside, share] : {std::pair{50., 0.65}, {-70., 0.35}}) {
        const double azimuth = (l.sun.azimuth + aside) * 3.14159265358979 / 180;
        lit += share * soft(-4 * (east * std::sin(azimuth) - south * std::cos(azimuth)));
    }
    const double around = (h(x + wide, z) + h(x - wide, z) + h(x, z + wide) + h(x, z - wide)) / 4;
    const double crest = soft(6 * (h(x, z) - around) / (wide * l.spacing));
    return std::clamp(std::pow(2, lift * (1.5 * lit + crest)), 0.3, 1.8);
}

}  // namespace

TEST_CASE("baked rows are what each of their samples is by itself", "[property]") {
    Level plain = hillyLevel(137, 91, 5, 0);
    plain.spacing = 1.5, plain.originX = -30, plain.originZ = 12;
    addLayer(plain, plainLayer("one", 90, 120, 60));
    const Fixture f(plain, 8);
    const Level& l = f.level;
    for (const float lift : {0.f, 0.8f}) {
        CAPTURE(lift);
        const BakeSource s = f.source(lift);
        const Baked b = bake(s, l.bounds(), 1, true);
        REQUIRE(b.region == l.bounds());
        int surfaceApart = 0, litApart = 0;
        for (int z = 0; z < l.rows; ++z)
            for (int x = 0; x < l.columns; ++x) {
                const auto h = [&](int dx, int dz) {
                    return static_cast<double>(
                        groundSample(l, std::clamp(x + dx, 0, l.columns - 1), std::clamp(z + dz, 0, l.rows - 1)));
                };
                const double east = (h(1, 0) - h(-1, 0)) / 3, south = (h(0, 1) - h(0, -1)) / 3,
                             up = 1 / std::sqrt(1 + east * east + south * south);
                const double px = l.originX + x * l.spacing, pz = l.originZ + z * l.spacing;
                const double even = unevenness(px, pz) * (lift > 0 ? reliefAt(l, x, z, lift) / 1.8 : 1);
                const auto byte = [](double v) { return static_cast<uint32_t>(std::clamp(v, 0., 255.)); };
                const uint32_t sun = byte(even * f.shade.sun->at(x, z) + 0.5),
                               open = byte(even * f.shade.open->at(x, z) + 0.5);
                const uint32_t surface = byte(-east * up * 127.5 + 128) | byte(-south * up * 127.5 + 128) << 8 |
                                         sun << 16 | open << 24;
                surfaceApart = std::max(surfaceApart, apart(b.surface.at(x, z), surface));
                // By the light that was stored, or its rounding would count twice.
                const uint32_t had = b.surface.at(x, z);
                const glm::vec3 lit = litColour(
                    s.light, s.colours[0],
                    {static_cast<float>(-east * up), static_cast<float>(up), static_cast<float>(-south * up)},
                    static_cast<float>(channel(had, 2)) / 255.f, static_cast<float>(channel(had, 3)) / 255.f);
                const uint32_t shown = static_cast<uint32_t>(finished(lit.x)) |
                                       static_cast<uint32_t>(finished(lit.y)) << 8 |
                                       static_cast<uint32_t>(finished(lit.z)) << 16 | (b.lit.at(x, z) & 0xff000000u);
                litApart = std::max(litApart, apart(b.lit.at(x, z), shown));
                const bool steep = b.steep.at(x / Baked::kBlock, z / Baked::kBlock) != 0;
                if (up < 0.949) CHECK(steep);
            }
        CHECK(surfaceApart <= 1);
        CHECK(litApart <= 1);
    }
}

TEST_CASE("however ground is baked, it looks the same", "[property]") {
    Random random(4);
    const Fixture f(lopsidedLevel(), 3);
    const Level& l = f.level;
    for (const bool hatched : {false, true}) {
        const BakeSource s = f.source(0.7f, hatched);
        const Baked all = bake(s, l.bounds(), 1, true);
        // Sparsely: the same at the samples that are left.
        for (const int stride : {2, 4, 16})
            for (const bool surface : {false, true}) {
                CAPTURE(stride, surface);
                const Baked some = bake(s, l.bounds(), stride, surface);
                CHECK((some.surface.width() > 0) == surface);
                int wrong = 0;
                for (int z = 0; z < l.rows; z += stride)
                    for (int x = 0; x < l.columns; x += stride)
                        wrong += some.lit.at(x / stride, z / stride) != all.lit.at(x, z);
                if (surface) wrong += !same(some.surface, all.surface) + !same(some.steep, all.steep);
                CHECK(wrong == 0);
            }
        // Part by part, with colours that are kept from one to the next.
        constexpr int kSide = TileColours::kSide;
        std::map<std::pair<int, int>, TileColours> kept;
        for (int round = 0; round < 40; ++round) {
            const int tx = wholeBetween(random, 0, (l.columns - 1) / kSide),
                      tz = wholeBetween(random, 0, (l.rows - 1) / kSide);
            const Region tile = Region{tx * kSide, tz * kSide, (tx + 1) * kSide, (tz + 1) * kSide}.clipped(l.bounds());
            const int x0 = wholeBetween(random, tile.x0, tile.x1 - 1), z0 = wholeBetween(random, tile.z0, tile.z1 - 1);
            const Region part{x0, z0, wholeBetween(random, x0 + 1, tile.x1), wholeBetween(random, z0 + 1, tile.z1)};
            const Baked some = bake(s, part, 1, round % 3 > 0, round % 4 ? &kept[{tx, tz}] : nullptr);
            CHECK(some.region.x0 <= part.x0);
            CHECK(some.region.x1 >= part.x1);
            int wrong = 0;
            for (int z = some.region.z0; z < some.region.z1; ++z)
                for (int x = some.region.x0; x < some.region.x1; ++x) {
                    const int ox = x - some.region.x0, oz = z - some.region.z0;
                    wrong += some.lit.at(ox, oz) != all.lit.at(x, z);
                    if (some.surface.width() > 0) wrong += some.surface.at(ox, oz) != all.surface.at(x, z);
                }
            CHECK(wrong == 0);
        }
    }
}
