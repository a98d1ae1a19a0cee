#include "dressing.h"

#include <algorithm>
#include <cmath>
#include <cstddef>

#include "far_pictures.h"
#include "shaders.h"
#include "write_in_time.h"

namespace jam {

namespace {

constexpr double kNearPixels = 90, kMiddlePixels = 36;  // so tall it is shown in all detail, or in less
constexpr double kLeastPixels = 1.6;                    // what is smaller is not drawn
// While the picture moves: times as large for the same detail, and what is smaller is not drawn.
constexpr double kCoarserMoving = 2.5, kLeastMoving = 9;
constexpr int kWorthPictures = 12;  // triangles from far away, from which on pictures are drawn in their place

struct Vertex {
    float at[3], normal[3];
    uint8_t colour[4];
    float inPicture[2];
};

// Precondition: the unit of pictures is the active one.
GlTexture textureFrom(const ShapePicture& picture) {
    GlTexture texture = makeTexture();
    glBindTexture(GL_TEXTURE_2D, texture);
    takeRoom(GL_RGBA8, picture.width, picture.height, levelsOf(picture.width, picture.height));
    glPixelStorei(GL_UNPACK_ALIGNMENT, 1);
    glTexSubImage2D(GL_TEXTURE_2D, 0, 0, 0, picture.width, picture.height, GL_RGBA, GL_UNSIGNED_BYTE,
                    picture.rgba.data());
    glGenerateMipmap(GL_TEXTURE_2D);
    setFilter(GL_TEXTURE_2D, GL_LINEAR, GL_LINEAR_MIPMAP_LINEAR, GL_REPEAT, GL_REPEAT);
    return texture;
}

}  // namespace

struct Dressing::Seen {
    const SceneView& view;
    double pixelsPerMetre;  // of what is a metre away
    double least, coarser;  // pixels that are worth it, and times as large for the same detail
    PixelRect part;         // of the camera's pixels
    double up, aside;       // metres: how far one of size 1 reaches

