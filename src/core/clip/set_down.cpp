#include "clip/set_down.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "base/names.h"
#include "base/parallel.h"
#include "base/range.h"
#include "base/text.h"
#include "brush/stroke.h"
#include "clip/clip.h"
#include "clip/fit_layers.h"
#include "clip/lay_things.h"
#include "course/line.h"
#include "grid/distance.h"
#include "level/between.h"
#include "level/ground.h"
#include "level/hold_outside.h"
#include "level/resize.h"
#include "level/strata.h"

namespace jam {

namespace {

constexpr std::array<std::string_view, kClipJoins> kJoinNames = {"replace", "add", "higher", "lower"};
constexpr double kOnSample = 1e-6;  // of a sample: as near counts as on it

// Cosine and sine of a turn; exact for quarters, so that samples fall on samples.
struct Turn {
    double c, s;

    explicit Turn(double degrees) {
        const double quarters = degrees / 90;
        if (quarters == std::floor(quarters)) {
            const int q = ((static_cast<int>(quarters) % 4) + 4) % 4;
            c = q == 0 ? 1 : q == 2 ? -1 : 0;
            s = q == 1 ? 1 : q == 3 ? -1 : 0;
        } else {
            c = std::cos(degrees * kRadians), s = std::sin(degrees * kRadians);
        }
    }
};

// Between metres from a clip's middle and metres on the map.
class Frame {
public:
    explicit Frame(const Placement& p) : p_(p), turn_(p.turn) {}

