#include "files/layer_json.h"

namespace jam {

namespace {

constexpr std::array<std::string_view, kRuleKinds> kKinds{"slope",  "altitude", "curvature", "facing", "layer", "low",
                                                          "course", "noise",    "depth",     "shore",  "above"};
constexpr std::array<std::string_view, 3> kWays{"add", "only", "never"};
constexpr std::array<std::string_view, 2> kTilings{"plain", "broken"};

// A number of the look under its name, with its range.
struct Entry {
    const char* name;
    float LayerLook::*value;
    double low, high;
};
constexpr Entry kEntries[] = {{"turn", &LayerLook::turn, -180, 180},
                              {"offsetX", &LayerLook::offsetX, -1000, 1000},
                              {"offsetZ", &LayerLook::offsetZ, -1000, 1000},
                              {"farTimes", &LayerLook::farTimes, 1, 32},
                              {"farFrom", &LayerLook::farFrom, 1, 2000},
                              {"variation", &LayerLook::variation, 0, 1},
                              {"brightness", &LayerLook::brightness, 0.1, 4},
                              {"relief", &LayerLook::relief, 0, 4},
                              {"wash", &LayerLook::wash, 0, 1}};

}  // namespace

Json ruleToJson(const Rule& r) {
    Json j = {
        {"kind", ruleKindName(r.kind)}, {"way", ruleWayName(r.way)}, {"from", r.from}, {"to", r.to}, {"fade", r.fade},
        {"strength", r.strength}};
    if (r.kind == RuleKind::slope || r.kind == RuleKind::curvature || r.kind == RuleKind::above) j["reach"] = r.reach;
    if (r.kind == RuleKind::layer) j["layer"] = r.layer;
    if (r.kind == RuleKind::course) j["course"] = r.layer;
    if (r.kind == RuleKind::low) j["level"] = r.level;
    if (r.kind == RuleKind::noise) j["scale"] = r.scale, j["seed"] = r.seed;
    return j;
}

Rule readRule(Fields f) {
    Rule r;
    r.kind = choiceFrom<RuleKind>(f, "kind", kKinds);
    r.way = choiceFrom<RuleEffect>(f, "way", kWays, "add");
    const RuleRange range = ruleRange(r.kind);
    const auto number = [&](const char* name, double low, double high, double otherwise) {
        return static_cast<float>(f.number(name, low, high, otherwise));
    };
    r.from = number("from", range.low, range.high, range.low);
    r.to = number("to", range.low, range.high, range.high);
    r.fade = number("fade", 0, range.high - range.low, 0);
    r.strength = number("strength", 0, 1, 1);
    r.reach = number("reach", 0, kMostRuleReach, r.reach);
    r.layer = static_cast<uint32_t>(f.whole(r.kind == RuleKind::course ? "course" : "layer", 0, 1 << 30, 0));
    r.level = number("level", -kFarHeight, kFarHeight, 0);
    r.scale = number("scale", kLeastRuleScale, kMostRuleScale, r.scale);
    r.seed = static_cast<uint32_t>(f.whole("seed", 0, std::numeric_limits<int>::max(), 1));
    return r;
}

std::string_view ruleKindName(RuleKind kind) { return kKinds[static_cast<size_t>(kind)]; }
std::string_view ruleWayName(RuleEffect way) { return kWays[static_cast<size_t>(way)]; }

Json layerToJson(const Layer& l) {
    Json j = {{"name", l.name}, {"tileSize", l.tileSize}, {"blend", l.blend}};
    if (l.hidden) j["hidden"] = true;
    if (l.locked) j["kept"] = true;
    if (!l.sides) j["sides"] = false;
    const LayerLook usual;
    for (const Entry& e : kEntries)
        if (l.look.*e.value != usual.*e.value) j[e.name] = l.look.*e.value;
    if (l.look.tiling != usual.tiling) j["tiling"] = kTilings[static_cast<size_t>(l.look.tiling)];
    if (l.look.tint != usual.tint) j["tint"] = l.look.tint;
    if (l.look.flipGreen) j["flipGreen"] = true;
    if (l.alive) j["alive"] = true;
    for (const Rule& r : l.rules) j["rules"].push_back(ruleToJson(r));
    return j;
}

void readLayerFields(Fields& f, Layer& l) {
    l.name = f.text("name");
    l.tileSize = f.number("tileSize", kMinTile, kMaxTile);
    l.blend = static_cast<float>(f.number("blend", 0, 1, 0.6));
    l.hidden = f.flag("hidden", false);
    l.locked = f.flag("kept", false);
    l.sides = f.flag("sides", true);
    for (const Entry& e : kEntries)
        l.look.*e.value = static_cast<float>(f.number(e.name, e.low, e.high, l.look.*e.value));
    l.look.tiling = choiceFrom<Tiling>(f, "tiling", kTilings, "plain");
    if (f.has("tint")) {
        const Json* tint = f.array("tint", 3);
        if (tint && (tint->size() != 3 || !std::all_of(tint->begin(), tint->end(), [](const Json& v) {
                         return v.is_number() && v >= 0 && v <= 1;
                     })))
            f.fail("tint", "it is not three numbers from 0 to 1", "write [red, green, blue]");
        else if (tint) l.look.tint = tint->get<std::array<float, 3>>();
    }
    l.look.flipGreen = f.flag("flipGreen", false);
    l.alive = f.flag("alive", false);
    if (f.has("rules")) f.each("rules", kMaxRules, [&](Fields r) { l.rules.push_back(readRule(r)); });
}

}  // namespace jam
