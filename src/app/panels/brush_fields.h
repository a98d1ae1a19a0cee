// The brush in numbers: what the section's handles pull, and what they cannot. Fields are made from the descriptions of
// the settings (core, tools/setting.h); a new setting appears here by itself.
#pragma once

#include <QWidget>

#include "workplace/workplace.h"

class QCheckBox;
class QComboBox;
class QToolButton;
class QLabel;
class QPushButton;
class QVBoxLayout;

namespace jam {

class BendEdit;
class Fold;
class NumberField;

class BrushFields : public QWidget {
    Q_OBJECT
public:
    explicit BrushFields(Workplace& place, QWidget* parent = nullptr);

private:
    // A field for one setting, and how it shows a value of it.
    struct Field {
        const Setting* setting;
        bool own;                    // of single tools
        QWidget* widget;             // named after the setting
        std::function<void()> show;  // shows the present value
    };
    void add(QVBoxLayout* column, const Setting& setting, bool own);
    Field numberField(const Setting& setting);
    Field maybeField(const Setting& setting);
    Field flagField(const Setting& setting);
    Field choiceField(const Setting& setting);
    Field namedField(const Setting& setting);
    Field colourField(const Setting& setting);
    Field restoreField(const Setting& setting);
    Fold* fold(QVBoxLayout* column, const char* id, const QString& title, std::initializer_list<const char*> settings);
    void set(const Setting& setting, double value);
    void makeMirror(QVBoxLayout* column);
    void makePen(QVBoxLayout* column);
    void refresh();

    Workplace& place_;
    QLabel* title_;
    BendEdit* bend_;
    NumberField *radius_, *rate_, *share_, *softness_;
    std::vector<Field> fields_;
    QCheckBox* shared_;
    Fold *tipFold_, *limitsFold_, *whereFold_, *mirrorFold_, *penFold_;
    QComboBox* mirror_;
    NumberField *mirrorX_, *mirrorZ_;
    QPushButton *mirrorMiddle_, *mirrorCursor_;
    QCheckBox *penStrength_, *penRadius_;
    NumberField* penCurve_;
};

// A number field with the name, range and unit of a setting.
NumberField* fieldOf(const Setting& setting, QWidget* parent);

}  // namespace jam
