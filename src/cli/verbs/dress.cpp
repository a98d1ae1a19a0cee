#include <algorithm>
#include <cstdio>
#include <filesystem>
#include <iostream>
#include <nlohmann/json.hpp>

#include "course/footprint.h"
#include "cover/rules.h"
#include "dress/density.h"
#include "dress/figures.h"
#include "dress/kinds.h"
#include "dress/shipped_kinds.h"
#include "files/disk.h"
#include "files/kinds_json.h"
#include "files/layer_json.h"
#include "files/level_file.h"
#include "files/shape_file.h"
#include "verb.h"

namespace jam::cli {

namespace {

struct DressOptions {
    std::string file, out, add, addKind, kind, rules;
    std::vector<std::string> put;
    std::optional<double> density;
    std::vector<double> footprint, hatch;
    double turn = 0, size = 1, scale = 1;
    bool json = false, check = false, settle = false, clear = false, remove = false, shipped = false, zUp = false,
         noFootprint = false;
};

struct Amiss {
    const char *name, *words;
    KindFigures::Amiss KindFigures::*which;
};
constexpr Amiss kAmiss[] = {{"floats", "float", &KindFigures::floats},
                            {"drowned", "drowned", &KindFigures::drowned},
                            {"inTheWay", "in the way", &KindFigures::inTheWay}};

// Lists kinds with what stands of them; with `check`, 1 when something floats, is drowned or stands in the way.
int list(const DressOptions& o) {
    const Result<Level> loaded = loadLevel(o.file);
    if (!loaded) return refuse(loaded);
    const Level& level = loaded.value();
    DressFigures figures;
    figures.follow(level, nullptr);
    Json all = Json::array();
    bool wrong = false;
    for (const Kind& k : level.kinds) {
        const KindFigures& f = figures.of(k.id);
        const auto singles = std::count_if(level.singles.begin(), level.singles.end(),
                                           [&](const Single& s) { return s.kind == k.id; });
        wrong = wrong || f.floats.count + f.drowned.count + f.inTheWay.count > 0;
        Json j = kindToJson(k);
        j.erase("gone");
        j["standing"] = f.standing, j["singles"] = singles;
        for (const Amiss& a : kAmiss) {
            j[a.name] = (f.*a.which).count;
            if ((f.*a.which).at) j[a.name + std::string("At")] = *(f.*a.which).at;
        }
        all.push_back(std::move(j));
        if (o.json) continue;
        std::printf("%s: %lld stand, %lld of them put down by hand, %.1f m tall", k.name.c_str(), f.standing,
                    static_cast<long long>(singles), static_cast<double>(heightOf(k)));
        for (const Amiss& a : kAmiss)
            if (const auto& at = (f.*a.which).at)
                std::printf("; %lld %s, as at x %.1f, z %.1f", (f.*a.which).count, a.words, (*at)[0], (*at)[1]);
        std::printf("\n");
    }
    if (o.json) std::cout << all.dump(2) << "\n";
    return o.check && wrong ? 1 : 0;
}

Result<Json> readJson(const std::string& file) {
    const Result<Bytes> bytes = readFile(file, 4u << 20);
    if (!bytes) return bytes.error();
    return parseJson(std::string(bytes.value().begin(), bytes.value().end()), file);
}

Status addFrom(Level& level, const DressOptions& o) {
    Kind kind;
    if (!o.add.empty()) {
        const auto& all = shippedKinds();
        const auto at = std::find_if(all.begin(), all.end(), [&](const Kind& k) { return k.name == o.add; });
        if (at == all.end()) {
            std::string names;
            for (const Kind& k : all) names += (names.empty() ? "" : ", ") + k.name;
            return Error{"", "--add", "no kind that comes with the program is called \"" + o.add + "\"",
                         "use one of: " + names};
        }
        kind = *at;
        kind.name = freeKindName(level, kind.name);
    } else if (isShapeFile(o.addKind)) {
        const Result<ReadShape> read = readShape(o.addKind);
        if (!read) return read.error();
        Result<std::shared_ptr<const TakenShape>> shape = takeIn(read.value(), {o.scale, o.zUp, 0});
        if (!shape) return shape.error();
        kind.taken.shape = shape.take();
        kind.name = freeKindName(level, std::filesystem::path(o.addKind).stem().string());
    } else {
        const Result<Json> json = readJson(o.addKind);
        if (!json) return json.error();
        std::optional<Error> error;
        Fields f(json.value(), o.addKind, error);
        readKindFields(f, kind);
        if (error) return *error;
    }
    std::vector<Rule> rules = std::exchange(kind.rules, {});
    const Result<uint32_t> id = addKind(level, std::move(kind));
    if (!id) return id.error();
    changeRules(level, id.value(), std::move(rules));
    return {};
}

Status setRules(Level& level, uint32_t id, const std::string& file) {
    const Result<Json> json = readJson(file);
    if (!json) return json.error();
    std::optional<Error> error;
    std::vector<Rule> rules;
    Fields f(json.value(), file, error);
    f.each("rules", kMaxRules, [&](Fields r) { rules.push_back(readRule(r)); });
    if (error) return *error;
    changeRules(level, id, std::move(rules));
    return {};
}

// What the ground does under those of a kind that were put down.
Status setGround(Level& level, uint32_t id, const DressOptions& o) {
    if (o.noFootprint) return setFootprint(level, id, std::nullopt);
    if (o.footprint.empty() && o.hatch.empty()) return {};
    Footprint f;
    if (const int at = footprintPlace(level, id); at >= 0) f = *level.strata[static_cast<size_t>(at)].course->footprint;
    if (!o.footprint.empty()) f.margin = static_cast<float>(o.footprint[0]), f.rim = static_cast<float>(o.footprint[1]);
    if (!o.hatch.empty()) {
        f.hatchWide = static_cast<float>(o.hatch[0]), f.hatchLong = static_cast<float>(o.hatch[1]);
        f.hatchAhead = static_cast<float>(o.hatch[2]);
    }
    return setFootprint(level, id, f);
}

Result<Level> changed(const Level& level, const DressOptions& o) {
    Level next = level;
    if (!o.add.empty() || !o.addKind.empty())
        if (const Status s = addFrom(next, o); !s) return s.error();
    if (!o.kind.empty()) {
        const Result<uint32_t> id = idIn(next.kinds, o.kind, "--kind", "kind");
        if (!id) return id.error();
        if (o.density) {
            const Status s = *o.density >= 0 && *o.density <= kMostDensity
                                 ? Status()
                                 : Error{"", "--density", "it is " + std::to_string(*o.density),
                                         "use 0 to 1023 on 100 m2"};
            if (!s) return s.error();
            changeDensity(next, id.value(), static_cast<float>(*o.density));
        }
        if (!o.rules.empty())
            if (const Status s = setRules(next, id.value(), o.rules); !s) return s.error();
        if (o.clear) {
            Kind& k = *next.kind(id.value());
            k.coverage = TiledGrid<uint16_t>(next.coverColumns(), next.coverRows(), 0);
            if (k.alive) {
                k.held = k.coverage;
                for (int z = 0; z < next.coverRows(); ++z)
                    for (int x = 0; x < next.coverColumns(); ++x) k.held.set(x, z, kFullCover);
            }
            std::erase_if(next.singles, [&](const Single& s) { return s.kind == id.value(); });
        }
        if (const Status s = setGround(next, id.value(), o); !s) return s.error();
        if (o.remove)
            if (const Status s = removeKind(next, id.value()); !s) return s.error();
    } else if (o.density || !o.rules.empty() || o.clear || o.remove || o.noFootprint || !o.footprint.empty() ||
               !o.hatch.empty()) {
        return Error{"", "--kind", "it is not said which kind", "add --kind NAME"};
    }
    if (!o.put.empty()) {
        const Result<uint32_t> id = idIn(next.kinds, o.put[0], "--put", "kind");
        if (!id) return id.error();
        Single s;
        s.kind = id.value();
        char *endX, *endZ;
        s.x = std::strtod(o.put[1].c_str(), &endX), s.z = std::strtod(o.put[2].c_str(), &endZ);
        if (*endX || *endZ)
            return Error{"", "--put", "the place is not two numbers", "give it as --put KIND X Z, in metres"};
        s.turn = static_cast<float>(o.turn), s.size = static_cast<float>(o.size);
        if (const Result<uint32_t> put = putSingle(next, s); !put) return put.error();
    }
    if (o.settle) std::printf("%d settled\n", settleSingles(next));
    return next;
}

int dress(const DressOptions& o) {
    if (o.shipped) {
        for (const Kind& k : shippedKinds()) std::printf("%s\n", k.name.c_str());
        return 0;
    }
    const bool works = !o.add.empty() || !o.addKind.empty() || !o.rules.empty() || o.density || !o.put.empty() ||
                       o.settle || o.clear || o.remove || o.noFootprint || !o.footprint.empty() || !o.hatch.empty();
    if (!works) return list(o);
    return workOn(o.file, o.out, [&o](const Level& level) { return changed(level, o); });
}

}  // namespace

Verb addDress(CLI::App& app) {
    auto o = std::make_shared<DressOptions>();
    CLI::App* v = app.add_subcommand(
        "dress", "Lists the kinds of a level and what stands of them, adds, plants and clears them");
    v->add_option("LEVEL", o->file, "The level file");
    v->add_option("--out", o->out, "Write here instead of over LEVEL");
    v->add_flag("--shipped", o->shipped, "List the kinds that come with the program");
    v->add_option("--add", o->add, "Add one of those by its name");
    v->add_option("--add-kind", o->addKind, "Add a kind from a JSON file (docs/format.md), or a .glb, .gltf or .obj");
    v->add_option("--scale", o->scale, "Metres for one unit of the shape that --add-kind takes in");
    v->add_flag("--z-up", o->zUp, "Its third axis leads up");
    v->add_option("--kind", o->kind, "The kind that --density, --rules, --footprint, --clear and --remove are of");
    v->add_option("--density", o->density, "How many stand on 100 m2 where its rules hold");
    v->add_option("--rules", o->rules, "Give it the rules of a JSON file");
    v->add_option("--footprint", o->footprint, "Even out under each put down: metres beyond it, and of the rim")
        ->expected(2);
    v->add_option("--hatch", o->hatch, "An opening there: metres across, along, and ahead of its foot")->expected(3);
    v->add_flag("--no-footprint", o->noFootprint, "Leave the ground under it alone again");
    v->add_flag("--clear", o->clear, "Clear away all that stand");
    v->add_flag("--remove", o->remove, "Remove the kind, and all that stand");
    v->add_option("--put", o->put, "Put one down: KIND X Z, in metres")->expected(3);
    v->add_option("--turn", o->turn, "Degrees clockwise from north that it is turned");
    v->add_option("--size", o->size, "Times as large as its kind grows");
    v->add_flag("--settle", o->settle, "Let what was put down by hand and floats down to the ground");
    v->add_flag("--json", o->json, "The list as JSON");
    v->add_flag("--check", o->check, "Exit with 1 when something floats or is drowned");
    return {v, [o] { return dress(*o); }};
}

}  // namespace jam::cli
