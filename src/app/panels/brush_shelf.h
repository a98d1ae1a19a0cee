// What lies ready on the bench for shaping: tips in a row, and named brushes with their pictures.
#pragma once

#include <QIcon>
#include <QWidget>

#include "house/station.h"
#include "workplace/workplace.h"

class QHBoxLayout;
class QListWidget;

namespace jam {

class Shelf;

// Keeps the present brush under a name that is asked for.
void keepBrush(House& house);
// Keeps the brush in a file that somebody shared, or refuses it.
void takeBrush(House& house, const QString& path);

// The falloff curves as a row of buttons.
QWidget* curveButtons(Workplace& place, QWidget* parent);
QIcon curveIcon(Curve curve);

// Round, square, every picture, and a button that adds one.
class TipRow : public QWidget {
    Q_OBJECT
public:
    TipRow(House& house, QWidget* parent = nullptr);

private:
    void fill();
    void refresh();

    void add();

    House& house_;
    Workplace& place_;
    Shelf& shelf_;
    QHBoxLayout* row_;
};

class BrushList : public QWidget {
    Q_OBJECT
public:
    explicit BrushList(House& house, QWidget* parent = nullptr);
    QListWidget* list() const { return list_; }

private:
    void fill();
    void menu(const QPoint& at);
    void take();  // a brush from a file

    House& house_;
    Workplace& place_;
    Shelf& shelf_;
    QListWidget* list_;
};

}  // namespace jam
