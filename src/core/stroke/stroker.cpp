#include "stroke/stroker.h"

#include "cover/paint.h"
#include "level/ground.h"
#include "shape/flatten.h"
#include "shape/raise.h"
#include "shape/smooth.h"

namespace jam {

namespace {

Change stampOnce(Level& level, const StrokeSettings& s, const Stamp& stamp) {
    const Dab ground = dabOn(level, stamp.x, stamp.z, s.radius, s.falloff, 1);
    const Dab cover = dabOn(level, stamp.x, stamp.z, s.radius, s.falloff, level.coverFactor);
    const float share = s.strength * stamp.pressure;
    const float metres = share * static_cast<float>(kStampSeconds);
    switch (s.tool) {
        case Tool::raise: return {raiseGround(level, ground, metres), {}};
        case Tool::lower: return {raiseGround(level, ground, -metres), {}};
        case Tool::smooth: return {smoothGround(level, ground, share, s.grain * ground.radius), {}};
        case Tool::flatten: return {flattenGround(level, ground, share, *s.height, s.way), {}};
        case Tool::paint: return {{}, paintLayer(level, cover, share, s.layer, s.target)};
        case Tool::erase: return {{}, eraseLayer(level, cover, share, s.layer)};
    }
    return {};
}

}  // namespace

Stroker::Stroker(const StrokeSettings& settings) : settings_(settings), placer_(settings.radius) {
    assert(checkSettings(settings));
}

Change Stroker::add(Level& level, const StrokePoint& point) {
    if (settings_.tool == Tool::flatten && !settings_.height)
        settings_.height = static_cast<float>(altitudeAt(level, point.x, point.z));
    stamps_.clear();
    placer_.add(point, stamps_);
    Change change;
    for (const Stamp& stamp : stamps_) change = change.joined(stampOnce(level, settings_, stamp));
    return change;
}

Result<Change> runStroke(Level& level, const Stroke& stroke) {
    if (Status s = checkStroke(stroke); !s) return s.error();
    if (!shapesGround(stroke.settings.tool) && !level.layer(stroke.settings.layer))
        return Error{"", "layer", "the level has no layer " + std::to_string(stroke.settings.layer),
                     "name a layer of this level"};
    Stroker stroker(stroke.settings);
    Change change;
    for (const StrokePoint& p : stroke.points) change = change.joined(stroker.add(level, p));
    return change;
}

}  // namespace jam
