// Both presenters, driven step by step by a host whose clock the test holds: what they show once nothing waits is what
// a renderer draws that starts anew, and on the way there the hand comes first.
#include <catch2/catch.hpp>
#include <cstring>

#include "levels.h"
#include "picture.h"
#include "render/direct_presenter.h"
#include "render/software/software_presenter.h"
#include "survey/sunlight.h"

using namespace jam;
using namespace jam::test;

namespace {

struct Desk : Presenter::Host {
    Level seen;
    HeightPyramid heights;
    HandAtWork atWork;
    double time = 1000, tick = 0.25;  // ms; that passes whenever somebody looks at the clock
    std::optional<double> due;
    std::vector<PixelRect> drawn;
    int frames = 0, troubles = 0;

    explicit Desk(Level level) : seen(std::move(level)), heights(seen) { renderer(); }
    double now() override { return time += tick; }
    void wake(double ms) override { due = time + ms; }
    void makeCurrent() override {}
    HandAtWork hand() override { return atWork; }
    const Level& level() override { return seen; }
    const HeightPyramid& pyramid() override { return heights; }
    void shown(const PixelRect& part) override { drawn.push_back(part); }
    void framed(bool) override { ++frames; }
    void trouble(const Error&) override { ++troubles; }

    // Lets so much time pass.
    void pass(Presenter& p, double ms) {
        const double end = time + ms;
        while (due && *due <= end) {
            time = std::max(time, *due);
            due.reset();
            p.step();
        }
        time = std::max(time, end);
    }
    bool settle(Presenter& p) {
        for (int i = 0; i < 4000 && !p.settled(); ++i) pass(p, 10);
        return p.settled();
    }
    // The level is another one now.
    void change(Presenter& p, const Level& next, bool follows = false, std::optional<Region> where = {}) {
        const Change c = changesBetween(next, seen);
        const Region ground = c.ground.bounds();
        HeightSpan span = heights.spanOf(ground);
        seen = next;
        heights.update(seen, c.ground);
        span = span.joined(heights.spanOf(ground));
        p.change(c, {{where.value_or(touchedGround(seen, c).bounds()), span}}, follows);
    }
};

std::unique_ptr<SoftwarePresenter> software(Desk& desk) {
    auto p = std::make_unique<SoftwarePresenter>(desk, PixelRenderer::create().take());
    p->resize(kWidth, kHeight);
    p->adopt();
    return p;
}

Camera over(const Level& level, double yaw = 20) {
    Camera c = slanting(level, level.originX + 0.4 * level.width(), level.originZ + 0.7 * level.depth(), 25, -20);
    c.yaw = yaw;
    return c;
}

Shot shotOf(SoftwarePresenter& p) {
    Shot s;
    std::memcpy(s.bgra.data(), p.picture(), s.bgra.size());
    return s;
}

// By a renderer that has forgotten what it knew.
Shot anew(Desk& desk, const Camera& camera, const Sight& sight = {}) {
    static const auto own = PixelRenderer::create().take();
    static const Level none = flatLevel(9, 9);
    static const HeightPyramid noneHigh(none);
    own->scene().sync(desk.seen, desk.heights);
    const Shot s = take(*own, camera, Finish::full, sight);
    own->scene().sync(none, noneHigh);
    return s;
}

Level raised(const Level& level, double x, double z) {
    Level next = level;
    const int c = static_cast<int>(level.toColumn(x)), r = static_cast<int>(level.toRow(z));
    for (int dr = -6; dr <= 6; ++dr)
        for (int dc = -6; dc <= 6; ++dc) {
            TiledGrid<float>& h = next.strata[0].heights;
            h.set(c + dc, r + dr, h.at(c + dc, r + dr) + 3);
        }
    return next;
}

}  // namespace

