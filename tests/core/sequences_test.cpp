// What follows equals what is made from the start, for any sequence of what hands can do (support/sequences.h). Every
// sequence that ever failed is kept here in its shortest form.
#include "sequences.h"

#include <catch2/catch.hpp>
#include <chrono>
#include <cstdlib>
#include <fstream>

#include "checks/check.h"
#include "survey/level_survey.h"
#include "survey/pyramid.h"
#include "survey/sunlight.h"
#include "walk/reach.h"

using namespace jam;
using namespace jam::test;

namespace {

// What is kept beside a level and follows its changes, as the window keeps it.
struct Kept {
    Level known;
    HeightPyramid pyramid;
    LevelSurvey survey;
    std::vector<std::vector<Finding>> found;  // by the checks that look at figures
    SunShade shade;
    Raster<uint8_t> sun, open;

    explicit Kept(const Level& level) { begin(level); }

    void begin(const Level& level) {
        known = level;
        pyramid = HeightPyramid(level);
        survey = {};
        survey.follow(level, nullptr);
        found.assign(checks().size(), {});
        check(level, nullptr);
        sun = open = Raster<uint8_t>(level.columns, level.rows);
        shade = {};
        shade.follow(level, nullptr, sun.view());
        readOpenness(level, open.view());
    }
    void follow(const Level& level) {
        if (!sameRaster(level, known)) return begin(level);
        const Change change = changesBetween(level, known);
        pyramid.update(level, change.ground);
        survey.follow(level, &change);
        check(level, &change);
        if (change.sun || !change.ground.empty())
            shade.follow(level, change.sun ? nullptr : &change.ground, sun.view());
        for (const Region& spot : change.ground.grown(opennessReach(level), level.bounds()).spots())
            readOpenness(level, open.view(), spot);
        known = level;
    }
    // What changed since makes stale.
    void check(const Level& level, const Change* change) {
        for (size_t i = 0; i < found.size(); ++i)
            if (checks()[i]->looks == Check::Looks::figures && (!change || checks()[i]->stale(*change)))
                found[i] = checks()[i]->find({level, survey});
    }
    std::optional<std::string> differs(const Kept& anew) const {
        for (int n = 0; n < pyramid.levels(); ++n)
            for (int z = 0; z < pyramid.down(n); ++z)
                for (int x = 0; x < pyramid.across(n); ++x) {
                    const HeightSpan &a = pyramid.span(n, x, z), &b = anew.pyramid.span(n, x, z);
                    if (a.low != b.low || a.high != b.high) return "the pyramid";
                }
        const GroundFigures &a = survey.ground, &b = anew.survey.ground;
        if (a.lowest != b.lowest || a.highest != b.highest || a.steepest != b.steepest) return "figures of the ground";
        if (survey.shares != anew.survey.shares) return "shares of layers";
        if (survey.stretched != anew.survey.stretched) return "the stretched share";
        if (survey.dress.all() != anew.survey.dress.all()) return "what stands";
        for (size_t i = 0; i < found.size(); ++i)
            if (!std::equal(
                    found[i].begin(), found[i].end(), anew.found[i].begin(), anew.found[i].end(),
                    [](const Finding& x, const Finding& y) { return x.sentence == y.sentence && x.at == y.at; }))
                return std::string("what the check “") + checks()[i]->name + "” finds";
        for (const auto part : {&Kept::sun, &Kept::open})
            for (int z = 0; z < known.rows; ++z)
                for (int x = 0; x < known.columns; ++x)
                    if ((this->*part).at(x, z) != (anew.*part).at(x, z))
                        return part == &Kept::sun ? "sunlight" : "openness";
        return std::nullopt;
    }
};

// What the window keeps, compared with what is made anew at every step; saved and opened at every fifth.
Look looker(const Level& start, bool thorough) {
    auto kept = std::make_shared<Kept>(start);
    return [kept, thorough](const Player& player) -> std::optional<std::string> {
        const Level& level = player.level();
        if (auto wrong = notAsMadeAnew(level)) return wrong;
        kept->follow(level);
        if (auto wrong = kept->differs(Kept(level))) return "kept up to date, it is not as made anew: " + *wrong;
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
    for (; asked ? gone() < seconds : played < 30; ++seed, ++played) check(seed, randomSequence(seed, 28));
    if (asked) WARN(played << " sequences were played");
}

TEST_CASE("sequences that failed once", "[sequences]") {
    const std::pair<uint32_t, const char*> kept[] = {
        // Courses beyond the level's edge whose verge reaches into it.
        {50524, "crop 0 0 0 0.717041015625 0 0\nlayOnCourse 0.5 0 0 0.5 0.5 0"},
        {58015, "crop 0.5 0 0 0 0 0\nlayOnCourse 0.5 0 0 0.5 0.5 0\nlayOnCourse 0 0 0 0 0 0"},
        // A course that moves while another layer looks at it by a rule of the designer's.
        {58040, "movePost 0.5 1 0 0 0 0"},
        // To the size that it has.
        {73814, "resample 0.5 0 0 0 0 0"},
        // Which way one leans that stands upright, turned with its clip.
        {13, "workFence 0 0 0 0 0 0\nclip 0.5 0.5 0.79638671875 0.5 0.903564453125 0"},
        // Water by the edge of a tile, over what stands in the next.
        {4015, "pool 0.5 0.80517578125 0 0 0 0"},
    };
    for (const auto& [seed, steps] : kept) check(seed, sequenceFrom(steps));
}

// One that was printed, played once more: JAMHILL_AGAIN names a file with its text (tools/sequences).
TEST_CASE("a sequence that failed is played again", "[.again]") {
    if (!std::getenv("JAMHILL_AGAIN")) return;
    std::ifstream in(std::getenv("JAMHILL_AGAIN"));
    const std::string steps((std::istreambuf_iterator<char>(in)), {});
    const size_t at = steps.find("level "), from = steps.find('\n', at);
    REQUIRE(from != std::string::npos);
    check(static_cast<uint32_t>(std::atoi(steps.c_str() + at + 6)), sequenceFrom(steps.substr(from)));
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
