#include <cstdio>
#include <iostream>

#include "course/bake.h"
#include "cover/course_layers.h"
#include "files/disk.h"
#include "files/level_file.h"
#include "files/strata_json.h"
#include "level/strata.h"
#include "verb.h"

namespace jam::cli {

namespace {

struct CourseOptions {
    std::string file, out, add, from, show, remove, track, verge;
    bool json = false;
};

// The courses among the strata.
std::vector<Stratum> coursesOf(const Level& level) {
    std::vector<Stratum> all;
    std::copy_if(level.strata.begin(), level.strata.end(), std::back_inserter(all),
                 [](const Stratum& s) { return s.leads(); });
    return all;
}

Result<uint32_t> layerOf(const Level& level, const std::string& name, const char* option) {
    if (name.empty()) return 0u;
    return idIn(level.layers, name, option, "layer");
}

Json figuresOf(const Level& level, size_t place) {
    const CourseFigures f = courseFigures(level, place);
    Json j = courseToJson(*level.strata[place].course);
    j["name"] = level.strata[place].name;
    j["length"] = f.length;
    j["steepest"] = f.steepest;
    j["climb"] = f.climb;
    j["fall"] = f.fall;
    j["cut"] = f.cut;
    j["fill"] = f.fill;
    return j;
}

int list(const CourseOptions& o) {
    const Result<Level> level = loadLevel(o.file);
    if (!level) return refuse(level);
    Json all = Json::array();
    for (size_t i = 0; i < level.value().strata.size(); ++i) {
        const Stratum& s = level.value().strata[i];
        if (s.leads() && (o.show.empty() || s.name == o.show)) all.push_back(figuresOf(level.value(), i));
    }
    if (!o.show.empty() && all.empty()) return refuse(idIn(coursesOf(level.value()), o.show, "--show", "course"));
    if (o.json || !o.show.empty()) {
        std::cout << (o.show.empty() ? all : all[0]).dump(2) << "\n";
        return 0;
    }
    for (const Json& j : all)
        std::printf("%s: %zu posts, %.1f m, up to %.1f degrees, %.0f m3 cut, %.0f m3 filled\n",
                    j["name"].get<std::string>().c_str(), j["posts"].size(), j["length"].get<double>(),
                    j["steepest"].get<double>(), j["cut"].get<double>(), j["fill"].get<double>());
    return 0;
}

Result<Level> changed(const Level& level, const CourseOptions& o) {
    Level next = level;
    if (!o.remove.empty()) {
        const Result<uint32_t> id = idIn(coursesOf(level), o.remove, "--remove", "course");
        if (!id) return id.error();
        layOnCourse(next, id.value(), 0, 0);  // with the layers that it laid
        if (const Status s = removeStratum(next, id.value()); !s) return s.error();
        return next;
    }
    const Result<Bytes> bytes = readFile(o.from, 4u << 20);
    if (!bytes) return bytes.error();
    const Result<Json> json = parseJson(std::string(bytes.value().begin(), bytes.value().end()), o.from);
    if (!json) return json.error();
    std::optional<Error> error;
    Course course = readCourse(Fields(json.value(), o.from, error));
    if (error) return *error;
    if (const Status s = checkNewCourse(level, course); !s)
        return Error{o.from, s.error().field, s.error().problem, s.error().remedy};
    if (level.strata.size() >= kMaxStrata)
        return Error{"", "--add", "the level has " + std::to_string(kMaxStrata) + " strata already",
                     "merge some first"};
    const Result<uint32_t> track = layerOf(level, o.track, "--track"), verge = layerOf(level, o.verge, "--verge");
    if (!track) return track.error();
    if (!verge) return verge.error();
    const uint32_t id = addCourse(next, o.add, std::move(course));
    layOnCourse(next, id, track.value(), verge.value());
    return next;
}

int course(const CourseOptions& o) {
    if (!o.add.empty() && o.from.empty())
        return refuse(Error{"", "--from", "it is missing", "name the file that has the course"});
    if (o.add.empty() && o.remove.empty()) return list(o);
    return workOn(o.file, o.out, [&o](const Level& level) { return changed(level, o); });
}

}  // namespace

Verb addCourseVerb(CLI::App& app) {
    auto o = std::make_shared<CourseOptions>();
    CLI::App* v = app.add_subcommand("course", "Lists the courses of a level, adds one, or removes one");
    v->add_option("LEVEL", o->file, "The level file")->required();
    v->add_option("--out", o->out, "Write here instead of over LEVEL");
    v->add_option("--add", o->add, "Add a course under this name");
    v->add_option("--from", o->from, "The course to add, as JSON (docs/format.md)");
    v->add_option("--track", o->track, "The layer that lies on it");
    v->add_option("--verge", o->verge, "The layer that lies on its shoulders");
    v->add_option("--show", o->show, "One course as JSON");
    v->add_option("--remove", o->remove, "Delete a course; the ground under it comes back");
    v->add_flag("--json", o->json, "The list as JSON");
    return {v, [o] { return course(*o); }};
}

}  // namespace jam::cli
