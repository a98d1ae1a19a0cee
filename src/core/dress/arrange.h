// Several singles at once: those that move together, and lines of them.
#pragma once

#include "dress/kinds.h"

namespace jam {

// Those of these ids become a group of their own, and leave any other. Errors: fewer than two of them, or one is gone.
Status groupSingles(Level& level, const std::vector<uint32_t>& ids);
// Their groups are no more: of all that are in one with any of these. Errors: none of them is in a group.
Status dissolveGroups(Level& level, const std::vector<uint32_t>& ids);
// All that are in a group with one, itself among them, by ids.
std::vector<uint32_t> groupOf(const Level& level, uint32_t id);

// Puts those in between evenly on to the straight line from the first to the last of them, each turned along it.
// Errors: fewer than three, or one is gone.
Status lineUpSingles(Level& level, const std::vector<uint32_t>& ids);
// Turns each the way that the nearest course runs there. Errors: no course is seen, or one is gone.
Status turnAlongCourse(Level& level, const std::vector<uint32_t>& ids);

// A line of one kind along places on the ground, from the first on: those that are longer than wide (rails, a hedge)
// one at the end of another, each lying along the line and, as far as the kind leans, along the slope; others as far
// apart as the kind stands in a row. Errors: the kind is gone; a line shorter than one of them.
Result<std::vector<Single>> lineOfSingles(const Level& level, uint32_t kind,
                                          const std::vector<std::array<double, 2>>& line);
// The line that runs beside the course nearest to a place, as far from its middle, and on the same side, as that lies.
// Errors: no course is seen within `most` metres of it.
Result<std::vector<std::array<double, 2>>> lineBesideCourse(const Level& level, double x, double z, double most);
// Puts it down as one group. Errors: those, those of putSingle().
Status putLine(Level& level, uint32_t kind, const std::vector<std::array<double, 2>>& line);

}  // namespace jam
