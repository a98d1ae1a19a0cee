// Neighbours in the sheet: which level lies on which side, how far it is from being met, and fitting the border to it.
#pragma once

#include <QWidget>

#include "level/level.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QPushButton;
class QToolButton;

namespace jam {

class NumberField;
struct House;

class NeighbourPanel : public QWidget {
    Q_OBJECT
public:
    explicit NeighbourPanel(House& house, QWidget* parent);

protected:
    void showEvent(QShowEvent* e) override;

private:
    Side side() const;
    void choose();
    void fit();
    void refresh();

    House& house_;
    QComboBox* side_;
    QLabel *says_, *file_;
    QToolButton* forget_;
    QPushButton *choose_, *fit_;
    NumberField* blend_;
    QCheckBox *heights_, *cover_, *ghosts_;
};

}  // namespace jam
