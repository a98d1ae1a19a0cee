// The mesh that every patch is drawn with, and the patches as its instances.
#pragma once

#include <cstdint>
#include <vector>

#include "gl.h"
#include "patches.h"

namespace jam {

class PatchMesh {
public:
    // As shaders/ground.vert takes it.
    struct Instance {
        float column, row, step, morphEnd;
        uint32_t firstLayers, nextLayers, count, unused;
    };
    struct Packed {
        unsigned features;  // of ground_programs.h
        Instance instance;
    };
    static constexpr int kTriangles = 2 * Patch::kQuads * Patch::kQuads;  // of a patch

    void build();
    // The patches that draw() is asked for from now on.
    void take(const std::vector<Packed>& patches);
    void draw(size_t first, size_t count) const;

private:
    static constexpr int kIndices = 3 * kTriangles;
    GlBuffer vertices_, indices_, instances_;
    GlArray array_;
};

}  // namespace jam
