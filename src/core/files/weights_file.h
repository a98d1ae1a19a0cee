// Layer weights from pictures: RGBA sets or one picture a layer, 8 or 16 bits, channels in any order.
#pragma once

#include <filesystem>

#include "base/context.h"
#include "level/level.h"

namespace jam {

// One channel of a picture and the layer that it weighs.
struct WeightChannel {
    std::filesystem::path file;
    int channel = 0;     // 0 red or grey, 1 green, 2 blue, 3 alpha
    uint32_t layer = 0;  // id

    bool operator==(const WeightChannel&) const = default;
};

// What the channels of the files most likely mean: a file whose name holds a layer's name, written as in exports,
// weighs that layer; the channels of the others go to the layers that are left, in their order. `order` says which
// channel of a picture comes first. Errors: a file that is no PNG; an order that is not one of R, G, B and A.
Result<std::vector<WeightChannel>> guessWeightChannels(const Level& level,
                                                       const std::vector<std::filesystem::path>& files,
                                                       const std::string& order = "RGBA");
Status checkChannelOrder(const std::string& order);

// A copy of the level that shows these weights. Layers that no channel names weigh nothing; rules no longer look after
// any layer. Weights of 8 bits that sum to 255 come out bit for bit; others are brought to that sum in proportion, what
// rounding leaves going to those that lost most; where all are 0 the first named layer shows. Errors: a file that is no
// PNG, has not the cover's size or not the channel; no or a layer twice; cancelled.
Result<Level> importWeights(const Level& level, const std::vector<WeightChannel>& channels,
                            const Context& context = {});

// "Dry-stone wall" -> "dry-stone-wall": a layer's name as it stands in the names of exported files.
std::string plainName(const std::string& name);

}  // namespace jam
