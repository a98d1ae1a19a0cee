// The level's own rasters on the graphics side, kept up to date tile by tile.
#pragma once

#include <array>

#include "gl.h"
#include "level/changes.h"
#include "light.h"
#include "pictures/material.h"

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
    // Whether the ground region is anywhere so steep that three-sided projection shows.
    bool steepIn(const Region& ground) const;
    const Level& level() const { return level_; }
    // Error of the last materials that failed to decode, if any.
    const std::optional<Error>& trouble() const { return trouble_; }

    // Means of a layer's pictures as they are stored, [0, 1]: colour and height; relief, roughness and occlusion.
    struct Means {
        std::array<float, 3> linear{0.5f, 0.2f, 0.5f};  // of the linear colour
        std::array<float, 4> stored{0.7f, 0.4f, 0.7f, 0.5f}, relief{0.5f, 0.5f, 0.9f, 1};
        bool shine = false;  // has a picture of specular or metalness
    };
    const Means& means(size_t layer) const { return means_[layer]; }

    const GlTexture& heights() const { return heights_; }
    const GlTexture& surface() const { return surface_; }
    const GlTexture& litMap() const { return litMap_; }
    const GlTexture& weights() const { return weights_; }
    const GlTexture& colours() const { return colours_; }
    const GlTexture& reliefs() const { return reliefs_; }
    const GlTexture& shines() const { return shines_; }
    const GlTexture& wash() const { return wash_; }
    const GlTexture& wander() const { return wander_; }

    static constexpr int kMaterialSize = 512;

private:
    static constexpr int kBlock = 16;

    void allocate();
    bool syncMaterials(const Level& next);
    void uploadHeights(const Region& changed);
    void prepareWeights();
    void uploadWeights(const Region& coverChanged);
    void prepareWash(Change& change);
    void uploadWash(const Region& changed);
    // Normals, shade and baked light of ground samples.
    void uploadLook(const Region& changed);
    void uploadLitMap(Region changed);
    struct Baking;
    Baking baking() const;
    glm::vec3 albedoAt(const Baking& b, double px, double pz, const Wash& wash,
                       const std::vector<View<uint8_t>>& planes, int x) const;
    void bakeBand(const Baking& b, const Region& r, const Region& rows, Raster<uint32_t>& surface);
    TileSet lookOf(const Change& change) const;

    GLint minify_;
    Level level_;
    bool allocated_ = false;
    std::vector<Means> means_;                 // by layer
    Raster<uint16_t> tileLayers_;              // bits per cover tile
    Raster<uint8_t> steep_;                    // per block of kBlock x kBlock ground samples
    std::vector<Raster<uint32_t>> litLevels_;  // the lit map and its mipmaps, RGBA
    Raster<uint8_t> sun_, open_;               // empty until known
    LightLook light_;
    bool flatLight_ = false, washed_ = false;
    std::optional<Error> trouble_;
    GlTexture heights_, surface_, litMap_, weights_, colours_, reliefs_, shines_, wash_, wander_;
};

}  // namespace jam
