// Files that come and go through the real window: saved, opened, dropped, imported, handed over.
#include <catch2/catch.hpp>

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QTemporaryDir>

#include "cover/weights.h"
#include "files/field_level.h"
#include "files/level_file.h"
#include "files/png.h"
#include "level/ground.h"
#include "levels.h"
#include "paintable.h"
#include "panels/bench.h"
#include "panels/readout.h"
#include "panels/section.h"
#include "panels/sheet.h"
#include "panels/trail.h"
#include "stage.h"
#include "stations/cover/layer_strip.h"
#include "stations/hand_over/hand_over_station.h"
#include "stations/lay_out/import_dialog.h"
#include "stations/lay_out/layout_dialog.h"
#include "stations/light/sun_dial.h"

using namespace jam;
using namespace jam::test;

TEST_CASE("save and reopen gives the identical level") {
    const QTemporaryDir folder;
    const QString path = folder.filePath("hill.jamhill");
    Stage stage(paintable());
    stage.drag(stage.pixelOf(-30, 10), stage.pixelOf(30, 10));
    stage.place.standpoint.setStation("cover");
    stage.drag(stage.pixelOf(-30, 30), stage.pixelOf(30, 30));
    const Level made = stage.place.document.level();
    stage.window.saveTo(path);
    stage.settle();
    CHECK_FALSE(stage.place.document.dirty());
    CHECK_FALSE(stage.window.windowTitle().contains('*'));
    const QImage picture = stage.picture();

    Stage again(paintable(65));
    again.window.openFile(path);
    again.settle();
    CHECK(again.place.document.level() == made);
    CHECK(again.place.document.path() == path);
    CHECK_FALSE(again.place.document.dirty());
    CHECK(again.window.windowTitle().contains("flat"));
    // And it looks the same.
    again.view().setCamera(stage.view().camera());
    const QImage reopened = again.picture();
    REQUIRE(reopened.size() == picture.size());
    CHECK(differenceNear(reopened, picture, picture.rect().center(), 300) < 0.5);
}

TEST_CASE("a file that cannot be opened or written is refused in words and the level stays") {
    const QTemporaryDir folder;
    Stage stage(paintable());
    stage.drag(stage.pixelOf(-30, 10), stage.pixelOf(30, 10));
    const Level before = stage.place.document.level();
    QFile bad(folder.filePath("bad.jamhill"));
    REQUIRE(bad.open(QIODevice::WriteOnly));
    bad.write("not a level at all");
    bad.close();
    stage.window.openFile(bad.fileName());
    stage.settle();
    CHECK(stage.window.lastMessage().contains("not a level file"));
    CHECK(stage.place.document.level() == before);
    stage.window.saveTo(folder.filePath("gone/deep/hill.jamhill"));
    stage.settle();
    CHECK(stage.window.lastMessage().contains("folder is gone"));
    CHECK(stage.place.document.dirty());
    stage.window.station<HandOverStation>()->handOverTo(bad.fileName() + "/under-a-file", {});
    stage.settle();
    CHECK(stage.window.lastMessage().contains("path"));
    CHECK(stage.place.document.level() == before);
}

TEST_CASE("the button hands over into the folder that is named") {
    const QTemporaryDir folder;
    Stage stage(paintable());
    stage.place.standpoint.setStation("handOver");
    auto* where = stage.window.sheet()->findChild<QLineEdit*>("handOverFolder");
    where->setText(folder.filePath("out"));
    QTest::mouseClick(stage.window.sheet()->findChild<QPushButton*>("handOver"), Qt::LeftButton);
    stage.settle();
    CHECK(QFile::exists(folder.filePath("out/heightmap.png")));
    CHECK(QFile::exists(folder.filePath("out/weights-1.png")));
    CHECK(QFile::exists(folder.filePath("out/manifest.json")));
    CHECK(stage.window.trail()->station("handOver")->state() == "as handed over");
    stage.drag(stage.pixelOf(-30, 10), stage.pixelOf(30, 10));  // not at a station with a brush: nothing happens
    CHECK(stage.place.document.history().entries().size() == 1);
    stage.place.standpoint.setStation("shape");
    stage.drag(stage.pixelOf(-30, 10), stage.pixelOf(30, 10));
    CHECK(stage.window.trail()->station("handOver")->state() == "changed since");
}

