// jamhill-cli: new | info | stroke | import | export | check. Described in docs/cli.md.
// Exit codes: 0 done, 1 check found something wrong, 2 bad input or disk trouble.
#include <CLI/CLI.hpp>
#include <cstdio>
#include <iostream>
#include <nlohmann/json.hpp>

#include "stroke/stroker.h"
#include "files/handover.h"
#include "files/heightmap.h"
#include "files/layer_set.h"
#include "files/level_file.h"
#include "files/stroke_file.h"
#include "survey/check.h"
#include "cover/weights.h"
#include "survey/slope.h"

using namespace jam;

namespace {

int refuse(const Error& error) {
    std::fprintf(stderr, "%s\n", error.sentence().c_str());
    return 2;
}
template <class T>
int refuse(const Result<T>& result) { return refuse(result.error()); }

// Every new level comes with the sample layers; `first` lies at the bottom.
Status addSampleLayers(Level& level, const std::string& first) {
    const std::filesystem::path share = shareFolder();
    if (share.empty())
        return Error{"", "sample layers", "they were not found", "set JAMHILL_SHARE to the folder that holds layers/"};
    Result<std::vector<Layer>> layers = readLayerSet(share / "layers");
    if (!layers) return layers.error();
    auto& list = layers.value();
    const auto at = std::find_if(list.begin(), list.end(), [&](const Layer& l) { return l.name == first; });
    if (!first.empty() && at == list.end()) {
        std::string names;
        for (const Layer& l : list) names += (names.empty() ? "" : ", ") + l.name;
        return Error{"", "first layer", "there is no layer \"" + first + "\"", "use one of: " + names};
    }
    if (!first.empty()) std::rotate(list.begin(), at, at + 1);
    for (Layer& l : list) addLayer(level, std::move(l));
    return {};
}

int saveNew(Result<Level> made, const std::string& first, const std::string& file) {
    if (!made) return refuse(made);
    if (const Status s = addSampleLayers(made.value(), first); !s) return refuse(s);
    if (const Status s = saveLevel(made.value(), file); !s) return refuse(s);
    return 0;
}

nlohmann::json describe(const Level& level) {
    const Relief relief = surveyRelief(level);
    const auto shares = layerShares(level);
    nlohmann::json layers = nlohmann::json::array(), strata = nlohmann::json::array();
    for (size_t i = 0; i < level.layers.size(); ++i) {
        const Layer& l = level.layers[i];
        layers.push_back({{"name", l.name}, {"share", shares[i]}, {"tileSize", l.tileSize}, {"hidden", l.hidden}});
    }
    for (const Stratum& s : level.strata) strata.push_back({{"name", s.name}, {"opacity", s.opacity}, {"visible", s.visible}});
    return {{"name", level.name}, {"columns", level.columns}, {"rows", level.rows}, {"spacing", level.spacing},
            {"width", level.width()}, {"depth", level.depth()}, {"range", {{"lowest", level.lowest}, {"highest", level.highest}}},
            {"ground", {{"lowest", relief.lowest}, {"highest", relief.highest}, {"steepest", relief.steepest}}},
            {"startHeight", level.startHeight}, {"coverFactor", level.coverFactor}, {"strata", strata}, {"layers", layers}};
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
    std::printf("%s\n  %d x %d samples, %g m apart: %g x %g m\n", l.name.c_str(), l.columns, l.rows, l.spacing, l.width(), l.depth());
    std::printf("  ground %.2f to %.2f m, steepest %.1f degrees (range %g to %g m)\n", j["ground"]["lowest"].get<double>(),
                j["ground"]["highest"].get<double>(), j["ground"]["steepest"].get<double>(), l.lowest, l.highest);
    for (const auto& layer : j["layers"])
        std::printf("  %5.1f %%  %s\n", 100 * layer["share"].get<double>(), layer["name"].get<std::string>().c_str());
    return 0;
}

int stroke(const std::string& file, const std::string& strokes, const std::string& out) {
    Result<Level> loaded = loadLevel(file);
    if (!loaded) return refuse(loaded);
    Level& level = loaded.value();
    const Result<std::vector<Stroke>> list = readStrokes(strokes, level);
    if (!list) return refuse(list);
    for (const Stroke& s : list.value())
        if (const Result<Change> r = runStroke(level, s); !r) return refuse(r);
    if (const Status s = saveLevel(level, out.empty() ? file : out); !s) return refuse(s);
    return 0;
}

int check(const std::string& file) {
    const Result<Level> level = loadLevel(file);
    if (!level) return refuse(level);
    const std::vector<std::string> wrong = checkLevel(level.value());
    for (const std::string& w : wrong) std::printf("%s\n", w.c_str());
    if (wrong.empty()) std::printf("%s is sound.\n", file.c_str());
    return wrong.empty() ? 0 : 1;
}

int exportTo(const std::string& file, const std::string& folder, const HandoverWish& wish) {
    const Result<Level> level = loadLevel(file);
    if (!level) return refuse(level);
    const Result<std::vector<std::string>> files = handOver(level.value(), folder, wish);
    if (!files) return refuse(files);
    for (const std::string& f : files.value()) std::printf("%s\n", f.c_str());
    return 0;
}

}  // namespace

