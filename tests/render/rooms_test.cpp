// Room on the graphics side that is taken beside the window.
#include <atomic>
#include <chrono>
#include <thread>

#include "levels.h"
#include "picture.h"
#include "render/software/room_queue.h"
#include "survey/pick.h"

using namespace jam;
using namespace jam::test;

namespace {

// Takes the next room, when one is wanted.
bool helpOnce(RoomQueue& rooms, unsigned texture) {
    if (!rooms.waits(texture)) return false;
    takeWanted(*rooms.next());
    rooms.done();
    return true;
}

}  // namespace

TEST_CASE("rooms are taken one after another, as they were wanted") {
    RoomQueue rooms;
    CHECK_FALSE(rooms.want({1, 2, 3, 4}));  // nobody is there
    CHECK_FALSE(rooms.waits(1));
    rooms.start();
    const RoomWish first{7, 1, 20, 30, 2, 0}, second{8, 1, 20, 30, 1, 3}, third{9, 1, 5, 6};
    for (const RoomWish& w : {first, second, third}) REQUIRE(rooms.want(w));
    REQUIRE(rooms.next() == first);
    CHECK(rooms.waits(7));  // until it is done
    rooms.done();
    CHECK_FALSE(rooms.waits(7));
    rooms.forget(8);
    CHECK_FALSE(rooms.waits(8));
    REQUIRE(rooms.next() == third);
    rooms.done();
    rooms.stop();
    CHECK_FALSE(rooms.next());
    CHECK_FALSE(rooms.want(first));
}

TEST_CASE("a texture does not go while its room is being taken") {
    RoomQueue rooms;
    rooms.start();
    REQUIRE(rooms.want({7, 1, 20, 30}));
    REQUIRE(rooms.next());
    std::atomic<bool> gone{false};
    std::thread other([&] {
        rooms.forget(7);
        gone = true;
    });
    std::this_thread::sleep_for(std::chrono::milliseconds(30));
    CHECK_FALSE(gone);
    rooms.done();
    other.join();
    CHECK(gone);
}

TEST_CASE("a level whose room comes late is drawn as if it had been there at once") {
    // Painted colour, and an oblong one with more than one slice of weights.
    Level level = hillyLevel(260, 390, 12, 6);
    level.wash.set(40, 50, {200, 30, 20, 60000});
    const HeightPyramid pyramid(level);
    const Level other = flatLevel(33, 33);
    const HeightPyramid otherPyramid(other);
    Camera camera;
    camera.width = kWidth, camera.height = kHeight;
    camera.at = {level.originX + 60, 0, level.originZ + 90};
    camera.at.y = pyramid.whole().high + 8;
    camera.pitch = -30;
    PixelRenderer& r = renderer();
    r.scene().sync(other, otherPyramid);
    r.scene().sync(level, pyramid);
    const Shot wanted = take(r, camera, Finish::full);

    const auto rooms = std::make_shared<RoomQueue>();
    rooms->start();
    r.scene().sync(other, otherPyramid);
    r.setQueues(nullptr, rooms);
    r.scene().sync(level, pyramid);
    int taken = 0, waitedInVain = 0;
    for (int step = 0; step < 1000 && r.scene().stale(); ++step) {
        r.scene().bring(camera, {}, 1000);
        // Whatever is there already can be drawn.
        if (r.scene().drawable()) r.draw(camera, {}, step % 2 ? Finish::full : Finish::quick);
        // Help is late.
        if (step % 3 != 2) {
            waitedInVain += r.scene().stale();
            continue;
        }
        for (unsigned texture = 1; texture < 4000; ++texture) taken += helpOnce(*rooms, texture);
    }
    CHECK_FALSE(r.scene().stale());
    CHECK(taken == 5);  // heights, lit map, normals and shade, leading layers, weights
    CHECK(waitedInVain > 4);
    CHECK((take(r, camera, Finish::full) == wanted));

    // A level that goes while it waits.
    r.scene().sync(other, otherPyramid);
    r.scene().sync(level, pyramid);
    r.scene().bring(camera, {}, 1000);
    CHECK_FALSE(r.scene().drawable());
    rooms->stop();
    r.scene().sync(other, otherPyramid);
    r.setQueues(nullptr, nullptr);
    r.scene().sync(level, pyramid);
    CHECK((take(r, camera, Finish::full) == wanted));
}
