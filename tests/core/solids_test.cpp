// What stands on the ground and blocks: who walks goes round it, stands on it, and reach agrees.
#include <catch2/catch.hpp>

#include "dress/kinds.h"
#include "grow/recipe.h"
#include "walk/on_top.h"
#include "walk/solids.h"
#include "walk_levels.h"

using namespace jam;
using namespace jam::test;

namespace {

uint32_t blockingKind(Level& l, Blocks blocks, double radius, double height, const char* recipe = "post") {
    Kind k;
    k.name = freeKindName(l, "Block");
    k.growth = usualGrowth(*recipeNamed(recipe));
    k.growth.variants = 1;
    k.sink = 0;
    k.blocks = blocks;
    k.blockRadius = static_cast<float>(radius), k.blockHeight = static_cast<float>(height);
    const Result<uint32_t> id = addKind(l, std::move(k));
    REQUIRE(id);
    return id.value();
}

void putOne(Level& l, uint32_t kind, double x, double z, double turn = 0, double size = 1) {
    Single s;
    s.kind = kind, s.x = x, s.z = z;
    s.turn = static_cast<float>(turn), s.size = static_cast<float>(size);
    REQUIRE(putSingle(l, s));
}

WalkInput leaping(double degrees, bool jump) {
    WalkInput in = towards(degrees);
    in.jump = jump;
    return in;
}

// How deep a body is inside of what bars it there; slow: over all of them.
double insideOf(Solids& all, const WalkState& s, const Body& body) {
    double most = 0;
    all.each([&](const Solid& solid) {
        if (solid.bars(s.y + static_cast<double>(body.step) + 0.01, s.y + static_cast<double>(body.height)))
            most = std::max(most, static_cast<double>(body.radius) - solid.away(s.x, s.z).metres);
    });
    return most;
}

}  // namespace

TEST_CASE("outlines: how far a place is from one, from every side, turned and sized") {
    Level l = flatLevel(60, 40, 1);
    l.originX = 300, l.originZ = -80;
    const uint32_t hut = blockingKind(l, Blocks::box, 1, 2, "hut");
    putOne(l, hut, 330, -60, 30, 1.5);
    Solids all(l);
    std::vector<Solid> found;
    all.each([&](const Solid& s) { found.push_back(s); });
    REQUIRE(found.size() == 1);
    const Solid& s = found[0];
    REQUIRE(s.outline.size() == 4);
    CHECK(s.top - s.foot == Approx(3));
    // A slow oracle: the nearest of many points along the sides.
    Random random(4);
    for (int n = 0; n < 300; ++n) {
        const double x = between(random, 320, 340), z = between(random, -70, -50);
        double nearest = 1e30;
        bool inside = true;
        for (size_t i = 0; i < 4; ++i) {
            const auto &a = s.outline[i], &b = s.outline[(i + 1) % 4];
            for (int k = 0; k <= 4000; ++k) {
                const double t = k / 4000.0;
                nearest = std::min(nearest, std::hypot(a[0] + t * (b[0] - a[0]) - x, a[1] + t * (b[1] - a[1]) - z));
            }
            inside = inside && (b[0] - a[0]) * (z - a[1]) - (b[1] - a[1]) * (x - a[0]) > 0;
        }
        const Solid::Away away = s.away(x, z);
        CAPTURE(x, z);
        CHECK(away.metres == Approx(inside ? -nearest : nearest).margin(0.01));
        CHECK(std::hypot(away.east, away.south) == Approx(1));
        // That way leads away.
        CHECK(s.away(x + 0.05 * away.east, z + 0.05 * away.south).metres == Approx(away.metres + 0.05).margin(1e-6));
    }
    // Its long side runs to 30 degrees and not to -30.
    const auto &a = s.outline[0], &b = s.outline[1];
    const double way = std::fmod(std::atan2(b[0] - a[0], a[1] - b[1]) * kDegrees + 360, 180);
    CHECK((way == Approx(30).margin(0.01) || way == Approx(120).margin(0.01)));
}

