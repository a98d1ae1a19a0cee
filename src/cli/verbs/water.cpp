#include <cstdio>
#include <iostream>
#include <nlohmann/json.hpp>

#include "files/level_file.h"
#include "files/water_json.h"
#include "verb.h"
#include "water/figures.h"

namespace jam::cli {

namespace {

struct WaterOptions {
    std::string file, out, name, stream, set, mend, remove;
    std::vector<double> fill;
    std::optional<double> sea, height, depth, manning;
    Dam dam;
    bool json = false, check = false, lower = false;
};

Json describePool(const Level& level, const Pool& pool) {
    const PoolFigures f = poolFigures(level, pool);
    Json j = poolToJson(pool);
    j["area"] = f.area;
    j["volume"] = f.volume;
    j["deepest"] = f.deepest;
    j["islands"] = f.islands;
    if (f.brim) j["brim"] = *f.brim;
    Json meets = Json::array();
    for (const uint32_t id : f.meets) meets.push_back(level.pool(id)->name);
    j["meets"] = meets;
    if (f.leak)
        j["leak"] = {{"x", f.leak->x},
                     {"z", f.leak->z},
                     {"brim", f.leak->brim},
                     {"over", f.leak->over},
                     {"way", f.leak->way},
                     {"towards", f.leak->towards},
                     {"opening", f.leak->opening}};
    return j;
}

Json describeStream(const Level& level, const Stream& stream) {
    const StreamFigures f = streamFigures(level, stream);
    Json j = streamToJson(stream);
    j["length"] = f.length;
    j["fall"] = f.fall;
    j["speed"] = {{"mean", f.mean}, {"fastest", f.fastest}};
    j["falls"] = f.falls;
    j["over"] = {{"metres", f.over}, {"x", f.x}, {"z", f.z}};
    if (const Pool* into = level.pool(f.into)) j["into"] = into->name;
    return j;
}

// Lists pools and streams; with `check`, 1 when a pool leaks.
int list(const WaterOptions& o) {
    const Result<Level> level = loadLevel(o.file);
    if (!level) return refuse(level);
    const Level& l = level.value();
    Json all = {{"pools", Json::array()}, {"streams", Json::array()}};
    bool leaks = false;
    for (const Pool& p : l.pools) {
        all["pools"].push_back(describePool(l, p));
        const Json& j = all["pools"].back();
        leaks = leaks || j.contains("leak");
        if (o.json) continue;
        std::printf("%s: %s at %.2f m, %.0f m2, %.0f m3, %.2f m deep, %d %s", p.name.c_str(), p.sea ? "sea" : "pool",
                    p.height, j["area"].get<double>(), j["volume"].get<double>(), j["deepest"].get<double>(),
                    j["islands"].get<int>(), j["islands"] == 1 ? "island" : "islands");
        if (j.contains("leak"))
            std::printf("; leaks %s at x %.1f, z %.1f: %.2f m short", j["leak"]["towards"].get<std::string>().c_str(),
                        j["leak"]["x"].get<double>(), j["leak"]["z"].get<double>(), j["leak"]["over"].get<double>());
        else if (j.contains("brim")) std::printf(", %.2f m below its brim", j["brim"].get<double>() - p.height);
        std::printf("\n");
    }
    for (const Stream& s : l.streams) {
        all["streams"].push_back(describeStream(l, s));
        const Json& j = all["streams"].back();
        if (o.json) continue;
        std::printf("%s: stream of %.0f m, falls %.1f m, %.1f m/s (at most %.1f)", s.name.c_str(),
                    j["length"].get<double>(), j["fall"].get<double>(), j["speed"]["mean"].get<double>(),
                    j["speed"]["fastest"].get<double>());
        if (j.contains("into")) std::printf(", into %s", j["into"].get<std::string>().c_str());
        if (const double over = j["over"]["metres"].get<double>(); over > 0.05)
            std::printf("; stands %.2f m over its banks at x %.1f, z %.1f", over, j["over"]["x"].get<double>(),
                        j["over"]["z"].get<double>());
        std::printf("\n");
    }
    if (o.json) std::cout << all.dump(2) << "\n";
    return o.check && leaks ? 1 : 0;
}

Result<Level> changed(const Level& level, const WaterOptions& o) {
    Level next = level;
    if (!o.fill.empty()) {
        Result<Pool> pool = o.height ? poolStanding(level, o.fill[0], o.fill[1], static_cast<float>(*o.height))
                                     : poolAt(level, o.fill[0], o.fill[1]);
        if (!pool) return pool.error();
        // Where a pool stands already, that one rises.
        if (const Pool* there = level.pool(waterAt(level, o.fill[0], o.fill[1]).body);
            there && !o.height && o.name.empty()) {
            Pool& rises = *next.pool(there->id);
            rises.x = pool.value().x, rises.z = pool.value().z;
            rises.height = pool.value().height;
            return next;
        }
        pool.value().name = o.name.empty() ? freeWaterName(level, "Pool") : o.name;
        if (const auto id = addPool(next, pool.take()); !id) return id.error();
        return next;
    }
    if (o.sea) {
        Pool sea;
        sea.name = o.name.empty() ? freeWaterName(level, "Sea") : o.name;
        sea.x = level.originX, sea.z = level.originZ;
        sea.sea = true;
        sea.height = static_cast<float>(*o.sea);
        if (const auto id = addPool(next, sea); !id) return id.error();
        return next;
    }
    if (!o.stream.empty()) {
        const Result<uint32_t> course = idIn(level.strata, o.stream, "--stream", "course");
        if (!course) return course.error();
        Stream s;
        s.name = o.name.empty() ? freeWaterName(level, o.stream + " water") : o.name;
        s.course = course.value();
        if (o.depth) s.depth = static_cast<float>(*o.depth);
        if (o.manning) s.manning = static_cast<float>(*o.manning);
        if (const auto id = addStream(next, s); !id) return id.error();
        return next;
    }
    if (!o.set.empty()) {
        const Result<uint32_t> id = idIn(level.pools, o.set, "--set", "pool");
        if (!id) return id.error();
        if (!o.height) return Error{"", "--height", "it is missing", "give the surface's height in metres"};
        next.pool(id.value())->height = static_cast<float>(*o.height);
        if (const Status s = checkPool(next, *next.pool(id.value()), id.value()); !s) return s.error();
        return next;
    }
    if (!o.mend.empty()) {
        const Result<uint32_t> id = idIn(level.pools, o.mend, "--mend", "pool");
        if (!id) return id.error();
        if (o.lower) {
            if (const Status s = lowerToBrim(next, id.value()); !s) return s.error();
        } else if (const Result<double> earth = raiseRim(next, id.value(), o.dam); !earth) {
            return earth.error();
        }
        return next;
    }
    const bool stream = std::any_of(level.streams.begin(), level.streams.end(),
                                    [&](const Stream& s) { return s.name == o.remove; });
    const Result<uint32_t> id = stream ? idIn(level.streams, o.remove, "--remove", "stream")
                                       : idIn(level.pools, o.remove, "--remove", "pool or stream");
    if (!id) return id.error();
    removeWater(next, id.value());
    return next;
}

int water(const WaterOptions& o) {
    const bool works = !o.fill.empty() || o.sea || !o.stream.empty() || !o.set.empty() || !o.mend.empty() ||
                       !o.remove.empty();
    if (!works) return list(o);
    return workOn(o.file, o.out, [&o](const Level& level) { return changed(level, o); });
}

}  // namespace

Verb addWater(CLI::App& app) {
    auto o = std::make_shared<WaterOptions>();
    CLI::App* v = app.add_subcommand("water", "Lists the pools and streams of a level, makes, mends or removes them");
    v->add_option("LEVEL", o->file, "The level file")->required();
    v->add_option("--out", o->out, "Write here instead of over LEVEL");
    v->add_option("--fill", o->fill,
                  "Fill the hollow at X Z to its brim, or to --height; a pool there rises to its next brim")
        ->expected(2);
    v->add_option("--sea", o->sea, "Let the sea stand at this height, in metres");
    v->add_option("--stream", o->stream, "Let water run along this course");
    v->add_option("--name", o->name, "Name of what is made");
    v->add_option("--height", o->height, "Height of the surface, in metres");
    v->add_option("--depth", o->depth, "Depth of the stream, in metres");
    v->add_option("--manning", o->manning, "Roughness of its bed, Manning's n");
    v->add_option("--set", o->set, "Give this pool another --height");
    v->add_option("--mend", o->mend, "Mend the leak of this pool by a dam, or by lowering its surface");
    v->add_flag("--lower", o->lower, "Mend by lowering the surface to the brim");
    v->add_option("--width", o->dam.width, "Width of the dam's top, in metres");
    v->add_option("--sides", o->dam.sides, "Metres over which the dam falls to the ground");
    v->add_option("--over", o->dam.over, "Metres by which the dam stands above the surface");
    v->add_option("--remove", o->remove, "Remove this pool or stream");
    v->add_flag("--json", o->json, "The list as JSON");
    v->add_flag("--check", o->check, "Exit with 1 when a pool leaks");
    return {v, [o] { return water(*o); }};
}

}  // namespace jam::cli
