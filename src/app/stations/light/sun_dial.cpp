#include "stations/light/sun_dial.h"

#include <cmath>
#include <QMouseEvent>
#include <QPainter>

#include "base/maths.h"
#include "looks/theme.h"

namespace jam {

namespace {

Sun sunAt(float azimuth, float elevation) {
    return {azimuth - 360 * std::floor(azimuth / 360), std::clamp(elevation, 1.f, 90.f)};
}

}  // namespace

void turnSun(Document& document, float azimuth, float elevation) {
    const Sun sun = sunAt(azimuth, elevation);
    if (sun == document.level().sun) return;
    document.edit(
        SunDial::tr("Turn the sun"), [&](Level& l) { l.sun = sun; }, "sun");
}

SunDial::SunDial(Document& document, QWidget* parent) : Pulled(document, parent), document_(document) {
    setFixedHeight(190);
    document.on(About::sun, this, [this] { update(); });
}

QPointF SunDial::sunPlace() const {
    const Sun& s = document_.level().sun;
    const double r = radius() * (90 - s.elevation) / 90, a = s.azimuth * kRadians;
    return QPointF(width() / 2.0 + r * std::sin(a), height() / 2.0 - r * std::cos(a));
}

void SunDial::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    const QPointF c(width() / 2.0, height() / 2.0);
    p.setBrush(t.back);
    p.setPen(QPen(t.line, 1));
    p.drawEllipse(c, radius(), radius());
    p.setBrush(Qt::NoBrush);
    for (const double e : {30.0, 60.0}) p.drawEllipse(c, radius() * (90 - e) / 90, radius() * (90 - e) / 90);
    QFont f = font();
    f.setPixelSize(scaled(11));
    p.setFont(f);
    const QString names[] = {tr("N"), tr("E"), tr("S"), tr("W")};
    for (int i = 0; i < 4; ++i) {
        const double a = i * 1.57079633;
        const QPointF at = c + QPointF(std::sin(a), -std::cos(a)) * (radius() + 8);
        p.setPen(t.quiet);
        p.drawText(QRectF(at.x() - 8, at.y() - 8, 16, 16), Qt::AlignCenter, names[i]);
    }
    p.setPen(QPen(t.brush, 1.5));
    p.drawLine(c, sunPlace());
    p.setBrush(t.brush);
    p.setPen(Qt::NoPen);
    p.drawEllipse(sunPlace(), 8, 8);
}

bool SunDial::take(const QPointF& pixel) {
    if (!document_.whyNoStroke().isEmpty()) return false;
    pull(pixel);
    return true;
}

void SunDial::pull(const QPointF& pixel) {
    const QPointF d = pixel - QPointF(width() / 2.0, height() / 2.0);
    const double r = std::hypot(d.x(), d.y());
    to_ = sunAt(static_cast<float>(std::round(std::atan2(d.x(), -d.y()) * kDegrees)),
                static_cast<float>(std::round(90 - 90 * std::min(r / radius(), 1.0))));
    Level next = document_.standing();
    next.sun = *to_;
    document_.showPreview({std::move(next), {}});
}

void SunDial::end(bool keep) {
    const std::optional<Sun> to = std::exchange(to_, std::nullopt);
    document_.dropPreview();
    if (keep && to) turnSun(document_, to->azimuth, to->elevation);
}

}  // namespace jam
