#include "shape/sculpt.h"

#include <cmath>
#include <cstring>
#include <optional>

#include "base/parallel.h"
#include "brush/rows.h"
#include "grid/scratch.h"
#include "level/ground.h"

namespace jam {

namespace {

// Reads ground in the dab's frame.
void readFramed(const Level& level, const Symmetry& frame, const Region& region, View<float> out) {
    if (frame.identity()) return readGroundBeyond(level, region, out);
    const Region there = frame.region(region);
    const Scratch scratch(there.width(), there.depth());
    readGroundBeyond(level, there, scratch.view());
    for (int z = 0; z < region.depth(); ++z)
        for (int x = 0; x < region.width(); ++x) {
            const int c = region.x0 + x, r = region.z0 + z;
            out.at(x, z) = scratch.at(frame.column0 + frame.xx * c + frame.xz * r - there.x0,
                                      frame.row0 + frame.zx * c + frame.zz * r - there.z0);
        }
}

// Copies a raster in the dab's frame to the level's.
Raster<float> unframed(const Symmetry& frame, const Region& region, View<const float> in) {
    const Region there = frame.region(region);
    Raster<float> out(there.width(), there.depth());
    for (int z = 0; z < region.depth(); ++z)
        for (int x = 0; x < region.width(); ++x) {
            const int c = region.x0 + x, r = region.z0 + z;
            out.at(frame.column0 + frame.xx * c + frame.xz * r - there.x0,
                   frame.row0 + frame.zx * c + frame.zz * r - there.z0) = in.at(x, z);
        }
    return out;
}

// Ground within the limits is not pushed beyond them; ground beyond already is not pushed further.
void keepWithin(const HeightLimits& limits, View<const float> before, View<float> after) {
    for (int z = 0; z < after.depth; ++z)
        for (int x = 0; x < after.width; ++x) {
            float& a = after.row(z)[x];
            const float b = before.row(z)[x];
            if (limits.ceiling) a = std::min(a, std::max(b, *limits.ceiling));
            if (limits.floor) a = std::max(a, std::min(b, *limits.floor));
        }
}

}  // namespace

Overlap::Overlap(const Level& level, const Region& region)
    : region_(region), before_(region.width(), region.depth()), change_(region.width(), region.depth(), 0.f) {
    readGround(level, region, before_.view());
}

void Overlap::add(const Symmetry& frame, const Region& region, View<const float> before, View<const float> after) {
    for (int z = 0; z < region.depth(); ++z)
        for (int x = 0; x < region.width(); ++x) {
            const int c = region.x0 + x, r = region.z0 + z;
            float& most = change_.at(frame.column0 + frame.xx * c + frame.xz * r - region_.x0,
                                     frame.row0 + frame.zx * c + frame.zz * r - region_.z0);
            const float change = after.at(x, z) - before.at(x, z);
            // Of two equally great ones the rise, so that order does not matter.
            if (std::abs(change) > std::abs(most) || (change == -most && change > 0)) most = change;
        }
}

void Overlap::write(Level& level) {
    for (int z = 0; z < region_.depth(); ++z)
        for (int x = 0; x < region_.width(); ++x) change_.at(x, z) += before_.at(x, z);
    writeGround(level, region_, before_.view(), change_.view());
}

Region sculpt(const StampSite& site, const Dab& dab, const Needs& needs,
              const std::function<void(const Sculpture&, int, int)>& kernel,
              const std::function<void(const Sculpture&)>& prepare) {
    const Region r = dab.region;
    if (r.empty()) return {};
    const int halo = needs.halo;
    const Scratch beforeRoom(r.width() + 2 * halo, r.depth() + 2 * halo), afterRoom(r.width(), r.depth());
    std::optional<Scratch> originRoom;
    const View<float> before = beforeRoom.view(), after = afterRoom.view();
    View<float> origin;
    readFramed(site.level, dab.frame, r.grown(halo), before);
    if (needs.origin) {
        origin = originRoom.emplace(before.width, before.depth).view();
        readFramed(site.origin ? *site.origin : site.level, dab.frame, r.grown(halo), origin);
    }
    const Sculpture s{dab, site.level.spacing, before, origin, halo, after};
    const View<const float> middle = s.middle();
    const auto begin = [&](int first, int end) {
        for (int z = first; z < end; ++z) std::memcpy(after.row(z), middle.row(z), sizeof(float) * r.width());
    };
    if (prepare) {
        parallelFor(r.depth(), kRowsPerThread, begin);
        prepare(s);
    }
    const bool limited = site.limits.floor || site.limits.ceiling;
    parallelFor(r.depth(), kRowsPerThread, [&](int first, int end) {
        if (!prepare) begin(first, end);
        kernel(s, first, end);
        if (limited)
            keepWithin(site.limits, middle.part(0, first, r.width(), end - first),
                       after.part(0, first, r.width(), end - first));
    });
    const Region there = dab.frame.region(r);
    if (site.overlap) site.overlap->add(dab.frame, r, middle, after);
    else if (dab.frame.identity()) writeGround(site.level, r, middle, after);
    else writeGround(site.level, there, unframed(dab.frame, r, middle).view(), unframed(dab.frame, r, after).view());
    return there;
}

void blendTowards(const Sculpture& s, int firstRow, int endRow, float share, View<const float> target) {
    eachMaskedRow(s, firstRow, endRow, share, [&](int z, int x, int n, const float* mask) {
        rowKernels().blend(s.after.row(z) + x, s.middle().row(z) + x, target.row(z) + x, mask, n);
    });
}

void readMask(const Sculpture& s, float strength, View<float> mask) {
    const Region r = s.dab.region;
    const DabRows rows(s.dab);
    parallelFor(mask.depth, kRowsPerThread, [&](int first, int end) {
        for (int z = first; z < end; ++z) {
            std::fill_n(mask.row(z), mask.width, 0.f);
            if (const Region span = rows.span(r, r.z0 + z); !span.empty())
                rows.mask(span.x0, span.z0, span.width(), strength, mask.row(z) + (span.x0 - r.x0));
        }
    });
}

void borderedMask(const Sculpture& s, float strength, Raster<float>& mask) {
    const int w = s.after.width, d = s.after.depth;
    mask = Raster<float>(w + 2, d + 2, 0.f);
    readMask(s, strength, mask.view().part(1, 1, w, d));
}

}  // namespace jam
