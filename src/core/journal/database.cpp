#include "journal/database.h"

#include <sqlite3.h>

namespace jam {

Error Database::trouble(int code) const {
    switch (code & 0xff) {
        case SQLITE_BUSY:
        case SQLITE_LOCKED: return {path_.string(), kInUse, "another Jam Hill writes to it", "end that one first"};
        case SQLITE_FULL: return {path_.string(), "", "the disk is full", "make room on it"};
        case SQLITE_READONLY:
        case SQLITE_PERM:
        case SQLITE_AUTH: return {path_.string(), "", "it may not be written", "allow writing to its folder"};
        case SQLITE_CANTOPEN: return {path_.string(), "", "it cannot be opened", "look whether its folder is there"};
        case SQLITE_NOTADB:
        case SQLITE_CORRUPT: return {path_.string(), "", "it is damaged, or no journal", "throw it away"};
        case SQLITE_IOERR: return {path_.string(), "", "the disk failed", "look after the disk"};
        default: return {path_.string(), "", sqlite3_errstr(code), "throw it away if that happens again"};
    }
}

Database::~Database() { sqlite3_close(db_); }

Result<std::unique_ptr<Database>> Database::open(const std::filesystem::path& path, bool create) {
    sqlite3* db = nullptr;
    const int code = sqlite3_open_v2(
        path.c_str(), &db, SQLITE_OPEN_READWRITE | SQLITE_OPEN_NOMUTEX | (create ? SQLITE_OPEN_CREATE : 0), nullptr);
    std::unique_ptr<Database> out(new Database(db, path));
    if (code != SQLITE_OK) return out->trouble(code);
    sqlite3_extended_result_codes(db, 1);
    sqlite3_limit(db, SQLITE_LIMIT_LENGTH, 512 << 20);
    // Nobody else reads it meanwhile, so that no memory is shared with other processes; every step reaches the disk
    // before the next; and what was written ahead is brought home when nothing waits (checkpoint()).
    if (const Status s = out->run("PRAGMA locking_mode=EXCLUSIVE; PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL;"
                                  "PRAGMA wal_autocheckpoint=0; BEGIN EXCLUSIVE; COMMIT;");
        !s)
        return s.error();
    return out;
}

Status Database::run(const char* sql) {
    const int code = sqlite3_exec(db_, sql, nullptr, nullptr, nullptr);
    if (code != SQLITE_OK) return trouble(code);
    return {};
}

Status Database::checkpoint() {
    const int code = sqlite3_wal_checkpoint_v2(db_, nullptr, SQLITE_CHECKPOINT_TRUNCATE, nullptr, nullptr);
    if (code != SQLITE_OK) return trouble(code);
    return {};
}

Database::Statement::Statement(Database& database, const char* sql) : database_(database) {
    code_ = sqlite3_prepare_v2(database.db_, sql, -1, &statement_, nullptr);
}
Database::Statement::~Statement() { sqlite3_finalize(statement_); }

Database::Statement& Database::Statement::bind(int64_t value) {
    if (statement_) sqlite3_bind_int64(statement_, ++bound_, value);
    return *this;
}
Database::Statement& Database::Statement::bind(const std::string& text) {
    if (statement_)
        sqlite3_bind_text(statement_, ++bound_, text.data(), static_cast<int>(text.size()), SQLITE_TRANSIENT);
    return *this;
}
Database::Statement& Database::Statement::bind(std::span<const uint8_t> bytes) {
    if (statement_)
        sqlite3_bind_blob64(statement_, ++bound_, bytes.data(), static_cast<sqlite3_uint64>(bytes.size()),
                            SQLITE_STATIC);
    return *this;
}
Database::Statement& Database::Statement::bindNothing() {
    if (statement_) sqlite3_bind_null(statement_, ++bound_);
    return *this;
}

bool Database::Statement::next() {
    if (!statement_) return false;
    code_ = sqlite3_step(statement_);
    return code_ == SQLITE_ROW;
}
Status Database::Statement::finish() {
    while (next()) continue;
    if (!statement_ || code_ != SQLITE_DONE) return database_.trouble(code_);
    return {};
}
void Database::Statement::again() {
    bound_ = 0;
    if (statement_) sqlite3_reset(statement_), sqlite3_clear_bindings(statement_);
}

int64_t Database::Statement::whole(int column) const { return sqlite3_column_int64(statement_, column); }
std::string Database::Statement::text(int column) const {
    const auto* text = reinterpret_cast<const char*>(sqlite3_column_text(statement_, column));
    return text ? std::string(text, static_cast<size_t>(sqlite3_column_bytes(statement_, column))) : std::string();
}
std::vector<uint8_t> Database::Statement::bytes(int column) const {
    const auto* blob = static_cast<const uint8_t*>(sqlite3_column_blob(statement_, column));
    const auto n = static_cast<size_t>(sqlite3_column_bytes(statement_, column));
    return blob ? std::vector<uint8_t>(blob, blob + n) : std::vector<uint8_t>();
}
bool Database::Statement::nothing(int column) const { return sqlite3_column_type(statement_, column) == SQLITE_NULL; }

}  // namespace jam
