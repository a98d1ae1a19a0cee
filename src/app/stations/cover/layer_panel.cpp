#include "stations/cover/layer_panel.h"

#include <QCheckBox>
#include <QColorDialog>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalBlocker>
#include <QToolButton>
#include <QVBoxLayout>

#include "looks/theme.h"
#include "panels/fold.h"
#include "panels/number_field.h"
#include "panels/rules_panel.h"
#include "stations/cover/material_view.h"
#include "stations/cover/near_far.h"
#include "view/ground_view.h"

namespace jam {

LayerPanel::LayerPanel(Workplace& place, GroundView& view, RulesPanel& rules, QWidget* parent)
    : QWidget(parent), place_(place), view_(view), rules_(rules) {
    auto* c = new QVBoxLayout(this);
    c->setContentsMargins(0, 0, 0, 0);
    c->setSpacing(7);
    makeHead(c);
    auto* near = new Fold("foldNearFar", tr("Near and far"), true, this);
    nearFar_ = new NearFar(place, view, near);
    near->column()->addWidget(nearFar_);
    c->addWidget(near);
    makeLaying(c);
    makeColour(c);
    makeMeeting(c);
    place_.document.on(About::layers, this, &LayerPanel::refresh);
    connect(&place_.standpoint, &Standpoint::layerChosen, this, &LayerPanel::refresh);
    // Elsewhere the ground is seen as it is.
    connect(&place_.standpoint, &Standpoint::stationChanged, this, [this] {
        if (place_.standpoint.station() == "cover" || !solo_->isChecked()) return;
        solo_->setChecked(false);
        showSolo();
    });
    refresh();
}

void LayerPanel::change(const QString& what, const std::function<void(Layer&)>& set, const QString& gesture) {
    rules_.leave();
    place_.document.edit(
        what, [&](Level& l) { set(*l.layer(place_.standpoint.layer())); }, gesture);
}

NumberField* LayerPanel::number(QVBoxLayout* column, const QString& name, const QString& unit, double low, double high,
                                int decimals, double factor, float LayerLook::*which, bool logarithmic) {
    auto* f = new NumberField(name, unit, {low, high, decimals, logarithmic}, this);
    column->addWidget(f);
    numbers_.push_back({f, {which, factor}});
    connect(f, &NumberField::changed, this, [this, name, which, factor](double v) {
        change(
            name, [=](Layer& l) { l.look.*which = static_cast<float>(v / factor); }, name);
    });
    return f;
}

void LayerPanel::makeHead(QVBoxLayout* c) {
    auto* row = new QHBoxLayout;
    const auto button = [&](const char* id, const char* iconName, const QString& tip, bool checkable) {
        auto* b = new QToolButton(this);
        b->setObjectName(id);
        setThemedIcon(b, iconName);
        b->setToolTip(tip);
        b->setCheckable(checkable);
        row->addWidget(b);
        return b;
    };
    solo_ = button("soloLayer", "heat", tr("Show only where this layer lies, as a heat picture"), true);
    keep_ = button("keepLayer", "lock", tr("Protect the layer: no brush changes it"), true);
    hide_ = button("hideLayer", "eye-off", tr("Hide the layer"), true);
    auto* flat = button("flatLight", "flat-light", tr("Flat light, for judging colour"), true);
    auto* more = button("layerMenu", "menu", tr("Duplicate, replace, merge, fill, delete"), false);
    name_ = new QLineEdit(this);
    name_->setAccessibleName(tr("Name of the layer"));
    name_->setObjectName("layerName");
    c->addWidget(name_);
    row->addStretch();
    c->addLayout(row);
    material_ = new MaterialView(this);
    c->addWidget(material_);
    auto* under = new QHBoxLayout;
    maps_ = new QLabel(this);
    maps_->setObjectName("layerMaps");
    maps_->setProperty("quiet", true);
    maps_->setWordWrap(true);
    auto* swap = new QPushButton(tr("Pictures…"), this);
    swap->setObjectName("swapPictures");
    swap->setToolTip(tr("Swap the pictures; coverage, tile size and blends stay."));
    under->addWidget(maps_, 1);
    under->addWidget(swap);
    c->addLayout(under);
    connect(name_, &QLineEdit::editingFinished, this, [this] {
        const std::string text = name_->text().trimmed().toStdString();
        const Layer* l = place_.document.level().layer(place_.standpoint.layer());
        if (l && !text.empty() && text != l->name) change(tr("Rename layer"), [&](Layer& x) { x.name = text; });
    });
    connect(hide_, &QToolButton::clicked, this,
            [this](bool on) { change(on ? tr("Hide layer") : tr("Show layer"), [on](Layer& x) { x.hidden = on; }); });
    connect(keep_, &QToolButton::clicked, this, [this](bool on) {
        change(on ? tr("Protect layer") : tr("Let layer go"), [on](Layer& x) { x.locked = on; });
    });
    connect(solo_, &QToolButton::clicked, this, &LayerPanel::showSolo);
    connect(flat, &QToolButton::clicked, this, [this](bool on) { view_.setFlatLight(on); });
    connect(&view_, &GroundView::sightChanged, flat, [this, flat] { flat->setChecked(view_.flatLight()); });
    connect(more, &QToolButton::clicked, this, &LayerPanel::menuWanted);
    connect(swap, &QPushButton::clicked, this, &LayerPanel::picturesWanted);
}

void LayerPanel::makeLaying(QVBoxLayout* column) {
    layingFold_ = new Fold("foldLaying", tr("How it is laid"), true, this);
    column->addWidget(layingFold_);
    auto* c = layingFold_->column();
    tile_ = new NumberField(tr("Tile size"), tr(" m"), {kMinTile, kMaxTile, 2, true}, this);
    tile_->setToolTip(tr("What one repeat of the pictures spans."));
    c->addWidget(tile_);
    connect(tile_, &NumberField::changed, this, [this](double v) {
        change(
            tr("Tile size"), [v](Layer& x) { x.tileSize = v; }, "tile");
    });
    tiling_ = new QComboBox(this);
    tiling_->setAccessibleName(tr("How the pictures repeat"));
    tiling_->setObjectName("tiling");
    tiling_->addItems({tr("Tile beside tile"), tr("Broken: pieces from random places")});
    tiling_->setToolTip(
        tr("Broken tiling hides the repeat of grass, earth, gravel and rock. Pavings and walls need plain tiling."));
    c->addWidget(tiling_);
    connect(tiling_, &QComboBox::activated, this,
            [this](int i) { change(tr("Tiling"), [i](Layer& x) { x.look.tiling = static_cast<Tiling>(i); }); });
    second_ = new QCheckBox(tr("A larger scale from afar"), this);
    second_->setObjectName("secondScale");
    c->addWidget(second_);
    connect(second_, &QCheckBox::clicked, this,
            [this](bool on) { change(tr("Larger scale"), [on](Layer& x) { x.look.farTimes = on ? 5.f : 1.f; }); });
    farTimes_ = number(c, tr("So many times larger"), tr(" ×"), 1, 32, 1, 1, &LayerLook::farTimes, true);
    farFrom_ = number(c, tr("Begins at"), tr(" m"), 1, 500, 0, 1, &LayerLook::farFrom, true);
    number(c, tr("Wandering brightness"), tr(" %"), 0, 100, 0, 100, &LayerLook::variation)
        ->setToolTip(tr("Slow changes over tens of metres, so that a wide field is not all alike."));
    number(c, tr("Turn"), tr("°"), -180, 180, 0, 1, &LayerLook::turn);
    number(c, tr("Moved east"), tr(" m"), -50, 50, 2, 1, &LayerLook::offsetX);
    number(c, tr("Moved south"), tr(" m"), -50, 50, 2, 1, &LayerLook::offsetZ);
    sides_ = new QCheckBox(tr("From three sides where steep"), this);
    sides_->setObjectName("threeSides");
    sides_->setToolTip(tr("Steep ground takes the pictures from the side as well, so that they do not stretch."));
    c->addWidget(sides_);
    connect(sides_, &QCheckBox::clicked, this, [this](bool on) {
        change(on ? tr("From three sides") : tr("From above"), [on](Layer& x) { x.sides = on; });
    });
}

void LayerPanel::makeColour(QVBoxLayout* column) {
    colourFold_ = new Fold("foldColour", tr("Colour and relief"), false, this);
    column->addWidget(colourFold_);
    auto* c = colourFold_->column();
    number(c, tr("Brightness"), tr(" %"), 10, 400, 0, 100, &LayerLook::brightness, true);
    auto* row = new QHBoxLayout;
    row->addWidget(new QLabel(tr("Tint"), this), 1);
    tint_ = new QToolButton(this);
    tint_->setObjectName("layerTint");
    tint_->setIconSize({44, 18});
    tint_->setToolTip(tr("Multiplies the layer's colour; white leaves it as it is."));
    row->addWidget(tint_);
    c->addLayout(row);
    connect(tint_, &QToolButton::clicked, this, [this] {
        const Layer* l = place_.document.level().layer(place_.standpoint.layer());
        const auto& now = l->look.tint;
        const QColor to = QColorDialog::getColor(QColor::fromRgbF(now[0], now[1], now[2]), this,
                                                 tr("Tint of the layer"), QColorDialog::DontUseNativeDialog);
        if (to.isValid())
            change(tr("Tint"), [to](Layer& x) {
                x.look.tint = {static_cast<float>(to.redF()), static_cast<float>(to.greenF()),
                               static_cast<float>(to.blueF())};
            });
    });
    number(c, tr("Relief"), tr(" %"), 0, 400, 0, 100, &LayerLook::relief)
        ->setToolTip(tr("Strength of the normal map."));
    flipGreen_ = new QCheckBox(tr("The normal map's green runs down"), this);
    c->addWidget(flipGreen_);
    connect(flipGreen_, &QCheckBox::clicked, this,
            [this](bool on) { change(tr("Flip green"), [on](Layer& x) { x.look.flipGreen = on; }); });
    number(c, tr("Takes painted colour"), tr(" %"), 0, 100, 0, 100, &LayerLook::wash)
        ->setToolTip(tr("How strongly the wash shows on this layer."));
}

void LayerPanel::makeMeeting(QVBoxLayout* column) {
    meetingFold_ = new Fold("foldMeeting", tr("How it meets others"), false, this);
    column->addWidget(meetingFold_);
    auto* c = meetingFold_->column();
    blend_ = new NumberField(tr("Blend"), tr(" %"), {0, 100, 0}, this);
    blend_->setToolTip(tr("0 %: edges fade like mist. 100 %: what stands tall in the layer comes through first."));
    c->addWidget(blend_);
    connect(blend_, &NumberField::changed, this, [this](double v) {
        change(
            tr("Blend"), [v](Layer& x) { x.blend = static_cast<float>(v / 100); }, "blend");
    });
    pair_ = new QComboBox(this);
    pair_->setAccessibleName(tr("The other layer of the pair"));
    pair_->setObjectName("blendPair");
    c->addWidget(pair_);
    ownPair_ = new QCheckBox(tr("A blend of its own with that layer"), this);
    ownPair_->setObjectName("blendOwn");
    c->addWidget(ownPair_);
    pairBlend_ = new NumberField(tr("Blend of the two"), tr(" %"), {0, 100, 0}, this);
    pairBlend_->setObjectName("blendOfPair");
    c->addWidget(pairBlend_);
    const auto set = [this](std::optional<float> blend, const QString& gesture) {
        const uint32_t other = pair_->currentData().toUInt();
        if (!place_.document.level().layer(other)) return;
        place_.document.edit(
            tr("Blend of two layers"), [&](Level& l) { setBlendBetween(l, place_.standpoint.layer(), other, blend); },
            gesture);
    };
    connect(ownPair_, &QCheckBox::clicked, this, [this, set](bool on) {
        set(on ? std::optional<float>(static_cast<float>(pairBlend_->value() / 100)) : std::nullopt, {});
    });
    connect(pairBlend_, &NumberField::changed, this, [set](double v) { set(static_cast<float>(v / 100), "pair"); });
    connect(pair_, &QComboBox::activated, this, &LayerPanel::refresh);
}

void LayerPanel::showSolo() {
    Sight look = view_.sight();
    look.overlay = solo_->isChecked()                  ? Overlay::coverage
                   : look.overlay == Overlay::coverage ? Overlay::none
                                                       : look.overlay;
    look.soloLayer = std::max(place_.document.level().layerIndex(place_.standpoint.layer()), 0);
    view_.setSight(look);
}

void LayerPanel::showMeeting(const Layer& l) {
    const uint32_t chosen = pair_->currentData().toUInt();
    const QSignalBlocker quiet(pair_);
    pair_->clear();
    for (const Layer& other : place_.document.level().layers)
        if (other.id != l.id) pair_->addItem(tr("With %1").arg(QString::fromStdString(other.name)), other.id);
    pair_->setCurrentIndex(std::max(pair_->findData(chosen), 0));
    const bool any = pair_->count() > 0;
    pair_->setVisible(any);
    ownPair_->setVisible(any);
    const Layer* other = place_.document.level().layer(pair_->currentData().toUInt());
    const bool own = other && std::any_of(place_.document.level().pairs.begin(), place_.document.level().pairs.end(),
                                          [&](const BlendPair& p) {
                                              return p.one == std::min(l.id, other->id) &&
                                                     p.other == std::max(l.id, other->id);
                                          });
    ownPair_->setChecked(own);
    pairBlend_->setVisible(own);
    if (other) pairBlend_->setValue(100 * blendBetween(place_.document.level(), l, *other));
}

void LayerPanel::refresh() {
    const Layer* l = place_.document.level().layer(place_.standpoint.layer());
    if (!l) return;
    if (!name_->hasFocus() || shown_ != l->id) name_->setText(QString::fromStdString(l->name));
    shown_ = l->id;
    if (solo_->isChecked()) showSolo();
    hide_->setChecked(l->hidden);
    keep_->setChecked(l->locked);
    material_->setLayer(*l);
    QStringList given, derived;
    const QString names[] = {tr("colour"),    tr("normal"),   tr("roughness"), tr("height"),
                             tr("occlusion"), tr("specular"), tr("metalness")};
    for (size_t i = 0; i < std::size(kLayerSlots); ++i) {
        if (l->*kLayerSlots[i].picture) given << names[i];
        else if (i == 1 || i == 3) derived << names[i];
    }
    maps_->setText(derived.isEmpty() ? given.join(", ")
                                     : tr("%1; derived: %2").arg(given.join(", "), derived.join(", ")));
    tile_->setValue(l->tileSize);
    tiling_->setCurrentIndex(static_cast<int>(l->look.tiling));
    second_->setChecked(l->look.farTimes > 1);
    farTimes_->setVisible(l->look.farTimes > 1);
    farFrom_->setVisible(l->look.farTimes > 1);
    sides_->setChecked(l->sides);
    for (const auto& [field, what] : numbers_) field->setValue(static_cast<double>(l->look.*what.first) * what.second);
    QPixmap tint(44, 18);
    tint.fill(QColor::fromRgbF(l->look.tint[0], l->look.tint[1], l->look.tint[2]));
    tint_->setIcon(tint);
    flipGreen_->setChecked(l->look.flipGreen);
    flipGreen_->setVisible(l->normal != nullptr);
    blend_->setValue(l->blend * 100);
    showMeeting(*l);
    layingFold_->setHint(l->look.tiling == Tiling::broken ? tr("broken") : QString());
}

}  // namespace jam
