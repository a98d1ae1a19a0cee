// Makes the pictures in docs/screenshots from the demo level: jamhill-shots LEVEL FOLDER, under Xvfb.
#include <cmath>
#include <cstdio>
#include <QComboBox>
#include <QGuiApplication>
#include <QScreen>
#include <QSettings>
#include <QTemporaryDir>
#include <QTest>
#include <QTimer>
#include <QToolButton>

#include "base/maths.h"
#include "base/noise.h"
#include "fence/fence.h"
#include "files/layer_set.h"
#include "files/level_file.h"
#include "level/ground.h"
#include "panels/bench.h"
#include "panels/sheet.h"
#include "panels/trail.h"
#include "shape/gaps.h"
#include "start.h"
#include "stations/cover/layer_dialog.h"
#include "stations/cover/layer_panel.h"
#include "stations/cover/near_far.h"
#include "stations/lay_out/layout_dialog.h"
#include "stations/walk/walk_station.h"
#include "watch/reach_watch.h"
#include "watch/surveyor.h"
#include "window/main_window.h"

using namespace jam;

namespace {

class Photographer {
public:
    Photographer(MainWindow& window, Workplace& place, QString folder)
        : window_(window), place_(place), folder_(std::move(folder)) {}

    void settle() {
        QTest::qWait(60);
        for (int i = 0; i < 3000 && (!window_.view()->rested() || window_.surveyor().busy() ||
                                     place_.document.catchingUp() || window_.work().running());
             ++i)
            QTest::qWait(20);
        QTest::qWait(60);
    }
    void take(const QString& name) {
        settle();
        QGuiApplication::primaryScreen()->grabWindow(0).save(folder_ + "/" + name + ".png");
    }
    // The window alone.
    void takeWindow(const QString& name) {
        settle();
        QGuiApplication::primaryScreen()->grabWindow(window_.winId()).save(folder_ + "/" + name + ".png");
    }
    // Stands at (x, z), so many metres above the ground.
    void stand(double x, double z, double above, double yaw, double pitch) {
        Camera c = window_.view()->camera();
        c.at = {x, altitudeAt(place_.document.level(), x, z) + above, z};
        c.yaw = yaw;
        c.pitch = pitch;
        window_.view()->setCamera(c);
    }
    void hover(double shareX, double shareY) {
        const QPoint at(static_cast<int>(window_.view()->width() * shareX),
                        static_cast<int>(window_.view()->height() * shareY));
        QMouseEvent e(QEvent::MouseMove, at, window_.view()->mapToGlobal(at), Qt::NoButton, Qt::NoButton, {});
        QCoreApplication::sendEvent(window_.view(), &e);
    }

private:
    MainWindow& window_;
    Workplace& place_;
    QString folder_;
};

// A picture like a photograph of trodden earth, lit from one side, whose edges do not meet.
void seamDialog(MainWindow& window, Photographer& photo) {
    QImage earth(480, 480, QImage::Format_RGB32);
    for (int y = 0; y < 480; ++y)
        for (int x = 0; x < 480; ++x) {
            const auto px = static_cast<float>(x), py = static_cast<float>(y);
            const float clods = fractalNoise(px / 26, py / 26, 3, 5, 0.6f),
                        crack = std::abs(gradientNoise(px / 40, py / 40, 9)) < 0.035f ? 0.62f : 1.f;
            const float stone = gradientNoise(px / 11, py / 11, 21) > 0.52f ? 1.35f : 1.f,
                        spot = std::hypot(px - 350, py - 130) < 46 ? 0.66f : 1.f;
            const float v = (0.62f + 0.42f * clods) * crack * stone * spot * (0.72f + 0.0011f * px);
            const auto byte = [v](float c) { return static_cast<int>(std::clamp(v * c, 0.f, 255.f)); };
            earth.setPixel(x, y, qRgb(byte(176), byte(136), byte(96)));
        }
    const QTemporaryDir folder;
    earth.save(folder.filePath("orchard track_colour.png"));
    LayerDialog dialog(wishesFor({folder.filePath("orchard track_colour.png")}), false, &window);
    dialog.show();
    dialog.move(270, 70);
    photo.take("seams");
    dialog.close();
}

// By the mill pond from eye height, with the way from the start to the goal; and the second example, in which much is
// wrong.
void onFoot(MainWindow& window, Workplace& place, Photographer& photo, const std::filesystem::path& quarry) {
    place.standpoint.setStation("walk");
    const auto ask = [&](size_t from, size_t to) {
        const auto& spots = place.document.level().spots;
        for (int i = 0; i < 400 && !window.reach().reach(); ++i) QTest::qWait(25);
        window.reach().askWay(spots[from].id, spots[to].id);
        for (int i = 0; i < 400 && !window.reach().way(); ++i) QTest::qWait(25);
    };
    ask(0, 1);
    WalkHand::Begin begin;
    begin.x = 214, begin.z = 352, begin.heading = 322, begin.pitch = -6;
    begin.body = kBodies[0];
    window.station<WalkStation>()->walk(begin);
    QTest::qWait(7000);  // until the keys are no longer told
    photo.take("on-foot");
    window.view()->letGo();

    Result<Level> level = loadLevel(quarry);
    if (!level) return;
    place.document.open(level.take(), {}, "Sloe Quarry");
    photo.settle();
    ask(0, 1);
    Sight sight = window.view()->sight();
    sight.overlay = Overlay::reach;
    window.view()->setSight(sight);
    window.view()->overview();
    photo.hover(0.5, 0.6);
    photo.take("walk");
    sight.overlay = Overlay::none;
    window.view()->setSight(sight);
}

}  // namespace

