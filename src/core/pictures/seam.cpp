#include "pictures/seam.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "files/resized.h"

namespace jam {

namespace {

// One channel as floats in [0, 1].
struct Plane {
    int width = 0, height = 0;
    std::vector<float> v;

    float& at(int x, int y) { return v[static_cast<size_t>(y) * static_cast<size_t>(width) + static_cast<size_t>(x)]; }
    float at(int x, int y) const {
        return v[static_cast<size_t>(y) * static_cast<size_t>(width) + static_cast<size_t>(x)];
    }
};

Plane emptyPlane(int width, int height) {
    return {width, height, std::vector<float>(static_cast<size_t>(width) * static_cast<size_t>(height))};
}

std::vector<Plane> planesOf(const Pixels& p) {
    std::vector<Plane> planes(static_cast<size_t>(p.channels), emptyPlane(p.width, p.height));
    const float per = 1 / static_cast<float>(p.most());
    for (int y = 0; y < p.height; ++y)
        for (int x = 0; x < p.width; ++x)
            for (int c = 0; c < p.channels; ++c) planes[static_cast<size_t>(c)].at(x, y) = p.at(x, y, c) * per;
    return planes;
}

Pixels pixelsOf(const std::vector<Plane>& planes, int bits) {
    Pixels p{planes[0].width, planes[0].height, static_cast<int>(planes.size()), bits, {}};
    p.samples.reserve(planes[0].v.size() * planes.size());
    for (size_t i = 0; i < planes[0].v.size(); ++i)
        for (const Plane& plane : planes)
            p.samples.push_back(
                static_cast<uint16_t>(std::lround(std::clamp(plane.v[i], 0.f, 1.f) * static_cast<float>(p.most()))));
    return p;
}

Plane lightOf(const std::vector<Plane>& planes) {
    Plane light = planes[0];
    if (planes.size() >= 3)
        for (size_t i = 0; i < light.v.size(); ++i)
            light.v[i] = 0.3f * planes[0].v[i] + 0.59f * planes[1].v[i] + 0.11f * planes[2].v[i];
    return light;
}

// Box means over 2 reach + 1 samples, twice along each axis; over the edge the other side counts, or the nearest
// sample.
Plane blurred(const Plane& in, int reach, bool wraps) {
    Plane now = in, next = in;
    const auto inside = [wraps](int i, int n) { return wraps ? (i % n + n) % n : std::clamp(i, 0, n - 1); };
    for (int pass = 0; pass < 4; ++pass) {
        const bool across = pass % 2 == 0;
        const int lines = across ? in.height : in.width, n = across ? in.width : in.height;
        for (int line = 0; line < lines; ++line) {
            const auto value = [&](int i) { return across ? now.at(inside(i, n), line) : now.at(line, inside(i, n)); };
            double sum = 0;
            for (int i = -reach; i <= reach; ++i) sum += value(i);
            for (int i = 0; i < n; ++i) {
                (across ? next.at(i, line) : next.at(line, i)) = static_cast<float>(sum / (2 * reach + 1));
                sum += value(i + reach + 1) - value(i - reach);
            }
        }
        std::swap(now, next);
    }
    return now;
}

Plane turned(const Plane& p) {
    Plane out = emptyPlane(p.height, p.width);
    for (int y = 0; y < p.height; ++y)
        for (int x = 0; x < p.width; ++x) out.at(y, x) = p.at(x, y);
    return out;
}

// Step over the left and right edge, at its worst stretch, against the worst stretches of the steps inside; where that
// lies.
std::pair<double, double> edgeStep(const Plane& light) {
    const int stretch = std::max(light.height / 16, 1);
    // Of the step from one column to another: the worst stretch, and the row in its middle.
    const auto worstOf = [&](int from, int to) {
        std::pair<double, double> worst{0, 0};
        for (int y0 = 0; y0 + stretch <= light.height; y0 += stretch) {
            double over = 0;
            for (int y = y0; y < y0 + stretch; ++y) over += std::abs(light.at(to, y) - light.at(from, y));
            if (over / stretch > worst.first) worst = {over / stretch, (y0 + stretch / 2.0) / light.height};
        }
        return worst;
    };
    double inside = 0;
    for (int x = 1; x < light.width; ++x) inside += worstOf(x - 1, x).first;
    const auto [edge, at] = worstOf(light.width - 1, 0);
    return {edge / std::max(inside / (light.width - 1), 1e-3), at};
}

// The column of the cheapest path from top to bottom that moves by at most one a row. `first` fixes where it begins and
// ends.
std::vector<int> cheapestPath(const Plane& cost, int first = -1) {
    const int w = cost.width, h = cost.height;
    Plane sum = cost;
    if (first >= 0)
        for (int x = 0; x < w; ++x)
            if (x != first) sum.at(x, 0) = 1e9f;
    for (int y = 1; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            float least = sum.at(x, y - 1);
            if (x > 0) least = std::min(least, sum.at(x - 1, y - 1));
            if (x + 1 < w) least = std::min(least, sum.at(x + 1, y - 1));
            sum.at(x, y) += least;
        }
    std::vector<int> path(static_cast<size_t>(h));
    int x = first;
    if (x < 0) {
        x = 0;
        for (int i = 1; i < w; ++i)
            if (sum.at(i, h - 1) < sum.at(x, h - 1)) x = i;
    }
    for (int y = h - 1; y >= 0; --y) {
        path[static_cast<size_t>(y)] = x;
        if (y == 0) break;
        int best = x;
        for (const int n : {x - 1, x + 1})
            if (n >= 0 && n < w && sum.at(n, y - 1) < sum.at(best, y - 1)) best = n;
        x = best;
    }
    return path;
}

// Closes the left and right edge of all planes of all maps. `closed`: top and bottom match already, and go on doing so.
void closeSides(std::vector<std::vector<Plane>>& maps, bool closed) {
    const std::vector<Plane>& colour = maps[0];
    const int w = colour[0].width, h = colour[0].height,
              overlap = static_cast<int>(std::lround(w * (1 - kSeamlessShare))), out = w - overlap;
    // Where beginning and end differ least, so that the cut runs there.
    Plane cost = emptyPlane(overlap, h);
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < overlap; ++x) {
            float c = 0;
            for (const Plane& p : colour) c += (p.at(x, y) - p.at(x + out, y)) * (p.at(x, y) - p.at(x + out, y));
            // Not too near to the ends, where the slow changes have no room to blend.
            const float off = std::abs(2 * (x + 0.5f) / static_cast<float>(overlap) - 1);
            cost.at(x, y) = c + 0.02f * off * off * off * off;
        }
    std::vector<int> path = cheapestPath(cost);
    if (closed) path = cheapestPath(cost, path[static_cast<size_t>(h / 2)]);
    const int reach = std::max(overlap / 6, 1);
    const float feather = std::max(static_cast<float>(w) / 170, 1.5f);
    for (auto& planes : maps)
        for (Plane& p : planes) {
            const Plane slow = blurred(p, reach, false);
            Plane joined = emptyPlane(out, h);
            for (int y = 0; y < h; ++y)
                for (int x = 0; x < out; ++x) {
                    if (x >= overlap) {
                        joined.at(x, y) = p.at(x, y);
                        continue;
                    }
                    const float wide = smoothstep((static_cast<float>(x) + 0.5f) / static_cast<float>(overlap));
                    const float sharp =
                        smoothstep(0.5f + (static_cast<float>(x - path[static_cast<size_t>(y)])) / (2 * feather));
                    const float slowly = slow.at(x + out, y) + wide * (slow.at(x, y) - slow.at(x + out, y));
                    const float begin = p.at(x, y) - slow.at(x, y), end = p.at(x + out, y) - slow.at(x + out, y);
                    joined.at(x, y) = slowly + end + sharp * (begin - end);
                }
            p = std::move(joined);
        }
}

}  // namespace

