// The walker: what it climbs, swims, leaps and falls through, and that it agrees with reach.
#include <catch2/catch.hpp>

#include <array>

#include "level/opening.h"
#include "walk/footing.h"
#include "walk_levels.h"

using namespace jam;
using namespace jam::test;

TEST_CASE("it walks where it looks, as fast as it should, and stops") {
    const Level l = shaped(200, 200, [](int, int) { return 7; });
    for (const double to : {0.0, 37.0, 90.0, 135.0, 180.0, 250.0, 315.0}) {
        Walker w(l, kBodies[0], 0, 0);
        goOn(w, towards(to), 1);
        goOn(w, towards(to), 2);
        CHECK(std::hypot(w.state().vx, w.state().vz) == Approx(2.5).epsilon(0.001));
        CHECK(w.state().x == Approx(std::sin(to * kRadians) * 7.5).margin(0.3));
        CHECK(w.state().z == Approx(-std::cos(to * kRadians) * 7.5).margin(0.3));
        CHECK(w.state().y == 7);
        goOn(w, {}, 1);
        CHECK(std::hypot(w.state().vx, w.state().vz) < 1e-3);
        WalkInput right = towards(to, true);
        right.forward = 0, right.right = 1;
        const double x = w.state().x, z = w.state().z;
        goOn(w, right, 1);
        CHECK(w.state().x - x == Approx(std::cos(to * kRadians) * 5).margin(0.5));
        CHECK(w.state().z - z == Approx(std::sin(to * kRadians) * 5).margin(0.5));
    }
}

TEST_CASE("headings are exact enough, and turn the right way") {
    for (int h = 0; h < 65536; h += 7) CHECK(headingOf(degreesOf(static_cast<uint16_t>(h))) == h);
    CHECK(headingOf(-90) == 49152);
    CHECK(headingOf(360) == 0);
}

TEST_CASE("it climbs what it can stand on, and slides back from what is steeper") {
    for (const double degrees : {10.0, 38.0, 42.0, 60.0}) {
        const Level l = shaped(120, 30,
                               [&](int c, int) { return std::max(0.0, (c - 30) * std::tan(degrees * kRadians)); });
        Walker w(l, kBodies[0], l.originX + 25, l.originZ + 15);
        CAPTURE(degrees);
        goOn(w, towards(90), 12);
        if (degrees < 40) CHECK(w.state().x > l.originX + 45);
        else CHECK(w.state().x < l.originX + 31.1);
        // Put down on the slope.
        Walker s(l, kBodies[0], l.originX + 60, l.originZ + 15);
        goOn(s, {}, 30);
        if (degrees < 40) CHECK(s.state().x == Approx(l.originX + 60).margin(0.01));
        else CHECK(s.state().x < l.originX + 31);
        CHECK(s.state().gait == Gait::firm);
    }
}

TEST_CASE("it steps up what is no higher than a step, jumps up what is no higher than a jump") {
    for (const double high : {0.3, 0.6, 1.2}) {
        // A sheer step, on ground so fine that the face is narrow.
        const Level l = shaped(
            200, 20, [&](int c, int) { return c < 100 ? 0.0 : high; }, 0.25);
        const auto reached = [&](bool jump) {
            Walker w(l, kBodies[0], l.originX + 20, l.originZ + 2.5);
            for (int i = 0; i < 6 * Walker::kStepsASecond; ++i) {
                WalkInput in = towards(90);
                in.jump = jump && i % 100 == 0;
                w.step(in);
            }
            return w.state().x > l.originX + 26;
        };
        CAPTURE(high);
        CHECK(reached(false) == (high < 0.4));
        CHECK(reached(true) == (high < 0.9));
    }
}

