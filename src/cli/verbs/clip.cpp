#include "clip/clip.h"

#include <cstdio>

#include "base/text.h"
#include "files/level_file.h"
#include "place_options.h"
#include "verb.h"

namespace jam::cli {

namespace {

struct ClipOptions : PlaceOptions {
    std::string file, out, set, to, fence, course, name;
    std::vector<double> lift, along;
    double every = 8;
    bool replace = false;
};

int lift(const ClipOptions& o) {
    if (o.to.empty()) return refuse(Error{"", "--to", "it is missing", "name the file that the clip goes to"});
    if (const Status s = checkFree(o.to, o.replace); !s) return refuse(s);
    Result<Level> loaded = loadLevel(o.file);
    if (!loaded) return refuse(loaded);
    Level& level = loaded.value();
    const std::string name = o.name.empty() ? asText(std::filesystem::path(o.to).stem().string()) : o.name;
    Result<Level> clip = Error{};
    if (!o.fence.empty()) {
        const Result<uint32_t> id = idIn(level.fences, o.fence, "--fence", "fence");
        if (!id) return refuse(id);
        joinFence(level, keptFence(level, id.value()), FenceJoin::replace);
        clip = liftFenced(level, name);
    } else {
        const auto& r = o.lift;
        clip = liftClip(level, samplesBetween(level, r[0], r[1], r[2], r[3]), name);
    }
    if (!clip) return refuse(clip);
    if (const Status s = saveLevel(clip.value(), o.to); !s) return refuse(s);
    std::printf("%g x %g m lifted\n", clip.value().width(), clip.value().depth());
    return 0;
}

Result<Level> put(const Level& level, ClipOptions& o) {
    const Result<Level> clip = loadLevel(o.set);
    if (!clip) return clip.error();
    const Placement place = o.placement(level);
    std::vector<MapPlace> line;
    if (!o.course.empty()) {
        const Result<uint32_t> id = idIn(level.strata, o.course, "--course", "course");
        if (!id) return id.error();
        const int at = level.stratumIndex(id.value());
        if (!level.strata[static_cast<size_t>(at)].course)
            return Error{"", "--course", "\"" + o.course + "\" is a stratum", "name a course"};
        line = courseLine(level, static_cast<size_t>(at));
    } else if (!o.along.empty()) {
        if (o.along.size() % 2) return Error{"", "--along", "a place lacks its z", "give pairs of x and z"};
        for (size_t i = 0; i < o.along.size(); i += 2) line.push_back({o.along[i], o.along[i + 1]});
    }
    if (line.empty()) return setDown(level, clip.value(), {place}, o.wish);
    const Result<std::vector<Placement>> places = placesAlong(line, o.every, place);
    if (!places) return places.error();
    std::printf("%zu times\n", places.value().size());
    return setDown(level, clip.value(), places.value(), o.wish);
}

int clip(ClipOptions& o) {
    const int asked = !o.lift.empty() + !o.fence.empty() + !o.set.empty();
    if (asked != 1)
        return refuse(Error{"", "clip", asked ? "it is to lift and to set down at once" : "nothing is asked for",
                            "use one of --lift, --fence and --set"});
    if (o.set.empty()) return lift(o);
    return workOn(o.file, o.out, [&o](const Level& level) { return put(level, o); });
}

}  // namespace

Verb addClip(CLI::App& app) {
    auto o = std::make_shared<ClipOptions>();
    CLI::App* v = app.add_subcommand("clip", "Lifts a piece of ground out of a level, or sets one down");
    v->add_option("LEVEL", o->file, "The level file")->required();
    v->add_option("--lift", o->lift, "x z x z in metres: two corners of what is lifted")->expected(4);
    v->add_option("--fence", o->fence, "Lift what lies inside a fence that was kept");
    v->add_option("--to", o->to, "Where the lifted clip goes, a level file");
    declareReplace(v, o->replace);
    v->add_option("--name", o->name, "What it is called");
    v->add_option("--set", o->set, "Set this clip down; any level file is one");
    v->add_option("--out", o->out, "Write here instead of over LEVEL");
    v->add_option("--course", o->course, "Repeat it along a course");
    v->add_option("--along", o->along, "x z x z ... in metres: repeat it along a line")->expected(4, 4000);
    v->add_option("--every", o->every, "metres from one to the next");
    o->declare(v, true);
    return {v, [o] { return clip(*o); }};
}

}  // namespace jam::cli
