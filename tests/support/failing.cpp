#include "failing.h"

#include <dlfcn.h>
#include <sys/stat.h>
#include <unistd.h>
#include <atomic>
#include <cerrno>
#include <cstdio>
#include <cstdlib>
#include <new>

namespace jam::test {

namespace {

std::atomic<int> kind{-1}, left{0};
std::atomic<bool> goesOn{false}, hit{false};

bool strikes(Fails what) {
    if (kind != static_cast<int>(what)) return false;
    const int now = --left;
    if (now > 0 || (now < 0 && !goesOn)) return false;
    hit = true;
    return true;
}

bool ordinary(int fd) {
    struct stat info {};
    return kind >= 0 && ::fstat(fd, &info) == 0 && S_ISREG(info.st_mode);
}

template <class F>
F real(F, const char* name) {
    return reinterpret_cast<F>(::dlsym(RTLD_NEXT, name));
}

}  // namespace

Failing::Failing(Fails what, int at, bool onwards) {
    left = at, goesOn = onwards, hit = false;
    kind = static_cast<int>(what);
}
Failing::~Failing() { kind = -1; }
bool Failing::struck() const { return hit; }

}  // namespace jam::test

using jam::test::Fails;
using jam::test::ordinary;
using jam::test::real;
using jam::test::strikes;

extern "C" {

ssize_t write(int fd, const void* from, size_t n) {
    static const auto next = real(&::write, "write");
    if (ordinary(fd) && strikes(Fails::write)) return errno = ENOSPC, -1;
    return next(fd, from, n);
}
ssize_t pwrite64(int fd, const void* from, size_t n, off64_t at) {
    static const auto next = real(&::pwrite64, "pwrite64");
    if (ordinary(fd) && strikes(Fails::write)) return errno = ENOSPC, -1;
    return next(fd, from, n, at);
}
size_t fwrite(const void* from, size_t size, size_t n, FILE* file) {
    static const auto next = real(&::fwrite, "fwrite");
    if (file != stdout && file != stderr && ordinary(::fileno(file)) && strikes(Fails::write)) return errno = ENOSPC, 0;
    return next(from, size, n, file);
}
int fsync(int fd) {
    static const auto next = real(&::fsync, "fsync");
    if (ordinary(fd) && strikes(Fails::sync)) return errno = EIO, -1;
    return next(fd);
}
int fdatasync(int fd) {
    static const auto next = real(&::fdatasync, "fdatasync");
    if (ordinary(fd) && strikes(Fails::sync)) return errno = EIO, -1;
    return next(fd);
}
int rename(const char* from, const char* to) noexcept {
    static const auto next = real(&::rename, "rename");
    if (strikes(Fails::rename)) return errno = EACCES, -1;
    return next(from, to);
}

}  // extern "C"

// Sanitizers bring their own memory.
#if !defined(__SANITIZE_ADDRESS__) && !defined(__SANITIZE_THREAD__)

extern "C" void* __libc_malloc(size_t);  // NOLINT
extern "C" void* __libc_calloc(size_t, size_t);
extern "C" void* __libc_realloc(void*, size_t);

extern "C" {

void* malloc(size_t n) {
    if (n >= jam::test::kLargeMemory && strikes(Fails::memory)) return errno = ENOMEM, nullptr;
    return __libc_malloc(n);
}
void* calloc(size_t n, size_t each) {
    if (n * each >= jam::test::kLargeMemory && strikes(Fails::memory)) return errno = ENOMEM, nullptr;
    return __libc_calloc(n, each);
}
void* realloc(void* old, size_t n) {
    if (n >= jam::test::kLargeMemory && strikes(Fails::memory)) return errno = ENOMEM, nullptr;
    return __libc_realloc(old, n);
}

}  // extern "C"

#endif
