#include "sequences.h"

#include <algorithm>
#include <cstdio>
#include <sstream>

#include "commit/commit.h"
#include "course/bake.h"
#include "course/footprint.h"
#include "cover/rules.h"
#include "files/level_file.h"
#include "folder.h"
#include "level/ground.h"
#include "level/opening.h"
#include "level/strata.h"
#include "survey/check.h"
#include "verbs.h"
#include "water/water.h"

namespace jam::test {

const std::vector<Verb>& verbs() {
    static const std::vector<Verb> all = [] {
        std::vector<Verb> list = {
            {"undo", nullptr}, {"undo", nullptr}, {"redo", nullptr}, {"stepTo", nullptr}, {"reopen", nullptr}};
        for (const auto& some : {groundVerbs(), coverVerbs(), levelVerbs(), dressVerbs()})
            list.insert(list.end(), some.begin(), some.end());
        return list;
    }();
    return all;
}

std::string toText(const Sequence& steps) {
    std::string text;
    for (const Step& s : steps) {
        text += s.verb;
        for (const double n : s.numbers) {
            char word[32];
            std::snprintf(word, sizeof word, " %.17g", n);
            text += word;
        }
        text += "\n";
    }
    return text;
}

Sequence sequenceFrom(const std::string& text) {
    Sequence steps;
    std::istringstream lines(text);
    for (std::string line; std::getline(lines, line);) {
        std::istringstream words(line);
        Step s;
        words >> s.verb;
        for (double& n : s.numbers) words >> n;
        if (words && std::any_of(verbs().begin(), verbs().end(), [&](const Verb& v) { return v.name == s.verb; }))
            steps.push_back(s);
    }
    return steps;
}

Sequence randomSequence(uint32_t seed, int length) {
    Random random(seed);
    Sequence steps;
    // Two of three know a dozen verbs alone, which meet each other the more often (Groce et al., "Swarm testing",
    // 2012); a step of the history is always among them.
    std::vector<size_t> known;
    for (int i = 0; seed % 3 != 0 && i < 12; ++i) known.push_back(random() % verbs().size());
    if (!known.empty()) known.push_back(0);
    for (int i = 0; i < length; ++i) {
        Step s;
        s.verb = verbs()[known.empty() ? random() % verbs().size() : known[random() % known.size()]].name;
        for (double& n : s.numbers) {
            const unsigned r = random() % 10;
            n = r == 0 ? 0 : r == 1 ? 1 : r == 2 ? 0.5 : static_cast<double>(random() % 4096) / 4096;
        }
        steps.push_back(s);
    }
    return steps;
}

Level sequenceStart(uint32_t seed) {
    Level level = flatLevel(149, 85, 0, 1.5, seed % 3 == 0 ? 1 : 2);
    level.name = "lopsided";
    level.originX = 310.5;
    level.originZ = -77;
    level.lowest = -60, level.highest = 90;
    level.sun = {137, 21};
    for (int i = 0; i < 4; ++i)
        addLayer(level, plainLayer("layer " + std::to_string(i), static_cast<uint8_t>(30 + 50 * i)));
    level.activeStratum = addStratum(level, "upper", 0);
    level.strata.back().opacity = 0.6f;
    const Level hills = hillyLevel(level.columns, level.rows, seed, 4);
    level.strata[0].heights = hills.strata[0].heights;
    Random random(seed);
    Level before = level;
    // Two or three of everything, with numbers of the seed's.
    for (const char* verb :
         {"course", "course", "stream",  "pool",    "pool",    "spot",    "spot",    "pad",       "rules",
          "rules",  "wake",   "wake",    "paint",   "paint",   "paint",   "fence",   "keepFence", "dropFence",
          "cutOut", "wash",   "addKind", "addKind", "addKind", "density", "density", "putSingle", "putSingle"}) {
        Step s;
        for (double& n : s.numbers) n = static_cast<double>(random() % 4096) / 4096;
        for (const Verb& v : verbs())
            if (v.name == std::string(verb)) {
                Level tried = level;
                v.act(tried, s.numbers);
                if (checkGroundLeft(tried)) level = std::move(tried);
                break;
            }
    }
    Result<Commit> done = commitWork(before, std::move(level));
    return std::move(done.value().level);
}

// --- playing --------------------------------------------------------------------------------------------------------

namespace {

std::optional<std::string> reopened(const Level& level, Level& out) {
    const Folder folder;
    if (const Status s = saveLevel(level, folder.path / "a.jamhill"); !s)
        return "it is not saved: " + s.error().sentence();
    Result<Level> opened = loadLevel(folder.path / "a.jamhill");
    if (!opened) return "it does not open: " + opened.error().sentence();
    out = opened.take();
    return std::nullopt;
}

// The first thing in which two levels differ, in words.
std::optional<std::string> difference(const Level& a, const Level& b) {
    if (a == b) return std::nullopt;
    const auto lists = [](const auto& x, const auto& y, const char* name) -> std::string {
        if (x.size() != y.size()) return std::string(name) + ": another number of them";
        for (size_t i = 0; i < x.size(); ++i)
            if (!(x[i] == y[i])) return std::string(name) + " " + std::to_string(i) + " (“" + x[i].name + "”)";
        return "";
    };
    for (const std::string& s :
         {lists(a.strata, b.strata, "stratum"), lists(a.layers, b.layers, "layer"), lists(a.fences, b.fences, "fence"),
          lists(a.pools, b.pools, "pool"), lists(a.streams, b.streams, "stream"), lists(a.spots, b.spots, "spot"),
          lists(a.bodies, b.bodies, "body"), lists(a.kinds, b.kinds, "kind")})
        if (!s.empty()) return s;
    if (a.singles != b.singles) return "the singles";
    if (!(a.water == b.water)) return "the water";
    if (!(a.wash == b.wash)) return "the wash";
    if (!(a.opening == b.opening) || !(a.noLand == b.noLand) || !(a.hatches == b.hatches)) return "the gaps";
    if (!(a.fence == b.fence) || a.fenced != b.fenced) return "the fence";
    return "a number of the level itself";
}

}  // namespace

std::optional<std::string> Player::play(const Step& step) {
    ++count_;
    const auto verb = std::find_if(verbs().begin(), verbs().end(), [&](const Verb& v) { return v.name == step.verb; });
    if (verb == verbs().end()) return "there is no verb " + step.verb;
    before_ = level();
    const size_t place = history_.place();
    if (step.verb == "undo") return history_.undo(), std::nullopt;
    if (step.verb == "redo") return history_.redo(), std::nullopt;
    if (step.verb == "stepTo")
        return history_.stepTo(jam::test::place(step.numbers[0], history_.entries().size())), std::nullopt;
    if (step.verb == "reopen") {
        Level again;
        if (auto wrong = reopened(before_, again)) return wrong;
        // Brushes find a stratum that shows when a level is opened.
        Level shown = before_;
        activateShown(shown);
        if (auto differs = difference(again, shown)) return "saved and opened, it differs: " + *differs;
        return std::nullopt;
    }
    Level after = before_;
    verb->act(after, step.numbers);
    if (!sameRaster(after, before_) || !(after == before_)) {
        Result<Commit> done = commitWork(before_, std::move(after));
        if (!done) return "it is not committed: " + done.error().sentence();
        history_.push(std::move(done.value().level), step.verb);
        // Undo and redo give the same bits.
        history_.undo();
        if (auto differs = difference(level(), before_)) return "undone, it differs: " + *differs;
        history_.stepTo(place + 1);
    }
    return std::nullopt;
}

std::optional<std::string> notAsMadeAnew(const Level& level) {
    for (const std::string& wrong : checkLevel(level)) return wrong;
    // Courses, from the bottom up.
    Level anew = level;
    for (size_t i = 0; i < anew.strata.size(); ++i)
        if (anew.strata[i].course && !bakeCourse(anew, i).empty())
            return "course " + std::to_string(i) + " (“" + anew.strata[i].name + "”) is not as baked anew";
    refillHatches(anew);
    if (!(anew.hatches == level.hatches)) return "the hatches are not as cut anew";
    // Water: its places and what it covers.
    refillWater(anew);
    if (!(anew.water == level.water)) return "the water is not as filled anew";
    for (size_t i = 0; i < level.streams.size(); ++i)
        if (!(anew.streams[i].surface == level.streams[i].surface)) return "a stream does not run as anew";
    for (size_t i = 0; i < level.pools.size(); ++i)
        if (!(anew.pools[i] == level.pools[i])) return "pool " + level.pools[i].name + " is not as filled anew";
    // Living rules.
    for (const Layer& l : level.layers) {
        if (!l.alive) continue;
        refreshLaid(anew, l.id);
        if (!(anew.layer(l.id)->base == l.base)) return "the rules of “" + l.name + "” give something else anew";
        if (!(anew.layer(l.id)->coverage == l.coverage)) return "“" + l.name + "” lies elsewhere anew";
    }
    for (const Kind& k : level.kinds) {
        if (!k.alive) continue;
        refreshLaid(anew, k.id);
        if (!(anew.kind(k.id)->base == k.base)) return "the rules of “" + k.name + "” give something else anew";
        if (!(anew.kind(k.id)->coverage == k.coverage)) return "“" + k.name + "” stands elsewhere anew";
    }
    return std::nullopt;
}

// --- shrinking ------------------------------------------------------------------------------------------------------

namespace {

std::optional<std::string> wrongWith(uint32_t levelSeed, const Sequence& steps, const MakeLook& make, bool thorough) {
    Player player(sequenceStart(levelSeed));
    const Look look = make(player.level(), thorough);
    for (size_t i = 0; i < steps.size(); ++i) {
        std::optional<std::string> wrong = player.play(steps[i]);
        if (!wrong) wrong = look(player);
        if (wrong) return "after step " + std::to_string(i + 1) + " (" + steps[i].verb + "): " + *wrong;
    }
    return std::nullopt;
}

}  // namespace

std::optional<Failure> failing(uint32_t levelSeed, const Sequence& steps, const MakeLook& look) {
    std::optional<std::string> wrong = wrongWith(levelSeed, steps, look, false);
    if (!wrong) return std::nullopt;
    Sequence shortest = steps;
    const auto tryIt = [&](Sequence tried) {
        std::optional<std::string> still = wrongWith(levelSeed, tried, look, true);
        if (!still) return false;
        shortest = std::move(tried);
        wrong = std::move(still);
        return true;
    };
    // Whole stretches first, then single steps, until none can go.
    for (size_t part = shortest.size(); part > 0; part /= 2)
        for (size_t at = 0; at < shortest.size();) {
            Sequence tried = shortest;
            tried.erase(tried.begin() + static_cast<ptrdiff_t>(at),
                        tried.begin() + static_cast<ptrdiff_t>(std::min(at + part, tried.size())));
            if (!tryIt(std::move(tried))) at += part;
        }
    for (size_t i = 0; i < shortest.size(); ++i)
        for (size_t k = 0; k < kStepNumbers; ++k)
            for (const double simple : {0.0, 0.5, 1.0}) {
                if (shortest[i].numbers[k] == simple) break;
                Sequence tried = shortest;
                tried[i].numbers[k] = simple;
                if (tryIt(std::move(tried))) break;
            }
    return Failure{shortest, *wrong + "\nlevel " + std::to_string(levelSeed) + ", steps:\n" + toText(shortest)};
}

}  // namespace jam::test
