#include "sky.h"

#include <glm/gtc/type_ptr.hpp>
#include <glm/matrix.hpp>
#include <vector>

#include "shaders.h"

namespace jam {

namespace {
constexpr int kQuadsX = 28, kQuadsY = 20;
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
    // Neighbouring quads share their corners: what the sky looks like is worked out once for each.
    std::vector<uint16_t> corners;
    for (int y = 0; y < kQuadsY; ++y)
        for (int x = 0; x < kQuadsX; ++x) {
            const int a = y * (kQuadsX + 1) + x, b = a + kQuadsX + 1;
            for (const int i : {a, a + 1, b, a + 1, b + 1, b}) corners.push_back(static_cast<uint16_t>(i));
        }
    empty_ = makeArray();
    raster_ = makeArray();
    corners_ = makeBuffer();
    glBindVertexArray(raster_);
    glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, corners_);
    glBufferData(GL_ELEMENT_ARRAY_BUFFER, static_cast<GLsizeiptr>(corners.size() * sizeof(uint16_t)), corners.data(),
                 GL_STATIC_DRAW);
    glBindVertexArray(0);
    return {};
}

void Sky::draw(const View3& view, bool quick) {
    const GlProgram& p = quick ? quick_ : full_;
    glUseProgram(p);
    setLight(p, view);
    const glm::vec3 eye(view.camera.at);
    glUniform3fv(at(p, "camera"), 1, glm::value_ptr(eye));
    glUniform1i(at(p, "wander"), kWanderUnit);
    const glm::mat4 fromClip = glm::inverse(view.viewProjection);
    glUniformMatrix4fv(at(p, "fromClip"), 1, GL_FALSE, glm::value_ptr(fromClip));
    glBindVertexArray(quick ? raster_ : empty_);
    if (quick) glDrawElements(GL_TRIANGLES, kQuadsX * kQuadsY * 6, GL_UNSIGNED_SHORT, nullptr);
    else glDrawArrays(GL_TRIANGLES, 0, 3);
}

}  // namespace jam