SeamReport checkSeams(const Pixels& colour) {
    const Plane light = lightOf(planesOf(colour));
    SeamReport r;
    std::tie(r.leftRight, r.worstRow) = edgeStep(light);
    std::tie(r.topBottom, r.worstColumn) = edgeStep(turned(light));
    const Plane slow = blurred(light, std::max(std::min(light.width, light.height) / 32, 1), true);
    double sum = 0;
    for (const float v : slow.v) sum += v;
    const double mean = std::max(sum / static_cast<double>(slow.v.size()), 1e-3);
    for (int y = 0; y < slow.height; ++y)
        for (int x = 0; x < slow.width; ++x)
            if (const double off = std::abs(slow.at(x, y) / mean - 1); off > r.spot)
                r.spot = off, r.spotX = (x + 0.5) / slow.width, r.spotY = (y + 0.5) / slow.height;
    return r;
}

Result<std::vector<Pixels>> makeSeamless(const std::vector<Pixels>& maps) {
    const int w = maps.front().width, h = maps.front().height;
    if (w < 32 || h < 32) return Error{"", "size", "the picture is smaller than 32 x 32", "choose a larger one"};
    std::vector<std::vector<Plane>> planes;
    for (const Pixels& p : maps) planes.push_back(planesOf(p.width == w && p.height == h ? p : resized(p, w, h)));
    closeSides(planes, false);
    for (auto& map : planes)
        for (Plane& p : map) p = turned(p);
    closeSides(planes, true);
    std::vector<Pixels> out;
    for (size_t i = 0; i < planes.size(); ++i) {
        for (Plane& p : planes[i]) p = turned(p);
        out.push_back(pixelsOf(planes[i], maps[i].bits));
    }
    return out;
}

Pixels evenLight(const Pixels& colour, float strength, bool wraps) {
    std::vector<Plane> planes = planesOf(colour);
    const Plane light = lightOf(planes),
                slow = blurred(light, std::max(std::min(light.width, light.height) / 14, 1), wraps);
    double sum = 0;
    for (const float v : light.v) sum += v;
    const auto mean = static_cast<float>(sum / static_cast<double>(light.v.size()));
    const size_t colours = planes.size() == 2 || planes.size() == 4 ? planes.size() - 1 : planes.size();
    for (size_t c = 0; c < colours; ++c)
        for (size_t i = 0; i < light.v.size(); ++i)
            planes[c].v[i] *= 1 + strength * (mean / std::max(slow.v[i], 0.02f) - 1);
    return pixelsOf(planes, colour.bits);
}

}  // namespace jam
