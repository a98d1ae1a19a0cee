// Pictures of layers that many parts of the window show. They are remembered, because decoding is slow; for the
// interface thread.
#pragma once

#include <memory>
#include <QPixmap>

#include "cover/material.h"
#include "level/layer.h"

namespace jam {

// The decoded pictures of a layer; null when one does not decode.
std::shared_ptr<const Material> materialOf(const Layer& layer);
// Small square picture of a layer's colour.
QPixmap layerThumbnail(const Layer& layer, int size, qreal ratio);

}  // namespace jam
