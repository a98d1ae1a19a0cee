// What the command line makes is what the core makes.
#include <catch2/catch.hpp>

#include <cstdio>
#include <nlohmann/json.hpp>

#include "clip/clip.h"
#include "clip/set_down.h"
#include "commit/commit.h"
#include "cover/mix.h"
#include "cover/resolution.h"
#include "cover/weights.h"
#include "desk.h"
#include "files/level_file.h"
#include "files/png.h"
#include "files/stroke_file.h"
#include "level/resize.h"
#include "levels.h"
#include "sequences.h"
#include "shape/whole.h"
#include "stroke/stroker.h"
#include "tools/tool.h"
#include "walk/spots.h"
#include "water/figures.h"
#include "water/water.h"

using namespace jam;
using namespace jam::test;

namespace {

// A step as a script says it, and as the core does it.
struct Both {
    std::string words;
    std::function<Result<Level>(const Level&)> work;
};

std::string named(const std::string& name) { return "'" + name + "'"; }
std::string exact(double v) {
    char text[40];
    std::snprintf(text, sizeof text, "%.17g", v);
    return text;
}

// Random work that the command line knows, on the level as it is. Places are whole metres, so that words hold them.
Both randomWork(const Level& level, Random& random, const Desk& desk) {
    const auto whole = [&](double low, double high) { return std::round(between(random, low, high)); };
    const double x = whole(level.originX + 3, level.originX + level.width() - 3),
                 z = whole(level.originZ + 3, level.originZ + level.depth() - 3);
    const std::string place = exact(x) + " " + exact(z);
    const Layer &a = level.layers[random() % level.layers.size()], &b = level.layers[random() % level.layers.size()];
    switch (random() % 9) {
        case 0: {
            WholeWish w;
            w.kind = WholeKind::raise, w.metres = static_cast<float>(whole(-9, 9)), w.along = random() % 2;
            return {"reshape LEVEL raise --metres " + exact(w.metres) + (w.along ? "" : " --ground-alone"),
                    [w](const Level& l) -> Result<Level> {
                        Result<WholeOutcome> done = reshapeWhole(l, w);
                        if (!done) return done.error();
                        return std::move(done.value().level);
                    }};
        }
        case 1: {
            Stroke s;
            s.settings = usualSettings(static_cast<Tool>(random() % kTools));
            s.settings.layer = a.id, s.settings.from = b.id, s.settings.radius = static_cast<float>(whole(4, 30));
            s.points = {{x, z, 1, 0}, {x + 6, z + 4, 0.5f, 0.4}};
            desk.write("stroke.json", writeStrokes({s}, level));
            return {"stroke LEVEL stroke.json", [s](const Level& l) -> Result<Level> {
                        Level after = l;
                        if (const Result<Change> done = runStroke(after, s); !done) return done.error();
                        return after;
                    }};
        }
        case 2: {
            const int factor = random() % 2 ? 2 : 1;
            return {"cover LEVEL --factor " + std::to_string(factor), [factor](const Level& l) -> Result<Level> {
                        Level after = l;
                        if (const Status s = changeCoverFactor(after, factor); !s) return s.error();
                        return after;
                    }};
        }
        case 3:
            return {"cover LEVEL --replace " + named(a.name) + " --by " + named(b.name),
                    [from = a.id, to = b.id](const Level& l) -> Result<Level> {
                        Level after = l;
                        if (const Status s = replaceLayer(after, from, to); !s) return s.error();
                        return after;
                    }};
        case 4: {
            const double height = whole(-5, 12);
            return {"water LEVEL --fill " + place + " --height " + exact(height),
                    [x, z, height](const Level& l) -> Result<Level> {
                        Level after = l;
                        Result<Pool> pool = poolStanding(l, x, z, static_cast<float>(height));
                        if (!pool) return pool.error();
                        pool.value().name = freeWaterName(l, "Pool");
                        if (const Result<uint32_t> id = addPool(after, pool.take()); !id) return id.error();
                        return after;
                    }};
        }
        case 5: {
            Spot s;
            s.name = "spot " + std::to_string(random() % 5), s.kind = "goal", s.x = x, s.z = z;
            return {"spot LEVEL --add " + named(s.name) + " --kind goal --at " + place,
                    [s](const Level& l) -> Result<Level> {
                        Level after = l;
                        if (const Result<uint32_t> id = addSpot(after, s); !id) return id.error();
                        return after;
                    }};
        }
        case 6: {
            const double spacing = random() % 2 ? 1.25 : 2;
            return {"resample LEVEL --spacing " + exact(spacing), [spacing](const Level& l) {
                        const auto samples = [&](double metres) {
                            return static_cast<int>(std::round(metres / spacing)) + 1;
                        };
                        return resampleLevel(l, samples(l.width()), samples(l.depth()), spacing);
                    }};
        }
        case 7: {
            // What was lifted before, set down here.
            const std::string clip = "clip.jamhill";
            const Level piece = liftClip(level, samplesBetween(level, x - 20, z - 12, x + 20, z + 12), "clip").take();
            REQUIRE(saveLevel(piece, desk.path / clip));
            Placement p;
            p.x = level.originX + 0.5 * level.width(), p.z = level.originZ + 0.5 * level.depth();
            p.x = std::round(p.x), p.z = std::round(p.z), p.turn = 90.0 * (random() % 4);
            return {"clip LEVEL --set " + clip + " --at " + exact(p.x) + " " + exact(p.z) + " --turn " + exact(p.turn),
                    [p, piece](const Level& l) { return setDown(l, piece, {p}, {}); }};
        }
        default: {
            const std::string name = level.pools.empty() ? "none" : level.pools.front().name;
            return {"water LEVEL --mend " + named(name) + " --lower", [name](const Level& l) -> Result<Level> {
                        Level after = l;
                        for (const Pool& p : l.pools)
                            if (p.name == name) {
                                if (const Status s = lowerToBrim(after, p.id); !s) return s.error();
                                return after;
                            }
                        return Error{"", "--mend", "there is none", ""};
                    }};
        }
    }
}

}  // namespace

TEST_CASE("random sequences give on the command line what they give in the core", "[property]") {
    for (const uint32_t seed : {1u, 2u, 3u, 4u}) {
        const Desk desk;
        Random random(seed);
        Level level = sequenceStart(seed);
        REQUIRE(saveLevel(level, desk.path / "a.jamhill"));
        level = desk.load("a.jamhill");
        int worked = 0;
        std::string told;
        for (int i = 0; i < 14; ++i) {
            Both both = randomWork(level, random, desk);
            std::string words = both.words;
            words.replace(words.find("LEVEL"), 5, "a.jamhill");
            told += words + "\n";
            INFO("seed " << seed << "\n" << told);
            const Level before = level;
            Result<Level> after = both.work(level);
            if (after) {
                Result<Commit> done = commitWork(level, after.take());
                REQUIRE(done);
                level = std::move(done.value().level);
                ++worked;
            }
            const auto said = desk.run(words);
            INFO(said.text);
            REQUIRE((said.code == 0) == static_cast<bool>(after));
            REQUIRE(desk.load("a.jamhill") == level);
        }
        CHECK(worked > 4);
    }
}
