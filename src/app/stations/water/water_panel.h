// The chosen pool or stream in the sheet: its name and height, what is to be known of it, its leak and the ways to mend
// that, and how it looks.
#pragma once

#include <optional>
#include <QWidget>

#include "edits/water_edits.h"
#include "panels/numbered_fields.h"
#include "water/figures.h"

class QLabel;
class QLineEdit;
class QPushButton;
class QToolButton;
class QVBoxLayout;

namespace jam {

class NumberField;
struct House;

class WaterPanel : public QWidget {
    Q_OBJECT
public:
    WaterPanel(House& house, QWidget* parent);

protected:
    void showEvent(QShowEvent* e) override;

private:
    void makeSurface(QVBoxLayout* column);
    void makeLeak(QVBoxLayout* column);
    void makeLook(QVBoxLayout* column);
    void refresh();
    void showPool(const Pool& pool);
    void showStream(const Stream& stream);
    void mend(bool lower);
    void toBrim(bool next);

    House& house_;
    WaterEdits waters_;
    QLabel *says_, *figures_, *leaks_;
    QWidget *details_, *pool_, *stream_, *leak_;
    QLineEdit* name_;
    QToolButton* remove_;
    QPushButton *brim_, *next_, *colour_;
    NumberField *height_, *depth_, *bed_, *sunk_, *manning_;
    std::optional<NumberedFields<Dam>> dam_;
    struct LookField {
        NumberField* field;
        float WaterLook::*value;
    };
    std::vector<LookField> looks_;
};

}  // namespace jam
