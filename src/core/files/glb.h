// Meshes as binary glTF 2.0 (Khronos Group, "glTF 2.0 Specification", 2021).
#pragma once

#include <string>
#include <vector>

#include "files/disk.h"
#include "grow/mesh.h"

namespace jam {

struct NamedMesh {
    std::string name;
    const Mesh* mesh;
};

// One node for each mesh, all at the origin; colours at the corners, seen from both sides. Precondition: none is empty.
Bytes encodeGlb(const std::vector<NamedMesh>& meshes);

}  // namespace jam
