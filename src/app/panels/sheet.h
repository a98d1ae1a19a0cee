// The sheet: the details of what is chosen, page by page, and below them the list of what was done.
#pragma once

#include <QWidget>

#include "files/handover.h"
#include "session.h"

class QListWidget;
class QStackedWidget;

namespace jam {

class GroundView;
class Jobs;
class LayerPanel;
class RulesPanel;
class Surveyor;
class WholePanel;

class Sheet : public QWidget {
    Q_OBJECT
public:
    Sheet(Session& session, GroundView& view, const Surveyor& surveyor, Jobs& jobs, QWidget* parent = nullptr);
    QListWidget* historyList() const { return history_; }
    WholePanel* whole() const { return whole_; }
    LayerPanel* layer() const { return layer_; }
    RulesPanel* rules() const { return rules_; }
    // Work on the whole ground takes the place of the brush.
    void showWhole(bool on);

signals:
    void wholeShown(bool on);
    void newLevelWanted();
    void importWanted();
    void handOverWanted(const QString& folder, const HandoverWish& wish);
    void layerMenuWanted();
    void layerPicturesWanted();
    void coverFactorWanted(int factor);

private:
    QWidget* layOutPage();
    QWidget* brushPage();
    QWidget* coverPage();
    QWidget* lightPage();
    QWidget* handOverPage();
    void showHistory();

    Session& session_;
    GroundView& view_;
    const Surveyor& surveyor_;
    Jobs& jobs_;
    QWidget* brush_;
    WholePanel* whole_;
    LayerPanel* layer_;
    RulesPanel* rules_;
    QListWidget* history_;
};

}  // namespace jam
