// The line of a course: where it runs, how high, how wide.
#pragma once

#include <vector>

#include "level/level.h"

namespace jam {

// A point of the line, with what lies between its posts.
struct LinePoint {
    double x = 0, z = 0;  // metres
    double along = 0;     // metres from the first post
    double height = 0;    // metres; bank: above the ground
    double width = 0, shoulder = 0, banking = 0;
    int post = 0;         // the one that it follows; of a footprint, which of those that stand on it
    bool starts = false;  // no leg leads to it from the point before
};

// The line of the course at `place` in the level's strata, in points no farther apart than about half a sample or an
// eighth of its reach. A smooth line is a centripetal Catmull-Rom curve (Yuksel, Schaefer and Keyser, 2011) through the
// posts; heights run evenly from post to post along it, or smoothly without swinging beyond them (Fritsch and Carlson,
// 1980). Posts without a height take the ground's below the course, crossings that height of the course below, when it
// meets it; a carved line never rises, and between posts without a height it follows the ground down where that
// lies lower. A pad's line is its post, twice; a footprint's a leg for each that stands on it, along the longer side
// of its outline, or nothing.
// Precondition: strata[place] is a course.
std::vector<LinePoint> lineOf(const Level& level, size_t place);

// Lines of several courses of a level, each worked out once: one that meets others needs theirs. The level must live
// as long; what of it changes meanwhile may change above those that were asked for alone.
class CourseLines {
public:
    explicit CourseLines(const Level& level) : level_(level), lines_(level.strata.size()) {}
    const std::vector<LinePoint>& of(size_t place);

private:
    const Level& level_;
    std::vector<std::optional<std::vector<LinePoint>>> lines_;
};

// What of a course is hard on those who go there, and on those who build it.
struct CourseFigures {
    double length = 0;           // metres along it on the map
    double steepest = 0;         // degrees, either way
    double climb = 0, fall = 0;  // metres, both >= 0
    double cut = 0, fill = 0;    // cubic metres, both >= 0
    int rises = -1;              // carve: the first post that lies higher than those before, or -1
};
CourseFigures courseFigures(const Level& level, size_t place);

// Whether the line crosses itself, its posts apart.
bool crossesItself(const std::vector<LinePoint>& line);

// Errors: fewer than two posts (of a pad, other than one) or too many, numbers out of range, a post farther away than
// kFarPlace. Posts may lie beside the level, where a crop left them: its edge counts as the ground there.
Status checkCourse(const Course& course);
// The same for one that is drawn: it lies on the level.
Status checkNewCourse(const Level& level, const Course& course);

}  // namespace jam