TEST_CASE("on ground that is too steep it keeps its hold for a metre and no farther") {
    // Along the foot of a wall of 60 degrees, leaning into it.
    const Level l = shaped(120, 40, [](int, int r) { return r < 20 ? (20 - r) * std::tan(60 * kRadians) : 0.0; });
    Walker w(l, kBodies[0], l.originX + 10, l.originZ + 21);
    double on = 0, farthest = 0;
    bool slid = false;
    for (int i = 0; i < 12 * Walker::kStepsASecond; ++i) {
        const double x = w.state().x, z = w.state().z;
        w.step(towards(82, true));
        const double way = std::hypot(w.state().x - x, w.state().z - z);
        on = w.state().gait == Gait::stepping ? on + way : 0;
        slid = slid || w.state().gait == Gait::sliding;
        farthest = std::max(farthest, on);
    }
    CHECK(slid);
    CHECK(farthest > 0.5);
    CHECK(farthest < Walker::kStride + 0.1);
    CHECK(w.state().y < 0.4 + 1e-6);
}

TEST_CASE("a jump is as high as it says, and lands where it began") {
    const Level l = shaped(60, 60, [](int, int) { return 2; });
    for (const float high : {0.5f, 0.9f, 3.f}) {
        Body b = kBodies[0];
        b.jump = high;
        Walker w(l, b, 0, 0);
        WalkInput in;
        in.jump = true;
        double top = 0;
        int airborne = 0;
        for (int i = 0; i < 400; ++i) {
            w.step(in);
            top = std::max(top, w.state().y - 2);
            airborne += w.state().gait == Gait::air;
        }
        CHECK(top == Approx(high).epsilon(0.04));
        CHECK(w.state().y == 2);
        // Held down, it is one jump.
        CHECK(airborne * Walker::kStep == Approx(2 * std::sqrt(2 * high / 9.81)).epsilon(0.05));
    }
}

TEST_CASE("it wades slower, swims where it is deep, dives and comes up, and climbs out") {
    Level l = shaped(100, 30, [](int c, int) {
        return c < 30 ? 0.0 : c > 70 ? 0.0 : -std::min({(c - 30) * 0.4, (70 - c) * 0.4, 6.0});
    });
    Pool p;
    p.name = "pond", p.sea = true, p.x = l.originX, p.z = l.originZ, p.height = -0.3f;
    REQUIRE(addPool(l, p));
    refillWater(l);
    Walker w(l, kBodies[0], l.originX + 20, l.originZ + 15);
    bool swam = false;
    double slowest = 9;
    for (int i = 0; i < 60 * Walker::kStepsASecond && w.state().x < l.originX + 80; ++i) {
        w.step(towards(90));
        if (w.state().gait == Gait::swimming) {
            swam = true;
            CHECK(w.state().y == Approx(-0.3 - 1.1).margin(1e-6));
            CHECK(w.state().depth == Approx(1.1).margin(1e-6));
        }
        if (i > 240) slowest = std::min(slowest, std::hypot(w.state().vx, w.state().vz));
    }
    CHECK(swam);
    CHECK(w.state().x >= l.originX + 80);
    CHECK(slowest == Approx(1).margin(0.05));
    CHECK(w.eyeUnderWater() == 0);
    // Down to the bed and up again.
    Walker d(l, kBodies[0], l.originX + 50, l.originZ + 15);
    WalkInput dive;
    dive.dive = true;
    goOn(d, dive, 10);
    CHECK(d.state().y == Approx(groundSample(l, 50, 15)));
    CHECK(d.eyeUnderWater() > 3);
    goOn(d, {}, 20);
    CHECK(d.state().y == Approx(-1.4).margin(1e-6));
    // A cart sinks, and says where.
    Walker cart(l, kBodies[2], l.originX + 20, l.originZ + 15);
    goOn(cart, towards(90), 20);
    REQUIRE(cart.state().loss == Loss::sunk);
    CHECK(lossInWords(l, cart.state()) == "sank in pond");
}

