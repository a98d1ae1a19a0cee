#include "renderer.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <glm/common.hpp>
#include <glm/gtc/type_ptr.hpp>
#include <glm/matrix.hpp>
#include <glm/trigonometric.hpp>
#include <glm/vec4.hpp>
#include <map>

#include "cover/lay.h"
#include "gl.h"
#include "ground_textures.h"
#include "level/ground.h"
#include "overlay_colours.h"
#include "patches.h"
#include "shaders.h"

namespace jam {

namespace {

struct PatchInstance {
    float column, row, step, morphEnd;
    uint32_t firstLayers, nextLayers, count, unused;
};

// What the ground's shader is compiled with, see ground.frag.
constexpr unsigned contours = 1, overlay = 2, live = 4, relief = 8, sides = 16, pieces = 32, second = 64, extra = 128;
constexpr const char* kFeatureNames[] = {"CONTOURS", "OVERLAY", "LIVE", "RELIEF", "SIDES", "PIECES", "SECOND", "EXTRA"};

constexpr int kSkyX = 40, kSkyY = 28;  // quads of the quick sky

std::string definesOf(unsigned features) {
    std::string d;
    for (size_t i = 0; i < std::size(kFeatureNames); ++i)
        if (features >> i & 1) d += std::string("#define ") + kFeatureNames[i] + "\n";
    return d;
}

}  // namespace

struct Renderer::Impl {
    std::map<unsigned, GlProgram> ground;  // by features
    GlProgram wall, sky[2], flat;
    GlBuffer gridVertices, gridIndices, instances;
    GlArray patchArray, emptyArray;
    int indexCount = 0;
    // What is drawn into; the second one for pictures aside.
    struct Target {
        GlFrame frame;
        GlTexture colour, depth;
        int width = 0, height = 0;
    };
    Target now, aside;
    std::unique_ptr<GroundTextures> textures_;
    GroundTextures& textures() const { return *textures_; }
    const HeightPyramid* pyramid_ = nullptr;  // the caller's, valid until the next sync()
    const HeightPyramid& pyramid() const { return *pyramid_; }
    std::vector<Patch> patches;
    struct Packed {
        unsigned features;
        PatchInstance instance;
    };
    std::vector<Packed> packed;    // patches with the same features lie together
    std::optional<Error> trouble;  // of a shader
    std::string driver;
    bool software = false;
    int triangles = 0;

    Status buildGround(unsigned features) {
        const std::string light = shader_light_glsl;
        Result<GlProgram> p = makeProgram(light + shader_ground_vert,
                                          light + (features & live ? shader_lay_glsl : "") +
                                              (features & overlay ? shader_overlay_glsl : "") + shader_ground_frag,
                                          definesOf(features));
        if (!p) return p.error();
        ground[features] = p.take();
        return {};
    }

    // The ground's shader with these features, compiled when first asked for; the plainest when a driver refuses it.
    const GlProgram& groundWith(unsigned features) {
        if (!ground.contains(features))
            if (const Status s = buildGround(features); !s) {
                trouble = s.error();
                return ground.at(0);
            }
        return ground.at(features);
    }

    Status buildPrograms() {
        const std::string light = shader_light_glsl;
        for (const unsigned features : {0u, live | relief, live | relief | sides})
            if (Status s = buildGround(features); !s) return s;
        Result<GlProgram> w = makeProgram(light + shader_wall_vert, light + shader_wall_frag, "");
        if (!w) return w.error();
        wall = w.take();
        for (int quick = 0; quick < 2; ++quick) {
            const std::string grid = "#define GRID_X " + std::to_string(kSkyX) + "\n#define GRID_Y " +
                                     std::to_string(kSkyY) + "\n";
            Result<GlProgram> s = makeProgram(light + shader_sky_vert, light + shader_sky_frag,
                                              (quick ? "#define QUICK\n" : "") + grid);
            if (!s) return s.error();
            sky[quick] = s.take();
        }
        Result<GlProgram> f = makeProgram(light + shader_ground_vert,
                                          "out vec4 shown;\nvoid main() { shown = vec4(0.5); }\n", "");
        if (!f) return f.error();
        flat = f.take();
        return {};
    }

