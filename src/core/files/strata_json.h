// Strata and courses in the JSON of a level file. Members and ranges: docs/format.md.
#pragma once

#include "files/fields.h"
#include "level/level.h"

namespace jam {

// Everything but id and rasters.
Json stratumToJson(const Stratum& stratum);
// Reads the same; wrong values are noted in `fields`.
void readStratumFields(Fields& fields, Stratum& stratum);

std::string_view courseUseName(CourseUse use);  // "grade", "carve", "bank"
Json courseToJson(const Course& course);
Course readCourse(Fields fields);

}  // namespace jam
