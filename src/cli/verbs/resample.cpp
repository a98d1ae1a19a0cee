#include "level/resize.h"
#include "verb.h"

namespace jam::cli {

Verb addResample(CLI::App& app) {
    struct Options {
        std::string file, out;
        int columns = 0, rows = 0;
        double spacing = 0;
    };
    auto o = std::make_shared<Options>();
    CLI::App* v = app.add_subcommand("resample", "The same ground with other samples");
    v->add_option("LEVEL", o->file, "The level file")->required();
    v->add_option("--spacing", o->spacing, "Metres between samples")->required();
    v->add_option("--columns", o->columns, "Samples from west to east; without it the size stays");
    v->add_option("--rows", o->rows, "Samples from north to south; without it the size stays");
    v->add_option("--out", o->out, "Write here instead of over LEVEL");
    return {v, [o] {
                return workOn(o->file, o->out, [&](const Level& l) {
                    const auto samples = [&](double metres) {
                        return static_cast<int>(std::clamp(std::round(metres / o->spacing) + 1, 0.0, 1e6));
                    };
                    return resampleLevel(l, o->columns ? o->columns : samples(l.width()),
                                         o->rows ? o->rows : samples(l.depth()), o->spacing);
                });
            }};
}

}  // namespace jam::cli
