#include "files/kinds_json.h"

#include <algorithm>

#include "dress/kinds.h"
#include "files/layer_json.h"
#include "grow/recipe.h"

namespace jam {

namespace {

constexpr std::array<std::string_view, 4> kTurnings{"freely", "downhill", "course", "steps"};
constexpr std::array<std::string_view, 5> kBlocks{"nothing", "cylinder", "capsule", "box", "hull"};
constexpr std::array<std::string_view, 4> kRows{"none", "direction", "course", "contour"};
constexpr std::array<std::string_view, 6> kKept{"kind", "course", "water", "spot", "opening", "edge"};

Json growthToJson(const Growth& g) {
    Json j = {{"recipe", g.recipe}, {"seed", g.seed}, {"variants", g.variants}};
    const Recipe* recipe = recipeNamed(g.recipe);
    for (size_t i = 0; recipe && i < g.numbers.size(); ++i) j[recipe->numbers[i].name] = g.numbers[i];
    return j;
}

Growth readGrowth(Fields f) {
    Growth g;
    g.recipe = f.text("recipe");
    const Recipe* recipe = recipeNamed(g.recipe);
    if (!recipe) {
        if (const Status s = checkGrowth(g); !s) f.fail("recipe", s.error().problem, s.error().remedy);
        return g;
    }
    g.seed = static_cast<uint32_t>(f.whole("seed", 0, std::numeric_limits<int>::max(), 1));
    g.variants = f.whole("variants", 1, 8, 4);
    for (const RecipeNumber& n : recipe->numbers)
        g.numbers.push_back(static_cast<float>(f.number(n.name, n.low, n.high, n.usual)));
    return g;
}

std::array<float, 3> readTint(Fields& f, const char* name) {
    std::array<float, 3> tint{1, 1, 1};
    if (!f.has(name)) return tint;
    const Json* list = f.array(name, 3);
    if (list && (list->size() != 3 || !std::all_of(list->begin(), list->end(),
                                                   [](const Json& v) { return v.is_number() && v >= 0 && v <= 1; })))
        f.fail(name, "it is not three numbers from 0 to 1", "write [red, green, blue]");
    else if (list) tint = list->get<std::array<float, 3>>();
    return tint;
}

}  // namespace

Json kindToJson(const Kind& k) {
    const Kind usual;
    Json j = {{"name", k.name}, {"seed", k.seed}};
    if (k.taken) j["shape"] = k.taken.shape->from;
    else j["growth"] = growthToJson(k.growth);
    for (const KindNumber& n : kKindNumbers)
        if (k.*n.value != usual.*n.value) j[n.name] = k.*n.value;
    if (k.turning != usual.turning) j["turning"] = kTurnings[static_cast<size_t>(k.turning)];
    if (k.blocks != usual.blocks) j["blocks"] = kBlocks[static_cast<size_t>(k.blocks)];
    if (k.rows != usual.rows) j["rows"] = kRows[static_cast<size_t>(k.rows)];
    if (k.rowCourse) j["rowCourse"] = k.rowCourse;
    if (k.tintFrom != usual.tintFrom) j["tintFrom"] = k.tintFrom;
    if (k.tintTo != usual.tintTo) j["tintTo"] = k.tintTo;
    for (const KeptOff& o : k.keepsOff) {
        Json kept = {{"what", kKept[static_cast<size_t>(o.what)]}, {"metres", o.metres}};
        if (o.id) kept["id"] = o.id;
        j["keepsOff"].push_back(std::move(kept));
    }
    if (k.hidden) j["hidden"] = true;
    if (k.locked) j["kept"] = true;
    if (k.alive) j["alive"] = true;
    for (const Rule& r : k.rules) j["rules"].push_back(ruleToJson(r));
    if (!k.gone.empty()) j["gone"] = k.gone;
    return j;
}

void readKindFields(Fields& f, Kind& k, std::string* shape) {
    k.name = f.text("name");
    if (shape && f.has("shape")) *shape = f.text("shape");
    else k.growth = readGrowth(f.object("growth"));
    k.seed = static_cast<uint32_t>(f.whole("seed", 0, std::numeric_limits<int>::max(), 1));
    for (const KindNumber& n : kKindNumbers)
        k.*n.value = static_cast<float>(f.number(n.name, n.low, n.high, k.*n.value));
    k.turning = choiceFrom<Turning>(f, "turning", kTurnings, "freely");
    k.blocks = choiceFrom<Blocks>(f, "blocks", kBlocks, "nothing");
    k.rows = choiceFrom<Rows>(f, "rows", kRows, "none");
    k.rowCourse = static_cast<uint32_t>(f.whole("rowCourse", 0, 1 << 30, 0));
    k.tintFrom = readTint(f, "tintFrom");
    k.tintTo = readTint(f, "tintTo");
    if (f.has("keepsOff"))
        f.each("keepsOff", kMostKeepsOff, [&](Fields o) {
            KeptOff kept;
            kept.what = choiceFrom<KeptOff::What>(o, "what", kKept);
            kept.id = static_cast<uint32_t>(o.whole("id", 0, 1 << 30, 0));
            kept.metres = static_cast<float>(o.number("metres", 0, kMostKeptOff));
            k.keepsOff.push_back(kept);
        });
    k.hidden = f.flag("hidden", false);
    k.locked = f.flag("kept", false);
    k.alive = f.flag("alive", false);
    if (f.has("rules")) f.each("rules", kMaxRules, [&](Fields r) { k.rules.push_back(readRule(r)); });
    if (const Json* gone = f.has("gone") ? f.array("gone", kMaxGone) : nullptr) {
        if (!std::all_of(gone->begin(), gone->end(), [](const Json& v) { return v.is_number_unsigned(); }))
            return f.fail("gone", "it is not whole numbers", "leave it out");
        k.gone = gone->get<std::vector<uint64_t>>();
        std::sort(k.gone.begin(), k.gone.end());
        k.gone.erase(std::unique(k.gone.begin(), k.gone.end()), k.gone.end());
    }
}

Json singleToJson(const Single& s) {
    Json j = {{"kind", s.kind}, {"x", s.x}, {"z", s.z}, {"turn", s.turn}, {"size", s.size}};
    if (s.above != 0) j["above"] = s.above;
    if (s.lean != 0) j["lean"] = s.lean;
    if (s.leanTo != 0) j["leanTo"] = s.leanTo;
    if (s.variant) j["variant"] = s.variant;
    if (s.group) j["group"] = s.group;
    return j;
}

void describeSingles(const Level& level, Json& all) {
    Json& list = all["singles"] = Json::array();
    for (const Single& s : level.singles) {
        list.push_back(singleToJson(s));
        list.back()["id"] = s.id;
    }
}

void readSingles(Fields& fields, Level& level) {
    if (!fields.has("singles")) return;
    fields.each("singles", kMaxSingles, [&](Fields f) {
        Single s;
        s.id = static_cast<uint32_t>(f.whole("id", 1, std::max(static_cast<int>(level.nextId) - 1, 1)));
        s.kind = static_cast<uint32_t>(f.whole("kind", 1, 1 << 30));
        s.x = f.number("x", level.originX, level.originX + level.width());
        s.z = f.number("z", level.originZ, level.originZ + level.depth());
        s.turn = static_cast<float>(f.number("turn", 0, 360, 0));
        s.size = static_cast<float>(f.number("size", kLeastSize, kMostSize, 1));
        s.above = static_cast<float>(f.number("above", -kMostSink, 1000, 0));
        s.lean = static_cast<float>(f.number("lean", 0, 90, 0));
        s.leanTo = static_cast<float>(f.number("leanTo", 0, 360, 0));
        s.variant = static_cast<uint8_t>(f.whole("variant", 0, 7, 0));
        s.group = static_cast<uint32_t>(f.whole("group", 0, 1 << 30, 0));
        if (!level.singles.empty() && level.singles.back().id >= s.id)
            f.fail("id", "it is no larger than that of the one before", "give each its own, in order");
        if (!level.kind(s.kind)) f.fail("kind", "there is no such kind", "name a kind of this level");
        level.singles.push_back(s);
    });
}

}  // namespace jam