    void buildMesh() {
        constexpr int n = Patch::kQuads;
        std::vector<float> vertices;
        std::vector<uint16_t> indices;
        for (int z = 0; z <= n; ++z)
            for (int x = 0; x <= n; ++x)
                vertices.insert(vertices.end(), {static_cast<float>(x), static_cast<float>(z)});
        for (int z = 0; z < n; ++z)
            for (int x = 0; x < n; ++x) {
                const auto nw = static_cast<uint16_t>(z * (n + 1) + x), ne = static_cast<uint16_t>(nw + 1);
                const auto sw = static_cast<uint16_t>(nw + n + 1), se = static_cast<uint16_t>(sw + 1);
                for (const uint16_t i : {nw, se, ne, nw, sw, se}) indices.push_back(i);
            }
        indexCount = static_cast<int>(indices.size());
        patchArray = makeArray();
        emptyArray = makeArray();
        gridVertices = makeBuffer();
        gridIndices = makeBuffer();
        instances = makeBuffer();
        glBindVertexArray(patchArray);
        glBindBuffer(GL_ARRAY_BUFFER, gridVertices);
        glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(vertices.size() * sizeof(float)), vertices.data(),
                     GL_STATIC_DRAW);
        glEnableVertexAttribArray(0);
        glVertexAttribPointer(0, 2, GL_FLOAT, GL_FALSE, 0, nullptr);
        glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, gridIndices);
        glBufferData(GL_ELEMENT_ARRAY_BUFFER, static_cast<GLsizeiptr>(indices.size() * sizeof(uint16_t)),
                     indices.data(), GL_STATIC_DRAW);
        glBindBuffer(GL_ARRAY_BUFFER, instances);
        for (const GLuint perInstance : {1u, 2u}) {
            glEnableVertexAttribArray(perInstance);
            glVertexAttribDivisor(perInstance, 1);
        }
        glBindVertexArray(0);
    }

    void resize(int w, int h) {
        if (w == now.width && h == now.height) return;
        now.width = w;
        now.height = h;
        now.colour = makeTexture();
        glBindTexture(GL_TEXTURE_2D, now.colour);
        glTexImage2D(GL_TEXTURE_2D, 0, GL_RGBA8, w, h, 0, GL_RGBA, GL_UNSIGNED_BYTE, nullptr);
        glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MIN_FILTER, GL_NEAREST);
        now.depth = makeTexture();
        glBindTexture(GL_TEXTURE_2D, now.depth);
        glTexImage2D(GL_TEXTURE_2D, 0, GL_DEPTH_COMPONENT24, w, h, 0, GL_DEPTH_COMPONENT, GL_UNSIGNED_INT, nullptr);
        now.frame = makeFrame();
        glBindFramebuffer(GL_FRAMEBUFFER, now.frame);
        glFramebufferTexture2D(GL_FRAMEBUFFER, GL_COLOR_ATTACHMENT0, GL_TEXTURE_2D, now.colour, 0);
        glFramebufferTexture2D(GL_FRAMEBUFFER, GL_DEPTH_ATTACHMENT, GL_TEXTURE_2D, now.depth, 0);
    }

    const Level& level() const { return textures().level(); }

    // What a patch of these layers needs of the shader.
    unsigned featuresOf(const Patch& p, uint32_t layers, const Sight& look) const {
        const Region r = p.region().clipped(level().bounds());
        unsigned f = live | (p.nearest < look.liveMetres * 0.5f ? relief : 0);
        const double across = Patch::kQuads * p.step * level().spacing;
        const bool steep = textures().steepIn(r);
        if (level().wash.presentTiles() > 0) f |= extra;
        for (size_t i = 0; i < level().layers.size(); ++i) {
            if (!(layers >> i & 1)) continue;
            const Layer& l = level().layers[i];
            if (l.sides && steep) f |= sides;
            if (l.look.tiling == Tiling::broken) f |= pieces;
            if (l.look.farTimes > 1 && p.nearest + 2 * across > l.look.farFrom) f |= second;
            if (l.look.variation > 0 || textures().means(i).shine) f |= extra;
            for (const BlendPair& pair : level().pairs)
                if (pair.one == l.id || pair.other == l.id) f |= extra;
        }
        return f;
    }

    // Whether any of a patch can lie inside a piece of the picture.
    bool touches(const Patch& p, const Camera& camera, const PixelRect& piece) const {
        const Region r = p.region().clipped(level().bounds());
        const PixelRect seen = pixelsOf(level(), r, pyramid().spanOf(r), camera);
        return seen.x < piece.x + piece.width && piece.x < seen.x + seen.width && seen.y < piece.y + piece.height &&
               piece.y < seen.y + seen.height;
    }

    // Patches as instances; those that are drawn live get the list of their layers. Only those that touch `only`.
    void packPatches(const Camera& camera, const Sight& look, bool quick, const PixelRect* only) {
        choosePatches(level(), pyramid(), camera, finestReach(level(), camera, look.quadPixels), patches);
        packed.clear();
        for (const Patch& p : patches) {
            if (only && !touches(p, camera, *only)) continue;
            PatchInstance i{static_cast<float>(p.column),
                            static_cast<float>(p.row),
                            static_cast<float>(p.step),
                            p.morphEnd,
                            0,
                            0,
                            0,
                            0};
            unsigned features = 0;
            if (!quick && p.nearest < look.liveMetres) {
                const uint32_t layers = textures().layersIn(p.region().clipped(level().bounds()));
                for (uint32_t id = 0; id < kMaxLayers; ++id)
                    if (layers >> id & 1) {
                        (i.count < 8 ? i.firstLayers : i.nextLayers) |= id << (4 * (i.count % 8));
                        ++i.count;
                    }
                features = featuresOf(p, layers, look);
            }
            packed.push_back({features, i});
        }
        // Near to far within each kind, so that what is hidden is not shaded.
        std::stable_sort(packed.begin(), packed.end(),
                         [](const Packed& a, const Packed& b) { return a.features > b.features; });
        glBindBuffer(GL_ARRAY_BUFFER, instances);
        glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(packed.size() * sizeof(Packed)), packed.data(),
                     GL_STREAM_DRAW);
        triangles = static_cast<int>(packed.size()) * indexCount / 3;
    }

    void setView(const GlProgram& p, const Camera& camera, const glm::mat4& viewProjection) {
        const glm::vec3 at_(camera.at);
        glUniformMatrix4fv(at(p, "viewProjection"), 1, GL_FALSE, glm::value_ptr(viewProjection));
        glUniform3fv(at(p, "camera"), 1, glm::value_ptr(at_));
        glUniform3f(at(p, "place"), static_cast<float>(level().originX), static_cast<float>(level().originZ),
                    static_cast<float>(level().spacing));
        glUniform2i(at(p, "samples"), level().columns, level().rows);
        glUniform1i(at(p, "heights"), 0);
    }

    void setLight(const GlProgram& p, const LightLook& sun) {
        glUniform3fv(at(p, "towardsSun"), 1, glm::value_ptr(sun.towards));
        glUniform3fv(at(p, "sunColour"), 1, glm::value_ptr(sun.sun));
        glUniform3fv(at(p, "skyColour"), 1, glm::value_ptr(sun.sky));
        glUniform3fv(at(p, "hazeColour"), 1, glm::value_ptr(sun.haze));
        glUniform3f(at(p, "hazeShown"), static_cast<float>(finished(sun.haze.x)) / 255,
                    static_cast<float>(finished(sun.haze.y)) / 255, static_cast<float>(finished(sun.haze.z)) / 255);
        glUniform3fv(at(p, "zenithColour"), 1, glm::value_ptr(sun.zenith));
        glUniform1f(at(p, "hazeMetres"), static_cast<float>(3500 + 1.5 * std::max(level().width(), level().depth())));
    }

    void bindTextures() {
        const struct {
            GLenum target;
            const GlTexture* texture;
        } all[] = {{GL_TEXTURE_2D, &textures().heights()},       {GL_TEXTURE_2D, &textures().surface()},
                   {GL_TEXTURE_2D, &textures().litMap()},        {GL_TEXTURE_2D_ARRAY, &textures().weights()},
                   {GL_TEXTURE_2D_ARRAY, &textures().colours()}, {GL_TEXTURE_2D_ARRAY, &textures().reliefs()},
                   {GL_TEXTURE_2D_ARRAY, &textures().shines()},  {GL_TEXTURE_2D, &textures().wash()},
                   {GL_TEXTURE_2D, &textures().wander()}};
        for (int i = 0; i < 9; ++i) {
            glActiveTexture(static_cast<GLenum>(GL_TEXTURE0 + i));
            glBindTexture(all[i].target, *all[i].texture);
        }
        glActiveTexture(GL_TEXTURE0);
    }

    void drawPatches(size_t first, size_t count) {
        const size_t at = first * sizeof(Packed) + offsetof(Packed, instance);
        const auto place = [at](size_t offset) { return reinterpret_cast<void*>(at + offset); };
        glBindVertexArray(patchArray);
        glBindBuffer(GL_ARRAY_BUFFER, instances);
        glVertexAttribPointer(1, 4, GL_FLOAT, GL_FALSE, sizeof(Packed), place(0));
        glVertexAttribIPointer(2, 4, GL_UNSIGNED_INT, sizeof(Packed), place(offsetof(PatchInstance, firstLayers)));
        glDrawElementsInstanced(GL_TRIANGLES, indexCount, GL_UNSIGNED_SHORT, nullptr, static_cast<GLsizei>(count));
    }

    glm::mat4 viewProjection(const Camera& camera) const {
        // The nearest plane follows the height above ground, so that depth stays precise from far above.
        const double above = camera.at.y - (level().holds(camera.at.x, camera.at.z)
                                                ? altitudeAt(level(), camera.at.x, camera.at.z)
                                                : pyramid().whole().low);
        const double nearest = std::clamp(std::abs(above) * 0.1, 0.1, 20.0);
        return glm::mat4(camera.projection(nearest, 40000) * camera.view());
    }

    void begin(const Camera& camera, const PixelRect* only) {
        resize(camera.width, camera.height);
        glBindFramebuffer(GL_FRAMEBUFFER, now.frame);
        glViewport(0, 0, now.width, now.height);
        glDisable(GL_BLEND);
        glDisable(GL_CULL_FACE);
        glEnable(GL_DEPTH_TEST);
        glDepthFunc(GL_LEQUAL);
        glDepthMask(GL_TRUE);
        glColorMask(GL_TRUE, GL_TRUE, GL_TRUE, GL_TRUE);
        if (only) {
            glEnable(GL_SCISSOR_TEST);
            glScissor(only->x, now.height - only->y - only->height, only->width, only->height);
        } else {
            glDisable(GL_SCISSOR_TEST);
        }
        glClear(GL_DEPTH_BUFFER_BIT);
    }

    void setLayers(const GlProgram& p) {
        glm::vec4 look[kMaxLayers] = {}, place[kMaxLayers] = {}, mean[kMaxLayers] = {}, relief[kMaxLayers] = {},
                  tint[kMaxLayers] = {}, far[kMaxLayers] = {};
        glm::uvec4 bits(0);
        float pairs[kMaxLayers * kMaxLayers] = {};
        const Level& l = level();
        for (size_t i = 0; i < l.layers.size(); ++i) {
            const Layer& layer = l.layers[i];
            const LayerLook& k = layer.look;
            const GroundTextures::Means& m = textures().means(i);
            const float turn = glm::radians(k.turn);
            look[i] = {static_cast<float>(1 / layer.tileSize), layer.blend, m.stored[3], layer.sides ? 1.f : 0.f};
            place[i] = {std::cos(turn), std::sin(turn), k.offsetX, k.offsetZ};
            mean[i] = {m.stored[0], m.stored[1], m.stored[2], m.stored[3]};
            relief[i] = {m.relief[0], m.relief[1], m.relief[2], m.relief[3]};
            const std::array<float, 3> t = tintOf(k);
            tint[i] = {t[0], t[1], t[2], k.relief};
            far[i] = {1 / k.farTimes, k.farFrom, k.variation, k.wash};
            const uint32_t bit = 1u << i;
            if (k.tiling == Tiling::broken) bits.x |= bit;
            if (k.farTimes > 1) bits.y |= bit;
            if (m.shine) bits.z |= bit;
            for (const BlendPair& pair : l.pairs)
                if (pair.one == layer.id || pair.other == layer.id) bits.w |= bit;
            for (size_t n = 0; n < l.layers.size(); ++n)
                pairs[i * kMaxLayers + n] = blendBetween(l, layer, l.layers[n]);
        }
        const struct {
            const char* name;
            const glm::vec4* values;
        } all[] = {{"layerLook", look},    {"layerPlace", place}, {"layerMean", mean},
                   {"reliefMean", relief}, {"layerTint", tint},   {"layerFar", far}};
        for (const auto& u : all) glUniform4fv(at(p, u.name), kMaxLayers, &u.values[0].x);
        glUniform4uiv(at(p, "layerBits"), 1, &bits.x);
        glUniform1fv(at(p, "pairBlend"), kMaxLayers * kMaxLayers, pairs);
    }

    // All patches, those with the same features at once; `common` ones are added to each.
    void drawGround(unsigned common, const Camera& camera, const Sight& look, const glm::mat4& vp,
                    const LightLook& sun) {
        for (size_t first = 0, end = 0; first < packed.size(); first = end) {
            const unsigned features = packed[first].features;
            while (end < packed.size() && packed[end].features == features) ++end;
            useGround(groundWith(features | common), camera, look, vp, sun);
            drawPatches(first, end - first);
        }
    }

    void useGround(const GlProgram& p, const Camera& camera, const Sight& look, const glm::mat4& vp,
                   const LightLook& sun) {
        glUseProgram(p);
        setView(p, camera, vp);
        setLight(p, sun);
        glUniform1i(at(p, "surface"), 1);
        glUniform1i(at(p, "litMap"), 2);
        glUniform1i(at(p, "weights"), 3);
        glUniform1i(at(p, "colours"), 4);
        glUniform1i(at(p, "reliefs"), 5);
        glUniform1i(at(p, "shines"), 6);
        glUniform1i(at(p, "wash"), 7);
        glUniform1i(at(p, "wander"), 8);
        glUniform1f(at(p, "liveMetres"), look.liveMetres);
        glUniform1f(at(p, "contourStep"), look.contourStep);
        setLayers(p);
        const HeightSpan span = pyramid().whole();
        glUniform1i(at(p, "overlay"), static_cast<int>(look.overlay));
        glUniform1i(at(p, "soloLayer"), look.soloLayer);
        uint32_t flat = 0;
        for (size_t i = 0; i < level().layers.size(); ++i)
            if (!level().layers[i].sides) flat |= 1u << i;
        glUniform2ui(at(p, "laidFlat"), flat, static_cast<GLuint>(level().layers.size()));
        glUniform4f(at(p, "overlayScale"), look.walkable, look.bandStep, span.low,
                    std::max(span.high, span.low + 0.01f));
        glUniform1f(at(p, "curvatureFull"), curvatureScale(level()));
        glUniform2f(at(p, "gridLook"), look.grid ? look.gridStep : 0, look.mesh ? 1 : 0);
        glUniform3fv(at(p, "bandColours"), kBands, &bandColours()->x);
    }

    void drawWalls(const Camera& camera, const glm::mat4& vp, const LightLook& sun) {
        glUseProgram(wall);
        setView(wall, camera, vp);
        setLight(wall, sun);
        const Level& l = level();
        glUniform1f(at(wall, "foot"), std::min(pyramid().whole().low, l.startHeight) -
                                          static_cast<float>(0.05 * std::max(l.width(), l.depth())));
        glBindVertexArray(emptyArray);
        for (int side = 0; side < 4; ++side) {
            const int last = side % 2 == 0 ? l.columns - 1 : l.rows - 1;
            const int stride = std::max(1, last / 2048);
            glUniform1i(at(wall, "side"), side);
            glUniform1i(at(wall, "stride"), stride);
            glDrawArrays(GL_TRIANGLE_STRIP, 0, 2 * ((last + stride - 1) / stride + 1));
        }
    }

    void drawSky(const Camera& camera, const glm::mat4& vp, const LightLook& sun, Finish finish) {
        const GlProgram& p = sky[finish == Finish::quick ? 1 : 0];
        glUseProgram(p);
        setLight(p, sun);
        const glm::vec3 at_(camera.at);
        glUniform3fv(at(p, "camera"), 1, glm::value_ptr(at_));
        const glm::mat4 fromClip = glm::inverse(vp);
        glUniformMatrix4fv(at(p, "fromClip"), 1, GL_FALSE, glm::value_ptr(fromClip));
        glBindVertexArray(emptyArray);
        glDrawArrays(GL_TRIANGLES, 0, finish == Finish::quick ? kSkyX * kSkyY * 6 : 3);
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
    impl->buildMesh();
    return std::unique_ptr<Renderer>(new Renderer(std::move(impl)));
}

