// Faults of the system, at the call that a test asks for: a disk that is full, a file system that does not sync or
// rename, no memory. Linked into a test program, which then calls these instead of the C library's.
#pragma once

namespace jam::test {

enum class Fails {
    write,   // a write to an ordinary file: the disk is full
    sync,    // an fsync: it cannot be written
    rename,  // a rename: no permission
    memory   // an allocation of at least kLargeMemory bytes
};
constexpr unsigned long kLargeMemory = 4096;

// While it lives, call number `at` of that kind fails, counted over all threads from 1; with `onwards`, all after it as
// well, as on a disk that stays full.
class Failing {
public:
    Failing(Fails what, int at, bool onwards);
    ~Failing();
    Failing(const Failing&) = delete;
    // Whether it came to that.
    bool struck() const;
};

}  // namespace jam::test
