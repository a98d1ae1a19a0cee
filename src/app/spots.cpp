#include "spots.h"

#include <algorithm>

#include "base/names.h"
#include "commit/commit.h"
#include "walk/reach.h"

namespace jam {

bool Spots::isOwn(const Level& level, const std::string& body) {
    return std::any_of(level.bodies.begin(), level.bodies.end(), [&](const Body& b) { return b.name == body; });
}

bool Spots::commit(const QString& what, Level next, const QString& gesture) {
    return place_.document.edit(
        what, [&](Level& l) { l = std::move(next); }, gesture);
}

bool Spots::told(const Status& status) const {
    if (!status) place_.tell(QString::fromStdString(status.error().sentence()));
    return static_cast<bool>(status);
}

bool Spots::add(double x, double z, double facing, const std::optional<Pad>& pad) {
    Level next = place_.document.standing();
    Spot s;
    const auto has = [&](const char* kind) {
        return std::any_of(next.spots.begin(), next.spots.end(), [&](const Spot& o) { return o.kind == kind; });
    };
    s.kind = !has("start") ? "start" : !has("goal") ? "goal" : "supply";
    const QString name = s.kind == "start"  ? QObject::tr("Start")
                         : s.kind == "goal" ? QObject::tr("Goal")
                                            : QObject::tr("Supply");
    s.name = freeSpotName(next, name.toStdString());
    s.x = x, s.z = z;
    s.facing = facing;
    const Result<uint32_t> made = addSpot(next, s);
    if (!made) {
        place_.tell(QString::fromStdString(made.error().sentence()));
        return false;
    }
    if (pad && !told(jam::setPad(next, made.value(), pad))) return false;
    if (!commit(QObject::tr("Put down a spot"), std::move(next), {})) return false;
    place_.standpoint.setSpot(made.value());
    return true;
}

bool Spots::edit(const QString& what, const std::function<void(Spot&)>& change, const QString& gesture) {
    Level next = place_.document.standing();
    Spot* s = next.spot(place_.standpoint.spot());
    if (!s) return false;
    change(*s);
    return told(checkSpot(next, *s, s->id)) && commit(what, std::move(next), gesture);
}

bool Spots::rename(const QString& name) {
    return edit(QObject::tr("Name of a spot"), [&](Spot& s) { s.name = name.trimmed().toStdString(); });
}

bool Spots::move(uint32_t id, double x, double z) {
    Level next = place_.document.standing();
    return told(moveSpot(next, id, x, z)) && commit(QObject::tr("Move a spot"), std::move(next), {});
}

Result<Commit> Spots::tried(uint32_t id, double x, double z) const {
    const Level& before = place_.document.standing();
    Level next = before;
    if (const Status s = moveSpot(next, id, x, z); !s) return s.error();
    return commitWork(before, std::move(next));
}

bool Spots::setPad(const std::optional<Pad>& pad, const QString& gesture) {
    Level next = place_.document.standing();
    return told(jam::setPad(next, place_.standpoint.spot(), pad)) &&
           commit(pad ? QObject::tr("Pad of a spot") : QObject::tr("Take a pad away"), std::move(next), gesture);
}

void Spots::remove() {
    Level next = place_.document.standing();
    if (!next.spot(place_.standpoint.spot())) return;
    removeSpot(next, place_.standpoint.spot());
    if (commit(QObject::tr("Delete a spot"), std::move(next), {})) place_.standpoint.setSpot(0);
}

void Spots::chooseBody(const QString& name) {
    Level next = place_.document.standing();
    if (next.body == name.toStdString()) return;
    next.body = name.toStdString();
    commit(QObject::tr("Who goes"), std::move(next), {});
}

bool Spots::editBody(const std::function<void(Body&)>& change, const QString& gesture) {
    Level next = place_.document.standing();
    Body body = bodyOf(next);
    if (!isOwn(next, body.name))
        body.name = freeName(QObject::tr("my %1").arg(QString::fromStdString(body.name)).toStdString(),
                             [&](const std::string& name) { return bodyNamed(next, name) != nullptr; });
    change(body);
    if (!told(keepBody(next, body))) return false;
    next.body = body.name;
    return commit(QObject::tr("Who goes"), std::move(next), gesture);
}

bool Spots::renameBody(const QString& name) {
    Level next = place_.document.standing();
    const std::string to = name.trimmed().toStdString();
    const auto body = std::find_if(next.bodies.begin(), next.bodies.end(),
                                   [&](const Body& b) { return b.name == next.body; });
    if (body == next.bodies.end() || to == body->name) return false;
    Body renamed = *body;
    renamed.name = to;
    if (bodyNamed(next, to))
        return told(Error{"", "name", "another body is called \"" + to + "\" already", "choose another name"});
    next.bodies.erase(body);
    if (!told(keepBody(next, renamed))) return false;
    next.body = to;
    return commit(QObject::tr("Name of a body"), std::move(next), {});
}

void Spots::removeBody() {
    Level next = place_.document.standing();
    if (std::erase_if(next.bodies, [&](const Body& b) { return b.name == next.body; }) == 0) return;
    next.body = kBodies[0].name;
    commit(QObject::tr("Forget a body"), std::move(next), {});
}

}  // namespace jam
