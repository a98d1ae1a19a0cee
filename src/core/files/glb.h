// Meshes as binary glTF 2.0 (Khronos Group, "glTF 2.0 Specification", 2021).
#pragma once

#include <string>
#include <vector>

#include "files/disk.h"
#include "level/mesh.h"

namespace jam {

struct NamedMesh {
    std::string name;
    const Mesh* mesh;
};

// One node for each mesh, all at the origin, seen from both sides; colours at the corners, or pictures (PNG, within the
// file) where a mesh lies in them. Precondition: none is empty.
Bytes encodeGlb(const std::vector<NamedMesh>& meshes, const std::vector<ShapePicture>& pictures = {});

}  // namespace jam
