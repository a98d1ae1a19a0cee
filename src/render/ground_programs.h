// The ground's shader, compiled by features: a processor runs both sides of every branch and every loop at least once,
// so what only some patches need is compiled in for those alone.
#pragma once

#include <glm/mat4x4.hpp>
#include <map>
#include <optional>

#include "ground_textures.h"
#include "patches.h"
#include "renderer.h"

namespace jam {

// See shaders/ground.frag.
constexpr unsigned kContours = 1, kOverlay = 2, kLive = 4, kRelief = 8, kSides = 16, kPieces = 32, kSecond = 64,
                   kExtra = 128, kGrain = 256, kGaps = 512;
// What a quick picture shows of the grain of the leading layers: `most` of it [0, 1] near the eye, less from `from` on,
// none beyond `to`, metres.
struct GrainFade {
    float most, from, to;
};
// All of a moving picture; a part of one can afford more, and lies beside what is at rest: it fades so that it has
// about the contrast of the layers at each distance (bench_contrast).
constexpr GrainFade kMovingGrain{0.9f, 45, 90};
inline GrainFade partGrain(double liveMetres) {
    return {1, static_cast<float>(0.1 * liveMetres), static_cast<float>(0.75 * liveMetres)};
}

constexpr int kWanderUnit = 8;  // of the texture that the sky reads too

// What a patch of these layers (bits) needs of the shader.
unsigned featuresOf(const GroundTextures& textures, const Patch& patch, uint32_t layers, double liveMetres);
// The same where the grain of its leading layers is laid over the lit map.
unsigned grainFeaturesOf(const GroundTextures& textures, const Patch& patch);
// The layers that are laid from above alone, as bits.
uint32_t laidFlat(const Level& level);

// Whether a piece of ground has gaps that can be cut now.
bool gapsIn(const GroundTextures& textures, const Region& ground);

// One view of the level, as shaders need it.
struct View3 {
    const GroundTextures& textures;
    const HeightPyramid& pyramid;
    const Camera& camera;
    glm::mat4 viewProjection;
    float foot;  // metres: where the level's sides end
    UnderWater under = {};
    GrainFade grain = kMovingGrain;
    float finer = 0;  // levels of detail that the lit map is read finer than the pixels ask for
};

void setView(const GlProgram& p, const View3& view);
void setLight(const GlProgram& p, const View3& view);

// Draws the cut sides of the level that the eye sees, two vertices for each border sample, with the program that is
// current: its uniforms `side` and `stride` say which.
void drawSides(const GlProgram& p, const View3& view);

// The textures in the order of their units: those that a shader with these features reads, as bits.
unsigned unitsOf(unsigned features);

class GroundPrograms {
public:
    // Compiles what every view needs.
    Status build();
    // Makes the shader with these features current, with all that it asks for. It is compiled when first asked for; the
    // plainest stands in when a driver refuses it, which trouble() tells.
    void use(unsigned features, const View3& view, const Sight& sight, double liveMetres);
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
