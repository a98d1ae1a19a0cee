#include "files/read_gltf.h"

#include <cmath>
#include <cstring>
#include <fstream>  // before tiny_gltf.h, which forgets it
#include <glm/gtc/quaternion.hpp>
#include <glm/gtc/type_ptr.hpp>
#include <glm/mat4x4.hpp>
#include <map>
#include <nlohmann/json.hpp>

#include "base/srgb.h"

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wall"
#pragma GCC diagnostic ignored "-Wextra"
#pragma GCC diagnostic ignored "-Wpedantic"
#pragma GCC diagnostic ignored "-Wstringop-overflow"
#define TINYGLTF_IMPLEMENTATION
#define TINYGLTF_NO_STB_IMAGE
#define TINYGLTF_NO_STB_IMAGE_WRITE
#define TINYGLTF_NO_FS
#define TINYGLTF_NO_INCLUDE_JSON
#include <tiny_gltf.h>
#pragma GCC diagnostic pop

namespace jam {

namespace {

using tinygltf::Accessor;
using tinygltf::Model;

constexpr int kDeepest = 64;  // nodes within nodes
constexpr size_t kMostNodes = 100'000;

// What of a buffer an accessor names, checked against what there is.
struct Values {
    const uint8_t* bytes = nullptr;
    size_t count = 0, stride = 0;
    int component = 0, parts = 0;
    bool normalised = false;

    double at(size_t i, int part) const {
        const uint8_t* from = bytes + i * stride;
        const auto read = [&]<class T>(T) {
            T v;
            std::memcpy(&v, from + static_cast<size_t>(part) * sizeof(T), sizeof(T));
            return v;
        };
        switch (component) {
            case TINYGLTF_COMPONENT_TYPE_FLOAT: return static_cast<double>(read(float{}));
            case TINYGLTF_COMPONENT_TYPE_UNSIGNED_BYTE: return read(uint8_t{}) / (normalised ? 255.0 : 1.0);
            case TINYGLTF_COMPONENT_TYPE_UNSIGNED_SHORT: return read(uint16_t{}) / (normalised ? 65535.0 : 1.0);
            case TINYGLTF_COMPONENT_TYPE_UNSIGNED_INT: return read(uint32_t{});
            case TINYGLTF_COMPONENT_TYPE_BYTE: return std::max(read(int8_t{}) / (normalised ? 127.0 : 1.0), -128.0);
            default: return std::max(read(int16_t{}) / (normalised ? 32767.0 : 1.0), -32768.0);
        }
    }
};

class Reading {
public:
    Reading(const Model& model, std::string name) : model_(model), name_(std::move(name)) {}

    Result<ReadShape> read() {
        if (const Status s = readPictures(); !s) return s.error();
        std::vector<int> roots;
        if (!model_.scenes.empty()) {
            const int scene = model_.defaultScene >= 0 ? model_.defaultScene : 0;
            if (static_cast<size_t>(scene) >= model_.scenes.size()) return broken("scene");
            roots = model_.scenes[static_cast<size_t>(scene)].nodes;
        } else {
            for (size_t i = 0; i < model_.nodes.size(); ++i) roots.push_back(static_cast<int>(i));
        }
        for (const int root : roots)
            if (const Status s = readNode(root, glm::dmat4(1), 0); !s) return s.error();
        return std::move(shape_);
    }

private:
    Error broken(const std::string& field) const {
        return {name_, field, "it says what the file does not hold", "export it anew"};
    }

