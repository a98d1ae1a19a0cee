// What carries a body at a place: ground, water, nothing. Keeps what it has looked up, so that a body may ask hundreds
// of times a second.
#pragma once

#include <limits>
#include <memory>
#include <vector>

#include "level/level.h"

namespace jam {

// What lies under a place.
struct Under {
    bool land = false;             // there is ground; without it nothing else counts
    double ground = 0;             // metres: on exactly the triangles that are drawn (level/ground.h)
    double east = 0, south = 0;    // metres that the triangle rises for each metre east and south
    double surface = -kDryMetres;  // metres: of the water, far below the ground where it is dry
    uint32_t body = 0;             // the pool or stream, 0 for none

    static constexpr double kDryMetres = 1e30;
    double depth() const { return body ? surface - ground : 0; }
    bool steeper(double tangent) const { return east * east + south * south > tangent * tangent; }
};

class Footing {
public:
    // The level must live as long, unchanged.
    explicit Footing(const Level& level);
    ~Footing();
    Footing(const Footing&) = delete;
    Footing& operator=(const Footing&) = delete;

    const Level& level() const { return level_; }
    Under under(double x, double z);
    // Where the water of a stream runs there: metres a second east and south.
    std::array<double, 2> flow(double x, double z, uint32_t body);

private:
    struct Block;
    struct Brook;
    const Block& block(int tx, int tz);

    const Level& level_;
    bool gaps_;
    int across_;
    std::vector<std::unique_ptr<Block>> blocks_;
    std::vector<std::unique_ptr<Brook>> brooks_;
};

}  // namespace jam
