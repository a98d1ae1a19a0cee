// Work at the Cover station, through the real window: rules, wash, replacing, layers from pictures, near and far.
#include <catch2/catch.hpp>

#include <cmath>
#include <QAction>
#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QDir>
#include <QDoubleSpinBox>
#include <QFile>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSlider>
#include <QTemporaryDir>
#include <QToolButton>

#include "cover/rules.h"
#include "cover/weights.h"
#include "files/png.h"
#include "files/weights_file.h"
#include "level/ground.h"
#include "levels.h"
#include "panels/bench.h"
#include "panels/number_field.h"
#include "panels/rules_panel.h"
#include "panels/sheet.h"
#include "stage.h"
#include "stations/cover/layer_dialog.h"
#include "stations/cover/layer_panel.h"
#include "stations/cover/layer_pictures.h"
#include "stations/cover/layer_strip.h"
#include "stations/cover/near_far.h"
#include "stations/cover/weights_dialog.h"
#include "survey/check.h"

using namespace jam;
using namespace jam::test;

namespace {

// A bank in the middle, that falls to the west; moss below, brick and snow to paint with.
Level bank() {
    Level level = flatLevel(129, 129, 0, 2);
    addLayer(level, plainLayer("Moss", 60, 90, 40));
    addLayer(level, plainLayer("Brick", 190, 60, 40));
    addLayer(level, plainLayer("Snow", 235, 235, 240));
    for (int r = 0; r < 129; ++r)
        for (int c = 0; c < 129; ++c)
            level.strata[0].heights.set(c, r, std::clamp(static_cast<float>(c - 56) * 2.4f, 0.f, 36.f));
    return level;
}

struct CoverStage : Stage {
    explicit CoverStage(Level level = bank()) : Stage(std::move(level)) { place.standpoint.setStation("cover"); }

    // The one that is seen, where other stations have one too.
    template <class W>
    W* find(const char* name) {
        for (W* w : window.sheet()->findChildren<W*>(name))
            if (w->isVisible()) return w;
        return window.sheet()->findChild<W*>(name);
    }
    void part(const char* name) {
        QTest::mouseClick(find<QToolButton>(name), Qt::LeftButton);
        settle();
    }
    void click(const char* button) {
        QTest::mouseClick(find<QPushButton>(button), Qt::LeftButton);
        settle();
    }
    void choose(QComboBox* box, int at) {
        box->setCurrentIndex(at);
        emit box->activated(at);
        settle();
    }
    int weight(int layer, double x, double z) {
        const Level& l = place.document.level();
        return static_cast<int>(std::lround(255 * mixAt(l, x, z)[static_cast<size_t>(layer)]));
    }
    // Chooses an entry of the layer's menu, or of a menu inside it.
    void menu(const QString& entry, const QString& inside = {}) {
        answer([=](QWidget* open) {
            for (QAction* a : static_cast<QMenu*>(open)->actions()) {
                if (!a->text().startsWith(entry)) continue;
                QAction* chosen = a;
                if (a->menu())
                    for (QAction* b : a->menu()->actions())
                        if (b->text() == inside) chosen = b;
                open->close();
                chosen->trigger();
                return;
            }
            open->close();
        });
        QTest::mouseClick(find<QToolButton>("layerMenu"), Qt::LeftButton);
        settle();
    }
};

QImage checks(int side, QRgb a, QRgb b) {
    QImage image(side, side, QImage::Format_RGB32);
    for (int y = 0; y < side; ++y)
        for (int x = 0; x < side; ++x) image.setPixel(x, y, (x / 5 + y / 5) % 2 ? a : b);
    return image;
}

// Uncompressed, 24 bits, from the top: Qt reads this kind but does not write it.
void writeTga(const QString& path, const QImage& image) {
    QByteArray bytes(18, '\0');
    bytes[2] = 2;
    bytes[12] = static_cast<char>(image.width()), bytes[14] = static_cast<char>(image.height());
    bytes[16] = 24, bytes[17] = 0x20;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x) {
            const QRgb p = image.pixel(x, y);
            bytes.append(static_cast<char>(qBlue(p)))
                .append(static_cast<char>(qGreen(p)))
                .append(static_cast<char>(qRed(p)));
        }
    QFile file(path);
    REQUIRE(file.open(QIODevice::WriteOnly));
    file.write(bytes);
}

}  // namespace

