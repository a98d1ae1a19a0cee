#include "stations/walk/walk_station.h"

#include <algorithm>
#include <cmath>
#include <QVBoxLayout>

#include "base/maths.h"
#include "edits/spot_edits.h"
#include "hands/spot_hand.h"
#include "level/ground.h"
#include "level/opening.h"
#include "panels/fold.h"
#include "panels/page.h"
#include "panels/see_fields.h"
#include "stations/walk/body_fields.h"
#include "stations/walk/reach_panel.h"
#include "stations/walk/spot_panel.h"
#include "stations/walk/spot_strip.h"
#include "stations/walk/walk_panel.h"
#include "view/ground_view.h"
#include "watch/reach_watch.h"
#include "watch/verdicts.h"

namespace jam {

WalkStation::WalkStation(House& house) : Station("walk", tr("Walk"), "walk", "F8"), house_(house) {
    connect(&house.verdicts, &Verdicts::changed, this, &Station::stateChanged);
    for (const auto signal : {&ReachWatch::found, &ReachWatch::wayFound})
        connect(&house.reach, signal, this, [this] {
            emit stateChanged();
            mark();
        });
    house.place.document.on(About::spots | About::history | About::preview, this, [this] {
        emit stateChanged();
        mark();
    });
    house.place.document.on(About::raster, this, [this] {
        house_.reach.askWay(0, 0);
        keep(nullptr);
    });
    connect(&house.place.standpoint, &Standpoint::spotChosen, this, &WalkStation::mark);
    connect(&house.view, &GroundView::cameraMoved, this, [this] {
        if (here()) markFlags();  // as high on the picture from anywhere
    });
    connect(&house.place.standpoint, &Standpoint::stationChanged, this, [this] {
        put(false);
        mark();
    });
}

Station::State WalkStation::state() const {
    const Level& level = house_.place.document.level();
    if (level.spots.empty()) return {tr("no spots yet")};
    const auto& r = house_.reach.reach();
    if (!r) return {};
    if (const auto w = warned(house_)) return *w;
    const int all = r->spotsReached()[1];
    return {all == 1 ? tr("1 spot, no way out") : tr("%1 spots reached, no way out").arg(all), Mood::passes};
}

QList<ActionRow> WalkStation::commands() {
    return {{"dropIn", tr("Drop in where you look"), "Ctrl+G", "", false,
             [this] { dropIn(house_.view.pick(QPointF(house_.view.width() / 2.0, house_.view.height() / 2.0))); }},
            {"dropInHere", tr("Drop in at the cursor"), "Shift+G", "", false,
             [this] { dropIn(house_.place.standpoint.cursor()); }},
            {"putSpot", tr("Put down a spot at the cursor"), "Shift+P", "", false,
             [this] { putAt(house_.place.standpoint.cursor()); }}};
}

QWidget* WalkStation::benchPage(QWidget* parent) {
    auto* strip = new SpotStrip(house_, parent);
    connect(strip, &SpotStrip::putWanted, this, &WalkStation::put);
    connect(this, &WalkStation::puttingChanged, strip, &SpotStrip::showPutting);
    connect(strip, &SpotStrip::dropInWanted, this, [this] {
        if (const uint32_t spot = house_.place.standpoint.spot()) dropInAt(spot);
        else dropIn(house_.view.pick(QPointF(house_.view.width() / 2.0, house_.view.height() / 2.0)));
    });
    return strip;
}

QWidget* WalkStation::sheetPage(QWidget* parent) {
    auto* page = new QWidget(parent);
    auto* c = pageColumn(page);
    c->addWidget(new SpotPanel(house_, page));
    c->addWidget(new ReachPanel(house_, page));
    auto* body = new Fold("foldBody", tr("Who goes"), false, page);
    body->column()->addWidget(new BodyFields(house_, body));
    c->addWidget(body);
    auto* walks = new Fold("foldWalks", tr("Walks"), false, page);
    auto* panel = new WalkPanel(house_, *this, walks);
    walks->column()->addWidget(panel);
    c->addWidget(walks);
    auto* see = new Fold("foldSeeWalk", tr("What to see"), false, page);
    see->column()->addWidget(new SeeFields(house_.place, house_.view, house_.surveyor, see));
    c->addWidget(see);
    c->addStretch();
    return page;
}

std::unique_ptr<Hand> WalkStation::takeHand(const HandEvent& press) {
    if (putting_) {
        putAt(press.ground);
        return nullptr;
    }
    const uint32_t spot = spotUnder(house_.view, press.pixel);
    if (!spot) {
        house_.place.standpoint.setSpot(0);
        return nullptr;
    }
    return std::make_unique<SpotHand>(house_.view, press, spot);
}

bool WalkStation::putAway() {
    const bool was = putting_;
    put(false);
    return was;
}

void WalkStation::put(bool on) {
    if (on == putting_) return;
    putting_ = on;
    emit puttingChanged(on);
}

void WalkStation::putAt(const std::optional<glm::dvec3>& at) {
    if (!at) return house_.services.say(tr("Point at the ground first."));
    if (const QString no = house_.place.document.whyNoStroke(); !no.isEmpty()) return house_.services.say(no);
    house_.place.standpoint.setStation(id());
    const bool even = house_.place.standpoint.spotsOnPads();
    if (SpotEdits(house_.place).add(at->x, at->z, house_.view.camera().yaw, even ? std::optional(Pad{}) : std::nullopt))
        put(false);
}

void WalkStation::dropIn(const std::optional<glm::dvec3>& at) {
    if (!at) return house_.services.say(tr("There is no ground where you look."));
    WalkHand::Begin begin;
    begin.x = at->x, begin.z = at->z;
    begin.heading = house_.view.camera().yaw;
    walk(begin);
}

void WalkStation::dropInAt(uint32_t spot) {
    const Spot* s = house_.place.document.level().spot(spot);
    if (!s) return;
    WalkHand::Begin begin;
    begin.x = s->x, begin.z = s->z;
    begin.heading = s->facing;
    walk(begin);
}

void WalkStation::walk(WalkHand::Begin begin) {
    // A walk in the middle of a walk begins where one looked from before the first.
    house_.view.letGo();
    if (const QString no = house_.place.document.whyNoStroke(); !no.isEmpty()) return house_.services.say(no);
    const Level& level = house_.place.document.standing();
    if (!begin.again && !groundAt(level, begin.x, begin.z))
        return house_.services.say(tr("There is no ground there to stand on."));
    house_.place.standpoint.setStation(id());
    put(false);
    if (!begin.again) begin.body = bodyOf(level);
    house_.view.takeUp(std::make_unique<WalkHand>(house_.view, begin, [this](WalkRecord record) {
        if (record.runs.empty()) return;
        keep(std::make_shared<const WalkRecord>(std::move(record)));
    }));
}

void WalkStation::keep(std::shared_ptr<const WalkRecord> walk) {
    lastWalk_ = std::move(walk);
    trace_.clear();
    const Level& level = house_.place.document.standing();
    if (lastWalk_ && checkRecord(level, *lastWalk_))
        for (const auto& p : replayWalk(level, *lastWalk_).trace) trace_.emplace_back(p[0], p[1] + 0.1, p[2]);
    emit walkKept();
    mark();
}

namespace {

glm::dvec3 over(const Level& level, double x, double z) { return {x, altitudeAt(level, x, z) + 0.15, z}; }

// Where one is after a share of a way's length on the map.
glm::dvec3 alongWay(const Way& way, double share) {
    const auto far = [&](size_t i) {
        return std::hypot(way.points[i].x - way.points[i - 1].x, way.points[i].z - way.points[i - 1].z);
    };
    double left = 0;
    for (size_t i = 1; i < way.points.size(); ++i) left += share * far(i);
    for (size_t i = 1; i < way.points.size(); ++i) {
        const WayPoint &a = way.points[i - 1], &b = way.points[i];
        const double t = far(i) > 0 ? left / far(i) : 0;
        if (t <= 1) return {a.x + t * (b.x - a.x), a.y + t * (b.y - a.y), a.z + t * (b.z - a.z)};
        left -= far(i);
    }
    const WayPoint& end = way.points.back();
    return {end.x, end.y, end.z};
}

}  // namespace

// The way that was asked for: on the ground between its points, through the air where it leaps.
void WalkStation::markWay(std::vector<GroundMark>& marks) const {
    using Kind = GroundMark::Kind;
    const auto& way = house_.reach.way();
    if (!way || way->points.empty()) return;
    const Level& level = house_.place.document.level();
    GroundMark m{{}, Kind::way, {}};
    for (size_t i = 0; i < way->points.size(); ++i) {
        const WayPoint& p = way->points[i];
        const bool flies = p.by == Stretch::leap || p.by == Stretch::drop;
        if (i > 0 && flies) {
            const glm::dvec3 from = m.line.back();
            marks.push_back(std::move(m));
            marks.push_back({{from, {p.x, p.y + 0.15, p.z}}, Kind::leap, {}});
            m = {{}, Kind::way, {}};
        } else if (i > 0) {
            const WayPoint& a = way->points[i - 1];
            const int pieces = std::max(1, static_cast<int>(std::hypot(p.x - a.x, p.z - a.z) / (2 * level.spacing)));
            for (int k = 1; k < pieces; ++k) {
                const double t = static_cast<double>(k) / pieces, x = a.x + t * (p.x - a.x), z = a.z + t * (p.z - a.z);
                // On the water that is swum, too.
                m.line.push_back(p.by == Stretch::swim ? glm::dvec3(x, a.y + t * (p.y - a.y) + 1, z)
                                                       : over(level, x, z));
            }
        }
        m.line.emplace_back(p.x, p.y + 0.15, p.z);
    }
    marks.push_back(std::move(m));
    if (way->steepest > 0)
        marks.push_back({{over(level, way->steepX, way->steepZ)},
                         Kind::place,
                         tr("%1° at the steepest").arg(way->steepest, 0, 'f', 0)});
    // How far it is, told half way, or where the steepest place lies there, a quarter of the way.
    glm::dvec3 at = alongWay(*way, 0.5);
    if (std::hypot(at.x - way->steepX, at.z - way->steepZ) < 0.2 * way->length) at = alongWay(*way, 0.25);
    marks.push_back({{over(level, at.x, at.z)},
                     Kind::label,
                     tr("%1 m, %2 s").arg(way->length, 0, 'f', 0).arg(way->seconds, 0, 'f', 0)});
}

void WalkStation::markFlags() {
    using Kind = GroundMark::Kind;
    std::vector<GroundMark> marks;
    const Level& level = house_.place.document.level();
    for (const Spot& s : level.spots) {
        if (!here()) break;
        const double y = altitudeAt(level, s.x, s.z), high = flagHeight(house_.view, s.x, y, s.z);
        const bool chosen = s.id == house_.place.standpoint.spot();
        marks.push_back({{{s.x, y, s.z}, {s.x, y + high, s.z}},
                         chosen ? Kind::chosenFlag : Kind::flag,
                         QString::fromStdString(s.name)});
        const double a = s.facing * kRadians, ahead = 0.8 * high;
        if (chosen)
            marks.push_back({{{s.x, y + 0.2, s.z}, over(level, s.x + std::sin(a) * ahead, s.z - std::cos(a) * ahead)},
                             Kind::facing,
                             {}});
    }
    house_.view.marks().set("spots", std::move(marks));
}

// What is drawn over the picture: flags, the way that was asked for, places that want mending, the last walk.
void WalkStation::mark() {
    markFlags();
    using Kind = GroundMark::Kind;
    std::vector<GroundMark> marks;
    const Level& level = house_.place.document.level();
    if (here()) {
        markWay(marks);
        if (!trace_.empty() && !house_.view.handBusy()) marks.push_back({trace_, Kind::trace, {}});
        if (const auto& r = house_.reach.reach())
            for (const auto& [places, what] : {std::pair{&r->waysOut, tr("way out")}, {&r->traps, tr("trap")}})
                for (size_t i = 0; i < std::min<size_t>(places->size(), 12); ++i)
                    marks.push_back({{over(level, (*places)[i].x, (*places)[i].z)}, Kind::warning, what});
    }
    house_.view.marks().set("walk", std::move(marks));
}

}  // namespace jam
