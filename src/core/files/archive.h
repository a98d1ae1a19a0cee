// The ZIP archive that a level file is, part by part.
#pragma once

#include <filesystem>
#include <memory>
#include <string>
#include <vector>

#include "base/result.h"
#include "files/disk.h"

struct zip;

namespace jam {

struct ArchivePart {
    std::string name;
    Bytes bytes;
    const Bytes* lent = nullptr;  // the level's own, in place of `bytes`
    const Bytes& content() const { return lent ? *lent : bytes; }
};

// Writes parts into a file that is not in its place yet, JSON deflated and the rest, which is packed already, as it is.
// The same parts give the same bytes. Errors: what the disk says.
Status writeArchive(const std::vector<ArchivePart>& parts, const AtomicFile& file);

// Reads back what was written, which is not in its place yet: every part is there, has its size, and comes out with its
// check sum. Errors: `goal` and the part that does not.
Status checkWritten(const std::vector<ArchivePart>& parts, const AtomicFile& file);

// What lies in an archive, as one number in letters: two of the same parts in the same order have the same. Reads the
// list of parts alone, with their check sums. Errors: as Archive::open().
Result<std::string> fileIdentity(const std::filesystem::path& path);

class Archive {
public:
    Archive(const Archive&) = delete;
    Archive& operator=(const Archive&) = delete;
    ~Archive();

    // Errors: it cannot be read, is no archive, or is damaged.
    static Result<std::unique_ptr<Archive>> open(const std::filesystem::path& path);

    // A part of at most so many bytes, by its name. Errors: it is missing, larger, or damaged.
    Result<Bytes> read(const std::string& name, uint64_t most) const;
    // Whether a part has this size and comes out with its check sum.
    bool sound(const std::string& name, size_t size) const;
    const std::string& file() const { return file_; }

private:
    Archive(zip* archive, std::string file) : zip_(archive), file_(std::move(file)) {}
    zip* zip_;
    std::string file_;
};

}  // namespace jam
