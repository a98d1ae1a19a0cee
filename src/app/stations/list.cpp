#include "stations/cover/cover_station.h"
#include "stations/dress/dress_station.h"
#include "stations/hand_over/hand_over_station.h"
#include "stations/lay_out/lay_out_station.h"
#include "stations/light/light_station.h"
#include "stations/shape/shape_station.h"
#include "stations/walk/walk_station.h"
#include "stations/water/water_station.h"

namespace jam {

std::vector<std::unique_ptr<Station>> makeStations(House& house) {
    std::vector<std::unique_ptr<Station>> all;
    all.push_back(std::make_unique<LayOutStation>(house));
    all.push_back(std::make_unique<ShapeStation>(house));
    all.push_back(std::make_unique<CoverStation>(house));
    all.push_back(std::make_unique<WaterStation>(house));
    all.push_back(std::make_unique<DressStation>(house));
    all.push_back(std::make_unique<LightStation>(house));
    all.push_back(std::make_unique<WalkStation>(house));
    all.push_back(std::make_unique<HandOverStation>(house));
    return all;
}

}  // namespace jam
