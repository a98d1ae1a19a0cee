#include "dress/figures.h"

#include <algorithm>
#include <cmath>

#include "base/maths.h"
#include "base/parallel.h"
#include "dress/kinds.h"
#include "grow/recipe.h"
#include "level/ground.h"

namespace jam {

namespace {

constexpr double kRim = 8;            // places round a foot that are looked at
constexpr double kLeastFloat = 0.02;  // metres that nobody sees

// Metres from the middle of a foot to its rim: of the trunk, or of what lies on the ground.
double footOf(const Kind& kind, double size) {
    const double radius = kind.blocks == Blocks::nothing ? 0.05 : static_cast<double>(kind.blockRadius);
    return std::min(radius, 2.0) * size;
}

// The ground round a tile, composed once.
class Around {
public:
    Around(const Level& level, const Region& tile) : level_(level), region_(tile.grown(4)) {
        ground_ = Raster<float>(region_.width(), region_.depth());
        readGroundBeyond(level, region_, ground_.view());
    }
    double at(double x, double z) const {
        const double c = std::clamp(level_.toColumn(x), 0.0, level_.columns - 1.0) - region_.x0,
                     r = std::clamp(level_.toRow(z), 0.0, level_.rows - 1.0) - region_.z0;
        if (c < 0 || r < 0 || c > region_.width() - 1 || r > region_.depth() - 1) return altitudeAt(level_, x, z);
        const int i = std::min(static_cast<int>(c), region_.width() - 2),
                  k = std::min(static_cast<int>(r), region_.depth() - 2);
        const double u = c - i, v = r - k, nw = ground_.at(i, k), se = ground_.at(i + 1, k + 1);
        return u >= v ? nw + u * (static_cast<double>(ground_.at(i + 1, k)) - nw) +
                            v * (se - static_cast<double>(ground_.at(i + 1, k)))
                      : nw + v * (static_cast<double>(ground_.at(i, k + 1)) - nw) +
                            u * (se - static_cast<double>(ground_.at(i, k + 1)));
    }

private:
    const Level& level_;
    const Region region_;
    Raster<float> ground_;
};

// The foot is a disc that leans with the mesh.
template <class Ground>
double gapOf(const Kind& kind, const Planting& p, Ground groundAt) {
    const double foot = footOf(kind, p.size), lean = std::tan(std::min(static_cast<double>(p.lean), 80.0) * kRadians),
                 to = static_cast<double>(p.leanTo) * kRadians;
    // Of what stands on more than a point, some lies below its foot.
    const double y0 = static_cast<double>(p.y) - static_cast<double>(grownKind(kind.growth)->below * p.size);
    double gap = y0 - groundAt(p.x, p.z);
    for (int i = 0; i < static_cast<int>(kRim); ++i) {
        const double a = kTurn * i / kRim, x = foot * std::cos(a), z = foot * std::sin(a);
        // What leans to a side goes down on that side.
        const double y = y0 - lean * (x * std::sin(to) - z * std::cos(to));
        gap = std::max(gap, y - groundAt(p.x + x, p.z + z));
    }
    return gap;
}

// What its rules put under water belongs there.
bool belongsInWater(const Kind& kind) {
    return std::any_of(kind.rules.begin(), kind.rules.end(), [](const Rule& r) {
        return r.way == RuleEffect::add && (r.kind == RuleKind::depth || (r.kind == RuleKind::shore && r.from < 0));
    });
}

KindFigures tallied(const Level& level, const Kind& kind, const std::vector<Planting>& tile, const Region& samples) {
    KindFigures f;
    f.standing = static_cast<long long>(tile.size());
    if (tile.empty()) return f;
    const Around ground(level, samples);
    const double tall = heightOf(kind);
    const bool dives = belongsInWater(kind);
    for (const Planting& p : tile) {
        if (gapOf(kind, p, [&](double x, double z) { return ground.at(x, z); }) > kLeastFloat) {
            ++f.floats;
            if (!f.floatsAt) f.floatsAt = {p.x, p.z};
        }
        const auto [c, r] = nearestSample(level, p.x, p.z);
        const Wet water = level.water.columns() > 0 ? level.water.at(c, r) : Wet{};
        if (!dives && water.wet() &&
            static_cast<double>(water.surface) > static_cast<double>(p.y) + tall * static_cast<double>(p.size)) {
            ++f.drowned;
            if (!f.drownedAt) f.drownedAt = {p.x, p.z};
        }
    }
    return f;
}

}  // namespace

double gapBelow(const Level& level, const Kind& kind, const Planting& planting) {
    return gapOf(kind, planting, [&](double x, double z) { return altitudeAt(level, x, z); });
}

const KindFigures& DressFigures::of(uint32_t kind) const {
    static const KindFigures none;
    const auto at = all_.find(kind);
    return at == all_.end() ? none : at->second;
}

bool DressFigures::follow(const Level& level, const Change* change, const Context& context) {
    if (level.kinds.empty()) {
        plantings_.reset();
        tallies_.clear(), all_.clear();
        return true;
    }
    TileSet wetter;
    if (plantings_ && change) {
        plantings_->follow(level, *change);
        wetter = change->water;
    } else {
        plantings_.emplace(level);
        tallies_.clear();
    }
    if (!plantings_->prepare(level.bounds(), context)) return false;
    const int across = plantings_->tilesAcross(), down = plantings_->tilesDown();
    all_.clear();
    for (size_t k = 0; k < level.kinds.size(); ++k) {
        const Kind& kind = level.kinds[k];
        std::vector<Tallied>& tiles = tallies_[kind.id];
        tiles.resize(static_cast<size_t>(across) * static_cast<size_t>(down));
        parallelFor(across * down, 4, [&](int first, int end) {
            for (int i = first; i < end && !context.cancelled(); ++i) {
                const int tx = i % across, tz = i / across;
                Tallied& t = tiles[static_cast<size_t>(i)];
                const auto tile = plantings_->known(k, tx, tz);
                const Region samples = TiledGrid<float>(level.columns, level.rows, 0).tileRegion(tx, tz);
                if (t.tile == tile && !wetter.contains(samples.x0, samples.z0) &&
                    !wetter.contains(samples.x1 - 1, samples.z1 - 1))
                    continue;
                t = {tile, tallied(level, kind, *tile, samples)};
            }
        });
        if (context.cancelled()) return false;
        KindFigures& sum = all_[kind.id];
        for (const Tallied& t : tiles) {
            sum.standing += t.figures.standing;
            sum.floats += t.figures.floats, sum.drowned += t.figures.drowned;
            if (!sum.floatsAt) sum.floatsAt = t.figures.floatsAt;
            if (!sum.drownedAt) sum.drownedAt = t.figures.drownedAt;
        }
    }
    std::erase_if(tallies_, [&](const auto& one) { return !level.kind(one.first); });
    return true;
}

int settleSingles(Level& level) {
    int settled = 0;
    for (Single& s : level.singles) {
        const Kind* kind = level.kind(s.kind);
        if (!kind) continue;
        const double gap = gapBelow(level, *kind, standing(level, *kind, s));
        if (gap <= kLeastFloat) continue;
        s.above = std::max(s.above - static_cast<float>(gap), -static_cast<float>(kMostSink));
        ++settled;
    }
    return settled;
}

}  // namespace jam
