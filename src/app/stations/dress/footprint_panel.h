// What the ground does under those of the chosen kind that were put down by hand.
#pragma once

#include <QWidget>

#include "edits/kind_edits.h"

class QCheckBox;
class QComboBox;

namespace jam {

class NumberField;
struct House;

class FootprintPanel : public QWidget {
    Q_OBJECT
public:
    explicit FootprintPanel(House& house, QWidget* parent = nullptr);

protected:
    void showEvent(QShowEvent* e) override;

private:
    void refresh();
    void edit(float Footprint::*value, double to, const QString& gesture);
    // The stratum of the chosen kind's footprint, or null.
    const Stratum* footprint() const;

    Workplace& place_;
    KindEdits edits_;
    QCheckBox* on_;
    QWidget* details_;
    struct Number {
        NumberField* field;
        float Footprint::*value;
    };
    std::vector<Number> numbers_;
    QComboBox *track_, *verge_;
};

}  // namespace jam