TEST_CASE("what rests is what is drawn anew: after a level, a look, a change, a turn, a sight") {
    Desk desk(hillyLevel(200, 130, 5, 3));
    const auto p = software(desk);
    Camera camera = over(desk.seen);
    p->setCamera(camera);
    REQUIRE(desk.settle(*p));
    CHECK((shotOf(*p) == anew(desk, camera)));
    const Level before = desk.seen;
    desk.change(*p, raised(desk.seen, camera.at.x + 8, camera.at.z - 20));
    REQUIRE(desk.settle(*p));
    CHECK((shotOf(*p) == anew(desk, camera)));
    for (const double yaw : {24.0, 31.0, -15.0, 170.0}) {
        camera.yaw = yaw;
        p->setCamera(camera);
        desk.pass(*p, 20);
    }
    desk.change(*p, before);
    REQUIRE(desk.settle(*p));
    CHECK((shotOf(*p) == anew(desk, camera)));
    Sight sight;
    sight.contours = true;
    p->setSight(sight);
    REQUIRE(desk.settle(*p));
    CHECK((shotOf(*p) == anew(desk, camera, sight)));
    CHECK(desk.troubles == 0);
}

TEST_CASE("a picture of fewer pixels and one of more are whole ones") {
    Desk desk(hillyLevel(129, 200, 2, 2));
    const auto p = software(desk);
    p->resize(kWidth / 2, kHeight / 3);
    Camera small = over(desk.seen);
    small.width = kWidth / 2, small.height = kHeight / 3;
    p->setCamera(small);
    REQUIRE(desk.settle(*p));
    p->resize(kWidth, kHeight);
    Camera camera = p->camera();
    CHECK(camera.width == kWidth);
    REQUIRE(desk.settle(*p));
    CHECK((shotOf(*p) == anew(desk, camera)));
}

TEST_CASE("a change is drawn where it shows, and at once; what it brings is sharpened when it rests") {
    Desk desk(hillyLevel(200, 130, 5, 3));
    const auto p = software(desk);
    const Camera camera = over(desk.seen);
    p->setCamera(camera);
    REQUIRE(desk.settle(*p));
    desk.drawn.clear();
    desk.frames = 0;
    const double x = camera.at.x + 8, z = camera.at.z - 40;
    const int column = static_cast<int>(desk.seen.toColumn(x)), row = static_cast<int>(desk.seen.toRow(z));
    desk.change(*p, raised(desk.seen, x, z), false, Region{column - 6, row - 6, column + 7, row + 7});
    desk.pass(*p, 1);
    CHECK(desk.frames == 1);
    REQUIRE(desk.drawn.size() == 1);
    CHECK(desk.drawn[0].width * desk.drawn[0].height < kWidth * kHeight / 2);
}

TEST_CASE("what follows a stroke waits for its next dab, and comes soon without one") {
    Desk desk(hillyLevel(200, 130, 5, 3));
    const auto p = software(desk);
    const Camera camera = over(desk.seen);
    p->setCamera(camera);
    REQUIRE(desk.settle(*p));
    desk.atWork.strokes = true;
    desk.frames = 0;
    Level washed = desk.seen;
    for (int c = 60; c < 100; ++c) washed.wash.set(c, 90, {200, 40, 40, 200});
    desk.change(*p, washed, true);
    desk.pass(*p, 60);
    CHECK(desk.frames == 0);
    desk.pass(*p, 40);
    CHECK(desk.frames == 1);
    desk.change(*p, raised(washed, camera.at.x + 8, camera.at.z - 20), true);
    desk.change(*p, washed);
    desk.pass(*p, 1);
    CHECK(desk.frames == 2);
    // And not once more.
    desk.pass(*p, 100);
    CHECK(desk.frames == 2);
}

