#include "sky.h"

#include <glm/gtc/type_ptr.hpp>
#include <glm/matrix.hpp>
#include <vector>

#include "level/ground.h"
#include "level/opening.h"
#include "shaders.h"

namespace jam {

namespace {

// Quads of the raster, across and up. Neighbours share corners: what the sky looks like is worked out once for each.
struct Quads {
    int x, y;
};
// Without clouds, which are above the horizon, fewer do.
constexpr Quads kClouded{28, 20}, kPlain{7, 5};

Quads quadsFor(const Camera& camera) { return camera.ray(camera.width / 2.0, -0.5).along.y > 0 ? kClouded : kPlain; }

}  // namespace

Status Sky::build() {
    for (GlProgram* made : {&full_, &quick_}) {
        Result<GlProgram> p = makeSceneProgram(std::string(shader_clouds_glsl) + shader_sky_vert,
                                               std::string(shader_clouds_glsl) + shader_sky_frag,
                                               made == &quick_ ? "#define QUICK\n" : "");
        if (!p) return p.error();
        *made = p.take();
    }
    empty_ = makeArray();
    raster_ = makeArray();
    corners_ = makeBuffer();
    glBindVertexArray(raster_);
    glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, corners_);
    glBindVertexArray(0);
    return {};
}

namespace {

// Whether a look from the eye must meet what is drawn: it gets down to where that is lowest within the level.
bool meetsGround(const Level& level, const Camera& camera, float lowest, const glm::dvec3& along) {
    const double down = lowest - camera.at.y;
    if (along.y >= 0 || down >= 0) return false;
    const glm::dvec3 end = camera.at + along * (down / along.y);
    return level.holds(end.x, end.z);
}

}  // namespace

// The quads behind which there may be sky, as corners of two triangles each. Where all four corners look at the ground,
// all between them does: what they see of a level's rectangle is a rectangle's picture.
std::vector<uint16_t> Sky::open(const SceneView& view) {
    const Level& level = view.textures.level();
    const Camera& c = view.camera;
    const Quads quads = quadsFor(c);
    // Behind openings there is a floor of its own (drawInside() of the scene), behind what is no land there is sky.
    const float lowest = hasGaps(level) ? view.foot : view.pyramid.whole().low;
    const bool sure = level.noLand.presentTiles() == 0 &&
                      (!level.holds(c.at.x, c.at.z) || c.at.y > altitudeAt(level, c.at.x, c.at.z));
    std::vector<bool> ground(static_cast<size_t>((quads.x + 1) * (quads.y + 1)));
    for (int y = 0; sure && y <= quads.y; ++y)
        for (int x = 0; x <= quads.x; ++x)
            // From the lower edge up, as clip space goes.
            ground[static_cast<size_t>(y * (quads.x + 1) + x)] = meetsGround(
                level, c, lowest,
                c.ray(static_cast<double>(x) * c.width / quads.x - 0.5,
                      c.height - static_cast<double>(y) * c.height / quads.y - 0.5)
                    .along);
    std::vector<uint16_t> corners;
    for (int y = 0; y < quads.y; ++y)
        for (int x = 0; x < quads.x; ++x) {
            const int a = y * (quads.x + 1) + x, b = a + quads.x + 1;
            const auto at = [&](int i) { return ground[static_cast<size_t>(i)]; };
            if (at(a) && at(a + 1) && at(b) && at(b + 1)) continue;
            for (const int i : {a, a + 1, b, a + 1, b + 1, b}) corners.push_back(static_cast<uint16_t>(i));
        }
    return corners;
}

void Sky::draw(const SceneView& view, bool quick) {
    const std::vector<uint16_t> corners = quick ? open(view) : std::vector<uint16_t>{};
    if (quick && corners.empty()) return;
    const GlProgram& p = quick ? quick_ : full_;
    glUseProgram(p);
    const glm::mat4 fromClip = glm::inverse(view.viewProjection);
    glUniformMatrix4fv(at(p, "fromClip"), 1, GL_FALSE, glm::value_ptr(fromClip));
    glBindVertexArray(quick ? raster_ : empty_);
    if (!quick) return glDrawArrays(GL_TRIANGLES, 0, 3);
    const Quads quads = quadsFor(view.camera);
    glUniform2i(at(p, "quads"), quads.x, quads.y);
    glBufferData(GL_ELEMENT_ARRAY_BUFFER, static_cast<GLsizeiptr>(corners.size() * sizeof(uint16_t)), corners.data(),
                 GL_STREAM_DRAW);
    glDrawElements(GL_TRIANGLES, static_cast<GLsizei>(corners.size()), GL_UNSIGNED_SHORT, nullptr);
}

}  // namespace jam
