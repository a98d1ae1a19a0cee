#include "scene_renderer.h"

#include <algorithm>
#include <cmath>
#include <glm/common.hpp>
#include <glm/matrix.hpp>
#include <set>
#include <utility>

#include "cliffs.h"
#include "dressing.h"
#include "ghosts.h"
#include "gl.h"
#include "ground_programs.h"
#include "level/ground.h"
#include "level/opening.h"
#include "picture_patches.h"
#include "shaders.h"
#include "sky.h"
#include "waters.h"
#include "write_in_time.h"

namespace jam {

struct SceneRenderer::Impl {
    SceneUniforms uniforms;
    GroundPrograms ground;
    GlProgram wall, wallWithGaps, inside, flat;
    Cliffs cliffs;
    Ghosts ghosts;
    Dressing dressing;
    Waters waters;
    Sky sky;
    PatchMesh mesh;
    PicturePatches patches;
    GlArray emptyArray;
    std::unique_ptr<GroundTextures> textures_;
    GroundTextures& textures() const { return *textures_; }
    const HeightPyramid* pyramid_ = nullptr;  // the caller's, valid until the next sync()
    const HeightPyramid& pyramid() const { return *pyramid_; }
    std::array<TextureKind, kTextureUnits> kinds{};  // of the textures that are bound, while variants are asked for
    bool complete = true;                            // nothing was drawn plainer than it should be
    DriverLimits limits;
    std::optional<Error> unfit;  // the level is too large for it, and nothing is drawn
    Helpers helpers;
    std::set<Variant> met;  // those of them that were drawn with here

    Status buildPrograms() {
        uniforms.build();
        if (Status s = ground.build(); !s) return s;
        const struct {
            GlProgram& to;
            std::string vertex, fragment;
            const char* defines;
        } plain[] = {
            {wall, shader_wall_vert, shader_wall_frag, ""},
            {wallWithGaps, shader_wall_vert, std::string(shader_gaps_glsl) + shader_wall_frag, "#define GAPS\n"},
            {inside, shader_inside_vert, shader_inside_frag, ""},
            {flat, shader_ground_vert, "out vec4 shown;\nvoid main() { shown = vec4(0.5); }\n", ""}};
        for (const auto& p : plain) {
            Result<GlProgram> made = makeSceneProgram(p.vertex, p.fragment, p.defines);
            if (!made) return made.error();
            p.to = made.take();
        }
        if (Status s = cliffs.build(); !s) return s;
        if (Status s = ghosts.build(); !s) return s;
        if (Status s = dressing.build(); !s) return s;
        if (Status s = waters.build(); !s) return s;
        return sky.build();
    }

    const Level& level() const { return textures().level(); }

    void bindTextures() {
        for (size_t i = 0; i < kTextureUnits; ++i) {
            const GlTexture& texture = kGroundUnits[i].of(textures());
            glActiveTexture(static_cast<GLenum>(GL_TEXTURE0 + i));
            glBindTexture(kGroundUnits[i].target, texture);
            if (helpers.shaders) kinds[i] = texture ? boundKind(kGroundUnits[i].target) : TextureKind{};
        }
        glActiveTexture(GL_TEXTURE0);
    }

    Variant variantOf(unsigned features) const {
        Variant v{features, {}};
        const unsigned read = unitsOf(features);
        for (size_t i = 0; i < kTextureUnits; ++i)
            if (read >> i & 1) v.textures[i] = kinds[i];
        return v;
    }

    // Small textures of these kinds in place of a level's.
    std::vector<GlTexture> bindStandIns(const Variant& variant) {
        std::vector<GlTexture> standIns;
        for (size_t i = 0; i < kTextureUnits; ++i) {
            const TextureKind& kind = variant.textures[i];
            if (!kind.target) continue;
            glActiveTexture(static_cast<GLenum>(GL_TEXTURE0 + i));
            standIns.push_back(textureOf(kind));
        }
        glActiveTexture(GL_TEXTURE0);
        return standIns;
    }

