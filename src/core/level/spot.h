// Spots: named places that matter in play; and the bodies that go between them. Plain data; walk/ works it out.
#pragma once

#include <array>
#include <cstdint>
#include <string>
#include <string_view>

namespace jam {

constexpr size_t kMaxSpots = 64;
constexpr size_t kMaxBodies = 16;  // of one's own

// The kinds that the program knows; any other word is a kind of one's own.
constexpr std::array<std::string_view, 4> kSpotKinds = {"start", "goal", "supply", "lookout"};

struct Spot {
    uint32_t id = 0;
    std::string name;            // no other spot has it
    std::string kind = "start";  // one of kSpotKinds, or a word of one's own
    double x = 0, z = 0;         // metres, on the level
    double facing = 0;           // degrees clockwise from north, where one looks on arriving, [0, 360)
    uint32_t pad = 0;            // id of the stratum that evens the ground under it, 0 for none; with that gone, none

    bool operator==(const Spot&) const = default;
};

// Who goes there. Lengths in metres, speeds in metres a second; ranges in kBodyNumbers.
struct Body {
    std::string name = "walker";
    float height = 1.8f;  // from sole to crown
    float radius = 0.35f;
    float step = 0.4f;  // the highest step that it goes up without a jump
    float slope = 40;   // degrees: the steepest ground that it can stand on
    float pace = 2.5f;
    float run = 5;      // no slower than it walks
    float jump = 0.9f;  // how high it jumps
    float wade = 1.1f;  // the depth of water that it can stand in
    bool swims = true;  // deeper than that it swims; otherwise it sinks

    bool operator==(const Body&) const = default;
};

// Its numbers, under their names in files, with their ranges.
struct BodyNumber {
    const char* name;
    float Body::*value;
    double low, high;
    const char* unit;
};
constexpr BodyNumber kBodyNumbers[] = {
    {"height", &Body::height, 0.2, 20, " m"}, {"radius", &Body::radius, 0.05, 5, " m"},
    {"step", &Body::step, 0, 5, " m"},        {"slope", &Body::slope, 1, 80, " degrees"},
    {"pace", &Body::pace, 0.1, 50, " m/s"},   {"run", &Body::run, 0.1, 50, " m/s"},
    {"jump", &Body::jump, 0, 20, " m"},       {"wade", &Body::wade, 0, 20, " m"}};

// Three to choose from.
inline const std::array<Body, 3> kBodies = {Body{}, Body{"runner", 1.75f, 0.3f, 0.6f, 46, 4, 8, 1.4f, 1.1f, true},
                                            Body{"cart", 1.2f, 0.7f, 0.15f, 24, 4, 11, 0, 0.3f, false}};

}  // namespace jam
