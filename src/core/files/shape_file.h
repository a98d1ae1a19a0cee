// Shapes from files: binary and plain glTF 2.0 (Khronos Group, "glTF 2.0 Specification", 2021) and Wavefront OBJ.
#pragma once

#include <memory>
#include <string>

#include "files/disk.h"
#include "level/mesh.h"

namespace jam {

constexpr size_t kMostShapeBytes = 256u << 20;  // of a file, and of each that it names
constexpr size_t kMostShapeTriangles = 200'000;
constexpr size_t kMostShapePictures = 16;
constexpr int kMostShapeSide = 1024;  // pixels of a picture as it is kept; larger ones are made smaller
constexpr double kLeastShapeScale = 1e-4, kMostShapeScale = 1e4;

// What a file holds, as it lies there: in its own unit, wherever it stands.
struct ReadShape {
    std::string from;  // the file's name
    Mesh mesh;
    std::vector<ShapePicture> pictures;
    std::array<float, 3> low{}, high{};  // the box round it
};

// How what was read becomes a shape of a kind.
struct TakeInWish {
    double scale = 1;  // metres for one of its units, [kLeastShapeScale, kMostShapeScale]
    bool zUp = false;  // its third axis leads up, and not its second
    double turn = 0;   // degrees clockwise that it is turned, seen from above, [0, 360]
};

// By its ending: .glb, .gltf or .obj.
bool isShapeFile(const std::string& file);
// Reads one, with the files beside it that it names. Animation, skins, morph targets and anything but
// triangles are left out; of materials the colour and its picture are taken (PNG and JPEG).
// Errors: no such kind of file, damaged, not one triangle, too many of them, numbers that are none, a file that it
// names and that is not there or lies elsewhere.
Result<ReadShape> readShape(const std::string& file);

// The same in no more than about so many triangles, to look at.
ReadShape lighter(const ReadShape& shape, size_t triangles);

// Its mesh as takeIn() makes it.
Result<Mesh> placedMesh(const ReadShape& shape, const TakeInWish& wish);
// Turned upright, scaled, its foot on the origin below the middle of its box. Errors: a scale out of its range, or a
// shape that would be less than a millimetre or more than 200 m.
Result<std::shared_ptr<const TakenShape>> takeIn(const ReadShape& shape, const TakeInWish& wish);
constexpr double kLeastShapeMetres = 0.001, kMostShapeMetres = 200;

// What takeIn() keeps, read again. Errors: as readShape(), under `name`.
Result<std::shared_ptr<const TakenShape>> decodeShape(Bytes glb, const std::string& from, const std::string& name);

}  // namespace jam
