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
        int joined;         // quads each way that are drawn as one, but for the patch's rim: 1, 2 or 4
        Instance instance;
        // What can be drawn at once.
        bool alike(const Packed& o) const { return features == o.features && joined == o.joined; }
    };
    // Three vertices a triangle, numbered row by row. Every vertex of the rim is in it, so that patches meet.
    static std::vector<uint16_t> trianglesOf(int joined);
    // How many there are.
    static int triangles(int joined);

    void build();
    // The patches that draw() is asked for from now on.
    void take(const std::vector<Packed>& patches);
    // These of them, which must be alike.
    void draw(size_t first, size_t count, int joined) const;

private:
    GlBuffer vertices_, indices_, instances_;
    GlArray array_;
};

}  // namespace jam