TEST_CASE("nothing is sharpened under a hand that moves the camera, nor under a brush that works") {
    Desk desk(hillyLevel(200, 130, 5, 3));
    const auto p = software(desk);
    Camera camera = over(desk.seen);
    p->setCamera(camera);
    REQUIRE(desk.settle(*p));
    desk.atWork.movesCamera = true;
    for (int i = 0; i < 6; ++i) {
        camera.at.x += 0.5;
        p->setCamera(camera);
        desk.pass(*p, 1);
        desk.drawn.clear();
        desk.pass(*p, 120);
        CHECK(desk.drawn.empty());
    }
    // One that holds still lets it become sharp.
    CHECK(desk.settle(*p));
    desk.atWork = {true, false, glm::dvec2(160, 120)};
    Level level = desk.seen;
    for (int i = 0; i < 5; ++i) {
        level = raised(level, camera.at.x + 8, camera.at.z - 20);
        desk.drawn.clear();
        desk.change(*p, level);
        desk.pass(*p, 1);
        REQUIRE(!desk.drawn.empty());
        const PixelRect dab = desk.drawn[0];
        desk.drawn.clear();
        desk.pass(*p, 100);
        for (const PixelRect& piece : desk.drawn) CHECK_FALSE(piece.meets(dab));
    }
}

TEST_CASE("a hand that moves over the picture comes before what sharpens it") {
    Desk desk(hillyLevel(200, 130, 5, 3));
    const auto p = software(desk);
    Camera camera = over(desk.seen);
    p->setCamera(camera);
    REQUIRE(desk.settle(*p));
    desk.tick = 1.5;  // pieces cost something
    // How much time goes by from one piece to the next.
    const auto apart = [&](bool hovers) {
        camera.at.x += 1;
        p->setCamera(camera);
        desk.pass(*p, 20);
        desk.drawn.clear();
        while (desk.drawn.empty()) desk.pass(*p, 1);
        const double since = desk.time;
        const size_t first = desk.drawn.size();
        while (!p->settled() && desk.drawn.size() < first + 3) {
            if (hovers) p->hover();
            desk.pass(*p, 1);
        }
        REQUIRE(desk.drawn.size() > first);
        return (desk.time - since) / static_cast<double>(desk.drawn.size() - first);
    };
    const double plain = apart(false);
    CHECK(apart(true) > plain + 3);
}

TEST_CASE("a slow driver's moving pictures are drawn in fewer pixels, and are as sharp as any when they rest") {
    Desk desk(hillyLevel(200, 130, 5, 3));
    const auto p = software(desk);
    Camera camera = over(desk.seen);
    p->setCamera(camera);
    REQUIRE(desk.settle(*p));
    const auto moved = [&](double tick) {
        desk.tick = tick;
        for (int i = 0; i < 12; ++i) {
            camera.at.x += 0.25;
            p->setCamera(camera);
            desk.due.reset();
            p->step();
        }
        desk.tick = 0.25;
        return shotOf(*p);
    };
    const Shot quick = moved(0.25);
    camera.at.x -= 3;
    p->setCamera(camera);
    const Shot slow = moved(30);
    CHECK_FALSE((quick == slow));
    REQUIRE(desk.settle(*p));
    CHECK((shotOf(*p) == anew(desk, camera)));
}

TEST_CASE("a picture aside leaves the picture alone") {
    Desk desk(hillyLevel(129, 129, 3, 3));
    const auto p = software(desk);
    std::vector<uint8_t> aside(100 * 60 * 4);
    Camera small = over(desk.seen, 200);
    small.width = 100, small.height = 60, small.pitch = -60;
    CHECK_FALSE(p->drawAside(small, {}, aside.data()));  // nothing is known of the level yet
    p->setCamera(over(desk.seen));
    REQUIRE(desk.settle(*p));
    const Shot before = shotOf(*p);
    REQUIRE(p->drawAside(small, {}, aside.data()));
    CHECK((shotOf(*p) == before));
    CHECK(aside[4 * 3050 + 1] > 10);
    REQUIRE(desk.settle(*p));
    CHECK((shotOf(*p) == anew(desk, p->camera())));
}

