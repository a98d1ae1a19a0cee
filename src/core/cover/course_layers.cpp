#include "cover/course_layers.h"

#include <algorithm>

#include "cover/rules.h"

namespace jam {

namespace {

Rule trackRule(uint32_t course) {
    Rule r;
    r.kind = RuleKind::course;
    r.layer = course;
    r.from = 0, r.to = 0.2f, r.fade = 0.8f;
    return r;
}

// From where the even part ends to where the shoulder has nearly met the ground.
Rule vergeRule(uint32_t course, float shoulder) {
    Rule r;
    r.kind = RuleKind::course;
    r.layer = course;
    r.from = 0.25f * shoulder, r.to = 0.7f * shoulder, r.fade = 0.25f * shoulder;
    return r;
}

bool ofCourse(const Rule& r, uint32_t course) { return r.kind == RuleKind::course && r.layer == course; }

}  // namespace

void layOnCourse(Level& level, uint32_t course, uint32_t track, uint32_t verge) {
    Stratum* s = level.stratum(course);
    if (!s || !s->course) return;
    const uint32_t wasTrack = s->course->track, wasVerge = s->course->verge;
    // One that is protected stays as it is.
    const auto able = [&](uint32_t id, uint32_t was) {
        const int at = level.layerIndex(id);
        return at > 0 && (id == was || !level.layers[static_cast<size_t>(at)].locked) ? id : 0;
    };
    track = able(track, wasTrack), verge = able(verge, wasVerge);
    s->course->track = track, s->course->verge = verge;
    float shoulder = s->course->footprint ? s->course->footprint->rim : 0;
    for (const Post& p : s->course->posts) shoulder += p.shoulder / static_cast<float>(s->course->posts.size());
    for (size_t i = 1; i < level.layers.size(); ++i) {
        Layer& l = level.layers[i];
        if (l.locked) continue;
        std::vector<Rule> wanted;
        // Rules that look at the course in a layer that it did not lay are the designer's.
        const bool laid = l.id == wasTrack || l.id == wasVerge;
        for (const Rule& r : l.rules)
            if (!laid || !ofCourse(r, course)) wanted.push_back(r);
        if (l.id == verge && shoulder > 0) wanted.push_back(vergeRule(course, shoulder));
        if (l.id == track) wanted.push_back(trackRule(course));
        if (wanted == l.rules || wanted.size() > kMaxRules) continue;
        const uint32_t id = l.id;
        // What was painted before counts as the hand's.
        if (!l.alive) wakeRules(level, id, true);
        changeRules(level, id, std::move(wanted));
        if (l.rules.empty()) restRules(level, id);
    }
}

}  // namespace jam
