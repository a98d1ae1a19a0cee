// What a kind looks like: triangles with a colour at each corner, standing on the origin.
#pragma once

#include <array>
#include <cstdint>
#include <vector>

namespace jam {

struct MeshVertex {
    std::array<float, 3> at{};        // metres: x east, y up, z south, when it is not turned
    std::array<float, 3> normal{};    // of length 1
    std::array<uint8_t, 3> colour{};  // sRGB
    uint8_t open = 255;               // how much of the sky it sees, 255 for all

    bool operator==(const MeshVertex&) const = default;
};

// Triangles are seen from both sides. The foot is at y = 0.
struct Mesh {
    std::vector<MeshVertex> vertices;
    std::vector<uint32_t> corners;  // three for each triangle

    float height() const;
    float radius() const;  // from the upright through the foot
    size_t triangles() const { return corners.size() / 3; }
    bool operator==(const Mesh&) const = default;
};

}  // namespace jam