    // Whether something that fills a ball shows in the part; `across`: in so many pixels.
    bool shows(const glm::dvec3& middle, double radius, double& across) const {
        const glm::dvec3 from = middle - view.camera.at;
        const glm::dvec4 at = glm::dmat4(view.viewProjection) * glm::dvec4(from, 1);
        const double away = std::max(glm::length(from), 1e-3);
        across = radius * 2 * pixelsPerMetre / away;
        if (at.w < -radius) return false;
        if (at.w < radius) return true;  // about as near as the eye
        const double wide = radius * pixelsPerMetre / (at.w - radius) * 1.05 + 2;
        const double x = (at.x / at.w * 0.5 + 0.5) * view.camera.width,
                     y = (0.5 - at.y / at.w * 0.5) * view.camera.height;
        return x + wide >= part.x && x - wide <= part.x + part.width && y + wide >= part.y &&
               y - wide <= part.y + part.height;
    }
};

Status Dressing::build() {
    for (const bool painted : {false, true}) {
        Result<GlProgram> made = makeSceneProgram(shader_dressing_vert, shader_dressing_frag,
                                                  painted ? "#define PAINTED\n" : "");
        if (!made) return made.error();
        (painted ? painted_ : plain_) = made.take();
    }
    glUseProgram(painted_);
    glUniform1i(at(painted_, "picture"), kTextureUnits);
    Result<GlProgram> far = makeSceneProgram(shader_far_vert, shader_far_frag);
    if (!far) return far.error();
    far_ = far.take();
    glUseProgram(far_);
    glUniform1i(at(far_, "colours"), kTextureUnits);
    glUniform1i(at(far_, "facings"), kTextureUnits + 1);
    instances_ = makeBuffer();
    farArray_ = makeArray();
    glBindVertexArray(farArray_);
    for (const GLuint i : {3u, 4u, 5u, 6u}) glEnableVertexAttribArray(i), glVertexAttribDivisor(i, 1);
    glBindVertexArray(0);
    return {};
}

void Dressing::follow(const Level& level, const Change& change) {
    if (level.kinds.empty()) {
        plantings_.reset();
        grown_.clear(), shown_.clear(), largest_.clear();
        reach_ = {};
        stale_ = false;
        return;
    }
    const bool same = plantings_ && shown_.size() == level.kinds.size() && sameRaster(level, plantings_->level()) &&
                      std::equal(level.kinds.begin(), level.kinds.end(), plantings_->level().kinds.begin(),
                                 [](const Kind& a, const Kind& b) { return a.id == b.id; });
    if (plantings_) stale_ = !plantings_->follow(level, change).empty() || stale_;
    else plantings_ = std::make_unique<Plantings>(level), stale_ = true;
    if (!same) {
        const auto tiles = static_cast<size_t>(plantings_->tilesAcross()) *
                           static_cast<size_t>(plantings_->tilesDown());
        shown_.assign(level.kinds.size(), std::vector<Tile>(tiles));
        stale_ = true;
    }
    if (same && change.kinds.empty() && change.plantings.empty()) return;
    reach_ = standingOf(level);
    largest_.clear();
    for (const Kind& k : level.kinds) largest_.push_back(k.hidden ? 0 : largestOf(level, k));
}

TileSet Dressing::bring(const Camera& camera, double until) {
    TileSet brought;
    if (!stale_ || !plantings_) return brought;
    const Level& level = plantings_->level();
    const int across = plantings_->tilesAcross(), down = plantings_->tilesDown();
    const double wide = Plantings::kTile * level.spacing, x = (camera.at.x - level.originX) / wide - 0.5,
                 z = (camera.at.z - level.originZ) / wide - 0.5;
    std::vector<std::pair<double, int>> order;
    for (int i = 0; i < across * down; ++i) order.emplace_back(std::hypot(i % across - x, i / across - z), i);
    std::sort(order.begin(), order.end());
    for (const auto& [away, i] : order)
        for (size_t k = 0; k < level.kinds.size(); ++k) {
            const int tx = i % across, tz = i / across;
            Tile now = plantings_->known(k, tx, tz);
            const bool made = !now;
            if (made) plantings_->tile(k, tx, tz), now = plantings_->known(k, tx, tz);
            Tile& shown = shown_[k][static_cast<size_t>(i)];
            if (shown != now) {
                if ((shown && !shown->empty()) || !now->empty())
                    brought.add(Region{tx * Plantings::kTile, tz * Plantings::kTile, (tx + 1) * Plantings::kTile,
                                       (tz + 1) * Plantings::kTile}
                                    .clipped(level.bounds()));
                shown = std::move(now);
            }
            if (made && nowMs() >= until) return brought;
        }
    for (size_t k = 0; k < largest_.size(); ++k)
        if (largest_[k] > 0) grownFor(level.kinds[k]);
    while (makeFar()) {
        brought.add(level.bounds());
        if (nowMs() >= until) return brought;
    }
    stale_ = false;
    return brought;
}

Dressing::Grown& Dressing::grownFor(const Kind& of) {
    const std::shared_ptr<const KindMeshes> kind = meshesOf(of);
    for (const auto& g : grown_)
        if (g->kind == kind) return g->used = true, *g;
    if (grown_.size() > 2 * kMaxKinds) {
        std::erase_if(grown_, [](const auto& g) { return !g->used; });
        for (const auto& g : grown_) g->used = false;
    }
    auto g = std::make_unique<Grown>();
    g->kind = kind;
    g->used = true;
    std::vector<Vertex> vertices;
    std::vector<uint32_t> corners;
    const auto pictures = static_cast<int>(kind->pictures.size());
    for (const auto& details : kind->variants) {
        auto& parts = g->parts.emplace_back();
        for (size_t d = 0; d < details.size(); ++d) {
            const Mesh& mesh = details[d];
            const auto base = static_cast<uint32_t>(vertices.size());
            const bool painted = !mesh.painted.empty();
            for (size_t i = 0; i < mesh.vertices.size(); ++i) {
                const MeshVertex& v = mesh.vertices[i];
                const InPicture in = painted ? mesh.painted[i] : InPicture{};
                vertices.push_back({{v.at[0], v.at[1], v.at[2]},
                                    {v.normal[0], v.normal[1], v.normal[2]},
                                    {v.colour[0], v.colour[1], v.colour[2], v.open},
                                    {in.u, in.v}});
            }
            for (int picture = -1; picture < pictures; ++picture) {
                const auto first = static_cast<int>(corners.size());
                for (size_t t = 0; t + 2 < mesh.corners.size(); t += 3)
                    if (picture == (painted ? mesh.painted[mesh.corners[t]].picture : -1))
                        for (size_t k = 0; k < 3; ++k) corners.push_back(base + mesh.corners[t + k]);
                if (const int count = static_cast<int>(corners.size()) - first; count > 0)
                    parts[d].push_back({picture, first, count});
            }
        }
    }
    for (const ShapePicture& p : kind->pictures) g->pictures.push_back(textureFrom(p));
    g->worthPictures = kind->variants[0][static_cast<size_t>(Detail::far)].triangles() > kWorthPictures;
    g->array = makeArray();
    g->vertices = makeBuffer();
    g->corners = makeBuffer();
    glBindVertexArray(g->array);
    glBindBuffer(GL_ARRAY_BUFFER, g->vertices);
    glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(vertices.size() * sizeof(Vertex)), vertices.data(),
                 GL_STATIC_DRAW);
    glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, g->corners);
    glBufferData(GL_ELEMENT_ARRAY_BUFFER, static_cast<GLsizeiptr>(corners.size() * sizeof(uint32_t)), corners.data(),
                 GL_STATIC_DRAW);
    const auto attribute = [](GLuint place, GLint count, GLenum type, GLboolean whole, size_t stride, size_t offset,
                              GLuint each) {
        glEnableVertexAttribArray(place);
        glVertexAttribPointer(place, count, type, whole, static_cast<GLsizei>(stride),
                              reinterpret_cast<const void*>(offset));
        glVertexAttribDivisor(place, each);
    };
    attribute(0, 3, GL_FLOAT, GL_FALSE, sizeof(Vertex), offsetof(Vertex, at), 0);
    attribute(1, 3, GL_FLOAT, GL_FALSE, sizeof(Vertex), offsetof(Vertex, normal), 0);
    attribute(2, 4, GL_UNSIGNED_BYTE, GL_TRUE, sizeof(Vertex), offsetof(Vertex, colour), 0);
    attribute(6, 2, GL_FLOAT, GL_FALSE, sizeof(Vertex), offsetof(Vertex, inPicture), 0);
    for (const GLuint i : {3u, 4u, 5u}) glEnableVertexAttribArray(i), glVertexAttribDivisor(i, 1);
    glBindVertexArray(0);
    grown_.push_back(std::move(g));
    return *grown_.back();
}