TEST_CASE("the lay-out dialog tells what a level costs and refuses what cannot be") {
    const std::vector<Layer> layers{plainLayer("Clay"), plainLayer("Fern")};
    LayoutDialog dialog(layers);
    dialog.show();
    auto* width = dialog.findChild<QDoubleSpinBox*>("width");
    auto* make = dialog.findChild<QPushButton*>("make");
    auto* cost = dialog.findChild<QLabel*>("cost");
    auto* wrong = dialog.findChild<QLabel*>("wrong");
    width->setValue(1024);
    CHECK(cost->text().contains("1025 × 513"));
    CHECK(make->isEnabled());
    width->setValue(20000);
    CHECK_FALSE(make->isEnabled());
    CHECK(wrong->text().contains("8193"));
    dialog.findChild<QDoubleSpinBox*>("spacing")->setValue(4);
    CHECK(make->isEnabled());
    dialog.findChild<QDoubleSpinBox*>("start")->setValue(900);
    CHECK_FALSE(make->isEnabled());
    dialog.findChild<QDoubleSpinBox*>("start")->setValue(10);
    dialog.findChild<QComboBox*>("firstLayer")->setCurrentIndex(1);
    const Result<Level> level = dialog.level();
    REQUIRE(level);
    CHECK(level.value().columns == 5001);
    CHECK(level.value().startHeight == 10);
    CHECK(level.value().layers[0].name == "Fern");
    // Generated ground has to fit below the highest.
    CHECK_FALSE(dialog.landscape());
    dialog.findChild<QComboBox*>("ground")->setCurrentIndex(3);
    dialog.findChild<QDoubleSpinBox*>("formHeight")->setValue(500);
    CHECK_FALSE(make->isEnabled());
    dialog.findChild<QDoubleSpinBox*>("formHeight")->setValue(80);
    CHECK(make->isEnabled());
    REQUIRE(dialog.landscape());
    CHECK(dialog.landscape()->kind == Landscape::island);
    CHECK(dialog.landscape()->height == 80);
}

TEST_CASE("dropping a level file opens it", "[card]") {
    const QTemporaryDir folder;
    const QString path = folder.filePath("dropped.jamhill");
    const Level level = hillyLevel(65, 65, 9, 2);
    REQUIRE(saveLevel(level, path.toStdString()));
    Stage stage(paintable());
    stage.drop(path);
    CHECK(stage.place.document.level() == level);
}

TEST_CASE("a heightmap becomes a level through the dialog, and eight bits are warned of") {
    const std::vector<Layer> layers{plainLayer("Clay"), plainLayer("Fern")};
    Pixels picture{9, 5, 1, 8, {}};
    for (int i = 0; i < 45; ++i) picture.samples.push_back(static_cast<uint16_t>(i * 5));
    const Bytes bytes = encodePng(picture);
    ImportDialog dialog(layers, bytes, decodeHeightField(bytes, "hills.png").take(), std::nullopt, "hills.png");
    dialog.show();
    CHECK(dialog.findChild<QLabel*>("warns")->text().contains("256 steps"));
    CHECK(dialog.levelName() == "hills");
    auto* black = dialog.findChild<QDoubleSpinBox*>("black");
    auto* white = dialog.findChild<QDoubleSpinBox*>("white");
    auto* make = dialog.findChild<QPushButton*>("make");
    white->setValue(-5);
    CHECK_FALSE(make->isEnabled());
    black->setValue(-10);
    white->setValue(41);
    dialog.findChild<QDoubleSpinBox*>("spacing")->setValue(2);
    dialog.findChild<QCheckBox*>("soften")->setChecked(false);
    CHECK(make->isEnabled());
    Level level = levelFromField(dialog.field(), dialog.wish()).take();
    CHECK(level.columns == 9);
    CHECK(level.depth() == 8);
    CHECK(groundSample(level, 0, 0) == Approx(-10));
    CHECK(groundSample(level, 8, 4) == Approx(-10 + 51 * 220 / 255.0));
    CHECK(level.lowest < -10);  // room to dig
    dialog.findChild<QComboBox*>("fit")->setCurrentIndex(1);
    CHECK(levelFromField(dialog.field(), dialog.wish()).value().columns == 257);
}

