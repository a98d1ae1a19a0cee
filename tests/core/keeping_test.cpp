// What can be made can be kept: names, ranges and things that are gone, and what a file would refuse.
#include <catch2/catch.hpp>

#include <dlfcn.h>
#include <unistd.h>
#include <zlib.h>
#include <zstd.h>

#include "base/names.h"
#include "base/text.h"
#include "clip/clip.h"
#include "commit/commit.h"
#include "course/bake.h"
#include "cover/course_layers.h"
#include "cover/mix.h"
#include "fence/fence.h"
#include "files/level_file.h"
#include "files/png.h"
#include "files/raster_codec.h"
#include "folder.h"
#include "level/ground.h"
#include "level/history.h"
#include "level/resize.h"
#include "level/strata.h"
#include "levels.h"
#include "survey/check.h"
#include "walk/spots.h"
#include "water/water.h"

using namespace jam;
using namespace jam::test;

// --- faults in libraries, at the call that a test asks for --------------------------------------------------------

namespace {
int failCompressAt = 0, failDeflateAt = 0;  // 1 for the next; 0 for never
bool strikes(int& at) { return at > 0 && --at == 0; }
}  // namespace

extern "C" size_t ZSTD_compressCCtx(ZSTD_CCtx* context, void* to, size_t room, const void* from, size_t n, int level) {
    using Real = size_t (*)(ZSTD_CCtx*, void*, size_t, const void*, size_t, int);
    static const auto real = reinterpret_cast<Real>(::dlsym(RTLD_NEXT, "ZSTD_compressCCtx"));
    return strikes(failCompressAt) ? static_cast<size_t>(-64) : real(context, to, room, from, n, level);
}

extern "C" int deflate(z_streamp stream, int flush) {
    using Real = int (*)(z_streamp, int);
    static const auto real = reinterpret_cast<Real>(::dlsym(RTLD_NEXT, "deflate"));
    return strikes(failDeflateAt) ? Z_MEM_ERROR : real(stream, flush);
}

namespace {

// Saved and opened again; equal but for what is made from the rest.
Level kept(const Level& level) {
    const Folder folder;
    const Status saved = saveLevel(level, folder.path / "a.jamhill");
    if (!saved) FAIL(saved.error().sentence());
    Result<Level> opened = loadLevel(folder.path / "a.jamhill");
    if (!opened) FAIL(opened.error().sentence());
    CHECK(opened.value() == level);
    CHECK(checkLevel(opened.value()).empty());
    return opened.take();
}

Level committed(const Level& before, Level after) {
    Result<Commit> done = commitWork(before, std::move(after));
    if (!done) FAIL(done.error().sentence());
    return std::move(done.value().level);
}

// A course over the level's middle with posts so wide.
Course laneOver(const Level& level, float width, float shoulder) {
    Course c;
    for (const double share : {0.2, 0.5, 0.9}) {
        Post p;
        p.x = level.originX + share * level.width(), p.z = level.originZ + 0.4 * level.depth();
        p.width = width, p.shoulder = shoulder;
        c.posts.push_back(p);
    }
    return c;
}

// So many bytes of letters of three bytes each, and what is left of one.
std::string longName(size_t bytes) {
    std::string name;
    while (name.size() + 3 <= bytes) name += "柿";
    return name + std::string(bytes - name.size(), 'x');
}

}  // namespace

// --- ranges ---------------------------------------------------------------------------------------------------------

TEST_CASE("a course with layers on its shoulders is kept, however wide those are") {
    for (const float shoulder : {0.f, 4.f, 280.f, 400.f, kMaxCourseWidth}) {
        const Level before = lopsidedLevel();
        Level level = before;
        const uint32_t id = addCourse(level, "lane", laneOver(level, kMaxCourseWidth, shoulder));
        layOnCourse(level, id, level.layers[9].id, level.layers[7].id);
        level = committed(before, std::move(level));
        CHECK(kept(level).stratum(id)->course->verge == level.layers[7].id);
    }
}

TEST_CASE("rules at both ends of every range are kept") {
    for (int k = 0; k < kRuleKinds; ++k) {
        const auto kind = static_cast<RuleKind>(k);
        const RuleRange range = ruleRange(kind);
        Level level = lopsidedLevel();
        for (const bool high : {false, true}) {
            Rule r;
            r.kind = kind;
            r.from = static_cast<float>(high ? range.high : range.low);
            r.to = static_cast<float>(range.high);
            r.fade = static_cast<float>(high ? range.high - range.low : 0);
            r.reach = high ? kMostRuleReach : 0;
            r.scale = high ? kMostRuleScale : kLeastRuleScale;
            r.level = high ? kFarHeight : -kFarHeight;
            r.layer = kind == RuleKind::course ? 0 : level.layers[3].id;
            r.strength = high;
            if (kind == RuleKind::noise) r.level = 0, r.reach = 4;
            level.layers[5].rules.push_back(r);
        }
        // What a kind does not look at is not kept.
        const Rule usual;
        for (Rule& r : level.layers[5].rules) {
            if (kind != RuleKind::slope && kind != RuleKind::curvature && kind != RuleKind::above)
                r.reach = usual.reach;
            if (kind != RuleKind::layer && kind != RuleKind::course) r.layer = usual.layer;
            if (kind != RuleKind::low) r.level = usual.level;
            if (kind != RuleKind::noise) r.scale = usual.scale;
        }
        kept(level);
    }
}

