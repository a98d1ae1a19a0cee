#include "renderer.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <glm/common.hpp>
#include <glm/gtc/type_ptr.hpp>
#include <glm/matrix.hpp>
#include <set>
#include <utility>

#include "canvas.h"
#include "cliffs.h"
#include "driver_threads.h"
#include "enlarge.h"
#include "ghosts.h"
#include "gl.h"
#include "ground_programs.h"
#include "level/ground.h"
#include "picture_patches.h"
#include "shaders.h"
#include "sky.h"
#include "waters.h"

namespace jam {

namespace {
constexpr double kCalmPixels = 1;  // that a moving picture's ground may stray from what it is
}

struct Renderer::Impl {
    GroundPrograms ground;
    GlProgram wall, wallWithGaps, inside, flat;
    Cliffs cliffs;
    Ghosts ghosts;
    Waters waters;
    Sky sky;
    PatchMesh mesh;
    PicturePatches patches;
    GlArray emptyArray;
    Canvas now, aside, coarse, tall,
        wide;  // what is drawn into; for pictures aside, coarse ones, upright and lying parts
    int coarseWidth = 0, coarseHeight = 0;  // of the picture that the coarse one stands for
    std::vector<uint32_t> fetched;          // rows from the bottom; kept between uses for its room
    std::unique_ptr<GroundTextures> textures_;
    GroundTextures& textures() const { return *textures_; }
    const HeightPyramid* pyramid_ = nullptr;  // the caller's, valid until the next sync()
    const HeightPyramid& pyramid() const { return *pyramid_; }
    std::string driver;
    bool software = false;
    std::array<TextureKind, kTextureUnits> kinds{};  // of the textures that are bound, while variants are asked for
    bool complete = true;                            // nothing was drawn plainer than it should be
    std::shared_ptr<Variants> variants;
    std::set<Variant> met;  // those of them that were drawn with here

    Status buildPrograms() {
        const std::string light = shader_light_glsl;
        if (Status s = ground.build(); !s) return s;
        Result<GlProgram> w = makeProgram(light + shader_wall_vert, light + shader_wall_frag, "");
        if (!w) return w.error();
        wall = w.take();
        Result<GlProgram> g = makeProgram(light + shader_wall_vert,
                                          light + "uniform ivec2 samples;\n" + shader_gaps_glsl + shader_wall_frag,
                                          "#define GAPS\n");
        if (!g) return g.error();
        wallWithGaps = g.take();
        Result<GlProgram> i = makeProgram(light + shader_inside_vert, light + shader_inside_frag, "");
        if (!i) return i.error();
        inside = i.take();
        if (Status s = cliffs.build(); !s) return s;
        if (Status s = ghosts.build(); !s) return s;
        if (Status s = waters.build(); !s) return s;
        if (Status k = sky.build(); !k) return k;
        Result<GlProgram> f = makeProgram(light + shader_ground_vert,
                                          "out vec4 shown;\nvoid main() { shown = vec4(0.5); }\n", "");
        if (!f) return f.error();
        flat = f.take();
        return {};
    }

    const Level& level() const { return textures().level(); }

    // The patches of a picture, see PicturePatches::choose().
    void choosePatches(const View3& view, const Sight& sight, std::optional<double> grain,
                       const PixelRect* only = nullptr, double calmPixels = 0) {
        patches.choose(view, sight, grain, only, calmPixels);
        complete = patches.complete();
    }

