#include "far_pictures.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"

namespace jam {

namespace {

constexpr int kFiner = 2;  // samples of a pixel, each way
constexpr int kSide = kFarPixels * kFiner;

using Vector = std::array<double, 3>;

// Triangles on a square of samples, the nearest at each.
class Canvas {
public:
    void clear() {
        std::fill(depth_.begin(), depth_.end(), 1e30f);
        std::fill(filled_.begin(), filled_.end(), 0);
    }
    // Corners in samples, with their distance; f gives what lies at barycentric weights, or nothing.
    template <class F>
    void fill(const std::array<Vector, 3>& p, F f) {
        const double area = (p[1][0] - p[0][0]) * (p[2][1] - p[0][1]) - (p[2][0] - p[0][0]) * (p[1][1] - p[0][1]);
        if (std::abs(area) < 1e-9) return;
        const auto bound = [&](size_t axis, bool high) {
            const double v = high ? std::max({p[0][axis], p[1][axis], p[2][axis]})
                                  : std::min({p[0][axis], p[1][axis], p[2][axis]});
            return std::clamp(static_cast<int>(std::floor(v)), 0, kSide - 1);
        };
        for (int y = bound(1, false); y <= bound(1, true); ++y)
            for (int x = bound(0, false); x <= bound(0, true); ++x) {
                const double px = x + 0.5, py = y + 0.5;
                const double a = ((p[1][0] - px) * (p[2][1] - py) - (p[2][0] - px) * (p[1][1] - py)) / area,
                             b = ((p[2][0] - px) * (p[0][1] - py) - (p[0][0] - px) * (p[2][1] - py)) / area,
                             c = 1 - a - b;
                if (a < 0 || b < 0 || c < 0) continue;
                const auto away = static_cast<float>(a * p[0][2] + b * p[1][2] + c * p[2][2]);
                const auto at = static_cast<size_t>(y * kSide + x);
                if (away >= depth_[at]) continue;
                std::array<uint8_t, 7> sample{};
                if (!f(a, b, c, sample)) continue;
                depth_[at] = away;
                samples_[at] = sample;
                filled_[at] = 1;
            }
    }
    // The mean of what fills a pixel's samples.
    void readPixel(int x, int y, uint8_t* colour, uint8_t* facing) const {
        std::array<int, 7> sum{};
        int count = 0;
        for (int v = 0; v < kFiner; ++v)
            for (int u = 0; u < kFiner; ++u) {
                const auto at = static_cast<size_t>((y * kFiner + v) * kSide + x * kFiner + u);
                if (!filled_[at]) continue;
                ++count;
                for (size_t i = 0; i < 7; ++i) sum[i] += samples_[at][i];
            }
        if (count == 0) return;
        for (size_t i = 0; i < 3; ++i) colour[i] = static_cast<uint8_t>(sum[i] / count);
        colour[3] = static_cast<uint8_t>(255 * count / (kFiner * kFiner));
        for (size_t i = 0; i < 4; ++i) facing[i] = static_cast<uint8_t>(sum[3 + i] / count);
    }

private:
    std::vector<float> depth_ = std::vector<float>(static_cast<size_t>(kSide * kSide));
    std::vector<uint8_t> filled_ = std::vector<uint8_t>(static_cast<size_t>(kSide * kSide));
    std::vector<std::array<uint8_t, 7>> samples_ =
        std::vector<std::array<uint8_t, 7>>(static_cast<size_t>(kSide * kSide));
};

// Colours run into what is bare, so that no black comes in where a picture is made smaller.
void spreadColours(uint8_t* colour, uint8_t* facing) {
    std::array<long, 7> sum{};
    long count = 0;
    constexpr int kAll = kFarPixels * kFarPixels;
    for (int i = 0; i < kAll; ++i)
        if (colour[4 * i + 3] > 0) {
            ++count;
            for (int n = 0; n < 3; ++n) sum[static_cast<size_t>(n)] += colour[4 * i + n];
            for (int n = 0; n < 4; ++n) sum[static_cast<size_t>(3 + n)] += facing[4 * i + n];
        }
    for (int i = 0; i < kAll && count > 0; ++i)
        if (colour[4 * i + 3] == 0) {
            for (int n = 0; n < 3; ++n) colour[4 * i + n] = static_cast<uint8_t>(sum[static_cast<size_t>(n)] / count);
            for (int n = 0; n < 4; ++n)
                facing[4 * i + n] = static_cast<uint8_t>(sum[static_cast<size_t>(3 + n)] / count);
        }
}

}  // namespace

FarPictures farPicturesOf(const Mesh& mesh, const std::vector<ShapePicture>& pictures) {
    FarPictures far;
    double low = 1e30, high = -1e30;
    for (const MeshVertex& v : mesh.vertices)
        low = std::min<double>(low, v.at[1]), high = std::max<double>(high, v.at[1]);
    far.middle = (low + high) / 2;
    for (const MeshVertex& v : mesh.vertices)
        far.radius = std::max(far.radius, std::hypot(std::hypot(v.at[0], v.at[2]), v.at[1] - far.middle));
    far.radius = std::max(far.radius, 1e-3);
    constexpr size_t kEach = static_cast<size_t>(kFarPixels) * kFarPixels * 4;
    far.colour.assign(kEach * kFarViews, 0);
    far.facing.assign(kEach * kFarViews, 0);
    Canvas canvas;
    std::vector<Vector> seen(mesh.vertices.size());
    for (int view = 0; view < kFarViews; ++view) {
        const double a = kTurn * (view % kFarSides) / kFarSides, c = std::cos(a), s = std::sin(a);
        const double above = kFarAbove[static_cast<size_t>(view / kFarSides)] * kRadians, up = std::cos(above),
                     over = std::sin(above);
        const double scale = kSide / (2 * far.radius);
        // The eye lies to the south of it, or further clockwise: to the west, the north, the east.
        for (size_t i = 0; i < seen.size(); ++i) {
            const auto& at = mesh.vertices[i].at;
            const double x = c * static_cast<double>(at[0]) + s * static_cast<double>(at[2]),
                         z = -s * static_cast<double>(at[0]) + c * static_cast<double>(at[2]),
                         y = static_cast<double>(at[1]) - far.middle;
            seen[i] = {kSide / 2.0 + x * scale, kSide / 2.0 + (y * up - z * over) * scale, -(y * over + z * up)};
        }
        canvas.clear();
        for (size_t t = 0; t + 2 < mesh.corners.size(); t += 3) {
            const std::array<uint32_t, 3> corner{mesh.corners[t], mesh.corners[t + 1], mesh.corners[t + 2]};
            const InPicture* in = mesh.painted.empty() || mesh.painted[corner[0]].picture < 0 ? nullptr
                                                                                              : mesh.painted.data();
            canvas.fill({seen[corner[0]], seen[corner[1]], seen[corner[2]]}, [&](double u, double v, double w,
                                                                                 std::array<uint8_t, 7>& out) {
                const std::array<double, 3> weight{u, v, w};
                std::array<double, 7> sum{};
                for (size_t k = 0; k < 3; ++k) {
                    const MeshVertex& m = mesh.vertices[corner[k]];
                    for (size_t n = 0; n < 3; ++n) {
                        sum[n] += weight[k] * m.colour[n];
                        sum[3 + n] += weight[k] * (127.5 + 127.5 * static_cast<double>(m.normal[n]));
                    }
                    sum[6] += weight[k] * m.open;
                }
                if (in) {
                    const ShapePicture& p = pictures[static_cast<size_t>(in[corner[0]].picture)];
                    std::array<double, 2> at{};
                    for (size_t k = 0; k < 3; ++k)
                        at[0] += weight[k] * static_cast<double>(in[corner[k]].u),
                            at[1] += weight[k] * static_cast<double>(in[corner[k]].v);
                    const auto texel = [](double share, int side) {
                        return std::clamp(static_cast<int>((share - std::floor(share)) * side), 0, side - 1);
                    };
                    const size_t i = 4 * (static_cast<size_t>(texel(at[1], p.height)) * static_cast<size_t>(p.width) +
                                          static_cast<size_t>(texel(at[0], p.width)));
                    if (p.rgba[i + 3] < 128) return false;
                    for (size_t n = 0; n < 3; ++n) sum[n] = p.rgba[i + n];
                }
                for (size_t n = 0; n < 7; ++n) out[n] = static_cast<uint8_t>(std::clamp(sum[n] + 0.5, 0.0, 255.0));
                return true;
            });
        }
        uint8_t *colour = &far.colour[kEach * static_cast<size_t>(view)],
                *facing = &far.facing[kEach * static_cast<size_t>(view)];
        for (int y = 0; y < kFarPixels; ++y)
            for (int x = 0; x < kFarPixels; ++x) {
                const int i = 4 * (y * kFarPixels + x);
                canvas.readPixel(x, y, colour + i, facing + i);
            }
        spreadColours(colour, facing);
    }
    return far;
}

int farViewFrom(double east, double up, double south, double turn) {
    const double flat = std::hypot(east, south);
    const int slant = std::atan2(up, flat) * kDegrees > (kFarAbove[0] + kFarAbove[1]) / 2 ? 1 : 0;
    // Clockwise from the south, less what it is turned itself.
    const double a = std::atan2(-east, south) * kDegrees - turn;
    const int side = static_cast<int>(std::lround(a / (360.0 / kFarSides)));
    return slant * kFarSides + ((side % kFarSides) + kFarSides) % kFarSides;
}

}  // namespace jam
