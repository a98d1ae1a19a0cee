#include "files/water_json.h"

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

void readPool(Fields& f, const Level& level, Pool& p) {
    p.name = f.text("name");
    p.x = f.number("x", level.originX, level.originX + level.width());
    p.z = f.number("z", level.originZ, level.originZ + level.depth());
    p.height = static_cast<float>(f.number("height", level.lowest, level.highest));
    p.sea = f.flag("sea", false);
    readLook(f, p.look);
}

void readStream(Fields& f, Stream& s) {
    s.name = f.text("name");
    s.course = static_cast<uint32_t>(f.whole("course", 1, 1 << 30));
    s.depth = static_cast<float>(f.number("depth", kLeastStreamDepth, kMostStreamDepth));
    s.manning = static_cast<float>(f.number("manning", kLeastManning, kMostManning, s.manning));
    readLook(f, s.look);
}

}  // namespace jam
