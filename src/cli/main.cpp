// jamhill-cli: the core without a window. Described in docs/cli.md.
#include "verb.h"

namespace jam::cli {
Verb addNew(CLI::App& app);
Verb addInfo(CLI::App& app);
Verb addRecover(CLI::App& app);
Verb addStroke(CLI::App& app);
Verb addImport(CLI::App& app);
Verb addReshape(CLI::App& app);
Verb addResample(CLI::App& app);
Verb addExport(CLI::App& app);
Verb addWeights(CLI::App& app);
Verb addCover(CLI::App& app);
Verb addCheck(CLI::App& app);
Verb addTools(CLI::App& app);
Verb addFence(CLI::App& app);
Verb addCourseVerb(CLI::App& app);
Verb addClip(CLI::App& app);
Verb addMatch(CLI::App& app);
Verb addWater(CLI::App& app);
Verb addDress(CLI::App& app);
Verb addSpotVerb(CLI::App& app);
Verb addReach(CLI::App& app);
Verb addWalk(CLI::App& app);
}  // namespace jam::cli

using namespace jam::cli;

namespace {

// What no verb expects, such as no memory, ends in words like everything else.
int run(const Verb& verb) {
    const std::string name = verb.app->get_name();
    try {
        return verb.run();
    } catch (const std::bad_alloc&) {
        return refuse(
            {"", name, "it needs more memory than there is", "close other programs, or work on a smaller level"});
    } catch (const std::exception& e) {
        return refuse({"", name, e.what(), "the files are as they were"});
    }
}

}  // namespace

int main(int count, char** words) {
    CLI::App app{"Jam Hill without a window"};
    app.require_subcommand(1);
    std::vector<Verb> verbs;
    for (const auto add : {addNew,    addInfo,    addRecover, addStroke, addImport,   addReshape, addResample,
                           addExport, addWeights, addCover,   addCheck,  addTools,    addFence,   addCourseVerb,
                           addClip,   addMatch,   addWater,   addDress,  addSpotVerb, addReach,   addWalk})
        verbs.push_back(add(app));
    try {
        app.parse(count, words);
    } catch (const CLI::ParseError& e) {
        return app.exit(e) == 0 ? 0 : 2;
    }
    for (const Verb& v : verbs)
        if (*v.app) return run(v);
    return 2;
}
