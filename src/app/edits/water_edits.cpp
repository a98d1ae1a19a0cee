#include "edits/water_edits.h"

#include <algorithm>
#include <cmath>

#include "level/ground.h"
#include "level/things.h"

namespace jam {

bool WaterEdits::editPool(const QString& what, const std::function<void(Pool&)>& change, const QString& gesture) {
    return place_.document.tryEdit(
        what,
        [&](Level& l) -> Status {
            Pool* p = l.pool(place_.standpoint.water());
            if (!p) return goneError(ThingKind::pool);
            change(*p);
            return checkPool(l, *p, p->id);
        },
        gesture);
}

bool WaterEdits::editStream(const QString& what, const std::function<void(Stream&)>& change, const QString& gesture) {
    return place_.document.tryEdit(
        what,
        [&](Level& l) -> Status {
            Stream* s = l.stream(place_.standpoint.water());
            if (!s) return goneError(ThingKind::stream);
            change(*s);
            return checkStream(l, *s, s->id);
        },
        gesture);
}

bool WaterEdits::rename(const QString& name) {
    const std::string to = name.trimmed().toStdString();
    return pool() ? editPool(QObject::tr("Name of a pool"), [&](Pool& p) { p.name = to; })
                  : editStream(QObject::tr("Name of a stream"), [&](Stream& s) { s.name = to; });
}

bool WaterEdits::editLook(const std::function<void(WaterLook&)>& change, const QString& gesture) {
    const QString what = QObject::tr("Look of water");
    return pool() ? editPool(
                        what, [&](Pool& p) { change(p.look); }, gesture)
                  : editStream(
                        what, [&](Stream& s) { change(s.look); }, gesture);
}

Commit WaterEdits::tried(uint32_t pool, float height) const {
    Commit c{place_.document.standing(), {}};
    if (Pool* p = c.level.pool(pool)) {
        p->height = std::clamp(height, c.level.lowest, c.level.highest);
        c.change.waters = true;
        c.change.water = refreshWater(c.level, c.change);
    }
    return c;
}

void WaterEdits::addSea() {
    uint32_t made = 0;
    const bool done = place_.document.tryEdit(QObject::tr("Sea"), [&](Level& l) -> Status {
        float shore = l.highest;  // the lowest ground by which it can come in
        for (int c = 0; c < l.columns; ++c)
            shore = std::min({shore, groundSample(l, c, 0), groundSample(l, c, l.rows - 1)});
        for (int r = 0; r < l.rows; ++r)
            shore = std::min({shore, groundSample(l, 0, r), groundSample(l, l.columns - 1, r)});
        Pool sea;
        sea.name = freeWaterName(l, QObject::tr("Sea").toStdString());
        sea.sea = true;
        sea.x = l.originX, sea.z = l.originZ;
        sea.height = std::min(shore + 1, l.highest);
        sea.look.clearness = 6, sea.look.waves = 0.15f, sea.look.waveLength = 7, sea.look.foam = 0.6f;
        sea.look.colour = {0.08f, 0.22f, 0.30f};
        const Result<uint32_t> added = addPool(l, sea);
        if (!added) return added.error();
        made = added.value();
        return {};
    });
    if (done) place_.standpoint.setWater(made);
}

void WaterEdits::remove() {
    const uint32_t id = place_.standpoint.water();
    if (!pool() && !stream()) return;
    if (place_.document.edit(pool() ? QObject::tr("Delete a pool") : QObject::tr("Delete a stream"),
                             [&](Level& l) { removeWater(l, id); }))
        place_.standpoint.setWater(0);
}

}  // namespace jam
