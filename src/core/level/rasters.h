// Every raster of a level, described once: name, resolution, default, what it shows. History's budget, changes,
// resizing, checks and the level file walk this list. Adding one is a member, a line here, and a codec when its samples
// are of a new type (files/raster_codec.h).
#pragma once

#include <tuple>

#include "level/level.h"

namespace jam {

enum class Resolution { ground, cover };
// What is seen of it: part of the composed ground, of the layers' weights, of the wash, of where there is no ground, of
// the water, of what stands there; or nothing by itself.
enum class Shows { ground, weights, wash, gaps, water, plantings, nothing };
inline constexpr Shows kAllShown[] = {Shows::ground, Shows::weights, Shows::wash,
                                      Shows::gaps,   Shows::water,   Shows::plantings};

// What of it lies on the cover's samples and not on the ground's.
constexpr bool onCover(Shows shows) { return shows == Shows::weights || shows == Shows::plantings; }

// `stored`: it is part of files; otherwise a follower makes it anew.
template <class O, class T, bool stored = true>
struct RasterKind {
    using Owner = O;
    using Sample = T;
    static constexpr bool kStored = stored;
    const char* name;  // in files: the folder of its parts, or the part itself
    TiledGrid<T> O::*grid;
    Resolution resolution;
    Shows shows;
    bool (*there)(const O&);  // null: always; otherwise it has no samples when false
    T usual{};                // where nobody has been
};

inline bool mixes(const Stratum& stratum) { return stratum.mixes(); }
template <class Owner>
bool isAlive(const Owner& owner) {
    return owner.alive;
}

inline constexpr std::tuple kLevelRasters{
    RasterKind<Level, Wash>{"wash", &Level::wash, Resolution::ground, Shows::wash, nullptr},
    RasterKind<Level, uint8_t>{"opening", &Level::opening, Resolution::ground, Shows::gaps, nullptr},
    RasterKind<Level, uint8_t>{"noLand", &Level::noLand, Resolution::ground, Shows::gaps, nullptr},
    RasterKind<Level, uint8_t, false>{"hatches", &Level::hatches, Resolution::ground, Shows::gaps, nullptr},
    RasterKind<Level, uint16_t>{"fence", &Level::fence, Resolution::ground, Shows::nothing, nullptr},
    RasterKind<Level, Wet, false>{"water", &Level::water, Resolution::ground, Shows::water, nullptr}};
inline constexpr std::tuple kStreamRasters{
    RasterKind<Stream, float, false>{"streams", &Stream::surface, Resolution::ground, Shows::nothing, nullptr, kDry}};
inline constexpr std::tuple kFenceRasters{
    RasterKind<KeptFence, uint16_t>{"fences", &KeptFence::mask, Resolution::ground, Shows::nothing, nullptr}};
inline constexpr std::tuple kStratumRasters{
    RasterKind<Stratum, float>{"strata", &Stratum::heights, Resolution::ground, Shows::ground, nullptr},
    RasterKind<Stratum, float>{"owned", &Stratum::owned, Resolution::ground, Shows::ground, mixes}};
inline constexpr std::tuple kLayerRasters{
    RasterKind<Layer, uint16_t>{"coverage", &Layer::coverage, Resolution::cover, Shows::weights, nullptr},
    RasterKind<Layer, uint16_t>{"base", &Layer::base, Resolution::cover, Shows::nothing, isAlive<Layer>},
    RasterKind<Layer, uint16_t>{"held", &Layer::held, Resolution::cover, Shows::nothing, isAlive<Layer>}};
inline constexpr std::tuple kKindRasters{
    RasterKind<Kind, uint16_t>{"plantings", &Kind::coverage, Resolution::cover, Shows::plantings, nullptr},
    RasterKind<Kind, uint16_t>{"plantingsBase", &Kind::base, Resolution::cover, Shows::nothing, isAlive<Kind>},
    RasterKind<Kind, uint16_t>{"plantingsHeld", &Kind::held, Resolution::cover, Shows::nothing, isAlive<Kind>},
    RasterKind<Kind, uint16_t>{"plantingsSizes", &Kind::sizes, Resolution::cover, Shows::plantings, nullptr,
                               kSameSize}};

// f(kind) for each raster of one owner.
template <class Kinds, class F>
void eachKind(const Kinds& kinds, F f) {
    std::apply([&](const auto&... kind) { (f(kind), ...); }, kinds);
}

// f(kind, owner, id, grid) for each raster of a level, present or not; ids are 0 for those of the level itself.
template <class L, class F>
void eachRaster(L& level, F f) {
    eachKind(kLevelRasters, [&](const auto& k) { f(k, level, 0u, level.*k.grid); });
    for (auto& s : level.strata) eachKind(kStratumRasters, [&](const auto& k) { f(k, s, s.id, s.*k.grid); });
    for (auto& l : level.layers) eachKind(kLayerRasters, [&](const auto& k) { f(k, l, l.id, l.*k.grid); });
    for (auto& n : level.kinds) eachKind(kKindRasters, [&](const auto& k) { f(k, n, n.id, n.*k.grid); });
    for (auto& n : level.fences) eachKind(kFenceRasters, [&](const auto& k) { f(k, n, n.id, n.*k.grid); });
    for (auto& s : level.streams) eachKind(kStreamRasters, [&](const auto& k) { f(k, s, s.id, s.*k.grid); });
}

// f(kind, grid, other): the same raster of both levels; `other` is null where the second has no such owner.
template <class L, class F>
void eachRasterOfBoth(L& level, const Level& beside, F f) {
    eachKind(kLevelRasters, [&](const auto& k) { f(k, level.*k.grid, &(beside.*k.grid)); });
    for (auto& s : level.strata) {
        const Stratum* other = beside.stratum(s.id);
        eachKind(kStratumRasters, [&](const auto& k) { f(k, s.*k.grid, other ? &(other->*k.grid) : nullptr); });
    }
    for (auto& n : level.fences) {
        const KeptFence* other = nullptr;
        for (const KeptFence& o : beside.fences)
            if (o.id == n.id) other = &o;
        eachKind(kFenceRasters, [&](const auto& k) { f(k, n.*k.grid, other ? &(other->*k.grid) : nullptr); });
    }
    for (auto& s : level.streams) {
        const Stream* other = beside.stream(s.id);
        eachKind(kStreamRasters, [&](const auto& k) { f(k, s.*k.grid, other ? &(other->*k.grid) : nullptr); });
    }
    for (auto& n : level.kinds) {
        const Kind* other = beside.kind(n.id);
        eachKind(kKindRasters, [&](const auto& k) { f(k, n.*k.grid, other ? &(other->*k.grid) : nullptr); });
    }
    for (auto& l : level.layers) {
        const Layer* other = beside.layer(l.id);
        eachKind(kLayerRasters, [&](const auto& k) { f(k, l.*k.grid, other ? &(other->*k.grid) : nullptr); });
    }
}

inline int columnsOf(const Level& level, Resolution r) {
    return r == Resolution::ground ? level.columns : level.coverColumns();
}
inline int rowsOf(const Level& level, Resolution r) { return r == Resolution::ground ? level.rows : level.coverRows(); }

}  // namespace jam
