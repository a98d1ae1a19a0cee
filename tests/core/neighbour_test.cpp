// Neighbours: the border of one level fitted to another's.
#include "match/neighbour.h"

#include <catch2/catch.hpp>
#include <cmath>

#include "commit/commit.h"
#include "cover/rules.h"
#include "cover/weights.h"
#include "files/level_file.h"
#include "folder.h"
#include "level/changes.h"
#include "level/ground.h"
#include "level/strata.h"
#include "levels.h"
#include "stroke/stroker.h"
#include "survey/check.h"
#include "tools/tool.h"

using namespace jam;
using namespace jam::test;

namespace {

// Two levels that share nothing but spacing and the names of their layers.
Level here() {
    Level l = lopsidedLevel(3);
    for (Layer& layer : l.layers) layer.locked = false;
    return l;
}
Level there(Side side, int factor = 2) {
    const bool across = side == Side::north || side == Side::south;
    Level l = hillyLevel(across ? 149 : 61, across ? 40 : 85, 9, 4);
    Level out = flatLevel(l.columns, l.rows, 0, 1.5, factor);
    out.lowest = -100, out.highest = 400;
    for (int i = 0; i < 4; ++i) addLayer(out, plainLayer("layer " + std::to_string(2 * i + 1)));
    for (int r = 0; r < out.rows; ++r)
        for (int c = 0; c < out.columns; ++c)
            out.strata[0].heights.set(c, r,
                                      0.3f * groundSample(l, c, r) + 7.77f + 0.013f * static_cast<float>(c * r % 17));
    for (size_t i = 1; i < 4; ++i)
        for (int r = 0; r < out.coverRows(); ++r)
            for (int c = 0; c < out.coverColumns(); ++c)
                out.layers[i].coverage.set(c, r, static_cast<uint16_t>((c * 977 * i + r * 577) % 65536));
    return out;
}

// Samples of the border of `l`, from its north or west end.
template <class F>
void along(const Level& l, Side side, F f) {
    const bool across = side == Side::north || side == Side::south;
    for (int i = 0; i < (across ? l.columns : l.rows); ++i)
        f(i, across ? i : side == Side::west ? 0 : l.columns - 1, !across ? i : side == Side::north ? 0 : l.rows - 1);
}

}  // namespace

TEST_CASE("after fitting, the border samples of both levels are equal bit for bit") {
    for (const Side side : {Side::north, Side::east, Side::south, Side::west})
        for (const int factor : {1, 2, 4}) {
            const Level level = here(), neighbour = there(side, factor);
            INFO("side " << kSideNames[static_cast<size_t>(side)] << ", cover factor " << factor);
            CHECK(borderGap(level, neighbour, side).value().height > 1);
            MatchWish wish;
            wish.side = side;
            wish.file = "beside.jamhill";
            const Result<Level> fitted = matchBorder(level, neighbour, wish);
            if (!fitted) FAIL(fitted.error().sentence());
            const Level after = commitWork(level, fitted.value()).value().level;
            CHECK(checkLevel(after).empty());
            CHECK(borderGap(after, neighbour, side).value().none());
            std::vector<float> goal;
            along(neighbour, opposite(side), [&](int, int c, int r) { goal.push_back(groundSample(neighbour, c, r)); });
            along(after, side,
                  [&](int i, int c, int r) { REQUIRE(groundSample(after, c, r) == goal[static_cast<size_t>(i)]); });
            // Weights by name, at the samples that both covers have.
            std::vector<std::array<uint8_t, kMaxLayers>> weights;
            along(neighbour, opposite(side),
                  [&](int, int c, int r) { weights.push_back(weightsAt(neighbour, c * factor, r * factor)); });
            along(after, side, [&](int i, int c, int r) {
                const auto own = weightsAt(after, c * 2, r * 2);
                for (size_t k = 0; k < after.layers.size(); ++k) {
                    int wanted = 0;
                    for (size_t n = 0; n < 4; ++n)
                        if (neighbour.layers[n].name == after.layers[k].name)
                            wanted = weights[static_cast<size_t>(i)][n];
                    REQUIRE(own[k] == wanted);
                }
            });
            // It stays so whatever is sculpted below, and through the file.
            Level worked = after;
            worked.activeStratum = worked.strata[0].id;
            Stroke s;
            s.settings = usualSettings(Tool::raise);
            s.settings.radius = 60;
            s.points = {{worked.originX + 5, worked.originZ + 5, 1, 0},
                        {worked.originX + worked.width() - 5, worked.originZ + worked.depth() - 5, 1, 1}};
            REQUIRE(runStroke(worked, s));
            CHECK(groundSample(worked, 20, 20) != groundSample(after, 20, 20));
            CHECK(borderGap(worked, neighbour, side).value().height == 0);
            const Folder folder;
            REQUIRE(saveLevel(after, folder.path / "f.jamhill"));
            const Level back = loadLevel(folder.path / "f.jamhill").take();
            CHECK(back == after);
            CHECK(back.strata.back().border->file == "beside.jamhill");
            CHECK(back.strata.back().border->side == side);
        }
}

