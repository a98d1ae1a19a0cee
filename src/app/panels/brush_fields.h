// The brush in numbers: what the section's handles pull, and what they cannot.
#pragma once

#include <QWidget>

#include "session.h"

class QCheckBox;
class QComboBox;
class QLabel;

namespace jam {

class NumberField;

class BrushFields : public QWidget {
    Q_OBJECT
public:
    explicit BrushFields(Session& session, QWidget* parent = nullptr);

private:
    void show();

    Session& session_;
    QLabel* title_;
    NumberField *radius_, *rate_, *share_, *softness_, *grain_, *target_, *height_;
    QComboBox* way_;
    QCheckBox* fixed_;
    QWidget* flattenBox_;
};

}  // namespace jam
