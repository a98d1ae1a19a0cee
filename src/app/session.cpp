#include "session.h"

#include <QDateTime>

#include "level/ground.h"
#include "cover/weights.h"

namespace jam {

namespace {
constexpr qint64 kGestureMs = 1500;  // a pause longer than this ends a gesture

float into(float value, float low, float high) { return std::min(std::max(value, low), high); }
}  // namespace

QString toolTitle(Tool tool) {
    QString name = QString::fromUtf8(toolName(tool).data(), static_cast<qsizetype>(toolName(tool).size()));
    name[0] = name[0].toUpper();
    return name;
}

Session::Session(Level level, const QString& what, QObject* parent)
    : QObject(parent), history_(level, what.toStdString()), level_(std::move(level)), pyramid_(level_) {
    for (int t = 0; t < kTools; ++t) {
        StrokeSettings& s = settings_[t];
        s.tool = static_cast<Tool>(t);
        s.strength = t < 2 ? 6.f : 0.35f;
        s.radius = shapesGround(s.tool) ? 25.f : 10.f;
        s.falloff.softness = shapesGround(s.tool) ? 1.f : 0.6f;
    }
    settings_[static_cast<size_t>(Tool::flatten)].falloff.softness = 0.5f;
    keepLayer();
}

void Session::open(Level level, const QString& path, const QString& what) {
    stroker_.reset();
    history_ = History(level, what.toStdString());
    level_ = std::move(level);
    pyramid_ = HeightPyramid(level_);
    path_ = path;
    savedSerial_ = path.isEmpty() ? ~uint64_t{0} : history_.serial();
    gesture_.clear();
    cursor_.reset();
    keepLayer();
    emit opened();
    emit edited();
    emit layerChosen();
}

void Session::markSaved(const QString& path, uint64_t serial) {
    path_ = path;
    savedSerial_ = serial;
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
    const Region touched = touchedGround(level_, change);
    const HeightSpan was = pyramid_.spanOf(touched);
    pyramid_.update(level_, change.ground);
    emit changed({change, was.joined(pyramid_.spanOf(touched))});
}

void Session::keepLayer() {
    if (level_.layer(layer_) || level_.layers.empty()) return;
    layer_ = level_.layers.size() > 1 ? level_.layers[1].id : level_.layers[0].id;
    emit layerChosen();
}

void Session::edit(const QString& what, const std::function<void(Level&)>& change, const QString& gesture) {
    if (stroking()) return;
    Level next = history_.now();
    change(next);
    const qint64 now = QDateTime::currentMSecsSinceEpoch();
    const bool goesOn = !gesture.isEmpty() && gesture == gesture_ && now - gestureTime_ < kGestureMs && history_.canUndo() &&
                        !history_.canRedo();
    if (goesOn) history_.replaceNow(next);
    else history_.push(next, what.toStdString());
    gesture_ = gesture;
    gestureTime_ = now;
    show(next);
}

void Session::undo() { if (history_.canUndo()) stepTo(history_.place() - 1); }
void Session::redo() { if (history_.canRedo()) stepTo(history_.place() + 1); }

void Session::stepTo(size_t place) {
    if (stroking() || place >= history_.entries().size()) return;
    history_.stepTo(place);
    gesture_.clear();
    show(history_.now());
}

void Session::beginStroke(const glm::dvec3& at, float pressure, bool inverted) {
    if (stroking()) return;
    StrokeSettings s = settings();
    s.tool = inverted ? inverse(s.tool) : s.tool;
    if (inverted && s.tool == Tool::flatten && s.way != FlattenWay::both)
        s.way = s.way == FlattenWay::fill ? FlattenWay::cut : FlattenWay::fill;
    s.layer = layer_;
    if (!shapesGround(s.tool) && level_.layerIndex(layer_) == 0 && s.tool == Tool::erase) {
        emit said(tr("The first layer covers everything; there is nothing below it to uncover."));
        return;
    }
    if (const Layer* l = level_.layer(layer_); !shapesGround(s.tool) && l && l->hidden) {
        emit said(tr("The layer “%1” is hidden; show it to paint it.").arg(QString::fromStdString(l->name)));
        return;
    }
    strokePyramid_ = pyramid_;
    stroker_.emplace(s);
    continueStroke(at, pressure, 0);
}

void Session::continueStroke(const glm::dvec3& at, float pressure, double seconds) {
    if (!stroking()) return;
    const Change change = stroker_->add(level_, {at.x, at.z, pressure, seconds});
    if (!change.empty()) tell(change);
}

void Session::endStroke() {
    if (!stroking()) return;
    const Tool tool = stroker_->tool();
    stroker_.reset();
    gesture_.clear();
    if (changesBetween(level_, history_.now()).empty()) return;
    QString what = toolTitle(tool);
    if (!shapesGround(tool))
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

void Session::changeSettings(const std::function<void(StrokeSettings&)>& change) {
    StrokeSettings& s = settings_[static_cast<size_t>(tool_)];
    const StrokeSettings before = s;
    change(s);
    s.tool = tool_;
    const bool rate = tool_ == Tool::raise || tool_ == Tool::lower;
    s.radius = into(s.radius, kMinRadius, kMaxRadius);
    s.strength = rate ? into(s.strength, kMinRate, kMaxRate) : into(s.strength, 0.001f, 1);
    s.falloff.softness = into(s.falloff.softness, 0, 1);
    s.grain = into(s.grain, 0, 0.5f);
    s.target = into(s.target, 0.01f, 1);
    if (!(s == before)) emit settingsChanged();
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