void Dressing::collect(const Seen& seen, const std::vector<Planting>& tile, const Grown& grown) {
    const Level& level = plantings_->level();
    for (const Planting& p : tile) {
        const double up = seen.up * static_cast<double>(p.size), aside = seen.aside * static_cast<double>(p.size);
        const double radius = std::hypot(up / 2, aside);
        double across;
        if (!seen.shows({p.x, static_cast<double>(p.y) + up / 2, p.z}, radius, across) || across < seen.least) continue;
        const size_t variant = std::min<size_t>(p.variant, grown.parts.size() - 1);
        size_t detail = across > kNearPixels * seen.coarser ? 0 : across > kMiddlePixels * seen.coarser ? 1 : 2;
        float view = 0;
        if (detail == 2 && grown.balls.size() == grown.parts.size()) {
            detail = kDetails;
            const glm::dvec3 from = seen.view.camera.at - glm::dvec3(p.x, static_cast<double>(p.y) + up / 2, p.z);
            view = static_cast<float>(static_cast<int>(variant) * kFarViews +
                                      farViewFrom(from.x, from.y, from.z, static_cast<double>(p.turn)));
        }
        const std::array<float, 4> q = quaternionOf(p);
        float sun = 1;
        if (sun_ && sun_->width() == level.columns && sun_->depth() == level.rows) {
            const auto [c, r] = std::pair(
                std::clamp(static_cast<int>(std::lround(level.toColumn(p.x))), 0, level.columns - 1),
                std::clamp(static_cast<int>(std::lround(level.toRow(p.z))), 0, level.rows - 1));
            sun = static_cast<float>(sun_->at(c, r)) / 255;
        }
        collected_[variant][detail].push_back({{static_cast<float>(p.x), p.y, static_cast<float>(p.z), p.size},
                                               {q[0], q[1], q[2], q[3]},
                                               {p.tint[0], p.tint[1], p.tint[2], sun},
                                               view});
    }
}

