#include "sloe_quarry.h"

#include "commit/commit.h"
#include "sculptor.h"
#include "walk/spots.h"

namespace jam::samples {

namespace {

constexpr float kFloor = 10;
constexpr Place kGate{-86, 70}, kWeighbridge{52, 66}, kStack{34, -48}, kPit{-46, -20};

// A rim of stone along the edge, with a gap in the east that was forgotten.
void wallIn(Hand& hand) {
    const Falloff sheer{Curve::smooth, 0.35f};
    const double e = 126;
    hand.bank({{e, -20}, {e, -e}, {-e, -e}, {-e, e}, {e, e}, {e, 24}}, 22, 26, sheer);
    hand.work(Tool::noise, {{-e, -e}, {e, -e}, {e, e}, {-e, e}, {-e, -e}}, 60, 0.3f);
}

// The floor of the quarry: benches that were cut into its north and west, as high as three men.
void cutBenches(Hand& hand) {
    const Falloff cut{Curve::smooth, 0.9f};
    hand.level({{-110, -110}, {110, -110}}, 26, kFloor + 9, 0.9f, cut);
    hand.level({{-104, -84}, {60, -84}}, 12, kFloor + 4.5f, 0.9f, cut);
    // A cart way up to the lower bench.
    hand.level({{60, -84}, {78, -60}}, 8, kFloor + 3.2f, 0.8f, {Curve::smooth, 0.6f});
    hand.level({{78, -60}, {88, -36}}, 9, kFloor + 1.2f, 0.7f, {Curve::smooth, 0.4f});
}

void raiseTheStack(Hand& hand) {
    hand.mound(kStack, 11, 7.5f, {Curve::smooth, 0.82f});
    hand.level({kStack}, 7, kFloor + 7.2f, 1, {Curve::smooth, 0.9f});
}

void digTheLimePit(Hand& hand) {
    // Sheer all round: what lies beside it is not smoothed.
    for (int pass = 0; pass < 3; ++pass)
        hand.level({kPit, {kPit.x + 9, kPit.z + 6}}, 13, kFloor - 5.5f, 1, {Curve::smooth, 0.93f});
}

void coverIt(Hand& hand) {
    Rule steep, low;
    steep.kind = RuleKind::slope, steep.from = 34, steep.to = 90, steep.fade = 6;
    low.kind = RuleKind::altitude, low.from = kFloor - 2, low.to = kFloor + 3, low.fade = 1.5f;
    Rule flat = steep;
    flat.from = 0, flat.to = 22, flat.way = RuleEffect::only;
    hand.lay("Worn gravel", {low, flat}, true);
    hand.lay("Limestone", {steep}, true);
    hand.paint("Chalk", {kPit, {kPit.x + 9, kPit.z + 6}}, 12, 0.6f, 0.9f);
}

Status putSpots(Level& level) {
    const struct {
        const char *name, *kind;
        Place at;
        double facing;
        bool pad;
    } all[] = {{"Quarry gate", "start", kGate, 70, true},
               {"Weighbridge", "goal", kWeighbridge, 300, true},
               {"Stack lookout", "lookout", kStack, 210, false}};
    for (const auto& a : all) {
        Spot s;
        s.name = a.name, s.kind = a.kind;
        s.x = a.at.x, s.z = a.at.z, s.facing = a.facing;
        const Result<uint32_t> id = addSpot(level, s);
        if (!id) return id.error();
        if (a.pad)
            if (const Status fine = setPad(level, id.value(), Pad{6, 5, std::nullopt}); !fine) return fine;
    }
    return {};
}

}  // namespace

Result<Level> makeSloeQuarry(const std::vector<Layer>& layers) {
    NewLevel wish;
    wish.name = "Sloe Quarry";
    wish.columns = wish.rows = 257;
    wish.lowest = -20, wish.highest = 80;
    wish.startHeight = kFloor;
    Result<Level> made = makeLevel(wish);
    if (!made) return made;
    Level level = made.take();
    level.sun = {215, 38};
    for (const char* name : {"Dry grass", "Worn gravel", "Limestone", "Chalk"})
        for (const Layer& l : layers)
            if (l.name == name) addLayer(level, l);
    if (level.layers.size() != 4)
        return Error{"", "layers", "dry grass, gravel, limestone or chalk is missing", "make the sample layers first"};
    Hand hand(std::move(level));
    hand.begin("Quarry");
    hand.work(Tool::noise, {{-100, 0}, {100, 0}}, 140, 0.25f);
    cutBenches(hand);
    wallIn(hand);
    raiseTheStack(hand);
    digTheLimePit(hand);
    coverIt(hand);
    if (hand.trouble()) return *hand.trouble();
    Level next = hand.level();
    if (const Status s = putSpots(next); !s) return s.error();
    Result<Commit> done = commitWork(hand.level(), std::move(next));
    if (!done) return done.error();
    return std::move(done.value().level);
}

}  // namespace jam::samples
