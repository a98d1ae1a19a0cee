// What the view draws over the picture and what can be pulled there: the brush mark and its handles, mirror lines, lines
// in the making and the tape.
#include <QPainter>
#include <cmath>
#include <glm/geometric.hpp>

#include "level/ground.h"
#include "theme.h"
#include "view/ground_view.h"

namespace jam {

namespace {

const QColor kDark(20, 16, 14, 130);

void strokeTwice(QPainter& p, const QPainterPath& path, double wide, double unit, const QColor& colour, Qt::PenStyle style) {
    p.strokePath(path, QPen(kDark, (wide + 1.6) * unit, style, Qt::FlatCap));
    p.strokePath(path, QPen(colour, wide * unit, style, Qt::FlatCap));
}

void label(QPainter& p, const QPointF& at, const QString& text) {
    QFont font = p.font();
    font.setPixelSize(13);
    font.setBold(true);
    QPainterPath shape;
    shape.addText(at, font, text);
    p.strokePath(shape, QPen(QColor(20, 16, 14, 190), 4, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    p.fillPath(shape, QColor(250, 246, 238));
}

}  // namespace

void GroundView::paintMarks(QPainter& p) {
    p.setRenderHint(QPainter::Antialiasing);
    if (sight_.contours) paintContourLabels(p);
    const double unit = devicePixel();
    const QColor bright = theme().brush;
    p.save();
    p.scale(1 / unit, 1 / unit);
    if (!mirrorLines_.isEmpty()) strokeTwice(p, mirrorLines_, 1.4, unit, theme().active.lighter(150), Qt::DashDotLine);
    if (!mark_.edge.isEmpty()) {
        strokeTwice(p, mark_.images, 1.3, unit, bright.darker(115), Qt::SolidLine);
        strokeTwice(p, mark_.half, 1.1, unit, bright, Qt::DashLine);
        strokeTwice(p, mark_.ticks, 1.4, unit, bright, Qt::SolidLine);
        strokeTwice(p, mark_.edge, 1.8, unit, bright, Qt::SolidLine);
    }
    p.restore();
    if (!corners_.empty()) paintLine(p, corners_, bright, true);
    if (!session_.tape().empty()) paintTape(p);
    if (handling_) paintHandles(p);
}

std::optional<QPointF> GroundView::pixelOf(const glm::dvec3& place) const {
    const auto p = camera_.pixel(place);
    if (!p) return std::nullopt;
    return QPointF(p->x, p->y) / devicePixel();
}

// A line over the ground, which it follows.
void GroundView::paintLine(QPainter& p, const std::vector<glm::dvec3>& places, const QColor& colour, bool dots) const {
    QPainterPath path;
    for (size_t i = 0; i + 1 < places.size(); ++i) {
        constexpr int kSteps = 60;
        bool down = false;
        for (int k = 0; k <= kSteps; ++k) {
            const glm::dvec3 at = glm::mix(places[i], places[i + 1], static_cast<double>(k) / kSteps);
            const auto q = pixelOf({at.x, altitudeAt(session_.level(), at.x, at.z) + 0.02, at.z});
            if (q && down) path.lineTo(*q);
            else if (q) path.moveTo(*q);
            down = q.has_value();
        }
    }
    strokeTwice(p, path, 2, 1, colour, Qt::SolidLine);
    if (!dots) return;
    p.setPen(QPen(kDark, 1.5));
    p.setBrush(colour);
    for (const glm::dvec3& at : places)
        if (const auto q = pixelOf({at.x, altitudeAt(session_.level(), at.x, at.z), at.z})) p.drawEllipse(*q, 4, 4);
}

void GroundView::paintTape(QPainter& p) const {
    const auto& tape = session_.tape();
    paintLine(p, tape, QColor(250, 246, 238), true);
    if (tape.size() < 2) return;
    const glm::dvec3 a = tape.front(), b = tape.back();
    const double flat = std::hypot(b.x - a.x, b.z - a.z);
    if (flat < 1e-3) return;
    const double rise = altitudeAt(session_.level(), b.x, b.z) - altitudeAt(session_.level(), a.x, a.z);
    if (const auto q = pixelOf(b)) label(p, *q + QPointF(12, -10), tr("%1 m   %2%3 m   %4°").arg(flat, 0, 'f', 1).arg(rise < 0 ? "" : "+").arg(rise, 0, 'f', 2).arg(std::atan2(rise, flat) * 57.29578, 0, 'f', 1));
}

// --- handles ----------------------------------------------------------------------------------------------------------

void GroundView::setHandling(bool on) {
    if (on == handling_ || (on && (!session_.cursor() || hand_ != Hand::idle))) return;
    handling_ = on;
    handled_ = on ? session_.cursor() : std::nullopt;
    if (hand_ == Hand::pulling) hand_ = Hand::idle;
    grip_ = Grip::none;
    surface_->widget()->update();
    moveMark();
}

void GroundView::setTaping(bool on) {
    if (on == taping_) return;
    taping_ = on;
    if (!on) session_.setTape({});
    setCursor(on ? Qt::SplitHCursor : Qt::CrossCursor);
    moveMark();
}

std::optional<QPointF> GroundView::gripPixel(Grip grip) const {
    if (!handled_) return std::nullopt;
    const StrokeSettings& s = session_.settings();
    const glm::dvec3 right = camera_.right(), at = *handled_;
    const auto beside = [&](double metres) {
        const double x = at.x + right.x * metres, z = at.z + right.z * metres;
        return pixelOf({x, altitudeAt(session_.level(), x, z), z});
    };
    const auto up = [&](std::optional<QPointF> p, double share) { return p ? std::optional(QPointF(p->x(), p->y() - crownPixels_ * share)) : p; };
    const double strength = hasRate(s.tool) ? std::log(s.strength / kMinRate) / std::log(kMaxRate / kMinRate) : s.strength;
    switch (grip) {
        case Grip::edge: return beside(s.radius);
        case Grip::crown: return up(beside(0), 0.25 + strength);
        case Grip::shoulder: return beside(-s.radius * (1 - s.falloff.softness / 2));
        case Grip::centre: {
            if (session_.mirror().kind == MirrorKind::none) return std::nullopt;
            const MirrorImage r = mirrorImages(session_.level(), session_.mirror()).front();
            return pixelOf({r.x, altitudeAt(session_.level(), r.x, r.z), r.z});
        }
        case Grip::none: case Grip::anywhere: break;
    }
    return std::nullopt;
}

GroundView::Grip GroundView::gripNear(const QPointF& pixel) const {
    Grip best = Grip::anywhere;
    double least = 16;
    for (const Grip g : {Grip::centre, Grip::crown, Grip::edge, Grip::shoulder})
        if (const auto q = gripPixel(g))
            if (const double d = std::hypot(q->x() - pixel.x(), q->y() - pixel.y()); d < least) least = d, best = g;
    return best;
}

void GroundView::pull(const QPointF& pixel) {
    const auto ground = pick(pixel);
    if (grip_ == Grip::centre) {
        if (!ground) return;
        Mirror m = session_.mirror();
        m.x = ground->x, m.z = ground->z;
        return session_.setMirror(m);
    }
    const double away = ground && handled_ ? std::hypot(ground->x - handled_->x, ground->z - handled_->z) : 0;
    session_.changeSettings([&](StrokeSettings& s) {
        // Upwards by a hand's breadth doubles a rate thrice, or adds half of a share.
        const auto strengthen = [&](double pixels) {
            s.strength = static_cast<float>(hasRate(s.tool) ? pullStrength_ * std::exp2(pixels / 40) : pullStrength_ + pixels / 240);
        };
        if (grip_ == Grip::edge && away > 0) s.radius = static_cast<float>(away);
        if (grip_ == Grip::shoulder && away > 0) s.falloff.softness = static_cast<float>(2 * (1 - std::min(away / s.radius, 1.0)));
        if (grip_ == Grip::crown) strengthen(pullFrom_.y() - pixel.y());
        if (grip_ == Grip::anywhere) {
            s.radius = pullRadius_ * static_cast<float>(std::exp2((pixel.x() - pullFrom_.x()) / 120));
            strengthen(pullFrom_.y() - pixel.y());
        }
    });
}

void GroundView::paintHandles(QPainter& p) const {
    const StrokeSettings& s = session_.settings();
    const auto crown = gripPixel(Grip::crown), edge = gripPixel(Grip::edge), shoulder = gripPixel(Grip::shoulder);
    if (handled_ && crown)
        if (const auto foot = pixelOf({handled_->x, altitudeAt(session_.level(), handled_->x, handled_->z), handled_->z})) {
            p.setPen(QPen(theme().brush, 1.4, Qt::DotLine));
            p.drawLine(*foot, *crown);
        }
    for (const Grip g : {Grip::edge, Grip::crown, Grip::shoulder, Grip::centre})
        if (const auto q = gripPixel(g)) {
            const QColor colour = g == Grip::centre ? theme().active.lighter(140) : theme().brush;
            p.setPen(QPen(kDark, 4));
            p.setBrush(Qt::NoBrush);
            p.drawEllipse(*q, 6, 6);
            p.setPen(QPen(colour, 2));
            p.setBrush(g == grip_ ? colour : QColor(30, 26, 24, 200));
            p.drawEllipse(*q, 6, 6);
        }
    if (edge) label(p, *edge + QPointF(12, 4), tr("%1 m").arg(s.radius, 0, 'g', 3));
    if (crown) label(p, *crown + QPointF(12, 4), hasRate(s.tool) ? (s.flow ? tr("%1 m/s") : tr("%1 m")).arg(s.strength, 0, 'g', 3) : tr("%1 %").arg(s.strength * 100, 0, 'f', s.strength < 0.1 ? 1 : 0));
    if (shoulder) label(p, *shoulder + QPointF(-14, 22), tr("soft %1 %").arg(s.falloff.softness * 100, 0, 'f', 0));
}

}  // namespace jam
