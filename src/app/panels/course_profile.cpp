#include "panels/course_profile.h"

#include <cmath>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include "base/maths.h"
#include "level/ground.h"
#include "looks/theme.h"
#include "view/ground_view.h"

namespace jam {

namespace {
constexpr double kLeft = 40, kRight = 14, kAbove = 26, kBelow = 12;  // pixels
constexpr double kNear = 12;
}  // namespace

CourseProfile::CourseProfile(Workplace& place, const GroundView& view, QWidget* parent)
    : Pulled(place.document, parent), place_(place), view_(view), courses_(place) {
    setMinimumSize(260, 100);
    setFocusPolicy(Qt::ClickFocus);
    setToolTip(tr("The course along its line. Drag a post up or down; brighter where it is too steep to walk."));
    const auto again = [this] {
        read();
        update();
    };
    connect(&place.standpoint, &Standpoint::courseChosen, this, again);
    place.document.on(About::strata | About::history | About::preview, this, again);
    connect(&view, &GroundView::sightChanged, this, qOverload<>(&QWidget::update));
    read();
}

bool CourseProfile::wanted() const { return place_.standpoint.coursing() && courses_.chosen(); }

void CourseProfile::read() {
    line_.clear();
    below_.clear();
    posts_.clear();
    if (!wanted()) return;
    const Level& level = place_.document.level();
    const auto at = static_cast<size_t>(courses_.place());
    bank_ = courses_.chosen()->use == CourseUse::bank;
    line_ = lineOf(level, at);
    Level below = level;  // without the course and all above it
    below.strata.resize(at);
    if (below.strata.empty()) below.strata = {level.strata[at]}, below.strata[0].visible = false;
    for (const LinePoint& p : line_) below_.push_back(static_cast<float>(altitudeAt(below, p.x, p.z)));
    if (bank_)
        for (size_t i = 0; i < line_.size(); ++i) line_[i].height += below_[i];
    double low = 1e9, high = -1e9;
    int seen = -1;
    for (size_t i = 0; i < line_.size(); ++i) {
        low = std::min({low, line_[i].height, static_cast<double>(below_[i])});
        high = std::max({high, line_[i].height, static_cast<double>(below_[i])});
        if (line_[i].post != seen && posts_.size() < courses_.chosen()->posts.size()) posts_.push_back(i);
        seen = line_[i].post;
    }
    if (held_ < 0) sight_ = {std::max(line_.back().along, 0.1), low, std::max(high, low + 1)};
}

QPointF CourseProfile::at(double along, double metres) const {
    return {kLeft + along / sight_.length * (width() - kLeft - kRight),
            height() - kBelow - (metres - sight_.low) / (sight_.high - sight_.low) * (height() - kAbove - kBelow)};
}

QPointF CourseProfile::postAt(int post) const {
    const LinePoint& p = line_[posts_[static_cast<size_t>(post)]];
    return at(p.along, p.height);
}

void CourseProfile::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    p.setPen(Qt::NoPen);
    p.setBrush(t.back);
    p.drawRoundedRect(rect(), 7, 7);
    if (line_.empty()) return;
    QFont small = font();
    small.setPixelSize(scaled(10));
    p.setFont(small);
    p.setPen(t.quiet);
    for (const double h : {sight_.low, sight_.high}) {
        p.setPen(QPen(t.line, 1, Qt::DotLine));
        p.drawLine(QPointF(kLeft - 4, at(0, h).y()), QPointF(width(), at(0, h).y()));
        p.setPen(t.quiet);
        p.drawText(QRectF(4, at(0, h).y() - 8, kLeft - 6, 16), Qt::AlignVCenter, QString::number(h, 'f', 1));
    }
    // The ground below, cut away.
    QPainterPath earth;
    for (size_t i = 0; i < line_.size(); ++i) {
        const QPointF q = at(line_[i].along, below_[i]);
        if (i) earth.lineTo(q);
        else earth.moveTo(q);
    }
    const QPainterPath surface = earth;
    earth.lineTo(at(sight_.length, 0).x(), height());
    earth.lineTo(kLeft, height());
    QColor fill = t.ground;
    fill.setAlpha(120);
    p.setClipRect(rect().adjusted(1, 1, -1, -1));
    p.fillPath(earth, fill);
    p.strokePath(surface, QPen(t.quiet, 1.2));
    // The line, where it passes and where it does not.
    const double limit = std::tan(view_.sight().walkable * kRadians);
    for (size_t i = 0; i + 1 < line_.size(); ++i) {
        const double run = std::max(line_[i + 1].along - line_[i].along, 1e-6);
        const bool steep = std::abs(line_[i + 1].height - line_[i].height) > limit * run;
        p.setPen(QPen(steep ? t.active.lighter(125) : t.brush, steep ? 3 : 2));
        p.drawLine(at(line_[i].along, line_[i].height), at(line_[i + 1].along, line_[i + 1].height));
    }
    for (int i = 0; i < static_cast<int>(posts_.size()); ++i) {
        const bool own = i == place_.standpoint.post();
        p.setPen(QPen(t.brush, 1.6));
        p.setBrush(own ? t.brush : t.panel);
        p.drawEllipse(postAt(i), own ? 5.5 : 4.5, own ? 5.5 : 4.5);
    }
    p.setPen(t.quiet);
    double steepest = 0;
    for (size_t i = 0; i + 1 < line_.size(); ++i)
        steepest = std::max(steepest, std::abs(line_[i + 1].height - line_[i].height) /
                                          std::max(line_[i + 1].along - line_[i].along, 1e-6));
    const double tall = (height() - kAbove - kBelow) / (sight_.high - sight_.low) /
                        ((width() - kLeft - kRight) / sight_.length);
    p.drawText(QRectF(kLeft, 4, width() - kLeft - kRight, 16), Qt::AlignRight,
               tr("%1 m along · up to %2° · heights ×%3")
                   .arg(sight_.length, 0, 'f', 1)
                   .arg(std::atan(steepest) * kDegrees, 0, 'f', 1)
                   .arg(tall, 0, 'g', 2));
}

