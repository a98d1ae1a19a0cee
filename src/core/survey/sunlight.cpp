#include "survey/sunlight.h"

#include <algorithm>
#include <cmath>
#include <utility>

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

namespace {

constexpr int kLines = 64;  // from one line whose shadow is kept to the next

// Lines across the axis that the sun's direction follows more, counted away from the sun.
class Sweep {
public:
    // Precondition: the sun is not straight above.
    Sweep(const Level& level, const Direction& d)
        : level_(level), alongZ_(std::abs(d.z) >= std::abs(d.x)), ground_(level, alongZ_) {
        const double major = alongZ_ ? d.z : d.x, minor = alongZ_ ? d.x : d.z;
        const float slip = static_cast<float>(minor / std::abs(major));
        drop_ = static_cast<float>(level.spacing * d.y / std::abs(major));
        perMetre_ = 255.0f / std::max(0.5f * drop_, 0.02f);
        whole_ = static_cast<int>(std::floor(slip));
        part_ = slip - static_cast<float>(whole_);
        forward_ = major < 0;  // the sun stands at low indices
        shade_.resize(static_cast<size_t>(length()));
        shown_.resize(shade_.size());
    }

    int lines() const { return alongZ_ ? level_.rows : level_.columns; }
    int length() const { return alongZ_ ? level_.columns : level_.rows; }
    // The first and the last line, counted away from the sun, that a region lies in.
    std::pair<int, int> linesOf(const Region& r) const {
        const int low = alongZ_ ? r.z0 : r.x0, high = (alongZ_ ? r.z1 : r.x1) - 1;
        return forward_ ? std::pair(low, high) : std::pair(lines() - 1 - high, lines() - 1 - low);
    }
    // Carries the heights of the shadow over the k-th line, and tells what the sun reaches there.
    void cross(int k, std::vector<float>& before, View<uint8_t> out) {
        const int line = forward_ ? k : lines() - 1 - k, n = length();
        const float* heights = ground_.line(line);
        for (int i = 0; i < n; ++i) {
            const int a = i + whole_, b = a + 1;
            // Beyond the edge nothing casts a shadow.
            const float ha = a >= 0 && a < n ? before[static_cast<size_t>(a)] : -1e9f;
            const float hb = b >= 0 && b < n ? before[static_cast<size_t>(b)] : -1e9f;
            const auto at = static_cast<size_t>(i);
            const float shadow = std::max(ha + part_ * (hb - ha) - drop_, -1e9f);
            const float under = (shadow - heights[i]) * perMetre_;
            shown_[at] = static_cast<uint8_t>(std::clamp(255.0f - under, 0.0f, 255.0f));
            shade_[at] = std::max(shadow, heights[i]);
        }
        if (alongZ_) std::copy(shown_.begin(), shown_.end(), out.row(line));
        else
            for (int i = 0; i < n; ++i) out.at(line, i) = shown_[static_cast<size_t>(i)];
        std::swap(shade_, before);
    }

private:
    const Level& level_;
    bool alongZ_, forward_ = false;
    Lines ground_;
    float drop_ = 0;      // metres that a shadow falls per line
    float part_ = 0;      // of a sample that the other coordinate moves towards the sun per line, besides
    int whole_ = 0;       // whole samples
    float perMetre_ = 0;  // of brightness that a metre below the shadow takes
    std::vector<float> shade_;
    std::vector<uint8_t> shown_;
};

}  // namespace

bool SunShade::follow(const Level& level, const TileSet* changed, View<uint8_t> out, const Context& context) {
    const Direction d = towardsSun(level.sun);
    if (std::hypot(d.x, d.z) < 1e-6) {
        for (int z = 0; z < level.rows; ++z) std::fill_n(out.row(z), level.columns, uint8_t{255});
        return true;
    }
    Sweep sweep(level, d);
    const int blocks = (sweep.lines() + kLines - 1) / kLines;
    std::vector<bool> touched(static_cast<size_t>(blocks), !changed);
    if (changed)
        changed->each([&](int, int, const Region& part) {
            const auto [first, last] = sweep.linesOf(part);
            for (int b = first / kLines; b <= last / kLines; ++b) touched[static_cast<size_t>(b)] = true;
        });
    else before_.assign(static_cast<size_t>(blocks), {});
    std::vector<float> before(static_cast<size_t>(sweep.length()), -1e9f);
    bool other = false;  // whether the shadow that comes in is another than the one that is kept
    for (int b = 0; b < blocks; ++b) {
        std::vector<float>& kept = before_[static_cast<size_t>(b)];
        if (b == 0 || other || !changed) {
            other = kept != before;
            kept = before;
        } else if (touched[static_cast<size_t>(b)]) before = kept;
        if (!other && !touched[static_cast<size_t>(b)]) continue;
        for (int k = b * kLines; k < std::min((b + 1) * kLines, sweep.lines()); ++k) {
            if (context.cancelled()) return false;
            sweep.cross(k, before, out);
        }
        other = true;
    }
    return true;
}

void readSunlight(const Level& level, View<uint8_t> out, const Context& context) {
    SunShade().follow(level, nullptr, out, context);
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
