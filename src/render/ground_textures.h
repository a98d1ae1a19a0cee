// The level's own rasters on the graphics side, kept up to date tile by tile.
#pragma once


#include "files/material.h"
#include "gl.h"
#include "level/changes.h"
#include "light.h"

namespace jam {

// Holds the level that was uploaded last; what to upload next is found by comparing tile pointers.
class GroundTextures {
public:
    // `trilinear` blends between mipmaps; software drawing does without, for speed.
    explicit GroundTextures(bool trilinear) : minify_(trilinear ? GL_LINEAR_MIPMAP_LINEAR : GL_LINEAR_MIPMAP_NEAREST) {}

    // Uploads what differs. With `hint`, only samples inside it are looked at; the caller vouches that nothing
    // else changed. Returns the samples that changed.
    Change sync(const Level& next, const Change* hint);
    // Sun visibility and openness of every ground sample (survey/sunlight.h).
    void setShade(const Raster<uint8_t>& sun, const Raster<uint8_t>& open);
    void setFlatLight(bool flat);
    const LightLook& light() const { return light_; }

    // Layers with any weight in the ground region (or one cover sample beside it), as bits.
    uint32_t layersIn(const Region& ground) const;
    const Level& level() const { return level_; }
    // Error of the last materials that failed to decode, if any.
    const std::optional<Error>& trouble() const { return trouble_; }

    // Mean height of a layer's relief, [0, 1].
    float meanHeight(size_t layer) const { return meanHeights_[layer]; }

    const GlTexture& heights() const { return heights_; }
    const GlTexture& surface() const { return surface_; }
    const GlTexture& litMap() const { return litMap_; }
    const GlTexture& weights() const { return weights_; }
    const GlTexture& colours() const { return colours_; }
    const GlTexture& reliefs() const { return reliefs_; }

    static constexpr int kMaterialSize = 512;

private:
    void allocate();
    bool syncMaterials(const Level& next);
    void uploadHeights(const Region& changed);
    void uploadWeights(const Region& coverChanged);
    // Normals, shade and baked light of ground samples.
    void uploadLook(const Region& changed);
    Region lookOf(const Change& change) const;

    GLint minify_;
    Level level_;
    bool allocated_ = false;
    std::vector<glm::vec3> means_;                  // mean colours of the layers, linear
    std::vector<float> meanHeights_;
    Raster<uint16_t> tileLayers_;                   // bits per cover tile
    std::vector<Raster<uint32_t>> litLevels_;       // the lit map and its mipmaps, RGBA
    Raster<uint8_t> sun_, open_;                    // empty until known
    LightLook light_;
    bool flatLight_ = false;
    std::optional<Error> trouble_;
    GlTexture heights_, surface_, litMap_, weights_, colours_, reliefs_;
};

}  // namespace jam
