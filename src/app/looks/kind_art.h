// Pictures of kinds: drawn from their meshes by hand, so that they need no OpenGL.
#pragma once

#include <QPixmap>

#include "level/kind.h"

namespace jam {

// A kind of this size (logical pixels) and device ratio, seen from a little above, turned so many degrees. Remembered
// for as long as some others are not asked for; not when it is turned.
QPixmap kindPicture(const Kind& kind, const QSize& size, qreal ratio, double turned = 25, int variant = -1);

}  // namespace jam