TEST_CASE("rules are written in the sheet, previewed on the ground, and lay the layer in one step") {
    CoverStage stage;
    stage.part("partRules");
    const Level before = stage.place.document.level();
    stage.click("addRule");
    REQUIRE(stage.place.document.level().layers[1].rules.size() == 1);
    CHECK(stage.place.document.level().layers[1].rules[0].kind == RuleKind::slope);
    CHECK(stage.weight(1, 10, 0) == 0);
    // The preview is seen and is no step.
    const size_t steps = stage.place.document.history().entries().size();
    QTest::mouseClick(stage.find<QCheckBox>("previewRules"), Qt::LeftButton, {}, {8, 10});
    CHECK(stage.waitFor([&] { return stage.place.document.previewing(); }));
    CHECK(stage.weight(1, 10, 0) > 200);
    CHECK(stage.place.document.history().entries().size() == steps);
    // A change of a rule is followed by the preview.
    stage.choose(stage.find<QComboBox>("ruleWay"), static_cast<int>(RuleEffect::never));
    CHECK(stage.waitFor([&] { return stage.place.document.previewing() && stage.weight(1, 10, 0) < 50; }));
    CHECK(stage.weight(1, -100, 0) > 200);
    stage.choose(stage.find<QComboBox>("ruleWay"), static_cast<int>(RuleEffect::add));
    CHECK(stage.waitFor([&] { return stage.place.document.previewing() && stage.weight(1, 10, 0) > 200; }));
    stage.click("coverByRules");
    CHECK_FALSE(stage.place.document.previewing());
    CHECK(stage.weight(1, 10, 0) > 200);
    CHECK(stage.weight(1, -100, 0) == 0);
    CHECK(checkLevel(stage.place.document.level()).empty());
    while (stage.place.document.history().canUndo()) stage.place.document.undo();
    CHECK(stage.place.document.level() == before);
}

TEST_CASE("living rules follow the brush on the ground, and the hand wins over them") {
    CoverStage stage;
    stage.part("partRules");
    stage.click("addRule");
    QTest::mouseClick(stage.find<QCheckBox>("aliveRules"), Qt::LeftButton, {}, {8, 10});
    stage.settle();
    REQUIRE(stage.place.document.level().layers[1].alive);
    CHECK(stage.weight(1, 10, 0) > 200);
    // Erase some rock by hand, then raise a steep hill elsewhere.
    stage.place.toolbox.setTool(Tool::erase);
    stage.place.toolbox.changeSettings(
        [](StrokeSettings& s) { s.strength = 1, s.radius = 8, s.falloff.softness = 0.2f; });
    stage.place.strokeAlong({{10, 0, 10}, {10, 0, 30}}, 1, false);
    CHECK(stage.weight(1, 10, 20) == 0);
    stage.place.toolbox.setTool(Tool::raise);
    stage.place.toolbox.changeSettings(
        [](StrokeSettings& s) { s.strength = 60, s.radius = 30, s.falloff.softness = 1; });
    stage.place.beginStroke({-80, 0, -60}, 1, false);
    stage.place.continueStroke({-80, 0, -60}, 1, 1);
    stage.place.endStroke();
    stage.settle();
    CHECK(stage.weight(1, -80 + 15, -60) > 150);  // the new flank
    CHECK(stage.weight(1, 10, 20) == 0);          // what was wiped off stays off
    const Level now = stage.place.document.level();
    stage.place.document.undo();
    stage.place.document.redo();
    CHECK(stage.place.document.level() == now);
    // The brush that lays by rule gives the ground back.
    stage.place.toolbox.setTool(Tool::byRule);
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.strength = 1, s.radius = 12; });
    stage.place.strokeAlong({{10, 0, 10}, {10, 0, 30}}, 1, false);
    CHECK(stage.weight(1, 10, 20) > 200);
}

