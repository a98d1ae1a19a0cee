// What hands do to the ground: strokes, strata, courses.
#include "verbs.h"

#include <algorithm>
#include <cmath>
#include "course/bake.h"
#include "cover/course_layers.h"
#include "level/strata.h"
#include "stroke/stroker.h"
#include "tools/tool.h"

namespace jam::test {

namespace {

// --- strokes ------------------------------------------------------------------------------------------------------

void stroke(Level& level, const Numbers& n, Tool tool) {
    More more(n);
    Stroke s;
    s.settings = usualSettings(tool);
    s.settings.layer = layerId(level, n[4]);
    s.settings.from = layerId(level, n[5]);
    const auto choose = [&](const Setting& setting) {
        if (more.next() < 0.7 || setting.kind == Setting::Kind::layer || setting.kind == Setting::Kind::colour) return;
        const double high = setting.reach ? setting.reach : setting.high,
                     low = setting.reach ? std::max(setting.low, -setting.reach) : setting.low;
        double v = setting.logarithmic ? logAmong(more.next(), std::max(low, 1e-6), high)
                                       : among(more.next(), low, high);
        if (setting.kind == Setting::Kind::flag || setting.kind == Setting::Kind::choice || setting.whole)
            v = std::round(v);
        if (setting.kind == Setting::Kind::choice) v = std::min(v, static_cast<double>(setting.choices.size()) - 1);
        setting.set(s.settings, v);
    };
    for (const Setting* setting : commonSettings()) choose(*setting);
    for (const Setting* setting : ownSettings())
        if (uses(tool, *setting)) choose(*setting);
    s.settings.radius = static_cast<float>(logAmong(n[3], 2 * level.spacing, 30 * level.spacing));
    s.settings.restore = RestoreTo::start;
    if (const Kind* k = one(level.kinds, more.next())) s.settings.kind = k->id;
    s.settings.spacing = std::max(s.settings.spacing, 0.2f);
    bringIntoRange(s.settings);
    const MapPlace a = on(level, n[0], n[1]), b = on(level, std::fmod(n[0] + 0.3 * n[2], 1), n[2]);
    s.points = {{a.x, a.z, 1, 0}, {b.x, b.z, static_cast<float>(more.next()), 0.3}};
    if (!checkStroke(s) || !checkNeeds(level, s.settings, nullptr)) return;
    Stroker stroker(s.settings, level);
    for (const StrokePoint& p : s.points) stroker.add(level, p);
    stroker.finish(level);
}

template <Tool tool>
void strokeOf(Level& level, const Numbers& n) {
    stroke(level, n, tool);
}

// --- strata and courses -------------------------------------------------------------------------------------------

void addsStratum(Level& l, const Numbers& n) {
    if (l.strata.size() < 9)
        l.activeStratum = addStratum(l, "stratum", static_cast<int>(place(n[0], l.strata.size() + 1)) - 1);
}
void choosesStratum(Level& l, const Numbers& n) {
    if (const Stratum* s = oneOf(l.strata, n[0], [](const Stratum& x) { return !x.mixes(); })) l.activeStratum = s->id;
}
void dims(Level& l, const Numbers& n) {
    if (Stratum* s = one(l.strata, n[0])) s->opacity = amongFloat(n[1], 0, s->mixes() ? 1 : kMaxOpacity);
}
void turnsEye(Level& l, const Numbers& n) {
    if (Stratum* s = one(l.strata, n[0])) s->visible = !s->visible;
}
void protects(Level& l, const Numbers& n) {
    if (Stratum* s = one(l.strata, n[0])) s->locked = !s->locked;
}
void movesStratum(Level& l, const Numbers& n) {
    ignore(moveStratum(l, one(l.strata, n[0])->id, static_cast<int>(place(n[1], l.strata.size()))));
}
void mergesStratum(Level& l, const Numbers& n) { ignore(mergeStratumDown(l, one(l.strata, n[0])->id)); }
void removesStratum(Level& l, const Numbers& n) { ignore(removeStratum(l, one(l.strata, n[0])->id)); }
void doublesStratum(Level& l, const Numbers& n) {
    if (l.strata.size() < 9) (void)duplicateStratum(l, one(l.strata, n[0])->id);
}

Post postAt(const Level& l, double x, double z, More& more) {
    Post p;
    const MapPlace at = on(l, x, z);
    p.x = at.x, p.z = at.z;
    p.width = static_cast<float>(logAmong(more.next(), kMinCourseWidth, 40));
    p.shoulder = amongFloat(more.next(), 0, 25);
    p.banking = amongFloat(more.next() < 0.5 ? 0.5 : more.next(), -kMaxBanking, kMaxBanking);
    if (more.next() < 0.5) p.height = amongFloat(more.next(), -20, 40);
    return p;
}

void addsCourse(Level& l, const Numbers& n) {
    if (l.strata.size() >= 9) return;
    More more(n);
    Course c;
    c.use = static_cast<CourseUse>(place(n[4], 3));
    c.smooth = more.next() < 0.6;
    c.meets = more.next() < 0.7;
    c.closed = more.next() < 0.2;
    if (c.use == CourseUse::carve) c.sunk = amongFloat(more.next(), 0, 4);
    c.posts = {postAt(l, n[0], n[1], more), postAt(l, n[2], n[3], more)};
    if (n[5] > 0.5) c.posts.push_back(postAt(l, more.next(), more.next(), more));
    if (c.use == CourseUse::bank)
        for (Post& p : c.posts) p.height = std::abs(p.height.value_or(2));
    if (!checkNewCourse(l, c)) return;
    const uint32_t id = addCourse(l, "course", c);
    if (more.next() < 0.5) layOnCourse(l, id, layerId(l, more.next()), layerId(l, more.next()));
}
// Takes over another course in place of one, as hands and panels do.
void reshapes(Level& l, Stratum& s, const Course& c) {
    if (!checkCourse(c)) return;
    const uint32_t id = s.id;
    s.course = c;
    Change of;
    of.strata.push_back(id);
    refreshCourses(l, of);
    layOnCourse(l, id, c.track, c.verge);
}
void movesPost(Level& l, const Numbers& n) {
    Stratum* s = courseOf(l, n[0]);
    if (!s) return;
    More more(n);
    Course c = *s->course;
    Post& p = *one(c.posts, n[1]);
    const MapPlace at = on(l, n[2], n[3]);
    p.x = at.x, p.z = at.z;
    if (n[4] > 0.6) p.height = amongFloat(n[5], -20, 40);
    if (n[4] < 0.3 && c.use != CourseUse::bank) p.height.reset();
    if (more.next() < 0.3) p.width = static_cast<float>(logAmong(more.next(), kMinCourseWidth, 40));
    if (more.next() < 0.3) p.shoulder = amongFloat(more.next(), 0, 25);
    reshapes(l, *s, c);
}
void changesCourse(Level& l, const Numbers& n) {
    Stratum* s = courseOf(l, n[0]);
    if (!s) return;
    Course c = *s->course;
    switch (place(n[1], 6)) {
        case 0: c.smooth = !c.smooth; break;
        case 1: c.meets = !c.meets; break;
        case 2: c.closed = !c.closed; break;
        case 3: std::reverse(c.posts.begin(), c.posts.end()); break;
        case 4: c.use = c.use == CourseUse::grade ? CourseUse::carve : CourseUse::grade; break;
        case 5:
            if (c.posts.size() > 2)
                c.posts.erase(c.posts.begin() + static_cast<ptrdiff_t>(place(n[2], c.posts.size())));
            else c.posts.push_back(postAt(l, n[3], n[4], *std::make_unique<More>(n)));
            break;
    }
    reshapes(l, *s, c);
}
void laysOnCourse(Level& l, const Numbers& n) {
    const Stratum* s = courseOf(l, n[0]);
    if (s) layOnCourse(l, s->id, n[1] < 0.3 ? 0 : layerId(l, n[2]), n[3] < 0.3 ? 0 : layerId(l, n[4]));
}

}  // namespace

std::vector<Verb> groundVerbs() {
    std::vector<Verb> all = {{"addStratum", addsStratum},
                             {"chooseStratum", choosesStratum},
                             {"dim", dims},
                             {"turnEye", turnsEye},
                             {"protect", protects},
                             {"moveStratum", movesStratum},
                             {"mergeStratum", mergesStratum},
                             {"removeStratum", removesStratum},
                             {"doubleStratum", doublesStratum},
                             {"course", addsCourse},
                             {"course", addsCourse},
                             {"movePost", movesPost},
                             {"movePost", movesPost},
                             {"changeCourse", changesCourse},
                             {"layOnCourse", laysOnCourse}};
#define JAM_VERB(name) {#name, strokeOf<Tool::name>},
    const std::vector<Verb> strokes = {JAM_TOOLS(JAM_VERB)};
#undef JAM_VERB
    all.insert(all.end(), strokes.begin(), strokes.end());
    return all;
}

}  // namespace jam::test
