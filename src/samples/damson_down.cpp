#include "damson_down.h"

#include <cmath>
#include <functional>

#include "base/maths.h"
#include "base/noise.h"
#include "clip/set_down.h"
#include "course/bake.h"
#include "cover/course_layers.h"
#include "cover/rules.h"
#include "cover/wash.h"
#include "dressing.h"
#include "fence/fence.h"
#include "level/ground.h"
#include "level/strata.h"
#include "mill_water.h"
#include "places.h"
#include "sculptor.h"
#include "stroke/stroker.h"
#include "survey/slope.h"
#include "texture.h"

namespace jam::samples {

namespace {

constexpr Place kKnoll{-300, -290}, kYard{318, 392};
constexpr float kYardHeight = 21;

// Where the posts of the cart course stand.
const Path kCourse{kKnoll,      {-240, -262}, {-175, -290}, {-112, -262}, {-118, -196}, {-190, -150}, {-232, -92},
                   {-196, -34}, {-112, -40},  {-44, -84},   {30, -92},    {72, -40},    {40, 26},     {-34, 70},
                   {-48, 138},  {22, 178},    {110, 162},   {190, 186},   {252, 248},   {300, 320},   kYard};
const Path& course() {
    static const Path path = curve(kCourse);
    return path;
}
// The course follows the ground, smoothed, but never climbs: where the ground does, it cuts through.
std::vector<float> courseHeights(const Level& level) {
    const Path& path = course();
    std::vector<float> ground, out;
    for (const Place& p : path) ground.push_back(static_cast<float>(altitudeAt(level, p.x, p.z)));
    const int last = static_cast<int>(path.size()) - 1;
    for (int i = 0; i <= last; ++i) {
        double sum = 0, weight = 0;
        for (int k = -9; k <= 9; ++k) {
            const double w = 10 - std::abs(k);
            sum += w * ground[static_cast<size_t>(std::clamp(i + k, 0, last))];
            weight += w;
        }
        float h = static_cast<float>(sum / weight);
        if (i > 0) h = std::min(h, out.back() - 0.12f);
        out.push_back(std::max(h, kYardHeight + 0.02f * static_cast<float>(last - i)));
    }
    return out;
}

void raiseTheDown(Hand& hand) {
    hand.mound({-330, -330}, 450, 78);
    hand.mound({-130, -150}, 360, 40);
    hand.mound({60, 40}, 300, 12);
    // Hills that enclose the level.
    hand.bank(curve({{-500, -470}, {-200, -500}, {150, -480}, {470, -470}, {500, -150}, {505, 200}, {490, 480}}), 120,
              32);
    hand.bank(curve({{-505, -400}, {-500, -60}, {-490, 250}, {-420, 470}, {-80, 505}, {250, 505}, {490, 490}}), 120,
              32);
    hand.bank(curve({{390, -420}, {470, -200}, {480, 40}}), 100, 32);
    hand.bank(curve({{-460, 120}, {-380, 330}, {-220, 440}}), 110, 32);
    hand.bank(curve({{-470, 200}, {-420, 360}, {-300, 470}}), 60, 20);
    // Coombes: dry valleys that run down from the down.
    hand.bank(curve({{-420, -120}, {-300, 10}, {-180, 150}, {-60, 260}, {90, 330}}), 75, -14);
    hand.bank(curve({{-200, -420}, {-60, -360}, {80, -240}, {220, -150}}), 60, -12);
    hand.bank(curve({{-420, 40}, {-330, 100}, {-220, 160}}), 45, -9);
    // Spurs that the course has to find its way round, or through.
    hand.bank(curve({{-30, -310}, {-12, -190}, {-4, -96}, {18, -10}}), 55, 21);
    hand.bank(curve({{-330, 10}, {-220, 70}, {-110, 100}}), 60, 16);
    hand.bank(curve({{60, 250}, {40, 330}, {70, 420}}), 60, 15);
    hand.bank(curve({{180, -300}, {170, -180}, {200, -60}}), 70, 20);
    hand.bank(curve({{-200, 260}, {-120, 330}, {-60, 420}}), 55, 14);
}

// Many small brush marks of changing size, so that nothing looks machine-made.
void roughen(Hand& hand) {
    Dice dice(2024);
    for (int i = 0; i < 1500; ++i) {
        const float size = dice.unit();
        const float radius = 9 + 70 * size * size * size;
        const Place at{dice.between(-512, 512), dice.between(-512, 512)};
        const double metres = (dice.unit() - 0.5) * radius * 0.17;
        if (std::abs(metres) < 0.2) continue;
        const double turn = dice.between(0, 6.28f), reach = radius * dice.between(0.3f, 2.2f);
        hand.bank({at, {at.x + reach * std::cos(turn), at.z + reach * std::sin(turn)}}, radius, metres,
                  {Curve::bell, 1});
    }
}

// Weather: rain on the flanks, ledges of harder stone, banks that crumbled, and the small unevenness of old pasture.
void wear(Hand& hand) {
    const Path flanks[] = {curve({{-430, -200}, {-380, -60}, {-300, 40}, {-200, 110}}),
                           curve({{-160, -440}, {-40, -330}, {60, -230}, {160, -140}}),
                           curve({{-20, -200}, {10, -90}, {60, 20}}),
                           curve({{-470, 120}, {-420, 290}, {-320, 410}, {-160, 470}}),
                           curve({{440, -420}, {470, -240}, {460, -40}, {470, 160}}),
                           curve({{-200, 250}, {-120, 340}, {-40, 430}}),
                           curve({{120, -470}, {260, -440}, {400, -400}})};
    uint32_t seed = 1;
    for (const Path& flank : flanks) {
        ++seed;
        hand.work(Tool::rainWash, flank, 95, 0.3f, [&](StrokeSettings& s) { s.seed = seed; });
        hand.work(Tool::crumble, flank, 80, 0.6f, [](StrokeSettings& s) { s.angle = 33; });
    }
    // Ledges on the far hills, seven metres apart.
    for (const Path& hill : {curve({{430, -330}, {460, -220}, {455, -120}}), curve({{-470, 240}, {-430, 340}})})
        hand.work(Tool::terrace, hill, 46, 0.12f, [](StrokeSettings& s) { s.step = 7, s.riser = 0.35f; });
    for (const Path& row : {Path{{-500, -420}, {500, -420}}, Path{{500, -180}, {-500, -180}},
                            Path{{-500, 60}, {500, 60}}, Path{{500, 290}, {-500, 290}}, Path{{-500, 460}, {500, 460}}})
        hand.work(Tool::noise, row, 170, 0.2f,
                  [](StrokeSettings& s) { s.scale = 9, s.amplitude = 0.5f, s.octaves = 4, s.falloff.softness = 0.6f; });
}

void terrace(Hand& hand) {
    // Orchard terraces step down the south-east flank of the knoll, each held by a dry-stone bank.
    for (int i = 0; i < 9; ++i) {
        const double radius = 126 + 16 * i;
        const Path path = ring({-318, -300}, radius, 146 + i, 214 - 1.5 * i);
        const float height =
            static_cast<float>(altitudeAt(hand.level(), path[path.size() / 2].x, path[path.size() / 2].z));
        hand.level(path, 9, height, 0.4f, {Curve::smooth, 0.5f});
    }
    hand.smooth(ring({-318, -300}, 190, 146, 212), 85, 0.5f, 0.022f);
    hand.smooth(ring({-318, -300}, 190, 146, 212), 85, 0.4f, 0.016f);
    for (int i = 0; i < 5; ++i) {
        const Path path = curve(
            {{96.0 + 16 * i, -150.0 + 26 * i}, {130.0 + 14 * i, -112.0 + 26 * i}, {196.0 + 4 * i, -92.0 + 26 * i}});
        const float height =
            static_cast<float>(altitudeAt(hand.level(), path[path.size() / 2].x, path[path.size() / 2].z));
        hand.level(path, 9.5f, height, 0.4f, {Curve::smooth, 0.5f});
    }
}

// The cart course stands on posts: it can be moved for ever, and its gravel goes with it.
void layCourse(Hand& hand) {
    const std::vector<float> heights = courseHeights(hand.level());
    Course cart;
    for (size_t i = 0; i < kCourse.size(); ++i) {
        const Place at = kCourse[i], before = kCourse[i ? i - 1 : 0],
                    after = kCourse[std::min(i + 1, kCourse.size() - 1)];
        size_t nearest = 0;
        for (size_t k = 0; k < course().size(); ++k)
            if (std::hypot(course()[k].x - at.x, course()[k].z - at.z) <
                std::hypot(course()[nearest].x - at.x, course()[nearest].z - at.z))
                nearest = k;
        Post post;
        post.x = at.x, post.z = at.z;
        post.height = heights[nearest];
        post.width = 11;
        post.shoulder = 15;
        // Banked turns: the outside of each bend lies higher.
        const double ax = at.x - before.x, az = at.z - before.z, bx = after.x - at.x, bz = after.z - at.z;
        const double sharp = (ax * bz - az * bx) / (std::hypot(ax, az) * std::hypot(bx, bz) + 1e-9);
        post.banking = static_cast<float>(std::clamp(-14 * sharp, -10.0, 10.0));
        cart.posts.push_back(post);
    }
    cart.meets = false;  // over the stream, on a bank
    addCourse(hand.level(), "Cart course", std::move(cart));
}

void easeBesideCourse(Hand& hand) {
    const Path& path = course();
    const std::vector<float> heights = courseHeights(hand.level());
    for (size_t i = 0; i + 1 < path.size(); ++i) {
        const Path piece{path[i], path[i + 1]};
        hand.level(piece, 34, heights[i], 0.05f, {Curve::bell, 1});
    }
}

void levelYards(Hand& hand) {
    const auto knoll = static_cast<float>(altitudeAt(hand.level(), kKnoll.x, kKnoll.z));
    hand.level({kKnoll, {kKnoll.x - 12, kKnoll.z - 6}}, 44, knoll, 0.8f, {Curve::smooth, 0.6f});
    hand.level({kYard, {kYard.x + 34, kYard.z + 6}}, 90, kYardHeight, 0.1f, {Curve::smooth, 0.9f});
    hand.level({kYard, {kYard.x + 34, kYard.z + 6}}, 50, kYardHeight, 0.8f, {Curve::smooth, 0.4f});
}

// Dabs of paint wherever `wanted` says how much, over the whole level.
template <class F>
void paintWhere(Hand& hand, const std::string& layer, float radius, F wanted) {
    Dice dice(static_cast<uint32_t>(layer.size()) * 7919);
    for (double z = -508; z <= 508; z += radius * 0.7)
        for (double x = -508; x <= 508; x += radius * 0.7) {
            const Place at{x + dice.between(-0.4f, 0.4f) * radius, z + dice.between(-0.4f, 0.4f) * radius};
            const float amount = wanted(at);
            if (amount > 0.02f) hand.paint(layer, {at}, radius * dice.between(0.8f, 1.3f), std::min(amount, 1.f));
        }
}

void cover(Hand& hand) {
    const auto slope = [&](Place p) { return slopeAt(hand.level(), p.x, p.z); };
    const auto height = [&](Place p) { return altitudeAt(hand.level(), p.x, p.z); };
    const auto patch = [](Place p, double size, uint32_t seed) {
        return fractalNoise(static_cast<float>(p.x / size), static_cast<float>(p.z / size), seed, 3);
    };
    // Dry turf on crests and high ground, where the rain runs off.
    paintWhere(hand, "Dry grass", 11, [&](Place p) {
        const double crest =
            height(p) -
            (height({p.x + 28, p.z}) + height({p.x - 28, p.z}) + height({p.x, p.z + 28}) + height({p.x, p.z - 28})) / 4;
        return static_cast<float>(std::clamp(crest / 6, -0.4, 0.42) +
                                  0.22 * std::clamp((height(p) - 60) / 70, 0.0, 1.0) + 0.7 * patch(p, 46, 5) - 0.22);
    });
    // Berry rows along the terraces, and a field of them above the yard.
    paintWhere(hand, "Orchard soil", 5, [&](Place p) {
        const double r = std::hypot(p.x + 318, p.z + 300), a = std::atan2(p.x + 318, -(p.z + 300)) * kDegrees;
        const bool south = (a > 146 || a < -146) && r > 118 && r < 262;
        return south && slope(p) < 16 ? 0.5f + 0.5f * patch(p, 14, 8) : 0.f;
    });
    for (int row = 0; row < 16; ++row) {
        const double x = 330 + 6.5 * row * 0.55, z = 190 + 6.5 * row;
        const Path line = curve({{x - 62, z + 26}, {x - 20, z + 4}, {x + 24, z - 8}, {x + 70, z - 12}});
        hand.bank(line, 2.2f, 0.45, {Curve::dome, 1});
        hand.paint("Orchard soil", line, 2.1f, 0.35f, 0.95f, {Curve::smooth, 0.7f});
    }
    for (int row = 0; row < 18; ++row) {
        const double x = -250 + 4.0 * row, z = 190 + 6.2 * row;
        const Path line = curve({{x - 60, z - 34}, {x - 10, z - 6}, {x + 40, z - 2}, {x + 86, z - 16}});
        hand.bank(line, 2.2f, 0.45, {Curve::dome, 1});
        hand.paint("Orchard soil", line, 2.1f, 0.35f, 0.95f, {Curve::smooth, 0.7f});
    }
    for (int i = 0; i < 5; ++i)
        hand.paint(
            "Orchard soil",
            curve(
                {{96.0 + 16 * i, -150.0 + 26 * i}, {130.0 + 14 * i, -112.0 + 26 * i}, {196.0 + 4 * i, -92.0 + 26 * i}}),
            8, 0.35f, 0.95f, {Curve::smooth, 0.5f});
    paintWhere(hand, "Limestone", 4, [&](Place p) {
        return static_cast<float>(std::clamp((slope(p) - 31) / 9, 0.0, 1.0) * (0.8 + 0.4 * patch(p, 20, 9)));
    });
    // The cutting shows chalk, and so do scars on the down.
    paintWhere(hand, "Chalk", 4, [&](Place p) {
        const double near = std::hypot(p.x + 4, p.z + 90) / 62;
        return near < 1 && slope(p) > 17
                   ? static_cast<float>((1 - near * near) * std::clamp((slope(p) - 17) / 8, 0.0, 1.0))
                   : 0.f;
    });
    for (const Path& scar :
         {Path{{-420, -180}, {-404, -160}}, Path{{-60, -330}, {-52, -306}}, Path{{430, -60}, {424, -36}}})
        hand.paint("Chalk", scar, 9, 0.2f, 0.9f);
    // A trodden verge; the running line of the carts is laid by the course itself.
    hand.paint("Dry grass", course(), 13, 0.09f, 0.7f);
    hand.paint("Worn gravel", {kKnoll, {kKnoll.x - 12, kKnoll.z - 6}}, 26, 0.3f, 0.9f, {Curve::smooth, 0.6f});
    hand.paint("Worn gravel", {kYard, {kYard.x + 34, kYard.z + 6}}, 42, 0.3f, 0.95f, {Curve::smooth, 0.5f});
    hand.paint("Orchard soil", beside(course(), 2.2), 2.4f, 0.10f, 0.45f);
    hand.paint("Orchard soil", beside(course(), -2.2), 2.4f, 0.10f, 0.45f);
    // Footpaths from the yard to the pond and up to the cutting lead the eye.
    hand.paint("Worn gravel", curve({kYard, {270, 372}, {222, 352}, {196, 330}}), 3, 0.3f, 0.8f);
    // The one up the bank is kept easy enough to walk.
    hand.work(Tool::slope, curve({{-60, -100}, {-90, -130}, {-150, -220}, {-222, -260}}), 9, 0.3f,
              [](StrokeSettings& s) { s.angle = 28, s.falloff.softness = 0.5f; });
    hand.paint("Orchard soil", curve({{-44, -84}, {-90, -130}, {-150, -220}, {-230, -262}}), 2.6f, 0.25f, 0.8f);
}

Rule rule(RuleKind kind, float from, float to, float fade, RuleEffect way = RuleEffect::add) {
    Rule r;
    r.kind = kind;
    r.way = way;
    r.from = from, r.to = to, r.fade = fade;
    return r;
}

Rule patches(float share, float size, uint32_t seed, RuleEffect way = RuleEffect::only) {
    Rule r = rule(RuleKind::noise, 0, share, 0.12f, way);
    r.scale = size;
    r.seed = seed;
    return r;
}

Rule near(uint32_t layer, float metres, float fade, RuleEffect way = RuleEffect::add) {
    Rule r = rule(RuleKind::layer, 0, metres, fade, way);
    r.layer = layer;
    return r;
}

Rule awayFrom(uint32_t course, float metres) {
    Rule r = rule(RuleKind::course, 0, metres, 6, RuleEffect::never);
    r.layer = course;
    return r;
}

// What rules lay better than a hand: moss on the shady side of rock, rubble below it, clover in the meadows, leaves by
// the water.
void layByRule(Hand& hand) {
    hand.lay("Pond silt", {rule(RuleKind::depth, 0.1f, 200, 0.3f), rule(RuleKind::shore, -1, 0.6f, 1.2f)}, true);
    const uint32_t rock = hand.layer("Limestone");
    hand.lay("Clover",
             {patches(0.3f, 34, 21, RuleEffect::add), rule(RuleKind::slope, 0, 13, 6, RuleEffect::only),
              patches(0.55f, 6, 22)},
             false);
    hand.lay("Leaf litter",
             {rule(RuleKind::shore, 2, 9, 9), rule(RuleKind::slope, 0, 26, 8, RuleEffect::only), patches(0.3f, 16, 23),
              awayFrom(streamBed(hand.level()), 14)},
             false);
    hand.lay("Scree", {near(rock, 3, 5), rule(RuleKind::slope, 20, 33, 5, RuleEffect::only), patches(0.55f, 9, 24)},
             true);
    hand.lay("Moss",
             {near(rock, 0, 1.5f), rule(RuleKind::facing, 290, 70, 35, RuleEffect::only),
              rule(RuleKind::slope, 16, 62, 8, RuleEffect::only), patches(0.6f, 7, 25)},
             true);
}

// Straw between the berry rows, cobbles where the carts are put away, and the year's colours over all.
void finishByHand(Hand& hand) {
    for (int row = 0; row < 15; ++row) {
        const double x = 330 + 6.5 * (row + 0.5) * 0.55, z = 190 + 6.5 * (row + 0.5);
        hand.paint("Straw mulch", curve({{x - 58, z + 24}, {x - 20, z + 4}, {x + 24, z - 8}, {x + 66, z - 12}}), 2.2f,
                   0.3f, 0.9f, {Curve::smooth, 0.7f});
    }
    hand.paint("Cobbles", {{kYard.x + 30, kYard.z - 8}, {kYard.x + 48, kYard.z + 16}}, 17, 0.4f, 1,
               {Curve::smooth, 0.25f});
    hand.paint("Cobbles", {kKnoll, {kKnoll.x - 9, kKnoll.z - 4}}, 12, 0.4f, 1, {Curve::smooth, 0.25f});
    const Level ground = hand.level();
    // Sun-baked slopes to the south and west; lush ground in the hollows that hold water.
    hand.wash({0.71f, 0.60f, 0.33f}, [&](Place p) {
        const Gradient g = gradientAt(ground, p.x, p.z);
        return static_cast<float>(0.27 * std::clamp(1.6 * (-g.south - 0.7 * g.east) - 0.16, 0.0, 1.0));
    });
    hand.wash({0.30f, 0.44f, 0.17f}, [&](Place p) {
        const double h = altitudeAt(ground, p.x, p.z),
                     around = (altitudeAt(ground, p.x + 26, p.z) + altitudeAt(ground, p.x - 26, p.z) +
                               altitudeAt(ground, p.x, p.z + 26) + altitudeAt(ground, p.x, p.z - 26)) /
                              4;
        return static_cast<float>(0.38 * std::clamp((around - h - 1.2) / 5, 0.0, 1.0));
    });
}

// The fence round the orchard terraces, kept for who works there next.
void keepOrchard(Level& level) {
    std::vector<MapPlace> corners;
    for (const Place& p : ring({-318, -300}, 268, 142, 218)) corners.push_back({p.x, p.z});
    const Path inner = ring({-318, -300}, 112, 218, 142);
    for (const Place& p : inner) corners.push_back({p.x, p.z});
    joinFence(level, insidePolygon(level, std::move(corners)), FenceJoin::replace);
    featherFence(level, 3);
    keepFence(level, "Orchard terraces");
    level.fence = Fence(level.columns, level.rows, 0);
    level.fenced = false;
}

// The jam cellar: a ramp from the yard into the rising ground, and the opening at its end.
void digCellar(Hand& hand) {
    Course ramp;
    for (const auto& [x, height] :
         {std::pair{kYard.x + 36, kYardHeight}, {kYard.x + 46, kYardHeight - 0.6f}, {kYard.x + 58, kYardHeight - 2.2f}})
        ramp.posts.push_back({x, kYard.z - 6, height, 3.6f, 1.2f, 0});
    ramp.smooth = false;
    addCourse(hand.level(), "Cellar ramp", std::move(ramp));
    const double end = kYard.x + 58;
    hand.work(Tool::openUp, {{end + 2.2, kYard.z - 6}, {end + 4, kYard.z - 6}}, 1.9f, 1,
              [](StrokeSettings& s) { s.falloff.softness = 0.2f; });
    hand.paint("Cobbles", {{kYard.x + 34, kYard.z - 6}, {end, kYard.z - 6}}, 2.6f, 0.8f, 1, {Curve::smooth, 0.4f});
}

// Walls along two of the orchard terraces: the clip that comes with the program, repeated.
Result<Level> buildWalls(Level level, const Level& wall) {
    SetDownWish wish;
    wish.join = ClipJoin::add;
    for (const int i : {4, 8}) {
        std::vector<MapPlace> line;
        for (const Place& p : ring({-318, -300}, 126 + 16 * i + 7.5, 151 + i, 209 - 1.5 * i))
            line.push_back({p.x, p.z});
        const Result<std::vector<Placement>> places = placesAlong(line, 8.5, {});
        if (!places) return places.error();
        wish.stratum = i == 4 ? "Walls" : "";
        Result<Level> built = setDown(level, wall, places.value(), wish);
        if (!built) return built;
        level = built.take();
    }
    for (const Stratum& s : level.strata)
        if (s.name == "Ground") level.activeStratum = s.id;
    return level;
}

}  // namespace

Result<Level> makeDamsonDown(const std::vector<Layer>& layers, const Level& wall) {
    NewLevel wish;
    wish.name = "Damson Down";
    wish.columns = wish.rows = 1025;
    wish.lowest = -60;
    wish.highest = 200;
    wish.startHeight = 20;
    Result<Level> made = makeLevel(wish);
    if (!made) return made;
    Level level = made.take();
    level.sun = {248, 24};
    for (const Layer& l : layers) addLayer(level, l);
    // Clover and leaves lie under paths and rock; moss and cobbles over all.
    for (const char* under : {"Leaf litter", "Clover"})
        for (size_t i = 0; i < level.layers.size(); ++i)
            if (level.layers[i].name == under) static_cast<void>(moveLayer(level, level.layers[i].id, 1));
    Hand hand(std::move(level));
    raiseTheDown(hand);
    roughen(hand);
    hand.begin("Gullies");
    wear(hand);
    hand.begin("Ground");
    levelYards(hand);
    hand.begin("Terraces");
    terrace(hand);
    hand.begin("Ground");
    shapeValley(hand);
    easeBesideCourse(hand);
    levelYards(hand);
    letWaterIn(hand);
    layCourse(hand);
    cover(hand);
    layByRule(hand);
    finishByHand(hand);
    digCellar(hand);
    // The course's own layer comes last, so that the strokes above need not wait for it.
    for (const Stratum& s : hand.level().strata)
        if (s.course && s.name == "Cart course") {
            layOnCourse(hand.level(), s.id, hand.layer("Worn gravel"), 0);
            break;
        }
    fillDewPond(hand.level());
    refreshLaid(hand.level(), hand.layer("Pond silt"));
    // A beach of gravel round the ponds, by rules before the course's.
    Layer& gravel = *hand.level().layer(hand.layer("Worn gravel"));
    gravel.rules.insert(gravel.rules.begin(),
                        {rule(RuleKind::shore, -0.5f, 2.6f, 1.6f), awayFrom(streamBed(hand.level()), 6)});
    refreshLaid(hand.level(), gravel.id);
    keepOrchard(hand.level());
    if (hand.trouble()) return *hand.trouble();
    Result<Level> walled = buildWalls(std::move(hand.level()), wall);
    if (!walled) return walled;
    Result<Level> playable = makePlayable(walled.take());
    if (!playable) return playable;
    Level dressed = playable.take();
    if (const Status s = dressDown(dressed); !s) return s.error();
    return dressed;
}

}  // namespace jam::samples