TEST_CASE("nobody walks through a trunk or a hut, whichever way they come, and they slide along it", "[property]") {
    Random random(11);
    for (int k = 0; k < 24; ++k) {
        Level l = k % 2 ? flatLevel(70, 70, 1) : brokenLevel(70, 70, static_cast<uint32_t>(k) + 3);
        l.originX = -512, l.originZ = 77;
        const uint32_t trunk = blockingKind(l, k % 3 ? Blocks::cylinder : Blocks::capsule, 0.4, 3),
                       hut = blockingKind(l, k % 3 ? Blocks::box : Blocks::hull, 1, 2.4, "hut");
        for (int n = 0; n < 30; ++n)
            putOne(l, n % 5 ? trunk : hut, l.originX + between(random, 3, 66), l.originZ + between(random, 3, 66),
                   between(random, 0, 360), between(random, 0.6, 2));
        Solids all(l);
        const Body& body = kBodies[static_cast<size_t>(k % 3)];
        for (int n = 0; n < 6; ++n) {
            double x, z;
            WalkState at;
            do {
                x = l.originX + between(random, 5, 64), z = l.originZ + between(random, 5, 64);
                at = Walker(l, body, x, z).state();
            } while (insideOf(all, at, body) > 0);
            Walker w(l, body, x, z);
            for (int i = 0; i < 12; ++i) {
                WalkInput in = leaping(between(random, 0, 360), between(random, 0, 1) < 0.3);
                in.run = between(random, 0, 1) < 0.5;
                double before = 1e30;
                for (int step = 0; step < 90; ++step) {
                    w.step(in);
                    const bool firm = w.state().gait == Gait::firm;
                    const double inside = insideOf(all, w.state(), body);
                    CAPTURE(k, n, i, step, w.state().x, w.state().z);
                    // Who has fallen past one comes out of it.
                    if (firm) REQUIRE(inside < std::max(0.02, before - 0.01));
                    before = firm ? inside : 1e30;
                }
            }
        }
    }
}

TEST_CASE("who comes upon a trunk askew goes on past it, and straight on stops") {
    Level l = flatLevel(60, 60, 1);
    const uint32_t trunk = blockingKind(l, Blocks::cylinder, 0.5, 3);
    putOne(l, trunk, 0, 0);
    Walker askew(l, kBodies[0], 0.3, 8);
    goOn(askew, towards(0), 7);
    CHECK(askew.state().z < -4);
    CHECK(askew.state().x > 0.8);
    CHECK(askew.state().x < 1);
    Walker straight(l, kBodies[0], 0, 8);
    goOn(straight, towards(0), 7);
    CHECK(straight.state().z == Approx(0.85).margin(0.05));
    // Another body keeps its own girth.
    Walker cart(l, kBodies[2], 0, 8);
    goOn(cart, towards(0), 7);
    CHECK(cart.state().z == Approx(1.2).margin(0.06));
}

TEST_CASE("low boxes are stepped on, higher ones jumped on, the highest neither; what is round on top carries nobody") {
    const auto tryOn = [](Blocks blocks, double height, bool jump) {
        Level l = flatLevel(60, 60, 1);
        const uint32_t box = blockingKind(l, blocks, 3, height);
        if (blocks == Blocks::box) l.kind(box)->growth = usualGrowth(*recipeNamed("hut"));
        putOne(l, box, 0, 0);
        Walker w(l, kBodies[0], 0, 9);
        double highest = -100;
        for (int i = 0; i < 8 * Walker::kStepsASecond; ++i) {
            w.step(leaping(0, jump && i % 40 < 20));
            if (w.state().gait == Gait::firm) highest = std::max(highest, w.state().y);
        }
        return std::pair(highest, w.state().z);
    };
    for (const Blocks blocks : {Blocks::cylinder, Blocks::box}) {
        // Over it, and down again on the other side.
        CHECK(tryOn(blocks, 0.3, false).first == Approx(0.3));
        CHECK(tryOn(blocks, 0.3, false).second < -4);
        CHECK(tryOn(blocks, 0.8, false).first == 0);
        CHECK(tryOn(blocks, 0.8, false).second > 1);
        CHECK(tryOn(blocks, 0.8, true).first == Approx(0.8));
        CHECK(tryOn(blocks, 0.8, true).second < -3);
        CHECK(tryOn(blocks, 2, true).first == 0);
        CHECK(tryOn(blocks, 2, true).second > 1);
    }
    CHECK(tryOn(Blocks::capsule, 0.8, true).first == 0);
}

