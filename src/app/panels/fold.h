// A part of the sheet under a heading that folds it away.
#pragma once

#include <QWidget>

class QToolButton;
class QVBoxLayout;

namespace jam {

class Fold : public QWidget {
    Q_OBJECT
public:
    // Remembers under `id` whether it was open.
    Fold(const QString& id, const QString& title, bool open, QWidget* parent = nullptr);

    QVBoxLayout* column() const { return column_; }
    QWidget* body() const { return body_; }
    void setOpen(bool open);
    bool isOpen() const;
    // A few words beside the heading that say what is set inside.
    void setHint(const QString& hint);

private:
    QString title_;
    QToolButton* head_;
    QWidget* body_;
    QVBoxLayout* column_;
};

}  // namespace jam