TEST_CASE("no step inside grows by more than the difference asks for") {
    for (const Side side : {Side::north, Side::east, Side::south, Side::west}) {
        const Level level = here(), neighbour = there(side);
        MatchWish wish;
        wish.side = side;
        wish.blend = 45;
        wish.cover = false;
        const Level after = matchBorder(level, neighbour, wish).value();
        CHECK(after.layers.size() == level.layers.size());
        CHECK(weightsAt(after, 5, 5) == weightsAt(level, 5, 5));
        std::vector<double> delta;
        along(level, side, [&](int, int c, int r) { delta.push_back(-groundSample(level, c, r)); });
        size_t k = 0;
        along(neighbour, opposite(side), [&](int, int c, int r) { delta[k++] += groundSample(neighbour, c, r); });
        double most = 0, change = 0;
        for (size_t i = 0; i < delta.size(); ++i) {
            most = std::max(most, std::abs(delta[i]));
            if (i) change = std::max(change, std::abs(delta[i] - delta[i - 1]));
        }
        // smoothstep is nowhere steeper than 1.5.
        const double inwards = most * 1.5 * level.spacing / wish.blend;
        const bool across = side == Side::north || side == Side::south;
        double worstIn = 0, worstAlong = 0, far = 0;
        for (int r = 0; r < level.rows; ++r)
            for (int c = 0; c < level.columns; ++c) {
                const auto step = [&](const Level& l, int dc, int dr) {
                    return std::abs(groundSample(l, c + dc, r + dr) - groundSample(l, c, r));
                };
                double& east = across ? worstAlong : worstIn;
                double& south = across ? worstIn : worstAlong;
                if (c + 1 < level.columns) east = std::max<double>(east, step(after, 1, 0) - step(level, 1, 0));
                if (r + 1 < level.rows) south = std::max<double>(south, step(after, 0, 1) - step(level, 0, 1));
                const int in = side == Side::north   ? r
                               : side == Side::south ? level.rows - 1 - r
                               : side == Side::west  ? c
                                                     : level.columns - 1 - c;
                if (in * 1.5 > 45)
                    far = std::max<double>(far, std::abs(groundSample(after, c, r) - groundSample(level, c, r)));
            }
        CHECK(worstIn <= inwards + 1e-4);
        CHECK(worstIn > 0);
        CHECK(worstAlong <= change + 1e-4);
        CHECK(far == 0);
    }
}

TEST_CASE("two neighbours that agree at their corner are both met, and fitting again replaces the first fit") {
    const Level level = here();
    Level north = there(Side::north), east = there(Side::east);
    // The corner that all three share.
    const float corner = groundSample(north, north.columns - 1, north.rows - 1);
    const float was = groundSample(east, 0, 0);
    east.strata[0].heights.set(0, 0, east.strata[0].heights.at(0, 0) + corner - was);
    REQUIRE(groundSample(east, 0, 0) == Approx(corner).margin(1e-4));
    north.strata[0].heights.set(north.columns - 1, north.rows - 1, groundSample(east, 0, 0));
    MatchWish wish;
    wish.cover = false;
    Level now = matchBorder(level, north, wish).value();
    wish.side = Side::east;
    now = matchBorder(now, east, wish).value();
    CHECK(borderGap(now, north, Side::north).value().height == 0);
    CHECK(borderGap(now, east, Side::east).value().height == 0);
    const size_t count = now.strata.size();
    wish.blend = 10;
    now = matchBorder(now, east, wish).value();
    CHECK(now.strata.size() == count);
    CHECK(now.strata.back().border->blend == 10);
    CHECK(borderGap(now, east, Side::east).value().height == 0);
    CHECK(borderGap(now, north, Side::north).value().height == 0);
    // A border is no stratum to shape, and can be deleted, dimmed and merged like others.
    CHECK(now.activeStratum == level.activeStratum);
    now.activeStratum = now.strata.back().id;
    CHECK_FALSE(checkShapeable(now));
    activateShown(now);
    CHECK_FALSE(now.stratum(now.activeStratum)->mixes());
    Level merged = now;
    CHECK_FALSE(mergeStratumDown(merged, merged.strata.back().id));  // onto another border
    Level gone = now;
    REQUIRE(removeStratum(gone, gone.strata.back().id));
    REQUIRE(removeStratum(gone, gone.strata.back().id));
    for (int r = 0; r < level.rows; ++r)
        for (int c = 0; c < level.columns; ++c) REQUIRE(groundSample(gone, c, r) == groundSample(level, c, r));
}

