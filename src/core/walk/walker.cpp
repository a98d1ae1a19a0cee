#include "walk/walker.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "level/opening.h"

namespace jam {

namespace {

constexpr double kHold = 12, kAirHold = 10, kSwimHold = 4;  // a second: how quickly speed follows the wish
constexpr double kSlideMost = 4;                            // metres a second on the map
constexpr double kDiveSpeed = 1.2;                          // metres a second, up and down
constexpr double kTiny = 1e-6, kStill = 0.01;
constexpr double kSole = 0.08;   // metres
constexpr double kOutOf = 0.02;  // metres a step

// Sine and cosine of a heading, by Taylor's series within an eighth of a turn: a library's may differ in the last bit
// from machine to machine.
double sineOf(double a) {
    const double q = a * a;
    return a * (1 - q / 6 * (1 - q / 20 * (1 - q / 42 * (1 - q / 72 * (1 - q / 110 * (1 - q / 156))))));
}
double cosineOf(double a) {
    const double q = a * a;
    return 1 - q / 2 * (1 - q / 12 * (1 - q / 30 * (1 - q / 56 * (1 - q / 90 * (1 - q / 132)))));
}

struct Turn {
    double sine, cosine;
};
Turn turnOf(uint16_t heading) {
    const int octant = heading >> 13, rest = heading & 8191;
    const bool mirrored = octant & 1;
    const double a = (mirrored ? 8192 - rest : rest) * (kTurn / 65536);
    double s = sineOf(a), c = cosineOf(a);
    if (mirrored) std::swap(s, c);
    // Within its quarter; quarters turn by (s, c) -> (c, -s).
    for (int quarter = octant >> 1; quarter > 0; --quarter) s = std::exchange(c, -s);
    return {s, c};
}

double tangentOf(float degrees) {
    // Once for a body; of exact steps all the same.
    const double a = static_cast<double>(degrees) * kRadians / 2, t = sineOf(a) / cosineOf(a);
    return 2 * t / (1 - t * t);
}

}  // namespace

uint16_t headingOf(double degrees) {
    const double turns = degrees / 360;
    return static_cast<uint16_t>(std::llround((turns - std::floor(turns)) * 65536) & 65535);
}
double degreesOf(uint16_t heading) { return heading * (360.0 / 65536); }

Walker::Walker(const Level& level, const Body& body, double x, double z)
    : body_(body), tangent_(tangentOf(body.slope)), footing_(level) {
    state_.x = x, state_.z = z;
    const Under u = footing_.under(x, z);
    if (!u.land) {
        state_.gait = Gait::air;
        state_.leftX = x, state_.leftZ = z;
        state_.y = level.startHeight;
        return;
    }
    state_.y = state_.foot = support(u);
    state_.strayed = kStride;  // on steep ground it has no hold
    state_.leftX = x, state_.leftZ = z;
    settle(0, false);
}

bool Walker::floats(const Under& u) const {
    return u.body && body_.swims && u.depth() > static_cast<double>(body_.wade);
}

// Where the soles are while it stands: on the ground, or as deep in the water as it can stand.
double Walker::support(const Under& u) const {
    return floats(u) ? u.surface - static_cast<double>(body_.wade) : u.ground;
}

double Walker::climb() const {
    const bool hold = state_.gait == Gait::firm || state_.gait == Gait::stepping;
    return (hold ? std::max(state_.y, state_.foot + static_cast<double>(body_.step)) : state_.y) + kTiny;
}

Footing::Barred Walker::barred(double x, double z) {
    // Ground that rises lifts its head.
    const Under u = state_.gait == Gait::air ? Under{} : under(x, z);
    const double sole = u.land ? std::max(state_.y, support(u)) : state_.y;
    return footing_.barred(x, z, static_cast<double>(body_.radius), climb(), sole + static_cast<double>(body_.height));
}

bool Walker::holds(const Under& u, double x, double z) {
    if (floats(u) || !u.steeper(tangent_)) return true;
    // One in each of the six triangles round a corner.
    for (const auto& [dx, dz] :
         {std::array{0.92, 0.38}, {0.38, 0.92}, {-0.7, 0.7}, {-0.92, -0.38}, {-0.38, -0.92}, {0.7, -0.7}}) {
        const Under beside = under(x + kSole * dx, z + kSole * dz);
        if (beside.land && !beside.steeper(tangent_) && std::abs(beside.ground - u.ground) <= kSole * tangent_)
            return true;
    }
    return false;
}

Walker::Wish Walker::wishOf(const WalkInput& input) const {
    const Turn t = turnOf(input.heading);
    double x = input.forward * t.sine + input.right * t.cosine, z = -input.forward * t.cosine + input.right * t.sine;
    const double length = std::sqrt(x * x + z * z);
    if (length < 0.5) return {0, 0};
    const double speed = static_cast<double>(input.run ? body_.run : body_.pace);
    return {x / length * speed, z / length * speed};
}

// Whether it may go where the ground stands as it does there, after `run` metres on the map.
bool Walker::mayGo(const Under& to, double x, double z, double run) {
    if (!to.land) return true;
    // Who dives meets the bed alone.
    const double floor = state_.gait == Gait::swimming && floats(to) ? to.ground : support(to);
    const double up = floor - state_.y;
    if (up <= kTiny) return true;
    const bool hold = state_.gait == Gait::firm || state_.gait == Gait::stepping || state_.gait == Gait::swimming;
    if (!hold) return false;
    if (up <= run * tangent_ + kTiny && holds(to, x, z)) return true;
    return support(to) <= state_.foot + static_cast<double>(body_.step) && state_.strayed + run <= kStride;
}

void Walker::speedUp(const WalkInput& input, const Under& here) {
    WalkState& s = state_;
    Wish wish = wishOf(input);
    double hold = kHold;
    const double deep = here.land && here.body
                            ? std::clamp((here.surface - s.y) / std::max<double>(body_.wade, 0.1), 0.0, 1.0)
                            : 0;
    if (deep > 0) {
        // Water slows, then carries.
        const double slower = paceInWater(deep);
        const auto [east, south] = footing_.flow(s.x, s.z, here.body);
        wish = {wish.x * slower + east * deep, wish.z * slower + south * deep};
        if (s.gait == Gait::swimming) hold = kSwimHold;
    }
    if (s.gait == Gait::air) {
        // In the air it steers, but is never faster than it can run, nor slower for steering nowhere.
        hold = kAirHold;
        if (input.forward == 0 && input.right == 0) hold = 1;
    }
    s.vx += (wish.x - s.vx) * (hold * kStep);
    s.vz += (wish.z - s.vz) * (hold * kStep);
    // Who stands, stands.
    if (wish.x == 0 && wish.z == 0 && s.vx * s.vx + s.vz * s.vz < kStill * kStill) s.vx = s.vz = 0;
}

// Down the fall line, faster and faster, up to what heels can hold.
void Walker::slide(const Under& here) {
    const double square = here.east * here.east + here.south * here.south;
    if (square <= 0) return;
    WalkState& s = state_;
    const double pull = kGravity * kStep / (1 + square);
    s.vx -= here.east * pull;
    s.vz -= here.south * pull;
    const double speed = std::sqrt(s.vx * s.vx + s.vz * s.vz), most = kSlideMost;
    if (speed > most) s.vx *= most / speed, s.vz *= most / speed;
}

bool Walker::goRound(double& x, double& z, double inside) {
    // Two of them leave a way between; a third closes it.
    for (int i = 0; i < 3; ++i) {
        const Footing::Barred bar = barred(x, z);
        if (bar.by <= inside + kTiny) return true;
        if (i == 2) break;
        x += bar.east * (bar.by - inside), z += bar.south * (bar.by - inside);
        const double into = -(state_.vx * bar.east + state_.vz * bar.south);
        if (into > 0) state_.vx += bar.east * into, state_.vz += bar.south * into;
    }
    return false;
}

void Walker::comeOut() {
    WalkState& s = state_;
    const Footing::Barred bar = barred(s.x, s.z);
    if (bar.by <= kTiny) return;
    const double by = std::min(bar.by, kOutOf), x = s.x + bar.east * by, z = s.z + bar.south * by;
    if (barred(x, z).by < bar.by && mayGo(under(x, z), x, z, by)) s.x = x, s.z = z;
}

bool Walker::goAlong(double& run) {
    WalkState& s = state_;
    run = 0;
    const double inside = barred(s.x, s.z).by;
    for (int attempt = 0; attempt < 2; ++attempt) {
        double x = s.x + s.vx * kStep, z = s.z + s.vz * kStep;
        if (!goRound(x, z, inside)) break;
        const double dx = x - s.x, dz = z - s.z, way = std::sqrt(dx * dx + dz * dz);
        if (way < 1e-9) return attempt == 0;
        const Under to = under(x, z);
        bool free = mayGo(to, x, z, way);
        if (free && s.gait != Gait::air && s.gait != Gait::sliding) {
            // It keeps its girth from a wall.
            const double girth = static_cast<double>(body_.radius);
            const Under ahead = under(x + dx / way * girth, z + dz / way * girth);
            const double wall =
                std::max({static_cast<double>(body_.step), 0.5 * static_cast<double>(body_.height), 2 * girth});
            free = !ahead.land || support(ahead) <= support(to) + wall;
        }
        if (free) {
            s.x = x, s.z = z;
            run = way;
            return true;
        }
        // Along what stands in the way: what leads up to it is taken out of the speed.
        const double square = to.east * to.east + to.south * to.south;
        const double into = square > 0 ? (s.vx * to.east + s.vz * to.south) / square : 0;
        if (into > 0) s.vx -= to.east * into, s.vz -= to.south * into;
        else s.vx = s.vz = 0;
    }
    s.vx = s.vz = 0;
    return false;
}

// After a step over ground, or on landing: what it is on now.
void Walker::settle(double run, bool blocked) {
    WalkState& s = state_;
    const Under u = under(s.x, s.z);
    s.body = u.land ? u.body : 0;
    if (!u.land) return;
    s.depth = u.body ? std::max(u.surface - s.y, 0.0) : 0;
    if (u.body && !body_.swims && u.depth() > static_cast<double>(body_.wade)) {
        s.gait = Gait::lost;
        s.loss = Loss::sunk;
        return;
    }
    if (floats(u)) {
        s.gait = Gait::swimming;
        s.foot = u.surface - static_cast<double>(body_.wade);
        s.strayed = 0;
        return;
    }
    s.y = support(u);
    s.vy = 0;
    s.depth = u.body ? u.depth() : 0;
    // Wedged between two slopes it stands, too.
    if (blocked || holds(u, s.x, s.z)) {
        s.gait = Gait::firm;
        s.foot = s.y;
        s.strayed = 0;
        return;
    }
    s.foot = std::min(s.foot, s.y);
    s.strayed += run + 0.5 * kStep;
    const bool hold = s.strayed <= kStride && s.y <= s.foot + static_cast<double>(body_.step) + kTiny;
    s.gait = hold ? Gait::stepping : Gait::sliding;
}

void Walker::fall() {
    WalkState& s = state_;
    const double from = climb();
    s.vy -= kGravity * kStep;
    s.y += s.vy * kStep;
    const Under u = footing_.under(s.x, s.z, from);
    s.body = u.land ? u.body : 0;
    if (u.land) {
        if (s.y <= support(u)) {
            s.y = support(u);
            s.strayed = kStride;
            s.foot = s.y;
            settle(0, false);
        }
        return;
    }
    const Level& l = level();
    const Under left = under(s.leftX, s.leftZ);
    if (s.y > (left.land ? left.ground : s.foot) - kDeepestFall) return;
    s.gait = Gait::lost;
    if (!l.holds(s.x, s.z)) s.loss = Loss::edge;
    else {
        const int c = static_cast<int>(l.toColumn(s.x) + 0.5), r = static_cast<int>(l.toRow(s.z) + 0.5);
        s.loss = l.noLand.at(c, r) > openingSample(l, c, r) ? Loss::coast : Loss::opening;
    }
}

// In deep water: it comes up by itself, and goes down when it dives.
void Walker::beIn(const WalkInput& input, const Under& here) {
    WalkState& s = state_;
    const double top = here.surface - static_cast<double>(body_.wade);
    s.vy = input.dive ? -kDiveSpeed : s.y < top ? (input.jump ? 1.5 * kDiveSpeed : 0.5 * kDiveSpeed) : 0;
    s.y = std::clamp(s.y + s.vy * kStep, here.ground, std::max(top, here.ground));
}

void Walker::step(const WalkInput& input) {
    WalkState& s = state_;
    if (s.gait == Gait::lost) return;
    const Under here = under(s.x, s.z);
    const bool jumps = input.jump && !s.held;
    s.held = input.jump;
    if (jumps && s.gait == Gait::firm && body_.jump > 0 && here.depth() < 0.5 * static_cast<double>(body_.wade)) {
        s.vy = std::sqrt(2 * kGravity * static_cast<double>(body_.jump));
        s.gait = Gait::air;
        s.leftX = s.x, s.leftZ = s.z;
    }
    if (s.gait == Gait::sliding) slide(here);
    else speedUp(input, here);
    comeOut();
    const double beforeX = s.x, beforeZ = s.z;
    double run = 0;
    const bool went = goAlong(run);
    if (s.gait == Gait::air) return fall();
    const Under there = under(s.x, s.z);
    const bool wasDeep = s.gait == Gait::swimming;
    if (wasDeep && there.land && floats(there)) {
        beIn(input, there);
        return settle(run, false);
    }
    // It keeps to the ground as far as that falls no steeper than it can stand; what slides keeps to it longer.
    const double follow = run * (s.gait == Gait::sliding ? 6 : tangent_) + 1e-4;
    if (!there.land || (support(there) < s.y - follow && !floats(there))) {
        s.gait = Gait::air;
        s.vy = 0;
        s.leftX = beforeX, s.leftZ = beforeZ;
        return fall();
    }
    if (floats(there)) s.y = std::clamp(s.y, there.ground, std::max(support(there), there.ground));
    settle(run, !went && s.gait == Gait::sliding);
}

double Walker::slopeHere() {
    const Under u = under(state_.x, state_.z);
    return u.land ? std::atan(std::sqrt(u.east * u.east + u.south * u.south)) * kDegrees : 0;
}

double Walker::eyeUnderWater() {
    const Under u = under(state_.x, state_.z);
    return u.land && u.body ? std::max(u.surface - (state_.y + eye()), 0.0) : 0;
}

std::string lossInWords(const Level& level, const WalkState& state) {
    if (!state.loss) return {};
    switch (*state.loss) {
        case Loss::edge: {
            const double beyond[] = {level.originZ - state.z, state.x - level.originX - level.width(),
                                     state.z - level.originZ - level.depth(), level.originX - state.x};
            const auto side = std::max_element(std::begin(beyond), std::end(beyond)) - std::begin(beyond);
            return "fell off the " + std::string(kSideNames[static_cast<size_t>(side)]) + " edge";
        }
        case Loss::coast: return "fell off the land's edge";
        case Loss::opening: return "fell through an opening";
        case Loss::sunk: {
            const Pool* p = level.pool(state.body);
            const Stream* s = level.stream(state.body);
            return "sank in " + (p ? p->name : s ? s->name : "the water");
        }
    }
    return {};
}

}  // namespace jam