void Dressing::drawCollected(const Grown& grown) {
    std::vector<Instance> all;
    for (auto& details : collected_)
        for (auto& some : details) all.insert(all.end(), some.begin(), some.end());
    if (all.empty()) return;
    drawn_ += static_cast<int>(all.size());
    glBindVertexArray(grown.array);
    glBindBuffer(GL_ARRAY_BUFFER, instances_);
    glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(all.size() * sizeof(Instance)), all.data(), GL_STREAM_DRAW);
    size_t first = 0;
    for (size_t v = 0; v < grown.parts.size(); ++v)
        for (size_t d = 0; d <= kDetails; ++d) {
            auto& some = collected_[v][d];
            if (!some.empty() && d == kDetails) {
                drawFar(grown, v, some.size(), first * sizeof(Instance));
                glBindVertexArray(grown.array);
            } else if (!some.empty()) {
                const size_t base = first * sizeof(Instance);
                const size_t offsets[] = {offsetof(Instance, place), offsetof(Instance, turn),
                                          offsetof(Instance, tint)};
                for (GLuint i = 0; i < 3; ++i)
                    glVertexAttribPointer(3 + i, 4, GL_FLOAT, GL_FALSE, sizeof(Instance),
                                          reinterpret_cast<const void*>(base + offsets[i]));
                for (const Grown::Part& part : grown.parts[v][d]) {
                    glUseProgram(part.picture < 0 ? plain_ : painted_);
                    if (part.picture >= 0)
                        glBindTexture(GL_TEXTURE_2D, grown.pictures[static_cast<size_t>(part.picture)]);
                    glDrawElementsInstanced(
                        GL_TRIANGLES, part.count, GL_UNSIGNED_INT,
                        reinterpret_cast<const void*>(static_cast<size_t>(part.first) * sizeof(uint32_t)),
                        static_cast<GLsizei>(some.size()));
                }
            }
            first += some.size();
            some.clear();
        }
    glBindVertexArray(0);
}

void Dressing::drawFar(const Grown& grown, size_t variant, size_t count, size_t base) {
    glUseProgram(far_);
    glUniform2fv(at(far_, "ball"), 1, grown.balls[variant].data());
    glBindTexture(GL_TEXTURE_2D_ARRAY, grown.farColours);
    glActiveTexture(GL_TEXTURE0 + kTextureUnits + 1);
    glBindTexture(GL_TEXTURE_2D_ARRAY, grown.farFacings);
    glActiveTexture(GL_TEXTURE0 + kTextureUnits);
    glBindVertexArray(farArray_);
    const size_t offsets[] = {offsetof(Instance, place), offsetof(Instance, turn), offsetof(Instance, tint)};
    for (GLuint i = 0; i < 3; ++i)
        glVertexAttribPointer(3 + i, 4, GL_FLOAT, GL_FALSE, sizeof(Instance),
                              reinterpret_cast<const void*>(base + offsets[i]));
    glVertexAttribPointer(6, 1, GL_FLOAT, GL_FALSE, sizeof(Instance),
                          reinterpret_cast<const void*>(base + offsetof(Instance, view)));
    glDrawArraysInstanced(GL_TRIANGLE_STRIP, 0, 4, static_cast<GLsizei>(count));
}

