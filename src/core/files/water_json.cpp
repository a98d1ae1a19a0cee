#include "files/water_json.h"

#include <algorithm>

#include "water/water.h"

namespace jam {

namespace {

// A number of the look under its name, with its range.
struct Entry {
    const char* name;
    float WaterLook::*value;
    double low, high;
};
constexpr Entry kEntries[] = {{"clearness", &WaterLook::clearness, 0.05, 100},
                              {"waves", &WaterLook::waves, 0, 3},
                              {"waveLength", &WaterLook::waveLength, 0.1, 100},
                              {"roughness", &WaterLook::roughness, 0, 1},
                              {"foam", &WaterLook::foam, 0, 10}};

Json lookToJson(const WaterLook& look) {
    Json j = {{"colour", look.colour}};
    for (const Entry& e : kEntries) j[e.name] = look.*e.value;
    return j;
}

void readLook(Fields& f, WaterLook& look) {
    if (!f.has("look")) return;
    Fields l = f.object("look");
    if (const Json* colour = l.array("colour", 3)) {
        const bool fine = colour->size() == 3 && std::all_of(colour->begin(), colour->end(), [](const Json& v) {
                              return v.is_number() && v >= 0 && v <= 1;
                          });
        if (!fine) l.fail("colour", "it is not three numbers from 0 to 1", "write [red, green, blue]");
        else
            for (size_t i = 0; i < 3; ++i) look.colour[i] = (*colour)[i].get<float>();
    }
    for (const Entry& e : kEntries) look.*e.value = static_cast<float>(l.number(e.name, e.low, e.high, look.*e.value));
}

}  // namespace

Json poolToJson(const Pool& p) {
    return {{"name", p.name},     {"x", p.x},     {"z", p.z},
            {"height", p.height}, {"sea", p.sea}, {"look", lookToJson(p.look)}};
}

Json streamToJson(const Stream& s) {
    return {{"name", s.name},
            {"course", s.course},
            {"depth", s.depth},
            {"manning", s.manning},
            {"look", lookToJson(s.look)}};
}

void describeWaters(const Level& level, Json& all) {
    Json &pools = all["pools"] = Json::array(), &streams = all["streams"] = Json::array();
    for (const Pool& p : level.pools) pools.push_back(poolToJson(p)), pools.back()["id"] = p.id;
    for (const Stream& s : level.streams) streams.push_back(streamToJson(s)), streams.back()["id"] = s.id;
}

namespace {

// What pools and streams have in common: an id and a name of their own, and room for one more.
void readEntry(Fields& f, const Level& level, uint32_t& id, std::string& name) {
    id = static_cast<uint32_t>(f.whole("id", 1, std::max(static_cast<int>(level.nextId) - 1, 1)));
    name = f.text("name");
    if (level.pool(id) || level.stream(id)) f.fail("id", "another pool or stream has the same", "give each its own");
    if (const Status s = checkWaterName(level, name); !s) f.fail("name", s.error().problem, s.error().remedy);
    if (const Status s = checkWaterRoom(level); !s) f.fail("", s.error().problem, "leave some out");
}

}  // namespace

void readWaters(Fields& fields, Level& level) {
    if (fields.has("pools"))
        fields.each("pools", kMaxWaters, [&](Fields f) {
            Pool p;
            readEntry(f, level, p.id, p.name);
            p.x = f.number("x", level.originX, level.originX + level.width());
            p.z = f.number("z", level.originZ, level.originZ + level.depth());
            p.height = static_cast<float>(f.number("height", level.lowest, level.highest));
            p.sea = f.flag("sea", false);
            readLook(f, p.look);
            level.pools.push_back(std::move(p));
        });
    if (fields.has("streams"))
        fields.each("streams", kMaxWaters, [&](Fields f) {
            Stream s;
            readEntry(f, level, s.id, s.name);
            s.course = static_cast<uint32_t>(f.whole("course", 1, 1 << 30));
            s.depth = static_cast<float>(f.number("depth", kLeastStreamDepth, kMostStreamDepth));
            s.manning = static_cast<float>(f.number("manning", kLeastManning, kMostManning, s.manning));
            readLook(f, s.look);
            const Stratum* bed = level.stratum(s.course);
            if (!f.failed() && (!bed || !bed->course))
                f.fail("course", "there is no such course", "name the id of one in \"strata\"");
            level.streams.push_back(std::move(s));
        });
}

}  // namespace jam
