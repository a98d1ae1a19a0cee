#include <cmath>
#include <map>
#include <sstream>

#include "base/srgb.h"
#include "files/read_gltf.h"

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wall"
#pragma GCC diagnostic ignored "-Wextra"
#pragma GCC diagnostic ignored "-Wpedantic"
#pragma GCC diagnostic ignored "-Wconversion"
#define TINYOBJLOADER_IMPLEMENTATION
#include <tiny_obj_loader.h>
#pragma GCC diagnostic pop

namespace jam {

namespace {

constexpr size_t kMostMaterials = 1000;

// Materials from files beside it. One that is missing leaves its triangles grey; a picture that is wrong is an error.
class Materials : public tinyobj::MaterialReader {
public:
    Materials(const Beside& beside) : beside_(beside) {}
    bool operator()(const std::string& name, std::vector<tinyobj::material_t>* materials,
                    std::map<std::string, int>* byName, std::string* warning, std::string* error) override {
        const Result<Bytes> read = beside_(name);
        if (!read) return false;
        std::istringstream text(std::string(read.value().begin(), read.value().end()));
        tinyobj::LoadMtl(byName, materials, &text, warning, error);
        return true;
    }

private:
    const Beside& beside_;
};

uint8_t byteOf(double linear) {
    return static_cast<uint8_t>(std::lround(255 * srgbOf(static_cast<float>(std::clamp(linear, 0.0, 1.0)))));
}

}  // namespace

Result<ReadShape> readObj(const Bytes& bytes, const std::string& name, const Beside& beside) {
    tinyobj::attrib_t all;
    std::vector<tinyobj::shape_t> shapes;
    std::vector<tinyobj::material_t> materials;
    std::string warning, error;
    Materials reader(beside);
    // What is no text at all is told before it is gone through.
    if (std::find(bytes.begin(), bytes.end(), uint8_t{0}) != bytes.end())
        return Error{name, "", "it is no OBJ, or it is damaged", "export it anew"};
    std::istringstream text(std::string(bytes.begin(), bytes.end()));
    bool read = false;
    try {
        read = tinyobj::LoadObj(&all, &shapes, &materials, &warning, &error, &text, &reader, true, false);
    } catch (const std::bad_alloc&) {
        return Error{name, "", "there is too little memory for it", "make a simpler one of it"};
    } catch (const std::exception&) {
        read = false;
    }
    if (!read) return Error{name, "", "it is no OBJ, or it is damaged", "export it anew"};
    ReadShape shape;
    std::map<int, int> pictureOf;
    for (size_t i = 0; i < materials.size() && i < kMostMaterials; ++i) {
        if (materials[i].diffuse_texname.empty()) continue;
        if (shape.pictures.size() >= kMostShapePictures)
            return Error{name, "materials", "there are more than " + std::to_string(kMostShapePictures) + " pictures",
                         "put several on one picture"};
        const Result<Bytes> file = beside(materials[i].diffuse_texname);
        if (!file) return file.error();
        Result<ShapePicture> picture = decodeShapePicture(file.value().data(), file.value().size(),
                                                          materials[i].diffuse_texname);
        if (!picture) return picture.error();
        pictureOf[static_cast<int>(i)] = static_cast<int>(shape.pictures.size());
        shape.pictures.push_back(picture.take());
    }
    Mesh& m = shape.mesh;
    size_t triangles = 0;
    for (const auto& s : shapes) triangles += s.mesh.indices.size() / 3;
    if (triangles > kMostShapeTriangles)
        return Error{name, "", "it has more than " + std::to_string(kMostShapeTriangles) + " triangles",
                     "make a simpler one of it"};
    bool normals = true;
    // One vertex for each that differs.
    std::map<std::array<int, 4>, uint32_t> known;
    for (const auto& s : shapes)
        for (size_t t = 0; t + 2 < s.mesh.indices.size(); t += 3) {
            const int material = t / 3 < s.mesh.material_ids.size() ? s.mesh.material_ids[t / 3] : -1;
            const auto found = pictureOf.find(material);
            for (size_t k = 0; k < 3; ++k) {
                const tinyobj::index_t& i = s.mesh.indices[t + k];
                const auto within = [](int index, size_t count, size_t parts) {
                    return index >= 0 && (static_cast<size_t>(index) + 1) * parts <= count;
                };
                if (!within(i.vertex_index, all.vertices.size(), 3))
                    return Error{name, "f", "it names a vertex that is not there", "export it anew"};
                const bool hasNormal = within(i.normal_index, all.normals.size(), 3),
                           hasUv = found != pictureOf.end() && within(i.texcoord_index, all.texcoords.size(), 2);
                const auto [at, added] = known.try_emplace(
                    {i.vertex_index, hasNormal ? i.normal_index : -1, hasUv ? i.texcoord_index : -1, material},
                    static_cast<uint32_t>(m.vertices.size()));
                m.corners.push_back(at->second);
                if (!added) continue;
                normals = normals && hasNormal;
                MeshVertex v;
                for (size_t c = 0; c < 3; ++c) {
                    v.at[c] = all.vertices[3 * static_cast<size_t>(i.vertex_index) + c];
                    if (hasNormal) v.normal[c] = all.normals[3 * static_cast<size_t>(i.normal_index) + c];
                    if (!std::isfinite(v.at[c]) || !std::isfinite(v.normal[c]))
                        return Error{name, "v", "one is no number", "export it anew"};
                    v.colour[c] = material >= 0 && static_cast<size_t>(material) < materials.size()
                                      ? byteOf(static_cast<double>(materials[static_cast<size_t>(material)].diffuse[c]))
                                      : 180;
                }
                const float length = std::hypot(v.normal[0], v.normal[1], v.normal[2]);
                for (float& n : v.normal) n = length > 1e-6f ? n / length : 0;
                m.vertices.push_back(v);
                InPicture in;
                if (hasUv) {
                    // Its pictures begin at the lower left corner.
                    in = {all.texcoords[2 * static_cast<size_t>(i.texcoord_index)],
                          1 - all.texcoords[2 * static_cast<size_t>(i.texcoord_index) + 1], found->second};
                    if (!std::isfinite(in.u) || !std::isfinite(in.v)) in.u = in.v = 0;
                }
                m.painted.push_back(in);
            }
        }
    if (!normals) giveNormals(m, 0);
    return shape;
}

}  // namespace jam
