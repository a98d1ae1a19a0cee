#include "panels/page.h"

#include <QButtonGroup>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>
#include <QVBoxLayout>

#include "looks/theme.h"

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
    // Names side by side, in rows of at most four.
    auto* rows = new QGridLayout;
    rows->setSpacing(3);
    const int count = static_cast<int>(parts.size()), across = (count + (count - 1) / 4) / ((count - 1) / 4 + 1);
    auto* group = new QButtonGroup(page);
    for (const PagePart& part : parts) {
        auto* b = new QToolButton(page);
        b->setObjectName(part.id);
        b->setText(part.name);
        b->setCheckable(true);
        b->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        b->setStyleSheet("padding: 4px 0;");
        const int at = static_cast<int>(group->buttons().size());
        group->addButton(b);
        rows->addWidget(b, at / across, at % across);
        QObject::connect(b, &QToolButton::toggled, part.shows, &QWidget::setVisible);
        part.shows->hide();
    }
    column->addLayout(rows);
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
