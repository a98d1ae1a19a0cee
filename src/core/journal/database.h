// A thin hand on SQLite: statements that bind and step, errors in words.
#pragma once

#include <cstdint>
#include <filesystem>
#include <memory>
#include <span>
#include <string>
#include <vector>

#include "base/result.h"

struct sqlite3;
struct sqlite3_stmt;

namespace jam {

class Database {
public:
    Database(const Database&) = delete;
    Database& operator=(const Database&) = delete;
    ~Database();

    // Opens it, or makes it when `create`, and holds it against every other process. Errors: what the disk says; no
    // database; another process holds it (`inUse` in the field).
    static Result<std::unique_ptr<Database>> open(const std::filesystem::path& path, bool create);
    static constexpr const char* kInUse = "in use";

    // Statements without results, one or several. Errors: what went wrong.
    Status run(const char* sql);
    // Moves what was written ahead into the file itself, and gives its room back.
    Status checkpoint();
    const std::filesystem::path& path() const { return path_; }

    // One statement: values in the order of its question marks, then rows.
    class Statement {
    public:
        Statement(Database& database, const char* sql);
        ~Statement();
        Statement(const Statement&) = delete;
        Statement& operator=(const Statement&) = delete;

        Statement& bind(int64_t value);
        Statement& bind(const std::string& text);
        Statement& bind(std::span<const uint8_t> bytes);  // lent until the statement ends
        Statement& bindNothing();
        // The next row; false at the end, or when it failed.
        bool next();
        // Runs to its end. Errors: what went wrong.
        Status finish();
        // Ready for other values.
        void again();

        int64_t whole(int column) const;
        std::string text(int column) const;
        std::vector<uint8_t> bytes(int column) const;
        bool nothing(int column) const;

    private:
        Database& database_;
        sqlite3_stmt* statement_ = nullptr;
        int bound_ = 0, code_ = 0;
    };

    // Begins a transaction; it comes to nothing unless it is kept.
    class Transaction {
    public:
        explicit Transaction(Database& database) : database_(database), begun_(database.run("BEGIN IMMEDIATE")) {}
        ~Transaction() {
            if (begun_ && !kept_) (void)database_.run("ROLLBACK");
        }
        Transaction(const Transaction&) = delete;
        Transaction& operator=(const Transaction&) = delete;

        const Status& begun() const { return begun_; }
        Status keep() {
            const Status s = database_.run("COMMIT");
            kept_ = static_cast<bool>(s);
            return s;
        }

    private:
        Database& database_;
        Status begun_;
        bool kept_ = false;
    };

private:
    Database(sqlite3* db, std::filesystem::path path) : db_(db), path_(std::move(path)) {}
    Error trouble(int code) const;

    sqlite3* db_;
    std::filesystem::path path_;
};

}  // namespace jam
