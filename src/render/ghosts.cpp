#include "ghosts.h"

#include <algorithm>

#include "level/ground.h"
#include "shaders.h"

namespace jam {

namespace {
constexpr int kAcross = 512, kDeep = 48;  // most quads of one strip
}

Status Ghosts::build() {
    Result<GlProgram> made = makeSceneProgram(shader_ghost_vert, shader_ghost_frag);
    if (!made) return made.error();
    program_ = made.take();
    array_ = makeArray();
    vertices_ = makeBuffer();
    indices_ = makeBuffer();
    glBindVertexArray(array_);
    glBindBuffer(GL_ARRAY_BUFFER, vertices_);
    glEnableVertexAttribArray(0);
    glVertexAttribPointer(0, 4, GL_FLOAT, GL_FALSE, 4 * sizeof(float), nullptr);
    glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, indices_);
    glBindVertexArray(0);
    return {};
}

void Ghosts::set(const Level& level, const std::array<std::shared_ptr<const Level>, kLevelSides>& strips) {
    std::vector<float> places;  // x, altitude, z, share of the way outwards
    std::vector<uint32_t> corners;
    for (int s = 0; s < kLevelSides; ++s) {
        const Level* strip = strips[static_cast<size_t>(s)].get();
        if (!strip) continue;
        const auto side = static_cast<Side>(s);
        const bool across = side == Side::north || side == Side::south;
        const int length = across ? strip->columns : strip->rows, depth = across ? strip->rows : strip->columns;
        const int stepAlong = (length - 2) / kAcross + 1, stepOut = (depth - 2) / kDeep + 1;
        const auto base = static_cast<uint32_t>(places.size() / 4);
        int rows = 0, perRow = 0;
        for (int out = 0;; out = std::min(out + stepOut, depth - 1), ++rows) {
            perRow = 0;
            for (int i = 0;; i = std::min(i + stepAlong, length - 1), ++perRow) {
                // The strip's own samples, counted outwards from the border.
                const int c = across               ? i
                              : side == Side::east ? out
                                                   : depth - 1 - out,
                          r = !across               ? i
                              : side == Side::south ? out
                                                    : depth - 1 - out;
                const double sp = level.spacing;
                const double x = across               ? level.originX + i * sp
                                 : side == Side::east ? level.originX + level.width() + out * sp
                                                      : level.originX - out * sp,
                             z = !across               ? level.originZ + i * sp
                                 : side == Side::south ? level.originZ + level.depth() + out * sp
                                                       : level.originZ - out * sp;
                places.insert(places.end(), {static_cast<float>(x), groundSample(*strip, c, r), static_cast<float>(z),
                                             static_cast<float>(out) / static_cast<float>(depth - 1)});
                if (i == length - 1) break;
            }
            ++perRow;
            if (out == depth - 1) break;
        }
        ++rows;
        const auto n = static_cast<uint32_t>(perRow);
        for (uint32_t v = 0; v + 1 < static_cast<uint32_t>(rows); ++v)
            for (uint32_t u = 0; u + 1 < n; ++u) {
                const uint32_t a = base + v * n + u;
                corners.insert(corners.end(), {a, a + 1, a + n, a + 1, a + n + 1, a + n});
            }
    }
    count_ = static_cast<int>(corners.size());
    glBindVertexArray(0);
    glBindBuffer(GL_ARRAY_BUFFER, vertices_);
    glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(places.size() * sizeof(float)), places.data(),
                 GL_STATIC_DRAW);
    glBindVertexArray(array_);
    glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, indices_);
    glBufferData(GL_ELEMENT_ARRAY_BUFFER, static_cast<GLsizeiptr>(corners.size() * sizeof(uint32_t)), corners.data(),
                 GL_STATIC_DRAW);
    glBindVertexArray(0);
}

void Ghosts::draw() {
    if (count_ == 0) return;
    glUseProgram(program_);
    glEnable(GL_BLEND);
    glBlendFunc(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA);
    glDepthMask(GL_FALSE);
    glBindVertexArray(array_);
    glDrawElements(GL_TRIANGLES, count_, GL_UNSIGNED_INT, nullptr);
    glDepthMask(GL_TRUE);
    glDisable(GL_BLEND);
}

}  // namespace jam
