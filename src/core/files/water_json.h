// Pools and streams in the JSON of a level file. Members and ranges: docs/format.md.
#pragma once

#include "files/fields.h"
#include "level/level.h"

namespace jam {

// Everything but ids and rasters.
Json poolToJson(const Pool& pool);
Json streamToJson(const Stream& stream);

// The members "pools" and "streams" of a level file, with ids. Reading needs strata and nextId; wrong values, names and
// ids given twice, too many, and streams without a course are noted in `fields`.
void describeWaters(const Level& level, Json& all);
void readWaters(Fields& fields, Level& level);

}  // namespace jam
