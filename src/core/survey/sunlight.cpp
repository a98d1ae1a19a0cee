#include "survey/sunlight.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "level/ground.h"
#include "shape/smooth.h"

namespace jam {

Direction towardsSun(const Sun& sun) {
    const double a = sun.azimuth * kRadians, e = sun.elevation * kRadians;
    return {std::sin(a) * std::cos(e), std::sin(e), -std::cos(a) * std::cos(e)};
}

namespace {

// The ground line by line, along rows or along columns; several at once, because columns lie far apart in memory.
class Lines {
public:
    Lines(const Level& level, bool rows) : level_(level), rows_(rows) {}

    const float* line(int n) {
        if (n < first_ || n >= first_ + kAtOnce) read(n / kAtOnce * kAtOnce);
        return lines_.view().row(n - first_);
    }

private:
    static constexpr int kAtOnce = 64;

    void read(int first) {
        first_ = first;
        const int end = std::min(first + kAtOnce, rows_ ? level_.rows : level_.columns);
        if (rows_) {
            lines_ = Raster<float>(level_.columns, end - first);
            return readGround(level_, {0, first, level_.columns, end}, lines_.view());
        }
        lines_ = Raster<float>(level_.rows, end - first);
        Raster<float> part(end - first, kAtOnce);
        for (int z0 = 0; z0 < level_.rows; z0 += kAtOnce) {
            const int z1 = std::min(z0 + kAtOnce, level_.rows);
            readGround(level_, {first, z0, end, z1}, part.view());
            for (int x = 0; x < end - first; ++x)
                for (int z = z0; z < z1; ++z) lines_.at(z, x) = part.at(x, z - z0);
        }
    }

    const Level& level_;
    bool rows_;
    int first_ = -kAtOnce;
    Raster<float> lines_;
};

}  // namespace

void readSunlight(const Level& level, View<uint8_t> out, const Context& context) {
    const Direction d = towardsSun(level.sun);
    const double flat = std::hypot(d.x, d.z);
    if (flat < 1e-6) {
        for (int z = 0; z < level.rows; ++z) std::fill_n(out.row(z), level.columns, uint8_t{255});
        return;
    }
    // Work line by line across the axis that the sun's direction follows more; `slip` is how far the other
    // coordinate moves towards the sun per line.
    const bool alongZ = std::abs(d.z) >= std::abs(d.x);
    const int lines = alongZ ? level.rows : level.columns, length = alongZ ? level.columns : level.rows;
    const double major = alongZ ? d.z : d.x, minor = alongZ ? d.x : d.z;
    const float slip = static_cast<float>(minor / std::abs(major));
    const float drop =
        static_cast<float>(level.spacing * d.y / std::abs(major));  // metres that a shadow falls per line
    const float perMetre = 255.0f / std::max(0.5f * drop, 0.02f);
    const int whole = static_cast<int>(std::floor(slip));
    const float part = slip - static_cast<float>(whole);
    const bool forward = major < 0;  // the sun stands at low indices
    std::vector<float> shade(static_cast<size_t>(length)), before(shade.size(), -1e9f);
    Lines ground(level, alongZ);
    std::vector<uint8_t> shown(shade.size());
    for (int k = 0; k < lines; ++k) {
        if (context.cancelled()) return;
        const int line = forward ? k : lines - 1 - k;
        const float* heights = ground.line(line);
        for (int i = 0; i < length; ++i) {
            const int a = i + whole, b = a + 1;
            // Beyond the edge nothing casts a shadow.
            const float ha = a >= 0 && a < length ? before[static_cast<size_t>(a)] : -1e9f;
            const float hb = b >= 0 && b < length ? before[static_cast<size_t>(b)] : -1e9f;
            const auto at = static_cast<size_t>(i);
            const float shadow = std::max(ha + part * (hb - ha) - drop, -1e9f);
            const float under = (shadow - heights[i]) * perMetre;
            shown[at] = static_cast<uint8_t>(std::clamp(255.0f - under, 0.0f, 255.0f));
            shade[at] = std::max(shadow, heights[i]);
        }
        if (alongZ) std::copy(shown.begin(), shown.end(), out.row(line));
        else
            for (int i = 0; i < length; ++i) out.at(line, i) = shown[static_cast<size_t>(i)];
        std::swap(shade, before);
    }
}

namespace {

constexpr double kWidths[] = {4, 16};  // metres at which hollows are seen
constexpr int kBlock = 512;            // samples a side that are worked on at once, so that memory stays small

float sigmaOf(const Level& level, double metres) {
    return static_cast<float>(std::clamp(metres / level.spacing, 1.5, 60.0));
}

void readOpennessOf(const Level& level, const Region& r, View<uint8_t> out) {
    Raster<float> ground(r.width(), r.depth()), dark(r.width(), r.depth(), 0.f), mean(r.width(), r.depth()), around;
    readGround(level, r, ground.view());
    for (const double metres : kWidths) {
        const float sigma = sigmaOf(level, metres);
        const int halo = boxReach(sigma);
        around = Raster<float>(r.width() + 2 * halo, r.depth() + 2 * halo);
        readGroundBeyond(level, r.grown(halo), around.view());
        boxMean(around.view(), halo, sigma, mean.view());
        // A hollow as deep as its width lets about half of the sky in.
        const float per = static_cast<float>(0.9 / (sigma * level.spacing));
        for (int z = 0; z < r.depth(); ++z)
            for (int x = 0; x < r.width(); ++x) dark.at(x, z) += std::max((mean.at(x, z) - ground.at(x, z)) * per, 0.f);
    }
    for (int z = 0; z < r.depth(); ++z)
        for (int x = 0; x < r.width(); ++x)
            out.at(r.x0 + x, r.z0 + z) = static_cast<uint8_t>(255 / (1 + 1.6f * dark.at(x, z)) + 0.5f);
}

}  // namespace

int opennessReach(const Level& level) {
    int reach = 0;
    for (const double metres : kWidths) reach = std::max(reach, boxReach(sigmaOf(level, metres)));
    return reach;
}

void readOpenness(const Level& level, View<uint8_t> out, const Region& where, const Context& context) {
    for (int z = where.z0; z < where.z1; z += kBlock)
        for (int x = where.x0; x < where.x1 && !context.cancelled(); x += kBlock)
            readOpennessOf(level, Region{x, z, x + kBlock, z + kBlock}.clipped(where), out);
}

}  // namespace jam
