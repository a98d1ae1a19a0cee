#include "fence/fence.h"

#include <cstdio>

#include "files/level_file.h"
#include "verb.h"

namespace jam::cli {

namespace {

struct FenceOptions {
    std::string file, out, layer, course, recall, keep, join = "replace";
    std::vector<double> rectangle, slope, altitude, line;
    double edge = 0, width = 10, within = 5, grow = 0, feather = 0, fade = 0;
    bool invert = false, drop = false;
};

Result<FenceJoin> joinOf(const std::string& word) {
    const std::string_view words[] = {"replace", "add", "take-away", "meet"};
    for (int i = 0; i < 4; ++i)
        if (words[i] == word) return static_cast<FenceJoin>(i);
    return Error{"", "--join", "it is \"" + word + "\"", "use replace, add, take-away or meet"};
}

Rule between(RuleKind kind, const std::vector<double>& range, double fade) {
    Rule r;
    r.kind = kind;
    r.from = static_cast<float>(range[0]), r.to = static_cast<float>(range[1]);
    r.fade = static_cast<float>(fade);
    r.reach = 0;
    return r;
}

// The sources that were asked for, in the order of the help.
Result<std::vector<FenceSource>> sourcesOf(const Level& level, const FenceOptions& o) {
    std::vector<FenceSource> all;
    if (const auto& r = o.rectangle; !r.empty())
        all.push_back(insidePolygon(level, {{r[0], r[1]}, {r[2], r[1]}, {r[2], r[3]}, {r[0], r[3]}}));
    if (!o.line.empty()) {
        if (o.line.size() % 2) return Error{"", "--line", "a place lacks its z", "give pairs of x and z"};
        std::vector<MapPlace> places;
        for (size_t i = 0; i < o.line.size(); i += 2) places.push_back({o.line[i], o.line[i + 1]});
        all.push_back(alongLine(level, places, o.width, 0));
    }
    if (!o.layer.empty()) {
        const Result<uint32_t> id = idIn(level.layers, o.layer, "--layer", "layer");
        if (!id) return id.error();
        all.push_back(whereLayer(level, id.value()));
    }
    if (!o.course.empty()) {
        const Result<uint32_t> id = idIn(level.strata, o.course, "--course", "course");
        if (!id) return id.error();
        if (!level.stratum(id.value())->course)
            return Error{"", "--course", "\"" + o.course + "\" is a stratum", "name a course"};
        all.push_back(nearCourse(level, id.value(), o.within));
    }
    if (!o.recall.empty()) {
        const Result<uint32_t> id = idIn(level.fences, o.recall, "--kept", "fence");
        if (!id) return id.error();
        all.push_back(keptFence(level, id.value()));
    }
    if (!o.slope.empty()) all.push_back(byRule(level, between(RuleKind::slope, o.slope, o.fade)));
    if (!o.altitude.empty()) all.push_back(byRule(level, between(RuleKind::altitude, o.altitude, o.fade)));
    if (o.edge > 0) all.push_back(nearEdge(level, o.edge));
    return all;
}

Result<Level> fenced(const Level& level, const FenceOptions& o) {
    Level next = level;
    Result<FenceJoin> join = joinOf(o.join);
    if (!join) return join.error();
    const Result<std::vector<FenceSource>> sources = sourcesOf(level, o);
    if (!sources) return sources.error();
    for (size_t i = 0; i < sources.value().size(); ++i)
        // Several at once are one area.
        joinFence(next, sources.value()[i],
                  i > 0 && join.value() == FenceJoin::replace ? FenceJoin::add : join.value());
    if (o.invert) invertFence(next);
    if (o.grow != 0) growFence(next, o.grow);
    if (o.feather > 0) featherFence(next, o.feather);
    if (next.fenced && fenceEmpty(next))
        return Error{"", "fence", "nothing lies inside", "choose another place or wider limits"};
    if (!o.keep.empty()) {
        if (next.fences.size() >= kMaxFences)
            return Error{"", "--keep", "the level keeps " + std::to_string(kMaxFences) + " fences already",
                         "keep it under a name that is there"};
        if (!next.fenced) return Error{"", "--keep", "there is no fence to keep", "draw one first"};
        keepFence(next, o.keep);
    }
    std::printf("%.1f square metres inside\n", fenceArea(next));
    if (o.drop) next.fenced = false;
    return next;
}

}  // namespace

Verb addFence(CLI::App& app) {
    auto o = std::make_shared<FenceOptions>();
    CLI::App* v = app.add_subcommand("fence", "Puts a fence round what later work may touch, or drops it");
    v->add_option("LEVEL", o->file, "The level file")->required();
    v->add_option("--out", o->out, "Write here instead of over LEVEL");
    v->add_option("--rectangle", o->rectangle, "x z x z in metres: two corners")->expected(4);
    v->add_option("--line", o->line, "x z x z ... in metres: along a line")->expected(2, 4000);
    v->add_option("--width", o->width, "metres across of --line")->check(CLI::Range(0.1, 5000.0));
    v->add_option("--layer", o->layer, "Where a layer shows");
    v->add_option("--course", o->course, "Near a course");
    v->add_option("--within", o->within, "metres from --course")->check(CLI::Range(0.0, 5000.0));
    v->add_option("--kept", o->recall, "A fence that was kept");
    v->add_option("--slope", o->slope, "from to, degrees")->expected(2);
    v->add_option("--altitude", o->altitude, "from to, metres")->expected(2);
    v->add_option("--fade", o->fade, "Beyond --slope and --altitude, in their unit")->check(CLI::Range(0.0, 1000.0));
    v->add_option("--edge", o->edge, "Nearer than so many metres to the level's edge");
    v->add_option("--join", o->join, "With the fence there is: replace, add, take-away or meet");
    v->add_flag("--invert", o->invert, "Turn it inside out");
    v->add_option("--grow", o->grow, "metres outwards, negative inwards");
    v->add_option("--feather", o->feather, "metres over which its edge is soft");
    v->add_option("--keep", o->keep, "Keep it under a name");
    v->add_flag("--drop", o->drop, "Leave it out of force");
    return {v, [o] { return workOn(o->file, o->out, [&](const Level& level) { return fenced(level, *o); }); }};
}

}  // namespace jam::cli
