#include "panels/bend_edit.h"

#include <cmath>
#include <QMouseEvent>
#include <QPainter>

#include "looks/theme.h"

namespace jam {

BendEdit::BendEdit(Workplace& place, QWidget* parent) : Pulled(place.document, parent), place_(place) {
    setFixedHeight(96);
    setToolTip(tr("Pull the two points to bend the falloff from the crown (left) to the edge."));
    setAccessibleName(tr("Bent falloff"));
    connect(&place.toolbox, &Toolbox::settingsChanged, this, qOverload<>(&QWidget::update));
}

QPointF BendEdit::at(double t, double strength) const {
    return {10 + t * (width() - 20), height() - 10 - strength * (height() - 20)};
}

QPointF BendEdit::knob(int which) const {
    const Bend& b = place_.toolbox.settings().falloff.bend;
    return which == 0 ? at(1.0 / 3, b.third) : at(2.0 / 3, b.twoThirds);
}

void BendEdit::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    p.setPen(Qt::NoPen);
    p.setBrush(t.back);
    p.drawRoundedRect(rect(), 5, 5);
    const BentCurve curve(place_.toolbox.settings().falloff.bend);
    QPolygonF line;
    for (int i = 0; i <= 80; ++i) line << at(i / 80.0, curve.at(static_cast<float>(i) / 80));
    p.setPen(QPen(t.brush, 1.8));
    p.drawPolyline(line);
    for (int k = 0; k < 2; ++k) {
        p.setBrush(k == held_ ? t.brush : t.panel);
        p.drawEllipse(knob(k), 5, 5);
    }
}

bool BendEdit::take(const QPointF& pixel) {
    const QPointF a = knob(0) - pixel, b = knob(1) - pixel;
    held_ = std::hypot(a.x(), a.y()) <= std::hypot(b.x(), b.y()) ? 0 : 1;
    before_ = place_.toolbox.settings();
    pull(pixel);
    return true;
}

void BendEdit::pull(const QPointF& pixel) {
    const float strength = std::clamp(static_cast<float>((height() - 10 - pixel.y()) / (height() - 20)), 0.f, 1.f);
    place_.toolbox.changeSettings([&](StrokeSettings& s) {
        // The curve never rises towards the edge: the point that is pulled takes the other with it.
        Bend& b = s.falloff.bend;
        if (held_ == 0) b.third = strength, b.twoThirds = std::min(b.twoThirds, strength);
        else b.twoThirds = strength, b.third = std::max(b.third, strength);
    });
}

void BendEdit::end(bool keep) {
    held_ = -1;
    if (!keep && place_.toolbox.tool() == before_.tool)
        place_.toolbox.changeSettings([&](StrokeSettings& s) { s.falloff = before_.falloff; });
}

}  // namespace jam
