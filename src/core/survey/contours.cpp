#include "survey/contours.h"

#include <algorithm>
#include <cmath>

#include "base/parallel.h"
#include "level/ground.h"

namespace jam {

namespace {

struct Corner {
    float x, z, h;
};

void cutTriangle(const Corner& a, const Corner& b, const Corner& c, float interval, std::vector<ContourPiece>& out) {
    const float low = std::min({a.h, b.h, c.h}), high = std::max({a.h, b.h, c.h});
    const int first = static_cast<int>(std::ceil(low / interval)), last = static_cast<int>(std::floor(high / interval));
    for (int k = first; k <= last; ++k) {
        const float h = static_cast<float>(k) * interval;
        float xs[3], zs[3];
        int n = 0;
        const Corner* edges[3][2] = {{&a, &b}, {&b, &c}, {&c, &a}};
        for (auto& e : edges) {
            // A corner that lies exactly on the line counts as above, so that each line enters and leaves once.
            if ((e[0]->h < h) == (e[1]->h < h)) continue;
            const float t = (h - e[0]->h) / (e[1]->h - e[0]->h);
            xs[n] = e[0]->x + t * (e[1]->x - e[0]->x);
            zs[n++] = e[0]->z + t * (e[1]->z - e[0]->z);
        }
        if (n == 2) out.push_back({h, xs[0], zs[0], xs[1], zs[1]});
    }
}

}  // namespace

std::vector<ContourPiece> contours(const Level& level, float interval, int step, const Context& context) {
    const int cellsDown = (level.rows - 1) / step, cellsAcross = (level.columns - 1) / step;
    std::vector<std::vector<ContourPiece>> perRow(static_cast<size_t>(std::max(cellsDown, 0)));
    parallelFor(cellsDown, 8, [&](int first, int end) {
        Raster<float> rows(level.columns, 2);
        for (int r = first; r < end && !context.cancelled(); ++r) {
            for (int k = 0; k < 2; ++k) {
                const int row = (r + k) * step;
                readGround(level, {0, row, level.columns, row + 1}, rows.view().part(0, k, level.columns, 1));
            }
            auto& out = perRow[static_cast<size_t>(r)];
            auto corner = [&](int c, int k) {
                return Corner{static_cast<float>(level.originX + level.spacing * c * step),
                              static_cast<float>(level.originZ + level.spacing * (r + k) * step), rows.at(c * step, k)};
            };
            for (int c = 0; c < cellsAcross; ++c) {
                const Corner nw = corner(c, 0), ne = corner(c + 1, 0), sw = corner(c, 1), se = corner(c + 1, 1);
                cutTriangle(nw, ne, se, interval, out);
                cutTriangle(nw, sw, se, interval, out);
            }
        }
    });
    if (context.cancelled()) return {};
    std::vector<ContourPiece> all;
    for (const auto& row : perRow) all.insert(all.end(), row.begin(), row.end());
    return all;
}

float contourInterval(float span, int wanted) {
    const float raw = std::max(span / static_cast<float>(wanted), 0.01f);
    const float power = std::pow(10.0f, std::floor(std::log10(raw)));
    for (float f : {1.f, 2.f, 5.f})
        if (raw <= f * power) return f * power;
    return 10 * power;
}

}  // namespace jam
