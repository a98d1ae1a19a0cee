#include "stations/dress/turntable.h"

#include <algorithm>
#include <QMouseEvent>
#include <QPainter>

#include "grow/recipe.h"
#include "looks/kind_art.h"
#include "looks/theme.h"

namespace jam {

Turntable::Turntable(QWidget* parent) : QWidget(parent) {
    setObjectName("kindPicture");
    setAccessibleName(tr("What the kind looks like"));
    setToolTip(tr("Pull sideways to turn it. The figure is 1.8 m tall."));
    setFixedHeight(scaled(150));
    setCursor(Qt::SizeHorCursor);
}

void Turntable::show(const Kind& kind) {
    kind_ = kind;
    kind_.coverage = kind_.base = kind_.held = kind_.sizes = {};
    update();
}

void Turntable::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    p.setPen(Qt::NoPen);
    p.setBrush(t.raised);
    p.drawRoundedRect(rect(), 6, 6);
    if (!kind_.taken && !checkGrowth(kind_.growth)) return;
    const auto meshes = meshesOf(kind_);
    const int n = static_cast<int>(meshes->variants.size()), shown = std::min(n, 2);
    const int figure = scaled(34), wide = (width() - figure - 8) / shown, tall = height() - scaled(10);
    for (int i = 0; i < shown; ++i) {
        const int variant = shown == 1 ? n - 1 : i * (n - 1) / (shown - 1);
        p.drawPixmap(figure + 4 + i * wide, 4,
                     kindPicture(kind_, QSize(wide - 4, tall), devicePixelRatioF(), turned_, variant));
    }
    // The largest fills the height, unless it is broad.
    const double metres = std::max<double>(
        {meshes->height, 2.0 * static_cast<double>(meshes->radius) * tall / std::max(wide - 4, 1), 1e-3});
    const double high = std::min(1.8 * static_cast<double>(tall) * 0.94 / metres, 3.0 * height()),
                 foot = height() - scaled(8);
    p.setClipRect(rect().adjusted(0, 2, 0, 0));
    p.setBrush(t.quiet);
    const double x = figure / 2.0 + 2, w = high * 0.12;
    p.drawRoundedRect(QRectF(x - w, foot - 0.82 * high, 2 * w, 0.82 * high), w, w);
    p.drawEllipse(QPointF(x, foot - 0.91 * high), 0.08 * high, 0.09 * high);
}

void Turntable::mousePressEvent(QMouseEvent* e) { from_ = e->position().x(), before_ = turned_; }

void Turntable::mouseMoveEvent(QMouseEvent* e) {
    turned_ = before_ + (e->position().x() - from_) * 0.8;
    update();
}

}  // namespace jam
