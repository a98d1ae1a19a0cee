// Who gets where: the table of spots, the way between two of them, the places that want mending, and the mending.
#pragma once

#include <optional>
#include <QWidget>

#include "panels/numbered_fields.h"
#include "survey/mend_reach.h"
#include "walk/reach.h"

class QLabel;
class QListWidget;
class QPushButton;
class QTableWidget;
class QToolButton;

namespace jam {

class NumberField;
struct House;

class ReachPanel : public QWidget {
    Q_OBJECT
public:
    ReachPanel(House& house, QWidget* parent);

protected:
    void showEvent(QShowEvent* e) override;
    void resizeEvent(QResizeEvent* e) override;

private:
    enum class Sort { wayOut, trap, pocket };
    void makePlaces();
    void refresh();
    void showTable(const Reach& reach);
    void fitTable();
    void showPlaces(const Reach& reach);
    void showWay();
    void choosePlace();
    void visitPlace();
    void mend();
    // The place that is chosen in the list, or null.
    const ReachPlace* chosen(Sort* sort) const;

    House& house_;
    QLabel *says_, *way_, *areas_;
    QTableWidget* table_;
    QListWidget* places_;
    QWidget* mend_;
    QPushButton* mends_;
    std::optional<NumberedFields<EdgeBank>> bank_;
};

}  // namespace jam
