// The surfaces of streams as strips of triangles along their lines. What of them is not in the picture is left out, and
// a moving picture takes fewer points where they lie close together.
#pragma once

#include <cstdint>
#include <vector>

#include "frustum.h"
#include "gl.h"
#include "level/level.h"

namespace jam {

class StreamStrips {
public:
    // Vertices come as place, metres along the line, metres aside, metres that it falls each metre, number of the body.
    static constexpr int kFloats = 7;
    // Vertices at a point of the line: one on it too, so that a strip that narrows stays even.
    static constexpr size_t kAcross = 3;
    // Corners of the triangles from one point of a line to another, every stride-th and the last one taken.
    static std::vector<uint32_t> cornersBetween(size_t begin, size_t end, size_t stride);

    void build();
    // Makes them anew. Numbers of streams begin with `firstNumber`.
    void follow(const Level& level, int firstNumber);
    bool empty() const { return reaches_.empty(); }
    // Points that lie within `apart` pixels of each other are joined; 0 for none.
    void draw(const Camera& camera, double apart) const;
    // Corners of the triangles that were drawn last.
    int drawn() const { return drawn_; }

private:
    static constexpr int kDensities = 3;
    static constexpr int kStrides[kDensities] = {1, 4, 16};  // points of the line from one that is taken to the next
    // A short way along a stream that is drawn at one density.
    struct Reach {
        Box box;
        double step = 0;  // metres between points, at most
        struct Corners {
            int first = 0, count = 0;
        } corners[kDensities];
    };
    std::vector<Reach> reaches_;
    GlBuffer vertices_, corners_;
    GlArray array_;
    mutable int drawn_ = 0;
};

}  // namespace jam
