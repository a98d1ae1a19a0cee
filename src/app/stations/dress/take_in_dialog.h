// Taking a shape in from a file: how large, which way up, and what it is called.
#pragma once

#include <QDialog>

#include "files/shape_file.h"
#include "level/kind.h"
#include "panels/dialog_foot.h"

class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QLineEdit;

namespace jam {

class Turntable;

class TakeInDialog : public QDialog {
    Q_OBJECT
public:
    // `light`: the same in few triangles, to be looked at.
    TakeInDialog(const ReadShape& shape, ReadShape light, QWidget* parent = nullptr);

    TakeInWish wish() const;
    QString kindName() const;
    Blocks blocks() const;

private:
    QDoubleSpinBox* number(const QString& objectName, const QString& name, double low, double high, int decimals,
                           const QString& suffix);
    // Metres of one unit, by how tall it is to be.
    void scaleTo(double metres);
    void tell();
    // How tall the shape is in its own units, as it stands.
    double tallness() const;

    const size_t triangles_;
    ReadShape light_;
    QLineEdit* name_;
    QComboBox *unit_, *up_, *blocks_;
    QDoubleSpinBox *scale_, *height_, *turn_;
    Turntable* picture_;
    QLabel* facts_;
    DialogFoot foot_;
};

}  // namespace jam
