#include "journal/recover.h"

#include <algorithm>
#include <map>
#include <set>
#include <sstream>

#include "files/archive.h"
#include "files/level_file.h"
#include "files/level_text.h"
#include "journal/tile_pack.h"
#include "level/rasters.h"
#include "survey/check.h"

namespace jam {

namespace {

using Statement = Database::Statement;

Error damaged(const Database& db) {
    return {db.path().string(), "", "the journal is damaged", "keep it for later, or throw it away"};
}

// Pictures and shapes: of the step, of steps before it, or of the level that they go on from.
class JournalParts : public PartSource {
public:
    JournalParts(Database& db, int64_t step, const Level& before) : db_(db), step_(step), before_(before) {}
    Result<Bytes> read(const std::string& name, uint64_t most) const override {
        Statement s(db_, "SELECT bytes FROM parts WHERE name = ? AND step <= ? ORDER BY step DESC LIMIT 1");
        s.bind(name).bind(step_);
        if (s.next()) {
            Bytes bytes = s.bytes(0);
            if (bytes.size() > most) return damaged(db_);
            return bytes;
        }
        const Bytes* lent = nullptr;
        eachLent(before_, [&](const std::string& other, const Bytes& bytes) {
            if (other == name) lent = &bytes;
        });
        if (!lent) return damaged(db_);
        return *lent;
    }
    std::string file() const override { return db_.path().string(); }

private:
    Database& db_;
    int64_t step_;
    const Level& before_;
};

// Shares what a level before has of rasters that go on.
void goOn(Level& level, const Level& before, const std::set<std::string>& begun) {
    const auto grids = gridsOf(before);
    eachRaster(level, [&](const auto& kind, const auto&, uint32_t id, auto& grid) {
        using Grid = std::remove_cvref_t<decltype(grid)>;
        const std::string name = journalName(kind, id);
        const auto at = grids.find(name);
        if (at == grids.end() || begun.contains(name) || grid.columns() == 0) return;
        const Grid& was = *static_cast<const Grid*>(at->second);
        if (sameShape(was, grid)) grid = was;
    });
}

Status readTiles(Database& db, int64_t step, Level& level) {
    Status wrong;
    eachRaster(level, [&](const auto& kind, const auto&, uint32_t id, auto& grid) {
        using Grid = std::remove_cvref_t<decltype(grid)>;
        using Tile = typename Grid::Tile;
        if (!wrong || grid.columns() == 0) return;
        Statement rows(db, "SELECT tx, tz, samples FROM tiles WHERE step = ? AND raster = ?");
        rows.bind(step).bind(journalName(kind, id));
        while (rows.next()) {
            const int64_t tx = rows.whole(0), tz = rows.whole(1);
            if (tx < 0 || tz < 0 || tx >= grid.tilesAcross() || tz >= grid.tilesDown()) {
                wrong = damaged(db);
                return;
            }
            const int x = static_cast<int>(tx), z = static_cast<int>(tz);
            if (rows.nothing(2)) {
                grid.clearTile(x, z);
                continue;
            }
            const Result<Bytes> bytes = unpacked(rows.bytes(2), sizeof(Tile));
            if (!bytes) {
                wrong = damaged(db);
                return;
            }
            Tile tile;
            std::memcpy(tile.data(), bytes.value().data(), sizeof(Tile));
            // Beyond the raster's edge nothing but the default lies.
            const Region there = grid.tileRegion(x, z);
            for (int r = 0; r < Grid::kTile; ++r)
                for (int c = 0; c < Grid::kTile; ++c)
                    if (r >= there.depth() || c >= there.width())
                        tile[static_cast<size_t>(r * Grid::kTile + c)] = grid.defaultValue();
            std::copy(tile.begin(), tile.end(), grid.writableTile(x, z));
        }
        wrong = rows.finish();
    });
    return wrong;
}

std::set<std::string> begunIn(Database& db, int64_t step) {
    std::set<std::string> all;
    Statement s(db, "SELECT raster FROM begun WHERE step = ?");
    s.bind(step);
    while (s.next()) all.insert(s.text(0));
    return all;
}

void noteLeaks(Level& level, const std::string& leaks) {
    std::istringstream ids(leaks);
    std::set<uint32_t> all;
    for (uint32_t id; ids >> id;) all.insert(id);
    for (Pool& p : level.pools) p.leaks = all.contains(p.id);
}

// One step on top of the level before it.
Result<Level> stepOn(Database& db, int64_t step, const std::string& text, const std::string& leaks,
                     const Level& before) {
    Level level = before;
    if (!text.empty()) {
        Result<DescribedLevel> described = levelFromText(text, JournalParts(db, step, before));
        if (!described) return described.error();
        level = std::move(described.value().level);
        goOn(level, before, begunIn(db, step));
    }
    noteLeaks(level, leaks);
    if (const Status s = readTiles(db, step, level); !s) return s.error();
    return level;
}

// Gives the steps the serials that they have in the history that they became, so that the journal can go on with it;
// and what a save that was cut short has of them goes, as that save would have seen to: the journal goes on from its
// file.
Status settle(Database& db, const std::map<uint64_t, uint64_t>& serials, const std::filesystem::path& file,
              int64_t after) {
    Database::Transaction all(db);
    if (!all.begun()) return all.begun();
    Status done = db.run("UPDATE steps SET serial = -serial");
    for (const auto& [was, is] : serials) {
        Statement s(db, "UPDATE steps SET serial = ? WHERE serial = ?");
        if (done) done = s.bind(static_cast<int64_t>(is)).bind(-static_cast<int64_t>(was)).finish();
    }
    if (after > 0) {
        Statement base(db,
                       "UPDATE about SET value = (SELECT value FROM about WHERE key = 'pending') WHERE key = 'base'"),
            lies(db, "UPDATE about SET value = ? WHERE key = 'file'");
        if (done) done = base.finish();
        if (done) done = lies.bind(file.string()).finish();
        if (done) done = db.run("UPDATE about SET value = '' WHERE key = 'pending'");
        if (done) done = dropSteps(db, after);
    }
    return done ? all.keep() : done;
}

}  // namespace

std::vector<KeptWork> keptWork(const std::filesystem::path& folder) {
    std::vector<KeptWork> all;
    std::error_code none;
    for (const auto& entry : std::filesystem::directory_iterator(folder, none)) {
        if (entry.path().extension() != ".journal") continue;
        Result<std::unique_ptr<Database>> db = Database::open(entry.path(), false);
        if (!db) continue;
        KeptWork work;
        work.journal = entry.path();
        work.name = noted(*db.value(), "name");
        work.file = noted(*db.value(), "file");
        work.since = std::atoll(noted(*db.value(), "since").c_str());
        {
            Statement last(*db.value(),
                           "SELECT time, what, (SELECT COUNT(*) FROM steps WHERE what <> '') FROM steps ORDER BY step "
                           "DESC LIMIT 1");
            if (last.next())
                work.last = last.whole(0), work.what = last.text(1), work.steps = static_cast<int>(last.whole(2));
            // What cannot be read is not the same as nothing.
            if (!last.finish()) continue;
        }
        // A save that was cut short after its file was there had all of it.
        const std::string pending = noted(*db.value(), "pending");
        if (work.steps > 0 && !pending.empty()) {
            const Result<std::string> lies = fileIdentity(noted(*db.value(), "pendingFile"));
            Statement after(*db.value(), "SELECT COUNT(*) FROM steps WHERE step > ?");
            after.bind(std::atoll(noted(*db.value(), "pendingStep").c_str()));
            if (lies && lies.value() == pending && after.next()) work.steps = static_cast<int>(after.whole(0));
        }
        const bool known = noted(*db.value(), "format") == "jamhill-journal";
        db = Error{};
        if (!known) continue;
        if (work.steps == 0) (void)throwAway(work.journal);
        else all.push_back(std::move(work));
    }
    std::sort(all.begin(), all.end(), [](const KeptWork& a, const KeptWork& b) { return a.last > b.last; });
    return all;
}

Result<TakenUp> takeUpWork(const std::filesystem::path& journal, const Context& context) {
    Result<std::unique_ptr<Database>> opened = Database::open(journal, false);
    if (!opened) return opened.error();
    std::unique_ptr<Database> db = opened.take();
    if (noted(*db, "format") != "jamhill-journal") return damaged(*db);
    if (noted(*db, "version") != "1")
        return Error{journal.string(), "", "a newer Jam Hill wrote it", "take it up with that one"};
    std::filesystem::path file = noted(*db, "file");
    int64_t after = 0;
    Level level;
    std::optional<History> history;
    uint64_t saved = 0;
    std::map<uint64_t, uint64_t> serials;  // those of the journal, in this history
    if (const std::string base = noted(*db, "base"), pending = noted(*db, "pending");
        !base.empty() || !pending.empty()) {
        if (!base.empty() && file.empty()) return damaged(*db);
        // Where a save was under way, its file may be the one that lies there.
        const std::filesystem::path pendingFile = noted(*db, "pendingFile");
        const Result<std::string> now = file.empty() ? Error{} : fileIdentity(file),
                                  then = pending.empty() ? Error{} : fileIdentity(pendingFile);
        if (then && then.value() == pending) {
            file = pendingFile;
            after = std::atoll(noted(*db, "pendingStep").c_str());
        } else if (!base.empty() && !now) return now.error();
        else if (!base.empty() && now.value() != base)
            return Error{file.string(), "",
                         "it is not the file any more that this work went on from, so the two do not fit together",
                         "put the file back as it was, or keep the work for later"};
        if (after > 0 || !base.empty()) {
            Result<Level> lies = loadLevel(file, context);
            if (!lies) return lies.error();
            level = lies.take();
            history.emplace(level, "Saved");
            saved = history->serial();
            if (after == 0) serials[std::strtoull(noted(*db, "baseSerial").c_str(), nullptr, 10)] = history->serial();
        }
    }
    Statement steps(*db, "SELECT step, serial, what, leaks, text FROM steps WHERE step > ? ORDER BY step");
    steps.bind(after);
    bool any = false;
    while (steps.next()) {
        if (context.cancelled()) return cancelledError();
        const auto serial = static_cast<uint64_t>(steps.whole(1));
        std::string text;
        if (!steps.nothing(4)) {
            Result<std::string> plain = unpackedText(steps.bytes(4), kMostLevelText);
            if (!plain) return damaged(*db);
            text = plain.take();
        } else if (!history && !any) return damaged(*db);
        Result<Level> next = stepOn(*db, steps.whole(0), text, steps.text(3), level);
        if (!next) return next.error();
        level = next.take();
        if (const Status names = checkNames(level); !names) return names.error();
        const auto known = serials.find(serial);
        size_t place = 0;
        bool there = false;
        if (history && known != serials.end())
            for (size_t i = 0; i < history->entries().size(); ++i)
                if (history->entries()[i].serial == known->second) place = i, there = true;
        if (!history) history.emplace(level, steps.text(2).empty() ? "Start" : steps.text(2));
        else if (there) {
            history->stepTo(place);
            history->complete(level);
        } else history->push(level, steps.text(2));
        serials[serial] = history->serial();
        any = true;
    }
    if (const Status s = steps.finish(); !s) return s.error();
    if (!history || !any) return Error{journal.string(), "", "it holds no step", "throw it away"};
    for (const std::string& wrong : checkLevel(level))
        return Error{journal.string(), "", "what comes of it is no sound level: " + wrong,
                     "open the last save instead"};
    if (const Status s = settle(*db, serials, file, after); !s) return s.error();
    context.report(1);
    return TakenUp{std::move(*history), std::move(file), saved, std::move(db)};
}

Status throwAway(const std::filesystem::path& journal) {
    {
        const Result<std::unique_ptr<Database>> db = Database::open(journal, false);
        if (!db && db.error().field == Database::kInUse) return db.error();
    }
    std::error_code trouble;
    for (const char* more : {"-wal", "-shm", "-journal", ""}) std::filesystem::remove(journal.string() + more, trouble);
    if (trouble) return diskError(journal, trouble.value());
    return {};
}

}  // namespace jam
