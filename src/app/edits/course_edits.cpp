#include "edits/course_edits.h"

#include <algorithm>

#include "cover/course_layers.h"
#include "level/strata.h"
#include "level/things.h"
#include "water/water.h"

namespace jam {

const Course* CourseEdits::chosen() const {
    const Stratum* s = place_.document.level().stratum(place_.standpoint.course());
    return s && s->course ? &*s->course : nullptr;
}

int CourseEdits::place() const {
    return chosen() ? place_.document.level().stratumIndex(place_.standpoint.course()) : -1;
}

Result<Level> CourseEdits::tried(uint32_t id, const std::function<void(Course&)>& change) const {
    Level next = place_.document.standing();
    Stratum* s = next.stratum(id);
    if (!s || !s->course) return goneError(ThingKind::course);
    if (s->locked) return Error{"", "", "“" + s->name + "” is protected", "let it go under Strata"};
    change(*s->course);
    if (const Status ok = checkCourse(*s->course); !ok) return ok.error();
    Change of;
    of.strata.push_back(id);
    refreshCourses(next, of);
    return next;
}

Result<Level> CourseEdits::triedNew(const Course& course, uint32_t* id) const {
    Level next = place_.document.standing();
    if (const Status ok = checkNewCourse(next, course); !ok) return ok.error();
    if (next.strata.size() >= kMaxStrata)
        return Error{"", "", "A level has at most " + std::to_string(kMaxStrata) + " strata and courses",
                     "merge some first"};
    int count = 1;
    for (const Stratum& s : next.strata) count += s.course.has_value();
    const bool streams = place_.standpoint.streaming();
    const std::string name = streams ? freeWaterName(next, QObject::tr("Stream").toStdString()) : "";
    const uint32_t made = addCourse(next, streams ? name + " bed" : QObject::tr("Course %1").arg(count).toStdString(),
                                    course);
    if (streams) {
        Stream stream;
        stream.name = name;
        stream.course = made;
        if (const Result<uint32_t> ran = addStream(next, stream); !ran) return ran.error();
    }
    if (id) *id = made;
    return next;
}

bool CourseEdits::edit(const QString& what, uint32_t id, const std::function<void(Course&)>& change,
                       const QString& gesture) {
    Result<Level> next = tried(id, change);
    if (!next) {
        place_.tell(QString::fromStdString(next.error().sentence()));
        return false;
    }
    const Course course = *next.value().stratum(id)->course;
    // Its layers keep to its shoulders.
    layOnCourse(next.value(), id, course.track, course.verge);
    if (!place_.document.edit(
            what, [&](Level& l) { l = std::move(next.value()); }, gesture))
        return false;
    const auto at = static_cast<size_t>(std::max(place(), 0));
    const Level& level = place_.document.level();
    if (place() < 0) return true;
    const CourseFigures f = courseFigures(level, at);
    if (f.rises >= 0)
        place_.tell(
            QObject::tr("Water would have to run uphill to post %1; the bed stays level there.").arg(f.rises + 1));
    else if (crossesItself(lineOf(level, at)))
        place_.tell(QObject::tr("The course crosses itself; the part that is nearer counts there."));
    else if (f.steepest > 60)
        place_.tell(QObject::tr("The course is as steep as %1° in places.").arg(f.steepest, 0, 'f', 0));
    return true;
}

bool CourseEdits::add(const Course& course) {
    uint32_t id = 0;
    Result<Level> next = triedNew(course, &id);
    if (!next) {
        place_.tell(QString::fromStdString(next.error().sentence()));
        return false;
    }
    const bool streams = place_.standpoint.streaming();
    const uint32_t stream = streams ? next.value().streams.back().id : 0;
    if (!place_.document.edit(streams ? QObject::tr("Stream") : QObject::tr("Course"),
                              [&](Level& l) { l = std::move(next.value()); }))
        return false;
    place_.standpoint.setCourse(id, static_cast<int>(course.posts.size()) - 1);
    if (streams) place_.standpoint.setWater(stream);
    return true;
}

Course CourseEdits::begun(const glm::dvec3& from, const glm::dvec3& to) const {
    Course c;
    Post p;
    p.width = std::clamp(place_.toolbox.settings().radius * 0.5f, 2.f, 40.f);
    p.shoulder = std::clamp(p.width, 2.f, 20.f);
    if (place_.standpoint.streaming()) c.use = CourseUse::carve, c.sunk = 0.8f, p.width = 3, p.shoulder = 4;
    p.x = from.x, p.z = from.z;
    c.posts.push_back(p);
    p.x = to.x, p.z = to.z;
    c.posts.push_back(p);
    return c;
}

void CourseEdits::insertAfter(int post) {
    const Course* c = chosen();
    if (!c || post < 0) return;
    const int n = static_cast<int>(c->posts.size());
    // After the last of an open course: before it instead.
    const int after = post + 1 < n || c->closed ? post : n - 2;
    const Post &a = c->posts[static_cast<size_t>(after)], &b = c->posts[static_cast<size_t>((after + 1) % n)];
    Post middle = a;
    middle.x = 0.5 * (a.x + b.x), middle.z = 0.5 * (a.z + b.z);
    middle.width = 0.5f * (a.width + b.width), middle.shoulder = 0.5f * (a.shoulder + b.shoulder);
    middle.banking = 0.5f * (a.banking + b.banking);
    if (a.height && b.height) middle.height = 0.5f * (*a.height + *b.height);
    else middle.height.reset();
    if (edit(QObject::tr("Insert a post"), place_.standpoint.course(),
             [&](Course& x) { x.posts.insert(x.posts.begin() + after + 1, middle); }))
        place_.standpoint.setCourse(place_.standpoint.course(), after + 1);
}

void CourseEdits::removePost(int post) {
    const Course* c = chosen();
    if (!c || post < 0 || post >= static_cast<int>(c->posts.size())) return;
    if (c->posts.size() <= 2) return remove();
    if (edit(QObject::tr("Delete a post"), place_.standpoint.course(),
             [post](Course& x) { x.posts.erase(x.posts.begin() + post); }))
        place_.standpoint.setCourse(place_.standpoint.course(), std::max(post - 1, 0));
}

void CourseEdits::remove() {
    if (place() < 0) return;
    const uint32_t id = place_.standpoint.course();
    Level next = place_.document.standing();
    // Its layers go with it.
    layOnCourse(next, id, 0, 0);
    if (const Status s = removeStratum(next, id); !s) return place_.tell(QString::fromStdString(s.error().sentence()));
    if (place_.document.edit(QObject::tr("Delete a course"), [&](Level& l) { l = std::move(next); }))
        place_.standpoint.setCourse(0);
}

}  // namespace jam