bool Renderer::software() const { return impl_->software; }
const std::string& Renderer::driver() const { return impl_->driver; }
const std::optional<Error>& Renderer::trouble() const {
    return impl_->trouble ? impl_->trouble : impl_->textures().trouble();
}
int Renderer::triangles() const { return impl_->triangles; }

Change Renderer::sync(const Level& level, const HeightPyramid& pyramid, const Change* hint) {
    impl_->pyramid_ = &pyramid;
    return impl_->textures().sync(level, hint);
}

void Renderer::setShade(const Raster<uint8_t>& sun, const Raster<uint8_t>& open) {
    impl_->textures().setShade(sun, open);
}
void Renderer::setFlatLight(bool flat) { impl_->textures().setFlatLight(flat); }

void Renderer::draw(const Camera& camera, const Sight& look, Finish finish, const PixelRect* only) {
    Impl& r = *impl_;
    r.begin(camera, only);
    const glm::mat4 vp = r.viewProjection(camera);
    const LightLook& sun = r.textures().light();
    r.packPatches(camera, look, finish == Finish::quick, only);
    r.bindTextures();
    r.drawGround(
        (look.contours ? contours : 0) | (look.overlay != Overlay::none || look.grid || look.mesh ? overlay : 0),
        camera, look, vp, sun);
    r.drawWalls(camera, vp, sun);
    r.drawSky(camera, vp, sun, finish);
    glDisable(GL_SCISSOR_TEST);
}

