// What stands on a level: where its kinds' densities, the pattern and what they keep off let plantings be, and singles.
#pragma once

#include <map>
#include <memory>
#include <vector>

#include "base/context.h"
#include "course/legs.h"
#include "level/changes.h"

namespace jam {

struct Planting {
    uint64_t place = 0;          // its name in the pattern (Kind::gone), 0 for a single
    uint32_t single = 0;         // id of the single, 0 for none
    double x = 0, z = 0;         // metres
    float y = 0;                 // metres: where the foot of its mesh lies, sunk as its kind says
    float size = 1;              // times its mesh
    float turn = 0;              // degrees clockwise from north
    float lean = 0, leanTo = 0;  // degrees off the upright, and to where
    uint8_t variant = 0;
    std::array<float, 3> tint{1, 1, 1};

    bool operator==(const Planting&) const = default;
};

// One of those that stand, and of which kind, by its id.
struct OneStanding {
    uint32_t kind = 0;
    Planting planting;

    // Whether it is the same one, however it stands.
    bool is(const OneStanding& o) const {
        return kind == o.kind && planting.single == o.planting.single && planting.place == o.planting.place;
    }
    bool operator==(const OneStanding&) const = default;
};

// Keeps what it worked out, by tiles of the ground. One thread at a time, but for prepare(), which uses several.
//
// A place of the pattern is taken while its rank is below the density there (Kind::coverage, between its samples), and
// nothing keeps it off. What keeps it off never looks at the kind's own density: another place of the pattern within
// `apart` that has a lower rank does, whether that is taken or not. So raising a density adds, and moves nothing.
class Plantings {
public:
    explicit Plantings(Level level) : level_(std::move(level)) {}

    const Level& level() const { return level_; }
    // Goes on from another level: forgets the tiles in which something may stand otherwise, and returns them.
    TileSet follow(const Level& now, const Change& change);

    // What stands of a kind (by its place in the list) in a tile of the ground: where x and z lie in it, its west and
    // north side included. In the order of the pattern, then singles by ids.
    const std::vector<Planting>& tile(size_t kind, int tx, int tz);
    // The same of a tile that is worked out already, to be kept; null when it is not.
    std::shared_ptr<const std::vector<Planting>> known(size_t kind, int tx, int tz) const;
    // How many stand within a circle, of what is worked out already.
    long long knownWithin(size_t kind, double x, double z, double radius) const;
    // Works out all tiles of all kinds that touch a region of the ground, on several threads; false when cancelled.
    // With `wanted`, of those kinds alone, and of those that they keep off.
    bool prepare(const Region& ground, const Context& context = {}, bool (*wanted)(const Kind&) = nullptr);

    // Whether a place, in a tile that was prepared or asked for, lies less than some metres from the even part of a
    // course that is seen: of one, or of any for 0.
    bool byCourse(int tx, int tz, double x, double z, double metres, uint32_t course = 0);

    int tilesAcross() const { return (level_.columns + kTile - 1) / kTile; }
    int tilesDown() const { return (level_.rows + kTile - 1) / kTile; }

    static constexpr int kTile = TiledGrid<float>::kTile;

private:
    // A course that is seen, and its legs by tiles of the ground, as far as kinds keep off it.
    struct Line {
        uint32_t course = 0;
        double half = 0;  // metres from its middle to the end of its even part, at most
        std::vector<LinePoint> points;
        std::unique_ptr<const LegsBy> legs;
    };
    using Tile = std::shared_ptr<const std::vector<Planting>>;

    size_t at(int tx, int tz) const {
        return static_cast<size_t>(tz) * static_cast<size_t>(tilesAcross()) + static_cast<size_t>(tx);
    }
    std::vector<Tile>& tilesOf(size_t kind);  // makes room for them, and knows the kind's height
    std::vector<Planting> make(size_t kind, int tx, int tz);
    const std::vector<Line>& lines();

    Level level_;
    std::vector<std::vector<Tile>> tiles_;  // by kinds; null where not worked out
    std::vector<float> heights_;            // by kinds: metres from foot to top, of those that sink by a share of it
    std::shared_ptr<const std::vector<Line>> lines_;

    friend class TileWork;
};

// By the order of kinds: those that are wanted, and those that they keep off, without which nobody knows where they
// stand.
std::vector<bool> withThoseKeptOff(const Level& level, bool (*wanted)(const Kind&));

// Metres round a place from which one in a row along a contour may come, and at which it looks.
inline double contourReach(const Kind& kind) {
    return kind.rows == Rows::contour ? 4 * static_cast<double>(kind.inRow) : 0;
}
// Metres round a place at which a kind looks.
double kindReach(const Level& level, const Kind& kind);

// How it is turned and leans, as a quaternion x, y, z, w that takes its mesh to the world.
std::array<float, 4> quaternionOf(const Planting& planting);

// One planting that is not there as such: what a single gives on this ground.
Planting standing(const Level& level, const Kind& kind, const Single& single);

}  // namespace jam
