#include "patch_mesh.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cstddef>
#include <iterator>

namespace jam {

namespace {

constexpr int kDensities[] = {1, 2, 4};  // quads joined each way

// Where the triangles of each density begin, in indices, and at the end where the last ends.
constexpr std::array<int, std::size(kDensities) + 1> firstIndices() {
    std::array<int, std::size(kDensities) + 1> first{};
    for (size_t i = 0; i < std::size(kDensities); ++i) {
        const int across = Patch::kQuads / kDensities[i];
        // Two a square, and one more for each vertex on the rim that is not a corner of one.
        const int count = 2 * across * across + 4 * across * (kDensities[i] - 1);
        first[i + 1] = first[i] + 3 * count;
    }
    return first;
}
constexpr auto kFirst = firstIndices();

size_t densityOf(int joined) {
    return static_cast<size_t>(std::find(std::begin(kDensities), std::end(kDensities) - 1, joined) - kDensities);
}

using Vertices = std::vector<uint16_t>;

// The triangle between two sides that leave the same corner: from one to the other and back.
void zip(const Vertices& a, const Vertices& b, Vertices& out) {
    const auto triangle = [&](uint16_t u, uint16_t v, uint16_t w) { out.insert(out.end(), {u, v, w}); };
    triangle(a[0], a[1], b[1]);
    for (size_t i = 1, k = 1; i + 1 < a.size() || k + 1 < b.size();) {
        // Whichever is less far along, so that triangles do not become long and thin.
        if (k + 1 == b.size() || (i + 1 < a.size() && i * (b.size() - 1) <= k * (a.size() - 1))) {
            triangle(a[i], a[i + 1], b[k]);
            ++i;
        } else {
            triangle(a[i], b[k + 1], b[k]);
            ++k;
        }
    }
}

// Where a vertex between those that a side keeps goes, as shaders/ground.vert moves it: the triangles that it closes
// vanish. On all sides it goes away from the corners north-east and south-west, where two sides share triangles.
uint16_t kept(uint16_t vertex, const Rims& rims) {
    constexpr int n = Patch::kQuads;
    const auto [north, east, south, west] = rims;
    int x = vertex % (n + 1), z = vertex / (n + 1);
    const auto up = [](int v, int to) { return (v + to - 1) / to * to; };
    if (z == 0) x = x / north * north;
    else if (z == n) x = up(x, south);
    if (x == 0) z = z / west * west;
    else if (x == n) z = up(z, east);
    return static_cast<uint16_t>(z * (n + 1) + x);
}

// Three vertices a triangle with every vertex of the rim.
std::vector<uint16_t> wholeRimmed(int joined) {
    constexpr int n = Patch::kQuads;
    std::vector<uint16_t> out;
    // From one vertex to another on the same row or column: all between them on the rim, none elsewhere.
    const auto side = [&](int x0, int z0, int x1, int z1) {
        Vertices along;
        const bool rim = (x0 == x1 && (x0 == 0 || x0 == n)) || (z0 == z1 && (z0 == 0 || z0 == n));
        const int steps = rim ? joined : 1;
        for (int i = 0; i <= steps; ++i)
            along.push_back(static_cast<uint16_t>((z0 + (z1 - z0) * i / steps) * (n + 1) + x0 + (x1 - x0) * i / steps));
        return along;
    };
    for (int z = 0; z < n; z += joined)
        for (int x = 0; x < n; x += joined) {
            const int east = x + joined, south = z + joined;
            // North-east and south-west of the diagonal that all squares are cut along.
            zip(side(east, z, x, z), side(east, z, east, south), out);
            zip(side(x, south, east, south), side(x, south, x, z), out);
        }
    return out;
}

}  // namespace

int PatchMesh::triangles(int joined, const Rims& rims) {
    const size_t density = densityOf(joined);
    int count = (kFirst[density + 1] - kFirst[density]) / 3;
    // One for each vertex that a side goes without.
    for (const int rim : rims) count -= Patch::kQuads - Patch::kQuads / rim;
    return count;
}

uint32_t PatchMesh::packed(const Rims& rims) {
    uint32_t bits = 0;
    for (size_t i = 0; i < rims.size(); ++i) bits |= static_cast<uint32_t>(std::countr_zero(rims[i])) << (2 * i);
    return bits;
}

std::vector<uint16_t> PatchMesh::trianglesOf(int joined, const Rims& rims) {
    const Vertices whole = wholeRimmed(joined);
    Vertices out;
    for (size_t t = 0; t < whole.size(); t += 3) {
        const uint16_t a = kept(whole[t], rims), b = kept(whole[t + 1], rims), c = kept(whole[t + 2], rims);
        if (a != b && b != c && c != a) out.insert(out.end(), {a, b, c});
    }
    return out;
}

void PatchMesh::build() {
    constexpr int n = Patch::kQuads;
    std::vector<float> vertices;
    for (int z = 0; z <= n; ++z)
        for (int x = 0; x <= n; ++x) vertices.insert(vertices.end(), {static_cast<float>(x), static_cast<float>(z)});
    Vertices indices;
    for (const int joined : kDensities) {
        const Vertices some = wholeRimmed(joined);
        indices.insert(indices.end(), some.begin(), some.end());
    }
    array_ = makeArray();
    vertices_ = makeBuffer();
    indices_ = makeBuffer();
    instances_ = makeBuffer();
    glBindVertexArray(array_);
    glBindBuffer(GL_ARRAY_BUFFER, vertices_);
    glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(vertices.size() * sizeof(float)), vertices.data(),
                 GL_STATIC_DRAW);
    glEnableVertexAttribArray(0);
    glVertexAttribPointer(0, 2, GL_FLOAT, GL_FALSE, 0, nullptr);
    glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, indices_);
    glBufferData(GL_ELEMENT_ARRAY_BUFFER, static_cast<GLsizeiptr>(indices.size() * sizeof(uint16_t)), indices.data(),
                 GL_STATIC_DRAW);
    glBindBuffer(GL_ARRAY_BUFFER, instances_);
    const auto place = [](size_t offset) { return reinterpret_cast<void*>(offsetof(Packed, instance) + offset); };
    glVertexAttribPointer(1, 4, GL_FLOAT, GL_FALSE, sizeof(Packed), place(0));
    glVertexAttribIPointer(2, 4, GL_UNSIGNED_INT, sizeof(Packed), place(offsetof(Instance, firstLayers)));
    for (const GLuint perInstance : {1u, 2u}) {
        glEnableVertexAttribArray(perInstance);
        glVertexAttribDivisor(perInstance, 1);
    }
    glBindVertexArray(0);
}

// Instances are handed over for each draw and always lie at the same place: software drivers compile a vertex shader
// for how its input lies, and lay out anew what is moved often, so that the same shader would be compiled once more.
void PatchMesh::draw(std::span<const Packed> patches) const {
    if (patches.empty()) return;
    const size_t density = densityOf(patches.front().joined);
    glBindVertexArray(array_);
    glBindBuffer(GL_ARRAY_BUFFER, instances_);
    glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(patches.size_bytes()), patches.data(), GL_STREAM_DRAW);
    glDrawElementsInstanced(GL_TRIANGLES, kFirst[density + 1] - kFirst[density], GL_UNSIGNED_SHORT,
                            reinterpret_cast<void*>(static_cast<size_t>(kFirst[density]) * sizeof(uint16_t)),
                            static_cast<GLsizei>(patches.size()));
}

}  // namespace jam
