#include "stations/shape/shape_station.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QVBoxLayout>

#include "hands/fence_hand.h"
#include "panels/brush_fields.h"
#include "panels/brush_shelf.h"
#include "panels/fence_panel.h"
#include "panels/fold.h"
#include "panels/page.h"
#include "panels/see_fields.h"
#include "panels/tool_shelf.h"
#include "shelf.h"
#include "stations/shape/course_panel.h"
#include "stations/shape/strata_panel.h"
#include "stations/shape/whole_panel.h"
#include "surveyor.h"
#include "view/ground_view.h"

namespace jam {

namespace {
constexpr int kButtonWidth = 69;
}

ShapeStation::ShapeStation(House& house) : Station("shape", tr("Shape"), "shape", "F3"), house_(house) {
    connect(&house.surveyor, &Surveyor::found, this, &Station::stateChanged);
    connect(&house.place.standpoint, &Standpoint::stationChanged, this, [this] { showWhole(false); });
}

Station::State ShapeStation::state() const {
    const auto& f = house_.surveyor.findings();
    if (!f) return {};
    return {tr("%1 to %2 m, up to %3°")
                .arg(f->ground.lowest, 0, 'f', 0)
                .arg(f->ground.highest, 0, 'f', 0)
                .arg(f->ground.steepest, 0, 'f', 0)};
}

QList<ActionRow> ShapeStation::commands() {
    return {{"whole", tr("Whole ground: raise, scale, smooth, wear, generate, resize"), "H", "whole", true,
             [this] { showWhole((*house_.actions)["whole"]->isChecked()); }},
            {"fence", tr("Drop the fence, or bring it back"), "F", "", false, [this] { turnFence(house_); }},
            {"keepBrush", tr("Keep the brush under a name…"), "Ctrl+K", "", false, [this] { keepBrush(house_); }}};
}

std::unique_ptr<Hand> ShapeStation::takeHand(const HandEvent& press) { return workingHand(house_.view, press); }

bool ShapeStation::takeFiles(const QStringList& paths, bool) {
    if (!paths.front().endsWith(".json", Qt::CaseInsensitive)) return false;
    if (const Status s = house_.shelf.addBrush(paths.front()); !s) house_.services.refuse(s.error());
    else house_.services.say(tr("The brush lies with the others now."));
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
                                    {"partCourses", tr("Courses"), new CoursePanel(house_, brush_)}},
                                   brush_);
    // A tool that is taken up puts courses away.
    connect(&house_.place.standpoint, &Standpoint::courseChosen, brush_, [this, parts] {
        if (!house_.place.standpoint.coursing() && parts->buttons().back()->isChecked() &&
            house_.place.standpoint.station() == id() && brush_->isVisible())
            parts->buttons().front()->setChecked(true);
    });
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

void ShapeStation::showWhole(bool on) {
    if (!whole_ || on == wholeShown_) return;
    if (on) house_.place.standpoint.setStation(id());
    wholeShown_ = on;
    if (!on) whole_->leave();
    brush_->setVisible(!on);
    whole_->setVisible(on);
    if (on) whole_->choose(0);
    (*house_.actions)["whole"]->setChecked(on);
}

}  // namespace jam
