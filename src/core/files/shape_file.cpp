#include "files/shape_file.h"

#include <meshoptimizer.h>

#include <cmath>
#include <filesystem>
#include <map>

#include "base/maths.h"
#include "base/names.h"
#include "base/range.h"
#include "base/text.h"
#include "files/glb.h"
#include "files/png.h"
#include "files/read_gltf.h"
#include "files/resized.h"

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wall"
#pragma GCC diagnostic ignored "-Wextra"
#pragma GCC diagnostic ignored "-Wpedantic"
#define STB_IMAGE_IMPLEMENTATION
#define STB_IMAGE_STATIC
#define STBI_ONLY_PNG
#define STBI_ONLY_JPEG
#define STBI_NO_STDIO
#include <stb/stb_image.h>
#pragma GCC diagnostic pop

namespace jam {

namespace {

namespace fs = std::filesystem;

constexpr int kMostPictureSide = 16384;
// One in so many triangles is left from some way off, and from far away; and how far the shape may be off by then, as a
// share of it.
constexpr size_t kMiddleLeaves = 4, kFarLeaves = 25;
constexpr float kMiddleOff = 0.03f, kFarOff = 0.15f;
constexpr double kSmoothTo = 0.7;  // cosine of the angle up to which an edge without normals is round
constexpr size_t kFew = 12;        // triangles that are not worth making fewer

std::string endingOf(const std::string& file) {
    std::string e = fs::path(file).extension().string();
    for (char& c : e) c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return e;
}

// "tree%20bark.png" as it is called on disk.
std::string withoutEscapes(const std::string& name) {
    std::string plain;
    for (size_t i = 0; i < name.size(); ++i) {
        if (name[i] == '%' && i + 2 < name.size() && std::isxdigit(static_cast<unsigned char>(name[i + 1])) &&
            std::isxdigit(static_cast<unsigned char>(name[i + 2]))) {
            plain += static_cast<char>(std::stoi(name.substr(i + 1, 2), nullptr, 16));
            i += 2;
        } else {
            plain += name[i] == '\\' ? '/' : name[i];
        }
    }
    return plain;
}

// Reads what a shape names: only below the folder that it lies in, and only plain files.
Beside besideFile(const std::string& file) {
    return [file](const std::string& name) -> Result<Bytes> {
        const fs::path within = fs::path(withoutEscapes(name)).lexically_normal();
        const auto refused = [&](const char* problem, const char* remedy) {
            return Error{file, shortened(asText(name)), problem, remedy};
        };
        if (within.empty() || within.is_absolute() || *within.begin() == "..")
            return refused("it names a file that does not lie in its folder", "put the file beside it");
        const fs::path full = fs::path(file).parent_path() / within;
        std::error_code trouble;
        if (!fs::is_regular_file(full, trouble))
            return refused("it names a file that is not there", "put the file beside it");
        return readFile(full.string(), kMostShapeBytes);
    };
}

// With so many triangles, lying off the shape by no more than a share of it; `loose`: its seams do not count, and it
// need not stay whole.
Mesh simpler(const Mesh& near, size_t triangles, float off, bool loose) {
    if (near.triangles() <= kFew) return near;
    const size_t all = near.corners.size(), wish = 3 * std::max(triangles, kFew);
    std::vector<uint32_t> corners(all);
    size_t left = meshopt_simplify(corners.data(), near.corners.data(), all, near.vertices[0].at.data(),
                                   near.vertices.size(), sizeof(MeshVertex), wish, off);
    if (loose && left > 2 * wish)
        left = meshopt_simplifySloppy(corners.data(), near.corners.data(), all, near.vertices[0].at.data(),
                                      near.vertices.size(), sizeof(MeshVertex), wish, 1e9f);
    if (left == 0) return near;
    corners.resize(left);
    // The vertices that it still has.
    Mesh made;
    std::map<uint32_t, uint32_t> place;
    for (const uint32_t c : corners) {
        const auto [at, added] = place.try_emplace(c, static_cast<uint32_t>(made.vertices.size()));
        made.corners.push_back(at->second);
        if (!added) continue;
        made.vertices.push_back(near.vertices[c]);
        if (!near.painted.empty()) made.painted.push_back(near.painted[c]);
    }
    return made;
}

// What a picture shows at a place, going round.
std::array<uint8_t, 3> colourIn(const ShapePicture& p, float u, float v) {
    const auto at = [](float share, int side) {
        return std::clamp(static_cast<int>((share - std::floor(share)) * static_cast<float>(side)), 0, side - 1);
    };
    const size_t i =
        4 * (static_cast<size_t>(at(v, p.height)) * static_cast<size_t>(p.width) + static_cast<size_t>(at(u, p.width)));
    return {p.rgba[i], p.rgba[i + 1], p.rgba[i + 2]};
}

// Gives vertices that lie in pictures the mean colour of their triangles, for whoever does not look at pictures.
void giveColours(Mesh& m, const std::vector<ShapePicture>& pictures) {
    constexpr int kParts = 6;  // of a side that are looked at
    std::vector<std::array<float, 4>> sums(m.vertices.size());
    for (size_t t = 0; t + 2 < m.corners.size(); t += 3) {
        const InPicture &a = m.painted[m.corners[t]], &b = m.painted[m.corners[t + 1]],
                        &c = m.painted[m.corners[t + 2]];
        if (a.picture < 0) continue;
        std::array<float, 4> sum{};
        for (int i = 0; i < kParts; ++i)
            for (int k = 0; i + k < kParts; ++k) {
                const float u = (static_cast<float>(i) + 0.33f) / kParts, v = (static_cast<float>(k) + 0.33f) / kParts;
                const auto here = colourIn(pictures[static_cast<size_t>(a.picture)],
                                           a.u + u * (b.u - a.u) + v * (c.u - a.u),
                                           a.v + u * (b.v - a.v) + v * (c.v - a.v));
                for (size_t n = 0; n < 3; ++n) sum[n] += here[n];
                ++sum[3];
            }
        for (size_t k = 0; k < 3; ++k)
            for (size_t n = 0; n < 4; ++n) sums[m.corners[t + k]][n] += sum[n];
    }
    for (size_t i = 0; i < sums.size(); ++i)
        for (size_t n = 0; n < 3 && sums[i][3] > 0; ++n)
            m.vertices[i].colour[n] = static_cast<uint8_t>(std::lround(sums[i][n] / sums[i][3]));
}

void findBox(ReadShape& shape) {
    shape.low.fill(1e30f), shape.high.fill(-1e30f);
    for (const uint32_t c : shape.mesh.corners)
        for (size_t i = 0; i < 3; ++i) {
            shape.low[i] = std::min(shape.low[i], shape.mesh.vertices[c].at[i]);
            shape.high[i] = std::max(shape.high[i], shape.mesh.vertices[c].at[i]);
        }
}

// Corners that no triangle has are left out, and so is what is no triangle; then what a shape needs besides.
Status tidy(ReadShape& shape, const std::string& name) {
    Mesh made;
    std::map<uint32_t, uint32_t> place;
    const Mesh& m = shape.mesh;
    for (size_t t = 0; t + 2 < m.corners.size(); t += 3) {
        const std::array<uint32_t, 3> c{m.corners[t], m.corners[t + 1], m.corners[t + 2]};
        if (c[0] == c[1] || c[1] == c[2] || c[0] == c[2]) continue;
        for (const uint32_t corner : c) {
            const auto [at, added] = place.try_emplace(corner, static_cast<uint32_t>(made.vertices.size()));
            made.corners.push_back(at->second);
            if (!added) continue;
            made.vertices.push_back(m.vertices[corner]);
            made.painted.push_back(m.painted[corner]);
        }
    }
    if (made.corners.empty()) return Error{name, "", "there is not one triangle in it", "export it with its mesh"};
    giveColours(made, shape.pictures);
    if (shape.pictures.empty()) made.painted.clear();
    shape.mesh = std::move(made);
    findBox(shape);
    return {};
}

}  // namespace

void giveNormals(Mesh& m, size_t first) {
    using Vector = std::array<double, 3>;
    const auto normalOf = [&](size_t t) {
        std::array<Vector, 2> e;
        for (size_t i = 0; i < 3; ++i)
            for (size_t k = 0; k < 2; ++k)
                e[k][i] = static_cast<double>(m.vertices[m.corners[t + k + 1]].at[i]) -
                          static_cast<double>(m.vertices[m.corners[t]].at[i]);
        return Vector{e[0][1] * e[1][2] - e[0][2] * e[1][1], e[0][2] * e[1][0] - e[0][0] * e[1][2],
                      e[0][0] * e[1][1] - e[0][1] * e[1][0]};
    };
    const auto dot = [](const Vector& a, const Vector& b) { return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]; };
    // What is turned inside out altogether is turned back: by the volume that it encloses.
    double volume = 0;
    for (size_t t = first; t + 2 < m.corners.size(); t += 3) {
        const Vector n = normalOf(t);
        for (size_t i = 0; i < 3; ++i)
            volume += n[i] * (static_cast<double>(m.vertices[m.corners[t]].at[i]) -
                              static_cast<double>(m.vertices[m.corners[first]].at[i]));
    }
    if (volume < 0)
        for (size_t t = first; t + 2 < m.corners.size(); t += 3) std::swap(m.corners[t + 1], m.corners[t + 2]);
    // The triangles at each place, with normals as long as twice their areas.
    std::map<std::array<float, 3>, std::vector<Vector>> round;
    std::vector<Vector> own;
    for (size_t t = first; t + 2 < m.corners.size(); t += 3) {
        own.push_back(normalOf(t));
        for (size_t k = 0; k < 3; ++k) round[m.vertices[m.corners[t + k]].at].push_back(own.back());
    }
    // A vertex for each normal that is wanted of it.
    std::map<std::pair<uint32_t, std::array<float, 3>>, uint32_t> made;
    std::vector<bool> taken(m.vertices.size());
    for (size_t t = first; t + 2 < m.corners.size(); t += 3) {
        const Vector& face = own[(t - first) / 3];
        for (size_t k = 0; k < 3; ++k) {
            uint32_t& corner = m.corners[t + k];
            Vector sum{};
            for (const Vector& n : round[m.vertices[corner].at])
                if (dot(n, face) >= kSmoothTo * std::sqrt(dot(n, n) * dot(face, face)))
                    for (size_t i = 0; i < 3; ++i) sum[i] += n[i];
            const double length = std::sqrt(dot(sum, sum));
            std::array<float, 3> normal{0, 1, 0};
            if (length > 1e-12 && std::isfinite(length))
                for (size_t i = 0; i < 3; ++i) normal[i] = static_cast<float>(sum[i] / length);
            const uint32_t was = corner;
            const auto [at, added] = made.try_emplace({was, normal}, was);
            if (added) {
                if (taken[was]) {
                    at->second = static_cast<uint32_t>(m.vertices.size());
                    m.vertices.push_back(MeshVertex(m.vertices[was]));
                    m.painted.push_back(InPicture(m.painted[was]));
                } else {
                    taken[was] = true;
                }
                m.vertices[at->second].normal = normal;
            }
            corner = at->second;
        }
    }
}

