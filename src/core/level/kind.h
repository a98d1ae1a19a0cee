// A kind: a sort of object that stands on the ground, where it stands, and what it needs there. Plain data; dress/
// works it out.
#pragma once

#include <array>
#include <cstdint>
#include <memory>
#include <string>
#include <vector>

#include "level/mesh.h"
#include "level/ruled.h"

namespace jam {

constexpr size_t kMaxKinds = 64;
constexpr size_t kMaxSingles = 20'000;
constexpr size_t kMaxGone = 200'000;  // marks of one kind

// Density is what a kind's raster holds: of 65536 places of the pattern in 6400 m2 (dress/pattern.h) the first so many
// are taken, so that a step of it is 1/64 of a planting on 100 m2.
constexpr double kDensityStep = 1.0 / 64;              // plantings on 100 m2
constexpr double kMostDensity = 65535 * kDensityStep;  // about ten on a square metre
constexpr double kLeastSize = 0.05,
                 kMostSize = 20;  // times as large as its mesh
// A hand makes those of a kind larger or smaller: 2 to the power of (v - kSameSize) / kSizeStep times, at most
// kMostResized and at least 1 / kMostResized.
constexpr uint16_t kSameSize = 32768;
constexpr double kSizeStep = 8192, kMostResized = 4;
constexpr double kMostApart = 50;                    // metres between two of a kind
constexpr double kLeastClump = 1, kMostClump = 500;  // metres
constexpr double kLeastRow = 0.3,
                 kMostRow = 100;      // metres between rows, and in a row
constexpr double kMostSink = 10;      // metres
constexpr double kMostKeptOff = 100;  // metres
constexpr size_t kMostKeepsOff = 16;  // things that one kind keeps off

// How one is turned about its upright.
enum class Turning { freely, downhill, course, steps };
// What blocks those that walk.
enum class Blocks { nothing, cylinder, capsule, box, hull };
// Which way rows run.
enum class Rows { none, direction, course, contour };

// What a kind keeps off, and how far: the place of one stands at least so many metres away from it.
struct KeptOff {
    enum class What { kind, course, water, spot, opening, edge };
    What what = What::course;
    uint32_t id = 0;   // kind, course: which one, by its id; a course 0: every one
    float metres = 1;  // [0, kMostKeptOff]

    bool operator==(const KeptOff&) const = default;
};

// How a kind grows, when it is grown: by the name of a recipe and its numbers (grow/recipe.h).
struct Growth {
    std::string recipe;          // "tree", "tuft", ...
    std::vector<float> numbers;  // as many as the recipe has, in their order
    uint32_t seed = 1;
    int variants = 4;  // [1, 8], small to large; each planting takes one

    bool operator==(const Growth&) const = default;
};

// A shape that was taken in, or none.
struct Taken {
    std::shared_ptr<const TakenShape> shape;

    explicit operator bool() const { return shape != nullptr; }
    bool operator==(const Taken& o) const {
        return shape == o.shape || (shape && o.shape && shape->from == o.shape->from && shape->glb == o.shape->glb);
    }
};

struct Kind : Ruled {
    uint32_t id = 0;
    std::string name;
    Growth growth;  // without a recipe when it was taken in
    Taken taken;
    float sizeFrom = 0.8f,
          sizeTo = 1.2f;  // times its mesh, [kLeastSize, kMostSize], from <= to
    float sink = 0.05f;   // metres that it goes into the ground, [0, kMostSink]
    float sinkShare = 0;  // and share of its height, [0, 1]
    float lean = 0;       // 0 upright, 1 along the slope
    float tilt = 0;       // degrees that it tilts at random, at most, [0, 90]
    Turning turning = Turning::freely;
    float turn = 0;  // degrees added to what turning gives; steps: the step, [0, 360)
    std::array<float, 3> tintFrom{1, 1, 1}, tintTo{1, 1, 1};  // factors of sRGB channels, [0, 1]
    Blocks blocks = Blocks::nothing;
    float blockRadius = 0.2f, blockHeight = 2;  // metres at size 1, [0.01, 50]

