#include "workplace/document.h"

#include <cmath>
#include <QDateTime>
#include <utility>

#include "level/ground.h"
#include "level/opening.h"
#include "tools/tool.h"
#include "water/water.h"

namespace jam {

namespace {
constexpr qint64 kGestureMs = 1500;    // a pause longer than this ends a gesture
constexpr qint64 kLiveWaterTimes = 4;  // the rest of a stroke has so many times as long as water has that follows it
constexpr long long kAtOnce = 60'000;  // samples that followers look at while the hand waits: some ten milliseconds
constexpr int kAfterDabMs = 8;         // from a dab to its picture, about
}  // namespace

namespace {

Abouts previewIf(bool so) { return so ? About::preview : Abouts(); }

Abouts aboutOf(const Change& c) {
    Abouts about;
    const auto is = [&](bool so, About what) { about.setFlag(what, about.testFlag(what) || so); };
    is(c.raster, About::raster);
    is(c.samples(), About::samples);
    is(c.looks || c.waterLooks, About::looks);
    is(!c.layers.empty() || c.looks, About::layers);
    is(!c.strata.empty(), About::strata);
    is(c.sun, About::sun);
    is(c.fence, About::fence);
    is(c.waters || !c.water.empty(), About::waters);
    is(c.spots, About::spots);
    is(!c.kinds.empty() || !c.plantings.empty(), About::dress);
    is(c.name, About::name);
    return about;
}

// How far a stroke moved the ground at most, for the list of what was done: " +4.2 m". Empty when it moved none, or so
// much of it that looking would take long.
QString howMuch(const Level& before, const Level& after, const Change& touched) {
    constexpr long long kMostSamples = 2'000'000;
    long long samples = 0;
    touched.ground.each([&](int, int, const Region& r) { samples += r.area(); });
    if (samples == 0 || samples > kMostSamples) return {};
    float most = 0;
    Raster<float> was, is;
    touched.ground.each([&](int, int, const Region& r) {
        was.reshape(r.width(), r.depth());
        is.reshape(r.width(), r.depth());
        readGround(before, r, was.view());
        readGround(after, r, is.view());
        for (int z = 0; z < r.depth(); ++z)
            for (int x = 0; x < r.width(); ++x) {
                const float d = is.at(x, z) - was.at(x, z);
                if (std::abs(d) > std::abs(most)) most = d;
            }
    });
    if (most == 0) return {};
    return QString(" %1%2 m").arg(most > 0 ? "+" : "−").arg(std::abs(most), 0, 'f', std::abs(most) < 1 ? 2 : 1);
}

}  // namespace

Document::Document(Level level, const QString& what, QObject* parent)
    : QObject(parent), history_(level, what.toStdString()), level_(std::move(level)), pyramid_(level_),
      shownWater_(level_.water), savedSerial_(history_.serial()) {
    saved_ = std::make_shared<const Level>(level_);
    waterSoon_.setSingleShot(true);
    connect(&waterSoon_, &QTimer::timeout, this, &Document::followWater);
}

const Level* Document::stepLevel(uint64_t serial) const {
    for (const History::Entry& e : history_.entries())
        if (e.serial == serial) return &e.level;
    return nullptr;
}

void Document::open(ReadyLevel ready, const QString& path, const QString& what) {
    history_ = History(ready.level, what.toStdString());
    pyramid_ = std::move(ready.pyramid);
    startOver(path, path.isEmpty() ? 0 : history_.serial());
}

void Document::openHistory(History history, const QString& path, uint64_t saved) {
    history_ = std::move(history);
    pyramid_ = HeightPyramid(history_.now());
    startOver(path, saved);
}

void Document::startOver(const QString& path, uint64_t saved) {
    stroker_.reset();
    preview_.reset();
    lookingBack_ = false;
    catchUp_.drop();
    owed_.clear();
    level_ = history_.now();
    shownWater_ = level_.water;
    path_ = path;
    savedSerial_ = saved ? saved : ~uint64_t{0};
    const Level* kept = stepLevel(saved);
    saved_ = std::make_shared<const Level>(kept ? *kept : level_);
    gesture_.clear();
    const Change all = allOf(level_);
    emit changed({aboutOf(all) | About::level | About::preview | About::history, all, {}});
}

void Document::markSaved(const QString& path, uint64_t serial, const Level& level) {
    path_ = path;
    savedSerial_ = serial;
    saved_ = std::make_shared<const Level>(level);
    gesture_.clear();
    tell({}, About::name);
}

// --- what is seen -------------------------------------------------------------------------------------------------

void Document::show(const Level& level, Abouts also) {
    const Change change = changesBetween(level, level_);
    level_ = level;
    tell(change, also);
}

namespace {

// Heights, joined with those of the water's surface over a part of the ground.
HeightSpan withWater(HeightSpan heights, const TiledGrid<Wet>& water, const Region& ground) {
    water.eachPart(ground.clipped({0, 0, water.columns(), water.rows()}), [&](int tx, int tz, const Region& part) {
        if (!water.tile(tx, tz)) return;
        for (int z = part.z0; z < part.z1; ++z)
            for (int x = part.x0; x < part.x1; ++x)
                if (const Wet w = water.at(x, z); w.wet()) heights = heights.joined({w.surface, w.surface});
    });
    return heights;
}

// A part of the ground as some smaller ones: what all of it may cover in a picture, near an eye that stands in it, is
// far more than what it does.
std::vector<Region> pieces(const Region& ground) {
    constexpr int kMost = 8, kLeast = 16;  // each way; samples
    const auto cut = [&](int samples) { return std::max((samples + kMost - 1) / kMost, kLeast); };
    const int wide = cut(ground.width()), deep = cut(ground.depth());
    std::vector<Region> out;
    for (int z = ground.z0; z < ground.z1; z += deep)
        for (int x = ground.x0; x < ground.x1; x += wide)
            out.push_back(Region{x, z, x + wide, z + deep}.clipped(ground));
    return out;
}

}  // namespace

void Document::tell(const Change& change, Abouts also) {
    News news{aboutOf(change) | also, change, {}};
    if (change.raster) {
        pyramid_ = HeightPyramid(level_);
        shownWater_ = level_.water;
    } else if (change.samples()) {
        for (const Region& spot : touchedGround(level_, change).spots())
            for (const Region& piece : pieces(spot)) news.patches.push_back({piece, pyramid_.spanOf(piece)});
        pyramid_.update(level_, change.ground);
        const Standing stands = standingOf(level_), stood = std::exchange(stood_, stands);
        for (ChangedPatch& s : news.patches) s.heights = s.heights.joined(pyramid_.spanOf(s.ground));
        if (!change.water.empty()) {
            // Water shows at its surface, before and now.
            for (ChangedPatch& s : news.patches)
                s.heights = withWater(withWater(s.heights, shownWater_, s.ground), level_.water, s.ground);
            shownWater_ = level_.water;
        }
        // What stands there shows above it and beside it.
        const float up = std::max(stands.up, stood.up), aside = std::max(stands.aside, stood.aside);
        for (ChangedPatch& s : news.patches) {
            s.ground = s.ground.grown(static_cast<int>(std::ceil(static_cast<double>(aside) / level_.spacing)))
                           .clipped(level_.bounds());
            s.heights.high += up;
        }
    }
    if (news.about) emit changed(news);
}

// --- history ------------------------------------------------------------------------------------------------------

void Document::push(const Level& level, const QString& what) {
    history_.push(level, what.toStdString());
    gesture_.clear();
}

const Change* Document::owed() const {
    const auto at = owed_.find(history_.serial());
    return at == owed_.end() ? nullptr : &at->second;
}

Document::Settle Document::settled() const {
    const Change* due = owed();
    if (!due) return [level = history_.now()](const Context&) -> Result<Level> { return level; };
    return [level = history_.now(), due = *due](const Context& c) -> Result<Level> {
        Result<Commit> done = commitWork(level, level, c, &due);
        if (!done) return done.error();
        return std::move(done.value().level);
    };
}

void Document::take(Level level, Change touched, const QString& what, bool inPlace) {
    if (const Change* due = owed(); due && sameRaster(level, history_.now())) touched.add(*due);
    catchUp_.drop();
    const bool later = followingWork(level, touched) > kAtOnce;
    if (!later) level = std::move(commitWork(history_.now(), std::move(level), {}, &touched).value().level);
    if (inPlace) history_.replaceNow(std::move(level));
    else push(level, what);
    if (!later) return;
    // Steps that the history let go of owe nothing any more.
    std::erase_if(owed_, [this](const auto& o) { return !stepLevel(o.first); });
    owed_[history_.serial()] = std::move(touched);
}

// Begins, or begins again, what the present step owes.
void Document::followOn() {
    catchUp_.drop();
    const Change* due = owed();
    if (!due || stroking()) return;
    catchUp_.run<Commit>(
        tr("Following the ground"),
        [level = history_.now(), touched = *due](const Context& context) {
            return commitWork(level, level, context, &touched);
        },
        [this, serial = history_.serial()](Result<Commit> made) {
            if (made) complete(serial, made.value().level);
            else emit said(QString::fromStdString(made.error().sentence()));
        });
}

void Document::complete(uint64_t serial, const Level& level) {
    if (serial != history_.serial() || stroking()) return;
    Level whole = level;
    whole.activeStratum = history_.now().activeStratum;  // may have been chosen meanwhile
    history_.complete(std::move(whole));
    owed_.erase(serial);
    if (!preview_ && !lookingBack_) show(history_.now());
}

bool Document::edit(const QString& what, const std::function<void(Level&)>& change, const QString& gesture) {
    return tryEdit(
        what,
        [&](Level& l) -> Status {
            change(l);
            return {};
        },
        gesture);
}

bool Document::tryEdit(const QString& what, const std::function<Status(Level&)>& change, const QString& gesture) {
    if (stroking()) return false;
    if (const QString why = whyNoStroke(); !why.isEmpty()) {
        emit said(why);
        return false;
    }
    Level next = history_.now();
    Status fine = change(next);
    if (fine) fine = checkNames(next);
    if (!fine) {
        emit said(QString::fromStdString(fine.error().sentence()));
        return false;
    }
    const Change touched = sameRaster(next, history_.now()) ? changesBetween(next, history_.now()) : Change{};
    const qint64 now = QDateTime::currentMSecsSinceEpoch();
    const bool goesOn = !gesture.isEmpty() && gesture == gesture_ && now - gestureTime_ < kGestureMs &&
                        history_.canUndo() && !history_.canRedo();
    take(std::move(next), touched, what, goesOn);
    gesture_ = gesture;
    gestureTime_ = now;
    followOn();
    show(history_.now(), About::history);
    return true;
}

void Document::commit(const QString& what, Commit work) {
    assert(!stroking());
    const bool previewed = preview_ || lookingBack_;
    preview_.reset();
    lookingBack_ = false;
    catchUp_.drop();
    push(work.level, what);
    show(history_.now(), About::history | previewIf(previewed));
}

namespace {

// False when the level has no such stratum that brushes could go to.
bool choose(Level& level, uint32_t id) {
    const Stratum* s = level.stratum(id);
    if (!s || s->mixes()) return false;
    level.activeStratum = id;
    return true;
}

}  // namespace

void Document::chooseStratum(uint32_t id) {
    if (stroking() || history_.now().activeStratum == id) return;
    if (Level next = history_.now(); choose(next, id)) history_.complete(std::move(next));
    choose(level_, id);
    if (preview_) {
        Level shown = *preview_;
        choose(shown, id);
        preview_ = std::make_shared<const Level>(std::move(shown));
    }
    tell({}, About::strata);
}

void Document::undo() {
    if (history_.canUndo()) stepTo(history_.place() - 1);
}
void Document::redo() {
    if (history_.canRedo()) stepTo(history_.place() + 1);
}

void Document::stepTo(size_t place) {
    if (stroking() || lookingBack_ || place >= history_.entries().size()) return;
    const bool previewed = preview_ != nullptr;
    preview_.reset();
    const uint32_t chosen = history_.now().activeStratum;
    history_.stepTo(place);
    gesture_.clear();
    // Where it is still there.
    if (Level next = history_.now(); choose(next, chosen)) history_.complete(std::move(next));
    followOn();
    show(history_.now(), About::history | About::strata | previewIf(previewed));
}

// --- another level in its place -----------------------------------------------------------------------------------

void Document::showPreview(Commit work) {
    if (stroking()) return;
    preview_ = std::make_shared<const Level>(std::move(work.level));
    lookingBack_ = false;
    show(*preview_, About::preview);
}

void Document::applyPreview(const QString& what) {
    if (!preview_) return;
    catchUp_.drop();
    push(*preview_, what);
    preview_.reset();
    lookingBack_ = false;
    show(history_.now(), About::preview | About::history);
}

void Document::dropPreview() {
    if (!preview_) return;
    preview_.reset();
    lookingBack_ = false;
    show(history_.now(), About::preview);
}

QString Document::lookBack(bool on) {
    if (on == lookingBack_ || stroking()) return {};
    const Level* other = preview_ && !on ? preview_.get() : &history_.now();
    QString told = on ? tr("Before.") : QString();
    if (on && !preview_) {
        if (!looksAtSave_ && !history_.canUndo()) return tr("There is no step before this one.");
        other = looksAtSave_ ? saved_.get() : &history_.entries()[history_.place() - 1].level;
        if (!sameRaster(*other, history_.now()))
            return tr("The level had another size then; it cannot be shown in place of this one.");
        told =
            looksAtSave_
                ? tr("As it was at the last save.")
                : tr("As it was before “%1”.").arg(QString::fromStdString(history_.entries()[history_.place()].what));
    }
    lookingBack_ = on;
    show(*other, About::preview);
    return told;
}

// --- strokes ------------------------------------------------------------------------------------------------------

QString Document::whyNoStroke() const {
    if (lookingBack_) return tr("This is how the ground was; let go of the key to go on.");
    if (preview_) return tr("Keep or drop the preview first.");
    return {};
}

void Document::beginStroke(const StrokeSettings& settings, std::shared_ptr<const Level> reference,
                           std::shared_ptr<const Raster<float>> pictureHeights) {
    assert(!stroking() && whyNoStroke().isEmpty());
    catchUp_.drop();  // it gives way to the hand
    strokePyramid_ = pyramid_;
    waterOwed_ = {};
    waterClock_.invalidate();
    stroker_.emplace(settings, history_.now(), std::move(reference), std::move(pictureHeights));
}

void Document::continueStroke(const StrokePoint& point) {
    if (!stroking()) return;
    const Change change = stroker_->add(level_, point);
    tell(change);
    waterOwed_.add(change);
    if (waterWork(level_, waterOwed_) == 0) return void(waterOwed_ = {});
    if (waterSoon_.isActive()) return;
    const qint64 rests = waterClock_.isValid() ? kLiveWaterTimes * waterCost_ - waterClock_.nsecsElapsed() : 0;
    waterSoon_.start(std::max(kAfterDabMs, static_cast<int>(rests / 1'000'000)));
}

// The outline of water follows the hand, after what the hand made can be seen, but takes no more than a fifth of its
// time: at the end of the stroke all of it is worked out anyway.
void Document::followWater() {
    if (!stroking() || waterOwed_.empty()) return;
    QElapsedTimer clock;
    clock.start();
    Change change;
    change.water.add(refreshWater(level_, waterOwed_));
    waterOwed_ = {};
    waterCost_ = clock.nsecsElapsed();
    waterClock_.restart();
    tell(change);
}

void Document::endStroke(const QString& what) {
    if (!stroking()) return;
    tell(stroker_->finish(level_));
    if (const Status left = checkDone(level_, stroker_->tool()); !left) {
        emit said(QString::fromStdString(left.error().sentence()));
        return cancelStroke();
    }
    const Change touched = stroker_->touched();
    stroker_.reset();
    gesture_.clear();
    // Water that followed in between may have gone other ways than the step as a whole does, which is what counts.
    Level hand = level_;
    const Level& before = history_.now();
    hand.pools = before.pools, hand.streams = before.streams, hand.water = before.water;
    // What the hand holds against living rules counts, even where nothing is to be seen of it.
    if (hand == before) {
        show(before);
        return followOn();
    }
    take(hand, touched, what + howMuch(before, hand, touched), false);
    followOn();
    show(history_.now(), About::history | About::stroke);  // what followed the hand has not been seen yet
}

void Document::cancelStroke() {
    if (!stroking()) return;
    stroker_.reset();
    show(history_.now());
    followOn();
}

}  // namespace jam
