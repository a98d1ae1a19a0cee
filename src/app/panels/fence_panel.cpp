#include "panels/fence_panel.h"

#include <QButtonGroup>
#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

#include "cover/mix.h"
#include "house/station.h"
#include "looks/theme.h"
#include "panels/fold.h"
#include "panels/number_field.h"
#include "panels/page.h"
#include "shape/whole.h"
#include "workplace/workplace.h"

namespace jam {

namespace {

// What a fence is found by, in the order of the list.
enum Found { slope, altitude, layerShows, nearLayer, nearCourseOf, nearTheEdge, keptOne };

float single(const NumberField* f) { return static_cast<float>(f->value()); }

}  // namespace

void turnFence(House& house) {
    Document& document = house.place.document;
    const Level& level = document.level();
    if (!level.fenced && level.fence.presentTiles() == 0)
        return house.services.say(FencePanel::tr("There is no fence yet; draw one under Fence in the sheet."));
    document.edit(level.fenced ? FencePanel::tr("Drop the fence") : FencePanel::tr("Bring the fence back"),
                  [](Level& l) { l.fenced = !l.fenced; });
    house.services.say(document.level().fenced ? FencePanel::tr("The fence is in force.")
                                               : FencePanel::tr("The fence is dropped; it can be brought back."));
}

FencePanel::FencePanel(House& house, QWidget* parent) : QWidget(parent), house_(house), place_(house.place) {
    auto* column = pageColumn(this);
    column->setSpacing(4);
    makeDrawing(column);
    makeFinding(column);
    makeChanging(column);
    makeWorking(column);
    makeKeeping(column);
    place_.document.on(About::fence, this, &FencePanel::refresh);
    place_.document.on(About::layers | About::strata, this, &FencePanel::showFields);
    refresh();
    showFields();
}

QToolButton* FencePanel::button(const char* id, const char* iconName, const QString& tip, std::function<void()> act) {
    QToolButton* b = iconButton(id, iconName, tip, this);
    if (act) connect(b, &QToolButton::clicked, this, act);
    return b;
}

void FencePanel::makeDrawing(QVBoxLayout* column) {
    says_ = quietLabel({}, this);
    says_->setObjectName("fenceSays");
    column->addWidget(says_);
    auto* row = new QHBoxLayout;
    row->setSpacing(2);
    const struct {
        const char *id, *icon;
        QString tip;
        FenceWay way;
    } ways[] = {{"fenceRectangle", "fence-rectangle", tr("Draw a rectangle"), FenceWay::rectangle},
                {"fenceLasso", "fence-lasso", tr("Draw round an area"), FenceWay::lasso},
                {"fenceBrush", "fence-brush", tr("Paint with the brush's radius and soft edge"), FenceWay::brush},
                {"fenceLine", "fence-line",
                 tr("Along a line of clicks, as wide as the brush; double click or Enter ends"), FenceWay::line},
                {"fenceConnected", "fence-connected", tr("Click ground: all of the same layer that is connected to it"),
                 FenceWay::connected}};
    for (const auto& w : ways) {
        QToolButton* b = button(w.id, w.icon, w.tip + tr(". Shift adds, Ctrl takes away"), [this, way = w.way] {
            Standpoint& s = place_.standpoint;
            s.setFenceWay(s.fenceWay() == way ? FenceWay::none : way);
        });
        b->setCheckable(true);
        const auto tell = [this, b, way = w.way] { b->setChecked(place_.standpoint.fenceWay() == way); };
        connect(&place_.standpoint, &Standpoint::fenceWayChosen, b, tell);
        connect(b, &QToolButton::clicked, b, tell);
        row->addWidget(b);
    }
    row->addStretch();
    turn_ = button("turnFence", "fence", {}, [this] { turnFence(house_); });
    turn_->setCheckable(true);
    row->addWidget(turn_);
    column->addLayout(row);
    join_ = new QComboBox(this);
    join_->setAccessibleName(tr("How the fence is joined"));
    join_->setObjectName("fenceJoin");
    join_->addItems({tr("Makes a new fence"), tr("Is added to the fence"), tr("Is taken away from it"),
                     tr("Leaves what lies in both")});
    connect(join_, &QComboBox::activated, this,
            [this](int i) { place_.standpoint.setFenceJoin(static_cast<FenceJoin>(i)); });
    column->addWidget(join_);
    tint_ = new QCheckBox(tr("Hatch the ground inside"), this);
    tint_->setObjectName("fenceTint");
    tint_->setChecked(place_.standpoint.fenceTint());
    connect(tint_, &QCheckBox::clicked, this, [this](bool on) { place_.standpoint.setFenceTint(on); });
    connect(&place_.standpoint, &Standpoint::fenceTintChosen, tint_,
            [this] { tint_->setChecked(place_.standpoint.fenceTint()); });
    column->addWidget(tint_);
}

void FencePanel::makeFinding(QVBoxLayout* column) {
    auto* fold = new Fold("foldFenceFind", tr("Find it by"), true, this);
    auto* c = fold->column();
    source_ = new QComboBox(fold);
    source_->setAccessibleName(tr("Where the fence lies"));
    source_->setObjectName("fenceSource");
    source_->addItems({tr("slope"), tr("altitude"), tr("where a layer shows"), tr("near a layer"), tr("near a course"),
                       tr("near the level's edge"), tr("a kept fence")});
    c->addWidget(source_);
    what_ = new QComboBox(fold);
    what_->setAccessibleName(tr("Which one the fence follows"));
    what_->setObjectName("fenceWhat");
    what_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    what_->setMinimumContentsLength(6);
    c->addWidget(what_);
    from_ = addNumber(c, {"fenceFrom", tr("From"), {}, {-10000, 10000, 1}});
    to_ = addNumber(c, {"fenceTo", tr("To"), {}, {-10000, 10000, 1}});
    fade_ = addNumber(c, {"fenceFade", tr("Fades over"), {}, {0, 100, 1}});
    from_->setValue(30), to_->setValue(90), fade_->setValue(3);
    auto* go = new QPushButton(tr("Put the fence there"), fold);
    go->setObjectName("fenceFind");
    c->addWidget(go);
    column->addWidget(fold);
    connect(source_, &QComboBox::activated, this, [this](int i) {
        if (i == slope) from_->setValue(30), to_->setValue(90), fade_->setValue(3);
        if (i == altitude) {
            const HeightSpan span = place_.document.pyramid().whole();
            from_->setValue((span.low + span.high) / 2), to_->setValue(span.high), fade_->setValue(1);
        }
        if (i == nearLayer || i == nearCourseOf || i == nearTheEdge)
            from_->setValue(0), to_->setValue(10), fade_->setValue(0);
        showFields();
    });
    connect(go, &QPushButton::clicked, this, &FencePanel::find);
}

void FencePanel::showFields() {
    const int kind = source_->currentIndex();
    const bool range = kind == slope || kind == altitude, near = kind >= nearLayer && kind <= nearTheEdge;
    from_->setVisible(range);
    to_->setVisible(range || near);
    fade_->setVisible(range || kind == nearLayer);
    for (NumberField* f : {from_, to_, fade_}) f->spin()->setSuffix(kind == slope ? tr("°") : tr(" m"));
    what_->setVisible(kind == layerShows || kind == nearLayer || kind == nearCourseOf || kind == keptOne);
    const QVariant chosen = what_->currentData();
    what_->clear();
    const Level& level = place_.document.level();
    const auto add = [&](const std::string& name, uint32_t id) { what_->addItem(QString::fromStdString(name), id); };
    if (kind == layerShows || kind == nearLayer)
        for (const Layer& l : level.layers) add(l.name, l.id);
    if (kind == nearCourseOf)
        for (const Stratum& s : level.strata)
            if (s.leads()) add(s.name, s.id);
    if (kind == keptOne)
        for (const KeptFence& f : level.fences) add(f.name, f.id);
    if (const int at = what_->findData(chosen); at >= 0) what_->setCurrentIndex(at);
    findChild<QPushButton*>("fenceFind")->setEnabled(!what_->isVisibleTo(this) || what_->count() > 0);
}

void FencePanel::find() {
    const int kind = source_->currentIndex();
    const FenceJoin join = place_.standpoint.fenceJoin();
    const uint32_t id = what_->currentData().toUInt();
    Rule rule;
    rule.kind = kind == slope ? RuleKind::slope : kind == altitude ? RuleKind::altitude : RuleKind::layer;
    rule.from = kind == nearLayer ? 0 : single(from_);
    rule.to = single(to_);
    rule.fade = single(fade_);
    rule.reach = 0;
    rule.layer = id;
    if (rule.from > rule.to) return house_.services.say(tr("“From” lies above “to”, so nothing would lie between."));
    const double metres = to_->value();
    std::vector<Thing> of;
    if (kind == layerShows || kind == nearLayer) of.push_back({ThingKind::layer, id});
    if (kind == nearCourseOf) of.push_back({ThingKind::course, id});
    if (kind == keptOne) of.push_back({ThingKind::fence, id});
    change(tr("Fence by %1").arg(source_->currentText()), of, [=](Level& l, const Context& c) {
        const FenceSource source = kind == layerShows     ? whereLayer(l, id)
                                   : kind == nearCourseOf ? nearCourse(l, id, metres)
                                   : kind == nearTheEdge  ? nearEdge(l, metres)
                                   : kind == keptOne      ? keptFence(l, id)
                                                          : byRule(l, rule);
        return joinFence(l, source, join, c);
    });
}

void FencePanel::makeChanging(QVBoxLayout* column) {
    auto* fold = new Fold("foldFenceChange", tr("Change it"), true, this);
    metres_ = new NumberField(tr("By"), tr(" m"), {0.1, 200, 1, true}, fold);
    metres_->setObjectName("fenceMetres");
    metres_->setValue(3);
    fold->column()->addWidget(metres_);
    auto* row = new QHBoxLayout;
    row->setSpacing(3);
    const auto add = [&](const char* id, const QString& text, const QString& tip, FenceChange (*job)(double)) {
        auto* b = new QPushButton(text, fold);
        b->setObjectName(id);
        b->setToolTip(tip);
        b->setStyleSheet("padding: 5px 4px;");
        connect(b, &QPushButton::clicked, this,
                [this, text, job] { change(tr("%1 the fence").arg(text), {}, job(metres_->value())); });
        row->addWidget(b);
        needFence_.push_back(b);
    };
    add("fenceGrow", tr("Grow"), tr("Move its edge outwards"),
        [](double m) -> FenceChange { return [m](Level& l, const Context& c) { return growFence(l, m, c); }; });
    add("fenceShrink", tr("Shrink"), tr("Move its edge inwards"),
        [](double m) -> FenceChange { return [m](Level& l, const Context& c) { return growFence(l, -m, c); }; });
    add("fenceFeather", tr("Feather"), tr("Soften its edge over so many metres either side"),
        [](double m) -> FenceChange { return [m](Level& l, const Context& c) { return featherFence(l, m, c); }; });
    add("fenceInvert", tr("Invert"), tr("What lies outside is inside"),
        [](double) -> FenceChange { return [](Level& l, const Context& c) { return invertFence(l, c); }; });
    fold->column()->addLayout(row);
    column->addWidget(fold);
}

void FencePanel::makeWorking(QVBoxLayout* column) {
    auto* fold = new Fold("foldFenceWork", tr("Work inside"), true, this);
    auto* c = fold->column();
    by_ = new NumberField(tr("Height"), tr(" m"), {0.01, 200, 2, true}, fold);
    by_->setObjectName("fenceBy");
    by_->setValue(3);
    c->addWidget(by_);
    const auto add = [&](QHBoxLayout* row, const char* id, const QString& text, const QString& tip,
                         std::function<void()> act) {
        auto* b = new QPushButton(text, fold);
        b->setObjectName(id);
        b->setToolTip(tip);
        b->setStyleSheet("padding: 5px 4px;");
        connect(b, &QPushButton::clicked, this, act);
        row->addWidget(b);
        needFence_.push_back(b);
    };
    const auto lift = [this](int way) {
        WholeWish w;
        w.metres = static_cast<float>(way) * single(by_);
        workInside(way > 0 ? tr("Raise inside the fence") : tr("Lower inside the fence"), w);
    };
    auto* first = new QHBoxLayout;
    first->setSpacing(3);
    add(first, "fenceRaise", tr("Raise"), tr("Raise all that lies inside by this height"), [lift] { lift(1); });
    add(first, "fenceLower", tr("Lower"), tr("Lower all that lies inside by this height"), [lift] { lift(-1); });
    add(first, "fenceFill", tr("Fill with layer"), tr("Cover it with the chosen layer"), [this] { fill(); });
    c->addLayout(first);
    height_ = new NumberField(tr("Flatten to"), tr(" m"), {-kFarHeight, kFarHeight, 2}, fold);
    height_->setObjectName("fenceHeight");
    c->addWidget(height_);
    auto* second = new QHBoxLayout;
    second->setSpacing(3);
    const auto flat = [this](FlattenTo to) {
        WholeWish w;
        w.kind = WholeKind::flatten;
        w.flattenTo = to;
        w.height = single(height_);
        workInside(tr("Flatten inside the fence"), w);
    };
    add(second, "fenceFlatHeight", tr("This height"), tr("Flatten to the height above"),
        [flat] { flat(FlattenTo::height); });
    add(second, "fenceFlatMean", tr("Its mean"), tr("Flatten to its own mean height"),
        [flat] { flat(FlattenTo::mean); });
    add(second, "fenceFlatRim", tr("Its rim"), tr("Flatten to the plane through its rim"),
        [flat] { flat(FlattenTo::rim); });
    c->addLayout(second);
    c->addWidget(quietLabel(tr("Whole ground (H) keeps to the fence too."), fold));
    column->addWidget(fold);
}

void FencePanel::makeKeeping(QVBoxLayout* column) {
    auto* fold = new Fold("foldFenceKeep", tr("Kept fences"), true, this);
    auto* row = new QHBoxLayout;
    row->setSpacing(2);
    kept_ = new QComboBox(fold);
    kept_->setAccessibleName(tr("Kept fences"));
    kept_->setObjectName("keptFences");
    kept_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    kept_->setMinimumContentsLength(6);
    row->addWidget(kept_, 1);
    row->addWidget(button("recallFence", "restore", tr("Bring it back"), [this] { recall(); }));
    QToolButton* keepIt = button("keepFence", "add", tr("Keep the fence under a name"), [this] { keep(); });
    needFence_.push_back(keepIt);
    row->addWidget(keepIt);
    row->addWidget(button("forgetFence", "remove", tr("Forget it"), [this] { forget(); }));
    fold->column()->addLayout(row);
    column->addWidget(fold);
}

void FencePanel::refresh() {
    const Level& level = place_.document.level();
    says_->setText(level.fenced
                       ? tr("Only what lies inside the fence can be changed: %1 m².").arg(fenceArea(level), 0, 'f', 0)
                       : tr("No fence is in force. Draw one on the ground, or find it by what lies there."));
    turn_->setChecked(level.fenced);
    turn_->setToolTip(level.fenced ? tr("Drop the fence (F)") : tr("Bring the fence back (F)"));
    turn_->setEnabled(level.fenced || level.fence.presentTiles() > 0);
    for (QWidget* w : needFence_) w->setEnabled(level.fenced);
    const QString chosen = kept_->currentText();
    kept_->clear();
    for (const KeptFence& f : level.fences) kept_->addItem(QString::fromStdString(f.name), f.id);
    if (const int at = kept_->findText(chosen); at >= 0) kept_->setCurrentIndex(at);
    for (const char* id : {"recallFence", "forgetFence"}) findChild<QToolButton*>(id)->setEnabled(kept_->count() > 0);
    showFields();
}

void FencePanel::change(const QString& what, std::vector<Thing> of, FenceChange change) {
    house_.services.workOn(what, fenceJob(std::move(of), std::move(change)));
}

void FencePanel::workInside(const QString& what, const WholeWish& wish) {
    house_.services.workOn(what, LevelJob::onAll([wish](const Level& before, const Context& c) -> Result<Level> {
                               Result<WholeOutcome> done = reshapeWhole(before, wish, c);
                               if (!done) return done.error();
                               return std::move(done.value().level);
                           }));
}

void FencePanel::fill() {
    const Layer* layer = place_.layer();
    if (!layer) return;
    if (layer->locked) return house_.services.say(tr("“%1” is protected.").arg(QString::fromStdString(layer->name)));
    house_.services.workOn(tr("Fill with %1").arg(QString::fromStdString(layer->name)),
                           LevelJob::on({{ThingKind::layer, layer->id}}, [id = layer->id](Level& l, const Context& c) {
                               return fillLayer(l, id, 1, {}, c);
                           }));
}

void FencePanel::keep() {
    const Level& level = place_.document.level();
    bool ok = false;
    const QString name = QInputDialog::getText(house_.services.window(), tr("Keep the fence"), tr("Under the name"),
                                               QLineEdit::Normal, kept_->currentText(), &ok)
                             .trimmed();
    if (!ok || name.isEmpty()) return;
    if (level.fences.size() >= kMaxFences && kept_->findText(name) < 0)
        return house_.services.say(tr("A level keeps at most %1 fences; forget one first.").arg(kMaxFences));
    place_.document.edit(tr("Keep the fence %1").arg(name), [&](Level& l) { keepFence(l, name.toStdString()); });
    kept_->setCurrentText(name);
}

void FencePanel::recall() {
    const uint32_t id = kept_->currentData().toUInt();
    const FenceJoin join = place_.standpoint.fenceJoin();
    change(tr("Fence %1").arg(kept_->currentText()), {{ThingKind::fence, id}},
           [=](Level& l, const Context& c) { return joinFence(l, keptFence(l, id), join, c); });
}

void FencePanel::forget() {
    const uint32_t id = kept_->currentData().toUInt();
    place_.document.edit(tr("Forget the fence %1").arg(kept_->currentText()),
                         [id](Level& l) { std::erase_if(l.fences, [id](const KeptFence& f) { return f.id == id; }); });
}

}  // namespace jam
