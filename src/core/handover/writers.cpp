#include "handover/writer.h"

namespace jam {

extern const Writer heightmapWriter, asciiGridWriter, groundMaskWriter, waterWriter, weightsWriter, layerPicturesWriter,
    plantingsWriter;

const std::vector<const Writer*>& writers() {
    static const std::vector<const Writer*> all = {&heightmapWriter, &asciiGridWriter, &groundMaskWriter,
                                                   &waterWriter,     &weightsWriter,   &layerPicturesWriter,
                                                   &plantingsWriter};
    return all;
}

}  // namespace jam
