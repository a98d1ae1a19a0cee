#include "cover/lay.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "base/noise.h"
#include "base/srgb.h"

namespace jam {

namespace {

constexpr uint32_t kPieceSeed = 29;

uint8_t meanByte(int a, int b, int c, int d) { return static_cast<uint8_t>((a + b + c + d + 2) / 4); }

std::vector<uint8_t> halvedBytes(const std::vector<uint8_t>& in, int size, int channels) {
    std::vector<uint8_t> out;
    if (in.empty()) return out;
    const int half = size / 2;
    out.reserve(static_cast<size_t>(half * half * channels));
    const auto at = [&](int x, int y, int c) { return in[static_cast<size_t>((y * size + x) * channels + c)]; };
    for (int y = 0; y < half; ++y)
        for (int x = 0; x < half; ++x)
            for (int c = 0; c < channels; ++c)
                out.push_back(meanByte(at(2 * x, 2 * y, c), at(2 * x + 1, 2 * y, c), at(2 * x, 2 * y + 1, c),
                                       at(2 * x + 1, 2 * y + 1, c)));
    return out;
}

float wanderTileAt(double u, double v) {
    static const std::vector<uint8_t>& tile = wanderTile();
    return betweenRepeating(kWanderTile, u, v, [](size_t i) { return static_cast<float>(tile[i]) / 127.5f - 1; });
}

}  // namespace

Material halved(const Material& m) {
    Material out = m;
    out.size = m.size / 2;
    out.colourHeight = halvedBytes(m.colourHeight, m.size, 4);
    out.reliefRough = halvedBytes(m.reliefRough, m.size, 4);
    out.shine = halvedBytes(m.shine, m.size, 2);
    return out;
}

Raster<float> heightOf(const Material& m) {
    Raster<float> out(m.size, m.size);
    for (int y = 0; y < m.size; ++y)
        for (int x = 0; x < m.size; ++x)
            out.at(x, y) = static_cast<float>(m.colourHeight[static_cast<size_t>((y * m.size + x) * 4 + 3)]) / 255;
    return out;
}

Place placeOn(const Layer& layer, double x, double z) {
    const double a = layer.look.turn * kPi / 180, c = std::cos(a), s = std::sin(a);
    const double px = x - layer.look.offsetX, pz = z - layer.look.offsetZ;
    return {(c * px + s * pz) / layer.tileSize, (c * pz - s * px) / layer.tileSize};
}

Laid pictureAt(const Material& m, double u, double v) {
    const double x = (u - std::floor(u)) * m.size - 0.5, y = (v - std::floor(v)) * m.size - 0.5;
    const double fx = std::floor(x), fy = std::floor(y);
    const auto a = static_cast<float>(x - fx), b = static_cast<float>(y - fy);
    const auto index = [&](int i, int k) {
        const int px = (static_cast<int>(fx) + i + m.size) % m.size, py = (static_cast<int>(fy) + k + m.size) % m.size;
        return static_cast<size_t>((py * m.size + px) * 4);
    };
    const size_t at[4] = {index(0, 0), index(1, 0), index(0, 1), index(1, 1)};
    Laid out;
    for (size_t c = 0; c < 4; ++c) {
        const auto value = [&](int i) { return static_cast<float>(m.colourHeight[at[i] + c]); };
        const float top = value(0) + a * (value(1) - value(0)), bottom = value(2) + a * (value(3) - value(2));
        out[c] = (top + b * (bottom - top)) / 255;
    }
    return out;
}

Laid brokenAt(const Material& m, double u, double v) {
    // The lattice, skewed so that its triangles are equilateral with sides of half a repeat.
    const double sx = 2 * (u - 0.57735027 * v), sy = 2 * 1.15470054 * v;
    const double fx = std::floor(sx), fy = std::floor(sy);
    const int bx = static_cast<int>(fx), by = static_cast<int>(fy);
    const double x = sx - fx, y = sy - fy, rest = 1 - x - y;
    struct Corner {
        int dx, dy;
        double weight;
    };
    const Corner below[3] = {{0, 0, rest}, {1, 0, x}, {0, 1, y}},
                 above[3] = {{1, 1, -rest}, {0, 1, 1 - x}, {1, 0, 1 - y}};
    const Corner* corners = rest > 0 ? below : above;
    double sum = 0, squares = 0, cubes[3];
    for (int i = 0; i < 3; ++i) sum += cubes[i] = corners[i].weight * corners[i].weight * corners[i].weight;
    Laid out{};
    for (int i = 0; i < 3; ++i) {
        const double share = cubes[i] / sum;
        squares += share * share;
        const uint32_t h = hashPoint(bx + corners[i].dx, by + corners[i].dy, kPieceSeed);
        const Laid piece = pictureAt(m, u + (h & 0xffff) / 65536.0, v + (h >> 16) / 65536.0);
        for (size_t c = 0; c < 4; ++c) out[c] += static_cast<float>(share) * (piece[c] - m.meanStored[c]);
    }
    for (size_t c = 0; c < 4; ++c)
        out[c] = std::clamp(out[c] / static_cast<float>(std::sqrt(squares)) + m.meanStored[c], 0.f, 1.f);
    return out;
}

double farShare(const LayerLook& look, double distance) {
    if (look.farTimes <= 1) return 0;
    const double t = std::clamp(0.4 + std::log2(std::max(distance / look.farFrom, 0.1)) / 4, 0.0, 1.0);
    return t * t;
}

Laid laidAt(const Material& m, const Layer& layer, double x, double z, double distance) {
    const Place p = placeOn(layer, x, z);
    const auto at = [&](double u, double v) {
        return layer.look.tiling == Tiling::broken ? brokenAt(m, u, v) : pictureAt(m, u, v);
    };
    Laid out = at(p.u, p.v);
    const auto far = static_cast<float>(farShare(layer.look, distance));
    if (far > 0) {
        const Laid wide = at(p.u / layer.look.farTimes, p.v / layer.look.farTimes);
        for (size_t c = 0; c < 4; ++c) out[c] += far * (wide[c] - out[c]);
    }
    return out;
}

std::array<float, 3> tintOf(const LayerLook& look) {
    std::array<float, 3> out;
    for (size_t c = 0; c < 3; ++c) out[c] = linearLight(look.tint[c]) * look.brightness;
    return out;
}

std::array<float, 3> shownColour(const LayerLook& look, const Laid& laid, float wander) {
    std::array<float, 3> out = tintOf(look);
    for (size_t c = 0; c < 3; ++c) out[c] *= laid[c] * laid[c] * (1 + kWanderHue[c] * look.variation * wander);
    return out;
}

const std::vector<uint8_t>& wanderTile() {
    static const std::vector<uint8_t> tile = [] {
        std::vector<uint8_t> t;
        for (int z = 0; z < kWanderTile; ++z)
            for (int x = 0; x < kWanderTile; ++x) {
                const float n = 1.6f * fractalNoise(static_cast<float>(x) / 8, static_cast<float>(z) / 8, 811, 4, 0.55f,
                                                    kWanderTile / 8);
                t.push_back(static_cast<uint8_t>(std::clamp(127.5f + 127.5f * n, 0.f, 255.f)));
            }
        return t;
    }();
    return tile;
}

float wanderAt(double x, double z) {
    return 0.55f * wanderTileAt(0.27 * x + 0.05 * z, 0.27 * z - 0.05 * x) +
           0.45f * wanderTileAt(0.07 * x - 0.02 * z, 0.07 * z + 0.02 * x);
}

double likeness(const std::vector<float>& a, const std::vector<float>& b) {
    double sa = 0, sb = 0, saa = 0, sbb = 0, sab = 0;
    for (size_t i = 0; i < a.size(); ++i) {
        const double p = a[i], q = b[i];
        sa += p, sb += q, saa += p * p, sbb += q * q, sab += p * q;
    }
    const double per = 1 / static_cast<double>(std::max<size_t>(a.size(), 1)), va = saa * per - sa * sa * per * per,
                 vb = sbb * per - sb * sb * per * per;
    return va < 1e-9 || vb < 1e-9 ? 0 : (sab * per - sa * sb * per * per) / std::sqrt(va * vb);
}

double repeatVisibility(const Material& material, const Layer& layer, double distance) {
    const double area = 1.2 * distance,
                 repeat = layer.tileSize * (1 + (layer.look.farTimes - 1) * farShare(layer.look, distance));
    if (repeat >= area) return 0;
    // What is too fine for a picture of 800 pixels, or too fine to count, is averaged away.
    Material coarse = material;
    while (coarse.size > 1 && (coarse.size > 16 || layer.tileSize / coarse.size < area / 800)) coarse = halved(coarse);
    Layer straight = layer;  // along the pattern's own axes
    straight.look.turn = 0;
    const auto lightAt = [&](double x, double z) {
        const auto c = shownColour(layer.look, laidAt(coarse, straight, x, z, distance), wanderAt(x, z));
        return std::sqrt(0.2126f * c[0] + 0.7152f * c[1] + 0.0722f * c[2]);
    };
    constexpr int kLooks = 4000;
    std::vector<float> here, east, south;
    double sum = 0, squares = 0;
    for (int i = 0; i < kLooks; ++i) {
        const double x = hashUnit(i, 1, 5) * (area - repeat), z = hashUnit(i, 2, 5) * (area - repeat);
        here.push_back(lightAt(x, z));
        east.push_back(lightAt(x + repeat, z));
        south.push_back(lightAt(x, z + repeat));
        sum += here.back();
        squares += here.back() * here.back();
    }
    const double mean = sum / kLooks, spread = std::sqrt(std::max(squares / kLooks - mean * mean, 0.0));
    if (mean <= 0) return 0;
    const double alike = std::max({likeness(here, east), likeness(here, south), 0.0});
    return alike * std::min(8 * spread / mean, 1.0) * (1 - repeat / area);
}

}  // namespace jam
