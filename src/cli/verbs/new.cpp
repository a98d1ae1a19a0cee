#include "verb.h"

namespace jam::cli {

Verb addNew(CLI::App& app) {
    struct Options {
        NewLevel wish;
        std::string file, first;
        double width = 0, depth = 0;
        bool replace = false;
    };
    auto o = std::make_shared<Options>();
    CLI::App* v = app.add_subcommand("new", "Makes a flat level");
    v->add_option("LEVEL", o->file, "The level file to write")->required();
    v->add_option("--name", o->wish.name, "The level's name");
    v->add_option("--columns", o->wish.columns, "Samples from west to east, 2 to 8193");
    v->add_option("--rows", o->wish.rows, "Samples from north to south, 2 to 8193");
    v->add_option("--width", o->width, "Metres from west to east, instead of --columns");
    v->add_option("--depth", o->depth, "Metres from north to south, instead of --rows");
    v->add_option("--spacing", o->wish.spacing, "Metres between samples");
    v->add_option("--lowest", o->wish.lowest, "Lowest altitude that brushes may reach, metres");
    v->add_option("--highest", o->wish.highest, "Highest altitude that brushes may reach, metres");
    v->add_option("--start", o->wish.startHeight, "Altitude of the flat start, metres");
    v->add_option("--cover-factor", o->wish.coverFactor, "Cover samples per ground sample: 1, 2 or 4");
    v->add_option("--first-layer", o->first, "The sample layer that covers everything");
    declareReplace(v, o->replace);
    return {v, [o, v] {
                // Metres win over counts; they need a spacing that divides them into a sensible number of samples.
                const auto samples = [&](double metres) {
                    return static_cast<int>(std::clamp(std::round(metres / o->wish.spacing) + 1, 0.0, 1e6));
                };
                if (v->count("--width")) o->wish.columns = samples(o->width);
                if (v->count("--depth")) o->wish.rows = samples(o->depth);
                return saveNew(makeLevel(o->wish), o->first, o->file, o->replace);
            }};
}

}  // namespace jam::cli