TEST_CASE("rules that are woken and changed in the sheet keep to the fence, also when it is gone") {
    CoverStage stage;
    stage.part("partRules");
    stage.place.document.edit("Fence", [](Level& l) {
        l.fenced = true;
        for (int r = 0; r < 64; ++r)
            for (int c = 0; c < l.columns; ++c) l.fence.set(c, r, kInside);
    });
    stage.click("addRule");
    QTest::mouseClick(stage.find<QCheckBox>("aliveRules"), Qt::LeftButton, {}, {8, 10});
    stage.settle();
    REQUIRE(stage.place.document.level().layers[1].alive);
    CHECK(stage.weight(1, 10, -40) > 200);
    CHECK(stage.weight(1, 10, 40) == 0);
    stage.choose(stage.find<QComboBox>("ruleWay"), static_cast<int>(RuleEffect::never));
    stage.settle();
    CHECK(stage.weight(1, 10, -40) < 50);
    CHECK(stage.weight(1, -100, -40) > 200);
    CHECK(stage.weight(1, -100, 40) == 0);
    // Without it a hill is followed inside of where it stood alone.
    stage.place.document.edit("Drop the fence", [](Level& l) { l.fenced = false; });
    stage.place.toolbox.setTool(Tool::raise);
    stage.place.toolbox.changeSettings(
        [](StrokeSettings& s) { s.strength = 60, s.radius = 30, s.falloff.softness = 1; });
    for (const double z : {-60., 60.}) {
        stage.place.beginStroke({-80, 0, z}, 1, false);
        stage.place.continueStroke({-80, 0, z}, 1, 1);
        stage.place.endStroke();
        stage.settle();
    }
    CHECK(stage.weight(1, -80 + 15, -60) < 100);
    CHECK(stage.weight(1, -80 + 15, 60) == 0);
    CHECK(stage.weight(1, -80 - 33, 60) == 0);
    CHECK(checkLevel(stage.place.document.level()).empty());
}

TEST_CASE("the wash is painted over the ground in the chosen colour, and rinsed with Shift") {
    CoverStage stage;
    stage.place.toolbox.setTool(Tool::wash);
    stage.place.toolbox.changeSettings([](StrokeSettings& s) {
        s.colour = {1, 0.1f, 0.1f}, s.strength = 1, s.radius = 25;
    });
    const QPoint at = stage.pixelOf(-60, 0);
    const QImage before = stage.picture();
    stage.drag(stage.pixelOf(-75, 0), stage.pixelOf(-45, 0));
    const QImage after = stage.picture();
    CHECK(qRed(after.pixel(at)) > qGreen(after.pixel(at)) + 30);
    CHECK(qGreen(before.pixel(at)) >= qRed(before.pixel(at)));
    CHECK(stage.place.document.history().now().wash.presentTiles() > 0);
    for (int i = 0; i < 3; ++i) stage.drag(stage.pixelOf(-80, 0), stage.pixelOf(-40, 0), Qt::ShiftModifier);
    const QImage rinsed = stage.picture();
    CHECK(std::abs(qRed(rinsed.pixel(at)) - qRed(before.pixel(at))) < 12);
    while (stage.place.document.history().canUndo()) stage.place.document.undo();
    CHECK(stage.picture() == before);
    // A layer may take none of it.
    stage.place.document.edit("Wash", [](Level& l) { l.layers[0].look.wash = 0; });
    stage.drag(stage.pixelOf(-75, 0), stage.pixelOf(-45, 0));
    CHECK(std::abs(qRed(stage.picture().pixel(at)) - qRed(before.pixel(at))) < 6);
}

TEST_CASE(
    "one layer is replaced by another under the brush and everywhere, and layers are merged, filled and duplicated") {
    CoverStage stage;
    stage.place.toolbox.setTool(Tool::paint);
    stage.place.toolbox.changeSettings([](StrokeSettings& s) { s.strength = 1, s.radius = 15, s.target = 1; });
    stage.place.strokeAlong({{-90, 0, -60}, {-90, 0, 60}}, 1, false);
    REQUIRE(stage.weight(1, -90, 0) == 255);
    // Snow in place of brick, under the brush only.
    stage.place.chooseLayer(stage.place.document.level().layers[2].id);
    stage.place.toolbox.setTool(Tool::replace);
    const QPoint at = stage.pixelOf(-90, 0);
    stage.drag(at, at + QPoint(2, 0));
    CHECK(stage.window.lastMessage().contains("makes room"));
    auto* from = stage.find<QComboBox>("from");
    stage.choose(from, from->findText("In place of Brick"));
    stage.place.toolbox.changeSettings(
        [](StrokeSettings& s) { s.strength = 1, s.radius = 10, s.falloff.softness = 0.2f; });
    stage.place.strokeAlong({{-90, 0, -4}, {-90, 0, 4}}, 1, false);
    CHECK(stage.weight(2, -90, 0) == 255);
    CHECK(stage.weight(1, -90, 50) == 255);
    CHECK(stage.weight(2, -60, 0) == 0);  // where no brick was
    // The rest everywhere, from the menu.
    stage.place.chooseLayer(stage.place.document.level().layers[1].id);
    stage.part("partLayer");
    stage.menu("Replace everywhere", "Snow");
    CHECK(stage.weight(1, -90, 50) == 0);
    CHECK(stage.weight(2, -90, 50) == 255);
    stage.menu("Duplicate");
    REQUIRE(stage.place.document.level().layers.size() == 4);
    CHECK(stage.place.document.level().layers[2].name == "Brick");
    CHECK(stage.place.standpoint.layer() == stage.place.document.level().layers[2].id);
    stage.menu("Fill");
    CHECK(stage.weight(2, 30, 30) == 255);
    stage.menu("Merge");
    REQUIRE(stage.place.document.level().layers.size() == 3);
    CHECK(stage.weight(1, 30, 30) == 255);
    stage.place.chooseLayer(stage.place.document.level().layers[1].id);
    stage.menu("Delete, and", "Snow");
    REQUIRE(stage.place.document.level().layers.size() == 2);
    CHECK(stage.weight(1, 30, 30) == 255);
    CHECK(checkLevel(stage.place.document.level()).empty());
}

