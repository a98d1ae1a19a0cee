#include "patch_mesh.h"

#include <cstddef>

namespace jam {

void PatchMesh::build() {
    constexpr int n = Patch::kQuads;
    std::vector<float> vertices;
    std::vector<uint16_t> indices;
    for (int z = 0; z <= n; ++z)
        for (int x = 0; x <= n; ++x) vertices.insert(vertices.end(), {static_cast<float>(x), static_cast<float>(z)});
    for (int z = 0; z < n; ++z)
        for (int x = 0; x < n; ++x) {
            const auto nw = static_cast<uint16_t>(z * (n + 1) + x), ne = static_cast<uint16_t>(nw + 1);
            const auto sw = static_cast<uint16_t>(nw + n + 1), se = static_cast<uint16_t>(sw + 1);
            for (const uint16_t i : {nw, se, ne, nw, sw, se}) indices.push_back(i);
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
    for (const GLuint perInstance : {1u, 2u}) {
        glEnableVertexAttribArray(perInstance);
        glVertexAttribDivisor(perInstance, 1);
    }
    glBindVertexArray(0);
}

void PatchMesh::take(const std::vector<Packed>& patches) {
    glBindBuffer(GL_ARRAY_BUFFER, instances_);
    glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(patches.size() * sizeof(Packed)), patches.data(),
                 GL_STREAM_DRAW);
}

void PatchMesh::draw(size_t first, size_t count) const {
    const size_t at = first * sizeof(Packed) + offsetof(Packed, instance);
    const auto place = [at](size_t offset) { return reinterpret_cast<void*>(at + offset); };
    glBindVertexArray(array_);
    glBindBuffer(GL_ARRAY_BUFFER, instances_);
    glVertexAttribPointer(1, 4, GL_FLOAT, GL_FALSE, sizeof(Packed), place(0));
    glVertexAttribIPointer(2, 4, GL_UNSIGNED_INT, sizeof(Packed), place(offsetof(Instance, firstLayers)));
    glDrawElementsInstanced(GL_TRIANGLES, kIndices, GL_UNSIGNED_SHORT, nullptr, static_cast<GLsizei>(count));
}

}  // namespace jam
