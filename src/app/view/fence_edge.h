// The edge of the fence on the ground: short pieces that are told apart by place and time, so that the edge seems to
// move.
#pragma once

#include <glm/vec3.hpp>
#include <QPainter>
#include <vector>

#include "level/level.h"
#include "render/camera.h"
#include "survey/pyramid.h"

namespace jam {

class FenceEdge {
public:
    // Takes the edge from a level: where the fence is half. True when it is another one now.
    // `again`: also when the fence is the same, because the ground is another.
    bool follow(const Level& level, bool again = false);
    bool empty() const { return pieces_.empty(); }
    // Finds out what the ground hides from the camera; until it is called again after the camera moved, nothing is
    // hidden.
    void hide(const Level& level, const HeightPyramid& pyramid, const Camera& camera);
    void showAll() { hidden_.clear(); }
    // `step` counts up as time goes. Device pixels of the camera.
    void paint(QPainter& p, const Camera& camera, int step, double unit) const;

    struct Piece {
        glm::dvec3 from, to;
        int phase;  // which of kPhases it belongs to, by its place
    };
    const std::vector<Piece>& pieces() const { return pieces_; }

private:
    static constexpr int kPhases = 4;
    static constexpr size_t kMostPieces = 6000;

    Fence fence_;
    bool fenced_ = false;
    std::vector<Piece> pieces_;
    std::vector<bool> hidden_;  // by piece; empty when none is
};

}  // namespace jam
