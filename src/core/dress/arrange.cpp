#include "dress/arrange.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "course/footprint.h"
#include "course/legs.h"
#include "course/line.h"
#include "grow/recipe.h"
#include "level/ground.h"
#include "level/things.h"

namespace jam {

namespace {

constexpr double kLong = 1.5;  // times as long as wide: it lies along a line, and not at places of it

float degreesFrom(double dx, double dz) {
    return static_cast<float>(std::fmod(std::atan2(dx, -dz) * kDegrees + 360, 360));
}

// A place on a line, so many metres from its beginning; beyond its end, the end.
struct OnLine {
    double x, z;
};
OnLine placeOn(const std::vector<std::array<double, 2>>& line, double along) {
    for (size_t i = 0; i + 1 < line.size(); ++i) {
        const double dx = line[i + 1][0] - line[i][0], dz = line[i + 1][1] - line[i][1], leg = std::hypot(dx, dz);
        if (along <= leg && leg > 0) return {line[i][0] + dx * along / leg, line[i][1] + dz * along / leg};
        along -= leg;
    }
    return {line.back()[0], line.back()[1]};
}

double lengthOf(const std::vector<std::array<double, 2>>& line) {
    double all = 0;
    for (size_t i = 0; i + 1 < line.size(); ++i)
        all += std::hypot(line[i + 1][0] - line[i][0], line[i + 1][1] - line[i][1]);
    return all;
}

}  // namespace

Status groupSingles(Level& level, const std::vector<uint32_t>& ids) {
    if (ids.size() < 2) return Error{"", "", "fewer than two are chosen", "choose several with Shift"};
    uint32_t free = 0;
    for (const Single& s : level.singles) free = std::max(free, s.group);
    for (const uint32_t id : ids)
        if (!level.single(id)) return goneError(ThingKind::single);
    for (const uint32_t id : ids) level.single(id)->group = free + 1;
    return {};
}

Status dissolveGroups(Level& level, const std::vector<uint32_t>& ids) {
    bool any = false;
    for (const uint32_t id : ids) {
        const Single* s = level.single(id);
        if (!s || s->group == 0) continue;
        const uint32_t group = s->group;
        for (Single& one : level.singles)
            if (one.group == group) one.group = 0, any = true;
    }
    if (!any) return Error{"", "", "none of them is in a group", "choose one that is"};
    return {};
}

std::vector<uint32_t> groupOf(const Level& level, uint32_t id) {
    const Single* s = level.single(id);
    if (!s) return {};
    std::vector<uint32_t> all;
    for (const Single& one : level.singles)
        if (one.id == id || (s->group != 0 && one.group == s->group)) all.push_back(one.id);
    return all;
}

Status lineUpSingles(Level& level, const std::vector<uint32_t>& ids) {
    if (ids.size() < 3) return Error{"", "", "fewer than three are chosen", "choose more with Shift"};
    for (const uint32_t id : ids)
        if (!level.single(id)) return goneError(ThingKind::single);
    const Single first = *level.single(ids.front()), last = *level.single(ids.back());
    const double dx = last.x - first.x, dz = last.z - first.z;
    for (size_t i = 0; i < ids.size(); ++i) {
        Single& s = *level.single(ids[i]);
        const double t = static_cast<double>(i) / static_cast<double>(ids.size() - 1);
        s.x = first.x + t * dx, s.z = first.z + t * dz;
        if (std::hypot(dx, dz) > 1e-6) s.turn = degreesFrom(dx, dz);
    }
    return {};
}

Status turnAlongCourse(Level& level, const std::vector<uint32_t>& ids) {
    std::vector<std::vector<LinePoint>> courses;
    CourseLines lines(level);
    for (size_t i = 0; i < level.strata.size(); ++i)
        if (level.strata[i].leads() && level.strata[i].visible) courses.push_back(lines.of(i));
    if (courses.empty()) return Error{"", "", "no course is seen", "draw one, or show one"};
    for (const uint32_t id : ids) {
        Single* s = level.single(id);
        if (!s) return goneError(ThingKind::single);
        double nearest = 1e30;
        for (const auto& line : courses)
            for (size_t i = 0; i + 1 < line.size(); ++i) {
                const double ex = line[i + 1].x - line[i].x, ez = line[i + 1].z - line[i].z, square = ex * ex + ez * ez;
                if (square <= 0) continue;
                const double t = std::clamp(((s->x - line[i].x) * ex + (s->z - line[i].z) * ez) / square, 0.0, 1.0);
                const double away = std::hypot(line[i].x + t * ex - s->x, line[i].z + t * ez - s->z);
                if (away < nearest) nearest = away, s->turn = degreesFrom(ex, ez);
            }
    }
    return {};
}

Result<std::vector<std::array<double, 2>>> lineBesideCourse(const Level& level, double x, double z, double most) {
    std::vector<LinePoint> nearest;
    double away = most, aside = 0;
    CourseLines lines(level);
    for (size_t i = 0; i < level.strata.size(); ++i) {
        if (!level.strata[i].leads() || !level.strata[i].visible) continue;
        const std::vector<LinePoint>& line = lines.of(i);
        const double size = TiledGrid<float>::kTile * level.spacing;
        const LegsBy legs(line, x - size, z - size, 2 * size, 1, 1, most);
        const Near n = legs.nearest(0, 0, x, z);
        if (n.away < away) away = n.away, aside = n.side, nearest = line;
    }
    if (nearest.size() < 2) return Error{"", "", "no course runs near", "pull a line, or click beside a course"};
    // Beyond the end of a course the side that is told is less than how far it is.
    const double off = std::copysign(away, aside);
    std::vector<std::array<double, 2>> line;
    double lastX = 0, lastZ = 0;
    for (size_t i = 0; i < nearest.size(); ++i) {
        const LinePoint &a = nearest[i > 0 ? i - 1 : i], &b = nearest[std::min(i + 1, nearest.size() - 1)];
        const double dx = b.x - a.x, dz = b.z - a.z, long_ = std::hypot(dx, dz);
        if (long_ <= 0) continue;
        const std::array<double, 2> at{nearest[i].x - dz / long_ * off, nearest[i].z + dx / long_ * off};
        // Inside a bend that is tighter than it is far away it would run backwards.
        if (!line.empty() && (at[0] - lastX) * dx + (at[1] - lastZ) * dz <= 0) continue;
        line.push_back(at);
        lastX = at[0], lastZ = at[1];
    }
    // It ends where the level does.
    std::erase_if(line, [&](const auto& p) { return !level.holds(p[0], p[1]); });
    return line;
}

Result<std::vector<Single>> lineOfSingles(const Level& level, uint32_t kind,
                                          const std::vector<std::array<double, 2>>& line) {
    const Kind* k = level.kind(kind);
    if (!k) return goneError(ThingKind::kind);
    const float size = std::sqrt(k->sizeFrom * k->sizeTo);
    const Outlined o = outlineOfKind(*k);
    const double wide = o.east - o.west, deep = o.south - o.north;
    const double longest = std::max(wide, deep), least = std::min(wide, deep);
    const bool lies = longest > kLong * least;
    const double apart = std::max(lies ? longest * static_cast<double>(size) : static_cast<double>(k->inRow), 0.1);
    const double all = line.empty() ? 0 : lengthOf(line);
    std::vector<Single> made;
    // What lies along the line ends where the next one begins; what stands does at both ends.
    const auto count = static_cast<size_t>(all / apart + (lies ? 0.5 : 1 + 1e-9));
    if (count == 0 || all <= 0) return Error{"", k->name, "the line is shorter than one of them", "pull farther"};
    for (size_t i = 0; i < count; ++i) {
        const double from = static_cast<double>(i) * apart, to = from + apart;
        const OnLine a = placeOn(line, from), b = placeOn(line, std::min(to, all));
        const OnLine before = placeOn(line, std::max(from - 0.1, 0.0)),
                     after = placeOn(line, std::min(from + 0.1, all));
        Single s;
        s.kind = kind;
        s.size = size;
        s.x = lies ? (a.x + b.x) / 2 : a.x, s.z = lies ? (a.z + b.z) / 2 : a.z;
        const double dx = lies ? b.x - a.x : after.x - before.x, dz = lies ? b.z - a.z : after.z - before.z;
        const float along = degreesFrom(dx, dz);
        s.turn = lies && wide > deep ? static_cast<float>(std::fmod(static_cast<double>(along) + 90, 360)) : along;
        if (lies && k->lean > 0) {
            const double rise = altitudeAt(level, b.x, b.z) - altitudeAt(level, a.x, a.z), run = std::hypot(dx, dz);
            if (run > 0 && rise != 0) {
                // Its top leans down the slope.
                s.lean = static_cast<float>(std::atan(std::abs(rise) / run * static_cast<double>(k->lean)) * kDegrees);
                s.leanTo = rise > 0 ? static_cast<float>(std::fmod(static_cast<double>(along) + 180, 360)) : along;
            }
        }
        s.variant = static_cast<uint8_t>(meshesOf(*k)->variants.size() - 1);
        made.push_back(s);
    }
    return made;
}

Status putLine(Level& level, uint32_t kind, const std::vector<std::array<double, 2>>& line) {
    const Result<std::vector<Single>> made = lineOfSingles(level, kind, line);
    if (!made) return made.error();
    Level next = level;
    std::vector<uint32_t> ids;
    for (const Single& s : made.value()) {
        const Result<uint32_t> id = putSingle(next, s);
        if (!id) return id.error();
        ids.push_back(id.value());
    }
    if (ids.size() > 1)
        if (const Status s = groupSingles(next, ids); !s) return s;
    level = std::move(next);
    return {};
}

}  // namespace jam
