#include "brush/dab.h"

#include <cmath>

#include "base/maths.h"
#include "brush/rows.h"
#include "level/cover_ground.h"

namespace jam {

namespace {

// The whole number at or below; std::floor is a call on the oldest processors, and this runs for every row.
int below(double v) {
    const auto whole = static_cast<int>(v);
    return whole - (v < whole);
}

double onRaster(double samples) { return std::round(samples * 256) / 256; }

// Share of full strength at an offset from the centre, in samples, of any tip but a round one.
float tipShare(const Dab& dab, float dx, float dz, float cosTurn, float sinTurn, float perRadius) {
    // Back through the symmetry (its transpose), then through the turn.
    const auto& m = dab.image;
    const float px = static_cast<float>(m.xx) * dx + static_cast<float>(m.zx) * dz,
                pz = static_cast<float>(m.xz) * dx + static_cast<float>(m.zz) * dz;
    const float u = (cosTurn * px + sinTurn * pz) * perRadius, v = (cosTurn * pz - sinTurn * px) * perRadius;
    if (dab.shape == TipShape::square) return dab.falloff.at(squareShare(u, v));
    return dab.picture->at(u, v) * dab.falloff.at(std::sqrt(u * u + v * v));
}

}  // namespace

Region dabBox(const Dab& dab) {
    // A square may stand on its corner.
    const double reach = dab.radius * (dab.shape == TipShape::square ? 1.4143 : 1.0);
    return {static_cast<int>(std::ceil(dab.column - reach)), static_cast<int>(std::ceil(dab.row - reach)),
            static_cast<int>(std::floor(dab.column + reach)) + 1, static_cast<int>(std::floor(dab.row + reach)) + 1};
}

Dab dabOn(const Level& level, double x, double z, float radiusMetres, const Falloff& falloff, int factor,
          const Tip& tip, float turn) {
    Dab dab;
    dab.column = onRaster(level.toColumn(x) * factor);
    dab.row = onRaster(level.toRow(z) * factor);
    dab.radius = static_cast<float>(radiusMetres * factor / level.spacing);
    dab.falloff = falloff;
    dab.factor = factor;
    dab.shape = tip.shape == TipShape::picture && !tip.picture ? TipShape::round : tip.shape;
    dab.picture = tip.picture.get();
    dab.turn = turn;
    dab.region = dabBox(dab).clipped(factor == 1 ? level.bounds() : level.coverBounds());
    if (dab.region.empty()) dab.region = {};
    return dab;
}

Dab dabOn(const Level& level, double x, double z, float radiusMetres, const Falloff& falloff, int factor) {
    return dabOn(level, x, z, radiusMetres, falloff, factor, Tip{}, 0);
}

Dab mirrored(const Level& level, const Dab& dab, const Symmetry& image) {
    Dab other = dab;
    other.column = image.column(dab.column, dab.row);
    other.row = image.row(dab.column, dab.row);
    other.image = image;
    other.region = dabBox(other).clipped(dab.factor == 1 ? level.bounds() : level.coverBounds());
    if (other.region.empty()) other.region = {};
    return other;
}

Dab framed(const Level& level, const Dab& dab, const Symmetry& image) {
    Dab other = dab;
    other.frame = image;
    const Region there = image.region(dabBox(dab)).clipped(dab.factor == 1 ? level.bounds() : level.coverBounds());
    other.region = there.empty() ? Region{} : image.inverse().region(there);
    return other;
}

DabRows::DabRows(const Dab& dab)
    : dab_(dab), fades_(dab.shape == TipShape::round && !dab.shares && fadesWithoutRoot(dab.falloff)) {
    if (!fades_ || dab.region.empty()) return;
    squares_.resize(static_cast<size_t>(dab.region.width()));
    const float perRadius2 = 1 / (dab.radius * dab.radius);
    // Offsets are whole multiples of 1/256 sample, so that adding to them makes no error.
    auto dx = static_cast<float>(dab.region.x0 - dab.column);
    for (float& square : squares_) {
        square = dx * dx * perRadius2;
        dx += 1;
    }
}

float DabRows::rest(int z) const {
    const auto dz = static_cast<float>(z - dab_.row);
    return 1 - dz * dz * (1 / (dab_.radius * dab_.radius));
}

void DabRows::raise(int x0, int z, int n, float metres, float* ground) const {
    rowKernels().raiseFading(ground, squares_.data() + (x0 - dab_.region.x0), n, rest(z), dab_.falloff.curve, metres);
}

void DabRows::mask(int x0, int z, int n, float strength, float* mask) const {
    const Dab& dab = dab_;
    if (dab.shares) {
        const float* row = dab.shares->view().row(z - dab.region.z0) + (x0 - dab.region.x0);
        for (int i = 0; i < n; ++i) mask[i] = strength * row[i];
        return;
    }
    const auto dx = static_cast<float>(x0 - dab.column), dz = static_cast<float>(z - dab.row);
    if (fades_) {
        rowKernels().fade(mask, squares_.data() + (x0 - dab.region.x0), n, rest(z), dab.falloff.curve, strength);
    } else if (dab.shape == TipShape::round) {
        rowKernels().mask(mask, n, dx, dz, dab.radius, dab.falloff, strength);
    } else {
        const float angle = dab.turn * static_cast<float>(kRadians), c = std::cos(angle), s = std::sin(angle),
                    per = 1 / dab.radius;
        for (int i = 0; i < n; ++i) mask[i] = strength * tipShare(dab, dx + static_cast<float>(i), dz, c, s, per);
    }
    if (!dab.fence) return;
    const int f = dab.factor;
    for (int i = 0; i < n; ++i) {
        const int c = static_cast<int>(dab.frame.column(x0 + i, z)), r = static_cast<int>(dab.frame.row(x0 + i, z));
        mask[i] *= static_cast<float>(
                       dab.fence->at(groundUnder(c, f, dab.fence->columns()), groundUnder(r, f, dab.fence->rows()))) /
                   65535.0f;
    }
}

Region dabSpan(const Dab& dab, const Region& within, int z) {
    if (dab.shares || dab.shape == TipShape::square)
        return Region{dab.region.x0, z, dab.region.x1, z + 1}.clipped(within);
    const double dz = z - dab.row, r2 = static_cast<double>(dab.radius) * dab.radius;
    if (dz * dz >= r2) return {};
    const double half = std::sqrt(r2 - dz * dz);
    Region span = Region{below(dab.column - half), z, below(dab.column + half) + 2, z + 1}.clipped(within);
    if (span.empty()) return {};
    // Whole vectors where there is room for them: the odd samples at a row's end cost more than a few whose mask is 0.
    constexpr int kLanes = 8;
    const int wanted = std::min((span.width() + kLanes - 1) / kLanes * kLanes, within.width());
    span.x0 = std::max(std::min(span.x0, within.x1 - wanted), within.x0);
    span.x1 = span.x0 + wanted;
    return span;
}

}  // namespace jam
