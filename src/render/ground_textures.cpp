#include "ground_textures.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <glm/common.hpp>

#include "base/parallel.h"
#include "cover/lay.h"
#include "cover/wash.h"
#include "cover/weights.h"
#include "level/ground.h"

namespace jam {

namespace {

constexpr int kTile = TiledGrid<float>::kTile;
// Upward part of the normal above which less than a fiftieth is seen from the sides (about 18 degrees).
constexpr float kSteepUp = 0.95f;

// The same decoded pictures: compared by address, since a picture never changes once made.
bool sameMaterial(const Layer& a, const Layer& b) {
    for (const LayerSlot& s : kLayerSlots)
        if (a.*s.picture != b.*s.picture) return false;
    return a.look.flipGreen == b.look.flipGreen;
}

// Whether the lit map shows the same for both.
bool sameLitLook(const LayerLook& a, const LayerLook& b) {
    return a.tint == b.tint && a.brightness == b.brightness && a.variation == b.variation && a.wash == b.wash;
}

glm::vec3 linearColour(const Wash& w) {
    const std::array<float, 3> c = washLight(w);
    return {c[0], c[1], c[2]};
}

void nearestEdges(GLenum target, GLint magnify, GLint minify, GLint wrap) {
    glTexParameteri(target, GL_TEXTURE_MAG_FILTER, magnify);
    glTexParameteri(target, GL_TEXTURE_MIN_FILTER, minify);
    glTexParameteri(target, GL_TEXTURE_WRAP_S, wrap);
    glTexParameteri(target, GL_TEXTURE_WRAP_T, wrap);
}

// Four texels to one, channel by channel.
uint32_t meanOf(uint32_t a, uint32_t b, uint32_t c, uint32_t d) {
    uint32_t out = 0;
    for (int s = 0; s < 32; s += 8)
        out |= ((((a >> s) & 255) + ((b >> s) & 255) + ((c >> s) & 255) + ((d >> s) & 255) + 2) / 4) << s;
    return out;
}

// A picture of two channels as one of four.
std::vector<uint8_t> widened(const std::vector<uint8_t>& rg) {
    std::vector<uint8_t> out;
    for (size_t i = 0; i + 1 < rg.size(); i += 2) out.insert(out.end(), {rg[i], rg[i + 1], 0, 255});
    return out;
}

// A picture and its mipmaps into one slice of a texture array.
void uploadChain(const GlTexture& texture, GLint slice, std::vector<uint8_t> rgba) {
    glBindTexture(GL_TEXTURE_2D_ARRAY, texture);
    std::vector<uint32_t> now(rgba.size() / 4);
    std::memcpy(now.data(), rgba.data(), rgba.size());
    GLint n = 0;
    for (int size = GroundTextures::kMaterialSize; size >= 1; size /= 2, ++n) {
        glTexSubImage3D(GL_TEXTURE_2D_ARRAY, n, 0, 0, slice, size, size, 1, GL_RGBA, GL_UNSIGNED_BYTE, now.data());
        const int half = size / 2;
        for (int y = 0; y < half; ++y)
            for (int x = 0; x < half; ++x) {
                const uint32_t *a = &now[static_cast<size_t>(2 * y * size + 2 * x)], *b = a + size;
                const uint32_t mean = meanOf(a[0], a[1], b[0], b[1]);
                now[static_cast<size_t>(y * half + x)] = mean;  // never read again before it is passed
            }
    }
}

}  // namespace

void GroundTextures::allocate() {
    const Level& l = level_;
    heights_ = makeTexture();
    glBindTexture(GL_TEXTURE_2D, heights_);
    glTexImage2D(GL_TEXTURE_2D, 0, GL_R32F, l.columns, l.rows, 0, GL_RED, GL_FLOAT, nullptr);
    nearestEdges(GL_TEXTURE_2D, GL_NEAREST, GL_NEAREST, GL_CLAMP_TO_EDGE);
    surface_ = makeTexture();
    glBindTexture(GL_TEXTURE_2D, surface_);
    glTexImage2D(GL_TEXTURE_2D, 0, GL_RGBA8, l.columns, l.rows, 0, GL_RGBA, GL_UNSIGNED_BYTE, nullptr);
    nearestEdges(GL_TEXTURE_2D, GL_LINEAR, GL_LINEAR, GL_CLAMP_TO_EDGE);

    litLevels_.clear();
    for (int w = l.columns, d = l.rows;; w = std::max(w / 2, 1), d = std::max(d / 2, 1)) {
        litLevels_.emplace_back(w, d, 0xff808080u);
        if (w == 1 && d == 1) break;
    }
    litMap_ = makeTexture();
    glBindTexture(GL_TEXTURE_2D, litMap_);
    for (size_t n = 0; n < litLevels_.size(); ++n)
        glTexImage2D(GL_TEXTURE_2D, static_cast<GLint>(n), GL_RGBA8, litLevels_[n].width(), litLevels_[n].depth(), 0,
                     GL_RGBA, GL_UNSIGNED_BYTE, nullptr);
    nearestEdges(GL_TEXTURE_2D, GL_LINEAR, minify_, GL_CLAMP_TO_EDGE);
    tileLayers_ = Raster<uint16_t>(l.layers.front().coverage.tilesAcross(), l.layers.front().coverage.tilesDown());
    steep_ = Raster<uint8_t>((l.columns + kBlock - 1) / kBlock, (l.rows + kBlock - 1) / kBlock);
    sun_ = open_ = {};
    weights_ = {};
    wash_ = {};
    if (!wander_) {
        wander_ = makeTexture();
        glBindTexture(GL_TEXTURE_2D, wander_);
        glPixelStorei(GL_UNPACK_ALIGNMENT, 1);
        glTexImage2D(GL_TEXTURE_2D, 0, GL_R8, kWanderTile, kWanderTile, 0, GL_RED, GL_UNSIGNED_BYTE,
                     wanderTile().data());
        glPixelStorei(GL_UNPACK_ALIGNMENT, 4);
        nearestEdges(GL_TEXTURE_2D, GL_LINEAR, GL_LINEAR, GL_REPEAT);
    }
    allocated_ = true;
}

// Decodes and uploads the layers' pictures when they or their number changed.
bool GroundTextures::syncMaterials(const Level& next) {
    bool same = level_.layers.size() == next.layers.size() && !means_.empty();
    for (size_t i = 0; same && i < next.layers.size(); ++i) same = sameMaterial(level_.layers[i], next.layers[i]);
    if (same) return false;
    const auto count = static_cast<int>(next.layers.size());
    std::vector<Result<Material>> made(next.layers.size(), Result<Material>(Error{}));
    parallelFor(count, 1, [&](int first, int end) {
        for (int i = first; i < end; ++i)
            made[static_cast<size_t>(i)] = makeMaterial(next.layers[static_cast<size_t>(i)], kMaterialSize);
    });
    trouble_.reset();
    means_.assign(next.layers.size(), {});
    const bool shines = std::any_of(made.begin(), made.end(), [](auto& m) { return m && !m.value().shine.empty(); });
    const int levels = static_cast<int>(std::log2(kMaterialSize)) + 1;
    for (GlTexture* t : {&colours_, &reliefs_, &shines_}) {
        *t = makeTexture();
        glBindTexture(GL_TEXTURE_2D_ARRAY, *t);
        const int side = t == &shines_ && !shines ? 1 : kMaterialSize;
        for (int n = 0; n < levels && side >> n; ++n)
            glTexImage3D(GL_TEXTURE_2D_ARRAY, n, GL_RGBA8, side >> n, side >> n, count, 0, GL_RGBA, GL_UNSIGNED_BYTE,
                         nullptr);
        nearestEdges(GL_TEXTURE_2D_ARRAY, GL_LINEAR, minify_, GL_REPEAT);
        // Costs 6 to 11 times a plain look-up in software, next to nothing on a graphics card.
        if (minify_ == GL_LINEAR_MIPMAP_LINEAR && epoxy_has_gl_extension("GL_EXT_texture_filter_anisotropic"))
            glTexParameterf(GL_TEXTURE_2D_ARRAY, GL_TEXTURE_MAX_ANISOTROPY_EXT, 8);
    }
    for (int i = 0; i < count; ++i) {
        Result<Material>& m = made[static_cast<size_t>(i)];
        if (!m) {
            trouble_ = m.error();
            continue;
        }
        means_[static_cast<size_t>(i)] = {m.value().meanColour, m.value().meanStored, m.value().meanRelief,
                                          !m.value().shine.empty()};
        uploadChain(colours_, i, m.value().colourHeight);
        uploadChain(reliefs_, i, m.value().reliefRough);
        if (!m.value().shine.empty()) uploadChain(shines_, i, widened(m.value().shine));
    }
    return true;
}

void GroundTextures::uploadHeights(const Region& changed) {
    if (changed.empty()) return;
    const int rowsAtOnce = std::max(1, (1 << 22) / changed.width());
    Raster<float> heights(changed.width(), std::min(changed.depth(), rowsAtOnce));
    glBindTexture(GL_TEXTURE_2D, heights_);
    for (int z0 = changed.z0; z0 < changed.z1; z0 += rowsAtOnce) {
        const Region band{changed.x0, z0, changed.x1, std::min(z0 + rowsAtOnce, changed.z1)};
        readGround(level_, band, heights.view());
        glTexSubImage2D(GL_TEXTURE_2D, 0, band.x0, band.z0, band.width(), band.depth(), GL_RED, GL_FLOAT,
                        heights.view().data);
    }
}

// Four layers to a slice.
int slicesFor(size_t layers) { return static_cast<int>((layers + 3) / 4); }

void GroundTextures::prepareWeights() {
    if (weights_) return;
    weights_ = makeTexture();
    glBindTexture(GL_TEXTURE_2D_ARRAY, weights_);
    glTexImage3D(GL_TEXTURE_2D_ARRAY, 0, GL_RGBA8, level_.coverColumns(), level_.coverRows(),
                 slicesFor(level_.layers.size()), 0, GL_RGBA, GL_UNSIGNED_BYTE, nullptr);
    nearestEdges(GL_TEXTURE_2D_ARRAY, GL_LINEAR, GL_LINEAR, GL_CLAMP_TO_EDGE);
}

void GroundTextures::uploadWeights(const Region& changed) {
    const size_t layers = level_.layers.size();
    const int slices = slicesFor(layers);
    const TiledGrid<uint16_t>& grid = level_.layers.front().coverage;
    const Region tiles = TiledGrid<uint16_t>::tilesOf(changed);
    struct TileData {
        std::vector<uint8_t> rgba;
    };
    std::vector<TileData> data(static_cast<size_t>(tiles.width()));
    glBindTexture(GL_TEXTURE_2D_ARRAY, weights_);
    for (int tz = tiles.z0; tz < tiles.z1; ++tz) {
        parallelFor(tiles.width(), 4, [&](int first, int end) {
            std::vector<Raster<uint8_t>> rasters(layers, Raster<uint8_t>(kTile, kTile));
            std::vector<View<uint8_t>> planes;
            for (auto& r : rasters) planes.push_back(r.view());
            for (int i = first; i < end; ++i) {
                const Region part = grid.tileRegion(tiles.x0 + i, tz);
                readWeights(level_, part, planes);
                auto& rgba = data[static_cast<size_t>(i)].rgba;
                rgba.assign(static_cast<size_t>(slices) * kTile * kTile * 4, 0);
                uint16_t present = 0;
                for (size_t k = 0; k < layers; ++k) {
                    uint8_t any = 0;
                    uint8_t* to = rgba.data() + (k / 4) * kTile * kTile * 4 + k % 4;
                    for (int z = 0; z < part.depth(); ++z)
                        for (int x = 0; x < part.width(); ++x) {
                            const uint8_t w = planes[k].at(x, z);
                            any |= w;
                            to[(z * kTile + x) * 4] = w;
                        }
                    if (any) present = static_cast<uint16_t>(present | 1u << k);
                }
                tileLayers_.at(tiles.x0 + i, tz) = present;
            }
        });
        glPixelStorei(GL_UNPACK_ROW_LENGTH, kTile);
        for (int i = 0; i < tiles.width(); ++i) {
            const Region part = grid.tileRegion(tiles.x0 + i, tz);
            for (int s = 0; s < slices; ++s)
                glTexSubImage3D(GL_TEXTURE_2D_ARRAY, 0, part.x0, part.z0, s, part.width(), part.depth(), 1, GL_RGBA,
                                GL_UNSIGNED_BYTE,
                                data[static_cast<size_t>(i)].rgba.data() + static_cast<size_t>(s) * kTile * kTile * 4);
        }
        glPixelStorei(GL_UNPACK_ROW_LENGTH, 0);
    }
}

// The wash has a texture of its own size only while there is any; coming and going it is all new.
void GroundTextures::prepareWash(Change& change) {
    const bool any = level_.wash.presentTiles() > 0;
    if (wash_ && any == washed_) {
        if (!any) change.wash = {};
        return;
    }
    washed_ = any;
    wash_ = makeTexture();
    glBindTexture(GL_TEXTURE_2D, wash_);
    const uint32_t none = 0;
    glTexImage2D(GL_TEXTURE_2D, 0, GL_RGBA8, any ? level_.columns : 1, any ? level_.rows : 1, 0, GL_RGBA,
                 GL_UNSIGNED_BYTE, any ? nullptr : &none);
    nearestEdges(GL_TEXTURE_2D, GL_LINEAR, GL_LINEAR, GL_CLAMP_TO_EDGE);
    change.wash = any ? TileSet(level_.bounds()) : TileSet();
}

// Painted colour goes to the graphics side multiplied by its strength, so that it can be looked up between samples.
void GroundTextures::uploadWash(const Region& changed) {
    glBindTexture(GL_TEXTURE_2D, wash_);
    Raster<Wash> in(changed.width(), 1);
    std::vector<uint8_t> out;
    out.reserve(static_cast<size_t>(changed.width()) * static_cast<size_t>(changed.depth()) * 4);
    for (int z = changed.z0; z < changed.z1; ++z) {
        level_.wash.read({changed.x0, z, changed.x1, z + 1}, in.view());
        for (int x = 0; x < changed.width(); ++x) {
            const Wash& w = in.at(x, 0);
            const float strength = static_cast<float>(w.strength) / 65535;
            const glm::vec3 c = w.strength ? linearColour(w) : glm::vec3(0);
            for (int k = 0; k < 3; ++k) out.push_back(static_cast<uint8_t>(std::sqrt(c[k]) * strength * 255 + 0.5f));
            out.push_back(static_cast<uint8_t>(strength * 255 + 0.5f));
        }
    }
    glPixelStorei(GL_UNPACK_ROW_LENGTH, 0);
    glTexSubImage2D(GL_TEXTURE_2D, 0, changed.x0, changed.z0, changed.width(), changed.depth(), GL_RGBA,
                    GL_UNSIGNED_BYTE, out.data());
}

// What the baking of one region needs to know of the layers.
struct GroundTextures::Baking {
    std::vector<glm::vec3> colours;  // of each layer, linear
    bool washed, wanders;
    float per;  // to slopes, from differences of two samples
};

GroundTextures::Baking GroundTextures::baking() const {
    Baking b;
    b.washed = level_.wash.presentTiles() > 0;
    b.wanders = std::any_of(level_.layers.begin(), level_.layers.end(),
                            [](const Layer& l) { return l.look.variation > 0; });
    b.per = static_cast<float>(1 / (2 * level_.spacing));
    for (size_t k = 0; k < level_.layers.size(); ++k) {
        const std::array<float, 3> tint = tintOf(level_.layers[k].look), &mean = means_[k].linear;
        b.colours.emplace_back(mean[0] * tint[0], mean[1] * tint[1], mean[2] * tint[2]);
    }
    return b;
}

// The colour of the ground at a place, before any light: layers by weight, washed over.
glm::vec3 GroundTextures::albedoAt(const Baking& b, double px, double pz, const Wash& wash,
                                   const std::vector<View<uint8_t>>& planes, int x) const {
    const float wandered = b.wanders ? wanderAt(px, pz) : 0, washed = static_cast<float>(wash.strength) / 65535;
    const glm::vec3 painted = wash.strength ? linearColour(wash) : glm::vec3(0);
    glm::vec3 albedo(0);
    for (size_t k = 0; k < planes.size(); ++k)
        if (const uint8_t w = planes[k].at(x, 0)) {
            const LayerLook& look = level_.layers[k].look;
            const glm::vec3 own = b.colours[k] * (1 + look.variation * wandered);
            albedo += glm::mix(own, painted, look.wash * washed) * (static_cast<float>(w) / 255.f);
        }
    return albedo;
}

// Normals, shade and light of rows of one block, into the finest lit map and `surface`, whose first row is r.z0.
void GroundTextures::bakeBand(const Baking& b, const Region& r, const Region& rows, Raster<uint32_t>& surface) {
    const int f = level_.coverFactor, coverWidth = (r.width() - 1) * f + 1;
    std::vector<Raster<uint8_t>> rasters(level_.layers.size(), Raster<uint8_t>(coverWidth, 1));
    std::vector<View<uint8_t>> planes;
    for (auto& p : rasters) planes.push_back(p.view());
    Raster<Wash> washes(r.width(), 1);
    Raster<float> heights(r.width() + 2, rows.depth() + 2);
    const View<float> h = heights.view();
    readGroundBeyond(level_, rows.grown(1), h);
    uint8_t* steep = steep_.view().row(rows.z0 / kBlock);
    std::fill(steep + r.x0 / kBlock, steep + (r.x1 + kBlock - 1) / kBlock, uint8_t{0});
    for (int z = rows.z0; z < rows.z1; ++z) {
        readWeights(level_, {r.x0 * f, z * f, r.x0 * f + coverWidth, z * f + 1}, planes);
        if (b.washed) level_.wash.read({r.x0, z, r.x1, z + 1}, washes.view());
        const float *above = h.row(z - rows.z0), *middle = h.row(z - rows.z0 + 1), *below = h.row(z - rows.z0 + 2);
        for (int x = 0; x < r.width(); ++x) {
            const double px = level_.originX + (r.x0 + x) * level_.spacing, pz = level_.originZ + z * level_.spacing;
            const glm::vec3 albedo = albedoAt(b, px, pz, b.washed ? washes.at(x, 0) : Wash{}, planes, x * f);
            const float east = (middle[x + 2] - middle[x]) * b.per, south = (below[x + 1] - above[x + 1]) * b.per;
            const float up = 1 / std::sqrt(1 + east * east + south * south);
            const glm::vec3 normal(-east * up, up, -south * up);
            if (up < kSteepUp) steep[(r.x0 + x) / kBlock] = 1;
            // Unevenness of the ground scales all light, so it goes with sun and sky.
            const float even = unevenness(px, pz);
            const auto shaded = [&](const Raster<uint8_t>& shade) {
                return static_cast<uint32_t>(
                    even * static_cast<float>(shade.width() && !flatLight_ ? shade.at(r.x0 + x, z) : 255) + 0.5f);
            };
            const uint32_t sun = shaded(sun_), open = shaded(open_);
            const glm::vec3 lit = litColour(light_, albedo, normal, static_cast<float>(sun) / 255.f,
                                            static_cast<float>(open) / 255.f);
            litLevels_.front().at(r.x0 + x, z) = finished(lit.x) | static_cast<uint32_t>(finished(lit.y)) << 8 |
                                                 static_cast<uint32_t>(finished(lit.z)) << 16 | 0xff000000u;
            surface.at(x, z - r.z0) = static_cast<uint32_t>(normal.x * 127.5f + 128.f) |
                                      static_cast<uint32_t>(normal.z * 127.5f + 128.f) << 8 | sun << 16 | open << 24;
        }
    }
}

void GroundTextures::uploadLook(const Region& changed) {
    if (changed.empty()) return;
    // Whole blocks, so that each can be told steep or not.
    const auto down = [](int v) { return v / kBlock * kBlock; };
    const Region r = Region{down(changed.x0), down(changed.z0), down(changed.x1 + kBlock - 1),
                            down(changed.z1 + kBlock - 1)}
                         .clipped(level_.bounds());
    Raster<uint32_t> surface(r.width(), r.depth());
    const Baking known = baking();
    parallelFor((r.depth() + kBlock - 1) / kBlock, 1, [&](int first, int end) {
        for (int band = first; band < end; ++band) {
            const int z0 = r.z0 + band * kBlock;
            bakeBand(known, r, {r.x0, z0, r.x1, std::min(z0 + kBlock, r.z1)}, surface);
        }
    });
    glPixelStorei(GL_UNPACK_ROW_LENGTH, 0);
    glBindTexture(GL_TEXTURE_2D, surface_);
    glTexSubImage2D(GL_TEXTURE_2D, 0, r.x0, r.z0, r.width(), r.depth(), GL_RGBA, GL_UNSIGNED_BYTE, surface.view().data);
    uploadLitMap(r);
}

// The lit map and its mipmaps, from the finest down.
void GroundTextures::uploadLitMap(Region r) {
    glBindTexture(GL_TEXTURE_2D, litMap_);
    for (size_t n = 0; n < litLevels_.size(); ++n) {
        Raster<uint32_t>& now = litLevels_[n];
        if (n > 0) {
            const Raster<uint32_t>& fine = litLevels_[n - 1];
            r = Region{r.x0 / 2, r.z0 / 2, (r.x1 + 1) / 2, (r.z1 + 1) / 2}.clipped({0, 0, now.width(), now.depth()});
            for (int z = r.z0; z < r.z1; ++z)
                for (int x = r.x0; x < r.x1; ++x) {
                    const int x1 = std::min(2 * x + 1, fine.width() - 1), z1 = std::min(2 * z + 1, fine.depth() - 1);
                    now.at(x, z) = meanOf(fine.at(2 * x, 2 * z), fine.at(x1, 2 * z), fine.at(2 * x, z1),
                                          fine.at(x1, z1));
                }
        }
        if (r.empty()) break;
        glPixelStorei(GL_UNPACK_ROW_LENGTH, now.width());
        glTexSubImage2D(GL_TEXTURE_2D, static_cast<GLint>(n), r.x0, r.z0, r.width(), r.depth(), GL_RGBA,
                        GL_UNSIGNED_BYTE, &now.at(r.x0, r.z0));
    }
    glPixelStorei(GL_UNPACK_ROW_LENGTH, 0);
}

Change GroundTextures::sync(const Level& next, const Change* hint) {
    const bool fresh = !allocated_ || !sameRaster(level_, next);
    const bool relooked = !fresh && level_.layers.size() == next.layers.size() &&
                          !std::equal(level_.layers.begin(), level_.layers.end(), next.layers.begin(),
                                      [](const Layer& a, const Layer& b) { return sameLitLook(a.look, b.look); });
    const bool relayered = syncMaterials(next);
    Change change;
    if (fresh) {
        level_ = next;
        allocate();
        change.ground = level_.bounds();
        change.cover = level_.coverBounds();
        change.wash = level_.bounds();
    } else {
        if (next.layers.size() != level_.layers.size()) weights_ = {};
        change = changesBetween(next, level_, hint);
        if (relayered) change.cover.add(next.coverBounds());
        level_ = next;
    }
    const LightLook light = lightLook(level_.sun, flatLight_);
    const bool relit = !(light == light_);
    light_ = light;
    for (const Region& spot : change.ground.spots()) uploadHeights(spot);
    if (!weights_) change.cover.add(level_.coverBounds());
    prepareWeights();
    for (const Region& spot : change.cover.spots()) uploadWeights(spot);
    prepareWash(change);
    for (const Region& spot : change.wash.spots()) uploadWash(spot);
    if (relit || relooked) uploadLook(level_.bounds());
    else
        for (const Region& spot : lookOf(change).spots()) uploadLook(spot);
    return change;
}

// Ground samples whose normal or colour a change touches.
TileSet GroundTextures::lookOf(const Change& change) const {
    return change.ground.grown(1, level_.bounds()).joined(touchedGround(level_, change));
}

void GroundTextures::setShade(const Raster<uint8_t>& sun, const Raster<uint8_t>& open) {
    if (sun.width() != level_.columns || sun.depth() != level_.rows) return;  // of an older level
    sun_ = sun;
    open_ = open;
    uploadLook(level_.bounds());
}

void GroundTextures::setFlatLight(bool flat) {
    if (flat == flatLight_) return;
    flatLight_ = flat;
    light_ = lightLook(level_.sun, flat);
    if (allocated_) uploadLook(level_.bounds());
}

bool GroundTextures::steepIn(const Region& ground) const {
    for (int z = ground.z0 / kBlock; z <= (ground.z1 - 1) / kBlock; ++z)
        for (int x = ground.x0 / kBlock; x <= (ground.x1 - 1) / kBlock; ++x)
            if (steep_.at(x, z)) return true;
    return false;
}

uint32_t GroundTextures::layersIn(const Region& ground) const {
    const int f = level_.coverFactor;
    const Region cover =
        Region{ground.x0 * f - 1, ground.z0 * f - 1, (ground.x1 - 1) * f + 2, (ground.z1 - 1) * f + 2}.clipped(
            level_.coverBounds());
    const Region tiles = TiledGrid<uint16_t>::tilesOf(cover);
    uint32_t bits = 0;
    for (int tz = tiles.z0; tz < tiles.z1; ++tz)
        for (int tx = tiles.x0; tx < tiles.x1; ++tx) bits |= tileLayers_.at(tx, tz);
    return bits;
}

}  // namespace jam
