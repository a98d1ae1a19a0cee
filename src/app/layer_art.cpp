#include "layer_art.h"

#include <map>

#include "pictures/material.h"

namespace jam {

namespace {
constexpr int kMaterialSide = 128;
}

std::shared_ptr<const Material> materialOf(const Layer& layer) {
    using Key = std::array<Picture, std::size(kLayerSlots)>;
    static std::map<std::pair<Key, bool>, std::shared_ptr<const Material>> known;
    std::pair<Key, bool> key{{}, layer.look.flipGreen};
    for (size_t i = 0; i < std::size(kLayerSlots); ++i) key.first[i] = layer.*kLayerSlots[i].picture;
    if (const auto at = known.find(key); at != known.end()) return at->second;
    if (known.size() > 32) known.clear();
    Result<Material> made = makeMaterial(layer, kMaterialSide);
    return known[key] = made ? std::make_shared<const Material>(made.take()) : nullptr;
}

QPixmap layerThumbnail(const Layer& layer, int size, qreal ratio) {
    static std::map<std::pair<Picture, int>, QPixmap> known;
    const int pixels = static_cast<int>(size * ratio);
    const auto key = std::make_pair(layer.colour, pixels);
    if (const auto at = known.find(key); at != known.end()) return at->second;
    if (known.size() > 200) known.clear();
    QImage image = QImage::fromData(layer.colour->bytes.data(), static_cast<int>(layer.colour->bytes.size()));
    const int part = std::min({image.width(), image.height(), 300});
    image = image.copy(0, 0, part, part).scaled(pixels, pixels, Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
    QPixmap pixmap = QPixmap::fromImage(image);
    pixmap.setDevicePixelRatio(ratio);
    return known[key] = pixmap;
}

}  // namespace jam
