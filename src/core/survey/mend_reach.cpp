#include "survey/mend_reach.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "base/names.h"
#include "base/range.h"
#include "commit/commit.h"
#include "course/bake.h"
#include "grid/distance.h"
#include "level/ground.h"

namespace jam {

namespace {

constexpr double kSteeper = 20;    // degrees by which the inner side of a bank is too steep
constexpr double kGentler = 0.85;  // share of the steepest that a body can stand on, of a ramp

// Whether anybody who begins at a start gets to one of these samples of the level.
bool leavesBy(const Reach& reach, const std::vector<std::array<int, 2>>& samples) {
    for (const ReachPlace& w : reach.waysOut)
        for (const auto& s : w.samples)
            if (std::find(samples.begin(), samples.end(), s) != samples.end()) return true;
    return false;
}

}  // namespace

Result<Mended> bankAlong(const Level& level, const Reach& reach, const ReachPlace& wayOut, const EdgeBank& bank,
                         const Context& context) {
    if (const Status s = checkNumbers(bank, kBankNumbers); !s) return s.error();
    if (const Status s = checkShapeable(level); !s) return s.error();
    const double tangent = std::tan(std::min(static_cast<double>(reach.body.slope) + kSteeper, 78.0) * kRadians);
    // Its inner side takes up whole cells, as few as are steep enough: a sample half way up would be a step.
    const double side = std::max(std::floor(bank.height / tangent / level.spacing) - 1, 0.0) * level.spacing;
    Region box{level.columns, level.rows, 0, 0};
    for (const auto& [c, r] : wayOut.samples)
        box = {std::min(box.x0, c), std::min(box.z0, r), std::max(box.x1, c + 1), std::max(box.z1, r + 1)};
    const int around = static_cast<int>(std::ceil((bank.width + side) / level.spacing)) + 1;
    box = box.grown(2 * around).clipped(level.bounds());
    Raster<float> goals(box.width(), box.depth(), kNoGoal);
    for (const auto& [c, r] : wayOut.samples) goals.at(c - box.x0, r - box.z0) = 0;
    distanceSquares(goals.view());
    Raster<float> before(box.width(), box.depth()), after;
    readGround(level, box, before.view());
    after = before;
    double earth = 0;
    float highest = level.lowest;
    for (int z = 0; z < box.depth(); ++z)
        for (int x = 0; x < box.width(); ++x) {
            const double away = std::sqrt(static_cast<double>(goals.at(x, z))) * level.spacing - bank.width;
            const double share = std::clamp(1 - std::max(away, 0.0) / std::max(side, 1e-6), 0.0, 1.0);
            if (share <= 0) continue;
            // Its crest stands over all ground from which one might jump onto it.
            float crest = before.at(x, z);
            for (int v = std::max(z - around, 0); v <= std::min(z + around, box.depth() - 1); ++v)
                for (int u = std::max(x - around, 0); u <= std::min(x + around, box.width() - 1); ++u)
                    crest = std::max(crest, before.at(u, v));
            after.at(x, z) += static_cast<float>(share) * (crest + bank.height - before.at(x, z));
            highest = std::max(highest, after.at(x, z));
            earth += static_cast<double>(after.at(x, z) - before.at(x, z)) * level.spacing * level.spacing;
        }
    if (highest > level.highest)
        return Error{"", "bank", "it would stand higher than the level's range",
                     "choose a lower bank or a larger range"};
    Level next = level;
    writeGround(next, box, before.view(), after.view());
    Result<Commit> made = commitWork(level, std::move(next), context);
    if (!made) return made.error();
    const Reach now = surveyReach(made.value().level, reach.body, context);
    if (context.cancelled()) return cancelledError();
    if (leavesBy(now, wayOut.samples))
        return Error{"", "bank", "one would get out over it still",
                     "choose a higher one, or lower the ground before it; courses and pads are not banked up"};
    return Mended{std::move(made.value().level), earth};
}

namespace {

// The samples of the piece of ground that a place lies on; none where it cannot be stood on.
std::vector<std::array<int, 2>> pieceAt(const ReachGround& g, double x, double z) {
    std::vector<std::array<int, 2>> piece;
    const auto at = g.sampleUnder(x, z);
    if (!at || g.kinds.at((*at)[0], (*at)[1]) != ReachGround::kFirm) return piece;
    const uint32_t node = g.nodes.at((*at)[0], (*at)[1]);
    for (int r = 0; r < g.rows; ++r)
        for (int c = 0; c < g.columns; ++c)
            if (g.nodes.at(c, r) == node) piece.push_back({c, r});
    return piece;
}

struct Ramp {
    std::array<double, 2> from, to;  // x, z
    double length;
};

// Ramps from the area to ground that is reached there and back, as steep as they may be, the shortest first.
std::vector<Ramp> rampsFrom(const Reach& reach, const std::vector<std::array<int, 2>>& area) {
    const ReachGround& g = *reach.ground;
    const double tangent = std::tan(static_cast<double>(reach.body.slope) * kGentler * kRadians);
    std::vector<Ramp> ramps;
    // A few dozen places of the area, spread over it, are enough to begin from.
    const size_t every = std::max<size_t>(1, area.size() / 60);
    constexpr int kWays = 48;
    for (size_t i = 0; i < area.size(); i += every)
        for (int k = 0; k < kWays; ++k) {
            const double dx = std::cos(k * kTurn / kWays), dz = std::sin(k * kTurn / kWays);
            const double height = static_cast<double>(g.heights.at(area[i][0], area[i][1]));
            for (double far = 2; far * g.spacing < kLongestRamp; ++far) {
                const int c = static_cast<int>(std::lround(area[i][0] + dx * far)),
                          r = static_cast<int>(std::lround(area[i][1] + dz * far));
                if (c < 1 || r < 1 || c + 1 >= g.columns || r + 1 >= g.rows) break;  // the border walls in
                if (g.kinds.at(c, r) == ReachGround::kNone) break;
                if (reach.classes.at(c, r) != static_cast<uint8_t>(Reached::both) ||
                    g.kinds.at(c, r) != ReachGround::kFirm)
                    continue;
                const double run = std::hypot(c - area[i][0], r - area[i][1]) * g.spacing;
                if (std::abs(static_cast<double>(g.heights.at(c, r)) - height) > tangent * run) continue;
                ramps.push_back({{g.originX + area[i][0] * g.spacing, g.originZ + area[i][1] * g.spacing},
                                 {g.originX + c * g.spacing, g.originZ + r * g.spacing},
                                 run});
                break;
            }
        }
    std::stable_sort(ramps.begin(), ramps.end(), [](const Ramp& a, const Ramp& b) { return a.length < b.length; });
    return ramps;
}

}  // namespace

Result<Mended> rampTo(const Level& level, const Reach& reach, double x, double z, const Context& context) {
    if (level.strata.size() >= kMaxStrata)
        return Error{"", "strata", "there are " + std::to_string(kMaxStrata) + " already", "merge or delete one first"};
    const std::vector<std::array<int, 2>> area = pieceAt(*reach.ground, x, z);
    if (area.empty()) return Error{"", "ramp", "the body cannot stand there", "choose a pocket or a trap of the list"};
    const auto is = static_cast<Reached>(reach.classes.at(area[0][0], area[0][1]));
    if (is == Reached::both) return Error{"", "ramp", "one gets there and back already", "nothing has to be mended"};
    const std::vector<Ramp> ramps = rampsFrom(reach, area);
    const Error none{"", "ramp",
                     "no ramp of up to " + std::to_string(static_cast<int>(kLongestRamp)) +
                         " m that this body can climb joins it to the ground that is reached",
                     "grade one with bends by a course"};
    // Some may be cut off by what lies between: a few are tried, no two of nearly the same.
    int tried = 0;
    for (size_t i = 0; i < ramps.size() && tried < 6; i += 1 + ramps.size() / 12, ++tried) {
        const Ramp& ramp = ramps[i];
        Course c;
        c.meets = false;
        c.smooth = false;
        const float width = std::max({3.f, 4 * reach.body.radius, static_cast<float>(3 * level.spacing)});
        for (const auto& at : {ramp.from, ramp.to})
            c.posts.push_back({at[0], at[1], static_cast<float>(altitudeAt(level, at[0], at[1])), width, width, 0});
        Level next = level;
        const std::string name = freeName("Ramp", [&](const std::string& n) {
            return std::any_of(next.strata.begin(), next.strata.end(), [&](const Stratum& x) { return x.name == n; });
        });
        const uint32_t id = addCourse(next, name, std::move(c));
        Result<Commit> made = commitWork(level, std::move(next), context);
        if (!made) return made.error();
        const Reach now = surveyReach(made.value().level, reach.body, context);
        if (context.cancelled()) return cancelledError();
        if (now.classes.at(area[0][0], area[0][1]) != static_cast<uint8_t>(Reached::both)) continue;
        Level done = std::move(made.value().level);
        const CourseFigures f = courseFigures(done, static_cast<size_t>(done.stratumIndex(id)));
        return Mended{std::move(done), f.cut + f.fill};
    }
    return none;
}

}  // namespace jam
