// Looking round: while the eye turns the picture is put together from what was seen before, and shows the level as it
// is at every moment.
#include <catch2/catch.hpp>
#include <cmath>

#include <QScreen>

#include "level/ground.h"
#include "levels.h"
#include "stage.h"
#include "water/water.h"

using namespace jam;
using namespace jam::test;

namespace {

// The ground as the screen shows it now, at rest or not.
QImage shownNow(Stage& stage) {
    QApplication::processEvents();
    const double ratio = stage.window.devicePixelRatioF();
    const QPoint at = stage.canvas()->mapTo(&stage.window, QPoint(0, 0));
    const QRectF part(at.x() * ratio, at.y() * ratio, stage.canvas()->width() * ratio,
                      stage.canvas()->height() * ratio);
    return QGuiApplication::primaryScreen()->grabWindow(0).toImage().copy(part.toRect());
}

// How much two pictures differ, root mean square, in steps of 255.
double apart(const QImage& a, const QImage& b) {
    REQUIRE(a.size() == b.size());
    double sum = 0;
    for (int y = 2; y < a.height() - 2; ++y)
        for (int x = 2; x < a.width() - 2; ++x) {
            const QRgb p = a.pixel(x, y), q = b.pixel(x, y);
            for (const int d : {qRed(p) - qRed(q), qGreen(p) - qGreen(q), qBlue(p) - qBlue(q)}) sum += d * d;
        }
    return std::sqrt(sum / (3.0 * a.width() * a.height()));
}

// A hand that has hold of the view and turns it.
struct LookingRound {
    Stage& stage;
    QPoint at{300, 200};
    explicit LookingRound(Stage& s) : stage(s) { stage.press(at, {}, Qt::RightButton); }
    ~LookingRound() { stage.release(at, Qt::RightButton); }
    void by(const QPoint& way, int steps = 6) {
        for (int i = 0; i < steps; ++i) {
            at += way;
            stage.move(at, Qt::RightButton);
            QApplication::processEvents();
        }
    }
};

Stage& looking(Stage& stage) {
    stage.place.standpoint.setStation("light");  // no mark of a brush
    Camera c = stage.view().camera();
    const Level& l = stage.place.document.level();
    c.at = {l.originX + 0.2 * l.width(), 0, l.originZ + 0.8 * l.depth()};
    c.at.y = altitudeAt(l, c.at.x, c.at.z) + 25;
    c.yaw = 40, c.pitch = -28;
    stage.view().setCamera(c);
    stage.settle();
    return stage;
}

}  // namespace

TEST_CASE("while the eye turns the picture stays sharp, and is where it comes to rest") {
    Stage stage(chequeredLevel(193, 161, 5, 5, 7));  // small fields, so that a blur or a shift is seen
    looking(stage);
    const QImage before = shownNow(stage);
    // By little many times, too: it is not blurred again each time.
    for (const QPoint way : {QPoint(9, 0), QPoint(-7, 3), QPoint(4, -9), QPoint(-1, 0)}) {
        QImage moving;
        {
            LookingRound hand(stage);
            hand.by(way, way.x() == -1 ? 60 : 6);
            moving = shownNow(stage);
        }
        stage.settle();
        const QImage rest = shownNow(stage);
        INFO(way.x() << ' ' << way.y() << ": " << apart(moving, rest) << " from rest, " << apart(before, rest)
                     << " moved");
        CHECK(apart(before, rest) > 40);
        CHECK(apart(moving, rest) < (way.x() == -1 ? 8 : 12));
    }
}

TEST_CASE("a hand that holds the view still sees it become sharp") {
    Stage stage(chequeredLevel(193, 161, 5, 5, 7));
    looking(stage);
    QImage held;
    {
        LookingRound hand(stage);
        hand.by({8, 2});
        stage.settle();
        held = shownNow(stage);
    }
    stage.settle();
    CHECK(held == shownNow(stage));
    // What changes meanwhile, too.
    {
        LookingRound hand(stage);
        hand.by({-3, 1});
        stage.view().setFlatLight(true);
        stage.settle();
        held = shownNow(stage);
    }
    stage.settle();
    CHECK(held == shownNow(stage));
}

TEST_CASE("what changes while the eye turns is seen, whenever it comes") {
    Stage stage(chequeredLevel(193, 161, 5, 5, 7));
    looking(stage);
    Document& document = stage.place.document;
    GroundView& view = stage.view();
    const Level& level = document.level();
    const Camera start = view.camera();
    const auto colour = [&] {
        document.edit("colour", [](Level& l) {
            for (Layer& layer : l.layers) layer.colour = plainLayer("", 30, 220, 40).colour;
        });
    };
    const auto overlay = [&](Overlay o) {
        Sight s = view.sight();
        s.overlay = o;
        view.setSight(s);
    };
    const auto cover = [&](uint16_t share) {
        document.edit("cover", [=](Level& l) {
            for (int r = 0; r < l.coverRows(); ++r)
                for (int c = 0; c < l.coverColumns(); ++c) l.layers[1].coverage.set(c, r, share);
        });
    };
    const auto sea = [&] {
        document.edit("sea", [](Level& l) {
            Pool all;
            all.name = "sea", all.sea = true, all.height = 12;
            REQUIRE(addPool(l, all));
        });
    };
    const auto red = [&] { document.edit("red", [](Level& l) { l.pools[0].look.colour = {0.9f, 0.1f, 0.1f}; }); };
    const auto shade = [&](uint8_t light) {
        const auto even = std::make_shared<const Raster<uint8_t>>(level.columns, level.rows, light);
        view.setShade({even, even}, nullptr);
    };
    const struct {
        const char* what;
        std::function<void()> there, back;
    } kChanges[] = {
        {"a layer's colour", colour, [&] { document.undo(); }},
        {"cover", [&] { cover(kFullCover); }, [&] { document.undo(); }},
        {"water", sea, [&] { document.undo(); }},
        {"its colour", [&] { red(); }, [&] { document.undo(); }},
        {"flat light", [&] { view.setFlatLight(true); }, [&] { view.setFlatLight(false); }},
        {"an overlay", [&] { overlay(Overlay::steepness); }, [&] { overlay(Overlay::none); }},
        // The last, because what is edited is lit anew.
        {"light that was worked out", [&] { shade(40); }, [&] { shade(255); }},
    };
    QImage before;  // the same look, as it was without the change
    for (const auto& change : kChanges) {
        if (change.what == std::string("its colour")) sea(), before = {};
        for (const int wait : {0, 60})
            for (const auto& make : {change.there, change.back}) {
                QImage turned;
                {
                    LookingRound hand(stage);
                    hand.by({5, 1});
                    make();
                    QTest::qWait(wait);
                    hand.by({3, 0});
                    turned = shownNow(stage);
                }
                stage.settle();
                const QImage rest = shownNow(stage);
                view.setCamera(start);
                stage.settle();
                if (!before.isNull()) {
                    const double is = apart(turned, rest), would = apart(before, rest);
                    INFO(change.what << (&make == &change.there ? "" : ", and back") << ", after " << wait
                                     << " ms: " << is << " from rest, " << would << " without the change");
                    CHECK(is < 0.5 * would);
                }
                before = rest;
            }
    }
}
