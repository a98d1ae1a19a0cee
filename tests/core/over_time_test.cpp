// What a single stamp does not show: strokes that rest twice, stamps that repeat for seconds, mirrors about every
// place, and levels that are oblong and lie anywhere.
#include <catch2/catch.hpp>

#include <cmath>

#include "brush/stamp_placer.h"
#include "cover/blend.h"
#include "cover/paint.h"
#include "level/ground.h"
#include "levels.h"
#include "shape/crumble.h"
#include "shape/whole.h"
#include "stroke/stroker.h"
#include "survey/contours.h"
#include "survey/slope.h"
#include "tools/tool.h"

using namespace jam;
using namespace jam::test;

namespace {

std::vector<Stamp> stampsOf(const StrokeSettings& s, const std::vector<StrokePoint>& points) {
    StampPlacer placer(s);
    std::vector<Stamp> stamps;
    for (const StrokePoint& p : points) placer.add(p, stamps);
    placer.finish(stamps);
    return stamps;
}

// A hand that rests at one place for so long.
Stroke resting(Tool tool, double x, double z, double seconds) {
    Stroke s;
    s.settings = usualSettings(tool);
    s.settings.falloff.softness = 0;
    for (double t = 0; t <= seconds; t += 0.5) s.points.push_back({x, z, 1, t});
    return s;
}

double heightSum(const Level& level) {
    double sum = 0;
    for (int r = 0; r < level.rows; ++r)
        for (int c = 0; c < level.columns; ++c) sum += groundSample(level, c, r);
    return sum;
}

}  // namespace

TEST_CASE("a rest begins anew after the hand moved") {
    StrokeSettings s;
    s.radius = 10, s.spacing = 1;
    const auto at = [](double x, double t) { return StrokePoint{x, 0, 1, t}; };
    // One rest of a second, or two of half a second with a move between: each waits for its own pause.
    const auto one = stampsOf(s, {at(0, 0), at(20, 0.1), at(20, 1.1)});
    const auto two = stampsOf(s, {at(0, 0), at(20, 0.1), at(20, 0.6), at(40, 0.7), at(40, 1.2)});
    const auto moving = stampsOf(s, {at(0, 0), at(20, 0.1), at(40, 0.2)});
    const auto flowed = [](double rest) {
        return static_cast<size_t>(std::floor((rest - kPauseSeconds) / kStampSeconds + 1e-9));
    };
    CHECK(one.size() == 3 + flowed(1.0));
    CHECK(two.size() == moving.size() + 2 * flowed(0.5));
    // A short rest gives nothing, however often.
    std::vector<StrokePoint> halting{at(0, 0)};
    for (int i = 1; i < 6; ++i) {
        halting.push_back(at(10 * i, 0.13 * i - 0.12));
        halting.push_back(at(10 * i, 0.13 * i));
    }
    CHECK(stampsOf(s, halting).size() == 6);
}

TEST_CASE("terraces, even out and restore do not run away when stamps repeat for seconds") {
    const Level before = lopsidedLevel();
    const double x = before.originX + 140, z = before.originZ + 60;
    const auto after = [&](Stroke s, double seconds) {
        Level level = before;
        s.points.clear();
        for (double t = 0; t <= seconds; t += 0.5) s.points.push_back({x, z, 1, t});
        REQUIRE(runStroke(level, s));
        return level;
    };
    for (const Tool tool : {Tool::terrace, Tool::evenOut, Tool::restore}) {
        Stroke s = resting(tool, x, z, 1);
        s.settings.radius = 20, s.settings.strength = 0.3f, s.settings.step = 6, s.settings.remains = 0.4f;
        const Level second = after(s, 4), minute = after(s, 40);
        double apart = 0, moved = 0;
        for (int r = 0; r < before.rows; ++r)
            for (int c = 0; c < before.columns; ++c) {
                apart = std::max(
                    apart, std::abs(static_cast<double>(groundSample(second, c, r)) - groundSample(minute, c, r)));
                moved = std::max(
                    moved, std::abs(static_cast<double>(groundSample(minute, c, r)) - groundSample(before, c, r)));
            }
        INFO(toolName(tool));
        CHECK(moved > 0.5);
        CHECK(apart < 0.02);
    }
    // Even out really leaves the share that it says.
    Stroke s = resting(Tool::evenOut, x, z, 1);
    s.settings.radius = 20, s.settings.strength = 0.3f, s.settings.remains = 0.4f;
    const Level even = after(s, 40);
    const auto spread = [&](const Level& l) {
        double low = 1e9, high = -1e9;
        for (int r = 0; r < l.rows; ++r)
            for (int c = 0; c < l.columns; ++c) {
                const double dx = l.originX + c * l.spacing - x, dz = l.originZ + r * l.spacing - z;
                if (std::hypot(dx, dz) < 19)
                    low = std::min<double>(low, groundSample(l, c, r)),
                    high = std::max<double>(high, groundSample(l, c, r));
            }
        return high - low;
    };
    CHECK(spread(even) == Approx(0.4 * spread(before)).epsilon(0.03));
}

