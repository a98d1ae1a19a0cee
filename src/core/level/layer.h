// A layer: a ground texture, how it looks, and where it lies.
#pragma once

#include <array>
#include <cstdint>
#include <memory>
#include <string>
#include <vector>

#include "level/ruled.h"

namespace jam {

constexpr int kMaxLayers = 16;
constexpr uint16_t kFullCover = 65535;
constexpr double kMinTile = 0.05, kMaxTile = 1000;  // metres

// An encoded picture exactly as it came; it never changes once made.
struct PictureFile {
    std::string name;            // file name without folders, "colour.png"
    std::vector<uint8_t> bytes;  // PNG

    bool operator==(const PictureFile&) const = default;
};
using Picture = std::shared_ptr<const PictureFile>;

// How a layer's pictures repeat: one after the other, or as pieces taken from random places and blended so that their
// contrast is kept (cover/lay.h).
enum class Tiling { plain, broken };

// How a layer's pictures are laid and coloured. All of it can change at any time; coverage stays.
struct LayerLook {
    float turn = 0;                  // degrees clockwise seen from above, [-180, 180]
    float offsetX = 0, offsetZ = 0;  // metres, [-1000, 1000]
    Tiling tiling = Tiling::plain;
    float farTimes = 1;   // a second scale, so many times larger, takes over with distance; 1 for none, [1, 32]
    float farFrom = 40;   // metres from the eye where it begins; at twice as many it is alone, [1, 2000]
    float variation = 0;  // share by which brightness wanders over tens of metres, [0, 1]
    std::array<float, 3> tint{1, 1, 1};  // factors of the sRGB channels, [0, 1]
    float brightness = 1;                // factor of the light it gives back, [0.1, 4]
    float relief = 1;                    // factor of the normal map's slopes, [0, 4]
    bool flipGreen = false;              // the normal map's green runs down the picture instead of up
    float wash = 1;                      // how strongly painted colour shows on it, [0, 1]

    bool operator==(const LayerLook&) const = default;
};

// Its coverage is of kFullCover; the first layer covers everything, whatever that says.
struct Layer : Ruled {
    uint32_t id = 0;
    std::string name;
    double tileSize = 4;  // metres that one repeat of the pictures spans, [kMinTile, kMaxTile]
    float blend = 0.6f;   // 0: edges fade like mist, 1: the layers' own heights decide, [0, 1]
    bool hidden = false;
    bool sides = true;  // steep ground takes its pictures from three sides, so that they do not stretch
    LayerLook look;
    Picture colour;                // always there
    Picture normal, height;        // may be null; then derived from the colour
    Picture roughness, occlusion;  // may be null: 0.9, and open to all light
    Picture specular, metalness;   // may be null: 0.5 (4 % of the light is mirrored), and none

    bool operator==(const Layer&) const;
};

// The pictures that a layer may have, by the names they have in files.
struct LayerSlot {
    const char* name;
    Picture Layer::*picture;
};
constexpr LayerSlot kLayerSlots[] = {{"colour", &Layer::colour},       {"normal", &Layer::normal},
                                     {"roughness", &Layer::roughness}, {"height", &Layer::height},
                                     {"occlusion", &Layer::occlusion}, {"specular", &Layer::specular},
                                     {"metalness", &Layer::metalness}};

bool samePictures(const Layer& a, const Layer& b);

}  // namespace jam
