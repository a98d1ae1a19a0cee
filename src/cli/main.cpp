// jamhill-cli: new | info | stroke | reshape | resample | import | weights | cover | export | check. Described in docs/cli.md.
// Exit codes: 0 done, 1 check found something wrong, 2 bad input or disk trouble.
#include <CLI/CLI.hpp>
#include <cstdio>
#include <iostream>
#include <nlohmann/json.hpp>

#include "stroke/stroker.h"
#include "files/handover.h"
#include "files/heightmap.h"
#include "level/resize.h"
#include "shape/whole.h"
#include "files/layer_set.h"
#include "files/level_file.h"
#include "files/material.h"
#include "files/stroke_file.h"
#include "files/weights_file.h"
#include "survey/check.h"
#include "cover/mix.h"
#include "cover/rules.h"
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

int stroke(const std::string& file, const std::string& strokes, const std::string& out, const std::string& reference) {
    Result<Level> loaded = loadLevel(file);
    if (!loaded) return refuse(loaded);
    Level& level = loaded.value();
    const Result<std::vector<Stroke>> list = readStrokes(strokes, level, readTips(shareFolder() / "tips"));
    if (!list) return refuse(list);
    std::shared_ptr<const Level> before;
    if (!reference.empty()) {
        Result<Level> read = loadLevel(reference);
        if (!read) return refuse(read);
        before = std::make_shared<const Level>(read.take());
    }
    for (const Stroke& s : list.value()) {
        std::shared_ptr<const Raster<float>> relief;
        if (s.settings.tool == Tool::breakUp && s.settings.breakBy == BreakBy::height) {
            const Result<Material> m = makeMaterial(*level.layer(s.settings.layer), 128);
            if (!m) return refuse(m);
            relief = std::make_shared<const Raster<float>>(heightOf(m.value()));
        }
        if (const Result<Change> r = runStroke(level, s, before, relief); !r) return refuse(r);
    }
    if (const Status s = saveLevel(level, out.empty() ? file : out); !s) return refuse(s);
    return 0;
}

int import(const std::string& heightmap, const std::string& file, const std::string& first, FieldWish wish, RawLayout raw,
           const std::optional<float>& black, const std::optional<float>& white, bool guess) {
    Result<Bytes> bytes = readFile(heightmap, 2048u << 20);
    if (!bytes) return refuse(bytes);
    std::optional<RawLayout> layout;
    if (raw.width > 0) {
        layout = raw;
    } else if (looksRaw(bytes.value()) && (guess || namedRaw(heightmap))) {
        const Result<RawLayout> likely = guessRaw(bytes.value(), heightmap);
        if (!likely) return refuse(likely);
        layout = likely.value();
        const char* kinds[] = {"u8", "u16", "f32"};
        std::fprintf(stderr, "Taken as raw: %d x %d, %s%s, %zu bytes of header.\n", layout->width, layout->depth, kinds[static_cast<size_t>(layout->sample)], layout->bigEndian ? ", big endian" : "", layout->offset);
    }
    const Result<HeightField> field = decodeHeightField(bytes.value(), heightmap, layout);
    if (!field) return refuse(field);
    const HeightField& f = field.value();
    if (layout && staticness(f.values.view()) > kStatic) std::fprintf(stderr, "It looks like static: the byte order, width or kind of sample may be wrong.\n");
    if (f.holes) std::fprintf(stderr, "%d samples without a height were set to the lowest.\n", f.holes);
    if (f.steps == 256 && !wish.soften) std::fprintf(stderr, "It has only 256 steps: slopes come out stepped. Add --soften to bring them back.\n");
    // Formats that speak in metres need no black and white.
    wish.black = black.value_or(f.metres ? f.black : 0);
    wish.white = white.value_or(f.metres ? f.white : 100);
    return saveNew(levelFromField(f, wish), first, file);
}

