#include "stations/cover/material_view.h"

#include <algorithm>
#include <cmath>
#include <glm/geometric.hpp>
#include <QPainter>
#include <QPainterPath>

#include "cover/lay.h"
#include "looks/layer_art.h"
#include "looks/theme.h"
#include "render/light.h"

namespace jam {

namespace {

constexpr int kSide = 108;

// One lit pixel: normal of the surface with the relief leant into it, in the picture's own axes (x right, y up, z to
// the eye).
QRgb litPixel(const Material& m, const Layer& layer, const glm::vec3& normal, double u, double v, double metresX,
              double metresZ) {
    static const LightLook light = lightLook({300, 38}, false);
    const Laid laid = laidAt(m, layer, metresX, metresZ, 0);
    const auto colour = shownColour(layer.look, laid, 0);
    const int x = static_cast<int>((u - std::floor(u)) * m.size) % m.size,
              y = static_cast<int>((v - std::floor(v)) * m.size) % m.size;
    const uint8_t* r = &m.reliefRough[static_cast<size_t>((y * m.size + x) * 4)];
    const glm::vec3 leant =
        glm::normalize(normal + layer.look.relief * glm::vec3(r[0] / 127.5f - 1, r[1] / 127.5f - 1, 0));
    // The eye looks down on a ball that lies in the light: picture up is north.
    const glm::vec3 n(leant.x, leant.z, -leant.y);
    const float rough = r[2] / 255.0f, open = r[3] / 255.0f;
    const float specular = m.shine.empty() ? 0.5f : m.shine[static_cast<size_t>((y * m.size + x) * 2)] / 255.0f;
    const float metal = m.shine.empty() ? 0.f : m.shine[static_cast<size_t>((y * m.size + x) * 2 + 1)] / 255.0f;
    const glm::vec3 albedo(colour[0], colour[1], colour[2]);
    glm::vec3 lit = litColour(light, albedo * (1 - metal), n, 1, open);
    const glm::vec3 between = glm::normalize(light.towards + glm::vec3(0, 1, 0));
    const float gloss = 2 / (std::pow(rough, 4.f) + 0.02f);
    const glm::vec3 mirrored = glm::vec3(0.5f * specular) * (1 - metal) + albedo * metal;
    lit += light.sun * mirrored *
           ((1 - rough) * std::pow(std::max(glm::dot(n, between), 0.f), gloss) *
            std::max(glm::dot(n, light.towards), 0.f));
    lit += mirrored * light.sky * (metal * open);
    return qRgb(finished(lit.x), finished(lit.y), finished(lit.z));
}

}  // namespace

QImage drawBall(const Material& m, const Layer& layer, int side) {
    QImage image(side, side, QImage::Format_ARGB32_Premultiplied);
    image.fill(Qt::transparent);
    const float half = static_cast<float>(side) / 2;
    for (int y = 0; y < side; ++y)
        for (int x = 0; x < side; ++x) {
            const float nx = (static_cast<float>(x) + 0.5f) / half - 1, ny = 1 - (static_cast<float>(y) + 0.5f) / half,
                        d = nx * nx + ny * ny;
            if (d >= 1) continue;
            const glm::vec3 n(nx, ny, std::sqrt(1 - d));
            const double u = std::atan2(n.x, n.z) / 1.5708, v = -std::asin(std::clamp(n.y, -1.f, 1.f)) / 1.5708;
            image.setPixel(x, y, litPixel(m, layer, n, u, v, u * layer.tileSize, v * layer.tileSize));
        }
    return image;
}

QImage drawTile(const Material& m, const Layer& layer, int side, double repeats) {
    QImage image(side, side, QImage::Format_RGB32);
    for (int y = 0; y < side; ++y)
        for (int x = 0; x < side; ++x) {
            const double px = (x + 0.5) / side * repeats * layer.tileSize,
                         pz = (y + 0.5) / side * repeats * layer.tileSize;
            const Place p = placeOn(layer, px, pz);
            image.setPixel(x, y, litPixel(m, layer, {0, 0, 1}, p.u, p.v, px, pz));
        }
    return image;
}

MaterialView::MaterialView(QWidget* parent) : QWidget(parent) {
    setFixedHeight(kSide);
    setToolTip(tr("The layer on a ball, and one and a half repeats of it as it lies on the ground."));
}

void MaterialView::setLayer(const Layer& layer) {
    Layer next = layer;
    next.coverage = next.base = next.held = {};
    if (next == layer_ && !ball_.isNull()) return;
    layer_ = std::move(next);
    const auto m = materialOf(layer_);
    ball_ = tile_ = {};
    if (m) {
        const int side = static_cast<int>(kSide * devicePixelRatioF());
        ball_ = drawBall(*m, layer_, side);
        tile_ = drawTile(*m, layer_, side, 1.5);
        for (QImage* i : {&ball_, &tile_}) i->setDevicePixelRatio(devicePixelRatioF());
    }
    update();
}

void MaterialView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const int gap = (width() - 2 * kSide) / 3;
    if (ball_.isNull()) {
        p.setPen(theme().quiet);
        p.drawText(rect(), Qt::AlignCenter | Qt::TextWordWrap, tr("A picture of this layer cannot be read."));
        return;
    }
    p.drawImage(QPoint(gap, 0), ball_);
    QPainterPath round;
    round.addRoundedRect(QRectF(2 * gap + kSide, 0, kSide, kSide), 7, 7);
    p.setClipPath(round);
    p.drawImage(QPoint(2 * gap + kSide, 0), tile_);
}

}  // namespace jam
