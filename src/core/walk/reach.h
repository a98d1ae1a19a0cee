// Where a body can get to, from every spot: on foot, by steps, jumps and drops, and by swimming. Down is not up.
#pragma once

#include <algorithm>
#include <array>
#include <cstdint>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "base/context.h"
#include "grid/view.h"
#include "level/level.h"

namespace jam {

// What a sample is for those who begin at the start (at all spots of the kind "start"; without one, at the first spot).
enum class Reached : uint8_t {
    nothing,  // too steep to stand on and never come by, or no ground
    both,     // they get there and back
    oneWay,   // they get there and not back, but on to some spot
    trap,     // they get there, and from there to no spot at all
    never     // it could be stood on, but nobody gets there
};

// A place worth telling of: those with spots in them first, then the largest.
struct ReachPlace {
    double x = 0, y = 0, z = 0;               // metres, on the ground
    double size = 0;                          // square metres; of a way out, metres along the edge
    std::vector<uint32_t> spots;              // ids of those that stand in it
    std::string towards;                      // of a way out: the side of the level ("east"), or "coast"
    std::vector<std::array<int, 2>> samples;  // of a way out: where one leaves
};

// Two spots, one way.
struct ReachPair {
    uint32_t from = 0, to = 0;  // ids
    bool reached = false;
};

// The ground as the survey saw it: what finding ways goes over.
struct ReachGround {
    Body body;
    // One of these samples stands for so many of the level each way; the last ones lie at the level's edge.
    int columns = 0, rows = 0, stride = 1;
    int levelColumns = 0, levelRows = 0;
    double spacing = 1, originX = 0, originZ = 0;
    Raster<float> heights;      // metres: ground, or as deep in the water as the body can stand
    Raster<float> tops;         // the highest of all samples less than `stride` away; empty when that is 1
    Raster<uint8_t> kinds;      // Kind
    Raster<uint8_t> cells;      // bit 1: the north-east triangle can be stood on, bit 2: the south-west one
    Raster<uint32_t> nodes;     // piece of connected ground, or steep sample; kNoNode for neither
    uint32_t pieces = 0;        // nodes below that are pieces
    std::vector<uint8_t> deep;  // samples in water that slows, one a sample; empty when all is dry

    enum Kind : uint8_t { kNone, kSteep, kFirm };
    static constexpr uint32_t kNoNode = 0xffffffff;
    int sampleColumn(int c) const { return std::min(c * stride, levelColumns - 1); }
    int sampleRow(int r) const { return std::min(r * stride, levelRows - 1); }
    double xOf(int c) const { return originX + spacing / stride * sampleColumn(c); }
    double zOf(int r) const { return originZ + spacing / stride * sampleRow(r); }
    // What has to be cleared to come to a sample: it, and what lies round it that no other stands for.
    float top(int c, int r) const {
        return tops.width() == 0 ? heights.at(c, r) : std::max(heights.at(c, r), tops.at(c, r));
    }
    // The highest ground on the straight line from a sample to one beside it, the first one left out. Where that
    // crosses a cell's north-west to south-east side, that may be a ridge.
    float brow(int c, int r, int x, int z) const { return over(top(x, z), c, r, x, z); }
    // The same by these samples alone.
    float plainBrow(int c, int r, int x, int z) const { return over(heights.at(x, z), c, r, x, z); }
    // f(c, r) for the up to eight samples beside one.
    template <class F>
    void eachBeside(int c, int r, F f) const {
        constexpr int kBeside[8][2] = {{1, 0}, {0, 1}, {-1, 0}, {0, -1}, {1, 1}, {-1, 1}, {-1, -1}, {1, -1}};
        for (const auto& b : kBeside)
            if (const int x = c + b[0], z = r + b[1]; x >= 0 && z >= 0 && x < columns && z < rows) f(x, z);
    }
    bool byBorder(int c, int r) const { return c == 0 || r == 0 || c + 1 == columns || r + 1 == rows; }
    // The sample by which one stands at world (x, z): the nearest corner of the triangle there when that can be stood
    // on, or the nearest sample that is ground; none without one in the cell, or in a block that cannot be stood on.
    std::optional<std::array<int, 2>> sampleUnder(double x, double z) const;
    size_t at(int c, int r) const {
        return static_cast<size_t>(r) * static_cast<size_t>(columns) + static_cast<size_t>(c);
    }

private:
    float over(float there, int c, int r, int x, int z) const {
        if (x - c != r - z) return there;
        const float ridge = 0.5f *
                            (heights.at(std::min(c, x), std::min(r, z)) + heights.at(std::max(c, x), std::max(r, z)));
        return std::max(there, ridge);
    }
};

struct Reach {
    Body body;
    std::vector<ReachPair> pairs;   // every spot to every other, by the order of spots
    std::vector<uint32_t> nowhere;  // ids of spots that stand where the body cannot
    Raster<uint8_t> classes;        // Reached, a sample each (every stride-th)
    // Reached::never, of at least kLeastPocket square metres, and not by the border of the level, where it walls that
    // in.
    std::vector<ReachPlace> pockets;
    std::vector<ReachPlace> traps;    // Reached::trap, of at least kLeastTrap
    std::vector<ReachPlace> waysOut;  // where they can leave the level, or fall off the land's edge
    std::array<double, 5> areas{};    // square metres, by Reached
    std::shared_ptr<const ReachGround> ground;