    Status readPictures() {
        for (size_t i = 0; i < model_.materials.size(); ++i) {
            const auto& base = model_.materials[i].pbrMetallicRoughness;
            const int texture = base.baseColorTexture.index;
            if (texture < 0) continue;
            if (static_cast<size_t>(texture) >= model_.textures.size()) return broken("materials.baseColorTexture");
            const int image = model_.textures[static_cast<size_t>(texture)].source;
            if (image < 0) continue;
            if (static_cast<size_t>(image) >= model_.images.size()) return broken("textures.source");
            const tinygltf::Image& picture = model_.images[static_cast<size_t>(image)];
            if (picture.image.empty()) continue;
            if (shape_.pictures.size() >= kMostShapePictures)
                return Error{name_, "materials",
                             "there are more than " + std::to_string(kMostShapePictures) + " pictures",
                             "put several on one picture"};
            ShapePicture made{picture.width, picture.height, picture.image};
            if (made.width <= 0 || made.height <= 0 ||
                made.rgba.size() != 4 * static_cast<size_t>(made.width) * static_cast<size_t>(made.height))
                return broken("images");
            // What the material's own colour takes from it is taken from the picture.
            for (size_t c = 0; c < 3 && base.baseColorFactor.size() == 4; ++c)
                if (base.baseColorFactor[c] != 1)
                    for (size_t p = c; p < made.rgba.size(); p += 4)
                        made.rgba[p] =
                            srgbByte(static_cast<double>(linearLight(static_cast<float>(made.rgba[p]) / 255)) *
                                     base.baseColorFactor[c]);
            pictureOf_[static_cast<int>(i)] = static_cast<int>(shape_.pictures.size());
            shape_.pictures.push_back(std::move(made));
        }
        return {};
    }

    static uint8_t srgbByte(double linear) {
        return static_cast<uint8_t>(std::lround(255 * srgbOf(static_cast<float>(std::clamp(linear, 0.0, 1.0)))));
    }

    Status readNode(int index, const glm::dmat4& above, int deep) {
        if (index < 0 || static_cast<size_t>(index) >= model_.nodes.size()) return broken("nodes");
        if (deep > kDeepest || ++nodes_ > kMostNodes)
            return Error{name_, "nodes", "they lie in each other without end", "export it anew"};
        const tinygltf::Node& n = model_.nodes[static_cast<size_t>(index)];
        glm::dmat4 own(1);
        if (n.matrix.size() == 16) own = glm::make_mat4(n.matrix.data());
        else {
            if (n.translation.size() == 3) own[3] = glm::dvec4(n.translation[0], n.translation[1], n.translation[2], 1);
            if (n.rotation.size() == 4)
                own *= glm::mat4_cast(glm::dquat(n.rotation[3], n.rotation[0], n.rotation[1], n.rotation[2]));
            if (n.scale.size() == 3)
                for (int i = 0; i < 3; ++i) own[i] *= n.scale[static_cast<size_t>(i)];
        }
        const glm::dmat4 all = deep == 0 && own == glm::dmat4(1) ? own : above * own;
        if (n.mesh >= 0) {
            if (static_cast<size_t>(n.mesh) >= model_.meshes.size()) return broken("nodes.mesh");
            for (const tinygltf::Primitive& p : model_.meshes[static_cast<size_t>(n.mesh)].primitives)
                if (const Status s = readPrimitive(p, all); !s) return s;
        }
        for (const int child : n.children)
            if (const Status s = readNode(child, all, deep + 1); !s) return s;
        return {};
    }

    // False when the accessor is not there, or says more than its buffer holds.
    bool valuesOf(int index, int parts, Values& v) const {
        if (index < 0 || static_cast<size_t>(index) >= model_.accessors.size()) return false;
        const Accessor& a = model_.accessors[static_cast<size_t>(index)];
        if (a.sparse.isSparse || a.bufferView < 0 || static_cast<size_t>(a.bufferView) >= model_.bufferViews.size())
            return false;
        const tinygltf::BufferView& view = model_.bufferViews[static_cast<size_t>(a.bufferView)];
        if (view.buffer < 0 || static_cast<size_t>(view.buffer) >= model_.buffers.size()) return false;
        const auto& data = model_.buffers[static_cast<size_t>(view.buffer)].data;
        const int size = tinygltf::GetComponentSizeInBytes(static_cast<uint32_t>(a.componentType));
        v.parts = tinygltf::GetNumComponentsInType(static_cast<uint32_t>(a.type));
        if (size <= 0 || size > 4 || v.parts < parts) return false;
        v.component = a.componentType, v.normalised = a.normalized;
        const size_t each = static_cast<size_t>(size) * static_cast<size_t>(v.parts);
        v.stride = view.byteStride ? view.byteStride : each;
        v.count = a.count;
        if (v.stride < each || v.stride > 65536 || v.count > data.size()) return false;
        if (view.byteOffset > data.size() || a.byteOffset > data.size()) return false;
        const size_t begin = view.byteOffset + a.byteOffset;
        if (v.count > 0 && begin + (v.count - 1) * v.stride + each > data.size()) return false;
        v.bytes = data.data() + begin;
        return true;
    }

