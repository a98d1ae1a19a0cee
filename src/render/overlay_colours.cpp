#include "overlay_colours.h"

#include <algorithm>
#include <cstdio>
#include <glm/common.hpp>
#include <span>

#include "level/ground.h"
#include "sight.h"

namespace jam {

namespace {

constexpr int kBands = 6;
// From low ground to high: fen, moss, straw, clay, chalk.
const glm::vec3 kBandColours[kBands] = {{0.23f, 0.36f, 0.30f}, {0.42f, 0.55f, 0.30f}, {0.78f, 0.74f, 0.42f},
                                        {0.79f, 0.55f, 0.33f}, {0.62f, 0.40f, 0.33f}, {0.95f, 0.93f, 0.90f}};
const glm::vec3 kPasses{0.45f, 0.66f, 0.30f}, kNearly{0.95f, 0.68f, 0.38f}, kSteep{0.60f, 0.25f, 0.47f},
    kSheer{0.22f, 0.07f, 0.17f};
const glm::vec3 kBare{0.13f, 0.14f, 0.18f}, kSome{0.60f, 0.25f, 0.47f}, kMuch{0.95f, 0.68f, 0.38f},
    kAll{0.97f, 0.95f, 0.92f};
const glm::vec3 kHollow{0.25f, 0.33f, 0.50f}, kFlat{0.78f, 0.78f, 0.76f}, kCrest{0.95f, 0.68f, 0.38f};
const glm::vec3 kShallow{0.80f, 0.90f, 0.88f}, kWaist{0.30f, 0.58f, 0.68f}, kDeep{0.06f, 0.14f, 0.30f};

// There and back, one way, trap, never.
const glm::vec3 kReached[] = {
    {0.45f, 0.66f, 0.30f}, {0.95f, 0.68f, 0.38f}, {0.75f, 0.16f, 0.30f}, {0.36f, 0.36f, 0.42f}};

}  // namespace

std::string overlayConstants() {
    std::string out = "const int kBands = " + std::to_string(kBands) + ";\n";
    const auto written = [](const glm::vec3& c) {
        char text[100];
        std::snprintf(text, sizeof text, "vec3(%.9g, %.9g, %.9g)", c.x, c.y, c.z);
        return std::string(text);
    };
    const auto all = [&](const char* name, std::span<const glm::vec3> colours) {
        const std::string type = "vec3[" + std::to_string(colours.size()) + "]";
        out += "const " + type + " " + name + " = " + type + "(";
        for (size_t i = 0; i < colours.size(); ++i) out += (i ? ", " : "") + written(colours[i]);
        out += ");\n";
    };
    all("kBandColours", kBandColours);
    all("kReached", kReached);
    const struct {
        const char* name;
        const glm::vec3& colour;
    } single[] = {{"kPasses", kPasses}, {"kNearly", kNearly}, {"kSteep", kSteep}, {"kSheer", kSheer},
                  {"kBare", kBare},     {"kSome", kSome},     {"kMuch", kMuch},   {"kAll", kAll},
                  {"kHollow", kHollow}, {"kFlat", kFlat},     {"kCrest", kCrest}, {"kShallow", kShallow},
                  {"kWaist", kWaist},   {"kDeep", kDeep}};
    for (const auto& [name, colour] : single)
        out += std::string("const vec3 ") + name + " = " + written(colour) + ";\n";
    const struct {
        const char* name;
        Overlay overlay;
    } overlays[] = {{"Steepness", Overlay::steepness}, {"Altitude", Overlay::altitude},
                    {"Curvature", Overlay::curvature}, {"Coverage", Overlay::coverage},
                    {"Stretch", Overlay::stretch},     {"Reach", Overlay::reach}};
    for (const auto& [name, overlay] : overlays)
        out += std::string("const int kOverlay") + name + " = " + std::to_string(static_cast<int>(overlay)) + ";\n";
    return out;
}

glm::vec3 overlayColour(Overlay overlay, float share, float walkable) {
    const auto smooth = [](float low, float high, float v) {
        const float t = std::clamp((v - low) / (high - low), 0.f, 1.f);
        return t * t * (3 - 2 * t);
    };
    switch (overlay) {
        case Overlay::none: break;
        case Overlay::steepness: {
            const float degrees = 90 * share;
            if (degrees > walkable) return glm::mix(kSteep, kSheer, smooth(walkable, 90, degrees));
            return glm::mix(kPasses, kNearly, smooth(0.6f * walkable, walkable, degrees));
        }
        case Overlay::altitude: {
            const float at = std::clamp(share, 0.f, 1.f) * (kBands - 1);
            const int i = std::min(static_cast<int>(at), kBands - 2);
            return glm::mix(kBandColours[i], kBandColours[i + 1], at - static_cast<float>(i));
        }
        case Overlay::coverage: {
            const float t = 3 * std::clamp(share, 0.f, 1.f);
            return t < 1   ? glm::mix(kBare, kSome, t)
                   : t < 2 ? glm::mix(kSome, kMuch, t - 1)
                           : glm::mix(kMuch, kAll, t - 2);
        }
        case Overlay::stretch: {
            const float t = kStretchShown * std::clamp(share, 0.f, 1.f);
            return t < 0.5f ? glm::mix(kPasses, kNearly, 2 * t)
                   : t < 1  ? glm::mix(kNearly, kSteep, 2 * t - 1)
                            : glm::mix(kSteep, kSheer, t - 1);
        }
        case Overlay::depth: {
            const glm::vec3 c = glm::mix(kShallow, kWaist, smooth(0, 0.4f, share));
            return glm::mix(c, kDeep, smooth(0.35f, 1, share));
        }
        case Overlay::reach: return kReached[std::clamp(static_cast<int>(4 * share), 0, 3)];
        case Overlay::curvature: {
            const float c = std::clamp(2 * share - 1, -1.f, 1.f);
            return c < 0 ? glm::mix(kFlat, kHollow, -c) : glm::mix(kFlat, kCrest, c);
        }
    }
    return kFlat;
}

float curvatureScale(const Level& level) { return static_cast<float>(0.12 / level.spacing); }

float depthLineStep(float deepest) {
    float step = 0.1f;
    for (const float times : {2.5f, 2.f, 2.f, 2.5f, 2.f, 2.f, 2.5f, 2.f, 2.f, 2.5f, 2.f, 2.f})
        if (deepest / step > 12) step *= times;
    return step;
}

float deepestShown(const Level& level) {
    float deepest = 1;
    for (const Pool& p : level.pools)
        if (!p.sea && level.holds(p.x, p.z))
            deepest = std::max(deepest, p.height - static_cast<float>(altitudeAt(level, p.x, p.z)));
    return deepest;
}

}  // namespace jam
