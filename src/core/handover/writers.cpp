#include "handover/writer.h"

namespace jam {

extern const Writer heightmapWriter, groundMaskWriter, waterWriter, weightsWriter, layerPicturesWriter;

const std::vector<const Writer*>& writers() {
    static const std::vector<const Writer*> all = {&heightmapWriter, &groundMaskWriter, &waterWriter, &weightsWriter,
                                                   &layerPicturesWriter};
    return all;
}

}  // namespace jam
