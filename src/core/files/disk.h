// Reading and writing whole files so that nothing is ever half there.
#pragma once

#include <cstdint>
#include <filesystem>
#include <string>
#include <vector>

#include "base/result.h"

namespace jam {

using Bytes = std::vector<uint8_t>;

// Errors: missing, unreadable, a folder, or larger than `most` bytes.
Result<Bytes> readFile(const std::filesystem::path& path, uint64_t most);

// Whether `path` is an ordinary file that can be opened for reading; the same errors as readFile(), but nothing is
// read.
Status checkReadable(const std::filesystem::path& path);

// A file that is written beside its goal and renamed over it when complete. Until commit() succeeds the goal
// stays as it was; the part-written file goes away with this object.
class AtomicFile {
public:
    explicit AtomicFile(std::filesystem::path goal);
    ~AtomicFile();
    AtomicFile(AtomicFile&& other) noexcept;
    AtomicFile& operator=(AtomicFile&&) = delete;

    // Where to write meanwhile.
    const std::filesystem::path& path() const { return part_; }
    const std::filesystem::path& goal() const { return goal_; }
    // Errors of write and commit: no permission, no space, folder gone; each says what to do.
    Status write(const Bytes& bytes);
    // Adds to what was written before.
    Status append(const uint8_t* bytes, size_t n);
    // Forces the bytes to the disk.
    Status sync();
    // The same, then renames.
    Status commit();

private:
    std::filesystem::path goal_, part_;
    bool pending_ = true;
    bool begun_ = false;  // what lay at part_ before, such as a killed run's, is gone
};

// A sentence for the error number of a failed system call on `path`.
Error diskError(const std::filesystem::path& path, int number);

}  // namespace jam