Result<ShapePicture> decodeShapePicture(const uint8_t* bytes, size_t size, const std::string& name) {
    const auto no = [&](const char* problem, const char* remedy) { return Error{name, "", problem, remedy}; };
    int width = 0, height = 0, channels = 0;
    if (size > kMostShapeBytes || !stbi_info_from_memory(bytes, static_cast<int>(size), &width, &height, &channels))
        return no("one of its pictures is neither PNG nor JPEG, or it is damaged", "give it as PNG");
    if (width > kMostPictureSide || height > kMostPictureSide || width <= 0 || height <= 0)
        return no("one of its pictures has a side of more than 16384 pixels", "make it smaller");
    stbi_uc* data = stbi_load_from_memory(bytes, static_cast<int>(size), &width, &height, &channels, 4);
    if (!data) return no("one of its pictures is neither PNG nor JPEG, or it is damaged", "give it as PNG");
    const std::unique_ptr<stbi_uc, void (*)(stbi_uc*)> held(data, [](stbi_uc* p) { stbi_image_free(p); });
    ShapePicture picture{width, height, {}};
    const size_t count = 4 * static_cast<size_t>(width) * static_cast<size_t>(height);
    if (std::max(width, height) <= kMostShapeSide) {
        picture.rgba.assign(data, data + count);
        return picture;
    }
    Pixels large{width, height, 4, 8, std::vector<uint16_t>(data, data + count)};
    const double by = static_cast<double>(kMostShapeSide) / std::max(width, height);
    const Pixels small = resized(large, std::max(static_cast<int>(std::lround(width * by)), 1),
                                 std::max(static_cast<int>(std::lround(height * by)), 1));
    picture.width = small.width, picture.height = small.height;
    picture.rgba.assign(small.samples.begin(), small.samples.end());
    return picture;
}

