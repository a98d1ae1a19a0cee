#include "looks/layer_art.h"

#include <mutex>
#include <QCache>

#include "pictures/material.h"

namespace jam {

namespace {

constexpr int kMaterialSide = 128;

// What was made of pictures, the latest of it; it keeps the pictures, so that none of theirs is taken for another's.
template <class Key, class Made>
class Known {
public:
    explicit Known(int most) : made_(most) {}
    std::optional<Made> find(const Key& key) {
        const std::lock_guard lock(busy_);
        const Made* m = made_.object(key);
        return m ? std::optional(*m) : std::nullopt;
    }
    // make() may take a while, and others look meanwhile.
    template <class Make>
    Made of(const Key& key, Make make) {
        if (const auto known = find(key)) return *known;
        Made made = make();
        const std::lock_guard lock(busy_);
        made_.insert(key, new Made(made));
        return made;
    }

private:
    std::mutex busy_;
    QCache<Key, Made> made_;
};

struct MaterialKey {
    std::array<Picture, std::size(kLayerSlots)> pictures;
    bool flipGreen = false;
    bool operator==(const MaterialKey&) const = default;
};
size_t qHash(const MaterialKey& key, size_t seed) {
    size_t h = seed + key.flipGreen;
    for (const Picture& p : key.pictures) h = h * 31 + std::hash<Picture>()(p);
    return h;
}
struct ThumbnailKey {
    Picture picture;
    int pixels = 0;
    bool operator==(const ThumbnailKey&) const = default;
};
size_t qHash(const ThumbnailKey& key, size_t seed) {
    return seed + std::hash<Picture>()(key.picture) * 31 + static_cast<size_t>(key.pixels);
}

Known<ThumbnailKey, glm::vec3>& means() {
    static Known<ThumbnailKey, glm::vec3> all(64);
    return all;
}

}  // namespace

std::shared_ptr<const Material> materialOf(const Layer& layer) {
    static Known<MaterialKey, std::shared_ptr<const Material>> known(32);
    MaterialKey key{{}, layer.look.flipGreen};
    for (size_t i = 0; i < std::size(kLayerSlots); ++i) key.pictures[i] = layer.*kLayerSlots[i].picture;
    return known.of(key, [&] {
        Result<Material> made = makeMaterial(layer, kMaterialSide);
        return made ? std::make_shared<const Material>(made.take()) : nullptr;
    });
}

// Part of a layer's colour; a QImage, since only the interface thread may have pixmaps.
static QImage thumbnailOf(const Picture& colour) {
    static Known<ThumbnailKey, QImage> known(64);
    return known.of({colour, 0}, [&] {
        const QImage image = QImage::fromData(colour->bytes.data(), static_cast<int>(colour->bytes.size()));
        const int part = std::min({image.width(), image.height(), 300});
        return image.copy(0, 0, part, part);
    });
}

void prepareThumbnails(const std::vector<Layer>& layers) {
    for (const Layer& l : layers) static_cast<void>(thumbnailOf(l.colour));
}

QPixmap layerThumbnail(const Layer& layer, int size, qreal ratio) {
    static Known<ThumbnailKey, QPixmap> known(200);
    const int pixels = static_cast<int>(size * ratio);
    return known.of({layer.colour, pixels}, [&] {
        QPixmap pixmap = QPixmap::fromImage(
            thumbnailOf(layer.colour).scaled(pixels, pixels, Qt::IgnoreAspectRatio, Qt::SmoothTransformation));
        pixmap.setDevicePixelRatio(ratio);
        return pixmap;
    });
}

std::optional<glm::vec3> knownMeanColour(const Layer& layer) { return means().find({layer.colour, 0}); }

glm::vec3 meanColour(const Layer& layer) {
    return means().of({layer.colour, 0}, [&] {
        Layer colourOnly;
        colourOnly.colour = layer.colour;
        const Result<Material> m = makeMaterial(colourOnly, 32);
        if (!m) return glm::vec3(0.5f);
        const auto& mean = m.value().meanColour;
        return glm::vec3(mean[0], mean[1], mean[2]);
    });
}

}  // namespace jam
