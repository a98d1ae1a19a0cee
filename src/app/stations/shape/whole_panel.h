// Work on the whole ground: a choice of works, their numbers, a preview on the ground itself, and one undo step at the
// end.
#pragma once

#include <QTimer>
#include <QWidget>

#include "house/station.h"
#include "shape/whole.h"
#include "workplace/workplace.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QProgressBar;
class QPushButton;
class QSpinBox;
class QVBoxLayout;

namespace jam {

class NumberField;

class WholePanel : public QWidget {
    Q_OBJECT
public:
    explicit WholePanel(House& house, QWidget* parent = nullptr);

    // Index into the list of works: WholeKind, then resample, then crop and extend. The ground shows it.
    void choose(int work);
    // When it opens: the ground stays as it is until something was chosen.
    void begin();
    WholeWish wish() const;
    // True while it waits for a preview or computes one.
    bool busy() const;
    // Lets the preview go and stops what runs.
    void leave();

signals:
    void closeWanted();

private:
    void makeFields();
    void makeFoot();
    void wire();
    void later();
    void compute(bool apply);
    void outcome(Result<struct WholePreview> made, uint64_t serial, bool apply);
    void apply();
    void applySize();
    void showFields();
    void tellSize();
    NumberField* field(const QString& name, const QString& suffix, double low, double high, int decimals,
                       bool logarithmic, double value, std::initializer_list<int> works);
    QString title() const;

    House& house_;
    Document& document_;
    QVBoxLayout* column_;
    QComboBox *work_, *landscape_, *meeting_, *noiseWay_, *anchor_, *flattenTo_;
    std::vector<std::pair<QWidget*, std::vector<int>>> own_;  // widgets and the works that need them
    NumberField *height_, *metres_, *low_, *high_, *width_, *scale_, *amplitude_, *octaves_, *angle_, *years_, *step_,
        *spike_, *seed_;
    NumberField *landScale_, *landHeight_, *edge_, *edgeWidth_;
    NumberField *sizeX_, *sizeZ_, *spacing_;
    QLabel *says_, *size_;
    QCheckBox *preview_, *apart_, *alone_;
    QProgressBar* progress_;
    QPushButton *apply_, *cancel_;
    QTimer soon_;
    bool touched_ = false;   // something was chosen since it opened
    bool applying_ = false;  // what runs is made a step when it is done
    bool current_ = false;   // the preview on the ground is what the fields say
};

}  // namespace jam
