#include "panels/fold.h"

#include <QSettings>
#include <QToolButton>
#include <QVBoxLayout>

namespace jam {

Fold::Fold(const QString& id, const QString& title, bool open, QWidget* parent) : QWidget(parent), title_(title) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(4);
    head_ = new QToolButton(this);
    head_->setObjectName(id);
    head_->setProperty("fold", true);
    head_->setCheckable(true);
    head_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    head_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    head_->setFocusPolicy(Qt::TabFocus);
    all->addWidget(head_);
    body_ = new QWidget(this);
    column_ = new QVBoxLayout(body_);
    column_->setContentsMargins(0, 0, 0, 4);
    column_->setSpacing(6);
    all->addWidget(body_);
    setHint({});
    connect(head_, &QToolButton::toggled, this, [this, id](bool on) {
        setOpen(on);
        QSettings().setValue("folds/" + id, on);
    });
    setOpen(QSettings().value("folds/" + id, open).toBool());
}

void Fold::setOpen(bool open) {
    head_->setChecked(open);
    head_->setArrowType(open ? Qt::DownArrow : Qt::RightArrow);
    body_->setVisible(open);
}

bool Fold::isOpen() const { return head_->isChecked(); }

void Fold::setHint(const QString& hint) { head_->setText(hint.isEmpty() ? title_ : title_ + "  ·  " + hint); }

}  // namespace jam
