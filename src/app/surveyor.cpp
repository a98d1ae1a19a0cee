#include "surveyor.h"

#include <cmath>
#include <cstring>
#include <glm/common.hpp>
#include <QPainter>

#include "base/srgb.h"
#include "cover/lay.h"
#include "cover/wash.h"
#include "document.h"
#include "layer_art.h"
#include "level/changes.h"
#include "level/ground.h"
#include "level/opening.h"
#include "render/light.h"
#include "survey/contours.h"

namespace jam {

namespace {

constexpr int kRestMs = 250;
constexpr int kPlanSize = 420;
constexpr QRgb kNoGround = 0xff1e1a20;  // of the plan, where there is none

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

QImage drawPlan(const Level& level, const Raster<uint8_t>& sun, float interval, int most, const Context& context) {
    const int step = std::max(1, (std::max(level.columns, level.rows) + most - 1) / most);
    const int w = (level.columns - 1) / step + 1, d = (level.rows - 1) / step + 1;
    QImage image(w, d, QImage::Format_RGB32);
    std::vector<glm::vec3> means;
    for (const Layer& l : level.layers) {
        const std::array<float, 3> tint = tintOf(l.look);
        means.push_back(meanColour(l) * glm::vec3(tint[0], tint[1], tint[2]));
    }
    const LightLook light = lightLook(level.sun, false);
    Raster<float> rows(level.columns, 2);
    for (int z = 0; z < d && !context.cancelled(); ++z) {
        auto* out = reinterpret_cast<QRgb*>(image.scanLine(z));
        const int r = z * step, below = std::min(r + step, level.rows - 1);
        readGround(level, {0, r, level.columns, r + 1}, rows.view());
        readGround(level, {0, below, level.columns, below + 1}, rows.view().part(0, 1, level.columns, 1));
        for (int x = 0; x < w; ++x) {
            const int c = x * step, beside = std::min(c + step, level.columns - 1);
            const auto weights = weightsAt(level, c * level.coverFactor, r * level.coverFactor);
            glm::vec3 albedo(0);
            const Wash wash = level.wash.at(c, r);
            const std::array<float, 3> painted = washLight(wash);
            for (size_t i = 0; i < means.size(); ++i)
                albedo += glm::mix(means[i], glm::vec3(painted[0], painted[1], painted[2]),
                                   level.layers[i].look.wash * static_cast<float>(wash.strength) / 65535) *
                          (static_cast<float>(weights[i]) / 255.f);
            const float run = static_cast<float>(step * level.spacing);
            const float east = (rows.at(beside, 0) - rows.at(c, 0)) / run,
                        south = (rows.at(c, 1) - rows.at(c, 0)) / run;
            const float up = 1 / std::sqrt(1 + east * east + south * south);
            glm::vec3 lit = litColour(light, albedo, {-east * up, up, -south * up},
                                      static_cast<float>(sun.at(c, r)) / 255.f, 1);
            if (const Wet w = level.water.at(c, r); w.wet()) {
                // Seen from straight above: the bed through the water, and a little of the sky.
                const WaterLook& look = *level.waterLook(w.body);
                const glm::vec3 own(linearLight(look.colour[0]), linearLight(look.colour[1]),
                                    linearLight(look.colour[2]));
                const float clear = std::exp(-1.1f * std::max(w.surface - rows.at(c, 0), 0.f) / look.clearness);
                lit = glm::mix(litColour(light, own, {0, 1, 0}, 1, 1), lit, 0.8f * clear) + 0.06f * light.zenith;
            }
            out[x] = gapSample(level, c, r) > kGapEdge ? kNoGround
                                                       : qRgb(finished(lit.x), finished(lit.y), finished(lit.z));
        }
    }
    if (context.cancelled()) return {};
    QPainter p(&image);
    p.setRenderHint(QPainter::Antialiasing);
    QVector<QLineF> fine, strong;
    for (const ContourPiece& c : contours(level, interval, step, context)) {
        const double per = 1 / (level.spacing * step);
        const QLineF line((c.x0 - level.originX) * per, (c.z0 - level.originZ) * per, (c.x1 - level.originX) * per,
                          (c.z1 - level.originZ) * per);
        (std::lround(c.altitude / interval) % 5 == 0 ? strong : fine).append(line);
    }
    p.setPen(QPen(QColor(30, 20, 26, 80), 0.7));
    p.drawLines(fine);
    p.setPen(QPen(QColor(30, 20, 26, 150), 1.0));
    p.drawLines(strong);
    return image;
}

Surveyor::Surveyor(Document& document, QObject* parent)
    : QObject(parent), document_(document), beside_(kRestMs, [this] { return begin(); }) {
    for (const auto signal :
         {&Document::replaced, &Document::layersChanged, &Document::sunTurned, &Document::watersChanged})
        connect(&document, signal, &beside_, &Beside::later);
    connect(&document, &Document::seen, &beside_, &Beside::later);
    beside_.now();
}

void Surveyor::setWalkable(float degrees) {
    if (std::exchange(walkable_, degrees) != degrees) beside_.later();
}

Beside::Job Surveyor::begin() {
    if (document_.stroking()) {
        beside_.later();
        return {};
    }
    return [this, level = document_.level(), walkable = walkable_](const Context& context) -> Beside::Found {
        return [this, found = survey(level, walkable, context), level, walkable] {
            findings_ = found;
            surveyed_ = level;
            surveyedWalkable_ = walkable;
            emit this->found();
        };
    };
}

std::shared_ptr<Findings> Surveyor::survey(const Level& level, float walkable, const Context& context) const {
    const bool follows = surveyed_ && sameRaster(*surveyed_, level);
    const Change change = follows ? changesBetween(level, *surveyed_) : Change{};
    const bool gaps = !follows || !change.gaps.empty(), ground = gaps || !change.ground.empty(),
               cover = gaps || !change.cover.empty() || change.looks;
    auto f = follows ? std::make_shared<Findings>(*findings_) : std::make_shared<Findings>();
    f->shadeChanged.reset();
    for (const Layer& layer : level.layers) meanColour(layer);  // the readout waits for it
    if (ground || cover) {
        f->tallies.follow(level, follows ? &change : nullptr, context);
        if (context.cancelled()) return f;
        f->ground = f->tallies.ground(level, context);
        f->shares = f->tallies.shares();
        f->stretched = f->tallies.stretched();
    }
    if ((ground || walkable != surveyedWalkable_) && !context.cancelled())
        f->openings = surveyOpenings(level, walkable, context);
    if (ground || !change.water.empty() || change.waters) {
        f->pools.clear(), f->streams.clear();
        for (const Pool& p : level.pools)
            if (!context.cancelled()) f->pools[p.id] = poolFigures(level, p, context);
        for (const Stream& s : level.streams)
            if (!context.cancelled()) f->streams[s.id] = streamFigures(level, s);
    }
    if (ground || change.sun) {
        const bool turned = !follows || change.sun;
        auto sun = turned ? std::make_shared<Raster<uint8_t>>(level.columns, level.rows)
                          : std::make_shared<Raster<uint8_t>>(*f->shade.sun);
        if (!f->sunShade.follow(level, turned ? nullptr : &change.ground, sun->view(), context)) return f;
        f->shade.sun = sun;
    }
    if (ground) {
        auto open = follows ? std::make_shared<Raster<uint8_t>>(*f->shade.open)
                            : std::make_shared<Raster<uint8_t>>(level.columns, level.rows);
        const TileSet where = follows ? change.ground.grown(opennessReach(level), level.bounds())
                                      : TileSet(level.bounds());
        for (const Region& spot : where.spots()) readOpenness(level, open->view(), spot, context);
        f->shade.open = open;
    }
    if (context.cancelled()) return f;
    if (follows) f->shadeChanged = shadeBetween(f->shade, findings_->shade);
    f->planInterval = contourInterval(f->ground.highest - f->ground.lowest, 14);
    f->plan = drawPlan(level, *f->shade.sun, f->planInterval, kPlanSize, context);
    return f;
}

}  // namespace jam
