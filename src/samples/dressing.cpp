#include "dressing.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "commit/commit.h"
#include "course/line.h"
#include "cover/rules.h"
#include "dress/figures.h"
#include "dress/kinds.h"
#include "dress/shipped_kinds.h"
#include "level/ground.h"
#include "level/opening.h"

namespace jam::samples {

namespace {

class Dresser {
public:
    explicit Dresser(Level& level) : level_(level) {}

    // Adds a shipped kind, changed, with its rules.
    template <class Change>
    uint32_t add(const char* name, float onHundred, Change change, std::vector<Rule> rules = {}) {
        const auto& all = shippedKinds();
        Kind kind = *std::find_if(all.begin(), all.end(), [&](const Kind& k) { return k.name == name; });
        kind.density = onHundred;
        change(kind);
        const Result<uint32_t> id = addKind(level_, std::move(kind));
        note(id ? Status() : id.error());
        if (!id) return 0;
        changeRules(level_, id.value(), std::move(rules));
        return id.value();
    }
    void put(uint32_t kind, double x, double z, double turn, double size = 1) {
        Single s;
        s.kind = kind, s.x = x, s.z = z;
        s.turn = static_cast<float>(std::fmod(turn + 720, 360)), s.size = static_cast<float>(size);
        const Result<uint32_t> id = putSingle(level_, s);
        note(id ? Status() : id.error());
    }
    uint32_t layer(const char* name) const {
        for (const Layer& l : level_.layers)
            if (l.name == name) return l.id;
        return 0;
    }
    const Status& trouble() const { return trouble_; }

private:
    void note(const Status& s) {
        if (trouble_) trouble_ = s;
    }
    Level& level_;
    Status trouble_;
};

Rule where(RuleKind kind, float from, float to, float fade, RuleEffect way = RuleEffect::add, uint32_t of = 0) {
    Rule r;
    r.kind = kind, r.way = way;
    r.from = from, r.to = to, r.fade = fade;
    r.layer = of;
    return r;
}
Rule patches(float to, float scale, uint32_t seed, RuleEffect way) {
    Rule r = where(RuleKind::noise, 0, to, 0.08f, way);
    r.scale = scale, r.seed = seed;
    return r;
}
KeptOff off(KeptOff::What what, float metres, uint32_t id = 0) { return {what, id, metres}; }

constexpr auto only = RuleEffect::only, never = RuleEffect::never;
using What = KeptOff::What;

void plant(Dresser& d) {
    const uint32_t soil = d.layer("Orchard soil"), scree = d.layer("Scree"), meadow = d.layer("Meadow grass");
    const uint32_t damson = d.add(
        "Damson tree", 4,
        [](Kind& k) {
            k.rows = Rows::direction, k.rowApart = 6.5f, k.inRow = 4.5f, k.rowDirection = 20;
            k.keepsOff = {off(What::course, 2.5f), off(What::water, 3), off(What::spot, 9), off(What::edge, 6)};
        },
        {where(RuleKind::layer, 0, 9, 4, RuleEffect::add, soil), where(RuleKind::slope, 0, 24, 5, only)});
    d.add("Ash", 0.5f,
          [&](Kind& k) {
              k.keepsOff = {off(What::course, 5), off(What::water, 2), off(What::spot, 14), off(What::edge, 8),
                            off(What::kind, 7, damson)};
          },
          {patches(0.22f, 90, 4, RuleEffect::add), where(RuleKind::slope, 0, 30, 6, only)});
    d.add("Bare thorn", 0.5f,
          [&](Kind& k) {
              k.keepsOff = {off(What::course, 4), off(What::edge, 5), off(What::kind, 5, damson)};
          },
          {where(RuleKind::altitude, 80, 200, 12), patches(0.3f, 50, 8, only), where(RuleKind::slope, 0, 34, 6, only)});
    d.add("Bramble", 2.5f,
          [&](Kind& k) {
              k.keepsOff = {off(What::course, 1.5f), off(What::spot, 6), off(What::water, 0.5f)};
          },
          {where(RuleKind::slope, 18, 50, 6), patches(0.3f, 40, 9, only)});
    d.add("Meadow tuft", 12,
          [&](Kind& k) {
              k.keepsOff = {off(What::course, 0.3f), off(What::water, 0), off(What::edge, 2)};
          },
          {where(RuleKind::layer, 0, 0, 2, RuleEffect::add, meadow), where(RuleKind::slope, 0, 40, 8, only)});
    d.add("Ox-eye daisies", 5,
          [&](Kind& k) {
              k.keepsOff = {off(What::course, 0.5f), off(What::water, 0), off(What::edge, 2)};
          },
          {where(RuleKind::layer, 0, 0, 1, RuleEffect::add, meadow), patches(0.3f, 70, 3, only)});
    d.add("Reeds", 150, [](Kind& k) { k.keepsOff = {off(What::course, 0)}; },
          {where(RuleKind::shore, -2.6f, 0.5f, 0.8f)});
    d.add("Pond leaves", 24, [](Kind&) {}, {where(RuleKind::depth, 0.55f, 1.2f, 0.2f)});
    d.add("Flints", 14, [](Kind& k) { k.keepsOff = {off(What::course, 0)}; },
          {where(RuleKind::layer, 0, 0, 2, RuleEffect::add, scree)});
    d.add("Boulder", 0.3f,
          [](Kind& k) {
              k.keepsOff = {off(What::course, 3), off(What::spot, 6), off(What::edge, 25)};
          },
          {where(RuleKind::layer, 0, 2, 3, RuleEffect::add, scree)});
}

// Bales where the course turns sharply, on the outside, and rails along the rest of the bend.
void guardBends(Dresser& d, const Level& level) {
    const auto lane = std::find_if(level.strata.begin(), level.strata.end(),
                                   [](const Stratum& s) { return s.course && s.name == "Cart course"; });
    if (lane == level.strata.end()) return;
    const uint32_t bale = d.add("Straw bale", 0, [](Kind&) {}),
                   post = d.add("Post and rails", 0, [](Kind&k) { k.rows = Rows::none; });
    const std::vector<LinePoint> line = lineOf(level, static_cast<size_t>(lane - level.strata.begin()));
    const auto heading = [&](size_t i) {
        return std::atan2(line[i + 1].x - line[i].x, -(line[i + 1].z - line[i].z)) * kDegrees;
    };
    constexpr double kSpan = 14, kApart = 2.5, kSharp = 26, kBend = 15;
    double next = 0;
    size_t ahead = 0;
    for (size_t i = 0; i + 2 < line.size(); ++i) {
        while (ahead + 2 < line.size() && line[ahead].along < line[i].along + kSpan) ++ahead;
        if (line[i].along < next || ahead + 2 >= line.size()) continue;
        const double bends = std::remainder(heading(ahead) - heading(i), 360);
        if (std::abs(bends) < kBend) continue;
        // In the middle of what was looked at, on the side that it turns away from.
        size_t middle = i;
        while (line[middle].along < line[i].along + kSpan / 2) ++middle;
        const double a = heading(middle), side = bends > 0 ? -1 : 1, out = line[middle].width / 2 + 1.1;
        const double x = line[middle].x + side * out * std::cos(a * kRadians),
                     z = line[middle].z + side * out * std::sin(a * kRadians);
        if (!level.holds(x, z) || !groundAt(level, x, z)) continue;
        if (std::abs(bends) >= kSharp) {
            d.put(bale, x, z, a);
            next = line[i].along + 1.3;
        } else {
            // The rails stand on the side of the course.
            d.put(post, x, z, a + (side > 0 ? 180 : 0));
            next = line[i].along + kApart;
        }
    }
}

}  // namespace

Status dressDown(Level& level) {
    const Level before = level;
    Dresser d(level);
    plant(d);
    guardBends(d, level);
    const uint32_t hut = d.add("Start hut", 0, [](Kind&) {}), kitchen = d.add("Jam kitchen", 0, [](Kind&) {});
    for (const Spot& s : level.spots) {
        if (s.kind == "start") d.put(hut, s.x - 12, s.z - 8, 120);
        if (s.kind == "goal") d.put(kitchen, s.x + 16, s.z + 12, 215);
    }
    if (!d.trouble()) return d.trouble();
    settleSingles(level);
    Result<Commit> done = commitWork(before, std::move(level));
    if (!done) return done.error();
    level = std::move(done.value().level);
    return {};
}

}  // namespace jam::samples
