#include "panels/see_fields.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QVBoxLayout>

#include "looks/theme.h"
#include "panels/number_field.h"
#include "view/ground_view.h"
#include "watch/surveyor.h"

namespace jam {

Legend::Legend(const GroundView& view, QWidget* parent) : QWidget(parent), view_(view) {
    setFixedHeight(12);
    connect(&view, &GroundView::sightChanged, this, qOverload<>(&QWidget::update));
}

void Legend::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Sight& look = view_.sight();
    for (int x = 0; x < width(); ++x) {
        const glm::vec3 c = overlayColour(look.overlay, (static_cast<float>(x) + 0.5f) / static_cast<float>(width()),
                                          look.walkable);
        p.fillRect(x, 0, 1, height(), QColor::fromRgbF(c.x, c.y, c.z));
    }
    if (look.overlay == Overlay::steepness) {
        const int x = static_cast<int>(look.walkable / 90 * static_cast<float>(width()));
        p.fillRect(x - 1, 0, 2, height(), theme().text);
    }
}

SeeFields::SeeFields(Workplace& place, GroundView& view, const Surveyor& surveyor, QWidget* parent)
    : QWidget(parent), place_(place), view_(view), surveyor_(surveyor) {
    auto* c = new QVBoxLayout(this);
    c->setContentsMargins(0, 0, 0, 0);
    c->setSpacing(6);
    const auto change = [this](auto set) {
        Sight look = view_.sight();
        set(look);
        view_.setSight(look);
    };
    overlay_ = new QComboBox(this);
    overlay_->setAccessibleName(tr("What to see on the ground"));
    overlay_->setObjectName("overlay");
    overlay_->addItems({tr("The ground as it is"), tr("Steepness"), tr("Altitude bands"), tr("Curvature"),
                        tr("One layer's coverage"), tr("Stretch of the textures"), tr("Depth of the water"),
                        tr("Who gets where")});
    c->addWidget(overlay_);
    legend_ = new Legend(view, this);
    c->addWidget(legend_);
    ends_ = new QLabel(this);
    from_ = new QLabel(ends_);
    to_ = new QLabel(ends_);
    to_->setAlignment(Qt::AlignRight);
    auto* ends = new QHBoxLayout(ends_);
    ends->setContentsMargins(0, 0, 0, 0);
    for (QLabel* l : {from_, to_}) {
        l->setProperty("quiet", true);
        ends->addWidget(l);
    }
    ends_->setFixedHeight(scaled(18));
    c->addWidget(ends_);
    numbers_ = new QLabel(this);
    numbers_->setObjectName("overlayNumbers");
    numbers_->setWordWrap(true);
    c->addWidget(numbers_);
    const auto look = [&](const NumberSpec& spec, float Sight::*which) {
        return addNumber(c, spec,
                         [change, which](double v) { change([&](Sight& l) { l.*which = static_cast<float>(v); }); });
    };
    const auto box = [&](const QString& name, bool Sight::*which) {
        auto* b = new QCheckBox(name, this);
        c->addWidget(b);
        connect(b, &QCheckBox::clicked, this, [change, which](bool on) { change([&](Sight& l) { l.*which = on; }); });
        return b;
    };
    walkable_ = look({"walkable", tr("Walkable up to"), tr("°"), {5, 80, 0}}, &Sight::walkable);
    bands_ = look({"bandStep", tr("Band"), tr(" m"), {0.1, 500, 1, true}}, &Sight::bandStep);
    contours_ = box(tr("Contours"), &Sight::contours);
    interval_ = look({"contourStep", tr("Every"), tr(" m"), {0.1, 500, 1, true}}, &Sight::contourStep);
    grid_ = box(tr("Grid"), &Sight::grid);
    gridStep_ = look({"gridStep", tr("Every"), tr(" m"), {0.5, 1000, 1, true}}, &Sight::gridStep);
    lift_ = new NumberField(tr("Lift the relief"), tr(" %"), {0, 100, 0}, this);
    lift_->setObjectName("lift");
    lift_->setToolTip(
        tr("Slopes and crests brighter, hollows darker, so that a bump of a metre is seen on even ground. "
           "Only for the eye."));
    c->insertWidget(0, lift_);
    const auto choose = [&place](auto set) {
        ReliefChoice r = place.standpoint.relief();
        set(r);
        place.standpoint.setRelief(r);
    };
    connect(lift_, &NumberField::changed, this,
            [choose](double v) { choose([v](ReliefChoice& r) { r.lift = static_cast<float>(v / 100); }); });
    const auto reliefBox = [&](const char* id, const QString& name, const QString& tip, bool ReliefChoice::*which) {
        auto* b = new QCheckBox(name, this);
        b->setObjectName(id);
        b->setToolTip(tip);
        connect(b, &QCheckBox::clicked, this,
                [choose, which](bool on) { choose([&](ReliefChoice& r) { r.*which = on; }); });
        return b;
    };
    always_ = reliefBox("liftAlways", tr("As much when not shaping"),
                        tr("At every station as much as at Shape; without it a little stays there."),
                        &ReliefChoice::always);
    oneTone_ = reliefBox("oneTone", tr("Ground in one tone"), tr("Without its textures: nothing but the shape."),
                         &ReliefChoice::oneTone);
    c->insertWidget(1, always_);
    c->insertWidget(2, oneTone_);
    connect(&place.standpoint, &Standpoint::reliefChosen, this, &SeeFields::refresh);
    mesh_ = box(tr("Ground mesh"), &Sight::mesh);
    mesh_->setToolTip(tr("The triangles of the samples, where they are far enough apart to be seen."));
    before_ = new QComboBox(this);
    before_->setAccessibleName(tr("What looking back shows"));
    before_->setToolTip(tr("What the key for looking back shows."));
    before_->addItems({tr("Look back one step"), tr("Look back to the last save")});
    before_->setCurrentIndex(place.document.looksAtSave());
    c->addWidget(before_);
    connect(overlay_, &QComboBox::activated, this, [this, change](int i) {
        change([this, i](Sight& l) {
            l.overlay = static_cast<Overlay>(i);
            l.soloLayer = std::max(place_.document.level().layerIndex(place_.standpoint.layer()), 0);
        });
    });
    connect(before_, &QComboBox::activated, this, [this](int i) { place_.document.setLooksAtSave(i == 1); });
    connect(&view, &GroundView::sightChanged, this, &SeeFields::refresh);
    connect(&surveyor, &Surveyor::found, this, &SeeFields::tell);
    refresh();
}

