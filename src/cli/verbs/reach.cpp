#include <cstdio>
#include <iostream>
#include <nlohmann/json.hpp>

#include "files/level_file.h"
#include "files/spots_json.h"
#include "level/ground.h"
#include "survey/mend_reach.h"
#include "verb.h"
#include "walk/ways.h"

namespace jam::cli {

namespace {

struct ReachOptions {
    std::string file, out, body, ease;
    std::vector<std::string> require, way;
    std::optional<double> bank;
    double width = EdgeBank{}.width;
    bool json = false;
};

Result<Body> bodyFor(const Level& level, const std::string& name) {
    if (name.empty()) return bodyOf(level);
    if (const Body* body = bodyNamed(level, name)) return *body;
    std::string names = "walker, runner, cart";
    for (const Body& b : level.bodies) names += ", " + b.name;
    return Error{"", "--body", "there is no body \"" + name + "\"", "use one of: " + names};
}

std::string nameOf(const Level& level, uint32_t id) { return level.spot(id)->name; }

Json placesToJson(const std::vector<ReachPlace>& places) {
    Json all = Json::array();
    for (const ReachPlace& p : places) {
        all.push_back({{"x", p.x}, {"y", p.y}, {"z", p.z}, {"size", p.size}});
        if (!p.towards.empty()) all.back()["towards"] = p.towards;
    }
    return all;
}

Json wayToJson(const Way& way) {
    Json points = Json::array();
    for (const WayPoint& p : way.points) points.push_back({p.x, p.y, p.z});
    return {{"length", way.length},   {"seconds", way.seconds},   {"climb", way.climb},
            {"fall", way.fall},       {"steepest", way.steepest}, {"steepestAt", {way.steepX, way.steepZ}},
            {"deepest", way.deepest}, {"leaps", way.leaps},       {"drops", way.drops},
            {"feat", way.feat},       {"points", points}};
}

Json toJson(const Level& level, const Reach& reach) {
    Json j = {
        {"level", level.name}, {"body", bodyToJson(reach.body)}, {"spots", Json::array()}, {"pairs", Json::array()}};
    for (const Spot& s : level.spots) {
        j["spots"].push_back(spotToJson(s));
        j["spots"].back()["y"] = altitudeAt(level, s.x, s.z);
        j["spots"].back()["stands"] = std::find(reach.nowhere.begin(), reach.nowhere.end(), s.id) ==
                                      reach.nowhere.end();
    }
    for (const ReachPair& p : reach.pairs)
        j["pairs"].push_back({{"from", nameOf(level, p.from)}, {"to", nameOf(level, p.to)}, {"reached", p.reached}});
    j["pockets"] = placesToJson(reach.pockets);
    j["traps"] = placesToJson(reach.traps);
    j["waysOut"] = placesToJson(reach.waysOut);
    j["areas"] = {
        {"reached", reach.areas[1]}, {"oneWay", reach.areas[2]}, {"trap", reach.areas[3]}, {"never", reach.areas[4]}};
    j["everySample"] = reach.ground->stride;
    return j;
}

void print(const Level& level, const Reach& reach) {
    std::printf("%s, %.1f m high, climbs %.0f degrees, steps %.2f m, jumps %.2f m\n", reach.body.name.c_str(),
                static_cast<double>(reach.body.height), static_cast<double>(reach.body.slope),
                static_cast<double>(reach.body.step), static_cast<double>(reach.body.jump));
    for (const Spot& s : level.spots) {
        std::string got, not_;
        for (const ReachPair& p : reach.pairs)
            if (p.from == s.id) {
                std::string& list = p.reached ? got : not_;
                list += (list.empty() ? "" : ", ") + nameOf(level, p.to);
            }
        std::printf("%s (%s): reaches %s", s.name.c_str(), s.kind.c_str(), got.empty() ? "no other spot" : got.c_str());
        if (!not_.empty()) std::printf("; not %s", not_.c_str());
        if (std::find(reach.nowhere.begin(), reach.nowhere.end(), s.id) != reach.nowhere.end())
            std::printf("; stands where the body cannot");
        std::printf("\n");
    }
    const auto list = [&](const char* what, const std::vector<ReachPlace>& places, const char* unit) {
        for (const ReachPlace& p : places)
            std::printf("%s at x %.1f, z %.1f%s%s: %.0f %s%s%s\n", what, p.x, p.z, p.towards.empty() ? "" : ", ",
                        p.towards.c_str(), p.size, unit, p.spots.empty() ? "" : ", with ",
                        p.spots.empty() ? "" : nameOf(level, p.spots.front()).c_str());
    };
    list("pocket", reach.pockets, "m2");
    list("trap", reach.traps, "m2");
    list("way out", reach.waysOut, "m");
}

// 1 when a spot that is required is not reached from a start, or one can get out of the level.
int verdict(const Level& level, const Reach& reach, const ReachOptions& o) {
    bool fine = reach.waysOut.empty();
    for (const Spot& s : level.spots) {
        const bool wanted = o.require.front() == "all" ||
                            std::find(o.require.begin(), o.require.end(), s.name) != o.require.end();
        if (!wanted || reach.got(s.id)) continue;
        fine = false;
        std::fprintf(stderr, "%s is not reached.\n", s.name.c_str());
    }
    if (!reach.waysOut.empty())
        std::fprintf(stderr, "%zu %s out of the level.\n", reach.waysOut.size(),
                     reach.waysOut.size() == 1 ? "way leads" : "ways lead");
    return fine ? 0 : 1;
}

Result<Level> mended(const Level& level, const Body& body, const ReachOptions& o) {
    if (level.spots.empty()) return Error{"", "spots", "the level has none", "put one down with jamhill-cli spot"};
    Reach reach = surveyReach(level, body);
    if (!o.ease.empty()) {
        const Result<uint32_t> id = idIn(level.spots, o.ease, "--ease", "spot");
        if (!id) return id.error();
        const Spot& s = *level.spot(id.value());
        Result<Mended> done = rampTo(level, reach, s.x, s.z);
        if (!done) return done.error();
        return std::move(done.value().level);
    }
    if (reach.waysOut.empty()) return Error{"", "--bank", "no way leads out of the level", "nothing has to be mended"};
    Level now = level;
    while (!reach.waysOut.empty()) {
        Result<Mended> done = bankAlong(now, reach, reach.waysOut.front(),
                                        {static_cast<float>(*o.bank), static_cast<float>(o.width)});
        if (!done) return done.error();
        now = std::move(done.value().level);
        reach = surveyReach(now, body);
    }
    return now;
}

int reach(const ReachOptions& o) {
    if (o.bank || !o.ease.empty())
        return workOn(o.file, o.out, [&o](const Level& level) -> Result<Level> {
            const Result<Body> body = bodyFor(level, o.body);
            if (!body) return body.error();
            return mended(level, body.value(), o);
        });
    const Result<Level> loaded = loadLevel(o.file);
    if (!loaded) return refuse(loaded);
    const Level& level = loaded.value();
    const Result<Body> body = bodyFor(level, o.body);
    if (!body) return refuse(body);
    for (const std::string& name : o.require)
        if (name != "all")
            if (const auto id = idIn(level.spots, name, "--require", "spot"); !id) return refuse(id);
    if (level.spots.empty())
        return refuse(Error{o.file, "spots", "the level has none, so there is nowhere to begin",
                            "put one down with jamhill-cli spot"});
    const Reach found = surveyReach(level, body.value());
    Json j = toJson(level, found);
    if (!o.way.empty()) {
        std::array<const Spot*, 2> ends{};
        for (size_t i = 0; i < 2; ++i) {
            const Result<uint32_t> id = idIn(level.spots, o.way[i], "--way", "spot");
            if (!id) return refuse(id);
            ends[i] = level.spot(id.value());
        }
        const auto way = wayBetween(level, *found.ground, ends[0]->x, ends[0]->z, ends[1]->x, ends[1]->z);
        j["way"] = way ? wayToJson(*way) : Json(nullptr);
        if (!o.json && way)
            std::printf("%s to %s: %.0f m, %.0f s, %.0f m up, %.0f m down, %.0f degrees at the steepest\n",
                        o.way[0].c_str(), o.way[1].c_str(), way->length, way->seconds, way->climb, way->fall,
                        way->steepest);
        else if (!o.json) std::printf("no way leads from %s to %s\n", o.way[0].c_str(), o.way[1].c_str());
    } else if (!o.json) {
        print(level, found);
    }
    if (o.json) std::cout << j.dump(2) << "\n";
    return o.require.empty() ? 0 : verdict(level, found, o);
}

}  // namespace

Verb addReach(CLI::App& app) {
    auto o = std::make_shared<ReachOptions>();
    CLI::App* v = app.add_subcommand("reach", "Tells which spots a body reaches from which, and where it gets out");
    v->add_option("LEVEL", o->file, "The level file")->required();
    v->add_option("--body", o->body,
                  "Who goes: walker, runner, cart or one that the level keeps; otherwise its own choice");
    v->add_option("--require", o->require,
                  "Exit with 1 when one of these spots is not reached from a start, or a way leads out of the level; "
                  "\"all\" for every spot");
    v->add_option("--way", o->way, "The way from one spot to another")->expected(2);
    v->add_flag("--json", o->json, "All of it as JSON");
    v->add_option("--bank", o->bank, "Raise a bank of so many metres along every way out");
    v->add_option("--width", o->width, "Metres across the bank's top");
    v->add_option("--ease", o->ease, "Grade a ramp between this spot and the ground that is reached");
    v->add_option("--out", o->out, "Write here instead of over LEVEL");
    return {v, [o] { return reach(*o); }};
}

}  // namespace jam::cli