TEST_CASE("a folder of pictures becomes a layer: maps are recognised, seams shown and closed") {
    const QTemporaryDir folder;
    QImage colour(96, 96, QImage::Format_RGB32);
    for (int y = 0; y < 96; ++y)
        for (int x = 0; x < 96; ++x) {
            const int v = 60 + (x * 7 + y * 13 + x * y) % 40 + x;  // brighter to the right: the edges do not match
            colour.setPixel(x, y, qRgb(v, v, v / 2));
        }
    REQUIRE(colour.save(folder.filePath("tufa_diffuse.jpg"), nullptr, 95));
    writeTga(folder.filePath("tufa_normal_dx.tga"), checks(96, qRgb(128, 128, 255), qRgb(140, 120, 250)));
    REQUIRE(checks(96, qRgb(40, 40, 40), qRgb(200, 200, 200)).save(folder.filePath("tufa_AO.bmp")));
    REQUIRE(checks(96, qRgb(90, 90, 90), qRgb(220, 220, 220)).save(folder.filePath("tufa_height.tif")));
    CoverStage stage;
    QString said;
    stage.answer([&](QWidget* open) {
        auto* dialog = static_cast<LayerDialog*>(open);
        CHECK(dialog->findChild<QComboBox*>("map-normal")->currentText() == "tufa_normal_dx.tga");
        CHECK(dialog->findChild<QComboBox*>("map-roughness")->currentText() == "None");
        CHECK_FALSE(dialog->report().edgesMatch());
        said = dialog->findChild<QLabel*>("seamSays")->text();
        QTest::mouseClick(dialog->findChild<QCheckBox*>("seamless"), Qt::LeftButton, {}, {8, 8});
        CHECK(dialog->report().edgesMatch());
        // A map that was recognised wrongly is put into another slot.
        auto* specular = dialog->findChild<QComboBox*>("map-specular");
        specular->setCurrentIndex(specular->findText("tufa_AO.bmp"));
        emit specular->activated(specular->currentIndex());
        dialog->accept();
    });
    stage.drop(folder.path());
    stage.settle();
    CHECK(said.contains("do not match"));
    REQUIRE(stage.place.document.level().layers.size() == 4);
    const Layer& made = stage.place.document.level().layers[3];
    CHECK(made.name == "tufa");
    CHECK(made.look.flipGreen);
    CHECK((made.normal && made.height && made.occlusion && made.specular && !made.roughness));
    CHECK(decodePng(made.colour->bytes, "c", 200).value().width == 72);
    CHECK(made.tileSize == Approx(3));
    CHECK(QDir(folder.path()).entryList({"tufa*"}).size() == 4);  // the files are as they were
    // Swapping the pictures keeps coverage, tile size and blend.
    stage.place.toolbox.setTool(Tool::paint);
    stage.place.strokeAlong({{-60, 0, 0}, {-40, 0, 0}}, 1, false);
    const TiledGrid<uint16_t> coverage = stage.place.document.level().layers[3].coverage;
    REQUIRE(checks(64, qRgb(10, 200, 10), qRgb(20, 90, 20)).save(folder.filePath("other.png")));
    stage.answer([&](QWidget* open) {
        auto* dialog = static_cast<LayerDialog*>(open);
        CHECK(dialog->findChild<QComboBox*>("map-colour")->currentText().startsWith("As it is"));
        auto* normal = dialog->findChild<QComboBox*>("map-normal");
        normal->setCurrentIndex(0);
        emit normal->activated(0);
        dialog->accept();
    });
    stage.part("partLayer");
    stage.click("swapPictures");
    CHECK_FALSE(stage.place.document.level().layers[3].normal);
    CHECK(stage.place.document.level().layers[3].coverage == coverage);
    CHECK(stage.find<QLabel>("layerMaps")->text().contains("derived: normal"));
}

