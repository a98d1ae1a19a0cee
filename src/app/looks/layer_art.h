// Pictures of layers that many parts of the window show. They are remembered, because decoding is slow; for the
// interface thread, unless said.
#pragma once

#include <glm/vec3.hpp>
#include <memory>
#include <optional>
#include <QPixmap>

#include "cover/material.h"
#include "level/layer.h"

namespace jam {

// The decoded pictures of a layer; null when one does not decode.
std::shared_ptr<const Material> materialOf(const Layer& layer);
// Decodes what layerThumbnail() needs of these layers. Any thread.
void prepareThumbnails(const std::vector<Layer>& layers);
// Small square picture of a layer's colour.
QPixmap layerThumbnail(const Layer& layer, int size, qreal ratio);

// Linear mean of a layer's picture, untinted. Any thread; decodes the picture when it is met for the first time.
glm::vec3 meanColour(const Layer& layer);
// The same without decoding: none while nobody has asked for it.
std::optional<glm::vec3> knownMeanColour(const Layer& layer);

}  // namespace jam