bool isShapeFile(const std::string& file) {
    const std::string ending = endingOf(file);
    return ending == ".glb" || ending == ".gltf" || ending == ".obj";
}

Result<ReadShape> readShape(const std::string& file) {
    const std::string ending = endingOf(file);
    if (!isShapeFile(file)) return Error{file, "", "it is no shape that can be taken in", "use .glb, .gltf or .obj"};
    const Result<Bytes> bytes = readFile(file, kMostShapeBytes);
    if (!bytes) return bytes.error();
    const Beside beside = besideFile(file);
    Result<ReadShape> shape = ending == ".obj" ? readObj(bytes.value(), file, beside)
                                               : readGltf(bytes.value(), ending == ".glb", file, beside);
    if (!shape) return shape.error();
    ReadShape made = shape.take();
    if (const Status s = tidy(made, file); !s) return s.error();
    made.from = fs::path(file).filename().string();
    return made;
}

ReadShape lighter(const ReadShape& shape, size_t triangles) {
    ReadShape light = shape;
    if (shape.mesh.triangles() > triangles) light.mesh = simpler(shape.mesh, triangles, 1, true);
    return light;
}

Result<Mesh> placedMesh(const ReadShape& shape, const TakeInWish& wish) {
    if (const Status s = checkRange("scale", wish.scale, kLeastShapeScale, kMostShapeScale, ""); !s) return s.error();
    if (const Status s = checkRange("turn", wish.turn, 0, 360, " degrees"); !s) return s.error();
    Mesh mesh = shape.mesh;
    const double a = wish.turn * kRadians, cosine = std::cos(a), sine = std::sin(a);
    const auto turned = [&](const std::array<float, 3>& v) {
        std::array<double, 3> t{static_cast<double>(v[0]), static_cast<double>(v[1]), static_cast<double>(v[2])};
        if (wish.zUp) t = {t[0], t[2], -t[1]};
        if (wish.turn != 0) t = {t[0] * cosine - t[2] * sine, t[1], t[0] * sine + t[2] * cosine};
        return t;
    };
    std::vector<std::array<double, 3>> places;
    std::array<double, 3> low{1e300, 1e300, 1e300}, high{-1e300, -1e300, -1e300};
    for (MeshVertex& v : mesh.vertices) {
        auto at = turned(v.at);
        for (size_t i = 0; i < 3; ++i) {
            at[i] *= wish.scale;
            low[i] = std::min(low[i], at[i]), high[i] = std::max(high[i], at[i]);
        }
        places.push_back(at);
        const auto n = turned(v.normal);
        for (size_t i = 0; i < 3; ++i) v.normal[i] = static_cast<float>(n[i]);
    }
    double most = 0;
    for (size_t i = 0; i < 3; ++i) most = std::max(most, high[i] - low[i]);
    if (!(most >= kLeastShapeMetres && most <= kMostShapeMetres))
        return Error{"", "scale", "the shape would be " + number(most) + " m large",
                     "choose one with which it is 1 mm to 200 m"};
    for (size_t i = 0; i < mesh.vertices.size(); ++i) {
        mesh.vertices[i].at = {static_cast<float>(places[i][0] - (low[0] + high[0]) / 2),
                               static_cast<float>(places[i][1] - low[1]),
                               static_cast<float>(places[i][2] - (low[2] + high[2]) / 2)};
    }
    return mesh;
}

