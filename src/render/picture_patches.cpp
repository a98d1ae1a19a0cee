#include "picture_patches.h"

#include <algorithm>
#include <tuple>

namespace jam {

namespace {

// Whether any of a patch can lie inside a piece of the picture.
bool touches(const SceneView& view, const Patch& p, const PixelRect& piece) {
    const Level& level = view.textures.level();
    const Region r = p.region().clipped(level.bounds());
    return pixelsOf(level, r, view.pyramid.spanOf(r), view.camera).meets(piece);
}

}  // namespace

double liveMetres(const GroundTextures& textures, const Sight& sight) {
    if (sight.relief.oneTone) return 0;
    return std::min<double>(sight.liveMetres, textures.near().reach());
}

bool PicturePatches::gaps() const {
    return std::any_of(packed_.begin(), packed_.end(), [](const Packed& p) { return p.features & kGaps; });
}

// A patch as the shader takes it, and what that needs to be compiled with.
PicturePatches::Packed PicturePatches::pack(const SceneView& view, const Patch& p) {
    const Sight& sight = view.sight;
    const Quality& quality = view.quality;
    const GroundTextures& textures = view.textures;
    Packed out{0, 1, {}};
    PatchMesh::Instance& i = out.instance;
    i.column = static_cast<float>(p.column), i.row = static_cast<float>(p.row);
    i.step = static_cast<float>(p.step), i.morphEnd = p.morphEnd;
    const double metres = liveMetres(textures, sight);
    const Region r = p.region().clipped(textures.level().bounds());
    if (gapsIn(textures, r)) out.features = kGaps;
    if (p.nearest >= (quality.full() ? metres : std::min<double>(metres, quality.grain->to))) return out;
    if (!textures.live(r)) {
        complete_ = false;
        return out;
    }
    if (!quality.full()) {
        // Overlays are to be read, and would not be through the grain.
        if ((sight.overlay == Overlay::none || sight.overlay == Overlay::depth) && !sight.relief.oneTone)
            out.features |= grainFeaturesOf(textures, p);
        return out;
    }
    const uint32_t layers = textures.layersIn(r);
    for (uint32_t id = 0; id < kMaxLayers; ++id)
        if (layers >> id & 1) {
            (i.count < 8 ? i.firstLayers : i.nextLayers) |= id << (4 * (i.count % 8));
            ++i.count;
        }
    out.features |= featuresOf(textures, p, layers, metres);
    return out;
}

void PicturePatches::choose(const SceneView& view, const PixelRect* only, MeshHelper* helper) {
    const Level& level = view.textures.level();
    const Camera& camera = view.camera;
    choosePatches(level, view.pyramid, camera, finestReach(level, camera, view.sight.quadPixels), patches_);
    if (only) std::erase_if(patches_, [&](const Patch& p) { return !touches(view, p, *only); });
    packed_.clear();
    complete_ = true;
    for (const Patch& p : patches_) packed_.push_back(pack(view, p));
    triangles_ = static_cast<int>(packed_.size()) * PatchMesh::triangles(1);
    if (helper && view.quality.strayPixels > 0) {
        const std::vector<Joined> joined = helper->joined(level, patches_, view.quality.strayPixels,
                                                          camera.metresPerPixel(1));
        triangles_ = 0;
        for (size_t i = 0; i < joined.size(); ++i) {
            packed_[i].joined = joined[i].quads;
            packed_[i].instance.rims = PatchMesh::packed(joined[i].rims);
            triangles_ += PatchMesh::triangles(joined[i].quads, joined[i].rims);
        }
    }
    // Near to far within each kind, so that what is hidden is not shaded.
    std::stable_sort(packed_.begin(), packed_.end(), [](const Packed& a, const Packed& b) {
        return std::tie(b.features, a.joined) < std::tie(a.features, b.joined);
    });
}

}  // namespace jam
