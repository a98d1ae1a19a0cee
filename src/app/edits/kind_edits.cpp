#include "edits/kind_edits.h"

#include <algorithm>

#include "commit/commit.h"
#include "course/footprint.h"
#include "cover/course_layers.h"
#include "cover/rules.h"
#include "dress/arrange.h"
#include "level/things.h"

namespace jam {

namespace {

// Makes singles of all that are chosen, and changes each.
Status changeAll(Level& level, std::vector<OneStanding>& chosen, const std::function<void(Single&)>& change) {
    for (OneStanding& one : chosen) {
        if (!one.planting.single) {
            const Result<uint32_t> taken = takeUp(level, one.kind, one.planting);
            if (!taken) return taken.error();
            one.planting.place = 0, one.planting.single = taken.value();
        }
        const Single* s = level.single(one.planting.single);
        if (!s) return goneError(ThingKind::single);
        Single next = *s;
        change(next);
        if (const Status fine = changeSingle(level, next); !fine) return fine;
        one.kind = next.kind;
        one.planting = standing(level, *level.kind(one.kind), next);
    }
    return {};
}

auto movedBy(double x, double z) {
    return [x, z](Single& s) { s.x += x, s.z += z; };
}

}  // namespace

bool KindEdits::add(Kind kind) {
    uint32_t made = 0;
    const bool done = place_.document.tryEdit(QObject::tr("Add the kind %1").arg(QString::fromStdString(kind.name)),
                                              [&](Level& l) -> Status {
                                                  kind.name = freeKindName(l, kind.name);
                                                  const Result<uint32_t> id = addKind(l, kind);
                                                  if (!id) return id.error();
                                                  made = id.value();
                                                  return {};
                                              });
    if (done) place_.standpoint.setKind(made);
    return done;
}

bool KindEdits::edit(const QString& what, const std::function<void(Kind&)>& change, const QString& gesture) {
    return place_.document.tryEdit(
        what,
        [&](Level& l) -> Status {
            const Kind* k = l.kind(place_.standpoint.kind());
            if (!k) return goneError(ThingKind::kind);
            Kind next = *k;
            change(next);
            return changeKind(l, next);
        },
        gesture);
}

bool KindEdits::setDensity(double onHundred, const QString& gesture) {
    return place_.document.tryEdit(
        QObject::tr("How densely it stands"),
        [&](Level& l) -> Status {
            if (!l.kind(place_.standpoint.kind())) return goneError(ThingKind::kind);
            changeDensity(l, place_.standpoint.kind(), static_cast<float>(std::clamp(onHundred, 0.0, kMostDensity)));
            return {};
        },
        gesture);
}

void KindEdits::remove() {
    place_.document.tryEdit(QObject::tr("Delete a kind"),
                            [&](Level& l) { return removeKind(l, place_.standpoint.kind()); });
}

void KindEdits::duplicate() {
    uint32_t made = 0;
    const bool done = place_.document.tryEdit(QObject::tr("Double a kind"), [&](Level& l) -> Status {
        const Result<uint32_t> id = duplicateKind(l, place_.standpoint.kind());
        if (!id) return id.error();
        made = id.value();
        return {};
    });
    if (done) place_.standpoint.setKind(made);
}

void KindEdits::move(int by) {
    const int to = place_.document.standing().kindIndex(place_.standpoint.kind()) + by;
    if (to < 0 || to >= static_cast<int>(place_.document.standing().kinds.size())) return;
    place_.document.tryEdit(QObject::tr("Reorder kinds"),
                            [&](Level& l) { return moveKind(l, place_.standpoint.kind(), to); });
}

bool KindEdits::put(const Single& single) {
    return place_.document.tryEdit(QObject::tr("Put one down"), [&](Level& l) -> Status {
        const Result<uint32_t> id = putSingle(l, single);
        return id ? Status() : id.error();
    });
}

bool KindEdits::editChosen(const QString& what, const std::function<void(Single&)>& change, const QString& gesture) {
    std::vector<OneStanding> chosen = place_.standpoint.chosen();
    if (chosen.empty()) return false;
    const bool done = place_.document.tryEdit(
        what, [&](Level& l) { return changeAll(l, chosen, change); }, gesture);
    if (done) place_.standpoint.setChosen(std::move(chosen));
    return done;
}

void KindEdits::removeChosen() {
    const std::vector<OneStanding> chosen = place_.standpoint.chosen();
    if (chosen.empty()) return;
    place_.document.tryEdit(QObject::tr("Delete what is chosen"), [&](Level& l) -> Status {
        for (const OneStanding& one : chosen)
            if (const Status gone = takeAway(l, one.kind, one.planting); !gone) return gone;
        return {};
    });
}

bool KindEdits::leaveGate(uint32_t single) {
    return place_.document.tryEdit(QObject::tr("Leave a gate"), [&](Level& l) { return removeSingle(l, single); });
}

bool KindEdits::setFootprint(const std::optional<Footprint>& footprint, const QString& gesture) {
    const Kind* k = place_.kind();
    if (!k) return false;
    return place_.document.tryEdit(
        QObject::tr("Ground under a kind"),
        [&, id = k->id](Level& l) -> Status {
            // With none of it the layers that it laid go too.
            if (const int at = footprintPlace(l, id); at >= 0 && !footprint)
                layOnCourse(l, l.strata[static_cast<size_t>(at)].id, 0, 0);
            if (const Status s = jam::setFootprint(l, id, footprint); !s) return s;
            // The layer round it keeps to its rim.
            if (const int at = footprintPlace(l, id); at >= 0) {
                const Stratum& s = l.strata[static_cast<size_t>(at)];
                layOnCourse(l, s.id, s.course->track, s.course->verge);
            }
            return {};
        },
        gesture);
}

bool KindEdits::layOnFootprint(uint32_t track, uint32_t verge) {
    const Kind* k = place_.kind();
    if (!k) return false;
    return place_.document.tryEdit(QObject::tr("Layers under a kind"), [&, id = k->id](Level& l) -> Status {
        const int at = footprintPlace(l, id);
        if (at < 0) return goneError(ThingKind::course);
        layOnCourse(l, l.strata[static_cast<size_t>(at)].id, track, verge);
        return {};
    });
}

bool KindEdits::putLine(uint32_t kind, const std::vector<std::array<double, 2>>& line) {
    return place_.document.tryEdit(QObject::tr("Put a line down"),
                                   [&](Level& l) { return jam::putLine(l, kind, line); });
}

bool KindEdits::arrangeChosen(const QString& what, Status (*arrange)(Level&, const std::vector<uint32_t>&)) {
    std::vector<OneStanding> chosen = place_.standpoint.chosen();
    if (chosen.empty()) return false;
    const bool done = place_.document.tryEdit(what, [&](Level& l) -> Status {
        if (const Status s = changeAll(l, chosen, [](Single&) {}); !s) return s;
        std::vector<uint32_t> ids;
        for (const OneStanding& one : chosen) ids.push_back(one.planting.single);
        if (const Status s = arrange(l, ids); !s) return s;
        for (OneStanding& one : chosen) one.planting = standing(l, *l.kind(one.kind), *l.single(one.planting.single));
        return {};
    });
    if (done) place_.standpoint.setChosen(std::move(chosen));
    return done;
}

bool KindEdits::moveChosen(double x, double z) { return editChosen(QObject::tr("Move what stands"), movedBy(x, z)); }

Result<Commit> KindEdits::tried(double x, double z) const {
    const Level& before = place_.document.standing();
    Level next = before;
    std::vector<OneStanding> chosen = place_.standpoint.chosen();
    if (const Status s = changeAll(next, chosen, movedBy(x, z)); !s) return s.error();
    return commitWork(before, std::move(next));
}

}  // namespace jam
