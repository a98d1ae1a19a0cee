#include "material_textures.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <map>
#include <memory>
#include <mutex>

#include "base/parallel.h"
#include "pictures/material.h"
#include "texels.h"

namespace jam {

namespace {

// Brightness against its mean, a half; of pixels as they are stored, which are close to what is shown.
std::vector<uint8_t> grainOf(const std::vector<uint8_t>& rgba) {
    constexpr int n = MaterialTextures::kGrainSize, per = MaterialTextures::kSize / n;
    std::vector<float> light(static_cast<size_t>(n) * n);
    double sum = 0;
    for (int y = 0; y < n; ++y)
        for (int x = 0; x < n; ++x) {
            float total = 0;
            for (int v = 0; v < per; ++v)
                for (int u = 0; u < per; ++u) {
                    const uint8_t* p =
                        &rgba[static_cast<size_t>((y * per + v) * MaterialTextures::kSize + x * per + u) * 4];
                    total += 0.3f * p[0] + 0.5f * p[1] + 0.2f * p[2];
                }
            light[static_cast<size_t>(y * n + x)] = total;
            sum += total;
        }
    const float half = sum > 0 ? static_cast<float>(127.5 * n * n / sum) : 0;
    std::vector<uint8_t> out;
    for (const float v : light) out.push_back(static_cast<uint8_t>(std::min(v * half + 0.5f, 255.f)));
    return out;
}

// Brightness against the mean, less 1, coarse: what of a picture is seen from afar. `fine` is kGrainSize a side, a half
// is its mean.
std::vector<float> farGrainOf(const std::vector<uint8_t>& fine) {
    constexpr int n = MaterialMeans::kGrain;
    constexpr int per = MaterialTextures::kGrainSize / n;
    std::vector<float> out;
    for (int y = 0; y < n; ++y)
        for (int x = 0; x < n; ++x) {
            float sum = 0;
            for (int v = 0; v < per; ++v)
                for (int u = 0; u < per; ++u)
                    sum += fine[static_cast<size_t>((y * per + v) * MaterialTextures::kGrainSize + x * per + u)];
            out.push_back(sum / (127.5f * per * per) - 1);
        }
    return out;
}

// What the decoded pictures of a layer follow from; pictures are compared by address, since one never changes once
// made.
struct Source {
    std::array<Picture, std::size(kLayerSlots)> pictures;
    bool flipGreen;

