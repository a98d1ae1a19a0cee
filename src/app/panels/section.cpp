#include "panels/section.h"

#include <cmath>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include "base/maths.h"
#include "looks/theme.h"
#include "panels/after_hand.h"
#include "survey/profile.h"
#include "view/ground_view.h"
#include "water/water.h"

namespace jam {

namespace {
constexpr int kSamples = 161;
constexpr int kMargin = 14;
}  // namespace

Section::Section(Workplace& place, const GroundView& view, QWidget* parent)
    : Pulled(place.document, parent), place_(place), view_(view) {
    setMouseTracking(true);
    setMinimumSize(260, 100);
    setToolTip(
        tr("The ground through the cursor. Pull the edge for the radius, the crown for the strength, the shoulder for "
           "the falloff."));
    const auto again = [this] {
        read();
        update();
    };
    auto* after = new AfterHand(this, again);
    connect(&place.standpoint, &Standpoint::cursorMoved, after, &AfterHand::later);
    place.document.on(About::samples, after, &AfterHand::later);
    connect(&view, &GroundView::cameraMoved, after, &AfterHand::later);
    connect(&place.standpoint, &Standpoint::tapeMoved, this, again);
    connect(&place.toolbox, &Toolbox::settingsChanged, this, again);
    connect(&place.toolbox, &Toolbox::toolChanged, this, again);
    connect(&place.standpoint, &Standpoint::stationChanged, this, again);
    place.document.on(About::waters, this, again);
    connect(&view, &GroundView::sightChanged, this, qOverload<>(&QWidget::update));
    read();
}

void Section::read() {
    glm::dvec3 right = view_.camera().right();
    glm::dvec3 at(0);
    if (const auto& seen = place_.standpoint.seen()) at = *seen;
    if (held_ == Grip::none) reach_ = std::max(2.2 * place_.toolbox.settings().radius, 4.0);
    if (alongTape()) {
        // From one end of the tape to the other.
        const glm::dvec3 a = place_.standpoint.tape().front(), b = place_.standpoint.tape().back();
        const double length = std::hypot(b.x - a.x, b.z - a.z);
        at = 0.5 * (a + b);
        reach_ = length / 2;
        right = {(b.x - a.x) / length, 0, (b.z - a.z) / length};
    }
    turn_ = std::atan2(right.z, right.x) * kDegrees;
    ground_ = groundProfile(place_.document.level(), at.x - right.x * reach_, at.z - right.z * reach_,
                            at.x + right.x * reach_, at.z + right.z * reach_, kSamples);
    water_.clear();
    for (int i = 0; i < kSamples; ++i) {
        const double metres = (2.0 * i / (kSamples - 1) - 1) * reach_;
        water_.push_back(waterAt(place_.document.level(), at.x + right.x * metres, at.z + right.z * metres).surface);
    }
    low_ = 1e9;
    high_ = -1e9;
    for (const float h : ground_) {
        if (std::isnan(h)) continue;
        low_ = std::min<double>(low_, h);
        high_ = std::max<double>(high_, h);
    }
    for (const float h : water_)
        if (h != kDry) high_ = std::max<double>(high_, h);
    if (low_ > high_) low_ = high_ = place_.document.level().startHeight;
    const float middle = ground_[kSamples / 2];
    centreAltitude_ = std::isnan(middle) ? low_ : middle;
}

bool Section::alongTape() const {
    const auto& tape = place_.standpoint.tape();
    return tape.size() == 2 && std::hypot(tape[1].x - tape[0].x, tape[1].z - tape[0].z) > 0.01;
}

// Strength of the brush at a share of its radius along the section's line, whatever its tip.
double Section::tipAt(double share) const {
    const StrokeSettings& s = place_.toolbox.settings();
    const double a = (turn_ - s.tip.turn) * kRadians;
    const auto u = static_cast<float>(share * std::cos(a)), v = static_cast<float>(share * std::sin(a));
    if (s.tip.shape == TipShape::square) return s.falloff.at(squareShare(u, v));
    const float f = s.falloff.at(static_cast<float>(std::abs(share)));
    return s.tip.shape == TipShape::picture && s.tip.picture ? f * s.tip.picture->at(u, v) : f;
}

double Section::profileHeight(double share) const { return heightOf(tipAt(share)); }

// Metres that a share of the full strength is drawn high.
double Section::heightOf(double f) const {
    const StrokeSettings& s = place_.toolbox.settings();
    const ToolSpec& spec = specOf(s.tool);
    if (spec.rate) return spec.direction * s.strength * f;  // one second of it, or one stamp
    // Shares have no height of their own; they are drawn as a share of half the radius.
    return (makesGaps(s.tool) ? spec.direction : 1) * s.strength * f * s.radius * 0.5;
}

Section::Scale Section::scale() const {
    const double crown = heightOf(1), centre = centreAltitude_;
    double low = low_, high = high_;
    if (!alongTape())
        low = std::min(low, centre + std::min(crown, 0.0)), high = std::max(high, centre + std::max(crown, 0.0));
    const StrokeSettings& s = place_.toolbox.settings();
    if (uses(s.tool, settings::height) && s.height)
        low = std::min<double>(low, *s.height), high = std::max<double>(high, *s.height);
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
    const StrokeSettings& s = place_.toolbox.settings();
    switch (which) {
        case Grip::edge: return at(s.radius, groundAt(s.radius));
        case Grip::crown: return at(0, centreAltitude_ + heightOf(1));
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
    paintAltitudes(p);
    paintGround(p);
    if (alongTape()) {
        paintTape(p);
    } else if (place_.brushing()) {
        paintBrush(p);
        paintGoals(p);
        paintGrips(p);
    }
    const double tall = scale().tall;
    p.setPen(t.quiet);
    if (!place_.standpoint.cursor() && !alongTape())
        p.drawText(rect().adjusted(40, 4, -8, 0), Qt::AlignLeft | Qt::AlignTop, tr("middle of the view"));
    p.drawText(rect().adjusted(0, 4, -8, 0), Qt::AlignRight | Qt::AlignTop,
               alongTape() ? tr("heights ×%1").arg(tall, 0, 'g', 2)
                           : tr("%1 m across · heights ×%2").arg(2 * reach_, 0, 'g', 4).arg(tall, 0, 'g', 2));
}

// Altitude lines at pleasant steps.
void Section::paintAltitudes(QPainter& p) const {
    const Theme& t = theme();
    const Scale sc = scale();
    const double span = height() / (sc.perMetre * sc.tall);
    const double power = std::pow(10.0, std::floor(std::log10(span / 3)));
    const double step = span / 3 > 5 * power ? 5 * power : span / 3 > 2 * power ? 2 * power : power;
    QFont small = p.font();
    small.setPixelSize(scaled(10));
    p.setFont(small);
    for (double a = std::ceil((sc.level - span / 2) / step) * step; a < sc.level + span / 2; a += step) {
        const double y = at(0, a).y();
        p.setPen(QPen(t.line, 1, Qt::DotLine));
        p.drawLine(QPointF(34, y), QPointF(width(), y));
        p.setPen(t.quiet);
        p.drawText(QRectF(4, y - 7, 40, 14), Qt::AlignVCenter, QString::number(a, 'g', 5));
    }
}

// The ground that is cut, and what of it is too steep to walk.
void Section::paintGround(QPainter& p) const {
    const Theme& t = theme();
    QPainterPath cut, surface;
    bool down = false;
    for (int i = 0; i < kSamples; ++i) {
        const float h = ground_[static_cast<size_t>(i)];
        if (std::isnan(h)) {
            down = false;
            continue;
        }
        const QPointF q = at((2.0 * i / (kSamples - 1) - 1) * reach_, h);
        if (down) surface.lineTo(q);
        else surface.moveTo(q);
        if (!down) cut.moveTo(q.x(), height()), cut.lineTo(q);
        else cut.lineTo(q);
        if (i + 1 == kSamples || std::isnan(ground_[static_cast<size_t>(i) + 1])) cut.lineTo(q.x(), height());
        down = true;
    }
    QColor earth = t.ground;
    earth.setAlpha(150);
    p.fillPath(cut, earth);
    p.strokePath(surface, QPen(t.text, 1.5));
    paintWater(p);
    // What is too steep to walk.
    const double limit = std::tan(view_.sight().walkable * kRadians), between = 2 * reach_ / (kSamples - 1);
    p.setPen(QPen(t.active.lighter(125), 2.4));
    for (int i = 0; i + 1 < kSamples; ++i) {
        const float a = ground_[static_cast<size_t>(i)], b = ground_[static_cast<size_t>(i) + 1];
        if (!(std::abs(b - a) > limit * between)) continue;
        p.drawLine(at((2.0 * i / (kSamples - 1) - 1) * reach_, a),
                   at((2.0 * (i + 1) / (kSamples - 1) - 1) * reach_, b));
    }
}

// Water over the ground, and its surface.
void Section::paintWater(QPainter& p) const {
    const Theme& t = theme();
    QColor deep = t.water;
    deep.setAlpha(110);
    for (int i = 0; i + 1 < kSamples; ++i) {
        const size_t k = static_cast<size_t>(i);
        const float a = water_[k], b = water_[k + 1], low = ground_[k], next = ground_[k + 1];
        if ((a == kDry && b == kDry) || std::isnan(low) || std::isnan(next)) continue;
        // A shore lies between a wet sample and a dry one.
        const auto left = [&](float h) { return at((2.0 * i / (kSamples - 1) - 1) * reach_, h); };
        const auto right = [&](float h) { return at((2.0 * (i + 1) / (kSamples - 1) - 1) * reach_, h); };
        const float from = a == kDry ? b : a, to = b == kDry ? a : b;
        QPolygonF body{left(std::min(low, from)), left(from), right(to), right(std::min(next, to))};
        p.setPen(Qt::NoPen);
        p.setBrush(deep);
        p.drawPolygon(body);
        p.setPen(QPen(t.water, 1.6));
        p.drawLine(left(std::max(from, a == kDry ? std::min(low, from) : from)), right(to));
    }
}

// From one end of the tape to the other, in numbers.
void Section::paintTape(QPainter& p) const {
    const Theme& t = theme();
    const double rise = ground_.back() - ground_.front(), length = 2 * reach_;
    p.setPen(QPen(t.quiet, 1.2, Qt::DashLine));
    p.drawLine(at(-reach_, ground_.front()), at(reach_, ground_.back()));
    p.setPen(t.text);
    p.drawText(rect().adjusted(40, 6, -8, 0), Qt::AlignLeft | Qt::AlignTop,
               tr("%1 m along, %2%3 m, %4° (%5 %)")
                   .arg(length, 0, 'f', 1)
                   .arg(rise < 0 ? "" : "+")
                   .arg(rise, 0, 'f', 2)
                   .arg(std::atan2(rise, length) * kDegrees, 0, 'f', 1)
                   .arg(100 * rise / length, 0, 'f', 1));
}

void Section::paintBrush(QPainter& p) const {
    const Theme& t = theme();
    const StrokeSettings& s = place_.toolbox.settings();
    // The brush follows the ground: its profile stands on the surface.
    QPainterPath crown;
    QPolygonF fill;
    for (int i = 0; i <= 80; ++i) {
        const double share = i / 40.0 - 1, metres = share * s.radius;
        // A square may reach further than its radius along a diagonal; the curve ends at the radius either way.
        const QPointF q = at(metres, groundAt(metres) + profileHeight(share));
        if (i) crown.lineTo(q);
        else crown.moveTo(q);
        fill << q;
    }
    for (int i = 80; i >= 0; --i) fill << at((i / 40.0 - 1) * s.radius, groundAt((i / 40.0 - 1) * s.radius));
    QColor soft = t.brush;
    soft.setAlpha(70);
    p.setPen(Qt::NoPen);
    p.setBrush(soft);
    p.drawPolygon(fill);
    p.strokePath(crown, QPen(t.brush, 1.6));
}

// The heights that the tool works towards or keeps to.
void Section::paintGoals(QPainter& p) const {
    const Theme& t = theme();
    const StrokeSettings& s = place_.toolbox.settings();
    if (uses(s.tool, settings::height) && s.height) {
        p.setPen(QPen(t.active.lighter(130), 1.4, Qt::DashLine));
        const double y = at(0, *s.height).y();
        p.drawLine(QPointF(0, y), QPointF(width(), y));
        p.drawText(QRectF(0, y - 15, width() - 6, 14), Qt::AlignRight, tr("%1 m").arg(*s.height, 0, 'f', 2));
    }
    const auto level = [&](const std::optional<float>& altitude, const QString& name) {
        if (!altitude) return;
        p.setPen(QPen(t.brush, 1.2, Qt::DashDotLine));
        const double y = at(0, *altitude).y();
        p.drawLine(QPointF(34, y), QPointF(width(), y));
        p.drawText(QRectF(0, y - 14, width() - 6, 13), Qt::AlignRight, name.arg(*altitude, 0, 'f', 1));
    };
    level(s.limits.ceiling, tr("never above %1 m"));
    level(s.limits.floor, tr("never below %1 m"));
    if (uses(s.tool, settings::step)) {
        // The treads that the ground will step along.
        p.setPen(QPen(t.active.lighter(130), 1, Qt::DashLine));
        const double low = std::floor(low_ / s.step) * s.step;
        for (int i = 0; i < 60 && low + i * s.step <= high_ + s.step; ++i) {
            const double y = at(0, low + i * s.step).y();
            p.drawLine(QPointF(34, y), QPointF(width(), y));
        }
    }
}

void Section::paintGrips(QPainter& p) const {
    const Theme& t = theme();
    for (const Grip g : {Grip::edge, Grip::crown, Grip::shoulder}) {
        const bool lively = g == held_ || (held_ == Grip::none && g == near_);
        p.setPen(QPen(t.brush, 1.6));
        p.setBrush(lively ? t.brush : t.panel);
        p.drawEllipse(grip(g), lively ? 5.5 : 4.5, lively ? 5.5 : 4.5);
    }
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

bool Section::take(const QPointF& pixel) {
    if (!place_.brushing() || alongTape()) return false;
    held_ = gripNear(pixel);
    before_ = place_.toolbox.settings();
    return held_ != Grip::none;
}

void Section::hover(const QPointF& pixel) {
    near_ = gripNear(pixel);
    setCursor(near_ == Grip::none ? Qt::ArrowCursor : near_ == Grip::crown ? Qt::SizeVerCursor : Qt::SizeHorCursor);
    update();
}

void Section::pull(const QPointF& pixel) {
    const Scale sc = scale();
    const double metres = std::abs(pixel.x() - width() / 2.0) / sc.perMetre;
    const double altitude = sc.level - (pixel.y() - height() / 2.0) / (sc.perMetre * sc.tall);
    place_.toolbox.changeSettings([&](StrokeSettings& s) {
        if (held_ == Grip::edge) s.radius = static_cast<float>(metres);
        if (held_ == Grip::shoulder)
            s.falloff.softness = static_cast<float>(2 * (1 - std::min(metres / s.radius, 1.0)));
        if (held_ == Grip::crown) {
            const double up = (altitude - centreAltitude_) * specOf(s.tool).direction;
            s.strength = static_cast<float>(hasRate(s.tool) ? up : up / (s.radius * 0.5));
        }
    });
}

void Section::end(bool keep) {
    held_ = Grip::none;
    if (!keep && place_.toolbox.tool() == before_.tool)
        place_.toolbox.changeSettings([&](StrokeSettings& s) { s = before_; });
    read();
}

}  // namespace jam