TEST_CASE("posts that a crop leaves outside are kept, and their course can still be changed") {
    const Level before = lopsidedLevel();
    Level level = before;
    const uint32_t id = addCourse(level, "lane", laneOver(level, 6, 4));
    level = committed(before, std::move(level));
    const Level cropped = committed(level, cropLevel(level, {40, 10, 90, 70}).take());
    const Course& left = *cropped.stratum(id)->course;
    REQUIRE_FALSE(cropped.holds(left.posts[0].x, left.posts[0].z));
    REQUIRE_FALSE(cropped.holds(left.posts[2].x, left.posts[2].z));
    kept(cropped);
    CHECK(checkCourse(left));
    CHECK_FALSE(checkNewCourse(cropped, left));
    // As before the crop, where both have ground.
    CHECK(groundSample(cropped, 25, 24) == Approx(groundSample(level, 65, 34)).margin(1e-4));
    Course wider = left;
    for (Post& p : wider.posts) p.width = 12;
    wider.posts[1].z += 8;
    CHECK(checkCourse(wider));
    Level changed = cropped;
    changed.stratum(id)->course = wider;
    changed = committed(cropped, std::move(changed));
    CHECK_FALSE(changed.stratum(id)->heights == cropped.stratum(id)->heights);
    // A post that is put back onto the ground is no other than one that was never outside.
    wider.posts[0].x = cropped.originX + 2, wider.posts[2].x = cropped.originX + cropped.width() - 2;
    CHECK(checkNewCourse(cropped, wider));
    wider.posts[0].x = 2 * kFarPlace;
    CHECK_FALSE(checkCourse(wider));
}

TEST_CASE("a level cannot wander farther than files say") {
    Level level = flatLevel(9, 9, 1, kCoarsest);
    level.originX = kFarPlace - 300;
    CHECK(cropLevel(level, {2, 2, 6, 6}));
    const Result<Level> beyond = cropLevel(level, {4, 2, 8, 6});
    REQUIRE_FALSE(beyond);
    CHECK(beyond.error().sentence().find("1000 km") != std::string::npos);
}

// --- names ----------------------------------------------------------------------------------------------------------

TEST_CASE("text is told from bytes that are none") {
    for (const char* fine : {"", "a", "Zwetschge", "ä", "柿", "\xF0\x9F\x90\x90", "\xF4\x8F\xBF\xBF"})
        CHECK(isText(fine));
    for (const char* wrong : {"\x80", "\xC3", "a\xFF", "\xC0\xAF", "\xE0\x80\x80", "\xED\xA0\x80", "\xF4\x90\x80\x80",
                              "\xF8\x88\x80\x80\x80", "\xE6\x9F"})
        CHECK_FALSE(isText(wrong));
    CHECK(asText("a\xFF柿\xE6z") == "a?柿?z");
    CHECK(shortened("柿柿", 5) == "柿");
    CHECK(shortened("柿柿", 6) == "柿柿");
    CHECK(shortened("柿", 2).empty());
}

TEST_CASE("the longest names there may be are kept, wherever they stand") {
    Level level = lopsidedLevel();
    const std::string name = longName(kMostName);
    level.name = name;
    level.strata[1].name = level.layers[3].name = name;
    level.pools[0].name = name;
    keepFence(level, name);
    Spot spot;
    spot.name = name, spot.x = level.originX + 60, spot.z = level.originZ + 50;
    const uint32_t id = addSpot(level, spot).value();
    REQUIRE(setPad(level, id, Pad{}));
    REQUIRE(duplicateStratum(level, level.strata[2].id));
    spot.name = freeSpotName(level, name);
    spot.x += 9;
    REQUIRE(addSpot(level, spot));
    Pool second = level.pools[0];
    second.name = freeWaterName(level, name);
    REQUIRE(addPool(level, second));
    CHECK(checkNames(level));
    kept(committed(lopsidedLevel(), level));
    for (std::string* one : {&level.name, &level.strata[0].name, &level.layers[0].name, &level.fences[0].name,
                             &level.pools[0].name, &level.spots[0].name}) {
        const std::string was = std::exchange(*one, name + "x");
        CHECK_FALSE(checkNames(level));
        CHECK_FALSE(commitWork(lopsidedLevel(), level));
        *one = was;
    }
    REQUIRE(checkNames(level));
}

