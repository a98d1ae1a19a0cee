#include "looks/kind_art.h"

#include <algorithm>
#include <cmath>
#include <QCache>
#include <QPainter>

#include "base/maths.h"
#include "grow/recipe.h"

namespace jam {

namespace {

constexpr double kFromAbove = 14;  // degrees
constexpr double kUsualTurn = 25;

struct Key {
    Growth growth;
    std::shared_ptr<const TakenShape> taken;
    std::array<float, 3> tint;
    QSize size;
    int ratio, variant;
    bool operator==(const Key&) const = default;
};
size_t qHash(const Key& k, size_t seed) {
    size_t h = seed ^ reinterpret_cast<size_t>(k.taken.get()) ^
               static_cast<size_t>(k.size.width() * 4099 + k.size.height()) ^ k.growth.seed;
    for (const float n : k.growth.numbers) h = h * 31 + static_cast<size_t>(n * 1000);
    return h * 31 + static_cast<size_t>(k.variant + 2);
}

// Triangles from the farthest to the nearest, each in one tone.
QImage drawn(const Mesh& mesh, const std::array<float, 3>& tint, const QSize& pixels, double turned) {
    QImage image(pixels, QImage::Format_ARGB32_Premultiplied);
    image.fill(Qt::transparent);
    if (mesh.corners.empty()) return image;
    const double a = turned * kRadians, c = std::cos(a), s = std::sin(a), up = std::cos(kFromAbove * kRadians),
                 over = std::sin(kFromAbove * kRadians);
    struct Seen {
        double x, y, away;
    };
    std::vector<Seen> seen;
    double x0 = 1e9, x1 = -1e9, y0 = 1e9, y1 = -1e9;
    for (const MeshVertex& v : mesh.vertices) {
        const double x = c * static_cast<double>(v.at[0]) - s * static_cast<double>(v.at[2]),
                     z = s * static_cast<double>(v.at[0]) + c * static_cast<double>(v.at[2]), y = v.at[1];
        seen.push_back({x, -(y * up - z * over), y * over + z * up});
        if (y < 0) continue;  // what lies in the ground
        x0 = std::min(x0, x), x1 = std::max(x1, x), y0 = std::min(y0, seen.back().y), y1 = std::max(y1, seen.back().y);
    }
    const double scale = 0.94 *
                         std::min(pixels.width() / std::max(x1 - x0, 1e-3), pixels.height() / std::max(y1 - y0, 1e-3));
    const auto at = [&](size_t i) {
        return QPointF(pixels.width() / 2.0 + (seen[i].x - (x0 + x1) / 2) * scale,
                       pixels.height() - 0.03 * pixels.height() + (seen[i].y - y1) * scale);
    };
    std::vector<std::pair<double, size_t>> order;
    for (size_t t = 0; t + 2 < mesh.corners.size(); t += 3)
        order.emplace_back(seen[mesh.corners[t]].away + seen[mesh.corners[t + 1]].away + seen[mesh.corners[t + 2]].away,
                           t);
    std::sort(order.begin(), order.end());
    QPainter p(&image);
    p.setRenderHint(QPainter::Antialiasing);
    // Light from the upper left, in front.
    const double lx = -0.5, ly = 0.7, lz = 0.5;
    for (const auto& [away, t] : order) {
        double light = 0, open = 0, rgb[3] = {};
        for (size_t k = 0; k < 3; ++k) {
            const MeshVertex& v = mesh.vertices[mesh.corners[t + k]];
            const double nx = c * static_cast<double>(v.normal[0]) - s * static_cast<double>(v.normal[2]),
                         nz = s * static_cast<double>(v.normal[0]) + c * static_cast<double>(v.normal[2]);
            light += std::max(nx * lx + static_cast<double>(v.normal[1]) * ly + nz * lz, 0.0) / 3;
            open += v.open / 765.0;
            for (size_t i = 0; i < 3; ++i) rgb[i] += v.colour[i] * static_cast<double>(tint[i]) / 3;
        }
        const double shade = (0.45 + 0.75 * light) * (0.5 + 0.5 * open);
        const auto byte = [&](double v) { return static_cast<int>(std::clamp(v * shade * 1.1, 0.0, 255.0)); };
        const QColor colour(byte(rgb[0]), byte(rgb[1]), byte(rgb[2]));
        p.setPen(QPen(colour, 0.6));
        p.setBrush(colour);
        const QPointF corners[3] = {at(mesh.corners[t]), at(mesh.corners[t + 1]), at(mesh.corners[t + 2])};
        p.drawConvexPolygon(corners, 3);
    }
    return image;
}

}  // namespace

QPixmap kindPicture(const Kind& kind, const QSize& size, qreal ratio, double turned, int variant) {
    static QCache<Key, QPixmap> known(256);
    if (!kind.taken && !checkGrowth(kind.growth)) return {};
    std::array<float, 3> tint;
    for (size_t i = 0; i < 3; ++i) tint[i] = (kind.tintFrom[i] + kind.tintTo[i]) / 2;
    const Key key{kind.growth, kind.taken.shape, tint, size, static_cast<int>(ratio * 100), variant};
    const bool usual = turned == kUsualTurn;
    if (const QPixmap* p = usual ? known.object(key) : nullptr) return *p;
    const auto grown = meshesOf(kind);
    const size_t which = variant < 0 ? grown->variants.size() - 1
                                     : std::min<size_t>(static_cast<size_t>(variant), grown->variants.size() - 1);
    QPixmap made = QPixmap::fromImage(drawn(grown->variants[which][0], tint, (QSizeF(size) * ratio).toSize(), turned));
    made.setDevicePixelRatio(ratio);
    if (usual) known.insert(key, new QPixmap(made));
    return made;
}

}  // namespace jam