int main(int count, char** words) {
    const test::Start start(count, words);
    if (count != 3) return std::fprintf(stderr, "usage: jamhill-shots LEVEL FOLDER\n"), 2;
    Result<Level> level = loadLevel(words[1]);
    Result<std::vector<Layer>> layers = readLayerSet(shareFolder() / "layers");
    if (!level || !layers) return std::fprintf(stderr, "The level or the layers cannot be read.\n"), 2;
    auto surface = makeSurface(Drawing::automatic, nullptr);
    if (!surface) return std::fprintf(stderr, "%s\n", surface.error().sentence().c_str()), 2;
    const std::vector<Layer> shipped = layers.value();
    Workplace place(level.take(), "Damson Down");
    place.document.markSaved({}, place.document.history().serial(), place.document.standing());
    QSettings().setValue("handOverFolder", "/srv/levels/damson-down");
    MainWindow window(place, layers.take(), surface.take());
    window.view()->setPasses(4);  // hardly told from sixteen, and a minute sooner
    window.show();
    Photographer photo(window, place, words[2]);
    photo.settle();

    place.toolbox.changeSettings([](StrokeSettings& s) {
        s.radius = 32;
        s.strength = 9;
    });
    photo.stand(-190, 60, 62, 8, -14);
    photo.hover(0.46, 0.62);
    photo.take("shape");

    // A mirrored crag, its images and the handles of the brush.
    place.toolbox.setTool(Tool::raise);
    place.toolbox.setMirror({MirrorKind::turn3, 20, -40});
    for (const Shelf::Brush& b : window.shelf().brushes())
        if (b.preset.name == "Whole ridge") place.applyPreset(b.preset.settings);
    photo.stand(0, 330, 260, 0, -34);
    photo.hover(0.62, 0.55);
    window.view()->setHandling(true);
    photo.take("brush");
    window.view()->setHandling(false);
    place.toolbox.setMirror({});
    place.toolbox.changeSettings([](StrokeSettings& s) { s = StrokeSettings{}, s.radius = 32, s.strength = 9; });

    place.standpoint.setStation("cover");
    const auto choose = [&](const char* name) {
        for (const Layer& l : place.document.level().layers)
            if (l.name == name) place.chooseLayer(l.id);
    };
    const auto part = [&](const char* name) { window.sheet()->findChild<QToolButton*>(name)->click(); };
    choose("Worn gravel");
    place.toolbox.changeSettings([](StrokeSettings& s) { s.radius = 5; });
    photo.stand(150, 120, 9, 205, -17);
    photo.hover(0.5, 0.6);
    photo.take("cover");

    // The orchard, with what a kind says of itself.
    place.standpoint.setStation("dress");
    for (const Kind& k : place.document.level().kinds)
        if (k.name == "Damson tree") place.chooseKind(k.id);
    part("partKind");
    photo.stand(352, 262, 5, 20, -7);
    photo.hover(0.42, 0.72);
    photo.take("dress");
    place.standpoint.setStation("cover");

    // How a layer is laid, with the place from near and far.
    choose("Meadow grass");
    part("partLayer");
    photo.stand(176, 214, 16, 345, -16);
    photo.hover(0.44, 0.6);
    for (int i = 0; i < 100 && !window.findChild<LayerPanel*>()->nearFar()->upToDate(); ++i) QTest::qWait(40);
    photo.take("layer");

    // Rock that a rule would lay on steep ground, before it is kept.
    choose("Moss");
    part("partRules");
    photo.stand(46, -322, 20, 196, -12);
    photo.hover(0.5, 0.6);
    photo.take("rules");

    part("partBrush");
    place.standpoint.setStation("cover");
    photo.settle();
    seamDialog(window, photo);

    place.standpoint.setStation("light");
    place.document.edit("Turn the sun", [](Level& l) { l.sun = {95, 14}; });
    photo.stand(60, 400, 120, 340, -16);
    photo.take("light");
    place.document.undo();

    // What can be changed a week later: strata, a course, what lies inside a fence.
    place.standpoint.setStation("shape");
    const auto shapePart = [&](const char* name) {
        for (auto* b : window.findChildren<QToolButton*>(name))
            if (b->isVisible()) b->click();
    };
    shapePart("partStrata");
    for (const Stratum& s : place.document.level().strata)
        if (s.name == "Terraces") place.document.chooseStratum(s.id);
    photo.stand(-250, -20, 60, 345, -20);
    photo.hover(0.42, 0.55);
    photo.take("strata");
    shapePart("partCourses");
    for (const Stratum& s : place.document.level().strata)
        if (s.name == "Cart course") place.standpoint.setCourse(s.id, 9);
    photo.stand(-90, 60, 62, 12, -24);
    photo.hover(0.5, 0.75);
    photo.take("course");
    place.standpoint.setCourse(0);
    shapePart("partFence");
    place.document.edit("Fence", [](Level& l) {
        if (!l.fences.empty()) joinFence(l, keptFence(l, l.fences.front().id), FenceJoin::replace);
    });
    photo.stand(-250, -20, 60, 345, -20);
    photo.hover(0.5, 0.6);
    photo.take("fence");
    place.document.undo();

    // A clip on its way: a piece of the terraces, turned and laid on the pasture.
    shapePart("partClips");
    place.clips.lift({-330, -120}, {-235, -35});
    Placement there = place.clips.placement();
    there.x = -195, there.z = 40, there.turn = 38;
    place.clips.move(there);
    place.clips.change([](SetDownWish& w) { w.sit = true, w.feather = 14; });
    photo.stand(-215, 175, 62, 2, -24);
    for (int i = 0; i < 200 && !place.document.previewing(); ++i) QTest::qWait(40);
    QTest::qWait(300);
    photo.hover(0.5, 0.8);
    photo.take("clip");
    place.clips.putAway();

    // Land that ends: an island with its cliffs.
    shapePart("partEdges");
    place.document.edit("Island", [](Level& l) {
        std::vector<MapPlace> coast;
        for (int i = 0; i < 120; ++i) {
            const double a = i * kTurn / 120, r = 1 + 0.12 * std::sin(3 * a + 1) + 0.06 * std::sin(7 * a);
            coast.push_back({30 + 430 * r * std::cos(a), 20 + 400 * r * std::sin(a)});
        }
        joinFence(l, insidePolygon(l, std::move(coast)), FenceJoin::replace);
        featherFence(l, 2);
        fillGaps(l, &Level::noLand, true, true);
        l.fenced = false;
        l.cliff = 55;
    });
    photo.stand(0, 760, 330, 0, -24);
    for (int i = 0; i < 100 && window.surveyor().busy(); ++i) QTest::qWait(40);
    photo.take("edges");
    place.document.undo();
    shapePart("partBrush");

    place.standpoint.setStation("shape");
    window.actions()["contours"]->trigger();
    window.view()->plan();
    photo.hover(0.42, 0.4);
    photo.take("plan");
    window.actions()["contours"]->trigger();

    window.actions()["theme"]->trigger();
    place.standpoint.setStation("cover");
    window.resize(1024, 700);
    photo.takeWindow("narrow");
    window.resize(1280, 800);
    window.actions()["theme"]->trigger();

    place.standpoint.setStation("layOut");
    window.view()->overview();
    photo.settle();
    LayoutDialog dialog(shipped, &window);
    dialog.findChild<QComboBox*>("ground")->setCurrentIndex(6);
    dialog.show();
    dialog.move(260, 110);
    photo.take("lay-out");
    dialog.close();

    place.standpoint.setStation("water");
    place.standpoint.setWater(place.document.level().pools.front().id);
    photo.stand(148, 372, 9, 4, -14);
    place.standpoint.setCursor(glm::dvec3(150, 9, 326));
    photo.take("water");
    place.standpoint.setWater(0);
    onFoot(window, place, photo, std::filesystem::path(words[1]).parent_path() / "sloe-quarry.jamhill");
    return 0;
}