TEST_CASE("names that no file could keep are refused where they are given") {
    NewLevel wish;
    wish.name = longName(600);
    const Result<Level> made = makeLevel(wish);
    REQUIRE_FALSE(made);
    CHECK(made.error().sentence().find("longer than 500 bytes; choose a shorter one") != std::string::npos);
    wish.name = "caf\xE9";
    REQUIRE_FALSE(makeLevel(wish));
    CHECK(isText(makeLevel(wish).error().sentence()));
    Level level = lopsidedLevel();
    CHECK_FALSE(checkSpotName(level, longName(501)));
    CHECK_FALSE(checkWaterName(level, longName(501)));
    // A wish that is too long is not looked for until the end of days.
    CHECK(freeSpotName(level, longName(700)).size() <= kMostName);
    CHECK(freeWaterName(level, longName(700)).size() <= kMostName);
}

TEST_CASE("a clip of a level whose body is one of its own opens again") {
    Level level = lopsidedLevel();
    Body goat;
    goat.name = "goat";
    REQUIRE(keepBody(level, goat));
    level.body = "goat";
    const Level clip = liftClip(level, {20, 11, 61, 48}, "piece").take();
    CHECK(clip.body == "walker");
    kept(clip);
}

// --- what saving asks
// -------------------------------------------------------------------------------------------------

TEST_CASE("a level that could not be opened again does not take the place of one that can") {
    const Folder folder;
    const auto file = folder.path / "a.jamhill";
    const Level good = lopsidedLevel();
    REQUIRE(saveLevel(good, file));
    const auto refused = [&](const char* because, const std::function<void(Level&)>& spoil) {
        Level bad = good;
        spoil(bad);
        const Status s = saveLevel(bad, file);
        REQUIRE_FALSE(s);
        INFO(s.error().sentence());
        CHECK(s.error().sentence().find(because) != std::string::npos);
        CHECK(loadLevel(file).value() == good);
        CHECK(folder.files() == 1);
    };
    refused("body", [](Level& l) { l.body = "goat"; });
    refused("name", [](Level& l) { l.name = longName(501); });
    refused("rules[0].to", [](Level& l) { l.layers[2].rules[0].to = 1000; });
    refused("tileSize", [](Level& l) { l.layers[1].tileSize = 0; });
    // As many posts as there may be are kept.
    Level full = good;
    Course c = laneOver(full, 3, 3);
    c.posts.resize(kMaxPosts, c.posts[0]);
    while (full.strata.size() < kMaxStrata) {
        addStratum(full, "lane", 0);
        Stratum& s = full.strata[1];
        s.course = c, s.owned = TiledGrid<float>(full.columns, full.rows, 0.f);
        for (size_t i = 0; i < c.posts.size(); ++i) s.course->posts[i].x += static_cast<double>(i % 7) / 3;
    }
    REQUIRE(saveLevel(full, file));
    CHECK(loadLevel(file));
}

TEST_CASE("a name that is no text ends in words while files are written, and a level's file name may be any") {
    const Folder folder;
    Level level = lopsidedLevel();
    CHECK(saveLevel(level, folder.path / "caf\xE9.jamhill"));
    CHECK(loadLevel(folder.path / "caf\xE9.jamhill").value() == level);
    level.layers[0].colour = std::make_shared<PictureFile>(PictureFile{"caf\xE9.png", level.layers[0].colour->bytes});
    REQUIRE(saveLevel(level, folder.path / "b.jamhill"));
    CHECK(loadLevel(folder.path / "b.jamhill"));
}

TEST_CASE("rasters that cannot be packed are an error and no flat ground") {
    const Folder folder;
    const auto file = folder.path / "a.jamhill";
    const Level old = lopsidedLevel(4), level = hillyLevel(600, 300, 5, 3);
    REQUIRE(saveLevel(old, file));
    for (const int at : {1, 2, 6}) {
        failCompressAt = at;
        const Status s = saveLevel(level, file);
        REQUIRE(failCompressAt == 0);
        REQUIRE_FALSE(s);
        CHECK(s.error().sentence().find("free some memory") != std::string::npos);
        CHECK(loadLevel(file).value() == old);
        CHECK(folder.files() == 1);
    }
    for (const int at : {1, 3, 200}) {
        failDeflateAt = at;
        const Result<Bytes> packed = encodeRaster(level.layers[1].coverage);
        REQUIRE(failDeflateAt == 0);
        CHECK_FALSE(packed);
    }
    CHECK(encodeRaster(level.layers[1].coverage));
}

