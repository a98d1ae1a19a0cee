// Clips in the sheet: those that are kept, with pictures; the one in hand, by numbers; how it is set down and repeated.
// While it is seen, presses on the ground lift clips and move them.
#pragma once

#include <QWidget>

#include "clip/set_down.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;
class QToolButton;
class QVBoxLayout;

namespace jam {

class NumberField;
struct House;
class Clips;

// What a clip looks like from above, as large as fits; only its shape.
QImage clipPicture(const Level& clip, int pixels);

class ClipPanel : public QWidget {
    Q_OBJECT
public:
    explicit ClipPanel(House& house, QWidget* parent);

    // Puts the clip that was lifted or held last where the cursor is; or another one.
    void placeLast();
    void place(const std::shared_ptr<const Level>& clip);

protected:
    void showEvent(QShowEvent* e) override;
    void hideEvent(QHideEvent* e) override;

private:
    void makeList(QVBoxLayout* column);
    void makeHead(QVBoxLayout* column);
    void makePlace(QVBoxLayout* column);
    void makeWays(QVBoxLayout* column);
    void fillList();
    void fillAlong();
    void refresh();
    void take(size_t kept);
    void keep();
    void along(int choice);

    House& house_;
    Clips& clips_;
    QLabel *says_, *trouble_;
    QListWidget* list_;
    QLineEdit* name_;
    QToolButton *lift_, *keep_, *remove_;
    QWidget* details_;
    NumberField *x_, *z_, *turn_, *scale_, *heights_, *raise_, *feather_, *every_;
    QCheckBox *mirror_, *sit_, *apart_, *parts_[5];
    QComboBox *join_, *along_;
    QPushButton *set_, *away_;
};

}  // namespace jam
