#include "texture.h"

#include <algorithm>
#include <cmath>

#include "base/noise.h"
#include "files/layer_json.h"
#include "files/png.h"

namespace jam::samples {

Colour mix(const Colour& a, const Colour& b, float share) {
    const float s = std::clamp(share, 0.f, 1.f);
    return {a[0] + s * (b[0] - a[0]), a[1] + s * (b[1] - a[1]), a[2] + s * (b[2] - a[2])};
}
Colour scaled(const Colour& c, float by) { return {c[0] * by, c[1] * by, c[2] * by}; }

float Dice::unit() {
    state_ += 0x9e3779b9u;
    return hashUnit(static_cast<int>(state_), 77, 5);
}

Cell cellAt(float u, float v, int cells, uint32_t seed) {
    const float x = u * static_cast<float>(cells), y = v * static_cast<float>(cells);
    const int cx = static_cast<int>(std::floor(x)), cy = static_cast<int>(std::floor(y));
    Cell found{9, 9, 0};
    for (int dy = -1; dy <= 1; ++dy)
        for (int dx = -1; dx <= 1; ++dx) {
            const int wx = (cx + dx + cells) % cells, wy = (cy + dy + cells) % cells;
            const float px = static_cast<float>(cx + dx) + hashUnit(wx, wy, seed);
            const float py = static_cast<float>(cy + dy) + hashUnit(wx, wy, seed + 1);
            const float d = std::hypot(px - x, py - y);
            if (d < found.nearest) found = {d, found.nearest, hashUnit(wx, wy, seed + 2)};
            else found.second = std::min(found.second, d);
        }
    return found;
}

Texture::Texture()
    : colour_(kSize * kSize, Colour{0.5f, 0.5f, 0.5f}), height_(kSize * kSize, 0.f), rough_(kSize * kSize, 0.9f) {}

void Texture::draw(const Stone& s) {
    const float reach = s.radius * std::max(s.stretch, 1.f) * 1.3f + 1;
    const float c = std::cos(s.turn), n = std::sin(s.turn);
    const auto seed = static_cast<uint32_t>(s.x * 131 + s.y * 17);
    for (int y = static_cast<int>(s.y - reach); y <= static_cast<int>(s.y + reach); ++y)
        for (int x = static_cast<int>(s.x - reach); x <= static_cast<int>(s.x + reach); ++x) {
            const float dx = static_cast<float>(x) - s.x, dy = static_cast<float>(y) - s.y;
            const float a = (dx * c + dy * n) / (s.radius * s.stretch), b = (dy * c - dx * n) / s.radius;
            const float ragged = 1 + s.uneven * 0.5f * fractalNoise(a * 1.7f + 9, b * 1.7f, seed, 2);
            const float d = std::sqrt(a * a + b * b) * ragged;
            if (d >= 1) continue;
            const float dome = std::sqrt(1 - d * d);
            const float h = s.foot + s.rise * dome + 0.06f * s.rise * gradientNoise(dx * 0.35f, dy * 0.35f, seed);
            float& height = height_[index(x, y)];
            if (h <= height) continue;
            height = h;
            const float grain = 1 + 0.10f * gradientNoise(dx * 0.5f, dy * 0.5f, seed + 3) +
                                0.06f * (hashUnit(x, y, seed) - 0.5f);
            colour_[index(x, y)] = scaled(s.colour, (0.72f + 0.28f * dome) * grain);
            rough_[index(x, y)] = s.rough;
        }
}

void Texture::draw(const Blade& b) {
    const int steps = static_cast<int>(b.length * 2) + 2;
    float x = b.x, y = b.y, turn = b.turn;
    for (int i = 0; i <= steps; ++i) {
        const float t = static_cast<float>(i) / static_cast<float>(steps);
        const float half = 0.5f * b.width * (1 - 0.85f * t);
        const float h = b.foot + b.rise * t * (2 - t);
        const int reach = static_cast<int>(std::ceil(half));
        for (int v = -reach; v <= reach; ++v)
            for (int u = -reach; u <= reach; ++u) {
                const int px = static_cast<int>(std::lround(x)) + u, py = static_cast<int>(std::lround(y)) + v;
                const float across = std::hypot(static_cast<float>(px) - x, static_cast<float>(py) - y);
                if (across > half + 0.35f) continue;
                const float here = h - 0.05f * across;
                float& height = height_[index(px, py)];
                if (here <= height) continue;
                height = here;
                colour_[index(px, py)] = mix(b.root, b.tip, t);
            }
        x += std::cos(turn) * b.length / static_cast<float>(steps);
        y += std::sin(turn) * b.length / static_cast<float>(steps);
        turn += b.bend / static_cast<float>(steps);
    }
}

std::vector<float> Texture::blurred(const std::vector<float>& in, int reach) {
    std::vector<float> across(in.size()), out(in.size());
    const float per = 1.f / static_cast<float>(2 * reach + 1);
    for (int pass = 0; pass < 2; ++pass) {
        const std::vector<float>& from = pass ? across : in;
        std::vector<float>& to = pass ? out : across;
        for (int y = 0; y < kSize; ++y) {
            double sum = 0;
            const auto at = [&](int i) { return pass ? from[index(y, i)] : from[index(i, y)]; };
            for (int i = -reach; i <= reach; ++i) sum += at(i);
            for (int x = 0; x < kSize; ++x) {
                to[pass ? index(y, x) : index(x, y)] = static_cast<float>(sum) * per;
                sum += at(x + reach + 1) - at(x - reach);
            }
        }
    }
    return out;
}

void Texture::shadeHollows(float strength, int reach) {
    const std::vector<float> mean = blurred(blurred(height_, reach), reach);
    for (size_t i = 0; i < height_.size(); ++i)
        colour_[i] = scaled(colour_[i], std::clamp(1 + strength * (height_[i] - mean[i]), 0.35f, 1.25f));
}

void Texture::evenLight(float strength, int reach) {
    std::vector<float> light(colour_.size());
    double sum = 0;
    for (size_t i = 0; i < light.size(); ++i) {
        light[i] = 0.3f * colour_[i][0] + 0.59f * colour_[i][1] + 0.11f * colour_[i][2];
        sum += light[i];
    }
    const float whole = static_cast<float>(sum / static_cast<double>(light.size()));
    const std::vector<float> mean = blurred(blurred(light, reach), reach);
    for (size_t i = 0; i < light.size(); ++i) colour_[i] = scaled(colour_[i], 1 + strength * (whole / mean[i] - 1));
}

Status Texture::save(const std::filesystem::path& folder, const Layer& layer, float relief) const {
    std::filesystem::create_directories(folder);
    const auto [low, high] = std::minmax_element(height_.begin(), height_.end());
    const float per = *high > *low ? 1 / (*high - *low) : 1;
    Pixels colour{kSize, kSize, 3, 8, {}}, normal{kSize, kSize, 3, 8, {}}, rough{kSize, kSize, 1, 8, {}},
        height{kSize, kSize, 1, 8, {}}, open{kSize, kSize, 1, 8, {}};
    const std::vector<float> around = blurred(blurred(height_, 6), 6);
    const auto byte = [](float v) { return static_cast<uint16_t>(std::clamp(v, 0.f, 1.f) * 255 + 0.5f); };
    const float steep = relief * kSize * per / 2;
    for (int y = 0; y < kSize; ++y)
        for (int x = 0; x < kSize; ++x) {
            const size_t i = index(x, y);
            for (const float c : colour_[i]) colour.samples.push_back(byte(c));
            const float dx = (height_[index(x - 1, y)] - height_[index(x + 1, y)]) * steep;
            const float dy = (height_[index(x, y + 1)] - height_[index(x, y - 1)]) * steep;
            const float length = std::sqrt(dx * dx + dy * dy + 1);
            for (const float c : {dx / length, dy / length, 1 / length})
                normal.samples.push_back(byte(0.5f + 0.5f * c));
            rough.samples.push_back(byte(rough_[i]));
            height.samples.push_back(byte((height_[i] - *low) * per));
            open.samples.push_back(byte(1 - 2.2f * std::max(around[i] - height_[i], 0.f) * per));
        }
    const std::string text = layerToJson(layer).dump(2) + "\n";
    const std::pair<const char*, Bytes> files[] = {
        {"colour.png", encodePng(colour, 6)},   {"normal.png", encodePng(normal, 6)},
        {"roughness.png", encodePng(rough, 6)}, {"height.png", encodePng(height, 6)},
        {"occlusion.png", encodePng(open, 6)},  {"layer.json", Bytes(text.begin(), text.end())}};
    for (const auto& [file, bytes] : files) {
        AtomicFile out(folder / file);
        if (Status s = out.write(bytes); !s) return s;
        if (Status s = out.commit(); !s) return s;
    }
    return {};
}

}  // namespace jam::samples
