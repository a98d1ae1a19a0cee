// What was done, as a list of levels that share their tiles. Undo of anything is stepping to another one.
#pragma once

#include <cstddef>
#include <deque>
#include <string>

#include "level/level.h"

namespace jam {

// Invariants:
// 1. There is always at least one entry, and now() is one of them.
// 2. The bytes that entries hold beside their neighbours stay within the budget, except that the entry in use
//    and the one before it are always kept, so that one step back is always possible.
class History {
public:
    struct Entry {
        std::string what;  // "Raise", "Open damson-down.jamhill"
        Level level;
        size_t bytes = 0;     // not shared with the entry before
        uint64_t serial = 0;  // never given twice, by no history: what was begun on another level is told apart
    };

    explicit History(Level start, std::string what, size_t byteBudget = size_t{1} << 30);

    const Level& now() const { return entries_[place_].level; }
    const std::deque<Entry>& entries() const { return entries_; }
    size_t place() const { return place_; }
    size_t bytes() const;

    // Adds a level after the present one; what had been undone is gone.
    void push(Level level, std::string what);
    // Puts another level in place of the present one; what had been undone is gone. For edits that go on, such as
    // turning the sun. Precondition: canUndo().
    void replaceNow(Level level);
    // Puts what followed the present step into it; the steps after it stay.
    void complete(Level level);
    uint64_t serial() const { return entries_[place_].serial; }
    // Another number whenever now() may be another level.
    uint64_t revision() const { return revision_; }
    bool canUndo() const { return place_ > 0; }
    bool canRedo() const { return place_ + 1 < entries_.size(); }
    void undo() {
        if (canUndo()) --place_, ++revision_;
    }
    void redo() {
        if (canRedo()) ++place_, ++revision_;
    }
    // Precondition: place < entries().size().
    void stepTo(size_t place);

private:
    std::deque<Entry> entries_;
    size_t place_ = 0;
    uint64_t revision_ = 0;
    size_t budget_;
};

}  // namespace jam
