// Shape: sculpting the ground with brushes, and work on the whole ground.
#pragma once

#include "house/station.h"

class QButtonGroup;

namespace jam {

class ClipPanel;
class WholePanel;

class ShapeStation : public Station {
    Q_OBJECT
public:
    explicit ShapeStation(House& house);
    State state() const override;
    QWidget* benchPage(QWidget* parent) override;
    QWidget* sheetPage(QWidget* parent) override;
    QList<ActionRow> commands() override;
    std::unique_ptr<Hand> takeHand(const HandEvent& press) override;
    bool takeFiles(const QStringList& paths, bool present) override;

    // Work on the whole ground takes the place of the brush.
    void showWhole(bool on);

private:
    House& house_;
    QWidget* brush_ = nullptr;
    // Takes clips up: lifts what the fence holds, or puts the last one where the cursor is.
    void showClips(bool place);
    void openClips();

    ClipPanel* clips_ = nullptr;
    QButtonGroup* parts_ = nullptr;
    WholePanel* whole_ = nullptr;
    bool wholeShown_ = false;
};

}  // namespace jam