TEST_CASE("a line of boxes bars reach, a gap in it lets through, and one trunk bars nothing at any spacing") {
    for (const double spacing : {0.5, 1.0, 4.0}) {
        Level l = flatLevel(61, 41, 1, spacing);
        const uint32_t wall = blockingKind(l, Blocks::cylinder, 0.9 * spacing, 3),
                       trunk = blockingKind(l, Blocks::cylinder, 0.3, 4);
        const uint32_t a = put(l, "a", 10, 20), b = put(l, "b", 50, 20, "goal");
        putOne(l, trunk, l.originX + 30.4 * spacing, l.originZ + 20.3 * spacing);
        Reach open = surveyReach(l, kBodies[0]);
        CAPTURE(spacing);
        CHECK(open.reaches(a, b));
        for (int n = 0; n <= 40; ++n) putOne(l, wall, l.originX + 25.5 * spacing, l.originZ + n * spacing);
        const Reach shut = surveyReach(l, kBodies[0]);
        CHECK_FALSE(shut.reaches(a, b));
        CHECK_FALSE(shut.reaches(b, a));
        CHECK(shut.walledOff == std::vector<uint32_t>{b});
        CHECK_FALSE(sameForBodies(
            l, Level(l).singles.empty() ? l : [&] {
                Level other = l;
                other.singles.pop_back();
                return other;
            }()));
        // Five of them go: room enough at every spacing.
        std::erase_if(l.singles, [&](const Single& s) {
            return s.kind == wall && std::abs(s.z - (l.originZ + 12 * spacing)) < 3.1 * spacing;
        });
        const Reach gate = surveyReach(l, kBodies[0]);
        CHECK(gate.reaches(a, b));
        CHECK(gate.walledOff.empty());
    }
}

TEST_CASE("what does not block, is hidden or lies low bars nobody, and changes nothing for bodies") {
    Level l = flatLevel(61, 41, 1);
    put(l, "a", 10, 20);
    put(l, "b", 50, 20, "goal");
    const uint32_t kind = blockingKind(l, Blocks::cylinder, 0.9, 0.3);
    for (int n = 0; n <= 40; ++n) putOne(l, kind, l.originX + 25.5, l.originZ + n);
    const auto got = [](const Level& level) {
        const Reach r = surveyReach(level, kBodies[0]);
        return r.spotsReached()[0] == 2;
    };
    CHECK(got(l));
    Level high = l;
    high.kind(kind)->blockHeight = 2;
    CHECK_FALSE(got(high));
    CHECK_FALSE(sameForBodies(l, high));
    Level hidden = high;
    hidden.kind(kind)->hidden = true;
    CHECK(got(hidden));
    Level bare = high;
    bare.kind(kind)->blocks = Blocks::nothing;
    CHECK(got(bare));
    // One that only dresses the ground may come, go and be painted.
    Level dressed = high;
    Kind tuft;
    tuft.name = "Tuft", tuft.growth = usualGrowth(*recipeNamed("tuft"));
    const uint32_t id = addKind(dressed, tuft).value();
    putOne(dressed, id, 0, 0);
    CHECK(sameForBodies(high, dressed));
}

