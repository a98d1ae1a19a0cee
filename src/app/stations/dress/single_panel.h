// What is chosen of what stands: its turn, size, height above the ground and lean in numbers.
#pragma once

#include <QWidget>

#include "edits/kind_edits.h"

class QComboBox;
class QLabel;

namespace jam {

class NumberField;
struct House;

class SinglePanel : public QWidget {
    Q_OBJECT
public:
    explicit SinglePanel(House& house, QWidget* parent = nullptr);

protected:
    void showEvent(QShowEvent* e) override;

private:
    void refresh();

    House& house_;
    KindEdits edits_;
    QLabel *says_, *where_;
    QWidget* details_;
    QComboBox* becomes_;
    struct Field {
        NumberField* field;
        float Single::*value;
    };
    std::vector<Field> fields_;
};

}  // namespace jam
