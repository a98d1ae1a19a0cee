#include "dress/kinds.h"

#include <algorithm>
#include <cmath>

#include "base/names.h"
#include "base/range.h"
#include "base/text.h"
#include "course/footprint.h"
#include "cover/course_layers.h"
#include "dress/plantings.h"
#include "grow/recipe.h"
#include "level/ground.h"
#include "level/things.h"

namespace jam {

namespace {

bool kindNamed(const Level& level, const std::string& name, uint32_t self) {
    return std::any_of(level.kinds.begin(), level.kinds.end(),
                       [&](const Kind& k) { return k.id != self && k.name == name; });
}

}  // namespace

Status checkKind(const Level& level, const Kind& k, uint32_t self) {
    if (k.name.empty()) return Error{"", "name", "the kind has none", "give it one"};
    if (const Status s = checkName(k.name); !s) return s;
    if (kindNamed(level, k.name, self))
        return Error{"", "name", "another kind is called \"" + k.name + "\" already", "choose another name"};
    for (const KindNumber& n : kKindNumbers)
        if (const Status s = checkRange(k.name + ", " + n.name, k.*n.value, n.low, n.high, n.unit); !s) return s;
    if (k.sizeFrom > k.sizeTo)
        return Error{"", k.name + ", size", "it ends below where it begins", "give the second at least the first"};
    if (k.clump > 0 && static_cast<double>(k.clump) < kLeastClump)
        return Error{"", k.name + ", clump", "it is " + number(k.clump) + " m", "use 0, or at least 1 m"};
    for (const auto* tint : {&k.tintFrom, &k.tintTo})
        for (const float c : *tint)
            if (const Status s = checkRange(k.name + ", tint", c, 0, 1, ""); !s) return s;
    if (k.keepsOff.size() > kMostKeepsOff)
        return Error{"", k.name + ", keepsOff", "there are " + std::to_string(k.keepsOff.size()),
                     "keep it off at most " + std::to_string(kMostKeepsOff) + " things"};
    for (const KeptOff& o : k.keepsOff)
        if (const Status s = checkRange(k.name + ", keepsOff", o.metres, 0, kMostKeptOff, " m"); !s) return s;
    if (k.rules.size() > kMaxRules)
        return Error{"", k.name + ", rules", "there are more than " + std::to_string(kMaxRules), "delete some"};
    if (k.gone.size() > kMaxGone)
        return Error{"", k.name + ", gone", "there are more than " + std::to_string(kMaxGone), "clear them away"};
    if (k.taken) return {};
    if (const Status s = checkGrowth(k.growth); !s)
        return Error{"", k.name + ", " + s.error().field, s.error().problem, s.error().remedy};
    return {};
}

Result<uint32_t> addKind(Level& level, Kind kind) {
    if (level.kinds.size() >= kMaxKinds)
        return Error{"", "kinds", "there are " + std::to_string(kMaxKinds) + " already", "delete one first"};
    if (const Status s = checkKind(level, kind); !s) return s.error();
    kind.id = level.nextId++;
    kind.coverage = TiledGrid<uint16_t>(level.coverColumns(), level.coverRows(), 0);
    kind.alive = true;
    kind.base = kind.held = kind.coverage;
    kind.sizes = TiledGrid<uint16_t>(level.coverColumns(), level.coverRows(), kSameSize);
    kind.gone.clear();
    level.kinds.push_back(std::move(kind));
    return level.kinds.back().id;
}

Status removeKind(Level& level, uint32_t id) {
    const int index = level.kindIndex(id);
    if (index < 0) return goneError(ThingKind::kind);
    if (const int at = footprintPlace(level, id); at >= 0) {
        layOnCourse(level, level.strata[static_cast<size_t>(at)].id, 0, 0);
        (void)setFootprint(level, id, std::nullopt);
    }
    level.kinds.erase(level.kinds.begin() + index);
    std::erase_if(level.singles, [id](const Single& s) { return s.kind == id; });
    for (Kind& k : level.kinds)
        std::erase_if(k.keepsOff, [id](const KeptOff& o) { return o.what == KeptOff::What::kind && o.id == id; });
    return {};
}

Result<uint32_t> duplicateKind(Level& level, uint32_t id) {
    const int index = level.kindIndex(id);
    if (index < 0) return goneError(ThingKind::kind);
    Kind copy = level.kinds[static_cast<size_t>(index)];
    copy.name = freeKindName(level, copy.name);
    copy.locked = false;
    copy.rules.clear();
    const Result<uint32_t> made = addKind(level, std::move(copy));
    if (made) (void)moveKind(level, made.value(), index + 1);
    return made;
}

Status moveKind(Level& level, uint32_t id, int to) {
    const int from = level.kindIndex(id);
    if (from < 0) return goneError(ThingKind::kind);
    to = std::clamp(to, 0, static_cast<int>(level.kinds.size()) - 1);
    if (from == to) return {};
    Kind moved = std::move(level.kinds[static_cast<size_t>(from)]);
    level.kinds.erase(level.kinds.begin() + from);
    level.kinds.insert(level.kinds.begin() + to, std::move(moved));
    return {};
}

Status changeKind(Level& level, const Kind& as) {
    Kind* k = level.kind(as.id);
    if (!k) return goneError(ThingKind::kind);
    if (const Status s = checkKind(level, as, as.id); !s) return s;
    Kind next = as;
    static_cast<Ruled&>(next) = *k;
    next.locked = as.locked;
    next.density = k->density;
    next.gone = k->gone;
    next.sizes = k->sizes;
    *k = std::move(next);
    return {};
}

std::string freeKindName(const Level& level, const std::string& wish) {
    return freeName(wish, [&](const std::string& name) { return kindNamed(level, name, 0); });
}

float heightOf(const Kind& kind) { return meshesOf(kind)->height; }

float largestOf(const Level& level, const Kind& kind) {
    float most = 0;
    if (kind.coverage.presentTiles() > 0 || kind.coverage.defaultValue() > 0)
        most = std::min(kind.sizeTo * (kind.sizes.presentTiles() > 0 ? static_cast<float>(kMostResized) : 1.f),
                        static_cast<float>(kMostSize));
    for (const Single& s : level.singles)
        if (s.kind == kind.id) most = std::max(most, s.size);
    return most;
}

Standing standingOf(const Level& level) {
    Standing most;
    for (const Kind& k : level.kinds) {
        if (k.hidden) continue;
        const float size = largestOf(level, k);
        float above = 0;
        for (const Single& s : level.singles)
            if (s.kind == k.id) above = std::max(above, s.above);
        if (size == 0) continue;
        const auto grown = meshesOf(k);
        // However one leans, it reaches no farther than it is tall and wide.
        const float all = size * std::hypot(grown->height, grown->radius);
        most.up = std::max(most.up, all + above);
        most.aside = std::max(most.aside, all);
    }
    return most;
}

Status checkSingle(const Level& level, const Single& s) {
    const Kind* k = level.kind(s.kind);
    if (!k) return goneError(ThingKind::kind);
    if (!level.holds(s.x, s.z)) return Error{"", k->name, "it lies outside of the level", "put it on the ground"};
    const Status all[] = {checkRange(k->name + ", turn", s.turn, 0, 360, " degrees"),
                          checkRange(k->name + ", size", s.size, kLeastSize, kMostSize, ""),
                          checkRange(k->name + ", above", s.above, -kMostSink, 1000, " m"),
                          checkRange(k->name + ", lean", s.lean, 0, 90, " degrees"),
                          checkRange(k->name + ", leanTo", s.leanTo, 0, 360, " degrees"),
                          checkRange(k->name + ", variant", s.variant, 0, 7, "")};
    for (const Status& one : all)
        if (!one) return one;
    return {};
}

Status checkSinglesLeft(const Level& level) {
    if (level.singles.size() < kMaxSingles) return {};
    return Error{"", "singles", "there are " + std::to_string(kMaxSingles) + " already that were put down one by one",
                 "delete some first, or plant by density"};
}

Result<uint32_t> putSingle(Level& level, Single s) {
    if (const Status room = checkSinglesLeft(level); !room) return room.error();
    if (const Status fine = checkSingle(level, s); !fine) return fine.error();
    s.id = level.nextId++;
    level.singles.push_back(s);
    return s.id;
}

Status removeSingle(Level& level, uint32_t id) {
    if (std::erase_if(level.singles, [id](const Single& s) { return s.id == id; }) == 0)
        return goneError(ThingKind::single);
    return {};
}

Status changeSingle(Level& level, const Single& as) {
    Single* s = level.single(as.id);
    if (!s) return goneError(ThingKind::single);
    if (const Status fine = checkSingle(level, as); !fine) return fine;
    *s = as;
    return {};
}

Status takeAway(Level& level, uint32_t kind, const Planting& p) {
    Kind* k = level.kind(kind);
    if (!k) return goneError(ThingKind::kind);
    if (k->locked) return Error{"", k->name, "it is protected", "let it go in the sheet to change it"};
    if (p.single) return removeSingle(level, p.single);
    if (k->gone.size() >= kMaxGone)
        return Error{"", k->name, "too many were taken one by one", "thin or clear with a brush"};
    const auto at = std::lower_bound(k->gone.begin(), k->gone.end(), p.place);
    if (at == k->gone.end() || *at != p.place) k->gone.insert(at, p.place);
    return {};
}

Result<uint32_t> takeUp(Level& level, uint32_t kind, const Planting& p) {
    if (p.single) return Error{"", "", "it is a single already", "move it as it is"};
    const Kind* k = level.kind(kind);
    if (!k) return goneError(ThingKind::kind);
    Single s;
    s.kind = kind;
    s.x = p.x, s.z = p.z;
    s.turn = p.turn;
    s.size = std::clamp(p.size, static_cast<float>(kLeastSize), static_cast<float>(kMostSize));
    s.lean = p.lean, s.leanTo = p.leanTo;
    s.variant = p.variant;
    Level next = level;
    if (const Status gone = takeAway(next, kind, p); !gone) return gone.error();
    const Result<uint32_t> id = putSingle(next, s);
    if (id) level = std::move(next);
    return id;
}

}  // namespace jam
