#include "panels/page.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>
#include <QVBoxLayout>

#include "theme.h"

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

QToolButton* iconButton(const char* id, const char* iconName, const QString& tip, QWidget* parent) {
    auto* b = new QToolButton(parent);
    b->setObjectName(id);
    setThemedIcon(b, iconName);
    b->setIconSize({20, 20});
    b->setToolTip(tip);
    return b;
}

QButtonGroup* addParts(QVBoxLayout* column, const std::vector<PagePart>& parts, QWidget* page) {
    auto* row = new QHBoxLayout;
    row->setSpacing(3);
    auto* group = new QButtonGroup(page);
    for (const PagePart& part : parts) {
        auto* b = new QToolButton(page);
        b->setObjectName(part.id);
        b->setText(part.name);
        b->setCheckable(true);
        b->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        b->setStyleSheet("padding: 4px 0;");  // four names side by side
        group->addButton(b);
        row->addWidget(b);
        QObject::connect(b, &QToolButton::toggled, part.shows, &QWidget::setVisible);
        part.shows->hide();
    }
    column->addLayout(row);
    for (const PagePart& part : parts) column->addWidget(part.shows);
    group->buttons().front()->setChecked(true);
    return group;
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
