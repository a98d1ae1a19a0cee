// The numbers of who goes.
#pragma once

#include <QWidget>
#include <vector>

#include "edits/spot_edits.h"

class QCheckBox;
class QLineEdit;
class QToolButton;

namespace jam {

class NumberField;
struct House;

class BodyFields : public QWidget {
    Q_OBJECT
public:
    BodyFields(House& house, QWidget* parent);

private:
    void refresh();

    House& house_;
    SpotEdits spots_;
    QLineEdit* name_;
    QToolButton* forget_;
    struct Entry {
        NumberField* field;
        float Body::*value;
    };
    std::vector<Entry> fields_;
    QCheckBox* swims_;
};

}  // namespace jam
