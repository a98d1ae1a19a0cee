#include "panels/pulled.h"

#include <QApplication>
#include <QKeyEvent>
#include <QMouseEvent>

#include "workplace/document.h"

namespace jam {

Pulled::Pulled(Document& document, QWidget* parent) : QWidget(parent) {
    // What it holds may be gone with the level that it was of.
    document.on(About::level, this, [this] { letGo(false); });
}

Pulled::~Pulled() { qApp->removeEventFilter(this); }

void Pulled::mousePressEvent(QMouseEvent* e) {
    if (e->button() != Qt::LeftButton || pulling_ || !take(e->position())) return;
    pulling_ = true;
    qApp->installEventFilter(this);
    update();
}

void Pulled::mouseMoveEvent(QMouseEvent* e) {
    if (pulling_) pull(e->position());
    else hover(e->position());
}

void Pulled::mouseReleaseEvent(QMouseEvent* e) {
    if (e->button() == Qt::LeftButton) letGo(true);
}

void Pulled::hideEvent(QHideEvent* e) {
    letGo(true);
    QWidget::hideEvent(e);
}

bool Pulled::eventFilter(QObject* watched, QEvent* e) {
    const bool ofWindow = watched == window();
    if (ofWindow && (e->type() == QEvent::WindowDeactivate || e->type() == QEvent::WindowBlocked)) letGo(true);
    // Before it is a shortcut of anybody else.
    if ((e->type() == QEvent::ShortcutOverride || e->type() == QEvent::KeyPress) &&
        static_cast<QKeyEvent*>(e)->key() == Qt::Key_Escape) {
        letGo(false);
        e->accept();
        return true;
    }
    return QWidget::eventFilter(watched, e);
}

void Pulled::letGo(bool keep) {
    if (!pulling_) return;
    pulling_ = false;
    qApp->removeEventFilter(this);
    end(keep);
    update();
}

}  // namespace jam
