#include "handover/handover.h"

#include <algorithm>
#include <cassert>

#include "files/layer_json.h"
#include "files/spots_json.h"
#include "level/ground.h"
#include "walk/reach.h"

namespace jam {

namespace fs = std::filesystem;

namespace {

const WriterOption* optionNamed(const std::string& name) {
    for (const Writer* w : writers())
        for (const WriterOption& o : w->options)
            if (o.name == name) return &o;
    return nullptr;
}

const Writer* writerNamed(const std::string& name) {
    for (const Writer* w : writers())
        if (w->name == name) return w;
    return nullptr;
}

void addNames(const Json& j, std::vector<std::string>& names, bool named) {
    if (j.is_string() && named) names.push_back(j.get<std::string>());
    if (j.is_array())
        for (const Json& one : j) addNames(one, names, false);
    if (j.is_object())
        for (const auto& [key, value] : j.items())
            addNames(value, names,
                     key == "file" || key == "weight" || (named && value.is_string()) || key == "pictures");
}

}  // namespace

int HandoverWish::of(const std::string& name) const {
    if (const auto at = said_.find(name); at != said_.end()) return at->second;
    if (const Writer* w = writerNamed(name)) return w->usual;
    const WriterOption* o = optionNamed(name);
    assert(o);
    return o->usual;
}

HandoverWish& HandoverWish::set(const std::string& name, int value) {
    assert(writerNamed(name) || optionNamed(name));
    said_[name] = value;
    return *this;
}

Status HandoverWish::say(const std::string& name, const std::string& word) {
    const WriterOption* o = optionNamed(name);
    if (!o && !writerNamed(name)) return Error{"", name, "nothing is handed over by this name", "look at --help"};
    if (!o || o->words.empty()) {
        if (word != "yes" && word != "no") return Error{"", name, "it is \"" + word + "\"", "say yes or no"};
        set(name, word == "yes");
        return {};
    }
    std::string all;
    for (size_t i = 0; i < o->words.size(); ++i) {
        if (o->words[i] == word) {
            set(name, static_cast<int>(i));
            return {};
        }
        all += (i == 0 ? "" : i + 1 == o->words.size() ? " or " : ", ") + std::string(o->words[i]);
    }
    return Error{"", name, "it is \"" + word + "\"", "use " + all};
}

Json manifestOf(const Level& level) {
    Json j = {{"format", "jamhill-handover"},
              {"version", 1},
              {"level", level.name},
              {"axes",
               {{"x", "east"},
                {"y", "up"},
                {"z", "south"},
                {"unit", "metre"},
                {"firstSample", "north-west corner; rows run south, columns run east"}}},
              {"origin", {{"x", level.originX}, {"z", level.originZ}}},
              {"size", {{"width", level.width()}, {"depth", level.depth()}}}};
    Json spots = Json::array();
    for (const Spot& s : level.spots) {
        spots.push_back(spotToJson(s));
        spots.back()["y"] = altitudeAt(level, s.x, s.z);
    }
    j["spots"] = std::move(spots);
    j["body"] = bodyToJson(bodyOf(level));
    Json layers = Json::array();
    for (const Layer& l : level.layers) {
        layers.push_back(layerToJson(l));
        layers.back()["hidden"] = l.hidden;
    }
    j["weights"] = {{"columns", level.coverColumns()},
                    {"rows", level.coverRows()},
                    {"spacing", level.coverSpacing()},
                    {"bits", 8},
                    {"sum", 255},
                    {"layers", std::move(layers)}};
    return j;
}

std::vector<std::string> filesNamed(const Json& manifest) {
    std::vector<std::string> names;
    addNames(manifest, names, false);
    return names;
}

// --- files ----------------------------------------------------------------------------------------------------------

HandoverFiles::~HandoverFiles() {
    files_.clear();
    std::error_code none;
    for (size_t i = made_.size(); i-- > 0;) fs::remove(made_[i], none);
}

Status HandoverFiles::makeFolders(const fs::path& folder) {
    std::error_code trouble;
    for (const fs::path& f : {folder.parent_path(), folder}) {
        if (fs::create_directory(f, trouble)) made_.push_back(f);
        if (trouble) return diskError(f, trouble.value());
    }
    return {};
}

Result<AtomicFile*> HandoverFiles::begin(const std::string& name) {
    const fs::path goal = folder_ / name;
    if (goal.parent_path() != folder_)
        if (Status s = makeFolders(goal.parent_path()); !s) return s.error();
    names_.push_back(name);
    return &files_.emplace_back(goal);
}

Status HandoverFiles::exchange(const std::vector<std::string>& before) {
    for (AtomicFile& f : files_)
        if (Status s = f.sync(); !s) return s;
    // What is there steps aside; until all that is new is in its place, it can come back.
    std::vector<std::pair<fs::path, fs::path>> aside;
    std::vector<fs::path> placed;
    std::error_code trouble;
    const auto back = [&](const fs::path& at) -> Status {
        const int number = trouble.value();
        std::error_code none;
        for (const fs::path& p : placed) fs::remove(p, none);
        for (const auto& [from, to] : aside) {
            fs::rename(to, from, none);
            if (!none) continue;
            // A disk that renames no more may still write.
            if (fs::copy_file(to, from, none)) fs::remove(to, none);
        }
        return diskError(at, number);
    };
    for (const AtomicFile& f : files_) {
        if (fs::is_directory(f.goal(), trouble))
            return trouble = std::make_error_code(std::errc::is_a_directory), back(f.goal());
        if (!fs::exists(f.goal(), trouble)) continue;
        fs::path to = f.goal();
        to += ".before";
        fs::rename(f.goal(), to, trouble);
        if (trouble) return back(f.goal());
        aside.emplace_back(f.goal(), to);
    }
    for (AtomicFile& f : files_) {
        if (const Status s = f.commit(); !s) {
            trouble = std::make_error_code(std::errc::io_error);
            (void)back(f.goal());
            return s;
        }
        placed.push_back(f.goal());
    }
    std::error_code none;
    for (const auto& [from, to] : aside) fs::remove(to, none);
    for (const std::string& name : before) {
        const fs::path old = fs::path(name).lexically_normal();
        const bool ours = old.is_relative() && !old.empty() && *old.begin() != "..";
        if (!ours || std::find(names_.begin(), names_.end(), name) != names_.end()) continue;
        fs::remove(folder_ / old, none);
        // Its folder, and the one that is in, when nothing is left in them.
        for (fs::path at = old.parent_path(); !at.empty(); at = at.parent_path()) fs::remove(folder_ / at, none);
    }
    return {};
}

// --- all of it ------------------------------------------------------------------------------------------------------

Result<std::vector<std::string>> handOver(const Level& level, const fs::path& folder, const HandoverWish& wish,
                                          const Context& context) {
    std::vector<const Writer*> chosen;
    int effort = 0, done = 0;
    for (const Writer* w : writers())
        if (wish.is(w->name) && w->has(level)) chosen.push_back(w), effort += w->effort;
    if (chosen.empty())
        return Error{folder.string(), "", "nothing is chosen to hand over", "choose the heightmap or the weights"};
    std::error_code trouble;
    fs::create_directories(folder, trouble);
    if (trouble) return diskError(folder, trouble.value());

    Json manifest = manifestOf(level);
    HandoverFiles files(folder, manifest);
    for (const Writer* w : chosen) {
        Context part = context;
        part.progress = [&](double share) { context.report((done + share * w->effort) / effort); };
        if (Status s = w->write(level, wish, files, part); !s) return s.error();
        if (context.cancelled()) return cancelledError();
        done += w->effort;
    }
    const std::string text = toText(manifest, 2) + "\n";
    const Result<AtomicFile*> file = files.begin("manifest.json");
    if (!file) return file.error();
    if (Status s = file.value()->write(Bytes(text.begin(), text.end())); !s) return s.error();
    std::vector<std::string> before;
    if (const Result<Bytes> old = readFile(folder / "manifest.json", 16u << 20))
        if (const Result<Json> j = parseJson(std::string(old.value().begin(), old.value().end()), "manifest.json");
            j && j.value().is_object() && j.value().contains("format") && j.value()["format"] == "jamhill-handover")
            before = filesNamed(j.value());
    if (context.cancelled()) return cancelledError();
    if (Status s = files.exchange(before); !s) return s.error();
    context.report(1);
    return files.names();
}

}  // namespace jam
