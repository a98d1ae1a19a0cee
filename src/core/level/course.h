// A course: a line of posts that grades a ramp or road, carves a stream's bed, or banks a wall into the ground below
// it. What it makes of the ground is baked into its stratum (course/bake.h).
#pragma once

#include <cstdint>
#include <optional>
#include <vector>

namespace jam {

enum class CourseUse {
    grade,     // cut and fill to the line
    carve,     // cut to a line that only ever falls; never fills
    bank,      // raise by the posts' heights above the ground
    pad,       // an even disc round its only post, under a spot (walk/spots.h)
    footprint  // even ground under each of a kind's singles; it has no posts (course/footprint.h)
};
constexpr int kCourseUses = 5;

constexpr size_t kMaxPosts = 2000;
constexpr float kMinCourseWidth = 0.2f, kMaxCourseWidth = 500;  // metres, of shoulders too, which may be 0
constexpr float kMaxSunk = 50;                                  // metres
constexpr float kMaxBanking = 45;                               // degrees either way

struct Post {
    double x = 0, z = 0;          // metres
    std::optional<float> height;  // metres; bank: above the ground. Without it, the ground's own below the course
    float width = 4;              // metres across that lie on the line, [kMinCourseWidth, kMaxCourseWidth]
    float shoulder = 4;           // metres on either side over which the line meets the ground, [0, kMaxCourseWidth]
    float banking = 0;            // degrees by which it rises to the right, looking along, [-kMaxBanking, kMaxBanking]

    bool operator==(const Post&) const = default;
};

// What a footprint makes of the ground under each single of a kind.
struct Footprint {
    uint32_t kind = 0;                   // id
    float margin = 0.5f;                 // metres round its outline that are even
    float rim = 2;                       // metres beyond over which that meets the ground
    float hatchWide = 0, hatchLong = 0;  // metres of an opening in it, across and along where it faces; 0 for none
    float hatchAhead = 0;                // metres from its foot to the middle of the opening, where it faces

    bool hasHatch() const { return hatchWide > 0 && hatchLong > 0; }
    bool operator==(const Footprint&) const = default;
};
// Its numbers, under their names in files, with their ranges.
struct FootprintNumber {
    const char* name;
    const char* title;  // on the screen
    float Footprint::*value;
    double low, high;
    const char* tip;
};
inline constexpr FootprintNumber kFootprintNumbers[] = {
    {"margin", "Even beyond it", &Footprint::margin, 0, 50, "How far the ground is even round its outline"},
    {"rim", "Rim", &Footprint::rim, 0, kMaxCourseWidth, "Over how far that meets the ground around"},
    {"hatchWide", "Opening, wide", &Footprint::hatchWide, 0, 100,
     "An opening in the ground below it, across; 0 for none"},
    {"hatchLong", "Opening, long", &Footprint::hatchLong, 0, 100, "The same, the way it faces; 0 for none"},
    {"hatchAhead", "Opening, ahead", &Footprint::hatchAhead, -100, 100,
     "How far before its foot the middle of the opening lies; less than 0 behind it"}};

struct Course {
    CourseUse use = CourseUse::grade;
    bool smooth = true;       // a curve through the posts; otherwise straight legs
    bool meets = true;        // where it crosses courses below, it runs at their height; otherwise over them
    bool closed = false;      // the last post leads to the first
    float sunk = 0;           // carve: metres that posts without a height lie below the ground, [0, kMaxSunk]
    std::vector<Post> posts;  // at least 2; of a pad 1, of a footprint none
    uint32_t track = 0;       // id of the layer that lies on the line; 0 for none
    uint32_t verge = 0;       // and on its shoulders
    std::optional<Footprint> footprint;  // of a footprint, and of that alone

    bool operator==(const Course&) const = default;
};

}  // namespace jam
