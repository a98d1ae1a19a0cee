// The chosen layer in the sheet: its pictures, how it is laid and coloured, and how it meets others.
#pragma once

#include <QWidget>

#include "workplace/workplace.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QToolButton;
class QVBoxLayout;

namespace jam {

class Fold;
class GroundView;
class MaterialView;
class NearFar;
class NumberField;
class RulesPanel;

class LayerPanel : public QWidget {
    Q_OBJECT
public:
    // `rules` ends its preview before the layer is changed.
    LayerPanel(Workplace& place, GroundView& view, RulesPanel& rules, QWidget* parent = nullptr);

    NearFar* nearFar() const { return nearFar_; }

signals:
    void menuWanted();
    void picturesWanted();

private:
    void makeHead(QVBoxLayout* column);
    void makeLaying(QVBoxLayout* column);
    void makeColour(QVBoxLayout* column);
    void makeMeeting(QVBoxLayout* column);
    void showSolo();
    void refresh();
    void showMeeting(const Layer& layer);
    void change(const QString& what, const std::function<void(Layer&)>& set, const QString& gesture = {});
    NumberField* number(QVBoxLayout* column, const QString& name, const QString& unit, double low, double high,
                        int decimals, double factor, float LayerLook::*which, bool logarithmic = false);

    Workplace& place_;
    GroundView& view_;
    RulesPanel& rules_;
    QLineEdit* name_;
    QToolButton *solo_, *keep_, *hide_, *tint_;
    MaterialView* material_;
    QLabel* maps_;
    NumberField *tile_, *blend_, *pairBlend_;
    QComboBox *tiling_, *pair_;
    QCheckBox *sides_, *flipGreen_, *second_, *ownPair_;
    std::vector<std::pair<NumberField*, std::pair<float LayerLook::*, double>>> numbers_;
    NumberField *farTimes_, *farFrom_;
    Fold *layingFold_, *colourFold_, *meetingFold_;
    NearFar* nearFar_;
    uint32_t shown_ = 0;
};

}  // namespace jam
