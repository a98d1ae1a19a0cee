// What both readers of shapes share.
#pragma once

#include <functional>

#include "files/shape_file.h"

namespace jam {

// A file that a shape names, by the name that it gives: read, or an error that says what is wrong with the name.
using Beside = std::function<Result<Bytes>(const std::string& name)>;

Result<ReadShape> readGltf(const Bytes& bytes, bool binary, const std::string& name, const Beside& beside);
Result<ReadShape> readObj(const Bytes& bytes, const std::string& name, const Beside& beside);

// A PNG or a JPEG, made smaller where a side is longer than kMostShapeSide. Errors: neither, damaged, over 16384 pixels
// a side.
Result<ShapePicture> decodeShapePicture(const uint8_t* bytes, size_t size, const std::string& name);

// Normals where a mesh has none, from its `first` corner on: the mean of those of the triangles at a place, by their
// areas, of as many as lie nearly in one plane; where edges are sharp, vertices become several.
void giveNormals(Mesh& mesh, size_t first);

}  // namespace jam
