// Seamless textures drawn by rule: a canvas that wraps at its edges, with a height for everything on it.
#pragma once

#include <array>
#include <cstdint>
#include <filesystem>
#include <vector>

#include "base/result.h"
#include "level/layer.h"

namespace jam::samples {

using Colour = std::array<float, 3>;  // sRGB, [0, 1]

Colour mix(const Colour& a, const Colour& b, float share);
Colour scaled(const Colour& c, float by);

// Small repeatable random numbers.
class Dice {
public:
    explicit Dice(uint32_t seed) : state_(seed) {}
    float unit();  // [0, 1)
    float between(float low, float high) { return low + (high - low) * unit(); }

private:
    uint32_t state_;
};

// Distance to the nearest and second nearest of `cells` x `cells` jittered points, in cells, and the nearest's hash.
struct Cell {
    float nearest, second, random;
};
Cell cellAt(float u, float v, int cells, uint32_t seed);

class Texture {
public:
    static constexpr int kSize = 512;

    Texture();

    // f(u, v, colour, height, roughness) for every sample; u, v in [0, 1).
    template <class F>
    void eachSample(F f) {
        for (int y = 0; y < kSize; ++y)
            for (int x = 0; x < kSize; ++x) {
                const size_t i = index(x, y);
                f((static_cast<float>(x) + 0.5f) / kSize, (static_cast<float>(y) + 0.5f) / kSize, colour_[i],
                  height_[i], rough_[i]);
            }
    }

    // A stone: an ellipse with a domed top, drawn where it stands above what is there. Sizes in samples.
    struct Stone {
        float x, y, radius, stretch, turn;
        float foot, rise;  // heights of its edge and of its crown above that
        Colour colour;
        float rough;
        float uneven;  // how ragged its outline is, [0, 1]
    };
    void draw(const Stone& stone);

    // A blade of grass: a tapering curved stroke that rises from its root. Sizes in samples.
    struct Blade {
        float x, y, turn, bend, length, width;
        float foot, rise;
        Colour root, tip;
    };
    void draw(const Blade& blade);

    // Darkens what lies low, as ambient light would.
    void shadeHollows(float strength, int reach);
    // Divides slow changes of brightness out, so that no patch stands out where the tile repeats.
    void evenLight(float strength, int reach);

    // Writes colour.png, normal.png, roughness.png, height.png, occlusion.png and layer.json, which says what `layer`
    // does. `relief` is the depth of the heights in shares of a tile.
    Status save(const std::filesystem::path& folder, const Layer& layer, float relief) const;

private:
    static size_t index(int x, int y) {
        return static_cast<size_t>((y + 4 * kSize) % kSize) * kSize + static_cast<size_t>((x + 4 * kSize) % kSize);
    }
    static std::vector<float> blurred(const std::vector<float>& in, int reach);

    std::vector<Colour> colour_;
    std::vector<float> height_, rough_;
};

}  // namespace jam::samples
