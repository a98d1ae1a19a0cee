#include "panels/section.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <cmath>

#include "survey/profile.h"
#include "theme.h"
#include "view/ground_view.h"

namespace jam {

namespace {
constexpr int kSamples = 161;
constexpr int kMargin = 14;
}  // namespace

Section::Section(Session& session, const GroundView& view, QWidget* parent) : QWidget(parent), session_(session), view_(view) {
    setMouseTracking(true);
    setMinimumSize(260, 100);
    setToolTip(tr("The ground through the cursor. Pull the edge for the radius, the crown for the strength, the shoulder for the falloff."));
    const auto again = [this] { read(); update(); };
    for (const auto signal : {&Session::cursorMoved, &Session::settingsChanged, &Session::toolChanged, &Session::opened, &Session::stationChanged})
        connect(&session, signal, this, again);
    connect(&session, &Session::changed, this, again);
    connect(&view, &GroundView::cameraMoved, this, again);
    read();
}

void Section::read() {
    const glm::dvec3 right = view_.camera().right();
    glm::dvec3 at(0);
    if (session_.cursor()) at = *session_.cursor();
    if (held_ == Grip::none) reach_ = std::max(2.2 * session_.settings().radius, 4.0);
    ground_ = groundProfile(session_.level(), at.x - right.x * reach_, at.z - right.z * reach_, at.x + right.x * reach_, at.z + right.z * reach_, kSamples);
    low_ = 1e9;
    high_ = -1e9;
    for (const float h : ground_) {
        if (std::isnan(h)) continue;
        low_ = std::min<double>(low_, h);
        high_ = std::max<double>(high_, h);
    }
    if (low_ > high_) low_ = high_ = session_.level().startHeight;
    const float middle = ground_[kSamples / 2];
    centreAltitude_ = std::isnan(middle) ? low_ : middle;
}

double Section::profileHeight(double share) const {
    const StrokeSettings& s = session_.settings();
    const double f = s.falloff.at(static_cast<float>(std::abs(share)));
    switch (s.tool) {
        case Tool::raise: return s.strength * f;       // one second of it
        case Tool::lower: return -s.strength * f;
        // Shares have no height of their own; they are drawn as a share of half the radius.
        default: return s.strength * f * s.radius * 0.5;
    }
}

Section::Scale Section::scale() const {
    const double crown = profileHeight(0), centre = centreAltitude_;
    double low = std::min(low_, centre + std::min(crown, 0.0)), high = std::max(high_, centre + std::max(crown, 0.0));
    const StrokeSettings& s = session_.settings();
    if (s.tool == Tool::flatten && s.height) low = std::min<double>(low, *s.height), high = std::max<double>(high, *s.height);
    const double perMetre = (width() - 2.0 * kMargin) / (2 * reach_);
    const double span = std::max(high - low, 0.1) * 1.15;
    const double tall = std::clamp((height() - 2.0 * kMargin) / (span * perMetre), 0.02, 8.0);
    return {perMetre, tall, (low + high) / 2};
}

QPointF Section::at(double metres, double altitude) const {
    const Scale s = scale();
    return {width() / 2.0 + metres * s.perMetre, height() / 2.0 - (altitude - s.level) * s.perMetre * s.tall};
}

// Altitude of the ground at so many metres to the right of the cursor.
double Section::groundAt(double metres) const {
    const double place = (metres / reach_ + 1) / 2 * (kSamples - 1);
    const float h = place >= 0 && place <= kSamples - 1 ? ground_[static_cast<size_t>(std::lround(place))] : NAN;
    return std::isnan(h) ? centreAltitude_ : h;
}

QPointF Section::grip(Grip which) const {
    const StrokeSettings& s = session_.settings();
    switch (which) {
        case Grip::edge: return at(s.radius, groundAt(s.radius));
        case Grip::crown: return at(0, centreAltitude_ + profileHeight(0));
        // Half way down the soft edge, so that it never hides under the crown.
        case Grip::shoulder: {
            const double share = 1 - s.falloff.softness / 2;
            return at(-s.radius * share, groundAt(-s.radius * share) + profileHeight(share));
        }
        case Grip::none: break;
    }
    return {-100, -100};
}

void Section::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    p.setPen(Qt::NoPen);
    p.setBrush(t.back);
    p.drawRoundedRect(rect(), 6, 6);
    p.setClipRect(rect().adjusted(1, 1, -1, -1));
    const Scale sc = scale();

    // Altitude lines at pleasant steps.
    const double span = height() / (sc.perMetre * sc.tall);
    const double power = std::pow(10.0, std::floor(std::log10(span / 3)));
    const double step = span / 3 > 5 * power ? 5 * power : span / 3 > 2 * power ? 2 * power : power;
    QFont small = p.font();
    small.setPixelSize(10);
    p.setFont(small);
    for (double a = std::ceil((sc.level - span / 2) / step) * step; a < sc.level + span / 2; a += step) {
        const double y = at(0, a).y();
        p.setPen(QPen(t.line, 1, Qt::DotLine));
        p.drawLine(QPointF(34, y), QPointF(width(), y));
        p.setPen(t.quiet);
        p.drawText(QRectF(4, y - 7, 40, 14), Qt::AlignVCenter, QString::number(a, 'g', 5));
    }

