// Ways in which a level is handed over, each a room of its own: a file here and a line in writers.cpp. What can be
// chosen of one is described once; sheet and command line are made from that.
#pragma once

#include <deque>
#include <filesystem>
#include <span>
#include <string>
#include <vector>

#include "base/context.h"
#include "files/disk.h"
#include "files/fields.h"
#include "level/level.h"

namespace jam {

class HandoverWish;

// A yes or no, or one of some words. Names are unique among all writers and their options.
struct WriterOption {
    const char* name;                         // on the command line: "weight-bits"
    const char* title;                        // on the screen
    const char* tip = "";                     // what it does, in a sentence
    std::span<const char* const> words = {};  // what may be chosen; empty for yes or no
    int usual = 1;                            // the place of a word, or 1 for yes
};

// What a writer writes to: files that come to their goals all together or not at all, and the manifest.
class HandoverFiles {
public:
    HandoverFiles(std::filesystem::path folder, Json& manifest) : manifest(manifest), folder_(std::move(folder)) {}
    ~HandoverFiles();

    // Begins a file under a name with at most two folders before it. It stays where it is.
    Result<AtomicFile*> begin(const std::string& name);
    // What the writer says of its files.
    Json& manifest;

    const std::vector<std::string>& names() const { return names_; }
    // Puts all of them in the place of what was handed over before, whose files go unless they are written again.
    // Errors: disk trouble; what was there before is whole then.
    Status exchange(const std::vector<std::string>& before);

private:
    Status makeFolders(const std::filesystem::path& folder);

    std::filesystem::path folder_;
    std::vector<std::filesystem::path> made_;  // folders; those that stay empty go again
    std::deque<AtomicFile> files_;             // a deque, since pictures under way keep hold of theirs
    std::vector<std::string> names_;
};

struct Writer {
    const char* name;   // on the command line: "heightmap"
    const char* title;  // on the screen
    const char* tip;
    bool usual;  // whether it writes when nobody says
    std::span<const WriterOption> options;
    // Whether this level has anything to write by it.
    bool (*has)(const Level& level);
    // Its files with their sizes, in a line for people.
    std::string (*facts)(const Level& level, const HandoverWish& wish);
    int effort;  // about how long it takes beside the others
    // Writes its files, and says in the manifest what they are; that has all but what writers say already.
    Status (*write)(const Level& level, const HandoverWish& wish, HandoverFiles& files, const Context& context);
};

// In the order in which they are shown and write.
const std::vector<const Writer*>& writers();

}  // namespace jam