    glm::mat4 viewProjection(const Camera& camera, const Pass& pass) const {
        // The nearest plane follows the height above ground, so that depth stays precise from far above.
        const double above = camera.at.y - (level().holds(camera.at.x, camera.at.z)
                                                ? altitudeAt(level(), camera.at.x, camera.at.z)
                                                : pyramid().whole().low);
        const double nearest = std::clamp(std::abs(above) * 0.1, 0.1, 20.0);
        glm::dmat4 shift(1);
        shift[3][0] = 2.0 * static_cast<double>(pass.shiftX) / camera.width;
        shift[3][1] = -2.0 * static_cast<double>(pass.shiftY) / camera.height;
        return glm::mat4(shift * camera.projection(nearest, 40000) * camera.view());
    }

    void begin(Target& target, const PixelRect& place, const PixelRect* cut) {
        glBindFramebuffer(GL_FRAMEBUFFER, target.frame());
        glViewport(place.x, target.height() - place.y - place.height, place.width, place.height);
        glDisable(GL_BLEND);
        glDisable(GL_CULL_FACE);
        glEnable(GL_DEPTH_TEST);
        glDepthFunc(GL_LEQUAL);
        glDepthMask(GL_TRUE);
        glColorMask(GL_TRUE, GL_TRUE, GL_TRUE, GL_TRUE);
        (cut ? glEnable : glDisable)(GL_SCISSOR_TEST);
        if (cut) glScissor(cut->x, target.height() - cut->y - cut->height, cut->width, cut->height);
        // A pixel between two triangles that neither covers shows something like ground.
        glClearColor(89 / 255.f, 92 / 255.f, 77 / 255.f, 1);
        glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
    }

    float footOfWalls() const {
        const Level& l = level();
        return std::min(pyramid().whole().low, l.startHeight) -
               static_cast<float>(0.05 * std::max(l.width(), l.depth()));
    }

    SceneView viewOf(const Camera& camera, const Sight& sight, const Quality& quality) const {
        return {textures(), pyramid(), camera, sight, quality, viewProjection(camera, quality.pass), footOfWalls()};
    }
    // What every picture begins with.
    void prepare(const SceneView& view, const PixelRect* only) {
        uniforms.write(view);
        patches.choose(view, only, helpers.mesh.get());
        complete = patches.complete();
        bindTextures();
        uniforms.use(true);
    }

    // Ground that faces away lies behind ground that faces the eye, unless one looks from below or through an opening.
    bool hidesItsBack(const Camera& camera) const {
        const Level& l = level();
        return (!l.holds(camera.at.x, camera.at.z) || camera.at.y > altitudeAt(l, camera.at.x, camera.at.z)) &&
               !patches.gaps();
    }

    // Whether a variant is ready. Of those that were not drawn with before, one a picture is: drivers take some
    // milliseconds to load each.
    bool drawsNow(const Variant& variant, bool& meets) {
        if (!helpers.shaders->ready(variant)) return false;
        if (met.contains(variant)) return true;
        if (std::exchange(meets, true)) return false;
        met.insert(variant);
        return true;
    }

    // All patches, those with the same features at once.
    void drawGround(const SceneView& view) {
        const Sight& sight = view.sight;
        if (hidesItsBack(view.camera)) glEnable(GL_CULL_FACE);
        const bool overlaid = (sight.overlay != Overlay::none && sight.overlay != Overlay::depth) || sight.grid ||
                              sight.mesh;
        const unsigned common = (sight.contours ? kContours : 0u) | (overlaid ? kOverlay : 0u);
        const auto& packed = patches.all();
        ShaderHelper* helper = view.quality.patient ? nullptr : helpers.shaders.get();
        bool meets = false;
        for (auto first = packed.begin(), end = first; first != packed.end(); first = end) {
            end = std::find_if_not(first, packed.end(), [&](const auto& p) { return p.alike(*first); });
            const unsigned features = first->features;
            unsigned usable = features | common;
            if (helper && !drawsNow(variantOf(usable), meets)) {
                complete = false;
                usable &= kGaps;
            }
            // What the next look at this ground may need is made while there is time.
            if (helper && usable == features) {
                for (const unsigned more : {kContours, kOverlay}) helper->wantLater(variantOf(features | more));
                if (features & kLive) helper->wantLater(variantOf(kGrain | (features & (kGaps | kSides | kSecond))));
            }
            ground.use(usable, view, jam::liveMetres(textures(), sight));
            mesh.draw({first, end});
        }
        glDisable(GL_CULL_FACE);
    }

