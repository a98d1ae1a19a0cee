// The brush in numbers: what the section's handles pull, and what they cannot.
#pragma once

#include <QWidget>

#include "session.h"

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
    explicit BrushFields(Session& session, QWidget* parent = nullptr);

private:
    NumberField* field(QVBoxLayout* column, const QString& name, const QString& suffix, double low, double high, int decimals, bool logarithmic,
                       const std::function<void(StrokeSettings&, float)>& set);
    void makeOwn(QVBoxLayout* column);
    void makeColours(QVBoxLayout* column);
    void makeTip(QVBoxLayout* column);
    void makeLimits(QVBoxLayout* column);
    void makeWhere(QVBoxLayout* column);
    void fillLayers();
    void makeMirror(QVBoxLayout* column);
    void makePen(QVBoxLayout* column);
    void fillSteps();
    void show();

    Session& session_;
    QLabel* title_;
    BendEdit* bend_;
    NumberField *radius_, *strength_, *share_, *softness_;
    // Of single tools.
    NumberField *grain_, *keep_, *height_, *step_, *riser_, *angle_, *scale_, *relief_, *octaves_, *seed_, *target_;
    QComboBox *way_, *noise_, *restore_, *from_, *breakBy_;
    QWidget* colours_;
    QToolButton* colour_;
    QCheckBox *fixed_, *shared_;
    // Of all.
    Fold *tipFold_, *limitsFold_, *whereFold_, *mirrorFold_, *penFold_;
    NumberField *turn_, *scatter_, *spacing_;
    QCheckBox *randomTurn_, *follow_, *flow_;
    QCheckBox *hasFloor_, *hasCeiling_;
    NumberField *floor_, *ceiling_;
    struct Where { QCheckBox* box; NumberField* number; std::optional<float> PaintWhere::*which; };
    std::vector<Where> where_;
    QComboBox *onLayer_, *offLayer_;
    QComboBox* mirror_;
    NumberField *mirrorX_, *mirrorZ_;
    QPushButton *mirrorMiddle_, *mirrorCursor_;
    QCheckBox *penStrength_, *penRadius_;
    NumberField* penCurve_;
};

}  // namespace jam