    MapPlace onMap(double east, double south) const {
        const double e = (p_.mirror ? -east : east) * p_.scale, s = south * p_.scale;
        return {p_.x + e * turn_.c - s * turn_.s, p_.z + e * turn_.s + s * turn_.c};
    }
    // The other way round.
    MapPlace onClip(double x, double z) const {
        const double dx = x - p_.x, dz = z - p_.z;
        const double e = (dx * turn_.c + dz * turn_.s) / p_.scale, s = (dz * turn_.c - dx * turn_.s) / p_.scale;
        return {p_.mirror ? -e : e, s};
    }

private:
    const Placement& p_;
    Turn turn_;
};

double snapped(double sample) {
    const double nearest = std::round(sample);
    return std::abs(sample - nearest) < kOnSample ? nearest : sample;
}

// Keys, "Cubic convolution interpolation", 1981; over the edge the nearest sample counts. Exact on samples.
float cubicAt(const Raster<float>& h, double column, double row) {
    const int c = static_cast<int>(std::floor(column)), r = static_cast<int>(std::floor(row));
    const double u = column - c, v = row - r;
    const auto at = [&](int x, int z) {
        return h.at(std::clamp(x, 0, h.width() - 1), std::clamp(z, 0, h.depth() - 1));
    };
    if (u == 0 && v == 0) return at(c, r);
    const auto taps = [](double t, double(&w)[4]) {
        w[0] = ((-0.5 * t + 1) * t - 0.5) * t;
        w[1] = (1.5 * t - 2.5) * t * t + 1;
        w[2] = ((-1.5 * t + 2) * t + 0.5) * t;
        w[3] = (0.5 * t - 0.5) * t * t;
    };
    double across[4], down[4], sum = 0;
    taps(u, across);
    taps(v, down);
    for (int z = 0; z < 4; ++z)
        for (int x = 0; x < 4; ++x) sum += down[z] * across[x] * at(c - 1 + x, r - 1 + z);
    return static_cast<float>(sum);
}

Status checkPlace(const Placement& p) {
    const Status all[] = {
        checkRange("x", p.x, -1e7, 1e7, " m"),
        checkRange("z", p.z, -1e7, 1e7, " m"),
        checkRange("turn", p.turn, -360, 360, " degrees"),
        checkRange("scale", p.scale, kMinClipScale, kMaxClipScale, ""),
        checkRange("height scale", p.heightScale, -kMaxClipScale, kMaxClipScale, ""),
        checkRange("raise", p.raise, -kFarHeight, kFarHeight, " m"),
    };
    for (const Status& s : all)
        if (!s) return s;
    return {};
}

// A clip as it is read from while it is set down: no coarser than it was and no finer than the level needs.
struct Ready {
    Level clip;
    double halfEast, halfSouth;  // metres from its middle to its edge, as it was
    Raster<float> heights, share;
    double foot;
};

// How much each sample of the clip counts: its shape, fading in from its edge over `feather` metres.
Raster<float> sharesOf(const Level& clip, double feather) {
    Raster<float> share(clip.columns, clip.rows, 1.f);
    const auto inside = [&](int x, int z) { return !clip.fenced || clip.fence.at(x, z) > 0; };
    for (int z = 0; z < clip.rows; ++z)
        for (int x = 0; x < clip.columns; ++x)
            if (clip.fenced) share.at(x, z) = static_cast<float>(clip.fence.at(x, z)) / kInside;
    if (feather <= 0) return share;
    // One sample beyond every side counts as outside.
    const Region all = clip.bounds(), round = all.grown(1);
    const double most = feather / clip.spacing + 1;
    const Raster<float> away = distancesTo(all, round, most,
                                           [&](int x, int z) { return !all.contains(x, z) || !inside(x, z); });
    for (int z = 0; z < clip.rows; ++z)
        for (int x = 0; x < clip.columns; ++x)
            share.at(x, z) *= static_cast<float>(smoothstep((away.at(x, z) - 1) * clip.spacing / feather));
    return share;
}

Result<Ready> prepare(const Level& level, const Level& clip, double scale, const SetDownWish& wish,
                      const Context& context) {
    Ready r{clip, clip.width() / 2, clip.depth() / 2, {}, {}, clipFoot(clip)};
    const double finer = level.spacing / (clip.spacing * scale);
    if (finer > 1 + 1e-9) {
        const double spacing = clip.spacing * finer;
        const int columns = static_cast<int>(std::ceil(clip.width() / spacing - 1e-9)) + 1,
                  rows = static_cast<int>(std::ceil(clip.depth() / spacing - 1e-9)) + 1;
        Result<Level> coarser = resampleLevel(clip, std::max(columns, kMinSamples), std::max(rows, kMinSamples),
                                              spacing, context);
        if (!coarser) return coarser.error();
        r.clip = coarser.take();
    }
    r.heights = Raster<float>(r.clip.columns, r.clip.rows);
    readGround(r.clip, r.clip.bounds(), r.heights.view());
    r.share = sharesOf(r.clip, wish.feather / scale);
    return r;
}

// The place moved so that samples fall on samples, where they can.
Placement onSamples(const Level& level, const Ready& r, Placement p) {
    if (std::abs(r.clip.spacing * p.scale / level.spacing - 1) > 1e-9 || std::fmod(p.turn, 90) != 0) return p;
    const MapPlace first = Frame(p).onMap(-r.halfEast, -r.halfSouth);
    const double column = level.toColumn(first.x), row = level.toRow(first.z);
    p.x += (std::round(column) - column) * level.spacing;
    p.z += (std::round(row) - row) * level.spacing;
    return p;
}

// One placed clip at work on a level.
class Laying {
public:
    Laying(Level& level, const Ready& ready, const Placement& place, const SetDownWish& wish)
        : level_(level), r_(ready), p_(onSamples(level, ready, place)), wish_(wish), frame_(p_) {
        double x0 = 1e18, z0 = 1e18, x1 = -1e18, z1 = -1e18;
        for (const double e : {-r_.halfEast, r_.halfEast})
            for (const double s : {-r_.halfSouth, r_.halfSouth}) {
                const MapPlace m = frame_.onMap(e, s);
                x0 = std::min(x0, level.toColumn(m.x)), x1 = std::max(x1, level.toColumn(m.x));
                z0 = std::min(z0, level.toRow(m.z)), z1 = std::max(z1, level.toRow(m.z));
            }
        const auto whole = [](double v) { return static_cast<int>(std::clamp(v, -1e8, 1e8)); };
        box_ = Region{whole(std::floor(x0 + kOnSample)), whole(std::floor(z0 + kOnSample)),
                      whole(std::ceil(x1 - kOnSample)) + 1, whole(std::ceil(z1 - kOnSample)) + 1}
                   .clipped(level.bounds());
    }
    const Region& box() const { return box_; }

