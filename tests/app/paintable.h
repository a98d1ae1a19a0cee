// A level with layers to paint, and how far two pictures of it lie apart.
#pragma once

#include <cmath>
#include <QImage>

#include "levels.h"

namespace jam::test {

inline Level paintable(int size = 129) {
    Level level = flatLevel(size, size, 0, 2);
    addLayer(level, plainLayer("Moss", 60, 90, 40));
    addLayer(level, plainLayer("Brick", 190, 60, 40));
    addLayer(level, plainLayer("Snow", 235, 235, 240));
    return level;
}

// Mean difference of two pictures around a pixel, in steps of 0..255.
inline double differenceNear(const QImage& a, const QImage& b, const QPoint& at, int reach) {
    double sum = 0;
    int n = 0;
    for (int y = at.y() - reach; y <= at.y() + reach; ++y)
        for (int x = at.x() - reach; x <= at.x() + reach; ++x) {
            if (!a.rect().contains(x, y)) continue;
            const QRgb p = a.pixel(x, y), q = b.pixel(x, y);
            sum += std::abs(qRed(p) - qRed(q)) + std::abs(qGreen(p) - qGreen(q)) + std::abs(qBlue(p) - qBlue(q));
            n += 3;
        }
    return n ? sum / n : 0;
}

}  // namespace jam::test
