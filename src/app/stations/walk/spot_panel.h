// The chosen spot in the sheet: its name, kind, facing and pad.
#pragma once

#include <QWidget>

#include "edits/spot_edits.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;

namespace jam {

class NumberField;
struct House;

class SpotPanel : public QWidget {
    Q_OBJECT
public:
    SpotPanel(House& house, QWidget* parent);

protected:
    void showEvent(QShowEvent* e) override;

private:
    void makePad(QWidget* details);
    void refresh();
    void setPad();

    House& house_;
    SpotEdits spots_;
    QLabel *says_, *where_;
    QWidget *details_, *pad_;
    QLineEdit* name_;
    QComboBox* kind_;
    NumberField *facing_, *radius_, *rim_;
    QCheckBox *even_, *evenNew_;
};

}  // namespace jam
