#include "stations/water/water_station.h"

#include <algorithm>
#include <QVBoxLayout>

#include "hands/course_hand.h"
#include "hands/water_hand.h"
#include "level/ground.h"
#include "panels/fold.h"
#include "panels/page.h"
#include "panels/see_fields.h"
#include "stations/water/water_panel.h"
#include "stations/water/water_strip.h"
#include "view/ground_view.h"
#include "watch/surveyor.h"
#include "watch/verdicts.h"
#include "water/outline.h"

namespace jam {

namespace {
constexpr size_t kMostOutlined = 1200;  // tiles of water up to which an outline is drawn
}

WaterStation::WaterStation(House& house) : Station("water", tr("Water"), "water", "F5"), house_(house) {
    connect(&house.verdicts, &Verdicts::changed, this, [this] {
        emit stateChanged();
        mark();
    });
    house.place.document.on(About::waters, this, [this] {
        chooseNew();
        mark();
    });
    house.place.document.on(About::raster, this, [this] { known_.clear(); });
    connect(&house.place.standpoint, &Standpoint::waterChosen, this, &WaterStation::mark);
    connect(&house.place.standpoint, &Standpoint::stationChanged, this, [this] {
        draw(false);
        if (!here()) house_.view.setFlowing(false);
        mark();
    });
    // Another course is chosen in its own place; Esc and a tool end the drawing.
    connect(&house.place.standpoint, &Standpoint::courseChosen, this, [this] {
        if (house_.place.standpoint.streaming() && !house_.place.standpoint.coursing()) draw(false);
    });
}

Station::State WaterStation::state() const {
    const Level& level = house_.place.document.level();
    if (level.pools.empty() && level.streams.empty()) return {tr("no water yet")};
    if (!house_.surveyor.findings()) return {};
    if (const auto w = warned(house_)) return *w;
    const size_t pools = level.pools.size(), streams = level.streams.size();
    QStringList parts;
    if (pools > 0) parts << (pools == 1 ? tr("1 pool") : tr("%1 pools").arg(pools));
    if (streams > 0) parts << (streams == 1 ? tr("1 stream") : tr("%1 streams").arg(streams));
    return {tr("%1 closed").arg(parts.join(", ")), Mood::passes};
}

QList<ActionRow> WaterStation::commands() {
    return {{"drawStream", tr("Draw a stream: press at its spring, pull to where it flows"), "Shift+K", "", false,
             [this] {
                 house_.place.standpoint.setStation(id());
                 draw(!house_.place.standpoint.streaming());
             }},
            {"fillHere", tr("Fill the hollow under the cursor to its brim"), "K", "", false, [this] {
                 const auto& at = house_.place.standpoint.cursor();
                 if (!at) return house_.services.say(tr("Point at the ground first."));
                 house_.place.standpoint.setStation(id());
                 fill(*at, waterAt(house_.place.document.level(), at->x, at->z).wet());
             }}};
}

QWidget* WaterStation::benchPage(QWidget* parent) {
    auto* strip = new WaterStrip(house_, parent);
    connect(strip, &WaterStrip::seaWanted, this, [this] { WaterEdits(house_.place).addSea(); });
    connect(strip, &WaterStrip::streamWanted, this, &WaterStation::draw);
    return strip;
}

QWidget* WaterStation::sheetPage(QWidget* parent) {
    auto* page = new QWidget(parent);
    auto* c = pageColumn(page);
    c->addWidget(new WaterPanel(house_, page));
    auto* see = new Fold("foldSeeWater", tr("What to see"), true, page);
    see->column()->addWidget(new SeeFields(house_.place, house_.view, house_.surveyor, see));
    c->addWidget(see);
    c->addStretch();
    return page;
}

std::unique_ptr<Hand> WaterStation::takeHand(const HandEvent& press) {
    if (!press.ground) return nullptr;
    if (house_.place.standpoint.streaming()) return courseHand(house_.view, press);
    return std::make_unique<WaterHand>(house_.view, press, [this](const glm::dvec3& at, bool next) { fill(at, next); });
}

bool WaterStation::putAway() {
    const bool was = house_.place.standpoint.streaming();
    draw(false);
    return was;
}

void WaterStation::draw(bool streams) {
    Standpoint& stand = house_.place.standpoint;
    if (streams == stand.streaming()) return;
    stand.setStreaming(streams);
    stand.setCourse(0);
    if (stand.coursing() == streams) return;
    stand.setCoursing(streams);
}

void WaterStation::fill(const glm::dvec3& at, bool next) {
    known_.clear();
    for (const Pool& p : house_.place.document.standing().pools) known_.push_back(p.id);
    known_.push_back(0);  // something is being filled
    house_.services.workOn(next ? tr("Fill to the next brim") : tr("Fill a hollow"),
                           LevelJob::onAll([x = at.x, z = at.z, next, name = tr("Pool").toStdString()](
                                               Level& level, const Context& context) -> Status {
                               Result<Pool> pool = poolAt(level, x, z, context);
                               if (!pool) return pool.error();
                               const Wet there = waterAt(level, x, z);
                               if (Pool* rises = next ? level.pool(there.body) : nullptr) {
                                   rises->x = pool.value().x, rises->z = pool.value().z;
                                   rises->height = pool.value().height;
                                   return {};
                               }
                               pool.value().name = freeWaterName(level, name);
                               if (const Result<uint32_t> id = addPool(level, pool.take()); !id) return id.error();
                               return {};
                           }));
}

// The pool that a click made is the one that is worked on.
void WaterStation::chooseNew() {
    if (known_.empty()) return;
    for (const Pool& p : house_.place.document.level().pools)
        if (std::find(known_.begin(), known_.end(), p.id) == known_.end()) {
            known_.clear();
            return house_.place.standpoint.setWater(p.id);
        }
}

// What is drawn over the picture: the outline of the chosen pool, and the ways of leaks.
void WaterStation::mark() {
    using Kind = GroundMark::Kind;
    std::vector<GroundMark> marks;
    const Level& level = house_.place.document.level();
    if (here()) {
        const Pool* chosen = level.pool(house_.place.standpoint.water());
        if (chosen && level.water.presentTiles() <= kMostOutlined)
            for (const Outline& line : outlineOf(level, *chosen)) {
                GroundMark m;
                for (const auto& [x, z] : line) m.line.emplace_back(x, chosen->height + 0.02, z);
                m.line.push_back(m.line.front());
                marks.push_back(std::move(m));
            }
        if (const auto& f = house_.surveyor.findings())
            for (const auto& [id, figures] : f->pools) {
                if (!figures.leak || !level.pool(id)) continue;
                GroundMark m{{}, Kind::leak, tr("%1 m short").arg(figures.leak->over, 0, 'f', 2)};
                for (const auto& [x, z] : figures.leak->way) m.line.emplace_back(x, altitudeAt(level, x, z) + 0.1, z);
                marks.push_back(std::move(m));
            }
    }
    house_.view.marks().set("water", std::move(marks));
}

}  // namespace jam