    void drawAll(const SceneView& view, const PixelRect* only) {
        prepare(view, only);
        drawGround(view);
        uniforms.use(false);
        drawWalls(view);
        cliffs.draw();
        drawInside();
        dressing.draw(view, only);
        sky.draw(view, !view.quality.full());
        ghosts.draw();
        waters.draw(view);
        glDisable(GL_SCISSOR_TEST);
    }

    void drawWalls(const SceneView& view) {
        const GlProgram& wall = textures().gaps().texture() ? wallWithGaps : this->wall;
        glUseProgram(wall);
        glBindVertexArray(emptyArray);
        drawSides(wall, view);
    }

    // Through openings one looks into the dark, unless the land floats.
    void drawInside() {
        const Level& l = level();
        if (!hasOpenings(l) || l.noLand.presentTiles() > 0 || !patches.gaps()) return;
        glUseProgram(inside);
        glBindVertexArray(emptyArray);
        glDrawArrays(GL_TRIANGLE_STRIP, 0, 4);
    }
};

PixelRect inTarget(const PictureWish& wish, const PixelRect& part) {
    const PixelRect& place = wish.place;
    if (place.width == wish.camera.width && place.height == wish.camera.height)
        return {part.x + place.x, part.y + place.y, part.width, part.height};
    // Enlarging looks a pixel farther on both sides.
    const auto few = [](int at, int whole, int fewer) { return static_cast<double>(at) * fewer / whole; };
    const auto x = [&](int at) { return static_cast<int>(few(at, wish.camera.width, place.width)); };
    const auto y = [&](int at) { return static_cast<int>(few(at, wish.camera.height, place.height)); };
    const int x0 = std::max(x(part.x) - 1, 0), y0 = std::max(y(part.y) - 1, 0);
    const int x1 = std::min(x(part.x + part.width) + 2, place.width),
              y1 = std::min(y(part.y + part.height) + 2, place.height);
    return {place.x + x0, place.y + y0, x1 - x0, y1 - y0};
}

SceneRenderer::SceneRenderer(std::unique_ptr<Impl> impl) : impl_(std::move(impl)) {}
SceneRenderer::~SceneRenderer() = default;

Result<std::unique_ptr<SceneRenderer>> SceneRenderer::create(bool trilinear, const DriverLimits& offered) {
    if (const Status s = checkDriver(offered); !s) return s.error();
    auto impl = std::make_unique<Impl>();
    impl->limits = offered;
    impl->textures_ = std::make_unique<GroundTextures>(trilinear);
    if (Status s = impl->buildPrograms(); !s) return s.error();
    impl->mesh.build();
    impl->emptyArray = makeArray();
    return std::unique_ptr<SceneRenderer>(new SceneRenderer(std::move(impl)));
}

const std::optional<Error>& SceneRenderer::trouble() const {
    static const std::optional<Error> kNoRoom = Error{
        "", "OpenGL", "the graphics card has no memory left for the picture", "draw on the processor (--software)"};
    if (impl_->unfit) return impl_->unfit;
    if (ranOutOfRoom()) return kNoRoom;
    return impl_->ground.trouble() ? impl_->ground.trouble() : impl_->textures().materials().trouble();
}
int SceneRenderer::triangles() const { return impl_->patches.triangles(); }
double SceneRenderer::liveMetres(const Sight& sight) const { return jam::liveMetres(impl_->textures(), sight); }
size_t SceneRenderer::shaders() const { return impl_->ground.compiled(); }

void SceneRenderer::setHelpers(Helpers helpers) {
    impl_->textures().setRoomHelper(helpers.room);
    impl_->helpers = std::move(helpers);
}

Change SceneRenderer::sync(const Level& level, const HeightPyramid& pyramid, const Change* hint) {
    impl_->pyramid_ = &pyramid;
    const Status fits = checkFits(impl_->limits, level.columns, level.rows);
    impl_->unfit = fits ? std::optional<Error>() : fits.error();
    Change change = impl_->textures().sync(level, hint);
    if (impl_->helpers.mesh) impl_->helpers.mesh->follow(level, change.ground);
    impl_->cliffs.follow(level, change);
    impl_->dressing.follow(level, change);
    impl_->waters.follow(level, change);
    return change;
}

void SceneRenderer::setGhosts(const std::array<std::shared_ptr<const Level>, kLevelSides>& strips) {
    impl_->ghosts.set(impl_->level(), strips);
}

void SceneRenderer::setShade(Shade shade, const TileSet* changed) {
    impl_->dressing.setSun(shade.sunAbove ? shade.sunAbove : shade.sun);
    impl_->textures().setShade(std::move(shade), changed);
}
void SceneRenderer::setReach(std::shared_ptr<const Raster<uint8_t>> classes, int stride) {
    impl_->textures().setReach(std::move(classes), stride);
}
void SceneRenderer::setFlatLight(bool flat) { impl_->textures().setFlatLight(flat); }

TileSet SceneRenderer::bring(const Camera& camera, const Sight& sight, double ms) {
    if (impl_->unfit) return {};
    GroundTextures& t = impl_->textures();
    const uint32_t painted = sight.overlay == Overlay::coverage  ? 1u << sight.soloLayer
                             : sight.overlay == Overlay::stretch ? laidFlat(t.level())
                                                                 : 0;
    t.setRelief(sight.relief);
    t.setHatch(sight.hatch);
    t.follow(camera.at, sight.liveMetres, {painted, sight.overlay == Overlay::reach});
    const double until = nowMs() + ms;
    TileSet brought = t.bring(ms);
    if (!t.heightsStale()) brought.add(impl_->dressing.bring(camera, until));
    return brought;
}
bool SceneRenderer::stale() const { return !impl_->unfit && (impl_->textures().stale() || impl_->dressing.stale()); }
Standing SceneRenderer::standing() const { return impl_->dressing.reach(); }
bool SceneRenderer::nearStale() const {
    return !impl_->unfit && (impl_->textures().heightsStale() || impl_->textures().nearStale());
}
bool SceneRenderer::drawable() const { return !impl_->unfit && !impl_->textures().heightsStale(); }

bool SceneRenderer::draw(Target& target, const PictureWish& wish) {
    Impl& r = *impl_;
    const PixelRect* only = wish.part ? &*wish.part : nullptr;
    const PixelRect cut = only ? inTarget(wish, *only) : PixelRect{};
    r.begin(target, wish.place, only ? &cut : nullptr);
    r.drawAll(r.viewOf(wish.camera, wish.sight, wish.quality), only);
    return r.complete;
}

void SceneRenderer::drawFlat(Target& target, const Camera& camera, const Sight& sight) {
    Impl& r = *impl_;
    const Quality quick{kMovingGrain, 1, 0, false};
    const SceneView view = r.viewOf(camera, sight, quick);
    r.begin(target, {0, 0, camera.width, camera.height}, nullptr);
    glClearColor(0.8f, 0.8f, 0.8f, 1);
    glClear(GL_COLOR_BUFFER_BIT);
    r.prepare(view, nullptr);
    glUseProgram(r.flat);
    r.mesh.draw(r.patches.all());
}

void SceneRenderer::makeVariant(Target& target, const Variant& variant) {
    Impl& r = *impl_;
    Camera camera;
    camera.width = camera.height = 16;
    // Over the middle, looking down: without a patch in the picture nothing is compiled.
    camera.at = {r.level().originX + r.level().width() / 2, r.pyramid().whole().high + 5,
                 r.level().originZ + r.level().depth() / 2};
    camera.pitch = -89;
    const Sight sight;
    const Quality quick{kMovingGrain, 1, 0, false};
    bring(camera, sight);
    target.resize(camera.width, camera.height);
    r.begin(target, {0, 0, camera.width, camera.height}, nullptr);
    const SceneView view = r.viewOf(camera, sight, quick);
    r.prepare(view, nullptr);
    const std::vector<GlTexture> standIns = r.bindStandIns(variant);
    r.ground.forget(variant.features);  // or the driver would not look for it anew
    r.ground.use(variant.features, view, 1);
    r.mesh.draw(r.patches.all());
    glFinish();
}

}  // namespace jam