    Status readPrimitive(const tinygltf::Primitive& p, const glm::dmat4& to) {
        if (p.mode != TINYGLTF_MODE_TRIANGLES && p.mode != -1) return {};
        const auto attribute = [&](const char* name) {
            const auto at = p.attributes.find(name);
            return at == p.attributes.end() ? -1 : at->second;
        };
        Values at, normal, colour, uv, corners;
        if (attribute("POSITION") < 0) return {};
        if (!valuesOf(attribute("POSITION"), 3, at)) return broken("POSITION");
        const bool normals = attribute("NORMAL") >= 0, colours = attribute("COLOR_0") >= 0;
        if (normals && (!valuesOf(attribute("NORMAL"), 3, normal) || normal.count < at.count)) return broken("NORMAL");
        if (colours && (!valuesOf(attribute("COLOR_0"), 3, colour) || colour.count < at.count))
            return broken("COLOR_0");
        if (p.indices >= 0 && !valuesOf(p.indices, 1, corners)) return broken("indices");
        int picture = -1, set = 0;
        std::array<double, 3> factor{1, 1, 1};
        if (p.material >= 0) {
            if (static_cast<size_t>(p.material) >= model_.materials.size()) return broken("material");
            const auto& base = model_.materials[static_cast<size_t>(p.material)].pbrMetallicRoughness;
            if (const auto found = pictureOf_.find(p.material); found != pictureOf_.end()) picture = found->second;
            for (size_t c = 0; c < 3 && base.baseColorFactor.size() == 4; ++c) factor[c] = base.baseColorFactor[c];
            set = base.baseColorTexture.texCoord;
        }
        const std::string uvName = "TEXCOORD_" + std::to_string(std::clamp(set, 0, 99));
        if (picture >= 0 && attribute(uvName.c_str()) < 0) picture = -1;
        if (picture >= 0 && (!valuesOf(attribute(uvName.c_str()), 2, uv) || uv.count < at.count)) return broken(uvName);
        const size_t triangles = (p.indices >= 0 ? corners.count : at.count) / 3;
        Mesh& m = shape_.mesh;
        if (m.triangles() + triangles > kMostShapeTriangles || m.vertices.size() + at.count > 3 * kMostShapeTriangles)
            return Error{name_, "", "it has more than " + std::to_string(kMostShapeTriangles) + " triangles",
                         "make a simpler one of it"};
        const auto first = static_cast<uint32_t>(m.vertices.size());
        const size_t firstCorner = m.corners.size();
        const glm::dmat3 turn(to);
        const glm::dmat3 normalTurn = glm::determinant(turn) != 0 ? glm::transpose(glm::inverse(turn)) : turn;
        for (size_t i = 0; i < at.count; ++i) {
            MeshVertex v;
            const glm::dvec4 place = to * glm::dvec4(at.at(i, 0), at.at(i, 1), at.at(i, 2), 1);
            glm::dvec3 n(0);
            if (normals) n = normalTurn * glm::dvec3(normal.at(i, 0), normal.at(i, 1), normal.at(i, 2));
            const double length = glm::length(n);
            for (int k = 0; k < 3; ++k) {
                v.at[static_cast<size_t>(k)] = static_cast<float>(place[k]);
                if (!std::isfinite(v.at[static_cast<size_t>(k)]))
                    return Error{name_, "POSITION", "one is no number", "export it anew"};
                // As it stands when it is one long already, to the bit.
                v.normal[static_cast<size_t>(k)] = static_cast<float>(
                    length > 1e-12 && std::isfinite(length) ? std::abs(length - 1) < 1e-6 ? n[k] : n[k] / length : 0);
                v.colour[static_cast<size_t>(k)] =
                    srgbByte(factor[static_cast<size_t>(k)] * (colours ? colour.at(i, k) : 1.0));
            }
            m.vertices.push_back(v);
            InPicture in;
            if (picture >= 0) {
                in = {static_cast<float>(uv.at(i, 0)), static_cast<float>(uv.at(i, 1)), picture};
                if (!std::isfinite(in.u) || !std::isfinite(in.v)) in.u = in.v = 0;
            }
            m.painted.push_back(in);
        }
        for (size_t i = 0; i < triangles * 3; ++i) {
            const double c = p.indices >= 0 ? corners.at(i, 0) : static_cast<double>(i);
            if (!(c >= 0 && c < static_cast<double>(at.count))) return broken("indices");
            m.corners.push_back(first + static_cast<uint32_t>(c));
        }
        if (!normals) giveNormals(m, firstCorner);
        return {};
    }

