#include <cstdio>

#include "files/handover.h"
#include "files/level_file.h"
#include "verb.h"

namespace jam::cli {

namespace {

int exportTo(const std::string& file, const std::string& folder, const HandoverWish& wish) {
    const Result<Level> level = loadLevel(file);
    if (!level) return refuse(level);
    const Result<std::vector<std::string>> files = handOver(level.value(), folder, wish);
    if (!files) return refuse(files);
    for (const std::string& f : files.value()) std::printf("%s\n", f.c_str());
    return 0;
}

}  // namespace

Verb addExport(CLI::App& app) {
    struct Options {
        std::string file, folder;
        HandoverWish wish;
        bool fullRange = false, noHeightmap = false, noSets = false, noSingles = false, noPictures = false;
    };
    auto o = std::make_shared<Options>();
    CLI::App* v = app.add_subcommand("export", "Hands a level over in open formats");
    v->add_option("LEVEL", o->file, "The level file")->required();
    v->add_option("FOLDER", o->folder, "Where to write")->required();
    v->add_flag("--full-range", o->fullRange, "Black and white are the level's range, not the ground's");
    v->add_flag("--no-heightmap", o->noHeightmap, "Leave the heightmap out");
    v->add_flag("--no-weight-sets", o->noSets, "Leave the RGBA weights out");
    v->add_flag("--no-single-weights", o->noSingles, "Leave the weights per layer out");
    v->add_flag("--no-pictures", o->noPictures, "Leave the layers' pictures out");
    v->add_option("--weight-bits", o->wish.weightBits, "8 or 16");
    v->add_option("--channels", o->wish.channels, "In which channel of a set each layer goes, such as BGRA");
    return {v, [o] {
                o->wish.heightmap = !o->noHeightmap;
                o->wish.fitRange = !o->fullRange;
                o->wish.weightSets = !o->noSets;
                o->wish.weightPerLayer = !o->noSingles;
                o->wish.pictures = !o->noPictures;
                return exportTo(o->file, o->folder, o->wish);
            }};
}

}  // namespace jam::cli
