#include <cstdio>
#include <iostream>
#include <nlohmann/json.hpp>

#include "files/level_file.h"
#include "files/walk_file.h"
#include "verb.h"

namespace jam::cli {

namespace {

struct WalkOptions {
    std::string file, walk;
    bool json = false;
};

// 1 when the walk ends out of the level.
int walk(const WalkOptions& o) {
    const Result<Level> level = loadLevel(o.file);
    if (!level) return refuse(level);
    const Result<WalkRecord> record = readWalk(o.walk, level.value());
    if (!record) return refuse(record);
    const Replayed r = replayWalk(level.value(), record.value());
    const std::string lost = lossInWords(level.value(), r.end);
    if (o.json) {
        nlohmann::json j = {{"seconds", record.value().seconds()},
                            {"length", r.length},
                            {"end", {r.end.x, r.end.y, r.end.z}},
                            {"trace", r.trace}};
        if (!lost.empty()) j["lost"] = lost;
        std::cout << j.dump(2) << "\n";
    } else {
        std::printf("%s, %.1f s, %.1f m, to x %.2f, y %.2f, z %.2f%s%s\n", record.value().body.name.c_str(),
                    record.value().seconds(), r.length, r.end.x, r.end.y, r.end.z, lost.empty() ? "" : ": ",
                    lost.c_str());
    }
    return lost.empty() ? 0 : 1;
}

}  // namespace

Verb addWalk(CLI::App& app) {
    auto o = std::make_shared<WalkOptions>();
    CLI::App* v = app.add_subcommand("walk", "Walks a recorded walk again, on the ground as it is now");
    v->add_option("LEVEL", o->file, "The level file")->required();
    v->add_option("WALK", o->walk, "The recorded walk")->required();
    v->add_flag("--json", o->json, "Where it led, as JSON");
    return {v, [o] { return walk(*o); }};
}

}  // namespace jam::cli
