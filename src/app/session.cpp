#include "session.h"

#include <QDateTime>

#include "level/ground.h"
#include "commit/commit.h"
#include "cover/weights.h"
#include "files/material.h"

namespace jam {

namespace {
constexpr qint64 kGestureMs = 1500;  // a pause longer than this ends a gesture

}  // namespace

namespace {

// The height of a layer's pictures, for breaking up by it; null for other work, or when they do not decode.
std::shared_ptr<const Raster<float>> reliefFor(const StrokeSettings& s, const Level& level) {
    if (s.tool != Tool::breakUp || s.breakBy != BreakBy::height || !level.layer(s.layer)) return nullptr;
    const Result<Material> m = makeMaterial(*level.layer(s.layer), 128);
    return m ? std::make_shared<const Raster<float>>(heightOf(m.value())) : nullptr;
}

}  // namespace

QString toolTitle(Tool tool) { return QString::fromUtf8(specOf(tool).title); }

Session::Session(Level level, const QString& what, QObject* parent)
    : QObject(parent), history_(level, what.toStdString()), level_(std::move(level)), pyramid_(level_) {
    for (int t = 0; t < kTools; ++t) settings_[t] = usualSettings(static_cast<Tool>(t));
    saved_ = std::make_shared<const Level>(level_);
    keepLayer();
}

void Session::open(Level level, const QString& path, const QString& what) {
    stroker_.reset();
    preview_.reset();
    peeking_ = false;
    restoreSource_ = RestoreSource::startHeight;
    history_ = History(level, what.toStdString());
    level_ = std::move(level);
    pyramid_ = HeightPyramid(level_);
    path_ = path;
    savedSerial_ = path.isEmpty() ? ~uint64_t{0} : history_.serial();
    saved_ = std::make_shared<const Level>(level_);
    gesture_.clear();
    cursor_.reset();
    tape_.clear();
    keepLayer();
    emit opened();
    emit edited();
    emit layerChosen();
}

void Session::markSaved(const QString& path, uint64_t serial) {
    path_ = path;
    savedSerial_ = serial;
    if (const Level* level = stepLevel(serial)) saved_ = std::make_shared<const Level>(*level);
    gesture_.clear();
    emit edited();
}

// Makes `level` the one that is seen and tells what differs.
void Session::show(const Level& level) {
    const Level before = std::exchange(level_, level);
    if (!sameRaster(level_, before)) {
        pyramid_ = HeightPyramid(level_);
        emit opened();
    } else {
        tell(changesBetween(level_, before));
    }
    keepLayer();
    emit edited();
}

// Brings the pyramid up to date and tells what changed.
void Session::tell(const Change& change) {
    News news{change, {}};
    for (const Region& spot : touchedGround(level_, change).spots()) news.spots.push_back({spot, pyramid_.spanOf(spot)});
    pyramid_.update(level_, change.ground);
    for (News::Spot& s : news.spots) s.heights = s.heights.joined(pyramid_.spanOf(s.ground));
    emit changed(news);
}

void Session::keepLayer() {
    if (level_.layer(layer_) || level_.layers.empty()) return;
    layer_ = level_.layers.size() > 1 ? level_.layers[1].id : level_.layers[0].id;
    emit layerChosen();
}

void Session::edit(const QString& what, const std::function<void(Level&)>& change, const QString& gesture) {
    if (stroking() || peeking_) return;
    if (preview_) return emit said(tr("Keep or drop the preview first."));
    Level next = history_.now();
    change(next);
    followGround(next);
    const qint64 now = QDateTime::currentMSecsSinceEpoch();
    const bool goesOn = !gesture.isEmpty() && gesture == gesture_ && now - gestureTime_ < kGestureMs && history_.canUndo() &&
                        !history_.canRedo();
    if (goesOn) history_.replaceNow(next);
    else history_.push(next, what.toStdString());
    gesture_ = gesture;
    gestureTime_ = now;
    show(next);
}

// Layers whose rules are alive follow the ground, whatever changed it.
void Session::followGround(Level& next) const {
    Result<Commit> done = commitWork(history_.now(), std::move(next));
    next = std::move(done.value().level);
}

void Session::undo() { if (history_.canUndo()) stepTo(history_.place() - 1); }
void Session::redo() { if (history_.canRedo()) stepTo(history_.place() + 1); }

void Session::stepTo(size_t place) {
    if (stroking() || peeking_ || place >= history_.entries().size()) return;
    preview_.reset();
    history_.stepTo(place);
    gesture_.clear();
    show(history_.now());
}

const Level* Session::stepLevel(uint64_t serial) const {
    for (const History::Entry& e : history_.entries()) if (e.serial == serial) return &e.level;
    return nullptr;
}

void Session::showPreview(Level level) {
    if (stroking()) return;
    preview_ = std::make_shared<const Level>(std::move(level));
    peeking_ = false;
    show(*preview_);
}

void Session::keepPreview(const QString& what) {
    if (!preview_) return;
    Level kept = *preview_;
    followGround(kept);
    history_.push(kept, what.toStdString());
    gesture_.clear();
    preview_.reset();
    peeking_ = false;
    show(history_.now());
}

void Session::dropPreview() {
    if (!preview_) return;
    preview_.reset();
    peeking_ = false;
    show(history_.now());
}

QString Session::peek(bool on) {
    if (on == peeking_ || stroking()) return {};
    peeking_ = false;
    if (!on) {
        show(preview_ ? *preview_ : history_.now());
        return {};
    }
    if (preview_) {
        show(history_.now());
        peeking_ = true;
        return tr("Before.");
    }
    const bool save = peeksAtSave_;
    if (!save && !history_.canUndo()) return tr("There is no step before this one.");
    const Level& other = save ? *saved_ : history_.entries()[history_.place() - 1].level;
    if (!sameRaster(other, history_.now())) return tr("The level had another size then; it cannot be shown in place of this one.");
    show(other);
    peeking_ = true;
    return save ? tr("As it was at the last save.") : tr("As it was before “%1”.").arg(QString::fromStdString(history_.entries()[history_.place()].what));
}

StrokeSettings Session::strokeSettings() const {
    StrokeSettings s = settings();
    s.mirror = mirror_;
    s.pressure = pen_;
    s.layer = layer_;
    if (!level_.layer(s.where.onLayer)) s.where.onLayer = 0;
    if (!level_.layer(s.where.offLayer)) s.where.offLayer = 0;
    if (s.tool == Tool::restore) s.restore = restoreSource_ == RestoreSource::startHeight ? RestoreTo::start : RestoreTo::reference;
    return s;
}

std::shared_ptr<const Level> Session::restoreReference() const {
    if (restoreSource_ == RestoreSource::lastSave) return saved_;
    const Level* step = stepLevel(restoreSerial_);
    return step ? std::make_shared<const Level>(*step) : nullptr;
}

bool Session::mayStroke(const StrokeSettings& s) {
    const auto no = [this](const QString& why) {
        emit said(why);
        return false;
    };
    if (preview_) return no(tr("Keep or drop the preview first."));
    if (peeking_) return no(tr("This is how the ground was; let go of the key to go on."));
    const auto reference = s.tool == Tool::restore ? restoreReference() : nullptr;
    if (const Status ok = checkNeeds(level_, s, reference.get()); !ok) {
        Error e = ok.error();
        e.field.clear();
        return no(QString::fromStdString(e.sentence()));
    }
    return true;
}

void Session::beginStroke(const glm::dvec3& at, float pressure, bool isInverted) {
    if (stroking()) return;
    StrokeSettings s = strokeSettings();
    if (isInverted) s = inverted(s);
    if (!mayStroke(s)) return;
    strokePyramid_ = pyramid_;
    stroker_.emplace(s, history_.now(), s.tool == Tool::restore ? restoreReference() : nullptr, reliefFor(s, level_));
    continueStroke(at, pressure, 0);
}

void Session::strokeAlong(const std::vector<glm::dvec3>& places, float pressure, bool inverted) {
    if (places.empty()) return;
    beginStroke(places.front(), pressure, inverted);
    for (size_t i = 1; i < places.size(); ++i) continueStroke(places[i], pressure, 0);
    endStroke();
}

void Session::continueStroke(const glm::dvec3& at, float pressure, double seconds) {
    if (!stroking()) return;
    const Change change = stroker_->add(level_, {at.x, at.z, pressure, seconds});
    if (!change.empty()) tell(change);
}

void Session::endStroke() {
    if (!stroking()) return;
    const Tool tool = stroker_->tool();
    const Change last = stroker_->finish(level_);
    if (!last.empty()) tell(last);
    const Change touched = stroker_->touched();
    stroker_.reset();
    gesture_.clear();
    if (changesBetween(level_, history_.now()).empty()) return;
    Result<Commit> done = commitWork(history_.now(), level_, {}, &touched);
    // What followed the hand has not been seen yet.
    const Level seen = std::exchange(level_, std::move(done.value().level));
    if (const Change more = changesBetween(level_, seen); !more.empty()) tell(more);
    QString what = toolTitle(tool);
    if (usesLayer(tool))
        if (const Layer* l = level_.layer(layer_)) what += " " + QString::fromStdString(l->name);
    history_.push(level_, what.toStdString());
    emit edited();
}

void Session::cancelStroke() {
    if (!stroking()) return;
    stroker_.reset();
    show(history_.now());
}

void Session::setTool(Tool tool) {
    if (stroking() || tool == tool_) return;
    tool_ = tool;
    emit toolChanged();
    emit settingsChanged();
}

namespace {

// What tools have in common when they share.
void copyFeel(const StrokeSettings& from, StrokeSettings& to) {
    to.radius = from.radius;
    to.falloff = from.falloff;
    to.tip = from.tip;
    to.spacing = from.spacing;
    to.flow = from.flow;
    to.limits = from.limits;
}

}  // namespace

void Session::changeSettings(const std::function<void(StrokeSettings&)>& change) {
    StrokeSettings& s = settings_[static_cast<size_t>(tool_)];
    const StrokeSettings before = s;
    change(s);
    s.tool = tool_;
    bringIntoRange(s);
    s.strength = std::max(s.strength, hasRate(tool_) ? kMinRate : 0.001f);
    s.target = std::max(s.target, 0.01f);
    if (s == before) return;
    if (shared_) for (StrokeSettings& other : settings_) copyFeel(s, other);
    emit settingsChanged();
}

void Session::adoptSettings(const StrokeSettings& settings) {
    settings_[static_cast<size_t>(settings.tool)] = settings;
    bringIntoRange(settings_[static_cast<size_t>(settings.tool)]);
    emit settingsChanged();
}

void Session::setShared(bool shared) {
    if (shared == shared_) return;
    shared_ = shared;
    if (shared_) for (StrokeSettings& other : settings_) copyFeel(settings(), other);
    emit settingsChanged();
}

void Session::setMirror(const Mirror& mirror) {
    if (mirror == mirror_) return;
    mirror_ = mirror;
    emit settingsChanged();
}

void Session::setPen(const Pressure& pen) {
    if (pen == pen_) return;
    pen_ = pen;
    emit settingsChanged();
}

void Session::setWay(StrokePath way) {
    if (way == way_) return;
    way_ = way;
    emit settingsChanged();
}

void Session::setRestoreSource(RestoreSource source, uint64_t serial) {
    restoreSource_ = source;
    restoreSerial_ = serial;
    emit settingsChanged();
}

void Session::applyPreset(const StrokeSettings& preset) {
    if (stroking()) return;
    setStation(shapesGround(preset.tool) ? Station::shape : Station::cover);
    setTool(preset.tool);
    changeSettings([&](StrokeSettings& s) { s = preset; });
}

void Session::setLayer(uint32_t id) {
    if (id == layer_ || !level_.layer(id)) return;
    layer_ = id;
    emit layerChosen();
}

void Session::setStation(Station station) {
    if (station == station_ || stroking()) return;
    station_ = station;
    if (station == Station::cover && shapesGround(tool_)) setTool(Tool::paint);
    if (station == Station::shape && !shapesGround(tool_)) setTool(Tool::raise);
    emit stationChanged();
}

void Session::setCursor(const std::optional<glm::dvec3>& at) {
    cursor_ = at;
    emit cursorMoved();
}

void Session::setTape(std::vector<glm::dvec3> places) {
    tape_ = std::move(places);
    emit tapeMoved();
}

void Session::pick(const glm::dvec3& at) {
    if (shapesGround(tool_)) {
        const auto height = static_cast<float>(altitudeAt(level_, at.x, at.z));
        if (tool_ != Tool::flatten) setTool(Tool::flatten);
        changeSettings([&](StrokeSettings& s) { s.height = height; });
        emit said(tr("Flatten works towards %1 m.").arg(height, 0, 'f', 2));
        return;
    }
    const auto mix = mixAt(level_, at.x, at.z);
    const size_t most = static_cast<size_t>(std::max_element(mix.begin(), mix.end()) - mix.begin());
    setLayer(level_.layers[most].id);
    emit said(tr("Paints with “%1”.").arg(QString::fromStdString(level_.layers[most].name)));
}

}  // namespace jam