TEST_CASE("four quarter turns about any place are the identity, and two are a half turn") {
    const Level level = lopsidedLevel();
    for (const int factor : {1, 2})
        for (const double x : {380.0, 380.3, 380.75, 381.5, 382.25}) {
            const double z = -12.75 + (x - 380) * 0.7;
            const auto images = mirrorImages(level, {MirrorKind::turn4, x, z}, factor);
            REQUIRE(images.size() == 4);
            const auto half = mirrorImages(level, {MirrorKind::turn2, images[0].x, images[0].z}, factor);
            REQUIRE(half.size() == 2);
            for (const auto& [c, r] : {std::pair{3.0, 8.0}, {70.0, 21.0}, {148.0, 84.0}}) {
                double pc = c, pr = r;
                for (int i = 0; i < 4; ++i) {
                    const Symmetry& turn = images[1].image;
                    const double nc = turn.column(pc, pr), nr = turn.row(pc, pr);
                    pc = nc, pr = nr;
                    // After one, two and three turns it stands where the images say.
                    bool among = false;
                    for (const MirrorImage& m : images) among |= m.image.column(c, r) == pc && m.image.row(c, r) == pr;
                    CHECK(among);
                    if (i == 1) CHECK((half[1].image.column(c, r) == pc && half[1].image.row(c, r) == pr));
                }
                CHECK((pc == c && pr == r));
            }
        }
}

TEST_CASE("a three-fold mirror turns a square tip the way that its image turns") {
    Level level = flatLevel(301, 301, 1);
    Stroke s;
    s.settings.mirror = {MirrorKind::turn3, 0, 0};
    s.settings.radius = 20, s.settings.strength = 10, s.settings.flow = false;
    s.settings.falloff.softness = 0;
    s.settings.tip.shape = TipShape::square;
    s.settings.tip.turn = 10;
    s.points = {{0, -90, 1, 0}};
    REQUIRE(runStroke(level, s));
    // Whatever the square covers from its own centre, its images cover a third of a turn further round.
    int seen = 0;
    for (double dx = -26; dx <= 26; dx += 4)
        for (double dz = -26; dz <= 26; dz += 4) {
            const double own = altitudeAt(level, dx, -90 + dz);
            if (own > 1 && own < 9) continue;  // on the edge
            bool edge = false;
            for (const double e : {-2.0, 2.0})
                edge |= (altitudeAt(level, dx + e, -90 + dz) > 5) != (own > 5) ||
                        (altitudeAt(level, dx, -90 + dz + e) > 5) != (own > 5);
            if (edge) continue;
            for (const double turn : {120.0, 240.0}) {
                const double a = turn * 3.14159265358979 / 180, x = dx, z = -90 + dz;
                CHECK((altitudeAt(level, x * std::cos(a) - z * std::sin(a), x * std::sin(a) + z * std::cos(a)) > 5) ==
                      (own > 5));
            }
            ++seen;
        }
    CHECK(seen > 60);
}

