#include "edits/spot_edits.h"

#include <algorithm>

#include "base/names.h"
#include "commit/commit.h"
#include "level/things.h"
#include "walk/reach.h"

namespace jam {

bool SpotEdits::isOwn(const Level& level, const std::string& body) {
    return std::any_of(level.bodies.begin(), level.bodies.end(), [&](const Body& b) { return b.name == body; });
}

bool SpotEdits::add(double x, double z, double facing, const std::optional<Pad>& pad) {
    uint32_t made = 0;
    const bool done = place_.document.tryEdit(QObject::tr("Put down a spot"), [&](Level& l) -> Status {
        Spot s;
        const auto has = [&](const char* kind) {
            return std::any_of(l.spots.begin(), l.spots.end(), [&](const Spot& o) { return o.kind == kind; });
        };
        s.kind = !has("start") ? "start" : !has("goal") ? "goal" : "supply";
        const QString name = s.kind == "start"  ? QObject::tr("Start")
                             : s.kind == "goal" ? QObject::tr("Goal")
                                                : QObject::tr("Supply");
        s.name = freeSpotName(l, name.toStdString());
        s.x = x, s.z = z;
        s.facing = facing;
        const Result<uint32_t> added = addSpot(l, s);
        if (!added) return added.error();
        made = added.value();
        return pad ? jam::setPad(l, made, pad) : Status();
    });
    if (done) place_.standpoint.setSpot(made);
    return done;
}

bool SpotEdits::edit(const QString& what, const std::function<void(Spot&)>& change, const QString& gesture) {
    return place_.document.tryEdit(
        what,
        [&](Level& l) -> Status {
            Spot* s = l.spot(place_.standpoint.spot());
            if (!s) return goneError(ThingKind::spot);
            change(*s);
            return checkSpot(l, *s, s->id);
        },
        gesture);
}

bool SpotEdits::rename(const QString& name) {
    return edit(QObject::tr("Name of a spot"), [&](Spot& s) { s.name = name.trimmed().toStdString(); });
}

bool SpotEdits::move(uint32_t id, double x, double z) {
    return place_.document.tryEdit(QObject::tr("Move a spot"), [&](Level& l) { return moveSpot(l, id, x, z); });
}

Result<Commit> SpotEdits::tried(uint32_t id, double x, double z) const {
    const Level& before = place_.document.standing();
    Level next = before;
    if (const Status s = moveSpot(next, id, x, z); !s) return s.error();
    return commitWork(before, std::move(next));
}

bool SpotEdits::setPad(const std::optional<Pad>& pad, const QString& gesture) {
    return place_.document.tryEdit(
        pad ? QObject::tr("Pad of a spot") : QObject::tr("Take a pad away"),
        [&](Level& l) { return jam::setPad(l, place_.standpoint.spot(), pad); }, gesture);
}

void SpotEdits::remove() {
    if (chosen() &&
        place_.document.edit(QObject::tr("Delete a spot"), [&](Level& l) { removeSpot(l, place_.standpoint.spot()); }))
        place_.standpoint.setSpot(0);
}

void SpotEdits::chooseBody(const QString& name) {
    if (place_.document.standing().body == name.toStdString()) return;
    place_.document.edit(QObject::tr("Who goes"), [&](Level& l) { l.body = name.toStdString(); });
}

bool SpotEdits::editBody(const std::function<void(Body&)>& change, const QString& gesture) {
    return place_.document.tryEdit(
        QObject::tr("Who goes"),
        [&](Level& l) -> Status {
            Body body = bodyOf(l);
            if (!isOwn(l, body.name))
                body.name = freeName(QObject::tr("my %1").arg(QString::fromStdString(body.name)).toStdString(),
                                     [&](const std::string& name) { return bodyNamed(l, name) != nullptr; });
            change(body);
            l.body = body.name;
            return keepBody(l, body);
        },
        gesture);
}

bool SpotEdits::renameBody(const QString& name) {
    const Level& now = place_.document.standing();
    const std::string to = name.trimmed().toStdString();
    if (!isOwn(now, now.body) || to == now.body) return false;
    return place_.document.tryEdit(QObject::tr("Name of a body"), [&](Level& l) -> Status {
        if (bodyNamed(l, to))
            return Error{"", "name", "another body is called \"" + to + "\" already", "choose another name"};
        const auto body = std::find_if(l.bodies.begin(), l.bodies.end(),
                                       [&](const Body& b) { return b.name == l.body; });
        Body renamed = *body;
        renamed.name = l.body = to;
        l.bodies.erase(body);
        return keepBody(l, renamed);
    });
}

void SpotEdits::removeBody() {
    const Level& now = place_.document.standing();
    if (!isOwn(now, now.body)) return;
    place_.document.edit(QObject::tr("Forget a body"), [](Level& l) {
        std::erase_if(l.bodies, [&](const Body& b) { return b.name == l.body; });
        l.body = kBodies[0].name;
    });
}

}  // namespace jam