int reshape(const std::string& file, const WholeWish& wish, const std::string& out) {
    const Result<Level> level = loadLevel(file);
    if (!level) return refuse(level);
    const Result<WholeOutcome> done = reshapeWhole(level.value(), wish);
    if (!done) return refuse(done);
    std::printf("Rises by up to %.2f m, falls by up to %.2f m.\n", done.value().rise, done.value().fall);
    if (done.value().clipped > 0) std::printf("%.2f %% of the ground meets the level's range and is held there.\n", 100 * done.value().clipped);
    if (const Status s = saveLevel(done.value().level, out); !s) return refuse(s);
    return 0;
}

int resample(const std::string& file, double spacing, int columns, int rows, const std::string& out) {
    const Result<Level> level = loadLevel(file);
    if (!level) return refuse(level);
    const Level& l = level.value();
    const auto samples = [&](double metres) { return static_cast<int>(std::clamp(std::round(metres / spacing) + 1, 0.0, 1e6)); };
    const Result<Level> done = resampleLevel(l, columns ? columns : samples(l.width()), rows ? rows : samples(l.depth()), spacing);
    if (!done) return refuse(done);
    if (const Status s = saveLevel(done.value(), out); !s) return refuse(s);
    return 0;
}

int weights(const std::string& file, const std::vector<std::string>& pictures, const std::string& order, const std::string& out) {
    const Result<Level> level = loadLevel(file);
    if (!level) return refuse(level);
    const Result<std::vector<WeightChannel>> channels = guessWeightChannels(level.value(), {pictures.begin(), pictures.end()}, order);
    if (!channels) return refuse(channels);
    const Result<Level> done = importWeights(level.value(), channels.value());
    if (!done) return refuse(done);
    const char* const names[] = {"red or grey", "green", "blue", "alpha"};
    for (const WeightChannel& c : channels.value())
        std::printf("%s, %s: %s\n", c.file.filename().string().c_str(), names[c.channel], level.value().layer(c.layer)->name.c_str());
    if (const Status s = saveLevel(done.value(), out); !s) return refuse(s);
    return 0;
}

