// A layer from pictures: which map is which, whether it can be tiled, and what is done about it.
#pragma once

#include <QDialog>

#include "stations/cover/layer_pictures.h"
#include "tasks/task.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace jam {

class MaterialView;
class NumberField;

// The colour three by three, with what would be seen of the repeat marked in it.
class TiledView : public QWidget {
    Q_OBJECT
public:
    explicit TiledView(QWidget* parent = nullptr);
    void setPicture(const Picture& colour, const SeamReport& report);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    QImage tile_;
    SeamReport report_;
};

class LayerDialog : public QDialog {
    Q_OBJECT
public:
    // `wishes`: one or several sets to choose from; with `swaps` the first one's name, tile size and look stay.
    LayerDialog(std::vector<LayerWish> wishes, bool swaps, QWidget* parent = nullptr);

    const LayerWish& wish() const { return wish_; }
    // Of what is shown; waits until that was read.
    const SeamReport& report() { return building_.wait(), report_; }

private:
    void takeMore(const QStringList& files);
    void chooseSet(int i);
    void fillMaps();
    struct Built {
        Layer layer;
        std::optional<SeamReport> report;  // none of a picture that is too small
    };
    void build();
    void tell(const Result<Built>& built);

    std::vector<LayerWish> sets_;
    LayerWish wish_;
    bool swaps_;
    QStringList files_;
    QComboBox* set_;
    QLineEdit* name_;
    NumberField *tile_, *even_;
    std::array<QComboBox*, std::size(kLayerSlots)> maps_;
    QCheckBox *seamless_, *flipGreen_, *gloss_;
    QLabel* says_;
    MaterialView* material_;
    TiledView* tiled_;
    QPushButton* ok_;
    SeamReport report_;
    Task building_;  // large pictures take their time
};

}  // namespace jam
