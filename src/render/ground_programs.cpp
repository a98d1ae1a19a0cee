#include "ground_programs.h"

#include <cmath>
#include <glm/trigonometric.hpp>
#include <glm/vec4.hpp>

#include "cover/lay.h"
#include "level/opening.h"
#include "overlay_colours.h"
#include "shaders.h"

namespace jam {

namespace {

constexpr struct {
    unsigned feature;
    const char* name;
} kFeatureNames[] = {{kContours, "CONTOURS"}, {kOverlay, "OVERLAY"}, {kLive, "LIVE"},     {kRelief, "RELIEF"},
                     {kSides, "SIDES"},       {kPieces, "PIECES"},   {kSecond, "SECOND"}, {kExtra, "EXTRA"},
                     {kGrain, "GRAIN"},       {kGaps, "GAPS"}};

std::string definesOf(unsigned features) {
    std::string d;
    for (const auto& [feature, name] : kFeatureNames)
        if (features & feature) d += std::string("#define ") + name + "\n";
    return d;
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

void setOverlay(const GlProgram& p, const SceneView& view) {
    const Sight& sight = view.sight;
    const HeightSpan span = view.pyramid.whole();
    glUniform1f(at(p, "contourStep"), sight.contourStep);
    glUniform1i(at(p, "overlay"), static_cast<int>(sight.overlay));
    glUniform1f(at(p, "paintedThere"), view.textures.painted() ? 1.f : 0.f);
    glUniform4f(at(p, "overlayScale"), sight.walkable, sight.bandStep, span.low, std::max(span.high, span.low + 0.01f));
    glUniform1f(at(p, "curvatureFull"), curvatureScale(view.textures.level()));
    glUniform2f(at(p, "gridLook"), sight.grid ? sight.gridStep : 0, sight.mesh ? 1 : 0);
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

unsigned unitsOf(unsigned features) {
    unsigned units = 0;
    for (size_t i = 0; i < kTextureUnits; ++i) units |= static_cast<unsigned>(kGroundUnits[i].readWith(features)) << i;
    return units;
}

Status GroundPrograms::build(unsigned features) {
    const std::string fragment =
        std::string(features & kLive ? shader_lay_glsl : "") +
        (features & (kOverlay | kContours) ? shader_heights_glsl : "") + (features & kGaps ? shader_gaps_glsl : "") +
        (features & kOverlay ? overlayConstants() + shader_overlay_glsl : "") + shader_ground_frag;
    Result<GlProgram> p = makeSceneProgram(shader_ground_vert, fragment, definesOf(features));
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

void GroundPrograms::use(unsigned features, const SceneView& view, double liveMetres) {
    const GlProgram& p = with(features);
    glUseProgram(p);
    if (features & kLive) {
        glUniform1f(at(p, "liveMetres"), static_cast<float>(liveMetres));
        setLayers(p, view.textures);
    }
    if (features & kGrain) {
        setGrain(p, view.textures.level());
        const GrainFade grain = view.quality.grain.value_or(kMovingGrain);
        glUniform3f(at(p, "grainFade"), grain.most, grain.from, grain.to);
    }
    if (features & (kContours | kOverlay)) setOverlay(p, view);
}

}  // namespace jam
