// Mirrored strokes: where the images of a stamp fall.
#pragma once

#include <optional>
#include <string_view>
#include <vector>

#include "base/region.h"

namespace jam {

struct Level;

enum class MirrorKind { none, acrossX, acrossZ, acrossBoth, diagonal, turn2, turn3, turn4 };
constexpr int kMirrorKinds = 8;

std::string_view mirrorName(MirrorKind kind);  // "none", "across-x", ... as in stroke files
std::optional<MirrorKind> mirrorFromName(std::string_view name);

struct Mirror {
    MirrorKind kind = MirrorKind::none;
    double x = 0,
           z = 0;  // metres, the centre; it is moved to the nearest place about which samples mirror onto samples

    bool operator==(const Mirror&) const = default;
};

// A symmetry of the raster: (column, row) goes to (column0 + xx column + xz row, row0 + zx column + zz row).
// Each of the four is -1, 0 or 1, and column0 and row0 are whole, so samples map onto samples exactly.
struct Symmetry {
    int xx = 1, xz = 0, zx = 0, zz = 1;
    int column0 = 0, row0 = 0;

    bool identity() const { return xx == 1 && zz == 1 && column0 == 0 && row0 == 0; }
    double column(double c, double r) const { return column0 + xx * c + xz * r; }
    double row(double c, double r) const { return row0 + zx * c + zz * r; }
    Region region(const Region& r) const;
    Symmetry inverse() const;

    bool operator==(const Symmetry&) const = default;
};

// One place where a stamp falls: through a symmetry of the raster, or (three-fold turn) turned freely.
struct MirrorImage {
    Symmetry image;
    double turn = 0;      // degrees clockwise about (x, z)
    double x = 0, z = 0;  // metres, the centre that was used

    // World place of the image of a world place.
    void move(const Level& level, double& px, double& pz) const;
};

// The stamp itself and its images, the stamp first. `factor` is 1 on the ground and level.coverFactor on the cover.
std::vector<MirrorImage> mirrorImages(const Level& level, const Mirror& mirror, int factor = 1);

}  // namespace jam
