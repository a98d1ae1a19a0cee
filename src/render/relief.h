// Relief, lifted for the eye: slopes and crests brighter, hollows darker than the sun alone makes them, so that a bump
// of a metre over twenty is seen on even ground under any sun. No level or export knows of it.
#pragma once

#include <vector>

#include "grid/view.h"
#include "level/level.h"

namespace jam {

struct ReliefLook {
    float lift = 0;        // share, [0, 1]; 0 shows the ground as it is
    bool oneTone = false;  // the ground without its textures
    bool operator==(const ReliefLook&) const = default;
};

// How much of it wherever nobody chose: a hill is one on every layer, also on those that are as bright as light can be.
constexpr float kUsualLift = 0.4f;

// The greatest factor of relief. Light that is baked with it is stored divided by this and multiplied again when drawn.
constexpr float kMostRelief = 1.8f;

inline float headroomOf(const ReliefLook& look) { return look.lift > 0 ? kMostRelief : 1; }

class Relief {
public:
    Relief(const Level& level, const ReliefLook& look, double sunAzimuth);

    // How far around a sample its relief looks, samples.
    int reach() const { return look_.lift > 0 ? wide_ : 1; }
    // Multiplies light[i] by a factor, [0.3, kMostRelief], 1 on even ground: that of the sample i * every columns east
    // of one in a view that reaches reach() to all sides of the row.
    void multiply(View<const float> heights, int x, int z, int every, std::vector<float>& light) const;

private:
    ReliefLook look_;
    int near_, wide_;  // samples
    float perNear_, perWide_;
    struct Light {
        float east, south, share;
    };
    Light lights_[2];
};

}  // namespace jam