TEST_CASE("a stream carries who stands in it, the farther the deeper it is") {
    // A bed that falls to the east, in a valley.
    Level l = shaped(120, 41, [](int c, int r) { return 20 - 0.06 * c + 0.25 * std::abs(r - 20); });
    Course c;
    c.use = CourseUse::carve;
    c.sunk = 1.5f;
    for (const double x : {10.0, 60.0, 110.0})
        c.posts.push_back({l.originX + x, l.originZ + 20, std::nullopt, 6, 1, 0});
    Stream s;
    s.name = "brook", s.course = addCourse(l, "bed", c), s.manning = 0.05f;
    const auto carried = [&](float depth) {
        Level with = l;
        s.depth = depth;
        REQUIRE(addStream(with, s));
        refillWater(with);
        Walker w(with, kBodies[0], l.originX + 40, l.originZ + 20);
        goOn(w, {}, 4);
        CHECK(w.state().depth == Approx(depth).margin(0.1));
        return w.state().x - (l.originX + 40);
    };
    const double shallow = carried(0.2f), deep = carried(0.8f);
    CHECK(shallow > 0.2);
    CHECK(deep > 3 * shallow);
}

TEST_CASE("nobody leaps out of deep water onto what is higher than a step") {
    // A basin whose rim stands 0.7 m over where a swimmer's soles are: less than a jump, more than a step.
    Level l = shaped(60, 30, [](int c, int) { return c < 30 ? -6.0 : -0.6; });
    Pool p;
    p.name = "basin", p.sea = true, p.x = l.originX, p.z = l.originZ, p.height = -0.2f;
    REQUIRE(addPool(l, p));
    refillWater(l);
    const uint32_t deep = put(l, "deep", 10, 15), shelf = put(l, "shelf", 50, 15, "goal");
    CHECK_FALSE(surveyReach(l, kBodies[0]).reaches(deep, shelf));
    CHECK(surveyReach(l, kBodies[0]).reaches(shelf, deep));
    Body frog = kBodies[0];
    frog.step = 0.8f;
    CHECK(surveyReach(l, frog).reaches(deep, shelf));
    Walker w(l, kBodies[0], l.originX + 20, l.originZ + 15);
    for (int i = 0; i < 20 * Walker::kStepsASecond; ++i) {
        WalkInput in = towards(90, true);
        in.jump = i % 30 == 0;
        w.step(in);
    }
    CHECK(w.state().x < l.originX + 30.1);
}

TEST_CASE("openings let it through, the land's edge lets it fall, and it is told where") {
    Level l = shaped(60, 40, [](int, int) { return 3; });
    for (int r = 15; r < 25; ++r)
        for (int c = 30; c < 36; ++c) l.opening.set(c, r, 255);
    for (int r = 0; r < 40; ++r)
        for (int c = 0; c < 8; ++c) l.noLand.set(c, r, 255);
    const struct {
        double heading;
        Loss loss;
        std::string words;
    } ways[] = {{90, Loss::opening, "fell through an opening"},
                {0, Loss::edge, "fell off the north edge"},
                {180, Loss::edge, "fell off the south edge"},
                {270, Loss::coast, "fell off the land's edge"}};
    for (const auto& way : ways) {
        Walker w(l, kBodies[0], l.originX + 20, l.originZ + 20);
        goOn(w, towards(way.heading), 25);
        CAPTURE(way.words);
        REQUIRE(w.state().gait == Gait::lost);
        CHECK(w.state().loss == way.loss);
        CHECK(lossInWords(l, w.state()) == way.words);
        const WalkState was = w.state();
        goOn(w, towards(0), 1);
        CHECK(w.state() == was);
    }
    Walker east(l, kBodies[0], l.originX + 50, l.originZ + 20);
    goOn(east, towards(90), 15);
    CHECK(lossInWords(l, east.state()) == "fell off the east edge");
}

