#include "stations/cover/layer_strip.h"

#include <QContextMenuEvent>
#include <QHelpEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QToolTip>
#include <QWheelEvent>

#include "looks/layer_art.h"
#include "looks/theme.h"
#include "watch/surveyor.h"

namespace jam {

namespace {
constexpr int kGap = 8, kTop = 2;
}

int LayerStrip::smallDown() { return kSide + scaled(14); }

LayerStrip::LayerStrip(Workplace& place, const Surveyor& surveyor, QWidget* parent)
    : Pulled(place.document, parent), place_(place), surveyor_(surveyor) {
    place.document.on(About::layers, this, &LayerStrip::again);
    connect(&place.standpoint, &Standpoint::layerChosen, this, &LayerStrip::again);
    connect(&surveyor, &Surveyor::found, this, &LayerStrip::again);
    again();
}

void LayerStrip::again() {
    // The room is the scroll area's to change, and the strip keeps its size then.
    if (parentWidget()) parentWidget()->installEventFilter(this);
    arrange();
    setMinimumSize(sizeHint());
    updateGeometry();
    update();
}

// With the button that adds one.
int LayerStrip::shown() const {
    int n = 1;
    for (int i = 0; i < count(); ++i) n += shows(i);
    return n;
}

int LayerStrip::perRow() const { return (shown() + rows_ - 1) / rows_; }

// Two rows where one does not fit and there is little room, or where small pictures are asked for.
void LayerStrip::arrange() {
    constexpr int kLittleRoom = 360, kSmall = 46, kUsual = 62;
    const QWidget* room = parentWidget();  // of a scroll area; its bar must not decide whether it is needed
    const bool little = room && room->parentWidget() && size_ <= (room->width() < kLittleRoom ? kUsual : kSmall) &&
                        room->parentWidget()->height() >= 2 * smallDown() && shown() * (size_ + 8) > room->width();
    rows_ = little ? 2 : 1;
}

bool LayerStrip::eventFilter(QObject* watched, QEvent* e) {
    if (watched == parentWidget() && e->type() == QEvent::Resize) {
        const int before = rows_;
        arrange();
        if (rows_ != before) again();
    }
    return Pulled::eventFilter(watched, e);
}

QSize LayerStrip::sizeHint() const {
    return {perRow() * across(), rows_ > 1 ? rows_ * smallDown() : size_ + scaled(34) + 6};
}

bool LayerStrip::shows(int index) const {
    return QString::fromStdString(place_.document.level().layers[static_cast<size_t>(index)].name)
        .contains(search_, Qt::CaseInsensitive);
}

QRect LayerStrip::tile(int index) const {
    if (index < count() && !shows(index)) return {};
    int place = 0;
    for (int i = 0; i < index && i < count(); ++i) place += shows(i);
    if (rows_ == 1) return {place * across() + 2, kTop, size_, size_ + scaled(34)};
    const int row = perRow();
    return {place % row * kSmallAcross + 2, kTop + place / row * smallDown(), kSmallAcross - 4, smallDown()};
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
    small.setPixelSize(scaled(11));
    const Level& level = place_.document.level();
    for (int i = 0; i < count(); ++i) {
        if (tile(i).isEmpty()) continue;
        const Layer& l = level.layers[static_cast<size_t>(i)];
        const QRect r = tile(i), square(r.x() + (r.width() - side()) / 2, r.y(), side(), side());
        const bool active = l.id == place_.standpoint.layer();
        QPainterPath round;
        round.addRoundedRect(square, 7, 7);
        p.save();
        p.setClipPath(round);
        p.setOpacity(l.hidden ? 0.3 : 1);
        p.drawPixmap(square, layerThumbnail(l, side(), devicePixelRatioF()));
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
        p.drawText(QRect(r.x() - 3, r.y() + side() + 1, r.width() + 6, scaled(15)), Qt::AlignHCenter,
                   QFontMetrics(name).elidedText(QString::fromStdString(l.name), Qt::ElideRight, r.width() + 6));
        if (rows_ > 1) continue;  // how much it covers is told on hover
        const QString share = shareOf(i);
        p.setFont(small);
        p.setPen(t.quiet);
        p.drawText(QRect(r.x(), r.y() + size_ + scaled(16) + 1, size_, scaled(15)), Qt::AlignHCenter, share);
    }
    const QRect add = tile(count()), square(add.x() + (add.width() - side()) / 2, add.y(), side(), side());
    p.setPen(QPen(t.line, 1.4, count() < kMaxLayers ? Qt::DashLine : Qt::DotLine));
    p.drawRoundedRect(square, 7, 7);
    p.drawPixmap(square.center() - QPoint(11, 11), iconPixmap("add", 22, t.quiet, devicePixelRatioF()));
    p.setFont(small);
    p.setPen(t.quiet);
    p.drawText(QRect(add.x(), add.y() + side() + 1, add.width(), scaled(15)), Qt::AlignHCenter, tr("Add layer"));
    if (dropAt_ >= 0) {
        const QRect at = tile(dropAt_);
        p.fillRect(QRect(at.x() - kGap / 2 - 1, at.y(), 3, side()), t.active.lighter(130));
    }
}

QString LayerStrip::shareOf(int i) const {
    const auto& f = surveyor_.findings();
    if (!f) return i == 0 ? tr("covers all") : QString();
    const double s = f->shares[static_cast<size_t>(i)];
    return s < 1e-5 ? tr("unused") : tr("%1 %").arg(s * 100, 0, 'f', s < 0.0995 ? 1 : 0);
}

bool LayerStrip::event(QEvent* e) {
    if (e->type() == QEvent::ToolTip) {
        const int i = indexAt(static_cast<QHelpEvent*>(e)->pos());
        if (i >= 0 && i < count())
            QToolTip::showText(
                static_cast<QHelpEvent*>(e)->globalPos(),
                tr("%1, %2: one repeat spans %3 m. Drag to reorder; layers lie over those to their left.")
                    .arg(QString::fromStdString(place_.document.level().layers[static_cast<size_t>(i)].name),
                         shareOf(i))
                    .arg(place_.document.level().layers[static_cast<size_t>(i)].tileSize),
                this);
        return true;
    }
    return QWidget::event(e);
}

bool LayerStrip::take(const QPointF& pixel) {
    const int i = indexAt(pixel.toPoint());
    if (i < 0) return false;
    if (i == count()) {
        emit addWanted();
        return false;
    }
    place_.chooseLayer(place_.document.level().layers[static_cast<size_t>(i)].id);
    dragged_ = place_.standpoint.layer();
    pressed_ = pixel.toPoint();
    return true;
}

void LayerStrip::pull(const QPointF& pixel) {
    const QPoint at = pixel.toPoint();
    if (!search_.isEmpty() || (at - pressed_).manhattanLength() < 12) return;
    const int row = rows_ > 1 ? std::clamp(at.y() / smallDown(), 0, rows_ - 1) : 0;
    const int column = std::clamp((at.x() + side() / 2) / across(), 0, perRow());
    dropAt_ = std::clamp(row * perRow() + column, 0, count());
    update();
}

void LayerStrip::end(bool keep) {
    const uint32_t id = std::exchange(dragged_, 0);
    const int drop = std::exchange(dropAt_, -1), from = place_.document.level().layerIndex(id);
    if (!keep || from < 0 || drop < 0) return;
    const int to = drop > from ? drop - 1 : drop;
    if (to != from) place_.document.tryEdit(tr("Reorder layers"), [id, to](Level& l) { return moveLayer(l, id, to); });
}

void LayerStrip::contextMenuEvent(QContextMenuEvent* e) {
    const int i = indexAt(e->pos());
    if (i < 0 || i >= count()) return;
    place_.chooseLayer(place_.document.level().layers[static_cast<size_t>(i)].id);
    emit menuWanted(place_.standpoint.layer(), e->globalPos());
}

}  // namespace jam
