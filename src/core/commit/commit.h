// The one place where work becomes the level: what the hand or a command did to a level is taken, everything that
// follows is brought up to date, and the level comes out as it is committed. Window, command line and tests use this
// one function, so that the same work gives the same level everywhere.
#pragma once

#include "base/context.h"
#include "level/changes.h"

namespace jam {

// A part of the level that follows others, such as layers laid by living rules.
struct Follower {
    const char* name;  // for people, in the middle of a sentence
    // Brings `level` up to date after `change` and adds what that made to it. A cancelled run leaves the level half
    // done.
    void (*follow)(Level& level, Change& change, const Context& context);
    // Samples that it would have to look at after `change`, about; 0 when it has nothing to do in this level at all.
    long long (*work)(const Level& level, const Change& change);
};

// All followers in the order in which they run. Adding one is a file and a line here (commit/followers.cpp).
const std::vector<Follower>& followers();

struct Commit {
    Level level;
    Change change;  // all that differs from `before`
};

// Samples that all followers together would have to look at after `change`, about: what decides whether they may run
// while the hand waits.
long long followingWork(const Level& level, const Change& change);

// `before` is the level as it was, `after` the hand. `touched`, when it is given, holds every sample that may differ
// and spares looking for them. Errors: a name that no file could keep (checkNames), cancelled.
Result<Commit> commitWork(const Level& before, Level after, const Context& context = {},
                          const Change* touched = nullptr);

}  // namespace jam