    Status layHeights(const Context& context) {
        const float add = static_cast<float>(p_.raise);
        return inBands(box_, context, [&](const Region& band) -> Status {
            Raster<float> before(band.width(), band.depth()), after;
            readGround(level_, band, before.view());
            after = before;
            std::atomic<bool> left = false;
            parallelFor(band.depth(), 8, [&](int first, int end) {
                for (int z = first; z < end; ++z)
                    for (int x = 0; x < band.width(); ++x) {
                        const auto [c, r, share] = on(band.x0 + x, band.z0 + z, 1);
                        if (share <= 0) continue;
                        const float h = cubicAt(r_.heights, c, r), foot = static_cast<float>(r_.foot);
                        // Without a scale of its own it comes through to the bit.
                        const float own = p_.heightScale == 1
                                              ? h + add
                                              : foot + static_cast<float>(p_.heightScale) * (h - foot) + add;
                        float& a = after.at(x, z);
                        const float b = a;
                        const float to = wish_.join == ClipJoin::replace  ? own
                                         : wish_.join == ClipJoin::add    ? b + (own - foot)
                                         : wish_.join == ClipJoin::higher ? std::max(b, own)
                                                                          : std::min(b, own);
                        a = share >= 1 ? to : b + (to - b) * share;
                        if (a < level_.lowest || a > level_.highest) left = true;
                    }
            });
            if (left) return beyondRange(after.view());
            writeGround(level_, band, before.view(), after.view());
            return {};
        });
    }

    Status layCover(const Context& context) {
        const int f = level_.coverFactor;
        const Region cover{box_.x0 * f, box_.z0 * f, (box_.x1 - 1) * f + 1, (box_.z1 - 1) * f + 1};
        const double finer = r_.clip.coverFactor;
        return inBands(cover, context, [&](const Region& band) -> Status {
            Raster<Sampled> spots(band.width(), band.depth());
            for (int z = 0; z < band.depth(); ++z)
                for (int x = 0; x < band.width(); ++x) spots.at(x, z) = on(band.x0 + x, band.z0 + z, f);
            parallelFor(static_cast<int>(level_.layers.size()), 1, [&](int first, int end) {
                for (int i = first; i < end; ++i) {
                    Layer& own = level_.layers[static_cast<size_t>(i)];
                    if (own.locked || own.hidden) continue;
                    const TiledGrid<uint16_t>& from = r_.clip.layers[static_cast<size_t>(i)].coverage;
                    mix(own.coverage, band, spots,
                        [&](const Sampled& s) { return shareBetween(from, s.column * finer, s.row * finer); });
                    // What it laid is the hand's own.
                    if (own.alive) mix(own.held, band, spots, [&](const Sampled&) { return uint16_t{65535}; });
                }
            });
            return {};
        });
    }

