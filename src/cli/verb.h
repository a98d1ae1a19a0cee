// One verb of the command line: its options and what it does. Adding one is a file in verbs/ and a line in main.cpp.
#pragma once

#include <CLI/CLI.hpp>
#include <functional>

#include "base/context.h"
#include "level/level.h"

namespace jam::cli {

struct Verb {
    CLI::App* app;
    std::function<int()> run;  // the exit code: 0 done, 1 check found something wrong, 2 bad input or disk trouble
};

int refuse(const Error& error);
template <class T>
int refuse(const Result<T>& result) {
    return refuse(result.error());
}

// The id of the one of a list that has a name; the error names the option and those there are.
template <class List>
Result<uint32_t> idIn(const List& list, const std::string& name, const char* option, const char* what) {
    std::string names;
    for (const auto& one : list) {
        if (one.name == name) return one.id;
        names += (names.empty() ? "" : ", ") + one.name;
    }
    return Error{"", option, std::string("there is no ") + what + " \"" + name + "\"",
                 names.empty() ? std::string("the level has none") : "use one of: " + names};
}

// The option --replace of verbs that make a file, and its errors: without it, there is one of that name already.
void declareReplace(CLI::App* verb, bool& replace);
Status checkFree(const std::string& file, bool replace);
// Gives a level the sample layers, `first` at the bottom, and saves it.
int saveNew(Result<Level> made, const std::string& first, const std::string& file, bool replace);
// Loads a level, works on it, brings along what follows it (commit/commit.h), and saves it, over itself when `out` is
// empty.
int workOn(const std::string& file, const std::string& out, const std::function<Result<Level>(const Level&)>& work);

}  // namespace jam::cli
