#include "surveys.h"

#include "course/bake.h"
#include "cover/course_layers.h"
#include "cover/rules.h"
#include "dress/kinds.h"
#include "dress/plantings.h"
#include "grow/recipe.h"
#include "level/changes.h"
#include "level/ground.h"
#include "levels.h"
#include "ratios.h"
#include "survey/openings.h"
#include "survey/sunlight.h"
#include "survey/tallies.h"

namespace jam::bench {

using namespace jam::test;

void surveyRows() {
    auto level = std::make_shared<Level>(hillyLevel(2049, 2049, 5, 8));
    level->sun = {200, 30};
    const Change dab{.ground = Region{900, 1100, 1029, 1229}};
    auto tallies = std::make_shared<Tallies>(), anew = std::make_shared<Tallies>();
    tallies->follow(*level, nullptr);
    pair(
        "figures after a dab, R = 64, against all of 2049 x 2049", Goal::atMost, 0.02,
        [=] { tallies->follow(*level, &dab); }, [=] { anew->follow(*level, nullptr); });
    auto light = std::make_shared<Raster<uint8_t>>(2049, 2049);
    auto shade = std::make_shared<SunShade>(), whole = std::make_shared<SunShade>();
    shade->follow(*level, nullptr, light->view());
    pair(
        "sunlight after a dab, R = 64, against all of 2049 x 2049", Goal::atMost, 0.2,
        [=] { shade->follow(*level, &dab.ground, light->view()); },
        [=] { whole->follow(*level, nullptr, light->view()); });
    auto open = std::make_shared<Level>(*level);
    for (int k = 0; k < 40; ++k)
        for (int i = 0; i < 400; ++i) open->opening.set(50 + 48 * k + i % 20, 30 + 50 * k + i / 20, 255);
    auto heights = std::make_shared<Raster<float>>(2049, 2049);
    pair(
        "openings of 2049 x 2049, against reading the ground", Goal::atMost, 10,
        [=] { benchmark::DoNotOptimize(surveyOpenings(*open, 35)); },
        [=] { readGround(*open, open->bounds(), heights->view()); });
    // A course across a tenth of the level, which gives one of its layers up and takes another.
    auto ruled = std::make_shared<Level>(hillyLevel(2049, 2049, 5, 8));
    Course lane;
    lane.posts = {{-100, 0, {}, 6, 6}, {0, 40, {}, 6, 6}, {100, -20, {}, 6, 6}};
    const uint32_t course = addCourse(*ruled, "lane", lane);
    layOnCourse(*ruled, course, ruled->layers[3].id, 0);
    layOnCourse(*ruled, course, ruled->layers[4].id, 0);
    pair(
        "another layer for a course of 200 m, against running its rules all over", Goal::atMost, 0.1,
        [=, n = 0]() mutable { layOnCourse(*ruled, course, ruled->layers[++n % 2 ? 3 : 4].id, 0); },
        [=] {
            for (const int i : {3, 4}) refreshLaid(*ruled, ruled->layers[static_cast<size_t>(i)].id);
        });
    // What stands on a square kilometre, twenty on 100 m2, and what a dab makes of it.
    auto planted = std::make_shared<Level>(hillyLevel(1025, 1025, 5, 2));
    Kind stones;
    stones.name = "stones", stones.growth = usualGrowth(*recipeNamed("stone"));
    const uint32_t kind = addKind(*planted, stones).value();
    for (int z = 0; z < planted->coverRows(); ++z)
        for (int x = 0; x < planted->coverColumns(); ++x) planted->kind(kind)->coverage.set(x, z, 20 * 64);
    auto density = std::make_shared<Raster<uint16_t>>(planted->coverColumns(), planted->coverRows());
    pair(
        "what stands on 1 km2 at 20 on 100 m2, against reading its density", Goal::atMost, 4,
        [=] { Plantings(*planted).prepare(planted->bounds()); },
        [=] { planted->kind(kind)->coverage.read(planted->coverBounds(), density->view()); });
    auto followed = std::make_shared<Plantings>(*planted);
    followed->prepare(planted->bounds());
    const Change raised{.ground = Region{450, 450, 579, 579}};
    pair(
        "what stands after a dab, R = 64, against all of 1 km2", Goal::atMost, 0.05,
        [=] { followed->follow(*planted, raised), followed->prepare(planted->bounds()); },
        [=] { Plantings(*planted).prepare(planted->bounds()); });
}

}  // namespace jam::bench