TEST_CASE("how a layer is laid and coloured shows on the ground at once, and is undone") {
    Level level = bank();
    auto picture = std::make_shared<PictureFile>();
    Pixels stripes{64, 64, 3, 8, {}};
    for (int i = 0; i < 64 * 64; ++i)
        for (int c = 0; c < 3; ++c) stripes.samples.push_back((i % 64) < 32 ? 200 : 60);
    picture->name = "stripes.png";
    picture->bytes = encodePng(stripes);
    level.layers[0].colour = picture;
    level.layers[0].tileSize = 12;
    CoverStage stage(level);
    stage.place.chooseLayer(level.layers[0].id);
    stage.part("partLayer");
    const QImage before = stage.picture();
    const auto differs = [&](const QImage& now) {
        int n = 0;
        for (int y = 0; y < now.height(); y += 3)
            for (int x = 0; x < now.width(); x += 3)
                n += std::abs(qRed(now.pixel(x, y)) - qRed(before.pixel(x, y))) > 10;
        return n;
    };
    const auto tries = [&](const char* what, const std::function<void(Layer&)>& set) {
        INFO(what);
        stage.place.document.edit(what, [&](Level& l) { set(l.layers[0]); });
        CHECK(differs(stage.picture()) > 300);
        stage.place.document.undo();
        CHECK(stage.picture() == before);
    };
    tries("turn", [](Layer& l) { l.look.turn = 45; });
    tries("offset", [](Layer& l) { l.look.offsetX = 3; });
    tries("broken", [](Layer& l) { l.look.tiling = Tiling::broken; });
    tries("second scale", [](Layer& l) { l.look.farTimes = 4, l.look.farFrom = 20; });
    tries("tint", [](Layer& l) { l.look.tint = {0.3f, 1, 1}; });
    tries("brightness", [](Layer& l) { l.look.brightness = 2; });
    tries("variation", [](Layer& l) { l.look.variation = 1; });
    // The same through the sheet.
    stage.choose(stage.find<QComboBox>("tiling"), 1);
    CHECK(stage.place.document.level().layers[0].look.tiling == Tiling::broken);
    CHECK(differs(stage.picture()) > 300);
    QTest::mouseClick(stage.find<QCheckBox>("secondScale"), Qt::LeftButton, {}, {8, 8});
    CHECK(stage.place.document.level().layers[0].look.farTimes > 1);
}

TEST_CASE("near and far shows two pictures of the place and says how visible the repeat is") {
    CoverStage stage;
    stage.part("partLayer");
    stage.place.standpoint.setCursor(glm::dvec3(-60, 0, 0));
    NearFar* near = stage.window.findChild<LayerPanel*>()->nearFar();
    REQUIRE(stage.waitFor([&] { return near->upToDate() && !near->near().isNull(); }));
    // From above there is nothing but ground; walking one sees sky on top and ground below.
    const QImage &far = near->far(), &walk = near->near();
    CHECK(qGreen(far.pixel(far.width() / 3, 20)) > qBlue(far.pixel(far.width() / 3, 20)));
    CHECK(qBlue(walk.pixel(walk.width() / 2, 3)) > 120);
    CHECK(qGreen(walk.pixel(walk.width() / 2, walk.height() - 4)) >
          qBlue(walk.pixel(walk.width() / 2, walk.height() - 4)));
    // The view itself stays as it was.
    const QImage before = stage.picture();
    stage.place.standpoint.setCursor(glm::dvec3(30, 0, 30));
    REQUIRE(stage.waitFor([&] { return near->upToDate(); }));
    CHECK(stage.picture() == before);
}

