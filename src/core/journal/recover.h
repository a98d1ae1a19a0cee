// What is left of work that did not end well: journals that nobody writes any more.
#pragma once

#include "base/context.h"
#include "journal/journal.h"
#include "level/history.h"

namespace jam {

// One that was found.
struct KeptWork {
    std::filesystem::path journal;
    std::string name;             // the level's
    std::filesystem::path file;   // empty when it was never saved
    int64_t since = 0, last = 0;  // milliseconds since 1970: of the save it goes on from (or its beginning), and of
                                  // the last step
    int steps = 0;
    std::string what;  // the last step, in words
};

// All in a folder that nobody writes and that hold a step, latest first. Those that hold none go. Errors of single
// ones are passed over: what cannot be read now may be another time.
std::vector<KeptWork> keptWork(const std::filesystem::path& folder);

struct TakenUp {
    History history;                     // as far as it is kept; now() is the level as it stood
    std::filesystem::path file;          // where it was saved; empty when it was not
    uint64_t saved = 0;                  // serial of the entry that lies there, or 0
    std::unique_ptr<Database> database;  // to go on with (Journal)
};
// Puts the steps on top of the file they go on from. Of neither anything is lost. Errors: the file is gone, or other
// than the journal knows it; another window has the journal; it is damaged; what comes of it is no level (checkLevel);
// cancelled.
Result<TakenUp> takeUpWork(const std::filesystem::path& journal, const Context& context = {});
// For good. Errors: another window has it; what the disk says.
Status throwAway(const std::filesystem::path& journal);

}  // namespace jam