    QPainterPath cut, surface;
    bool down = false;
    for (int i = 0; i < kSamples; ++i) {
        const float h = ground_[static_cast<size_t>(i)];
        if (std::isnan(h)) { down = false; continue; }
        const QPointF q = at((2.0 * i / (kSamples - 1) - 1) * reach_, h);
        if (down) surface.lineTo(q); else surface.moveTo(q);
        if (!down) cut.moveTo(q.x(), height()), cut.lineTo(q);
        else cut.lineTo(q);
        if (i + 1 == kSamples || std::isnan(ground_[static_cast<size_t>(i) + 1])) cut.lineTo(q.x(), height());
        down = true;
    }
    QColor earth = t.ground;
    earth.setAlpha(150);
    p.fillPath(cut, earth);
    p.strokePath(surface, QPen(t.text, 1.5));

    const Station station = session_.station();
    if (station == Station::shape || station == Station::cover) {
        const StrokeSettings& s = session_.settings();
        // The brush follows the ground: its profile stands on the surface.
        QPainterPath crown;
        QPolygonF fill;
        for (int i = 0; i <= 80; ++i) {
            const double share = i / 40.0 - 1, metres = share * s.radius;
            const QPointF q = at(metres, groundAt(metres) + profileHeight(share));
            if (i) crown.lineTo(q); else crown.moveTo(q);
            fill << q;
        }
        for (int i = 80; i >= 0; --i) fill << at((i / 40.0 - 1) * s.radius, groundAt((i / 40.0 - 1) * s.radius));
        QColor soft = t.brush;
        soft.setAlpha(70);
        p.setPen(Qt::NoPen);
        p.setBrush(soft);
        p.drawPolygon(fill);
        p.strokePath(crown, QPen(t.brush, 1.6));
        if (s.tool == Tool::flatten && s.height) {
            p.setPen(QPen(t.active.lighter(130), 1.4, Qt::DashLine));
            const double y = at(0, *s.height).y();
            p.drawLine(QPointF(0, y), QPointF(width(), y));
            p.drawText(QRectF(0, y - 15, width() - 6, 14), Qt::AlignRight, tr("%1 m").arg(*s.height, 0, 'f', 2));
        }
        for (const Grip g : {Grip::edge, Grip::crown, Grip::shoulder}) {
            const bool lively = g == held_ || (held_ == Grip::none && g == near_);
            p.setPen(QPen(t.brush, 1.6));
            p.setBrush(lively ? t.brush : t.panel);
            p.drawEllipse(grip(g), lively ? 5.5 : 4.5, lively ? 5.5 : 4.5);
        }
    }
    p.setPen(t.quiet);
    p.drawText(rect().adjusted(0, 4, -8, 0), Qt::AlignRight | Qt::AlignTop,
               tr("%1 m across · heights ×%2").arg(2 * reach_, 0, 'g', 4).arg(sc.tall, 0, 'g', 2));
}

Section::Grip Section::gripNear(const QPointF& pixel) const {
    Grip best = Grip::none;
    double least = 12;
    for (const Grip g : {Grip::crown, Grip::edge, Grip::shoulder}) {
        const QPointF d = grip(g) - pixel;
        if (std::hypot(d.x(), d.y()) < least) least = std::hypot(d.x(), d.y()), best = g;
    }
    return best;
}

void Section::mousePressEvent(QMouseEvent* e) {
    if (e->button() != Qt::LeftButton || (session_.station() != Station::shape && session_.station() != Station::cover)) return;
    held_ = gripNear(e->position());
    update();
}

void Section::mouseMoveEvent(QMouseEvent* e) {
    if (held_ == Grip::none) {
        near_ = gripNear(e->position());
        setCursor(near_ == Grip::none ? Qt::ArrowCursor : near_ == Grip::crown ? Qt::SizeVerCursor : Qt::SizeHorCursor);
        return update();
    }
    const Scale sc = scale();
    const double metres = std::abs(e->position().x() - width() / 2.0) / sc.perMetre;
    const double altitude = sc.level - (e->position().y() - height() / 2.0) / (sc.perMetre * sc.tall);
    session_.changeSettings([&](StrokeSettings& s) {
        if (held_ == Grip::edge) s.radius = static_cast<float>(metres);
        if (held_ == Grip::shoulder) s.falloff.softness = static_cast<float>(2 * (1 - std::min(metres / s.radius, 1.0)));
        if (held_ == Grip::crown) {
            const double up = (altitude - centreAltitude_) * (s.tool == Tool::lower ? -1 : 1);
            s.strength = static_cast<float>(s.tool == Tool::raise || s.tool == Tool::lower ? up : up / (s.radius * 0.5));
        }
    });
}

void Section::mouseReleaseEvent(QMouseEvent*) {
    held_ = Grip::none;
    read();
    update();
}

}  // namespace jam