TEST_CASE("carry takes the mix from where the hand first touched, at every cover resolution") {
    for (const int factor : {1, 2, 4}) {
        Level level = flatLevel(81, 49, 3, 2, factor);
        level.originX = 100, level.originZ = -300;
        // Only a small patch, off the centre, has the second layer.
        const int pc = 61 * factor, pr = 13 * factor;
        for (int r = pr - 2 * factor; r <= pr + 2 * factor; ++r)
            for (int c = pc - 2 * factor; c <= pc + 2 * factor; ++c) level.layers[1].coverage.set(c, r, 48000);
        const double x = level.originX + 61 * 2, z = level.originZ + 13 * 2;
        CHECK(coverMixAt(level, x, z)[1] == 48000);
        CHECK(coverMixAt(level, x - 20, z)[1] == 0);
        Stroke s;
        s.settings = usualSettings(Tool::carry);
        s.settings.radius = 4, s.settings.strength = 1, s.settings.falloff.softness = 0;
        s.points = {{x, z, 1, 0}, {x - 40, z + 12, 1, 0.5}};
        REQUIRE(runStroke(level, s));
        CHECK(level.layers[1].coverage.at((61 - 20) * factor, (13 + 6) * factor) == 48000);
        CHECK(level.layers[2].coverage.at((61 - 20) * factor, (13 + 6) * factor) == 0);
    }
}

TEST_CASE("edges break the same way at the same place, at every cover resolution") {
    for (const int factor : {2, 4}) {
        Level plain = flatLevel(81, 49, 2, 2), fine = flatLevel(81, 49, 2, 2, factor);
        plain.originX = fine.originX = 250, plain.originZ = fine.originZ = -90;
        const BreakPattern a = noisePattern(plain, 7, 3), b = noisePattern(fine, 7, 3);
        double spread = 0;
        for (const auto& [x, z] : {std::pair{3, 40}, {55, 8}, {80, 48}}) {
            CHECK(b(x * factor, z * factor) == Approx(a(x, z)).margin(1e-5));
            spread += std::abs(a(x, z) - a(x - 2, z));
        }
        CHECK(spread > 0.01);
    }
}

TEST_CASE("painting below leaves the coverage of hidden and protected layers alone, sample by sample") {
    Level level = lopsidedLevel();
    const Level before = level;
    for (const Tool tool : {Tool::paint, Tool::erase, Tool::soften, Tool::carry, Tool::replace, Tool::breakUp}) {
        Stroke s;
        s.settings = usualSettings(tool);
        s.settings.layer = level.layers[1].id, s.settings.from = level.layers[3].id;
        s.settings.radius = 40, s.settings.strength = 1;
        s.points = {{level.originX + 110, level.originZ + 60, 1, 0}, {level.originX + 130, level.originZ + 70, 1, 0.3}};
        INFO(toolName(tool));
        REQUIRE(runStroke(level, s));
        CHECK(level.layers[4].coverage == before.layers[4].coverage);  // hidden
        CHECK(level.layers[6].coverage == before.layers[6].coverage);  // protected
    }
    CHECK_FALSE(level.layers[7].coverage == before.layers[7].coverage);
}

TEST_CASE("restore brings back the start height of the level, or what the reference has there") {
    NewLevel wish;
    wish.columns = 61, wish.rows = 41;
    wish.lowest = -40, wish.highest = 90, wish.startHeight = 12.5f;
    Level level = makeLevel(wish).take();
    addLayer(level, plainLayer("clay"));
    const auto reference = std::make_shared<Level>(level);
    for (int r = 0; r < 41; ++r)
        for (int c = 0; c < 61; ++c) {
            level.strata[0].heights.set(c, r, static_cast<float>(c % 7) - 3);
            reference->strata[0].heights.set(c, r, static_cast<float>(r));
        }
    Stroke s = resting(Tool::restore, 10, 5, 0);
    s.settings.radius = 6, s.settings.strength = 1;
    Level started = level, referred = level;
    REQUIRE(runStroke(started, s));
    CHECK(altitudeAt(started, 10, 5) == 12.5);
    CHECK(altitudeAt(started, -20, 5) == altitudeAt(level, -20, 5));
    s.settings.restore = RestoreTo::reference;
    REQUIRE(runStroke(referred, s, reference));
    CHECK(altitudeAt(referred, 10, 5) == Approx(12.5 + 25));
    CHECK(altitudeAt(referred, 12, 3) == Approx(12.5 + 23));
}

