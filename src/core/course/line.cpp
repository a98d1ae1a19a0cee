#include "course/line.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "base/text.h"
#include "course/footprint.h"
#include "level/ground.h"

namespace jam {

namespace {

constexpr size_t kMostPoints = 100'000;

struct OnMap {
    double x, z;
};

double apart(const OnMap& a, const OnMap& b) { return std::hypot(b.x - a.x, b.z - a.z); }

// A point of the centripetal curve from b to c, with the posts before and after.
OnMap onCurve(const OnMap& a, const OnMap& b, const OnMap& c, const OnMap& d, double t) {
    const auto knot = [](double from, const OnMap& p, const OnMap& q) {
        return from + std::max(std::sqrt(apart(p, q)), 1e-6);
    };
    const double t0 = 0, t1 = knot(t0, a, b), t2 = knot(t1, b, c), t3 = knot(t2, c, d), u = t1 + t * (t2 - t1);
    const auto mix = [u](const OnMap& p, const OnMap& q, double from, double to) {
        const double s = (u - from) / (to - from);
        return OnMap{p.x + s * (q.x - p.x), p.z + s * (q.z - p.z)};
    };
    const OnMap ab = mix(a, b, t0, t1), bc = mix(b, c, t1, t2), cd = mix(c, d, t2, t3);
    return mix(mix(ab, bc, t0, t2), mix(bc, cd, t1, t3), t1, t2);
}

// Heights that are known at places along a line, and a curve through them that never swings beyond two neighbours.
class HeightCurve {
public:
    HeightCurve(std::vector<std::pair<double, double>> knots, bool smooth) : knots_(std::move(knots)) {
        const size_t n = knots_.size();
        slopes_.assign(n, 0);
        if (n < 2) return;
        std::vector<double> legs;
        for (size_t i = 0; i + 1 < n; ++i)
            legs.push_back((knots_[i + 1].second - knots_[i].second) /
                           std::max(knots_[i + 1].first - knots_[i].first, 1e-9));
        even_ = !smooth || n == 2;
        slopes_.front() = legs.front();
        slopes_.back() = legs.back();
        for (size_t i = 1; i + 1 < n; ++i)
            slopes_[i] = legs[i - 1] * legs[i] <= 0 ? 0 : 2 * legs[i - 1] * legs[i] / (legs[i - 1] + legs[i]);
        // At the ends too, no steeper than thrice the leg.
        for (size_t i = 0; i + 1 < n; ++i) {
            const double most = 3 * std::abs(legs[i]);
            slopes_[i] = std::clamp(slopes_[i], -most, most);
            slopes_[i + 1] = std::clamp(slopes_[i + 1], -most, most);
        }
    }
    double at(double along) const {
        const auto after = std::upper_bound(knots_.begin(), knots_.end(), along,
                                            [](double v, const auto& k) { return v < k.first; });
        if (after == knots_.begin()) return knots_.front().second;
        if (after == knots_.end()) return knots_.back().second;
        const auto i = static_cast<size_t>(after - knots_.begin()) - 1;
        const auto& [a, ha] = knots_[i];
        const auto& [b, hb] = knots_[i + 1];
        const double t = (along - a) / std::max(b - a, 1e-9);
        if (even_) return ha + t * (hb - ha);
        const double t2 = t * t, t3 = t2 * t;
        return (2 * t3 - 3 * t2 + 1) * ha + (t3 - 2 * t2 + t) * (b - a) * slopes_[i] + (3 * t2 - 2 * t3) * hb +
               (t3 - t2) * (b - a) * slopes_[i + 1];
    }

private:
    std::vector<std::pair<double, double>> knots_;
    std::vector<double> slopes_;
    bool even_ = true;
};

// Where two legs cross, as shares of each; false when they do not.
bool cross(const LinePoint& a, const LinePoint& b, const LinePoint& c, const LinePoint& d, double& s, double& t) {
    const double ux = b.x - a.x, uz = b.z - a.z, vx = d.x - c.x, vz = d.z - c.z, det = ux * vz - uz * vx;
    if (std::abs(det) < 1e-12) return false;
    s = ((c.x - a.x) * vz - (c.z - a.z) * vx) / det;
    t = ((c.x - a.x) * uz - (c.z - a.z) * ux) / det;
    return s >= 0 && s <= 1 && t >= 0 && t <= 1;
}

// Calls f(i, s, k, t) for each crossing of the legs i of one and k of another line, sorted by boxes of legs.
template <class F>
void eachCrossing(const std::vector<LinePoint>& one, const std::vector<LinePoint>& other, F f) {
    constexpr size_t kRun = 32;  // legs in a box
    const auto boxes = [](const std::vector<LinePoint>& line) {
        std::vector<std::array<double, 4>> all;
        for (size_t i = 0; i + 1 < line.size(); i += kRun) {
            std::array<double, 4> b{1e30, 1e30, -1e30, -1e30};
            for (size_t k = i; k <= std::min(i + kRun, line.size() - 1); ++k)
                b = {std::min(b[0], line[k].x), std::min(b[1], line[k].z), std::max(b[2], line[k].x),
                     std::max(b[3], line[k].z)};
            all.push_back(b);
        }
        return all;
    };
    const auto a = boxes(one), b = boxes(other);
    for (size_t p = 0; p < a.size(); ++p)
        for (size_t q = 0; q < b.size(); ++q) {
            if (a[p][0] > b[q][2] || b[q][0] > a[p][2] || a[p][1] > b[q][3] || b[q][1] > a[p][3]) continue;
            for (size_t i = p * kRun; i < std::min((p + 1) * kRun, one.size() - 1); ++i)
                for (size_t k = q * kRun; k < std::min((q + 1) * kRun, other.size() - 1); ++k)
                    if (double s, t; !one[i + 1].starts && !other[k + 1].starts &&
                                     cross(one[i], one[i + 1], other[k], other[k + 1], s, t))
                        f(i, s, k, t);
        }
}

float groundBelow(const Level& level, size_t place, double x, double z) {
    // On the triangles that are drawn, as altitudeAt().
    const double cx = std::clamp(level.toColumn(x), 0.0, level.columns - 1.0),
                 cz = std::clamp(level.toRow(z), 0.0, level.rows - 1.0);
    const int c = std::min(static_cast<int>(cx), level.columns - 2), r = std::min(static_cast<int>(cz), level.rows - 2);
    Raster<float> h(2, 2);
    readGroundBelow(level, place, {c, r, c + 2, r + 2}, h.view());
    const double u = cx - c, v = cz - r, nw = h.at(0, 0), se = h.at(1, 1);
    return static_cast<float>(u >= v ? nw + u * (h.at(1, 0) - nw) + v * (se - h.at(1, 0))
                                     : nw + v * (h.at(0, 1) - nw) + u * (se - h.at(0, 1)));
}

float sunkOf(const Course& course) { return course.use == CourseUse::carve ? course.sunk : 0; }

// A leg for each that stands on a footprint, as wide as the shorter side of its outline.
std::vector<LinePoint> legsOfFootprint(const Level& level, size_t place, const Footprint& footprint) {
    std::vector<LinePoint> line;
    const Kind* kind = level.kind(footprint.kind);
    if (!kind) return line;
    const Outlined o = outlineOfKind(*kind);
    const double wide = o.east - o.west, deep = o.south - o.north;
    int which = 0;
    eachOnFootprint(level, footprint, [&](const Single& s) {
        const double a = static_cast<double>(s.turn) * kRadians, size = s.size;
        const auto at = [&](double x, double z) {
            return OnMap{s.x + size * (x * std::cos(a) - z * std::sin(a)),
                         s.z + size * (x * std::sin(a) + z * std::cos(a))};
        };
        const double x = 0.5 * (o.west + o.east), z = 0.5 * (o.north + o.south);
        const OnMap from = wide > deep ? at(o.west, z) : at(x, o.north),
                    to = wide > deep ? at(o.east, z) : at(x, o.south);
        const double width = std::max(std::min(wide, deep) * size + 2 * static_cast<double>(footprint.margin),
                                      static_cast<double>(kMinCourseWidth));
        const double height = groundBelow(level, place, s.x, s.z), along = line.empty() ? 0 : line.back().along;
        line.push_back({from.x, from.z, along, height, width, footprint.rim, 0, which, true});
        line.push_back({to.x, to.z, along + apart(from, to), height, width, footprint.rim, 0, which});
        ++which;
    });
    return line;
}

// The line on the map, with everything but its height.
std::vector<LinePoint> flatLine(const Level& level, const Course& course) {
    const auto& posts = course.posts;
    if (course.use == CourseUse::pad) {
        const Post& p = posts.front();
        return std::vector<LinePoint>(2, {p.x, p.z, 0, 0, p.width, p.shoulder, 0, 0});
    }
    const int n = static_cast<int>(posts.size()), legs = course.closed ? n : n - 1;
    const auto post = [&](int i) -> const Post& {
        return posts[static_cast<size_t>(course.closed ? (i % n + n) % n : std::clamp(i, 0, n - 1))];
    };
    const auto spot = [&](int i) -> OnMap {
        // Beyond the ends of an open line it goes straight on.
        if (!course.closed && i < 0) return {2 * post(0).x - post(1).x, 2 * post(0).z - post(1).z};
        if (!course.closed && i >= n) return {2 * post(n - 1).x - post(n - 2).x, 2 * post(n - 1).z - post(n - 2).z};
        return {post(i).x, post(i).z};
    };
    double total = 0, reach = 0;
    for (int i = 0; i < legs; ++i) total += apart(spot(i), spot(i + 1));
    for (const Post& p : posts) reach = std::max<double>(reach, 0.5 * p.width + p.shoulder);
    const double step = std::max({0.5 * level.spacing, reach / 8, 1.5 * total / kMostPoints, 1e-3});
    std::vector<LinePoint> line;
    double along = 0;
    for (int i = 0; i < legs; ++i) {
        const Post &a = post(i), &b = post(i + 1);
        const int pieces = std::max(1, static_cast<int>(std::ceil(apart(spot(i), spot(i + 1)) / step)));
        for (int k = i == 0 ? 0 : 1; k <= pieces; ++k) {
            const double t = static_cast<double>(k) / pieces;
            const OnMap p = course.smooth ? onCurve(spot(i - 1), spot(i), spot(i + 1), spot(i + 2), t)
                                          : OnMap{a.x + t * (b.x - a.x), a.z + t * (b.z - a.z)};
            if (!line.empty()) along += std::hypot(p.x - line.back().x, p.z - line.back().z);
            const auto between = [t](float u, float v) { return u + t * (static_cast<double>(v) - u); };
            line.push_back({p.x, p.z, along, 0, between(a.width, b.width), between(a.shoulder, b.shoulder),
                            between(a.banking, b.banking), k == pieces ? i + 1 : i});
        }
    }
    return line;
}

// Means over a few points on either side, so that a bed neither jumps nor has steps.
void soften(std::vector<double>& heights, int by) {
    const std::vector<double> before = heights;
    const int n = static_cast<int>(before.size());
    for (int i = 0; i < n; ++i) {
        const int reach = std::min({by, i, n - 1 - i});
        double sum = 0;
        for (int k = i - reach; k <= i + reach; ++k) sum += before[static_cast<size_t>(k)];
        heights[static_cast<size_t>(i)] = sum / (2 * reach + 1);
    }
}

// Between posts that follow the ground a bed follows it too where that lies lower, but never rises.
void followGroundDown(const Level& level, size_t place, std::vector<LinePoint>& line) {
    const Course& course = *level.strata[place].course;
    const auto free = [&](int post) {
        return !course.posts[static_cast<size_t>(post) % course.posts.size()].height.has_value();
    };
    const int last = static_cast<int>(course.posts.size()) - 1;
    const int by = std::max(1, static_cast<int>(2 * level.spacing / std::max(line[1].along - line[0].along, 1e-3)));
    for (size_t i = 0; i < line.size();) {
        size_t end = i;
        while (end < line.size() && free(line[end].post) && free(std::min(line[end].post + 1, last))) ++end;
        if (end - i < 3) {
            i = std::max(end, i + 1);
            continue;
        }
        std::vector<double> heights;
        for (size_t k = i; k < end; ++k)
            heights.push_back(groundBelow(level, place, line[k].x, line[k].z) - sunkOf(course));
        soften(heights, by);
        for (size_t k = 1; k < heights.size(); ++k) heights[k] = std::min(heights[k], heights[k - 1]);
        soften(heights, 2 * by);
        for (size_t k = i; k < end; ++k) line[k].height = std::min(line[k].height, heights[k - i]);
        i = end;
    }
}

std::vector<LinePoint> lineAt(const Level& level, size_t place, CourseLines& lines) {
    const Course& course = *level.strata[place].course;
    if (course.footprint) return legsOfFootprint(level, place, *course.footprint);
    std::vector<LinePoint> line = flatLine(level, course);
    // Heights of posts, at their places along the line.
    std::vector<std::pair<double, double>> knots;
    const int n = static_cast<int>(course.posts.size());
    int seen = -1;
    for (const LinePoint& p : line) {
        if (p.post == seen) continue;
        seen = p.post;
        const Post& post = course.posts[static_cast<size_t>(p.post % n)];
        knots.emplace_back(p.along, post.height ? *post.height
                                    : course.use == CourseUse::bank
                                        ? 0
                                        : groundBelow(level, place, post.x, post.z) - sunkOf(course));
    }
    // Where it meets courses below. Those may meet others in turn.
    if (course.meets && course.use == CourseUse::grade)
        for (size_t i = 0; i < place; ++i) {
            const Stratum& s = level.strata[i];
            if (!s.visible || !s.course || s.course->use == CourseUse::bank) continue;
            const std::vector<LinePoint>& other = lines.of(i);
            eachCrossing(line, other, [&](size_t a, double u, size_t b, double v) {
                const double along = line[a].along + u * (line[a + 1].along - line[a].along);
                const double height = other[b].height + v * (other[b + 1].height - other[b].height);
                std::erase_if(knots, [&](const auto& k) { return std::abs(k.first - along) < level.spacing; });
                knots.emplace_back(along, height);
            });
        }
    std::sort(knots.begin(), knots.end());
    const HeightCurve heights(std::move(knots), course.smooth);
    for (LinePoint& p : line) p.height = heights.at(p.along);
    if (course.use == CourseUse::carve) {
        followGroundDown(level, place, line);
        for (size_t i = 1; i < line.size(); ++i) line[i].height = std::min(line[i].height, line[i - 1].height);
    }
    return line;
}

}  // namespace

std::vector<LinePoint> lineOf(const Level& level, size_t place) {
    CourseLines lines(level);
    return lineAt(level, place, lines);
}

const std::vector<LinePoint>& CourseLines::of(size_t place) {
    if (!lines_[place]) lines_[place] = lineAt(level_, place, *this);
    return *lines_[place];
}

CourseFigures courseFigures(const Level& level, size_t place) {
    CourseFigures f;
    const Stratum& s = level.strata[place];
    const std::vector<LinePoint> line = lineOf(level, place);
    f.length = line.empty() ? 0 : line.back().along;
    for (size_t i = 0; i + 1 < line.size(); ++i) {
        const double rise = line[i + 1].height - line[i].height, run = line[i + 1].along - line[i].along;
        (rise > 0 ? f.climb : f.fall) += std::abs(rise);
        if (run > 1e-6) f.steepest = std::max(f.steepest, std::atan(std::abs(rise) / run) * kDegrees);
    }
    if (s.course->use == CourseUse::carve) {
        double lowest = 1e30;
        for (size_t i = 0; i < s.course->posts.size(); ++i) {
            const Post& p = s.course->posts[i];
            const double h = p.height ? *p.height : groundBelow(level, place, p.x, p.z) - sunkOf(*s.course);
            if (f.rises < 0 && h > lowest + 1e-3) f.rises = static_cast<int>(i);
            lowest = std::min(lowest, h);
        }
    }
    Raster<float> below, with;
    const double area = level.spacing * level.spacing;
    for (int tz = 0; tz < s.heights.tilesDown(); ++tz)
        for (int tx = 0; tx < s.heights.tilesAcross(); ++tx) {
            const float *h = s.heights.tile(tx, tz), *w = s.owned.tile(tx, tz);
            if (!h && !w) continue;
            const Region tile = s.heights.tileRegion(tx, tz);
            below.reshape(tile.width(), tile.depth());
            readGroundBelow(level, place, tile, below.view());
            for (int z = 0; z < tile.depth(); ++z)
                for (int x = 0; x < tile.width(); ++x) {
                    const int at = z * TiledGrid<float>::kTile + x;
                    const double change = (h ? h[at] : 0) - (w ? w[at] * below.at(x, z) : 0);
                    (change > 0 ? f.fill : f.cut) += std::abs(change) * area;
                }
        }
    return f;
}

bool crossesItself(const std::vector<LinePoint>& line) {
    bool crosses = false;
    eachCrossing(line, line, [&](size_t a, double, size_t b, double) {
        // Neighbours share a point, and a closed line's ends do.
        const bool ends = std::min(a, b) == 0 && std::max(a, b) + 2 == line.size();
        crosses = crosses || (std::max(a, b) - std::min(a, b) > 1 && !ends);
    });
    return crosses;
}

namespace {

Error wrongPost(size_t post, const char* what, const std::string& problem, const std::string& remedy) {
    return {"", "post " + std::to_string(post + 1) + (*what ? std::string(", ") + what : ""), problem, remedy};
}

}  // namespace

Status checkNewCourse(const Level& level, const Course& course) {
    for (size_t i = 0; i < course.posts.size(); ++i)
        if (!level.holds(course.posts[i].x, course.posts[i].z))
            return wrongPost(i, "", "it lies outside of the level", "put it on the ground");
    return checkCourse(course);
}

Status checkCourse(const Course& course) {
    const auto& posts = course.posts;
    if (course.use == CourseUse::pad) {
        if (posts.size() != 1) return Error{"", "posts", "a pad has " + std::to_string(posts.size()), "give it one"};
    } else if (course.use == CourseUse::footprint) {
        if (!posts.empty() || !course.footprint)
            return Error{"", "posts", "a footprint has no posts, and says what it makes", "leave them out"};
        return checkFootprint(*course.footprint);
    } else if (posts.size() < 2)
        return Error{"", "posts", posts.empty() ? "there are none" : "there is only one", "give at least two"};
    if (!(course.sunk >= 0 && course.sunk <= kMaxSunk))
        return Error{"", "sunk", "it is " + number(course.sunk), "use 0 to " + number(kMaxSunk) + " m"};
    if (posts.size() > kMaxPosts)
        return Error{"", "posts", "there are " + std::to_string(posts.size()),
                     "give at most " + std::to_string(kMaxPosts)};
    for (size_t i = 0; i < posts.size(); ++i) {
        const Post& p = posts[i];
        if (!(std::abs(p.x) <= kFarPlace && std::abs(p.z) <= kFarPlace))
            return wrongPost(i, "", "it lies too far away", "put it on the ground");
        const struct {
            const char* name;
            float value, low, high;
            const char* unit;
        } ranges[] = {{"width", p.width, kMinCourseWidth, kMaxCourseWidth, " m"},
                      {"shoulder", p.shoulder, 0, kMaxCourseWidth, " m"},
                      {"banking", p.banking, -kMaxBanking, kMaxBanking, " degrees"},
                      {"height", p.height.value_or(0), -kFarHeight, kFarHeight, " m"}};
        for (const auto& r : ranges)
            if (!(std::isfinite(r.value) && r.value >= r.low && r.value <= r.high))
                return wrongPost(i, r.name, "it is " + number(r.value),
                                 "use " + number(r.low) + " to " + number(r.high) + r.unit);
        if (i > 0 && std::hypot(p.x - posts[i - 1].x, p.z - posts[i - 1].z) < 1e-3)
            return wrongPost(i, "", "it stands where the one before does", "move or delete it");
    }
    return {};
}

}  // namespace jam
