// What lies ready on the bench for shaping: tips in a row, and named brushes with their pictures.
#pragma once

#include <QIcon>
#include <QWidget>

#include "session.h"

class QHBoxLayout;
class QListWidget;

namespace jam {

class Shelf;

// The falloff curves as a row of buttons.
QWidget* curveButtons(Session& session, QWidget* parent);
QIcon curveIcon(Curve curve);

// Round, square, every picture, and a button that adds one.
class TipRow : public QWidget {
    Q_OBJECT
public:
    TipRow(Session& session, Shelf& shelf, QWidget* parent = nullptr);

signals:
    void addWanted();

private:
    void fill();
    void show();

    Session& session_;
    Shelf& shelf_;
    QHBoxLayout* row_;
};

class BrushList : public QWidget {
    Q_OBJECT
public:
    BrushList(Session& session, Shelf& shelf, QWidget* parent = nullptr);
    QListWidget* list() const { return list_; }

signals:
    void keepWanted();
    void takeWanted();   // a brush from a file
    void failed(const Error& error);

private:
    void fill();
    void menu(const QPoint& at);

    Session& session_;
    Shelf& shelf_;
    QListWidget* list_;
};

}  // namespace jam
