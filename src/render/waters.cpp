#include "waters.h"

#include <algorithm>
#include <glm/vec4.hpp>
#include <utility>

#include "base/srgb.h"
#include "overlay_colours.h"
#include "shaders.h"
#include "water/water.h"

namespace jam {

namespace {

constexpr int kTile = TiledGrid<Wet>::kTile;
constexpr int kMostBodies = static_cast<int>(kMaxWaters) + 1;  // numbers begin with 1
constexpr int kUnit = static_cast<int>(kTextureUnits);         // beyond those of the ground
constexpr double kApart = 6;                                   // pixels between two points of a moving stream

}  // namespace

Status Waters::build() {
    static constexpr const char* kKindNames[kKinds] = {"", "#define STREAM\n", "#define SIDES\n"};
    static constexpr const char* kLookNames[kLooks] = {"", "#define QUICK\n", "#define DEPTH\n",
                                                       "#define QUICK\n#define BELOW\n"};
    for (int kind = 0; kind < kKinds; ++kind)
        for (int look = 0; look < kLooks; ++look) {
            if (kind == kSides && look > 0) continue;
            Result<GlProgram> made = makeSceneProgram(
                shader_water_vert, (kind == kSides ? "" : shader_heights_glsl) + overlayConstants() + shader_water_frag,
                std::string(kKindNames[kind]) + kLookNames[look]);
            if (!made) return made.error();
            programs_[kind][look] = made.take();
        }
    tiles_ = makeBuffer();
    tileArray_ = makeArray();
    emptyArray_ = makeArray();
    glBindVertexArray(tileArray_);
    glBindBuffer(GL_ARRAY_BUFFER, tiles_);
    glEnableVertexAttribArray(0);
    glVertexAttribDivisor(0, 1);
    glVertexAttribPointer(0, 4, GL_FLOAT, GL_FALSE, 4 * sizeof(float), nullptr);
    glBindVertexArray(0);
    streams_.build();
    return {};
}

void Waters::follow(const Level& level, const Change& change) {
    const bool fresh = columns_ != level.columns || rows_ != level.rows;
    std::vector<uint32_t> ids;
    for (const Pool& p : level.pools) ids.push_back(p.id);
    for (const Stream& s : level.streams) ids.push_back(s.id);
    any_ = level.water.presentTiles() > 0;
    if (!any_) {
        texture_ = {};
        held_ = {};
        bodies_.clear();
        columns_ = 0;
        return;
    }
    TileSet changed = change.water;
    if (fresh || ids != ids_ || bodies_.empty()) {
        columns_ = level.columns, rows_ = level.rows, across_ = level.water.tilesAcross();
        ids_ = std::move(ids);
        bodies_.assign(static_cast<size_t>(across_) * static_cast<size_t>(level.water.tilesDown()), 0);
        held_ = {};
        changed = level.bounds();
        strips_ = true;
    } else if (changed.empty() && !change.waters) {
        return;
    }
    strips_ = strips_ || change.waters || !change.strata.empty();
    if (!changed.empty()) upload(level, changed);
    buildTiles(level);
    if (std::exchange(strips_, false)) streams_.follow(level, static_cast<int>(level.pools.size()) + 1);
}

void Waters::upload(const Level& level, const TileSet& changed) {
    // Room for all tiles that hold water, and some around, so that a rising pool does not ask for more at once.
    Region needed;
    presentTiles(level.water).each([&](int, int, const Region& r) { needed = needed.joined(r); });
    TileSet write = changed;
    if (needed.clipped(held_) != needed) {
        held_ = needed.grown(2 * kTile).clipped(level.bounds());
        texture_ = makeTexture();
        glActiveTexture(GL_TEXTURE0);
        glBindTexture(GL_TEXTURE_2D, texture_);
        takeRoom(GL_R8, held_.width(), held_.depth());
        setFilter(GL_TEXTURE_2D, GL_NEAREST, GL_NEAREST, GL_CLAMP_TO_EDGE, GL_CLAMP_TO_EDGE);
        write = held_;
    }
    const auto numberOf = [this](uint32_t id) {
        const auto at = std::find(ids_.begin(), ids_.end(), id);
        return at == ids_.end() ? 0 : static_cast<int>(at - ids_.begin()) + 1;
    };
    glActiveTexture(GL_TEXTURE0);
    glBindTexture(GL_TEXTURE_2D, texture_);
    glPixelStorei(GL_UNPACK_ALIGNMENT, 1);
    std::vector<Wet> wet(kTile * kTile);
    std::vector<uint8_t> numbers(kTile * kTile);
    write.clipped(held_).each([&](int, int, const Region& r) {
        level.water.read(r, {wet.data(), r.width(), r.depth(), r.width()});
        uint32_t last = 0;
        int number = 0;
        for (size_t i = 0; i < static_cast<size_t>(r.area()); ++i) {
            if (wet[i].body != last) last = wet[i].body, number = last ? numberOf(last) : 0;
            numbers[i] = static_cast<uint8_t>(number);
        }
        glTexSubImage2D(GL_TEXTURE_2D, 0, r.x0 - held_.x0, r.z0 - held_.z0, r.width(), r.depth(), GL_RED,
                        GL_UNSIGNED_BYTE, numbers.data());
    });
    // A tile's cells have corners in the next tiles too.
    changed.grown(1, level.bounds()).each([&](int tx, int tz, const Region&) {
        const Region r =
            Region{tx * kTile, tz * kTile, (tx + 1) * kTile + 1, (tz + 1) * kTile + 1}.clipped(level.bounds());
        uint64_t bits = 0;
        const auto look = [&](const Region& part) {
            if (part.empty() || !level.water.tile(part.x0 / kTile, part.z0 / kTile)) return;
            uint32_t last = 0;
            for (int z = part.z0; z < part.z1; ++z)
                for (int x = part.x0; x < part.x1; ++x)
                    if (const uint32_t id = level.water.at(x, z).body; id != last)
                        if (last = id; id) bits |= 1ull << (numberOf(id) - 1);
        };
        const int x1 = std::min((tx + 1) * kTile, r.x1), z1 = std::min((tz + 1) * kTile, r.z1);
        look({r.x0, r.z0, x1, z1});
        look({x1, r.z0, r.x1, z1});
        look({r.x0, z1, x1, r.z1});
        look({x1, z1, r.x1, r.z1});
        uint64_t& before = bodies_[static_cast<size_t>(tz) * static_cast<size_t>(across_) + static_cast<size_t>(tx)];
        // Streams come after the pools.
        strips_ = strips_ || (before | bits) >> level.pools.size();
        before = bits;
    });
}

void Waters::buildTiles(const Level& level) {
    std::vector<float> all;
    const size_t pools = level.pools.size();
    atEdge_ = false;
    for (size_t i = 0; i < bodies_.size(); ++i) {
        const int tx = static_cast<int>(i) % across_, tz = static_cast<int>(i) / across_;
        for (size_t n = 0; n < pools; ++n) {
            if (!(bodies_[i] >> n & 1)) continue;
            all.insert(all.end(), {static_cast<float>(tx * kTile), static_cast<float>(tz * kTile),
                                   static_cast<float>(kTile), static_cast<float>(n + 1)});
            atEdge_ = atEdge_ || tx == 0 || tz == 0 || (tx + 1) * kTile >= columns_ - 1 ||
                      (tz + 1) * kTile >= rows_ - 1;
        }
    }
    tileCount_ = static_cast<int>(all.size() / 4);
    glBindVertexArray(0);
    glBindBuffer(GL_ARRAY_BUFFER, tiles_);
    glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(all.size() * sizeof(float)), all.data(), GL_DYNAMIC_DRAW);
    deepest_ = deepestShown(level);
}

