// Layers made of picture files of any usual kind.
#pragma once

#include <array>
#include <QString>
#include <QStringList>

#include "base/context.h"
#include "level/layer.h"
#include "pictures/seam.h"

namespace jam {

// What a file dialog shows, and whether a path ends like one of them.
extern const char* const kPictureFilter;
bool namesPicture(const QString& path);

QStringList picturesIn(const QString& folder);

// Any kind of picture that Qt, libpng or OpenEXR reads, with 1 or 3 channels of 8 bits, or as a PNG has it. `light`: it
// is colour; otherwise its numbers mean something else and are taken as they are. Errors: unreadable, or larger than
// kLargestTexture along a side.
Result<Pixels> readPicture(const QString& path, bool light);

// Where a map of a layer comes from.
struct MapSource {
    Picture present;  // as it is
    QString file;     // or from here

    bool any() const { return present || !file.isEmpty(); }
    bool operator==(const MapSource&) const = default;
};

// A layer as it is wished for: its pictures and what is done to them.
struct LayerWish {
    Layer base;  // name, tile size and look
    std::array<MapSource, std::size(kLayerSlots)> maps;
    bool gloss = false;     // the roughness is white where it shines
    bool seamless = false;  // made so
    float even = 0;         // how far slow changes of brightness are taken out, [0, 1]
};

// Reads and works over the pictures; the files stay as they are. Pictures larger than `most` along a side are made
// smaller first, for a quick look. Untouched PNG files stay byte for byte.
// Errors: no colour, trouble with a picture; cancelled.
Result<Layer> buildLayer(const LayerWish& wish, int most, const Context& context = {});

// What the names of the files say, set by set.
std::vector<LayerWish> wishesFor(const QStringList& files);

}  // namespace jam