    float density = 2;  // plantings on 100 m2 where its rules hold altogether, [0,
                        // kMostDensity]
    uint32_t seed = 1;
    float apart = 0;          // metres between any two of the kind, [0, kMostApart]
    float clump = 0;          // metres that clumps are wide; 0 for none, or [kLeastClump,
                              // kMostClump]
    float clumpTight = 0.5f;  // 0: hardly thinner between clumps, 1: bare between them
    Rows rows = Rows::none;
    float rowApart = 5,
          inRow = 4;            // metres, [kLeastRow, kMostRow]; along contours, rowApart is how much higher each lies
    float rowDirection = 0;     // degrees clockwise from north that rows run, [0, 180)
    uint32_t rowCourse = 0;     // id of the course along which rows run
    TiledGrid<uint16_t> sizes;  // how much larger or smaller a hand made them, at the cover's samples
    std::vector<KeptOff> keepsOff;  // kinds count where they come before this one
                                    // in the level's order
    bool hidden = false;
    std::vector<uint64_t> gone;  // places of the pattern that a hand took, in
                                 // ascending order (Planting::place)

    bool operator==(const Kind&) const = default;
};

// The numbers of a kind, with their ranges: fields, files and checks read them here.
struct KindNumber {
    const char* name;   // in files
    const char* title;  // on the screen
    float Kind::*value;
    double low, high;
    const char* unit;  // as shown, "" for none
    const char* tip;
};
inline constexpr KindNumber kKindNumbers[] = {
    {"sizeFrom", "Size from", &Kind::sizeFrom, kLeastSize, kMostSize, "", "Times as large as it grows"},
    {"sizeTo", "to", &Kind::sizeTo, kLeastSize, kMostSize, "", "Times as large as it grows"},
    {"sink", "Sunk by", &Kind::sink, 0, kMostSink, "m", "How far its foot goes into the ground"},
    {"sinkShare", "Sunk by a share", &Kind::sinkShare, 0, 1, "", "And so much of its height"},
    {"lean", "Leans with the slope", &Kind::lean, 0, 1, "", "0 stands upright, 1 as the ground lies"},
    {"tilt", "Tilts by up to", &Kind::tilt, 0, 90, "°", "At random, to any side"},
    {"turn", "Turned by", &Kind::turn, 0, 360, "°",
     "Added to the way that it is turned; the step when it turns in steps"},
    {"density", "On 100 m²", &Kind::density, 0, kMostDensity, "", "How many its rules let stand"},
    {"apart", "Apart", &Kind::apart, 0, kMostApart, "m", "No two of this kind stand nearer"},
    {"clump", "Clumps of", &Kind::clump, 0, kMostClump, "m", "How wide they are; 0 for none"},
    {"clumpTight", "Clumped", &Kind::clumpTight, 0, 1, "", "How bare the ground is between clumps"},
    {"rowApart", "Rows apart", &Kind::rowApart, kLeastRow, kMostRow, "m", ""},
    {"inRow", "Apart in a row", &Kind::inRow, kLeastRow, kMostRow, "m", ""},
    {"rowDirection", "Rows run to", &Kind::rowDirection, 0, 180, "°", "Clockwise from north"},
    {"blockRadius", "Blocks within", &Kind::blockRadius, 0.01, 50, "m", "At size 1"},
    {"blockHeight", "Blocks up to", &Kind::blockHeight, 0.01, 50, "m", "At size 1"}};

// One that was put, moved, turned or sized by hand, and stays.
struct Single {
    uint32_t id = 0;
    uint32_t kind = 0;           // id
    double x = 0, z = 0;         // metres
    float turn = 0;              // degrees clockwise from north, [0, 360)
    float size = 1;              // times its mesh, [kLeastSize, kMostSize]
    float above = 0;             // metres over the ground that its foot stands on, [-kMostSink, 1000]
    float lean = 0, leanTo = 0;  // degrees off the upright, [0, 90], and the
                                 // direction it leans to, [0, 360)
    uint8_t variant = 0;
    uint32_t group = 0;  // those with the same number move together; 0 for none

    bool operator==(const Single&) const = default;
};

}  // namespace jam