TEST_CASE("what cannot be fitted is told in a sentence") {
    const Level level = here();
    const auto field = [&](const Level& neighbour, const MatchWish& wish, const Level& own) {
        const Result<Level> r = matchBorder(own, neighbour, wish);
        return r ? std::string("accepted") : r.error().field;
    };
    MatchWish wish;
    const Level good = there(Side::north);
    CHECK(field(good, wish, level) == "accepted");
    Level other = good;
    other.spacing = 1;
    CHECK(field(other, wish, level) == "spacing");
    CHECK_FALSE(borderGap(level, other, Side::north));
    wish.side = Side::east;
    CHECK(field(good, wish, level) == "size");
    wish.side = Side::north;
    wish.blend = -1;
    CHECK(field(good, wish, level) == "blend");
    wish.blend = 20, wish.heights = wish.cover = false;
    CHECK(field(good, wish, level) == "match");
    wish.heights = true;
    Level low = level;
    low.highest = 12;
    CHECK(field(good, wish, low) == "heights");
    wish.cover = true;
    Level locked = level;
    locked.layers[6].locked = true;
    CHECK(field(good, wish, locked) == "layers");
    std::atomic<bool> stop = true;
    Context context;
    context.cancel = &stop;
    CHECK(wasCancelled(matchBorder(level, good, wish, context).error()));
}

TEST_CASE("a finer cover is fitted between the samples of a coarser neighbour, and rules that live leave it alone") {
    Level level = flatLevel(41, 61, 2, 1, 2), neighbour = flatLevel(41, 61, 2, 1, 1);
    for (int r = 0; r < neighbour.coverRows(); ++r)
        for (int c = 0; c < neighbour.coverColumns(); ++c)
            neighbour.layers[1].coverage.set(c, r, static_cast<uint16_t>(r % 2 ? 60000 : 4000));
    // Its rules lay nothing anywhere.
    const uint32_t id = level.layers[1].id;
    Rule none;
    none.kind = RuleKind::altitude, none.from = 400, none.to = 450;
    changeRules(level, id, {none});
    wakeRules(level, id, false);
    MatchWish wish;
    wish.side = Side::east;
    wish.heights = false, wish.cover = true, wish.blend = 12;
    const Result<Level> fitted = matchBorder(level, neighbour, wish);
    if (!fitted) FAIL(fitted.error().sentence());
    const Level& l = fitted.value();
    const auto weight = [](const Level& of, int c, int r) { return static_cast<int>(weightsAt(of, c, r)[1]); };
    const int edge = l.coverColumns() - 1;
    for (int r = 0; r + 2 < l.coverRows(); r += 2) {
        const int a = weight(l, edge, r), b = weight(l, edge, r + 2);
        CHECK(a == weight(neighbour, 0, r / 2));
        // Between two that differ much lies their mean.
        CHECK(weight(l, edge, r + 1) == Approx((a + b) / 2.0).margin(1.01));
    }
    // Inwards it fades, and stays when the rules are run again.
    Level again = l;
    refreshLaid(again, id);
    int within = 0;
    for (int r = 0; r < l.coverRows(); ++r)
        for (int c = edge - 20; c <= edge; ++c) {
            CHECK(weight(again, c, r) == Approx(weight(l, c, r)).margin(1.01));
            within += weight(l, c, r) > 20 && c < edge - 13;
        }
    CHECK(within > 20);
    // Rules that lay it everywhere move it as far as the border leaves it to them: less the nearer.
    Rule all = none;
    all.from = -400;
    Level covered = l;
    changeRules(covered, id, {all});
    double before = 0;
    for (const int in : {19, 16, 13, 4}) {
        const double held = l.layer(id)->held.at(edge - in, 61) / 65535.0;
        const double moved = covered.layer(id)->coverage.at(edge - in, 61) - l.layer(id)->coverage.at(edge - in, 61);
        CHECK(held > before + 0.05);
        CHECK(moved == Approx(65535 * (1 - held)).margin(2));
        before = held;
    }
}