TEST_CASE("layers are found by name and shown as large as one likes") {
    CoverStage stage;
    LayerStrip* strip = stage.window.findChild<LayerStrip*>();
    auto* find = stage.window.bench()->findChild<QLineEdit*>("findLayer");
    QTest::keyClicks(find, "sno");
    CHECK(strip->tile(0).isEmpty());
    CHECK_FALSE(strip->tile(2).isEmpty());
    QTest::mouseClick(strip, Qt::LeftButton, {}, strip->tile(2).center());
    CHECK(stage.place.standpoint.layer() == stage.place.document.level().layers[2].id);
    find->clear();
    CHECK(strip->tile(0).left() < strip->tile(2).left());
    const int small = strip->tile(0).width();
    stage.window.bench()->findChild<QSlider*>("thumbnailSize")->setValue(150);
    CHECK(strip->tile(0).width() == 150);
    CHECK(small < 150);
    stage.window.bench()->findChild<QSlider*>("thumbnailSize")->setValue(small);
}

TEST_CASE("cover is made finer and coarser later without losing what is painted") {
    CoverStage stage;
    stage.place.toolbox.setTool(Tool::paint);
    stage.place.strokeAlong({{-90, 0, -20}, {-70, 0, 30}}, 1, false);
    const Level before = stage.place.document.level();
    const QImage picture = stage.picture();
    stage.place.standpoint.setStation("layOut");
    auto* factor = stage.find<QComboBox>("coverFactor");
    stage.choose(factor, 2);
    CHECK(stage.place.document.level().coverFactor == 4);
    CHECK(stage.place.document.level().layers[1].coverage.at(4 * 20, 4 * 60) == before.layers[1].coverage.at(20, 60));
    stage.place.standpoint.setStation("cover");
    stage.place.strokeAlong({{30, 0, 0}, {40, 0, 0}}, 1, false);  // painting goes on
    stage.place.document.undo();
    stage.place.standpoint.setStation("layOut");
    stage.choose(factor, 0);
    CHECK(stage.place.document.level() == before);
    CHECK(stage.picture() == picture);
}

TEST_CASE("two layers meet in a way of their own") {
    CoverStage stage;
    stage.part("partLayer");
    auto* pair = stage.find<QComboBox>("blendPair");
    stage.choose(pair, pair->findText("With Snow"));
    auto* own = stage.find<QCheckBox>("blendOwn");
    own->click();
    REQUIRE(stage.place.document.level().pairs.size() == 1);
    stage.find<NumberField>("blendOfPair")->spin()->setValue(90);
    stage.find<NumberField>("blendOfPair")->spin()->interpretText();
    stage.settle();
    CHECK(blendBetween(stage.place.document.level(), stage.place.document.level().layers[1],
                       stage.place.document.level().layers[2]) == Approx(0.9f));
    own->click();
    CHECK(stage.place.document.level().pairs.empty());
}

TEST_CASE("the weights dialog offers each channel the layer that is most likely, and takes another") {
    const QTemporaryDir folder;
    const Level level = bank();
    Pixels p{129, 129, 4, 8, {}};
    p.samples.assign(static_cast<size_t>(129 * 129 * 4), 60);
    const std::filesystem::path file = folder.filePath("weights-1.png").toStdString();
    QFile out(folder.filePath("weights-1.png"));
    REQUIRE(out.open(QIODevice::WriteOnly));
    const Bytes png = encodePng(p, 1);
    out.write(reinterpret_cast<const char*>(png.data()), static_cast<qint64>(png.size()));
    out.close();
    const std::vector<WeightChannel> guess = guessWeightChannels(level, {file}).take();
    REQUIRE(guess.size() == 3);
    WeightsDialog dialog(level, {{file, 4}}, guess);
    dialog.show();
    const QList<QComboBox*> rows = dialog.findChildren<QComboBox*>();
    REQUIRE(rows.size() == 4);
    CHECK(rows[1]->currentText() == "Brick");
    CHECK(rows[3]->currentText() == "Not used");
    CHECK(dialog.channels() == guess);
    rows[3]->setCurrentText("Brick");
    rows[1]->setCurrentIndex(0);
    const std::vector<WeightChannel> chosen = dialog.channels();
    REQUIRE(chosen.size() == 3);
    CHECK(chosen.back() == WeightChannel{file, 3, level.layers[1].id});
    const Level in = importWeights(level, chosen).take();
    CHECK(weightsAt(in, 5, 5)[1] == 85);
}
