#include <cstdio>

#include "shape/whole.h"
#include "verb.h"

namespace jam::cli {

namespace {

struct ReshapeOptions {
    WholeWish whole;
    std::string file, out, work, landscape = "rolling-hills", meeting = "replace", to = "mean";
};

int reshape(ReshapeOptions& o, const CLI::App& v) {
    const auto kind = wholeFromName(o.work);
    const auto land = landscapeFromName(o.landscape);
    const auto met = meetingFromName(o.meeting);
    if (!kind) return refuse(Error{"", "WORK", "it is \"" + o.work + "\"", "see jamhill-cli reshape --help"});
    if (!land)
        return refuse(Error{"", "--landscape", "it is \"" + o.landscape + "\"", "see jamhill-cli reshape --help"});
    if (!met)
        return refuse(Error{"", "--meeting", "it is \"" + o.meeting + "\"", "use replace, add, highest or lowest"});
    if (o.to != "height" && o.to != "mean" && o.to != "rim")
        return refuse(Error{"", "--to", "it is \"" + o.to + "\"", "use height, mean or rim"});
    WholeWish& w = o.whole;
    w.kind = *kind;
    w.flattenTo = o.to == "height" ? FlattenTo::height : o.to == "mean" ? FlattenTo::mean : FlattenTo::rim;
    w.height = w.metres;
    w.landscape.kind = *land;
    w.meeting = *met;
    w.noise.seed = w.landscape.seed = w.seed;
    if (v.count("--scale")) w.landscape.scale = w.noise.scale;
    if (v.count("--height")) w.landscape.height = w.noise.amplitude;
    return workOn(o.file, o.out, [&w](const Level& level) -> Result<Level> {
        Result<WholeOutcome> done = reshapeWhole(level, w);
        if (!done) return done.error();
        std::printf("Rises by up to %.2f m, falls by up to %.2f m.\n", done.value().rise, done.value().fall);
        if (done.value().clipped > 0)
            std::printf("%.2f %% of the ground meets the level's range and is held there.\n",
                        100 * done.value().clipped);
        return done.take().level;
    });
}

}  // namespace

Verb addReshape(CLI::App& app) {
    auto o = std::make_shared<ReshapeOptions>();
    WholeWish& w = o->whole;
    CLI::App* v = app.add_subcommand("reshape", "Works on the whole ground");
    v->add_option("LEVEL", o->file, "The level file")->required();
    v->add_option("WORK", o->work,
                  "raise, scale, smooth, noise, crumble, rain-wash, soften-steps, remove-spikes, generate or flatten")
        ->required();
    v->add_option("--out", o->out, "Write here instead of over LEVEL");
    v->add_option("--metres", w.metres, "raise: by so many metres");
    v->add_flag("!--ground-alone", w.along,
                "raise, scale: leave posts, pads, pools, the height range and what rules ask for where they are");
    v->add_option("--low", w.low, "scale: what the lowest ground becomes, metres");
    v->add_option("--high", w.high, "scale: what the highest ground becomes, metres");
    v->add_option("--width", w.width, "smooth: metres");
    v->add_option("--angle", w.angle, "crumble: angle of rest in degrees");
    v->add_option("--years", w.years, "crumble, rain-wash: years");
    v->add_option("--step", w.step, "soften-steps: metres of one step");
    v->add_option("--spike", w.spike, "remove-spikes: metres that a sample may stand out");
    v->add_option("--scale", w.noise.scale, "noise, generate: metres of the largest forms");
    v->add_option("--height", w.noise.amplitude, "noise, generate: metres");
    v->add_option("--octaves", w.noise.octaves, "noise: 1 to 10");
    v->add_option("--seed", w.seed, "noise, rain-wash, generate");
    v->add_option("--landscape", o->landscape,
                  "generate: rolling-hills, ridges, island, canyon, terraces or crater-lakes");
    v->add_option("--edge", w.landscape.edge, "generate: metres of mountains along the border");
    v->add_option("--edge-width", w.landscape.edgeWidth, "generate: metres that they reach inwards");
    v->add_option("--to", o->to, "flatten: height (--metres), mean or rim");
    v->add_option("--stratum", w.stratum, "Put the outcome into a new stratum of this name");
    v->add_option("--meeting", o->meeting, "generate: replace, add, highest or lowest");
    return {v, [o, v] { return reshape(*o, *v); }};
}

}  // namespace jam::cli
