#include <cstdio>
#include <iostream>
#include <nlohmann/json.hpp>

#include "cover/weights.h"
#include "files/level_file.h"
#include "files/strata_json.h"
#include "survey/openings.h"
#include "survey/slope.h"
#include "verb.h"
#include "walk/reach.h"

namespace jam::cli {

namespace {

nlohmann::json describe(const Level& level) {
    const GroundFigures figures = surveyGround(level);
    const auto shares = layerShares(level);
    nlohmann::json layers = nlohmann::json::array(), strata = nlohmann::json::array();
    for (size_t i = 0; i < level.layers.size(); ++i) {
        const Layer& l = level.layers[i];
        layers.push_back({{"name", l.name}, {"share", shares[i]}, {"tileSize", l.tileSize}, {"hidden", l.hidden}});
    }
    nlohmann::json openings = nlohmann::json::array();
    for (const FoundOpening& o : surveyOpenings(level, bodyOf(level).slope))
        openings.push_back({{"x", o.x}, {"z", o.z}, {"area", o.area}, {"reached", o.reached}});
    for (const Stratum& s : level.strata) {
        strata.push_back(stratumToJson(s));
        strata.back()["id"] = s.id;
        strata.back()["active"] = s.id == level.activeStratum;
    }
    return {
        {"name", level.name},
        {"columns", level.columns},
        {"rows", level.rows},
        {"spacing", level.spacing},
        {"width", level.width()},
        {"depth", level.depth()},
        {"range", {{"lowest", level.lowest}, {"highest", level.highest}}},
        {"ground", {{"lowest", figures.lowest}, {"highest", figures.highest}, {"steepest", figures.steepest}}},
        {"openings", openings},
        {"land", level.noLand.presentTiles() > 0 ? figures.counted / static_cast<double>(level.bounds().area()) : 1.0},
        {"cliff", level.cliff},
        {"startHeight", level.startHeight},
        {"coverFactor", level.coverFactor},
        {"strata", strata},
        {"layers", layers}};
}

int info(const std::string& file, bool json) {
    const Result<Level> level = loadLevel(file);
    if (!level) return refuse(level);
    const nlohmann::json j = describe(level.value());
    if (json) {
        std::cout << j.dump(2) << "\n";
        return 0;
    }
    const Level& l = level.value();
    std::printf("%s\n  %d x %d samples, %g m apart: %g x %g m\n", l.name.c_str(), l.columns, l.rows, l.spacing,
                l.width(), l.depth());
    std::printf("  ground %.2f to %.2f m, steepest %.1f degrees (range %g to %g m)\n",
                j["ground"]["lowest"].get<double>(), j["ground"]["highest"].get<double>(),
                j["ground"]["steepest"].get<double>(), l.lowest, l.highest);
    for (const auto& o : j["openings"])
        std::printf("  opening of %.0f m2 at x %.1f, z %.1f%s\n", o["area"].get<double>(), o["x"].get<double>(),
                    o["z"].get<double>(), o["reached"].get<bool>() ? "" : ", out of reach");
    for (const auto& layer : j["layers"])
        std::printf("  %5.1f %%  %s\n", 100 * layer["share"].get<double>(), layer["name"].get<std::string>().c_str());
    return 0;
}

}  // namespace

Verb addInfo(CLI::App& app) {
    struct Options {
        std::string file;
        bool json = false;
    };
    auto o = std::make_shared<Options>();
    CLI::App* v = app.add_subcommand("info", "Tells what is in a level");
    v->add_option("LEVEL", o->file, "The level file")->required();
    v->add_flag("--json", o->json, "As JSON");
    return {v, [o] { return info(o->file, o->json); }};
}

}  // namespace jam::cli
