// The strata and courses of the level in the sheet: what there is, in which order, how much of it shows, and which one
// the brushes go to.
#pragma once

#include <QWidget>

#include "level/level.h"
#include "panels/pulled.h"

class QCheckBox;
class QToolButton;

namespace jam {

class NumberField;
struct House;
class Workplace;

// The list itself, topmost first: a picture, the name, how much shows, an eye. Dragging reorders.
class StrataList : public Pulled {
    Q_OBJECT
public:
    explicit StrataList(Workplace& place, QWidget* parent);

    // The id of the stratum or course that is chosen.
    uint32_t chosen() const;
    QSize sizeHint() const override;
    // Where an entry lies, and its eye; by place in the level's order.
    QRect entry(int place) const;
    QRect eye(int place) const;

signals:
    void nameWanted(uint32_t id);
    void picked();  // another one, by hand

protected:
    void paintEvent(QPaintEvent*) override;
    bool take(const QPointF& pixel) override;
    void pull(const QPointF& pixel) override;
    void end(bool keep) override;
    void mouseDoubleClickEvent(QMouseEvent* e) override;
    void keyPressEvent(QKeyEvent* e) override;
    bool event(QEvent* e) override;

private:
    int count() const;
    int placeAt(const QPoint& pixel) const;  // -1 when there is none
    void choose(int place);
    void turnEye(int place);

    Workplace& place_;
    uint32_t picked_ = 0;   // a course; brushes go to the chosen stratum all the same
    uint32_t dragged_ = 0;  // 0 for none
    int dropAt_ = -1;       // the row before which it would lie
    QPoint pressed_;
};

// A small picture of what a stratum adds: light where it rises, dark where it falls.
QImage stratumPicture(const Stratum& stratum, int side);

class StrataPanel : public QWidget {
    Q_OBJECT
public:
    explicit StrataPanel(House& house, QWidget* parent);

private:
    QToolButton* button(const char* id, const char* icon, const QString& tip, void (StrataPanel::*act)());
    void refresh();
    void add();
    void duplicate();
    void mergeDown();
    void remove();
    void protect();
    void takeStep();
    void rename(uint32_t id);
    const Stratum* chosen() const;
    int placeOfChosen() const;

    House& house_;
    Workplace& place_;
    StrataList* list_;
    NumberField* opacity_;
    QToolButton *mergeDown_, *protect_, *takeStep_, *remove_;
};

}  // namespace jam
