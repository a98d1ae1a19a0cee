#include "watch/level_plan.h"

#include <cmath>
#include <glm/common.hpp>
#include <QPainter>

#include "base/srgb.h"
#include "cover/lay.h"
#include "cover/wash.h"
#include "cover/weights.h"
#include "level/ground.h"
#include "level/opening.h"
#include "looks/layer_art.h"
#include "render/light.h"
#include "survey/contours.h"

namespace jam {

namespace {

constexpr QRgb kNoGround = 0xff1e1a20;

// What colours the pixels of a level.
class Colours {
public:
    Colours(const Level& level, const Raster<uint8_t>& sun, int step)
        : level_(level), sun_(sun), step_(step), light_(lightLook(level.sun, false)) {
        for (const Layer& l : level.layers) {
            const std::array<float, 3> tint = tintOf(l.look);
            means_.push_back(meanColour(l) * glm::vec3(tint[0], tint[1], tint[2]));
        }
    }
    // At a sample, with the ground there and a step to the east and to the south.
    QRgb at(int c, int r, float here, float east, float south) const {
        if (gapSample(level_, c, r) > kGapEdge) return kNoGround;
        const auto weights = weightsAt(level_, c * level_.coverFactor, r * level_.coverFactor);
        glm::vec3 albedo(0);
        const Wash wash = level_.wash.at(c, r);
        const std::array<float, 3> painted = washLight(wash);
        for (size_t i = 0; i < means_.size(); ++i)
            albedo += glm::mix(means_[i], glm::vec3(painted[0], painted[1], painted[2]),
                               level_.layers[i].look.wash * static_cast<float>(wash.strength) / 65535) *
                      (static_cast<float>(weights[i]) / 255.f);
        const float run = static_cast<float>(step_ * level_.spacing), dx = (east - here) / run,
                    dz = (south - here) / run, up = 1 / std::sqrt(1 + dx * dx + dz * dz);
        glm::vec3 lit = litColour(light_, albedo, {-dx * up, up, -dz * up}, static_cast<float>(sun_.at(c, r)) / 255.f,
                                  1);
        if (const Wet w = level_.water.at(c, r); w.wet()) {
            // Seen from straight above: the bed through the water, and a little of the sky.
            const WaterLook& look = *level_.waterLook(w.body);
            const glm::vec3 own(linearLight(look.colour[0]), linearLight(look.colour[1]), linearLight(look.colour[2]));
            const float clear = std::exp(-1.1f * std::max(w.surface - here, 0.f) / look.clearness);
            lit = glm::mix(litColour(light_, own, {0, 1, 0}, 1, 1), lit, 0.8f * clear) + 0.06f * light_.zenith;
        }
        return qRgb(finished(lit.x), finished(lit.y), finished(lit.z));
    }

private:
    const Level& level_;
    const Raster<uint8_t>& sun_;
    int step_;
    LightLook light_;
    std::vector<glm::vec3> means_;
};

}  // namespace

bool LevelPlan::follow(const Level& level, const Raster<uint8_t>& sun, const TileSet* changed, const Context& context) {
    if (!changed) {
        step_ = std::max(1, (std::max(level.columns, level.rows) + most_ - 1) / most_);
        ground_ = QImage((level.columns - 1) / step_ + 1, (level.rows - 1) / step_ + 1, QImage::Format_RGB32);
    }
    const Colours colours(level, sun, step_);
    const auto draw = [&](const Region& pixels) {
        const int c0 = pixels.x0 * step_, c1 = std::min(pixels.x1 * step_, level.columns - 1) + 1;
        Raster<float> rows(c1 - c0, 2);
        for (int z = pixels.z0; z < pixels.z1; ++z) {
            if (context.cancelled()) return;
            const int r = z * step_, below = std::min(r + step_, level.rows - 1);
            readGround(level, {c0, r, c1, r + 1}, rows.view());
            readGround(level, {c0, below, c1, below + 1}, rows.view().part(0, 1, c1 - c0, 1));
            auto* out = reinterpret_cast<QRgb*>(ground_.scanLine(z));
            for (int x = pixels.x0; x < pixels.x1; ++x) {
                const int c = x * step_, beside = std::min(c + step_, level.columns - 1);
                out[x] = colours.at(c, r, rows.at(c - c0, 0), rows.at(beside - c0, 0), rows.at(c - c0, 1));
            }
        }
    };
    const Region all{0, 0, ground_.width(), ground_.height()};
    // A pixel looks one step to the east and to the south.
    const std::vector<Region> spots = changed ? changed->spots() : std::vector{level.bounds()};
    for (const Region& r : spots)
        draw(Region{(r.x0 + step_ - 1) / step_ - 1, (r.z0 + step_ - 1) / step_ - 1, (r.x1 - 1) / step_ + 1,
                    (r.z1 - 1) / step_ + 1}
                 .clipped(all));
    return !context.cancelled();
}

QImage LevelPlan::withContours(const Level& level, float interval, const Context& context) const {
    QImage image = ground_;
    QPainter p(&image);
    p.setRenderHint(QPainter::Antialiasing);
    QVector<QLineF> fine, strong;
    for (const ContourPiece& c : contours(level, interval, step_, context)) {
        const double per = 1 / (level.spacing * step_);
        const QLineF line((c.x0 - level.originX) * per, (c.z0 - level.originZ) * per, (c.x1 - level.originX) * per,
                          (c.z1 - level.originZ) * per);
        (std::lround(c.altitude / interval) % 5 == 0 ? strong : fine).append(line);
    }
    if (context.cancelled()) return {};
    p.setPen(QPen(QColor(30, 20, 26, 80), 0.7));
    p.drawLines(fine);
    p.setPen(QPen(QColor(30, 20, 26, 150), 1.0));
    p.drawLines(strong);
    return image;
}

QImage inSquare(const QImage& plan, int pixels) {
    QImage out(pixels, pixels, QImage::Format_ARGB32_Premultiplied);
    out.fill(Qt::transparent);
    QPainter painter(&out);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    QSize size = plan.size();
    size.scale(pixels, pixels, Qt::KeepAspectRatio);
    painter.drawImage(QRect(QPoint((pixels - size.width()) / 2, (pixels - size.height()) / 2), size), plan);
    return out;
}

QImage planPicture(const Level& level, int pixels) {
    LevelPlan plan(pixels);
    plan.follow(level, Raster<uint8_t>(level.columns, level.rows, 255), nullptr);
    return inSquare(plan.ground(), pixels);
}

}  // namespace jam
