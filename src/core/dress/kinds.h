// The list of kinds: those that come and go, and what they may be.
#pragma once

#include "level/level.h"

namespace jam {

// Errors: a name that is empty, too long or another kind's; any number out of its range; sizes the wrong way round; a
// growth that is none; more than it may keep off.
Status checkKind(const Level& level, const Kind& kind, uint32_t self = 0);

// Adds a kind on top of the list, standing nowhere; its rules are alive, so that it stands where they say. Gives its
// id. Errors: those of checkKind(), or there are kMaxKinds already.
Result<uint32_t> addKind(Level& level, Kind kind);
// It goes, with all of it that stands. What other kinds kept off it they keep off no more. Errors: it is gone.
Status removeKind(Level& level, uint32_t id);
// A copy of it, after it in the list, standing nowhere. Errors: it is gone, or there is no room for another.
Result<uint32_t> duplicateKind(Level& level, uint32_t id);
// To another place in the list; those that come first are kept off by those after them. Errors: it is gone.
Status moveKind(Level& level, uint32_t id, int to);
// Takes over all but its rasters, its rules and its density from another. Errors: those of checkKind(), or it is gone.
Status changeKind(Level& level, const Kind& as);

std::string freeKindName(const Level& level, const std::string& wish);

// Metres from foot to top at size 1, of its largest variant.
float heightOf(const Kind& kind);
// How large the largest of a kind may be, times its mesh; 0 where none stands.
float largestOf(const Level& level, const Kind& kind);
// How far what stands on the level reaches, at most: up from the ground, and aside from where it stands. Nothing stands
// on a level without kinds.
struct Standing {
    float up = 0, aside = 0;  // metres
};
Standing standingOf(const Level& level);

// --- singles ------------------------------------------------------------------------------------------------------

// Errors: its kind is gone, a number out of its range, a place beside the level.
Status checkSingle(const Level& level, const Single& single);
// Errors: there are kMaxSingles already.
Status checkSinglesLeft(const Level& level);
// Puts one down and gives its id. Errors: those of checkSingle(), or there are kMaxSingles already.
Result<uint32_t> putSingle(Level& level, Single single);
Status removeSingle(Level& level, uint32_t id);
// What it is now becomes what `as` says, which has its id. Errors: those of checkSingle(), or it is gone.
Status changeSingle(Level& level, const Single& as);

struct Planting;
// Makes a single of a planting of a kind, where and as it stands, and gives its id; its place in the pattern is taken
// for good. Errors: it is one already, the kind is gone, there are too many.
Result<uint32_t> takeUp(Level& level, uint32_t kind, const Planting& planting);
// Takes one planting away, for good. Errors: the kind is gone or protected, too many are taken.
Status takeAway(Level& level, uint32_t kind, const Planting& planting);

}  // namespace jam
