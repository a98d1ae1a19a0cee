#include "panels/brush_fields.h"

#include <cmath>
#include <QCheckBox>
#include <QColorDialog>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

#include "level/ground.h"
#include "panels/bend_edit.h"
#include "panels/brush_shelf.h"
#include "panels/fold.h"
#include "panels/number_field.h"

namespace jam {

namespace {

float single(double v) { return static_cast<float>(v); }
QString words(const char* text) { return QString::fromUtf8(text); }
QString nameOf(const Setting& s) { return QString::fromUtf8(s.name.data(), static_cast<qsizetype>(s.name.size())); }

const Setting* common(std::string_view name) {
    for (const Setting* s : commonSettings())
        if (s->name == name && std::string_view(s->group) != "pressure") return s;
    return nullptr;
}

}  // namespace

NumberField* fieldOf(const Setting& s, QWidget* parent) {
    const QString unit = words(s.unit);
    const QString suffix = unit.isEmpty() || unit == "°" ? unit : " " + unit;
    // The finest value that the field can show is the least it takes.
    const double finest = std::pow(10.0, -s.decimals);
    const double low = s.low > 0 ? std::max(s.low * s.shown, finest)
                                 : (s.reach && s.low < 0 ? -s.reach : s.low) * s.shown;
    auto* f = new NumberField(words(s.title), suffix,
                              {low, (s.reach ? s.reach : s.high) * s.shown, s.decimals, s.logarithmic}, parent);
    f->setToolTip(words(s.tip));
    return f;
}

BrushFields::BrushFields(Workplace& place, QWidget* parent) : QWidget(parent), place_(place) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(3);
    title_ = new QLabel(this);
    title_->setProperty("heading", true);
    column->addWidget(title_);
    const auto first = [&](const Setting& s) {
        NumberField* f = fieldOf(s, this);
        column->addWidget(f);
        connect(f, &NumberField::changed, this, [this, &s](double v) { set(s, v / s.shown); });
        return f;
    };
    radius_ = first(*common("radius"));
    rate_ = first(settings::rate);
    share_ = first(settings::share);
    softness_ = first(*common("softness"));
    column->addWidget(curveButtons(place, this));
    bend_ = new BendEdit(place, this);
    column->addWidget(bend_);
    for (const Setting* s : ownSettings()) add(column, *s, true);
    tipFold_ = fold(column, "foldTip", tr("Tip and path"),
                    {"turn", "randomTurn", "follow", "flow", "scatter", "spacing"});
    limitsFold_ = fold(column, "foldLimits", tr("Height limits"), {"ceiling", "floor"});
    whereFold_ = fold(column, "foldWhere", tr("Only where"),
                      {"slopeFrom", "slopeTo", "altitudeFrom", "altitudeTo", "onLayer", "offLayer"});
    makeMirror(column);
    makePen(column);
    shared_ = new QCheckBox(tr("All tools share the brush"), this);
    shared_->setToolTip(
        tr("Radius, falloff, tip and limits are the same for every tool. Otherwise each tool keeps its own."));
    connect(shared_, &QCheckBox::clicked, this, [this](bool on) { place_.toolbox.setShared(on); });
    tipFold_->column()->addWidget(shared_);
    connect(&place.toolbox, &Toolbox::settingsChanged, this, &BrushFields::refresh);
    // Lists of layers and steps are in some of the fields.
    place.document.on(About::layers | About::dress | About::history, this, &BrushFields::refresh);
    connect(&place.standpoint, &Standpoint::layerChosen, this, &BrushFields::refresh);
    connect(&place.standpoint, &Standpoint::kindChosen, this, &BrushFields::refresh);
    refresh();
}

void BrushFields::set(const Setting& setting, double value) {
    place_.toolbox.changeSettings([&](StrokeSettings& s) { setting.set(s, value); });
}

Fold* BrushFields::fold(QVBoxLayout* column, const char* id, const QString& title,
                        std::initializer_list<const char*> settings) {
    auto* f = new Fold(id, title, false, this);
    column->addWidget(f);
    for (const char* name : settings) add(f->column(), *common(name), false);
    return f;
}

// --- a field for each kind of setting ------------------------------------------------------------------------------

