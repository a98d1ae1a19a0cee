#include "looks/layer_art.h"

#include <map>
#include <mutex>

#include "pictures/material.h"

namespace jam {

namespace {
constexpr int kMaterialSide = 128;

std::mutex meansBusy;
std::map<Picture, glm::vec3> means;

}  // namespace

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

// Part of a layer's colour; a QImage, since only the interface thread may have pixmaps.
static QImage thumbnailOf(const Picture& colour) {
    static std::mutex busy;
    static std::map<Picture, QImage> known;
    {
        const std::lock_guard lock(busy);
        if (const auto at = known.find(colour); at != known.end()) return at->second;
    }
    QImage image = QImage::fromData(colour->bytes.data(), static_cast<int>(colour->bytes.size()));
    const int part = std::min({image.width(), image.height(), 300});
    image = image.copy(0, 0, part, part);
    const std::lock_guard lock(busy);
    if (known.size() > 64) known.clear();
    return known[colour] = image;
}

void prepareThumbnails(const std::vector<Layer>& layers) {
    for (const Layer& l : layers) static_cast<void>(thumbnailOf(l.colour));
}

QPixmap layerThumbnail(const Layer& layer, int size, qreal ratio) {
    static std::map<std::pair<Picture, int>, QPixmap> known;
    const int pixels = static_cast<int>(size * ratio);
    const auto key = std::make_pair(layer.colour, pixels);
    if (const auto at = known.find(key); at != known.end()) return at->second;
    if (known.size() > 200) known.clear();
    QPixmap pixmap = QPixmap::fromImage(
        thumbnailOf(layer.colour).scaled(pixels, pixels, Qt::IgnoreAspectRatio, Qt::SmoothTransformation));
    pixmap.setDevicePixelRatio(ratio);
    return known[key] = pixmap;
}

std::optional<glm::vec3> knownMeanColour(const Layer& layer) {
    const std::lock_guard lock(meansBusy);
    const auto at = means.find(layer.colour);
    return at == means.end() ? std::nullopt : std::optional(at->second);
}

glm::vec3 meanColour(const Layer& layer) {
    if (const auto known = knownMeanColour(layer)) return *known;
    Layer colourOnly;
    colourOnly.colour = layer.colour;
    const Result<Material> m = makeMaterial(colourOnly, 32);
    const glm::vec3 mean = m ? glm::vec3(m.value().meanColour[0], m.value().meanColour[1], m.value().meanColour[2])
                             : glm::vec3(0.5f);
    const std::lock_guard lock(meansBusy);
    if (means.size() > 64) means.clear();
    return means[layer.colour] = mean;
}

}  // namespace jam
