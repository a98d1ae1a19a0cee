#include <algorithm>
#include <array>
#include <glm/common.hpp>
#include <glm/geometric.hpp>

#include "pixel_rect.h"

namespace jam {

namespace {

constexpr double kNearest = 0.05;  // metres before the eye; nearer than this nothing is drawn

}  // namespace

PixelRect pixelsOf(const Level& l, const Region& ground, HeightSpan span, const Camera& camera) {
    if (ground.empty()) return {};
    span.low -= l.cliff;  // what hangs from the edge of the land
    const Region r = ground.grown(2).clipped(l.bounds());
    std::array<glm::dvec3, 8> corners;
    for (size_t k = 0; k < corners.size(); ++k)
        corners[k] = {l.originX + l.spacing * (k & 1 ? r.x1 : r.x0), k & 2 ? span.high : span.low,
                      l.originZ + l.spacing * (k & 4 ? r.z1 : r.z0)};
    const Projector onto(camera);
    double x0 = 1e9, y0 = 1e9, x1 = -1e9, y1 = -1e9;
    const auto take = [&](const glm::dvec3& place) {
        const auto p = onto.pixel(place);
        if (!p) return;
        x0 = std::min(x0, p->x);
        x1 = std::max(x1, p->x);
        y0 = std::min(y0, p->y);
        y1 = std::max(y1, p->y);
    };
    // Of the box's part before the eye its corners, and where its edges come from behind.
    const glm::dvec3 forward = camera.forward();
    const auto ahead = [&](const glm::dvec3& place) { return glm::dot(place - camera.at, forward) - kNearest; };
    for (size_t k = 0; k < corners.size(); ++k) {
        const double here = ahead(corners[k]);
        if (here >= 0) take(corners[k]);
        for (const size_t along : {size_t{1}, size_t{2}, size_t{4}})
            if (const double there = ahead(corners[k ^ along]); here > 0 && there < 0)
                take(glm::mix(corners[k], corners[k ^ along], here / (here - there)));
    }
    if (x0 > x1) return {};
    const int left = static_cast<int>(std::clamp(x0 - 3, 0.0, double(camera.width))),
              top = static_cast<int>(std::clamp(y0 - 3, 0.0, double(camera.height)));
    const int right = static_cast<int>(std::clamp(x1 + 4, 0.0, double(camera.width))),
              bottom = static_cast<int>(std::clamp(y1 + 4, 0.0, double(camera.height)));
    return {left, top, right - left, bottom - top};
}

}  // namespace jam