    // `kinds`: of each kind of the clip, the id of the level's, or 0.
    Status layPlantings(const std::vector<uint32_t>& kinds, const Context& context) {
        const int f = level_.coverFactor;
        const Region cover{box_.x0 * f, box_.z0 * f, (box_.x1 - 1) * f + 1, (box_.z1 - 1) * f + 1};
        const double finer = r_.clip.coverFactor;
        const Status done = inBands(cover, context, [&](const Region& band) -> Status {
            Raster<Sampled> spots(band.width(), band.depth());
            for (int z = 0; z < band.depth(); ++z)
                for (int x = 0; x < band.width(); ++x) spots.at(x, z) = on(band.x0 + x, band.z0 + z, f);
            for (size_t i = 0; i < kinds.size(); ++i) {
                Kind* own = level_.kind(kinds[i]);
                if (!own || own->locked || own->hidden) continue;
                const TiledGrid<uint16_t>& from = r_.clip.kinds[i].coverage;
                if (from.presentTiles() == 0 && own->coverage.presentTiles() == 0) continue;
                mix(own->coverage, band, spots,
                    [&](const Sampled& s) { return shareBetween(from, s.column * finer, s.row * finer); });
                if (own->alive) mix(own->held, band, spots, [&](const Sampled&) { return uint16_t{65535}; });
                const TiledGrid<uint16_t>& sizes = r_.clip.kinds[i].sizes;
                if (sizes.presentTiles() == 0 && own->sizes.presentTiles() == 0) continue;
                mix(own->sizes, band, spots,
                    [&](const Sampled& s) { return shareBetween(sizes, s.column * finer, s.row * finer); });
            }
            return {};
        });
        if (!done) return done;
        return laySingles(
            level_, r_.clip, kinds, p_,
            [this](double x, double z) { return frame_.onMap(x - r_.halfEast, z - r_.halfSouth); },
            [this](double x, double z) {
                const auto [c, row] = nearestSample(level_, x, z);
                return on(c, row, 1).share > 0.5f && fenceShare(level_, c, row) > 0.5f;
            });
    }

    Status layRest(const Context& context) {
        return inBands(box_, context, [&](const Region& band) -> Status {
            Raster<Sampled> spots(band.width(), band.depth());
            for (int z = 0; z < band.depth(); ++z)
                for (int x = 0; x < band.width(); ++x) spots.at(x, z) = on(band.x0 + x, band.z0 + z, 1);
            if (wish_.wash)
                mix(level_.wash, band, spots,
                    [&](const Sampled& s) { return washBetween(r_.clip.wash, s.column, s.row); });
            if (!wish_.gaps) return {};
            for (Gaps Level::*const gaps : {&Level::opening, &Level::noLand})
                if ((r_.clip.*gaps).presentTiles() > 0 || (level_.*gaps).presentTiles() > 0)
                    mix(level_.*gaps, band, spots,
                        [&](const Sampled& s) { return shareBetween(r_.clip.*gaps, s.column, s.row); });
            return {};
        });
    }

private:
    // A sample of the clip, and how much it counts.
    struct Sampled {
        double column = 0, row = 0;
        float share = 0;
    };

    // What lies on sample (column, row) of the level, with `factor` samples to a ground sample.
    Sampled on(int column, int row, int factor) const {
        const double step = level_.spacing / factor;
        const MapPlace m = frame_.onClip(level_.originX + column * step, level_.originZ + row * step);
        if (std::abs(m.x) > r_.halfEast + kOnSample || std::abs(m.z) > r_.halfSouth + kOnSample) return {};
        Sampled s{snapped((m.x + r_.halfEast) / r_.clip.spacing), snapped((m.z + r_.halfSouth) / r_.clip.spacing), 0};
        const double c = std::clamp(s.column, 0.0, r_.clip.columns - 1.0),
                     r = std::clamp(s.row, 0.0, r_.clip.rows - 1.0);
        const int x = std::min(static_cast<int>(c), r_.clip.columns - 2),
                  z = std::min(static_cast<int>(r), r_.clip.rows - 2);
        const auto u = static_cast<float>(c - x), v = static_cast<float>(r - z);
        const Raster<float>& w = r_.share;
        s.share = (w.at(x, z) * (1 - u) + w.at(x + 1, z) * u) * (1 - v) +
                  (w.at(x, z + 1) * (1 - u) + w.at(x + 1, z + 1) * u) * v;
        return s;
    }

    // Draws a raster towards what `from` says of each spot, by its share.
    template <class T, class From>
    static void mix(TiledGrid<T>& grid, const Region& band, const Raster<Sampled>& spots, From from) {
        Raster<T> now(band.width(), band.depth());
        grid.read(band, now.view());
        for (int z = 0; z < band.depth(); ++z)
            for (int x = 0; x < band.width(); ++x)
                if (const Sampled& s = spots.at(x, z); s.share > 0)
                    now.at(x, z) = s.share >= 1 ? from(s) : mixed(now.at(x, z), from(s), s.share);
        grid.write(band, now.view());
    }

