// The yard that walks and spots are tried in.
#pragma once

#include <QPushButton>

#include "hands/walk_hand.h"
#include "level/ground.h"
#include "levels.h"
#include "panels/trail.h"
#include "stage.h"
#include "stations/walk/walk_station.h"
#include "walk/spots.h"
#include "watch/reach_watch.h"
#include "water/water.h"

namespace jam::test {

// Walls all round but for a gap in the east; a stack that nobody climbs in the north, a pond in the south-west.
inline Level yard() {
    Level l = flatLevel(121, 101, 3);
    l.lowest = -50, l.highest = 100;
    for (int r = 0; r < l.rows; ++r)
        for (int c = 0; c < l.columns; ++c) {
            const bool wall = std::min({c, r, l.columns - 1 - c, l.rows - 1 - r}) < 6;
            const bool gap = c > 100 && r > 40 && r < 52;
            double h = wall && !gap ? 9 : 0;
            if (std::hypot(c - 60, r - 22) < 7) h = 6;
            if (const double away = std::hypot(c - 26, r - 78); away < 14) h = std::min(h, -4.5 + 4.5 * away / 14);
            l.strata[0].heights.set(c, r, static_cast<float>(h));
        }
    Pool p;
    p.name = "pond", p.x = l.originX + 26, p.z = l.originZ + 78, p.height = -0.2f;
    CHECK(addPool(l, p));
    refillWater(l);
    // Quick enough that a test is no walk.
    Body hare = kBodies[0];
    hare.name = "hare", hare.pace = 12, hare.run = 20;
    CHECK(keepBody(l, hare));
    l.body = "hare";
    return l;
}

struct WalkStage : Stage {
    WalkStage() : Stage(yard()) {
        settle();
        window.actions()["plan"]->trigger();
        key(Qt::Key_F8);
        settle();
    }
    const Level& level() { return place.document.level(); }
    double x(double c) { return level().originX + c; }
    double z(double r) { return level().originZ + r; }
    void click(int c, int r) {
        press(pixelOf(x(c), z(r)));
        release(pixelOf(x(c), z(r)));
        rest();
    }
    void rest() {
        settle();
        REQUIRE(waitFor([&] { return window.reach().fresh(); }));
        settle();
    }
    uint32_t put(int c, int r) {
        if (!find<QPushButton>("putSpot")->isChecked()) find<QPushButton>("putSpot")->click();
        click(c, r);
        return place.standpoint.spot();
    }
    void dropIn(int c, int r) {
        move(pixelOf(x(c), z(r)), Qt::NoButton);
        window.actions()["dropInHere"]->trigger();
    }
    WalkHand* walker() { return dynamic_cast<WalkHand*>(view().hand()); }
    void hold(int k) { QTest::keyPress(canvas(), static_cast<Qt::Key>(k)); }
    void let(int k) { QTest::keyRelease(canvas(), static_cast<Qt::Key>(k)); }
    QString told() { return window.findChild<Trail*>()->station("walk")->state(); }
    size_t steps() { return place.document.history().place(); }
    const WalkStation& station() { return *window.station<WalkStation>(); }
};

}  // namespace jam::test
