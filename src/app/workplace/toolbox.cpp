#include "workplace/toolbox.h"

#include <QString>

namespace jam {

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

QString toolTitle(Tool tool) { return QString::fromUtf8(specOf(tool).title); }

Toolbox::Toolbox(QObject* parent) : QObject(parent) {
    for (int t = 0; t < kTools; ++t) settings_[t] = usualSettings(static_cast<Tool>(t));
}

void Toolbox::setTool(Tool tool) {
    if (tool == tool_) return;
    tool_ = tool;
    emit toolChanged();
    emit settingsChanged();
}

void Toolbox::fit(double viewMetres) {
    // Of the view's width, for ground and for what lies on it; of the radius in a second.
    constexpr double kRadius = 1.0 / 12, kCoverRadius = 1.0 / 30, kRise = 1.0 / 6;
    for (StrokeSettings& s : settings_) {
        const auto radius = static_cast<float>(viewMetres * (shapesGround(s.tool) ? kRadius : kCoverRadius));
        s.radius = radius;
        if (hasRate(s.tool)) s.strength = static_cast<float>(radius * kRise);
        bringIntoRange(s);
    }
    emit settingsChanged();
}

void Toolbox::changeSettings(const std::function<void(StrokeSettings&)>& change) {
    StrokeSettings& s = settings_[static_cast<size_t>(tool_)];
    const StrokeSettings before = s;
    change(s);
    s.tool = tool_;
    bringIntoRange(s);
    // A hand that pulls to nothing leaves a brush that still does something.
    s.strength = std::max(s.strength, hasRate(tool_) ? kMinRate : 0.001f);
    s.target = std::max(s.target, 0.01f);
    if (s == before) return;
    if (shared_)
        for (StrokeSettings& other : settings_) copyFeel(s, other);
    emit settingsChanged();
}

void Toolbox::adoptSettings(const StrokeSettings& settings) {
    StrokeSettings& own = settings_[static_cast<size_t>(settings.tool)];
    own = settings;
    bringIntoRange(own);
    emit settingsChanged();
}

void Toolbox::setShared(bool shared) {
    if (shared == shared_) return;
    shared_ = shared;
    if (shared_)
        for (StrokeSettings& other : settings_) copyFeel(settings(), other);
    emit settingsChanged();
}

void Toolbox::setMirror(const Mirror& mirror) {
    if (mirror == mirror_) return;
    mirror_ = mirror;
    emit settingsChanged();
}

void Toolbox::setPen(const Pressure& pen) {
    if (pen == pen_) return;
    pen_ = pen;
    emit settingsChanged();
}

void Toolbox::setPath(StrokePath path) {
    if (path == path_) return;
    path_ = path;
    emit settingsChanged();
}

void Toolbox::setRestoreSource(RestoreSource source, uint64_t serial) {
    restoreSource_ = source;
    restoreSerial_ = serial;
    emit settingsChanged();
}

}  // namespace jam
