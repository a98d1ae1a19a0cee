#include "sky.h"

#include <array>
#include <glm/gtc/type_ptr.hpp>
#include <glm/matrix.hpp>
#include <vector>

#include "level/ground.h"
#include "level/opening.h"
#include "shaders.h"

namespace jam {

namespace {
constexpr int kQuadsX = 28,
              kQuadsY = 20;  // neighbours share corners: what the sky looks like is worked out once for each
}

Status Sky::build() {
    const std::string light = shader_light_glsl;
    const std::string grid = "#define QUICK\n#define GRID_X " + std::to_string(kQuadsX) + "\n#define GRID_Y " +
                             std::to_string(kQuadsY) + "\n";
    for (GlProgram* made : {&full_, &quick_}) {
        Result<GlProgram> p = makeProgram(light + shader_clouds_glsl + shader_sky_vert,
                                          light + shader_clouds_glsl + shader_sky_frag, made == &quick_ ? grid : "");
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
std::vector<uint16_t> Sky::open(const View3& view) {
    const Level& level = view.textures.level();
    const Camera& c = view.camera;
    // Behind openings there is a floor of its own (Renderer's inside), behind what is no land there is sky.
    const float lowest = hasGaps(level) ? view.foot : view.pyramid.whole().low;
    const bool sure = level.noLand.presentTiles() == 0 &&
                      (!level.holds(c.at.x, c.at.z) || c.at.y > altitudeAt(level, c.at.x, c.at.z));
    std::array<bool, (kQuadsX + 1) * (kQuadsY + 1)> ground{};
    for (int y = 0; sure && y <= kQuadsY; ++y)
        for (int x = 0; x <= kQuadsX; ++x)
            // From the lower edge up, as clip space goes.
            ground[static_cast<size_t>(y * (kQuadsX + 1) + x)] = meetsGround(
                level, c, lowest,
                c.ray(static_cast<double>(x) * c.width / kQuadsX - 0.5,
                      c.height - static_cast<double>(y) * c.height / kQuadsY - 0.5)
                    .along);
    std::vector<uint16_t> corners;
    for (int y = 0; y < kQuadsY; ++y)
        for (int x = 0; x < kQuadsX; ++x) {
            const int a = y * (kQuadsX + 1) + x, b = a + kQuadsX + 1;
            const auto at = [&](int i) { return ground[static_cast<size_t>(i)]; };
            if (at(a) && at(a + 1) && at(b) && at(b + 1)) continue;
            for (const int i : {a, a + 1, b, a + 1, b + 1, b}) corners.push_back(static_cast<uint16_t>(i));
        }
    return corners;
}

void Sky::draw(const View3& view, bool quick) {
    const std::vector<uint16_t> corners = quick ? open(view) : std::vector<uint16_t>{};
    if (quick && corners.empty()) return;
    const GlProgram& p = quick ? quick_ : full_;
    glUseProgram(p);
    setLight(p, view);
    const glm::vec3 eye(view.camera.at);
    glUniform3fv(at(p, "camera"), 1, glm::value_ptr(eye));
    glUniform1i(at(p, "wander"), kWanderUnit);
    const glm::mat4 fromClip = glm::inverse(view.viewProjection);
    glUniformMatrix4fv(at(p, "fromClip"), 1, GL_FALSE, glm::value_ptr(fromClip));
    glBindVertexArray(quick ? raster_ : empty_);
    if (!quick) return glDrawArrays(GL_TRIANGLES, 0, 3);
    glBufferData(GL_ELEMENT_ARRAY_BUFFER, static_cast<GLsizeiptr>(corners.size() * sizeof(uint16_t)), corners.data(),
                 GL_STREAM_DRAW);
    glDrawElements(GL_TRIANGLES, static_cast<GLsizei>(corners.size()), GL_UNSIGNED_SHORT, nullptr);
}

}  // namespace jam
