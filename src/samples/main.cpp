// jamhill-samples FOLDER: makes the sample layers, tips, brushes and the demo level there.
#include <cstdio>

#include "damson_down.h"
#include "files/layer_set.h"
#include "files/level_file.h"
#include "sample_brushes.h"
#include "sample_layers.h"
#include "sloe_quarry.h"
#include "stonework.h"

using namespace jam;

namespace {

Status makeAll(const std::filesystem::path& folder) {
    if (Status s = samples::makeSampleLayers(folder / "layers"); !s) return s;
    if (Status s = samples::makeSampleBrushes(folder); !s) return s;
    Result<std::vector<Layer>> layers = readLayerSet(folder / "layers");
    if (!layers) return layers.error();
    const Result<Level> wall = samples::makeWallSegment(layers.value());
    if (!wall) return wall.error();
    std::filesystem::create_directories(folder / "clips");
    if (Status s = saveLevel(wall.value(), folder / "clips" / "dry-stone-wall.jamhill"); !s) return s;
    if (Status s = samples::saveClipPicture(wall.value(), folder / "clips" / "dry-stone-wall.png"); !s) return s;
    Result<Level> level = samples::makeDamsonDown(layers.value(), wall.value());
    if (!level) return level.error();
    std::filesystem::create_directories(folder / "demo");
    if (Status s = saveLevel(level.value(), folder / "demo" / "damson-down.jamhill"); !s) return s;
    level = samples::makeSloeQuarry(layers.value());
    if (!level) return level.error();
    return saveLevel(level.value(), folder / "demo" / "sloe-quarry.jamhill");
}

}  // namespace

int main(int count, char** words) {
    if (count != 2) {
        std::fprintf(stderr, "usage: jamhill-samples FOLDER\n");
        return 2;
    }
    const Status s = makeAll(words[1]);
    if (!s) std::fprintf(stderr, "%s\n", s.error().sentence().c_str());
    return s ? 0 : 1;
}
