#include "render/software/refiner.h"

#include <algorithm>
#include <cmath>

namespace jam {

void Refiner::resize(int width, int height) {
    width_ = width, height_ = height;
    across_ = (width + kCellShift + kCellWidth - 1) / kCellWidth, down_ = (height + kCellHeight - 1) / kCellHeight;
    cells_.assign(static_cast<size_t>(across_ * down_), {});
    learnt_ = false;
    waiting_ = 0;
    wait({0, 0, width, height});
}

void Refiner::forget() {
    for (Cell& c : cells_) c.known = false;
    learnt_ = false;
}

Refiner::Cells Refiner::cellsOf(const PixelRect& p) const {
    if (p.empty()) return {0, 0, 0, 0};
    return {std::clamp((p.x + kCellShift) / kCellWidth, 0, across_), std::clamp(p.y / kCellHeight, 0, down_),
            std::clamp((p.x + p.width + kCellShift + kCellWidth - 1) / kCellWidth, 0, across_),
            std::clamp((p.y + p.height + kCellHeight - 1) / kCellHeight, 0, down_)};
}

PixelRect Refiner::pixelsOf(const Cells& c) const {
    const int x0 = std::max(c.x0 * kCellWidth - kCellShift, 0), x1 = std::min(c.x1 * kCellWidth - kCellShift, width_);
    return {x0, c.y0 * kCellHeight, x1 - x0, std::min(c.y1 * kCellHeight, height_) - c.y0 * kCellHeight};
}

void Refiner::wait(const PixelRect& part) {
    const Cells c = cellsOf(part);
    for (int y = c.y0; y < c.y1; ++y)
        for (int x = c.x0; x < c.x1; ++x) {
            waiting_ += !at(x, y).waits;
            at(x, y).waits = true;
        }
}

void Refiner::waitWhere(const std::function<bool(const PixelRect&)>& so) {
    for (int y = 0; y < down_; ++y)
        for (int x = 0; x < across_; ++x)
            if (const PixelRect cell = pixelsOf({x, y, x + 1, y + 1}); !cell.empty() && so(cell)) wait(cell);
}

// What is known of a cell, or of the dearest beside it; otherwise a little more than what was typical.
double Refiner::likely(int x, int y) const {
    if (at(x, y).known) return at(x, y).ms;
    double dearest = -1;
    for (int v = std::max(y - 1, 0); v <= std::min(y + 1, down_ - 1); ++v)
        for (int u = std::max(x - 1, 0); u <= std::min(x + 1, across_ - 1); ++u)
            if (at(u, v).known) dearest = std::max<double>(dearest, at(u, v).ms);
    return dearest >= 0 ? dearest : 1.5 * typical_;
}

double Refiner::likely(const PixelRect& piece) const {
    const Cells c = cellsOf(piece);
    double ms = kPieceMs;
    for (int y = c.y0; y < c.y1; ++y)
        for (int x = c.x0; x < c.x1; ++x) ms += likely(x, y);
    return ms;
}

std::optional<PixelRect> Refiner::next(double px, double py, const PixelRect& but) const {
    const Cells spared = cellsOf(but);
    double least = 1e30;
    Cells piece{};
    for (int y = 0; y < down_; ++y)
        for (int x = 0; x < across_; ++x) {
            if (!at(x, y).waits || spared.hold(x, y)) continue;
            const double away = std::hypot((x + 0.5) * kCellWidth - kCellShift - px, (y + 0.5) * kCellHeight - py);
            if (away < least) least = away, piece = {x, y, x + 1, y + 1};
        }
    if (least == 1e30) return std::nullopt;
    // The piece grows, towards a square, while there is time and most of what is added waits as well.
    double ms = kPieceMs + likely(piece.x0, piece.y0);
    const double budget = kBudgetMs / std::max(late_, 1.0);
    const int mostAcross = learnt_ ? kMostPixels / kCellWidth : 1,
              mostDown = (learnt_ ? kMostPixels : kFirstPixels) / kCellHeight;
    const auto grow = [&](bool along, int by) {
        Cells c = piece;
        (along ? by > 0 ? c.x1 : c.x0 : by > 0 ? c.y1 : c.y0) += by;
        if (c.x0 < 0 || c.y0 < 0 || c.x1 > across_ || c.y1 > down_ || c.x1 - c.x0 > mostAcross ||
            c.y1 - c.y0 > mostDown)
            return false;
        int waits = 0, count = 0;
        double more = 0;
        for (int y = c.y0; y < c.y1; ++y)
            for (int x = c.x0; x < c.x1; ++x) {
                if (piece.hold(x, y)) continue;
                if (spared.hold(x, y)) return false;
                waits += at(x, y).waits, ++count;
                more += likely(x, y);
            }
        if (2 * waits <= count || ms + more > budget) return false;
        piece = c, ms += more;
        return true;
    };
    for (bool grew = true; grew;) {
        const bool along = (piece.x1 - piece.x0) * kCellWidth < (piece.y1 - piece.y0) * kCellHeight;
        grew = grow(along, 1) | grow(along, -1);
        if (!grew) grew = grow(!along, 1) | grow(!along, -1);
    }
    return pixelsOf(piece);
}

void Refiner::took(const PixelRect& piece, double ms, bool complete) {
    if (!complete && ms <= likely(piece)) return wait(piece);
    if (learnt_) late_ += 0.3 * (std::clamp(ms / std::max(likely(piece), 1e-3), 0.3, 4.0) - late_);
    learnt_ |= complete;
    const Cells c = cellsOf(piece);
    const int count = std::max((c.x1 - c.x0) * (c.y1 - c.y0), 1);
    const double each = std::max(ms - kPieceMs, 0.1 * ms) / count;
    for (int y = c.y0; y < c.y1; ++y)
        for (int x = c.x0; x < c.x1; ++x) {
            waiting_ -= at(x, y).waits;
            at(x, y) = {static_cast<float>(each), true, false};
        }
    if (!complete) wait(piece);
    // Dearer is believed at once, cheaper slowly.
    typical_ += (each > typical_ ? 0.5 : 0.1) * (each - typical_);
}

}  // namespace jam
