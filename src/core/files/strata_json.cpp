#include "files/strata_json.h"

namespace jam {

namespace {
constexpr std::array<std::string_view, kCourseUses> kUses{"grade", "carve", "bank", "pad", "footprint"};
}

std::string_view courseUseName(CourseUse use) { return kUses[static_cast<size_t>(use)]; }

Json courseToJson(const Course& course) {
    Json posts = Json::array();
    for (const Post& p : course.posts) {
        Json j = {{"x", p.x}, {"z", p.z}, {"width", p.width}, {"shoulder", p.shoulder}};
        if (p.height) j["height"] = *p.height;
        if (p.banking != 0) j["banking"] = p.banking;
        posts.push_back(std::move(j));
    }
    Json j = {{"use", courseUseName(course.use)},
              {"smooth", course.smooth},
              {"closed", course.closed},
              {"meets", course.meets},
              {"posts", posts}};
    if (course.sunk > 0) j["sunk"] = course.sunk;
    if (course.track) j["track"] = course.track;
    if (course.verge) j["verge"] = course.verge;
    if (course.footprint) {
        Json under = {{"kind", course.footprint->kind}};
        for (const FootprintNumber& n : kFootprintNumbers) under[n.name] = (*course.footprint).*n.value;
        j["footprint"] = std::move(under);
    }
    return j;
}

Course readCourse(Fields f) {
    Course course;
    course.use = choiceFrom<CourseUse>(f, "use", kUses, "grade");
    course.smooth = f.flag("smooth", true);
    course.closed = f.flag("closed", false);
    course.meets = f.flag("meets", true);
    course.sunk = static_cast<float>(f.number("sunk", 0, kMaxSunk, 0));
    course.track = static_cast<uint32_t>(f.whole("track", 0, 1 << 30, 0));
    course.verge = static_cast<uint32_t>(f.whole("verge", 0, 1 << 30, 0));
    const Post usual;
    f.each("posts", kMaxPosts, [&](Fields p) {
        Post post;
        const auto number = [&](const char* name, double low, double high, double otherwise) {
            return static_cast<float>(p.number(name, low, high, otherwise));
        };
        post.x = p.number("x", -kFarPlace, kFarPlace);
        post.z = p.number("z", -kFarPlace, kFarPlace);
        if (p.has("height")) post.height = number("height", -kFarHeight, kFarHeight, 0);
        post.width = number("width", kMinCourseWidth, kMaxCourseWidth, usual.width);
        post.shoulder = number("shoulder", 0, kMaxCourseWidth, usual.shoulder);
        post.banking = number("banking", -kMaxBanking, kMaxBanking, 0);
        course.posts.push_back(post);
    });
    if (course.use == CourseUse::footprint) {
        Fields under = f.object("footprint");
        Footprint footprint;
        footprint.kind = static_cast<uint32_t>(under.whole("kind", 1, 1 << 30));
        for (const FootprintNumber& n : kFootprintNumbers)
            footprint.*n.value = static_cast<float>(under.number(n.name, n.low, n.high, footprint.*n.value));
        course.footprint = footprint;
        if (!f.failed() && !course.posts.empty())
            f.fail("posts", "a footprint has " + std::to_string(course.posts.size()), "leave them out");
    } else if (course.use == CourseUse::pad) {
        if (!f.failed() && course.posts.size() != 1)
            f.fail("posts", "a pad has " + std::to_string(course.posts.size()), "give it one");
    } else if (!f.failed() && course.posts.size() < 2)
        f.fail("posts", course.posts.empty() ? "there are none" : "there is only one", "give at least two");
    return course;
}

Json stratumToJson(const Stratum& s) {
    Json j = {{"name", s.name}, {"opacity", s.opacity}, {"visible", s.visible}};
    if (s.locked) j["kept"] = true;
    if (s.course) j["course"] = courseToJson(*s.course);
    if (s.border)
        j["border"] = {{"side", kSideNames[static_cast<size_t>(s.border->side)]},
                       {"blend", s.border->blend},
                       {"file", s.border->file}};
    return j;
}

void readStratumFields(Fields& f, Stratum& s) {
    s.name = f.text("name");
    if (f.has("course")) s.course = readCourse(f.object("course"));
    if (f.has("border")) {
        Fields b = f.object("border");
        Border border;
        border.side = choiceFrom<Side>(b, "side", kSideNames);
        border.blend = static_cast<float>(b.number("blend", 0, kMostBorderBlend));
        border.file = b.text("file", "", kMostPath);
        if (s.course) f.fail("border", "it is a course too", "leave one of both out");
        else s.border = std::move(border);
    }
    s.opacity = static_cast<float>(f.number("opacity", 0, s.mixes() ? 1 : kMaxOpacity));
    s.visible = f.flag("visible");
    s.locked = f.flag("kept", false);
}

}  // namespace jam
