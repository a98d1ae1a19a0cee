#include "lit_map.h"

#include <algorithm>

#include "texels.h"

namespace jam {

namespace {

// The mean of the four texels below one of the next coarser mipmap; over the edge the last counts.
uint32_t meanBelow(const Raster<uint32_t>& fine, int x, int z) {
    const int x0 = std::min(2 * x, fine.width() - 1), z0 = std::min(2 * z, fine.depth() - 1);
    const int x1 = std::min(2 * x + 1, fine.width() - 1), z1 = std::min(2 * z + 1, fine.depth() - 1);
    return meanOf(fine.at(x0, z0), fine.at(x1, z0), fine.at(x0, z1), fine.at(x1, z1));
}

// A raster of half the size; an odd last column or row goes, but one texel stays.
Raster<uint32_t> halved(const Raster<uint32_t>& fine, int width, int depth) {
    Raster<uint32_t> out(width, depth);
    for (int z = 0; z < depth; ++z)
        for (int x = 0; x < width; ++x) out.at(x, z) = meanBelow(fine, x, z);
    return out;
}

constexpr int kFilledAtOnce = 1 << 20;  // texels

int sizeAt(int size, int n) { return std::max(size >> n, 1); }

void uploadPart(int n, int x, int z, const Raster<uint32_t>& part) {
    glTexSubImage2D(GL_TEXTURE_2D, n, x, z, part.width(), part.depth(), GL_RGBA, GL_UNSIGNED_BYTE, part.view().data);
}

}  // namespace

int LitMap::strideFor(int columns, int rows, double spacing) {
    int stride = 1;
    while ((std::max(columns, rows) - 1) / stride + 1 > kMostTexels ||
           (stride < Baked::kBlock && 2 * stride * spacing <= kFinestMetres))
        stride *= 2;
    return stride;
}

void LitMap::allocate(int columns, int rows, double spacing, const std::shared_ptr<RoomHelper>& helper) {
    stride_ = strideFor(columns, rows, spacing);
    width_ = (columns - 1) / stride_ + 1;
    depth_ = (rows - 1) / stride_ + 1;
    coarseFrom_ = 0;
    while (Baked::kBlock / stride_ >> coarseFrom_ > 1) ++coarseFrom_;
    coarse_.clear();
    levels_ = levelsOf(width_, depth_);
    texture_ = LargeTexture::begin(helper, {0, GL_RGBA8, width_, depth_, levels_});
    setFilter(GL_TEXTURE_2D, GL_LINEAR, minify_, GL_CLAMP_TO_EDGE, GL_CLAMP_TO_EDGE);
    for (int n = coarseFrom_; n < levels_; ++n) coarse_.emplace_back(sizeAt(width_, n), sizeAt(depth_, n), 0x80808080u);
}

void LitMap::upload(const Baked& baked) {
    glBindTexture(GL_TEXTURE_2D, texture_.texture());
    glPixelStorei(GL_UNPACK_ROW_LENGTH, 0);
    const int x0 = baked.region.x0 / stride_, z0 = baked.region.z0 / stride_;
    uploadPart(0, x0, z0, baked.lit);
    Raster<uint32_t> now = baked.lit;
    for (int n = 1; n <= coarseFrom_ && n < levels_; ++n) {
        // What the whole map drops at its far edges is dropped here too.
        const int w = std::min((now.width() + 1) / 2, sizeAt(width_, n) - (x0 >> n)),
                  d = std::min((now.depth() + 1) / 2, sizeAt(depth_, n) - (z0 >> n));
        if (w <= 0 || d <= 0) return;
        now = halved(now, w, d);
        uploadPart(n, x0 >> n, z0 >> n, now);
        if (n < coarseFrom_) continue;
        for (int z = 0; z < d; ++z)
            for (int x = 0; x < w; ++x) coarse_.front().at((x0 >> n) + x, (z0 >> n) + z) = now.at(x, z);
        uploadCoarse({x0 >> n, z0 >> n, (x0 >> n) + w, (z0 >> n) + d});
    }
}

// The mipmaps above the first kept one, over a region of that.
void LitMap::uploadCoarse(Region r) {
    for (size_t k = 1; k < coarse_.size(); ++k) {
        const Raster<uint32_t>& fine = coarse_[k - 1];
        Raster<uint32_t>& now = coarse_[k];
        r = Region{r.x0 / 2, r.z0 / 2, (r.x1 + 1) / 2, (r.z1 + 1) / 2}.clipped({0, 0, now.width(), now.depth()});
        if (r.empty()) return;
        Raster<uint32_t> part(r.width(), r.depth());
        for (int z = r.z0; z < r.z1; ++z)
            for (int x = r.x0; x < r.x1; ++x) now.at(x, z) = part.at(x - r.x0, z - r.z0) = meanBelow(fine, x, z);
        uploadPart(static_cast<int>(k) + coarseFrom_, r.x0, r.z0, part);
    }
}

bool LitMap::fill(const Raster<uint32_t>& colours, int every, int step) {
    glBindTexture(GL_TEXTURE_2D, texture_.texture());
    glPixelStorei(GL_UNPACK_ROW_LENGTH, 0);
    for (int n = 0; n < levels_; ++n) {
        const int w = sizeAt(width_, n), d = sizeAt(depth_, n), per = stride_ << n;
        const int rowsAtOnce = std::max(1, kFilledAtOnce / w), steps = (d + rowsAtOnce - 1) / rowsAtOnce;
        if (step >= steps) {
            step -= steps;
            continue;
        }
        const int z0 = step * rowsAtOnce;
        Raster<uint32_t> rows(w, std::min(rowsAtOnce, d - z0));
        for (int z = 0; z < rows.depth(); ++z) {
            const int from = std::min((z0 + z) * per / every, colours.depth() - 1);
            for (int x = 0; x < w; ++x)
                rows.at(x, z) = colours.at(std::min(x * per / every, colours.width() - 1), from);
        }
        uploadPart(n, 0, z0, rows);
        if (n >= coarseFrom_)
            std::copy_n(rows.view().data, static_cast<size_t>(w) * rows.depth(),
                        coarse_[static_cast<size_t>(n - coarseFrom_)].view().row(z0));
        return step + 1 < steps || n + 1 < levels_;
    }
    return false;
}

}  // namespace jam
