// The recovery journal: everything that was done since the last save, step by step, in a file of its own that survives
// whatever ends the program. docs/recovery.md tells it for designers, docs/parts.md how it is built.
//
// A journal knows the file that it belongs to by what lies in that (fileIdentity), and has of each step what differs
// from the one before: changed tiles of every raster as they became, the level's description where it did, new
// pictures. So it is taken up by opening the file and putting the steps on top of it; the file is never touched.
#pragma once

#include <condition_variable>
#include <deque>
#include <filesystem>
#include <functional>
#include <future>
#include <memory>
#include <mutex>
#include <thread>

#include "base/result.h"
#include "journal/database.h"
#include "level/level.h"

namespace jam {

constexpr int kMostJournalSteps = 400;                   // beyond, the older half folds into one
constexpr int64_t kMostJournalBytes = int64_t{1} << 30;  // the same

// Where journals lie: in $XDG_STATE_HOME, or ~/.local/state without it.
std::filesystem::path journalFolder();

// What a journal says of itself under a key; empty when it says nothing.
std::string noted(Database& database, const char* key);
// Lets steps go up to one, which lie in a file by now. Part of a transaction.
Status dropSteps(Database& database, int64_t until);

// Writes on a thread of its own. All of it may be called from any one thread; nothing waits for the disk but
// aboutToSave() and what says so.
class Journal {
public:
    // `told` is called, on the writing thread, once when writing begins to fail, and not again until it went well.
    using Told = std::function<void(const Error&)>;

    // A new one in `folder`, which is made when it is not there, for a level that lies in `file` as `base` says
    // (fileIdentity); both are empty for one that was never saved, which is written whole. `serial` is the level's in
    // the history. Nothing is on the disk before the first step.
    Journal(std::filesystem::path folder, std::filesystem::path file, std::string base, uint64_t serial,
            const Level& level, Told told);
    // Goes on with one that was taken up (journal/recover.h): its last step is `level`, of this serial.
    Journal(std::unique_ptr<Database> database, uint64_t serial, const Level& level, Told told);
    Journal(const Journal&) = delete;
    Journal& operator=(const Journal&) = delete;
    // Writes what waits. The journal stays on the disk unless end() was called.
    ~Journal();

    // A step, as it is now. One of the same serial as the last, or `inPlace`, takes that one's place.
    void record(uint64_t serial, const std::string& what, const Level& level, bool inPlace = false);
    // Everything so far is about to be saved; with what comes of it, in this order.
    void saveBegins();
    // What will lie at `file`, before it does. Waits until that is known to the disk.
    void aboutToSave(const std::filesystem::path& file, const std::string& identity);
    void saved();
    // It is needed no more, and goes.
    void end();
    // Waits until all is written; what went wrong last, or nothing.
    Status settle();

private:
    // A step that waits to be written.
    struct Step {
        uint64_t serial = 0;
        std::string what;
        Level level;
        bool inPlace = false;
    };
    struct Job {
        std::function<Status()> run;
        std::shared_ptr<Step> step;  // in place of it
    };
    void add(Job job);
    void work();
    Status begin();
    Status write(const Step& step);
    Status put(const Step& step, bool whole);
    Status fold();

    const std::filesystem::path folder_;
    const Told told_;

    // The writing thread's alone.
    std::filesystem::path file_;
    std::string base_;
    std::unique_ptr<Database> database_;
    Level written_;       // as the last step has it
    std::string text_;    // its description
    bool whole_ = false;  // nothing lies below the first step
    int64_t step_ = 0, saveStep_ = 0, steps_ = 0;
    uint64_t serial_ = 0, saveSerial_ = 0;  // of the last step
    std::string pending_, pendingFile_;
    bool failed_ = false, ended_ = false, ahead_ = false;  // ahead: something was written since the last checkpoint
    Status last_;

    std::mutex mutex_;
    std::condition_variable wake_, idle_;
    std::deque<Job> jobs_;
    bool busy_ = false, stop_ = false;
    std::thread thread_;
};

}  // namespace jam