void Renderer::drawFlat(const Camera& camera, const Sight& look) {
    Impl& r = *impl_;
    r.begin(camera, nullptr);
    glClearColor(0.8f, 0.8f, 0.8f, 1);
    glClear(GL_COLOR_BUFFER_BIT);
    r.packPatches(camera, look, true, nullptr);
    r.bindTextures();
    glUseProgram(r.flat);
    r.setView(r.flat, camera, r.viewProjection(camera));
    r.drawPatches(0, r.packed.size());
}

void Renderer::read(const PixelRect& part, uint8_t* bgra, int bytesPerRow) {
    glBindFramebuffer(GL_READ_FRAMEBUFFER, impl_->now.frame);
    glPixelStorei(GL_PACK_ALIGNMENT, 4);
    std::vector<uint8_t> rows(static_cast<size_t>(part.width) * static_cast<size_t>(part.height) * 4);
    glReadPixels(part.x, impl_->now.height - part.y - part.height, part.width, part.height, GL_BGRA,
                 GL_UNSIGNED_INT_8_8_8_8_REV, rows.data());
    const size_t n = static_cast<size_t>(part.width) * 4;
    for (int y = 0; y < part.height; ++y)
        std::memcpy(bgra + static_cast<ptrdiff_t>(y) * bytesPerRow,
                    rows.data() + static_cast<size_t>(part.height - 1 - y) * n, n);
}