TEST_CASE("the slope is right up to the border") {
    Level level = flatLevel(41, 25, 1, 2.5);
    level.originX = -700, level.originZ = 90;
    for (int r = 0; r < level.rows; ++r)
        for (int c = 0; c < level.columns; ++c)
            level.strata[0].heights.set(c, r, static_cast<float>(1.5 * c - 0.5 * r));
    const double truth = std::atan(std::hypot(1.5 / 2.5, 0.5 / 2.5)) * 180 / 3.14159265358979;
    for (const double u : {0.0, 0.01, 0.5, 0.99, 1.0})
        for (const double v : {0.0, 0.02, 0.5, 1.0}) {
            INFO(u << ", " << v);
            CHECK(slopeAt(level, level.originX + u * level.width(), level.originZ + v * level.depth()) ==
                  Approx(truth).margin(0.01));
        }
    const GroundFigures figures = surveyGround(level);
    CHECK(figures.steepest == Approx(truth).margin(0.01));
    CHECK(figures.lowest == Approx(-12));
    CHECK(figures.highest == Approx(60));
}

TEST_CASE("contours lie where the ground has their altitude, on an oblong level anywhere") {
    const Level level = lopsidedLevel();
    const std::vector<ContourPiece> pieces = contours(level, 4, 1);
    REQUIRE(pieces.size() > 200);
    double east = -1e9, south = -1e9;
    for (const ContourPiece& p : pieces) {
        CHECK(std::abs(std::remainder(p.altitude, 4)) < 1e-3);
        for (const auto& [x, z] : {std::pair{p.x0, p.z0}, {p.x1, p.z1}}) {
            REQUIRE(level.holds(x, z));
            CHECK(altitudeAt(level, x, z) == Approx(p.altitude).margin(0.02));
            east = std::max<double>(east, x), south = std::max<double>(south, z);
        }
    }
    CHECK(east > level.originX + 0.95 * level.width());
    CHECK(south > level.originZ + 0.9 * level.depth());
}

TEST_CASE("what crumbles and washes away lies somewhere else") {
    Level level = lopsidedLevel();
    level.lowest = -1000, level.highest = 1000;
    for (const WholeKind kind : {WholeKind::crumble, WholeKind::rainWash}) {
        WholeWish wish;
        wish.kind = kind;
        wish.years = 4, wish.angle = 8;
        const Result<WholeOutcome> done = reshapeWhole(level, wish);
        REQUIRE(done);
        double moved = 0;
        for (int r = 0; r < level.rows; ++r)
            for (int c = 0; c < level.columns; ++c)
                moved +=
                    std::abs(static_cast<double>(groundSample(done.value().level, c, r)) - groundSample(level, c, r));
        INFO(wholeName(kind));
        CHECK(moved > 100);
        // Not a thousandth of what moved, and not a hundredth of a millimetre a sample, is lost.
        CHECK(std::abs(heightSum(done.value().level) - heightSum(level)) <
              std::min(1e-3 * moved, 1e-5 * level.columns * level.rows + 1e-4 * moved));
    }
    // The brush too, even where it fades.
    Level brushed = lopsidedLevel();
    Stroke s = resting(Tool::crumble, brushed.originX + 120, brushed.originZ + 60, 2);
    s.settings.radius = 30, s.settings.angle = 6, s.settings.falloff.softness = 1, s.settings.strength = 1;
    const double before = heightSum(brushed);
    const Level was = brushed;
    REQUIRE(runStroke(brushed, s));
    CHECK_FALSE(brushed == was);
    CHECK(heightSum(brushed) == Approx(before).margin(0.05));
}

TEST_CASE("every work on the whole ground looks at cancel before it is done, and the level stays") {
    const Level level = lopsidedLevel();
    for (int k = 0; k < kWholeKinds; ++k) {
        WholeWish wish;
        wish.kind = static_cast<WholeKind>(k);
        std::atomic<bool> stop{true};
        Context context;
        context.cancel = &stop;
        const Result<WholeOutcome> asked = reshapeWhole(level, wish, context);
        INFO(wholeName(wish.kind));
        REQUIRE_FALSE(asked);
        CHECK(wasCancelled(asked.error()));
        // Asked in the middle: as soon as the first progress is told.
        stop = false;
        context.progress = [&](double) { stop = true; };
        const Result<WholeOutcome> midway = reshapeWhole(level, wish, context);
        REQUIRE_FALSE(midway);
        CHECK(wasCancelled(midway.error()));
    }
}