    const Model& model_;
    const std::string name_;
    std::map<int, int> pictureOf_;  // by materials
    size_t nodes_ = 0;
    ReadShape shape_;
};

}  // namespace

Result<ReadShape> readGltf(const Bytes& bytes, bool binary, const std::string& name, const Beside& beside) {
    tinygltf::TinyGLTF reader;
    Model model;
    std::string error, warning;
    std::optional<Error> refused;
    // Every file beside it is asked for here, and nowhere else.
    struct Files {
        const Beside& beside;
        std::optional<Error>& refused;
    } files{beside, refused};
    tinygltf::FsCallbacks calls{};
    calls.FileExists = [](const std::string&, void*) { return true; };
    calls.ExpandFilePath = [](const std::string& path, void*) { return path; };
    calls.ReadWholeFile = [](std::vector<unsigned char>* out, std::string* said, const std::string& path, void* user) {
        auto& f = *static_cast<Files*>(user);
        Result<Bytes> read = f.beside(path);
        if (!read) {
            if (!f.refused) f.refused = read.error();
            if (said) *said += read.error().sentence();
            return false;
        }
        *out = read.take();
        return true;
    };
    calls.WriteWholeFile = [](std::string*, const std::string&, const std::vector<unsigned char>&, void*) {
        return false;
    };
    calls.user_data = &files;
    reader.SetFsCallbacks(calls);
    struct Pictures {
        const std::string& name;
        std::optional<Error>& refused;
    } pictures{name, refused};
    reader.SetImageLoader(
        [](tinygltf::Image* image, const int, std::string* said, std::string*, int, int, const unsigned char* from,
           int size, void* user) {
            auto& p = *static_cast<Pictures*>(user);
            Result<ShapePicture> made = decodeShapePicture(from, static_cast<size_t>(std::max(size, 0)), p.name);
            if (!made) {
                if (!p.refused) p.refused = made.error();
                if (said) *said += made.error().sentence();
                return false;
            }
            ShapePicture picture = made.take();
            image->width = picture.width, image->height = picture.height, image->component = 4, image->bits = 8;
            image->pixel_type = TINYGLTF_COMPONENT_TYPE_UNSIGNED_BYTE;
            image->image = std::move(picture.rgba);
            return true;
        },
        &pictures);
    bool read = false;
    if (bytes.size() > kMostShapeBytes)
        return Error{name, "", "it is larger than " + std::to_string(kMostShapeBytes >> 20) + " MB",
                     "make a simpler one of it"};
    const auto size = static_cast<unsigned>(bytes.size());
    try {
        // An empty folder: names come as the file gives them.
        read = binary ? reader.LoadBinaryFromMemory(&model, &error, &warning, bytes.data(), size, "")
                      : reader.LoadASCIIFromString(&model, &error, &warning,
                                                   reinterpret_cast<const char*>(bytes.data()), size, "");
    } catch (const std::bad_alloc&) {
        return Error{name, "", "there is too little memory for it", "make a simpler one of it"};
    } catch (const std::exception&) {
        read = false;
    }
    if (refused) return *refused;
    if (!read) return Error{name, "", "it is no glTF 2.0, or it is damaged", "export it anew"};
    for (const std::string& needed : model.extensionsRequired)
        if (needed != "KHR_materials_unlit" && needed != "KHR_texture_transform")
            return Error{name, "extensionsRequired", "it needs " + needed + ", which is not read here",
                         "export it without"};
    return Reading(model, name).read();
}

}  // namespace jam
