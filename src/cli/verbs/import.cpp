#include <cstdio>

#include "files/disk.h"
#include "files/field_level.h"
#include "files/heightmap.h"
#include "place_options.h"
#include "verb.h"

namespace jam::cli {

namespace {

struct ImportOptions : PlaceOptions {
    bool replace = false;
    FieldWish map;
    RawLayout raw;
    std::string heightmap, file, first, into, fit = "keep", kernel = "cubic", sample;
    std::optional<float> black, white;
    std::optional<double> spacing;
    bool guess = false, sized = false;
};

int import(ImportOptions& o) {
    Result<Bytes> bytes = readFile(o.heightmap, 2048u << 20);
    if (!bytes) return refuse(bytes);
    std::optional<RawLayout> layout;
    if (o.raw.width > 0) {
        layout = o.raw;
    } else if (looksRaw(bytes.value()) && (o.guess || namedRaw(o.heightmap))) {
        const Result<RawLayout> likely = guessRaw(bytes.value(), o.heightmap);
        if (!likely) return refuse(likely);
        layout = likely.value();
        std::fprintf(stderr, "Taken as raw: %d x %d, %s%s, %zu bytes of header.\n", layout->width, layout->depth,
                     std::string(rawWord(layout->sample)).c_str(), layout->bigEndian ? ", big endian" : "",
                     layout->offset);
    }
    const Result<HeightField> field = decodeHeightField(bytes.value(), o.heightmap, layout);
    if (!field) return refuse(field);
    const HeightField& f = field.value();
    FieldWish wish = o.map;
    if (layout && staticness(f.values.view()) > kStatic)
        std::fprintf(stderr, "It looks like static: the byte order, width or kind of sample may be wrong.\n");
    if (f.holes) std::fprintf(stderr, "%lld samples without a height were filled from their surroundings.\n", f.holes);
    if (f.steps == 256 && !wish.soften)
        std::fprintf(stderr, "It has only 256 steps: slopes come out stepped. Add --soften to bring them back.\n");
    // Formats that speak in metres need no black and white.
    wish.black = o.black.value_or(f.metres ? f.black : 0);
    wish.white = o.white.value_or(f.metres ? f.white : 100);
    wish.spacing = o.spacing.value_or(f.cellX > 0 ? std::min(f.cellX, f.cellZ) : 1);
    if (!o.spacing && !o.sized && !cellsFit(f))
        return refuse(Error{o.heightmap, "spacing", cellNote(f),
                            "take every sample as it is with a spacing of your own, as with --spacing 2, or stretch "
                            "it with --fit stretch, --width and --depth"});
    if (!o.sized && cellsFit(f) && f.cellX > 0) {
        wish.width = (f.width() - 1) * f.cellX, wish.depth = (f.depth() - 1) * f.cellZ;
        // Samples that are not as far apart one way as the other are stretched, or the ground would be.
        if (!f.square() && wish.fit == Fit::keep) wish.fit = Fit::stretch;
    }
    Result<Level> made = levelFromField(f, wish);
    if (o.into.empty()) return saveNew(std::move(made), o.first, o.file, o.replace);
    if (!made) return refuse(made);
    return workOn(o.file, {}, [&](const Level& level) -> Result<Level> {
        const Placement place = o.placement(level);
        SetDownWish down = o.wish;
        down.stratum = o.into;
        return setDown(level, made.value(), {place}, down);
    });
}

int importAs(ImportOptions& o) {
    o.map.fit = o.fit == "stretch" ? Fit::stretch : o.fit == "crop" ? Fit::crop : Fit::keep;
    o.map.kernel = o.kernel == "nearest" ? Kernel::nearest : o.kernel == "linear" ? Kernel::linear : Kernel::cubic;
    for (int k = 0; k < kRawSamples; ++k)
        if (rawWord(static_cast<RawSample>(k)) == o.sample) o.raw.sample = static_cast<RawSample>(k);
    return import(o);
}

}  // namespace

Verb addImport(CLI::App& app) {
    auto o = std::make_shared<ImportOptions>();
    CLI::App* v = app.add_subcommand("import", "Makes a level from a heightmap");
    v->add_option("HEIGHTMAP", o->heightmap, "PNG, TIFF, OpenEXR, ASCII grid, or raw")->required();
    v->add_option("LEVEL", o->file, "The level file to write")->required();
    v->add_option("--spacing", o->spacing, "Metres between samples; without it what the file says, or 1");
    v->add_option("--black", o->black, "Altitude of the darkest value, metres");
    v->add_option("--white", o->white, "Altitude of the brightest value, metres");
    v->add_option("--fit", o->fit, "keep (every sample), stretch or crop (to --width and --depth)")
        ->check(CLI::IsMember({"keep", "stretch", "crop"}));
    auto* width = v->add_option("--width", o->map.width, "Metres from west to east, to stretch or crop to");
    auto* depth = v->add_option("--depth", o->map.depth, "Metres from north to south, to stretch or crop to");
    v->add_option("--resampling", o->kernel, "nearest, linear or cubic")
        ->check(CLI::IsMember({"nearest", "linear", "cubic"}));
    v->add_flag("--soften", o->map.soften, "Soften the steps of a picture with few values");
    v->add_flag("--raw", o->guess, "Take any file as raw and guess its layout");
    v->add_option("--raw-width", o->raw.width, "Raw: samples in a row; without it the layout is guessed");
    v->add_option("--raw-depth", o->raw.depth, "Raw: rows");
    v->add_option("--raw-sample", o->sample, "Raw: u8, i8, u16, i16, u32, i32, f32 or f64")
        ->check(CLI::IsMember({"u8", "i8", "u16", "i16", "u32", "i32", "f32", "f64"}));
    v->add_flag("--raw-big-endian", o->raw.bigEndian, "Raw: the most significant byte comes first");
    v->add_option("--raw-offset", o->raw.offset, "Raw: bytes before the first sample");
    v->add_option("--into-stratum", o->into,
                  "LEVEL is there already, and the heightmap becomes a new stratum of it, under this name");
    o->declare(v, false);
    v->add_option("--first-layer", o->first, "The sample layer that covers everything");
    declareReplace(v, o->replace);
    return {v, [o, width, depth] {
                o->sized = *width || *depth;
                return importAs(*o);
            }};
}

}  // namespace jam::cli
