#include "calm_ground.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>

#include "level/ground.h"
#include "patch_mesh.h"

namespace jam {

namespace {

constexpr int kQuads = Patch::kQuads;
constexpr Strays kUnknown{-1, -1};
constexpr int kWholeStep = 4;     // up to this all samples are read at once, because that is quicker
constexpr double kNearest = 0.5;  // metres; nearer than this a patch is as large as the picture anyway
constexpr double kLeastUpright = 0.05;

constexpr int kAcross = kQuads + 1, kVertices = kAcross * kAcross;
using Heights = std::array<float, kVertices>;

// How each vertex of a patch lies on one of a mesh's triangles.
struct Place {
    std::array<uint16_t, 3> corners;
    std::array<float, 3> shares;
};
using Places = std::array<Place, kVertices>;

Places placesOn(int joined) {
    Places places{};
    const std::vector<uint16_t> mesh = PatchMesh::trianglesOf(joined);
    for (size_t t = 0; t < mesh.size(); t += 3) {
        const std::array<uint16_t, 3> c{mesh[t], mesh[t + 1], mesh[t + 2]};
        const auto x = [](int v) { return v % kAcross; };
        const auto z = [](int v) { return v / kAcross; };
        // Twice the area of the triangle from two vertices to a third.
        const auto area = [&](int u, int v, int w) {
            return (x(v) - x(u)) * (z(w) - z(u)) - (z(v) - z(u)) * (x(w) - x(u));
        };
        const int whole = area(c[0], c[1], c[2]);
        for (int v = 0; v < kVertices; ++v) {
            const std::array<int, 3> parts{area(v, c[1], c[2]), area(v, c[2], c[0]), area(v, c[0], c[1])};
            if (std::any_of(parts.begin(), parts.end(), [&](int part) { return part * whole < 0; })) continue;
            Place& place = places[static_cast<size_t>(v)];
            place.corners = c;
            for (size_t k = 0; k < 3; ++k) place.shares[k] = static_cast<float>(parts[k]) / static_cast<float>(whole);
        }
    }
    return places;
}

float strayOf(const Heights& h, const Places& places) {
    float most = 0;
    for (size_t v = 0; v < kVertices; ++v) {
        float mesh = 0;
        for (size_t k = 0; k < 3; ++k) mesh += places[v].shares[k] * h[places[v].corners[k]];
        most = std::max(most, std::abs(h[v] - mesh));
    }
    return most;
}

}  // namespace

Strays straysOf(const Level& level, const Patch& patch) {
    static const Places second = placesOn(2), fourth = placesOn(4);
    Heights h;
    const auto at = [&](int x, int z) -> float& { return h[static_cast<size_t>(z * kAcross + x)]; };
    if (patch.step <= kWholeStep) {
        const Region part = patch.region().clipped(level.bounds());
        float samples[(kQuads * kWholeStep + 1) * (kQuads * kWholeStep + 1)];
        const View<float> ground{samples, part.width(), part.depth(), part.width()};
        readGround(level, part, ground);
        for (int z = 0; z <= kQuads; ++z)
            for (int x = 0; x <= kQuads; ++x)
                at(x, z) = ground.at(std::min(x * patch.step, part.width() - 1),
                                     std::min(z * patch.step, part.depth() - 1));
    } else {
        for (int z = 0; z <= kQuads; ++z)
            for (int x = 0; x <= kQuads; ++x)
                at(x, z) = groundSample(level, std::min(patch.column + x * patch.step, level.columns - 1),
                                        std::min(patch.row + z * patch.step, level.rows - 1));
    }
    return {strayOf(h, second), strayOf(h, fourth)};
}

void CalmGround::follow(const Level& level, const TileSet& ground) {
    if (level.columns != columns_ || level.rows != rows_) {
        columns_ = level.columns, rows_ = level.rows;
        levels_.clear();
        for (int step = 1;; step *= 2) {
            const int size = kQuads * step;
            levels_.emplace_back((columns_ - 2) / size + 1, (rows_ - 2) / size + 1, kUnknown);
            if (size >= std::max(columns_, rows_)) return;
        }
    }
    ground.each([&](int, int, const Region& part) {
        int size = kQuads;
        for (Raster<Strays>& known : levels_) {
            // A sample on a border belongs to the patches on both sides of it.
            for (int z = std::max(part.z0 - 1, 0) / size; z <= std::min((part.z1 - 1) / size, known.depth() - 1); ++z)
                for (int x = std::max(part.x0 - 1, 0) / size; x <= std::min((part.x1 - 1) / size, known.width() - 1);
                     ++x)
                    known.at(x, z) = kUnknown;
            size *= 2;
        }
    });
}

const Strays& CalmGround::at(const Level& level, const Patch& patch) {
    const int size = kQuads * patch.step;
    Strays& known = levels_[static_cast<size_t>(std::countr_zero(static_cast<unsigned>(patch.step)))].at(
        patch.column / size, patch.row / size);
    if (known.second < 0) known = straysOf(level, patch);
    return known;
}

int CalmGround::joined(const Level& level, const Patch& patch, double pixels, double metres) {
    const double most = pixels * metres * std::max<double>(patch.nearest, kNearest) /
                        std::max<double>(patch.upright, kLeastUpright);
    const Strays& s = at(level, patch);
    return s.fourth <= most && s.second <= most ? 4 : s.second <= most ? 2 : 1;
}

}  // namespace jam
