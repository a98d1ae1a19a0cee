// Pools and streams in the JSON of a level file. Members and ranges: docs/format.md.
#pragma once

#include "files/fields.h"
#include "level/level.h"

namespace jam {

// Everything but ids and rasters.
Json poolToJson(const Pool& pool);
Json streamToJson(const Stream& stream);
// Read the same; wrong values are noted in `fields`.
void readPool(Fields& fields, const Level& level, Pool& pool);
void readStream(Fields& fields, Stream& stream);

}  // namespace jam