const GlProgram& Waters::take(Kind kind, int look, const SceneView& view) {
    const GlProgram& p = programs_[kind][look];
    const Level& level = view.textures.level();
    glUseProgram(p);
    float surfaces[kMostBodies];
    std::fill(std::begin(surfaces), std::end(surfaces), -1e9f);  // streams have no height of their own
    glm::vec4 colours[kMostBodies] = {}, waves[kMostBodies] = {};
    for (size_t i = 0; i < ids_.size() && i + 1 < kMostBodies; ++i) {
        if (const Pool* pool = level.pool(ids_[i])) surfaces[i + 1] = pool->height;
        const WaterLook* l = level.waterLook(ids_[i]);
        if (!l) continue;
        colours[i + 1] = {linearLight(l->colour[0]), linearLight(l->colour[1]), linearLight(l->colour[2]),
                          l->clearness};
        waves[i + 1] = {l->waves, l->waveLength, l->roughness, l->foam};
    }
    glUniform1fv(at(p, "surfaces"), kMostBodies, surfaces);
    glUniform4fv(at(p, "waterColour"), kMostBodies, &colours[0].x);
    glUniform4fv(at(p, "waterWaves"), kMostBodies, &waves[0].x);
    glUniform4i(at(p, "held"), held_.x0, held_.z0, held_.width(), held_.depth());
    glUniform2f(at(p, "depthScale"), deepest_, depthLineStep(deepest_));
    glUniform1i(at(p, "waters"), kUnit);
    glActiveTexture(static_cast<GLenum>(GL_TEXTURE0 + kUnit));
    glBindTexture(GL_TEXTURE_2D, texture_);
    glActiveTexture(GL_TEXTURE0);
    return p;
}

void Waters::draw(const SceneView& view) {
    const Sight& sight = view.sight;
    const Quality& quality = view.quality;
    const bool depth = sight.overlay == Overlay::depth;
    // Other overlays speak of the ground, below water too.
    if (!any_ || (sight.overlay != Overlay::none && !depth)) return;
    const int look = depth ? 2 : sight.under.metres > 0 ? 3 : quality.full() ? 0 : 1;
    glEnable(GL_BLEND);
    glBlendFunc(GL_ONE, GL_ONE_MINUS_SRC_ALPHA);
    glDepthFunc(GL_LESS);
    if (atEdge_) {
        const GlProgram& p = take(kSides, 0, view);
        glBindVertexArray(emptyArray_);
        drawSides(p, view);
    }
    if (!streams_.empty()) {
        take(kStream, look, view);
        streams_.draw(view.camera, quality.full() ? 0 : kApart / quality.share);
    }
    if (tileCount_ > 0) {
        take(kPool, look, view);
        glBindVertexArray(tileArray_);
        glDrawArraysInstanced(GL_TRIANGLE_STRIP, 0, 4, tileCount_);
    }
    glDepthFunc(GL_LEQUAL);
    glDisable(GL_BLEND);
}

}  // namespace jam
