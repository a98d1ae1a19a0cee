#include "stations/dress/kind_strip.h"

#include <QContextMenuEvent>
#include <QHelpEvent>
#include <QLocale>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>

#include "looks/kind_art.h"
#include "looks/theme.h"
#include "watch/surveyor.h"

namespace jam {

namespace {
constexpr int kSide = 62, kAcross = 74, kTop = 2;
}

KindStrip::KindStrip(Workplace& place, const Surveyor& surveyor, QWidget* parent)
    : QWidget(parent), place_(place), surveyor_(surveyor) {
    setAccessibleName(tr("Kinds"));
    place.document.on(About::dress, this, &KindStrip::again);
    connect(&place.standpoint, &Standpoint::kindChosen, this, &KindStrip::again);
    connect(&surveyor, &Surveyor::found, this, &KindStrip::again);
    again();
}

void KindStrip::again() {
    setMinimumSize(sizeHint());
    updateGeometry();
    update();
}

void KindStrip::search(const QString& text) {
    search_ = text.trimmed();
    again();
}

bool KindStrip::shows(int index) const {
    return QString::fromStdString(place_.document.level().kinds[static_cast<size_t>(index)].name)
        .contains(search_, Qt::CaseInsensitive);
}

QRect KindStrip::tile(int index) const {
    if (index < count() && !shows(index)) return {};
    int place = 0;
    for (int i = 0; i < index && i < count(); ++i) place += shows(i);
    return {place * kAcross + 2, kTop, kSide, kSide + scaled(34)};
}

QSize KindStrip::sizeHint() const { return {tile(count()).right() + 6, kSide + scaled(34) + 6}; }

int KindStrip::indexAt(const QPoint& pixel) const {
    for (int i = 0; i <= count(); ++i)
        if (tile(i).contains(pixel)) return i;
    return -1;
}

QString KindStrip::countOf(int index) const {
    const Kind& k = place_.document.level().kinds[static_cast<size_t>(index)];
    if (k.hidden) return tr("hidden");
    if (!surveyor_.findings()) return {};
    const long long n = surveyor_.findings()->dress.of(k.id).standing;
    return n == 0 ? tr("none") : QLocale().toString(n);
}

void KindStrip::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    const Theme& t = theme();
    QFont small = font();
    small.setPixelSize(scaled(11));
    for (int i = 0; i < count(); ++i) {
        const QRect r = tile(i);
        if (r.isEmpty()) continue;
        const Kind& k = place_.document.level().kinds[static_cast<size_t>(i)];
        const QRect square(r.x(), r.y(), kSide, kSide);
        const bool active = k.id == place_.standpoint.kind();
        p.setPen(QPen(active ? t.active.lighter(130) : t.line, active ? 3 : 1));
        p.setBrush(t.raised);
        p.drawRoundedRect(square, 7, 7);
        p.setOpacity(k.hidden ? 0.3 : 1);
        p.drawPixmap(square.adjusted(4, 4, -4, -4), kindPicture(k, QSize(kSide - 8, kSide - 8), devicePixelRatioF()));
        p.setOpacity(1);
        if (k.hidden)
            p.drawPixmap(square.center() - QPoint(12, 12), iconPixmap("eye-off", 24, t.text, devicePixelRatioF()));
        if (k.locked)
            p.drawPixmap(square.topRight() - QPoint(20, -4), iconPixmap("lock", 16, t.text, devicePixelRatioF()));
        QFont name = small;
        name.setBold(active);
        p.setFont(name);
        p.setPen(t.text);
        p.drawText(QRect(r.x() - 5, r.y() + kSide + 1, kSide + 10, scaled(15)), Qt::AlignHCenter,
                   QFontMetrics(name).elidedText(QString::fromStdString(k.name), Qt::ElideRight, kSide + 10));
        p.setFont(small);
        p.setPen(t.quiet);
        p.drawText(QRect(r.x(), r.y() + kSide + scaled(16), kSide, scaled(15)), Qt::AlignHCenter, countOf(i));
    }
    const QRect add = tile(count()), square(add.x(), add.y(), kSide, kSide);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(t.line, 1.4, Qt::DashLine));
    p.drawRoundedRect(square, 7, 7);
    p.drawPixmap(square.center() - QPoint(11, 11), iconPixmap("add", 22, t.quiet, devicePixelRatioF()));
    p.setFont(small);
    p.setPen(t.quiet);
    p.drawText(QRect(add.x(), add.y() + kSide + 1, kSide, scaled(15)), Qt::AlignHCenter, tr("Add a kind"));
}

void KindStrip::mousePressEvent(QMouseEvent* e) {
    const int i = indexAt(e->pos());
    if (i < 0 || e->button() != Qt::LeftButton) return;
    if (i == count()) return emit addWanted(mapToGlobal(tile(i).topLeft()));
    place_.chooseKind(place_.document.level().kinds[static_cast<size_t>(i)].id);
}

void KindStrip::contextMenuEvent(QContextMenuEvent* e) {
    const int i = indexAt(e->pos());
    if (i < 0 || i >= count()) return;
    place_.chooseKind(place_.document.level().kinds[static_cast<size_t>(i)].id);
    emit menuWanted(e->globalPos());
}

bool KindStrip::event(QEvent* e) {
    if (e->type() == QEvent::ToolTip) {
        const auto* help = static_cast<QHelpEvent*>(e);
        if (const int i = indexAt(help->pos()); i >= 0 && i < count())
            QToolTip::showText(
                help->globalPos(),
                tr("%1, %2 stand. What comes after it keeps off it when its sheet says so.")
                    .arg(QString::fromStdString(place_.document.level().kinds[static_cast<size_t>(i)].name),
                         countOf(i)),
                this);
        return true;
    }
    return QWidget::event(e);
}

}  // namespace jam
