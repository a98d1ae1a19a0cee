#include "files/settings_json.h"

#include <algorithm>

namespace jam {

namespace {

constexpr const char* kToolWords = "raise, lower, smooth, even-out, flatten, terrace, slope, noise, crumble, rain-wash, restore, paint, erase, soften, carry, break-up, replace, by-rule, wash or rinse";

// A word from a fixed list, with a message that offers the list.
template <class E>
E choice(Fields& f, const char* name, const char* otherwise, std::optional<E> (*fromName)(std::string_view), const char* offers) {
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
    for (const TipPtr& t : tips) if (t->name == name) return t;
    if (f.failed()) return {};
    if (!f.has("png")) return f.fail("picture", "there is no tip \"" + name + "\"", "add its picture to the tips first"), nullptr;
    const std::optional<Bytes> bytes = fromBase64(f.longText("png", 16u << 20));
    if (f.failed()) return {};
    Result<Pixels> pixels = bytes ? decodePng(*bytes, name, kMaxTipSize) : Result<Pixels>(Error{"", "", "it is not base64", "export it again"});
    if (!pixels) return f.fail("png", pixels.error().problem, pixels.error().remedy), nullptr;
    Result<TipPtr> tip = tipFromPixels(pixels.value(), name);
    if (!tip) return f.fail("png", tip.error().problem, tip.error().remedy), nullptr;
    return tip.take();
}

float single(double v) { return static_cast<float>(v); }

}  // namespace

Json settingsToJson(const StrokeSettings& s, bool carryPictures) {
    const StrokeSettings usual;
    Json j = {{"tool", toolName(s.tool)}, {"radius", s.radius}, {"strength", s.strength},
              {"curve", curveName(s.falloff.curve)}, {"softness", s.falloff.softness}};
    if (s.falloff.curve == Curve::bent) j["bend"] = {s.falloff.bend.third, s.falloff.bend.twoThirds};
    if (s.spacing != usual.spacing) j["spacing"] = s.spacing;
    if (!s.flow) j["flow"] = false;
    if (!(s.tip == Tip{})) {
        Json t = {{"shape", tipShapeName(s.tip.shape)}, {"turn", s.tip.turn}, {"randomTurn", s.tip.randomTurn}, {"follow", s.tip.follow}, {"scatter", s.tip.scatter}};
        if (s.tip.picture) {
            t["picture"] = s.tip.picture->name;
            if (carryPictures) t["png"] = toBase64(encodeTip(*s.tip.picture));
        }
        j["tip"] = std::move(t);
    }
    if (!(s.pressure == Pressure{})) j["pressure"] = {{"strength", s.pressure.strength}, {"radius", s.pressure.radius}, {"curve", s.pressure.curve}};
    if (s.limits.floor) j["floor"] = *s.limits.floor;
    if (s.limits.ceiling) j["ceiling"] = *s.limits.ceiling;
    switch (s.tool) {
        case Tool::smooth: case Tool::soften: j["grain"] = s.grain; break;
        case Tool::breakUp: j["scale"] = s.scale, j["breakBy"] = breakByName(s.breakBy); break;
        case Tool::evenOut: j["keep"] = s.keep; break;
        case Tool::flatten:
            j["way"] = flattenWayName(s.way);
            if (s.height) j["height"] = *s.height;
            break;
        case Tool::terrace: j["step"] = s.step, j["riser"] = s.riser; break;
        case Tool::slope: j["way"] = flattenWayName(s.way), j["angle"] = s.angle; break;
        case Tool::noise: j["scale"] = s.scale, j["relief"] = s.relief, j["octaves"] = s.octaves, j["noise"] = noiseWayName(s.noise); break;
        case Tool::crumble: j["angle"] = s.angle; break;
        case Tool::restore: j["restore"] = restoreToName(s.restore); break;
        case Tool::paint: j["target"] = s.target; break;
        case Tool::wash: j["colour"] = s.colour; break;
        default: break;
    }
    if (s.where.slopeFrom) j["slopeFrom"] = *s.where.slopeFrom;
    if (s.where.slopeTo) j["slopeTo"] = *s.where.slopeTo;
    if (s.where.altitudeFrom) j["altitudeFrom"] = *s.where.altitudeFrom;
    if (s.where.altitudeTo) j["altitudeTo"] = *s.where.altitudeTo;
    if (s.seed != usual.seed) j["seed"] = s.seed;
    return j;
}

Json mirrorToJson(const Mirror& m) { return {{"kind", mirrorName(m.kind)}, {"x", m.x}, {"z", m.z}}; }

StrokeSettings readSettings(Fields& f, const std::vector<TipPtr>& tips) {
    StrokeSettings s;
    const StrokeSettings usual;
    s.tool = choice<Tool>(f, "tool", nullptr, toolFromName, kToolWords);
    s.radius = single(f.number("radius", kMinRadius, kMaxRadius));
    s.strength = single(hasRate(s.tool) ? f.number("strength", kMinRate, kMaxRate) : f.number("strength", kMinShare, 1));
    s.falloff.curve = choice<Curve>(f, "curve", "smooth", curveFromName, "smooth, straight, dome, bell, point or bent");
    s.falloff.softness = single(f.number("softness", 0, 1, 1));
    if (f.has("bend")) {
        const Json* bend = f.array("bend", 2);
        if (bend && (bend->size() != 2 || !(*bend)[0].is_number() || !(*bend)[1].is_number())) f.fail("bend", "it is not two numbers", "write [0.8, 0.3]");
        else if (bend) s.falloff.bend = {(*bend)[0].get<float>(), (*bend)[1].get<float>()};
    }
    s.spacing = single(f.number("spacing", kMinSpacing, kMaxSpacing, usual.spacing));
    s.flow = f.flag("flow", true);
    if (f.has("tip")) {
        Fields t = f.object("tip");
        s.tip.shape = choice<TipShape>(t, "shape", "round", tipShapeFromName, "round, square or picture");
        s.tip.turn = single(t.number("turn", -360, 360, 0));
        s.tip.randomTurn = t.flag("randomTurn", false);
        s.tip.follow = t.flag("follow", false);
        s.tip.scatter = single(t.number("scatter", 0, 2, 0));
        if (s.tip.shape == TipShape::picture) s.tip.picture = readTipPicture(t, tips);
    }
    if (f.has("pressure")) {
        Fields p = f.object("pressure");
        s.pressure = {p.flag("strength", true), p.flag("radius", false), single(p.number("curve", 0.25, 4, 1))};
    }
    if (f.has("mirror")) {
        Fields m = f.object("mirror");
        s.mirror.kind = choice<MirrorKind>(m, "kind", nullptr, mirrorFromName, "none, across-x, across-z, across-both, diagonal, turn-2, turn-3 or turn-4");
        s.mirror.x = m.number("x", -1e6, 1e6, 0);
        s.mirror.z = m.number("z", -1e6, 1e6, 0);
    }
    if (f.has("floor")) s.limits.floor = single(f.number("floor", -kFarHeight, kFarHeight));
    if (f.has("ceiling")) s.limits.ceiling = single(f.number("ceiling", -kFarHeight, kFarHeight));
    const auto maybe = [&f](const char* name, double low, double high) { return f.has(name) ? std::optional<float>(single(f.number(name, low, high))) : std::nullopt; };
    s.where.slopeFrom = maybe("slopeFrom", 0, 90);
    s.where.slopeTo = maybe("slopeTo", 0, 90);
    s.where.altitudeFrom = maybe("altitudeFrom", -kFarHeight, kFarHeight);
    s.where.altitudeTo = maybe("altitudeTo", -kFarHeight, kFarHeight);
    s.grain = single(f.number("grain", 0, 0.5, usual.grain));
    s.keep = single(f.number("keep", 0, 0.95, usual.keep));
    s.way = choice<FlattenWay>(f, "way", "both", flattenWayFromName, "both, fill or cut");
    if (f.has("height")) s.height = single(f.number("height", -kFarHeight, kFarHeight));
    s.step = single(f.number("step", kMinStep, kMaxStep, usual.step));
    s.riser = single(f.number("riser", 0, 1, usual.riser));
    s.angle = single(f.number("angle", kMinAngle, kMaxAngle, usual.angle));
    s.scale = single(f.number("scale", kMinGrain, kMaxGrain, usual.scale));
    s.relief = single(f.number("relief", kMinRate, kMaxRate, usual.relief));
    s.octaves = f.whole("octaves", 1, kMaxOctaves, usual.octaves);
    s.noise = choice<NoiseWay>(f, "noise", "both", noiseWayFromName, "both, up or down");
    s.breakBy = choice<BreakBy>(f, "breakBy", "noise", breakByFromName, "noise, tip or height");
    s.restore = choice<RestoreTo>(f, "restore", "start", restoreToFromName, "start or reference");
    s.seed = static_cast<uint32_t>(f.whole("seed", 0, 2000000000, static_cast<int>(usual.seed)));
    s.target = single(f.number("target", kMinShare, 1, 1));
    if (f.has("colour")) {
        const Json* c = f.array("colour", 3);
        if (c && (c->size() != 3 || !std::all_of(c->begin(), c->end(), [](const Json& v) { return v.is_number(); }))) f.fail("colour", "it is not three numbers", "write [red, green, blue], each 0 to 1");
        else if (c) s.colour = c->get<std::array<float, 3>>();
    }
    if (!f.failed())
        if (const Status checked = checkSettings(s); !checked) f.fail(checked.error().field, checked.error().problem, checked.error().remedy);
    return s;
}

std::string writePreset(const Preset& preset) {
    return Json({{"format", "jamhill-brush"}, {"version", 1}, {"name", preset.name}, {"brush", settingsToJson(preset.settings, true)}}).dump(1) + "\n";
}

Result<Preset> parsePreset(const std::string& text, const std::string& file, const std::vector<TipPtr>& tips) {
    Result<Json> json = parseJson(text, file);
    if (!json) return json.error();
    std::optional<Error> error;
    Fields f(json.value(), file, error);
    if (f.text("format") != "jamhill-brush") f.fail("format", "it is not \"jamhill-brush\"", "choose a brush saved by Jam Hill");
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
