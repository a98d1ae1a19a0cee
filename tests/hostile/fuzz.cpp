// One reader after hostile files, led by which code they come by (LLVM's libFuzzer): tools/fuzz. $JAMHILL_READER names
// it; $JAMHILL_SEEDS is a folder for good ones, to begin from.
#include <cstdio>
#include <cstdlib>
#include <cstring>

#include "folder.h"
#include "hostile.h"

using namespace jam;
using namespace jam::test;

namespace {
const HostileReader* reader = nullptr;
}

extern "C" size_t LLVMFuzzerMutate(uint8_t* data, size_t size, size_t most);

extern "C" int LLVMFuzzerInitialize(int*, char***) {
    const char* name = std::getenv("JAMHILL_READER");
    reader = name ? hostileReader(name) : nullptr;
    if (!reader) {
        std::fprintf(stderr, "JAMHILL_READER is none of:");
        for (const HostileReader& r : hostileReaders()) std::fprintf(stderr, " %s", r.name);
        std::fprintf(stderr, "\n");
        std::exit(2);
    }
    if (const char* folder = std::getenv("JAMHILL_SEEDS")) {
        int n = 0;
        for (const Bytes& good : reader->good())
            put(std::filesystem::path(folder) / ("good-" + std::to_string(n++)), good);
    }
    return 0;
}

extern "C" size_t LLVMFuzzerCustomMutator(uint8_t* data, size_t size, size_t most, unsigned seed) {
    if (seed % 3 == 0) return LLVMFuzzerMutate(data, size, most);
    Random random(seed);
    const Bytes changed = reader->change(Bytes(data, data + size), random);
    const size_t n = std::min(changed.size(), most);
    std::memcpy(data, changed.data(), n);
    return n;
}

extern "C" int LLVMFuzzerTestOneInput(const uint8_t* data, size_t size) {
    const HostileReader::Outcome outcome = reader->read(Bytes(data, data + size));
    if (!outcome.wrong.empty()) {
        std::fprintf(stderr, "%s: %s\n", reader->name, outcome.wrong.c_str());
        std::abort();
    }
    return 0;
}
