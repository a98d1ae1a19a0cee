// What is seen is what is there: in the picture, in numbers, on levels that are oblong and lie anywhere, and on large
// ones.
#include <catch2/catch.hpp>

#include <cmath>
#include <QAction>
#include <QTemporaryDir>

#include "cover/paint.h"
#include "files/level_file.h"
#include "files/stroke_file.h"
#include "level/ground.h"
#include "levels.h"
#include "panels/bench.h"
#include "panels/readout.h"
#include "stage.h"
#include "stations/shape/whole_panel.h"
#include "survey/check.h"
#include "survey/slope.h"
#include "view/over_ground.h"

using namespace jam;
using namespace jam::test;

namespace {

int apart(QRgb a, QRgb b) {
    return std::abs(qRed(a) - qRed(b)) + std::abs(qGreen(a) - qGreen(b)) + std::abs(qBlue(a) - qBlue(b));
}
int light(QRgb c) { return qRed(c) + qGreen(c) + qBlue(c); }

// Half red, half blue, on a flat oblong level far from the origin.
Level twoHalves() {
    Level level = flatLevel(97, 65, 0, 2, 2);
    level.originX = 4000, level.originZ = -900;
    addLayer(level, plainLayer("blue", 40, 50, 200));
    addLayer(level, plainLayer("red", 210, 40, 30));
    for (int r = 0; r < level.coverRows(); ++r)
        for (int c = 0; c < level.coverColumns() / 2; ++c) level.layers[1].coverage.set(c, r, kFullCover);
    return level;
}

}  // namespace

TEST_CASE("hiding a layer is seen at once where it lay and nowhere else, and showing it again brings it back") {
    Stage stage(twoHalves());
    const Level& level = stage.place.document.level();
    const QPoint red = stage.pixelOf(level.originX + 40, level.originZ + 60),
                 blue = stage.pixelOf(level.originX + 150, level.originZ + 60);
    const QImage before = stage.picture();
    REQUIRE(qRed(before.pixel(red)) > qBlue(before.pixel(red)) + 30);
    stage.place.document.edit("Hide", [](Level& l) { l.layers[1].hidden = true; });
    const QImage hidden = stage.picture();
    CHECK(qBlue(hidden.pixel(red)) > qRed(hidden.pixel(red)) + 30);
    CHECK(apart(hidden.pixel(blue), before.pixel(blue)) < 6);
    stage.place.document.edit("Show", [](Level& l) { l.layers[1].hidden = false; });
    CHECK(apart(stage.picture().pixel(red), before.pixel(red)) < 6);
    // A blend of the two alone is seen as well, where they meet.
    stage.place.document.edit("Colour", [](Level& l) { l.layers[1].look.tint = {0.3f, 1, 0.3f}; });
    CHECK(apart(stage.picture().pixel(red), before.pixel(red)) > 40);
}

TEST_CASE("the tape and the readout are true on an oblong level away from the origin") {
    Stage stage(lopsidedLevel());
    const Level& level = stage.place.document.level();
    stage.window.actions()["tape"]->trigger();
    const double x0 = level.originX + 40, z0 = level.originZ + 30, x1 = level.originX + 150, z1 = level.originZ + 95;
    stage.drag(stage.pixelOf(x0, z0), stage.pixelOf(x1, z1));
    const auto tape = stage.place.standpoint.tape();
    REQUIRE(tape.size() == 2);
    // A pixel of the overview spans less than half a metre here, but slopes stretch it.
    CHECK(std::hypot(tape[0].x - x0, tape[0].z - z0) < 2);
    CHECK(std::hypot(tape[1].x - x1, tape[1].z - z1) < 2);
    for (const glm::dvec3& p : tape) CHECK(p.y == Approx(altitudeAt(level, p.x, p.z)).margin(0.01));
    const QString text = stage.window.bench()->readout()->text();
    const auto& cursor = stage.place.standpoint.cursor();
    REQUIRE(cursor);
    CHECK(text.contains(QString::number(cursor->x, 'f', 1)));
    CHECK(text.contains(QString::number(cursor->z, 'f', 1)));
    CHECK(text.contains(QString("altitude %1 m").arg(altitudeAt(level, cursor->x, cursor->z), 0, 'f', 2)));
    CHECK(text.contains(QString("slope %1°").arg(slopeAt(level, cursor->x, cursor->z), 0, 'f', 1)));
}

TEST_CASE("contours are drawn where the ground has their altitude and nowhere else") {
    // An even slope from west to east, 1 m in 4.
    Level level = flatLevel(129, 81, 1, 2);
    level.originX = -900, level.originZ = 500;
    for (int r = 0; r < level.rows; ++r)
        for (int c = 0; c < level.columns; ++c) level.strata[0].heights.set(c, r, 0.5f * static_cast<float>(c));
    Stage stage(level);
    stage.view().plan();
    const QImage before = stage.picture();
    Sight sight = stage.view().sight();
    sight.contours = true;
    sight.contourStep = 8;
    stage.view().setSight(sight);
    const QImage with = stage.picture();
    const double z = level.originZ + 70;
    double on = 0, off = 0;
    int n = 0;
    for (double altitude = 8; altitude < 60; altitude += 8, ++n) {
        // The darkest of the pixels about the line, against half way between two lines.
        const auto darker = [&](double x) {
            const QPoint at = stage.pixelOf(x, z);
            int most = 0;
            for (int d = -2; d <= 2; ++d)
                most = std::max(most, light(before.pixel(at + QPoint(d, 0))) - light(with.pixel(at + QPoint(d, 0))));
            return most;
        };
        on += darker(level.originX + altitude * 4);
        off += darker(level.originX + (altitude + 4) * 4);
    }
    INFO(on / n << " on the lines, " << off / n << " between them");
    CHECK(on / n > 40);
    CHECK(off / n < 8);
    sight.contours = false;
    stage.view().setSight(sight);
    CHECK(stage.picture() == before);
}