TEST_CASE("a PNG that is written ends in words when there is no memory, and lets through what its sink throws") {
    Pixels p{300, 200, 3, 8, std::vector<uint16_t>(300 * 200 * 3)};
    for (size_t i = 0; i < p.samples.size(); ++i) p.samples[i] = static_cast<uint16_t>(i * 7919 % 251);
    const Bytes whole = encodePng(p);
    failDeflateAt = 2;
    CHECK_THROWS_AS(encodePng(p), std::bad_alloc);
    for (const size_t room : {size_t{0}, size_t{40}, whole.size() / 2, whole.size() - 1}) {
        size_t taken = 0;
        const auto write = [&] {
            PngWriter writer({300, 200, 3, 8}, [&](const uint8_t*, size_t n) {
                if (taken + n > room) throw std::runtime_error("full");
                taken += n;
            });
            for (int z = 0; z < 200; ++z) writer.row(p.samples.data() + z * 900);
            return writer.finish();
        };
        CHECK_THROWS_AS(write(), std::runtime_error);
    }
    CHECK(encodePng(p) == whole);
}

TEST_CASE("what a killed run left half written is not added to") {
    const Folder folder;
    const auto goal = folder.path / "weights.png";
    put(goal.string() + ".part-" + std::to_string(::getpid()), Bytes(1000, 'x'));
    AtomicFile file(goal);
    const Bytes one(10, 'a'), two(5, 'b');
    REQUIRE(file.append(one.data(), one.size()));
    REQUIRE(file.append(two.data(), two.size()));
    REQUIRE(file.commit());
    Bytes both = one;
    both.insert(both.end(), two.begin(), two.end());
    CHECK(bytesOf(goal) == both);
    CHECK(folder.files() == 1);
}

// --- what is gone ---------------------------------------------------------------------------------------------------

TEST_CASE("work on a layer or stratum that is gone says so and changes nothing") {
    const Level level = lopsidedLevel();
    const uint32_t gone = 999;
    const auto untouched = [&](const std::function<Status(Level&)>& work) {
        Level l = level;
        const Status s = work(l);
        REQUIRE_FALSE(s);
        INFO(s.error().sentence());
        CHECK(s.error().sentence().find("gone") != std::string::npos);
        CHECK(l == level);
    };
    const auto status = [](const auto& result) { return result ? Status{} : Status(result.error()); };
    const uint32_t layer = level.layers[1].id;
    untouched([&](Level& l) { return removeLayer(l, gone); });
    untouched([&](Level& l) { return moveLayer(l, gone, 1); });
    untouched([&](Level& l) { return mergeDown(l, gone); });
    untouched([&](Level& l) { return replaceLayer(l, gone, layer); });
    untouched([&](Level& l) { return replaceLayer(l, layer, gone); });
    untouched([&](Level& l) { return fillLayer(l, gone, 1, {}); });
    untouched([&](Level& l) { return status(duplicateLayer(l, gone)); });
    untouched([&](Level& l) { return removeStratum(l, gone); });
    untouched([&](Level& l) { return moveStratum(l, gone, 0); });
    untouched([&](Level& l) { return mergeStratumDown(l, gone); });
    untouched([&](Level& l) { return status(duplicateStratum(l, gone)); });
}

TEST_CASE("layers are merged and replaced by what they are, wherever they lie, and not when protected") {
    Level level = lopsidedLevel();
    const uint32_t lowest = level.layers[0].id, locked = level.layers[6].id, above = level.layers[7].id;
    CHECK_FALSE(mergeDown(level, lowest));
    CHECK_FALSE(mergeDown(level, above));  // into a protected one
    CHECK_FALSE(replaceLayer(level, locked, above));
    CHECK_FALSE(replaceLayer(level, above, locked));
    CHECK_FALSE(replaceLayer(level, above, above));
    REQUIRE(moveLayer(level, above, 3));
    CHECK(level.layerIndex(above) == 3);
    REQUIRE(moveLayer(level, above, 99));
    CHECK(level.layerIndex(above) == 9);
    REQUIRE(mergeDown(level, above));
    CHECK(level.layerIndex(above) == -1);
    Level one = flatLevel(9, 9, 1);
    CHECK_FALSE(removeLayer(one, one.layers[0].id));
    Level full = flatLevel(9, 9, kMaxLayers);
    CHECK_FALSE(duplicateLayer(full, full.layers[2].id));
    while (full.strata.size() < kMaxStrata) addStratum(full, "more", 0);
    CHECK_FALSE(duplicateStratum(full, full.strata[3].id));
}

TEST_CASE("no step of one history is taken for a step of another") {
    const Level level = flatLevel(5, 5);
    History a(level, "a"), b(level, "b");
    CHECK(a.serial() != b.serial());
    const uint64_t first = a.serial();
    a.push(level, "one");
    b.push(level, "one");
    CHECK(a.serial() != b.serial());
    a.undo();
    CHECK(a.serial() == first);
    a.push(level, "other");
    a = History(level, "another level");
    CHECK(a.serial() != first);
}
