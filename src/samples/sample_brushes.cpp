#include "sample_brushes.h"

#include <algorithm>
#include <cmath>
#include <functional>

#include "base/noise.h"
#include "files/settings_json.h"
#include "texture.h"

namespace jam::samples {

namespace {

namespace fs = std::filesystem;

constexpr int kSide = 257;

float clamp01(float v) { return std::clamp(v, 0.f, 1.f); }
float fade(float from, float to, float v) {
    const float t = clamp01((v - from) / (to - from));
    return t * t * (3 - 2 * t);
}

// f(u, v) over [-1, 1], north on top.
Status makeTip(const fs::path& path, const std::function<float(float, float)>& f) {
    Pixels p{kSide, kSide, 1, 16, {}};
    for (int y = 0; y < kSide; ++y)
        for (int x = 0; x < kSide; ++x) {
            const float u = 2.f * static_cast<float>(x) / (kSide - 1) - 1,
                        v = 2.f * static_cast<float>(y) / (kSide - 1) - 1;
            p.samples.push_back(static_cast<uint16_t>(std::lround(clamp01(f(u, v)) * 65535)));
        }
    AtomicFile file(path);
    if (Status s = file.write(encodePng(p)); !s) return s;
    return file.commit();
}

float speckle(float u, float v) {
    const float r = std::hypot(u, v);
    const Cell c = cellAt(0.5f + u / 2, 0.5f + v / 2, 13, 5);
    return fade(0.42f, 0.12f, c.nearest) * (0.35f + 0.65f * c.random) * fade(1, 0.7f, r);
}

// A crest that runs east and west, with spurs.
float ridge(float u, float v) {
    const float bend = 0.22f * gradientNoise(u * 1.7f + 3, 0.5f, 7) + 0.05f * gradientNoise(u * 6, 2.5f, 8);
    const float across = std::abs(v - bend), spurs = 0.17f * std::abs(fractalNoise(u * 5 + 2, v * 4, 9, 4));
    const float flank = clamp01(1 - (across + spurs) * 2.1f);
    return std::pow(flank, 1.35f) * (0.82f + 0.3f * gradientNoise(u * 2.6f, 4.5f, 10)) * fade(1, 0.45f, std::abs(u)) *
           fade(1, 0.75f, std::hypot(u, v));
}

float craterRim(float u, float v) {
    const float angle = std::atan2(v, u),
                r = std::hypot(u, v) * (1 + 0.07f * gradientNoise(std::cos(angle) * 2 + 5, std::sin(angle) * 2, 12));
    const float outside = fade(1, 0.62f, r), inside = fade(0.36f, 0.62f, r);
    const float rough = 1 + 0.2f * fractalNoise(u * 5, v * 5, 13, 4);
    return outside * (0.12f + 0.88f * inside) * rough * (r < 0.62f ? 1 : std::pow(outside, 0.6f)) *
           (r < 0.36f ? 0.85f : 1);
}

float scree(float u, float v) {
    float most = 0;
    for (int layer = 0; layer < 3; ++layer) {
        const int cells = 7 + 6 * layer;
        const Cell c = cellAt(0.5f + u / 2, 0.5f + v / 2, cells, 21u + static_cast<uint32_t>(layer));
        const float stone = fade(0.5f, 0.2f, c.nearest) * (0.3f + 0.7f * c.random) / static_cast<float>(1 + layer);
        most = std::max(most, stone);
    }
    // Thick at the foot (south), thin towards the top.
    const float thick = fade(-0.9f, 0.5f, v + 0.25f * gradientNoise(u * 3, v * 3, 24));
    return most * thick * fade(1, 0.75f, std::hypot(u, v));
}

float cloud(float u, float v) {
    const float r = std::hypot(u, v), n = 0.5f + 0.9f * fractalNoise(u * 2.2f + 7, v * 2.2f, 31, 6, 0.55f);
    return clamp01(n * 1.2f - 0.1f) * fade(1, 0.25f, r + 0.2f * gradientNoise(u * 2, v * 2, 32));
}

StrokeSettings brush(Tool tool, float radius, float strength, Curve curve = Curve::smooth, float softness = 1) {
    StrokeSettings s;
    s.tool = tool;
    s.radius = radius;
    s.strength = strength;
    s.falloff.curve = curve;
    s.falloff.softness = softness;
    return s;
}

}  // namespace

Status makeSampleBrushes(const fs::path& folder) {
    fs::create_directories(folder / "tips");
    fs::create_directories(folder / "brushes");
    const std::pair<const char*, float (*)(float, float)> tips[] = {{"speckle.png", speckle},
                                                                    {"ridge.png", ridge},
                                                                    {"crater-rim.png", craterRim},
                                                                    {"scree.png", scree},
                                                                    {"cloud.png", cloud}};
    for (const auto& [name, f] : tips)
        if (Status s = makeTip(folder / "tips" / name, f); !s) return s;
    const std::vector<TipPtr> read = readTips(folder / "tips");
    const auto tip = [&](const std::string& name) {
        for (const TipPtr& t : read)
            if (t->name == name) return t;
        return TipPtr();
    };
    const auto stamped = [&](StrokeSettings s, const std::string& name, bool randomTurn) {
        s.tip = {TipShape::picture, tip(name), 0, randomTurn, false, 0};
        s.flow = false;
        s.spacing = 1.2f;
        s.falloff = {Curve::smooth, 0.25f};
        return s;
    };

    std::vector<Preset> all;
    all.push_back({"Big soft hill", brush(Tool::raise, 90, 14, Curve::bell)});
    all.push_back({"Bank", brush(Tool::raise, 9, 5, Curve::dome, 0.7f)});
    all.push_back({"Whole ridge", stamped(brush(Tool::raise, 110, 40), "Ridge", false)});
    all.push_back({"Crater", stamped(brush(Tool::raise, 70, 22), "Crater rim", true)});
    StrokeSettings s = brush(Tool::lower, 14, 4, Curve::dome, 0.8f);
    all.push_back({"Stream bed", s});
    s = brush(Tool::flatten, 22, 0.4f, Curve::smooth, 0.35f);
    all.push_back({"Building plot", s});
    s = brush(Tool::flatten, 30, 0.3f, Curve::smooth, 0.6f);
    s.earthwork = Earthwork::cut;
    all.push_back({"Cutting", s});
    all.push_back({"Gentle smooth", brush(Tool::smooth, 40, 0.2f)});
    s = brush(Tool::slope, 35, 0.4f, Curve::smooth, 0.4f);
    s.angle = 30;
    all.push_back({"Walkable", s});
    s = brush(Tool::terrace, 60, 0.35f, Curve::smooth, 0.4f);
    s.step = 3;
    s.riser = 0.25f;
    all.push_back({"Orchard terraces", s});
    s = brush(Tool::noise, 45, 0.25f);
    s.scale = 9;
    s.amplitude = 0.8f;
    s.octaves = 5;
    all.push_back({"Rough ground", s});
    s = brush(Tool::raise, 26, 1.2f);
    s.tip = {TipShape::picture, tip("Scree"), 0, true, false, 0.4f};
    s.flow = false;
    s.spacing = 0.5f;
    s.falloff = {Curve::smooth, 0.3f};
    all.push_back({"Scree", s});
    s = brush(Tool::crumble, 50, 0.8f);
    s.angle = 38;
    all.push_back({"Tired cliff", s});
    all.push_back({"Gullies", brush(Tool::rainWash, 60, 0.6f)});
    int number = 10;
    for (const Preset& p : all) {
        std::string file = std::to_string(number++) + "-" + p.name;
        std::transform(file.begin(), file.end(), file.begin(),
                       [](unsigned char c) { return c == ' ' ? '-' : static_cast<char>(std::tolower(c)); });
        if (Status st = savePreset(p, folder / "brushes" / (file + ".json")); !st) return st;
    }
    return {};
}

}  // namespace jam::samples
