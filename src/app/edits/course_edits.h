// What a designer does with courses, on the document: each is one step, refused in words when it cannot be.
#pragma once

#include <functional>
#include <glm/vec3.hpp>

#include "course/bake.h"
#include "workplace/workplace.h"

namespace jam {

class CourseEdits {
public:
    explicit CourseEdits(Workplace& place) : place_(place) {}

    // The course that is chosen, or null; its place in the order, or -1.
    const Course* chosen() const;
    int place() const;

    // The level with a course changed, or a new one of these posts; what it refuses in words. The ground follows;
    // layers do when it is committed.
    Result<Level> tried(uint32_t id, const std::function<void(Course&)>& change) const;
    Result<Level> triedNew(const Course& course, uint32_t* id) const;
    // Makes a step of it; says why not, and returns false, when it cannot be. `gesture` as Document::edit.
    bool edit(const QString& what, uint32_t id, const std::function<void(Course&)>& change,
              const QString& gesture = {});
    // Makes a new course and chooses it.
    bool add(const Course& course);
    // What a course made by hand looks like at first, by the width of the brush.
    Course begun(const glm::dvec3& from, const glm::dvec3& to) const;

    // Adds a post after the one of this place in the order, half way to the next.
    void insertAfter(int post);
    // Deletes a post; the course itself when only two are left.
    void removePost(int post);
    void remove();

private:
    Workplace& place_;
};

}  // namespace jam
