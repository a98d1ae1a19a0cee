#include "panels/page.h"

#include <QLabel>
#include <QVBoxLayout>

namespace jam {

QLabel* headingLabel(const QString& text, QWidget* parent) {
    auto* label = new QLabel(text, parent);
    label->setProperty("heading", true);
    return label;
}

QLabel* quietLabel(const QString& text, QWidget* parent) {
    auto* label = new QLabel(text, parent);
    label->setProperty("quiet", true);
    label->setWordWrap(true);
    return label;
}

QVBoxLayout* pageColumn(QWidget* page) {
    auto* c = new QVBoxLayout(page);
    c->setContentsMargins(0, 0, 0, 0);
    c->setSpacing(7);
    return c;
}

QWidget* plainPage(const QString& text, QWidget* parent, QWidget* more) {
    auto* page = new QWidget(parent);
    auto* column = pageColumn(page);
    if (more) column->addWidget(more);
    column->addWidget(quietLabel(text, page));
    column->addStretch();
    return page;
}

}  // namespace jam
