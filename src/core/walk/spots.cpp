#include "walk/spots.h"

#include <algorithm>
#include <cmath>

#include "base/names.h"
#include "base/range.h"
#include "base/text.h"
#include "course/bake.h"
#include "level/opening.h"

namespace jam {

namespace {

bool spotNamed(const Level& level, const std::string& name, uint32_t self = 0) {
    return std::any_of(level.spots.begin(), level.spots.end(),
                       [&](const Spot& s) { return s.id != self && s.name == name; });
}

}  // namespace

Status checkSpotName(const Level& level, const std::string& name, uint32_t self) {
    if (name.empty()) return Error{"", "name", "the spot has none", "give it one"};
    if (const Status s = checkName(name); !s) return s;
    if (spotNamed(level, name, self))
        return Error{"", "name", "another spot is called \"" + name + "\" already", "choose another name"};
    return {};
}

Status checkSpot(const Level& level, const Spot& spot, uint32_t self) {
    if (const Status s = checkKeptSpot(level, spot, self); !s) return s;
    if (!groundAt(level, spot.x, spot.z))
        return Error{"", spot.name, "there is no ground where it lies", "put it beside the opening"};
    return {};
}

Status checkKeptSpot(const Level& level, const Spot& spot, uint32_t self) {
    if (const Status s = checkSpotName(level, spot.name, self); !s) return s;
    if (spot.kind.empty() || spot.kind.size() > 100)
        return Error{"", spot.name, "it has no kind, or a very long one",
                     "call it start, goal, supply, lookout or a word of your own"};
    if (!level.holds(spot.x, spot.z))
        return Error{"", spot.name, "it lies outside of the level", "put it on the ground"};
    return checkRange(spot.name + ", facing", spot.facing, 0, 360, " degrees");
}

Status checkBody(const Body& b) {
    if (b.name.empty() || b.name.size() > 100)
        return Error{"", "name", "the body has none, or a very long one", "give it a short one"};
    for (const BodyNumber& n : kBodyNumbers)
        if (const Status s = checkRange(b.name + ", " + n.name, b.*n.value, n.low, n.high, n.unit); !s) return s;
    if (b.run < b.pace)
        return Error{"", b.name + ", run", "it runs slower than it walks", "give at least " + number(b.pace) + " m/s"};
    return {};
}

Status checkPad(const Pad& pad) {
    if (const Status s = checkRange("pad, radius", pad.radius, 0.1, 250, " m"); !s) return s;
    if (const Status s = checkRange("pad, rim", pad.rim, 0, 500, " m"); !s) return s;
    return checkRange("pad, height", pad.height.value_or(0), -kFarHeight, kFarHeight, " m");
}

Result<uint32_t> addSpot(Level& level, Spot spot) {
    if (level.spots.size() >= kMaxSpots)
        return Error{"", "spots", "there are " + std::to_string(kMaxSpots) + " already", "delete one first"};
    if (const Status s = checkSpot(level, spot); !s) return s.error();
    spot.id = level.nextId++;
    spot.pad = 0;
    level.spots.push_back(std::move(spot));
    return level.spots.back().id;
}

std::string freeSpotName(const Level& level, const std::string& wish) {
    return freeName(wish, [&](const std::string& name) { return spotNamed(level, name); });
}

namespace {

Error noSuchSpot() { return {"", "spot", "there is no such spot", "choose one of the level"}; }

// The place of a spot's pad in the strata, or -1.
int padPlace(const Level& level, const Spot& spot) {
    const int place = spot.pad ? level.stratumIndex(spot.pad) : -1;
    if (place < 0) return -1;
    const auto& course = level.strata[static_cast<size_t>(place)].course;
    return course && course->use == CourseUse::pad ? place : -1;
}

}  // namespace

void removeSpot(Level& level, uint32_t id) {
    Spot* s = level.spot(id);
    if (!s) return;
    if (const int place = padPlace(level, *s); place >= 0) level.strata.erase(level.strata.begin() + place);
    std::erase_if(level.spots, [id](const Spot& x) { return x.id == id; });
}

Status moveSpot(Level& level, uint32_t id, double x, double z) {
    Spot* s = level.spot(id);
    if (!s) return noSuchSpot();
    Spot moved = *s;
    moved.x = x, moved.z = z;
    if (const Status fine = checkSpot(level, moved, id); !fine) return fine;
    if (const int place = padPlace(level, *s); place >= 0) {
        Post& post = level.strata[static_cast<size_t>(place)].course->posts.front();
        post.x = x, post.z = z;
    }
    *s = moved;
    return {};
}

std::optional<Pad> padOf(const Level& level, const Spot& spot) {
    const int place = padPlace(level, spot);
    if (place < 0) return std::nullopt;
    const Post& p = level.strata[static_cast<size_t>(place)].course->posts.front();
    return Pad{p.width / 2, p.shoulder, p.height};
}

Status setPad(Level& level, uint32_t id, const std::optional<Pad>& pad) {
    Spot* s = level.spot(id);
    if (!s) return noSuchSpot();
    int place = padPlace(level, *s);
    if (!pad) {
        if (place >= 0) level.strata.erase(level.strata.begin() + place);
        s->pad = 0;
        return {};
    }
    if (const Status fine = checkPad(*pad); !fine) return fine;
    if (place < 0) {
        Course c;
        c.use = CourseUse::pad;
        c.posts.push_back({});
        const Result<uint32_t> made = addCourseBelowOthers(level, shortened("Pad: " + s->name), std::move(c));
        if (!made) return made.error();
        s->pad = made.value();
        place = level.stratumIndex(s->pad);
    }
    Post& p = level.strata[static_cast<size_t>(place)].course->posts.front();
    p.x = s->x, p.z = s->z;
    p.width = 2 * pad->radius;
    p.shoulder = pad->rim;
    p.height = pad->height;
    return {};
}

Status keepBody(Level& level, const Body& body) {
    if (const Status s = checkBody(body); !s) return s;
    for (const Body& b : kBodies)
        if (b.name == body.name)
            return Error{"", body.name, "that is one of the three that are always there", "give yours another name"};
    for (Body& b : level.bodies)
        if (b.name == body.name) return b = body, Status{};
    if (level.bodies.size() >= kMaxBodies)
        return Error{"", "bodies", "there are " + std::to_string(kMaxBodies) + " already", "change one that is there"};
    level.bodies.push_back(body);
    return {};
}

}  // namespace jam
