#include <cstdio>

#include "files/level_file.h"
#include "survey/check.h"
#include "verb.h"

namespace jam::cli {

namespace {

int check(const std::string& file) {
    const Result<Level> level = loadLevel(file);
    if (!level) return refuse(level);
    const std::vector<std::string> wrong = checkLevel(level.value());
    for (const std::string& w : wrong) std::printf("%s\n", w.c_str());
    if (wrong.empty()) std::printf("%s is sound.\n", file.c_str());
    return wrong.empty() ? 0 : 1;
}

}  // namespace

Verb addCheck(CLI::App& app) {
    auto file = std::make_shared<std::string>();
    CLI::App* v = app.add_subcommand("check", "Verifies every promise of a level file");
    v->add_option("LEVEL", *file, "The level file")->required();
    return {v, [file] { return check(*file); }};
}

}  // namespace jam::cli
