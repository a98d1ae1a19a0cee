#include "cliffs.h"

#include <algorithm>

#include "shaders.h"

namespace jam {

Status Cliffs::build() {
    Result<GlProgram> made = makeSceneProgram(std::string(shader_heights_glsl) + shader_gaps_glsl + shader_cliff_vert,
                                              shader_wall_frag);
    if (!made) return made.error();
    program_ = made.take();
    array_ = makeArray();
    buffer_ = makeBuffer();
    glBindVertexArray(array_);
    glBindBuffer(GL_ARRAY_BUFFER, buffer_);
    glEnableVertexAttribArray(0);
    glVertexAttribDivisor(0, 1);
    glVertexAttribPointer(0, 4, GL_FLOAT, GL_FALSE, 4 * sizeof(float), nullptr);
    glBindVertexArray(0);
    return {};
}

void Cliffs::follow(const Level& level, const Change& change) {
    const bool wanted = level.cliff > 0 && level.noLand.presentTiles() > 0;
    if (!wanted) {
        tiles_.clear();
        count_ = 0;
        stale_ = false;
        return;
    }
    TileSet where = change.gaps.grown(1, level.bounds());
    if (tiles_.empty() || columns_ != level.columns || rows_ != level.rows || smooth_ != level.smoothEdges) {
        across_ = level.noLand.tilesAcross();
        tiles_.assign(static_cast<size_t>(across_) * static_cast<size_t>(level.noLand.tilesDown()), {});
        columns_ = level.columns, rows_ = level.rows;
        smooth_ = level.smoothEdges;
        where = level.bounds();
    }
    where.each([&](int tx, int tz, const Region&) {
        std::vector<EdgePiece>& pieces =
            tiles_[static_cast<size_t>(tz) * static_cast<size_t>(across_) + static_cast<size_t>(tx)];
        pieces.clear();
        const Region cells = level.noLand.tileRegion(tx, tz);
        if (mayHaveGaps(level, cells.grown(1))) edgesOf(level, cells, pieces);
        std::erase_if(pieces, [](const EdgePiece& p) { return !p.land; });
        stale_ = true;
    });
}

void Cliffs::draw() {
    if (stale_) {
        std::vector<float> all;
        for (const auto& pieces : tiles_)
            for (const EdgePiece& p : pieces) all.insert(all.end(), {p.c0, p.r0, p.c1, p.r1});
        count_ = static_cast<int>(all.size() / 4);
        glBindBuffer(GL_ARRAY_BUFFER, buffer_);
        glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(all.size() * sizeof(float)), all.data(), GL_DYNAMIC_DRAW);
        stale_ = false;
    }
    if (count_ == 0) return;
    glUseProgram(program_);
    glBindVertexArray(array_);
    glDrawArraysInstanced(GL_TRIANGLE_STRIP, 0, 4, count_);
}

}  // namespace jam