TEST_CASE("reach with what stands there is a slow walk on a fine grid's", "[property]") {
    Random random(5);
    int barred = 0, open = 0;
    for (int k = 0; k < 40; ++k) {
        const double spacing = k % 2 ? 1 : 0.5;
        Level l = flatLevel(41, 27, 1, spacing);
        l.originX = 1000, l.originZ = -37;
        const uint32_t trunk = blockingKind(l, Blocks::cylinder, 0.4, 3),
                       hut = blockingKind(l, k % 3 ? Blocks::box : Blocks::hull, 1, 2.4, "hut");
        const int count = wholeBetween(random, 20, 90);
        for (int n = 0; n < count; ++n)
            putOne(l, n % 9 ? trunk : hut, l.originX + between(random, 6, 34) * spacing,
                   l.originZ + between(random, 0, 26) * spacing, between(random, 0, 360), between(random, 0.5, 1.3));
        const uint32_t a = put(l, "a", 2, 13), b = put(l, "b", 38, 13, "goal");
        Body body = kBodies[0];
        body.jump = 0;  // so that nothing is jumped over
        Solids all(l);
        std::vector<Solid> solids;
        all.each([&](const Solid& s) { solids.push_back(s); });
        // Every tenth of a metre, as wide as it is and some more.
        const auto gets = [&](double girth) {
            const int w = static_cast<int>(l.width() * 10) + 1, d = static_cast<int>(l.depth() * 10) + 1;
            std::vector<char> in(static_cast<size_t>(w * d));
            for (int r = 0; r < d; ++r)
                for (int c = 0; c < w; ++c)
                    for (const Solid& s : solids)
                        if (s.away(l.originX + c * 0.1, l.originZ + r * 0.1).metres < girth)
                            in[static_cast<size_t>(r * w + c)] = 1;
            const auto cell = [&](uint32_t spot) {
                const Spot& s = *l.spot(spot);
                return static_cast<int>(std::lround((s.z - l.originZ) * 10)) * w +
                       static_cast<int>(std::lround((s.x - l.originX) * 10));
            };
            std::vector<int> front{cell(a)};
            if (in[static_cast<size_t>(front[0])]) return false;
            while (!front.empty()) {
                const int i = front.back(), c = i % w, r = i / w;
                front.pop_back();
                if (i == cell(b)) return true;
                for (const auto& [x, z] : {std::array{c + 1, r}, {c - 1, r}, {c, r + 1}, {c, r - 1}})
                    if (x >= 0 && z >= 0 && x < w && z < d && !in[static_cast<size_t>(z * w + x)])
                        in[static_cast<size_t>(z * w + x)] = 1, front.push_back(z * w + x);
            }
            return false;
        };
        const bool reached = surveyReach(l, body).reaches(a, b);
        CAPTURE(k, spacing, count);
        // Never where a body does not get through; always where one gets through that is a sample and a half wider.
        if (reached) CHECK(gets(static_cast<double>(body.radius) - 0.15));
        if (gets(static_cast<double>(body.radius) + 1.5 * spacing)) CHECK(reached);
        (reached ? open : barred) += 1;
    }
    CHECK(open > 4);
    CHECK(barred > 4);
}

TEST_CASE("what is put on top stands on what carries it, on the ground without, and carries nobody itself meanwhile") {
    Level l = shaped(60, 60, [](int c, int) { return 0.1 * c; });
    const uint32_t box = blockingKind(l, Blocks::cylinder, 2, 1.5), ball = blockingKind(l, Blocks::capsule, 2, 3),
                   post = blockingKind(l, Blocks::cylinder, 0.3, 1);
    putOne(l, box, 0, 0);
    putOne(l, ball, 10, 0);
    putOne(l, post, 0.5, 0.5);
    putOne(l, post, 10, 0);
    putOne(l, post, -10, 0);
    putOne(l, post, 0.6, 0.5);
    l.singles[4].above = 3;
    std::vector<uint32_t> ids;
    for (size_t i = 2; i < 6; ++i) ids.push_back(l.singles[i].id);
    REQUIRE(standOnTop(l, ids));
    const auto over = [&](double x, double z) { return altitudeAt(l, x, z); };
    CHECK(l.singles[2].above == Approx(over(0, 0) + 1.5 - over(0.5, 0.5)));
    CHECK(l.singles[3].above == 0);
    CHECK(l.singles[4].above == 0);
    CHECK(l.singles[5].above == Approx(over(0, 0) + 1.5 - over(0.6, 0.5)));
    // Once more, alone: now it comes to stand on the other post.
    REQUIRE(standOnTop(l, {ids[3]}));
    CHECK(l.singles[5].above == Approx(over(0, 0) + 2.5 - over(0.6, 0.5)));
    CHECK_FALSE(standOnTop(l, {ids[0], 4711}));
}