namespace {

// Walks at random on steep and broken ground, each a minute long; every tenth twice.
void walkAtRandom(int walks) {
    Random random(7);
    std::vector<Level> levels;
    for (uint32_t seed = 1; seed <= 20; ++seed) {
        levels.push_back(brokenLevel(48, 40, seed));
        Level& l = levels.back();
        if (seed % 4 == 0) l.opening.set(20, 20, 255), l.noLand.set(0, 0, 255);
        if (seed % 5 == 0) {
            Pool p;
            p.name = "sea", p.sea = true, p.x = l.originX, p.z = l.originZ, p.height = 1;
            REQUIRE(addPool(l, p));
            refillWater(l);
        }
    }
    double deepest = 0;
    for (int k = 0; k < walks; ++k) {
        const Level& l = levels[static_cast<size_t>(k) % levels.size()];
        const Body& body = kBodies[static_cast<size_t>(k % 3)];
        const double x = l.originX + between(random, 3, 44), z = l.originZ + between(random, 3, 36);
        Walker w(l, body, x, z);
        WalkRecord record = recordAt(l, body, x, z);
        WalkInput in;
        for (int i = 0; i < 60 * Walker::kStepsASecond && w.state().gait != Gait::lost; ++i) {
            if (i % 40 == 0) {
                in.forward = static_cast<int8_t>(wholeBetween(random, -1, 1));
                in.right = static_cast<int8_t>(wholeBetween(random, -1, 1));
                in.heading = static_cast<uint16_t>(wholeBetween(random, 0, 65535));
                in.run = wholeBetween(random, 0, 1);
                in.dive = wholeBetween(random, 0, 4) == 0;
            }
            in.jump = wholeBetween(random, 0, 60) == 0;
            if (k % 10 == 0) record.add(in);
            w.step(in);
            if (groundAt(l, w.state().x, w.state().z))
                deepest = std::max(deepest, altitudeAt(l, w.state().x, w.state().z) - w.state().y);
        }
        CAPTURE(k);
        REQUIRE(deepest <= 1e-9);
        if (k % 10 == 0) REQUIRE(replayWalk(l, record).end == w.state());
    }
}

}  // namespace

TEST_CASE("it is never below the ground, and the same walk gives the same bits", "[property]") { walkAtRandom(120); }

TEST_CASE("it is never below the ground in ten thousand walks of a minute", "[.exhaustive]") { walkAtRandom(10000); }

TEST_CASE("a walk ends in these bits on any machine") {
    // Heights that floats hold exactly, and headings all round.
    const Level l = shaped(40, 40, [](int c, int r) { return 0.25 * ((c * 7 + r * 5) % 9) + 0.125 * (c / 4); });
    Walker w(l, kBodies[1], 0, 0);
    for (int i = 0; i < 2400; ++i) {
        WalkInput in;
        in.forward = 1;
        in.right = static_cast<int8_t>(i / 300 % 3 - 1);
        in.heading = static_cast<uint16_t>(i * 2731);
        in.run = i / 500 % 2;
        in.jump = i % 190 == 0;
        w.step(in);
    }
    char text[200];
    std::snprintf(text, sizeof text, "%a %a %a", w.state().x, w.state().y, w.state().z);
    CHECK(std::string(text) == "0x1.bdcd7ffea3ec3p-2 0x1.d91c1ba2fcadcp-1 -0x1.0cb2a3a2bb69bp-1");
}

