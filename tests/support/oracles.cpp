#include "oracles.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "level/ground.h"

namespace jam::test {

namespace {

double falloffAt(const Level& level, int c, int r, double x, double z, double radius, const Falloff& f) {
    const double dx = level.originX + c * level.spacing - x, dz = level.originZ + r * level.spacing - z;
    return f.at(static_cast<float>(std::hypot(dx, dz) / radius));
}

template <class F>
void eachSample(PlainGround& g, F f) {
    for (int r = 0; r < g.rows; ++r)
        for (int c = 0; c < g.columns; ++c) f(c, r);
}

}  // namespace

double PlainGround::clamped(int c, int r) const {
    c = std::clamp(c, 0, columns - 1);
    r = std::clamp(r, 0, rows - 1);
    return h[static_cast<size_t>(r) * static_cast<size_t>(columns) + static_cast<size_t>(c)];
}

PlainGround plainGround(const Level& level) {
    PlainGround g{level.columns, level.rows,
                  std::vector<double>(static_cast<size_t>(level.columns) * static_cast<size_t>(level.rows))};
    eachSample(g, [&](int c, int r) { g.at(c, r) = groundSample(level, c, r); });
    return g;
}

void plainRaise(PlainGround& g, const Level& level, double x, double z, double radius, const Falloff& f,
                double metres) {
    eachSample(g, [&](int c, int r) {
        g.at(c, r) = std::clamp(g.at(c, r) + metres * falloffAt(level, c, r, x, z, radius, f), double(level.lowest),
                                double(level.highest));
    });
}

void plainFlatten(PlainGround& g, const Level& level, double x, double z, double radius, const Falloff& f, double share,
                  double target, Earthwork way) {
    eachSample(g, [&](int c, int r) {
        double d = target - g.at(c, r);
        if (d > 0 && way == Earthwork::cut) d = 0;
        if (d < 0 && way == Earthwork::fill) d = 0;
        g.at(c, r) += share * falloffAt(level, c, r, x, z, radius, f) * d;
    });
}

void plainSmooth(PlainGround& g, const Level& level, double x, double z, double radius, const Falloff& f,
                 double share) {
    const PlainGround before = g;
    const double weight[3] = {0.25, 0.5, 0.25};
    eachSample(g, [&](int c, int r) {
        double mean = 0;
        for (int dr = -1; dr <= 1; ++dr)
            for (int dc = -1; dc <= 1; ++dc) mean += weight[dr + 1] * weight[dc + 1] * before.clamped(c + dc, r + dr);
        g.at(c, r) += share * falloffAt(level, c, r, x, z, radius, f) * (mean - g.at(c, r));
    });
}

void plainBoxSmooth(PlainGround& g, const Level& level, double x, double z, double radius, const Falloff& f,
                    double share, const int boxes[3]) {
    // One weight per offset: the convolution of the three boxes.
    std::vector<double> weight{1};
    for (int b = 0; b < 3; ++b) {
        std::vector<double> wider(weight.size() + 2 * static_cast<size_t>(boxes[b]), 0);
        for (size_t i = 0; i < weight.size(); ++i)
            for (int k = 0; k <= 2 * boxes[b]; ++k) wider[i + static_cast<size_t>(k)] += weight[i] / (2 * boxes[b] + 1);
        weight = wider;
    }
    const int reach = static_cast<int>(weight.size() / 2);
    const PlainGround before = g;
    eachSample(g, [&](int c, int r) {
        const double m = falloffAt(level, c, r, x, z, radius, f);
        if (m == 0) return;
        double mean = 0;
        for (int dr = -reach; dr <= reach; ++dr)
            for (int dc = -reach; dc <= reach; ++dc)
                mean += weight[static_cast<size_t>(dr + reach)] * weight[static_cast<size_t>(dc + reach)] *
                        before.clamped(c + dc, r + dr);
        g.at(c, r) += share * m * (mean - g.at(c, r));
    });
}

void plainEvenOut(PlainGround& g, const Level& level, double x, double z, double radius, const Falloff& f, double share,
                  double keep) {
    double sum = 0, weight = 0;
    eachSample(g, [&](int c, int r) {
        const double m = falloffAt(level, c, r, x, z, radius, f);
        sum += m * g.at(c, r);
        weight += m;
    });
    if (weight == 0) return;
    const double mean = sum / weight;
    eachSample(g, [&](int c, int r) {
        g.at(c, r) += share * falloffAt(level, c, r, x, z, radius, f) *
                      (mean + keep * (g.at(c, r) - mean) - g.at(c, r));
    });
}

void plainTerrace(PlainGround& g, const Level& level, double x, double z, double radius, const Falloff& f, double share,
                  double step, double riser) {
    eachSample(g, [&](int c, int r) {
        // The nearest tread, and how far the height stands from the middle of the riser beside it.
        const double h = g.at(c, r), tread = std::round(h / step) * step, away = h - tread;
        const double middle = away < 0 ? -step / 2 : step / 2,
                     t = (away - middle) / (riser * step);  // -1/2 .. 1/2 within the riser
        double goal = tread;
        if (std::abs(t) < 0.5) {
            const double u = t + 0.5, rise = u * u * (3 - 2 * u);
            goal = (away < 0 ? tread - step : tread) + step * rise;
        }
        g.at(c, r) += share * falloffAt(level, c, r, x, z, radius, f) * (goal - h);
    });
}

void plainRestore(PlainGround& g, const Level& level, double x, double z, double radius, const Falloff& f, double share,
                  const PlainGround& reference) {
    eachSample(g, [&](int c, int r) {
        g.at(c, r) += share * falloffAt(level, c, r, x, z, radius, f) * (reference.clamped(c, r) - g.at(c, r));
    });
}

void plainCrumble(PlainGround& g, const Level& level, double x, double z, double radius, const Falloff& f, double share,
                  double degrees, int passes) {
    PlainGround mask = g;
    eachSample(mask, [&](int c, int r) { mask.at(c, r) = share * falloffAt(level, c, r, x, z, radius, f); });
    const double tangent = std::tan(degrees * kPi / 180);
    for (int pass = 0; pass < passes; ++pass) {
        const PlainGround before = g;
        eachSample(g, [&](int c, int r) {
            for (int dz = -1; dz <= 1; ++dz)
                for (int dx = -1; dx <= 1; ++dx) {
                    const int oc = c + dx, orow = r + dz;
                    if ((!dx && !dz) || oc < 0 || orow < 0 || oc >= g.columns || orow >= g.rows) continue;
                    const double difference = before.clamped(c, r) - before.clamped(oc, orow),
                                 rest = tangent * level.spacing * std::hypot(dx, dz);
                    if (difference > rest) {
                        const double slides = std::min(mask.clamped(c, r), mask.clamped(oc, orow)) *
                                              (difference - rest) / 9;
                        g.at(c, r) -= slides;
                        g.at(oc, orow) += slides;
                    }
                }
        });
    }
}

PlainGround plainSlopeCut(const PlainGround& g, const Region& box, double spacing, double degrees) {
    const double per = std::tan(degrees * kPi / 180) * spacing * 0.973;
    // Shortest ways over the three kinds of moves: the moves' directions split the quadrant into cones.
    const auto way = [](double a, double b) {
        a = std::abs(a), b = std::abs(b);
        if (a < b) std::swap(a, b);
        // Between side (1, 0) and knight (2, 1), or between knight and diagonal (1, 1).
        return b * 2 <= a ? b * std::sqrt(5.0) + (a - 2 * b) : (a - b) * std::sqrt(5.0) + (2 * b - a) * std::sqrt(2.0);
    };
    PlainGround out = g;
    for (int r = box.z0; r < box.z1; ++r)
        for (int c = box.x0; c < box.x1; ++c)
            for (int qr = box.z0; qr < box.z1; ++qr)
                for (int qc = box.x0; qc < box.x1; ++qc)
                    out.at(c, r) = std::min(out.at(c, r), g.clamped(qc, qr) + per * way(qc - c, qr - r));
    return out;
}

void plainNoise(PlainGround& g, const Level& level, double x, double z, double radius, const Falloff& f, double share,
                const Roughness& roughness, const int boxes[3]) {
    PlainGround mean = g;
    for (int b = 0; b < 3; ++b)
        for (const bool across : {true, false}) {
            // Over the edge the nearest sample counts, so the mean is taken on a raster that reaches far beyond it.
            const PlainGround before = mean;
            eachSample(mean, [&](int c, int r) {
                double sum = 0;
                for (int k = -boxes[b]; k <= boxes[b]; ++k)
                    sum += across ? before.clamped(c + k, r) : before.clamped(c, r + k);
                mean.at(c, r) = sum / (2 * boxes[b] + 1);
            });
        }
    eachSample(g, [&](int c, int r) {
        const double n = roughnessAt(roughness, level.originX + c * level.spacing, level.originZ + r * level.spacing),
                     h = g.at(c, r), stands = h - mean.at(c, r);
        // As much of n as is still missing, never the other way.
        const double missing = n >= 0 ? std::clamp(n - stands, 0.0, n) : std::clamp(n - stands, n, 0.0);
        g.at(c, r) += share * falloffAt(level, c, r, x, z, radius, f) * missing;
    });
}

void plainDrop(PlainGround& g, double x, double z, double spacing) {
    PlainGround fallen = g;
    std::fill(fallen.h.begin(), fallen.h.end(), 0.0);
    const PlainGround start = g;
    const auto bilinear = [&](double px, double pz) {
        const int c = static_cast<int>(px), r = static_cast<int>(pz);
        const double u = px - c, v = pz - r;
        return (1 - v) * ((1 - u) * g.at(c, r) + u * g.at(c + 1, r)) +
               v * ((1 - u) * g.at(c, r + 1) + u * g.at(c + 1, r + 1));
    };
    const auto drop = [&](double px, double pz, double samples) {
        const int c = static_cast<int>(px), r = static_cast<int>(pz);
        const double u = px - c, v = pz - r, metres = samples * spacing;
        const double shares[4] = {(1 - u) * (1 - v), u * (1 - v), (1 - u) * v, u * v};
        for (int k = 0; k < 4; ++k)
            g.at(c + k % 2, r + k / 2) += metres * shares[k], fallen.at(c + k % 2, r + k / 2) += metres * shares[k];
    };
    // Around a place, what is dug and what is given back.
    const auto dig = [&](int c, int r, double samples) {
        double sum = 0;
        for (const bool weigh : {true, false})
            for (int dz = -2; dz <= 2; ++dz)
                for (int dx = -2; dx <= 2; ++dx) {
                    const double w = 2.5 - std::hypot(dx, dz);
                    if (w <= 0 || c + dx < 0 || r + dz < 0 || c + dx >= g.columns || r + dz >= g.rows) continue;
                    if (weigh) sum += w;
                    else g.at(c + dx, r + dz) -= samples * spacing * w / sum;
                }
    };
    struct Hole {
        int c, r;
        double amount;
    };
    std::vector<Hole> holes;
    bool left = false;
    double dirX = 0, dirZ = 0, speed = 1, water = 1, load = 0;
    for (int step = 0; step < 48; ++step) {
        const int c = static_cast<int>(x), r = static_cast<int>(z);
        const double u = x - c, v = z - r;
        const double east = ((g.at(c + 1, r) - g.at(c, r)) * (1 - v) + (g.at(c + 1, r + 1) - g.at(c, r + 1)) * v) /
                            spacing;
        const double south = ((g.at(c, r + 1) - g.at(c, r)) * (1 - u) + (g.at(c + 1, r + 1) - g.at(c + 1, r)) * u) /
                             spacing;
        dirX = 0.12 * dirX - 0.88 * east;
        dirZ = 0.12 * dirZ - 0.88 * south;
        const double length = std::hypot(dirX, dirZ);
        if (length < 1e-6) break;
        dirX /= length, dirZ /= length;
        const double nx = x + dirX, nz = z + dirZ;
        if (nx < 0 || nz < 0 || nx >= g.columns - 1 || nz >= g.rows - 1) {
            double all = 0;
            for (const Hole& h : holes) all += h.amount;
            for (const Hole& h : holes) dig(h.c, h.r, -h.amount * load / all);
            left = true;
            break;
        }
        const double fall = (bilinear(x, z) - bilinear(nx, nz)) / spacing,
                     capacity = std::max(fall, 0.01) * speed * water * 7;
        if (fall < 0) {
            const double amount = std::min(-fall, load);
            drop(x, z, amount), load -= amount;
        } else if (load > capacity) {
            const double amount = 0.25 * (load - capacity);
            drop(x, z, amount), load -= amount;
        } else {
            const double amount = std::min(0.35 * (capacity - load), 0.5 * fall);
            dig(c, r, amount);
            holes.push_back({c, r, amount});
            load += amount;
        }
        speed = std::min(std::sqrt(std::max(speed * speed + 4 * fall, 0.0)), 6.0);
        water *= 0.975;
        x = nx, z = nz;
    }
    if (!left) drop(x, z, load);
    // What fell is spread twice to the neighbours that there are.
    PlainGround spread = fallen;
    for (int pass = 0; pass < 2; ++pass) {
        const PlainGround before = spread;
        eachSample(spread, [&](int c, int r) {
            for (int dz = -1; dz <= 1; ++dz)
                for (int dx = -1; dx <= 1; ++dx)
                    if ((dx || dz) && c + dx >= 0 && r + dz >= 0 && c + dx < g.columns && r + dz < g.rows)
                        spread.at(c, r) += (dx && dz ? 0.0625 : 0.125) *
                                           (before.clamped(c + dx, r + dz) - before.clamped(c, r));
        });
    }
    for (size_t i = 0; i < g.h.size(); ++i) g.h[i] += spread.h[i] - fallen.h[i];
    // New peaks and pits are shared out among the eight neighbours.
    const auto standsOut = [](const PlainGround& p, int c, int r) {
        double most = -1e30, least = 1e30;
        for (int dz = -1; dz <= 1; ++dz)
            for (int dx = -1; dx <= 1; ++dx)
                if (dx || dz)
                    most = std::max(most, p.clamped(c + dx, r + dz)),
                    least = std::min(least, p.clamped(c + dx, r + dz));
        const double h = p.clamped(c, r);
        return h > most ? h - most : h < least ? h - least : 0.0;
    };
    for (int pass = 0; pass < 3; ++pass) {
        const PlainGround before = g;
        for (int r = 1; r + 1 < g.rows; ++r)
            for (int c = 1; c + 1 < g.columns; ++c) {
                const double now = standsOut(before, c, r), was = standsOut(start, c, r);
                const double made = now > 0 ? std::max(now - std::max(was, 0.0), 0.0)
                                            : std::min(now - std::min(was, 0.0), 0.0);
                for (int dz = -1; dz <= 1; ++dz)
                    for (int dx = -1; dx <= 1; ++dx)
                        if (dx || dz) g.at(c + dx, r + dz) += made / 8, g.at(c, r) -= made / 8;
            }
    }
}

double greatestDifference(const PlainGround& g, const Level& level) {
    double most = 0;
    for (int r = 0; r < g.rows; ++r)
        for (int c = 0; c < g.columns; ++c)
            most = std::max(most, std::abs(g.clamped(c, r) - groundSample(level, c, r)));
    return most;
}

std::vector<double> plainShares(const Level& level, int c, int r) {
    std::vector<double> shares(level.layers.size(), 0);
    size_t floor = 0;
    while (floor + 1 < level.layers.size() && level.layers[floor].hidden) ++floor;
    if (level.layers[floor].hidden) floor = 0;
    double open = 1;
    for (size_t i = level.layers.size(); i-- > floor;) {
        const Layer& l = level.layers[i];
        if (l.hidden && i != floor) continue;
        const double cover = i == floor ? 1 : l.coverage.at(c, r) / 65535.0;
        shares[i] = open * cover;
        open *= 1 - cover;
    }
    return shares;
}

}  // namespace jam::test
