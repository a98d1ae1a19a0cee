#include <cstdio>

#include "tools/tool.h"
#include "verb.h"

namespace jam::cli {

namespace {

// A range as a person reads it: "0.5 to 2000 m", "any of both, fill, cut".
std::string rangeOf(const Setting& s) {
    char text[120] = "";
    const std::string unit = s.shown == 100 ? "" : std::string(*s.unit && s.unit[0] != '%' ? " " : "") + s.unit;
    switch (s.kind) {
        case Setting::Kind::number:
            std::snprintf(text, sizeof text, "%g to %g%s", s.low, s.high, unit.c_str());
            return text;
        case Setting::Kind::maybe:
            std::snprintf(text, sizeof text, "%g to %g%s, or none", s.low, s.high, unit.c_str());
            return text;
        case Setting::Kind::flag: return "true or false";
        case Setting::Kind::layer: return "the name of a layer";
        case Setting::Kind::kind: return "the name of a kind";
        case Setting::Kind::colour: return "red, green, blue, each 0 to 1";
        case Setting::Kind::choice: break;
    }
    std::string words;
    for (const Choice& c : s.choices) words += (words.empty() ? "" : ", ") + std::string(c.word);
    return words;
}

const char* wordFor(Changes changes) {
    switch (changes) {
        case Changes::ground: return "ground";
        case Changes::coverage: return "coverage";
        case Changes::wash: return "wash";
        case Changes::gaps: return "where there is ground";
        case Changes::plantings: return "what stands there";
    }
    return "";
}

void row(const Setting& s) {
    const std::string group = *s.group ? std::string(s.group) + "." : "";
    std::printf("| `%s%s` | %s | %s |\n", group.c_str(), std::string(s.name).c_str(), rangeOf(s).c_str(), s.tip);
}

int list() {
    std::printf(
        "# Tools and their settings\n\nAs they stand in stroke files and brushes. This page is written by "
        "`jamhill-cli tools`; a test keeps it true.\n\n");
    std::printf("| tool | changes | strength | settings of its own | with Shift |\n| --- | --- | --- | --- | --- |\n");
    for (int t = 0; t < kTools; ++t) {
        const auto tool = static_cast<Tool>(t);
        const ToolSpec& spec = specOf(tool);
        std::string own;
        for (const OwnSetting& s : spec.settings)
            own += (own.empty() ? "`" : ", `") + std::string(s.setting->name) + "`";
        const std::string turned = spec.inverse ? std::string(toolName(*spec.inverse))
                                   : spec.turn  ? "the other way"
                                                : "";
        std::printf("| `%s` | %s | %s | %s | %s |\n", std::string(spec.name).c_str(), wordFor(spec.changes),
                    spec.rate ? "m/s, or m without flow" : "share", own.c_str(), turned.c_str());
    }
    std::printf("\n## Settings of single tools\n\n| setting | range | what it does |\n| --- | --- | --- |\n");
    for (const Setting* s : {&settings::rate, &settings::share}) row(*s);
    for (const Setting* s : ownSettings()) row(*s);
    std::printf("\n## Settings of all tools\n\n| setting | range | what it does |\n| --- | --- | --- |\n");
    for (const Setting* s : commonSettings()) row(*s);
    return 0;
}

}  // namespace

Verb addTools(CLI::App& app) {
    CLI::App* v = app.add_subcommand("tools", "Lists every tool and setting of stroke files");
    return {v, [] { return list(); }};
}

}  // namespace jam::cli