TEST_CASE("contours say how high they are where the ground crosses them, and level ground says nothing") {
    const auto numbers = [](Level level) {
        addLayer(level, plainLayer("Clay", 150, 90, 60));
        Stage stage(std::move(level));
        stage.view().plan();
        Sight sight = stage.view().sight();
        sight.contours = true;
        sight.contourStep = 2;
        stage.view().setSight(sight);
        stage.settle();
        QImage over(stage.view().size(), QImage::Format_ARGB32_Premultiplied);
        over.fill(Qt::transparent);
        {
            QPainter p(&over);
            paintContourLabels(p, stage.view());
        }
        int inked = 0;
        for (int y = 0; y < over.height(); ++y)
            for (int x = 0; x < over.width(); ++x) inked += qAlpha(over.pixel(x, y)) > 0;
        return inked;
    };
    CHECK(numbers(flatLevel(129, 81, 10)) == 0);  // as high as every fifth
    Level slope = flatLevel(129, 81, 0);
    for (int r = 0; r < slope.rows; ++r)
        for (int c = 0; c < slope.columns; ++c) slope.strata[0].heights.set(c, r, 0.5f * static_cast<float>(r));
    CHECK(numbers(slope) > 100);
}

TEST_CASE("another level opens while a preview stands, and nothing of the preview stays") {
    const QTemporaryDir folder;
    Level other = twoHalves();
    other.name = "other";
    REQUIRE(saveLevel(other, folder.filePath("other.jamhill").toStdString()));
    Stage stage(hillyLevel(129, 97, 3, 2));
    stage.window.actions()["whole"]->trigger();
    stage.window.findChild<WholePanel*>()->choose(static_cast<int>(WholeKind::noise));
    REQUIRE(stage.waitFor([&] { return stage.place.document.previewing(); }));
    stage.window.openFile(folder.filePath("other.jamhill"));
    stage.window.work().wait();
    CHECK(stage.place.document.standing() == other);
    stage.settle();
    CHECK(stage.place.document.standing() == other);
    stage.place.standpoint.setStation("cover");
    CHECK(stage.place.document.level() == other);
    CHECK_FALSE(stage.place.document.dirty());
}

TEST_CASE("a preview of work on the whole ground shows what follows it, and applying it keeps that") {
    Stage stage(lopsidedLevel());
    const Level before = stage.place.document.standing();
    stage.window.actions()["whole"]->trigger();
    auto* whole = stage.window.findChild<WholePanel*>();
    whole->choose(static_cast<int>(WholeKind::crumble));
    REQUIRE(stage.waitFor([&] { return stage.place.document.previewing(); }));
    const Level shown = stage.place.document.level();
    CHECK_FALSE(shown.layers[2].coverage == before.layers[2].coverage);
    CHECK(stage.place.document.standing() == before);
    stage.place.document.applyPreview("Crumble all");
    CHECK(stage.place.document.standing() == shown);
    CHECK(checkLevel(shown).empty());
}

TEST_CASE("a stroke of the window and the same from a file give the same level") {
    Stage stage(lopsidedLevel());
    const Level before = stage.place.document.standing();
    for (const Tool tool : {Tool::raise, Tool::terrace, Tool::paint, Tool::wash}) {
        stage.place.takeUp(tool);
        stage.place.chooseLayer(before.layers[3].id);
        stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.radius = 9; });
        stage.place.toolbox.setMirror({MirrorKind::acrossX, before.originX + 100, before.originZ + 60});
        Level replayed = stage.place.document.standing();
        const double x = before.originX + 60, z = before.originZ + 50;
        Stroke s;
        s.settings = stage.place.strokeSettings();
        for (int i = 0; i < 5; ++i) s.points.push_back({x + 7 * i, z + 3 * i, 1, 0});
        std::vector<glm::dvec3> places;
        for (const StrokePoint& p : s.points) places.emplace_back(p.x, 0, p.z);
        stage.place.strokeAlong(places, 1, false);
        const auto read = parseStrokes(writeStrokes({s}, replayed), "s.json", replayed, {});
        REQUIRE(read);
        REQUIRE(runStroke(replayed, read.value().front()));
        INFO(toolName(tool));
        CHECK(stage.place.document.standing() == replayed);
    }
}

TEST_CASE("a large level is worked on to its corners") {
    Level level = hillyLevel(801, 577, 9, 3);
    level.originX = 50;
    Stage stage(level);
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.radius = 30, s.strength = 20; });
    stage.place.toolbox.setMirror({MirrorKind::acrossBoth, 450, 0});
    const double x = 50 + 770, z = -288 + 20;
    stage.place.strokeAlong({{x, 0, z}, {x + 10, 0, z}}, 1, false);
    const Level& now = stage.place.document.standing();
    for (const double mx : {x, 900 - x})
        for (const double mz : {z, -z}) CHECK(altitudeAt(now, mx, mz) > altitudeAt(level, mx, mz) + 0.5);
    CHECK(altitudeAt(now, 450, 0) == altitudeAt(level, 450, 0));
    stage.settle();
    CHECK(stage.view().settled());
    CHECK(stage.window.surveyor().findings()->ground.highest == Approx(surveyGround(now).highest).margin(0.01));
    stage.place.document.undo();
    CHECK(stage.place.document.level() == level);
}
