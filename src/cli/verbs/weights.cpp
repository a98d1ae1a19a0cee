#include <cstdio>

#include "files/weights_file.h"
#include "verb.h"

namespace jam::cli {

Verb addWeights(CLI::App& app) {
    struct Options {
        std::string file, out, order = "RGBA";
        std::vector<std::string> pictures;
    };
    auto o = std::make_shared<Options>();
    CLI::App* v = app.add_subcommand("weights", "Takes layer weights in from pictures");
    v->add_option("LEVEL", o->file, "The level file")->required();
    v->add_option("PICTURES", o->pictures, "PNG: RGBA sets, or one named after each layer")->required();
    v->add_option("--channels", o->order, "The order of layers in the channels of a set, such as BGRA");
    v->add_option("--out", o->out, "Write here instead of over LEVEL");
    return {v, [o] {
                return workOn(o->file, o->out, [&](const Level& level) -> Result<Level> {
                    const Result<std::vector<WeightChannel>> channels = guessWeightChannels(
                        level, {o->pictures.begin(), o->pictures.end()}, o->order);
                    if (!channels) return channels.error();
                    Result<Level> done = importWeights(level, channels.value());
                    if (!done) return done;
                    const char* const names[] = {"red or grey", "green", "blue", "alpha"};
                    for (const WeightChannel& c : channels.value())
                        std::printf("%s, %s: %s\n", c.file.filename().string().c_str(), names[c.channel],
                                    level.layer(c.layer)->name.c_str());
                    return done;
                });
            }};
}

}  // namespace jam::cli
