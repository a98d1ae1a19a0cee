#include "near_window.h"

#include <algorithm>
#include <cmath>

#include "cover/wash.h"
#include "cover/weights.h"

namespace jam {

namespace {

constexpr int kFewestTiles = 6;

// Four layers to a slice.
int slicesFor(size_t layers) { return static_cast<int>((layers + 3) / 4); }

GlTexture flatTexture(GLenum kind, int width, int depth, GLint filter, bool wrapsX, bool wrapsZ) {
    GlTexture t = makeTexture();
    glBindTexture(GL_TEXTURE_2D, t);
    jam::takeRoom(kind, width, depth);
    setFilter(GL_TEXTURE_2D, filter, filter, wrapsX ? GL_REPEAT : GL_CLAMP_TO_EDGE,
              wrapsZ ? GL_REPEAT : GL_CLAMP_TO_EDGE);
    return t;
}

}  // namespace

void NearWindow::allocate(const Level& level, double metres) {
    factor_ = level.coverFactor;
    levelAcross_ = (level.columns + kTile - 1) / kTile;
    levelDown_ = (level.rows + kTile - 1) / kTile;
    const int wanted = static_cast<int>(std::min(std::ceil(2 * metres / (level.spacing * kTile)), 1e4)) + 2;
    const int most = std::clamp(wanted, kFewestTiles, std::max(kMostCover / (kTile * factor_), kFewestTiles));
    across_ = std::min(most, levelAcross_);
    down_ = std::min(most, levelDown_);
    const bool wrapsX = across_ < levelAcross_, wrapsZ = down_ < levelDown_;
    columns_ = wrapsX ? across_ * kTile : level.columns;
    rows_ = wrapsZ ? down_ * kTile : level.rows;
    // The middle lies somewhere in the tile in the middle.
    reach_ = wrapsX || wrapsZ ? (most - 1) / 2 * kTile * level.spacing : 1e9;
    inside_ = {};
    surface_ = {};
    weights_ = {};
    leading_ = {};
    wash_ = {};
    washed_ = false;
}

bool NearWindow::takeRoom(const Level& level, const std::shared_ptr<RoomHelper>& helper) {
    const bool wrapsX = across_ < levelAcross_, wrapsZ = down_ < levelDown_;
    const int coverX = wrapsX ? columns_ * factor_ : level.coverColumns(),
              coverZ = wrapsZ ? rows_ * factor_ : level.coverRows();
    const auto begin = [&](LargeTexture& t, const RoomWish& wish, GLint filter) {
        if (t.begun()) return t.there();
        t = LargeTexture::begin(helper, wish);
        setFilter(targetOf(wish.slices), filter, filter, wrapsX ? GL_REPEAT : GL_CLAMP_TO_EDGE,
                  wrapsZ ? GL_REPEAT : GL_CLAMP_TO_EDGE);
        return false;  // others have a turn
    };
    const int slices = slicesFor(level.layers.size());
    return begin(surface_, {0, GL_RGBA8, columns_, rows_}, GL_LINEAR) &&
           begin(leading_, {0, GL_R8, coverX, coverZ}, GL_NEAREST) &&
           begin(weights_, {0, GL_RGBA8, coverX, coverZ, 1, slices}, GL_LINEAR);
}

bool NearWindow::centre(double column, double row) {
    const auto first = [](double sample, int tiles, int of) {
        const double middle = std::clamp(std::floor(sample / kTile), -1e6, 1e6);
        return std::clamp(static_cast<int>(middle) - tiles / 2, 0, of - tiles);
    };
    const int x = first(column, across_, levelAcross_), z = first(row, down_, levelDown_);
    const Region now{x, z, x + across_, z + down_};
    if (now == inside_) return false;
    inside_ = now;
    return true;
}

void NearWindow::uploadSurface(const Baked& baked) {
    const Region& r = baked.region;
    glBindTexture(GL_TEXTURE_2D, surface_.texture());
    glPixelStorei(GL_UNPACK_ROW_LENGTH, 0);
    glTexSubImage2D(GL_TEXTURE_2D, 0, slotX(r.x0 / kTile) + r.x0 % kTile, slotZ(r.z0 / kTile) + r.z0 % kTile, r.width(),
                    r.depth(), GL_RGBA, GL_UNSIGNED_BYTE, baked.surface.view().data);
}

// The cover samples of some ground samples: each has its own and those up to the next.
Region NearWindow::coverOf(const Level& level, const Region& r) const {
    return Region{r.x0 * factor_, r.z0 * factor_, r.x1 * factor_, r.z1 * factor_}.clipped(level.coverBounds());
}

void NearWindow::uploadWeights(const Level& level, const Region& part, Raster<uint16_t>& blocks) {
    const Region cover = coverOf(level, part);
    const size_t layers = level.layers.size(), slices = static_cast<size_t>(slicesFor(layers));
    const auto w = static_cast<size_t>(cover.width()), d = static_cast<size_t>(cover.depth());
    std::vector<Raster<uint8_t>> rasters(layers, Raster<uint8_t>(cover.width(), cover.depth()));
    std::vector<View<uint8_t>> planes;
    for (auto& r : rasters) planes.push_back(r.view());
    readWeights(level, cover, planes);
    std::vector<uint8_t> rgba(slices * w * d * 4, 0), leader(w * d, 0), most(w * d, 0);
    for (int bz = part.z0 / kBlock; bz <= (part.z1 - 1) / kBlock; ++bz)
        for (int bx = part.x0 / kBlock; bx <= (part.x1 - 1) / kBlock; ++bx) blocks.at(bx, bz) = 0;
    const uint32_t within = layersWithin(level, cover);
    for (size_t k = 0; k < layers; ++k) {
        if (!(within >> k & 1)) continue;
        const auto bit = static_cast<uint16_t>(1u << k);
        uint8_t* to = rgba.data() + k / 4 * w * d * 4 + k % 4;
        const uint8_t* from = planes[k].data;
        for (size_t i = 0; i < w * d; ++i) {
            if (from[i] == 0) continue;
            to[i * 4] = from[i];
            if (from[i] > most[i]) most[i] = from[i], leader[i] = static_cast<uint8_t>(k);
            blocks.at((cover.x0 + static_cast<int>(i % w)) / factor_ / kBlock,
                      (cover.z0 + static_cast<int>(i / w)) / factor_ / kBlock) |= bit;
        }
    }
    const int tile = kTile * factor_, x = slotX(part.x0 / kTile) * factor_ + cover.x0 % tile,
              z = slotZ(part.z0 / kTile) * factor_ + cover.z0 % tile;
    glPixelStorei(GL_UNPACK_ROW_LENGTH, 0);
    glPixelStorei(GL_UNPACK_ALIGNMENT, 1);
    glBindTexture(GL_TEXTURE_2D_ARRAY, weights_.texture());
    glTexSubImage3D(GL_TEXTURE_2D_ARRAY, 0, x, z, 0, cover.width(), cover.depth(), static_cast<GLsizei>(slices),
                    GL_RGBA, GL_UNSIGNED_BYTE, rgba.data());
    glBindTexture(GL_TEXTURE_2D, leading_.texture());
    glTexSubImage2D(GL_TEXTURE_2D, 0, x, z, cover.width(), cover.depth(), GL_RED, GL_UNSIGNED_BYTE, leader.data());
    glPixelStorei(GL_UNPACK_ALIGNMENT, 4);
}

void NearWindow::setWashed(const Level& level, bool washed) {
    if (wash_ && washed == washed_) return;
    washed_ = washed;
    wash_ = flatTexture(GL_RGBA8, washed ? columns_ : 1, washed ? rows_ : 1, GL_LINEAR,
                        !washed || columns_ < level.columns, !washed || rows_ < level.rows);
    const int width = washed ? columns_ : 1, depth = washed ? rows_ : 1;
    const std::vector<uint32_t> none(static_cast<size_t>(width) * static_cast<size_t>(depth), 0);
    glPixelStorei(GL_UNPACK_ROW_LENGTH, 0);
    glTexSubImage2D(GL_TEXTURE_2D, 0, 0, 0, width, depth, GL_RGBA, GL_UNSIGNED_BYTE, none.data());
}

// Painted colour goes to the graphics side multiplied by its strength, so that it can be looked up between samples.
void NearWindow::uploadWash(const Level& level, const Region& part) {
    if (!washed_) return;
    Raster<Wash> in(part.width(), part.depth());
    level.wash.read(part, in.view());
    std::vector<uint8_t> out;
    out.reserve(static_cast<size_t>(part.area()) * 4);
    for (int z = 0; z < part.depth(); ++z)
        for (int x = 0; x < part.width(); ++x) {
            const Wash& w = in.at(x, z);
            const float strength = static_cast<float>(w.strength) / 65535;
            const std::array<float, 3> c = w.strength ? washLight(w) : std::array<float, 3>{};
            for (const float v : c) out.push_back(static_cast<uint8_t>(std::sqrt(v) * strength * 255 + 0.5f));
            out.push_back(static_cast<uint8_t>(strength * 255 + 0.5f));
        }
    glPixelStorei(GL_UNPACK_ROW_LENGTH, 0);
    glBindTexture(GL_TEXTURE_2D, wash_);
    glTexSubImage2D(GL_TEXTURE_2D, 0, slotX(part.x0 / kTile) + part.x0 % kTile,
                    slotZ(part.z0 / kTile) + part.z0 % kTile, part.width(), part.depth(), GL_RGBA, GL_UNSIGNED_BYTE,
                    out.data());
}

NearWindow::Placing NearWindow::onGround() const {
    const glm::vec2 size(columns_, rows_);
    return {1.f / size, 0.5f / size};
}

NearWindow::Placing NearWindow::onCover() const {
    const auto samples = [&](int ground, bool wraps) { return wraps ? ground * factor_ : (ground - 1) * factor_ + 1; };
    const glm::vec2 size(samples(columns_, across_ < levelAcross_), samples(rows_, down_ < levelDown_));
    return {static_cast<float>(factor_) / size, 0.5f / size};
}

}  // namespace jam
