// Hand over: the level in open formats, with a manifest that says every size, range and axis.
#pragma once

#include <map>

#include "handover/writer.h"

namespace jam {

// What is handed over, and how: the usual, but for what was said.
class HandoverWish {
public:
    // Of a writer, whether it writes; of an option, yes or no or the place of its word.
    int of(const std::string& name) const;
    bool is(const std::string& name) const { return of(name) != 0; }
    std::string word(const WriterOption& option) const { return option.words[static_cast<size_t>(of(option.name))]; }
    // Precondition: a writer or option has this name, and the option this many words.
    HandoverWish& set(const std::string& name, int value);
    // By its word, or "yes" and "no". Errors: nothing has this name; it has no such word.
    Status say(const std::string& name, const std::string& word);

private:
    std::map<std::string, int> said_;
};

// Writes into `folder`, which is made when missing, all or nothing: trouble leaves what was there whole. What an
// earlier hand over left there goes, when its manifest names it. Returns the names of the files. Errors: nothing chosen
// that the level has, disk trouble, cancelled.
Result<std::vector<std::string>> handOver(const Level& level, const std::filesystem::path& folder,
                                          const HandoverWish& wish, const Context& context = {});

// What the manifest says of the level itself, whatever is written (docs/format.md).
Json manifestOf(const Level& level);
// The files that a manifest names.
std::vector<std::string> filesNamed(const Json& manifest);

}  // namespace jam