bool Dressing::makeFar() {
    const auto at = std::find_if(grown_.begin(), grown_.end(), [](const auto& g) {
        return g->worthPictures && g->used && g->balls.size() < g->kind->variants.size();
    });
    if (at == grown_.end()) return false;
    Grown& g = **at;
    const size_t variant = g.balls.size();
    const FarPictures far = farPicturesOf(g.kind->variants[variant][0], g.kind->pictures);
    const int first = static_cast<int>(variant) * kFarViews,
              all = static_cast<int>(g.kind->variants.size()) * kFarViews;
    glActiveTexture(GL_TEXTURE0 + kTextureUnits);
    glPixelStorei(GL_UNPACK_ALIGNMENT, 1);
    for (const auto& [texture, from] : {std::pair(&g.farColours, &far.colour), std::pair(&g.farFacings, &far.facing)}) {
        if (variant == 0) *texture = makeTexture();
        glBindTexture(GL_TEXTURE_2D_ARRAY, *texture);
        if (variant == 0) {
            takeRoom(GL_RGBA8, kFarPixels, kFarPixels, levelsOf(kFarPixels, kFarPixels), all);
            setFilter(GL_TEXTURE_2D_ARRAY, GL_LINEAR, GL_LINEAR_MIPMAP_NEAREST, GL_CLAMP_TO_EDGE, GL_CLAMP_TO_EDGE);
        }
        glTexSubImage3D(GL_TEXTURE_2D_ARRAY, 0, 0, 0, first, kFarPixels, kFarPixels, kFarViews, GL_RGBA,
                        GL_UNSIGNED_BYTE, from->data());
        if (variant + 1 == g.kind->variants.size()) glGenerateMipmap(GL_TEXTURE_2D_ARRAY);
    }
    glActiveTexture(GL_TEXTURE0);
    g.balls.push_back({static_cast<float>(far.middle), static_cast<float>(far.radius)});
    return true;
}

void Dressing::drawKind(size_t kind, Seen seen) {
    const Level& level = plantings_->level();
    Grown& grown = grownFor(level.kinds[kind]);
    collected_.resize(std::max(collected_.size(), grown.parts.size()));
    seen.up = grown.kind->height, seen.aside = std::max<double>(grown.kind->radius, 0.01);
    // No farther than the largest of them is seen.
    const double wide = Plantings::kTile * level.spacing,
                 most = 2 * std::hypot(seen.up, seen.aside) * static_cast<double>(largest_[kind]),
                 far = most * seen.pixelsPerMetre / seen.least;
    const auto tiles = [&](double from, double to, int count) {
        return std::pair(std::clamp(static_cast<int>(std::floor(from / wide)), 0, count),
                         std::clamp(static_cast<int>(std::floor(to / wide)) + 1, 0, count));
    };
    const double x = seen.view.camera.at.x - level.originX, z = seen.view.camera.at.z - level.originZ;
    const auto [x0, x1] = tiles(x - far, x + far, plantings_->tilesAcross());
    const auto [z0, z1] = tiles(z - far, z + far, plantings_->tilesDown());
    for (int tz = z0; tz < z1; ++tz)
        for (int tx = x0; tx < x1; ++tx) {
            const Tile& tile = shown_[kind][static_cast<size_t>(tz) * static_cast<size_t>(plantings_->tilesAcross()) +
                                            static_cast<size_t>(tx)];
            if (!tile || tile->empty()) continue;
            const Region r = Region{tx * Plantings::kTile, tz * Plantings::kTile, (tx + 1) * Plantings::kTile + 1,
                                    (tz + 1) * Plantings::kTile + 1}
                                 .clipped(level.bounds());
            const HeightSpan span = seen.view.pyramid.spanOf(r);
            const double low = span.low, high = static_cast<double>(span.high) + most;
            const glm::dvec3 middle(level.originX + (r.x0 + r.x1 - 1) * 0.5 * level.spacing, (low + high) / 2,
                                    level.originZ + (r.z0 + r.z1 - 1) * 0.5 * level.spacing);
            double across;
            if (seen.shows(middle, std::hypot(0.71 * wide + most, (high - low) / 2), across))
                collect(seen, *tile, grown);
        }
    drawCollected(grown);
}

void Dressing::draw(const SceneView& view, const PixelRect* only) {
    drawn_ = 0;
    if (!plantings_) return;
    // While all of the picture moves, what is small is not missed.
    const bool moving = view.quality.strayPixels > 0;
    const Seen seen{view,
                    1 / view.camera.metresPerPixel(1),
                    moving ? kLeastMoving : kLeastPixels,
                    moving ? kCoarserMoving : 1.0,
                    only ? *only : PixelRect{0, 0, view.camera.width, view.camera.height},
                    0,
                    0};
    glActiveTexture(GL_TEXTURE0 + kTextureUnits);
    for (size_t kind = 0; kind < largest_.size(); ++kind)
        if (largest_[kind] > 0) drawKind(kind, seen);
    glActiveTexture(GL_TEXTURE0);
}

}  // namespace jam
