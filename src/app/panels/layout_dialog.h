// Lay out: the size, fineness, range and first layer of a new level, flat or from a heightmap picture, and what
// it will cost.
#pragma once

#include <QDialog>
#include <optional>

#include "files/heightmap.h"

class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace jam {

class LayoutDialog : public QDialog {
    Q_OBJECT
public:
    // `layers` are offered as first layer; with `picture` the ground comes from it.
    LayoutDialog(const std::vector<Layer>& layers, std::optional<Pixels> picture, const QString& pictureName, QWidget* parent = nullptr);

    // The level that was asked for. Errors: as makeLevel().
    Result<Level> level() const;

private:
    NewLevel wish() const;
    void tell();
    QDoubleSpinBox* metres(const QString& objectName, double value, double low, double high, int decimals = 1);

    const std::vector<Layer>& layers_;
    std::optional<Pixels> picture_;
    QString pictureName_;
    QLineEdit* name_;
    QDoubleSpinBox *width_, *depth_, *spacing_, *lowest_, *highest_, *start_, *black_, *white_;
    QComboBox *first_, *cover_;
    QLabel *cost_, *wrong_;
    QPushButton* make_;
};

}  // namespace jam
