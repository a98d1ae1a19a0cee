#include "files/glb.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <map>
#include <nlohmann/json.hpp>

#include "base/srgb.h"
#include "files/png.h"

namespace jam {

namespace {

using Json = nlohmann::json;

constexpr int kFloat = 5126, kWhole = 5125;                  // componentType
constexpr int kArrayBuffer = 34962, kElementBuffer = 34963;  // target

template <class T>
void put(Bytes& bytes, const T& value) {
    const auto* from = reinterpret_cast<const uint8_t*>(&value);
    bytes.insert(bytes.end(), from, from + sizeof(T));
}

// What the JSON says of a buffer that grows.
class Buffer {
public:
    Json views = Json::array(), accessors = Json::array();
    Bytes bytes;

    // Begins a view that ends with what is put until `close`.
    void open() { begun_ = bytes.size(); }
    int close(int target, int component, const char* type, size_t count, const Json& more = Json::object()) {
        views.push_back(
            {{"buffer", 0}, {"byteOffset", begun_}, {"byteLength", bytes.size() - begun_}, {"target", target}});
        Json accessor = {
            {"bufferView", views.size() - 1}, {"componentType", component}, {"type", type}, {"count", count}};
        accessor.update(more);
        accessors.push_back(std::move(accessor));
        while (bytes.size() % 4) bytes.push_back(0);
        return static_cast<int>(accessors.size()) - 1;
    }
    // A view of bytes that are no numbers.
    int close() {
        views.push_back({{"buffer", 0}, {"byteOffset", begun_}, {"byteLength", bytes.size() - begun_}});
        while (bytes.size() % 4) bytes.push_back(0);
        return static_cast<int>(views.size()) - 1;
    }

private:
    size_t begun_ = 0;
};

// The triangles of a mesh that lie in one of the pictures, or in none: a mesh of their own.
Mesh partOf(const Mesh& all, int picture) {
    if (all.painted.empty()) return picture < 0 ? all : Mesh{};
    Mesh part;
    std::map<uint32_t, uint32_t> place;
    for (size_t t = 0; t + 2 < all.corners.size(); t += 3) {
        if (all.painted[all.corners[t]].picture != picture) continue;
        for (size_t k = 0; k < 3; ++k) {
            const uint32_t c = all.corners[t + k];
            const auto [at, added] = place.try_emplace(c, static_cast<uint32_t>(part.vertices.size()));
            part.corners.push_back(at->second);
            if (added) part.vertices.push_back(all.vertices[c]), part.painted.push_back(all.painted[c]);
        }
    }
    return part;
}

Json addPrimitive(Buffer& buffer, const Mesh& m, int picture) {
    std::array<float, 3> low, high;
    low.fill(1e30f), high.fill(-1e30f);
    buffer.open();
    for (const MeshVertex& v : m.vertices)
        for (size_t i = 0; i < 3; ++i) {
            put(buffer.bytes, v.at[i]);
            low[i] = std::min(low[i], v.at[i]), high[i] = std::max(high[i], v.at[i]);
        }
    Json attributes = {
        {"POSITION", buffer.close(kArrayBuffer, kFloat, "VEC3", m.vertices.size(), {{"min", low}, {"max", high}})}};
    buffer.open();
    for (const MeshVertex& v : m.vertices) {
        // To the last bit of length 1, as validators ask.
        const float l = std::sqrt(v.normal[0] * v.normal[0] + v.normal[1] * v.normal[1] + v.normal[2] * v.normal[2]);
        for (size_t i = 0; i < 3; ++i) put(buffer.bytes, l > 0 ? v.normal[i] / l : i == 1 ? 1.f : 0.f);
    }
    attributes["NORMAL"] = buffer.close(kArrayBuffer, kFloat, "VEC3", m.vertices.size());
    buffer.open();
    if (picture >= 0) {
        for (const InPicture& in : m.painted) put(buffer.bytes, in.u), put(buffer.bytes, in.v);
        attributes["TEXCOORD_0"] = buffer.close(kArrayBuffer, kFloat, "VEC2", m.vertices.size());
    } else {
        for (const MeshVertex& v : m.vertices)
            for (const uint8_t c : v.colour)
                put(buffer.bytes,
                    linearLight(static_cast<float>(c) / 255) * (0.4f + 0.6f * static_cast<float>(v.open) / 255));
        attributes["COLOR_0"] = buffer.close(kArrayBuffer, kFloat, "VEC3", m.vertices.size());
    }
    buffer.open();
    for (const uint32_t c : m.corners) put(buffer.bytes, c);
    const int corners = buffer.close(kElementBuffer, kWhole, "SCALAR", m.corners.size());
    return {{"attributes", attributes}, {"indices", corners}, {"material", picture + 1}};
}

Json addMesh(Buffer& buffer, const NamedMesh& named, int pictures) {
    Json primitives = Json::array();
    for (int picture = -1; picture < pictures; ++picture)
        if (const Mesh part = partOf(*named.mesh, picture); !part.corners.empty())
            primitives.push_back(addPrimitive(buffer, part, picture));
    return {{"name", named.name}, {"primitives", primitives}};
}

// The materials, the first for what lies in no picture; and what they need.
void addPictures(Buffer& buffer, const std::vector<ShapePicture>& pictures, Json& json) {
    const Json rough = {{"metallicFactor", 0}, {"roughnessFactor", 0.9}};
    json["materials"] = Json::array({{{"name", "grown"}, {"doubleSided", true}, {"pbrMetallicRoughness", rough}}});
    for (size_t i = 0; i < pictures.size(); ++i) {
        const ShapePicture& p = pictures[i];
        Pixels pixels{p.width, p.height, 4, 8, {p.rgba.begin(), p.rgba.end()}};
        const Bytes png = encodePng(pixels);
        buffer.open();
        buffer.bytes.insert(buffer.bytes.end(), png.begin(), png.end());
        json["images"].push_back({{"bufferView", buffer.close()}, {"mimeType", "image/png"}});
        json["textures"].push_back({{"source", i}});
        Json painted = rough;
        painted["baseColorTexture"] = {{"index", i}};
        Json material = {
            {"name", "picture " + std::to_string(i + 1)}, {"doubleSided", true}, {"pbrMetallicRoughness", painted}};
        bool through = false;
        for (size_t k = 3; k < p.rgba.size(); k += 4) through = through || p.rgba[k] < 255;
        if (through) material["alphaMode"] = "MASK";
        json["materials"].push_back(std::move(material));
    }
}

void chunk(Bytes& out, const char* type, Bytes bytes, uint8_t fill) {
    while (bytes.size() % 4) bytes.push_back(fill);
    put(out, static_cast<uint32_t>(bytes.size()));
    out.insert(out.end(), type, type + 4);
    out.insert(out.end(), bytes.begin(), bytes.end());
}

}  // namespace

Bytes encodeGlb(const std::vector<NamedMesh>& meshes, const std::vector<ShapePicture>& pictures) {
    Buffer buffer;
    Json all = Json::array(), nodes = Json::array(), scene = Json::array();
    for (const NamedMesh& m : meshes) {
        all.push_back(addMesh(buffer, m, static_cast<int>(pictures.size())));
        nodes.push_back({{"name", m.name}, {"mesh", all.size() - 1}});
        scene.push_back(nodes.size() - 1);
    }
    Json json = {{"asset", {{"version", "2.0"}, {"generator", "Jam Hill"}}},
                 {"scene", 0},
                 {"scenes", Json::array({{{"nodes", scene}}})},
                 {"nodes", nodes},
                 {"meshes", all}};
    addPictures(buffer, pictures, json);
    json["accessors"] = buffer.accessors;
    json["bufferViews"] = buffer.views;
    json["buffers"] = Json::array({{{"byteLength", buffer.bytes.size()}}});
    const std::string text = json.dump();
    Bytes chunks;
    chunk(chunks, "JSON", Bytes(text.begin(), text.end()), ' ');
    const char binary[4] = {'B', 'I', 'N', 0};
    chunk(chunks, binary, std::move(buffer.bytes), 0);
    Bytes out;
    out.insert(out.end(), {'g', 'l', 'T', 'F'});
    put(out, uint32_t{2});
    put(out, static_cast<uint32_t>(chunks.size() + 12));
    out.insert(out.end(), chunks.begin(), chunks.end());
    return out;
}

}  // namespace jam
