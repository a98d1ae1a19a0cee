#include "sequences.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <sstream>

#include "clip/clip.h"
#include "clip/set_down.h"
#include "commit/commit.h"
#include "course/bake.h"
#include "cover/course_layers.h"
#include "cover/mix.h"
#include "cover/resolution.h"
#include "cover/rules.h"
#include "fence/fence.h"
#include "files/level_file.h"
#include "folder.h"
#include "level/ground.h"
#include "level/opening.h"
#include "level/resize.h"
#include "level/strata.h"
#include "match/neighbour.h"
#include "shape/gaps.h"
#include "shape/whole.h"
#include "stroke/stroker.h"
#include "survey/check.h"
#include "survey/mend_reach.h"
#include "tools/tool.h"
#include "walk/reach.h"
#include "walk/spots.h"
#include "water/figures.h"
#include "water/water.h"

namespace jam::test {

namespace {

using Numbers = std::array<double, kStepNumbers>;

// --- numbers that mean something on a level -----------------------------------------------------------------------

double among(double n, double low, double high) { return low + n * (high - low); }
float amongFloat(double n, double low, double high) { return static_cast<float>(among(n, low, high)); }
// The more a number is, the larger; small values have room.
double logAmong(double n, double low, double high) { return low * std::pow(high / low, n); }

size_t place(double n, size_t count) {
    return std::min(static_cast<size_t>(n * static_cast<double>(count)), count - 1);
}
template <class List>
auto* one(List& list, double n) {
    return list.empty() ? nullptr : &list[place(n, list.size())];
}
template <class List, class Fits>
auto* oneOf(List& list, double n, Fits fits) {
    std::vector<std::remove_reference_t<decltype(list[0])>*> all;
    for (auto& x : list)
        if (fits(x)) all.push_back(&x);
    return all.empty() ? nullptr : all[place(n, all.size())];
}
uint32_t layerId(const Level& l, double n) { return one(l.layers, n)->id; }

// On the level: at its edges, at borders of tiles and anywhere.
MapPlace on(const Level& level, double x, double z) {
    const auto snapped = [](double n, int samples) {
        const double at = n * (samples - 1);
        // Every fourth lies on the border of a tile, where there is one.
        const double tile = std::round(at / 64) * 64;
        return std::fmod(n * 4096, 4) < 1 && tile > 0 && tile < samples - 1 ? tile - (std::fmod(n * 8192, 2) < 1) : at;
    };
    return {level.originX + level.spacing * snapped(x, level.columns),
            level.originZ + level.spacing * snapped(z, level.rows)};
}

void ignore(const Status&) {}
template <class T>
void take(Level& level, Result<T> made) {
    if constexpr (std::is_same_v<T, Level>)
        if (made) level = made.take();
}

// --- strokes ------------------------------------------------------------------------------------------------------

// Some other numbers than those of the step, which all follow from them.
class More {
public:
    explicit More(const Numbers& n) {
        uint32_t seed = 1;
        for (const double v : n) seed = seed * 2654435761u + static_cast<uint32_t>(v * 4294967295.0);
        random_.seed(seed);
    }
    // The ends of a range as often as all between.
    double next() {
        const unsigned r = random_() % 8;
        return r == 0 ? 0 : r == 1 ? 1 : r == 2 ? 0.5 : static_cast<double>(random_() % 1000) / 1000;
    }

private:
    Random random_;
};

void stroke(Level& level, const Numbers& n, Tool tool) {
    More more(n);
    Stroke s;
    s.settings = usualSettings(tool);
    s.settings.layer = layerId(level, n[4]);
    s.settings.from = layerId(level, n[5]);
    const auto choose = [&](const Setting& setting) {
        if (more.next() < 0.7 || setting.kind == Setting::Kind::layer || setting.kind == Setting::Kind::colour) return;
        const double high = setting.reach ? setting.reach : setting.high,
                     low = setting.reach ? std::max(setting.low, -setting.reach) : setting.low;
        double v = setting.logarithmic ? logAmong(more.next(), std::max(low, 1e-6), high)
                                       : among(more.next(), low, high);
        if (setting.kind == Setting::Kind::flag || setting.kind == Setting::Kind::choice || setting.whole)
            v = std::round(v);
        if (setting.kind == Setting::Kind::choice) v = std::min(v, static_cast<double>(setting.choices.size()) - 1);
        setting.set(s.settings, v);
    };
    for (const Setting* setting : commonSettings()) choose(*setting);
    for (const Setting* setting : ownSettings())
        if (uses(tool, *setting)) choose(*setting);
    s.settings.radius = static_cast<float>(logAmong(n[3], 2 * level.spacing, 30 * level.spacing));
    s.settings.restore = RestoreTo::start;
    s.settings.spacing = std::max(s.settings.spacing, 0.2f);
    bringIntoRange(s.settings);
    const MapPlace a = on(level, n[0], n[1]), b = on(level, std::fmod(n[0] + 0.3 * n[2], 1), n[2]);
    s.points = {{a.x, a.z, 1, 0}, {b.x, b.z, static_cast<float>(more.next()), 0.3}};
    if (!checkStroke(s) || !checkNeeds(level, s.settings, nullptr)) return;
    Stroker stroker(s.settings, level);
    for (const StrokePoint& p : s.points) stroker.add(level, p);
    stroker.finish(level);
}

template <Tool tool>
void strokeOf(Level& level, const Numbers& n) {
    stroke(level, n, tool);
}

// --- strata and courses -------------------------------------------------------------------------------------------

void addsStratum(Level& l, const Numbers& n) {
    if (l.strata.size() < 9)
        l.activeStratum = addStratum(l, "stratum", static_cast<int>(place(n[0], l.strata.size() + 1)) - 1);
}
void choosesStratum(Level& l, const Numbers& n) {
    if (const Stratum* s = oneOf(l.strata, n[0], [](const Stratum& x) { return !x.mixes(); })) l.activeStratum = s->id;
}
void dims(Level& l, const Numbers& n) {
    if (Stratum* s = one(l.strata, n[0])) s->opacity = amongFloat(n[1], 0, s->mixes() ? 1 : kMaxOpacity);
}
void turnsEye(Level& l, const Numbers& n) {
    if (Stratum* s = one(l.strata, n[0])) s->visible = !s->visible;
}
void protects(Level& l, const Numbers& n) {
    if (Stratum* s = one(l.strata, n[0])) s->locked = !s->locked;
}
void movesStratum(Level& l, const Numbers& n) {
    ignore(moveStratum(l, one(l.strata, n[0])->id, static_cast<int>(place(n[1], l.strata.size()))));
}
void mergesStratum(Level& l, const Numbers& n) { ignore(mergeStratumDown(l, one(l.strata, n[0])->id)); }
void removesStratum(Level& l, const Numbers& n) { ignore(removeStratum(l, one(l.strata, n[0])->id)); }
void doublesStratum(Level& l, const Numbers& n) {
    if (l.strata.size() < 9) (void)duplicateStratum(l, one(l.strata, n[0])->id);
}

Post postAt(const Level& l, double x, double z, More& more) {
    Post p;
    const MapPlace at = on(l, x, z);
    p.x = at.x, p.z = at.z;
    p.width = static_cast<float>(logAmong(more.next(), kMinCourseWidth, 40));
    p.shoulder = amongFloat(more.next(), 0, 25);
    p.banking = amongFloat(more.next() < 0.5 ? 0.5 : more.next(), -kMaxBanking, kMaxBanking);
    if (more.next() < 0.5) p.height = amongFloat(more.next(), -20, 40);
    return p;
}

void addsCourse(Level& l, const Numbers& n) {
    if (l.strata.size() >= 9) return;
    More more(n);
    Course c;
    c.use = static_cast<CourseUse>(place(n[4], 3));
    c.smooth = more.next() < 0.6;
    c.meets = more.next() < 0.7;
    c.closed = more.next() < 0.2;
    if (c.use == CourseUse::carve) c.sunk = amongFloat(more.next(), 0, 4);
    c.posts = {postAt(l, n[0], n[1], more), postAt(l, n[2], n[3], more)};
    if (n[5] > 0.5) c.posts.push_back(postAt(l, more.next(), more.next(), more));
    if (c.use == CourseUse::bank)
        for (Post& p : c.posts) p.height = std::abs(p.height.value_or(2));
    if (!checkNewCourse(l, c)) return;
    const uint32_t id = addCourse(l, "course", c);
    if (more.next() < 0.5) layOnCourse(l, id, layerId(l, more.next()), layerId(l, more.next()));
}
Stratum* courseOf(Level& l, double n) {
    return oneOf(l.strata, n, [](const Stratum& s) { return s.leads() && !s.locked; });
}
// Takes over another course in place of one, as hands and panels do.
void reshapes(Level& l, Stratum& s, const Course& c) {
    if (!checkCourse(c)) return;
    const uint32_t id = s.id;
    s.course = c;
    Change of;
    of.strata.push_back(id);
    refreshCourses(l, of);
    layOnCourse(l, id, c.track, c.verge);
}
void movesPost(Level& l, const Numbers& n) {
    Stratum* s = courseOf(l, n[0]);
    if (!s) return;
    More more(n);
    Course c = *s->course;
    Post& p = *one(c.posts, n[1]);
    const MapPlace at = on(l, n[2], n[3]);
    p.x = at.x, p.z = at.z;
    if (n[4] > 0.6) p.height = amongFloat(n[5], -20, 40);
    if (n[4] < 0.3 && c.use != CourseUse::bank) p.height.reset();
    if (more.next() < 0.3) p.width = static_cast<float>(logAmong(more.next(), kMinCourseWidth, 40));
    if (more.next() < 0.3) p.shoulder = amongFloat(more.next(), 0, 25);
    reshapes(l, *s, c);
}
void changesCourse(Level& l, const Numbers& n) {
    Stratum* s = courseOf(l, n[0]);
    if (!s) return;
    Course c = *s->course;
    switch (place(n[1], 6)) {
        case 0: c.smooth = !c.smooth; break;
        case 1: c.meets = !c.meets; break;
        case 2: c.closed = !c.closed; break;
        case 3: std::reverse(c.posts.begin(), c.posts.end()); break;
        case 4: c.use = c.use == CourseUse::grade ? CourseUse::carve : CourseUse::grade; break;
        case 5:
            if (c.posts.size() > 2)
                c.posts.erase(c.posts.begin() + static_cast<ptrdiff_t>(place(n[2], c.posts.size())));
            else c.posts.push_back(postAt(l, n[3], n[4], *std::make_unique<More>(n)));
            break;
    }
    reshapes(l, *s, c);
}
void laysOnCourse(Level& l, const Numbers& n) {
    const Stratum* s = courseOf(l, n[0]);
    if (s) layOnCourse(l, s->id, n[1] < 0.3 ? 0 : layerId(l, n[2]), n[3] < 0.3 ? 0 : layerId(l, n[4]));
}

// --- layers and rules ---------------------------------------------------------------------------------------------

void addsLayer(Level& l, const Numbers& n) {
    if (l.layers.size() < 7)
        addLayer(l, plainLayer("layer " + std::to_string(l.nextId), static_cast<uint8_t>(255 * n[0]),
                               static_cast<uint8_t>(255 * n[1])));
}
void movesLayer(Level& l, const Numbers& n) {
    ignore(moveLayer(l, layerId(l, n[0]), static_cast<int>(place(n[1], l.layers.size()))));
}
void hidesLayer(Level& l, const Numbers& n) { one(l.layers, n[0])->hidden = !one(l.layers, n[0])->hidden; }
void locksLayer(Level& l, const Numbers& n) { one(l.layers, n[0])->locked = !one(l.layers, n[0])->locked; }
void mergesLayer(Level& l, const Numbers& n) { ignore(mergeDown(l, layerId(l, n[0]))); }
void removesLayer(Level& l, const Numbers& n) {
    if (l.layers.size() > 2) ignore(removeLayer(l, layerId(l, n[0])));
}
void replacesLayer(Level& l, const Numbers& n) { ignore(replaceLayer(l, layerId(l, n[0]), layerId(l, n[1]))); }
void doublesLayer(Level& l, const Numbers& n) {
    if (l.layers.size() < 7) (void)duplicateLayer(l, layerId(l, n[0]));
}
void fillsLayer(Level& l, const Numbers& n) {
    PaintWhere where;
    if (n[2] > 0.5) where.slopeFrom = amongFloat(n[3], 0, 40);
    if (n[2] < 0.3) where.altitudeTo = amongFloat(n[4], -20, 40);
    const Layer& layer = *one(l.layers, n[0]);
    if (!layer.locked && !layer.hidden) ignore(fillLayer(l, layer.id, amongFloat(n[1], 0.1, 1), where));
}
void pairs(Level& l, const Numbers& n) {
    const uint32_t a = layerId(l, n[0]), b = layerId(l, n[1]);
    if (a != b) setBlendBetween(l, a, b, n[2] < 0.2 ? std::nullopt : std::optional<float>(amongFloat(n[3], 0, 1)));
}
void setsRules(Level& l, const Numbers& n) {
    More more(n);
    Layer& layer = *one(l.layers, n[0]);
    std::vector<Rule> rules = layer.rules;
    if (n[1] < 0.25 && !rules.empty()) rules.erase(rules.begin() + static_cast<ptrdiff_t>(place(n[2], rules.size())));
    else if (rules.size() < 4) {
        Rule r;
        r.kind = static_cast<RuleKind>(place(n[2], kRuleKinds));
        r.way = rules.empty() ? RuleEffect::add : static_cast<RuleEffect>(place(n[3], 3));
        const RuleRange range = ruleRange(r.kind);
        const double low = std::max(range.low, -60.0), high = std::min(range.high, 90.0);
        r.from = amongFloat(n[4], low, high), r.to = amongFloat(n[5], low, high);
        if (r.kind != RuleKind::facing && r.from > r.to) std::swap(r.from, r.to);
        r.fade = amongFloat(more.next(), 0, 0.2 * (high - low));
        r.strength = amongFloat(more.next(), 0, 1);
        // What its kind looks at; panels and files keep nothing else.
        if (r.kind == RuleKind::slope || r.kind == RuleKind::curvature || r.kind == RuleKind::above)
            r.reach = amongFloat(more.next(), 0, 20);
        if (r.kind == RuleKind::noise) r.scale = static_cast<float>(logAmong(more.next(), 2, 100));
        if (r.kind == RuleKind::low) r.level = amongFloat(more.next(), -20, 40);
        if (r.kind == RuleKind::layer) r.layer = layerId(l, more.next());
        if (r.kind == RuleKind::course) {
            const Stratum* s = courseOf(l, more.next());
            r.layer = s ? s->id : 0;
        }
        rules.push_back(r);
    }
    if (rules.empty()) restRules(l, layer.id);
    changeRules(l, layer.id, std::move(rules));
}
void wakes(Level& l, const Numbers& n) {
    const Layer& layer = *one(l.layers, n[0]);
    if (!layer.rules.empty() && !layer.locked) wakeRules(l, layer.id, n[1] < 0.5);
}
void rests(Level& l, const Numbers& n) { restRules(l, layerId(l, n[0])); }
void bakes(Level& l, const Numbers& n) {
    const Layer& layer = *one(l.layers, n[0]);
    if (!layer.rules.empty() && !layer.alive) bakeRules(l, layer.id);
}

// --- fences ---------------------------------------------------------------------------------------------------------

void drawsFence(Level& l, const Numbers& n) {
    const MapPlace a = on(l, n[0], n[1]), b = on(l, n[2], n[3]);
    const double r = among(n[4], 3, 40);
    const FenceJoin join = static_cast<FenceJoin>(place(n[5], 4));
    const FenceSource source = n[4] < 0.4   ? insidePolygon(l, {{a.x - r, a.z - r}, {a.x + 2 * r, a.z}, {b.x, b.z + r}})
                               : n[4] < 0.6 ? alongLine(l, {a, b}, r, static_cast<float>(n[5]))
                               : n[4] < 0.7 ? whereLayer(l, layerId(l, n[0]))
                               : n[4] < 0.8 ? nearEdge(l, r)
                               : n[4] < 0.9
                                   ? connectedLayer(l, a.x, a.z)
                                   : byRule(l, {RuleKind::slope, RuleEffect::add, amongFloat(n[0], 0, 30), 90, 4});
    Level tried = l;
    if (joinFence(tried, source, join) && !fenceEmpty(tried)) l = std::move(tried);
}
void worksFence(Level& l, const Numbers& n) {
    Level tried = l;
    switch (place(n[0], 4)) {
        case 0: invertFence(tried); break;
        case 1: growFence(tried, among(n[1], -20, 20)); break;
        case 2: featherFence(tried, among(n[1], 0, 15)); break;
        case 3: tried.fenced = !tried.fenced; break;
    }
    if (!fenceEmpty(tried)) l = std::move(tried);
}
void keepsFence(Level& l, const Numbers& n) {
    if (l.fenced && !fenceEmpty(l)) keepFence(l, "fence " + std::to_string(place(n[0], 3)));
}
void recallsFence(Level& l, const Numbers& n) {
    const KeptFence* k = one(l.fences, n[0]);
    if (!k) return;
    if (n[1] < 0.2) return void(l.fences.erase(l.fences.begin() + (k - l.fences.data())));
    Level tried = l;
    if (joinFence(tried, keptFence(l, k->id), static_cast<FenceJoin>(place(n[2], 4))) && !fenceEmpty(tried))
        l = std::move(tried);
}
void dropsFence(Level& l, const Numbers&) { l.fenced = false; }

// --- water ----------------------------------------------------------------------------------------------------------

void fillsHollow(Level& l, const Numbers& n) {
    const MapPlace at = on(l, n[0], n[1]);
    Result<Pool> pool = n[2] < 0.6 ? poolAt(l, at.x, at.z)
                                   : poolStanding(l, at.x, at.z, amongFloat(n[3], l.lowest, l.highest));
    if (!pool || l.pools.size() >= 5) return;
    pool.value().name = freeWaterName(l, "pool");
    (void)addPool(l, pool.take());
}
void addsSea(Level& l, const Numbers& n) {
    Pool sea;
    sea.name = freeWaterName(l, "sea");
    sea.sea = true;
    sea.x = l.originX, sea.z = l.originZ;
    sea.height = amongFloat(n[0], -15, 10);
    if (l.pools.size() < 5) (void)addPool(l, sea);
}
void pullsWater(Level& l, const Numbers& n) {
    if (Pool* p = one(l.pools, n[0]))
        p->height = n[1] < 0.1   ? l.lowest
                    : n[1] > 0.9 ? l.highest
                                 : std::clamp(p->height + amongFloat(n[2], -8, 8), l.lowest, l.highest);
}
void removesWater(Level& l, const Numbers& n) {
    if (n[1] < 0.5 && !l.pools.empty()) removeWater(l, one(l.pools, n[0])->id);
    else if (!l.streams.empty()) removeWater(l, one(l.streams, n[0])->id);
}
void mendsPool(Level& l, const Numbers& n) {
    const Pool* p = one(l.pools, n[0]);
    if (!p) return;
    if (n[1] < 0.5) return ignore(lowerToBrim(l, p->id));
    Dam dam;
    dam.width = amongFloat(n[2], 0.5, 10), dam.sides = amongFloat(n[3], 0, 20), dam.over = amongFloat(n[4], 0, 2);
    (void)raiseRim(l, p->id, dam);
}
void addsStream(Level& l, const Numbers& n) {
    const Stratum* bed = oneOf(l.strata, n[0],
                               [](const Stratum& s) { return s.course && s.course->use == CourseUse::carve; });
    if (!bed || l.streams.size() >= 3) return;
    Stream s;
    s.name = freeWaterName(l, "brook");
    s.course = bed->id;
    s.depth = static_cast<float>(logAmong(n[1], kLeastStreamDepth, 3));
    s.manning = amongFloat(n[2], kLeastManning, kMostManning);
    (void)addStream(l, s);
}
void changesStream(Level& l, const Numbers& n) {
    if (Stream* s = one(l.streams, n[0])) s->depth = static_cast<float>(logAmong(n[1], kLeastStreamDepth, 3));
}

// --- spots, gaps, and the whole level -------------------------------------------------------------------------------

void putsSpot(Level& l, const Numbers& n) {
    if (l.spots.size() >= 5) return;
    Spot s;
    const MapPlace at = on(l, n[0], n[1]);
    s.x = at.x, s.z = at.z;
    s.name = freeSpotName(l, "spot");
    s.kind = std::string(kSpotKinds[place(n[2], kSpotKinds.size())]);
    s.facing = among(n[3], 0, 359);
    (void)addSpot(l, s);
}
void movesSpot(Level& l, const Numbers& n) {
    const Spot* s = one(l.spots, n[0]);
    if (!s) return;
    const MapPlace at = on(l, n[1], n[2]);
    if (n[3] < 0.15) removeSpot(l, s->id);
    else ignore(moveSpot(l, s->id, at.x, at.z));
}
void padsSpot(Level& l, const Numbers& n) {
    const Spot* s = one(l.spots, n[0]);
    if (!s || l.strata.size() >= 9) return;
    Pad pad;
    pad.radius = amongFloat(n[1], 0.1, 25), pad.rim = amongFloat(n[2], 0, 30);
    if (n[3] > 0.5) pad.height = amongFloat(n[4], -20, 40);
    ignore(setPad(l, s->id, n[5] < 0.2 ? std::nullopt : std::optional(pad)));
}
void choosesBody(Level& l, const Numbers& n) {
    Body own = kBodies[place(n[0], 3)];
    own.name = "goat";
    own.slope = amongFloat(n[1], 10, 70);
    if (n[2] > 0.5 && keepBody(l, own)) l.body = "goat";
    else l.body = kBodies[place(n[0], 3)].name;
}
void fillsGaps(Level& l, const Numbers& n) {
    if (!l.fenced || fenceArea(l) > 0.5 * l.width() * l.depth()) return;
    Level tried = l;
    fillGaps(tried, n[0] < 0.5 ? &Level::opening : &Level::noLand, n[1] < 0.6, false);
    if (checkGroundLeft(tried)) l = std::move(tried);
}
void cutsEdges(Level& l, const Numbers& n) {
    if (n[0] < 0.5) l.smoothEdges = !l.smoothEdges;
    else l.cliff = amongFloat(n[1], 0, 60);
}
void turnsSun(Level& l, const Numbers& n) { l.sun = {amongFloat(n[0], 0, 359), amongFloat(n[1], 1, 90)}; }
void whole(Level& l, const Numbers& n) {
    WholeWish w;
    w.kind = static_cast<WholeKind>(place(n[0], kWholeKinds));
    w.metres = amongFloat(n[1], -30, 30);
    w.along = n[2] < 0.7;
    w.low = amongFloat(n[3], -20, 5), w.high = w.low + amongFloat(n[4], 5, 60);
    w.width = amongFloat(n[1], 0.5, 12), w.years = amongFloat(n[2], 0.1, 2);
    w.noise.scale = 14, w.noise.amplitude = amongFloat(n[3], 0.1, 4), w.noise.octaves = 3;
    w.landscape.scale = 60, w.landscape.height = amongFloat(n[4], 2, 30);
    w.flattenTo = static_cast<FlattenTo>(place(n[3], 3)), w.height = amongFloat(n[4], -10, 20);
    if (n[5] > 0.8 && l.strata.size() < 9) w.stratum = "of its own";
    if (Result<WholeOutcome> made = reshapeWhole(l, w)) l = std::move(made.value().level);
}
void crops(Level& l, const Numbers& n) {
    const int c0 = static_cast<int>(among(n[0], -12, 30)), r0 = static_cast<int>(among(n[1], -12, 20)),
              wide = l.columns - static_cast<int>(among(n[2], -12, 30)),
              deep = l.rows - static_cast<int>(among(n[3], -12, 20));
    if (wide < 60 || deep < 40 || wide > 200 || deep > 140) return;
    Result<Level> made = cropLevel(l, {c0, r0, c0 + wide, r0 + deep});
    if (made && checkGroundLeft(made.value())) l = made.take();
}
void resamples(Level& l, const Numbers& n) {
    const double spacing = logAmong(n[0], 0.75, 3);
    const int columns = static_cast<int>(std::lround(l.width() / spacing)) + 1,
              rows = static_cast<int>(std::lround(l.depth() / spacing)) + 1;
    if (columns < 60 || rows < 40 || columns > 200 || rows > 140) return;
    Result<Level> made = resampleLevel(l, columns, rows, spacing);
    if (made && checkGroundLeft(made.value())) l = made.take();
}
void changesCover(Level& l, const Numbers& n) { ignore(changeCoverFactor(l, n[0] < 0.4 ? 1 : 2)); }

// A piece lifted here and set down there.
void setsClip(Level& l, const Numbers& n) {
    More more(n);
    const MapPlace a = on(l, n[0], n[1]), to = on(l, n[2], n[3]);
    const double w = among(more.next(), 10, 60), d = among(more.next(), 10, 40);
    Result<Level> clip = l.fenced && more.next() < 0.3
                             ? liftFenced(l, "piece")
                             : liftClip(l, samplesBetween(l, a.x, a.z, a.x + w, a.z + d), "piece");
    if (!clip) return;
    Placement p;
    p.x = to.x, p.z = to.z;
    p.turn = more.next() < 0.5 ? 90 * std::floor(4 * n[4]) : among(n[4], -180, 180);
    p.scale = more.next() < 0.5 ? 1 : logAmong(more.next(), 0.4, 2);
    p.heightScale = more.next() < 0.7 ? 1 : among(more.next(), -1, 2);
    p.mirror = more.next() < 0.3;
    SetDownWish wish;
    wish.join = static_cast<ClipJoin>(place(n[5], kClipJoins));
    wish.feather = among(more.next(), 0, 8);
    wish.heights = more.next() < 0.8, wish.cover = more.next() < 0.8, wish.wash = more.next() < 0.5;
    wish.gaps = more.next() < 0.5, wish.sit = more.next() < 0.5;
    if (more.next() < 0.2 && l.strata.size() < 9) wish.stratum = "piece";
    take(l, setDown(l, clip.value(), {p}, wish));
    if (!checkGroundLeft(l)) fillGaps(l, &Level::opening, false, false);
}
// A neighbour that is this level itself, moved: it has the samples that it needs along each side.
void fitsBorder(Level& l, const Numbers& n) {
    MatchWish wish;
    wish.side = static_cast<Side>(place(n[0], 4));
    wish.blend = among(n[1], 0, 60);
    wish.heights = n[2]<0.8, wish.cover = n[2]> 0.2;
    wish.file = "../beside.jamhill";
    if (l.strata.size() >= 9) return;
    take(l, matchBorder(l, hillyLevel(l.columns, l.rows, static_cast<uint32_t>(1 + 3 * n[3]), 2), wish));
    if (l.spacing == 1) return;
    Level beside = hillyLevel(l.columns, l.rows, static_cast<uint32_t>(1 + 3 * n[3]), 2);
    beside.spacing = l.spacing;
    take(l, matchBorder(l, beside, wish));
}
void mendsReach(Level& l, const Numbers& n) {
    if (l.spots.empty() || l.strata.size() >= 9) return;
    const Reach reach = surveyReach(l, bodyOf(l));
    if (n[0] < 0.5 && !reach.waysOut.empty()) {
        Result<Mended> m = bankAlong(l, reach, *one(reach.waysOut, n[1]),
                                     {amongFloat(n[2], 0.2, 6), amongFloat(n[3], 0, 6)});
        if (m) l = std::move(m.value().level);
    } else if (const ReachPlace* p = one(reach.pockets, n[1])) {
        Result<Mended> m = rampTo(l, reach, p->x, p->z);
        if (m) l = std::move(m.value().level);
    }
}

}  // namespace

// --- the list -------------------------------------------------------------------------------------------------------

const std::vector<Verb>& verbs() {
    static const std::vector<Verb> all = [] {
        std::vector<Verb> list = {{"addStratum", addsStratum},
                                  {"chooseStratum", choosesStratum},
                                  {"dim", dims},
                                  {"turnEye", turnsEye},
                                  {"protect", protects},
                                  {"moveStratum", movesStratum},
                                  {"mergeStratum", mergesStratum},
                                  {"removeStratum", removesStratum},
                                  {"doubleStratum", doublesStratum},
                                  {"course", addsCourse},
                                  {"course", addsCourse},
                                  {"movePost", movesPost},
                                  {"movePost", movesPost},
                                  {"changeCourse", changesCourse},
                                  {"layOnCourse", laysOnCourse},
                                  {"addLayer", addsLayer},
                                  {"moveLayer", movesLayer},
                                  {"hideLayer", hidesLayer},
                                  {"lockLayer", locksLayer},
                                  {"mergeLayer", mergesLayer},
                                  {"removeLayer", removesLayer},
                                  {"replaceLayer", replacesLayer},
                                  {"doubleLayer", doublesLayer},
                                  {"fillLayer", fillsLayer},
                                  {"pair", pairs},
                                  {"rules", setsRules},
                                  {"rules", setsRules},
                                  {"wake", wakes},
                                  {"wake", wakes},
                                  {"rest", rests},
                                  {"bake", bakes},
                                  {"fence", drawsFence},
                                  {"workFence", worksFence},
                                  {"keepFence", keepsFence},
                                  {"recallFence", recallsFence},
                                  {"dropFence", dropsFence},
                                  {"dropFence", dropsFence},
                                  {"pool", fillsHollow},
                                  {"pool", fillsHollow},
                                  {"sea", addsSea},
                                  {"pull", pullsWater},
                                  {"removeWater", removesWater},
                                  {"mendPool", mendsPool},
                                  {"stream", addsStream},
                                  {"stream", addsStream},
                                  {"changeStream", changesStream},
                                  {"spot", putsSpot},
                                  {"moveSpot", movesSpot},
                                  {"pad", padsSpot},
                                  {"body", choosesBody},
                                  {"gaps", fillsGaps},
                                  {"cut", cutsEdges},
                                  {"sun", turnsSun},
                                  {"whole", whole},
                                  {"crop", crops},
                                  {"resample", resamples},
                                  {"coverFactor", changesCover},
                                  {"clip", setsClip},
                                  {"clip", setsClip},
                                  {"border", fitsBorder},
                                  {"mendReach", mendsReach},
                                  {"undo", nullptr},
                                  {"undo", nullptr},
                                  {"redo", nullptr},
                                  {"stepTo", nullptr},
                                  {"reopen", nullptr}};
#define JAM_VERB(name) {#name, strokeOf<Tool::name>},
        const std::vector<Verb> strokes = {JAM_TOOLS(JAM_VERB)};
#undef JAM_VERB
        list.insert(list.end(), strokes.begin(), strokes.end());
        return list;
    }();
    return all;
}

std::string toText(const Sequence& steps) {
    std::string text;
    for (const Step& s : steps) {
        text += s.verb;
        for (const double n : s.numbers) {
            char word[32];
            std::snprintf(word, sizeof word, " %.17g", n);
            text += word;
        }
        text += "\n";
    }
    return text;
}

Sequence sequenceFrom(const std::string& text) {
    Sequence steps;
    std::istringstream lines(text);
    for (std::string line; std::getline(lines, line);) {
        std::istringstream words(line);
        Step s;
        words >> s.verb;
        for (double& n : s.numbers) words >> n;
        if (words && std::any_of(verbs().begin(), verbs().end(), [&](const Verb& v) { return v.name == s.verb; }))
            steps.push_back(s);
    }
    return steps;
}

Sequence randomSequence(uint32_t seed, int length) {
    Random random(seed);
    Sequence steps;
    for (int i = 0; i < length; ++i) {
        Step s;
        s.verb = verbs()[random() % verbs().size()].name;
        for (double& n : s.numbers) {
            const unsigned r = random() % 10;
            n = r == 0 ? 0 : r == 1 ? 1 : r == 2 ? 0.5 : static_cast<double>(random() % 4096) / 4096;
        }
        steps.push_back(s);
    }
    return steps;
}

Level sequenceStart(uint32_t seed) {
    Level level = flatLevel(149, 85, 0, 1.5, seed % 3 == 0 ? 1 : 2);
    level.name = "lopsided";
    level.originX = 310.5;
    level.originZ = -77;
    level.lowest = -60, level.highest = 90;
    level.sun = {137, 21};
    for (int i = 0; i < 4; ++i)
        addLayer(level, plainLayer("layer " + std::to_string(i), static_cast<uint8_t>(30 + 50 * i)));
    level.activeStratum = addStratum(level, "upper", 0);
    level.strata.back().opacity = 0.6f;
    const Level hills = hillyLevel(level.columns, level.rows, seed, 4);
    level.strata[0].heights = hills.strata[0].heights;
    Random random(seed);
    Level before = level;
    // Two or three of everything, with numbers of the seed's.
    for (const char* verb :
         {"course", "course", "stream", "pool",  "pool",  "spot",  "spot",      "pad",       "rules",  "rules",
          "wake",   "wake",   "paint",  "paint", "paint", "fence", "keepFence", "dropFence", "cutOut", "wash"}) {
        Step s;
        for (double& n : s.numbers) n = static_cast<double>(random() % 4096) / 4096;
        for (const Verb& v : verbs())
            if (v.name == std::string(verb)) {
                Level tried = level;
                v.act(tried, s.numbers);
                if (checkGroundLeft(tried)) level = std::move(tried);
                break;
            }
    }
    Result<Commit> done = commitWork(before, std::move(level));
    return std::move(done.value().level);
}

// --- playing --------------------------------------------------------------------------------------------------------

namespace {

std::optional<std::string> reopened(const Level& level, Level& out) {
    const Folder folder;
    if (const Status s = saveLevel(level, folder.path / "a.jamhill"); !s)
        return "it is not saved: " + s.error().sentence();
    Result<Level> opened = loadLevel(folder.path / "a.jamhill");
    if (!opened) return "it does not open: " + opened.error().sentence();
    out = opened.take();
    return std::nullopt;
}

// The first thing in which two levels differ, in words.
std::optional<std::string> difference(const Level& a, const Level& b) {
    if (a == b) return std::nullopt;
    const auto lists = [](const auto& x, const auto& y, const char* name) -> std::string {
        if (x.size() != y.size()) return std::string(name) + ": another number of them";
        for (size_t i = 0; i < x.size(); ++i)
            if (!(x[i] == y[i])) return std::string(name) + " " + std::to_string(i) + " (“" + x[i].name + "”)";
        return "";
    };
    for (const std::string& s :
         {lists(a.strata, b.strata, "stratum"), lists(a.layers, b.layers, "layer"), lists(a.fences, b.fences, "fence"),
          lists(a.pools, b.pools, "pool"), lists(a.streams, b.streams, "stream"), lists(a.spots, b.spots, "spot"),
          lists(a.bodies, b.bodies, "body")})
        if (!s.empty()) return s;
    if (!(a.water == b.water)) return "the water";
    if (!(a.wash == b.wash)) return "the wash";
    if (!(a.opening == b.opening) || !(a.noLand == b.noLand)) return "the gaps";
    if (!(a.fence == b.fence) || a.fenced != b.fenced) return "the fence";
    return "a number of the level itself";
}

}  // namespace

std::optional<std::string> Player::play(const Step& step) {
    ++count_;
    const auto verb = std::find_if(verbs().begin(), verbs().end(), [&](const Verb& v) { return v.name == step.verb; });
    if (verb == verbs().end()) return "there is no verb " + step.verb;
    before_ = level();
    const size_t place = history_.place();
    if (step.verb == "undo") return history_.undo(), std::nullopt;
    if (step.verb == "redo") return history_.redo(), std::nullopt;
    if (step.verb == "stepTo")
        return history_.stepTo(jam::test::place(step.numbers[0], history_.entries().size())), std::nullopt;
    if (step.verb == "reopen") {
        Level again;
        if (auto wrong = reopened(before_, again)) return wrong;
        // Brushes find a stratum that shows when a level is opened.
        Level shown = before_;
        activateShown(shown);
        if (auto differs = difference(again, shown)) return "saved and opened, it differs: " + *differs;
        return std::nullopt;
    }
    Level after = before_;
    verb->act(after, step.numbers);
    if (!sameRaster(after, before_) || !(after == before_)) {
        Result<Commit> done = commitWork(before_, std::move(after));
        if (!done) return "it is not committed: " + done.error().sentence();
        history_.push(std::move(done.value().level), step.verb);
        // Undo and redo give the same bits.
        history_.undo();
        if (auto differs = difference(level(), before_)) return "undone, it differs: " + *differs;
        history_.stepTo(place + 1);
    }
    return std::nullopt;
}

std::optional<std::string> notAsMadeAnew(const Level& level) {
    for (const std::string& wrong : checkLevel(level)) return wrong;
    // Courses, from the bottom up.
    Level anew = level;
    for (size_t i = 0; i < anew.strata.size(); ++i)
        if (anew.strata[i].course && !bakeCourse(anew, i).empty())
            return "course " + std::to_string(i) + " (“" + anew.strata[i].name + "”) is not as baked anew";
    // Water: its places and what it covers.
    refillWater(anew);
    if (!(anew.water == level.water)) return "the water is not as filled anew";
    for (size_t i = 0; i < level.streams.size(); ++i)
        if (!(anew.streams[i].surface == level.streams[i].surface)) return "a stream does not run as anew";
    for (size_t i = 0; i < level.pools.size(); ++i)
        if (!(anew.pools[i] == level.pools[i])) return "pool " + level.pools[i].name + " is not as filled anew";
    // Living rules.
    for (const Layer& l : level.layers) {
        if (!l.alive) continue;
        refreshLayer(anew, l.id);
        if (!(anew.layer(l.id)->base == l.base)) return "the rules of “" + l.name + "” give something else anew";
        if (!(anew.layer(l.id)->coverage == l.coverage)) return "“" + l.name + "” lies elsewhere anew";
    }
    return std::nullopt;
}

// --- shrinking ------------------------------------------------------------------------------------------------------

namespace {

std::optional<std::string> wrongWith(uint32_t levelSeed, const Sequence& steps, const MakeLook& make, bool thorough) {
    Player player(sequenceStart(levelSeed));
    const Look look = make(player.level(), thorough);
    for (size_t i = 0; i < steps.size(); ++i) {
        std::optional<std::string> wrong = player.play(steps[i]);
        if (!wrong) wrong = look(player);
        if (wrong) return "after step " + std::to_string(i + 1) + " (" + steps[i].verb + "): " + *wrong;
    }
    return std::nullopt;
}

}  // namespace

std::optional<Failure> failing(uint32_t levelSeed, const Sequence& steps, const MakeLook& look) {
    std::optional<std::string> wrong = wrongWith(levelSeed, steps, look, false);
    if (!wrong) return std::nullopt;
    Sequence shortest = steps;
    const auto tryIt = [&](Sequence tried) {
        std::optional<std::string> still = wrongWith(levelSeed, tried, look, true);
        if (!still) return false;
        shortest = std::move(tried);
        wrong = std::move(still);
        return true;
    };
    // Whole stretches first, then single steps, until none can go.
    for (size_t part = shortest.size(); part > 0; part /= 2)
        for (size_t at = 0; at < shortest.size();) {
            Sequence tried = shortest;
            tried.erase(tried.begin() + static_cast<ptrdiff_t>(at),
                        tried.begin() + static_cast<ptrdiff_t>(std::min(at + part, tried.size())));
            if (!tryIt(std::move(tried))) at += part;
        }
    for (size_t i = 0; i < shortest.size(); ++i)
        for (size_t k = 0; k < kStepNumbers; ++k)
            for (const double simple : {0.0, 0.5, 1.0}) {
                if (shortest[i].numbers[k] == simple) break;
                Sequence tried = shortest;
                tried[i].numbers[k] = simple;
                if (tryIt(std::move(tried))) break;
            }
    return Failure{shortest, *wrong + "\nlevel " + std::to_string(levelSeed) + ", steps:\n" + toText(shortest)};
}

}  // namespace jam::test
