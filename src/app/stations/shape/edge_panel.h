// Edges in the sheet: how openings and the land's edge are cut, what they come to, and making them by the fence.
#pragma once

#include <QWidget>

#include "level/level.h"

class QComboBox;
class QLabel;
class QToolButton;

namespace jam {

class NumberField;
struct House;

class EdgePanel : public QWidget {
    Q_OBJECT
public:
    explicit EdgePanel(House& house, QWidget* parent);

protected:
    void showEvent(QShowEvent* e) override;

private:
    void refresh();
    void fill(const QString& what, Gaps Level::*mask, bool take, bool outside);
    void goOn();

    House& house_;
    QLabel *says_, *found_;
    QToolButton* go_;
    QComboBox* cut_;
    NumberField* cliff_;
    size_t next_ = 0;  // opening that the button goes to
};

}  // namespace jam
