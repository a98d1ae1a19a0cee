// Spots and bodies in the JSON of a level file. Members and ranges: docs/format.md.
#pragma once

#include "files/fields.h"
#include "level/level.h"

namespace jam {

Json spotToJson(const Spot& spot);  // everything but ids
Json bodyToJson(const Body& body);
// Noted in `fields`: wrong values, as checkBody().
Body readBody(Fields fields);

// The members "spots", "bodies" and "body" of a level file. Reading needs strata and nextId; wrong values, names and
// ids given twice, too many, and a body that is not there are noted in `fields`. Whether there is ground under a spot
// is left to `jamhill-cli check`, since an opening that was cut later is no damage of the file.
void describeSpots(const Level& level, Json& all);
void readSpots(Fields& fields, Level& level);

}  // namespace jam
