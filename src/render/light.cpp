#include "light.h"

#include <glm/geometric.hpp>
#include <vector>

#include "base/noise.h"
#include "survey/sunlight.h"

namespace jam {

LightLook lightLook(const Sun& sun, bool flat) {
    if (flat) return {{0, 1, 0}, glm::vec3(0.9f), glm::vec3(0.5f), {0.62f, 0.64f, 0.66f}, {0.45f, 0.5f, 0.56f}};
    const Direction d = towardsSun(sun);
    const float high = std::sqrt(std::clamp(sun.elevation / 40.0f, 0.0f, 1.0f));
    const auto between = [high](glm::vec3 low, glm::vec3 top) { return low + (top - low) * high; };
    return {{d.x, d.y, d.z},
            between({2.6f, 1.25f, 0.55f}, {2.9f, 2.6f, 2.15f}),
            between({0.26f, 0.31f, 0.45f}, {0.36f, 0.46f, 0.62f}),
            between({0.80f, 0.60f, 0.46f}, {0.52f, 0.68f, 0.84f}),
            between({0.13f, 0.19f, 0.40f}, {0.07f, 0.21f, 0.56f})};
}

glm::vec3 litColour(const LightLook& l, const glm::vec3& albedo, const glm::vec3& normal, float sun, float open) {
    const float direct = std::max(glm::dot(normal, l.towards), 0.f) * sun;
    const glm::vec3 ambient = (l.sky * (0.62f + 0.38f * normal.y) + l.sun * (0.045f * (1 - normal.y))) * open;
    return albedo * (l.sun * direct + ambient);
}

const ShownTable& shownTable() {
    static const ShownTable table = [] {
        ShownTable t{};
        for (size_t i = 0; i < t.size(); ++i) {
            const double root = static_cast<double>(i) / (t.size() - 1) * kMostShown;
            t[i] = static_cast<uint8_t>(std::pow(1 - std::exp(-1.35 * root * root), 1 / 2.2) * 255 + 0.5);
        }
        return t;
    }();
    return table;
}

uint8_t finished(float linear) { return shownTable()[static_cast<size_t>(shownPlace(linear))]; }

namespace {

constexpr int kPatch = 256;  // samples of the noise tile; it repeats seamlessly

const std::vector<float>& noiseTile() {
    static const std::vector<float> tile = [] {
        std::vector<float> t(kPatch * kPatch);
        for (int z = 0; z < kPatch; ++z)
            for (int x = 0; x < kPatch; ++x)
                t[static_cast<size_t>(z * kPatch + x)] = fractalNoise(
                    static_cast<float>(x) / 16, static_cast<float>(z) / 16, 4711, 4, 0.6f, kPatch / 16);
        return t;
    }();
    return tile;
}

float tileAt(double u, double v) {
    static const std::vector<float>& tile = noiseTile();
    return betweenRepeating(kPatch, u, v, [](size_t i) { return tile[i]; });
}

}  // namespace

float unevenness(double x, double z) {
    // Two sizes that never repeat together: about 10 m, and about 60 m, turned against each other.
    const float fine = tileAt(x * 1.61, z * 1.61), wide = tileAt(0.21 * x + 0.13 * z, 0.21 * z - 0.13 * x);
    return std::clamp(0.86f + 0.13f * fine + 0.16f * wide, 0.7f, 1.f);
}

}  // namespace jam
