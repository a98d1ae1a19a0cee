// A course: a line of posts that grades a ramp or road, carves a stream's bed, or banks a wall into the ground below
// it. What it makes of the ground is baked into its stratum (course/bake.h).
#pragma once

#include <cstdint>
#include <optional>
#include <vector>

namespace jam {

enum class CourseUse {
    grade,  // cut and fill to the line
    carve,  // cut to a line that only ever falls; never fills
    bank,   // raise by the posts' heights above the ground
    pad     // an even disc round its only post, under a spot (walk/spots.h)
};
constexpr int kCourseUses = 4;

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

struct Course {
    CourseUse use = CourseUse::grade;
    bool smooth = true;       // a curve through the posts; otherwise straight legs
    bool meets = true;        // where it crosses courses below, it runs at their height; otherwise over them
    bool closed = false;      // the last post leads to the first
    float sunk = 0;           // carve: metres that posts without a height lie below the ground, [0, kMaxSunk]
    std::vector<Post> posts;  // at least 2; of a pad 1
    uint32_t track = 0;       // id of the layer that lies on the line; 0 for none
    uint32_t verge = 0;       // and on its shoulders

    bool operator==(const Course&) const = default;
};

}  // namespace jam