    bool reaches(uint32_t from, uint32_t to) const;
    // Whether it tells of a spot, which may have come since.
    bool knows(uint32_t spot) const;
    // Whether one begins at a spot; whether one does, or gets there from where one begins.
    bool begins(uint32_t spot) const;
    bool got(uint32_t spot) const;
    // Spots that are reached from the start, and how many of them there are, the starts themselves counted as reached.
    std::array<int, 2> spotsReached() const;
    std::vector<uint32_t> starts;  // ids
    // Spots that none of those gets to, and would if nothing stood on the ground: ids.
    std::vector<uint32_t> walledOff;
};
constexpr double kLeastPocket = 25, kLeastTrap = 2;  // square metres
constexpr int kMostReachSamples = 4097;              // a side; of larger levels several are looked at as one

// The body of a name, of the level's own or of kBodies, or null; and the one that is chosen to go in a level.
const Body* bodyNamed(const Level& level, const std::string& name);
Body bodyOf(const Level& level);

// Samples are the places; of larger levels than kMostReachSamples one stands for several, and what bars the way between
// them is seen, so that what is told to be reached is. A body goes
// - over every triangle that is no steeper than it can stand on, and over water that it swims in, both ways;
// - up what it can step or jump on, over what it can jump, down whatever it can fall: one way. A flight goes as fast as
// it
//   runs, and steers; its height follows from how far it went. It reaches no farther than kFarthestFlight samples;
// - down steep ground, to every neighbour that lies no higher;
// - round what stands there and blocks, and over what it can jump on (walk/reach_solids.h).
// What it cannot stand in (openings, what is no land, water too deep for one that does not swim) loses it.
// Connected ground is found by runs of rows and a union of them (Rosenfeld and Pfaltz, 1966); what reaches what is then
// spread over pieces and steep samples, 64 spots at once. O(n) but for flights. Unspecified when cancelled. mostSamples
// >= 2.
Reach surveyReach(const Level& level, const Body& body, const Context& context = {},
                  int mostSamples = kMostReachSamples);
constexpr int kFarthestFlight = 16;  // samples

// Whether bodies go alike over two levels, so that what was found on one holds on the other.
bool sameForBodies(const Level& a, const Level& b);

// The connected ground alone: pieces of samples joined by triangles that can be stood on; kNoNode where there is none.
// `cells` as ReachGround::cells. Returns the number of pieces.
uint32_t connectedGround(const Raster<uint8_t>& cells, Raster<uint32_t>& pieces);

// Where a flight that begins at a height of 0 is at most, `far` metres away on the map: metres.
double flightHeight(const Body& body, double far);

}  // namespace jam
