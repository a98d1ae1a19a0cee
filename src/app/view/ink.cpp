#include "view/ink.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <numeric>
#include <QImage>
#include <QPainter>

namespace jam {

// How much of a dashed line is there, so many pixels along it.
struct Ink::Dashes {
    explicit Dashes(const QList<qreal>& lengths)
        : lengths_(lengths), period_(std::accumulate(lengths.begin(), lengths.end(), 0.0)) {}

    double at(double along) const {
        if (period_ <= 0) return 1;
        double left = std::fmod(along, period_);
        for (qsizetype i = 0; i < lengths_.size(); ++i) {
            if (left >= lengths_[i]) {
                left -= lengths_[i];
                continue;
            }
            // Soft over one pixel at either end.
            const double inside = std::min({left, lengths_[i] - left, 0.5});
            return i % 2 ? 0.5 - inside : 0.5 + inside;
        }
        return 0;
    }

private:
    const QList<qreal>& lengths_;
    double period_;
};

Ink::Ink(const QRect& where)
    : where_(where), across_((where.width() + kSide - 1) / kSide),
      tiles_(static_cast<size_t>(across_) * static_cast<size_t>((where.height() + kSide - 1) / kSide)) {}

void Ink::line(const QPolygonF& along, const InkPen& pen) {
    const Dashes dashes(pen.dashes);
    double from = 0;
    for (qsizetype i = 0; i + 1 < along.size(); ++i) {
        leg(along[i], along[i + 1], from, pen, dashes);
        from += std::hypot(along[i + 1].x() - along[i].x(), along[i + 1].y() - along[i].y());
    }
}

void Ink::touch(int x, int y, double line, double rim) {
    const int left = x - where_.left(), up = y - where_.top();
    std::unique_ptr<Tile>& tile = tiles_[static_cast<size_t>(up / kSide * across_ + left / kSide)];
    if (!tile) tile = std::make_unique<Tile>();
    const int row = up % kSide, at = row * kSide + left % kSide;
    tile->top = std::min(tile->top, row);
    tile->bottom = std::max(tile->bottom, row);
    const auto most = [](uint8_t& byte, double share) {
        byte = std::max(byte, static_cast<uint8_t>(255 * share + 0.5));
    };
    most(tile->line[at], line);
    most(tile->rim[at], rim);
}

void Ink::leg(const QPointF& a, const QPointF& b, double from, const InkPen& pen, const Dashes& dashes) {
    const double dx = b.x() - a.x(), dy = b.y() - a.y(), length = std::hypot(dx, dy);
    if (!(length > 1e-6)) return;
    const double ux = dx / length, uy = dy / length, reach = pen.wide / 2 + pen.rim + 0.5;
    // Along the axis that it mostly runs along: across the other it is at most so wide.
    const bool flat = std::abs(ux) >= std::abs(uy);
    const double slope = flat ? uy / ux : ux / uy, half = reach * std::hypot(1, slope) + reach;
    const double first = flat ? a.x() : a.y(), second = flat ? b.x() : b.y();
    const double begin = std::min(first, second), end = std::max(first, second);
    const int low = flat ? where_.left() : where_.top(), high = flat ? where_.right() : where_.bottom();
    const int lowAcross = flat ? where_.top() : where_.left(), highAcross = flat ? where_.bottom() : where_.right();
    const auto whole = [](double v, int least, int most) {
        return static_cast<int>(std::floor(std::clamp<double>(v, least, most)));
    };
    for (int i = whole(begin - reach, low, high + 1); i <= whole(end + reach, low - 1, high); ++i) {
        const double middle = flat ? a.y() + (i + 0.5 - a.x()) * slope : a.x() + (i + 0.5 - a.y()) * slope;
        const int last = whole(middle + half, lowAcross - 1, highAcross);
        for (int k = whole(middle - half, lowAcross, highAcross + 1); k <= last; ++k) {
            const int x = flat ? i : k, y = flat ? k : i;
            const double px = x + 0.5 - a.x(), py = y + 0.5 - a.y();
            const double t = std::clamp(px * ux + py * uy, 0.0, length);
            const double inside = pen.wide / 2 + 0.5 -
                                  std::sqrt((px - t * ux) * (px - t * ux) + (py - t * uy) * (py - t * uy));
            if (inside + pen.rim <= 0) continue;
            const double there = dashes.at(from + t);
            touch(x, y, there * std::clamp(inside, 0.0, 1.0), there * std::min(inside + pen.rim, 1.0));
        }
    }
}

void Ink::lay(QPainter& p, const QColor& line, const QColor& rim, double ratio) const {
    struct Tone {
        uint32_t red, green, blue, alpha;
        explicit Tone(const QColor& c)
            : red(static_cast<uint32_t>(c.red())), green(static_cast<uint32_t>(c.green())),
              blue(static_cast<uint32_t>(c.blue())), alpha(static_cast<uint32_t>(c.alpha())) {}
    };
    const Tone above(line), below(rim);
    QImage picture(kSide, kSide, QImage::Format_ARGB32_Premultiplied);
    picture.setDevicePixelRatio(ratio);
    for (size_t i = 0; i < tiles_.size(); ++i) {
        if (!tiles_[i]) continue;
        const Tile& tile = *tiles_[i];
        // A line crosses few pixels of a tile: the rest is passed over, several at once.
        constexpr int kAtOnce = 8;
        for (int y = tile.top; y <= tile.bottom; ++y) {
            auto* out = reinterpret_cast<uint32_t*>(picture.scanLine(y));
            for (int x = 0; x < kSide; x += kAtOnce) {
                const uint8_t *lines = tile.line + y * kSide + x, *rims = tile.rim + y * kSide + x;
                uint64_t some, more;
                std::memcpy(&some, lines, kAtOnce);
                std::memcpy(&more, rims, kAtOnce);
                if ((some | more) == 0) {
                    std::fill_n(out + x, kAtOnce, 0u);
                    continue;
                }
                for (int k = 0; k < kAtOnce; ++k) {
                    // Shares of 255 * 255, of the rim what the line leaves.
                    const uint32_t a = above.alpha * lines[k];
                    const uint32_t b = (255 * 255 - a) / 255 * (below.alpha * rims[k] / 255);
                    const auto mixed = [&](uint32_t over, uint32_t under) {
                        return (over * a + under * b) / (255 * 255);
                    };
                    out[x + k] = (a + b) / 255 << 24 | mixed(above.red, below.red) << 16 |
                                 mixed(above.green, below.green) << 8 | mixed(above.blue, below.blue);
                }
            }
        }
        const int column = static_cast<int>(i) % across_, row = static_cast<int>(i) / across_;
        p.drawImage(QPointF(where_.left() + column * kSide, where_.top() + row * kSide + tile.top) / ratio, picture,
                    QRectF(0, tile.top, kSide, tile.bottom + 1 - tile.top));
    }
}

}  // namespace jam