    template <class F>
    static Status inBands(const Region& region, const Context& context, F f) {
        constexpr int kBand = 64;
        for (int z = region.z0; z < region.z1; z += kBand) {
            if (context.cancelled()) return cancelledError();
            if (const Status s = f(Region{region.x0, z, region.x1, std::min(z + kBand, region.z1)}); !s) return s;
        }
        return {};
    }

    Error beyondRange(View<const float> after) const {
        float low = level_.lowest, high = level_.highest;
        for (int z = 0; z < after.depth; ++z)
            for (int x = 0; x < after.width; ++x)
                low = std::min(low, after.at(x, z)), high = std::max(high, after.at(x, z));
        return Error{
            "", "raise",
            high > level_.highest ? "the clip would come up to " + number(high) + " m and the level ends at " +
                                        number(level_.highest) + " m"
                                  : "the clip would come down to " + number(low) + " m and the level ends at " +
                                        number(level_.lowest) + " m",
            high > level_.highest ? "lower it, or let it sit on the ground" : "raise it, or let it sit on the ground"};
    }

    Level& level_;
    const Ready& r_;
    const Placement p_;
    const SetDownWish& wish_;
    Frame frame_;
    Region box_;
};

Status checkWish(const Level& level, const Level& clip, const std::vector<Placement>& places, const SetDownWish& wish) {
    if (Status s = checkRange("feather", wish.feather, 0, 1000, " m"); !s) return s;
    if (places.empty()) return Error{"", "places", "there are none", "give at least one place"};
    if (!wish.heights && !wish.cover && !wish.wash && !wish.gaps && !wish.plantings)
        return Error{"", "clip", "nothing of it is chosen", "choose its heights, its cover, its wash or its openings"};
    for (const Placement& p : places) {
        if (Status s = checkPlace(p); !s) return s;
        if (clip.width() * p.scale > level.width() * (1 + 1e-9) && clip.depth() * p.scale > level.depth() * (1 + 1e-9))
            return Error{"", "scale",
                         "the clip would be " + number(clip.width() * p.scale) + " x " +
                             number(clip.depth() * p.scale) + " m and the level is " + number(level.width()) + " x " +
                             number(level.depth()) + " m",
                         "make it smaller, or lift a smaller piece"};
    }
    if (level.fenced && fenceEmpty(level))
        return Error{"", "fence", "it holds nothing, so nothing would change", "drop it, or draw another"};
    return {};
}

}  // namespace

std::string_view clipJoinName(ClipJoin join) { return kJoinNames[static_cast<size_t>(join)]; }
std::optional<ClipJoin> clipJoinFromName(std::string_view name) { return fromName<ClipJoin>(kJoinNames, name); }

std::array<MapPlace, 4> cornersOf(const Level& clip, const Placement& place) {
    const Frame frame(place);
    const double e = clip.width() / 2, s = clip.depth() / 2;
    return {frame.onMap(-e, -s), frame.onMap(e, -s), frame.onMap(e, s), frame.onMap(-e, s)};
}

double raiseToSit(const Level& level, const Level& clip, const Placement& place) {
    const Frame frame(place);
    double sum = 0, count = 0;
    for (const RimSample& s : rimOf(clip)) {
        const MapPlace m = frame.onMap(s.column * clip.spacing - clip.width() / 2,
                                       s.row * clip.spacing - clip.depth() / 2);
        if (!level.holds(m.x, m.z)) continue;
        sum += altitudeAt(level, m.x, m.z);
        ++count;
    }
    return count > 0 ? sum / count - clipFoot(clip) : 0;
}

std::vector<MapPlace> courseLine(const Level& level, size_t place) {
    std::vector<MapPlace> line;
    for (const LinePoint& p : lineOf(level, place)) line.push_back({p.x, p.z});
    return line;
}

Result<Level> setDown(const Level& level, const Level& clip, const std::vector<Placement>& places,
                      const SetDownWish& wish, const Context& context) {
    if (const Status s = checkWish(level, clip, places, wish); !s) return s.error();
    Level next = level;
    Level fitted = clip;
    const bool cover = wish.cover && !clip.layers.empty();
    if (cover)
        if (const Status s = fitLayers(next, fitted); !s) return s.error();
    std::vector<uint32_t> kinds;
    if (wish.plantings && !clip.kinds.empty()) {
        Result<std::vector<uint32_t>> fit = fitKinds(next, clip);
        if (!fit) return fit.error();
        kinds = fit.take();
    }
    if (wish.heights && !wish.stratum.empty()) {
        if (next.strata.size() >= kMaxStrata)
            return Error{"", "stratum", "the level has " + std::to_string(kMaxStrata) + " strata already",
                         "merge some first"};
        next.activeStratum = addStratum(next, wish.stratum, static_cast<int>(next.strata.size()) - 1);
    }
    if (wish.heights)
        if (const Status s = checkShapeable(next); !s) return s.error();
    const Level before = next;
    std::optional<Ready> ready;
    double readyFor = 0;
    bool met = false;
    for (size_t i = 0; i < places.size(); ++i) {
        Placement p = places[i];
        if (!ready || readyFor != p.scale) {
            Result<Ready> made = prepare(next, fitted, p.scale, wish, context);
            if (!made) return made.error();
            ready = made.take();
            readyFor = p.scale;
        }
        if (wish.sit) p.raise += raiseToSit(next, fitted, p);
        Laying laying(next, *ready, p, wish);
        if (laying.box().empty()) continue;
        met = true;
        if (wish.heights)
            if (const Status s = laying.layHeights(context); !s) return s.error();
        if (wish.heights && wish.join == ClipJoin::replace)
            if (const Status s = layPools(next, fitted, p,
                                          [frame = Frame(p), &fitted](double east, double south) {
                                              return frame.onMap(east - fitted.width() / 2, south - fitted.depth() / 2);
                                          });
                !s)
                return s.error();
        if (cover)
            if (const Status s = laying.layCover(context); !s) return s.error();
        if (wish.wash || wish.gaps)
            if (const Status s = laying.layRest(context); !s) return s.error();
        if (!kinds.empty())
            if (const Status s = laying.layPlantings(kinds, context); !s) return s.error();
        context.report(static_cast<double>(i + 1) / static_cast<double>(places.size()));
    }
    if (!met) return Error{"", "x", "the clip would lie wholly beside the level", "put its middle on the level"};
    holdOutside(before, next);
    return next;
}

Result<std::vector<Placement>> placesAlong(const std::vector<MapPlace>& line, double spacing, const Placement& like) {
    if (!(spacing >= 0.01 && spacing <= 1e5))
        return Error{"", "spacing", "it is " + number(spacing), "use 0.01 to 100000 m"};
    double length = 0;
    for (size_t i = 1; i < line.size(); ++i) length += std::hypot(line[i].x - line[i - 1].x, line[i].z - line[i - 1].z);
    if (!(length > 0)) return Error{"", "line", "it has no length", "give at least two places apart from each other"};
    if (length / spacing > static_cast<double>(kMostPlaces - 1))
        return Error{"", "spacing",
                     "the clip would be set down " + number(std::floor(length / spacing) + 1) + " times, more than " +
                         std::to_string(kMostPlaces),
                     "widen the spacing or shorten the line"};
    std::vector<Placement> places;
    double along = 0, next = 0;
    for (size_t i = 1; i < line.size(); ++i) {
        const double dx = line[i].x - line[i - 1].x, dz = line[i].z - line[i - 1].z, leg = std::hypot(dx, dz);
        // A hair beyond the end still counts, so that whole numbers of spacings reach it.
        for (; leg > 0 && next <= along + leg + 1e-9 * length; next += spacing) {
            const double t = std::clamp((next - along) / leg, 0.0, 1.0);
            Placement p = like;
            p.x = line[i - 1].x + t * dx;
            p.z = line[i - 1].z + t * dz;
            p.turn = std::remainder(like.turn + std::atan2(dz, dx) * kDegrees, 360);
            places.push_back(p);
        }
        along += leg;
    }
    return places;
}

}  // namespace jam
