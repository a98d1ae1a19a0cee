// What a kind looks like: triangles with a colour at each corner, standing on the origin.
#pragma once

#include <array>
#include <cstdint>
#include <memory>
#include <string>
#include <vector>

namespace jam {

struct MeshVertex {
    std::array<float, 3> at{};        // metres: x east, y up, z south, when it is not turned
    std::array<float, 3> normal{};    // of length 1
    std::array<uint8_t, 3> colour{};  // sRGB
    uint8_t open = 255;               // how much of the sky it sees, 255 for all

    bool operator==(const MeshVertex&) const = default;
};

// Where a vertex lies in a picture: shares of its sides from its upper left corner, going round beyond them.
struct InPicture {
    float u = 0, v = 0;
    int picture = -1;  // by its place among those of the mesh; -1: in none, it has its colour alone

    bool operator==(const InPicture&) const = default;
};

// Triangles are seen from both sides. The foot is at y = 0.
struct Mesh {
    std::vector<MeshVertex> vertices;
    std::vector<uint32_t> corners;   // three for each triangle
    std::vector<InPicture> painted;  // as many as vertices, or none: without pictures

    float height() const;
    float radius() const;  // from the upright through the foot
    size_t triangles() const { return corners.size() / 3; }
    bool operator==(const Mesh&) const = default;
};

// How much of a mesh is shown: all of it, for what stands near; the same shape in fewer and larger parts; or the fewest
// that still tell what it is.
enum class Detail { near, middle, far };
constexpr int kDetails = 3;

// sRGB and how much it covers, row by row from the upper left corner.
struct ShapePicture {
    int width = 0, height = 0;
    std::vector<uint8_t> rgba;

    bool operator==(const ShapePicture&) const = default;
};

// All that a kind may look like.
struct KindMeshes {
    std::vector<std::array<Mesh, kDetails>> variants;
    std::vector<ShapePicture> pictures;
    float height = 0, radius = 0;  // metres, of the largest, near
    float below = 0;               // metres that each reaches below its foot at least

    // Adds a variant and takes its measures into account.
    void add(std::array<Mesh, kDetails> details);
};

// What was taken in from a file in place of something that grows (files/shape_file.h). It does not change.
struct TakenShape {
    std::string from;          // the file's name
    std::vector<uint8_t> glb;  // as it is kept: binary glTF 2.0, in metres, standing on the origin
    std::shared_ptr<const KindMeshes> meshes;
};

}  // namespace jam
