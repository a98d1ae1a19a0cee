#include <cstdio>

#include "base/names.h"
#include "files/level_file.h"
#include "match/neighbour.h"
#include "verb.h"

namespace jam::cli {

namespace {

struct MatchOptions {
    std::string file, neighbour, out, side;
    double blend = 40;
    bool noHeights = false, noCover = false, check = false;
};

int match(const MatchOptions& o) {
    const Result<Level> beside = loadLevel(o.neighbour);
    if (!beside) return refuse(beside);
    MatchWish wish;
    wish.side = *fromName<Side>(kSideNames, o.side);
    wish.blend = o.blend;
    wish.heights = !o.noHeights;
    wish.cover = !o.noCover;
    const std::filesystem::path folder = std::filesystem::absolute(o.out.empty() ? o.file : o.out).parent_path();
    wish.file = std::filesystem::absolute(o.neighbour).lexically_proximate(folder).string();
    if (o.check) {
        const Result<Level> level = loadLevel(o.file);
        if (!level) return refuse(level);
        const Result<BorderGap> gap = borderGap(level.value(), beside.value(), wish.side);
        if (!gap) return refuse(gap);
        std::printf("heights differ by up to %g m, weights by up to %d of 255\n", gap.value().height,
                    gap.value().weight);
        return gap.value().none() ? 0 : 1;
    }
    return workOn(o.file, o.out, [&](const Level& level) { return matchBorder(level, beside.value(), wish); });
}

}  // namespace

Verb addMatch(CLI::App& app) {
    auto o = std::make_shared<MatchOptions>();
    CLI::App* v = app.add_subcommand("match", "Fits the border of a level to the level beside it");
    v->add_option("LEVEL", o->file, "The level file")->required();
    v->add_option("NEIGHBOUR", o->neighbour, "The level file of the one beside it")->required();
    v->add_option("--side", o->side, "Where it lies: north, east, south or west")
        ->required()
        ->check(CLI::IsMember({"north", "east", "south", "west"}));
    v->add_option("--blend", o->blend, "metres inwards over which it is blended");
    v->add_flag("--no-heights", o->noHeights, "Leave the heights as they are");
    v->add_flag("--no-cover", o->noCover, "Leave the layers as they are");
    v->add_flag("--check", o->check, "Only tell how far they are apart; exit code 1 when they do not meet");
    v->add_option("--out", o->out, "Write here instead of over LEVEL");
    return {v, [o] { return match(*o); }};
}

}  // namespace jam::cli
