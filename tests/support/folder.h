// A folder for one test, and bytes in and out of it.
#pragma once

#include <filesystem>
#include <random>

#include "files/disk.h"

namespace jam::test {

struct Folder {
    std::filesystem::path path;
    Folder();
    ~Folder();
    Folder(const Folder&) = delete;
    size_t files() const;
};

Bytes bytesOf(const std::filesystem::path& path);
void put(const std::filesystem::path& path, const Bytes& bytes);
// Flips, cuts, repeats and fills bytes at random places.
Bytes mutated(Bytes bytes, std::mt19937& random);

}  // namespace jam::test
