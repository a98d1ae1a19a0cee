#include "files/stroke_file.h"

#include "files/disk.h"
#include "files/settings_json.h"

namespace jam {

namespace {

constexpr size_t kMostStrokes = 100000, kMostPoints = 1000000;

StrokePoint readPoint(Fields& stroke, const Json& item, size_t index) {
    const std::string name = "points[" + std::to_string(index) + "]";
    if (!item.is_array() || item.size() < 2 || item.size() > 4) {
        stroke.fail(name, "it is not a list of 2 to 4 numbers",
                    "write [x, z], [x, z, pressure] or [x, z, pressure, time]");
        return {};
    }
    double v[4] = {0, 0, 1, 0};
    for (size_t i = 0; i < item.size(); ++i) {
        if (!item[i].is_number()) {
            stroke.fail(name, "it holds something that is not a number", "write numbers only");
            return {};
        }
        v[i] = item[i].get<double>();
    }
    return {v[0], v[1], static_cast<float>(v[2]), v[3]};
}

// The settings of a tool that name a layer, and whether they must: f(setting, required).
template <class F>
void eachLayerSetting(Tool tool, F f) {
    for (const Setting* c : commonSettings())
        if (c->kind == Setting::Kind::layer) f(*c, false);
    for (const OwnSetting& own : specOf(tool).settings)
        if (own.setting->kind == Setting::Kind::layer) f(*own.setting, true);
}

// Those that name a kind; without one they are 0.
template <class F>
void eachKindSetting(Tool tool, F f) {
    for (const OwnSetting& own : specOf(tool).settings)
        if (own.setting->kind == Setting::Kind::kind) f(*own.setting);
}
uint32_t kindNamed(Fields& f, const char* field, const Level& level) {
    const std::string name = f.text(field);
    for (const Kind& k : level.kinds)
        if (k.name == name) return k.id;
    if (!f.failed()) f.fail(field, "the level has no kind \"" + name + "\"", "name a kind of this level");
    return 0;
}

Stroke readStroke(Fields f, const Level& level, const std::vector<TipPtr>& tips) {
    Stroke stroke;
    StrokeSettings& s = stroke.settings;
    s = readSettings(f, tips);
    // Layers are named, because their ids differ from level to level.
    const auto layer = [&](const char* field) -> uint32_t {
        const std::string name = f.text(field);
        for (const Layer& l : level.layers)
            if (l.name == name) return l.id;
        if (!f.failed()) f.fail(field, "the level has no layer \"" + name + "\"", "name a layer of this level");
        return 0;
    };
    if (usesLayer(s.tool)) s.layer = layer("layer");
    eachLayerSetting(s.tool, [&](const Setting& one, bool required) {
        const std::string name(one.name);
        if (required || f.has(name.c_str())) one.set(s, layer(name.c_str()));
    });
    if (specOf(s.tool).changes == Changes::plantings && (specOf(s.tool).needs.kind || f.has("kind"))) {
        s.kind = kindNamed(f, "kind", level);
    }
    eachKindSetting(s.tool, [&](const Setting& one) {
        const std::string name(one.name);
        if (f.has(name.c_str())) one.set(s, kindNamed(f, name.c_str(), level));
    });
    const Json* points = f.array("points", kMostPoints);
    for (size_t i = 0; points && i < points->size() && !f.failed(); ++i)
        stroke.points.push_back(readPoint(f, (*points)[i], i));
    if (!f.failed())
        if (const Status checked = checkStroke(stroke); !checked)
            f.fail(checked.error().field, checked.error().problem, checked.error().remedy);
    return stroke;
}

}  // namespace

Result<std::vector<Stroke>> parseStrokes(const std::string& text, const std::string& file, const Level& level,
                                         const std::vector<TipPtr>& tips) {
    Result<Json> json = parseJson(text, file);
    if (!json) return json.error();
    std::optional<Error> error;
    Fields f(json.value(), file, error);
    if (f.text("format") != "jamhill-strokes") f.fail("format", "it is not \"jamhill-strokes\"", "see docs/cli.md");
    f.whole("version", 1, 1);
    std::vector<Stroke> strokes;
    f.each("strokes", kMostStrokes, [&](Fields s) { strokes.push_back(readStroke(s, level, tips)); });
    if (error) return *error;
    return strokes;
}

Result<std::vector<Stroke>> readStrokes(const std::filesystem::path& path, const Level& level,
                                        const std::vector<TipPtr>& tips) {
    Result<Bytes> bytes = readFile(path, 256u << 20);
    if (!bytes) return bytes.error();
    return parseStrokes(std::string(bytes.value().begin(), bytes.value().end()), path.string(), level, tips);
}

std::string writeStrokes(const std::vector<Stroke>& strokes, const Level& level) {
    Json list = Json::array();
    for (const Stroke& stroke : strokes) {
        const StrokeSettings& s = stroke.settings;
        Json j = settingsToJson(s, true);
        if (s.mirror.kind != MirrorKind::none) j["mirror"] = mirrorToJson(s.mirror);
        const auto layer = [&](const char* field, uint32_t id) {
            if (const Layer* l = level.layer(id)) j[field] = l->name;
        };
        if (usesLayer(s.tool)) layer("layer", s.layer);
        if (const Kind* k = dresses(s.tool) ? level.kind(s.kind) : nullptr) j["kind"] = k->name;
        eachLayerSetting(s.tool, [&](const Setting& one, bool) {
            layer(std::string(one.name).c_str(), static_cast<uint32_t>(one.get(s)));
        });
        eachKindSetting(s.tool, [&](const Setting& one) {
            if (const Kind* k = level.kind(static_cast<uint32_t>(one.get(s)))) j[std::string(one.name)] = k->name;
        });
        Json points = Json::array();
        for (const StrokePoint& p : stroke.points) points.push_back({p.x, p.z, p.pressure, p.time});
        j["points"] = std::move(points);
        list.push_back(std::move(j));
    }
    return toText({{"format", "jamhill-strokes"}, {"version", 1}, {"strokes", std::move(list)}}, 1) + "\n";
}

}  // namespace jam
