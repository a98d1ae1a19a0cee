// What hands do to waters, spots and gaps, and to the whole level.
#include "verbs.h"

#include <algorithm>
#include <cmath>
#include "clip/clip.h"
#include "clip/set_down.h"
#include "cover/resolution.h"
#include "fence/fence.h"
#include "level/opening.h"
#include "level/resize.h"
#include "match/neighbour.h"
#include "shape/gaps.h"
#include "shape/whole.h"
#include "survey/mend_reach.h"
#include "walk/reach.h"
#include "walk/spots.h"
#include "water/figures.h"
#include "water/water.h"

namespace jam::test {

namespace {

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

std::vector<Verb> levelVerbs() {
    return {{"pool", fillsHollow},
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
            {"mendReach", mendsReach}};
}

}  // namespace jam::test
