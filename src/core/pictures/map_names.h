// Which map of a layer a picture is, told by the ending of its file name.
#pragma once

#include <string>
#include <vector>

#include "level/layer.h"

namespace jam {

struct MapName {
    int slot = -1;           // index into kLayerSlots; -1 when the name does not say
    bool flipGreen = false;  // a normal map whose green runs down
    bool gloss = false;      // a roughness map that is white where it shines: to be inverted
    std::string base;        // what the maps of one set have in common, "gravel_02"
};

// "gravel_02_Normal-DX.png" -> slot of "normal", flipGreen, base "gravel_02". Upper and lower case, and -, _, . and
// spaces between words count alike; sizes such as 2k and 1024 are passed over.
MapName mapNameOf(const std::string& fileName);

// Sets of maps among the files, by their common name; in each, one file at most for a slot (the first by name). A file
// whose name does not say is the colour of a set of its own, or of the set of its name when that has none.
struct MapSet {
    std::string name;
    std::string files[std::size(kLayerSlots)];  // empty where there is none
    bool flipGreen = false, gloss = false;
};
std::vector<MapSet> mapSetsOf(std::vector<std::string> fileNames);

}  // namespace jam
