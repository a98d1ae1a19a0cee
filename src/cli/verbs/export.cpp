#include <cstdio>

#include "files/level_file.h"
#include "handover/handover.h"
#include "verb.h"

namespace jam::cli {

namespace {

struct Options {
    std::string file, folder;
    std::map<std::string, bool> flags;         // what differs from the usual
    std::map<std::string, std::string> words;  // of options
};

int exportTo(const Options& o) {
    HandoverWish wish;
    for (const auto& [name, said] : o.flags)
        if (said) wish.set(name, wish.is(name) ? 0 : 1);
    for (const auto& [name, word] : o.words)
        if (!word.empty())
            if (const Status s = wish.say(name, word); !s) return refuse(s);
    const Result<Level> level = loadLevel(o.file);
    if (!level) return refuse(level);
    const Result<std::vector<std::string>> files = handOver(level.value(), o.folder, wish);
    if (!files) return refuse(files);
    for (const std::string& f : files.value()) std::printf("%s\n", f.c_str());
    return 0;
}

}  // namespace

// A flag turns what is usual: --no-heightmap, --ascii-grid.
Verb addExport(CLI::App& app) {
    auto o = std::make_shared<Options>();
    CLI::App* v = app.add_subcommand("export", "Hands a level over in open formats");
    v->add_option("LEVEL", o->file, "The level file")->required();
    v->add_option("FOLDER", o->folder, "Where to write")->required();
    const auto flag = [&](const std::string& name, bool usual, const std::string& title) {
        v->add_flag((usual ? "--no-" : "--") + name, o->flags[name], (usual ? "Without: " : "With: ") + title);
    };
    for (const Writer* w : writers()) {
        flag(w->name, w->usual, w->title);
        for (const WriterOption& option : w->options) {
            if (option.words.empty()) flag(option.name, option.usual == 1, option.title);
            else v->add_option(std::string("--") + option.name, o->words[option.name], option.tip);
        }
    }
    return {v, [o] { return exportTo(*o); }};
}

}  // namespace jam::cli
