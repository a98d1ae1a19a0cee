#include "panels/chart.h"

#include <cmath>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include "base/maths.h"
#include "level/ground.h"
#include "looks/theme.h"
#include "panels/after_hand.h"
#include "view/ground_view.h"
#include "watch/surveyor.h"

namespace jam {

Chart::Chart(Workplace& place, GroundView& view, const Surveyor& surveyor, QWidget* parent)
    : QWidget(parent), place_(place), view_(view), surveyor_(surveyor) {
    setMinimumSize(110, 110);
    setToolTip(tr("The chart. Click to go there."));
    const auto again = [this] { update(); };
    auto* after = new AfterHand(this, again);
    connect(&view, &GroundView::cameraMoved, after, &AfterHand::later);
    connect(&place.standpoint, &Standpoint::cursorMoved, after, &AfterHand::later);
    connect(&surveyor, &Surveyor::found, this, again);
    connect(&place.standpoint, &Standpoint::spotChosen, this, again);
    place.document.on(About::spots, this, again);
}

QRectF Chart::frame() const {
    const Level& l = place_.document.level();
    const double per = std::min((width() - 4) / l.width(), (height() - 4) / l.depth());
    const double w = l.width() * per, d = l.depth() * per;
    return {(width() - w) / 2, (height() - d) / 2, w, d};
}

QPointF Chart::at(double x, double z) const {
    const Level& l = place_.document.level();
    const QRectF f = frame();
    return {f.x() + (x - l.originX) / l.width() * f.width(), f.y() + (z - l.originZ) / l.depth() * f.height()};
}

void Chart::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    const Theme& t = theme();
    const QRectF f = frame();
    QPainterPath round;
    round.addRoundedRect(f, 5, 5);
    p.setClipPath(round);
    p.fillRect(f, t.back);
    if (const auto& found = surveyor_.findings()) p.drawImage(f, found->plan);
    for (const Spot& s : place_.document.level().spots) {
        const QPointF foot = at(s.x, s.z);
        p.setPen(QPen(Qt::white, 1.2));
        p.drawLine(foot, foot - QPointF(0, 9));
        p.setPen(QPen(QColor(30, 20, 26, 150), 0.8));
        p.setBrush(s.id == place_.standpoint.spot() ? t.brush : t.active.lighter(130));
        p.drawPolygon(QPolygonF{foot - QPointF(0, 9), foot + QPointF(6, -6.5), foot - QPointF(0, 4)});
    }
    const Camera& c = view_.camera();
    const QPointF eye = at(c.at.x, c.at.z);
    const double half = std::atan(std::tan(c.fieldOfView * kRadians / 2) * c.width / c.height), yaw = c.yaw * kRadians,
                 reach = f.width() * 0.3;
    QPainterPath cone(eye);
    cone.lineTo(eye + QPointF(std::sin(yaw - half), -std::cos(yaw - half)) * reach);
    cone.lineTo(eye + QPointF(std::sin(yaw + half), -std::cos(yaw + half)) * reach);
    cone.closeSubpath();
    QColor soft = t.active.lighter(140);
    soft.setAlpha(90);
    p.fillPath(cone, soft);
    p.strokePath(cone, QPen(QColor(255, 255, 255, 150), 1));
    p.setPen(QPen(Qt::white, 1.4));
    p.setBrush(t.active);
    const QPointF inside(std::clamp(eye.x(), f.left() + 4, f.right() - 4),
                         std::clamp(eye.y(), f.top() + 4, f.bottom() - 4));
    p.drawEllipse(inside, 3.6, 3.6);
    if (place_.standpoint.cursor()) {
        p.setPen(QPen(t.brush, 1.6));
        p.setBrush(Qt::NoBrush);
        const double r = std::max(2.5, place_.toolbox.settings().radius / place_.document.level().width() * f.width());
        p.drawEllipse(at(place_.standpoint.cursor()->x, place_.standpoint.cursor()->z), r, r);
    }
}

void Chart::goTo(const QPointF& pixel) {
    const Level& l = place_.document.level();
    const QRectF f = frame();
    const double x = l.originX + (pixel.x() - f.x()) / f.width() * l.width(),
                 z = l.originZ + (pixel.y() - f.y()) / f.height() * l.depth();
    if (!l.holds(x, z)) return;
    const Navigator n(l, place_.document.pyramid());
    view_.setCamera(n.centre(view_.camera(), {x, altitudeAt(l, x, z), z},
                             std::max(60.0, std::min(n.heightAbove(view_.camera()), 0.2 * l.width()))));
}

void Chart::mousePressEvent(QMouseEvent* e) { goTo(e->position()); }
void Chart::mouseMoveEvent(QMouseEvent* e) {
    if (e->buttons() & Qt::LeftButton) goTo(e->position());
}

}  // namespace jam
