// Kinds and singles in JSON: as the level file has them, and as they are handed over.
#pragma once

#include "files/fields.h"
#include "level/level.h"

namespace jam {

// Everything of a kind but its id and its rasters.
Json kindToJson(const Kind& kind);
// Where `shape` is given, a kind may have been taken in: then it is set to the name of the file that it came from, and
// the kind has no growth.
void readKindFields(Fields& f, Kind& kind, std::string* shape = nullptr);

Json singleToJson(const Single& single);

// Adds what a level file says of singles, and takes it in again, into a level that has its kinds.
void describeSingles(const Level& level, Json& all);
void readSingles(Fields& f, Level& level);

}  // namespace jam
