// One view of the level, as shaders need it.
#pragma once

#include <glm/mat4x4.hpp>
#include <optional>

#include "gl.h"
#include "ground_textures.h"
#include "quality.h"
#include "sight.h"

namespace jam {

struct SceneView {
    const GroundTextures& textures;
    const HeightPyramid& pyramid;
    const Camera& camera;
    const Sight& sight;
    const Quality& quality;
    glm::mat4 viewProjection;
    float foot;  // metres: where the level's sides end
};

// The textures that the shaders read, each at a unit of its own.
struct GroundUnit {
    const char* name;
    GLenum target;
    const GlTexture& (*of)(const GroundTextures&);
    bool (*readWith)(unsigned features);  // of ground_programs.h
};
extern const std::array<GroundUnit, kTextureUnits> kGroundUnits;

// Compiles with what is the same for all that is drawn (shaders/light.glsl), and gives each texture its unit.
Result<GlProgram> makeSceneProgram(const std::string& vertex, const std::string& fragment,
                                   const std::string& defines = "");

// What all shaders of a picture are told: once for the ground, whose stored light is divided by the headroom that
// crests need (relief.h), and once for all else.
class SceneUniforms {
public:
    void build();
    void write(const SceneView& view);
    void use(bool ofGround) const;

private:
    GlBuffer ground_, rest_;
};

// Draws the cut sides of the level that the eye sees, two vertices for each border sample, with the program that is
// current: its uniforms `side` and `stride` say which.
void drawSides(const GlProgram& p, const SceneView& view);

}  // namespace jam