void BrushFields::add(QVBoxLayout* column, const Setting& s, bool own) {
    const auto make = [&]() -> Field {
        if (&s == &settings::restore) return restoreField(s);
        switch (s.kind) {
            case Setting::Kind::number: return numberField(s);
            case Setting::Kind::maybe: return maybeField(s);
            case Setting::Kind::flag: return flagField(s);
            case Setting::Kind::choice: return choiceField(s);
            case Setting::Kind::layer:
            case Setting::Kind::kind: return namedField(s);
            case Setting::Kind::colour: return colourField(s);
        }
        return {};
    };
    Field f = make();
    f.own = own;
    f.widget->setObjectName(nameOf(s));
    column->addWidget(f.widget);
    fields_.push_back(std::move(f));
}

BrushFields::Field BrushFields::numberField(const Setting& s) {
    NumberField* f = fieldOf(s, this);
    connect(f, &NumberField::changed, this, [this, &s](double v) { set(s, v / s.shown); });
    return {&s, false, f, [this, f, &s] { f->setValue(s.get(place_.toolbox.settings()) * s.shown); }};
}

// A check box, and the number below it while it is checked.
BrushFields::Field BrushFields::maybeField(const Setting& s) {
    auto* whole = new QWidget(this);
    auto* column = new QVBoxLayout(whole);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(3);
    auto* box = new QCheckBox(words(s.title), whole);
    box->setToolTip(words(s.tip));
    Setting plain = s;
    plain.title = "";
    NumberField* number = fieldOf(plain, whole);
    number->setName(words(s.title));
    column->addWidget(box);
    column->addWidget(number);
    connect(number, &NumberField::changed, this, [this, &s](double v) { set(s, v / s.shown); });
    connect(box, &QCheckBox::clicked, this, [this, &s](bool on) {
        const auto& at = place_.standpoint.cursor();
        const Level& level = place_.document.level();
        const double here = at ? altitudeAt(level, at->x, at->z) : level.startHeight;
        set(s, !on ? std::nan("") : std::isnan(s.first) ? here : s.first);
    });
    return {&s, false, whole, [this, box, number, &s] {
                const double v = s.get(place_.toolbox.settings());
                box->setChecked(!std::isnan(v));
                number->setVisible(!std::isnan(v));
                if (!std::isnan(v)) number->setValue(v * s.shown);
            }};
}

BrushFields::Field BrushFields::flagField(const Setting& s) {
    auto* box = new QCheckBox(words(s.title), this);
    box->setToolTip(words(s.tip));
    connect(box, &QCheckBox::clicked, this, [this, &s](bool on) { set(s, on); });
    return {&s, false, box, [this, box, &s] { box->setChecked(s.get(place_.toolbox.settings()) != 0); }};
}

BrushFields::Field BrushFields::choiceField(const Setting& s) {
    auto* box = new QComboBox(this);
    box->setToolTip(words(s.tip));
    box->setAccessibleName(words(s.title));
    for (const Choice& c : s.choices) box->addItem(words(c.title));
    connect(box, &QComboBox::activated, this, [this, box, &s](int i) {
        if (&s == &settings::breakBy && static_cast<BreakBy>(i) == BreakBy::tip &&
            place_.toolbox.settings().tip.shape != TipShape::picture)
            emit place_.said(tr("Choose a picture tip below the view first."));
        set(s, i);
        box->setCurrentIndex(static_cast<int>(s.get(place_.toolbox.settings())));
    });
    return {&s, false, box,
            [this, box, &s] { box->setCurrentIndex(static_cast<int>(s.get(place_.toolbox.settings()))); }};
}

// One of the level's layers or kinds, or none.
BrushFields::Field BrushFields::namedField(const Setting& s) {
    auto* box = new QComboBox(this);
    box->setToolTip(words(s.tip));
    box->setAccessibleName(words(s.title));
    connect(box, &QComboBox::activated, this, [this, box, &s](int i) { set(s, box->itemData(i).toUInt()); });
    return {&s, false, box, [this, box, &s] {
                const Level& level = place_.document.level();
                box->clear();
                box->addItem(words(s.choices.front().title), 0u);
                // Nothing takes its own place.
                const auto offer = [&](const auto& list, uint32_t but) {
                    for (const auto& one : list)
                        if (one.id != but)
                            box->addItem(tr("%1 %2").arg(words(s.title), QString::fromStdString(one.name)), one.id);
                };
                if (s.kind == Setting::Kind::kind) offer(level.kinds, place_.standpoint.kind());
                else offer(level.layers, &s == &settings::from ? place_.standpoint.layer() : 0);
                box->setCurrentIndex(std::max(box->findData(static_cast<uint>(s.get(place_.toolbox.settings()))), 0));
            }};
}