    explicit Source(const Layer& l) : flipGreen(l.look.flipGreen) {
        for (size_t i = 0; i < pictures.size(); ++i) pictures[i] = l.*kLayerSlots[i].picture;
    }
    auto operator<=>(const Source&) const = default;
};

using Decoded = Result<std::shared_ptr<const PreparedMaterial>>;
std::mutex decodedBusy;
std::map<Source, Decoded> decoded;
constexpr size_t kMostDecoded = 2 * kMaxLayers;

std::optional<Decoded> known(const Source& source) {
    const std::lock_guard lock(decodedBusy);
    const auto at = decoded.find(source);
    return at == decoded.end() ? std::nullopt : std::optional(at->second);
}

// Decodes when the pictures are met for the first time.
Decoded decodedOf(const Layer& layer) {
    const Source source(layer);
    if (auto there = known(source)) return *there;
    Result<Material> made = makeMaterial(layer, MaterialTextures::kSize);
    const auto prepared = [](Material m) {
        std::vector<uint8_t> grain = grainOf(m.colourHeight);
        std::vector<float> far = farGrainOf(grain);
        return std::make_shared<const PreparedMaterial>(std::move(m), std::move(grain), std::move(far));
    };
    Decoded out = made ? Decoded(prepared(made.take())) : Decoded(made.error());
    const std::lock_guard lock(decodedBusy);
    if (decoded.size() >= kMostDecoded) decoded.clear();
    decoded.insert_or_assign(source, out);
    return out;
}

bool sameMaterial(const Layer& a, const Layer& b) { return Source(a) == Source(b); }

// A picture of two channels as one of four.
std::vector<uint8_t> widened(const std::vector<uint8_t>& rg) {
    std::vector<uint8_t> out;
    for (size_t i = 0; i + 1 < rg.size(); i += 2) out.insert(out.end(), {rg[i], rg[i + 1], 0, 255});
    return out;
}

// A picture and its mipmaps into one slice of a texture array.
void uploadChain(const GlTexture& texture, GLint slice, const std::vector<uint8_t>& rgba) {
    glBindTexture(GL_TEXTURE_2D_ARRAY, texture);
    std::vector<uint32_t> now(rgba.size() / 4);
    std::memcpy(now.data(), rgba.data(), rgba.size());
    GLint n = 0;
    for (int size = MaterialTextures::kSize; size >= 1; size /= 2, ++n) {
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

void uploadGrain(const GlTexture& texture, GLint slice, const std::vector<uint8_t>& grain) {
    glBindTexture(GL_TEXTURE_2D_ARRAY, texture);
    glPixelStorei(GL_UNPACK_ALIGNMENT, 1);
    glTexSubImage3D(GL_TEXTURE_2D_ARRAY, 0, 0, 0, slice, MaterialTextures::kGrainSize, MaterialTextures::kGrainSize, 1,
                    GL_RED, GL_UNSIGNED_BYTE, grain.data());
    glPixelStorei(GL_UNPACK_ALIGNMENT, 4);
}

}  // namespace

void prepareMaterials(const Level& level) {
    parallelFor(static_cast<int>(level.layers.size()), 1, [&](int first, int end) {
        for (int i = first; i < end; ++i) static_cast<void>(decodedOf(level.layers[static_cast<size_t>(i)]));
    });
}

void MaterialTextures::allocate(int count, bool shines) {
    shines_ = shines;
    grains_ = makeTexture();
    glBindTexture(GL_TEXTURE_2D_ARRAY, grains_);
    setFilter(GL_TEXTURE_2D_ARRAY, GL_LINEAR, GL_LINEAR, GL_REPEAT, GL_REPEAT);
    takeRoom(GL_R8, kGrainSize, kGrainSize, 1, count);
    for (GlTexture* t : {&colours_, &reliefs_, &shine_}) {
        *t = makeTexture();
        glBindTexture(GL_TEXTURE_2D_ARRAY, *t);
        setFilter(GL_TEXTURE_2D_ARRAY, GL_LINEAR, minify_, GL_REPEAT, GL_REPEAT);
        const int side = t == &shine_ && !shines ? 1 : kSize;
        takeRoom(GL_RGBA8, side, side, levelsOf(side, side), count);
        // Costs 6 to 11 times a plain look-up in software, next to nothing on a graphics card.
        if (minify_ == GL_LINEAR_MIPMAP_LINEAR && epoxy_has_gl_extension("GL_EXT_texture_filter_anisotropic"))
            glTexParameterf(GL_TEXTURE_2D_ARRAY, GL_TEXTURE_MAX_ANISOTROPY_EXT, 8);
    }
}

bool MaterialTextures::sync(const Level& next) {
    if (!layers_.empty() &&
        std::equal(layers_.begin(), layers_.end(), next.layers.begin(), next.layers.end(), sameMaterial))
        return false;
    const auto count = static_cast<int>(next.layers.size());
    prepareMaterials(next);
    std::vector<Decoded> made;
    for (const Layer& l : next.layers) made.push_back(decodedOf(l));
    const bool shines = std::any_of(made.begin(), made.end(),
                                    [](auto& m) { return m && !m.value()->material.shine.empty(); });
    // With as many layers as before only those whose pictures differ are uploaded again.
    const bool anew = next.layers.size() != layers_.size() || shines != shines_;
    if (anew) {
        allocate(count, shines);
        waiting_.clear();
    }
    trouble_.reset();
    means_.assign(next.layers.size(), {});
    part_ = 0;
    for (int i = 0; i < count; ++i) {
        const auto k = static_cast<size_t>(i);
        if (!made[k]) {
            trouble_ = made[k].error();
            continue;
        }
        const Material& m = made[k].value()->material;
        means_[k] = {m.meanColour, m.meanStored, m.meanRelief, !m.shine.empty(), made[k].value()->farGrain};
        if (anew || waiting_.contains(i) || !sameMaterial(layers_[k], next.layers[k])) waiting_[i] = made[k].value();
    }
    layers_.clear();
    for (const Layer& l : next.layers) {
        Layer pictures;
        for (const LayerSlot& s : kLayerSlots) pictures.*s.picture = l.*s.picture;
        pictures.look.flipGreen = l.look.flipGreen;
        layers_.push_back(std::move(pictures));
    }
    return true;
}

// One picture at a time: the first upload into an array takes what room it needs, which is a wait by itself.
void MaterialTextures::bring() {
    const auto first = waiting_.begin();
    const int slice = first->first;
    const Material& m = first->second->material;
    switch (part_++) {
        case 0: return uploadChain(colours_, slice, m.colourHeight);
        case 1: return uploadGrain(grains_, slice, first->second->grain);
        case 2: return uploadChain(reliefs_, slice, m.reliefRough);
        default:
            if (!m.shine.empty()) uploadChain(shine_, slice, widened(m.shine));
            part_ = 0;
            waiting_.erase(first);
    }
}

}  // namespace jam
