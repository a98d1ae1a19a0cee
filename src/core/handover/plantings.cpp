// What stands on the ground: a list of all of it, and the mesh of each kind.
#include <algorithm>
#include <cstdio>

#include "dress/kinds.h"
#include "dress/plantings.h"
#include "files/glb.h"
#include "files/kinds_json.h"
#include "files/weights_file.h"
#include "grow/recipe.h"
#include "handover/handover.h"

namespace jam {

namespace {

const WriterOption kOptions[] = {{"plantings-table", "As a table too", "plantings.csv, a line for each"},
                                 {"kind-meshes", "Meshes of the kinds", "A .glb for each kind, with all its variants"}};

bool dressed(const Level& level) { return !level.kinds.empty(); }

std::string facts(const Level& level, const HandoverWish& wish) {
    std::string text = "plantings.json";
    if (wish.is("plantings-table")) text += ", plantings.csv";
    text += ": all that stands, of " + std::to_string(level.kinds.size()) +
            (level.kinds.size() == 1 ? " kind" : " kinds");
    if (wish.is("kind-meshes")) text += "\nkinds/01-….glb: the mesh of each";
    return text;
}

// "kinds/03-damson-tree.glb".
std::string meshFile(const Level& level, size_t i) {
    return std::string("kinds/") + (i < 9 ? "0" : "") + std::to_string(i + 1) + "-" + plainName(level.kinds[i].name) +
           ".glb";
}

Status append(AtomicFile& file, std::string& text, bool all) {
    if (text.size() < (1u << 20) && !all) return {};
    const Status s = file.append(reinterpret_cast<const uint8_t*>(text.data()), text.size());
    text.clear();
    return s;
}

// One planting, for both files; the commas alone differ.
std::string lineOf(const Planting& p, const char* comma) {
    const std::array<float, 4> q = quaternionOf(p);
    char line[320];
    std::snprintf(line, sizeof line, "%.3f%s%.3f%s%.3f%s%.2f%s%.4f%s%d%s%.5f%s%.5f%s%.5f%s%.5f", p.x, comma,
                  static_cast<double>(p.y), comma, p.z, comma, static_cast<double>(p.turn), comma,
                  static_cast<double>(p.size), comma, p.variant, comma, static_cast<double>(q[0]), comma,
                  static_cast<double>(q[1]), comma, static_cast<double>(q[2]), comma, static_cast<double>(q[3]));
    return line;
}

// A name between quotes of a table, which are doubled inside.
std::string quoted(const std::string& name) {
    std::string text = "\"";
    for (const char c : name) text += c == '"' ? "\"\"" : std::string(1, c);
    return text + "\"";
}

Status writeList(const Level& level, AtomicFile& list, AtomicFile* table, const Context& context) {
    Plantings all(level);
    if (!all.prepare(level.bounds(), context)) return cancelledError();
    std::string text =
                    "{\"format\": \"jamhill-plantings\", \"version\": 1,\n\"columns\": [\"kind\", \"x\", \"y\", \"z\", "
                    "\"turn\", \"size\", \"variant\", "
                    "\"qx\", \"qy\", \"qz\", \"qw\"],\n\"plantings\": [",
                rows = "kind,x,y,z,turn,size,variant,qx,qy,qz,qw,blocks\n";
    bool first = true;
    static const char* const kBlocks[] = {"nothing", "cylinder", "capsule", "box", "hull"};
    for (size_t k = 0; k < level.kinds.size(); ++k) {
        const Kind& kind = level.kinds[k];
        for (int tz = 0; tz < all.tilesDown(); ++tz) {
            for (int tx = 0; tx < all.tilesAcross(); ++tx)
                for (const Planting& p : all.tile(k, tx, tz)) {
                    text += (first ? "\n[" : ",\n[") + std::to_string(k) + ", " + lineOf(p, ", ") + "]";
                    first = false;
                    if (table)
                        rows += quoted(kind.name) + "," + lineOf(p, ",") + "," +
                                kBlocks[static_cast<size_t>(kind.blocks)] + "\n";
                }
            if (const Status s = append(list, text, false); !s) return s;
            if (table)
                if (const Status s = append(*table, rows, false); !s) return s;
            if (context.cancelled()) return cancelledError();
        }
        context.report(static_cast<double>(k + 1) / static_cast<double>(level.kinds.size()));
    }
    text += "\n]}\n";
    if (const Status s = append(list, text, true); !s) return s;
    return table ? append(*table, rows, true) : Status();
}

Status writeMesh(const Kind& kind, AtomicFile& file) {
    const auto grown = meshesOf(kind);
    std::vector<NamedMesh> meshes;
    for (size_t v = 0; v < grown->variants.size(); ++v)
        meshes.push_back({kind.name + " " + std::to_string(v), &grown->variants[v][0]});
    const Bytes bytes = encodeGlb(meshes, grown->pictures);
    return file.append(bytes.data(), bytes.size());
}

Status write(const Level& level, const HandoverWish& wish, HandoverFiles& files, const Context& context) {
    Json& said = files.manifest["plantings"];
    const Result<AtomicFile*> list = files.begin("plantings.json");
    if (!list) return list.error();
    said["list"] = {{"file", "plantings.json"}};
    AtomicFile* table = nullptr;
    if (wish.is("plantings-table")) {
        const Result<AtomicFile*> made = files.begin("plantings.csv");
        if (!made) return made.error();
        table = made.value();
        said["table"] = {{"file", "plantings.csv"}};
    }
    said["kinds"] = Json::array();
    for (size_t i = 0; i < level.kinds.size(); ++i) {
        const Kind& k = level.kinds[i];
        Json kind = {{"name", k.name},
                     {"height", heightOf(k)},
                     {"blocks", kindToJson(k).value("blocks", "nothing")},
                     {"blockRadius", k.blockRadius},
                     {"blockHeight", k.blockHeight}};
        if (wish.is("kind-meshes")) {
            const std::string name = meshFile(level, i);
            const Result<AtomicFile*> mesh = files.begin(name);
            if (!mesh) return mesh.error();
            if (const Status s = writeMesh(k, *mesh.value()); !s) return s;
            kind["mesh"] = {{"file", name}, {"variants", k.growth.variants}};
        }
        said["kinds"].push_back(std::move(kind));
    }
    return writeList(level, *list.value(), table, context);
}

}  // namespace

extern const Writer plantingsWriter;
const Writer plantingsWriter = {"plantings",
                                "What stands",
                                "Where each planting stands, how it is turned and how large it is",
                                true,
                                kOptions,
                                dressed,
                                facts,
                                3,
                                write};

}  // namespace jam
