// What courses make of the ground, baked into the tiles of their strata.
#pragma once

#include "base/context.h"
#include "course/line.h"
#include "level/changes.h"

namespace jam {

// Bakes the course at `place` in the level's strata from its posts and the ground below. Tiles that come out the same
// stay shared. Returns the ground samples of tiles that differ. Precondition: it is a course.
TileSet bakeCourse(Level& level, size_t place);
// The same of several, from the bottom up, that ask for each other's lines once.
TileSet bakeCourse(Level& level, size_t place, CourseLines& lines);

// Bakes, bottom to top, the courses that `change` concerns: those it names, and those whose posts or beds follow ground
// that it touched. Returns the ground that differs.
TileSet refreshCourses(Level& level, const Change& change, const Context& context = {});

// Adds a course over all strata, bakes it and returns its id. Precondition: checkCourse(), fewer than kMaxStrata.
uint32_t addCourse(Level& level, const std::string& name, Course course);
// The same below the first course that leads somewhere, so that roads lead onto what it makes. Errors: there are
// kMaxStrata already.
Result<uint32_t> addCourseBelowOthers(Level& level, const std::string& name, Course course);

// The ground samples of tiles nearer than so many metres to the course's even part, whatever of it the course owns: a
// bank owns none, a bed only what it cuts, and a course beyond the level's edge nothing.
TileSet nearEvenPart(const Level& level, size_t place, double metres);

// Metres from each cover sample of a region to the even part of the course, 0 on it; kFarFromCourse where it is farther
// than `most`.
constexpr float kFarFromCourse = 1e6f;
void courseDistances(const Level& level, size_t place, double most, const Region& cover, View<float> out);

}  // namespace jam
