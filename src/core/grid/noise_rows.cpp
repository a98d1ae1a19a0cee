#include "grid/noise_rows.h"

#include <algorithm>

#include "base/noise.h"
#include "grid/ground_rows.h"

namespace jam {

namespace {

void arrowsAlong(const std::vector<int>& points, int row, uint32_t seed, std::vector<float>& x, std::vector<float>& z) {
    const auto& all = noiseArrows();
    x.resize(points.size()), z.resize(points.size());
    for (size_t i = 0; i < points.size(); ++i) {
        const NoiseArrow a = all[hashPoint(points[i], row, seed) >> 24];
        x[i] = a.x, z[i] = a.z;
    }
}

}  // namespace

NoiseRows::NoiseRows(const float* x, int n, uint32_t seed, int octaves) : n_(n) {
    const auto count = static_cast<size_t>(n);
    std::vector<float> finer(x, x + n);
    float strength = 1, total = 0;
    size_t most = 0;
    for (int k = 0; k < octaves; ++k) {
        Octave o{seed + static_cast<uint32_t>(k) * 101u,
                 strength,
                 {},
                 std::vector<int>(count),
                 std::vector<float>(count),
                 std::vector<float>(count),
                 {},
                 {}};
        for (size_t i = 0; i < count; ++i) {
            const float left = std::floor(finer[i]), u = finer[i] - left;
            const int column = static_cast<int>(left);
            // Points are told once, and none that lie between far samples.
            if (o.points.empty() || o.points.back() < column) o.points.push_back(column);
            if (o.points.back() == column) o.points.push_back(column + 1);
            o.cell[i] = static_cast<int>(o.points.size()) - 2;
            o.within[i] = u;
            o.fade[i] = noiseFade(u);
        }
        most = std::max(most, o.points.size());
        total += strength;
        strength *= 0.5f;
        for (float& v : finer) v *= 2;
        octaves_.push_back(std::move(o));
    }
    perTotal_ = 1 / total;
    slope_.resize(most + kLatticeBeyond), rise_.resize(most + kLatticeBeyond);
}

void NoiseRows::look(Octave& o, int row) const {
    if (o.known && o.row == row) return;
    if (o.known && o.row + 1 == row) std::swap(o.upper, o.lower);
    else arrowsAlong(o.points, row, o.seed, o.upper.x, o.upper.z);
    arrowsAlong(o.points, row + 1, o.seed, o.lower.x, o.lower.z);
    o.row = row, o.known = true;
}

void NoiseRows::row(float z, float* out) {
    std::fill_n(out, n_, 0.f);
    for (Octave& o : octaves_) {
        const float above = std::floor(z), v = z - above, b = noiseFade(v);
        look(o, static_cast<int>(above));
        for (size_t i = 0; i < o.points.size(); ++i) {
            const NoiseSide side = noiseSide({o.upper.x[i], o.upper.z[i]}, {o.lower.x[i], o.lower.z[i]}, v, b);
            slope_[i] = side.slope, rise_[i] = side.rise;
        }
        groundRows().bumps(out, o.cell.data(), o.within.data(), o.fade.data(), n_, slope_.data(), rise_.data(),
                           o.strength);
        z *= 2;
    }
    for (int i = 0; i < n_; ++i) out[i] *= perTotal_;
}

}  // namespace jam
