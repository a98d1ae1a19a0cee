#include "files/stroke_file.h"

#include "files/disk.h"
#include "files/fields.h"

namespace jam {

namespace {

constexpr size_t kMostStrokes = 100000, kMostPoints = 1000000;

// A word from a fixed list, with a message that offers the list.
template <class E>
E choice(Fields& f, const char* name, const char* otherwise, std::optional<E> (*fromName)(std::string_view), const char* offers) {
    const std::string word = f.text(name, otherwise ? std::optional<std::string>(otherwise) : std::nullopt);
    if (const std::optional<E> e = fromName(word)) return *e;
    f.fail(name, "it is \"" + word + "\"", std::string("use ") + offers);
    return E{};
}

StrokePoint readPoint(Fields& stroke, const Json& item, size_t index) {
    const std::string name = "points[" + std::to_string(index) + "]";
    if (!item.is_array() || item.size() < 2 || item.size() > 4) {
        stroke.fail(name, "it is not a list of 2 to 4 numbers", "write [x, z], [x, z, pressure] or [x, z, pressure, time]");
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

Stroke readStroke(Fields f, const Level& level) {
    Stroke stroke;
    StrokeSettings& s = stroke.settings;
    s.tool = choice<Tool>(f, "tool", nullptr, toolFromName, "raise, lower, smooth, flatten, paint or erase");
    const bool rate = s.tool == Tool::raise || s.tool == Tool::lower;
    s.radius = static_cast<float>(f.number("radius", kMinRadius, kMaxRadius));
    s.strength = static_cast<float>(rate ? f.number("strength", kMinRate, kMaxRate) : f.number("strength", kMinShare, 1));
    s.falloff.curve = choice<Curve>(f, "curve", "smooth", curveFromName, "smooth, straight, dome, bell or point");
    s.falloff.softness = static_cast<float>(f.number("softness", 0, 1, 1));
    s.grain = static_cast<float>(f.number("grain", 0, 0.5, 0.1));
    s.way = choice<FlattenWay>(f, "way", "both", flattenWayFromName, "both, fill or cut");
    if (f.has("height")) s.height = static_cast<float>(f.number("height", -10000, 10000));
    s.target = static_cast<float>(f.number("target", kMinShare, 1, 1));
    if (!shapesGround(s.tool)) {
        const std::string name = f.text("layer");
        for (const Layer& l : level.layers) if (l.name == name) s.layer = l.id;
        if (s.layer == 0 && !f.failed()) f.fail("layer", "the level has no layer \"" + name + "\"", "name a layer of this level");
    }
    const Json* points = f.array("points", kMostPoints);
    for (size_t i = 0; points && i < points->size() && !f.failed(); ++i)
        stroke.points.push_back(readPoint(f, (*points)[i], i));
    if (!f.failed())
        if (const Status checked = checkStroke(stroke); !checked)
            f.fail(checked.error().field, checked.error().problem, checked.error().remedy);
    return stroke;
}

}  // namespace

Result<std::vector<Stroke>> parseStrokes(const std::string& text, const std::string& file, const Level& level) {
    Result<Json> json = parseJson(text, file);
    if (!json) return json.error();
    std::optional<Error> error;
    Fields f(json.value(), file, error);
    if (f.text("format") != "jamhill-strokes") f.fail("format", "it is not \"jamhill-strokes\"", "see docs/cli.md");
    f.whole("version", 1, 1);
    std::vector<Stroke> strokes;
    f.each("strokes", kMostStrokes, [&](Fields s) { strokes.push_back(readStroke(s, level)); });
    if (error) return *error;
    return strokes;
}

Result<std::vector<Stroke>> readStrokes(const std::filesystem::path& path, const Level& level) {
    Result<Bytes> bytes = readFile(path, 256u << 20);
    if (!bytes) return bytes.error();
    return parseStrokes(std::string(bytes.value().begin(), bytes.value().end()), path.string(), level);
}

std::string writeStrokes(const std::vector<Stroke>& strokes, const Level& level) {
    Json list = Json::array();
    for (const Stroke& stroke : strokes) {
        const StrokeSettings& s = stroke.settings;
        Json j = {{"tool", toolName(s.tool)}, {"radius", s.radius}, {"strength", s.strength},
                  {"curve", curveName(s.falloff.curve)}, {"softness", s.falloff.softness}};
        if (s.tool == Tool::smooth) j["grain"] = s.grain;
        if (s.tool == Tool::flatten) {
            j["way"] = flattenWayName(s.way);
            if (s.height) j["height"] = *s.height;
        }
        if (!shapesGround(s.tool)) {
            const Layer* layer = level.layer(s.layer);
            j["layer"] = layer ? layer->name : "";
            j["target"] = s.target;
        }
        Json points = Json::array();
        for (const StrokePoint& p : stroke.points) points.push_back({p.x, p.z, p.pressure, p.time});
        j["points"] = std::move(points);
        list.push_back(std::move(j));
    }
    return Json({{"format", "jamhill-strokes"}, {"version", 1}, {"strokes", std::move(list)}}).dump(1) + "\n";
}

}  // namespace jam
