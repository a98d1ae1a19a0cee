// The layers' own pictures on the graphics side, one slice of each array to a layer.
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <vector>

#include "cover/material.h"
#include "gl.h"
#include "level/level.h"
#include "material_means.h"

namespace jam {

// A decoded layer, with what takes too long to be found out when it is to be drawn.
struct PreparedMaterial {
    PreparedMaterial(Material m, std::vector<uint8_t> g, std::vector<float> far)
        : material(std::move(m)), grain(std::move(g)), farGrain(std::move(far)) {}
    Material material;
    std::vector<uint8_t> grain;   // see grains()
    std::vector<float> farGrain;  // of MaterialMeans
};

class MaterialTextures {
public:
    explicit MaterialTextures(GLint minify) : minify_(minify) {}

    // Decodes the layers' pictures when they or their number changed; tells whether they did. Those that differ have to
    // be brought then.
    bool sync(const Level& next);
    bool stale() const { return !waiting_.empty(); }
    // Uploads one picture of a layer that waits.
    void bring();

    const MaterialMeans& means(size_t layer) const { return means_[layer]; }
    const std::vector<MaterialMeans>& all() const { return means_; }
    // Error of the last pictures that failed to decode, if any.
    const std::optional<Error>& trouble() const { return trouble_; }

    const GlTexture& colours() const { return colours_; }
    const GlTexture& reliefs() const { return reliefs_; }
    const GlTexture& shines() const { return shine_; }
    // How bright the colours are against the mean of their linear light, which is a half; small and without mipmaps,
    // for the quick picture.
    const GlTexture& grains() const { return grains_; }

    static constexpr int kSize = 512, kGrainSize = 128;

private:
    void allocate(int count, bool shines);

    GLint minify_;
    std::vector<Layer> layers_;  // as uploaded; of use are their pictures
    std::vector<MaterialMeans> means_;
    std::optional<Error> trouble_;
    std::map<GLint, std::shared_ptr<const PreparedMaterial>> waiting_;  // by slice
    int part_ = 0;  // of the pictures of the first that waits: what comes next
    bool shines_ = false;
    GlTexture colours_, reliefs_, shine_, grains_;
};

}  // namespace jam
