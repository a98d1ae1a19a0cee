// Steep ground that takes its pictures from three sides.
#include <cmath>

#include "base/maths.h"
#include "levels.h"
#include "picture.h"

using namespace jam;
using namespace jam::test;

namespace {

// One layer of plain grey whose relief leans evenly along its pictures: right by `right`, down by `down`.
Level leaning(int right, int down) {
    Level l = flatLevel(97, 97, 0);
    Layer layer = plainLayer("grey", 128, 128, 128);
    layer.normal = plainPicture(static_cast<uint8_t>(128 + right), static_cast<uint8_t>(128 + down), 220);
    addLayer(l, layer);
    return l;
}

int brightness(const Level& l, const Camera& camera) {
    PixelRenderer& r = renderer();
    const HeightPyramid pyramid(l);
    r.scene().sync(l, pyramid);
    r.scene().setShade({});
    r.scene().setFlatLight(false);
    const Shot shot = take(r, camera, Finish::full);
    int sum = 0;
    for (int y = -4; y <= 4; ++y)
        for (int x = -4; x <= 4; ++x) sum += shot.at(kWidth / 2 + x, kHeight / 2 + y).y;
    return sum / 81;
}

// A wall that rises away from the eye, which looks towards `yaw` at its middle.
void raiseWall(Level& l, double yaw) {
    const double a = yaw * kRadians, dx = std::sin(a), dz = -std::cos(a);
    for (int z = 0; z < l.rows; ++z)
        for (int x = 0; x < l.columns; ++x)
            l.strata[0].heights.set(x, z,
                                    static_cast<float>(std::clamp(3 * ((x - 48) * dx + (z - 48) * dz), -24.0, 24.0)));
}
Camera before(double yaw) {
    Camera c;
    c.width = kWidth, c.height = kHeight;
    c.yaw = yaw, c.pitch = -3;
    c.at = {-20 * std::sin(yaw * kRadians), 1, 20 * std::cos(yaw * kRadians)};
    return c;
}

}  // namespace

TEST_CASE("plain ground looks the same from one side and from three") {
    for (const double yaw : {0., 35., 90., 160., 225., 300.}) {
        Level l = leaning(0, 0);
        raiseWall(l, yaw);
        l.layers[0].sides = true;
        const int three = brightness(l, before(yaw));
        l.layers[0].sides = false;
        CAPTURE(yaw);
        CHECK(std::abs(brightness(l, before(yaw)) - three) <= 2);
    }
}

TEST_CASE("relief leans the same way over a picture on all sides of steep ground") {
    const auto difference = [](int right, int down, double yaw, bool wall, double azimuth, double elevation) {
        int light[2];
        for (const int sign : {1, -1}) {
            Level l = leaning(sign * right, sign * down);
            if (wall) raiseWall(l, yaw);
            l.sun.azimuth = static_cast<float>(std::fmod(azimuth, 360)),
            l.sun.elevation = static_cast<float>(elevation);
            Camera c = before(yaw);
            if (!wall) c.at.y = 20, c.pitch = -45;
            light[sign < 0] = brightness(l, c);
        }
        return light[0] - light[1];
    };
    // On level ground the pictures' right is east and their foot south: which way a relief leans shows in the sun.
    const int east = difference(60, 0, 0, false, 90, 30), south = difference(0, 60, 0, false, 180, 30);
    REQUIRE(std::abs(east) > 8);
    REQUIRE(std::abs(south) > 8);
    for (const double yaw : {0., 90., 180., 270.}) {
        CAPTURE(yaw);
        // On a wall the foot of a picture is below: what leans there turns away from a sun that stands high.
        const int foot = difference(0, 60, yaw, true, yaw + 180, 60);
        CHECK(std::abs(foot) > 8);
        CHECK((foot < 0) == (south > 0));
        // Walls that face east and west have south at the right, the others east.
        const bool eastWest = yaw == 90 || yaw == 270;
        const int right = difference(60, 0, yaw, true,
                                     eastWest   ? yaw + 180 + (yaw == 90 ? -45 : 45)
                                     : yaw == 0 ? 135
                                                : 45,
                                     20);
        CHECK(std::abs(right) > 8);
        CHECK((right > 0) == (east > 0));
    }
}
