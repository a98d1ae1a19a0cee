#include "render/software/calm_ground.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <functional>
#include <map>
#include <tuple>

#include "level/ground.h"
#include "render/patch_mesh.h"

namespace jam {

namespace {

constexpr int kQuads = Patch::kQuads;
constexpr Strays kUnknown{-1, -1, -1, -1};
constexpr int kWholeStep = 4;     // up to this all samples are read at once, because that is quicker
constexpr double kNearest = 0.5;  // metres; nearer than this a patch is as large as the picture anyway
constexpr double kLeastUpright = 0.05;

constexpr int kAcross = kQuads + 1, kVertices = kAcross * kAcross;
using Heights = std::array<float, kVertices>;

// How a vertex of a patch lies on one of a mesh's triangles.
struct Place {
    uint16_t vertex;
    std::array<uint16_t, 3> corners;
    std::array<float, 3> shares;
    bool operator==(const Place&) const = default;
};
using Places = std::vector<Place>;

// Adds those of the vertices that a mesh goes without.
void addPlaces(const std::vector<uint16_t>& mesh, Places& places) {
    for (uint16_t v = 0; v < kVertices; ++v) {
        if (std::find(mesh.begin(), mesh.end(), v) != mesh.end()) continue;
        for (size_t t = 0; t < mesh.size(); t += 3) {
            const std::array<uint16_t, 3> c{mesh[t], mesh[t + 1], mesh[t + 2]};
            const auto x = [](int u) { return u % kAcross; };
            const auto z = [](int u) { return u / kAcross; };
            // Twice the area of the triangle from two vertices to a third.
            const auto area = [&](int a, int b, int w) {
                return (x(b) - x(a)) * (z(w) - z(a)) - (z(b) - z(a)) * (x(w) - x(a));
            };
            const int whole = area(c[0], c[1], c[2]);
            const std::array<int, 3> parts{area(v, c[1], c[2]), area(v, c[2], c[0]), area(v, c[0], c[1])};
            if (std::any_of(parts.begin(), parts.end(), [&](int part) { return part * whole < 0; })) continue;
            Place place{v, c, {}};
            for (size_t k = 0; k < 3; ++k) place.shares[k] = static_cast<float>(parts[k]) / static_cast<float>(whole);
            if (std::find(places.begin(), places.end(), place) == places.end()) places.push_back(place);
            break;
        }
    }
}

Places wholeRimmed(int joined) {
    Places places;
    addPlaces(PatchMesh::trianglesOf(joined), places);
    return places;
}

// With any vertices left out along each of the sides.
Places anyRimmed(int joined) {
    Places places;
    const auto each = [joined](const std::function<void(uint8_t)>& with) {
        for (int rim = 1; rim <= joined; rim *= 2) with(static_cast<uint8_t>(rim));
    };
    each([&](uint8_t north) {
        each([&](uint8_t east) {
            each([&](uint8_t south) {
                each([&](uint8_t west) {
                    addPlaces(PatchMesh::trianglesOf(joined, {north, east, south, west}), places);
                });
            });
        });
    });
    return places;
}

float strayOf(const Heights& h, const Places& places) {
    float most = 0;
    for (const Place& p : places) {
        float mesh = 0;
        for (size_t k = 0; k < 3; ++k) mesh += p.shares[k] * h[p.corners[k]];
        most = std::max(most, std::abs(h[p.vertex] - mesh));
    }
    return most;
}

}  // namespace

Strays straysOf(const Level& level, const Patch& patch) {
    static const Places second = wholeRimmed(2), fourth = wholeRimmed(4), secondRims = anyRimmed(2),
                        fourthRims = anyRimmed(4);
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
    return {strayOf(h, second), strayOf(h, fourth), strayOf(h, secondRims), strayOf(h, fourthRims)};
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

std::vector<Joined> CalmGround::joined(const Level& level, const std::vector<Patch>& patches, double pixels,
                                       double metres) {
    struct Allowed {
        int quads, rims;
    };
    std::map<std::tuple<int, int, int>, Allowed> all;  // by step, column and row
    for (const Patch& p : patches) {
        const double most = pixels * metres * std::max<double>(p.nearest, kNearest) /
                            std::max<double>(p.upright, kLeastUpright);
        const Strays& s = at(level, p);
        const int quads = s.fourth <= most && s.second <= most ? 4 : s.second <= most ? 2 : 1;
        const float withRims = quads == 4 ? std::max(s.fourthRims, s.secondRims) : s.secondRims;
        all[{p.step, p.column, p.row}] = {quads, withRims <= most ? quads : 1};
    }
    std::vector<Joined> out;
    for (const Patch& p : patches) {
        const int size = kQuads * p.step;
        const Allowed own = all.at({p.step, p.column, p.row});
        // Beside a mesh of another density, or none, all of the rim is needed.
        const auto rim = [&](int east, int south) {
            const auto beside = all.find({p.step, p.column + east * size, p.row + south * size});
            return static_cast<uint8_t>(beside == all.end() ? 1 : std::min(own.rims, beside->second.rims));
        };
        out.push_back({own.quads, {rim(0, -1), rim(1, 0), rim(0, 1), rim(-1, 0)}});
    }
    return out;
}

}  // namespace jam
