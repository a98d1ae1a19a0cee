// One copy in memory of a picture that several layers and levels have, such as the layers that come with the program:
// what is worked out from a picture is found again by its address.
#pragma once

#include "level/layer.h"

namespace jam {

// The picture of this name and these bytes that a layer somewhere still has and that went through sharedPicture(), so
// that it need not be looked at again; null when there is none. Threads: any.
Picture knownPicture(const PictureFile& file);
// The same, and a new one when there is none.
Picture sharedPicture(PictureFile file);

}  // namespace jam
