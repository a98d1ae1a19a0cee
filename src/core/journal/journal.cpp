#include "journal/journal.h"

#include <chrono>
#include <map>
#include <random>

#include "files/level_text.h"
#include "journal/tile_pack.h"
#include "level/rasters.h"

namespace jam {

namespace {

constexpr const char* kTables =
    "CREATE TABLE about(key TEXT PRIMARY KEY, value TEXT) WITHOUT ROWID;"
    "CREATE TABLE steps(step INTEGER PRIMARY KEY, serial INTEGER, what TEXT, time INTEGER, leaks TEXT, text BLOB);"
    // Rasters that begin with nothing in a step, and tiles as they become; without samples a tile is as usual again.
    "CREATE TABLE begun(raster TEXT, step INTEGER, PRIMARY KEY(raster, step)) WITHOUT ROWID;"
    "CREATE TABLE tiles(raster TEXT, tx INTEGER, tz INTEGER, step INTEGER, samples BLOB);"
    "CREATE UNIQUE INDEX tiles_by_place ON tiles(raster, tx, tz, step);"
    "CREATE INDEX tiles_by_step ON tiles(step);"
    "CREATE TABLE parts(name TEXT, step INTEGER, bytes BLOB);"
    "CREATE UNIQUE INDEX parts_by_name ON parts(name, step);";

using Transaction = Database::Transaction;

int64_t milliseconds() {
    using namespace std::chrono;
    return duration_cast<std::chrono::milliseconds>(system_clock::now().time_since_epoch()).count();
}

// When a file was written; now, when there is none.
int64_t savedAt(const std::filesystem::path& file) {
    std::error_code none;
    const auto written = std::filesystem::last_write_time(file, none);
    if (file.empty() || none) return milliseconds();
    using namespace std::chrono;
    return duration_cast<std::chrono::milliseconds>(file_clock::to_sys(written).time_since_epoch()).count();
}

std::filesystem::path freshName(const std::filesystem::path& folder) {
    std::random_device random;
    char name[48];
    std::snprintf(name, sizeof name, "%08x%08x.journal", random(), random());
    return folder / name;
}

Status note(Database& db, const char* key, const std::string& value) {
    Database::Statement s(db, "INSERT OR REPLACE INTO about VALUES(?, ?)");
    return s.bind(std::string(key)).bind(value).finish();
}

std::span<const uint8_t> bytesOf(const std::string& text) {
    return {reinterpret_cast<const uint8_t*>(text.data()), text.size()};
}

// The rasters of `now` that differ from `before` (nothing for null), as rows of the tables.
Status writeTiles(Database& db, int64_t step, const Level& now, const Level* before) {
    const auto grids = before ? gridsOf(*before) : std::map<std::string, const void*>();
    Database::Statement begins(db, "INSERT OR IGNORE INTO begun VALUES(?, ?)"),
        tiles(db, "INSERT OR REPLACE INTO tiles VALUES(?, ?, ?, ?, ?)");
    Status wrong;
    eachRaster(now, [&](const auto& kind, const auto&, uint32_t id, const auto& grid) {
        using Grid = std::remove_cvref_t<decltype(grid)>;
        if (!wrong || grid.columns() == 0) return;
        const std::string name = journalName(kind, id);
        const auto at = grids.find(name);
        const Grid* was = at == grids.end() ? nullptr : static_cast<const Grid*>(at->second);
        const bool goesOn = was && sameShape(*was, grid);
        if (goesOn && grid.sharesAll(*was)) return;
        const auto put = [&](int tx, int tz) {
            if (!wrong) return;
            const auto* samples = grid.tile(tx, tz);
            Bytes bytes;
            tiles.again();
            tiles.bind(name).bind(tx).bind(tz).bind(step);
            if (samples) {
                bytes = packed({reinterpret_cast<const uint8_t*>(samples), sizeof(typename Grid::Tile)});
                tiles.bind(std::span<const uint8_t>(bytes));
            } else tiles.bindNothing();
            wrong = tiles.finish();
        };
        if (goesOn) return grid.eachChangedTile(*was, put);
        // What the same step had there before.
        Database::Statement gone(db, "DELETE FROM tiles WHERE raster = ? AND step = ?");
        wrong = gone.bind(name).bind(step).finish();
        if (!wrong) return;
        begins.again();
        wrong = begins.bind(name).bind(step).finish();
        for (int tz = 0; tz < grid.tilesDown(); ++tz)
            for (int tx = 0; tx < grid.tilesAcross(); ++tx)
                if (grid.tile(tx, tz)) put(tx, tz);
    });
    return wrong;
}

Status writeParts(Database& db, int64_t step, const Level& now, const Level* before) {
    std::map<std::string, const Bytes*> known;
    if (before) eachLent(*before, [&](const std::string& name, const Bytes& bytes) { known[name] = &bytes; });
    Database::Statement parts(db, "INSERT OR REPLACE INTO parts VALUES(?, ?, ?)");
    Status wrong;
    eachLent(now, [&](const std::string& name, const Bytes& bytes) {
        const auto at = known.find(name);
        if (!wrong || (at != known.end() && (at->second == &bytes || *at->second == bytes))) return;
        parts.again();
        wrong = parts.bind(name).bind(step).bind(std::span<const uint8_t>(bytes)).finish();
    });
    return wrong;
}

}  // namespace

std::string noted(Database& db, const char* key) {
    Database::Statement s(db, "SELECT value FROM about WHERE key = ?");
    s.bind(std::string(key));
    return s.next() ? s.text(0) : std::string();
}

Status dropSteps(Database& db, int64_t until) {
    for (const char* table : {"steps", "tiles", "begun", "parts"}) {
        Database::Statement gone(db, (std::string("DELETE FROM ") + table + " WHERE step <= ?").c_str());
        if (const Status s = gone.bind(until).finish(); !s) return s;
    }
    return {};
}

std::filesystem::path journalFolder() {
    if (const char* state = std::getenv("XDG_STATE_HOME"); state && *state == '/')
        return std::filesystem::path(state) / "jamhill";
    const char* home = std::getenv("HOME");
    return std::filesystem::path(home && *home ? home : "/tmp") / ".local" / "state" / "jamhill";
}

Journal::Journal(std::filesystem::path folder, std::filesystem::path file, std::string base, uint64_t serial,
                 const Level& level, Told told)
    : folder_(std::move(folder)), told_(std::move(told)), file_(std::move(file)), base_(std::move(base)),
      written_(level), whole_(base_.empty()), serial_(serial) {
    add({[this] { return text_ = levelText(written_), Status(); }, {}});
    thread_ = std::thread([this] { work(); });
}

Journal::Journal(std::unique_ptr<Database> database, uint64_t serial, const Level& level, Told told)
    : told_(std::move(told)), database_(std::move(database)), written_(level), serial_(serial) {
    add({[this]() -> Status {
             text_ = levelText(written_);
             file_ = noted(*database_, "file"), base_ = noted(*database_, "base");
             Database::Statement last(*database_, "SELECT MAX(step), COUNT(*) FROM steps");
             if (last.next()) step_ = last.whole(0), steps_ = last.whole(1);
             return last.finish();
         },
         {}});
    thread_ = std::thread([this] { work(); });
}

Journal::~Journal() {
    {
        const std::lock_guard lock(mutex_);
        stop_ = true;
    }
    wake_.notify_all();
    thread_.join();
}

void Journal::add(Job job) {
    {
        const std::lock_guard lock(mutex_);
        // What writing cannot keep up with it passes over: a step has all that differs from the last one written. So
        // knobs that are turned, and a slow disk, hold few levels.
        constexpr size_t kMostWaiting = 64;
        if (job.step && !jobs_.empty() && jobs_.back().step &&
            (job.step->inPlace || job.step->serial == jobs_.back().step->serial || jobs_.size() > kMostWaiting)) {
            job.step->inPlace = jobs_.back().step->inPlace;
            jobs_.pop_back();
        }
        jobs_.push_back(std::move(job));
    }
    wake_.notify_all();
}

void Journal::work() {
    std::unique_lock lock(mutex_);
    for (;;) {
        const auto called = [this] { return stop_ || !jobs_.empty(); };
        // When nothing comes for a while, what was written ahead goes into the file.
        if (!database_ || !ahead_) wake_.wait(lock, called);
        else if (!wake_.wait_for(lock, std::chrono::seconds(5), called)) {
            ahead_ = false;
            lock.unlock();
            (void)database_->checkpoint();
            lock.lock();
            continue;
        }
        if (jobs_.empty()) break;
        Job job = std::move(jobs_.front());
        jobs_.pop_front();
        busy_ = true;
        lock.unlock();
        Status done;
        try {
            done = job.step ? write(*job.step) : job.run();
        } catch (const std::bad_alloc&) {
            done = Error{"", "", "there is too little memory", "close other programs"};
        } catch (const std::exception& e) {
            done = Error{"", "", e.what(), "save the level"};
        }
        ahead_ = true;
        job = {};
        if (!done && !failed_ && told_) told_(done.error());
        failed_ = !done;
        lock.lock();
        last_ = done;
        busy_ = false;
        idle_.notify_all();
    }
}

Status Journal::settle() {
    std::unique_lock lock(mutex_);
    idle_.wait(lock, [this] { return jobs_.empty() && !busy_; });
    return last_;
}

void Journal::record(uint64_t serial, const std::string& what, const Level& level, bool inPlace) {
    add({{}, std::make_shared<Step>(Step{serial, what, level, inPlace})});
}

void Journal::saveBegins() {
    add({[this] { return saveStep_ = step_, saveSerial_ = serial_, Status(); }, {}});
}

void Journal::aboutToSave(const std::filesystem::path& file, const std::string& identity) {
    std::promise<void> known;
    std::future<void> waits = known.get_future();
    add({[this, file, identity, &known]() -> Status {
             struct Tell {
                 std::promise<void>& known;
                 ~Tell() { known.set_value(); }
             } tell{known};
             pending_ = identity, pendingFile_ = file.string();
             if (!database_ || ended_) return {};
             Transaction all(*database_);
             for (const Status& s :
                  {all.begun(), note(*database_, "pending", identity), note(*database_, "pendingFile", pendingFile_),
                   note(*database_, "pendingStep", std::to_string(saveStep_)),
                   // Known already, unless noting the save before went wrong.
                   note(*database_, "file", file_.string()), note(*database_, "base", base_)})
                 if (!s) return s;
             return all.keep();
         },
         {}});
    waits.wait();
}

void Journal::saved() {
    add({[this]() -> Status {
             if (ended_) return {};
             whole_ = false;
             file_ = pendingFile_, base_ = pending_;
             if (!database_) return {};  // begun when the next step comes
             Transaction all(*database_);
             if (!all.begun()) return all.begun();
             if (const Status s = dropSteps(*database_, saveStep_); !s) return s;
             for (const Status& s :
                  {note(*database_, "file", pendingFile_), note(*database_, "base", pending_),
                   note(*database_, "pending", ""), note(*database_, "since", std::to_string(milliseconds())),
                   note(*database_, "baseSerial", std::to_string(saveSerial_))})
                 if (!s) return s;
             Database::Statement left(*database_, "SELECT COUNT(*) FROM steps");
             if (left.next()) steps_ = left.whole(0);
             return all.keep();
         },
         {}});
}

void Journal::end() {
    add({[this]() -> Status {
             ended_ = true;
             if (!database_) return {};
             const std::filesystem::path path = database_->path();
             database_.reset();
             std::error_code ignored;
             for (const char* more : {"", "-wal", "-shm", "-journal"})
                 std::filesystem::remove(path.string() + more, ignored);
             return {};
         },
         {}});
}

Status Journal::begin() {
    std::error_code trouble;
    std::filesystem::create_directories(folder_, trouble);
    if (trouble) return diskError(folder_, trouble.value());
    Result<std::unique_ptr<Database>> made = Database::open(freshName(folder_), true);
    if (!made) return made.error();
    std::unique_ptr<Database> db = made.take();
    const auto give = [&](const Status& s) -> Status {
        // Nothing half made is left.
        const std::filesystem::path path = db->path();
        db.reset();
        std::error_code ignored;
        for (const char* more : {"", "-wal", "-journal"}) std::filesystem::remove(path.string() + more, ignored);
        return s;
    };
    Transaction all(*db);
    if (!all.begun()) return give(all.begun());
    for (const Status& s :
         {db->run(kTables), note(*db, "format", "jamhill-journal"), note(*db, "version", "1"),
          note(*db, "name", written_.name), note(*db, "file", file_.string()), note(*db, "base", base_),
          note(*db, "baseSerial", std::to_string(serial_)), note(*db, "since", std::to_string(savedAt(file_)))})
        if (!s) return give(s);
    if (const Status s = all.keep(); !s) return give(s);
    database_ = std::move(db);
    return {};
}

Status Journal::write(const Step& s) {
    if (ended_) return {};
    if (!database_)
        if (const Status begun = begin(); !begun) return begun;
    Database& db = *database_;
    // What lies nowhere else is written whole before the first step, as the step that it began with.
    if (whole_ && steps_ == 0 && s.serial != serial_) {
        const Step start{serial_, "", written_, false};
        whole_ = false;
        const Status done = put(start, true);
        whole_ = !done;
        if (!done) return done;
    }
    const bool first = whole_ && steps_ == 0;
    if (const Status done = put(s, first); !done) return done;
    if (steps_ > kMostJournalSteps) return fold();
    if (step_ % 32 == 0) {
        Database::Statement size(db,
                                 "SELECT (page_count - freelist_count) * page_size FROM pragma_page_count, "
                                 "pragma_freelist_count, pragma_page_size");
        if (size.next() && size.whole(0) > kMostJournalBytes) return fold();
    }
    return {};
}

Status Journal::put(const Step& s, bool whole) {
    Database& db = *database_;
    const bool again = steps_ > 0 && step_ > saveStep_ && (s.inPlace || s.serial == serial_);
    const int64_t step = again ? step_ : step_ + 1;
    const std::string text = levelText(s.level);
    std::string leaks;
    for (const Pool& p : s.level.pools)
        if (p.leaks) leaks += std::to_string(p.id) + " ";
    Transaction all(db);
    if (!all.begun()) return all.begun();
    {
        Database::Statement row(db, again ? "UPDATE steps SET serial = ?2, what = ?3, time = ?4, leaks = ?5, text = "
                                            "COALESCE(?6, text) WHERE step = ?1"
                                          : "INSERT INTO steps VALUES(?, ?, ?, ?, ?, ?)");
        row.bind(step).bind(static_cast<int64_t>(s.serial)).bind(s.what).bind(milliseconds()).bind(leaks);
        Bytes small;
        if (whole || text != text_) {
            small = packed(bytesOf(text));
            row.bind(std::span<const uint8_t>(small));
        } else row.bindNothing();
        if (const Status done = row.finish(); !done) return done;
    }
    const Level* before = whole ? nullptr : &written_;
    if (const Status done = writeTiles(db, step, s.level, before); !done) return done;
    if (const Status done = writeParts(db, step, s.level, before); !done) return done;
    if (const Status done = note(db, "name", s.level.name); !done) return done;
    if (const Status done = all.keep(); !done) return done;
    written_ = s.level;
    text_ = text;
    serial_ = s.serial;
    steps_ += again ? 0 : 1;
    step_ = step;
    return {};
}

// Makes one step of the older half of them, which has what they came to.
Status Journal::fold() {
    int64_t until = 0;
    {
        Database::Statement middle(*database_, "SELECT step FROM steps ORDER BY step LIMIT 1 OFFSET ?");
        middle.bind(steps_ / 2);
        if (!middle.next()) return middle.finish();
        until = middle.whole(0);
    }
    Transaction all(*database_);
    if (!all.begun()) return all.begun();
    for (const char* sql :
         {// What lay in a raster before it began anew.
          "DELETE FROM tiles WHERE step < ?1 AND EXISTS(SELECT 1 FROM begun b WHERE b.raster = tiles.raster AND "
          "b.step > tiles.step AND b.step <= ?1)",
          "DELETE FROM tiles WHERE step < ?1 AND EXISTS(SELECT 1 FROM tiles t WHERE t.raster = tiles.raster AND t.tx "
          "= tiles.tx AND t.tz = tiles.tz AND t.step > tiles.step AND t.step <= ?1)",
          "DELETE FROM begun WHERE step < ?1 AND EXISTS(SELECT 1 FROM begun b WHERE b.raster = begun.raster AND "
          "b.step > begun.step AND b.step <= ?1)",
          "DELETE FROM parts WHERE step < ?1 AND EXISTS(SELECT 1 FROM parts p WHERE p.name = parts.name AND p.step > "
          "parts.step AND p.step <= ?1)",
          "UPDATE steps SET text = (SELECT s.text FROM steps s WHERE s.step <= ?1 AND s.text IS NOT NULL ORDER BY "
          "s.step DESC LIMIT 1) WHERE step = ?1 AND text IS NULL",
          "UPDATE tiles SET step = ?1 WHERE step < ?1", "UPDATE begun SET step = ?1 WHERE step < ?1",
          "UPDATE parts SET step = ?1 WHERE step < ?1", "DELETE FROM steps WHERE step < ?1"}) {
        Database::Statement s(*database_, sql);
        if (const Status done = s.bind(until).finish(); !done) return done;
    }
    Database::Statement left(*database_, "SELECT COUNT(*) FROM steps");
    if (left.next()) steps_ = left.whole(0);
    return all.keep();
}

}  // namespace jam
