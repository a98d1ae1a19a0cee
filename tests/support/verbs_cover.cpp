// What hands do to layers, to their rules and to fences.
#include "verbs.h"

#include <algorithm>
#include <cmath>
#include "cover/mix.h"
#include "cover/rules.h"
#include "fence/fence.h"
#include "level/strata.h"

namespace jam::test {

namespace {

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

}  // namespace

std::vector<Verb> coverVerbs() {
    return {{"addLayer", addsLayer},
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
            {"dropFence", dropsFence}};
}

}  // namespace jam::test
