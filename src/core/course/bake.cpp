#include "course/bake.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "base/parallel.h"
#include "course/footprint.h"
#include "course/legs.h"
#include "level/ground.h"
#include "level/strata.h"

namespace jam {

namespace {

constexpr int kTile = TiledGrid<float>::kTile;

// How much of a sample the course owns.
double shareAt(const Near& n) {
    const double beyond = n.away - 0.5 * n.width;
    if (beyond <= 0) return 1;
    return n.shoulder > 0 ? smoothstep(static_cast<float>(1 - beyond / n.shoulder)) : 0;
}

// Whether a course that only cuts might cut in a tile where it did not: it lies by the line.
bool legsMayReach(const Level& level, const Course& course, int tx, int tz) {
    double reach = 0;
    for (const Post& p : course.posts) reach = std::max<double>(reach, 0.5 * p.width + p.shoulder);
    // A curve stays nearer to its posts than their distance from each other.
    for (size_t i = 0; i < course.posts.size(); ++i) {
        const Post &a = course.posts[i], &b = course.posts[(i + 1) % course.posts.size()];
        const double wide = reach + (course.smooth ? std::hypot(b.x - a.x, b.z - a.z) : 0);
        if (level.toColumn(std::min(a.x, b.x) - wide) < (tx + 1) * kTile &&
            level.toColumn(std::max(a.x, b.x) + wide) >= tx * kTile &&
            level.toRow(std::min(a.z, b.z) - wide) < (tz + 1) * kTile &&
            level.toRow(std::max(a.z, b.z) + wide) >= tz * kTile)
            return true;
    }
    return false;
}

}  // namespace

TileSet bakeCourse(Level& level, size_t place) {
    CourseLines lines(level);
    return bakeCourse(level, place, lines);
}

TileSet bakeCourse(Level& level, size_t place, CourseLines& lines) {
    const std::vector<LinePoint>& line = lines.of(place);
    const Level before = level;  // the ground below, while the tiles are written
    Stratum& s = level.strata[place];
    assert(s.course);
    if (s.owned.columns() != level.columns || s.owned.rows() != level.rows)
        s.owned = TiledGrid<float>(level.columns, level.rows, 0.f);
    const int across = s.heights.tilesAcross(), down = s.heights.tilesDown();
    const LegsBy legs(line, level.originX - 0.5 * level.spacing, level.originZ - 0.5 * level.spacing,
                      kTile * level.spacing, across, down, -1);
    const CourseUse use = s.course->use;
    struct Made {
        int tx, tz;
        Raster<float> heights, owned;
    };
    std::vector<Made> tiles;
    for (int tz = 0; tz < down; ++tz)
        for (int tx = 0; tx < across; ++tx)
            if (legs.any(tx, tz)) tiles.push_back({tx, tz, {}, {}});
    parallelFor(static_cast<int>(tiles.size()), 2, [&](int first, int end) {
        Raster<float> below;
        for (int i = first; i < end; ++i) {
            Made& t = tiles[static_cast<size_t>(i)];
            const Region r = s.heights.tileRegion(t.tx, t.tz);
            t.heights = t.owned = Raster<float>(r.width(), r.depth(), 0.f);
            if (use == CourseUse::carve) {
                below.reshape(r.width(), r.depth());
                readGroundBelow(before, place, r, below.view());
            }
            const auto take = [&](int column, int row, const Near& n) {
                const int x = column - r.x0, z = row - r.z0;
                const double w = n.away < 1e29 ? shareAt(n) : 0;
                if (w <= 0) return;
                if (use == CourseUse::bank) {
                    t.heights.at(x, z) = static_cast<float>(w * n.height);
                    return;
                }
                const double aside = std::clamp(n.side, -0.5 * n.width, 0.5 * n.width);
                const double to = n.height + std::tan(n.banking * kRadians) * aside;
                if (use == CourseUse::carve && below.at(x, z) <= to) return;
                t.owned.at(x, z) = static_cast<float>(w);
                t.heights.at(x, z) = static_cast<float>(w * to);
            };
            eachNear(legs, t.tx, t.tz, r, level.originX, level.originZ, level.spacing, take);
        }
    });
    TileSet made;
    size_t next = 0;
    for (int tz = 0; tz < down; ++tz)
        for (int tx = 0; tx < across; ++tx) {
            const Region r = s.heights.tileRegion(tx, tz);
            if (next < tiles.size() && tiles[next].tx == tx && tiles[next].tz == tz) {
                s.heights.write(r, tiles[next].heights.view());
                s.owned.write(r, tiles[next].owned.view());
                ++next;
            } else {
                if (s.heights.tile(tx, tz)) s.heights.clearTile(tx, tz);
                if (s.owned.tile(tx, tz)) s.owned.clearTile(tx, tz);
            }
        }
    const Stratum& was = before.strata[place];
    s.heights.eachChangedTile(was.heights, [&](int tx, int tz) { made.add(s.heights.tileRegion(tx, tz)); });
    if (was.owned.columns() == s.owned.columns())
        s.owned.eachChangedTile(was.owned, [&](int tx, int tz) { made.add(s.owned.tileRegion(tx, tz)); });
    return made;
}

TileSet refreshCourses(Level& level, const Change& change, const Context& context) {
    TileSet made, touched = change.ground;
    CourseLines lines(level);
    // The line of a course below is, or may be, another, and those above that meet it run at another height: whatever
    // its own tiles say, since one that is hidden or gone is met by nobody. Where one that is gone lay nobody knows.
    bool lower = std::any_of(change.strata.begin(), change.strata.end(),
                             [&](uint32_t id) { return level.stratumIndex(id) < 0; });
    for (size_t i = 0; i < level.strata.size() && !context.cancelled(); ++i) {
        const Stratum& s = level.strata[i];
        if (!s.course) continue;
        bool again = std::find(change.strata.begin(), change.strata.end(), s.id) != change.strata.end() ||
                     (lower && s.course->meets);
        const auto follows = [&](double x, double z) {
            const int c = std::clamp(static_cast<int>(std::floor(level.toColumn(x))), 0, level.columns - 2),
                      r = std::clamp(static_cast<int>(std::floor(level.toRow(z))), 0, level.rows - 2);
            // The four samples around may lie in four tiles.
            for (const int dr : {0, 1})
                for (const int dc : {0, 1}) again = again || touched.contains(c + dc, r + dr);
        };
        for (const Post& p : s.course->posts)
            if (!p.height && s.course->use != CourseUse::bank) follows(p.x, p.z);
        if (s.course->footprint)
            eachOnFootprint(level, *s.course->footprint, [&](const Single& one) { follows(one.x, one.z); });
        if (!again && s.course->use == CourseUse::carve)
            touched.each([&](int tx, int tz, const Region&) {
                if (tx < s.heights.tilesAcross() && tz < s.heights.tilesDown())
                    again = again || s.owned.tile(tx, tz) || legsMayReach(level, *s.course, tx, tz);
            });
        if (!again) continue;
        lower = true;
        const TileSet differs = bakeCourse(level, i, lines);
        made.add(differs);
        touched.add(differs);
    }
    return made;
}

uint32_t addCourse(Level& level, const std::string& name, Course course) {
    const uint32_t id = addStratum(level, name, static_cast<int>(level.strata.size()) - 1);
    Stratum& s = level.strata.back();
    s.course = std::move(course);
    bakeCourse(level, level.strata.size() - 1);
    return id;
}

Result<uint32_t> addCourseBelowOthers(Level& level, const std::string& name, Course course) {
    if (level.strata.size() >= kMaxStrata)
        return Error{"", "strata", "there are " + std::to_string(kMaxStrata) + " already", "merge or delete one first"};
    const uint32_t id = addCourse(level, name, std::move(course));
    const auto first = std::find_if(level.strata.begin(), level.strata.end(),
                                    [](const Stratum& s) { return s.leads(); });
    const int to = static_cast<int>(first - level.strata.begin());
    if (to < level.stratumIndex(id)) (void)moveStratum(level, id, to);
    return id;
}

TileSet nearEvenPart(const Level& level, size_t place, double metres) {
    TileSet tiles;
    if (!level.strata[place].course) return tiles;
    const std::vector<LinePoint> line = lineOf(level, place);
    for (size_t i = 0; i < line.size(); ++i) {
        const size_t next = std::min(i + 1, line.size() - 1);
        const LinePoint &a = line[i], &b = line[next].starts ? a : line[next];
        const double half = 0.5 * std::max(a.width, b.width) + metres;
        tiles.add(Region{static_cast<int>(std::floor(level.toColumn(std::min(a.x, b.x) - half))),
                         static_cast<int>(std::floor(level.toRow(std::min(a.z, b.z) - half))),
                         static_cast<int>(std::ceil(level.toColumn(std::max(a.x, b.x) + half))) + 1,
                         static_cast<int>(std::ceil(level.toRow(std::max(a.z, b.z) + half))) + 1}
                      .clipped(level.bounds()));
    }
    return tiles;
}

void courseDistances(const Level& level, size_t place, double most, const Region& cover, View<float> out) {
    for (int z = 0; z < cover.depth(); ++z) std::fill_n(out.row(z), cover.width(), kFarFromCourse);
    if (!level.strata[place].course || cover.empty()) return;
    const std::vector<LinePoint> line = lineOf(level, place);
    const double step = level.coverSpacing(), size = kTile * step;
    const double x0 = level.originX + cover.x0 * step, z0 = level.originZ + cover.z0 * step;
    const LegsBy legs(line, x0, z0, size, (cover.width() + kTile - 1) / kTile, (cover.depth() + kTile - 1) / kTile,
                      most);
    const auto take = [&](int x, int z, const Near& n) {
        const double beyond = n.away - 0.5 * n.width;
        if (beyond <= most) out.at(x, z) = static_cast<float>(std::max(beyond, 0.0));
    };
    for (int tz = 0; tz * kTile < cover.depth(); ++tz)
        for (int tx = 0; tx * kTile < cover.width(); ++tx) {
            const Region square{tx * kTile, tz * kTile, (tx + 1) * kTile, (tz + 1) * kTile};
            if (legs.any(tx, tz))
                eachNear(legs, tx, tz, square.clipped({0, 0, cover.width(), cover.depth()}), x0, z0, step, take);
        }
}

}  // namespace jam
