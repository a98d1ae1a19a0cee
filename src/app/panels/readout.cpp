#include "panels/readout.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <QPainter>

#include "cover/lay.h"
#include "cover/weights.h"
#include "layer_art.h"
#include "level/ground.h"
#include "survey/slope.h"
#include "theme.h"

namespace jam {

namespace {

// The mean of a layer's picture, as it is shown; grey until the survey has met it, because decoding would stop the
// hand.
QColor layerColour(const Layer& layer) {
    const std::optional<glm::vec3> mean = knownMeanColour(layer);
    if (!mean) return Qt::gray;
    const auto c = tintOf(layer.look);
    const auto shown = [&](int i) { return std::min(std::sqrt((*mean)[i] * c[static_cast<size_t>(i)]) * 1.15f, 1.f); };
    return QColor::fromRgbF(shown(0), shown(1), shown(2));
}

}  // namespace

Readout::Readout(Workplace& place, QWidget* parent) : QWidget(parent), place_(place) {
    setFixedHeight(scaled(36) + 6);
    connect(&place.standpoint, &Standpoint::cursorMoved, this, &Readout::read);
    connect(&place.document, &Document::seen, this, &Readout::read);
    connect(&place.document, &Document::layersChanged, this, &Readout::read);

    connect(&place.document, &Document::strataChanged, this, &Readout::read);
    read();
}

void Readout::read() {
    const Level& level = place_.document.level();
    const auto& at = place_.standpoint.seen();
    const QString where = place_.standpoint.cursor() ? QString() : tr("Middle: ");
    numbers_ = tr("No ground is in sight here.");
    short_.clear();
    layers_.clear();
    bar_.clear();
    if (at && level.holds(at->x, at->z)) {
        numbers_ = where + tr("x %1   z %2   altitude %3 m   slope %4°")
                               .arg(at->x, 0, 'f', 1)
                               .arg(at->z, 0, 'f', 1)
                               .arg(altitudeAt(level, at->x, at->z), 0, 'f', 2)
                               .arg(slopeAt(level, at->x, at->z), 0, 'f', 1);
        short_ = where + tr("x %1  z %2  %3 m  %4°")
                             .arg(at->x, 0, 'f', 1)
                             .arg(at->z, 0, 'f', 1)
                             .arg(altitudeAt(level, at->x, at->z), 0, 'f', 2)
                             .arg(slopeAt(level, at->x, at->z), 0, 'f', 1);
        const auto mix = mixAt(level, at->x, at->z);
        std::array<size_t, kMaxLayers> order;
        std::iota(order.begin(), order.end(), 0);
        std::sort(order.begin(), order.end(), [&](size_t a, size_t b) { return mix[a] > mix[b]; });
        const double across = width() - 8;
        double x = 0;
        bar_.clear();
        for (size_t k = 0; k < level.layers.size(); ++k) {
            const double wide = mix[order[k]] * across;
            if (wide < 0.5) continue;
            bar_.push_back({x, wide, layerColour(level.layers[order[k]])});
            x += wide;
        }
        QStringList parts;
        for (size_t k = 0; k < 3 && k < level.layers.size() && mix[order[k]] >= 0.005f; ++k)
            parts << tr("%1 %2 %")
                         .arg(QString::fromStdString(level.layers[order[k]].name))
                         .arg(std::lround(mix[order[k]] * 100));
        if (const Stratum* s = const_cast<Level&>(level).stratum(level.activeStratum))
            parts << tr("stratum %1").arg(QString::fromStdString(s->name));
        layers_ = parts.join("   ");
    }
    update();
}

void Readout::paintEvent(QPaintEvent*) {
    QPainter p(this);
    QFont f = p.font();
    f.setPixelSize(scaled(12));
    p.setFont(f);
    p.setPen(theme().text);
    const bool room = short_.isEmpty() || p.fontMetrics().horizontalAdvance(numbers_) <= width() - 4;
    p.drawText(QRect(4, 0, width() - 4, scaled(18)), Qt::AlignVCenter,
               p.fontMetrics().elidedText(room ? numbers_ : short_, Qt::ElideRight, width() - 4));
    for (const Part& part : bar_) p.fillRect(QRectF(4 + part.x, scaled(34), part.width, 6), part.colour);
    p.setPen(theme().quiet);
    p.drawText(QRect(4, scaled(16), width() - 4, scaled(17)), Qt::AlignVCenter,
               p.fontMetrics().elidedText(layers_, Qt::ElideRight, width() - 4));
}

}  // namespace jam
