#include <cstdio>

#include "commit/commit.h"
#include "files/layer_set.h"
#include "files/level_file.h"
#include "verb.h"

namespace jam::cli {

int refuse(const Error& error) {
    std::fprintf(stderr, "%s\n", error.sentence().c_str());
    return 2;
}

namespace {

// Every new level comes with the sample layers; `first` lies at the bottom.
Status addSampleLayers(Level& level, const std::string& first) {
    const std::filesystem::path share = shareFolder();
    if (share.empty())
        return Error{"", "sample layers", "they were not found", "set JAMHILL_SHARE to the folder that holds layers/"};
    Result<std::vector<Layer>> layers = readLayerSet(share / "layers");
    if (!layers) return layers.error();
    auto& list = layers.value();
    const auto at = std::find_if(list.begin(), list.end(), [&](const Layer& l) { return l.name == first; });
    if (!first.empty() && at == list.end()) {
        std::string names;
        for (const Layer& l : list) names += (names.empty() ? "" : ", ") + l.name;
        return Error{"", "first layer", "there is no layer \"" + first + "\"", "use one of: " + names};
    }
    if (!first.empty()) std::rotate(list.begin(), at, at + 1);
    for (Layer& l : list) addLayer(level, std::move(l));
    return {};
}

}  // namespace

void declareReplace(CLI::App* verb, bool& replace) {
    verb->add_flag("--replace", replace, "Put it in the place of a file of that name");
}

Status checkFree(const std::string& file, bool replace) {
    std::error_code none;
    if (replace || !std::filesystem::exists(file, none)) return {};
    return Error{file, "", "there is a file of that name already", "name another one, or add --replace"};
}

int saveNew(Result<Level> made, const std::string& first, const std::string& file, bool replace) {
    if (!made) return refuse(made);
    if (const Status s = checkFree(file, replace); !s) return refuse(s);
    if (const Status s = addSampleLayers(made.value(), first); !s) return refuse(s);
    if (const Status s = saveLevel(made.value(), file); !s) return refuse(s);
    return 0;
}

int workOn(const std::string& file, const std::string& out, const std::function<Result<Level>(const Level&)>& work) {
    const Result<Level> level = loadLevel(file);
    if (!level) return refuse(level);
    Result<Level> after = work(level.value());
    if (!after) return refuse(after);
    const Result<Commit> done = commitWork(level.value(), after.take());
    if (!done) return refuse(done);
    if (const Status s = saveLevel(done.value().level, out.empty() ? file : out); !s) return refuse(s);
    return 0;
}

}  // namespace jam::cli
