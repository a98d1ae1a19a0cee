#include "stations/cover/layer_strip.h"

#include <QContextMenuEvent>
#include <QHelpEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QToolTip>
#include <QWheelEvent>

#include "layer_art.h"
#include "surveyor.h"
#include "theme.h"

namespace jam {

namespace {
constexpr int kGap = 8, kTop = 2;
}

LayerStrip::LayerStrip(Workplace& place, const Surveyor& surveyor, QWidget* parent)
    : QWidget(parent), place_(place), surveyor_(surveyor) {
    connect(&place.document, &Document::layersChanged, this, &LayerStrip::again);
    connect(&place.standpoint, &Standpoint::layerChosen, this, &LayerStrip::again);
    connect(&place.document, &Document::replaced, this, &LayerStrip::again);
    connect(&surveyor, &Surveyor::found, this, &LayerStrip::again);
    again();
}

void LayerStrip::again() {
    setMinimumSize(sizeHint());
    updateGeometry();
    update();
}

QSize LayerStrip::sizeHint() const {
    int shown = 1;
    for (int i = 0; i < count(); ++i) shown += !tile(i).isEmpty();
    return {shown * across(), size_ + 40};
}

QRect LayerStrip::tile(int index) const {
    const auto shows = [this](int i) {
        return QString::fromStdString(place_.document.level().layers[static_cast<size_t>(i)].name)
            .contains(search_, Qt::CaseInsensitive);
    };
    if (index < count() && !shows(index)) return {};
    int place = 0;
    for (int i = 0; i < index && i < count(); ++i) place += shows(i);
    return {place * across() + 2, kTop, size_, size_ + 34};
}

void LayerStrip::setThumbnail(int size) {
    size = std::clamp(size, kSmallest, kLargest);
    if (size == size_) return;
    size_ = size;
    again();
    emit resized();
}

void LayerStrip::search(const QString& text) {
    search_ = text.trimmed();
    again();
}

void LayerStrip::wheelEvent(QWheelEvent* e) {
    if (!(e->modifiers() & Qt::ControlModifier)) return QWidget::wheelEvent(e);
    setThumbnail(size_ + (e->angleDelta().y() > 0 ? 8 : -8));
    e->accept();
}

int LayerStrip::indexAt(const QPoint& pixel) const {
    for (int i = 0; i <= count(); ++i)
        if (tile(i).contains(pixel)) return i;
    return -1;
}

void LayerStrip::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    const Theme& t = theme();
    QFont small = font();
    small.setPixelSize(11);
    const Level& level = place_.document.level();
    for (int i = 0; i < count(); ++i) {
        if (tile(i).isEmpty()) continue;
        const Layer& l = level.layers[static_cast<size_t>(i)];
        const QRect r = tile(i), square(r.x(), r.y(), size_, size_);
        const bool active = l.id == place_.standpoint.layer();
        QPainterPath round;
        round.addRoundedRect(square, 7, 7);
        p.save();
        p.setClipPath(round);
        p.setOpacity(l.hidden ? 0.3 : 1);
        p.drawPixmap(square, layerThumbnail(l, size_, devicePixelRatioF()));
        p.restore();
        if (l.hidden)
            p.drawPixmap(square.center() - QPoint(12, 12), iconPixmap("eye-off", 24, t.text, devicePixelRatioF()));
        if (l.locked)
            p.drawPixmap(square.topRight() - QPoint(20, -4), iconPixmap("lock", 16, t.text, devicePixelRatioF()));
        p.setPen(QPen(active ? t.active.lighter(130) : t.line, active ? 3 : 1));
        p.setBrush(Qt::NoBrush);
        p.drawPath(round);
        QFont name = small;
        name.setBold(active);
        p.setFont(name);
        p.setPen(t.text);
        p.drawText(QRect(r.x() - 3, r.y() + size_ + 2, size_ + 6, 15), Qt::AlignHCenter,
                   QFontMetrics(name).elidedText(QString::fromStdString(l.name), Qt::ElideRight, size_ + 6));
        QString share = i == 0 ? tr("covers all") : QString();
        if (const auto& f = surveyor_.findings()) {
            const double s = f->shares[static_cast<size_t>(i)];
            share = s < 1e-5 ? tr("unused") : tr("%1 %").arg(s * 100, 0, 'f', s < 0.0995 ? 1 : 0);
        }
        p.setFont(small);
        p.setPen(t.quiet);
        p.drawText(QRect(r.x(), r.y() + size_ + 17, size_, 15), Qt::AlignHCenter, share);
    }
    const QRect add = tile(count()), square(add.x(), add.y(), size_, size_);
    p.setPen(QPen(t.line, 1.4, count() < kMaxLayers ? Qt::DashLine : Qt::DotLine));
    p.drawRoundedRect(square, 7, 7);
    p.drawPixmap(square.center() - QPoint(11, 11), iconPixmap("add", 22, t.quiet, devicePixelRatioF()));
    p.setFont(small);
    p.setPen(t.quiet);
    p.drawText(QRect(add.x(), add.y() + size_ + 2, size_, 15), Qt::AlignHCenter, tr("Add layer"));
    if (dropAt_ >= 0) {
        const int x = tile(dropAt_).x() - kGap / 2 - 1;
        p.fillRect(QRect(x, kTop, 3, size_), t.active.lighter(130));
    }
}

bool LayerStrip::event(QEvent* e) {
    if (e->type() == QEvent::ToolTip) {
        const int i = indexAt(static_cast<QHelpEvent*>(e)->pos());
        if (i >= 0 && i < count())
            QToolTip::showText(
                static_cast<QHelpEvent*>(e)->globalPos(),
                tr("%1: one repeat spans %2 m. Drag to reorder; layers lie over those to their left.")
                    .arg(QString::fromStdString(place_.document.level().layers[static_cast<size_t>(i)].name))
                    .arg(place_.document.level().layers[static_cast<size_t>(i)].tileSize),
                this);
        return true;
    }
    return QWidget::event(e);
}

void LayerStrip::mousePressEvent(QMouseEvent* e) {
    const int i = indexAt(e->pos());
    if (i < 0 || e->button() != Qt::LeftButton) return;
    if (i == count()) {
        emit addWanted();
        return;
    }
    place_.chooseLayer(place_.document.level().layers[static_cast<size_t>(i)].id);
    dragged_ = i;
    pressed_ = e->pos();
}

void LayerStrip::mouseMoveEvent(QMouseEvent* e) {
    if (dragged_ < 0 || !search_.isEmpty() || (e->pos() - pressed_).manhattanLength() < 12) return;
    dropAt_ = std::clamp((e->pos().x() + size_ / 2) / across(), 0, count());
    update();
}

void LayerStrip::mouseReleaseEvent(QMouseEvent*) {
    const int from = std::exchange(dragged_, -1), drop = std::exchange(dropAt_, -1);
    if (from < 0 || drop < 0) return update();
    const int to = drop > from ? drop - 1 : drop;
    if (to != from) place_.document.edit(tr("Reorder layers"), [=](Level& l) { moveLayer(l, from, to); });
    update();
}

void LayerStrip::contextMenuEvent(QContextMenuEvent* e) {
    const int i = indexAt(e->pos());
    if (i < 0 || i >= count()) return;
    place_.chooseLayer(place_.document.level().layers[static_cast<size_t>(i)].id);
    emit menuWanted(place_.standpoint.layer(), e->globalPos());
}

}  // namespace jam
