#include "files/level_text.h"

#include <algorithm>
#include <map>

#include "base/text.h"
#include "course/footprint.h"
#include "dress/kinds.h"
#include "files/fields.h"
#include "files/kinds_json.h"
#include "files/layer_json.h"
#include "files/level_file.h"
#include "files/png.h"
#include "files/shape_file.h"
#include "files/spots_json.h"
#include "files/strata_json.h"
#include "files/water_json.h"
#include "level/picture_pool.h"

namespace jam {

std::string pictureName(uint32_t id, const char* slot) { return "layers/" + std::to_string(id) + "/" + slot + ".png"; }
std::string shapeName(uint32_t id) { return "shapes/" + std::to_string(id) + ".glb"; }

namespace {

// The member of the JSON that says where an owner's raster lies.
template <class Kind>
const char* memberOf(const Kind& kind) {
    return std::string_view(kind.name) == "strata" ? "heights" : kind.name;
}

// --- writing ----------------------------------------------------------------------------------------------------

Json describe(const Level& level) {
    Json strata = Json::array(), layers = Json::array();
    for (const Stratum& s : level.strata) {
        strata.push_back(stratumToJson(s));
        strata.back()["id"] = s.id;
    }
    for (const Layer& l : level.layers) {
        Json j = layerToJson(l);
        j["id"] = l.id;
        for (const LayerSlot& slot : kLayerSlots)
            if (const Picture& p = l.*slot.picture)
                j["pictures"][slot.name] = {{"part", pictureName(l.id, slot.name)}, {"cameAs", p->name}};
        j["coverageDefault"] = l.coverage.defaultValue();
        layers.push_back(std::move(j));
    }
    Json kinds = Json::array();
    for (const Kind& k : level.kinds) {
        kinds.push_back(kindToJson(k));
        kinds.back()["id"] = k.id;
    }
    Json fences = Json::array();
    for (const KeptFence& k : level.fences) fences.push_back({{"id", k.id}, {"name", k.name}});
    Json pairs = Json::array();
    for (const BlendPair& p : level.pairs) pairs.push_back({{"one", p.one}, {"other", p.other}, {"blend", p.blend}});
    // A raster in which nothing was ever changed has no part of its own; its default says it all.
    const auto note = [](Json& owner, const auto& kind, uint32_t id, const auto& grid) {
        if (grid.presentTiles() > 0 || (isGround(kind) && grid.columns() > 0))
            owner[memberOf(kind)] = rasterName(kind, id);
    };
    for (size_t i = 0; i < level.strata.size(); ++i)
        eachKind(kStratumRasters,
                 [&](const auto& k) { note(strata[i], k, level.strata[i].id, level.strata[i].*k.grid); });
    for (size_t i = 0; i < level.layers.size(); ++i)
        eachKind(kLayerRasters,
                 [&](const auto& k) { note(layers[i], k, level.layers[i].id, level.layers[i].*k.grid); });
    for (size_t i = 0; i < level.kinds.size(); ++i)
        eachKind(kKindRasters, [&](const auto& k) { note(kinds[i], k, level.kinds[i].id, level.kinds[i].*k.grid); });
    for (size_t i = 0; i < level.fences.size(); ++i)
        eachKind(kFenceRasters,
                 [&](const auto& k) { note(fences[i], k, level.fences[i].id, level.fences[i].*k.grid); });
    Json all = {{"format", "jamhill-level"},
                {"version", kLevelVersion},
                {"name", level.name},
                {"columns", level.columns},
                {"rows", level.rows},
                {"spacing", level.spacing},
                {"origin", {{"x", level.originX}, {"z", level.originZ}}},
                {"lowest", level.lowest},
                {"highest", level.highest},
                {"startHeight", level.startHeight},
                {"coverFactor", level.coverFactor},
                {"sun", {{"azimuth", level.sun.azimuth}, {"elevation", level.sun.elevation}}},
                {"activeStratum", level.activeStratum},
                {"nextId", level.nextId},
                {"strata", strata},
                {"layers", layers},
                {"pairs", pairs},
                {"kinds", kinds},
                {"smoothEdges", level.smoothEdges},
                {"cliff", level.cliff},
                {"fenced", level.fenced},
                {"fences", fences}};
    describeWaters(level, all);
    describeSpots(level, all);
    describeSingles(level, all);
    eachKind(kLevelRasters, [&](const auto& k) {
        if (k.kStored) all[k.name] = (level.*k.grid).presentTiles() > 0;
    });
    return all;
}

// --- reading ----------------------------------------------------------------------------------------------------

std::string partOf(const PartSource& parts, const std::string& name) { return parts.file() + ": " + name; }

Result<Picture> readPicture(const PartSource& parts, uint32_t id, const char* slot, const std::string& cameAs) {
    const std::string name = pictureName(id, slot);
    Result<Bytes> bytes = parts.read(name, kMostPictureBytes);
    if (!bytes) return bytes.error();
    PictureFile file{cameAs, bytes.take()};
    if (Picture known = knownPicture(file)) return known;
    if (Result<Pixels> p = decodePng(file.bytes, partOf(parts, name), kLargestTexture); !p) return p.error();
    return sharedPicture(std::move(file));
}

struct LayerEntry {
    Layer layer;
    uint16_t coverageDefault;
    std::string cameAs[std::size(kLayerSlots)];  // empty when there is no such picture
};

struct Header {
    Level level;
    std::vector<LayerEntry> layers;
    std::set<std::string> rasters;           // names of the parts that there are
    std::map<uint32_t, std::string> shapes;  // the files that kinds were taken in from, by id
};

// Ids are given once, below nextId.
uint32_t readId(Fields& f, const Level& level, const char* name) {
    return static_cast<uint32_t>(f.whole(name, 1, std::max(static_cast<int>(level.nextId) - 1, 1)));
}

// Size, place, range, resolution of the cover, sun.
void readFrame(Fields& f, Level& level) {
    level.name = f.text("name");
    level.columns = f.whole("columns", kMinSamples, kMaxSamples);
    level.rows = f.whole("rows", kMinSamples, kMaxSamples);
    level.spacing = f.number("spacing", kFinest, kCoarsest);
    Fields origin = f.object("origin");
    level.originX = origin.number("x", -kFarPlace, kFarPlace);
    level.originZ = origin.number("z", -kFarPlace, kFarPlace);
    level.lowest = static_cast<float>(f.number("lowest", -kFarHeight, kFarHeight));
    level.highest = static_cast<float>(f.number("highest", level.lowest, kFarHeight));
    level.startHeight = static_cast<float>(f.number("startHeight", level.lowest, level.highest));
    level.coverFactor = f.whole("coverFactor", 1, 4);
    if (level.coverFactor == 3) f.fail("coverFactor", "it is 3", "use 1, 2 or 4");
    if (std::max(level.coverColumns(), level.coverRows()) > kMaxSamples)
        f.fail("coverFactor", "cover would be larger than " + std::to_string(kMaxSamples) + " samples",
               "use a smaller factor");
    level.smoothEdges = f.flag("smoothEdges", true);
    level.cliff = static_cast<float>(f.number("cliff", 0, kMaxCliff, 0));
    Fields sun = f.object("sun");
    level.sun.azimuth = static_cast<float>(sun.number("azimuth", 0, 360));
    level.sun.elevation = static_cast<float>(sun.number("elevation", 1, 90));
    level.nextId = static_cast<uint32_t>(f.whole("nextId", 1, 1 << 30));
}

void readStrata(Fields& f, Header& h) {
    Level& level = h.level;
    level.activeStratum = readId(f, level, "activeStratum");
    f.each("strata", kMaxStrata, [&](Fields s) {
        const uint32_t id = readId(s, level, "id");
        if (level.stratum(id)) s.fail("id", "another stratum has the same", "give each its own");
        level.strata.emplace_back().id = id;
        Stratum& stratum = level.strata.back();
        readStratumFields(s, stratum);
        eachKind(kStratumRasters, [&](const auto& k) {
            if (!k.there || k.there(stratum)) h.rasters.insert(rasterName(k, id));
        });
    });
    if (f.failed()) return;
    const Stratum* active = level.stratum(level.activeStratum);
    if (!active) f.fail("strata", "the active stratum is not among them", "add it");
    else if (active->mixes()) f.fail("activeStratum", "it is a course or a border", "name a stratum");
}

bool hasLayer(const Header& h, uint32_t id) {
    return std::any_of(h.layers.begin(), h.layers.end(), [id](const LayerEntry& e) { return e.layer.id == id; });
}

void readLayers(Fields& f, Header& h) {
    f.each("layers", kMaxLayers, [&](Fields l) {
        LayerEntry e;
        e.layer.id = readId(l, h.level, "id");
        if (hasLayer(h, e.layer.id)) l.fail("id", "another layer has the same", "give each its own");
        readLayerFields(l, e.layer);
        eachKind(kLayerRasters, [&](const auto& k) {
            if (l.has(memberOf(k))) h.rasters.insert(rasterName(k, e.layer.id));
        });
        e.coverageDefault = static_cast<uint16_t>(l.whole("coverageDefault", 0, kFullCover));
        Fields pictures = l.object("pictures");
        for (size_t k = 0; k < std::size(kLayerSlots); ++k) {
            const bool required = k == 0;
            if (!required && !pictures.has(kLayerSlots[k].name)) continue;
            e.cameAs[k] = pictures.object(kLayerSlots[k].name).text("cameAs");
            if (e.cameAs[k].empty()) e.cameAs[k] = std::string(kLayerSlots[k].name) + ".png";
        }
        h.layers.push_back(std::move(e));
    });
    if (!f.failed() && h.layers.empty()) f.fail("layers", "there are none", "add at least one");
}

void readKinds(Fields& f, Header& h) {
    if (!f.has("kinds")) return;
    f.each("kinds", kMaxKinds, [&](Fields k) {
        Kind kind;
        kind.id = readId(k, h.level, "id");
        if (hasLayer(h, kind.id) || h.level.kind(kind.id))
            k.fail("id", "a layer or another kind has the same", "give each its own");
        std::string shape;
        readKindFields(k, kind, &shape);
        // What was taken in is looked at when its shape is there.
        if (!shape.empty()) h.shapes[kind.id] = shape;
        else if (!k.failed())
            if (const Status fine = checkKind(h.level, kind); !fine)
                k.fail("", fine.error().field + ": " + fine.error().problem, fine.error().remedy);
        eachKind(kKindRasters, [&](const auto& raster) {
            if (k.has(memberOf(raster))) h.rasters.insert(rasterName(raster, kind.id));
        });
        h.level.kinds.push_back(std::move(kind));
    });
    readSingles(f, h.level);
}

void checkFootprints(Fields& f, const Level& level) {
    for (const Stratum& s : level.strata) {
        if (f.failed() || !s.course || !s.course->footprint) continue;
        const uint32_t kind = s.course->footprint->kind;
        if (!level.kind(kind))
            f.fail("strata", "“" + s.name + "” is the footprint of a kind that is not there",
                   "name a kind of this level");
        else if (footprintPlace(level, kind) != level.stratumIndex(s.id))
            f.fail("strata", "“" + s.name + "” is the second footprint of its kind", "leave one of them out");
    }
}

void readPairs(Fields& f, Header& h) {
    if (!f.has("pairs")) return;
    f.each("pairs", kMaxLayers * kMaxLayers, [&](Fields p) {
        const uint32_t one = readId(p, h.level, "one"), other = readId(p, h.level, "other");
        if (!hasLayer(h, one) || !hasLayer(h, other))
            p.fail("other", "there is no such layer", "name two layers of this level");
        else if (one == other) p.fail("other", "it is the same layer", "name two different ones");
        else setBlendBetween(h.level, one, other, static_cast<float>(p.number("blend", 0, 1)));
    });
}

void readFences(Fields& f, Header& h) {
    h.level.fenced = f.flag("fenced", false);
    if (!f.has("fences")) return;
    f.each("fences", kMaxFences, [&](Fields k) {
        const uint32_t id = readId(k, h.level, "id");
        for (const KeptFence& other : h.level.fences)
            if (other.id == id) k.fail("id", "another fence has the same", "give each its own");
        h.level.fences.push_back({id, k.text("name"), {}});
        eachKind(kFenceRasters, [&](const auto& kind) {
            if (k.has(memberOf(kind))) h.rasters.insert(rasterName(kind, id));
        });
    });
}

// `file` names the part in messages.
Result<Header> readHeader(const std::string& text, const std::string& file) {
    Result<Json> json = parseJson(text, file);
    if (!json) return json.error();
    std::optional<Error> error;
    Fields f(json.value(), file, error);
    if (f.text("format") != "jamhill-level") f.fail("format", "it is not \"jamhill-level\"", "open a level file");
    const int version = f.whole("version", 1, 1000000);
    if (version > kLevelVersion)
        f.fail("version",
               "it is " + std::to_string(version) + ", newer than this program reads (" +
                   std::to_string(kLevelVersion) + ")",
               "open it with a newer Jam Hill");
    Header h;
    readFrame(f, h.level);
    readStrata(f, h);
    readLayers(f, h);
    readPairs(f, h);
    readKinds(f, h);
    checkFootprints(f, h.level);
    readFences(f, h);
    readWaters(f, h.level);
    readSpots(f, h.level);
    eachKind(kLevelRasters, [&](const auto& k) {
        if (k.kStored && f.flag(k.name, false)) h.rasters.insert(rasterName(k, 0));
    });
    if (error) return *error;
    return h;
}

}  // namespace

std::string levelText(const Level& level) { return toText(describe(level), 2) + "\n"; }

Result<std::string> checkLevelText(const std::string& text, const std::string& file) {
    if (text.size() > kMostLevelText)
        return Error{file, "level.json",
                     "its description would take " + number(static_cast<double>(text.size()) / 1e6) +
                         " MB, more than " + number(static_cast<double>(kMostLevelText) / 1e6) + " MB",
                     "delete posts or courses"};
    Result<Header> header = readHeader(text, file);
    if (!header) return header.error();
    return header.value().level.name;
}

Result<DescribedLevel> levelFromText(const std::string& text, const PartSource& parts, const Context& context) {
    Result<Header> header = readHeader(text, partOf(parts, "level.json"));
    if (!header) return header.error();
    DescribedLevel out{std::move(header.value().level), std::move(header.value().rasters)};
    Level& level = out.level;
    for (LayerEntry& e : header.value().layers) {
        level.layers.push_back(std::move(e.layer));
        Layer& l = level.layers.back();
        for (size_t k = 0; k < std::size(kLayerSlots); ++k) {
            if (e.cameAs[k].empty()) continue;
            if (context.cancelled()) return cancelledError();
            Result<Picture> picture = readPicture(parts, l.id, kLayerSlots[k].name, e.cameAs[k]);
            if (!picture) return picture.error();
            l.*kLayerSlots[k].picture = picture.take();
        }
    }
    for (const auto& [id, from] : header.value().shapes) {
        if (context.cancelled()) return cancelledError();
        Result<Bytes> bytes = parts.read(shapeName(id), kMostShapeBytes);
        if (!bytes) return bytes.error();
        Result<std::shared_ptr<const TakenShape>> shape = decodeShape(bytes.take(), from, partOf(parts, shapeName(id)));
        if (!shape) return shape.error();
        Kind& kind = *level.kind(id);
        kind.taken.shape = shape.take();
        if (const Status fine = checkKind(level, kind, id); !fine)
            return Error{parts.file(), "level.json: " + fine.error().field, fine.error().problem, fine.error().remedy};
    }
    eachRaster(level, [&](const auto& kind, const auto& owner, uint32_t id, auto& grid) {
        using Grid = std::remove_cvref_t<decltype(grid)>;
        if (kind.there && !kind.there(owner)) return;
        auto usual = kind.usual;
        if constexpr (std::is_same_v<std::remove_cvref_t<decltype(owner)>, Layer>)
            if (kind.grid == &Layer::coverage)
                usual = header.value().layers[static_cast<size_t>(level.layerIndex(id))].coverageDefault;
        grid = Grid(columnsOf(level, kind.resolution), rowsOf(level, kind.resolution), usual);
    });
    return out;
}

}  // namespace jam
