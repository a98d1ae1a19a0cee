#include "stations/cover/near_far.h"

#include <cmath>
#include <QPainter>
#include <QPainterPath>

#include "base/maths.h"
#include "cover/lay.h"
#include "level/ground.h"
#include "looks/layer_art.h"
#include "looks/theme.h"
#include "stations/cover/material_view.h"
#include "view/ground_view.h"

namespace jam {

namespace {
constexpr int kHeight = 116, kGap = 4, kWords = 34;
constexpr double kEyes = 1.7;
}  // namespace

NearFar::NearFar(Workplace& place, GroundView& view, QWidget* parent) : QWidget(parent), place_(place), view_(view) {
    setFixedHeight(kHeight + scaled(kWords));
    setToolTip(tr("The ground at the cursor from walking height, and from %1 m above.").arg(kFarMetres));
    soon_.setSingleShot(true);
    soon_.setInterval(400);
    connect(&soon_, &QTimer::timeout, this, &NearFar::look);
    place.document.on(About::samples | About::layers | About::sun, this, &NearFar::later);
    connect(&place.standpoint, &Standpoint::layerChosen, this, &NearFar::later);
    connect(&place.standpoint, &Standpoint::cursorMoved, this, &NearFar::later);
}

void NearFar::later() {
    if (isVisible()) soon_.start();
}

void NearFar::showEvent(QShowEvent*) { later(); }

void NearFar::look() {
    // Never in the way of the hand.
    if (place_.document.stroking() || !view_.settled()) return soon_.start();
    const Level& level = place_.document.level();
    glm::dvec3 at(level.originX + level.width() / 2, 0, level.originZ + level.depth() / 2);
    if (place_.standpoint.cursor()) at = *place_.standpoint.cursor();
    at.y = altitudeAt(level, at.x, at.z);
    const int width = static_cast<int>((this->width() - kGap) / 2 * devicePixelRatioF()),
              height = static_cast<int>(kHeight * devicePixelRatioF());
    Camera near;
    near.width = width;
    near.height = height;
    // Some steps before the place, on the same side as the eye that looks at it now, so that both show the same.
    const glm::dvec3 eye = view_.camera().at;
    glm::dvec2 back(eye.x - at.x, eye.z - at.z);
    const double length = std::sqrt(back.x * back.x + back.y * back.y);
    back = length > 0.1 ? back * (6 / length) : glm::dvec2(0, 6);
    near.at = {at.x + back.x, 0, at.z + back.y};
    near.at.y = altitudeAt(level, near.at.x, near.at.z) + kEyes;
    const glm::dvec3 towards = at - near.at;
    near.yaw = std::atan2(towards.x, -towards.z) * kDegrees;
    near.pitch = std::atan2(towards.y, std::hypot(towards.x, towards.z)) * kDegrees * 0.6;
    Camera far = near;
    far.at = {at.x, at.y + kFarMetres, at.z};
    far.pitch = -90;
    near_ = view_.pictureFrom(near);
    far_ = view_.pictureFrom(far);
    for (QImage* i : {&near_, &far_}) i->setDevicePixelRatio(devicePixelRatioF());
    if (const Layer* layer = place_.document.level().layer(place_.standpoint.layer())) {
        const auto m = materialOf(*layer);
        visible_ = m ? repeatVisibility(*m, *layer, kFarMetres) : 0;
        name_ = QString::fromStdString(layer->name);
    }
    update();
}

void NearFar::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const int half = (width() - kGap) / 2;
    const auto picture = [&](const QImage& image, int x, const QString& words) {
        QPainterPath round;
        round.addRoundedRect(QRectF(x, 0, half, kHeight), 6, 6);
        p.save();
        p.setClipPath(round);
        p.fillRect(QRect(x, 0, half, kHeight), theme().line);
        if (!image.isNull()) p.drawImage(QPoint(x, 0), image);
        QFont f = font();
        f.setPixelSize(scaled(11));
        p.setFont(f);
        const QRect tag(x + 6, 6, p.fontMetrics().horizontalAdvance(words) + 10, 16);
        p.setPen(Qt::NoPen);
        p.setBrush(QColor(20, 18, 24, 150));
        p.drawRoundedRect(tag, 4, 4);
        p.setPen(Qt::white);
        p.drawText(tag, Qt::AlignCenter, words);
        p.restore();
    };
    picture(near_, 0, tr("walking"));
    picture(far_, half + kGap, tr("from %1 m above").arg(kFarMetres));
    p.setPen(theme().quiet);
    const QString judged = visible_ < 0.1    ? tr("not to be seen")
                           : visible_ < 0.35 ? tr("hardly to be seen")
                                             : tr("plain to see");
    p.drawText(QRect(0, kHeight + 2, width(), scaled(kWords) - 2), Qt::AlignVCenter | Qt::TextWordWrap,
               name_.isEmpty()
                   ? QString()
                   : tr("Repeat of %1 from above: %2 %, %3.").arg(name_).arg(std::lround(visible_ * 100)).arg(judged));
}

}  // namespace jam
