// What is shown on the ground besides the ground: overlays with their legends and key numbers, contours, grid, mesh.
#pragma once

#include <QWidget>

#include "workplace/workplace.h"

class QCheckBox;
class QComboBox;
class QLabel;

namespace jam {

class GroundView;
class NumberField;
class Surveyor;

// The colours of the overlay that is shown, from one end of its scale to the other.
class Legend : public QWidget {
    Q_OBJECT
public:
    explicit Legend(const GroundView& view, QWidget* parent = nullptr);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    const GroundView& view_;
};

class SeeFields : public QWidget {
    Q_OBJECT
public:
    SeeFields(Workplace& place, GroundView& view, const Surveyor& surveyor, QWidget* parent = nullptr);

private:
    void refresh();
    void tell();

    Workplace& place_;
    GroundView& view_;
    const Surveyor& surveyor_;
    QComboBox* overlay_;
    Legend* legend_;
    QLabel *ends_, *from_, *to_, *numbers_;
    NumberField *lift_, *walkable_, *bands_, *interval_, *gridStep_;
    QCheckBox *always_, *oneTone_, *contours_, *grid_, *mesh_;
    QComboBox* before_;
};

}  // namespace jam
