// Laying out a new level: how large, how fine, how high and how deep, flat or generated, with the cost before it is
// paid.
#pragma once

#include <QDialog>
#include <QTimer>

#include "panels/dialog_foot.h"
#include "shape/generate.h"

class QComboBox;
class QDoubleSpinBox;
class QFormLayout;
class QLabel;
class QLineEdit;
class QSpinBox;

namespace jam {

class GroundPreview;

class LayoutDialog : public QDialog {
    Q_OBJECT
public:
    // `layers` are offered as the first one.
    explicit LayoutDialog(const std::vector<Layer>& layers, QWidget* parent = nullptr);

    // The level that was asked for, still flat. Errors: as makeLevel().
    Result<Level> level() const;
    // What it is to be shaped like, if not flat.
    std::optional<LandscapeWish> landscape() const;

private:
    NewLevel wish() const;
    void tell();
    void look();
    QDoubleSpinBox* metres(const QString& objectName, double value, double low, double high, int decimals = 1);

    const std::vector<Layer>& layers_;
    QLineEdit* name_;
    QDoubleSpinBox *width_, *depth_, *spacing_, *lowest_, *highest_, *start_, *formSize_, *formHeight_, *edge_;
    QSpinBox* seed_;
    QComboBox *first_, *cover_, *ground_;
    QFormLayout* form_;
    GroundPreview* preview_;
    DialogFoot foot_;
    QTimer soon_;
};

}  // namespace jam
