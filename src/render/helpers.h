// What others can take off drawing, so that a picture waits for nothing. Drawing does without any of them, and does so
// on graphics cards; software/ has one of each.
#pragma once

#include <memory>
#include <vector>

#include "grid/tile_set.h"
#include "patches.h"
#include "variant.h"

namespace jam {

// Compiles variants of the ground's shader ahead.
class ShaderHelper {
public:
    virtual ~ShaderHelper() = default;
    // Whether a variant is ready; when not, it is wanted from now on.
    virtual bool ready(const Variant& variant) = 0;
    // Wants a variant after all others.
    virtual void wantLater(const Variant& variant) = 0;
};

// What takeRoom() (gl.h) is told of a texture.
struct RoomWish {
    unsigned texture = 0, kind = 0;
    int width = 0, height = 0;
    int levels = 1, slices = 0;
    bool operator==(const RoomWish&) const = default;
};

// Takes room for large textures beside the window.
class RoomHelper {
public:
    virtual ~RoomHelper() = default;
    // Wants room for a texture. False when nobody takes any: the caller has to.
    virtual bool want(const RoomWish& wish) = 0;
    // Whether a texture waits for its room. Once it does not, it is to be bound anew.
    virtual bool waits(unsigned texture) = 0;
    // To be called before a texture goes: room is not wanted any more, nor being taken when this returns.
    virtual void forget(unsigned texture) = 0;
};

// What of a patch is drawn as one: quads each way inside of it, 1, 2 or 4, and along its sides (patch_mesh.h).
struct Joined {
    int quads = 1;
    Rims rims = kWholeRims;
};

// Says where fewer triangles do.
class MeshHelper {
public:
    virtual ~MeshHelper() = default;
    // Notes what changed of the ground: all of another size of level.
    virtual void follow(const Level& level, const TileSet& ground) = 0;
    // How much may be joined in patches that are drawn together, so that no vertex left out is seen farther than
    // `pixels` from the mesh. `metres` is the size of a pixel a metre away (Camera::metresPerPixel).
    // Preconditions: follow() was called for this level, and the patches are those of choosePatches().
    virtual std::vector<Joined> joined(const Level& level, const std::vector<Patch>& patches, double pixels,
                                       double metres) = 0;
};

struct Helpers {
    std::shared_ptr<ShaderHelper> shaders;
    std::shared_ptr<RoomHelper> room;
    std::shared_ptr<MeshHelper> mesh;
};

}  // namespace jam
