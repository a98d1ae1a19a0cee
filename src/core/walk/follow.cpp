#include "walk/follow.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"

namespace jam {

// Whether the way bends by more than 25 degrees there.
bool WayFollower::turnsAt(size_t point) const {
    const WayPoint &a = way_.points[point - 1], &b = way_.points[point], &c = way_.points[point + 1];
    const double ux = b.x - a.x, uz = b.z - a.z, vx = c.x - b.x, vz = c.z - b.z;
    return ux * vx + uz * vz < 0.9 * std::sqrt((ux * ux + uz * uz) * (vx * vx + vz * vz));
}

WalkInput WayFollower::next(const WalkState& at) {
    WalkInput in;
    while (!there()) {
        const WayPoint& to = way_.points[next_];
        const double dx = to.x - at.x, dz = to.z - at.z, far = std::sqrt(dx * dx + dz * dz);
        const bool last = next_ + 1 == way_.points.size();
        const bool down = at.gait == Gait::firm || at.gait == Gait::swimming;
        // After a leap it stands first.
        const bool leaps = to.by == Stretch::leap || to.by == Stretch::drop;
        const bool leapsNext = !last && way_.points[next_ + 1].by == Stretch::leap;
        const double pace = std::sqrt(at.vx * at.vx + at.vz * at.vz);
        const bool turns = !last && turnsAt(next_);
        // By a wall its girth may keep it from the very point.
        const bool held = waited_ > Walker::kStepsASecond / 3 && far < 0.6 && pace < 0.05;
        if ((far < (leapsNext || last || turns ? 0.12 : 0.3) || held) && (!leaps || down)) {
            if (turns && pace > 1) return in;  // it stops first

            ++next_;
            nearest_ = 1e30;
            waited_ = 0;
            continue;
        }
        if (far < nearest_ - 0.02) nearest_ = far, waited_ = 0;
        else ++waited_;
        in.heading = headingOf(std::atan2(dx, -dz) * kDegrees);
        const double speed = far > 1e-6 ? (at.vx * dx + at.vz * dz) / far : 0;
        // Whoever flies or is about to stand on a point brakes before it.
        const bool brakes = at.gait == Gait::air ? speed * 0.03 > far : speed * 0.08 > far;
        in.forward = brakes ? static_cast<int8_t>(at.gait == Gait::air ? -1 : 0) : 1;
        in.run = to.by == Stretch::leap || (to.by != Stretch::drop && far > 1.5 && !leapsNext);
        if (to.by == Stretch::leap && at.gait == Gait::firm && (to.y > at.y + 0.2 || far > 0.8)) in.jump = !at.held;
        return in;
    }
    return in;
}

}  // namespace jam
