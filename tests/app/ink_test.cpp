// Lines with a rim over a picture, against distances to every leg worked out at every pixel.
#include <catch2/catch.hpp>
#include <cmath>
#include <QImage>
#include <QPainter>
#include <QPainterPath>

#include "levels.h"
#include "view/ink.h"
#include "view/over_ground.h"

using namespace jam;
using namespace jam::test;

namespace {

constexpr int kWidth = 210, kHeight = 140;

// Shares of a pixel that the line and its rim cover, and how far along the line its nearest place is.
struct Cover {
    double line = 0, rim = 0;
};
Cover coverAt(const QPolygonF& along, const InkPen& pen, double px, double py) {
    Cover best;
    double from = 0;
    for (int i = 0; i + 1 < along.size(); ++i) {
        const QPointF d = along[i + 1] - along[i];
        const double length = std::hypot(d.x(), d.y());
        if (length < 1e-6) continue;
        const double t = std::clamp(((px - along[i].x()) * d.x() + (py - along[i].y()) * d.y()) / (length * length),
                                    0.0, 1.0);
        const double away = std::hypot(px - along[i].x() - t * d.x(), py - along[i].y() - t * d.y());
        double there = 1;
        if (!pen.dashes.isEmpty()) {
            // Softened over a pixel: the mean of what is drawn around there.
            const double period = pen.dashes[0] + pen.dashes[1], at = std::fmod(from + t * length, period);
            const double edge = at < pen.dashes[0] ? std::min({at, pen.dashes[0] - at, 0.5}) + 0.5
                                                   : 0.5 - std::min({at - pen.dashes[0], period - at, 0.5});
            there = edge;
        }
        best.line = std::max(best.line, there * std::clamp(pen.wide / 2 + 0.5 - away, 0.0, 1.0));
        best.rim = std::max(best.rim, there * std::clamp(pen.wide / 2 + pen.rim + 0.5 - away, 0.0, 1.0));
        from += length;
    }
    return best;
}

double over(double under, const QColor& c, double share, int channel) {
    const double a = share * c.alphaF(), own[] = {c.redF(), c.greenF(), c.blueF()};
    return under * (1 - a) + 255 * own[channel] * a;
}

}  // namespace

TEST_CASE("ink covers every pixel as far as it is from the line", "[property]") {
    Random random(4);
    const QColor line(255, 170, 90), rim(20, 16, 14, 130);
    for (int round = 0; round < 40; ++round) {
        QImage picture(kWidth, kHeight, QImage::Format_RGB32);
        picture.fill(QColor(70, 110, 60));
        // Lopsided, across tiles, beyond all edges, with legs that have no length.
        QPolygonF along;
        const int places = wholeBetween(random, 2, 9);
        for (int i = 0; i < places; ++i) {
            along << QPointF(0.1 * wholeBetween(random, -600, 10 * kWidth + 600),
                             0.1 * wholeBetween(random, -600, 10 * kHeight + 600));
            if (i % 4 == 3) along << along.back();
        }
        InkPen pen;
        pen.wide = 0.1 * wholeBetween(random, 8, 50);
        pen.rim = 0.1 * wholeBetween(random, 0, 20);
        if (round % 2) pen.dashes = {4 * pen.wide, 2 * pen.wide};
        const QRect where(wholeBetween(random, 0, 20), wholeBetween(random, 0, 20), wholeBetween(random, 70, 180),
                          wholeBetween(random, 30, 110));
        Ink ink(where);
        ink.line(along, pen);
        QPainter p(&picture);
        ink.lay(p, line, rim, 1);
        p.end();
        for (int y = 0; y < kHeight; ++y)
            for (int x = 0; x < kWidth; ++x) {
                const Cover c = where.contains(x, y) ? coverAt(along, pen, x + 0.5, y + 0.5) : Cover{};
                const QColor got = picture.pixelColor(x, y);
                const int shown[] = {got.red(), got.green(), got.blue()}, under[] = {70, 110, 60};
                for (int k = 0; k < 3; ++k) {
                    INFO(round << ": " << x << " " << y << " channel " << k << " line " << c.line << " rim " << c.rim
                               << " shown " << shown[k]);
                    REQUIRE(std::abs(shown[k] - over(over(under[k], rim, c.rim, k), line, c.line, k)) < 4);
                }
            }
    }
}

TEST_CASE("a line lies where its path does, whatever the painter's scale and the picture's density") {
    for (const double ratio : {1.0, 2.0})
        for (const double unit : {1.0, ratio}) {
            QImage picture(QSize(60, 40) * ratio, QImage::Format_RGB32);
            picture.setDevicePixelRatio(ratio);
            picture.fill(Qt::black);
            QPainter p(&picture);
            p.scale(1 / unit, 1 / unit);
            QPainterPath path(QPointF(10, 8) * unit);
            path.lineTo(QPointF(10, 30) * unit);
            strokeTwice(p, path, 2, unit, Qt::white, Qt::SolidLine);
            p.end();
            // Two units wide about x = 10, from 8 to 30 and its round ends.
            for (int y = 0; y < picture.height(); ++y)
                for (int x = 0; x < picture.width(); ++x) {
                    const double ux = (x + 0.5) / ratio, uy = (y + 0.5) / ratio;
                    const double away = std::hypot(ux - 10, uy - std::clamp(uy, 8.0, 30.0));
                    INFO(ratio << " " << unit << " at " << ux << " " << uy);
                    if (away < 1 - 0.49 / ratio) REQUIRE(picture.pixelColor(x, y).red() > 200);
                    if (away > 1.8 + 0.5 / ratio) REQUIRE(picture.pixelColor(x, y).red() == 0);
                }
        }
}
