#include <cstdio>

#include "files/disk.h"
#include "files/field_level.h"
#include "files/heightmap.h"
#include "verb.h"

namespace jam::cli {

namespace {

int import(const std::string& heightmap, const std::string& file, const std::string& first, FieldWish wish,
           RawLayout raw, const std::optional<float>& black, const std::optional<float>& white, bool guess) {
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
        std::fprintf(stderr, "Taken as raw: %d x %d, %s%s, %zu bytes of header.\n", layout->width, layout->depth,
                     kinds[static_cast<size_t>(layout->sample)], layout->bigEndian ? ", big endian" : "",
                     layout->offset);
    }
    const Result<HeightField> field = decodeHeightField(bytes.value(), heightmap, layout);
    if (!field) return refuse(field);
    const HeightField& f = field.value();
    if (layout && staticness(f.values.view()) > kStatic)
        std::fprintf(stderr, "It looks like static: the byte order, width or kind of sample may be wrong.\n");
    if (f.holes) std::fprintf(stderr, "%d samples without a height were set to the lowest.\n", f.holes);
    if (f.steps == 256 && !wish.soften)
        std::fprintf(stderr, "It has only 256 steps: slopes come out stepped. Add --soften to bring them back.\n");
    // Formats that speak in metres need no black and white.
    wish.black = black.value_or(f.metres ? f.black : 0);
    wish.white = white.value_or(f.metres ? f.white : 100);
    return saveNew(levelFromField(f, wish), first, file);
}

struct ImportOptions {
    FieldWish map;
    RawLayout raw;
    std::string heightmap, file, first, fit = "keep", kernel = "cubic", sample;
    std::optional<float> black, white;
    bool guess = false;
};

int importAs(ImportOptions& o) {
    o.map.fit = o.fit == "stretch" ? Fit::stretch : o.fit == "crop" ? Fit::crop : Fit::keep;
    o.map.kernel = o.kernel == "nearest" ? Kernel::nearest : o.kernel == "linear" ? Kernel::linear : Kernel::cubic;
    o.raw.sample = o.sample == "u8" ? RawSample::u8 : o.sample == "f32" ? RawSample::f32 : RawSample::u16;
    return import(o.heightmap, o.file, o.first, o.map, o.raw, o.black, o.white, o.guess);
}

}  // namespace

Verb addImport(CLI::App& app) {
    auto o = std::make_shared<ImportOptions>();
    CLI::App* v = app.add_subcommand("import", "Makes a level from a heightmap");
    v->add_option("HEIGHTMAP", o->heightmap, "PNG, TIFF, OpenEXR, ASCII grid, or raw")->required();
    v->add_option("LEVEL", o->file, "The level file to write")->required();
    v->add_option("--spacing", o->map.spacing, "Metres between samples");
    v->add_option("--black", o->black, "Altitude of the darkest value, metres");
    v->add_option("--white", o->white, "Altitude of the brightest value, metres");
    v->add_option("--fit", o->fit, "keep (every sample), stretch or crop (to --width and --depth)")
        ->check(CLI::IsMember({"keep", "stretch", "crop"}));
    v->add_option("--width", o->map.width, "Metres from west to east, to stretch or crop to");
    v->add_option("--depth", o->map.depth, "Metres from north to south, to stretch or crop to");
    v->add_option("--resampling", o->kernel, "nearest, linear or cubic")
        ->check(CLI::IsMember({"nearest", "linear", "cubic"}));
    v->add_flag("--soften", o->map.soften, "Soften the steps of a picture with few values");
    v->add_flag("--raw", o->guess, "Take any file as raw and guess its layout");
    v->add_option("--raw-width", o->raw.width, "Raw: samples in a row; without it the layout is guessed");
    v->add_option("--raw-depth", o->raw.depth, "Raw: rows");
    v->add_option("--raw-sample", o->sample, "Raw: u8, u16 or f32")->check(CLI::IsMember({"u8", "u16", "f32"}));
    v->add_flag("--raw-big-endian", o->raw.bigEndian, "Raw: the most significant byte comes first");
    v->add_option("--raw-offset", o->raw.offset, "Raw: bytes before the first sample");
    v->add_option("--first-layer", o->first, "The sample layer that covers everything");
    return {v, [o] { return importAs(*o); }};
}

}  // namespace jam::cli
