#include "stations/shape/edge_panel.h"

#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>

#include "house/station.h"
#include "level/ground.h"
#include "level/opening.h"
#include "looks/theme.h"
#include "panels/number_field.h"
#include "panels/page.h"
#include "shape/gaps.h"
#include "view/ground_view.h"
#include "watch/surveyor.h"

namespace jam {

EdgePanel::EdgePanel(House& house, QWidget* parent) : QWidget(parent), house_(house) {
    auto* column = pageColumn(this);
    column->setSpacing(5);
    says_ = quietLabel(
        tr("Brushes open and close holes, and take and add land: O and M, with Shift the other way. Paint "
           "keeps to where land is."),
        this);
    column->addWidget(says_);
    auto* row = new QHBoxLayout;
    found_ = new QLabel(this);
    found_->setObjectName("openingsFound");
    found_->setWordWrap(true);
    go_ = iconButton("goToOpening", "centre", tr("Go to the next opening; those out of reach come first"), this);
    connect(go_, &QToolButton::clicked, this, &EdgePanel::goOn);
    row->addWidget(found_, 1);
    row->addWidget(go_);
    column->addLayout(row);
    cut_ = new QComboBox(this);
    cut_->setAccessibleName(tr("How edges are cut"));
    cut_->setObjectName("edgeCut");
    cut_->addItems({tr("Edges are cut smoothly"), tr("Edges follow the cells")});
    column->addWidget(cut_);
    connect(cut_, &QComboBox::activated, this, [this](int i) {
        house_.place.document.edit(tr("Cut of the edges"), [i](Level& l) { l.smoothEdges = i == 0; });
    });
    cliff_ = new NumberField(tr("Cliffs of the land"), tr(" m"), {0, 200, 1}, this);
    cliff_->setObjectName("cliff");
    cliff_->setToolTip(tr("How far the land's edge drops; 0 leaves it open"));
    column->addWidget(cliff_);
    connect(cliff_, &NumberField::changed, this, [this](double v) {
        house_.place.document.edit(
            tr("Cliffs of the land"), [v](Level& l) { l.cliff = static_cast<float>(v); }, "cliff");
    });
    column->addWidget(headingLabel(tr("By the fence"), this));
    auto* grid = new QGridLayout;
    grid->setSpacing(4);
    const struct {
        const char* id;
        QString name, tip;
        Gaps Level::*mask;
        bool take, outside;
    } fills[] = {
        {"openFence", tr("Open it"), tr("What lies inside the fence becomes an opening"), &Level::opening, true, false},
        {"closeFence", tr("Close it"), tr("Openings inside the fence are closed; without one, all"), &Level::opening,
         false, false},
        {"landFence", tr("Land in it alone"), tr("Outside of the fence there is no land any more"), &Level::noLand,
         true, true},
        {"noLandFence", tr("No land in it"), tr("Inside the fence there is no land any more; without one, anywhere"),
         &Level::noLand, true, false},
        {"addLandFence", tr("Land in it again"), tr("Inside the fence there is land again; without one, everywhere"),
         &Level::noLand, false, false}};
    for (int i = 0; i < 5; ++i) {
        const auto& f = fills[i];
        auto* b = new QPushButton(f.name, this);
        b->setObjectName(f.id);
        b->setToolTip(f.tip);
        grid->addWidget(b, i / 2, i % 2);
        connect(b, &QPushButton::clicked, this, [this, f] { fill(f.name, f.mask, f.take, f.outside); });
    }
    column->addLayout(grid);
    column->addStretch();
    house.place.document.on(About::raster | About::history | About::preview, this, &EdgePanel::refresh);
    connect(&house.surveyor, &Surveyor::found, this, &EdgePanel::refresh);
    refresh();
}

void EdgePanel::showEvent(QShowEvent* e) {
    refresh();
    QWidget::showEvent(e);
}

void EdgePanel::refresh() {
    if (!isVisible()) return;
    const Level& level = house_.place.document.level();
    cut_->setCurrentIndex(level.smoothEdges ? 0 : 1);
    cliff_->setValue(level.cliff);
    const auto& f = house_.surveyor.findings();
    const size_t count = f ? f->openings.size() : 0;
    const auto lost =
        f ? std::count_if(f->openings.begin(), f->openings.end(), [](const FoundOpening& o) { return !o.reached; }) : 0;
    QString text = count == 0 ? tr("No opening yet.") : count == 1 ? tr("One opening.") : tr("%1 openings.").arg(count);
    if (lost > 0)
        text += lost == 1 ? tr(" One cannot be got at on foot.") : tr(" %1 cannot be got at on foot.").arg(lost);
    if (f && f->ground.counted < static_cast<double>(level.bounds().area()) && level.noLand.presentTiles() > 0)
        text += tr(" Ground on %1 % of the level.")
                    .arg(100 * f->ground.counted / static_cast<double>(level.bounds().area()), 0, 'f', 0);
    found_->setText(text);
    found_->setStyleSheet(lost > 0 ? QString("color: %1;").arg(theme().warns.name()) : QString());
    go_->setEnabled(count > 0);
}

void EdgePanel::goOn() {
    const auto& f = house_.surveyor.findings();
    if (!f || f->openings.empty()) return;
    std::vector<FoundOpening> order = f->openings;
    std::stable_partition(order.begin(), order.end(), [](const FoundOpening& o) { return !o.reached; });
    const FoundOpening& o = order[next_++ % order.size()];
    house_.view.visit({o.x, altitudeAt(house_.place.document.level(), o.x, o.z), o.z});
}

void EdgePanel::fill(const QString& what, Gaps Level::*mask, bool take, bool outside) {
    const Level& level = house_.place.document.level();
    if (outside && !level.fenced) return house_.services.say(tr("Draw a fence round the land first."));
    house_.services.workOn(what, LevelJob::onAll([=](Level& l, const Context&) {
                               fillGaps(l, mask, take, outside);
                               return checkGroundLeft(l);
                           }));
}

}  // namespace jam