    // In the order of kUnits of ground_programs.cpp.
    void bindTextures() {
        const GroundTextures& t = textures();
        const struct {
            GLenum target;
            const GlTexture* texture;
        } all[] = {{GL_TEXTURE_2D, &t.heights()},
                   {GL_TEXTURE_2D, &t.near().surface()},
                   {GL_TEXTURE_2D, &t.litMap().texture()},
                   {GL_TEXTURE_2D_ARRAY, &t.near().weights()},
                   {GL_TEXTURE_2D_ARRAY, &t.materials().colours()},
                   {GL_TEXTURE_2D_ARRAY, &t.materials().reliefs()},
                   {GL_TEXTURE_2D_ARRAY, &t.materials().shines()},
                   {GL_TEXTURE_2D, &t.near().wash()},
                   {GL_TEXTURE_2D, &t.wander()},
                   {GL_TEXTURE_2D, &t.painted()},
                   {GL_TEXTURE_2D, &t.near().leading()},
                   {GL_TEXTURE_2D_ARRAY, &t.materials().grains()},
                   {GL_TEXTURE_2D, &t.gaps().texture()}};
        for (size_t i = 0; i < std::size(all); ++i) {
            glActiveTexture(static_cast<GLenum>(GL_TEXTURE0 + i));
            glBindTexture(all[i].target, *all[i].texture);
            if (variants) kinds[i] = *all[i].texture ? boundKind(all[i].target) : TextureKind{};
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

    glm::mat4 viewProjection(const Camera& camera) const {
        // The nearest plane follows the height above ground, so that depth stays precise from far above.
        const double above = camera.at.y - (level().holds(camera.at.x, camera.at.z)
                                                ? altitudeAt(level(), camera.at.x, camera.at.z)
                                                : pyramid().whole().low);
        const double nearest = std::clamp(std::abs(above) * 0.1, 0.1, 20.0);
        return glm::mat4(camera.projection(nearest, 40000) * camera.view());
    }

    // Pixels of the kept picture as those of the coarse one that they are made of.
    PixelRect coarsely(const PixelRect& part) const {
        const auto few = [](int at, int whole, int fewer) { return static_cast<double>(at) * fewer / whole; };
        const int w = coarse.width, h = coarse.height;
        const int x0 = std::max(static_cast<int>(few(part.x, coarseWidth, w)) - 1, 0),
                  y0 = std::max(static_cast<int>(few(part.y, coarseHeight, h)) - 1, 0);
        const int x1 = std::min(static_cast<int>(few(part.x + part.width, coarseWidth, w)) + 2, w),
                  y1 = std::min(static_cast<int>(few(part.y + part.height, coarseHeight, h)) + 2, h);
        return {x0, y0, x1 - x0, y1 - y0};
    }
    void beginCoarse(Finish finish, const Camera& camera, const PixelRect* only) {
        const auto fewer = [&](int pixels) {
            return std::max(2, static_cast<int>(std::lround(pixels * shareOf(finish))));
        };
        coarseWidth = camera.width, coarseHeight = camera.height;
        coarse.resize(fewer(camera.width), fewer(camera.height));
        const PixelRect few = only ? coarsely(*only) : PixelRect{};
        std::swap(now, coarse);
        begin(now.width, now.height, only ? &few : nullptr);
    }

    void begin(int width, int height, const PixelRect* only) {
        now.resize(width, height);
        glBindFramebuffer(GL_FRAMEBUFFER, now.frame);
        glViewport(0, 0, now.width, now.height);
        glDisable(GL_BLEND);
        glDisable(GL_CULL_FACE);
        glEnable(GL_DEPTH_TEST);
        glDepthFunc(GL_LEQUAL);
        glDepthMask(GL_TRUE);
        glColorMask(GL_TRUE, GL_TRUE, GL_TRUE, GL_TRUE);
        (only ? glEnable : glDisable)(GL_SCISSOR_TEST);
        if (only) glScissor(only->x, now.height - only->y - only->height, only->width, only->height);
        // A pixel between two triangles that neither covers shows something like ground.
        glClearColor(89 / 255.f, 92 / 255.f, 77 / 255.f, 1);
        glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
    }

    // Part of a larger picture alone; returns where it lies in what is drawn into.
    PixelRect beginPart(const Camera& camera, const PixelRect& part) {
        now.makeRoom(part.width, part.height);
        const PixelRect corner{0, now.height - part.height, part.width, part.height};
        begin(now.width, now.height, &corner);
        glViewport(-part.x, part.y + part.height - camera.height, camera.width, camera.height);
        return corner;
    }

    float footOfWalls() const {
        const Level& l = level();
        return std::min(pyramid().whole().low, l.startHeight) -
               static_cast<float>(0.05 * std::max(l.width(), l.depth()));
    }

    View3 viewOf(const Camera& camera) const {
        return {textures(), pyramid(), camera, viewProjection(camera), footOfWalls()};
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
        if (!variants->ready(variant)) return false;
        if (met.contains(variant)) return true;
        if (std::exchange(meets, true)) return false;
        met.insert(variant);
        return true;
    }

    // All patches, those with the same features at once.
    void drawGround(const View3& view, const Sight& sight) {
        if (hidesItsBack(view.camera)) glEnable(GL_CULL_FACE);
        const bool overlaid = (sight.overlay != Overlay::none && sight.overlay != Overlay::depth) || sight.grid ||
                              sight.mesh;
        const unsigned common = (sight.contours ? kContours : 0u) | (overlaid ? kOverlay : 0u);
        const auto& packed = patches.all();
        bool meets = false;
        for (auto first = packed.begin(), end = first; first != packed.end(); first = end) {
            end = std::find_if_not(first, packed.end(), [&](const auto& p) { return p.alike(*first); });
            const unsigned features = first->features;
            unsigned usable = features | common;
            if (variants && !drawsNow(variantOf(usable), meets)) {
                complete = false;
                usable &= kGaps;
            }
            // What the next look at this ground may need is made while there is time.
            if (variants && usable == features) {
                for (const unsigned more : {kContours, kOverlay}) variants->wantLater(variantOf(features | more));
                if (features & kLive) variants->wantLater(variantOf(kGrain | (features & (kGaps | kSides | kSecond))));
            }
            ground.use(usable, view, sight, liveMetres(textures(), sight));
            mesh.draw({first, end});
        }
        glDisable(GL_CULL_FACE);
    }

    void drawAll(const Camera& camera, const Sight& sight, Finish finish, const PixelRect* only) {
        const bool full = finish == Finish::full;
        View3 view = viewOf(camera);
        view.under = sight.under;
        if (only) view.grain = partGrain(liveMetres(textures(), sight));
        // As fine as in the whole picture: fewer pixels are blurred enough when they are enlarged.
        view.finer = static_cast<float>(-std::log2(shareOf(finish)));
        choosePatches(view, sight, full ? std::nullopt : std::optional<double>(view.grain.to), only,
                      full ? 0 : kCalmPixels / shareOf(finish));
        bindTextures();
        drawGround(view, sight);
        drawWalls(view);
        cliffs.draw(view);
        drawInside(view);
        sky.draw(view, !full);
        ghosts.draw(view);
        waters.draw(view, sight, finish);
        glDisable(GL_SCISSOR_TEST);
    }

    void drawWalls(const View3& view) {
        const GlProgram& wall = textures().gaps().texture() ? wallWithGaps : this->wall;
        glUseProgram(wall);
        setView(wall, view);
        setLight(wall, view);
        glUniform1f(at(wall, "foot"), view.foot);
        glBindVertexArray(emptyArray);
        drawSides(wall, view);
    }

    // Through openings one looks into the dark, unless the land floats.
    void drawInside(const View3& view) {
        const Level& l = level();
        if (l.opening.presentTiles() == 0 || l.noLand.presentTiles() > 0 || !patches.gaps()) return;
        glUseProgram(inside);
        setView(inside, view);
        setLight(inside, view);
        glUniform4f(at(inside, "rect"), static_cast<float>(l.originX), static_cast<float>(l.originZ),
                    static_cast<float>(l.originX + l.width()), static_cast<float>(l.originZ + l.depth()));
        glUniform1f(at(inside, "foot"), view.foot);
        glBindVertexArray(emptyArray);
        glDrawArrays(GL_TRIANGLE_STRIP, 0, 4);
    }
};

Renderer::Renderer(std::unique_ptr<Impl> impl) : impl_(std::move(impl)) {}
Renderer::~Renderer() = default;

Result<std::unique_ptr<Renderer>> Renderer::create() {
    if (epoxy_gl_version() < 33)
        return Error{"", "OpenGL",
                     "this machine offers OpenGL " + std::to_string(epoxy_gl_version() / 10) + "." +
                         std::to_string(epoxy_gl_version() % 10) + ", and Jam Hill needs 3.3",
                     "install Mesa's software drawing (libgl1-mesa-dri) or a newer driver"};
    auto impl = std::make_unique<Impl>();
    impl->driver = reinterpret_cast<const char*>(glGetString(GL_RENDERER));
    for (const char* soft : {"llvmpipe", "softpipe", "SWR", "swrast"})
        impl->software |= impl->driver.find(soft) != std::string::npos;
    impl->textures_ = std::make_unique<GroundTextures>(!impl->software);
    if (Status s = impl->buildPrograms(); !s) return s.error();
    impl->mesh.build();
    impl->emptyArray = makeArray();
    if (impl->software) spreadDriverThreads();
    return std::unique_ptr<Renderer>(new Renderer(std::move(impl)));
}

bool Renderer::software() const { return impl_->software; }
const std::string& Renderer::driver() const { return impl_->driver; }
const std::optional<Error>& Renderer::trouble() const {
    return impl_->ground.trouble() ? impl_->ground.trouble() : impl_->textures().materials().trouble();
}
int Renderer::triangles() const { return impl_->patches.triangles(); }
size_t Renderer::shaders() const { return impl_->ground.compiled(); }

Change Renderer::sync(const Level& level, const HeightPyramid& pyramid, const Change* hint) {
    impl_->pyramid_ = &pyramid;
    Change change = impl_->textures().sync(level, hint);
    impl_->patches.follow(level, change.ground);
    impl_->cliffs.follow(level, change);
    impl_->waters.follow(level, change);
    return change;
}

void Renderer::setGhosts(const std::array<std::shared_ptr<const Level>, kLevelSides>& strips) {
    impl_->ghosts.set(impl_->level(), strips);
}

void Renderer::setShade(Shade shade, const TileSet* changed) { impl_->textures().setShade(std::move(shade), changed); }
void Renderer::setReach(std::shared_ptr<const Raster<uint8_t>> classes, int stride) {
    impl_->textures().setReach(std::move(classes), stride);
}
void Renderer::setFlatLight(bool flat) { impl_->textures().setFlatLight(flat); }

TileSet Renderer::bring(const Camera& camera, const Sight& sight, double ms) {
    GroundTextures& t = impl_->textures();
    const uint32_t painted = sight.overlay == Overlay::coverage  ? 1u << sight.soloLayer
                             : sight.overlay == Overlay::stretch ? laidFlat(t.level())
                                                                 : 0;
    t.setRelief(sight.relief);
    t.setHatch(sight.hatch);
    t.follow(camera.at, sight.liveMetres, {painted, sight.overlay == Overlay::reach});
    return t.bring(ms);
}
bool Renderer::stale() const { return impl_->textures().stale(); }
bool Renderer::nearStale() const { return impl_->textures().heightsStale() || impl_->textures().nearStale(); }
bool Renderer::drawable() const { return !impl_->textures().heightsStale(); }

void Renderer::setRooms(std::shared_ptr<Rooms> rooms) { impl_->textures().setRooms(std::move(rooms)); }
void Renderer::setVariants(std::shared_ptr<Variants> variants) { impl_->variants = std::move(variants); }

void Renderer::makeVariant(const Variant& variant) {
    Impl& r = *impl_;
    Camera camera;
    camera.width = camera.height = 16;
    // Over the middle, looking down: without a patch in the picture nothing is compiled.
    camera.at = {r.level().originX + r.level().width() / 2, r.pyramid().whole().high + 5,
                 r.level().originZ + r.level().depth() / 2};
    camera.pitch = -89;
    std::swap(r.now, r.aside);
    bring(camera, {});
    r.begin(camera.width, camera.height, nullptr);
    r.choosePatches(r.viewOf(camera), {}, kMovingGrain.to);
    r.bindTextures();
    const std::vector<GlTexture> standIns = r.bindStandIns(variant);
    r.ground.forget(variant.features);  // or the driver would not look for it anew
    r.ground.use(variant.features, r.viewOf(camera), {}, 1);
    r.mesh.draw(r.patches.all());
    glFinish();
    std::swap(r.now, r.aside);
}

bool Renderer::draw(const Camera& camera, const Sight& sight, Finish finish, const PixelRect* only) {
    Impl& r = *impl_;
    if (isCoarse(finish)) r.beginCoarse(finish, camera, only);
    else r.begin(camera.width, camera.height, only);
    r.drawAll(camera, sight, finish, only);
    if (isCoarse(finish)) std::swap(r.now, r.coarse);
    return r.complete;
}

void Renderer::drawGlimpse(const Camera& camera, const Sight& sight, const PixelRect& part, uint8_t* bgra,
                           int bytesPerRow) {
    Impl& r = *impl_;
    Canvas& canvas = part.width < part.height ? r.tall : r.wide;
    std::swap(r.now, canvas);
    const PixelRect corner = r.beginPart(camera, part);
    r.drawAll(camera, sight, Finish::quick, &part);
    read(corner, bgra, bytesPerRow);
    std::swap(r.now, canvas);
}

void Renderer::drawFlat(const Camera& camera, const Sight& sight) {
    Impl& r = *impl_;
    r.begin(camera.width, camera.height, nullptr);
    glClearColor(0.8f, 0.8f, 0.8f, 1);
    glClear(GL_COLOR_BUFFER_BIT);
    r.choosePatches(r.viewOf(camera), sight, kMovingGrain.to);
    r.bindTextures();
    glUseProgram(r.flat);
    setView(r.flat, r.viewOf(camera));
    r.mesh.draw(r.patches.all());
}

void Renderer::read(const PixelRect& part, uint8_t* bgra, int bytesPerRow) {
    std::vector<uint32_t>& rows = impl_->fetched;
    impl_->now.fetch(part, rows);
    for (int y = 0; y < part.height; ++y)
        std::memcpy(bgra + static_cast<ptrdiff_t>(y) * bytesPerRow,
                    rows.data() + static_cast<ptrdiff_t>(part.height - 1 - y) * part.width,
                    static_cast<size_t>(part.width) * 4);
}

void Renderer::readCoarse(const PixelRect& part, uint8_t* bgra, int bytesPerRow) {
    Impl& r = *impl_;
    const PixelRect few = r.coarsely(part);
    r.coarse.fetch(few, r.fetched);
    Enlarged across = enlarged(r.coarse.width, r.coarseWidth, part.x, part.x + part.width);
    for (int& from : across.from) from -= few.x;
    const Enlarged down = enlarged(r.coarse.height, r.coarseHeight, part.y, part.y + part.height);
    enlargeRows(r.fetched.data(), few.width, few.height, few.y, across, down, bgra, bytesPerRow);
}

void Renderer::drawAside(const Camera& camera, const Sight& sight, uint8_t* bgra) {
    std::swap(impl_->now, impl_->aside);
    const std::shared_ptr<Variants> patient = std::exchange(impl_->variants, nullptr);  // a picture aside is needed now
    bring(camera, sight);
    draw(camera, sight, Finish::full);
    impl_->variants = patient;
    read({0, 0, camera.width, camera.height}, bgra, camera.width * 4);
    std::swap(impl_->now, impl_->aside);
}

void Renderer::show(unsigned framebuffer) {
    glBindFramebuffer(GL_READ_FRAMEBUFFER, impl_->now.frame);
    glBindFramebuffer(GL_DRAW_FRAMEBUFFER, framebuffer);
    glBlitFramebuffer(0, 0, impl_->now.width, impl_->now.height, 0, 0, impl_->now.width, impl_->now.height,
                      GL_COLOR_BUFFER_BIT, GL_NEAREST);
    glBindFramebuffer(GL_FRAMEBUFFER, framebuffer);
}

}  // namespace jam