void Renderer::drawAside(const Camera& camera, const Sight& look, uint8_t* bgra) {
    std::swap(impl_->now, impl_->aside);
    draw(camera, look, Finish::full);
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

PixelRect pixelsOf(const Level& l, const Region& ground, HeightSpan span, const Camera& camera) {
    if (ground.empty()) return {};
    const Region r = ground.grown(2).clipped(l.bounds());
    double x0 = 1e9, y0 = 1e9, x1 = -1e9, y1 = -1e9;
    for (int k = 0; k < 8; ++k) {
        const glm::dvec3 corner{l.originX + l.spacing * (k & 1 ? r.x1 : r.x0), k & 2 ? span.high : span.low,
                                l.originZ + l.spacing * (k & 4 ? r.z1 : r.z0)};
        const auto p = camera.pixel(corner);
        if (!p) return {0, 0, camera.width, camera.height};
        x0 = std::min(x0, p->x);
        x1 = std::max(x1, p->x);
        y0 = std::min(y0, p->y);
        y1 = std::max(y1, p->y);
    }
    const int left = static_cast<int>(std::clamp(x0 - 3, 0.0, double(camera.width))),
              top = static_cast<int>(std::clamp(y0 - 3, 0.0, double(camera.height)));
    const int right = static_cast<int>(std::clamp(x1 + 4, 0.0, double(camera.width))),
              bottom = static_cast<int>(std::clamp(y1 + 4, 0.0, double(camera.height)));
    return {left, top, right - left, bottom - top};
}

}  // namespace jam