// Some colours worth having at hand, and any other.
BrushFields::Field BrushFields::colourField(const Setting& s) {
    auto* colours_ = new QWidget(this);
    auto* row = new QHBoxLayout(colours_);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    const struct {
        QString name;
        QColor colour;
    } usual[] = {{tr("Lush"), {92, 128, 48}},  {tr("Dry"), {186, 160, 92}}, {tr("Scorched"), {92, 66, 44}},
                 {tr("Moss"), {104, 122, 58}}, {tr("Rust"), {158, 88, 48}}, {tr("Frost"), {226, 232, 238}}};
    const auto choose = [this](const QColor& c) {
        place_.toolbox.changeSettings([c](StrokeSettings& s) {
            s.colour = {static_cast<float>(c.redF()), static_cast<float>(c.greenF()), static_cast<float>(c.blueF())};
        });
    };
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
    for (const auto& u : usual)
        connect(swatch(u.colour, u.name), &QToolButton::clicked, this, [choose, c = u.colour] { choose(c); });
    row->addStretch();
    QToolButton* colour_ = swatch(Qt::gray, tr("The colour that is washed on; click for another"));
    colour_->setObjectName("washColour");
    connect(colour_, &QToolButton::clicked, this, [this, choose] {
        const auto& now = place_.toolbox.settings().colour;
        const QColor c = QColorDialog::getColor(QColor::fromRgbF(now[0], now[1], now[2]), this,
                                                tr("Colour of the wash"), QColorDialog::DontUseNativeDialog);
        if (c.isValid()) choose(c);
    });
    return {&s, false, colours_, [this, colour_] {
                const auto& c = place_.toolbox.settings().colour;
                QPixmap swatch(20, 20);
                swatch.fill(QColor::fromRgbF(c[0], c[1], c[2]));
                colour_->setIcon(swatch);
            }};
}

// In the window one restores from the start, the last save or any step that is still kept.
BrushFields::Field BrushFields::restoreField(const Setting& s) {
    auto* box = new QComboBox(this);
    box->setToolTip(words(s.tip));
    box->setAccessibleName(words(s.title));
    connect(box, &QComboBox::activated, this, [this, box](int i) {
        if (i < 2) place_.toolbox.setRestoreSource(static_cast<RestoreSource>(i));
        else place_.toolbox.setRestoreSource(RestoreSource::step, box->itemData(i).toULongLong());
    });
    return {&s, false, box, [this, box] {
                const Toolbox& tools = place_.toolbox;
                box->clear();
                box->addItem(tr("The start height"));
                box->addItem(tr("The last save"));
                for (const History::Entry& e : place_.document.history().entries())
                    box->addItem(tr("Step: %1").arg(QString::fromStdString(e.what)),
                                 QVariant::fromValue<qulonglong>(e.serial));
                box->setCurrentIndex(tools.restoreSource() == RestoreSource::step
                                         ? box->findData(QVariant::fromValue<qulonglong>(tools.restoreSerial()))
                                         : static_cast<int>(tools.restoreSource()));
            }};
}

// --- what is no setting of a tool -----------------------------------------------------------------------------------

