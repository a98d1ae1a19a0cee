#include "files/spots_json.h"

#include <algorithm>

#include "walk/spots.h"

namespace jam {

namespace {

struct Entry {
    const char* name;
    float Body::*value;
    double low, high;
};
constexpr Entry kEntries[] = {{"height", &Body::height, 0.2, 20}, {"radius", &Body::radius, 0.05, 5},
                              {"step", &Body::step, 0, 5},        {"slope", &Body::slope, 1, 80},
                              {"pace", &Body::pace, 0.1, 50},     {"run", &Body::run, 0.1, 50},
                              {"jump", &Body::jump, 0, 20},       {"wade", &Body::wade, 0, 20}};

}  // namespace

Json spotToJson(const Spot& s) {
    return {{"name", s.name}, {"kind", s.kind}, {"x", s.x}, {"z", s.z}, {"facing", s.facing}};
}

Json bodyToJson(const Body& b) {
    Json j = {{"name", b.name}, {"swims", b.swims}};
    for (const Entry& e : kEntries) j[e.name] = b.*e.value;
    return j;
}

Body readBody(Fields f) {
    Body b;
    b.name = f.text("name");
    b.swims = f.flag("swims", b.swims);
    for (const Entry& e : kEntries) b.*e.value = static_cast<float>(f.number(e.name, e.low, e.high, b.*e.value));
    if (f.failed()) return b;
    if (const Status s = checkBody(b); !s) f.fail("", s.error().problem, s.error().remedy);
    return b;
}

void describeSpots(const Level& level, Json& all) {
    Json &spots = all["spots"] = Json::array(), &bodies = all["bodies"] = Json::array();
    for (const Spot& s : level.spots) {
        spots.push_back(spotToJson(s));
        spots.back()["id"] = s.id;
        if (s.pad) spots.back()["pad"] = s.pad;
    }
    for (const Body& b : level.bodies) bodies.push_back(bodyToJson(b));
    all["body"] = level.body;
}

void readSpots(Fields& fields, Level& level) {
    if (fields.has("spots"))
        fields.each("spots", kMaxSpots, [&](Fields f) {
            Spot s;
            s.id = static_cast<uint32_t>(f.whole("id", 1, std::max(static_cast<int>(level.nextId) - 1, 1)));
            s.name = f.text("name");
            s.kind = f.text("kind");
            s.x = f.number("x", level.originX, level.originX + level.width());
            s.z = f.number("z", level.originZ, level.originZ + level.depth());
            s.facing = f.number("facing", 0, 360, 0);
            s.pad = static_cast<uint32_t>(f.whole("pad", 0, 1 << 30, 0));
            if (s.kind.empty() || s.kind.size() > 100) f.fail("kind", "it is empty or very long", "use a word");
            if (level.spot(s.id)) f.fail("id", "another spot has the same", "give each its own");
            if (const Status fine = checkSpotName(level, s.name); !fine)
                f.fail("name", fine.error().problem, fine.error().remedy);
            level.spots.push_back(std::move(s));
        });
    if (fields.has("bodies"))
        fields.each("bodies", kMaxBodies, [&](Fields f) {
            const Body b = readBody(f);
            const auto named = [&](const Body& other) { return other.name == b.name; };
            if (!f.failed() && (std::any_of(level.bodies.begin(), level.bodies.end(), named) ||
                                std::any_of(kBodies.begin(), kBodies.end(), named)))
                f.fail("name", "another body is called \"" + b.name + "\" already", "choose another name");
            level.bodies.push_back(b);
        });
    level.body = fields.text("body", level.body);
    const auto chosen = [&](const Body& b) { return b.name == level.body; };
    if (!fields.failed() && std::none_of(level.bodies.begin(), level.bodies.end(), chosen) &&
        std::none_of(kBodies.begin(), kBodies.end(), chosen))
        fields.fail("body", "there is no body \"" + level.body + "\"",
                    "name walker, runner, cart or one of \"bodies\"");
}

}  // namespace jam
