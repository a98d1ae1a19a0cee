#include "walk/footing.h"

#include <algorithm>
#include <cmath>

#include "level/ground.h"
#include "level/opening.h"
#include "water/figures.h"

namespace jam {

namespace {
constexpr int kCells = 64;  // of a block, each way
}

// The corners of some cells.
struct Footing::Block {
    Raster<float> heights;
    bool wet = false, gaps = false;
};

// A stream's line, with its speed at each leg.
struct Footing::Brook {
    uint32_t id = 0;
    struct Leg {
        double x, z, east, south;
    };
    std::vector<Leg> legs;
};

Footing::Footing(const Level& level)
    : level_(level), gaps_(hasGaps(level)), across_((level.columns + kCells - 2) / kCells),
      blocks_(static_cast<size_t>(across_) * static_cast<size_t>((level.rows + kCells - 2) / kCells)), solids_(level) {}
Footing::~Footing() = default;

const Footing::Block& Footing::block(int tx, int tz) {
    auto& b = blocks_[static_cast<size_t>(tz) * static_cast<size_t>(across_) + static_cast<size_t>(tx)];
    if (b) return *b;
    b = std::make_unique<Block>();
    const Region corners =
        Region{tx * kCells, tz * kCells, (tx + 1) * kCells + 1, (tz + 1) * kCells + 1}.clipped(level_.bounds());
    b->heights = Raster<float>(corners.width(), corners.depth());
    readGround(level_, corners, b->heights.view());
    b->gaps = gaps_ && mayHaveGaps(level_, corners);
    level_.water.eachPart(corners, [&](int x, int z, const Region&) { b->wet |= level_.water.tile(x, z) != nullptr; });
    return *b;
}

Under Footing::under(double x, double z, double climb) {
    Under u = onGround(x, z);
    if (!u.land) return u;
    solids_.near(x, z, 0, [&](const Solid& s) {
        if (s.carries && s.top <= climb && s.top > u.ground && s.away(x, z).metres <= 0)
            u.ground = s.top, u.east = u.south = 0;
    });
    if (u.surface <= u.ground) u.body = 0, u.surface = -Under::kDryMetres;
    return u;
}

Footing::Barred Footing::barred(double x, double z, double girth, double climb, double head) {
    Barred most;
    solids_.near(x, z, girth, [&](const Solid& s) {
        if (!s.bars(climb, head)) return;
        const Solid::Away a = s.away(x, z);
        if (girth - a.metres > most.by) most = {girth - a.metres, a.east, a.south};
    });
    return most;
}

Under Footing::onGround(double x, double z) {
    Under u;
    const double cx = level_.toColumn(x), cz = level_.toRow(z);
    if (!(cx >= 0 && cz >= 0 && cx <= level_.columns - 1 && cz <= level_.rows - 1)) return u;
    const int c = std::min(static_cast<int>(cx), level_.columns - 2),
              r = std::min(static_cast<int>(cz), level_.rows - 2);
    const Block& b = block(c / kCells, r / kCells);
    if (b.gaps && gapBetween(level_, cx, cz) >= kGapEdge) return u;
    u.land = true;
    const auto heights = b.heights.view();
    const double fx = cx - c, fz = cz - r;
    const Incline on = inclineOf(fx, fz, [&](int dx, int dz) { return heights.row(r % kCells + dz)[c % kCells + dx]; });
    u.ground = on.height;
    u.east = on.east / level_.spacing;
    u.south = on.south / level_.spacing;
    if (!b.wet) return u;
    const bool upper = fx >= fz;
    double sum = 0;
    int n = 0;
    for (const auto& [dc, dr] : {std::array{0, 0}, std::array{upper ? 1 : 0, upper ? 0 : 1}, std::array{1, 1}}) {
        const Wet w = level_.water.at(c + dc, r + dr);
        if (!w.wet() || (u.body && w.body != u.body)) continue;
        u.body = w.body;
        sum += static_cast<double>(w.surface);
        ++n;
    }
    if (n == 0) return u;
    u.surface = sum / n;
    if (u.surface <= u.ground) u.body = 0, u.surface = -Under::kDryMetres;
    return u;
}

std::array<double, 2> Footing::flow(double x, double z, uint32_t body) {
    const Stream* s = level_.stream(body);
    if (!s) return {0, 0};
    auto at = std::find_if(brooks_.begin(), brooks_.end(), [body](const auto& b) { return b->id == body; });
    if (at == brooks_.end()) {
        auto made = std::make_unique<Brook>();
        made->id = body;
        const std::vector<LinePoint> line = streamLine(level_, *s);
        for (size_t i = 0; i + 1 < line.size(); ++i) {
            const LinePoint &a = line[i], &b = line[i + 1];
            const double run = b.along - a.along;
            if (run <= 1e-9) continue;
            const double speed = manningSpeed(s->depth, a.width, (a.height - b.height) / run, s->manning);
            made->legs.push_back(
                {0.5 * (a.x + b.x), 0.5 * (a.z + b.z), speed * (b.x - a.x) / run, speed * (b.z - a.z) / run});
        }
        brooks_.push_back(std::move(made));
        at = brooks_.end() - 1;
    }
    double best = 1e300;
    std::array<double, 2> flow{0, 0};
    for (const Brook::Leg& l : (*at)->legs) {
        const double away = (l.x - x) * (l.x - x) + (l.z - z) * (l.z - z);
        if (away < best) best = away, flow = {l.east, l.south};
    }
    return flow;
}

}  // namespace jam
