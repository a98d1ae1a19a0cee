#include "panels/rules_panel.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFrame>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

#include "cover/rules.h"
#include "files/layer_json.h"
#include "level/things.h"
#include "looks/theme.h"
#include "panels/number_field.h"

namespace jam {

namespace {

constexpr int kPauseMs = 120;  // after the last change before a preview is made

struct KindWords {
    QString name, from, to, unit;
    int decimals;
    double shown;  // factor from what is kept to what is shown
};
KindWords wordsOf(RuleKind kind) {
    const auto t = [](const char* s) { return RulesPanel::tr(s); };
    switch (kind) {
        case RuleKind::slope: return {t("Slope"), t("From"), t("To"), t("°"), 0, 1};
        case RuleKind::altitude: return {t("Altitude"), t("From"), t("To"), t(" m"), 1, 1};
        case RuleKind::curvature: return {t("Hollow to crest"), t("From"), t("To"), t(" %"), 0, 100};
        case RuleKind::facing: return {t("Facing"), t("From"), t("Clockwise to"), t("°"), 0, 1};
        case RuleKind::layer: return {t("Near a layer"), t("From"), t("To"), t(" m"), 1, 1};
        case RuleKind::low: return {t("Near low ground"), t("From"), t("To"), t(" m"), 1, 1};
        case RuleKind::depth: return {t("Under water"), t("From"), t("To"), t(" m deep"), 1, 1};
        case RuleKind::shore: return {t("Near a shore"), t("From"), t("To"), t(" m"), 1, 1};
        case RuleKind::above: return {t("Above water"), t("From"), t("To"), t(" m"), 1, 1};
        case RuleKind::course: return {t("Near a course"), t("From"), t("To"), t(" m"), 1, 1};
        case RuleKind::noise: return {t("Patches"), t("From"), t("To"), t(" %"), 0, 100};
    }
    return {};
}

// A rule of a kind as a designer is likely to want it first.
Rule usualRule(RuleKind kind, const Workplace& place) {
    Rule r;
    r.kind = kind;
    const HeightSpan span = place.document.pyramid().whole();
    switch (kind) {
        case RuleKind::slope: r.from = 32, r.to = 90, r.fade = 8; break;
        case RuleKind::altitude:
            r.from = std::round((span.low + span.high) / 2), r.to = std::round(span.high), r.fade = 3;
            break;
        case RuleKind::curvature: r.from = -1, r.to = -0.3f, r.fade = 0.2f, r.reach = 12; break;
        case RuleKind::facing: r.from = 315, r.to = 45, r.fade = 30; break;
        case RuleKind::layer: r.from = 0, r.to = 3, r.fade = 3; break;
        case RuleKind::course: r.from = 0, r.to = 0.5f, r.fade = 1; break;
        case RuleKind::low:
            r.from = 0, r.to = 6, r.fade = 4, r.level = std::round(span.low + 0.1f * (span.high - span.low));
            break;
        case RuleKind::depth: r.from = 0.1f, r.to = 200, r.fade = 0.2f; break;
        case RuleKind::shore: r.from = -1, r.to = 3, r.fade = 1.5f; break;
        case RuleKind::above: r.from = 0, r.to = 0.6f, r.fade = 0.4f, r.reach = 12; break;
        case RuleKind::noise: r.from = 0, r.to = 0.35f, r.fade = 0.1f; break;
    }
    return r;
}

}  // namespace

RulesPanel::RulesPanel(House& house, ThingKind of, QWidget* parent)
    : QWidget(parent), house_(house), place_(house.place), of_(of) {
    auto* c = new QVBoxLayout(this);
    c->setContentsMargins(0, 0, 0, 0);
    c->setSpacing(6);
    none_ = new QLabel(this);
    none_->setProperty("quiet", true);
    none_->setWordWrap(true);
    c->addWidget(none_);
    rows_ = new QVBoxLayout;
    rows_->setSpacing(6);
    c->addLayout(rows_);
    add_ = new QPushButton(tr("Add a rule"), this);
    add_->setObjectName("addRule");
    c->addWidget(add_);
    preview_ = new QCheckBox(tr("Show what the rules would cover"), this);
    preview_->setObjectName("previewRules");
    cover_ = new QPushButton(tr("Cover everywhere"), this);
    cover_->setObjectName("coverByRules");
    cover_->setToolTip(
        tr("Lays the layer where its rules say, once. With the brush “By rule” they count only where it goes."));
    alive_ = new QCheckBox(tr("Keep the rules alive"), this);
    alive_->setObjectName("aliveRules");
    alive_->setToolTip(
        tr("The layer follows the ground as it changes. What is painted by hand always stays; the brush “By rule” "
           "gives it back. Begun within a fence, it leaves the ground outside to the hand."));
    c->addWidget(preview_);
    c->addWidget(cover_);
    c->addWidget(alive_);
    connect(add_, &QPushButton::clicked, this, [this] {
        change(tr("Add rule"), [this](std::vector<Rule>& rules) {
            Rule r = usualRule(RuleKind::slope, place_);
            if (!rules.empty()) r = usualRule(RuleKind::altitude, place_), r.way = RuleEffect::only;
            rules.push_back(r);
        });
    });
    connect(preview_, &QCheckBox::clicked, this, [this](bool on) { on ? soon_.start() : leave(); });
    connect(cover_, &QPushButton::clicked, this, &RulesPanel::coverEverywhere);
    connect(alive_, &QCheckBox::clicked, this, &RulesPanel::setAlive);
    soon_.setSingleShot(true);
    soon_.setInterval(kPauseMs);
    connect(&soon_, &QTimer::timeout, this, &RulesPanel::preview);
    place_.document.on(About::layers | About::dress | About::preview, this, &RulesPanel::refresh);
    connect(&place_.standpoint, of == ThingKind::kind ? &Standpoint::kindChosen : &Standpoint::layerChosen, this,
            &RulesPanel::refresh);
    connect(&place_.standpoint, &Standpoint::stationChanged, this, &RulesPanel::leave);
    connect(&place_.toolbox, &Toolbox::toolChanged, this, &RulesPanel::leave);
    refresh();
}

uint32_t RulesPanel::chosen() const {
    return of_ == ThingKind::kind ? place_.standpoint.kind() : place_.standpoint.layer();
}

const Ruled* RulesPanel::ruled() const {
    const Level& level = place_.document.level();
    if (of_ == ThingKind::kind) return level.kind(chosen());
    return level.layer(chosen());
}

void RulesPanel::refresh() {
    const Ruled* l = ruled();
    setEnabled(l);
    if (!l) return;
    const bool kind = of_ == ThingKind::kind, first = !kind && place_.document.level().layerIndex(chosen()) == 0;
    if (shownOf_ != chosen()) leave();
    if (mine_ && !place_.document.previewing()) mine_ = false, preview_->setChecked(false);
    none_->setVisible(first || l->rules.empty());
    none_->setText(first ? tr("The first layer covers everything; rules are for the layers over it.")
                   : kind
                       ? tr("Rules say where it stands: on gentle ground, under the water, beside the path. They "
                            "are worked through from top to bottom, and go on following the ground.")
                       : tr("Rules say where the layer lies: on steep ground, on shady slopes, beside the path. They "
                            "are worked through from top to bottom."));
    add_->setEnabled(!first && l->rules.size() < kMaxRules);
    for (QWidget* w : std::initializer_list<QWidget*>{preview_, cover_, alive_})
        w->setVisible(!kind && !first && !l->rules.empty());
    preview_->setEnabled(!l->alive && !l->locked);
    cover_->setEnabled(!l->alive && !l->locked);
    alive_->setEnabled(!l->locked);
    alive_->setChecked(l->alive);
    emit hinted(l->rules.empty() ? QString() : l->alive ? tr("alive") : QString::number(l->rules.size()));
    const auto sameShape = [&] {
        if (shownOf_ != chosen() || shown_.size() != l->rules.size()) return false;
        for (size_t i = 0; i < shown_.size(); ++i)
            if (shown_[i].kind != l->rules[i].kind) return false;
        return true;
    };
    const bool same = sameShape();
    if (same && shown_ == l->rules) return;
    // Values that came from these fields need no new fields; only undo and the like do.
    const bool own = same && isAncestorOf(focusWidget());
    shownOf_ = chosen();
    shown_ = l->rules;
    if (own) return;
    while (QLayoutItem* item = rows_->takeAt(0)) {
        if (QWidget* w = item->widget()) w->hide(), w->deleteLater();
        delete item;
    }
    for (int i = 0; i < static_cast<int>(shown_.size()); ++i) rows_->addWidget(ruleFields(i));
}

QWidget* RulesPanel::ruleFields(int index) {
    auto* box = new QFrame(this);
    box->setObjectName("rule");
    box->setProperty("card", true);
    auto* c = new QVBoxLayout(box);
    c->setContentsMargins(6, 6, 6, 6);
    c->setSpacing(4);
    c->addLayout(ruleHead(index, box));
    ruleValues(index, box);
    auto* foot = new QHBoxLayout;
    auto* strength = ruleField(index, box, {tr("Strength"), tr(" %"), 0, 1, 0, 100, &Rule::strength});
    c->removeWidget(strength);
    foot->addWidget(strength, 1);
    auto* up = new QToolButton(box);
    setThemedIcon(up, "up");
    up->setToolTip(tr("Work it through earlier"));
    up->setEnabled(index > 0);
    foot->addWidget(up);
    auto* gone = new QToolButton(box);
    setThemedIcon(gone, "remove");
    gone->setToolTip(tr("Remove the rule"));
    foot->addWidget(gone);
    c->addLayout(foot);
    connect(gone, &QToolButton::clicked, this,
            [=, this] { change(tr("Remove rule"), [index](std::vector<Rule>& r) { r.erase(r.begin() + index); }); });
    connect(up, &QToolButton::clicked, this, [=, this] {
        change(tr("Reorder rules"), [index](std::vector<Rule>& r) {
            std::swap(r[static_cast<size_t>(index)], r[static_cast<size_t>(index) - 1]);
        });
    });
    return box;
}

// What the rule does, and what it looks at.
QLayout* RulesPanel::ruleHead(int index, QWidget* box) {
    const Rule& rule = shown_[static_cast<size_t>(index)];
    auto* head = new QHBoxLayout;
    head->setSpacing(4);
    auto* way = new QComboBox(box);
    way->setAccessibleName(tr("What the rule does"));
    way->setObjectName("ruleWay");
    way->addItems({tr("Where"), tr("Only where"), tr("Not where")});
    way->setCurrentIndex(static_cast<int>(rule.way));
    auto* kind = new QComboBox(box);
    kind->setAccessibleName(tr("What the rule looks at"));
    kind->setObjectName("ruleKind");
    for (int k = 0; k < kRuleKinds; ++k) kind->addItem(wordsOf(static_cast<RuleKind>(k)).name);
    kind->setCurrentIndex(static_cast<int>(rule.kind));
    for (QComboBox* b : {way, kind}) {
        b->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        b->setMinimumContentsLength(5);
    }
    head->addWidget(way, 5);
    head->addWidget(kind, 6);
    connect(way, &QComboBox::activated, this, [=, this](int i) {
        change(tr("Rule"),
               [=](std::vector<Rule>& r) { r[static_cast<size_t>(index)].way = static_cast<RuleEffect>(i); });
    });
    connect(kind, &QComboBox::activated, this, [=, this](int i) {
        Rule usual = usualRule(static_cast<RuleKind>(i), place_);
        change(tr("Rule"), [=](std::vector<Rule>& rules) mutable {
            Rule& changed = rules[static_cast<size_t>(index)];
            usual.way = changed.way;
            changed = usual;
        });
    });
    return head;
}

// A number of the rule, below what is in the box already.
NumberField* RulesPanel::ruleField(int index, QWidget* box, const RuleNumber& n) {
    auto* f = new NumberField(n.name, n.unit, {n.low * n.factor, n.high * n.factor, n.decimals, n.logarithmic}, box);
    f->setValue(static_cast<double>(shown_[static_cast<size_t>(index)].*n.which) * n.factor);
    box->layout()->addWidget(f);
    connect(f, &NumberField::changed, this, [=, this](double v) {
        change(
            tr("Rule"),
            [=](std::vector<Rule>& r) { r[static_cast<size_t>(index)].*n.which = static_cast<float>(v / n.factor); },
            "rule");
    });
    return f;
}

// Which other layer, and the numbers, by the kind of rule.
void RulesPanel::ruleValues(int index, QWidget* box) {
    const Rule& rule = shown_[static_cast<size_t>(index)];
    const KindWords words = wordsOf(rule.kind);
    const RuleRange range = ruleRange(rule.kind);
    const Level& level = place_.document.level();
    double low = range.low, high = range.high;
    if (rule.kind == RuleKind::altitude) low = level.lowest, high = level.highest;
    if (rule.kind == RuleKind::layer || rule.kind == RuleKind::course) {
        auto* other = new QComboBox(box);
        other->setAccessibleName(tr("Which one the rule looks at"));
        other->addItem(rule.kind == RuleKind::layer ? tr("Choose the layer") : tr("Choose the course"), 0u);
        for (const Layer& l : level.layers)
            if (rule.kind == RuleKind::layer && l.id != chosen()) other->addItem(QString::fromStdString(l.name), l.id);
        for (const Stratum& s : level.strata)
            if (rule.kind == RuleKind::course && s.leads()) other->addItem(QString::fromStdString(s.name), s.id);
        other->setCurrentIndex(std::max(other->findData(rule.layer), 0));
        box->layout()->addWidget(other);
        connect(other, &QComboBox::activated, this, [=, this](int i) {
            change(tr("Rule"), [=, id = other->itemData(i).toUInt()](std::vector<Rule>& r) {
                r[static_cast<size_t>(index)].layer = id;
            });
        });
    }
    if (rule.kind == RuleKind::low)
        ruleField(index, box, {tr("Ground below"), tr(" m"), level.lowest, level.highest, 1, 1, &Rule::level});
    ruleField(index, box, {words.from, words.unit, low, high, words.decimals, words.shown, &Rule::from});
    ruleField(index, box, {words.to, words.unit, low, high, words.decimals, words.shown, &Rule::to});
    const double softest = rule.kind == RuleKind::altitude ? 50
                           : rule.kind == RuleKind::facing ? 180
                           : rule.kind == RuleKind::slope  ? 45
                                                           : range.high - range.low;
    ruleField(index, box, {tr("Soft over"), words.unit, 0, softest, words.decimals, words.shown, &Rule::fade});
    if (rule.kind == RuleKind::above) ruleField(index, box, {tr("As far as"), tr(" m"), 0, 100, 1, 1, &Rule::reach});
    if (rule.kind == RuleKind::slope || rule.kind == RuleKind::curvature)
        ruleField(index, box, {tr("Looked at over"), tr(" m"), 0, 100, 1, 1, &Rule::reach});
    if (rule.kind == RuleKind::noise)
        ruleField(index, box, {tr("Patch size"), tr(" m"), 1, 500, 1, 1, &Rule::scale, true});
}

void RulesPanel::change(const QString& what, const std::function<void(std::vector<Rule>&)>& set,
                        const QString& gesture) {
    if (std::exchange(mine_, false)) place_.document.dropPreview();
    const uint32_t id = chosen();
    place_.document.tryEdit(
        what,
        [&](Level& l) -> Status {
            if (!has(l, {of_, id})) return goneError(of_);
            std::vector<Rule> rules = l.ruled(id)->rules;
            set(rules);
            if (rules.empty() && of_ == ThingKind::layer) restRules(l, id);
            changeRules(l, id, std::move(rules));
            return {};
        },
        gesture);
    if (preview_->isChecked()) soon_.start();
}

void RulesPanel::preview() {
    const Layer* l = place_.layer();
    if (!l || l->alive || !preview_->isChecked()) return;
    const Level& before = place_.document.standing();
    Level shown = before;
    bakeRules(shown, l->id);
    Result<Commit> done = commitWork(before, std::move(shown));
    mine_ = true;
    place_.document.showPreview(done.take());
    mine_ = place_.document.previewing();
}

void RulesPanel::leave() {
    soon_.stop();
    preview_->setChecked(false);
    if (std::exchange(mine_, false)) place_.document.dropPreview();
}

void RulesPanel::coverEverywhere() {
    leave();
    const uint32_t id = place_.standpoint.layer();
    house_.services.workOn(tr("Cover by rule"),
                           LevelJob::on({{ThingKind::layer, id}}, [id](Level& l, const Context& c) -> Status {
                               if (!bakeRules(l, id, c)) return cancelledError();
                               return {};
                           }));
}

void RulesPanel::setAlive(bool on) {
    leave();
    const uint32_t id = place_.standpoint.layer();
    if (!on) {
        place_.document.edit(tr("Let rules rest"), [id](Level& l) { restRules(l, id); });
        return refresh();
    }
    house_.services.workOn(tr("Wake rules"),
                           LevelJob::on({{ThingKind::layer, id}}, [id](Level& l, const Context&) -> Status {
                               // A layer that shows nothing yet has no paint worth keeping.
                               wakeRules(l, id, l.layer(id)->coverage.presentTiles() > 0);
                               return {};
                           }));
    refresh();  // the box is checked when it is done
}

}  // namespace jam