TEST_CASE("on a graphics card all of the picture is drawn until nothing is stale, and again when the card comes back") {
    Desk desk(hillyLevel(400, 300, 5, 3));
    DirectPresenter p(desk);
    p.resize(kWidth, kHeight);
    p.adopt();
    const Camera camera = over(desk.seen);
    p.setCamera(camera);
    desk.pass(p, 50);
    CHECK(desk.frames == 0);  // there is no card yet
    REQUIRE(p.begin());
    REQUIRE(desk.settle(p));
    const auto shot = [&] {
        Shot s;
        p.read(s.bgra.data(), kWidth * 4);
        return s;
    };
    const Shot plain = shot();
    auto light = std::make_shared<Raster<uint8_t>>(desk.seen.columns, desk.seen.rows);
    readSunlight(desk.seen, light->view());
    auto open = std::make_shared<Raster<uint8_t>>(desk.seen.columns, desk.seen.rows);
    readOpenness(desk.seen, open->view());
    p.setShade({light, open}, nullptr);
    REQUIRE(desk.settle(p));
    const Shot shaded = shot();
    CHECK_FALSE((shaded == plain));
    for (const PixelRect& r : desk.drawn) CHECK((r.width == kWidth && r.height == kHeight));
    p.end();
    desk.pass(p, 50);
    REQUIRE(p.begin());
    REQUIRE(desk.settle(p));
    CHECK((shot() == shaded));
    p.end();
}

TEST_CASE("a picture that rests is averaged while no hand moves, and what changes begins again") {
    Desk desk(hillyLevel(200, 130, 5, 3));
    const auto p = software(desk);
    const Camera camera = over(desk.seen);
    p->setCamera(camera);
    REQUIRE(desk.settle(*p));
    const Shot sharp = shotOf(*p);
    CHECK(sharp == anew(desk, camera));
    CHECK(p->rested());
    const auto rest = [&] {
        for (int i = 0; i < 20000 && !p->rested(); ++i) desk.pass(*p, 10);
        return p->rested();
    };
    const auto apart = [](const Shot& a, const Shot& b) {
        double sum = 0;
        for (size_t i = 0; i < a.bgra.size(); ++i) sum += std::abs(a.bgra[i] - b.bgra[i]);
        return sum / static_cast<double>(a.bgra.size());
    };
    // While the mouse moves, nothing happens.
    p->setPasses(kPasses);
    for (int i = 0; i < 40; ++i) p->hover(), desk.pass(*p, 20);
    CHECK(shotOf(*p) == sharp);
    CHECK(p->settled());
    CHECK_FALSE(p->rested());
    REQUIRE(rest());
    const Shot still = shotOf(*p);
    CHECK(apart(still, sharp) > 0.1);
    CHECK(apart(still, sharp) < 8);
    // The mean of the same passes, but for what ended early.
    static const auto own = PixelRenderer::create().take();
    own->scene().sync(desk.seen, desk.heights);
    own->scene().bring(camera, {});
    std::vector<double> sums(still.bgra.size());
    for (int k = 1; k <= kPasses; ++k) {
        Shot s;
        own->draw(camera, {}, Finish::full, nullptr, passOf(k));
        own->read({0, 0, kWidth, kHeight}, s.bgra.data(), kWidth * 4);
        for (size_t i = 0; i < sums.size(); ++i) sums[i] += s.bgra[i] / static_cast<double>(kPasses);
    }
    double off = 0;
    for (size_t i = 0; i < sums.size(); ++i) off += std::abs(sums[i] - still.bgra[i]);
    CHECK(off / static_cast<double>(sums.size()) < 0.6);
    // A change is seen at once, and averaged in its turn, as if the level had always been so.
    desk.change(*p, raised(desk.seen, camera.at.x, camera.at.z - 40));
    REQUIRE(rest());
    const Shot changed = shotOf(*p);
    CHECK(apart(changed, still) > 0.05);
    const auto other = software(desk);
    other->setCamera(camera);
    other->setPasses(kPasses);
    for (int i = 0; i < 20000 && !other->rested(); ++i) desk.pass(*other, 10);
    CHECK(apart(changed, shotOf(*other)) < 0.5);
    // A turn lets go of all of it.
    Camera turned = camera;
    turned.yaw += 15;
    p->setPasses(0);
    p->setCamera(turned);
    REQUIRE(desk.settle(*p));
    CHECK(apart(shotOf(*p), anew(desk, turned)) < 0.01);
}