TEST_CASE("a raw heightmap with the wrong byte order looks like static, and is put right in the dialog") {
    Bytes bytes;
    for (int i = 0; i < 64 * 64; ++i) {
        const int v = 20000 + 150 * (i % 64) + 90 * (i / 64);
        bytes.push_back(static_cast<uint8_t>(v & 255));
        bytes.push_back(static_cast<uint8_t>(v >> 8));
    }
    const RawLayout wrong{64, 64, RawSample::u16, true, 0};
    ImportDialog dialog({plainLayer("Clay")}, bytes, decodeHeightField(bytes, "h.raw", wrong).take(), wrong, "h.raw");
    dialog.show();
    auto* warns = dialog.findChild<QLabel*>("warns");
    CHECK(warns->text().contains("static"));
    dialog.findChild<QComboBox*>("rawOrder")->setCurrentIndex(0);
    CHECK_FALSE(warns->text().contains("static"));
    CHECK(dialog.field().low == 20000);
    auto* make = dialog.findChild<QPushButton*>("make");
    dialog.findChild<QSpinBox*>("rawWidth")->setValue(640);
    CHECK_FALSE(make->isEnabled());
    CHECK(dialog.findChild<QLabel*>("wrong")->text().contains("bytes"));
    dialog.findChild<QSpinBox*>("rawWidth")->setValue(64);
    CHECK(make->isEnabled());
}

TEST_CASE("a picture dropped at Cover becomes a layer, one that is none is refused in words") {
    const QTemporaryDir folder;
    Stage stage(paintable());
    stage.place.standpoint.setStation("cover");
    const auto dropOn = [&](const QString& path) { stage.drop(path); };
    const auto accept = [](QWidget* dialog) { static_cast<QDialog*>(dialog)->accept(); };
    QImage image(64, 32, QImage::Format_RGB32);
    image.fill(QColor(30, 140, 200));
    for (const char* name : {"tarn.png", "tarn.jpg", "tarn.bmp"}) {
        const size_t before = stage.place.document.level().layers.size();
        REQUIRE(image.save(folder.filePath(name)));
        stage.answer(accept);
        dropOn(folder.filePath(name));
        stage.settle();
        REQUIRE(stage.place.document.level().layers.size() == before + 1);
        CHECK(stage.place.document.level().layers.back().name == "tarn");
        CHECK(stage.place.standpoint.layer() == stage.place.document.level().layers.back().id);
    }
    stage.drag(stage.pixelOf(-20, 0), stage.pixelOf(20, 0));
    const QImage picture = stage.picture();
    const QRgb p = picture.pixel(stage.pixelOf(0, 0));
    CHECK(qBlue(p) > qRed(p) + 30);
    QFile bad(folder.filePath("bad.jpg"));
    REQUIRE(bad.open(QIODevice::WriteOnly));
    bad.write("no picture");
    bad.close();
    const Level before = stage.place.document.level();
    dropOn(bad.fileName());
    CHECK(stage.window.lastMessage().contains("not a picture that can be read"));
    dropOn(folder.filePath("missing.png"));
    CHECK(stage.window.lastMessage().contains("does not exist"));
    CHECK(stage.place.document.level() == before);
}

TEST_CASE("a level holds at most sixteen layers, and says so") {
    const QTemporaryDir folder;
    Level level = flatLevel(33, 33, kMaxLayers);
    Stage stage(level);
    stage.place.standpoint.setStation("cover");
    QImage image(8, 8, QImage::Format_RGB32);
    image.fill(Qt::red);
    REQUIRE(image.save(folder.filePath("one-more.png")));
    stage.drop(folder.filePath("one-more.png"));
    CHECK(stage.place.document.level().layers.size() == kMaxLayers);
    CHECK(stage.window.lastMessage().contains("at most 16 layers"));
    // All sixteen can be chosen (that they are drawn: render_test).
    for (size_t i = 0; i < kMaxLayers; ++i) {
        stage.place.chooseLayer(stage.place.document.level().layers[i].id);
        CHECK(stage.place.standpoint.layer() == stage.place.document.level().layers[i].id);
    }
    stage.settle();
    CHECK(stage.view().settled());
}
