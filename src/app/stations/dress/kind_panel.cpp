#include "stations/dress/kind_panel.h"

#include <algorithm>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QLocale>
#include <QPushButton>
#include <QSignalBlocker>
#include <QToolButton>
#include <QVBoxLayout>

#include "grow/recipe.h"
#include "house/station.h"
#include "looks/theme.h"
#include "panels/fold.h"
#include "panels/number_field.h"
#include "panels/page.h"
#include "stations/dress/footprint_panel.h"
#include "stations/dress/turntable.h"

namespace jam {

namespace {

QStringList keptWords() {
    return {KindPanel::tr("a kind"), KindPanel::tr("courses"),  KindPanel::tr("water"),
            KindPanel::tr("spots"),  KindPanel::tr("openings"), KindPanel::tr("the level's edge")};
}

QString unitOf(const char* unit) { return std::string_view(unit) == "m" ? QString(" m") : QString(unit); }

const KindNumber& numberNamed(const std::string& name) {
    return *std::find_if(std::begin(kKindNumbers), std::end(kKindNumbers),
                         [&](const KindNumber& n) { return n.name == name; });
}

}  // namespace

QStringList blocksWords() {
    return {KindPanel::tr("not at all"), KindPanel::tr("as a post"), KindPanel::tr("as a rounded post"),
            KindPanel::tr("as a box"), KindPanel::tr("by its own shape")};
}

KindPanel::KindPanel(House& house, QWidget* parent) : QWidget(parent), house_(house), edits_(house.place) {
    auto* column = pageColumn(this);
    column->setSpacing(5);
    none_ = quietLabel(tr("A kind is a sort of thing that stands on the ground: a tree, a tuft, a stone, a post. Add "
                          "one at the bench, then plant it with the brush or let rules say where it stands."),
                       this);
    column->addWidget(none_);
    details_ = new QWidget(this);
    auto* c = pageColumn(details_);
    c->setSpacing(5);
    column->addWidget(details_);
    makeHead(c);
    makeNumbers(c, {"density"});
    auto* grows = new Fold("foldGrows", tr("How it grows"), false, details_);
    makeGrowth(grows->column());
    c->addWidget(grows);
    auto* stands = new Fold("foldStands", tr("How it stands"), false, details_);
    makeNumbers(stands->column(), {"sizeFrom", "sizeTo", "sink", "sinkShare", "lean", "tilt"});
    makeChoice(
        stands->column(), "turning", tr("Turned"),
        {tr("at random"), tr("down the slope"), tr("along the nearest course"), tr("in steps")},
        [](const Kind& k) { return static_cast<int>(k.turning); },
        [](Kind& k, int i) { k.turning = static_cast<Turning>(i); });
    makeNumbers(stands->column(), {"turn"});
    makeChoice(
        stands->column(), "blocks", tr("Blocks who walks"), blocksWords(),
        [](const Kind& k) { return static_cast<int>(k.blocks); },
        [](Kind& k, int i) { k.blocks = static_cast<Blocks>(i); });
    makeNumbers(stands->column(), {"blockRadius", "blockHeight"});
    c->addWidget(stands);
    auto* under = new Fold("foldFootprint", tr("The ground under it"), false, details_);
    under->column()->addWidget(new FootprintPanel(house, details_));
    c->addWidget(under);
    auto* gathers = new Fold("foldGathers", tr("How it gathers"), false, details_);
    makeNumbers(gathers->column(), {"apart", "clump", "clumpTight"});
    makeChoice(
        gathers->column(), "rows", tr("In rows"),
        {tr("no"), tr("to one direction"), tr("along a course"), tr("along the contours")},
        [](const Kind& k) { return static_cast<int>(k.rows); }, [](Kind& k, int i) { k.rows = static_cast<Rows>(i); });
    rowCourse_ = new QComboBox(details_);
    rowCourse_->setObjectName("rowCourse");
    rowCourse_->setAccessibleName(tr("The course that rows run along"));
    gathers->column()->addWidget(rowCourse_);
    connect(rowCourse_, &QComboBox::activated, this, [this](int i) {
        edits_.edit(tr("Rows of a kind"), [id = rowCourse_->itemData(i).toUInt()](Kind& k) { k.rowCourse = id; });
    });
    makeNumbers(gathers->column(), {"rowApart", "inRow", "rowDirection"});
    c->addWidget(gathers);
    auto* keeps = new Fold("foldKeepsOff", tr("What it keeps off"), false, details_);
    makeKeepsOff(keeps->column());
    c->addWidget(keeps);
    house.place.document.on(About::dress | About::strata | About::history, this, &KindPanel::refresh);
    connect(&house.place.standpoint, &Standpoint::kindChosen, this, &KindPanel::refresh);
    refresh();
}

const Kind* KindPanel::kind() const { return house_.place.kind(); }

void KindPanel::makeHead(QVBoxLayout* c) {
    auto* row = new QHBoxLayout;
    row->setSpacing(2);
    name_ = new QLineEdit(details_);
    name_->setAccessibleName(tr("Name of the kind"));
    name_->setObjectName("kindName");
    eye_ = iconButton("kindEye", "eye", tr("Shown or hidden"), details_);
    lock_ = iconButton("kindLock", "lock", tr("Protected: no brush changes where it stands"), details_);
    QToolButton* menu = iconButton("kindMenu", "menu", tr("More about the kind"), details_);
    for (QToolButton* b : {eye_, lock_}) b->setCheckable(true);
    row->addWidget(name_, 1);
    for (QToolButton* b : {eye_, lock_, menu}) row->addWidget(b);
    c->addLayout(row);
    picture_ = new Turntable(details_);
    c->addWidget(picture_);
    connect(name_, &QLineEdit::editingFinished, this, [this] {
        if (!kind() || name_->text() == QString::fromStdString(kind()->name)) return;
        if (!edits_.edit(tr("Name of a kind"), [&](Kind& k) { k.name = name_->text().trimmed().toStdString(); }))
            refresh();
    });
    connect(eye_, &QToolButton::clicked, this,
            [this](bool on) { edits_.edit(tr("Show or hide a kind"), [on](Kind& k) { k.hidden = !on; }); });
    connect(lock_, &QToolButton::clicked, this,
            [this](bool on) { edits_.edit(tr("Protect a kind"), [on](Kind& k) { k.locked = on; }); });
    connect(menu, &QToolButton::clicked, this, &KindPanel::menuWanted);
}

void KindPanel::makeGrowth(QVBoxLayout* c) {
    taken_ = quietLabel({}, details_);
    takeAnew_ = new QPushButton(tr("Take in another shape…"), details_);
    takeAnew_->setObjectName("takeAnew");
    connect(takeAnew_, &QPushButton::clicked, this, &KindPanel::shapeWanted);
    c->addWidget(taken_);
    c->addWidget(takeAnew_);
    recipe_ = new QComboBox(details_);
    recipe_->setObjectName("recipe");
    recipe_->setAccessibleName(tr("What it grows as"));
    for (const Recipe* r : recipes()) recipe_->addItem(tr(r->title), QString(r->name));
    c->addWidget(recipe_);
    connect(recipe_, &QComboBox::activated, this, [this](int i) {
        const Recipe* r = recipes()[static_cast<size_t>(i)];
        if (!kind() || kind()->growth.recipe == r->name) return;
        edits_.edit(tr("What a kind grows as"), [r](Kind& k) {
            const Growth before = k.growth;
            k.growth = usualGrowth(*r);
            k.growth.seed = before.seed, k.growth.variants = before.variants;
        });
    });
    growth_ = new QVBoxLayout;
    c->addLayout(growth_);
    variants_ = addNumber(
        c,
        {"variants", tr("Variants"), {}, {1, 8, 0}, tr("How many grow, from small to large; each planting takes one")},
        [this](double v) {
            edits_.edit(
                tr("Variants of a kind"), [v](Kind& k) { k.growth.variants = static_cast<int>(v); }, "variants");
        });
    seed_ = addNumber(
        c, {"growthSeed", tr("Seed"), {}, {0, 999, 0}, tr("Another one grows otherwise from the same numbers")},
        [this](double v) {
            edits_.edit(
                tr("Seed of a kind"), [v](Kind& k) { k.growth.seed = static_cast<uint32_t>(v); }, "growthSeed");
        });
}

void KindPanel::makeNumbers(QVBoxLayout* c, std::initializer_list<const char*> names) {
    for (const char* name : names) {
        const KindNumber& n = numberNamed(name);
        const bool fine = n.high <= 1, metres = std::string_view(n.unit) == "m", density = n.value == &Kind::density;
        const double high = density ? 400 : n.high;
        auto* field = addNumber(c,
                                {n.name,
                                 tr(n.title),
                                 unitOf(n.unit),
                                 {n.low, high,
                                  density                               ? 1
                                  : fine || metres || high <= kMostSize ? 2
                                                                        : 0,
                                  density || (metres && n.low > 0) || high == kMostSize},
                                 tr(n.tip)},
                                [this, &n, density](double v) {
                                    if (density) edits_.setDensity(v, n.name);
                                    else
                                        edits_.edit(
                                            tr("%1 of a kind").arg(tr(n.title)),
                                            [&n, v](Kind& k) {
                                                k.*n.value = static_cast<float>(v);
                                                // The other end gives way.
                                                if (n.value == &Kind::sizeFrom)
                                                    k.sizeTo = std::max(k.sizeTo, k.sizeFrom);
                                                if (n.value == &Kind::sizeTo)
                                                    k.sizeFrom = std::min(k.sizeFrom, k.sizeTo);
                                                if (n.value == &Kind::clump && v > 0)
                                                    k.clump = std::max(k.clump, static_cast<float>(kLeastClump));
                                            },
                                            n.name);
                                });
        numbers_.push_back({field, n.value});
    }
}

QComboBox* KindPanel::makeChoice(QVBoxLayout* c, const char* id, const QString& name, const QStringList& words,
                                 std::function<int(const Kind&)> get, std::function<void(Kind&, int)> set) {
    auto* row = new QHBoxLayout;
    row->addWidget(new QLabel(name, details_));
    auto* box = new QComboBox(details_);
    box->setObjectName(id);
    box->setAccessibleName(name);
    box->addItems(words);
    row->addWidget(box, 1);
    c->addLayout(row);
    connect(box, &QComboBox::activated, this,
            [this, name, set](int i) { edits_.edit(tr("%1: a kind").arg(name), [&](Kind& k) { set(k, i); }); });
    choices_.push_back({box, std::move(get)});
    return box;
}

void KindPanel::makeKeepsOff(QVBoxLayout* c) {
    kept_ = new QVBoxLayout;
    kept_->setSpacing(4);
    c->addLayout(kept_);
    keepMore_ = new QComboBox(details_);
    keepMore_->setObjectName("keepsOff");
    keepMore_->setAccessibleName(tr("Something else that it keeps off"));
    c->addWidget(keepMore_);
    connect(keepMore_, &QComboBox::activated, this, [this](int i) {
        if (i <= 0) return;
        const KeptOff off{static_cast<KeptOff::What>(keepMore_->itemData(i).toInt()),
                          keepMore_->itemData(i, Qt::UserRole + 1).toUInt(), 1.5f};
        edits_.edit(tr("What a kind keeps off"), [&](Kind& k) { k.keepsOff.push_back(off); });
    });
}

void KindPanel::refreshGrowth(const Kind& k) {
    // What was taken in does not grow.
    const bool grows = !k.taken;
    for (QWidget* w : std::initializer_list<QWidget*>{recipe_, variants_, seed_}) w->setVisible(grows);
    for (QWidget* w : growthFields_) w->setVisible(grows);
    for (QWidget* w : std::initializer_list<QWidget*>{taken_, takeAnew_}) w->setVisible(!grows);
    if (!grows) {
        const KindMeshes& m = *k.taken.shape->meshes;
        taken_->setText(tr("Taken in from %1: %2 triangles, %3 m tall.")
                            .arg(QString::fromStdString(k.taken.shape->from),
                                 QLocale().toString(static_cast<qulonglong>(m.variants[0][0].triangles())),
                                 QLocale().toString(static_cast<double>(m.height), 'f', 2)));
    }
    const Recipe* recipe = recipeNamed(k.growth.recipe);
    if (!recipe) return;
    if (shownRecipe_ != k.growth.recipe) {
        shownRecipe_ = k.growth.recipe;
        qDeleteAll(growthFields_);
        growthFields_.clear();
        for (size_t i = 0; i < recipe->numbers.size(); ++i) {
            const RecipeNumber& n = recipe->numbers[i];
            const bool whole = n.high >= 20 && n.low == std::floor(n.low) && !*n.unit;
            growthFields_.push_back(addNumber(
                growth_,
                {n.name,
                 tr(n.title),
                 unitOf(n.unit),
                 {n.low, n.high, whole ? 0 : 2, std::string_view(n.unit) == "m" && n.low > 0}},
                [this, i, name = std::string(n.name)](double v) {
                    edits_.edit(
                        tr("How a kind grows"), [i, v](Kind& x) { x.growth.numbers[i] = static_cast<float>(v); },
                        QString::fromStdString("grow-" + name));
                }));
        }
    }
    const QSignalBlocker quiet(recipe_);
    recipe_->setCurrentIndex(recipe_->findData(QString::fromStdString(k.growth.recipe)));
    for (size_t i = 0; i < growthFields_.size() && i < k.growth.numbers.size(); ++i)
        growthFields_[i]->setValue(k.growth.numbers[i]);
    variants_->setValue(k.growth.variants);
    seed_->setValue(k.growth.seed);
}

void KindPanel::refreshKeepsOff(const Kind& k) {
    const Level& level = house_.place.document.level();
    const QSignalBlocker quiet(keepMore_);
    keepMore_->clear();
    keepMore_->addItem(tr("Keep it off…"));
    const QStringList words = keptWords();
    const auto offer = [&](KeptOff::What what, uint32_t id, const QString& name) {
        keepMore_->addItem(name, static_cast<int>(what));
        keepMore_->setItemData(keepMore_->count() - 1, id, Qt::UserRole + 1);
    };
    for (const auto what : {KeptOff::What::course, KeptOff::What::water, KeptOff::What::spot, KeptOff::What::opening,
                            KeptOff::What::edge})
        offer(what, 0, words[static_cast<int>(what)]);
    // Those before it in the list alone.
    for (const Kind& o : level.kinds) {
        if (o.id == k.id) break;
        offer(KeptOff::What::kind, o.id, QString::fromStdString(o.name));
    }
    keepMore_->setEnabled(k.keepsOff.size() < kMostKeepsOff);
    if (shownKeptOf_ == k.id && shownKept_ == k.keepsOff) return;
    // Values that came from these fields need no new fields.
    const bool same = shownKeptOf_ == k.id && shownKept_.size() == k.keepsOff.size() &&
                      std::equal(shownKept_.begin(), shownKept_.end(), k.keepsOff.begin(),
                                 [](const KeptOff& a, const KeptOff& b) { return a.what == b.what && a.id == b.id; });
    shownKept_ = k.keepsOff;
    shownKeptOf_ = k.id;
    if (same) {
        for (size_t i = 0; i < shownKept_.size(); ++i)
            if (auto* f = findChild<NumberField*>(QString("kept%1").arg(i))) f->setValue(shownKept_[i].metres);
        return;
    }
    while (QLayoutItem* item = kept_->takeAt(0)) {
        if (item->widget()) item->widget()->deleteLater();
        delete item;
    }
    for (size_t i = 0; i < k.keepsOff.size(); ++i) {
        const KeptOff& o = k.keepsOff[i];
        auto* line = new QWidget(details_);
        auto* row = new QHBoxLayout(line);
        row->setContentsMargins(0, 0, 0, 0);
        QString name = words[static_cast<int>(o.what)];
        if (const Kind* other = o.what == KeptOff::What::kind ? level.kind(o.id) : nullptr)
            name = QString::fromStdString(other->name);
        if (const Stratum* s = o.what == KeptOff::What::course && o.id ? level.stratum(o.id) : nullptr)
            name = QString::fromStdString(s->name);
        auto* field = new NumberField(name, tr(" m"), {0, kMostKeptOff, 1, true}, line);
        field->setObjectName(QString("kept%1").arg(i));
        field->setValue(o.metres);
        QToolButton* remove = iconButton("removeKept", "remove", tr("It need not keep off that"), line);
        row->addWidget(field, 1);
        row->addWidget(remove);
        kept_->addWidget(line);
        connect(field, &NumberField::changed, this, [this, i](double v) {
            edits_.edit(
                tr("What a kind keeps off"),
                [&](Kind& x) {
                    if (i < x.keepsOff.size()) x.keepsOff[i].metres = static_cast<float>(v);
                },
                QString("kept%1").arg(i));
        });
        connect(remove, &QToolButton::clicked, this, [this, i] {
            edits_.edit(tr("What a kind keeps off"), [&](Kind& x) {
                if (i < x.keepsOff.size()) x.keepsOff.erase(x.keepsOff.begin() + static_cast<ptrdiff_t>(i));
            });
        });
    }
}

void KindPanel::showEvent(QShowEvent* e) {
    refresh();
    QWidget::showEvent(e);
}

void KindPanel::refresh() {
    if (!isVisible()) return;
    const Kind* k = kind();
    none_->setVisible(!k);
    details_->setVisible(k);
    if (!k) return;
    if (!name_->hasFocus()) name_->setText(QString::fromStdString(k->name));
    eye_->setChecked(!k->hidden);
    lock_->setChecked(k->locked);
    picture_->show(*k);
    for (const Number& n : numbers_) n.field->setValue(k->*n.value);
    for (const Choice& c : choices_) {
        const QSignalBlocker quiet(c.box);
        c.box->setCurrentIndex(c.get(*k));
    }
    const QSignalBlocker quiet(rowCourse_);
    rowCourse_->clear();
    rowCourse_->addItem(tr("Choose the course"), 0u);
    for (const Stratum& s : house_.place.document.level().strata)
        if (s.leads()) rowCourse_->addItem(QString::fromStdString(s.name), s.id);
    rowCourse_->setCurrentIndex(std::max(rowCourse_->findData(k->rowCourse), 0));
    rowCourse_->setVisible(k->rows == Rows::course);
    for (const Number& n : numbers_)
        if (n.value == &Kind::rowApart)
            n.field->setTitle(k->rows == Rows::contour ? tr("Each row higher by") : tr("Rows apart"));
    refreshGrowth(*k);
    refreshKeepsOff(*k);
}

}  // namespace jam
