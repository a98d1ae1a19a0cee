#include "pictures/map_names.h"

#include <algorithm>
#include <cctype>
#include <map>

namespace jam {

namespace {

struct Ending {
    const char* word;
    int slot;
    bool flipGreen = false, gloss = false;
};
// In the order of kLayerSlots: colour, normal, roughness, height, occlusion, specular, metalness.
constexpr Ending kEndings[] = {{"colour", 0},
                               {"color", 0},
                               {"col", 0},
                               {"albedo", 0},
                               {"alb", 0},
                               {"diffuse", 0},
                               {"diff", 0},
                               {"dif", 0},
                               {"basecolor", 0},
                               {"basecolour", 0},
                               {"base", 0},
                               {"c", 0},
                               {"d", 0},
                               {"normal", 1},
                               {"normals", 1},
                               {"norm", 1},
                               {"nrm", 1},
                               {"nor", 1},
                               {"n", 1},
                               {"nrml", 1},
                               {"normalgl", 1},
                               {"normaldx", 1, true},
                               {"roughness", 2},
                               {"rough", 2},
                               {"rgh", 2},
                               {"r", 2},
                               {"gloss", 2, false, true},
                               {"glossiness", 2, false, true},
                               {"smoothness", 2, false, true},
                               {"height", 3},
                               {"displacement", 3},
                               {"disp", 3},
                               {"displace", 3},
                               {"bump", 3},
                               {"h", 3},
                               {"occlusion", 4},
                               {"ao", 4},
                               {"ambientocclusion", 4},
                               {"occ", 4},
                               {"specular", 5},
                               {"spec", 5},
                               {"spc", 5},
                               {"s", 5},
                               {"metalness", 6},
                               {"metallic", 6},
                               {"metal", 6},
                               {"mtl", 6},
                               {"m", 6}};

const Ending* endingOf(const std::string& word) {
    for (const Ending& e : kEndings)
        if (word == e.word) return &e;
    return nullptr;
}

// "2k", "1024": the size of a picture, not its meaning.
bool isSize(const std::string& word) {
    if (word.empty() || !std::isdigit(static_cast<unsigned char>(word[0]))) return false;
    if (word.back() == 'k' && word.size() <= 3) return true;
    return word.size() >= 3 && std::all_of(word.begin(), word.end(), [](unsigned char c) { return std::isdigit(c); }) &&
           std::stol(word.substr(0, 6)) >= 128;
}

struct Word {
    std::string text;  // in small letters
    size_t end;        // in the file name
};

std::vector<Word> wordsOf(const std::string& stem) {
    std::vector<Word> words;
    for (size_t i = 0; i <= stem.size(); ++i) {
        const bool letter = i < stem.size() && std::isalnum(static_cast<unsigned char>(stem[i]));
        // "GravelNormal": a capital after a small letter begins a word too.
        const bool begins = letter && i > 0 && std::isupper(static_cast<unsigned char>(stem[i])) &&
                            std::islower(static_cast<unsigned char>(stem[i - 1]));
        if (letter && (words.empty() || begins || i == 0 || !std::isalnum(static_cast<unsigned char>(stem[i - 1]))))
            words.push_back({"", 0});
        if (!letter) continue;
        words.back().text += static_cast<char>(std::tolower(static_cast<unsigned char>(stem[i])));
        words.back().end = i + 1;
    }
    return words;
}

}  // namespace

MapName mapNameOf(const std::string& fileName) {
    const size_t dot = fileName.rfind('.');
    const std::string stem = fileName.substr(0, dot == std::string::npos || dot == 0 ? fileName.size() : dot);
    std::vector<Word> words = wordsOf(stem);
    MapName out;
    out.base = stem;
    bool down = false;
    while (words.size() > 1 && isSize(words.back().text)) words.pop_back();
    // Which way green runs may stand behind the word: "Normal-DX".
    if (words.size() > 1 && (words.back().text == "dx" || words.back().text == "gl" || words.back().text == "directx" ||
                             words.back().text == "opengl")) {
        down = words.back().text[0] == 'd';
        words.pop_back();
    }
    const auto take = [&](const Ending* e, size_t used) {
        out.slot = e->slot;
        out.flipGreen = e->slot == 1 && (e->flipGreen || down);
        out.gloss = e->gloss;
        while (words.size() - used > 1 && isSize(words[words.size() - used - 1].text)) ++used;
        out.base = words.size() > used ? stem.substr(0, words[words.size() - used - 1].end) : std::string();
    };
    if (words.empty()) return out;
    // "base color" and "ambient occlusion" may be written as two words.
    if (words.size() >= 2)
        if (const Ending* e = endingOf(words[words.size() - 2].text + words.back().text)) return take(e, 2), out;
    const Ending* e = endingOf(words.back().text);
    // A single letter says something only behind a name.
    if (e && (words.back().text.size() > 1 || words.size() > 1)) take(e, 1);
    return out;
}

std::vector<MapSet> mapSetsOf(std::vector<std::string> fileNames) {
    std::sort(fileNames.begin(), fileNames.end());
    std::map<std::string, MapSet> sets;
    std::vector<std::string> unclear;
    for (const std::string& file : fileNames) {
        const MapName m = mapNameOf(file);
        if (m.slot < 0) {
            unclear.push_back(file);
            continue;
        }
        MapSet& set = sets[m.base];
        set.name = m.base;
        std::string& place = set.files[m.slot];
        if (!place.empty()) continue;
        place = file;
        set.flipGreen |= m.flipGreen;
        set.gloss |= m.gloss;
    }
    for (const std::string& file : unclear) {
        const std::string base = mapNameOf(file).base;
        MapSet& set = sets[base];
        set.name = base;
        if (set.files[0].empty()) set.files[0] = file;
    }
    std::vector<MapSet> out;
    for (auto& [name, set] : sets) out.push_back(std::move(set));
    return out;
}

}  // namespace jam
