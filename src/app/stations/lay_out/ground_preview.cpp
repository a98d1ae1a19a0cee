#include "stations/lay_out/ground_preview.h"

#include <algorithm>
#include <cmath>
#include <QPainter>

#include "looks/theme.h"

namespace jam {

QImage shadedRelief(View<const float> h, double metresAcross, double metresPer, QSize most) {
    const double shrink =
        std::max({1.0, static_cast<double>(h.width) / most.width(), static_cast<double>(h.depth) / most.height()});
    const int w = std::max(static_cast<int>(h.width / shrink), 2), d = std::max(static_cast<int>(h.depth / shrink), 2);
    // Means of the samples below a pixel, or fine ripples would shimmer.
    Raster<float> small(w, d);
    for (int z = 0; z < d; ++z)
        for (int x = 0; x < w; ++x) {
            const int x0 = x * h.width / w, x1 = std::max((x + 1) * h.width / w, x0 + 1), z0 = z * h.depth / d,
                      z1 = std::max((z + 1) * h.depth / d, z0 + 1);
            double sum = 0;
            for (int k = z0; k < z1; ++k)
                for (int i = x0; i < x1; ++i) sum += h.at(i, k);
            small.at(x, z) = static_cast<float>(sum / ((x1 - x0) * static_cast<double>(z1 - z0)) * metresPer);
        }
    float low = small.at(0, 0), high = low;
    for (int z = 0; z < d; ++z)
        for (int x = 0; x < w; ++x) low = std::min(low, small.at(x, z)), high = std::max(high, small.at(x, z));
    // Ground that is very steep for its size is shown flatter, or it would be all shadow.
    double square = 0;
    for (int z = 0; z + 1 < d; ++z)
        for (int x = 0; x + 1 < w; ++x)
            square += std::pow(small.at(x + 1, z) - small.at(x, z), 2) +
                      std::pow(small.at(x, z + 1) - small.at(x, z), 2);
    const double steep = std::sqrt(square / (static_cast<double>(w) * d)) * w / metresAcross;
    const double per = std::min(1.0, 0.45 / std::max(steep, 1e-9)) / (2 * metresAcross / w);
    QImage image(w, d, QImage::Format_RGB32);
    for (int z = 0; z < d; ++z)
        for (int x = 0; x < w; ++x) {
            const auto at = [&](int i, int k) {
                return static_cast<double>(small.at(std::clamp(i, 0, w - 1), std::clamp(k, 0, d - 1)));
            };
            const double east = (at(x + 1, z) - at(x - 1, z)) * per, south = (at(x, z + 1) - at(x, z - 1)) * per;
            const double light = std::clamp((0.66 + 0.75 * (east + south)) / std::sqrt(1 + east * east + south * south),
                                            0.05, 1.3);
            const double t = high > low ? (small.at(x, z) - low) / (high - low) : 0.5;
            // From moss to straw to chalk with height.
            const double r = (96 + 118 * t) * light, g = (112 + 92 * t) * light, b = (70 + 110 * t * t) * light;
            image.setPixel(x, z,
                           qRgb(std::min(255, static_cast<int>(r)), std::min(255, static_cast<int>(g)),
                                std::min(255, static_cast<int>(b))));
        }
    return image;
}

GroundPreview::GroundPreview(QSize size, QWidget* parent) : QWidget(parent) { setFixedSize(size); }

void GroundPreview::setPicture(const QImage& picture) {
    picture_ = picture;
    update();
}

void GroundPreview::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.fillRect(rect(), theme().back);
    if (picture_.isNull()) return;
    const QSize fit = picture_.size().scaled(size(), Qt::KeepAspectRatio);
    p.drawImage(QRect(QPoint((width() - fit.width()) / 2, (height() - fit.height()) / 2), fit), picture_);
}

}  // namespace jam
