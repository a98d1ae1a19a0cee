// Starting from a heightmap: what it is, what its values mean, how large it becomes, and how it will look.
#pragma once

#include <QDialog>
#include <QTimer>

#include "brush/stroke.h"
#include "files/field_level.h"
#include "files/heightmap.h"
#include "panels/dialog_foot.h"

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QFormLayout;
class QLabel;
class QLineEdit;
class QSpinBox;

namespace jam {

class GroundPreview;

class ImportDialog : public QDialog {
    Q_OBJECT
public:
    // `bytes` are the file's; for raw files `guess` is the likely layout.
    // With `present` it may become a stratum of that level too, set down like a clip.
    ImportDialog(const std::vector<Layer>& layers, Bytes bytes, HeightField field, std::optional<RawLayout> guess,
                 const QString& path, QWidget* parent = nullptr, const Level* present = nullptr);

    FieldWish wish() const;
    const HeightField& field() const { return field_; }
    QString levelName() const;
    int firstLayer() const;
    // Whether it is to become a stratum of the present level.
    bool asStratum() const;

private:
    // All samples stand for one height.
    bool flat() const { return !(field_.white > field_.black); }
    void readAgain();
    void tell();
    void look();
    QDoubleSpinBox* number(const QString& objectName, double value, double low, double high, int decimals,
                           const QString& suffix);

    const std::vector<Layer>& layers_;
    Bytes bytes_;
    HeightField field_;
    bool raw_;
    QFormLayout* form_;
    GroundPreview* preview_;
    QLineEdit* name_;
    QLabel *facts_, *warns_;
    DialogFoot foot_;
    QSpinBox *rawWidth_, *rawDepth_, *rawOffset_;
    QComboBox *rawSample_, *rawOrder_, *fit_, *kernel_, *first_, *becomes_;
    QDoubleSpinBox *spacing_, *width_, *depth_, *black_, *white_;
    QCheckBox* soften_;
    QTimer soon_;
};

}  // namespace jam