// Works on the cover: another resolution, one layer in place of another, and rules worked through.
int cover(const std::string& file, int factor, const std::string& replaced, const std::string& by, const std::string& ruled, const std::string& out) {
    Result<Level> loaded = loadLevel(file);
    if (!loaded) return refuse(loaded);
    Level& level = loaded.value();
    std::optional<Error> error;
    const auto named = [&](const std::string& name, const char* field) -> uint32_t {
        for (const Layer& l : level.layers) if (l.name == name) return l.id;
        if (!error) error = Error{file, field, "there is no layer \"" + name + "\"", "see jamhill-cli info"};
        return 0;
    };
    if (factor)
        if (const Status s = changeCoverFactor(level, factor); !s) return refuse(s);
    if (!replaced.empty() || !by.empty()) {
        const uint32_t from = named(replaced, "--replace"), to = named(by, "--by");
        if (!error && from == to) error = Error{file, "--by", "it is the same layer", "name another"};
        if (!error) replaceLayer(level, from, to);
    }
    if (!ruled.empty())
        if (const uint32_t id = named(ruled, "--rules-of"); id) {
            if (level.layer(id)->rules.empty()) return refuse(Status(Error{file, "--rules-of", "\"" + ruled + "\" has no rules", "give it some in the program"}));
            level.layer(id)->alive ? void(refreshLayer(level, id)) : void(bakeRules(level, id));
        }
    if (error) return refuse(*error);
    if (const Status s = saveLevel(level, out); !s) return refuse(s);
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

    std::string file, other, out, first, reference;
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
    draw->add_option("--reference", reference, "The level that restore strokes bring back");

    FieldWish map;
    RawLayout raw;
    std::string fit = "keep", kernel = "cubic", sample;
    std::optional<float> black, white;
    bool guessRawLayout = false;
    CLI::App* in = app.add_subcommand("import", "Makes a level from a heightmap");
    in->add_option("HEIGHTMAP", other, "PNG, TIFF, OpenEXR, ASCII grid, or raw")->required();
    in->add_option("LEVEL", file, "The level file to write")->required();
    in->add_option("--spacing", map.spacing, "Metres between samples");
    in->add_option("--black", black, "Altitude of the darkest value, metres");
    in->add_option("--white", white, "Altitude of the brightest value, metres");
    in->add_option("--fit", fit, "keep (every sample), stretch or crop (to --width and --depth)")->check(CLI::IsMember({"keep", "stretch", "crop"}));
    in->add_option("--width", map.width, "Metres from west to east, to stretch or crop to");
    in->add_option("--depth", map.depth, "Metres from north to south, to stretch or crop to");
    in->add_option("--resampling", kernel, "nearest, linear or cubic")->check(CLI::IsMember({"nearest", "linear", "cubic"}));
    in->add_flag("--soften", map.soften, "Soften the steps of a picture with few values");
    in->add_flag("--raw", guessRawLayout, "Take any file as raw and guess its layout");
    in->add_option("--raw-width", raw.width, "Raw: samples in a row; without it the layout is guessed");
    in->add_option("--raw-depth", raw.depth, "Raw: rows");
    in->add_option("--raw-sample", sample, "Raw: u8, u16 or f32")->check(CLI::IsMember({"u8", "u16", "f32"}));
    in->add_flag("--raw-big-endian", raw.bigEndian, "Raw: the most significant byte comes first");
    in->add_option("--raw-offset", raw.offset, "Raw: bytes before the first sample");
    in->add_option("--first-layer", first, "The sample layer that covers everything");

    WholeWish whole;
    std::string work, landscape = "rolling-hills", meeting = "replace";
    CLI::App* shape = app.add_subcommand("reshape", "Works on the whole ground");
    shape->add_option("LEVEL", file, "The level file")->required();
    shape->add_option("WORK", work, "raise, scale, smooth, noise, crumble, rain-wash, soften-steps, remove-spikes or generate")->required();
    shape->add_option("--out", out, "Write here instead of over LEVEL");
    shape->add_option("--metres", whole.metres, "raise: by so many metres");
    shape->add_option("--low", whole.low, "scale: what the lowest ground becomes, metres");
    shape->add_option("--high", whole.high, "scale: what the highest ground becomes, metres");
    shape->add_option("--width", whole.width, "smooth: metres");
    shape->add_option("--angle", whole.angle, "crumble: angle of rest in degrees");
    shape->add_option("--years", whole.years, "crumble, rain-wash: years");
    shape->add_option("--step", whole.step, "soften-steps: metres of one step");
    shape->add_option("--spike", whole.spike, "remove-spikes: metres that a sample may stand out");
    shape->add_option("--scale", whole.noise.scale, "noise, generate: metres of the largest forms");
    shape->add_option("--height", whole.noise.relief, "noise, generate: metres");
    shape->add_option("--octaves", whole.noise.octaves, "noise: 1 to 10");
    shape->add_option("--seed", whole.seed, "noise, rain-wash, generate");
    shape->add_option("--landscape", landscape, "generate: rolling-hills, ridges, island, canyon, terraces or crater-lakes");
    shape->add_option("--edge", whole.landscape.edge, "generate: metres of mountains along the border");
    shape->add_option("--edge-width", whole.landscape.edgeWidth, "generate: metres that they reach inwards");
    shape->add_option("--meeting", meeting, "generate: replace, add, highest or lowest");

    int columns = 0, rows = 0;
    double newSpacing = 0;
    CLI::App* resize = app.add_subcommand("resample", "The same ground with other samples");
    resize->add_option("LEVEL", file, "The level file")->required();
    resize->add_option("--spacing", newSpacing, "Metres between samples")->required();
    resize->add_option("--columns", columns, "Samples from west to east; without it the size stays");
    resize->add_option("--rows", rows, "Samples from north to south; without it the size stays");
    resize->add_option("--out", out, "Write here instead of over LEVEL");

    HandoverWish hand;
    bool fullRange = false, noHeightmap = false, noSets = false, noSingles = false;
    CLI::App* give = app.add_subcommand("export", "Hands a level over in open formats");
    give->add_option("LEVEL", file, "The level file")->required();
    give->add_option("FOLDER", other, "Where to write")->required();
    give->add_flag("--full-range", fullRange, "Black and white are the level's range, not the ground's");
    give->add_flag("--no-heightmap", noHeightmap, "Leave the heightmap out");
    give->add_flag("--no-weight-sets", noSets, "Leave the RGBA weights out");
    give->add_flag("--no-single-weights", noSingles, "Leave the weights per layer out");
    bool noPictures = false;
    give->add_flag("--no-pictures", noPictures, "Leave the layers' pictures out");
    give->add_option("--weight-bits", hand.weightBits, "8 or 16");
    give->add_option("--channels", hand.channels, "In which channel of a set each layer goes, such as BGRA");

    std::vector<std::string> pictures;
    std::string order = "RGBA";
    CLI::App* weigh = app.add_subcommand("weights", "Takes layer weights in from pictures");
    weigh->add_option("LEVEL", file, "The level file")->required();
    weigh->add_option("PICTURES", pictures, "PNG: RGBA sets, or one named after each layer")->required();
    weigh->add_option("--channels", order, "The order of layers in the channels of a set, such as BGRA");
    weigh->add_option("--out", out, "Write here instead of over LEVEL");

    int factor = 0;
    std::string replaced, by, ruled;
    CLI::App* lay = app.add_subcommand("cover", "Works on the cover");
    lay->add_option("LEVEL", file, "The level file")->required();
    lay->add_option("--factor", factor, "Cover samples per ground sample: 1, 2 or 4");
    lay->add_option("--replace", replaced, "The layer that makes room everywhere");
    lay->add_option("--by", by, "The layer that takes its place");
    lay->add_option("--rules-of", ruled, "The layer that is laid by its rules");
    lay->add_option("--out", out, "Write here instead of over LEVEL");

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
    if (*draw) return stroke(file, other, out, reference);
    if (*in) {
        map.fit = fit == "stretch" ? Fit::stretch : fit == "crop" ? Fit::crop : Fit::keep;
        map.kernel = kernel == "nearest" ? Kernel::nearest : kernel == "linear" ? Kernel::linear : Kernel::cubic;
        raw.sample = sample == "u8" ? RawSample::u8 : sample == "f32" ? RawSample::f32 : RawSample::u16;
        return import(other, file, first, map, raw, black, white, guessRawLayout);
    }
    if (*shape) {
        const auto kind = wholeFromName(work);
        const auto land = landscapeFromName(landscape);
        const auto met = meetingFromName(meeting);
        if (!kind) return refuse(Status(Error{"", "WORK", "it is \"" + work + "\"", "see jamhill-cli reshape --help"}));
        if (!land) return refuse(Status(Error{"", "--landscape", "it is \"" + landscape + "\"", "see jamhill-cli reshape --help"}));
        if (!met) return refuse(Status(Error{"", "--meeting", "it is \"" + meeting + "\"", "use replace, add, highest or lowest"}));
        whole.kind = *kind;
        whole.landscape.kind = *land;
        whole.meeting = *met;
        whole.noise.seed = whole.landscape.seed = whole.seed;
        if (shape->count("--scale")) whole.landscape.scale = whole.noise.scale;
        if (shape->count("--height")) whole.landscape.height = whole.noise.relief;
        return reshape(file, whole, out.empty() ? file : out);
    }
    if (*resize) return resample(file, newSpacing, columns, rows, out.empty() ? file : out);
    if (*give) {
        hand.heightmap = !noHeightmap;
        hand.fitRange = !fullRange;
        hand.weightSets = !noSets;
        hand.weightPerLayer = !noSingles;
        hand.pictures = !noPictures;
        return exportTo(file, other, hand);
    }
    if (*weigh) return weights(file, pictures, order, out.empty() ? file : out);
    if (*lay) return cover(file, factor, replaced, by, ruled, out.empty() ? file : out);
    return check(file);
}
