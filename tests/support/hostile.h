// All that reads files that may be hostile: good ones of each kind, how they are changed, and what has to hold whatever
// comes of it. A new reader is a line here; tests, tools/fuzz and the kept finds (tests/hostile/NAME/) follow.
#pragma once

#include <functional>
#include <string>

#include "changes_of_files.h"

namespace jam::test {

struct HostileReader {
    const char* name;              // on the command line of tools/fuzz
    std::vector<Bytes> (*good)();  // each is accepted
    Bytes (*change)(const Bytes&, Random&);
    struct Outcome {
        bool accepted = false;
        std::string wrong;  // what must not be: a refusal without a sentence, an acceptance of what is none
        std::string says;   // of a refusal
    };
    Outcome (*read)(const Bytes&);
    bool refuses = true;  // or whatever it is given is one
};

const std::vector<HostileReader>& hostileReaders();
const HostileReader* hostileReader(const std::string& name);  // null when there is none

// Files that were once trouble: tests/hostile/NAME/.
std::vector<std::filesystem::path> keptFinds(const std::string& reader);

}  // namespace jam::test
