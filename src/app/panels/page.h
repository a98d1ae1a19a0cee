// The small parts that pages of bench and sheet are made of.
#pragma once

class QLabel;
class QString;
class QVBoxLayout;
class QWidget;

namespace jam {

QLabel* headingLabel(const QString& text, QWidget* parent);
QLabel* quietLabel(const QString& text, QWidget* parent);  // wraps
// A column without margins.
QVBoxLayout* pageColumn(QWidget* page);
// A page that says something quietly, below `more` when there is any.
QWidget* plainPage(const QString& text, QWidget* parent, QWidget* more = nullptr);

}  // namespace jam
