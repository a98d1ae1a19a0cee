// Lines with a dark rim over a picture, so that they show on any ground. How far each pixel near a line is from it is
// worked out, which is many times as fast as filling outlines, dashed ones above all.
#pragma once

#include <memory>
#include <QColor>
#include <QList>
#include <QPolygonF>
#include <QRect>
#include <vector>

class QPainter;

namespace jam {

struct InkPen {
    double wide = 1, rim = 0.8;  // pixels: of the line, and of the rim on either side
    QList<qreal> dashes = {};    // lengths drawn and left out in turn, in pixels; empty for a solid line
};

class Ink {
public:
    // Only pixels inside `where` are inked.
    explicit Ink(const QRect& where);
    // Along a line, in pixels of the picture, whose first pixel's centre is at (0.5, 0.5). Ends are round.
    void line(const QPolygonF& along, const InkPen& pen);
    // Lays what was drawn over a picture whose pixels are so many to the painter's unit.
    void lay(QPainter& p, const QColor& line, const QColor& rim, double ratio) const;

private:
    static constexpr int kSide = 64;
    struct Tile {
        uint8_t line[kSide * kSide] = {}, rim[kSide * kSide] = {};
        int top = kSide, bottom = -1;  // rows that are inked
    };
    struct Dashes;
    void leg(const QPointF& a, const QPointF& b, double from, const InkPen& pen, const Dashes& dashes);
    void touch(int x, int y, double line, double rim);

    QRect where_;
    int across_;
    std::vector<std::unique_ptr<Tile>> tiles_;  // of `where`, only those that are inked
};

}  // namespace jam
