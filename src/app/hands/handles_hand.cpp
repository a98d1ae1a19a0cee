#include "hands/handles_hand.h"

#include <cmath>
#include <QPainter>

#include "level/ground.h"
#include "looks/theme.h"
#include "view/ground_view.h"
#include "view/over_ground.h"

namespace jam {

namespace {
constexpr double kCrownPixels = 60;  // how high the crown's handle stands above the centre, at full strength
constexpr double kNear = 16;         // pixels within which a handle is taken
}  // namespace

std::optional<QPointF> HandlesHand::gripPixel(Grip grip) const {
    const Workplace& place = view_.workplace();
    const Level& level = place.document.level();
    const StrokeSettings& s = place.toolbox.settings();
    const glm::dvec3 right = view_.camera().right();
    const auto beside = [&](double metres) {
        const double x = at_.x + right.x * metres, z = at_.z + right.z * metres;
        return view_.pixelOf({x, altitudeAt(level, x, z), z});
    };
    switch (grip) {
        case Grip::edge: return beside(s.radius);
        case Grip::crown: {
            const double strength = hasRate(s.tool) ? std::log(s.strength / kMinRate) / std::log(kMaxRate / kMinRate)
                                                    : s.strength;
            const auto foot = beside(0);
            return foot ? std::optional(*foot - QPointF(0, kCrownPixels * (0.25 + strength))) : foot;
        }
        case Grip::shoulder: return beside(-s.radius * (1 - s.falloff.softness / 2));
        case Grip::centre: {
            if (place.toolbox.mirror().kind == MirrorKind::none) return std::nullopt;
            const MirrorImage r = mirrorImages(level, place.toolbox.mirror()).front();
            return view_.pixelOf({r.x, altitudeAt(level, r.x, r.z), r.z});
        }
        case Grip::none:
        case Grip::anywhere: break;
    }
    return std::nullopt;
}

HandlesHand::Grip HandlesHand::gripNear(const QPointF& pixel) const {
    Grip best = Grip::anywhere;
    double least = kNear;
    for (const Grip g : {Grip::centre, Grip::crown, Grip::edge, Grip::shoulder})
        if (const auto q = gripPixel(g))
            if (const double d = std::hypot(q->x() - pixel.x(), q->y() - pixel.y()); d < least) least = d, best = g;
    return best;
}

void HandlesHand::press(const HandEvent& e) {
    const StrokeSettings& s = view_.workplace().toolbox.settings();
    grip_ = gripNear(e.pixel);
    from_ = e.pixel;
    radius_ = s.radius;
    strength_ = s.strength;
}

void HandlesHand::release(const HandEvent& e) {
    if (e.button == Qt::LeftButton) grip_ = Grip::none;
}

void HandlesHand::move(const HandEvent& e) {
    if (grip_ == Grip::none) return;
    Toolbox& box = view_.workplace().toolbox;
    if (grip_ == Grip::centre) {
        if (!e.ground) return;
        Mirror m = box.mirror();
        m.x = e.ground->x, m.z = e.ground->z;
        return box.setMirror(m);
    }
    const double away = e.ground ? std::hypot(e.ground->x - at_.x, e.ground->z - at_.z) : 0;
    box.changeSettings([&](StrokeSettings& s) {
        // Upwards by a hand's breadth doubles a rate thrice, or adds half of a share.
        const auto strengthen = [&](double pixels) {
            s.strength = static_cast<float>(hasRate(s.tool) ? strength_ * std::exp2(pixels / 40)
                                                            : strength_ + pixels / 240);
        };
        if (grip_ == Grip::edge && away > 0) s.radius = static_cast<float>(away);
        if (grip_ == Grip::shoulder && away > 0)
            s.falloff.softness = static_cast<float>(2 * (1 - std::min(away / s.radius, 1.0)));
        if (grip_ == Grip::crown) strengthen(from_.y() - e.pixel.y());
        if (grip_ == Grip::anywhere) {
            s.radius = radius_ * static_cast<float>(std::exp2((e.pixel.x() - from_.x()) / 120));
            strengthen(from_.y() - e.pixel.y());
        }
    });
}

void HandlesHand::paint(QPainter& p) const {
    const StrokeSettings& s = view_.workplace().toolbox.settings();
    const auto crown = gripPixel(Grip::crown), edge = gripPixel(Grip::edge), shoulder = gripPixel(Grip::shoulder);
    if (const auto foot = view_.pixelOf({at_.x, altitudeAt(view_.workplace().document.level(), at_.x, at_.z), at_.z});
        foot && crown) {
        p.setPen(QPen(theme().brush, 1.4, Qt::DotLine));
        p.drawLine(*foot, *crown);
    }
    for (const Grip g : {Grip::edge, Grip::crown, Grip::shoulder, Grip::centre})
        if (const auto q = gripPixel(g)) {
            const QColor colour = g == Grip::centre ? theme().active.lighter(140) : theme().brush;
            p.setPen(QPen(kShadowInk, 4));
            p.setBrush(Qt::NoBrush);
            p.drawEllipse(*q, 6, 6);
            p.setPen(QPen(colour, 2));
            p.setBrush(g == grip_ ? colour : QColor(30, 26, 24, 200));
            p.drawEllipse(*q, 6, 6);
        }
    if (edge) paintLabel(p, *edge + QPointF(12, 4), GroundView::tr("%1 m").arg(s.radius, 0, 'g', 3));
    if (crown)
        paintLabel(p, *crown + QPointF(12, 4),
                   hasRate(s.tool)
                       ? (s.flow ? GroundView::tr("%1 m/s") : GroundView::tr("%1 m")).arg(s.strength, 0, 'g', 3)
                       : GroundView::tr("%1 %").arg(s.strength * 100, 0, 'f', s.strength < 0.1 ? 1 : 0));
    if (shoulder)
        paintLabel(p, *shoulder + QPointF(-14, 22),
                   GroundView::tr("soft %1 %").arg(s.falloff.softness * 100, 0, 'f', 0));
}

}  // namespace jam