bool CourseProfile::take(const QPointF& pixel) {
    for (int i = 0; i < static_cast<int>(posts_.size()); ++i) {
        const QPointF d = postAt(i) - pixel;
        if (std::hypot(d.x(), d.y()) > kNear) continue;
        if (const QString no = place_.document.whyNoStroke(); !no.isEmpty()) {
            place_.tell(no);
            return false;
        }
        place_.standpoint.setCourse(place_.standpoint.course(), i);
        held_ = i;
        heldHeight_ = NAN;
        return true;
    }
    return false;
}

void CourseProfile::pull(const QPointF& pixel) {
    if (held_ < 0 || held_ >= static_cast<int>(posts_.size())) return;
    const double y = std::clamp(pixel.y(), -200.0, height() + 200.0);
    double h = sight_.low + (height() - kBelow - y) / (height() - kAbove - kBelow) * (sight_.high - sight_.low);
    if (bank_) h -= below_[posts_[static_cast<size_t>(held_)]];
    heldHeight_ = h;
    Result<Level> next = courses_.tried(place_.standpoint.course(), [&](Course& c) {
        c.posts[static_cast<size_t>(held_)].height = static_cast<float>(h);
    });
    if (next) place_.document.showPreview({next.take(), {}});
}

void CourseProfile::end(bool keep) {
    const int post = std::exchange(held_, -1);
    place_.document.dropPreview();
    if (keep && !std::isnan(heldHeight_))
        courses_.edit(tr("Height of a post"), place_.standpoint.course(), [&](Course& c) {
            if (post < static_cast<int>(c.posts.size()))
                c.posts[static_cast<size_t>(post)].height = static_cast<float>(heldHeight_);
        });
    read();
}

}  // namespace jam
