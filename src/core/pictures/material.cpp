#include "pictures/material.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "base/srgb.h"
#include "files/level_file.h"
#include "files/png.h"

namespace jam {

namespace {

// One channel of a picture as floats in [0, 1], box-filtered to size x size (or repeated when enlarging).
std::vector<float> channel(const Pixels& p, int c, int size) {
    std::vector<float> out(static_cast<size_t>(size) * static_cast<size_t>(size));
    const double sx = static_cast<double>(p.width) / size, sy = static_cast<double>(p.height) / size;
    const int from = std::min(c, p.channels <= 2 ? 0 : p.channels - 1);
    for (int y = 0; y < size; ++y) {
        const int y0 = static_cast<int>(y * sy), y1 = std::max(y0 + 1, static_cast<int>((y + 1) * sy));
        for (int x = 0; x < size; ++x) {
            const int x0 = static_cast<int>(x * sx), x1 = std::max(x0 + 1, static_cast<int>((x + 1) * sx));
            double sum = 0;
            for (int v = y0; v < y1; ++v)
                for (int u = x0; u < x1; ++u) sum += p.at(u, v, from);
            out[static_cast<size_t>(y) * static_cast<size_t>(size) + static_cast<size_t>(x)] =
                static_cast<float>(sum / ((x1 - x0) * (y1 - y0) * static_cast<double>(p.most())));
        }
    }
    return out;
}

uint8_t toByte(float v) { return static_cast<uint8_t>(std::clamp(v, 0.f, 1.f) * 255.f + 0.5f); }

std::vector<float> heightFromColour(const std::vector<float> rgb[3]) {
    std::vector<float> h(rgb[0].size());
    float low = 1, high = 0;
    for (size_t i = 0; i < h.size(); ++i) {
        h[i] = 0.3f * rgb[0][i] + 0.59f * rgb[1][i] + 0.11f * rgb[2][i];
        low = std::min(low, h[i]);
        high = std::max(high, h[i]);
    }
    for (float& v : h) v = high > low ? (v - low) / (high - low) : 0.5f;
    return h;
}

// Slopes of the height, wrapped at the edges; depth of the relief is about 1/24 of a tile.
void normalsFromHeight(const std::vector<float>& h, int size, std::vector<float>& nx, std::vector<float>& ny) {
    nx.resize(h.size());
    ny.resize(h.size());
    const float steep = static_cast<float>(size) / 48.0f;
    const auto at = [&](int x, int y) {
        return h[static_cast<size_t>((y + size) % size) * static_cast<size_t>(size) +
                 static_cast<size_t>((x + size) % size)];
    };
    for (int y = 0; y < size; ++y)
        for (int x = 0; x < size; ++x) {
            const float dx = (at(x - 1, y) - at(x + 1, y)) * steep, dy = (at(x, y + 1) - at(x, y - 1)) * steep;
            const float per = 1 / std::sqrt(dx * dx + dy * dy + 1);
            const size_t i = static_cast<size_t>(y) * static_cast<size_t>(size) + static_cast<size_t>(x);
            nx[i] = 0.5f + 0.5f * dx * per;
            ny[i] = 0.5f + 0.5f * dy * per;
        }
}

}  // namespace

Result<Material> makeMaterial(const Layer& layer, int size) {
    // Channel `c` of a picture, or `otherwise` where there is none.
    std::optional<Error> error;
    const auto decoded = [&](const Picture& p) {
        Result<Pixels> pixels = p ? decodePng(p->bytes, layer.name + ": " + p->name, kLargestTexture)
                                  : Result<Pixels>(Pixels{});
        if (!pixels && !error) error = pixels.error();
        return pixels ? pixels.take() : Pixels{};
    };
    const auto level = [&](const Picture& p, float otherwise) {
        const Pixels pixels = decoded(p);
        return pixels.width ? channel(pixels, 0, size)
                            : std::vector<float>(static_cast<size_t>(size) * static_cast<size_t>(size), otherwise);
    };
    const Pixels colour = decoded(layer.colour), normal = decoded(layer.normal);
    if (error) return *error;
    std::vector<float> rgb[3], nx, ny;
    for (int c = 0; c < 3; ++c) rgb[c] = channel(colour, c, size);
    const std::vector<float> height = layer.height ? level(layer.height, 0) : heightFromColour(rgb);
    if (normal.width) {
        nx = channel(normal, 0, size);
        ny = channel(normal, 1, size);
        if (layer.look.flipGreen)
            for (float& v : ny) v = 1 - v;
    } else if (!error) {
        normalsFromHeight(height, size, nx, ny);
    }
    const std::vector<float> rough = level(layer.roughness, 0.9f), occlusion = level(layer.occlusion, 1);
    const bool shines = layer.specular || layer.metalness;
    const std::vector<float> specular = shines ? level(layer.specular, 0.5f) : std::vector<float>(),
                             metal = shines ? level(layer.metalness, 0) : std::vector<float>();
    if (error) return *error;
    Material m;
    m.size = size;
    m.colourHeight.resize(height.size() * 4);
    m.reliefRough.resize(height.size() * 4);
    double stored[4] = {}, relief[4] = {};
    for (size_t i = 0; i < height.size(); ++i) {
        for (size_t c = 0; c < 3; ++c) m.colourHeight[i * 4 + c] = toByte(std::sqrt(linearLight(rgb[c][i])));
        m.colourHeight[i * 4 + 3] = toByte(height[i]);
        for (size_t c = 0; c < 4; ++c) stored[c] += m.colourHeight[i * 4 + c];
        m.reliefRough[i * 4] = toByte(nx[i]);
        m.reliefRough[i * 4 + 1] = toByte(ny[i]);
        m.reliefRough[i * 4 + 2] = toByte(rough[i]);
        m.reliefRough[i * 4 + 3] = toByte(occlusion[i]);
        for (size_t c = 0; c < 4; ++c) relief[c] += m.reliefRough[i * 4 + c];
        if (shines) m.shine.insert(m.shine.end(), {toByte(specular[i]), toByte(metal[i])});
    }
    const double per = 1 / static_cast<double>(height.size());
    for (size_t c = 0; c < 4; ++c) {
        m.meanStored[c] = static_cast<float>(stored[c] * per / 255);
        m.meanRelief[c] = static_cast<float>(relief[c] * per / 255);
    }
    for (size_t c = 0; c < 3; ++c) m.meanColour[c] = m.meanStored[c] * m.meanStored[c];
    return m;
}

}  // namespace jam
