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
        return inclineIn(ground_, c, r).height;
    }

private:
    const Level& level_;
    const Region region_;
    Raster<float> ground_;
};

// The foot is a disc that leans with the mesh.
template <class Ground>
double gapOf(const Kind& kind, float below, const Planting& p, Ground groundAt) {
    const double foot = footOf(kind, p.size), lean = std::tan(std::min(static_cast<double>(p.lean), 80.0) * kRadians),
                 to = static_cast<double>(p.leanTo) * kRadians;
    // Of what stands on more than a point, some lies below its foot.
    const double y0 = static_cast<double>(p.y) - static_cast<double>(below * p.size);
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

void note(KindFigures::Amiss& amiss, const Planting& p) {
    ++amiss.count;
    if (!amiss.at) amiss.at = {p.x, p.z};
}

KindFigures tallied(Plantings& all, const Kind& kind, const std::vector<Planting>& tile, int tx, int tz,
                    const Region& samples) {
    const Level& level = all.level();
    KindFigures f;
    f.standing = static_cast<long long>(tile.size());
    if (tile.empty()) return f;
    const Around ground(level, samples);
    const auto meshes = meshesOf(kind);
    const double tall = meshes->height;
    const bool dives = belongsInWater(kind), blocks = kind.blocks != Blocks::nothing;
    for (const Planting& p : tile) {
        if (gapOf(kind, meshes->below, p, [&](double x, double z) { return ground.at(x, z); }) > kLeastFloat)
            note(f.floats, p);
        const auto [c, r] = nearestSample(level, p.x, p.z);
        const Wet water = level.water.columns() > 0 ? level.water.at(c, r) : Wet{};
        if (!dives && water.wet() &&
            static_cast<double>(water.surface) > static_cast<double>(p.y) + tall * static_cast<double>(p.size))
            note(f.drowned, p);
        if (blocks && (all.byCourse(tx, tz, p.x, p.z, 0) ||
                       std::any_of(level.spots.begin(), level.spots.end(),
                                   [&](const Spot& s) { return std::hypot(s.x - p.x, s.z - p.z) < kSpotClear; })))
            note(f.inTheWay, p);
    }
    return f;
}

}  // namespace

double gapBelow(const Level& level, const Kind& kind, const Planting& planting) {
    return gapOf(kind, meshesOf(kind)->below, planting, [&](double x, double z) { return altitudeAt(level, x, z); });
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
        // Which course or spot is in whose way is looked at anew altogether.
        if (!change->strata.empty() || change->spots) tallies_.clear();
    } else {
        plantings_.emplace(level);
        tallies_.clear();
    }
    if (!plantings_->prepare(level.bounds(), context)) return false;
    const int across = plantings_->tilesAcross(), down = plantings_->tilesDown();
    // What stands by a tile's edge looks at samples of the next one.
    std::vector<bool> wet(static_cast<size_t>(across) * static_cast<size_t>(down));
    wetter.grown(1, level.bounds()).each([&](int tx, int tz, const Region&) {
        wet[static_cast<size_t>(tz) * static_cast<size_t>(across) + static_cast<size_t>(tx)] = true;
    });
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
                if (t.tile == tile && !wet[static_cast<size_t>(i)]) continue;
                t = {tile, tallied(*plantings_, kind, *tile, tx, tz, samples)};
            }
        });
        if (context.cancelled()) return false;
        KindFigures& sum = all_[kind.id];
        for (const Tallied& t : tiles) {
            sum.standing += t.figures.standing;
            for (const auto which : {&KindFigures::floats, &KindFigures::drowned, &KindFigures::inTheWay}) {
                (sum.*which).count += (t.figures.*which).count;
                if (!(sum.*which).at) (sum.*which).at = (t.figures.*which).at;
            }
        }
    }
    std::erase_if(tallies_, [&](const auto& one) { return !level.kind(one.first); });
    return true;
}

int settleSingles(Level& level, uint32_t which) {
    int settled = 0;
    for (Single& s : level.singles) {
        const Kind* kind = level.kind(s.kind);
        if (!kind || (which != 0 && s.kind != which)) continue;
        const double gap = gapBelow(level, *kind, standing(level, *kind, s));
        if (gap <= kLeastFloat) continue;
        s.above = std::max(s.above - static_cast<float>(gap), -static_cast<float>(kMostSink));
        ++settled;
    }
    return settled;
}

}  // namespace jam
