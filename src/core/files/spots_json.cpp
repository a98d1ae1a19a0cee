#include "files/spots_json.h"

#include <algorithm>

#include "walk/reach.h"
#include "walk/spots.h"

namespace jam {

Json spotToJson(const Spot& s) {
    return {{"name", s.name}, {"kind", s.kind}, {"x", s.x}, {"z", s.z}, {"facing", s.facing}};
}

Json bodyToJson(const Body& b) {
    Json j = {{"name", b.name}, {"swims", b.swims}};
    for (const BodyNumber& n : kBodyNumbers) j[n.name] = b.*n.value;
    return j;
}

Body readBody(Fields f) {
    Body b;
    b.name = f.text("name");
    b.swims = f.flag("swims", b.swims);
    for (const BodyNumber& n : kBodyNumbers)
        b.*n.value = static_cast<float>(f.number(n.name, n.low, n.high, b.*n.value));
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
            if (!f.failed() && bodyNamed(level, b.name))
                f.fail("name", "another body is called \"" + b.name + "\" already", "choose another name");
            level.bodies.push_back(b);
        });
    level.body = fields.text("body", level.body);
    if (!fields.failed() && !bodyNamed(level, level.body))
        fields.fail("body", "there is no body \"" + level.body + "\"",
                    "name walker, runner, cart or one of \"bodies\"");
}

}  // namespace jam