TEST_CASE("what is reached on foot lies inside what reach says", "[property]") {
    Random random(11);
    int left = 0;
    for (int k = 0; k < 260; ++k) {
        Level l = brokenLevel(48, 40, static_cast<uint32_t>(k % 40) + 100);
        const Body& body = kBodies[static_cast<size_t>(k % 2)];
        const Reach first = surveyReach(l, body);
        std::vector<std::pair<int, int>> firm;
        for (int r = 2; r < 38; ++r)
            for (int c = 2; c < 46; ++c)
                if (first.ground->kinds.at(c, r) == ReachGround::kFirm) firm.emplace_back(c, r);
        const auto [c, r] = firm[static_cast<size_t>(wholeBetween(random, 0, static_cast<int>(firm.size()) - 1))];
        put(l, "start", c, r);
        const Reach reach = surveyReach(l, body);
        Walker w(l, body, l.spots[0].x, l.spots[0].z);
        WalkInput in;
        for (int i = 0; i < 60 * Walker::kStepsASecond; ++i) {
            if (i % 50 == 0) in = towards(between(random, 0, 360), wholeBetween(random, 0, 1));
            w.step(in);
            if (w.state().gait == Gait::lost) break;
            if (w.state().gait != Gait::firm) continue;
            // The corners of the cell that it stands in.
            const int x = std::min(static_cast<int>(l.toColumn(w.state().x)), l.columns - 2),
                      z = std::min(static_cast<int>(l.toRow(w.state().z)), l.rows - 2);
            bool in_ = false;
            for (const auto& [dc, dr] : {std::pair{0, 0}, {1, 0}, {0, 1}, {1, 1}}) {
                const auto is = static_cast<Reached>(reach.classes.at(x + dc, z + dr));
                in_ = in_ || is == Reached::both || is == Reached::oneWay || is == Reached::trap;
            }
            CAPTURE(k, i, w.state().x, w.state().z, w.state().y);
            if (!in_) ++left;
            REQUIRE(in_);
        }
    }
    CHECK(left == 0);
}

TEST_CASE("what reach says is reached by following the way that was found", "[property]") {
    Random random(5);
    int onFoot = 0, leaping = 0, leapt = 0;
    for (int k = 0; k < 260; ++k) {
        Level l = brokenLevel(48, 40, static_cast<uint32_t>(k) + 300);
        const Body& body = kBodies[static_cast<size_t>(k % 3)];
        put(l, "start", 24, 20);
        const Reach reach = surveyReach(l, body);
        if (!reach.nowhere.empty()) continue;
        for (int n = 0; n < 6; ++n) {
            const auto goal = firmSample(reach, random, n % 2 ? Reached::both : Reached::oneWay);
            if (!goal) continue;
            const double x = l.originX + goal->first, z = l.originZ + goal->second;
            const auto way = wayBetween(l, *reach.ground, l.spots[0].x, l.spots[0].z, x, z);
            CAPTURE(k, n, goal->first, goal->second);
            REQUIRE(way);
            Walker w(l, body, way->points.front().x, way->points.front().z);
            WayFollower hand(*way);
            for (int i = 0; i < 200 * Walker::kStepsASecond && !hand.there() && !hand.stuck(); ++i)
                w.step(hand.next(w.state()));
            if (way->feat) continue;
            if (way->leaps + way->drops == 0) {
                CHECK(hand.there());
                CHECK(way->steepest <= body.slope + 0.1);
                ++onFoot;
            } else {
                leapt += hand.there();
                ++leaping;
            }
        }
    }
    CHECK(onFoot > 100);
    // Feats on narrow ledges fail a hand that goes by rule now and then.
    CHECK(leaping > 80);
    CHECK(leapt >= 0.8 * leaping);
}

// --- spots --------------------------------------------------------------------------------------------------------

TEST_CASE("who walks has ground exactly where there is ground, whatever the values at the edge of an opening") {
    Level level = flatLevel(21, 17, 0, 1.5);
    level.originX = 11, level.originZ = -40;
    Random random(3);
    for (const bool smooth : {true, false}) {
        level.smoothEdges = smooth;
        for (int r = 0; r < level.rows; ++r)
            for (int c = 0; c < level.columns; ++c)
                // Means and ends that fall right on the edge are frequent among these.
                level.opening.set(c, r, std::array<uint8_t, 5>{0, 127, 128, 255, 255}[random() % 5]);
        Footing feet(level);
        int none = 0, differ = 0;
        for (int i = 0; i < 20'000; ++i) {
            const double x = level.originX + level.spacing * (static_cast<double>(random() % 81) / 4),
                         z = level.originZ + level.spacing * (static_cast<double>(random() % 65) / 4);
            if (!level.holds(x, z)) continue;
            const bool ground = groundAt(level, x, z);
            none += !ground;
            differ += feet.under(x, z).land != ground;
        }
        CHECK(none > 1000);
        CHECK(differ == 0);
    }
}
