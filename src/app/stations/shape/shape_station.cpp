#include "stations/shape/shape_station.h"

#include <QAbstractButton>
#include <QButtonGroup>
#include <QHBoxLayout>
#include <QVBoxLayout>

#include "hands/fence_hand.h"
#include "house/shelf.h"
#include "level/ground.h"
#include "panels/brush_fields.h"
#include "panels/brush_shelf.h"
#include "panels/fence_panel.h"
#include "panels/fold.h"
#include "panels/page.h"
#include "panels/see_fields.h"
#include "panels/tool_shelf.h"
#include "stations/shape/clip_panel.h"
#include "stations/shape/course_panel.h"
#include "stations/shape/edge_panel.h"
#include "stations/shape/strata_panel.h"
#include "stations/shape/whole_panel.h"
#include "view/ground_view.h"
#include "watch/surveyor.h"
#include "watch/verdicts.h"

namespace jam {

namespace {
constexpr int kButtonWidth = 61;
}

ShapeStation::ShapeStation(House& house) : Station("shape", tr("Shape"), "shape", "F3"), house_(house) {
    connect(&house.verdicts, &Verdicts::changed, this, &Station::stateChanged);
    connect(&house.place.standpoint, &Standpoint::stationChanged, this, [this] { showWhole(false); });
}

Station::State ShapeStation::state() const {
    const auto& f = house_.surveyor.findings();
    if (!f) return {};
    if (const auto w = warned(house_)) return *w;
    return {tr("%1 to %2 m, up to %3°")
                .arg(f->ground.lowest, 0, 'f', 0)
                .arg(f->ground.highest, 0, 'f', 0)
                .arg(f->ground.steepest, 0, 'f', 0)};
}

QList<ActionRow> ShapeStation::commands() {
    return {{"liftClip", tr("Lift what lies inside the fence"), "Ctrl+C", "", false, [this] { showClips(false); }},
            {"placeClip", tr("Put the clip that was lifted last where the cursor is"), "Ctrl+V", "", false,
             [this] { showClips(true); }},
            {"setClip", tr("Set the clip down"), "Ctrl+Return", "", false, [this] { house_.place.clips.setDown(); }},
            {"whole", tr("Whole ground: raise, scale, smooth, wear, generate, resize"), "H", "whole", true,
             [this] { showWhole((*house_.actions)["whole"]->isChecked()); }},
            {"fence", tr("Drop the fence, or bring it back"), "F", "", false, [this] { turnFence(house_); }},
            {"keepBrush", tr("Keep the brush under a name…"), "Ctrl+K", "", false, [this] { keepBrush(house_); }}};
}

std::unique_ptr<Hand> ShapeStation::takeHand(const HandEvent& press) {
    return workingHand(house_.view, press, house_.worker());
}

bool ShapeStation::takeFiles(const QStringList& paths, bool) {
    if (!paths.front().endsWith(".json", Qt::CaseInsensitive)) return false;
    takeBrush(house_, paths.front());
    return true;
}

QWidget* ShapeStation::benchPage(QWidget* parent) {
    auto* page = new QWidget(parent);
    auto* row = new QHBoxLayout(page);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(10);
    row->addWidget(new ToolShelf(house_, id(), kButtonWidth, page), 3);
    auto* brushes = new BrushList(house_, page);
    brushes->setMinimumWidth(0);
    row->addWidget(brushes, 1);
    return page;
}

QWidget* ShapeStation::sheetPage(QWidget* parent) {
    auto* page = new QWidget(parent);
    auto* c = pageColumn(page);
    brush_ = new QWidget(page);
    auto* b = pageColumn(brush_);
    QButtonGroup* parts = addParts(b,
                                   {{"partBrush", tr("Brush"), new BrushFields(house_.place, brush_)},
                                    {"partStrata", tr("Strata"), new StrataPanel(house_, brush_)},
                                    {"partFence", tr("Fence"), new FencePanel(house_, brush_)},
                                    {"partCourses", tr("Courses"), new CoursePanel(house_, brush_)},
                                    {"partClips", tr("Clips"), clips_ = new ClipPanel(house_, brush_)},
                                    {"partEdges", tr("Edges"), new EdgePanel(house_, brush_)}},
                                   brush_);
    parts_ = parts;
    connect(&house_.place.clips, &Clips::brought, this, [this](const std::shared_ptr<const Level>& clip) {
        openClips();
        clips_->place(clip);
    });
    // A tool that is taken up puts courses and clips away.
    const auto backToBrush = [this, parts](const char* part, bool works) {
        if (!works && parts->checkedButton()->objectName() == part && house_.place.standpoint.station() == id() &&
            brush_->isVisible())
            parts->buttons().front()->setChecked(true);
    };
    // Of this, and not of a page: when the window goes, pages still hide after their station has gone.
    connect(&house_.place.standpoint, &Standpoint::courseChosen, this,
            [this, backToBrush] { backToBrush("partCourses", house_.place.standpoint.coursing()); });
    connect(&house_.place.clips, &Clips::clippingChanged, this,
            [this, backToBrush] { backToBrush("partClips", house_.place.clips.clipping()); });
    auto* see = new Fold("foldSee", tr("What to see"), true, brush_);
    see->column()->addWidget(new SeeFields(house_.place, house_.view, house_.surveyor, see));
    b->addWidget(see);
    b->addStretch();
    c->addWidget(brush_);
    whole_ = new WholePanel(house_, page);
    whole_->hide();
    c->addWidget(whole_);
    c->addStretch();
    connect(whole_, &WholePanel::closeWanted, this, [this] { showWhole(false); });
    return page;
}

void ShapeStation::openClips() {
    house_.place.standpoint.setStation(id());
    showWhole(false);
    for (QAbstractButton* b : parts_->buttons())
        if (b->objectName() == "partClips") b->setChecked(true);
}

void ShapeStation::showClips(bool place) {
    if (!clips_) return;
    if (!place && !house_.place.document.level().fenced)
        return house_.services.say(tr("Draw a fence round what is to be lifted, or pull a rectangle at Clips."));
    openClips();
    if (place) clips_->placeLast();
    else house_.place.clips.liftFenced();
}

void ShapeStation::showWhole(bool on) {
    if (!whole_ || on == wholeShown_) return;
    if (on) house_.place.standpoint.setStation(id());
    wholeShown_ = on;
    if (!on) whole_->leave();
    brush_->setVisible(!on);
    whole_->setVisible(on);
    if (on) whole_->begin();
    (*house_.actions)["whole"]->setChecked(on);
}

}  // namespace jam
