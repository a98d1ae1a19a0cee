// What follows equals what is made from the start, for any sequence of what hands can do (support/sequences.h). Every
// sequence that ever failed is kept here in its shortest form.
#include "sequences.h"

#include <catch2/catch.hpp>
#include <chrono>
#include <cstdlib>

#include "survey/openings.h"
#include "survey/pyramid.h"
#include "survey/sunlight.h"
#include "survey/tallies.h"
#include "walk/reach.h"

using namespace jam;
using namespace jam::test;

namespace {

// What is kept beside a level and follows its changes, as the window keeps it.
struct Beside {
    Level known;
    HeightPyramid pyramid;
    Tallies tallies;
    SunShade shade;
    Raster<uint8_t> sun, open;

    explicit Beside(const Level& level) { begin(level); }

    void begin(const Level& level) {
        known = level;
        pyramid = HeightPyramid(level);
        tallies = {};
        tallies.follow(level, nullptr);
        sun = open = Raster<uint8_t>(level.columns, level.rows);
        shade = {};
        shade.follow(level, nullptr, sun.view());
        readOpenness(level, open.view());
    }
    void follow(const Level& level) {
        if (!sameRaster(level, known)) return begin(level);
        const Change change = changesBetween(level, known);
        pyramid.update(level, change.ground);
        tallies.follow(level, &change);
        if (change.sun || !change.ground.empty())
            shade.follow(level, change.sun ? nullptr : &change.ground, sun.view());
        for (const Region& spot : change.ground.grown(opennessReach(level), level.bounds()).spots())
            readOpenness(level, open.view(), spot);
        known = level;
    }
    std::optional<std::string> differs(const Beside& anew) const {
        for (int n = 0; n < pyramid.levels(); ++n)
            for (int z = 0; z < pyramid.down(n); ++z)
                for (int x = 0; x < pyramid.across(n); ++x) {
                    const HeightSpan &a = pyramid.span(n, x, z), &b = anew.pyramid.span(n, x, z);
                    if (a.low != b.low || a.high != b.high) return "the pyramid";
                }
        const GroundFigures a = tallies.ground(known), b = anew.tallies.ground(known);
        if (a.lowest != b.lowest || a.highest != b.highest || a.steepest != b.steepest) return "figures of the ground";
        if (tallies.shares() != anew.tallies.shares()) return "shares of layers";
        if (tallies.stretched() != anew.tallies.stretched()) return "the stretched share";
        for (const auto part : {&Beside::sun, &Beside::open})
            for (int z = 0; z < known.rows; ++z)
                for (int x = 0; x < known.columns; ++x)
                    if ((this->*part).at(x, z) != (anew.*part).at(x, z))
                        return part == &Beside::sun ? "sunlight" : "openness";
        return std::nullopt;
    }
};

// What the window keeps, compared with what is made anew at every step; saved and opened at every fifth.
Look looker(const Level& start, bool thorough) {
    auto beside = std::make_shared<Beside>(start);
    return [beside, thorough](const Player& player) -> std::optional<std::string> {
        const Level& level = player.level();
        if (auto wrong = notAsMadeAnew(level)) return wrong;
        beside->follow(level);
        if (auto wrong = beside->differs(Beside(level))) return "kept up to date, it is not as made anew: " + *wrong;
        if (thorough || player.steps() % 5 == 0) return Player(level).play({"reopen", {}});
        return std::nullopt;
    };
}

void check(uint32_t levelSeed, const Sequence& steps) {
    if (const auto failure = failing(levelSeed, steps, looker)) FAIL_CHECK(failure->what);
}

}  // namespace

TEST_CASE("what follows is what is made anew, whatever hands do", "[sequences]") {
    // As long as is asked for, or a few that always run.
    const char* asked = std::getenv("JAMHILL_SEQUENCES");
    const double seconds = asked ? std::atof(asked) : 0;
    const char* from = std::getenv("JAMHILL_SEED");
    uint32_t seed = from ? static_cast<uint32_t>(std::atoi(from)) : 1;
    const auto start = std::chrono::steady_clock::now();
    const auto gone = [&] { return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count(); };
    int played = 0;
    for (; asked ? gone() < seconds : played < 14; ++seed, ++played) check(seed, randomSequence(seed, 28));
    if (asked) WARN(played << " sequences were played");
}

TEST_CASE("sequences are text, and shrink to what cannot be left out") {
    const Sequence steps = randomSequence(5, 30);
    CHECK(sequenceFrom(toText(steps)) == steps);
    CHECK(sequenceFrom("nonsense 1 2 3 4 5 6\nsun 0 1 0 0 0 0\nraise 1").size() == 1);
    // "It fails when the sun was turned after a layer was added."
    const MakeLook look = [](const Level& first, bool) -> Look {
        return [layers = first.layers.size(), sun = first.sun](const Player& p) -> std::optional<std::string> {
            if (p.level().layers.size() > layers && p.level().sun != sun) return "both";
            return std::nullopt;
        };
    };
    Sequence long_ = randomSequence(7, 20);
    std::erase_if(long_, [](const Step& s) {
        return s.verb == "sun" || s.verb == "undo" || s.verb == "stepTo" || s.verb.ends_with("Layer");
    });
    long_.insert(long_.begin() + 3, Step{"addLayer", {0.3, 0.2}});
    long_.insert(long_.begin() + 9, Step{"sun", {0.3, 0.7}});
    const auto failure = failing(1, long_, look);
    REQUIRE(failure);
    INFO(failure->what);
    REQUIRE(failure->shortest.size() == 2);
    CHECK(failure->shortest[0].verb == "addLayer");
    CHECK(failure->shortest[1].verb == "sun");
}
