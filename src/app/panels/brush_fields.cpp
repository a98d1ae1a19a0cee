#include "panels/brush_fields.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include "panels/number_field.h"

namespace jam {

BrushFields::BrushFields(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    title_ = new QLabel(this);
    title_->setProperty("heading", true);
    column->addWidget(title_);
    const auto field = [&](const QString& name, const QString& suffix, NumberField::Range range, auto set) {
        auto* f = new NumberField(name, suffix, range, this);
        column->addWidget(f);
        connect(f, &NumberField::changed, this, [this, set](double v) { session_.changeSettings([&](StrokeSettings& s) { set(s, static_cast<float>(v)); }); });
        return f;
    };
    radius_ = field(tr("Radius"), tr(" m"), {kMinRadius, kMaxRadius, 1, true}, [](StrokeSettings& s, float v) { s.radius = v; });
    rate_ = field(tr("Strength"), tr(" m/s"), {kMinRate, kMaxRate, 2, true}, [](StrokeSettings& s, float v) { s.strength = v; });
    share_ = field(tr("Strength"), tr(" %"), {0.1, 100, 1, true}, [](StrokeSettings& s, float v) { s.strength = v / 100; });
    softness_ = field(tr("Soft edge"), tr(" %"), {0, 100, 0}, [](StrokeSettings& s, float v) { s.falloff.softness = v / 100; });
    grain_ = field(tr("Evens out"), tr(" %"), {0, 50, 0}, [](StrokeSettings& s, float v) { s.grain = v / 100; });
    grain_->setToolTip(tr("How wide the bumps are that go away, as a share of the radius."));
    target_ = field(tr("Coverage"), tr(" %"), {1, 100, 0}, [](StrokeSettings& s, float v) { s.target = v / 100; });
    target_->setToolTip(tr("How much of the ground the layer comes to show where the brush is strongest."));

    flattenBox_ = new QWidget(this);
    auto* flatten = new QVBoxLayout(flattenBox_);
    flatten->setContentsMargins(0, 0, 0, 0);
    way_ = new QComboBox(flattenBox_);
    way_->addItems({tr("Fill and cut"), tr("Only fill"), tr("Only cut")});
    fixed_ = new QCheckBox(tr("To a set height"), flattenBox_);
    fixed_->setToolTip(tr("Otherwise the height under the first touch counts."));
    height_ = new NumberField(tr("Height"), tr(" m"), {-10000, 10000, 2}, flattenBox_);
    flatten->addWidget(way_);
    flatten->addWidget(fixed_);
    flatten->addWidget(height_);
    column->addWidget(flattenBox_);
    connect(way_, &QComboBox::activated, this, [this](int i) { session_.changeSettings([i](StrokeSettings& s) { s.way = static_cast<FlattenWay>(i); }); });
    connect(fixed_, &QCheckBox::clicked, this, [this](bool on) {
        session_.changeSettings([&](StrokeSettings& s) { s.height = on ? std::optional<float>(static_cast<float>(height_->value())) : std::nullopt; });
    });
    connect(height_, &NumberField::changed, this, [this](double v) { session_.changeSettings([v](StrokeSettings& s) { s.height = static_cast<float>(v); }); });
    connect(&session, &Session::settingsChanged, this, &BrushFields::show);
    connect(&session, &Session::toolChanged, this, &BrushFields::show);
    show();
}

void BrushFields::show() {
    const StrokeSettings& s = session_.settings();
    const bool rate = s.tool == Tool::raise || s.tool == Tool::lower;
    title_->setText(toolTitle(s.tool));
    radius_->setValue(s.radius);
    rate_->setVisible(rate);
    share_->setVisible(!rate);
    if (rate) rate_->setValue(s.strength);
    else share_->setValue(s.strength * 100);
    softness_->setValue(s.falloff.softness * 100);
    grain_->setVisible(s.tool == Tool::smooth);
    grain_->setValue(s.grain * 100);
    target_->setVisible(s.tool == Tool::paint);
    target_->setValue(s.target * 100);
    flattenBox_->setVisible(s.tool == Tool::flatten);
    way_->setCurrentIndex(static_cast<int>(s.way));
    fixed_->setChecked(s.height.has_value());
    height_->setEnabled(s.height.has_value());
    if (s.height) height_->setValue(*s.height);
}

}  // namespace jam
