#include <cstdio>
#include <ctime>
#include <iostream>
#include <nlohmann/json.hpp>

#include "files/level_file.h"
#include "journal/recover.h"
#include "verb.h"

namespace jam::cli {

namespace {

std::string moment(int64_t milliseconds) {
    const std::time_t seconds = milliseconds / 1000;
    char text[32];
    std::strftime(text, sizeof text, "%Y-%m-%d %H:%M:%S", std::localtime(&seconds));
    return text;
}

int list(const std::vector<KeptWork>& all, bool json) {
    nlohmann::json out = nlohmann::json::array();
    for (const KeptWork& w : all) {
        if (json)
            out.push_back({{"id", w.journal.stem().string()},
                           {"name", w.name},
                           {"file", w.file.string()},
                           {"since", moment(w.since)},
                           {"last", moment(w.last)},
                           {"steps", w.steps},
                           {"what", w.what}});
        else
            std::printf("%s  %s: %d step%s, the last %s (%s), since %s %s\n", w.journal.stem().c_str(), w.name.c_str(),
                        w.steps, w.steps == 1 ? "" : "s", moment(w.last).c_str(), w.what.c_str(),
                        w.file.empty() ? "it was begun" : "the save of",
                        w.file.empty() ? moment(w.since).c_str() : (w.file.string() + " " + moment(w.since)).c_str());
    }
    if (json) std::cout << out.dump(2) << "\n";
    else if (all.empty()) std::printf("Nothing is left of work that was not saved.\n");
    return 0;
}

int recover(const std::string& id, const std::string& to, bool away, bool json) {
    const std::vector<KeptWork> all = keptWork(journalFolder());
    if (id.empty()) return list(all, json);
    for (const KeptWork& w : all) {
        if (w.journal.stem() != id) continue;
        if (away) {
            const Status gone = throwAway(w.journal);
            return gone ? 0 : refuse(gone.error());
        }
        if (to.empty()) return refuse(Error{"", "--to", "it says nowhere to write to", "name a new level file"});
        if (std::filesystem::exists(to))
            return refuse(Error{to, "--to", "there is a file of that name", "name another one"});
        const Result<TakenUp> taken = takeUpWork(w.journal);
        if (!taken) return refuse(taken);
        if (const Status saved = saveLevel(taken.value().history.now(), to); !saved) return refuse(saved.error());
        return 0;
    }
    return refuse(Error{"", "ID", "there is no work \"" + id + "\"", "list it with jamhill-cli recover"});
}

}  // namespace

Verb addRecover(CLI::App& app) {
    struct Options {
        std::string id, to;
        bool json = false, away = false;
    };
    auto o = std::make_shared<Options>();
    CLI::App* v = app.add_subcommand("recover",
                                     "Lists work that was not saved when the program ended, or writes it out");
    v->add_option("ID", o->id, "Which of those that are listed");
    v->add_option("--to", o->to, "The level file to write it to; the journal stays");
    v->add_flag("--throw-away", o->away, "Throws it away for good");
    v->add_flag("--json", o->json, "The list as JSON");
    return {v, [o] { return recover(o->id, o->to, o->away, o->json); }};
}

}  // namespace jam::cli
