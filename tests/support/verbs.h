// What the verbs of sequences (sequences.h) are made with: numbers of a step become something of the level.
#pragma once

#include <algorithm>
#include <cmath>

#include "fence/fence.h"
#include "sequences.h"

namespace jam::test {

using Numbers = std::array<double, kStepNumbers>;

inline double among(double n, double low, double high) { return low + n * (high - low); }
inline float amongFloat(double n, double low, double high) { return static_cast<float>(among(n, low, high)); }
// The more a number is, the larger; small values have room.
inline double logAmong(double n, double low, double high) { return low * std::pow(high / low, n); }

inline size_t place(double n, size_t count) {
    return std::min(static_cast<size_t>(n * static_cast<double>(count)), count - 1);
}
template <class List>
auto* one(List& list, double n) {
    return list.empty() ? nullptr : &list[place(n, list.size())];
}
template <class List, class Fits>
auto* oneOf(List& list, double n, Fits fits) {
    std::vector<std::remove_reference_t<decltype(list[0])>*> all;
    for (auto& x : list)
        if (fits(x)) all.push_back(&x);
    return all.empty() ? nullptr : all[place(n, all.size())];
}
inline uint32_t layerId(const Level& l, double n) { return one(l.layers, n)->id; }

// On the level: at its edges, at borders of tiles and anywhere.
inline MapPlace on(const Level& level, double x, double z) {
    const auto snapped = [](double n, int samples) {
        const double at = n * (samples - 1);
        // Every fourth lies on the border of a tile, where there is one.
        const double tile = std::round(at / 64) * 64;
        return std::fmod(n * 4096, 4) < 1 && tile > 0 && tile < samples - 1 ? tile - (std::fmod(n * 8192, 2) < 1) : at;
    };
    return {level.originX + level.spacing * snapped(x, level.columns),
            level.originZ + level.spacing * snapped(z, level.rows)};
}

inline Stratum* courseOf(Level& l, double n) {
    return oneOf(l.strata, n, [](const Stratum& s) { return s.leads() && !s.locked; });
}

inline void ignore(const Status&) {}
template <class T>
void ignore(const Result<T>&) {}
template <class T>
void take(Level& level, Result<T> made) {
    if constexpr (std::is_same_v<T, Level>)
        if (made) level = made.take();
}

// Some other numbers than those of the step, which all follow from them.
class More {
public:
    explicit More(const Numbers& n) {
        uint32_t seed = 1;
        for (const double v : n) seed = seed * 2654435761u + static_cast<uint32_t>(v * 4294967295.0);
        random_.seed(seed);
    }
    // The ends of a range as often as all between.
    double next() {
        const unsigned r = random_() % 8;
        return r == 0 ? 0 : r == 1 ? 1 : r == 2 ? 0.5 : static_cast<double>(random_() % 1000) / 1000;
    }

private:
    Random random_;
};

// The verbs, by what they change; some twice, so that they come more often.
std::vector<Verb> groundVerbs();
std::vector<Verb> coverVerbs();
std::vector<Verb> levelVerbs();
std::vector<Verb> dressVerbs();

}  // namespace jam::test
