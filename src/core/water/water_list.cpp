// The list of pools and streams: what may be in it, and what comes and goes.
#include <algorithm>
#include <cmath>
#include <limits>

#include "base/names.h"
#include "base/range.h"
#include "base/text.h"
#include "level/ground.h"
#include "water/rise.h"
#include "water/water.h"

namespace jam {

namespace {

bool waterNamed(const Level& level, const std::string& name, uint32_t self = 0) {
    const auto among = [&](const auto& all) {
        return std::any_of(all.begin(), all.end(), [&](const auto& w) { return w.name == name && w.id != self; });
    };
    return among(level.pools) || among(level.streams);
}

Status checkLook(const WaterLook& l) {
    const Status all[] = {
        checkRange("red", l.colour[0], 0, 1, ""),       checkRange("green", l.colour[1], 0, 1, ""),
        checkRange("blue", l.colour[2], 0, 1, ""),      checkRange("clearness", l.clearness, 0.05, 100, " m"),
        checkRange("waves", l.waves, 0, 3, " m"),       checkRange("wave length", l.waveLength, 0.1, 100, " m"),
        checkRange("roughness", l.roughness, 0, 1, ""), checkRange("foam", l.foam, 0, 10, " m")};
    for (const Status& s : all)
        if (!s) return s;
    return {};
}

}  // namespace

Status checkWaterName(const Level& level, const std::string& name, uint32_t self) {
    if (name.empty()) return Error{"", "name", "it is empty", "give it a name"};
    if (const Status s = checkName(name); !s) return s;
    if (waterNamed(level, name, self))
        return Error{"", "name", "another pool or stream is called \"" + name + "\"", "choose another name"};
    return {};
}

Status checkWaterRoom(const Level& level) {
    if (level.pools.size() + level.streams.size() < kMaxWaters) return {};
    return Error{"", "water",
                 "there are " + std::to_string(kMaxWaters) + " pools and streams, the most a level may have",
                 "delete one first"};
}

Status checkPool(const Level& level, const Pool& pool, uint32_t self) {
    if (const Status s = checkWaterName(level, pool.name, self); !s) return s;
    if (!level.holds(pool.x, pool.z))
        return Error{"", "place", "it lies outside of the level", "put the pool on the ground"};
    if (const Status s = checkRange("height", pool.height, level.lowest, level.highest, " m"); !s) {
        Error e = s.error();
        e.problem += " m, beyond the level's range";
        return e;
    }
    return checkLook(pool.look);
}

Status checkStream(const Level& level, const Stream& stream, uint32_t self) {
    if (const Status s = checkWaterName(level, stream.name, self); !s) return s;
    const Status numbers[] = {
        checkRange("depth", stream.depth, kLeastStreamDepth, kMostStreamDepth, " m"),
        checkRange("roughness of the bed", stream.manning, kLeastManning, kMostManning, " s/m^(1/3)"),
        checkLook(stream.look)};
    for (const Status& s : numbers)
        if (!s) return s;
    // What became of its course since then hinders nobody from naming it or changing its look.
    if (self) return {};
    const Stratum* bed = level.stratum(stream.course);
    if (!bed || !bed->course) return Error{"", "course", "there is no such course", "draw the stream's course first"};
    if (bed->course->use != CourseUse::carve)
        return Error{"", "course", "\"" + bed->name + "\" does not carve, so its line may rise",
                     "let the course carve, or choose one that does"};
    if (bed->course->closed)
        return Error{"", "course", "\"" + bed->name + "\" is closed, so water would run in a circle",
                     "open the course"};
    for (const Stream& o : level.streams)
        if (o.course == stream.course)
            return Error{"", "course", "the stream \"" + o.name + "\" runs there", "choose another course"};
    // Bumps on the way are cut through; one that ends higher than it begins is drawn the wrong way round.
    const auto place = static_cast<size_t>(level.stratumIndex(bed->id));
    const auto heightOf = [&](const Post& p) {
        if (p.height) return static_cast<double>(*p.height);
        Raster<float> h(1, 1);
        const auto [c, r] = nearestSample(level, p.x, p.z);
        readGroundBelow(level, place, {c, r, c + 1, r + 1}, h.view());
        return static_cast<double>(h.at(0, 0));
    };
    const double from = heightOf(bed->course->posts.front()), to = heightOf(bed->course->posts.back());
    if (to > from + 0.01)
        return Error{"", "course",
                     "it would run uphill: it begins at " + number(from) + " m and ends at " + number(to) + " m",
                     "begin it at its spring and end it where it flows to"};
    return {};
}

Result<uint32_t> addPool(Level& level, Pool pool) {
    if (const Status s = checkWaterRoom(level); !s) return s.error();
    if (const Status s = checkPool(level, pool); !s) return s.error();
    pool.id = level.nextId++;
    level.pools.push_back(std::move(pool));
    return level.pools.back().id;
}

Result<uint32_t> addStream(Level& level, Stream stream) {
    if (const Status s = checkWaterRoom(level); !s) return s.error();
    if (const Status s = checkStream(level, stream); !s) return s.error();
    stream.id = level.nextId++;
    stream.surface = TiledGrid<float>(level.columns, level.rows, kDry);
    level.streams.push_back(std::move(stream));
    return level.streams.back().id;
}

void removeWater(Level& level, uint32_t id) {
    std::erase_if(level.pools, [id](const Pool& p) { return p.id == id; });
    std::erase_if(level.streams, [id](const Stream& s) { return s.id == id; });
}

std::string freeWaterName(const Level& level, const std::string& wish) {
    return freeName(wish, [&](const std::string& name) { return waterNamed(level, name); });
}

Result<Pool> poolAt(const Level& level, double x, double z, const Context& context) {
    if (!level.holds(x, z)) return Error{"", "place", "it lies outside of the level", "choose a place on the ground"};
    const std::vector<Brim> brims = brimsAt(level, x, z, waterAt(level, x, z).surface, 1, context);
    if (context.cancelled()) return cancelledError();
    if (brims.empty())
        return Error{"", "place",
                     waterAt(level, x, z).wet() ? "no higher brim holds water here"
                                                : "the ground here holds no water: it would run out of the level",
                     "choose a hollow, or dig one"};
    if (altitudeAt(level, x, z) >= brims[0].height)
        return Error{"", "place",
                     "water runs off here, to x " +
                         number(std::round(level.originX + brims[0].column * level.spacing)) + ", z " +
                         number(std::round(level.originZ + brims[0].row * level.spacing)),
                     "choose a place in a hollow"};
    Pool pool;
    pool.height = std::min(brims[0].height, level.highest);
    pool.x = level.originX + brims[0].column * level.spacing;
    pool.z = level.originZ + brims[0].row * level.spacing;
    return pool;
}

Result<Pool> poolStanding(const Level& level, double x, double z, float height, const Context& context) {
    if (!level.holds(x, z)) return Error{"", "place", "it lies outside of the level", "choose a place on the ground"};
    Pool pool;
    pool.x = x, pool.z = z;
    pool.height = height;
    // Hollows whose brims it stands above are only parts of its bed; the first that holds it counts, or else the
    // largest.
    for (const Brim& b : brimsAt(level, x, z, -std::numeric_limits<float>::infinity(), kMaxWaters, context)) {
        pool.x = level.originX + b.column * level.spacing;
        pool.z = level.originZ + b.row * level.spacing;
        if (b.height >= height) break;
    }
    return pool;
}

}  // namespace jam
