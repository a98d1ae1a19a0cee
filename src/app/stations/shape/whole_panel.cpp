#include "stations/shape/whole_panel.h"

#include <cmath>
#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include "level/ground.h"
#include "level/resize.h"
#include "looks/memory_words.h"
#include "panels/number_field.h"
#include "shape/steps.h"
#include "tasks/work.h"

namespace jam {

namespace {

constexpr int kResample = kWholeKinds, kCrop = kWholeKinds + 1;
constexpr int kPause = 250;  // ms after the last change before a preview begins

int of(WholeKind kind) { return static_cast<int>(kind); }
float single(const NumberField* f) { return static_cast<float>(f->value()); }

// The number of samples that come nearest to so many metres.
int samplesFor(double metres, double spacing) { return static_cast<int>(std::lround(metres / spacing)) + 1; }

}  // namespace

NumberField* WholePanel::field(const QString& name, const QString& suffix, double low, double high, int decimals,
                               bool logarithmic, double value, std::initializer_list<int> works) {
    auto* f = new NumberField(name, suffix, {low, high, decimals, logarithmic}, this);
    f->setValue(value);
    column_->addWidget(f);
    own_.emplace_back(f, works);
    connect(f, &NumberField::changed, this, &WholePanel::later);
    return f;
}

WholePanel::WholePanel(House& house, QWidget* parent)
    : QWidget(parent), house_(house), document_(house.place.document) {
    column_ = new QVBoxLayout(this);
    column_->setContentsMargins(0, 0, 0, 0);
    column_->setSpacing(6);
    auto* head = new QLabel(tr("Whole ground"), this);
    head->setProperty("heading", true);
    column_->addWidget(head);
    work_ = new QComboBox(this);
    work_->setAccessibleName(tr("Work on the whole ground"));
    work_->setObjectName("work");
    work_->addItems({tr("Raise or lower all"), tr("Scale the height range"), tr("Smooth all"), tr("Noise over all"),
                     tr("Crumble all"), tr("Rain wash over all"), tr("Soften steps"), tr("Remove spikes"),
                     tr("Generate ground"), tr("Flatten all"), tr("Another spacing (resample)"),
                     tr("Another size (crop, extend)")});
    work_->setMaxVisibleItems(13);
    assert(work_->count() == kCrop + 1);
    column_->addWidget(work_);
    says_ = new QLabel(this);
    says_->setWordWrap(true);
    says_->setProperty("quiet", true);
    column_->addWidget(says_);
    makeFields();
    makeFoot();
    wire();
    showFields();
}

// A field for every number that some of the works need.
void WholePanel::makeFields() {
    const auto combo = [&](const QString& name, const QStringList& items, std::initializer_list<int> works) {
        auto* c = new QComboBox(this);
        c->setAccessibleName(name);
        c->addItems(items);
        column_->addWidget(c);
        own_.emplace_back(c, works);
        connect(c, &QComboBox::activated, this, &WholePanel::later);
        return c;
    };
    landscape_ = combo(tr("Landscape"),
                       {tr("Rolling hills"), tr("Ridged mountains"), tr("Island"), tr("Canyon"), tr("Terraces"),
                        tr("Crater lake country")},
                       {of(WholeKind::generate)});
    landscape_->setObjectName("landscape");
    meeting_ = combo(
        tr("How it meets the ground"),
        {tr("Replaces the ground"), tr("Is added to the ground"), tr("The highest of both"), tr("The lowest of both")},
        {of(WholeKind::generate)});
    flattenTo_ = combo(tr("To what it is flattened"),
                       {tr("To a height"), tr("To its mean height"), tr("To the plane through its rim")},
                       {of(WholeKind::flatten)});
    flattenTo_->setCurrentIndex(1);
    height_ = field(tr("Height"), tr(" m"), -kFarHeight, kFarHeight, 2, false, 0, {of(WholeKind::flatten)});
    metres_ = field(tr("By"), tr(" m"), -500, 500, 2, false, 10, {of(WholeKind::raise)});
    low_ = field(tr("Lowest becomes"), tr(" m"), -kFarHeight, kFarHeight, 2, false, 0, {of(WholeKind::scale)});
    high_ = field(tr("Highest becomes"), tr(" m"), -kFarHeight, kFarHeight, 2, false, 100, {of(WholeKind::scale)});
    width_ = field(tr("Width"), tr(" m"), 0.05, 500, 2, true, 4, {of(WholeKind::smooth)});
    scale_ = field(tr("Bumps"), tr(" m"), kMinBumps, 1000, 1, true, 20, {of(WholeKind::noise)});
    amplitude_ = field(tr("Height"), tr(" m"), kMinRate, kMaxRate, 2, true, 1, {of(WholeKind::noise)});
    octaves_ = field(tr("Detail"), tr(" octaves"), 1, kMaxOctaves, 0, false, 5, {of(WholeKind::noise)});
    noiseWay_ = combo(tr("Which way noise goes"), {tr("Up and down"), tr("Only up"), tr("Only down")},
                      {of(WholeKind::noise)});
    angle_ = field(tr("Angle of rest"), tr("°"), kMinAngle, kMaxAngle, 1, false, 36, {of(WholeKind::crumble)});
    years_ = field(tr("Years"), {}, 0.1, 500, 1, true, 10, {of(WholeKind::crumble), of(WholeKind::rainWash)});
    step_ = field(tr("Step"), tr(" m"), 0.0001, 100, 4, true, 1, {of(WholeKind::softenSteps)});
    spike_ = field(tr("Taller than"), tr(" m"), 0.01, 1000, 2, true, 2, {of(WholeKind::removeSpikes)});
    landScale_ = field(tr("Form size"), tr(" m"), 5, 5000, 0, true, 260, {of(WholeKind::generate)});
    landHeight_ = field(tr("Height"), tr(" m"), 0.1, 2000, 1, true, 60, {of(WholeKind::generate)});
    edge_ = field(tr("Edge mountains"), tr(" m"), 0, 1000, 0, false, 0, {of(WholeKind::generate)});
    edge_->setToolTip(tr("Mountains along the border that enclose the level."));
    edgeWidth_ = field(tr("Edge width"), tr(" m"), 5, 2000, 0, true, 120, {of(WholeKind::generate)});
    seed_ = field(tr("Seed"), {}, 0, 100000, 0, false, 1,
                  {of(WholeKind::noise), of(WholeKind::rainWash), of(WholeKind::generate)});
    spacing_ = field(tr("Spacing"), tr(" m"), 0.01, 100, 3, true, 1, {kResample});
    sizeX_ = field(tr("West to east"), tr(" m"), 1, 100000, 1, true, 512, {kCrop});
    sizeZ_ = field(tr("North to south"), tr(" m"), 1, 100000, 1, true, 512, {kCrop});
    anchor_ = combo(tr("What stays in its place"),
                    {tr("The middle stays"), tr("The north-west corner stays"), tr("The south-east corner stays")},
                    {kCrop});
}

void WholePanel::makeFoot() {
    size_ = new QLabel(this);
    size_->setWordWrap(true);
    column_->addWidget(size_);
    preview_ = new QCheckBox(tr("Preview on the ground"), this);
    preview_->setChecked(true);
    preview_->setToolTip(tr("Hold the key for looking back to see the ground before."));
    column_->addWidget(preview_);
    apart_ = new QCheckBox(tr("As a stratum of its own"), this);
    apart_->setObjectName("wholeApart");
    apart_->setToolTip(tr("So that it can be turned down, hidden or deleted later"));
    column_->addWidget(apart_);
    alone_ = new QCheckBox(tr("The ground alone"), this);
    alone_->setObjectName("wholeAlone");
    alone_->setToolTip(
        tr("Otherwise posts, pads, water, the height range and what rules ask for go along with the ground"));
    column_->addWidget(alone_);
    progress_ = new QProgressBar(this);
    progress_->setRange(0, 1000);
    progress_->setTextVisible(false);
    column_->addWidget(progress_);
    auto* row = new QHBoxLayout;
    cancel_ = new QPushButton(tr("Close"), this);
    cancel_->setObjectName("wholeClose");
    apply_ = new QPushButton(tr("Apply"), this);
    apply_->setObjectName("wholeApply");
    row->addWidget(cancel_);
    row->addWidget(apply_);
    column_->addLayout(row);
    column_->addStretch();
}

void WholePanel::wire() {
    soon_.setSingleShot(true);
    soon_.setInterval(kPause);
    connect(&soon_, &QTimer::timeout, this, [this] { compute(false); });
    connect(work_, &QComboBox::activated, this, &WholePanel::choose);
    connect(preview_, &QCheckBox::clicked, this, &WholePanel::later);
    connect(apart_, &QCheckBox::clicked, this, &WholePanel::later);
    connect(alone_, &QCheckBox::clicked, this, &WholePanel::later);
    connect(apply_, &QPushButton::clicked, this, &WholePanel::apply);
    connect(cancel_, &QPushButton::clicked, this, [this] {
        // While something runs this stops it; otherwise it closes.
        if (house_.work.isOf(this)) house_.work.cancel();
        else emit closeWanted();
    });
    connect(&house_.work, &Work::progressed, this, [this](double share) {
        if (house_.work.isOf(this)) progress_->setValue(static_cast<int>(1000 * share));
    });
    // A step in the history lets the preview go; while the panel is open another one is made of the ground as it is
    // now.
    document_.on(About::history, this, [this] {
        if (!current_ || document_.previewing() || document_.lookingBack()) return;
        later();
    });
    document_.on(About::raster, this, &WholePanel::tellSize);
}

void WholePanel::choose(int work) {
    work_->setCurrentIndex(work);
    touched_ = true;
    showFields();
    later();
}

bool WholePanel::busy() const { return soon_.isActive() || house_.work.isOf(this); }

QString WholePanel::title() const { return work_->currentText(); }

WholeWish WholePanel::wish() const {
    WholeWish w;
    w.kind = static_cast<WholeKind>(std::min(work_->currentIndex(), kWholeKinds - 1));
    w.along = !alone_->isChecked();
    w.metres = single(metres_);
    w.flattenTo = static_cast<FlattenTo>(flattenTo_->currentIndex());
    w.height = single(height_);
    w.low = single(low_), w.high = single(high_);
    w.width = single(width_);
    w.noise = {single(scale_), single(amplitude_), static_cast<int>(octaves_->value()),
               static_cast<NoiseSign>(noiseWay_->currentIndex()), static_cast<uint32_t>(seed_->value())};
    w.angle = single(angle_);
    w.years = single(years_);
    w.seed = static_cast<uint32_t>(seed_->value());
    w.step = single(step_);
    w.spike = single(spike_);
    w.landscape = {static_cast<Landscape>(landscape_->currentIndex()),
                   static_cast<uint32_t>(seed_->value()),
                   single(landScale_),
                   single(landHeight_),
                   single(edge_),
                   single(edgeWidth_)};
    w.meeting = static_cast<Meeting>(meeting_->currentIndex());
    if (apart_->isChecked()) w.stratum = title().toStdString();
    return w;
}

void WholePanel::showFields() {
    const int work = work_->currentIndex();
    for (const auto& [widget, works] : own_)
        widget->setVisible(std::find(works.begin(), works.end(), work) != works.end());
    const bool sizes = work >= kResample;
    size_->setVisible(sizes);
    preview_->setVisible(!sizes);
    apart_->setVisible(!sizes);
    alone_->setVisible(work == of(WholeKind::raise) || work == of(WholeKind::scale));
    progress_->setVisible(true);
    const Level& l = document_.level();
    const HeightSpan span = document_.pyramid().whole();
    const QString words[kCrop + 1] = {
        tr("Moves everything up or down."),
        tr("Stretches or squeezes all heights, now %1 to %2 m.").arg(span.low, 0, 'f', 1).arg(span.high, 0, 'f', 1),
        tr("Evens out bumps narrower than this."),
        tr("Roughens everything; doing it again adds nothing."),
        tr("What is steeper slides down, as it would in so many years."),
        tr("Rain digs gullies and leaves fans at their feet."),
        tr("Turns stepped ground, such as an 8-bit picture gives, into slopes; edges much higher than a step stay."),
        tr("Brings single samples that stand out down to their neighbours."),
        {},
        tr("Makes one even plane of all the ground, or of all that lies inside the fence."),
        tr("The same ground with finer or coarser samples. Layers go along."),
        tr("Cuts off ground, or adds ground at the start height of %1 m.").arg(l.startHeight, 0, 'f', 1)};
    says_->setText(words[work]);
    if (work == of(WholeKind::softenSteps)) {
        Raster<float> g(l.columns, l.rows);
        readGround(l, l.bounds(), g.view());
        const Steps steps = surveySteps(g.view());
        if (steps.height > 0) step_->setValue(steps.height);
        says_->setText(words[work] + "\n" +
                       (steps.stepped() ? tr("This ground has steps of about %1 m.").arg(steps.height, 0, 'g', 3)
                                        : tr("This ground does not look stepped.")));
    }
    if (work == of(WholeKind::scale)) low_->setValue(span.low), high_->setValue(span.high);
    if (sizes) spacing_->setValue(l.spacing), sizeX_->setValue(l.width()), sizeZ_->setValue(l.depth());
    tellSize();
    if (!touched_ && !sizes)
        says_->setText(says_->text() + "\n" + tr("Change a number to see it on the ground, or apply it as it is."));
}

void WholePanel::begin() {
    touched_ = false;
    apply_->setEnabled(true);
    showFields();
}

// What a size comes to, before anything is done.
void WholePanel::tellSize() {
    const int work = work_->currentIndex();
    const Level& l = document_.level();
    if (work == of(WholeKind::generate)) {
        says_->setText(
            meeting_->currentIndex() == 0
                ? tr("Replaces the whole ground of “%1”, all of it. Layers stay.").arg(QString::fromStdString(l.name))
                : tr("Is combined with the present ground, at the start height of %1 m. Layers stay.")
                      .arg(l.startHeight, 0, 'f', 1));
        return;
    }
    if (work < kResample) return;
    const double spacing = work == kResample ? spacing_->value() : l.spacing;
    const int columns = samplesFor(work == kResample ? l.width() : sizeX_->value(), spacing),
              rows = samplesFor(work == kResample ? l.depth() : sizeZ_->value(), spacing);
    NewLevel wish{l.name, columns, rows, spacing, l.lowest, l.highest, l.startHeight, l.coverFactor};
    const Result<Level> possible = makeLevel(wish);
    const auto layers = static_cast<int>(l.layers.size());
    size_->setText(possible ? tr("%1 × %2 samples, %3 × %4 m. The program will take about %5 MB.")
                                  .arg(columns)
                                  .arg(rows)
                                  .arg((columns - 1) * spacing, 0, 'f', 1)
                                  .arg((rows - 1) * spacing, 0, 'f', 1)
                                  .arg(megabytesFor(wish, layers, layers))
                            : QString::fromStdString(possible.error().sentence()));
    apply_->setEnabled(static_cast<bool>(possible));
}

void WholePanel::later() {
    current_ = false;
    tellSize();
    touched_ = true;
    // A stratum adds to the ground, and takes nothing along.
    alone_->setEnabled(!apart_->isChecked());
    if (work_->currentIndex() >= kResample) {
        document_.dropPreview();
        return;
    }
    apply_->setEnabled(true);
    if (!isVisible()) return;
    if (!preview_->isChecked()) return document_.dropPreview();
    soon_.start();
}

// What work on the whole ground would make of the level, with all that follows it.
struct WholePreview {
    Commit commit;
    double clipped;
    float rise, fall;
};

void WholePanel::compute(bool apply) {
    // What is to be applied is let finish; then a preview follows of what the fields say by now.
    if (!apply && applying_ && house_.work.isOf(this)) return soon_.start();
    applying_ = apply;
    const uint64_t serial = document_.history().serial();
    const bool begun = house_.work.start<WholePreview>(
        title(),
        [w = wish(), settled = document_.settled()](const Context& c) -> Result<WholePreview> {
            const Result<Level> level = settled(c);
            if (!level) return level.error();
            Result<WholeOutcome> o = reshapeWhole(level.value(), w, c);
            if (!o) return o.error();
            Result<Commit> done = commitWork(level.value(), std::move(o.value().level), c);
            if (!done) return done.error();
            return WholePreview{done.take(), o.value().clipped, o.value().rise, o.value().fall};
        },
        [this, apply, serial](Result<WholePreview> made) { outcome(std::move(made), serial, apply); }, !apply, this);
    if (begun) cancel_->setText(tr("Stop"));
}

void WholePanel::outcome(Result<WholePreview> made, uint64_t serial, bool applyIt) {
    cancel_->setText(tr("Close"));
    progress_->setValue(0);
    if (!made) {
        if (wasCancelled(made.error())) return house_.services.say(tr("Stopped; the ground is as it was."));
        return house_.services.refuse(made.error());
    }
    // The ground was changed meanwhile: the same is worked out on what is there now.
    if (serial != document_.history().serial()) return compute(applyIt);
    if (!isVisible() && !applyIt) return;
    WholePreview p = made.take();
    QString told = tr("Rises by up to %1 m, falls by up to %2 m.").arg(p.rise, 0, 'f', 2).arg(p.fall, 0, 'f', 2);
    const Level& l = p.commit.level;
    if (p.clipped > 0)
        told += tr(" %1 % of it meets the level's range of %2 to %3 m and is held there.")
                    .arg(std::max(100 * p.clipped, 0.01), 0, 'g', 2)
                    .arg(l.lowest)
                    .arg(l.highest);
    document_.showPreview(std::move(p.commit));
    current_ = document_.previewing();
    house_.services.say(told);
    if (applyIt) apply();
}

void WholePanel::apply() {
    soon_.stop();
    if (work_->currentIndex() >= kResample) return applySize();
    if (!current_ || !document_.previewing()) return compute(true);
    current_ = false;
    document_.applyPreview(title());
    house_.services.say(tr("Done: %1. It is one step that can be undone.").arg(title()));
}

void WholePanel::applySize() {
    const Level& l = document_.standing();
    if (work_->currentIndex() == kResample) {
        const double wanted = spacing_->value();
        const int columns = samplesFor(l.width(), wanted), rows = samplesFor(l.depth(), wanted);
        return house_.services.workOn(title(), LevelJob::onAll([=](const Level& level, const Context& c) {
                                          return resampleLevel(level, columns, rows, wanted, c);
                                      }));
    }
    const int columns = samplesFor(sizeX_->value(), l.spacing), rows = samplesFor(sizeZ_->value(), l.spacing);
    const int dx = l.columns - columns, dz = l.rows - rows, a = anchor_->currentIndex();
    const int x0 = a == 0 ? dx / 2 : a == 1 ? 0 : dx, z0 = a == 0 ? dz / 2 : a == 1 ? 0 : dz;
    house_.services.workOn(
        title(),
        LevelJob::onAll([=, wide = l.columns, deep = l.rows](const Level& level, const Context& c) -> Result<Level> {
            if (level.columns != wide || level.rows != deep)
                return Error{"", "", "The level has another size by now", "choose the new size again"};
            return cropLevel(level, {x0, z0, x0 + columns, z0 + rows}, c);
        }));
}

void WholePanel::leave() {
    soon_.stop();
    if (house_.work.isOf(this)) house_.work.cancel();
    current_ = false;
    document_.dropPreview();
}

}  // namespace jam
