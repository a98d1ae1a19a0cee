#include <algorithm>

#include "renderer.h"

namespace jam {

PixelRect pixelsOf(const Level& l, const Region& ground, HeightSpan span, const Camera& camera) {
    if (ground.empty()) return {};
    span.low -= l.cliff;  // what hangs from the edge of the land
    const Region r = ground.grown(2).clipped(l.bounds());
    const Projector onto(camera);
    double x0 = 1e9, y0 = 1e9, x1 = -1e9, y1 = -1e9;
    for (int k = 0; k < 8; ++k) {
        const glm::dvec3 corner{l.originX + l.spacing * (k & 1 ? r.x1 : r.x0), k & 2 ? span.high : span.low,
                                l.originZ + l.spacing * (k & 4 ? r.z1 : r.z0)};
        const auto p = onto.pixel(corner);
        if (!p) return {0, 0, camera.width, camera.height};
        x0 = std::min(x0, p->x);
        x1 = std::max(x1, p->x);
        y0 = std::min(y0, p->y);
        y1 = std::max(y1, p->y);
    }
    const int left = static_cast<int>(std::clamp(x0 - 3, 0.0, double(camera.width))),
              top = static_cast<int>(std::clamp(y0 - 3, 0.0, double(camera.height)));
    const int right = static_cast<int>(std::clamp(x1 + 4, 0.0, double(camera.width))),
              bottom = static_cast<int>(std::clamp(y1 + 4, 0.0, double(camera.height)));
    return {left, top, right - left, bottom - top};
}

}  // namespace jam
