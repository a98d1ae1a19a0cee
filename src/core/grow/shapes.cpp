#include "grow/shapes.h"

#include <algorithm>

namespace jam {

float Mesh::height() const {
    float most = 0;
    for (const MeshVertex& v : vertices) most = std::max(most, v.at[1]);
    return most;
}

float Mesh::radius() const {
    float most = 0;
    for (const MeshVertex& v : vertices) most = std::max(most, std::hypot(v.at[0], v.at[2]));
    return most;
}

void KindMeshes::add(std::array<Mesh, kDetails> details) {
    const Mesh& near = details[0];
    float lowest = 0;
    for (const MeshVertex& v : near.vertices) lowest = std::min(lowest, v.at[1]);
    below = variants.empty() ? -lowest : std::min(below, -lowest);
    height = std::max(height, near.height());
    radius = std::max(radius, near.radius());
    variants.push_back(std::move(details));
}

namespace grow {

Colour shaded(const Colour& c, float by) {
    return {std::clamp(c[0] * by, 0.f, 1.f), std::clamp(c[1] * by, 0.f, 1.f), std::clamp(c[2] * by, 0.f, 1.f)};
}

uint32_t Builder::add(const Vec& at, const Vec& normal, const Colour& colour, float open) {
    const auto byte = [](float v) { return static_cast<uint8_t>(std::lround(std::clamp(v, 0.f, 1.f) * 255)); };
    mesh.vertices.push_back({at, normal, {byte(colour[0]), byte(colour[1]), byte(colour[2])}, byte(open)});
    return static_cast<uint32_t>(mesh.vertices.size() - 1);
}

void Builder::triangle(uint32_t a, uint32_t b, uint32_t c) { mesh.corners.insert(mesh.corners.end(), {a, b, c}); }

void Builder::quad(const Vec& a, const Vec& b, const Vec& c, const Vec& d, const Colour& colour, float open) {
    const Vec n = unit(cross(b - a, d - a));
    const uint32_t i = add(a, n, colour, open);
    add(b, n, colour, open), add(c, n, colour, open), add(d, n, colour, open);
    triangle(i, i + 1, i + 2), triangle(i, i + 2, i + 3);
}

void Builder::quadRound(const Vec& a, const Vec& b, const Vec& c, const Vec& d, const Vec& centre, const Colour& colour,
                        float open) {
    uint32_t i = 0;
    for (const Vec* p : {&a, &b, &c, &d}) i = add(*p, unit(*p - centre), colour, open);
    triangle(i - 3, i - 2, i - 1), triangle(i - 3, i - 1, i);
}

void Builder::tube(const Vec& from, const Vec& to, float wideFrom, float wideTo, int sides, const Colour& colour) {
    const Vec along = unit(to - from);
    const Vec one = unit(cross(along, std::abs(along[1]) > 0.9f ? Vec{1, 0, 0} : Vec{0, 1, 0})),
              other = cross(along, one);
    uint32_t before = 0;
    for (int i = 0; i <= sides; ++i) {
        const float a = static_cast<float>(kTurn) * static_cast<float>(i) / static_cast<float>(sides);
        const Vec out = one * std::cos(a) + other * std::sin(a);
        const uint32_t low = add(from + out * (wideFrom / 2), out, colour, 0.75f);
        add(to + out * (wideTo / 2), out, colour);
        if (i > 0) triangle(before, low, low + 1), triangle(before, low + 1, before + 1);
        before = low;
    }
    if (wideTo <= 0) return;
    const uint32_t top = add(to, along, colour);
    for (int i = 0; i <= sides; ++i) {
        const float a = static_cast<float>(kTurn) * static_cast<float>(i) / static_cast<float>(sides);
        const uint32_t at = add(to + (one * std::cos(a) + other * std::sin(a)) * (wideTo / 2), along, colour);
        if (i > 0) triangle(top, at - 1, at);
    }
}

void Builder::box(const Vec& l, const Vec& h, const Colour& colour, const Colour& top) {
    const Vec a{l[0], l[1], l[2]}, b{h[0], l[1], l[2]}, c{h[0], l[1], h[2]}, d{l[0], l[1], h[2]};
    const float rise = h[1] - l[1];
    const auto up = [rise](const Vec& v) { return Vec{v[0], v[1] + rise, v[2]}; };
    quad(b, a, up(a), up(b), colour), quad(c, b, up(b), up(c), colour);
    quad(d, c, up(c), up(d), colour), quad(a, d, up(d), up(a), colour);
    quad(up(a), up(d), up(c), up(b), top);
}

void Builder::boulder(const Vec& middle, const Vec& half, int rings, float rough, uint32_t seed, const Colour& colour,
                      const Colour& top) {
    const int round = 2 * rings;
    const auto begin = static_cast<uint32_t>(mesh.vertices.size());
    for (int r = 0; r <= rings; ++r)
        for (int s = 0; s <= round; ++s) {
            const float b = static_cast<float>(kTurn) / 2 * (static_cast<float>(r) / static_cast<float>(rings) - 0.5f),
                        a = static_cast<float>(kTurn) * static_cast<float>(s % round) / static_cast<float>(round);
            const Vec out{std::cos(b) * std::cos(a), std::sin(b), std::cos(b) * std::sin(a)};
            const float by = 1 + rough * (fractalNoise(1.3f * out[0] + 7, 1.3f * out[2] + 1.9f * out[1], seed, 2));
            add(middle + Vec{out[0] * half[0] * by, out[1] * half[1] * by, out[2] * half[2] * by}, out,
                out[1] > 0.35f ? top : colour, 0.7f + 0.3f * (0.5f + 0.5f * out[1]));
        }
    for (int r = 0; r < rings; ++r)
        for (int s = 0; s < round; ++s) {
            const uint32_t i = begin + static_cast<uint32_t>(r * (round + 1) + s),
                           k = i + static_cast<uint32_t>(round) + 1;
            triangle(i, i + 1, k + 1), triangle(i, k + 1, k);
        }
    // Normals of the rough surface: of the triangles around.
    std::vector<Vec> sums(mesh.vertices.size() - begin, Vec{});
    for (size_t t = 0; t + 2 < mesh.corners.size(); t += 3) {
        if (mesh.corners[t] < begin) continue;
        const Vec &p = mesh.vertices[mesh.corners[t]].at, &q = mesh.vertices[mesh.corners[t + 1]].at,
                  &o = mesh.vertices[mesh.corners[t + 2]].at;
        Vec n = cross(q - p, o - p);
        if (dot(n, p - middle) < 0) n = n * -1.f;
        for (size_t c = 0; c < 3; ++c) sums[mesh.corners[t + c] - begin] = sums[mesh.corners[t + c] - begin] + n;
    }
    for (int r = 0; r <= rings; ++r) {  // the seam's two ends are one
        Vec &first = sums[static_cast<size_t>(r * (round + 1))],
            &last = sums[static_cast<size_t>(r * (round + 1) + round)];
        first = last = first + last;
    }
    for (size_t i = 0; i < sums.size(); ++i) mesh.vertices[begin + i].normal = unit(sums[i]);
}

}  // namespace grow

}  // namespace jam
