#include "files/glb.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <nlohmann/json.hpp>

#include "base/srgb.h"

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

private:
    size_t begun_ = 0;
};

Json addMesh(Buffer& buffer, const NamedMesh& named) {
    const Mesh& m = *named.mesh;
    std::array<float, 3> low, high;
    low.fill(1e30f), high.fill(-1e30f);
    buffer.open();
    for (const MeshVertex& v : m.vertices)
        for (size_t i = 0; i < 3; ++i) {
            put(buffer.bytes, v.at[i]);
            low[i] = std::min(low[i], v.at[i]), high[i] = std::max(high[i], v.at[i]);
        }
    const int at = buffer.close(kArrayBuffer, kFloat, "VEC3", m.vertices.size(), {{"min", low}, {"max", high}});
    buffer.open();
    for (const MeshVertex& v : m.vertices) {
        // To the last bit of length 1, as validators ask.
        const float l = std::sqrt(v.normal[0] * v.normal[0] + v.normal[1] * v.normal[1] + v.normal[2] * v.normal[2]);
        for (const float n : v.normal) put(buffer.bytes, n / l);
    }
    const int normal = buffer.close(kArrayBuffer, kFloat, "VEC3", m.vertices.size());
    buffer.open();
    for (const MeshVertex& v : m.vertices)
        for (const uint8_t c : v.colour)
            put(buffer.bytes,
                linearLight(static_cast<float>(c) / 255) * (0.4f + 0.6f * static_cast<float>(v.open) / 255));
    const int colour = buffer.close(kArrayBuffer, kFloat, "VEC3", m.vertices.size());
    buffer.open();
    for (const uint32_t c : m.corners) put(buffer.bytes, c);
    const int corners = buffer.close(kElementBuffer, kWhole, "SCALAR", m.corners.size());
    return {{"name", named.name},
            {"primitives", Json::array({{{"attributes", {{"POSITION", at}, {"NORMAL", normal}, {"COLOR_0", colour}}},
                                         {"indices", corners},
                                         {"material", 0}}})}};
}

void chunk(Bytes& out, const char* type, Bytes bytes, uint8_t fill) {
    while (bytes.size() % 4) bytes.push_back(fill);
    put(out, static_cast<uint32_t>(bytes.size()));
    out.insert(out.end(), type, type + 4);
    out.insert(out.end(), bytes.begin(), bytes.end());
}

}  // namespace

Bytes encodeGlb(const std::vector<NamedMesh>& meshes) {
    Buffer buffer;
    Json all = Json::array(), nodes = Json::array(), scene = Json::array();
    for (const NamedMesh& m : meshes) {
        all.push_back(addMesh(buffer, m));
        nodes.push_back({{"name", m.name}, {"mesh", all.size() - 1}});
        scene.push_back(nodes.size() - 1);
    }
    const Json json = {
        {"asset", {{"version", "2.0"}, {"generator", "Jam Hill"}}},
        {"scene", 0},
        {"scenes", Json::array({{{"nodes", scene}}})},
        {"nodes", nodes},
        {"meshes", all},
        {"materials", Json::array({{{"name", "grown"},
                                    {"doubleSided", true},
                                    {"pbrMetallicRoughness", {{"metallicFactor", 0}, {"roughnessFactor", 0.9}}}}})},
        {"accessors", buffer.accessors},
        {"bufferViews", buffer.views},
        {"buffers", Json::array({{{"byteLength", buffer.bytes.size()}}})}};
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
