// What carries a body at a place: ground, water, the top of what stands there, nothing; and what bars its way. Keeps
// what it has looked up, so that a body may ask hundreds of times a second.
#pragma once

#include <limits>
#include <memory>
#include <vector>

#include "level/level.h"
#include "walk/solids.h"

namespace jam {

// What lies under a place.
struct Under {
    bool land = false;             // there is ground; without it nothing else counts
    double ground = 0;             // metres: on exactly the triangles that are drawn (level/ground.h), or on a top
    double east = 0, south = 0;    // metres that it rises for each metre east and south
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
    // `climb`: the altitude up to which the body gets on to what stands there.
    Under under(double x, double z, double climb = -1e30);
    // How far a body of some girth at a place is inside of what bars it between two altitudes: metres, more than 0
    // where it is; and the direction on the map that leads out of it.
    struct Barred {
        double by = 0, east = 0, south = 0;
    };
    Barred barred(double x, double z, double girth, double climb, double head);
    // Where the water of a stream runs there: metres a second east and south.
    std::array<double, 2> flow(double x, double z, uint32_t body);

private:
    struct Block;
    struct Brook;
    const Block& block(int tx, int tz);
    Under onGround(double x, double z);

    const Level& level_;
    bool gaps_;
    int across_;
    std::vector<std::unique_ptr<Block>> blocks_;
    std::vector<std::unique_ptr<Brook>> brooks_;
    Solids solids_;
};

}  // namespace jam
