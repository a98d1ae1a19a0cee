#include "scene_view.h"

#include <cmath>
#include <glm/vec4.hpp>

#include "base/srgb.h"
#include "ground_programs.h"
#include "shaders.h"

namespace jam {

namespace {

// The block of shaders/light.glsl, laid out as std140 says.
struct SceneBlock {
    glm::mat4 viewProjection;
    glm::vec3 camera;
    float hazeMetres;
    glm::vec3 towardsSun;
    float smoothEdges;
    glm::vec3 sunColour;
    float cliff;
    glm::vec3 skyColour;
    float foot;
    glm::vec3 hazeColour;
    float finer;
    glm::vec3 hazeShown;
    float time;
    glm::vec4 zenithColour, airHaze, airZenith;
    glm::vec3 place;
    float beside;
    int32_t samples[4];
    int32_t gapsAt[4];
    glm::vec4 onLitMap, onNear, onCover;
    glm::vec4 reading;
};
static_assert(sizeof(SceneBlock) == 4 * 16 + 6 * 16 + 3 * 16 + 3 * 16 + 3 * 16 + 16);

// Of the lit map's grain: at rest it is as lively as the layers that are blended where those end.
constexpr float kGrainAtRest = 0.2f, kGrainMoving = 0.26f;

bool always(unsigned) { return true; }
bool live(unsigned f) { return f & kLive; }

glm::vec4 on(const NearWindow::Placing& placing) { return {placing.scale, placing.offset}; }

SceneBlock blockOf(const SceneView& view) {
    const GroundTextures& t = view.textures;
    const Level& level = t.level();
    const LightLook air = t.light();
    LightLook sun = air;
    const UnderWater& under = view.sight.under;
    if (under.metres > 0) {
        // What lies far off is the water's own colour, the darker the deeper.
        const float lit = 1.5f * std::exp(-0.25f * under.deep / under.metres);
        for (int i = 0; i < 3; ++i)
            sun.haze[i] = lit * linearLight(under.colour[static_cast<size_t>(i)]) * (0.35f + sun.sky[i]);
        sun.zenith = sun.haze * 1.6f;
    }
    SceneBlock b{};
    b.viewProjection = view.viewProjection;
    b.camera = view.camera.at;
    b.hazeMetres = under.metres > 0 ? under.metres
                                    : static_cast<float>(3500 + 1.5 * std::max(level.width(), level.depth()));
    b.towardsSun = sun.towards, b.sunColour = sun.sun, b.skyColour = sun.sky, b.hazeColour = sun.haze;
    for (int i = 0; i < 3; ++i) b.hazeShown[i] = static_cast<float>(finished(sun.haze[i])) / 255;
    b.zenithColour = {sun.zenith, 0}, b.airHaze = {air.haze, 0}, b.airZenith = {air.zenith, 0};
    b.smoothEdges = level.smoothEdges ? 1.f : 0.f;
    b.cliff = level.cliff;
    b.foot = view.foot;
    b.finer = std::log2(view.quality.share);
    b.time = view.sight.waterTime;
    b.place = {level.originX, level.originZ, level.spacing};
    b.samples[0] = level.columns, b.samples[1] = level.rows;
    const Region& gaps = t.gaps().where();
    b.gapsAt[0] = gaps.x0, b.gapsAt[1] = gaps.z0, b.gapsAt[2] = gaps.width(), b.gapsAt[3] = gaps.depth();
    const LitMap& lit = t.litMap();
    const glm::vec2 texels(lit.width(), lit.depth());
    b.onLitMap = {1.f / (texels * static_cast<float>(lit.stride())), 0.5f / texels};
    b.reading = {view.quality.pass.finer, std::exp2(view.quality.pass.detail),
                 view.quality.full() ? kGrainAtRest : kGrainMoving, 0};
    b.onNear = on(t.near().onGround()), b.onCover = on(t.near().onCover());
    return b;
}

}  // namespace

const std::array<GroundUnit, kTextureUnits> kGroundUnits{{
    {"heights", GL_TEXTURE_2D, [](const GroundTextures& t) -> const GlTexture& { return t.heights(); }, always},
    {"surface", GL_TEXTURE_2D, [](const GroundTextures& t) -> const GlTexture& { return t.near().surface(); }, live},
    {"litMap", GL_TEXTURE_2D, [](const GroundTextures& t) -> const GlTexture& { return t.litMap().texture(); }, always},
    {"weights", GL_TEXTURE_2D_ARRAY, [](const GroundTextures& t) -> const GlTexture& { return t.near().weights(); },
     live},
    {"colours", GL_TEXTURE_2D_ARRAY,
     [](const GroundTextures& t) -> const GlTexture& { return t.materials().colours(); }, live},
    {"reliefs", GL_TEXTURE_2D_ARRAY,
     [](const GroundTextures& t) -> const GlTexture& { return t.materials().reliefs(); },
     [](unsigned f) { return (f & (kLive | kRelief)) != 0; }},
    {"shines", GL_TEXTURE_2D_ARRAY, [](const GroundTextures& t) -> const GlTexture& { return t.materials().shines(); },
     [](unsigned f) { return f & kLive && f & kExtra; }},
    {"wash", GL_TEXTURE_2D, [](const GroundTextures& t) -> const GlTexture& { return t.near().wash(); },
     [](unsigned f) { return f & kLive && f & kExtra; }},
    {"wander", GL_TEXTURE_2D, [](const GroundTextures& t) -> const GlTexture& { return t.wander(); }, live},
    {"painted", GL_TEXTURE_2D, [](const GroundTextures& t) -> const GlTexture& { return t.painted(); },
     [](unsigned f) { return (f & kOverlay) != 0; }},
    {"leading", GL_TEXTURE_2D, [](const GroundTextures& t) -> const GlTexture& { return t.near().leading(); },
     [](unsigned f) { return (f & kGrain) != 0; }},
    {"grains", GL_TEXTURE_2D_ARRAY, [](const GroundTextures& t) -> const GlTexture& { return t.materials().grains(); },
     [](unsigned f) { return (f & kGrain) != 0; }},
    {"gaps", GL_TEXTURE_2D, [](const GroundTextures& t) -> const GlTexture& { return t.gaps().texture(); },
     [](unsigned f) { return (f & kGaps) != 0; }},
}};

Result<GlProgram> makeSceneProgram(const std::string& vertex, const std::string& fragment, const std::string& defines) {
    const std::string light = shader_light_glsl;
    Result<GlProgram> made = makeProgram(light + vertex, light + fragment, defines);
    if (!made) return made;
    glUseProgram(made.value());
    for (size_t unit = 0; unit < kGroundUnits.size(); ++unit)
        glUniform1i(at(made.value(), kGroundUnits[unit].name), static_cast<GLint>(unit));
    return made;
}

void SceneUniforms::build() {
    ground_ = makeBuffer();
    rest_ = makeBuffer();
}

void SceneUniforms::write(const SceneView& view) {
    SceneBlock block = blockOf(view);
    const auto fill = [&](const GlBuffer& buffer) {
        glBindBuffer(GL_UNIFORM_BUFFER, buffer);
        glBufferData(GL_UNIFORM_BUFFER, sizeof block, &block, GL_STREAM_DRAW);
    };
    fill(rest_);
    const float headroom = headroomOf(view.textures.relief());
    block.sunColour *= headroom, block.skyColour *= headroom;
    fill(ground_);
}

void SceneUniforms::use(bool ofGround) const { glBindBufferBase(GL_UNIFORM_BUFFER, 0, ofGround ? ground_ : rest_); }

void drawSides(const GlProgram& p, const SceneView& view) {
    const Level& l = view.textures.level();
    const glm::dvec3& eye = view.camera.at;
    const bool seen[] = {eye.z<l.originZ, eye.x> l.originX + l.width(), eye.z > l.originZ + l.depth(),
                         eye.x < l.originX};
    for (int side = 0; side < 4; ++side) {
        if (!seen[side]) continue;
        const int last = side % 2 == 0 ? l.columns - 1 : l.rows - 1;
        const int stride = std::max(1, last / 2048);
        glUniform1i(at(p, "side"), side);
        glUniform1i(at(p, "stride"), stride);
        glDrawArrays(GL_TRIANGLE_STRIP, 0, 2 * ((last + stride - 1) / stride + 1));
    }
}

}  // namespace jam
