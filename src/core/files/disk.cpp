#include "files/disk.h"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>
#include <cerrno>
#include <cstring>
#include <memory>

#include "base/text.h"

namespace jam {

namespace fs = std::filesystem;

namespace {

struct Descriptor {
    int fd;
    ~Descriptor() {
        if (fd >= 0) ::close(fd);
    }
};

}  // namespace

Error diskError(const fs::path& path, int number) {
    const std::string file = path.string();
    switch (number) {
        case ENOENT: return {file, "", "it does not exist, or its folder is gone", "check the name and the folder"};
        case EACCES:
        case EPERM: return {file, "", "there is no permission", "choose another folder or change its permissions"};
        case EROFS: return {file, "", "the folder is read-only", "choose another folder"};
        case ENOSPC:
        case EDQUOT: return {file, "", "the disk is full", "free some space or choose another disk"};
        case EISDIR: return {file, "", "it is a folder", "name a file"};
        case ENOTDIR: return {file, "", "a part of its path is not a folder", "check the path"};
        case ENAMETOOLONG: return {file, "", "the name is too long", "choose a shorter name"};
        default: return {file, "", std::strerror(number), "check the disk, or choose another folder"};
    }
}

namespace {

// Opens an ordinary file and tells its size.
Result<uint64_t> openForReading(const fs::path& path, Descriptor& d) {
    d.fd = ::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK);
    struct stat info {};
    if (d.fd < 0 || ::fstat(d.fd, &info) != 0) return diskError(path, errno);
    if (S_ISDIR(info.st_mode)) return diskError(path, EISDIR);
    if (!S_ISREG(info.st_mode)) return Error{path.string(), "", "it is not an ordinary file", "name an ordinary file"};
    return static_cast<uint64_t>(info.st_size);
}

}  // namespace

Status checkReadable(const fs::path& path) {
    Descriptor d{-1};
    if (const Result<uint64_t> size = openForReading(path, d); !size) return size.error();
    return {};
}

Result<Bytes> readFile(const fs::path& path, uint64_t most) {
    Descriptor d{-1};
    const Result<uint64_t> opened = openForReading(path, d);
    if (!opened) return opened.error();
    const uint64_t size = opened.value();
    if (size > most)
        return Error{path.string(), "",
                     "it is " + number(static_cast<double>(size) / 1e6) + " MB, more than " +
                         number(static_cast<double>(most) / 1e6) + " MB",
                     "choose a smaller file"};
    Bytes bytes(size);
    size_t done = 0;
    while (done < bytes.size()) {
        const ssize_t n = ::read(d.fd, bytes.data() + done, bytes.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n < 0) return diskError(path, errno);
        if (n == 0) return Error{path.string(), "", "it became shorter while it was read", "try again"};
        done += static_cast<size_t>(n);
    }
    return bytes;
}

AtomicFile::AtomicFile(fs::path goal) : goal_(std::move(goal)) {
    // Links are followed, so that saving to a linked file keeps the link.
    std::error_code none;
    if (fs::is_symlink(goal_, none)) {
        const fs::path real = fs::canonical(goal_, none);
        if (!none) goal_ = real;
    }
    part_ = goal_;
    part_ += ".part-" + std::to_string(::getpid());
}

AtomicFile::AtomicFile(AtomicFile&& other) noexcept
    : goal_(std::move(other.goal_)), part_(std::move(other.part_)), pending_(std::exchange(other.pending_, false)),
      begun_(other.begun_) {}

AtomicFile::~AtomicFile() {
    if (pending_) ::unlink(part_.c_str());
}

namespace {

Status writeTo(const fs::path& part, const fs::path& goal, int how, const uint8_t* bytes, size_t size) {
    const Descriptor d{::open(part.c_str(), O_WRONLY | O_CREAT | O_CLOEXEC | how, 0644)};
    if (d.fd < 0) return diskError(goal, errno);
    size_t done = 0;
    while (done < size) {
        const ssize_t n = ::write(d.fd, bytes + done, size - done);
        if (n < 0 && errno == EINTR) continue;
        if (n < 0) return diskError(goal, errno);
        done += static_cast<size_t>(n);
    }
    return {};
}

}  // namespace

Status AtomicFile::write(const Bytes& bytes) {
    begun_ = true;
    return writeTo(part_, goal_, O_TRUNC, bytes.data(), bytes.size());
}

Status AtomicFile::append(const uint8_t* bytes, size_t n) {
    return writeTo(part_, goal_, std::exchange(begun_, true) ? O_APPEND : O_TRUNC, bytes, n);
}

Status AtomicFile::sync() {
    const Descriptor d{::open(part_.c_str(), O_RDONLY | O_CLOEXEC)};
    if (d.fd < 0 || ::fsync(d.fd) != 0) return diskError(goal_, errno);
    return {};
}

Status AtomicFile::commit() {
    if (Status s = sync(); !s) return s;
    if (::rename(part_.c_str(), goal_.c_str()) != 0) return diskError(goal_, errno);
    pending_ = false;
    const fs::path folder = goal_.has_parent_path() ? goal_.parent_path() : fs::path(".");
    const Descriptor d{::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC)};
    if (d.fd >= 0) ::fsync(d.fd);  // best effort: the rename itself is already whole
    return {};
}

}  // namespace jam
