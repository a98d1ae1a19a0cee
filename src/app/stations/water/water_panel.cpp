#include "stations/water/water_panel.h"

#include <algorithm>
#include <cmath>
#include <QColorDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalBlocker>
#include <QToolButton>
#include <QVBoxLayout>

#include "edits/course_edits.h"
#include "house/station.h"
#include "looks/theme.h"
#include "panels/fold.h"
#include "panels/number_field.h"
#include "panels/page.h"
#include "view/ground_view.h"
#include "watch/surveyor.h"
#include "water/rise.h"

namespace jam {

namespace {

double meanWidth(const Course& course) {
    double sum = 0;
    for (const Post& p : course.posts) sum += static_cast<double>(p.width);
    return sum / static_cast<double>(course.posts.size());
}

}  // namespace

WaterPanel::WaterPanel(House& house, QWidget* parent) : QWidget(parent), house_(house), waters_(house.place) {
    auto* column = pageColumn(this);
    column->setSpacing(5);
    says_ = quietLabel({}, this);
    column->addWidget(says_);
    details_ = new QWidget(this);
    auto* c = pageColumn(details_);
    c->setSpacing(5);
    auto* row = new QHBoxLayout;
    name_ = new QLineEdit(details_);
    name_->setAccessibleName(tr("Name of the water"));
    name_->setObjectName("waterName");
    remove_ = iconButton("removeWater", "remove", tr("Delete it; the ground stays as it is"), details_);
    row->addWidget(name_, 1);
    row->addWidget(remove_);
    c->addLayout(row);
    connect(name_, &QLineEdit::editingFinished, this, [this] {
        const QString now = waters_.pool()     ? QString::fromStdString(waters_.pool()->name)
                            : waters_.stream() ? QString::fromStdString(waters_.stream()->name)
                                               : QString();
        if (name_->text() == now) return;
        if (!waters_.rename(name_->text())) refresh();
    });
    connect(remove_, &QToolButton::clicked, this, [this] { waters_.remove(); });
    makeSurface(c);
    figures_ = new QLabel(details_);
    figures_->setObjectName("waterFigures");
    figures_->setWordWrap(true);
    c->addWidget(figures_);
    makeLeak(c);
    makeLook(c);
    column->addWidget(details_);
    house.place.document.on(About::waters | About::history, this, &WaterPanel::refresh);
    connect(&house.place.standpoint, &Standpoint::waterChosen, this, &WaterPanel::refresh);
    connect(&house.surveyor, &Surveyor::found, this, &WaterPanel::refresh);
    refresh();
}

void WaterPanel::makeSurface(QVBoxLayout* c) {
    pool_ = new QWidget(details_);
    auto* ofPool = pageColumn(pool_);
    ofPool->setSpacing(4);
    const Level& level = house_.place.document.level();
    height_ = addNumber(ofPool,
                        {"waterHeight",
                         tr("Surface at"),
                         tr(" m"),
                         {level.lowest, level.highest, 2},
                         tr("Or pull the water itself up and down in the view")},
                        [this](double v) {
                            waters_.editPool(
                                tr("Height of a pool"), [v](Pool& p) { p.height = static_cast<float>(v); },
                                "waterHeight");
                        });
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(4);
    brim_ = new QPushButton(tr("To its brim"), pool_);
    brim_->setObjectName("toBrim");
    brim_->setToolTip(tr("The height at which it is full and does not run over"));
    next_ = new QPushButton(tr("To the next brim"), pool_);
    next_->setObjectName("nextBrim");
    next_->setToolTip(tr("Fills the larger hollow that this one lies in"));
    for (QPushButton* b : {brim_, next_}) buttons->addWidget(b);
    ofPool->addLayout(buttons);
    connect(brim_, &QPushButton::clicked, this, [this] { toBrim(false); });
    connect(next_, &QPushButton::clicked, this, [this] { toBrim(true); });
    c->addWidget(pool_);

    stream_ = new QWidget(details_);
    auto* ofStream = pageColumn(stream_);
    ofStream->setSpacing(4);
    depth_ = addNumber(ofStream, {"streamDepth", tr("Depth"), tr(" m"), {kLeastStreamDepth, 5, 2, true}});
    bed_ = addNumber(ofStream, {"streamWidth",
                                tr("Bed's width"),
                                tr(" m"),
                                {0.2, 100, 1, true},
                                tr("In the mean over its posts, which keep their proportions; each post's own is found "
                                   "under Courses, at Shape")});
    sunk_ = addNumber(ofStream, {"streamSunk",
                                 tr("Bed below ground"),
                                 tr(" m"),
                                 {0, 10, 2},
                                 tr("How deep the bed is cut at posts that follow the ground")});
    manning_ = addNumber(ofStream,
                         {"streamManning",
                          tr("Rough bed (n)"),
                          {},
                          {kLeastManning, kMostManning, 3, true},
                          tr("Manning's n: 0.02 smooth earth, 0.035 a clean brook, 0.05 stones, 0.1 full of weeds")});
    connect(depth_, &NumberField::changed, this, [this](double v) {
        waters_.editStream(
            tr("Depth of a stream"), [v](Stream& s) { s.depth = static_cast<float>(v); }, "streamDepth");
    });
    connect(manning_, &NumberField::changed, this, [this](double v) {
        waters_.editStream(
            tr("Bed of a stream"), [v](Stream& s) { s.manning = static_cast<float>(v); }, "streamManning");
    });
    connect(bed_, &NumberField::changed, this, [this](double v) {
        const Stream* s = waters_.stream();
        const Stratum* bed = s ? house_.place.document.standing().stratum(s->course) : nullptr;
        if (!bed || !bed->course) return;
        const auto times = static_cast<float>(v / meanWidth(*bed->course));
        CourseEdits(house_.place)
            .edit(
                tr("Width of a stream"), s->course,
                [times](Course& x) {
                    for (Post& p : x.posts) p.width = std::clamp(p.width * times, kMinCourseWidth, kMaxCourseWidth);
                },
                "bedWidth");
    });
    connect(sunk_, &NumberField::changed, this, [this](double v) {
        if (const Stream* s = waters_.stream())
            CourseEdits(house_.place)
                .edit(
                    tr("Bed of a stream"), s->course, [v](Course& x) { x.sunk = static_cast<float>(v); }, "sunk");
    });
    c->addWidget(stream_);
}

void WaterPanel::makeLeak(QVBoxLayout* c) {
    leak_ = new QWidget(details_);
    auto* box = pageColumn(leak_);
    box->setSpacing(4);
    leaks_ = new QLabel(leak_);
    leaks_->setObjectName("leakSays");
    leaks_->setWordWrap(true);
    auto* head = new QHBoxLayout;
    QToolButton* go = iconButton("goToLeak", "centre", tr("Go to the place"), leak_);
    head->addWidget(leaks_, 1);
    head->addWidget(go);
    box->addLayout(head);
    auto* lower = new QPushButton(tr("Lower the surface to the brim"), leak_);
    lower->setObjectName("mendLower");
    auto* dam = new QPushButton(tr("Raise the rim by a dam"), leak_);
    dam->setObjectName("mendDam");
    box->addWidget(lower);
    box->addWidget(dam);
    dam_.emplace(box, "dam", kDamNumbers);
    c->addWidget(leak_);
    connect(go, &QToolButton::clicked, this, [this] {
        const auto& f = house_.surveyor.findings();
        const Pool* p = waters_.pool();
        if (!f || !p) return;
        const auto at = f->pools.find(p->id);
        if (at != f->pools.end() && at->second.leak)
            house_.view.visit({at->second.leak->x, at->second.leak->brim, at->second.leak->z});
    });
    connect(lower, &QPushButton::clicked, this, [this] { mend(true); });
    connect(dam, &QPushButton::clicked, this, [this] { mend(false); });
}

void WaterPanel::makeLook(QVBoxLayout* c) {
    auto* fold = new Fold("foldWaterLook", tr("How it looks"), false, details_);
    colour_ = new QPushButton(tr("Colour of deep water…"), fold);
    colour_->setObjectName("waterColour");
    fold->column()->addWidget(colour_);
    connect(colour_, &QPushButton::clicked, this, [this] {
        const WaterLook* look = house_.place.document.level().waterLook(house_.place.standpoint.water());
        if (!look) return;
        const QColor now = QColor::fromRgbF(look->colour[0], look->colour[1], look->colour[2]);
        const QColor to = QColorDialog::getColor(now, window(), tr("Colour of deep water"));
        if (to.isValid())
            waters_.editLook([to](WaterLook& l) {
                l.colour = {static_cast<float>(to.redF()), static_cast<float>(to.greenF()),
                            static_cast<float>(to.blueF())};
            });
    });
    const struct {
        NumberSpec spec;
        float WaterLook::*value;
    } all[] = {
        {{"clearness",
          tr("Clear for"),
          tr(" m"),
          {0.05, 30, 2, true},
          tr("Metres of water through which a third of the light comes")},
         &WaterLook::clearness},
        {{"waves", tr("Waves"), tr(" m"), {0, 1, 3}, tr("From trough to crest")}, &WaterLook::waves},
        {{"waveLength", tr("Wave length"), tr(" m"), {0.1, 40, 1, true}, tr("From crest to crest of the largest")},
         &WaterLook::waveLength},
        {{"waterRoughness", tr("Ruffled"), {}, {0, 1, 2}, tr("How much ripples blur what is mirrored")},
         &WaterLook::roughness},
        {{"foam", tr("Foam to"), tr(" m"), {0, 3, 2}, tr("Depth down to which the shore is white")}, &WaterLook::foam}};
    for (const auto& a : all)
        looks_.push_back({addNumber(fold->column(), a.spec,
                                    [this, value = a.value, id = a.spec.id](double v) {
                                        waters_.editLook([=](WaterLook& l) { l.*value = static_cast<float>(v); }, id);
                                    }),
                          a.value});
    c->addWidget(fold);
}

void WaterPanel::showEvent(QShowEvent* e) {
    refresh();
    QWidget::showEvent(e);
}

void WaterPanel::refresh() {
    if (!isVisible()) return;
    const Pool* pool = waters_.pool();
    const Stream* stream = waters_.stream();
    const Level& level = house_.place.document.level();
    says_->setText(
        level.pools.empty() && level.streams.empty() ? tr("Click a hollow in the view and it fills to its brim.")
        : pool || stream ? tr("Pull the water up and down in the view. Ctrl and a click fill it to the next brim.")
                         : tr("Click water to choose it, or a hollow to fill it."));
    details_->setVisible(pool || stream);
    if (!pool && !stream) return;
    pool_->setVisible(pool);
    stream_->setVisible(stream);
    leak_->hide();
    if (!name_->hasFocus()) name_->setText(QString::fromStdString(pool ? pool->name : stream->name));
    if (pool) showPool(*pool);
    else showStream(*stream);
    const WaterLook& look = *level.waterLook(house_.place.standpoint.water());
    for (const LookField& f : looks_) f.field->setValue(look.*f.value);
    QPixmap swatch(18, 18);
    swatch.fill(QColor::fromRgbF(look.colour[0], look.colour[1], look.colour[2]));
    colour_->setIcon(swatch);
}

void WaterPanel::showPool(const Pool& pool) {
    const Level& level = house_.place.document.level();
    height_->setValue(pool.height);
    brim_->setVisible(!pool.sea);
    next_->setVisible(!pool.sea);
    const auto& found = house_.surveyor.findings();
    const auto at = found ? found->pools.find(pool.id) : decltype(found->pools.end()){};
    if (!found || at == found->pools.end() || at->second.height != pool.height)
        return figures_->setText(tr("Being measured…"));
    const PoolFigures& f = at->second;
    brim_->setEnabled(f.brim && *f.brim != pool.height);
    QString text = f.area == 0 ? tr("It is dry: the ground stands as high.")
                               : tr("%1 m², %2 m³, up to %3 m deep.")
                                     .arg(f.area, 0, 'f', 0)
                                     .arg(f.volume, 0, 'f', 0)
                                     .arg(f.deepest, 0, 'f', 2);
    if (f.islands > 0) text += f.islands == 1 ? tr(" One island.") : tr(" %1 islands.").arg(f.islands);
    if (f.brim && !f.leak)
        text += *f.brim - pool.height < 0.005f ? tr(" Full to the brim.")
                                               : tr(" %1 m below its brim.").arg(*f.brim - pool.height, 0, 'f', 2);
    QStringList others;
    for (const uint32_t id : f.meets)
        if (const Pool* o = level.pool(id)) others << QString::fromStdString(o->name);
    if (!others.isEmpty()) text += tr(" It has run together with %1.").arg(others.join(", "));
    figures_->setText(text);
    leak_->setVisible(f.leak.has_value());
    if (!f.leak) return;
    leaks_->setText(f.leak->opening ? tr("It runs out through an opening in the %1, %2 m short.")
                                          .arg(QString::fromStdString(f.leak->towards))
                                          .arg(f.leak->over, 0, 'f', 2)
                                    : tr("It leaks in the %1: the rim is %2 m too low there.")
                                          .arg(QString::fromStdString(f.leak->towards))
                                          .arg(f.leak->over, 0, 'f', 2));
    leaks_->setStyleSheet(QString("color: %1;").arg(theme().warns.name()));
}

void WaterPanel::showStream(const Stream& stream) {
    depth_->setValue(stream.depth);
    manning_->setValue(stream.manning);
    const Level& level = house_.place.document.level();
    if (const Stratum* bed = level.stratum(stream.course); bed && bed->course)
        sunk_->setValue(bed->course->sunk), bed_->setValue(meanWidth(*bed->course));
    const auto& found = house_.surveyor.findings();
    const auto at = found ? found->streams.find(stream.id) : decltype(found->streams.end()){};
    if (!found || at == found->streams.end()) return figures_->setText(tr("Being measured…"));
    const StreamFigures& f = at->second;
    if (f.length == 0) return figures_->setText(tr("Nothing runs: its course is hidden or does not carve."));
    QString text = tr("%1 m long, falls %2 m, runs %3 m/s (at most %4).")
                       .arg(f.length, 0, 'f', 0)
                       .arg(f.fall, 0, 'f', 1)
                       .arg(f.mean, 0, 'f', 1)
                       .arg(f.fastest, 0, 'f', 1);
    if (f.falls > 0) text += f.falls == 1 ? tr(" One fall.") : tr(" %1 falls.").arg(f.falls);
    if (const Pool* into = level.pool(f.into)) text += tr(" Into %1.").arg(QString::fromStdString(into->name));
    if (f.over > kOverBanks) text += tr(" It stands %1 m over its banks; cut the bed deeper.").arg(f.over, 0, 'f', 2);
    figures_->setText(text);
}

void WaterPanel::mend(bool lower) {
    const Pool* p = waters_.pool();
    if (!p) return;
    house_.services.workOn(
        lower ? tr("Lower %1 to its brim").arg(QString::fromStdString(p->name))
              : tr("Dam for %1").arg(QString::fromStdString(p->name)),
        LevelJob::on({{ThingKind::pool, p->id}},
                     [id = p->id, lower, dam = dam_->values()](Level& level, const Context&) -> Status {
                         if (lower) return lowerToBrim(level, id);
                         if (const Result<double> earth = raiseRim(level, id, dam); !earth) return earth.error();
                         return {};
                     }));
}

void WaterPanel::toBrim(bool next) {
    const Pool* p = waters_.pool();
    if (!p) return;
    house_.services.workOn(
        tr("Fill %1").arg(QString::fromStdString(p->name)),
        LevelJob::on({{ThingKind::pool, p->id}}, [id = p->id, next](Level& level, const Context& context) -> Status {
            Pool& pool = *level.pool(id);
            const std::optional<Leak> leak = next ? std::nullopt : leakOf(level, pool, context);
            const float above = next ? pool.height : std::nextafter(pool.height, -1e9f);
            const std::vector<Brim> brims = brimsAt(level, pool.x, pool.z, above, 1, context);
            if (context.cancelled()) return cancelledError();
            if (leak) {
                pool.height = leak->brim;
            } else if (!brims.empty()) {
                pool.height = std::min(brims[0].height, level.highest);
                pool.x = level.originX + brims[0].column * level.spacing;
                pool.z = level.originZ + brims[0].row * level.spacing;
            } else {
                return Error{"", pool.name, "no higher brim holds water here",
                             "lower the surface, or raise the ground around it"};
            }
            return {};
        }));
}

}  // namespace jam