void SeeFields::refresh() {
    const Sight& l = view_.sight();
    overlay_->setCurrentIndex(static_cast<int>(l.overlay));
    legend_->setVisible(l.overlay != Overlay::none);
    ends_->setVisible(l.overlay != Overlay::none);
    numbers_->setVisible(l.overlay != Overlay::none);
    walkable_->setVisible(l.overlay == Overlay::steepness);
    walkable_->setValue(l.walkable);
    bands_->setVisible(l.overlay == Overlay::altitude);
    bands_->setValue(l.bandStep);
    contours_->setChecked(l.contours);
    interval_->setVisible(l.contours);
    interval_->setValue(l.contourStep);
    grid_->setChecked(l.grid);
    gridStep_->setVisible(l.grid);
    gridStep_->setValue(l.gridStep);
    mesh_->setChecked(l.mesh);
    const ReliefChoice& relief = place_.standpoint.relief();
    lift_->setValue(100 * relief.lift);
    always_->setChecked(relief.always);
    oneTone_->setChecked(relief.oneTone);
    tell();
}

// The legend's words and the numbers of the last survey.
void SeeFields::tell() {
    const Sight& l = view_.sight();
    const auto& f = surveyor_.findings();
    const HeightSpan span = place_.document.pyramid().whole();
    switch (l.overlay) {
        case Overlay::none: return;
        case Overlay::steepness:
            from_->setText(tr("0°")), to_->setText(tr("90°"));
            if (f)
                numbers_->setText(tr("%1 % of the ground can be walked.\nThe steepest is %2°.")
                                      .arg(100 * f->ground.atMost(l.walkable), 0, 'f', 1)
                                      .arg(f->ground.steepest, 0, 'f', 1));
            return;
        case Overlay::altitude:
            from_->setText(tr("%1 m").arg(span.low, 0, 'f', 1)), to_->setText(tr("%1 m").arg(span.high, 0, 'f', 1));
            if (f)
                numbers_->setText(tr("From %1 to %2 m, %3 m in the mean.")
                                      .arg(f->ground.lowest, 0, 'f', 2)
                                      .arg(f->ground.highest, 0, 'f', 2)
                                      .arg(f->ground.mean, 0, 'f', 2));
            return;
        case Overlay::coverage: {
            from_->setText(tr("0 %")), to_->setText(tr("100 %"));
            const auto layer = static_cast<size_t>(l.soloLayer);
            if (layer >= place_.document.level().layers.size()) return;
            const QString name = QString::fromStdString(place_.document.level().layers[layer].name);
            numbers_->setText(f ? tr("%1 covers %2 % of the level.").arg(name).arg(100 * f->shares[layer], 0, 'f', 1)
                                : name);
            return;
        }
        case Overlay::stretch:
            from_->setText(tr("0 %")), to_->setText(tr("%1 %").arg(100 * kStretchShown, 0, 'f', 0));
            if (f)
                numbers_->setText(
                    tr("%1 % of the ground is drawn out by more than half.").arg(100 * f->stretched, 0, 'f', 1));
            return;
        case Overlay::reach: {
            from_->setText(tr("there and back, one way")), to_->setText(tr("trap, never"));
            numbers_->setText(place_.document.level().spots.empty()
                                  ? tr("There are no spots yet: put some down at Walk.")
                                  : tr("From where one starts. Slopes that nobody comes by stay as they are."));
            return;
        }
        case Overlay::depth: {
            const float deepest = deepestShown(place_.document.level());
            from_->setText(tr("shore")), to_->setText(tr("%1 m").arg(deepest, 0, 'f', 1));
            numbers_->setText(place_.document.level().water.presentTiles() == 0
                                  ? tr("There is no water yet.")
                                  : tr("A line every %1 m of depth.").arg(depthLineStep(deepest), 0, 'g', 3));
            return;
        }
        case Overlay::curvature:
            from_->setText(tr("hollow")), to_->setText(tr("crest"));
            numbers_->setText(tr("Full colour where the slope changes by %1 for every metre.")
                                  .arg(curvatureScale(place_.document.level()), 0, 'g', 2));
            return;
    }
}

}  // namespace jam
