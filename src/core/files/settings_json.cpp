#include "files/settings_json.h"

#include <algorithm>
#include <cmath>

namespace jam {

namespace {

// A word from a fixed list, with a message that offers the list.
template <class E>
E choice(Fields& f, const char* name, const char* otherwise, std::optional<E> (*fromName)(std::string_view),
         const char* offers) {
    const std::string word = f.text(name, otherwise ? std::optional<std::string>(otherwise) : std::nullopt);
    if (const std::optional<E> e = fromName(word)) return *e;
    f.fail(name, "it is \"" + word + "\"", std::string("use ") + offers);
    return E{};
}

constexpr char kBase64[] = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";

// RFC 4648.
std::string toBase64(const Bytes& bytes) {
    std::string text;
    for (size_t i = 0; i < bytes.size(); i += 3) {
        uint32_t v = static_cast<uint32_t>(bytes[i]) << 16;
        if (i + 1 < bytes.size()) v |= static_cast<uint32_t>(bytes[i + 1]) << 8;
        if (i + 2 < bytes.size()) v |= bytes[i + 2];
        for (size_t k = 0; k < 4; ++k) text += i + k <= bytes.size() ? kBase64[(v >> (18 - 6 * k)) & 63] : '=';
    }
    return text;
}

std::optional<Bytes> fromBase64(const std::string& text) {
    Bytes bytes;
    uint32_t held = 0;
    int bits = 0;
    for (const char c : text) {
        if (c == '=') break;
        const char* at = std::find(kBase64, kBase64 + 64, c);
        if (at == kBase64 + 64) return std::nullopt;
        held = held << 6 | static_cast<uint32_t>(at - kBase64);
        if ((bits += 6) >= 8) bytes.push_back(static_cast<uint8_t>(held >> (bits -= 8)));
        held &= 0xffff;
    }
    return bytes;
}

TipPtr readTipPicture(Fields& f, const std::vector<TipPtr>& tips) {
    const std::string name = f.text("picture");
    for (const TipPtr& t : tips)
        if (t->name == name) return t;
    if (f.failed()) return {};
    if (!f.has("png"))
        return f.fail("picture", "there is no tip \"" + name + "\"", "add its picture to the tips first"), nullptr;
    const std::optional<Bytes> bytes = fromBase64(f.longText("png", 16u << 20));
    if (f.failed()) return {};
    Result<Pixels> pixels = bytes ? decodePng(*bytes, name, kMaxTipSize)
                                  : Result<Pixels>(Error{"", "", "it is not base64", "export it again"});
    if (!pixels) return f.fail("png", pixels.error().problem, pixels.error().remedy), nullptr;
    Result<TipPtr> tip = tipFromPixels(pixels.value(), name);
    if (!tip) return f.fail("png", tip.error().problem, tip.error().remedy), nullptr;
    return tip.take();
}

float single(double v) { return static_cast<float>(v); }

// The tools in a sentence.
std::string toolWords() {
    std::string words;
    for (int t = 0; t < kTools; ++t)
        words += std::string(t == 0            ? ""
                             : t + 1 == kTools ? " or "
                                               : ", ") +
                 std::string(toolName(static_cast<Tool>(t)));
    return words;
}

std::string choiceWords(const Setting& s) {
    std::string words;
    for (size_t i = 0; i < s.choices.size(); ++i)
        words += std::string(i == 0 ? "" : i + 1 == s.choices.size() ? " or " : ", ") + std::string(s.choices[i].word);
    return words;
}

// A number in a file as it is kept in single precision: 0.3, not 0.30000001192.
Json kept(const Setting& s, double v) {
    if (s.whole) return static_cast<int64_t>(v);
    return static_cast<float>(v);
}

void writeSetting(Json& j, const Setting& s, const StrokeSettings& settings) {
    using Kind = Setting::Kind;
    const std::string name(s.name);
    switch (s.kind) {
        case Kind::number: j[name] = kept(s, s.get(settings)); break;
        case Kind::maybe:
            if (const double v = s.get(settings); !std::isnan(v)) j[name] = kept(s, v);
            break;
        case Kind::flag: j[name] = s.get(settings) != 0; break;
        case Kind::choice: j[name] = s.choices[static_cast<size_t>(s.get(settings))].word; break;
        case Kind::colour: j[name] = settings.colour; break;
        case Kind::layer:
        case Kind::kind: break;  // ids differ from level to level; stroke files name them
    }
}

void readColour(Fields& f, StrokeSettings& settings) {
    const Json* c = f.array("colour", 3);
    if (c && (c->size() != 3 || !std::all_of(c->begin(), c->end(), [](const Json& v) { return v.is_number(); })))
        f.fail("colour", "it is not three numbers", "write [red, green, blue], each 0 to 1");
    else if (c) settings.colour = c->get<std::array<float, 3>>();
}

void readSetting(Fields& f, const Setting& s, StrokeSettings& settings) {
    using Kind = Setting::Kind;
    const std::string name(s.name);
    if (s.kind == Kind::layer || s.kind == Kind::kind || !f.has(name.c_str())) return;
    switch (s.kind) {
        case Kind::number:
        case Kind::maybe:
            s.set(settings, s.whole ? f.whole(name.c_str(), static_cast<int>(s.low), static_cast<int>(s.high))
                                    : f.number(name.c_str(), s.low, s.high));
            break;
        case Kind::flag: s.set(settings, f.flag(name.c_str())); break;
        case Kind::choice: {
            const std::string word = f.text(name.c_str());
            for (size_t i = 0; i < s.choices.size(); ++i)
                if (s.choices[i].word == word) return s.set(settings, static_cast<double>(i));
            f.fail(name.c_str(), "it is \"" + word + "\"", "use " + choiceWords(s));
            break;
        }
        case Kind::colour: readColour(f, settings); break;
        case Kind::layer:
        case Kind::kind: break;
    }
}

// Whether a setting stands at its usual value, so that a file need not say it.
bool isUsual(const Setting& s, const StrokeSettings& settings) {
    const double a = s.get(settings), b = s.get(StrokeSettings{});
    return a == b || (std::isnan(a) && std::isnan(b));
}

}  // namespace

Json settingsToJson(const StrokeSettings& s, bool carryPictures) {
    Json j = {{"tool", toolName(s.tool)}, {"curve", curveName(s.falloff.curve)}};
    writeSetting(j, strengthOf(s.tool), s);
    if (s.falloff.curve == Curve::bent) j["bend"] = {s.falloff.bend.third, s.falloff.bend.twoThirds};
    // Of a group, all or nothing is said.
    const bool tip = !(s.tip == Tip{}), pressure = !(s.pressure == Pressure{});
    for (const Setting* c : commonSettings()) {
        const std::string_view group = c->group;
        if (group == "tip" && tip) writeSetting(j["tip"], *c, s);
        else if (group == "pressure" && pressure) writeSetting(j["pressure"], *c, s);
        else if (group.empty() && (c->name == "radius" || c->name == "softness" || !isUsual(*c, s)))
            writeSetting(j, *c, s);
    }
    if (tip) {
        j["tip"]["shape"] = tipShapeName(s.tip.shape);
        if (s.tip.picture) j["tip"]["picture"] = s.tip.picture->name;
        if (s.tip.picture && carryPictures) j["tip"]["png"] = toBase64(encodeTip(*s.tip.picture));
    }
    for (const OwnSetting& own : specOf(s.tool).settings) writeSetting(j, *own.setting, s);
    if (!isUsual(settings::seed, s)) writeSetting(j, settings::seed, s);  // of turned and scattered tips too
    return j;
}

Json mirrorToJson(const Mirror& m) { return {{"kind", mirrorName(m.kind)}, {"x", m.x}, {"z", m.z}}; }

StrokeSettings readSettings(Fields& f, const std::vector<TipPtr>& tips) {
    StrokeSettings s;
    const std::string word = f.text("tool");
    if (const std::optional<Tool> tool = toolFromName(word)) s.tool = *tool;
    else f.fail("tool", "it is \"" + word + "\"", "use " + toolWords());
    f.number("radius", kMinRadius, kMaxRadius);  // files say at least these two
    s.strength = single(f.number("strength", strengthOf(s.tool).low, strengthOf(s.tool).high));
    s.falloff.curve = choice<Curve>(f, "curve", "smooth", curveFromName, "smooth, straight, dome, bell, point or bent");
    if (f.has("bend")) {
        const Json* bend = f.array("bend", 2);
        if (bend && (bend->size() != 2 || !(*bend)[0].is_number() || !(*bend)[1].is_number()))
            f.fail("bend", "it is not two numbers", "write [0.8, 0.3]");
        else if (bend) s.falloff.bend = {(*bend)[0].get<float>(), (*bend)[1].get<float>()};
    }
    for (const Setting* c : commonSettings()) {
        if (!*c->group) readSetting(f, *c, s);
        else if (f.has(c->group)) {
            Fields in = f.object(c->group);
            readSetting(in, *c, s);
        }
    }
    if (f.has("tip")) {
        Fields t = f.object("tip");
        s.tip.shape = choice<TipShape>(t, "shape", "round", tipShapeFromName, "round, square or picture");
        if (s.tip.shape == TipShape::picture) s.tip.picture = readTipPicture(t, tips);
    }
    if (f.has("mirror")) {
        Fields m = f.object("mirror");
        s.mirror.kind = choice<MirrorKind>(m, "kind", nullptr, mirrorFromName,
                                           "none, across-x, across-z, across-both, diagonal, turn-2, turn-3 or turn-4");
        s.mirror.x = m.number("x", -1e6, 1e6, 0);
        s.mirror.z = m.number("z", -1e6, 1e6, 0);
    }
    for (const Setting* own : ownSettings()) readSetting(f, *own, s);
    if (!f.failed())
        if (const Status checked = checkSettings(s); !checked)
            f.fail(checked.error().field.c_str(), checked.error().problem, checked.error().remedy);
    return s;
}

std::string writePreset(const Preset& preset) {
    return toText({{"format", "jamhill-brush"},
                   {"version", 1},
                   {"name", preset.name},
                   {"brush", settingsToJson(preset.settings, true)}},
                  1) +
           "\n";
}

Result<Preset> parsePreset(const std::string& text, const std::string& file, const std::vector<TipPtr>& tips) {
    Result<Json> json = parseJson(text, file);
    if (!json) return json.error();
    std::optional<Error> error;
    Fields f(json.value(), file, error);
    if (f.text("format") != "jamhill-brush")
        f.fail("format", "it is not \"jamhill-brush\"", "choose a brush saved by Jam Hill");
    f.whole("version", 1, 1);
    Preset preset;
    preset.name = f.text("name");
    Fields brush = f.object("brush");
    preset.settings = readSettings(brush, tips);
    if (error) return *error;
    return preset;
}

Result<Preset> readPreset(const std::filesystem::path& path, const std::vector<TipPtr>& tips) {
    Result<Bytes> bytes = readFile(path, 32u << 20);
    if (!bytes) return bytes.error();
    return parsePreset(std::string(bytes.value().begin(), bytes.value().end()), path.string(), tips);
}

Status savePreset(const Preset& preset, const std::filesystem::path& path) {
    const std::string text = writePreset(preset);
    AtomicFile file(path);
    if (Status s = file.write(Bytes(text.begin(), text.end())); !s) return s;
    return file.commit();
}

}  // namespace jam
