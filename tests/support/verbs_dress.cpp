// What hands do to what stands on the ground: kinds, their rules and densities, singles.
#include "verbs.h"

#include <cmath>

#include "course/footprint.h"
#include "cover/course_layers.h"
#include "cover/rules.h"
#include "dress/arrange.h"
#include "dress/figures.h"
#include "dress/kinds.h"
#include "dress/plantings.h"
#include "dress/shipped_kinds.h"
#include "stroke/stroker.h"
#include "tools/tool.h"

namespace jam::test {

namespace {

void addsKind(Level& l, const Numbers& n) {
    if (l.kinds.size() >= 5) return;
    More more(n);
    Kind k = shippedKinds()[place(n[0], shippedKinds().size())];
    k.name = freeKindName(l, k.name);
    k.rows = n[1] < 0.3 ? Rows::direction : Rows::none;
    if (n[2] < 0.5)
        for (const auto what : {KeptOff::What::course, KeptOff::What::water, KeptOff::What::spot,
                                KeptOff::What::opening, KeptOff::What::edge})
            if (more.next() < 0.5) k.keepsOff.push_back({what, 0, amongFloat(more.next(), 0, 8)});
    if (!l.kinds.empty() && n[3] < 0.6)
        k.keepsOff.push_back({KeptOff::What::kind, one(l.kinds, n[4])->id, amongFloat(more.next(), 0, 5)});
    if (const Result<uint32_t> id = addKind(l, k); id && n[5] < 0.7) {
        Rule r;
        r.kind = n[5] < 0.2 ? RuleKind::shore : n[5] < 0.4 ? RuleKind::layer : RuleKind::slope;
        r.from = r.kind == RuleKind::shore ? -3.f : 0.f;
        r.to = r.kind == RuleKind::slope ? 40.f : 6.f;
        if (r.kind == RuleKind::layer) r.layer = layerId(l, more.next());
        changeRules(l, id.value(), {r});
    }
}
void removesKind(Level& l, const Numbers& n) {
    if (Kind* k = one(l.kinds, n[0]); k && n[1] < 0.4) ignore(removeKind(l, k->id));
}
void movesKind(Level& l, const Numbers& n) {
    if (Kind* k = one(l.kinds, n[0])) ignore(moveKind(l, k->id, static_cast<int>(place(n[1], l.kinds.size()))));
}
void doublesKind(Level& l, const Numbers& n) {
    if (Kind* k = one(l.kinds, n[0]); k && l.kinds.size() < 5) ignore(duplicateKind(l, k->id));
}
void changesKind(Level& l, const Numbers& n) {
    const Kind* k = one(l.kinds, n[0]);
    if (!k) return;
    Kind next = *k;
    const KindNumber& number = kKindNumbers[place(n[1], std::size(kKindNumbers))];
    next.*number.value = static_cast<float>(number.low + n[2] * (std::min(number.high, 30.0) - number.low));
    if (n[3] < 0.2) next.hidden = !next.hidden;
    if (n[3] > 0.9) next.locked = !next.locked;
    if (n[4] < 0.2) next.turning = static_cast<Turning>(place(n[5], 4));
    ignore(changeKind(l, next));
}
void setsDensity(Level& l, const Numbers& n) {
    if (const Kind* k = one(l.kinds, n[0])) changeDensity(l, k->id, amongFloat(n[1] * n[1], 0, 80));
}
void rulesKind(Level& l, const Numbers& n) {
    const Kind* k = one(l.kinds, n[0]);
    if (!k) return;
    std::vector<Rule> rules = k->rules;
    if (n[1] < 0.3 && !rules.empty()) rules.pop_back();
    else if (rules.size() < 3) {
        Rule r;
        r.kind = static_cast<RuleKind>(place(n[2], kRuleKinds));
        const RuleRange range = ruleRange(r.kind);
        r.from = amongFloat(0.4 * n[3], range.low, std::min(range.high, 60.0));
        r.to = std::max(r.from, amongFloat(n[4], range.low, std::min(range.high, 90.0)));
        r.fade = amongFloat(n[5], 0, std::min(range.high - range.low, 4.0));
        r.way = static_cast<RuleEffect>(place(n[1], 3));
        if (r.kind == RuleKind::layer) r.layer = layerId(l, n[3]);
        if (r.kind == RuleKind::course && courseOf(l, n[3])) r.layer = courseOf(l, n[3])->id;
        rules.push_back(r);
    }
    changeRules(l, k->id, rules);
}
void putsSingle(Level& l, const Numbers& n) {
    const Kind* k = one(l.kinds, n[0]);
    if (!k) return;
    Single s;
    s.kind = k->id;
    const MapPlace at = on(l, n[1], n[2]);
    s.x = at.x, s.z = at.z;
    s.turn = amongFloat(n[3], 0, 359), s.size = amongFloat(n[4], 0.3, 3), s.above = amongFloat(n[5], -1, 2);
    ignore(putSingle(l, s));
}
void movesSingle(Level& l, const Numbers& n) {
    const Single* s = one(l.singles, n[0]);
    if (!s) return;
    Single to = *s;
    const MapPlace at = on(l, n[1], n[2]);
    to.x = at.x, to.z = at.z;
    to.lean = amongFloat(n[3], 0, 90);
    n[4] < 0.2 ? ignore(removeSingle(l, to.id)) : ignore(changeSingle(l, to));
}
// Takes one of those that stand up, or away.
void takesOne(Level& l, const Numbers& n) {
    if (l.kinds.empty()) return;
    Plantings all(l);
    const size_t kind = place(n[0], l.kinds.size());
    const int tx = static_cast<int>(place(n[1], static_cast<size_t>(all.tilesAcross()))),
              tz = static_cast<int>(place(n[2], static_cast<size_t>(all.tilesDown())));
    const std::vector<Planting>& there = all.tile(kind, tx, tz);
    if (there.empty()) return;
    const Planting p = there[place(n[3], there.size())];
    n[4] < 0.5 ? ignore(takeUp(l, l.kinds[kind].id, p)) : ignore(takeAway(l, l.kinds[kind].id, p));
}
void settles(Level& l, const Numbers&) { settleSingles(l); }
// Makes those of a kind larger or smaller over a rectangle of the cover, to the ends of the range.
void resizesSome(Level& l, const Numbers& n) {
    Kind* k = one(l.kinds, n[0]);
    if (!k || k->locked) return;
    const int c = static_cast<int>(n[1] * (l.coverColumns() - 1)), r = static_cast<int>(n[2] * (l.coverRows() - 1));
    const auto way = static_cast<int>(std::lround(amongFloat(n[3], -2, 2) * static_cast<float>(kSizeStep)));
    const Region part = Region{c, r, c + 1 + static_cast<int>(40 * n[4]), r + 1 + static_cast<int>(40 * n[5])}.clipped(
        {0, 0, l.coverColumns(), l.coverRows()});
    for (int z = part.z0; z < part.z1; ++z)
        for (int x = part.x0; x < part.x1; ++x) k->sizes.set(x, z, static_cast<uint16_t>(kSameSize + way));
}
void rowsAlong(Level& l, const Numbers& n) {
    const Kind* k = one(l.kinds, n[0]);
    if (!k) return;
    Kind next = *k;
    next.rows = static_cast<Rows>(place(n[1], 4));
    next.rowApart = amongFloat(n[2], 0.5, 6), next.inRow = amongFloat(n[3], 1, 8);
    if (const Stratum* course = courseOf(l, n[4])) next.rowCourse = course->id;
    ignore(changeKind(l, next));
}
void pullsLine(Level& l, const Numbers& n) {
    if (const Kind* k = one(l.kinds, n[0])) {
        const MapPlace a = on(l, n[1], n[2]), b = on(l, n[3], n[4]);
        if (std::hypot(b.x - a.x, b.z - a.z) < 40) ignore(putLine(l, k->id, {{a.x, a.z}, {b.x, b.z}}));
    }
}
void arrangesSome(Level& l, const Numbers& n) {
    std::vector<uint32_t> ids;
    for (size_t i = 0; i < l.singles.size() && ids.size() < 4; ++i)
        if ((i * 7919 + static_cast<size_t>(n[0] * 100)) % 3 == 0) ids.push_back(l.singles[i].id);
    if (n[1] < 0.4) ignore(groupSingles(l, ids));
    else if (n[1] < 0.6) ignore(dissolveGroups(l, ids));
    else if (n[1] < 0.8) ignore(lineUpSingles(l, ids));
    else ignore(turnAlongCourse(l, ids));
}
void laysFootprint(Level& l, const Numbers& n) {
    const Kind* k = one(l.kinds, n[0]);
    if (!k) return;
    if (n[1] < 0.2) return ignore(setFootprint(l, k->id, std::nullopt));
    Footprint f{0, amongFloat(n[1], 0, 4), amongFloat(n[2], 0, 6)};
    if (n[3] > 0.4) f.hatchWide = amongFloat(n[3], 0, 5), f.hatchLong = amongFloat(n[4], 0, 5);
    f.hatchAhead = amongFloat(n[5], -4, 4);
    ignore(setFootprint(l, k->id, f));
    if (n[2] > 0.6) layOnCourse(l, l.strata[static_cast<size_t>(footprintPlace(l, k->id))].id, layerId(l, n[4]), 0);
}
void restylesSome(Level& l, const Numbers& n) {
    const Kind *k = one(l.kinds, n[0]), *of = one(l.kinds, n[1]);
    if (!k) return;
    Stroke stroke;
    stroke.settings = usualSettings(Tool::restyle);
    stroke.settings.kind = k->id;
    stroke.settings.ofKind = n[2] < 0.5 && of != k ? of->id : 0;
    stroke.settings.radius = amongFloat(n[3], 2, 12);
    const MapPlace at = on(l, n[4], n[5]);
    stroke.points = {{at.x, at.z, 1, 0}};
    ignore(runStroke(l, stroke));
}

}  // namespace

std::vector<Verb> dressVerbs() {
    return {{"addKind", addsKind},        {"addKind", addsKind},       {"removeKind", removesKind},
            {"moveKind", movesKind},      {"doubleKind", doublesKind}, {"changeKind", changesKind},
            {"changeKind", changesKind},  {"density", setsDensity},    {"ruleKind", rulesKind},
            {"putSingle", putsSingle},    {"moveSingle", movesSingle}, {"takeOne", takesOne},
            {"settle", settles},          {"resizeSome", resizesSome}, {"rowsAlong", rowsAlong},
            {"pullLine", pullsLine},      {"arrange", arrangesSome},   {"footprint", laysFootprint},
            {"footprint", laysFootprint}, {"restyle", restylesSome}};
}

}  // namespace jam::test
