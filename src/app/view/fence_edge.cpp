#include "view/fence_edge.h"

#include <cmath>
#include <glm/geometric.hpp>
#include <QColor>
#include <QPen>

#include "level/ground.h"
#include "survey/pick.h"

namespace jam {

namespace {

// Where between two samples the fence is half, [0, 1].
double crossing(double a, double b) { return std::clamp((0.5 * kInside - a) / (b - a), 0.0, 1.0); }

}  // namespace

bool FenceEdge::follow(const Level& level, bool again) {
    const bool same = fenced_ == level.fenced && fence_.columns() == level.fence.columns() &&
                      fence_.rows() == level.fence.rows() && fence_.sharesAll(level.fence);
    if (same && !(again && fenced_)) return false;
    fenced_ = level.fenced;
    fence_ = level.fence;
    hidden_.clear();
    pieces_.clear();
    if (!fenced_) return true;
    // Marching squares over every stride-th sample; a coarser look when there would be too many pieces.
    for (int stride = 1; stride <= 64; stride *= 2) {
        pieces_.clear();
        const auto value = [&](int c, int r) -> double {
            return fence_.at(std::min(c, level.columns - 1), std::min(r, level.rows - 1));
        };
        const auto place = [&](double c, double r) {
            const double x = level.originX + c * level.spacing, z = level.originZ + r * level.spacing;
            return glm::dvec3(x, altitudeAt(level, x, z), z);
        };
        const auto tileEmpty = [&](int c, int r) {
            return !fence_.tile(c / Fence::kTile, r / Fence::kTile) &&
                   !fence_.tile(std::min(c + stride, level.columns - 1) / Fence::kTile,
                                std::min(r + stride, level.rows - 1) / Fence::kTile) &&
                   !fence_.tile(std::min(c + stride, level.columns - 1) / Fence::kTile, r / Fence::kTile) &&
                   !fence_.tile(c / Fence::kTile, std::min(r + stride, level.rows - 1) / Fence::kTile);
        };
        for (int r = 0; r < level.rows - 1 && pieces_.size() <= kMostPieces; r += stride)
            for (int c = 0; c < level.columns - 1; c += stride) {
                if (tileEmpty(c, r)) {
                    // To the last cell that lies wholly in this tile.
                    const int next = (c / Fence::kTile + 1) * Fence::kTile - stride;
                    if (next > c) c = std::max(c, next - stride);
                    continue;
                }
                const int e = std::min(c + stride, level.columns - 1), s = std::min(r + stride, level.rows - 1);
                const double nw = value(c, r), ne = value(e, r), se = value(e, s), sw = value(c, s),
                             half = 0.5 * kInside;
                std::vector<glm::dvec3> cuts;
                if ((nw > half) != (ne > half)) cuts.push_back(place(c + (e - c) * crossing(nw, ne), r));
                if ((ne > half) != (se > half)) cuts.push_back(place(e, r + (s - r) * crossing(ne, se)));
                if ((sw > half) != (se > half)) cuts.push_back(place(c + (e - c) * crossing(sw, se), s));
                if ((nw > half) != (sw > half)) cuts.push_back(place(c, r + (s - r) * crossing(nw, sw)));
                for (size_t i = 0; i + 1 < cuts.size(); i += 2)
                    pieces_.push_back({cuts[i], cuts[i + 1], (c / stride + r / stride) % kPhases});
            }
        if (pieces_.size() <= kMostPieces) break;
    }
    return !same;
}

void FenceEdge::hide(const Level& level, const HeightPyramid& pyramid, const Camera& camera) {
    hidden_.assign(pieces_.size(), false);
    for (size_t i = 0; i < pieces_.size(); ++i) {
        const glm::dvec3 middle = (pieces_[i].from + pieces_[i].to) * 0.5;
        const auto at = camera.pixel(middle);
        if (!at) continue;
        const auto seen = pickGround(level, pyramid, camera.ray(at->x - 0.5, at->y - 0.5));
        const double away = glm::distance(camera.at, middle);
        hidden_[i] = seen && glm::distance(camera.at, *seen) < away - std::max(2 * level.spacing, 0.02 * away);
    }
}

void FenceEdge::paint(QPainter& p, const Camera& camera, int step, double unit) const {
    if (pieces_.empty()) return;
    QVector<QLineF> light, dark;
    for (size_t i = 0; i < pieces_.size(); ++i) {
        if (!hidden_.empty() && hidden_[i]) continue;
        const auto a = camera.pixel(pieces_[i].from), b = camera.pixel(pieces_[i].to);
        if (!a || !b) continue;
        const bool bright = (pieces_[i].phase + kPhases - step % kPhases) % kPhases < kPhases / 2;
        (bright ? light : dark).append(QLineF(a->x, a->y, b->x, b->y));
    }
    p.setPen(QPen(QColor(20, 16, 14, 200), 2.2 * unit, Qt::SolidLine, Qt::FlatCap));
    p.drawLines(dark);
    p.setPen(QPen(QColor(250, 246, 238, 235), 2.2 * unit, Qt::SolidLine, Qt::FlatCap));
    p.drawLines(light);
}

}  // namespace jam
