#include "watch/surveyor.h"

#include <cmath>
#include <cstring>

#include "dress/cast.h"
#include "level/changes.h"
#include "looks/layer_art.h"
#include "survey/contours.h"
#include "workplace/document.h"

namespace jam {

namespace {

constexpr int kRestMs = 250;

// The tiles in which two shades of the same size differ.
TileSet shadeBetween(const Shade& now, const Shade& before) {
    TileSet out;
    for (const auto part : {&Shade::sun, &Shade::open}) {
        const Raster<uint8_t>&a = *(now.*part), &b = *(before.*part);
        if (&a == &b) continue;
        for (int z = 0; z < a.depth(); ++z)
            for (int x = 0; x < a.width(); x += TileSet::kTile) {
                const int n = std::min(TileSet::kTile, a.width() - x);
                if (std::memcmp(&a.at(x, z), &b.at(x, z), static_cast<size_t>(n)) != 0) out.add({x, z, x + n, z + 1});
            }
    }
    return out;
}

}  // namespace

Surveyor::Surveyor(Document& document, QObject* parent)
    : QObject(parent), document_(document), rested_(tr("Surveying the level"), kRestMs, [this] { return begin(); }) {
    document.on(About::samples | About::layers | About::sun | About::waters | About::spots | About::dress, &rested_,
                &WhenRested::later);
    connect(&rested_, &WhenRested::failed, this, &Surveyor::failed);
    rested_.now();
}

WhenRested::Job Surveyor::begin() {
    if (document_.stroking()) {
        rested_.later();
        return {};
    }
    return [this, level = document_.level()](const Context& context) -> WhenRested::Found {
        return [this, found = survey(level, context), level] {
            findings_ = found;
            surveyed_ = level;
            emit this->found();
        };
    };
}

std::shared_ptr<Findings> Surveyor::survey(const Level& level, const Context& context) const {
    const bool follows = surveyed_ && sameRaster(*surveyed_, level);
    const Change change = follows ? changesBetween(level, *surveyed_) : Change{};
    const bool ground = !follows || !change.gaps.empty() || !change.ground.empty();
    auto f = follows ? std::make_shared<Findings>(*findings_) : std::make_shared<Findings>();
    f->shadeChanged.reset();
    for (const Layer& layer : level.layers) meanColour(layer);  // the readout waits for it
    if (!f->follow(level, follows ? &change : nullptr, context)) return f;
    if (ground || change.sun) {
        const bool turned = !follows || change.sun;
        auto sun = turned ? std::make_shared<Raster<uint8_t>>(level.columns, level.rows)
                          : std::make_shared<Raster<uint8_t>>(*f->bare.sun);
        if (!f->sunShade.follow(level, turned ? nullptr : &change.ground, sun->view(), context)) return f;
        f->bare.sun = sun;
    }
    if (ground) {
        auto open = follows ? std::make_shared<Raster<uint8_t>>(*f->bare.open)
                            : std::make_shared<Raster<uint8_t>>(level.columns, level.rows);
        const TileSet where = follows ? change.ground.grown(opennessReach(level), level.bounds())
                                      : TileSet(level.bounds());
        for (const Region& spot : where.spots()) readOpenness(level, open->view(), spot, context);
        f->bare.open = open;
    }
    const bool dressed = !level.kinds.empty() || (surveyed_ && !surveyed_->kinds.empty());
    if (ground || change.sun || dressed) {
        f->shade = f->bare;
        f->shade.sunAbove = f->bare.sun;
        if (const Plantings* all = f->dress.plantings()) {
            auto sun = std::make_shared<Raster<uint8_t>>(*f->bare.sun),
                 open = std::make_shared<Raster<uint8_t>>(*f->bare.open);
            castShade(*all, level.sun, sun->view(), open->view(), context);
            f->shade.sun = sun, f->shade.open = open;
        }
    }
    if (context.cancelled()) return f;
    if (follows) f->shadeChanged = shadeBetween(f->shade, findings_->shade);
    f->planInterval = contourInterval(f->ground.highest - f->ground.lowest, 14);
    const bool afresh = !follows || change.looks || change.sun || change.waters;
    TileSet seen = touchedGround(level, change);
    if (f->shadeChanged) seen.add(*f->shadeChanged);
    if (!f->levelPlan.follow(level, *f->shade.sun, afresh ? nullptr : &seen, context)) return f;
    f->plan = f->levelPlan.withContours(level, f->planInterval, context);
    return f;
}

}  // namespace jam
