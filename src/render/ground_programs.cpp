#include "ground_programs.h"

#include <cmath>
#include <glm/gtc/type_ptr.hpp>
#include <glm/trigonometric.hpp>
#include <glm/vec4.hpp>

#include "base/srgb.h"
#include "cover/lay.h"
#include "level/opening.h"
#include "overlay_colours.h"
#include "shaders.h"

namespace jam {

namespace {

constexpr const char* kFeatureNames[] = {"CONTOURS", "OVERLAY", "LIVE",  "RELIEF", "SIDES",
                                         "PIECES",   "SECOND",  "EXTRA", "GRAIN",  "GAPS"};

std::string definesOf(unsigned features) {
    std::string d;
    for (size_t i = 0; i < std::size(kFeatureNames); ++i)
        if (features >> i & 1) d += std::string("#define ") + kFeatureNames[i] + "\n";
    return d;
}

// The textures' places in the order of their units; bindTextures() of the renderer follows it.
constexpr const char* kUnits[] = {"heights", "surface", "litMap",  "weights", "colours", "reliefs", "shines",
                                  "wash",    "wander",  "painted", "leading", "grains",  "gaps"};

static_assert(std::size(kUnits) == kTextureUnits && std::string_view(kUnits[kWanderUnit]) == "wander");

void setPlacing(const GlProgram& p, const char* name, const NearWindow::Placing& placing) {
    glUniform4f(at(p, name), placing.scale.x, placing.scale.y, placing.offset.x, placing.offset.y);
}

// Cosine and sine of the turn, and the offset.
glm::vec4 placeOf(const LayerLook& look) {
    const float turn = glm::radians(look.turn);
    return {std::cos(turn), std::sin(turn), look.offsetX, look.offsetZ};
}

void setLayers(const GlProgram& p, const GroundTextures& textures) {
    glm::vec4 look[kMaxLayers] = {}, place[kMaxLayers] = {}, mean[kMaxLayers] = {}, relief[kMaxLayers] = {},
              tint[kMaxLayers] = {}, far[kMaxLayers] = {};
    glm::uvec4 bits(0);
    float pairs[kMaxLayers * kMaxLayers] = {};
    const Level& l = textures.level();
    for (size_t i = 0; i < l.layers.size(); ++i) {
        const Layer& layer = l.layers[i];
        const LayerLook& k = layer.look;
        const MaterialMeans& m = textures.materials().means(i);
        look[i] = {static_cast<float>(1 / layer.tileSize), layer.blend, m.stored[3], layer.sides ? 1.f : 0.f};
        place[i] = placeOf(k);
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
        for (size_t n = 0; n < l.layers.size(); ++n) pairs[i * kMaxLayers + n] = blendBetween(l, layer, l.layers[n]);
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

void setGrain(const GlProgram& p, const Level& level) {
    const std::vector<Layer>& layers = level.layers;
    glm::vec4 place[kMaxLayers] = {};
    glm::vec3 repeats[kMaxLayers] = {};
    for (size_t i = 0; i < layers.size(); ++i) {
        const auto once = static_cast<float>(1 / layers[i].tileSize);
        place[i] = placeOf(layers[i].look);
        repeats[i] = {once, once / layers[i].look.farTimes, layers[i].look.farFrom};
    }
    glUniform4fv(at(p, "layerPlace"), kMaxLayers, &place[0].x);
    glUniform3fv(at(p, "layerGrain"), kMaxLayers, &repeats[0].x);
    glUniform1ui(at(p, "laidFlat"), laidFlat(level));
}

void setOverlay(const GlProgram& p, const View3& view, const Sight& sight) {
    const HeightSpan span = view.pyramid.whole();
    glUniform1f(at(p, "contourStep"), sight.contourStep);
    glUniform1i(at(p, "overlay"), static_cast<int>(sight.overlay));
    glUniform1f(at(p, "paintedThere"), view.textures.painted() ? 1.f : 0.f);
    glUniform4f(at(p, "overlayScale"), sight.walkable, sight.bandStep, span.low, std::max(span.high, span.low + 0.01f));
    glUniform1f(at(p, "curvatureFull"), curvatureScale(view.textures.level()));
    glUniform2f(at(p, "gridLook"), sight.grid ? sight.gridStep : 0, sight.mesh ? 1 : 0);
    glUniform3fv(at(p, "bandColours"), kBands, &bandColours()->x);
}

bool washedIn(const Level& level, const Region& ground) {
    const Region tiles = TiledGrid<Wash>::tilesOf(ground.clipped(level.bounds()));
    for (int tz = tiles.z0; tz < tiles.z1; ++tz)
        for (int tx = tiles.x0; tx < tiles.x1; ++tx)
            if (level.wash.tile(tx, tz)) return true;
    return false;
}

// Whether a layer may show its second scale in a patch.
bool secondScaleIn(const Level& level, const Patch& p, const LayerLook& look) {
    const double across = Patch::kQuads * p.step * level.spacing;
    return look.farTimes > 1 && p.nearest + 2 * across > look.farFrom;
}

}  // namespace

bool gapsIn(const GroundTextures& textures, const Region& ground) {
    return textures.gaps().texture() && mayHaveGaps(textures.level(), ground);
}

uint32_t laidFlat(const Level& level) {
    uint32_t flat = 0;
    for (size_t i = 0; i < level.layers.size(); ++i)
        if (!level.layers[i].sides) flat |= 1u << i;
    return flat;
}

unsigned grainFeaturesOf(const GroundTextures& textures, const Patch& p) {
    const Level& level = textures.level();
    unsigned f = kGrain;
    const bool steep = textures.steepIn(p.region().clipped(level.bounds()));
    for (const Layer& l : level.layers) {
        if (l.sides && steep) f |= kSides;
        if (secondScaleIn(level, p, l.look)) f |= kSecond;
        if (l.look.turn != 0 || l.look.offsetX != 0 || l.look.offsetZ != 0) f |= kExtra;
    }
    return f;
}

unsigned featuresOf(const GroundTextures& textures, const Patch& p, uint32_t layers, double liveMetres) {
    const Level& level = textures.level();
    unsigned f = kLive | (p.nearest < liveMetres * 0.5 ? kRelief : 0);
    const bool steep = textures.steepIn(p.region().clipped(level.bounds()));
    if (washedIn(level, p.region())) f |= kExtra;
    for (size_t i = 0; i < level.layers.size(); ++i) {
        if (!(layers >> i & 1)) continue;
        const Layer& l = level.layers[i];
        if (l.sides && steep) f |= kSides;
        if (l.look.tiling == Tiling::broken) f |= kPieces;
        if (secondScaleIn(level, p, l.look)) f |= kSecond;
        if (l.look.variation > 0 || textures.materials().means(i).shine) f |= kExtra;
        for (const BlendPair& pair : level.pairs)
            if (pair.one == l.id || pair.other == l.id) f |= kExtra;
    }
    return f;
}

void setView(const GlProgram& p, const View3& view) {
    const Level& level = view.textures.level();
    const glm::vec3 eye(view.camera.at);
    glUniformMatrix4fv(at(p, "viewProjection"), 1, GL_FALSE, glm::value_ptr(view.viewProjection));
    glUniform3fv(at(p, "camera"), 1, glm::value_ptr(eye));
    glUniform3f(at(p, "place"), static_cast<float>(level.originX), static_cast<float>(level.originZ),
                static_cast<float>(level.spacing));
    glUniform2i(at(p, "samples"), level.columns, level.rows);
    glUniform1f(at(p, "smoothEdges"), level.smoothEdges ? 1.f : 0.f);
    glUniform1f(at(p, "cliff"), level.cliff);
    glUniform1f(at(p, "finer"), -view.finer);
    const Region& gaps = view.textures.gaps().where();
    glUniform4i(at(p, "gapsAt"), gaps.x0, gaps.z0, gaps.width(), gaps.depth());
    for (int unit = 0; unit < static_cast<int>(std::size(kUnits)); ++unit) glUniform1i(at(p, kUnits[unit]), unit);
    const LitMap& lit = view.textures.litMap();
    const glm::vec2 texels(lit.width(), lit.depth());
    setPlacing(p, "onLitMap", {1.f / (texels * static_cast<float>(lit.stride())), 0.5f / texels});
    setPlacing(p, "onNear", view.textures.near().onGround());
    setPlacing(p, "onCover", view.textures.near().onCover());
}

void setLight(const GlProgram& p, const View3& view) {
    LightLook sun = view.textures.light();
    const Level& level = view.textures.level();
    const UnderWater& under = view.under;
    if (under.metres > 0) {
        // What lies far off is the water's own colour, the darker the deeper.
        const float lit = 1.5f * std::exp(-0.25f * under.deep / under.metres);
        for (int i = 0; i < 3; ++i)
            sun.haze[i] = lit * linearLight(under.colour[static_cast<size_t>(i)]) * (0.35f + sun.sky[i]);
        sun.zenith = sun.haze * 1.6f;
    }
    glUniform3fv(at(p, "towardsSun"), 1, glm::value_ptr(sun.towards));
    glUniform3fv(at(p, "sunColour"), 1, glm::value_ptr(sun.sun));
    glUniform3fv(at(p, "skyColour"), 1, glm::value_ptr(sun.sky));
    glUniform3fv(at(p, "hazeColour"), 1, glm::value_ptr(sun.haze));
    glUniform3f(at(p, "hazeShown"), static_cast<float>(finished(sun.haze.x)) / 255,
                static_cast<float>(finished(sun.haze.y)) / 255, static_cast<float>(finished(sun.haze.z)) / 255);
    glUniform3fv(at(p, "zenithColour"), 1, glm::value_ptr(sun.zenith));
    glUniform1f(at(p, "hazeMetres"), under.metres > 0
                                         ? under.metres
                                         : static_cast<float>(3500 + 1.5 * std::max(level.width(), level.depth())));
}

void drawSides(const GlProgram& p, const View3& view) {
    const Level& l = view.textures.level();
    const glm::dvec3& eye = view.camera.at;
    const bool seen[] = {eye.z<l.originZ, eye.x> l.originX + l.width(), eye.z > l.originZ + l.depth(),
                         eye.x < l.originX};
    for (int side = 0; side < 4; ++side) {
        if (!seen[side]) continue;
        const int last = side % 2 == 0 ? l.columns - 1 : l.rows - 1;
        const int stride = std::max(1, last / 2048);
        glUniform1i(at(p, "side"), side);
        glUniform1i(at(p, "stride"), stride);
        glDrawArrays(GL_TRIANGLE_STRIP, 0, 2 * ((last + stride - 1) / stride + 1));
    }
}

unsigned unitsOf(unsigned features) {
    const auto bits = [](std::initializer_list<std::string_view> names) {
        unsigned out = 0;
        for (size_t i = 0; i < kTextureUnits; ++i)
            for (const std::string_view n : names) out |= (n == kUnits[i]) << i;
        return out;
    };
    unsigned units = bits({"heights", "litMap"});
    if (features & kLive) units |= bits({"surface", "weights", "colours", "wander"});
    if (features & (kLive | kRelief)) units |= bits({"reliefs"});
    if (features & kLive && features & kExtra) units |= bits({"shines", "wash"});
    if (features & kGrain) units |= bits({"leading", "grains"});
    if (features & kOverlay) units |= bits({"painted"});
    if (features & kGaps) units |= bits({"gaps"});
    return units;
}

Status GroundPrograms::build(unsigned features) {
    const std::string light = shader_light_glsl;
    Result<GlProgram> p = makeProgram(light + shader_ground_vert,
                                      light + (features & kLive ? shader_lay_glsl : "") +
                                          (features & (kOverlay | kContours) ? shader_heights_glsl
                                           : features & kGaps                ? "uniform ivec2 samples;\n"
                                                                             : "") +
                                          (features & kGaps ? shader_gaps_glsl : "") +
                                          (features & kOverlay ? shader_overlay_glsl : "") + shader_ground_frag,
                                      definesOf(features));
    if (!p) return p.error();
    programs_[features] = p.take();
    return {};
}

Status GroundPrograms::build() {
    for (const unsigned features : {0u, kGaps, kGrain, kLive | kRelief, kLive | kRelief | kSides})
        if (Status s = build(features); !s) return s;
    return {};
}

const GlProgram& GroundPrograms::with(unsigned features) {
    if (!programs_.contains(features))
        if (const Status s = build(features); !s) {
            trouble_ = s.error();
            return programs_.at(0);
        }
    return programs_.at(features);
}

void GroundPrograms::use(unsigned features, const View3& view, const Sight& sight, double liveMetres) {
    const GlProgram& p = with(features);
    glUseProgram(p);
    setView(p, view);
    setLight(p, view);
    // What is stored of the ground's light is divided by the headroom.
    const LightLook& light = view.textures.light();
    const float headroom = headroomOf(view.textures.relief());
    const glm::vec3 sun = light.sun * headroom, sky = light.sky * headroom;
    glUniform3fv(at(p, "sunColour"), 1, glm::value_ptr(sun));
    glUniform3fv(at(p, "skyColour"), 1, glm::value_ptr(sky));
    const auto live = static_cast<float>(std::max(liveMetres, 1.0));
    // At rest layers hold some of it back up to where they end; without them it comes as much later.
    const float from = features & kLive ? 0.4f : 0.75f, to = features & kLive ? 0.9f : 1.0f;
    glUniform2f(at(p, "farGrainMetres"), from * live, to * live);
    if (features & kLive) {
        glUniform1f(at(p, "liveMetres"), static_cast<float>(liveMetres));
        setLayers(p, view.textures);
    }
    if (features & kGrain) {
        setGrain(p, view.textures.level());
        glUniform3f(at(p, "grainFade"), view.grain.most, view.grain.from, view.grain.to);
    }
    if (features & (kContours | kOverlay)) setOverlay(p, view, sight);
}

}  // namespace jam
