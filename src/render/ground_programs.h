// The ground's shader, compiled by features: a processor runs both sides of every branch and every loop at least once,
// so what only some patches need is compiled in for those alone.
#pragma once

#include <map>
#include <optional>

#include "patches.h"
#include "scene_view.h"

namespace jam {

// See shaders/ground.frag.
constexpr unsigned kContours = 1, kOverlay = 2, kLive = 4, kRelief = 8, kSides = 16, kPieces = 32, kSecond = 64,
                   kExtra = 128, kGrain = 256, kGaps = 512;
// What a patch of these layers (bits) needs of the shader.
unsigned featuresOf(const GroundTextures& textures, const Patch& patch, uint32_t layers, double liveMetres);
// The same where the grain of its leading layers is laid over the lit map.
unsigned grainFeaturesOf(const GroundTextures& textures, const Patch& patch);
// The layers that are laid from above alone, as bits.
uint32_t laidFlat(const Level& level);

// Whether a piece of ground has gaps that can be cut now.
bool gapsIn(const GroundTextures& textures, const Region& ground);

// The textures that a shader with these features reads, as bits by unit.
unsigned unitsOf(unsigned features);

class GroundPrograms {
public:
    // Compiles what every view needs.
    Status build();
    // Makes the shader with these features current, with all that it asks for. It is compiled when first asked for; the
    // plainest stands in when a driver refuses it, which trouble() tells.
    void use(unsigned features, const SceneView& view, double liveMetres);
    // The next use compiles it anew; the plainest stays, because it stands in for others.
    void forget(unsigned features) {
        if (features) programs_.erase(features);
    }
    const std::optional<Error>& trouble() const { return trouble_; }
    size_t compiled() const { return programs_.size(); }

private:
    Status build(unsigned features);
    const GlProgram& with(unsigned features);

    std::map<unsigned, GlProgram> programs_;  // by features
    std::optional<Error> trouble_;
};

}  // namespace jam
