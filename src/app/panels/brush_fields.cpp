#include "panels/brush_fields.h"

#include <QCheckBox>
#include <QColorDialog>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include "level/ground.h"
#include "panels/bend_edit.h"
#include "panels/brush_shelf.h"
#include "panels/fold.h"
#include "panels/number_field.h"

namespace jam {

namespace {
float single(double v) { return static_cast<float>(v); }
}  // namespace

NumberField* BrushFields::field(QVBoxLayout* column, const QString& name, const QString& suffix, double low, double high, int decimals, bool logarithmic,
                                const std::function<void(StrokeSettings&, float)>& set) {
    auto* f = new NumberField(name, suffix, {low, high, decimals, logarithmic}, this);
    column->addWidget(f);
    connect(f, &NumberField::changed, this, [this, set](double v) { session_.changeSettings([&](StrokeSettings& s) { set(s, single(v)); }); });
    return f;
}

BrushFields::BrushFields(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(3);
    title_ = new QLabel(this);
    title_->setProperty("heading", true);
    column->addWidget(title_);
    radius_ = field(column, tr("Radius"), tr(" m"), kMinRadius, kMaxRadius, 1, true, [](StrokeSettings& s, float v) { s.radius = v; });
    strength_ = field(column, tr("Strength"), tr(" m/s"), kMinRate, kMaxRate, 2, true, [](StrokeSettings& s, float v) { s.strength = v; });
    share_ = field(column, tr("Strength"), tr(" %"), 0.1, 100, 1, true, [](StrokeSettings& s, float v) { s.strength = v / 100; });
    softness_ = field(column, tr("Soft edge"), tr(" %"), 0, 100, 0, false, [](StrokeSettings& s, float v) { s.falloff.softness = v / 100; });
    column->addWidget(curveButtons(session, this));
    bend_ = new BendEdit(session, this);
    column->addWidget(bend_);
    makeOwn(column);
    makeTip(column);
    makeLimits(column);
    makeWhere(column);
    makeMirror(column);
    makePen(column);
    shared_ = new QCheckBox(tr("All tools share the brush"), this);
    shared_->setToolTip(tr("Radius, falloff, tip and limits are the same for every tool. Otherwise each tool keeps its own."));
    connect(shared_, &QCheckBox::clicked, this, [this](bool on) { session_.setShared(on); });
    tipFold_->column()->addWidget(shared_);
    connect(&session, &Session::settingsChanged, this, &BrushFields::show);
    connect(&session, &Session::toolChanged, this, &BrushFields::show);
    connect(&session, &Session::edited, this, &BrushFields::fillSteps);
    fillSteps();
    show();
}

// What single tools need.
void BrushFields::makeOwn(QVBoxLayout* column) {
    grain_ = field(column, tr("Evens out"), tr(" %"), 0, 50, 0, false, [](StrokeSettings& s, float v) { s.smoothing = v / 100; });
    grain_->setToolTip(tr("How wide the bumps are that go away, as a share of the radius."));
    keep_ = field(column, tr("Keeps"), tr(" %"), 0, 95, 0, false, [](StrokeSettings& s, float v) { s.remains = v / 100; });
    keep_->setToolTip(tr("How much of the relief one stroke leaves, however often it passes."));
    angle_ = field(column, tr("Angle"), tr("°"), kMinAngle, kMaxAngle, 1, false, [](StrokeSettings& s, float v) { s.angle = v; });
    step_ = field(column, tr("Step"), tr(" m"), kMinStep, kMaxStep, 2, true, [](StrokeSettings& s, float v) { s.step = v; });
    riser_ = field(column, tr("Soft riser"), tr(" %"), 0, 100, 0, false, [](StrokeSettings& s, float v) { s.riser = v / 100; });
    riser_->setToolTip(tr("How much of each step rises: nothing is a wall, all is a soft wave."));
    scale_ = field(column, tr("Bumps"), tr(" m"), kMinBumps, 500, 1, true, [](StrokeSettings& s, float v) { s.scale = v; });
    scale_->setToolTip(tr("How wide the largest bumps are."));
    relief_ = field(column, tr("Height"), tr(" m"), kMinRate, kMaxRate, 2, true, [](StrokeSettings& s, float v) { s.amplitude = v; });
    relief_->setToolTip(tr("How far the ground rises or falls at most. Passing again does not add to it."));
    octaves_ = field(column, tr("Detail"), tr(" octaves"), 1, kMaxOctaves, 0, false, [](StrokeSettings& s, float v) { s.octaves = static_cast<int>(v); });
    noise_ = new QComboBox(this);
    noise_->addItems({tr("Up and down"), tr("Only up"), tr("Only down")});
    connect(noise_, &QComboBox::activated, this, [this](int i) { session_.changeSettings([i](StrokeSettings& s) { s.noise = static_cast<NoiseSign>(i); }); });
    column->addWidget(noise_);
    seed_ = field(column, tr("Seed"), {}, 0, 100000, 0, false, [](StrokeSettings& s, float v) { s.seed = static_cast<uint32_t>(v); });
    seed_->setToolTip(tr("Another number gives another pattern."));

    way_ = new QComboBox(this);
    way_->addItems({tr("Fill and cut"), tr("Only fill"), tr("Only cut")});
    fixed_ = new QCheckBox(tr("To a set height"), this);
    fixed_->setToolTip(tr("Otherwise the height under the first touch counts."));
    connect(way_, &QComboBox::activated, this, [this](int i) { session_.changeSettings([i](StrokeSettings& s) { s.earthwork = static_cast<Earthwork>(i); }); });
    column->addWidget(way_);
    column->addWidget(fixed_);
    height_ = field(column, tr("Height"), tr(" m"), -kFarHeight, kFarHeight, 2, false, [](StrokeSettings& s, float v) { s.height = v; });
    connect(fixed_, &QCheckBox::clicked, this, [this](bool on) {
        session_.changeSettings([&](StrokeSettings& s) { s.height = on ? std::optional<float>(single(height_->value())) : std::nullopt; });
    });

    restore_ = new QComboBox(this);
    restore_->setToolTip(tr("What the brush brings back."));
    connect(restore_, &QComboBox::activated, this, [this](int i) {
        if (i < 2) session_.setRestoreSource(static_cast<RestoreSource>(i));
        else session_.setRestoreSource(RestoreSource::step, restore_->itemData(i).toULongLong());
    });
    column->addWidget(restore_);
    breakBy_ = new QComboBox(this);
    breakBy_->setObjectName("breakBy");
    breakBy_->addItems({tr("By noise"), tr("By the picture tip"), tr("By the layer's own height")});
    connect(breakBy_, &QComboBox::activated, this, [this](int i) {
        const auto by = static_cast<BreakBy>(i);
        if (by == BreakBy::tip && session_.settings().tip.shape != TipShape::picture) emit session_.said(tr("Choose a picture tip below the view first."));
        session_.changeSettings([by](StrokeSettings& s) { s.breakBy = by; });
        breakBy_->setCurrentIndex(static_cast<int>(session_.settings().breakBy));
    });
    column->addWidget(breakBy_);
    from_ = new QComboBox(this);
    from_->setObjectName("replaceFrom");
    from_->setToolTip(tr("The layer that makes room for the chosen one."));
    connect(from_, &QComboBox::activated, this, [this](int i) {
        const uint32_t id = from_->itemData(i).toUInt();
        session_.changeSettings([id](StrokeSettings& s) { s.from = id; });
    });
    column->addWidget(from_);
    makeColours(column);
    target_ = field(column, tr("Coverage"), tr(" %"), 1, 100, 0, false, [](StrokeSettings& s, float v) { s.target = v / 100; });
    target_->setToolTip(tr("How much of the ground the layer comes to show where the brush is strongest."));
}

// The colour of the wash: some worth having at hand, and any other.
void BrushFields::makeColours(QVBoxLayout* column) {
    colours_ = new QWidget(this);
    auto* row = new QHBoxLayout(colours_);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    const struct { QString name; QColor colour; } usual[] = {
        {tr("Lush"), {92, 128, 48}}, {tr("Dry"), {186, 160, 92}}, {tr("Scorched"), {92, 66, 44}}, {tr("Moss"), {104, 122, 58}}, {tr("Rust"), {158, 88, 48}}, {tr("Frost"), {226, 232, 238}}};
    const auto choose = [this](const QColor& c) { session_.changeSettings([c](StrokeSettings& s) { s.colour = {static_cast<float>(c.redF()), static_cast<float>(c.greenF()), static_cast<float>(c.blueF())}; }); };
    const auto swatch = [&](const QColor& c, const QString& name) {
        auto* b = new QToolButton(colours_);
        b->setFixedSize(28, 28);
        b->setIconSize({20, 20});
        b->setToolTip(name);
        b->setAccessibleName(name);
        row->addWidget(b);
        QPixmap p(20, 20);
        p.fill(c);
        b->setIcon(p);
        return b;
    };
    for (const auto& u : usual) connect(swatch(u.colour, u.name), &QToolButton::clicked, this, [choose, c = u.colour] { choose(c); });
    row->addStretch();
    colour_ = swatch(Qt::gray, tr("The colour that is washed on; click for another"));
    colour_->setObjectName("washColour");
    connect(colour_, &QToolButton::clicked, this, [this, choose] {
        const auto& now = session_.settings().colour;
        const QColor c = QColorDialog::getColor(QColor::fromRgbF(now[0], now[1], now[2]), this, tr("Colour of the wash"), QColorDialog::DontUseNativeDialog);
        if (c.isValid()) choose(c);
    });
    column->addWidget(colours_);
}

void BrushFields::makeTip(QVBoxLayout* column) {
    tipFold_ = new Fold("foldTip", tr("Tip and path"), false, this);
    column->addWidget(tipFold_);
    auto* c = tipFold_->column();
    turn_ = field(c, tr("Turn"), tr("°"), -180, 180, 0, false, [](StrokeSettings& s, float v) { s.tip.turn = v; });
    randomTurn_ = new QCheckBox(tr("Another way each time"), this);
    follow_ = new QCheckBox(tr("Follow the stroke"), this);
    flow_ = new QCheckBox(tr("Flow while holding still"), this);
    flow_->setToolTip(tr("Without it one click is one clean stamp, its strength in metres."));
    for (QCheckBox* b : {randomTurn_, follow_, flow_}) c->addWidget(b);
    scatter_ = field(c, tr("Scatter"), tr(" %"), 0, 200, 0, false, [](StrokeSettings& s, float v) { s.tip.scatter = v / 100; });
    scatter_->setToolTip(tr("How far beside the path stamps may fall, as a share of the radius."));
    spacing_ = field(c, tr("Spacing"), tr(" %"), kMinSpacing * 100, kMaxSpacing * 100, 0, true, [](StrokeSettings& s, float v) { s.spacing = v / 100; });
    spacing_->setToolTip(tr("From one stamp to the next, as a share of the radius."));
    connect(randomTurn_, &QCheckBox::clicked, this, [this](bool on) { session_.changeSettings([on](StrokeSettings& s) { s.tip.randomTurn = on; }); });
    connect(follow_, &QCheckBox::clicked, this, [this](bool on) { session_.changeSettings([on](StrokeSettings& s) { s.tip.follow = on; }); });
    connect(flow_, &QCheckBox::clicked, this, [this](bool on) { session_.changeSettings([on](StrokeSettings& s) { s.flow = on; }); });
}

void BrushFields::makeLimits(QVBoxLayout* column) {
    limitsFold_ = new Fold("foldLimits", tr("Height limits"), false, this);
    column->addWidget(limitsFold_);
    auto* c = limitsFold_->column();
    const auto limit = [&](const QString& name, QCheckBox*& box, NumberField*& number, std::optional<float> HeightLimits::*which) {
        box = new QCheckBox(name, this);
        c->addWidget(box);
        number = field(c, tr("Altitude"), tr(" m"), -kFarHeight, kFarHeight, 2, false, [which](StrokeSettings& s, float v) { s.limits.*which = v; });
        connect(box, &QCheckBox::clicked, this, [this, which](bool on) {
            // Begins at the ground under the cursor.
            const auto& at = session_.cursor();
            const float here = at ? single(altitudeAt(session_.level(), at->x, at->z)) : session_.level().startHeight;
            session_.changeSettings([&](StrokeSettings& s) { s.limits.*which = on ? std::optional<float>(here) : std::nullopt; });
        });
    };
    limit(tr("Never above"), hasCeiling_, ceiling_, &HeightLimits::ceiling);
    limit(tr("Never below"), hasFloor_, floor_, &HeightLimits::floor);
}

// Where paint may fall.
void BrushFields::makeWhere(QVBoxLayout* column) {
    whereFold_ = new Fold("foldWhere", tr("Only where"), false, this);
    column->addWidget(whereFold_);
    auto* c = whereFold_->column();
    const auto limit = [&](const QString& name, const QString& suffix, double low, double high, float first, std::optional<float> PaintWhere::*which) {
        auto* box = new QCheckBox(name, this);
        c->addWidget(box);
        auto* number = field(c, {}, suffix, low, high, 1, false, [which](StrokeSettings& s, float v) { s.where.*which = v; });
        connect(box, &QCheckBox::clicked, this, [this, which, first](bool on) {
            session_.changeSettings([&](StrokeSettings& s) { s.where.*which = on ? std::optional<float>(first) : std::nullopt; });
        });
        where_.push_back({box, number, which});
    };
    limit(tr("Steeper than"), tr("°"), 0, 90, 30, &PaintWhere::slopeFrom);
    limit(tr("Flatter than"), tr("°"), 0, 90, 30, &PaintWhere::slopeTo);
    limit(tr("Higher than"), tr(" m"), -kFarHeight, kFarHeight, 0, &PaintWhere::altitudeFrom);
    limit(tr("Lower than"), tr(" m"), -kFarHeight, kFarHeight, 50, &PaintWhere::altitudeTo);
    const auto layers = [&](const QString& name, uint32_t PaintWhere::*which) {
        auto* box = new QComboBox(this);
        box->setAccessibleName(name);
        box->setToolTip(name);
        c->addWidget(box);
        connect(box, &QComboBox::activated, this, [this, box, which](int i) {
            const uint32_t id = box->itemData(i).toUInt();
            session_.changeSettings([&](StrokeSettings& s) { s.where.*which = id; });
        });
        return box;
    };
    onLayer_ = layers(tr("Only on this layer"), &PaintWhere::onLayer);
    offLayer_ = layers(tr("Not on this layer"), &PaintWhere::offLayer);
    for (const auto signal : {&Session::edited, &Session::layerChosen}) connect(&session_, signal, this, &BrushFields::fillLayers);
    fillLayers();
}

void BrushFields::fillLayers() {
    const PaintWhere& where = session_.settings().where;
    for (const auto& [box, any, chosen] : {std::tuple{onLayer_, tr("On any layer"), where.onLayer}, {offLayer_, tr("Whatever lies there"), where.offLayer}}) {
        box->clear();
        box->addItem(any, 0u);
        for (const Layer& l : session_.level().layers) box->addItem((box == onLayer_ ? tr("Only on %1") : tr("Not on %1")).arg(QString::fromStdString(l.name)), l.id);
        box->setCurrentIndex(std::max(box->findData(chosen), 0));
    }
    from_->clear();
    from_->addItem(tr("Choose what makes room"), 0u);
    for (const Layer& l : session_.level().layers)
        if (l.id != session_.layer()) from_->addItem(tr("In place of %1").arg(QString::fromStdString(l.name)), l.id);
    from_->setCurrentIndex(std::max(from_->findData(session_.settings().from), 0));
}

void BrushFields::makeMirror(QVBoxLayout* column) {
    mirrorFold_ = new Fold("foldMirror", tr("Mirror"), false, this);
    column->addWidget(mirrorFold_);
    auto* c = mirrorFold_->column();
    mirror_ = new QComboBox(this);
    mirror_->setObjectName("mirror");
    mirror_->addItems({tr("None"), tr("East and west"), tr("North and south"), tr("All four ways"), tr("Across the diagonal"), tr("Half turn"), tr("Third of a turn"), tr("Quarter turn")});
    c->addWidget(mirror_);
    connect(mirror_, &QComboBox::activated, this, [this](int i) {
        Mirror m = session_.mirror();
        m.kind = static_cast<MirrorKind>(i);
        session_.setMirror(m);
    });
    const auto place = [&](const QString& name, double Mirror::*which) {
        auto* f = new NumberField(name, tr(" m"), {-10000, 10000, 1}, this);
        c->addWidget(f);
        connect(f, &NumberField::changed, this, [this, which](double v) {
            Mirror m = session_.mirror();
            m.*which = v;
            session_.setMirror(m);
        });
        return f;
    };
    mirrorX_ = place(tr("Centre x"), &Mirror::x);
    mirrorZ_ = place(tr("Centre z"), &Mirror::z);
    auto* row = new QHBoxLayout;
    mirrorMiddle_ = new QPushButton(tr("Middle"), this);
    mirrorMiddle_->setToolTip(tr("To the middle of the level."));
    mirrorCursor_ = new QPushButton(tr("At cursor"), this);
    mirrorCursor_->setToolTip(tr("To the place on the ground where the cursor was last. Or hold the handles key and pull the centre."));
    row->addWidget(mirrorMiddle_);
    row->addWidget(mirrorCursor_);
    c->addLayout(row);
    const auto moveTo = [this](double x, double z) {
        Mirror m = session_.mirror();
        m.x = x, m.z = z;
        session_.setMirror(m);
    };
    connect(mirrorMiddle_, &QPushButton::clicked, this, [this, moveTo] {
        const Level& l = session_.level();
        moveTo(l.originX + l.width() / 2, l.originZ + l.depth() / 2);
    });
    connect(mirrorCursor_, &QPushButton::clicked, this, [this, moveTo] { if (session_.cursor()) moveTo(session_.cursor()->x, session_.cursor()->z); });
}

void BrushFields::makePen(QVBoxLayout* column) {
    penFold_ = new Fold("foldPen", tr("Pen pressure"), false, this);
    column->addWidget(penFold_);
    auto* c = penFold_->column();
    penStrength_ = new QCheckBox(tr("Changes the strength"), this);
    penRadius_ = new QCheckBox(tr("Changes the radius"), this);
    c->addWidget(penStrength_);
    c->addWidget(penRadius_);
    penCurve_ = new NumberField(tr("Curve"), {}, {0.25, 4, 2, true}, this);
    penCurve_->setToolTip(tr("Below 1 a light touch does more, above 1 less."));
    c->addWidget(penCurve_);
    const auto set = [this] { session_.setPen({penStrength_->isChecked(), penRadius_->isChecked(), single(penCurve_->value())}); };
    connect(penStrength_, &QCheckBox::clicked, this, set);
    connect(penRadius_, &QCheckBox::clicked, this, set);
    connect(penCurve_, &NumberField::changed, this, set);
}

// The steps that restore can go back to.
void BrushFields::fillSteps() {
    restore_->clear();
    restore_->addItem(tr("The start height"));
    restore_->addItem(tr("The last save"));
    for (const History::Entry& e : session_.history().entries()) restore_->addItem(tr("Step: %1").arg(QString::fromStdString(e.what)), QVariant::fromValue<qulonglong>(e.serial));
    const int at = session_.restoreSource() == RestoreSource::step ? restore_->findData(QVariant::fromValue<qulonglong>(session_.restoreSerial())) : static_cast<int>(session_.restoreSource());
    restore_->setCurrentIndex(at);
}

void BrushFields::show() {
    const StrokeSettings& s = session_.settings();
    const Tool t = s.tool;
    title_->setText(toolTitle(t));
    radius_->setValue(s.radius);
    strength_->setVisible(hasRate(t));
    strength_->spin()->setSuffix(s.flow ? tr(" m/s") : tr(" m"));
    share_->setVisible(!hasRate(t));
    if (hasRate(t)) strength_->setValue(s.strength);
    else share_->setValue(s.strength * 100);
    softness_->setValue(s.falloff.softness * 100);
    bend_->setVisible(s.falloff.curve == Curve::bent);
    const auto own = [](NumberField* f, bool shown, double value) {
        f->setVisible(shown);
        f->setValue(value);
    };
    own(grain_, t == Tool::smooth || t == Tool::soften, s.smoothing * 100);
    own(keep_, t == Tool::evenOut, s.remains * 100);
    own(angle_, t == Tool::slope || t == Tool::crumble, s.angle);
    angle_->setToolTip(t == Tool::slope ? tr("The steepest that the ground stays.") : tr("The steepest that loose ground lies without sliding."));
    own(step_, t == Tool::terrace, s.step);
    own(riser_, t == Tool::terrace, s.riser * 100);
    breakBy_->setVisible(t == Tool::breakUp);
    breakBy_->setCurrentIndex(static_cast<int>(s.breakBy));
    const bool byNoise = t == Tool::breakUp && s.breakBy == BreakBy::noise;
    own(scale_, t == Tool::noise || byNoise, s.scale);
    own(relief_, t == Tool::noise, s.amplitude);
    own(octaves_, t == Tool::noise, s.octaves);
    noise_->setVisible(t == Tool::noise);
    noise_->setCurrentIndex(static_cast<int>(s.noise));
    own(seed_, t == Tool::noise || t == Tool::rainWash || byNoise || s.tip.randomTurn || s.tip.scatter > 0, s.seed);
    way_->setVisible(t == Tool::flatten || t == Tool::slope);
    way_->setCurrentIndex(static_cast<int>(s.earthwork));
    fixed_->setVisible(t == Tool::flatten);
    fixed_->setChecked(s.height.has_value());
    height_->setVisible(t == Tool::flatten);
    height_->setEnabled(s.height.has_value());
    if (s.height) height_->setValue(*s.height);
    restore_->setVisible(t == Tool::restore);
    own(target_, t == Tool::paint, s.target * 100);
    from_->setVisible(t == Tool::replace);
    from_->setCurrentIndex(std::max(from_->findData(s.from), 0));
    colours_->setVisible(t == Tool::wash);
    QPixmap swatch(20, 20);
    swatch.fill(QColor::fromRgbF(s.colour[0], s.colour[1], s.colour[2]));
    colour_->setIcon(swatch);

    turn_->setValue(s.tip.turn);
    randomTurn_->setChecked(s.tip.randomTurn);
    follow_->setChecked(s.tip.follow);
    flow_->setChecked(s.flow);
    scatter_->setValue(s.tip.scatter * 100);
    spacing_->setValue(s.spacing * 100);

    limitsFold_->setVisible(shapesGround(t));
    hasCeiling_->setChecked(s.limits.ceiling.has_value());
    ceiling_->setEnabled(s.limits.ceiling.has_value());
    if (s.limits.ceiling) ceiling_->setValue(*s.limits.ceiling);
    hasFloor_->setChecked(s.limits.floor.has_value());
    floor_->setEnabled(s.limits.floor.has_value());
    if (s.limits.floor) floor_->setValue(*s.limits.floor);
    limitsFold_->setHint(s.limits.floor || s.limits.ceiling ? tr("on") : QString());

    whereFold_->setVisible(!shapesGround(t));
    for (const Where& w : where_) {
        const std::optional<float>& value = s.where.*w.which;
        w.box->setChecked(value.has_value());
        w.number->setVisible(value.has_value());
        if (value) w.number->setValue(*value);
    }
    onLayer_->setCurrentIndex(std::max(onLayer_->findData(s.where.onLayer), 0));
    offLayer_->setCurrentIndex(std::max(offLayer_->findData(s.where.offLayer), 0));
    whereFold_->setHint(s.where.anywhere() ? QString() : tr("limited"));

    const Mirror& m = session_.mirror();
    mirror_->setCurrentIndex(static_cast<int>(m.kind));
    mirrorX_->setValue(m.x);
    mirrorZ_->setValue(m.z);
    for (QWidget* w : std::initializer_list<QWidget*>{mirrorX_, mirrorZ_, mirrorMiddle_, mirrorCursor_}) w->setEnabled(m.kind != MirrorKind::none);
    mirrorFold_->setHint(m.kind != MirrorKind::none ? mirror_->currentText() : QString());
    penStrength_->setChecked(session_.pen().strength);
    penRadius_->setChecked(session_.pen().radius);
    penCurve_->setValue(session_.pen().curve);
    shared_->setChecked(session_.shared());
}

}  // namespace jam
