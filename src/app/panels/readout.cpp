#include "panels/readout.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <QPainter>

#include "cover/lay.h"
#include "cover/weights.h"
#include "level/ground.h"
#include "looks/layer_art.h"
#include "looks/theme.h"
#include "survey/slope.h"
#include "water/water.h"

namespace jam {

namespace {

constexpr int kLine = 16;  // pixels from one line to the next

// The mean of a layer's picture, as it is shown; grey until the survey has met it, because decoding would stop the
// hand.
QColor layerColour(const Layer& layer) {
    const std::optional<glm::vec3> mean = knownMeanColour(layer);
    if (!mean) return Qt::gray;
    const auto c = tintOf(layer.look);
    const auto shown = [&](int i) { return std::min(std::sqrt((*mean)[i] * c[static_cast<size_t>(i)]) * 1.15f, 1.f); };
    return QColor::fromRgbF(shown(0), shown(1), shown(2));
}

// What each stratum adds at a place, the one that owns the height first: the topmost course that holds most of it, or
// else the one that adds most.
QStringList strataAt(const Level& level, double x, double z) {
    const auto [c, r] = nearestSample(level, x, z);
    if (level.strata.size() == 1) return {};
    const std::vector<float> parts = groundParts(level, c, r);
    std::vector<size_t> order;
    size_t owner = 0;
    bool course = false;
    for (size_t i = 0; i < parts.size(); ++i) {
        const Stratum& s = level.strata[i];
        if (!s.visible) continue;
        if (s.mixes() && s.opacity * s.owned.at(c, r) > 0.5f) owner = i, course = true;
        else if (!course && std::abs(parts[i]) > std::abs(parts[owner])) owner = i;
        if (std::abs(parts[i]) >= 0.005f) order.push_back(i);
    }
    std::sort(order.begin(), order.end(), [&](size_t a, size_t b) {
        return a == owner || (b != owner && std::abs(parts[a]) > std::abs(parts[b]));
    });
    QStringList words;
    for (const size_t i : order)
        words << Readout::tr("%1 %2%3 m")
                     .arg(QString::fromStdString(level.strata[i].name), parts[i] < 0 ? "−" : "+")
                     .arg(std::abs(parts[i]), 0, 'f', 2);
    return words;
}

}  // namespace

Readout::Readout(Workplace& place, QWidget* parent) : QWidget(parent), place_(place) {
    connect(&place.standpoint, &Standpoint::cursorMoved, this, &Readout::read);
    place.document.on(About::samples | About::layers | About::strata | About::waters, this, &Readout::read);
    read();
}

void Readout::read() {
    const Level& level = place_.document.level();
    const auto& at = place_.standpoint.seen();
    const QString where = place_.standpoint.cursor() ? QString() : tr("Middle: ");
    numbers_ = tr("No ground is in sight here.");
    short_.clear();
    layers_.clear();
    strata_.clear();
    // A line more where there are strata to tell apart.
    const int lines = level.strata.size() > 1 ? 3 : 2;
    if (lines != lines_) {
        lines_ = lines;
        setFixedHeight(scaled(kLine * lines + 4) + 6);
    }
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
        if (const double depth = depthAt(level, at->x, at->z); depth > 0) {
            numbers_ += tr("   water %1 m").arg(depth, 0, 'f', 2);
            short_ += tr("  water %1 m").arg(depth, 0, 'f', 2);
        }
        const auto mix = mixAt(level, at->x, at->z);
        std::array<size_t, kMaxLayers> order;
        std::iota(order.begin(), order.end(), 0);
        std::sort(order.begin(), order.end(), [&](size_t a, size_t b) { return mix[a] > mix[b]; });
        double x = 0;
        bar_.clear();
        for (size_t k = 0; k < level.layers.size(); ++k) {
            const double wide = mix[order[k]];
            if (wide < 0.002) continue;
            bar_.push_back({x, wide, layerColour(level.layers[order[k]])});
            x += wide;
        }
        QStringList parts;
        for (size_t k = 0; k < 3 && k < level.layers.size() && mix[order[k]] >= 0.005f; ++k)
            parts << tr("%1 %2 %")
                         .arg(QString::fromStdString(level.layers[order[k]].name))
                         .arg(std::lround(mix[order[k]] * 100));
        strata_ = strataAt(level, at->x, at->z).join("   ");
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
    const double across = width() - 8;
    for (const Part& part : bar_)
        p.fillRect(QRectF(4 + part.x * across, height() - 8, part.width * across, 6), part.colour);
    p.setPen(theme().quiet);
    p.drawText(QRect(4, scaled(kLine), width() - 4, scaled(17)), Qt::AlignVCenter,
               p.fontMetrics().elidedText(layers_, Qt::ElideRight, width() - 4));
    p.drawText(QRect(4, scaled(2 * kLine), width() - 4, scaled(17)), Qt::AlignVCenter,
               p.fontMetrics().elidedText(strata_, Qt::ElideRight, width() - 4));
}

}  // namespace jam
