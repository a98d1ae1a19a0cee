#include "hands/spot_hand.h"

#include <cmath>
#include <glm/geometric.hpp>

#include "edits/spot_edits.h"
#include "level/ground.h"
#include "view/ground_view.h"
#include "view/over_ground.h"

namespace jam {

namespace {
constexpr double kNear = 12;  // pixels
}

double flagHeight(const GroundView& view, double x, double y, double z) {
    const double away = glm::distance(view.camera().at, glm::dvec3(x, y, z));
    return std::max(2.0, view.camera().metresPerPixel(away) * view.devicePixelRatioF() * 44);
}

uint32_t spotUnder(const GroundView& view, const QPointF& pixel) {
    const Level& level = view.workplace().document.level();
    uint32_t best = 0;
    double nearest = kNear;
    for (const Spot& s : level.spots) {
        const double y = altitudeAt(level, s.x, s.z);
        const auto foot = view.pixelOf({s.x, y, s.z}),
                   head = view.pixelOf({s.x, y + flagHeight(view, s.x, y, s.z), s.z});
        if (!foot || !head) continue;
        const QPointF along = *head - *foot;
        const double square = QPointF::dotProduct(along, along);
        const double t = square > 0 ? std::clamp(QPointF::dotProduct(pixel - *foot, along) / square, 0.0, 1.0) : 0;
        const QPointF off = pixel - (*foot + along * t);
        if (const double away = std::hypot(off.x(), off.y()); away < nearest) nearest = away, best = s.id;
    }
    return best;
}

SpotHand::SpotHand(GroundView& view, const HandEvent& press, uint32_t spot) : PullHand(view, press), spot_(spot) {
    view.workplace().standpoint.setSpot(spot);
}

void SpotHand::pull(const HandEvent& e) {
    if (!e.ground) return;
    Workplace& place = view_.workplace();
    const Result<Commit> tried = SpotEdits(place).tried(spot_, e.ground->x, e.ground->z);
    trouble_ = tried ? QString() : QString::fromStdString(tried.error().problem);
    if (!tried) return;
    to_ = e.ground;
    place.document.showPreview(tried.value());
}

void SpotHand::keep() {
    if (to_) SpotEdits(view_.workplace()).move(spot_, to_->x, to_->z);
}

void SpotHand::paint(QPainter& p) const {
    if (!pulls_) return;
    if (!trouble_.isEmpty()) return paintLabel(p, now_ + QPointF(16, -10), trouble_);
    if (to_)
        paintLabel(p, now_ + QPointF(16, -10),
                   GroundView::tr("x %1   z %2   %3 m up")
                       .arg(to_->x, 0, 'f', 1)
                       .arg(to_->z, 0, 'f', 1)
                       .arg(to_->y, 0, 'f', 1));
}

}  // namespace jam
