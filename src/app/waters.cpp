#include "waters.h"

#include <algorithm>
#include <cmath>

#include "level/ground.h"

namespace jam {

bool Waters::edit(const QString& what, Level next, const QString& gesture) {
    return place_.document.edit(
        what, [&](Level& l) { l = std::move(next); }, gesture);
}

bool Waters::editPool(const QString& what, const std::function<void(Pool&)>& change, const QString& gesture) {
    Level next = place_.document.standing();
    Pool* p = next.pool(place_.standpoint.water());
    if (!p) return false;
    change(*p);
    if (const Status fine = checkPool(next, *p, p->id); !fine) {
        place_.tell(QString::fromStdString(fine.error().sentence()));
        return false;
    }
    return edit(what, std::move(next), gesture);
}

bool Waters::editStream(const QString& what, const std::function<void(Stream&)>& change, const QString& gesture) {
    Level next = place_.document.standing();
    Stream* s = next.stream(place_.standpoint.water());
    if (!s) return false;
    change(*s);
    if (const Status fine = checkStream(next, *s, s->id); !fine) {
        place_.tell(QString::fromStdString(fine.error().sentence()));
        return false;
    }
    return edit(what, std::move(next), gesture);
}

bool Waters::rename(const QString& name) {
    const std::string to = name.trimmed().toStdString();
    return pool() ? editPool(QObject::tr("Name of a pool"), [&](Pool& p) { p.name = to; })
                  : editStream(QObject::tr("Name of a stream"), [&](Stream& s) { s.name = to; });
}

bool Waters::editLook(const std::function<void(WaterLook&)>& change, const QString& gesture) {
    const QString what = QObject::tr("Look of water");
    return pool() ? editPool(
                        what, [&](Pool& p) { change(p.look); }, gesture)
                  : editStream(
                        what, [&](Stream& s) { change(s.look); }, gesture);
}

Commit Waters::tried(uint32_t pool, float height) const {
    Commit c{place_.document.standing(), {}, false};
    if (Pool* p = c.level.pool(pool)) {
        p->height = std::clamp(height, c.level.lowest, c.level.highest);
        c.change.waters = true;
        c.change.water = refreshWater(c.level, c.change);
    }
    return c;
}

void Waters::addSea() {
    Level next = place_.document.standing();
    float shore = next.highest;  // the lowest ground by which it can come in
    for (int c = 0; c < next.columns; ++c)
        shore = std::min({shore, groundSample(next, c, 0), groundSample(next, c, next.rows - 1)});
    for (int r = 0; r < next.rows; ++r)
        shore = std::min({shore, groundSample(next, 0, r), groundSample(next, next.columns - 1, r)});
    Pool sea;
    sea.name = freeWaterName(next, QObject::tr("Sea").toStdString());
    sea.sea = true;
    sea.x = next.originX, sea.z = next.originZ;
    sea.height = std::min(shore + 1, next.highest);
    sea.look.clearness = 6, sea.look.waves = 0.15f, sea.look.waveLength = 7, sea.look.foam = 0.6f;
    sea.look.colour = {0.08f, 0.22f, 0.30f};
    const Result<uint32_t> made = addPool(next, sea);
    if (!made) return place_.tell(QString::fromStdString(made.error().sentence()));
    if (edit(QObject::tr("Sea"), std::move(next), {})) place_.standpoint.setWater(made.value());
}

void Waters::remove() {
    const uint32_t id = place_.standpoint.water();
    if (!pool() && !stream()) return;
    Level next = place_.document.standing();
    removeWater(next, id);
    if (edit(pool() ? QObject::tr("Delete a pool") : QObject::tr("Delete a stream"), std::move(next), {}))
        place_.standpoint.setWater(0);
}

}  // namespace jam