int main(int count, char** words) {
    CLI::App app{"Jam Hill without a window"};
    app.require_subcommand(1);

    std::string file, other, out, first;
    NewLevel wish;
    double width = 0, depth = 0;
    CLI::App* make = app.add_subcommand("new", "Makes a flat level");
    make->add_option("LEVEL", file, "The level file to write")->required();
    make->add_option("--name", wish.name, "The level's name");
    make->add_option("--columns", wish.columns, "Samples from west to east, 2 to 8193");
    make->add_option("--rows", wish.rows, "Samples from north to south, 2 to 8193");
    make->add_option("--width", width, "Metres from west to east, instead of --columns");
    make->add_option("--depth", depth, "Metres from north to south, instead of --rows");
    make->add_option("--spacing", wish.spacing, "Metres between samples");
    make->add_option("--lowest", wish.lowest, "Lowest altitude that brushes may reach, metres");
    make->add_option("--highest", wish.highest, "Highest altitude that brushes may reach, metres");
    make->add_option("--start", wish.startHeight, "Altitude of the flat start, metres");
    make->add_option("--cover-factor", wish.coverFactor, "Cover samples per ground sample: 1, 2 or 4");
    make->add_option("--first-layer", first, "The sample layer that covers everything");

    bool json = false;
    CLI::App* tell = app.add_subcommand("info", "Tells what is in a level");
    tell->add_option("LEVEL", file, "The level file")->required();
    tell->add_flag("--json", json, "As JSON");

    CLI::App* draw = app.add_subcommand("stroke", "Runs strokes on a level");
    draw->add_option("LEVEL", file, "The level file")->required();
    draw->add_option("STROKES", other, "The stroke file")->required();
    draw->add_option("--out", out, "Write here instead of over LEVEL");

    HeightmapWish map;
    CLI::App* in = app.add_subcommand("import", "Makes a level from a heightmap picture");
    in->add_option("PICTURE", other, "PNG with 8 or 16 bits")->required();
    in->add_option("LEVEL", file, "The level file to write")->required();
    in->add_option("--spacing", map.spacing, "Metres between samples");
    in->add_option("--black", map.black, "Altitude of the darkest value, metres");
    in->add_option("--white", map.white, "Altitude of the brightest value, metres");
    in->add_option("--first-layer", first, "The sample layer that covers everything");

    HandoverWish hand;
    bool fullRange = false, noHeightmap = false, noSets = false, noSingles = false;
    CLI::App* give = app.add_subcommand("export", "Hands a level over in open formats");
    give->add_option("LEVEL", file, "The level file")->required();
    give->add_option("FOLDER", other, "Where to write")->required();
    give->add_flag("--full-range", fullRange, "Black and white are the level's range, not the ground's");
    give->add_flag("--no-heightmap", noHeightmap, "Leave the heightmap out");
    give->add_flag("--no-weight-sets", noSets, "Leave the RGBA weights out");
    give->add_flag("--no-single-weights", noSingles, "Leave the weights per layer out");

    CLI::App* verify = app.add_subcommand("check", "Verifies every promise of a level file");
    verify->add_option("LEVEL", file, "The level file")->required();

    try {
        app.parse(count, words);
    } catch (const CLI::ParseError& e) {
        return app.exit(e) == 0 ? 0 : 2;
    }
    if (*make) {
        // Metres win over counts; they need a spacing that divides them into a sensible number of samples.
        const auto samples = [&](double metres) { return static_cast<int>(std::clamp(std::round(metres / wish.spacing) + 1, 0.0, 1e6)); };
        if (make->count("--width")) wish.columns = samples(width);
        if (make->count("--depth")) wish.rows = samples(depth);
        return saveNew(makeLevel(wish), first, file);
    }
    if (*tell) return info(file, json);
    if (*draw) return stroke(file, other, out);
    if (*in) {
        const Result<Pixels> picture = readHeightmap(other);
        if (!picture) return refuse(picture);
        return saveNew(levelFromHeightmap(picture.value(), other, map), first, file);
    }
    if (*give) {
        hand = {!noHeightmap, !fullRange, !noSets, !noSingles};
        return exportTo(file, other, hand);
    }
    return check(file);
}
