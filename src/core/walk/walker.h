// A body on foot in the level: it walks, jumps, slides on what is too steep and along what stands in its way, wades,
// swims, dives and falls. In fixed steps of time, and of nothing but exact arithmetic, so that the same inputs give the
// same bits on any machine.
#pragma once

#include <cstdint>
#include <optional>

#include "level/spot.h"
#include "walk/footing.h"

namespace jam {

// What the hands ask for during one step.
struct WalkInput {
    int8_t forward = 0, right = 0;  // -1, 0, 1
    uint16_t heading = 0;           // where it looks: 65536ths of a turn, clockwise from north
    bool run = false, jump = false, dive = false;

    bool operator==(const WalkInput&) const = default;
};
// The heading nearest to some degrees, and back.
uint16_t headingOf(double degrees);
double degreesOf(uint16_t heading);

enum class Gait {
    firm,      // stands or walks
    stepping,  // on steep ground, no higher than a step above where it stood last
    sliding,   // on steep ground, without a hold
    air,
    swimming,
    lost  // it fell out of the level, or sank
};
enum class Loss { edge, coast, opening, sunk };

struct WalkState {
    double x = 0, y = 0, z = 0;     // metres: the soles
    double vx = 0, vy = 0, vz = 0;  // metres a second
    Gait gait = Gait::firm;
    double foot = 0;     // metres: the altitude at which it stood firm last, or lower where it has come down since
    double strayed = 0;  // metres on the map, on steep ground since then
    double depth = 0;    // metres of water over its soles
    double leftX = 0, leftZ = 0;  // in the air: where it left the ground
    std::optional<Loss> loss;     // why it is lost
    uint32_t body = 0;            // the water that it is in, 0 for none
    bool held = false;            // the jump was asked for in the step before

    bool operator==(const WalkState&) const = default;
};

// The share of its pace that is left in water, where that reaches up a share of what it can stand in.
constexpr double paceInWater(double deep) { return 1 - 0.6 * deep; }

class Walker {
public:
    static constexpr int kStepsASecond = 120;
    static constexpr double kStep = 1.0 / kStepsASecond;  // seconds
    static constexpr double kGravity = 9.81;              // metres a second squared
    static constexpr double kStride = 1;                  // metres for which it keeps its hold on steep ground
    static constexpr double kDeepestFall = 25;            // metres below where it left the ground: there it is lost

    // On the ground at world (x, z), or in the air there where there is none. The level must live as long, unchanged.
    Walker(const Level& level, const Body& body, double x, double z);

    const WalkState& state() const { return state_; }
    const Body& body() const { return body_; }
    const Level& level() const { return footing_.level(); }
    void step(const WalkInput& input);

    // Metres above the ground at which it sees.
    double eye() const { return 0.93 * static_cast<double>(body_.height); }
    // How steep the ground is that it is on, degrees.
    double slopeHere();
    // Metres by which its eye is under water, 0 when it is not.
    double eyeUnderWater();

private:
    struct Wish {
        double x, z;
    };
    Wish wishOf(const WalkInput& input) const;
    // The altitude up to which it gets on to what stands on the ground.
    double climb() const;
    Under under(double x, double z) { return footing_.under(x, z, climb()); }
    // The same when it is at a place, as Footing::barred().
    Footing::Barred barred(double x, double z);
    // Moves a place to where it is no deeper inside of what bars it than so many metres, and takes what leads into that
    // out of the speed; false where there is no such place beside it.
    bool goRound(double& x, double& z, double inside);
    // Out of what bars it, a little: it came to be there by falling past it.
    void comeOut();
    double support(const Under& u) const;
    bool floats(const Under& u) const;
    // Whether it can stand there: a sole is as wide as a hand, so that it keeps its hold along the side of a triangle.
    bool holds(const Under& u, double x, double z);
    bool mayGo(const Under& to, double x, double z, double run);
    void speedUp(const WalkInput& input, const Under& here);
    void slide(const Under& here);
    // Goes along; false when something stood in the way altogether.
    bool goAlong(double& run);
    void settle(double run, bool blocked);
    void fall();
    void beIn(const WalkInput& input, const Under& here);

    Body body_;
    double tangent_;
    Footing footing_;
    WalkState state_;
};

// "fell off the east edge", "fell through an opening", "sank in Mill pond".
std::string lossInWords(const Level& level, const WalkState& state);

}  // namespace jam
