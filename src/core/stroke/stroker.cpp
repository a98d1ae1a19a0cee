#include "stroke/stroker.h"

#include <cmath>

#include "base/maths.h"
#include "base/noise.h"
#include "commit/commit.h"
#include "cover/rules.h"
#include "dress/kinds.h"
#include "level/opening.h"
#include "tools/tool.h"

namespace jam {

namespace {

// One stamp where it really falls: turned, scattered and pressed as the tip and the pen say.
struct PlacedStamp {
    double x, z;
    float radius, turn, share;
    int index;
};

PlacedStamp placed(const StrokeSettings& s, const Stamp& stamp) {
    PlacedStamp f{stamp.x, stamp.z, s.radius, s.tip.turn, s.strength, stamp.index};
    const float pressed = std::pow(stamp.pressure, s.pressure.curve);
    if (s.pressure.strength) f.share *= pressed;
    if (s.pressure.radius) f.radius = std::max(f.radius * pressed, kMinRadius);
    if (s.tip.follow) f.turn += stamp.heading;
    if (s.tip.randomTurn) f.turn += 360 * hashUnit(stamp.index, 11, s.seed);
    if (s.tip.scatter > 0) {
        const double a = kTurn * hashUnit(stamp.index, 12, s.seed),
                     far = s.tip.scatter * s.radius * std::sqrt(hashUnit(stamp.index, 13, s.seed));
        f.x += std::cos(a) * far;
        f.z += std::sin(a) * far;
    }
    return f;
}

// What the hand works on stays its own where rules are alive.
void noteHand(Level& level, const Dab& dab, const Touch& t) {
    if (specOf(t.settings.tool).holdsKind)
        if (Kind* k = level.kind(t.settings.kind); k && !k->locked) return holdByHand(*k, dab, t.share);
    const auto holds = specOf(t.settings.tool).holds;
    if (!holds) return;
    const int own = level.layerIndex(t.settings.layer), from = level.layerIndex(t.settings.from);
    for (int i = 1; i < static_cast<int>(level.layers.size()); ++i) {
        Layer& l = level.layers[static_cast<size_t>(i)];
        if (holds(i, own, from) && l.alive && !l.locked && (!l.hidden || i == own || i == from))
            holdByHand(l, dab, t.share);
    }
}

bool anyOverlap(const std::vector<Dab>& dabs) {
    for (size_t i = 0; i < dabs.size(); ++i)
        for (size_t k = i + 1; k < dabs.size(); ++k)
            if (!dabs[i].frame.region(dabs[i].region).clipped(dabs[k].frame.region(dabs[k].region)).empty())
                return true;
    return false;
}

// The images of a stamp on the ground. Where they overlap the greatest change counts.
TileSet shapeImages(const StampSite& plain, const std::vector<Dab>& dabs, const Touch& touch) {
    const auto kernel = specOf(touch.settings.tool).ground;
    TileSet all;
    for (const Dab& d : dabs) all.add(d.frame.region(d.region));
    if (all.empty()) return {};
    if (!anyOverlap(dabs)) {
        for (const Dab& d : dabs) kernel(plain, d, touch);
        return all;
    }
    Overlap overlap(plain.level, all.bounds());
    StampSite site = plain;
    site.overlap = &overlap;
    for (const Dab& d : dabs) kernel(site, d, touch);
    overlap.write(plain.level);
    return all;
}

// Wash and gaps lie on ground samples; limits are known for cover samples.
void limitOnGround(const Level& level, const Region& region, const PaintWhere& where, View<float> shares) {
    const int f = level.coverFactor;
    const Region cover{region.x0 * f, region.z0 * f, (region.x1 - 1) * f + 1, (region.z1 - 1) * f + 1};
    Raster<float> allowed(cover.width(), cover.depth(), 1.f);
    limitPaint(level, cover, where, allowed.view());
    for (int z = 0; z < region.depth(); ++z)
        for (int x = 0; x < region.width(); ++x) shares.at(x, z) *= allowed.at(x * f, z * f);
}

// Paint falls on land alone.
bool keepsToLand(const Level& origin, const StrokeSettings& s) {
    return !makesGaps(s.tool) && origin.noLand.presentTiles() > 0;
}
void keepToLand(const Level& origin, const Region& region, int factor, View<float> shares) {
    for (int z = 0; z < region.depth(); ++z)
        for (int x = 0; x < region.width(); ++x) {
            const int c = std::min((region.x0 + x + factor / 2) / factor, origin.columns - 1),
                      r = std::min((region.z0 + z + factor / 2) / factor, origin.rows - 1);
            // Up to where nothing of a cell is land; what the edge crosses is painted to the full.
            if (origin.noLand.at(c, r) == 255) shares.at(x, z) = 0;
        }
}

// The images of a stamp as one dab: the stronger one counts where they overlap, and limits hold back what they do not
// allow.
Dab mergedDab(const Level& origin, const StrokeSettings& s, const std::vector<Dab>& dabs, const Region& all,
              Raster<float>& shares) {
    std::vector<float> row(static_cast<size_t>(all.width()));
    for (const Dab& d : dabs) {
        const DabRows rows(d);
        for (int z = d.region.z0; z < d.region.z1; ++z) {
            const Region span = dabSpan(d, d.region, z);
            if (span.empty()) continue;
            rows.mask(span.x0, z, span.width(), 1, row.data());
            for (int i = 0; i < span.width(); ++i) {
                float& most = shares.at(span.x0 + i - all.x0, z - all.z0);
                most = std::max(most, row[static_cast<size_t>(i)]);
            }
        }
    }
    const bool cover = onCover(specOf(s.tool).changes);
    if (!s.where.anywhere() && !cover) limitOnGround(origin, all, s.where, shares.view());
    else if (!s.where.anywhere()) limitPaint(origin, all, s.where, shares.view());
    if (keepsToLand(origin, s)) keepToLand(origin, all, cover ? origin.coverFactor : 1, shares.view());
    Dab merged = dabs.front();
    merged.region = all;
    merged.shares = &shares;
    return merged;
}

TileSet paintImages(Level& level, const std::vector<Dab>& dabs, const Touch& touch) {
    const auto kernel = specOf(touch.settings.tool).cover;
    TileSet all;
    for (const Dab& d : dabs) all.add(d.region);
    if (all.empty()) return {};
    const auto work = [&](const Dab& d) {
        kernel(level, d, touch);
        noteHand(level, d, touch);
    };
    if (touch.settings.where.anywhere() && !anyOverlap(dabs) && !keepsToLand(touch.origin, touch.settings)) {
        for (const Dab& d : dabs) work(d);
        return all;
    }
    Raster<float> shares(all.bounds().width(), all.bounds().depth(), 0.f);
    work(mergedDab(touch.origin, touch.settings, dabs, all.bounds(), shares));
    return all;
}

// Whether the singles of a kind are the same on both.
bool sameSingles(const Level& a, const Level& b, uint32_t kind) {
    const auto those = [kind](const Level& level) {
        std::vector<Single> all;
        for (const Single& s : level.singles)
            if (s.kind == kind) all.push_back(s);
        return all;
    };
    return those(a) == those(b);
}

std::vector<Dab> dabsOf(const Level& level, const StrokeSettings& s, const PlacedStamp& stamp, const Fence* fence) {
    const int factor = onCover(specOf(s.tool).changes) ? level.coverFactor : 1;
    std::vector<Dab> dabs;
    for (const MirrorImage& r : mirrorImages(level, s.mirror, factor)) {
        double x = stamp.x, z = stamp.z;
        if (r.turn != 0) r.move(level, x, z);
        Dab own = dabOn(level, x, z, stamp.radius, s.falloff, factor, s.tip, stamp.turn + static_cast<float>(r.turn));
        own.fence = fence;
        const Dab dab = r.image.identity()     ? own
                        : shapesGround(s.tool) ? framed(level, own, r.image)
                                               : mirrored(level, own, r.image);
        if (!dab.region.empty()) dabs.push_back(dab);
    }
    return dabs;
}

}  // namespace

Stroker::Stroker(const StrokeSettings& settings, Level origin, std::shared_ptr<const Level> reference,
                 std::shared_ptr<const Raster<float>> pictureHeights)
    : settings_(settings), origin_(std::move(origin)), reference_(std::move(reference)),
      pictureHeights_(std::move(pictureHeights)), placer_(settings) {
    assert(checkSettings(settings));
    if (specOf(settings.tool).needs.singles) stood_ = std::make_unique<Plantings>(origin_);
}

void Stroker::stamp(Level& level, const Stamp& stamp, Change& change) {
    const PlacedStamp at = placed(settings_, stamp);
    if (at.share <= 0) return;
    const Touch touch{settings_,   at.share, at.index, origin_, reference_.get(), mix_, pictureHeights_.get(),
                      stood_.get()};
    const std::vector<Dab> dabs = dabsOf(level, settings_, at, origin_.fenced ? &origin_.fence : nullptr);
    switch (specOf(settings_.tool).changes) {
        case Changes::ground: {
            StampSite site(level);
            site.origin = &origin_;
            site.limits = settings_.limits;
            return change.ground.add(shapeImages(site, dabs, touch));
        }
        case Changes::coverage: return change.cover.add(paintImages(level, dabs, touch));
        case Changes::wash: return change.wash.add(paintImages(level, dabs, touch));
        case Changes::gaps: return change.gaps.add(paintImages(level, dabs, touch));
        case Changes::plantings: return change.plantings.add(paintImages(level, dabs, touch));
    }
}

Change Stroker::run(Level& level) {
    Change change;
    for (const Stamp& s : stamps_) stamp(level, s, change);
    stamps_.clear();
    touched_.add(change);
    return change;
}

Change Stroker::add(Level& level, const StrokePoint& point) {
    if (!begun_)
        if (const auto begin = specOf(settings_.tool).begin) begin(level, point.x, point.z, settings_, mix_);
    begun_ = true;
    placer_.add(point, stamps_);
    return run(level);
}

Change Stroker::finish(Level& level) {
    placer_.finish(stamps_);
    Change change = run(level);
    // Footprints follow the singles that came or went.
    if (dresses(tool()) && !(level.singles == origin_.singles))
        for (const Stratum& s : level.strata)
            if (s.course && s.course->footprint && !sameSingles(level, origin_, s.course->footprint->kind))
                change.kinds.push_back(s.course->footprint->kind);
    touched_.add(change);
    return change;
}

Status checkDone(const Level& level, Tool tool) {
    if (makesGaps(tool)) return checkGroundLeft(level);
    return specOf(tool).needs.singles ? checkSinglesLeft(level) : Status{};
}

Result<Change> runStroke(Level& level, const Stroke& stroke, std::shared_ptr<const Level> reference,
                         std::shared_ptr<const Raster<float>> pictureHeights) {
    if (Status s = checkStroke(stroke); !s) return s.error();
    if (Status s = checkNeeds(level, stroke.settings, reference.get()); !s) return s.error();
    const Level before = level;
    Stroker stroker(stroke.settings, level, std::move(reference), std::move(pictureHeights));
    for (const StrokePoint& p : stroke.points) stroker.add(level, p);
    stroker.finish(level);
    if (const Status left = checkDone(level, stroke.settings.tool); !left) {
        level = before;
        return left.error();
    }
    Result<Commit> done = commitWork(before, std::move(level), {}, &stroker.touched());
    level = std::move(done.value().level);
    return std::move(done.value().change);
}

}  // namespace jam
