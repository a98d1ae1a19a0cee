// The mesh that every patch is drawn with, and the patches as its instances.
#pragma once

#include <array>
#include <cstdint>
#include <span>
#include <vector>

#include "gl.h"
#include "patches.h"

namespace jam {

class PatchMesh {
public:
    // As shaders/ground.vert takes it.
    struct Instance {
        float column, row, step, morphEnd;
        uint32_t firstLayers, nextLayers, count, rims;
    };
    struct Packed {
        unsigned features;  // of ground_programs.h
        int joined;         // quads each way that are drawn as one, but for the patch's rim: 1, 2 or 4
        Instance instance;
        // What can be drawn at once.
        bool alike(const Packed& o) const { return features == o.features && joined == o.joined; }
    };
    // Three vertices a triangle, numbered row by row.
    static std::vector<uint16_t> trianglesOf(int joined, const Rims& rims = kWholeRims);
    // How many there are.
    static int triangles(int joined, const Rims& rims = kWholeRims);
    // For Instance::rims.
    static uint32_t packed(const Rims& rims);

    void build();
    // Patches with as many quads joined.
    void draw(std::span<const Packed> patches) const;

private:
    GlBuffer vertices_, indices_, instances_;
    GlArray array_;
};

}  // namespace jam
