#include <cstdio>
#include <iostream>
#include <nlohmann/json.hpp>

#include "files/level_file.h"
#include "files/spots_json.h"
#include "level/ground.h"
#include "verb.h"
#include "walk/reach.h"
#include "walk/spots.h"

namespace jam::cli {

namespace {

struct SpotOptions {
    std::string file, out, add, move, remove, padOf, kind = "start", body;
    std::vector<double> at, pad;
    double facing = 0;
    bool json = false, noPad = false;
};

int list(const SpotOptions& o) {
    const Result<Level> loaded = loadLevel(o.file);
    if (!loaded) return refuse(loaded);
    const Level& level = loaded.value();
    Json all = Json::array();
    for (const Spot& s : level.spots) {
        Json j = spotToJson(s);
        j["y"] = altitudeAt(level, s.x, s.z);
        if (const auto pad = padOf(level, s)) j["pad"] = {{"radius", pad->radius}, {"rim", pad->rim}};
        if (!o.json)
            std::printf("%s: %s at x %.1f, z %.1f, %.1f m up%s\n", s.name.c_str(), s.kind.c_str(), s.x, s.z,
                        j["y"].get<double>(), j.contains("pad") ? ", on a pad" : "");
        all.push_back(std::move(j));
    }
    if (o.json) std::cout << all.dump(2) << "\n";
    return 0;
}

Result<Level> changed(const Level& level, const SpotOptions& o) {
    Level next = level;
    if (!o.body.empty()) {
        next.body = o.body;
        if (!bodyNamed(next, o.body))
            return Error{"", "--body", "there is no body \"" + o.body + "\"",
                         "use walker, runner, cart or one that the level keeps"};
    }
    uint32_t id = 0;
    if (!o.add.empty() || !o.move.empty()) {
        if (o.at.empty()) return Error{"", "--at", "it is missing", "give the place as --at X Z, in metres"};
        if (!o.add.empty()) {
            Spot s;
            s.name = o.add, s.kind = o.kind, s.facing = o.facing;
            s.x = o.at[0], s.z = o.at[1];
            const Result<uint32_t> made = addSpot(next, s);
            if (!made) return made.error();
            id = made.value();
        } else {
            const Result<uint32_t> found = idIn(level.spots, o.move, "--move", "spot");
            if (!found) return found.error();
            id = found.value();
            if (const Status s = moveSpot(next, id, o.at[0], o.at[1]); !s) return s.error();
        }
    }
    if (!o.padOf.empty()) {
        const Result<uint32_t> found = idIn(level.spots, o.padOf, "--even", "spot");
        if (!found) return found.error();
        id = found.value();
    }
    if (!o.remove.empty()) {
        const Result<uint32_t> found = idIn(level.spots, o.remove, "--remove", "spot");
        if (!found) return found.error();
        removeSpot(next, found.value());
    }
    if (!o.pad.empty() || o.noPad) {
        if (id == 0) return Error{"", "--pad", "it is not said under which spot", "add --even NAME"};
        const std::optional<Pad> pad =
            o.noPad ? std::nullopt
                    : std::optional(Pad{static_cast<float>(o.pad[0]), static_cast<float>(o.pad[1]), std::nullopt});
        if (const Status s = setPad(next, id, pad); !s) return s.error();
    }
    return next;
}

int spot(const SpotOptions& o) {
    if (o.add.empty() && o.move.empty() && o.remove.empty() && o.padOf.empty() && o.body.empty()) return list(o);
    return workOn(o.file, o.out, [&o](const Level& level) { return changed(level, o); });
}

}  // namespace

Verb addSpotVerb(CLI::App& app) {
    auto o = std::make_shared<SpotOptions>();
    CLI::App* v = app.add_subcommand("spot",
                                     "Lists the spots of a level, puts them down, moves, evens or removes them");
    v->add_option("LEVEL", o->file, "The level file")->required();
    v->add_option("--out", o->out, "Write here instead of over LEVEL");
    v->add_option("--add", o->add, "Put down a spot of this name, --at its place");
    v->add_option("--move", o->move, "Move this spot, --at its new place");
    v->add_option("--at", o->at, "Place as X Z, in metres")->expected(2);
    v->add_option("--kind", o->kind, "Kind of the new spot: start, goal, supply, lookout, or a word of your own");
    v->add_option("--facing", o->facing, "Where one looks on arriving: degrees clockwise from north");
    v->add_option("--even", o->padOf, "Even the ground under this spot by a --pad, or take that away with --no-pad");
    v->add_option("--pad", o->pad, "Radius and rim of the pad, in metres")->expected(2);
    v->add_flag("--no-pad", o->noPad, "Take the pad away");
    v->add_option("--remove", o->remove, "Remove this spot, and its pad");
    v->add_option("--body", o->body, "Choose who is to get to the spots");
    v->add_flag("--json", o->json, "The list as JSON");
    return {v, [o] { return spot(*o); }};
}

}  // namespace jam::cli
