#include <cstdio>

#include "checks/check.h"
#include "files/level_file.h"
#include "survey/check.h"
#include "survey/level_survey.h"
#include "verb.h"
#include "walk/reach.h"

namespace jam::cli {

namespace {

struct Options {
    std::string file;
    bool play = false;
};

// What the checks find, one line each, under their names; whether any of it warns.
bool tellPlay(const Level& level) {
    LevelSurvey survey;
    survey.follow(level, nullptr);
    std::optional<Reach> reach;
    if (!level.spots.empty()) reach = surveyReach(level, bodyOf(level));
    const Surveyed surveyed{level, survey, reach ? &*reach : nullptr};
    bool warns = false;
    for (const Check* check : checks())
        for (const Finding& f : check->find(surveyed)) {
            std::printf("%s: %s", check->name, f.sentence.c_str());
            if (f.at) std::printf(", at %.1f %.1f", (*f.at)[0], (*f.at)[1]);
            std::printf("\n");
            warns |= check->weight == Check::Weight::warns;
        }
    return warns;
}

int check(const Options& o) {
    const Result<Level> level = loadLevel(o.file);
    if (!level) return refuse(level);
    const std::vector<std::string> wrong = checkLevel(level.value());
    for (const std::string& w : wrong) std::printf("%s\n", w.c_str());
    if (wrong.empty()) std::printf("%s is sound.\n", o.file.c_str());
    const bool warns = o.play && tellPlay(level.value());
    return wrong.empty() && !warns ? 0 : 1;
}

}  // namespace

Verb addCheck(CLI::App& app) {
    auto o = std::make_shared<Options>();
    CLI::App* v = app.add_subcommand("check", "Verifies every promise of a level file");
    v->add_option("LEVEL", o->file, "The level file")->required();
    v->add_flag("--play", o->play, "Also whether it plays: leaks, ways out, traps, spots that nobody gets to and more");
    return {v, [o] { return check(*o); }};
}

}  // namespace jam::cli
