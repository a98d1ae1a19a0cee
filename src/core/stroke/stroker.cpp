#include "stroke/stroker.h"

#include <cmath>

#include "base/noise.h"
#include "cover/blend.h"
#include "cover/mix.h"
#include "cover/paint.h"
#include "cover/rules.h"
#include "cover/wash.h"
#include "level/ground.h"
#include "shape/crumble.h"
#include "shape/even_out.h"
#include "shape/flatten.h"
#include "shape/noise_ground.h"
#include "shape/rain_wash.h"
#include "shape/raise.h"
#include "shape/restore.h"
#include "shape/slope_limit.h"
#include "shape/smooth.h"
#include "shape/terrace.h"

namespace jam {

namespace {

// One stamp as it falls: where, how large, how turned, how strong.
struct Fall {
    double x, z;
    float radius, turn, share;
    int index;
};

Fall fallOf(const StrokeSettings& s, const Stamp& stamp) {
    Fall f{stamp.x, stamp.z, s.radius, s.tip.turn, s.strength, stamp.index};
    const float pressed = std::pow(stamp.pressure, s.pressure.curve);
    if (s.pressure.strength) f.share *= pressed;
    if (s.pressure.radius) f.radius = std::max(f.radius * pressed, kMinRadius);
    if (s.tip.follow) f.turn += stamp.heading;
    if (s.tip.randomTurn) f.turn += 360 * hashUnit(stamp.index, 11, s.seed);
    if (s.tip.scatter > 0) {
        const double a = 6.283185307179586 * hashUnit(stamp.index, 12, s.seed), far = s.tip.scatter * s.radius * std::sqrt(hashUnit(stamp.index, 13, s.seed));
        f.x += std::cos(a) * far;
        f.z += std::sin(a) * far;
    }
    return f;
}

Region shapeOnce(const Site& site, const StrokeSettings& s, const Dab& dab, const Fall& fall, const Level* reference) {
    const float metres = fall.share * (s.flow ? static_cast<float>(kStampSeconds) : 1.f);
    switch (s.tool) {
        case Tool::raise: return raiseGround(site, dab, metres);
        case Tool::lower: return raiseGround(site, dab, -metres);
        case Tool::smooth: return smoothGround(site, dab, fall.share, s.grain * dab.radius);
        case Tool::evenOut: return evenOutGround(site, dab, fall.share, s.keep);
        case Tool::flatten: return flattenGround(site, dab, fall.share, *s.height, s.way);
        case Tool::terrace: return terraceGround(site, dab, fall.share, {s.step, s.riser});
        case Tool::slope: return limitSlope(site, dab, fall.share, s.angle, s.way);
        case Tool::noise: return noiseGround(site, dab, fall.share, {s.scale, s.relief, s.octaves, s.noise, s.seed});
        case Tool::crumble: return crumbleGround(site, dab, fall.share, s.angle);
        case Tool::rainWash: return rainWashGround(site, dab, fall.share, hashPoint(fall.index, 17, s.seed));
        case Tool::restore: return restoreGround(site, dab, fall.share, s.restore == RestoreTo::reference ? reference : nullptr);
        default: break;
    }
    return {};
}

// What single paint tools need beside their settings.
struct PaintHelp {
    const CoverMix& mix;             // carry: what lay under the first touch
    const Raster<float>* relief;     // break up by height: the layer's own
};

Region breakUp(Level& level, const Level& origin, const StrokeSettings& s, const Dab& dab, const Fall& fall, const PaintHelp& help) {
    const Layer* layer = origin.layer(s.layer);
    if (s.breakBy == BreakBy::height && help.relief && layer) return breakUpCover(level, origin, dab, fall.share, s.layer, heightPattern(origin, *layer, *help.relief));
    if (s.breakBy == BreakBy::tip && dab.picture) {
        // The picture says what breaks; how strongly, the round brush, or what limits leave of it.
        Dab strength = dab, picture = dab;
        picture.shares = nullptr;
        if (!dab.shares) strength.shape = TipShape::round;
        return breakUpCover(level, origin, strength, fall.share, s.layer, tipPattern(picture));
    }
    return breakUpCover(level, origin, dab, fall.share, s.layer, noisePattern(origin, s.scale, s.seed));
}

Region paintOnce(Level& level, const Level& origin, const StrokeSettings& s, const Dab& dab, const Fall& fall, const PaintHelp& help) {
    switch (s.tool) {
        case Tool::paint: return paintLayer(level, dab, fall.share, s.layer, s.target);
        case Tool::erase: return eraseLayer(level, dab, fall.share, s.layer);
        case Tool::soften: return softenCover(level, dab, fall.share, s.grain * dab.radius);
        case Tool::carry: return carryCover(level, dab, fall.share, help.mix);
        case Tool::breakUp: return breakUp(level, origin, s, dab, fall, help);
        case Tool::replace: return replaceUnder(level, dab, fall.share, s.from, s.layer);
        case Tool::byRule: return ruleCover(level, origin, dab, fall.share, s.layer);
        case Tool::wash: return washGround(level, dab, fall.share, s.colour);
        case Tool::rinse: return rinseGround(level, dab, fall.share);
        default: return {};
    }
}

// What the hand works on stays its own where rules are alive; by rule is the way to give it back.
void noteHand(Level& level, const StrokeSettings& s, const Dab& dab, const Fall& fall) {
    const int own = level.layerIndex(s.layer), from = level.layerIndex(s.from);
    for (int i = 1; i < static_cast<int>(level.layers.size()); ++i) {
        Layer& l = level.layers[static_cast<size_t>(i)];
        bool works = false;
        switch (s.tool) {
            case Tool::paint: works = i >= own; break;
            case Tool::erase: case Tool::breakUp: works = i == own; break;
            case Tool::soften: case Tool::carry: works = true; break;
            case Tool::replace: works = i >= std::min(own, from) && i <= std::max(own, from); break;
            default: break;
        }
        if (works && l.alive && !l.kept && (!l.hidden || i == own)) holdByHand(l, dab, fall.share);
    }
}

bool anyOverlap(const std::vector<Dab>& dabs) {
    for (size_t i = 0; i < dabs.size(); ++i)
        for (size_t k = i + 1; k < dabs.size(); ++k)
            if (!dabs[i].frame.region(dabs[i].region).clipped(dabs[k].frame.region(dabs[k].region)).empty()) return true;
    return false;
}

Change shapeImages(const Site& plain, const StrokeSettings& s, const std::vector<Dab>& dabs, const Fall& fall, const Level* reference) {
    Region all;
    for (const Dab& d : dabs) all = all.joined(d.frame.region(d.region));
    if (all.empty()) return {};
    if (!anyOverlap(dabs)) {
        for (const Dab& d : dabs) shapeOnce(plain, s, d, fall, reference);
        return {all, {}};
    }
    Overlap overlap(plain.level, all);
    Site site = plain;
    site.overlap = &overlap;
    for (const Dab& d : dabs) shapeOnce(site, s, d, fall, reference);
    overlap.write(plain.level);
    return {all, {}};
}

// The wash lies on ground samples; limits are known for cover samples.
void limitWash(const Level& level, const Region& region, const PaintWhere& where, View<float> shares) {
    const int f = level.coverFactor;
    const Region cover{region.x0 * f, region.z0 * f, (region.x1 - 1) * f + 1, (region.z1 - 1) * f + 1};
    Raster<float> allowed(cover.width(), cover.depth(), 1.f);
    limitPaint(level, cover, where, allowed.view());
    for (int z = 0; z < region.depth(); ++z)
        for (int x = 0; x < region.width(); ++x) shares.at(x, z) *= allowed.at(x * f, z * f);
}

Change painted(const StrokeSettings& s, const Region& region) {
    return washesGround(s.tool) ? Change{{}, {}, region} : Change{{}, region};
}

Change paintImages(Level& level, const Level& origin, const StrokeSettings& s, const std::vector<Dab>& dabs, const Fall& fall, const PaintHelp& help) {
    Region all;
    for (const Dab& d : dabs) all = all.joined(d.region);
    if (all.empty()) return {};
    const bool limited = !s.where.anywhere();
    if (!limited && !anyOverlap(dabs)) {
        for (const Dab& d : dabs) {
            paintOnce(level, origin, s, d, fall, help);
            noteHand(level, s, d, fall);
        }
        return painted(s, all);
    }
    // Where images overlap the stronger one counts, and limits hold back what they do not allow.
    Raster<float> shares(all.width(), all.depth(), 0.f);
    std::vector<float> row(static_cast<size_t>(all.width()));
    for (const Dab& d : dabs)
        for (int z = d.region.z0; z < d.region.z1; ++z) {
            const Region span = dabSpan(d, d.region, z);
            if (span.empty()) continue;
            dabMask(d, span.x0, z, span.width(), 1, row.data());
            for (int i = 0; i < span.width(); ++i) {
                float& most = shares.at(span.x0 + i - all.x0, z - all.z0);
                most = std::max(most, row[static_cast<size_t>(i)]);
            }
        }
    if (limited && washesGround(s.tool)) limitWash(origin, all, s.where, shares.view());
    else if (limited) limitPaint(origin, all, s.where, shares.view());
    Dab merged = dabs.front();
    merged.region = all;
    merged.shares = &shares;
    paintOnce(level, origin, s, merged, fall, help);
    noteHand(level, s, merged, fall);
    return painted(s, all);
}

Change stampOnce(Level& level, const Level& origin, const StrokeSettings& s, const Stamp& stamp, const Level* reference, const PaintHelp& help) {
    const Fall fall = fallOf(s, stamp);
    if (fall.share <= 0) return {};
    const bool shapes = shapesGround(s.tool);
    const int factor = shapes || washesGround(s.tool) ? 1 : level.coverFactor;
    std::vector<Dab> dabs;
    for (const Reflection& r : reflections(level, s.mirror, factor)) {
        double x = fall.x, z = fall.z;
        if (r.turn != 0) r.move(level, x, z);
        const Dab own = dabOn(level, x, z, fall.radius, s.falloff, factor, s.tip, fall.turn + static_cast<float>(r.turn));
        const Dab dab = r.image.identity() ? own : shapes ? framed(level, own, r.image) : mirrored(level, own, r.image);
        if (!dab.region.empty()) dabs.push_back(dab);
    }
    if (!shapes) return paintImages(level, origin, s, dabs, fall, help);
    Site site(level);
    site.origin = &origin;
    site.limits = s.limits;
    return shapeImages(site, s, dabs, fall, reference);
}

}  // namespace

Stroker::Stroker(const StrokeSettings& settings, Level origin, std::shared_ptr<const Level> reference, std::shared_ptr<const Raster<float>> relief)
    : settings_(settings), origin_(std::move(origin)), reference_(std::move(reference)), relief_(std::move(relief)), placer_(settings) {
    assert(checkSettings(settings));
}

Change Stroker::run(Level& level) {
    Change change;
    for (const Stamp& stamp : stamps_) change = change.joined(stampOnce(level, origin_, settings_, stamp, reference_.get(), {mix_, relief_.get()}));
    stamps_.clear();
    touched_ = touched_.joined(change);
    return change;
}

Change Stroker::add(Level& level, const StrokePoint& point) {
    if (settings_.tool == Tool::flatten && !settings_.height)
        settings_.height = static_cast<float>(altitudeAt(level, point.x, point.z));
    if (settings_.tool == Tool::carry && mix_.empty()) mix_ = coverMixAt(level, point.x, point.z);
    placer_.add(point, stamps_);
    return run(level);
}

Change Stroker::finish(Level& level) {
    placer_.finish(stamps_);
    const Change last = run(level);
    // Layers whose rules are alive follow what the stroke did.
    return last.joined(refreshRules(level, std::exchange(touched_, {})));
}

Result<Change> runStroke(Level& level, const Stroke& stroke, std::shared_ptr<const Level> reference, std::shared_ptr<const Raster<float>> relief) {
    if (Status s = checkStroke(stroke); !s) return s.error();
    const StrokeSettings& settings = stroke.settings;
    if (usesLayer(settings.tool) && !level.layer(settings.layer))
        return Error{"", "layer", "the level has no layer " + std::to_string(settings.layer),
                     "name a layer of this level"};
    if (settings.tool == Tool::replace && (!level.layer(settings.from) || settings.from == settings.layer))
        return Error{"", "from", "it does not name another layer of the level", "name the layer that makes room"};
    if (settings.tool == Tool::restore && settings.restore == RestoreTo::reference && (!reference || !sameRaster(level, *reference)))
        return Error{"", "restore", reference ? "the reference has another size" : "there is no reference to restore",
                     "give a level of the same size and spacing, or restore to the start height"};
    Stroker stroker(settings, level, std::move(reference), std::move(relief));
    Change change;
    for (const StrokePoint& p : stroke.points) change = change.joined(stroker.add(level, p));
    return change.joined(stroker.finish(level));
}

}  // namespace jam
