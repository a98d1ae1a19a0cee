// The small parts that pages of bench and sheet are made of.
#pragma once

#include <QString>
#include <vector>

class QButtonGroup;
class QLabel;
class QToolButton;
class QVBoxLayout;
class QWidget;

namespace jam {

QLabel* headingLabel(const QString& text, QWidget* parent);
QLabel* quietLabel(const QString& text, QWidget* parent);  // wraps
// A column without margins.
QVBoxLayout* pageColumn(QWidget* page);
// A page that says something quietly, below `more` when there is any.
QWidget* plainPage(const QString& text, QWidget* parent, QWidget* more = nullptr);

// A small button with an icon of ours that follows the theme.
QToolButton* iconButton(const char* id, const char* icon, const QString& tip, QWidget* parent);

// Parts of a page of which one is seen at a time, under a row of buttons with their names; the first is seen at first.
struct PagePart {
    const char* id;  // of its button
    QString name;
    QWidget* shows;
};
QButtonGroup* addParts(QVBoxLayout* column, const std::vector<PagePart>& parts, QWidget* page);

}  // namespace jam