Result<std::shared_ptr<const TakenShape>> takeIn(const ReadShape& shape, const TakeInWish& wish) {
    const Result<Mesh> mesh = placedMesh(shape, wish);
    if (!mesh) return mesh.error();
    return decodeShape(encodeGlb({{"shape", &mesh.value()}}, shape.pictures), shape.from, shape.from);
}

Result<std::shared_ptr<const TakenShape>> decodeShape(Bytes glb, const std::string& from, const std::string& name) {
    const Beside nothing = [&](const std::string&) -> Result<Bytes> {
        return Error{name, "", "it is not whole", "take the shape in anew"};
    };
    Result<ReadShape> read = readGltf(glb, true, name, nothing);
    if (!read) return read.error();
    ReadShape shape = read.take();
    if (const Status s = tidy(shape, name); !s) return s.error();
    auto meshes = std::make_shared<KindMeshes>();
    meshes->pictures = std::move(shape.pictures);
    std::array<Mesh, kDetails> details;
    details[0] = std::move(shape.mesh);
    details[1] = simpler(details[0], details[0].triangles() / kMiddleLeaves, kMiddleOff, false);
    details[2] = simpler(details[1], details[0].triangles() / kFarLeaves, kFarOff, true);
    meshes->add(std::move(details));
    auto made = std::make_shared<TakenShape>();
    made->from = from;
    made->glb = std::move(glb);
    made->meshes = std::move(meshes);
    return std::shared_ptr<const TakenShape>(std::move(made));
}

}  // namespace jam