void BrushFields::makeMirror(QVBoxLayout* column) {
    mirrorFold_ = new Fold("foldMirror", tr("Mirror"), false, this);
    column->addWidget(mirrorFold_);
    auto* c = mirrorFold_->column();
    mirror_ = new QComboBox(this);
    mirror_->setAccessibleName(tr("Mirror"));
    mirror_->setObjectName("mirror");
    mirror_->addItems({tr("None"), tr("East and west"), tr("North and south"), tr("All four ways"),
                       tr("Across the diagonal"), tr("Half turn"), tr("Third of a turn"), tr("Quarter turn")});
    c->addWidget(mirror_);
    connect(mirror_, &QComboBox::activated, this, [this](int i) {
        Mirror m = place_.toolbox.mirror();
        m.kind = static_cast<MirrorKind>(i);
        place_.toolbox.setMirror(m);
    });
    const auto place = [&](const QString& name, double Mirror::*which) {
        auto* f = new NumberField(name, tr(" m"), {-10000, 10000, 1}, this);
        c->addWidget(f);
        connect(f, &NumberField::changed, this, [this, which](double v) {
            Mirror m = place_.toolbox.mirror();
            m.*which = v;
            place_.toolbox.setMirror(m);
        });
        return f;
    };
    mirrorX_ = place(tr("Centre x"), &Mirror::x);
    mirrorZ_ = place(tr("Centre z"), &Mirror::z);
    auto* row = new QHBoxLayout;
    mirrorMiddle_ = new QPushButton(tr("Middle"), this);
    mirrorMiddle_->setToolTip(tr("To the middle of the level."));
    mirrorCursor_ = new QPushButton(tr("At cursor"), this);
    mirrorCursor_->setToolTip(
        tr("To the place on the ground where the cursor was last. Or hold the handles key and pull the centre."));
    row->addWidget(mirrorMiddle_);
    row->addWidget(mirrorCursor_);
    c->addLayout(row);
    const auto moveTo = [this](double x, double z) {
        Mirror m = place_.toolbox.mirror();
        m.x = x, m.z = z;
        place_.toolbox.setMirror(m);
    };
    connect(mirrorMiddle_, &QPushButton::clicked, this, [this, moveTo] {
        const Level& l = place_.document.level();
        moveTo(l.originX + l.width() / 2, l.originZ + l.depth() / 2);
    });
    connect(mirrorCursor_, &QPushButton::clicked, this, [this, moveTo] {
        if (place_.standpoint.cursor()) moveTo(place_.standpoint.cursor()->x, place_.standpoint.cursor()->z);
    });
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
    const auto set = [this] {
        place_.toolbox.setPen({penStrength_->isChecked(), penRadius_->isChecked(), single(penCurve_->value())});
    };
    connect(penStrength_, &QCheckBox::clicked, this, set);
    connect(penRadius_, &QCheckBox::clicked, this, set);
    connect(penCurve_, &NumberField::changed, this, set);
}

void BrushFields::refresh() {
    const Toolbox& tools = place_.toolbox;
    const StrokeSettings& s = tools.settings();
    const Tool t = s.tool;
    title_->setText(toolTitle(t));
    radius_->setValue(s.radius);
    rate_->setVisible(hasRate(t));
    rate_->spin()->setSuffix(s.flow ? tr(" m/s") : tr(" m"));
    share_->setVisible(!hasRate(t) && !makesGaps(t));  // gaps know no more or less
    (hasRate(t) ? rate_ : share_)->setValue(s.strength * strengthOf(t).shown);
    softness_->setValue(s.falloff.softness * 100);
    bend_->setVisible(s.falloff.curve == Curve::bent);
    const bool chance = s.tip.randomTurn || s.tip.scatter > 0;
    for (const Field& f : fields_) {
        f.show();
        if (!f.own) continue;
        const OwnSetting* told = nullptr;
        for (const OwnSetting& own : specOf(t).settings)
            if (own.setting == f.setting) told = &own;
        const bool applies = told && (!f.setting->applies || f.setting->applies(s));
        f.widget->setVisible(applies || (f.setting == &settings::seed && chance));
        if (told) f.widget->setToolTip(words(told->tip ? told->tip : f.setting->tip));
    }
    limitsFold_->setVisible(shapesGround(t));
    limitsFold_->setHint(s.limits.floor || s.limits.ceiling ? tr("on") : QString());
    whereFold_->setVisible(!shapesGround(t));
    whereFold_->setHint(s.where.anywhere() ? QString() : tr("limited"));
    const Mirror& m = tools.mirror();
    mirror_->setCurrentIndex(static_cast<int>(m.kind));
    mirrorX_->setValue(m.x);
    mirrorZ_->setValue(m.z);
    for (QWidget* w : std::initializer_list<QWidget*>{mirrorX_, mirrorZ_, mirrorMiddle_, mirrorCursor_})
        w->setEnabled(m.kind != MirrorKind::none);
    mirrorFold_->setHint(m.kind != MirrorKind::none ? mirror_->currentText() : QString());
    penStrength_->setChecked(tools.pen().strength);
    penRadius_->setChecked(tools.pen().radius);
    penCurve_->setValue(tools.pen().curve);
    shared_->setChecked(tools.shared());
}

}  // namespace jam
