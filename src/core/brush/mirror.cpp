#include "brush/mirror.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "base/maths.h"
#include "base/names.h"
#include "level/level.h"

namespace jam {

namespace {
constexpr std::array<std::string_view, kMirrorKinds> kNames = {"none",     "across-x", "across-z", "across-both",
                                                               "diagonal", "turn-2",   "turn-3",   "turn-4"};
}

std::string_view mirrorName(MirrorKind kind) { return kNames[static_cast<size_t>(kind)]; }

std::optional<MirrorKind> mirrorFromName(std::string_view name) { return fromName<MirrorKind>(kNames, name); }

Region Symmetry::region(const Region& r) const {
    if (r.empty()) return {};
    const auto at = [this](int c, int w) {
        return std::pair<int, int>(column0 + xx * c + xz * w, row0 + zx * c + zz * w);
    };
    const auto [ax, az] = at(r.x0, r.z0);
    const auto [bx, bz] = at(r.x1 - 1, r.z1 - 1);
    return {std::min(ax, bx), std::min(az, bz), std::max(ax, bx) + 1, std::max(az, bz) + 1};
}

Symmetry Symmetry::inverse() const {
    // The linear part is orthogonal, so its transpose undoes it.
    Symmetry i{xx, zx, xz, zz, 0, 0};
    i.column0 = -(i.xx * column0 + i.xz * row0);
    i.row0 = -(i.zx * column0 + i.zz * row0);
    return i;
}

void MirrorImage::move(const Level& level, double& px, double& pz) const {
    if (turn != 0) {
        const double a = turn * kPi / 180, c = std::cos(a), s = std::sin(a), dx = px - x, dz = pz - z;
        px = x + c * dx - s * dz;
        pz = z + s * dx + c * dz;
        return;
    }
    const double column = level.toColumn(px), row = level.toRow(pz);
    px = level.originX + image.column(column, row) * level.spacing;
    pz = level.originZ + image.row(column, row) * level.spacing;
}

std::vector<MirrorImage> mirrorImages(const Level& level, const Mirror& mirror, int factor) {
    // Twice the centre in samples. A quarter turn and a diagonal swap columns and rows, so both halves must agree.
    int column = static_cast<int>(std::lround(2 * level.toColumn(mirror.x))),
        row = static_cast<int>(std::lround(2 * level.toRow(mirror.z)));
    const bool swaps = mirror.kind == MirrorKind::diagonal || mirror.kind == MirrorKind::turn4;
    if (swaps)
        column = 2 * static_cast<int>(std::lround(column / 2.0)), row = 2 * static_cast<int>(std::lround(row / 2.0));
    const double x = level.originX + level.spacing * column / 2, z = level.originZ + level.spacing * row / 2;
    std::vector<MirrorImage> all{{Symmetry{}, 0, x, z}};
    const auto add = [&](int xx, int xz, int zx, int zz) {
        // centre + M (p - centre): whole, because 2 x centre is, and both coordinates are where columns and rows swap.
        const int c2 = column * factor, r2 = row * factor;
        all.push_back({Symmetry{xx, xz, zx, zz, (c2 - xx * c2 - xz * r2) / 2, (r2 - zx * c2 - zz * r2) / 2}, 0, x, z});
    };
    switch (mirror.kind) {
        case MirrorKind::none: break;
        case MirrorKind::acrossX: add(-1, 0, 0, 1); break;
        case MirrorKind::acrossZ: add(1, 0, 0, -1); break;
        case MirrorKind::acrossBoth: add(-1, 0, 0, 1), add(1, 0, 0, -1), add(-1, 0, 0, -1); break;
        case MirrorKind::diagonal: add(0, 1, 1, 0); break;
        case MirrorKind::turn2: add(-1, 0, 0, -1); break;
        case MirrorKind::turn3:
            for (const double turn : {120.0, 240.0}) all.push_back({Symmetry{}, turn, x, z});
            break;
        case MirrorKind::turn4: add(0, -1, 1, 0), add(-1, 0, 0, -1), add(0, 1, -1, 0); break;
    }
    return all;
}

}  // namespace jam
