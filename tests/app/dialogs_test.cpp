// Every dialog, opened by the command that a person uses and given files of every kind that it names, good and broken:
// all of its choices are tried, it is dismissed once and accepted once. Nothing ends the program, what is refused is
// told in words and changes nothing, and what comes in can be kept.
#include <catch2/catch.hpp>

#include <QAction>
#include <QCheckBox>
#include <QColorDialog>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QMessageBox>
#include <QPushButton>
#include <QSlider>
#include <QSpinBox>
#include <QTemporaryDir>

#include "elevation_files.h"
#include "files/level_file.h"
#include "files/png.h"
#include "files/settings_json.h"
#include "folder.h"
#include "level/ground.h"
#include "levels.h"
#include "stage.h"
#include "stations/cover/layer_dialog.h"
#include "stations/cover/weights_dialog.h"
#include "stations/hand_over/hand_over_station.h"
#include "stations/lay_out/import_dialog.h"
#include "stations/lay_out/layout_dialog.h"
#include "survey/check.h"

using namespace jam;
using namespace jam::test;

namespace {

QString text(const std::filesystem::path& path) { return QString::fromStdString(path.string()); }

// Types names into a dialog for files, as a person does who knows them, and presses Enter.
void typeFiles(QWidget* open, const QStringList& paths) {
    auto* dialog = qobject_cast<QFileDialog*>(open);
    REQUIRE(dialog);
    auto* name = dialog->findChild<QLineEdit*>("fileNameEdit");
    REQUIRE(name);
    name->setText(paths.size() == 1 ? paths.front() : "\"" + paths.join("\" \"") + "\"");
    QTest::keyClick(name, Qt::Key_Return);
}

// Each choice of each field that is seen, each box there and back, each number at its least, its most and as it was.
void tryEverything(QWidget* dialog) {
    for (auto* c : dialog->findChildren<QComboBox*>()) {
        const int was = c->currentIndex();
        for (int i = 0; i < c->count() && c->isVisible(); ++i) {
            c->setCurrentIndex(i);
            emit c->activated(i);
        }
        c->setCurrentIndex(was);
        if (was >= 0) emit c->activated(was);
    }
    for (auto* b : dialog->findChildren<QCheckBox*>())
        for (int i = 0; i < 2 && b->isVisible() && b->isEnabled(); ++i) b->click();
    for (auto* s : dialog->findChildren<QDoubleSpinBox*>()) {
        const double was = s->value();
        for (const double v : {s->minimum(), s->maximum(), was}) s->setValue(v);
    }
    for (auto* s : dialog->findChildren<QSpinBox*>()) {
        const int was = s->value();
        for (const int v : {s->minimum(), s->maximum(), was}) s->setValue(v);
    }
    QTest::qWait(80);  // what looks a moment later
}

void accept(QWidget* dialog) {
    for (auto* b : dialog->findChildren<QPushButton*>())
        if (b->isDefault() && b->isEnabled()) return b->click();
    FAIL("nothing to accept with");
}

// Starts a command; it comes back when its first dialog has been answered, or at once.
void trigger(Stage& stage, const char* command) {
    QAction* a = stage.window.actions()[command];
    REQUIRE(a);
    a->trigger();
    stage.window.work().wait();
}

void pressIn(QWidget* box, const char* id) {
    auto* button = box->findChild<QPushButton*>(id);
    REQUIRE(button);
    button->click();
}

Level withLayers(int layers) {
    Level level = hillyLevel(97, 65, 6, layers);
    level.name = "small";
    return level;
}

void checkKept(const Level& level, const Folder& folder) {
    CHECK(checkLevel(level).empty());
    REQUIRE(saveLevel(level, folder.path / "kept.jamhill"));
    CHECK(loadLevel(folder.path / "kept.jamhill").value() == level);
}

}  // namespace

TEST_CASE("heightmaps of every kind are taken in through their dialog, as a level and as a stratum") {
    const Folder folder;
    Stage stage(withLayers(2));
    for (const ElevationFile& file : writeElevationFiles(folder.path)) {
        INFO(file.path.filename().string());
        stage.place.document.open(ReadyLevel(withLayers(2)), text(folder.path / "small.jamhill"), "Open");
        const Level before = stage.place.document.standing();
        const auto with = [&](const std::function<void(ImportDialog&)>& act) {
            stage.answer([&, act](QWidget* open) {
                stage.answer([act](QWidget* next) {
                    auto* dialog = qobject_cast<ImportDialog*>(next);
                    REQUIRE(dialog);
                    CHECK(dialog->isVisible());
                    act(*dialog);
                });
                typeFiles(open, {text(file.path)});
            });
            trigger(stage, "import");
        };
        with([&](ImportDialog& d) {
            CHECK(d.field().metres == file.metres);
            CHECK(d.findChild<QLabel*>("facts")->text().contains(QString::number(file.width)));
            CHECK(d.findChild<QLabel*>("wrong")->text().isEmpty());
            tryEverything(&d);
            d.reject();
        });
        CHECK(stage.place.document.level() == before);
        with([](ImportDialog& d) { accept(&d); });
        const Level& made = stage.place.document.standing();
        CHECK(made.columns >= file.width - 1);
        CHECK(made.name == file.path.stem().string());
        checkKept(made, folder);
        // Onto the present level, as a stratum.
        with([](ImportDialog& d) {
            auto* becomes = d.findChild<QComboBox*>("becomes");
            becomes->setCurrentIndex(1);
            accept(&d);
        });
        REQUIRE(stage.waitFor([&] { return stage.place.clips.held() != nullptr; }));
        stage.place.clips.putAway();
    }
    stage.settle();
}

TEST_CASE("files that are none are refused in words by every dialog, and the level stays") {
    const Folder folder;
    const auto broken = writeBrokenFiles(folder.path);
    Stage stage(withLayers(3));
    const Level before = stage.place.document.standing();
    const auto refused = [&](const char* command, const QString& file) {
        INFO(command << ", " << file.toStdString());
        stage.window.say("nothing yet");
        // What does not say what it is may be raw, which is asked about.
        QTimer thinksBetter;
        QObject::connect(&thinksBetter, &QTimer::timeout, &stage.window, [] {
            if (auto* dialog = qobject_cast<ImportDialog*>(QApplication::activeModalWidget())) dialog->reject();
        });
        thinksBetter.start(20);
        stage.answer([&](QWidget* open) { typeFiles(open, {file}); });
        trigger(stage, command);
        stage.settle();
        CHECK(QApplication::activeModalWidget() == nullptr);
        CHECK(stage.place.document.level() == before);
        return stage.window.lastMessage();
    };
    for (const auto& file : broken) {
        const QString told = refused("import", text(file));
        if (file.extension() == ".png" && file.stem() != "empty")
            CHECK(told.contains(QString::fromStdString(file.filename().string())));
        CHECK(refused("open", text(file)).contains(QString::fromStdString(file.filename().string())));
    }
}

TEST_CASE("a new level is laid out with every kind of ground, accepted and dismissed") {
    const Folder folder;
    Stage stage(withLayers(1));
    for (int ground = 0; ground < 7; ++ground) {
        stage.place.document.open(ReadyLevel(withLayers(1)), text(folder.path / "small.jamhill"), "Open");
        const Level before = stage.place.document.standing();
        stage.answer([](QWidget* open) {
            REQUIRE(qobject_cast<LayoutDialog*>(open));
            tryEverything(open);
            static_cast<QDialog*>(open)->reject();
        });
        trigger(stage, "new");
        CHECK(stage.place.document.standing() == before);
        stage.answer([ground](QWidget* open) {
            for (const char* side : {"width", "depth"}) open->findChild<QDoubleSpinBox*>(side)->setValue(90);
            auto* kinds = open->findChild<QComboBox*>("ground");
            REQUIRE(kinds->count() == 7);
            kinds->setCurrentIndex(ground);
            accept(open);
        });
        trigger(stage, "new");
        stage.settle();
        CHECK(stage.place.document.standing().columns == 91);
        checkKept(stage.place.document.standing(), folder);
    }
}

TEST_CASE("a level is saved under the name that comes of what was typed, and asks before it replaces one") {
    const Folder folder;
    Stage stage(withLayers(2));
    const Level other = withLayers(1);
    const auto file = folder.path / "foo.jamhill";
    REQUIRE(saveLevel(other, file));
    const auto saveAs = [&](const QString& typed, std::optional<QMessageBox::StandardButton> answer) {
        bool asked = false;
        stage.answer([&](QWidget* open) {
            auto* files = qobject_cast<QFileDialog*>(open);
            REQUIRE(files);
            stage.answer([&, files](QWidget* next) {
                if (auto* box = qobject_cast<QMessageBox*>(next)) {
                    asked = true;
                    REQUIRE(answer);
                    box->button(*answer)->click();
                }
                if (files->isVisible()) files->reject();
            });
            typeFiles(open, {typed});
        });
        trigger(stage, "saveAs");
        stage.settle();
        return asked;
    };
    CHECK(saveAs(text(folder.path / "foo"), QMessageBox::No));
    CHECK(loadLevel(file).value() == other);
    CHECK(stage.place.document.path().isEmpty());
    CHECK(saveAs(text(folder.path / "foo"), QMessageBox::Yes));
    CHECK(loadLevel(file).value() == stage.place.document.standing());
    CHECK(stage.place.document.path() == text(file));
    // What lay there stays beside it.
    CHECK(loadLevel(backupOf(file)).value() == other);
    CHECK(folder.files() == 2);
}

TEST_CASE("work that finishes while a level is chosen is asked about before it is replaced") {
    const Folder folder;
    REQUIRE(saveLevel(withLayers(1), folder.path / "other.jamhill"));
    Stage stage(withLayers(2));
    stage.window.saveTo(text(folder.path / "mine.jamhill"));
    stage.window.work().wait();
    Level finished;
    bool asked = false;
    stage.answer([&](QWidget* open) {
        // Work that was begun before finishes now: rain, say.
        stage.place.document.edit("Rain", [](Level& l) { l.strata[0].heights.set(5, 5, 40); });
        finished = stage.place.document.standing();
        stage.answer([&](QWidget* next) {
            asked = qobject_cast<QMessageBox*>(next) != nullptr;
            static_cast<QMessageBox*>(next)->button(QMessageBox::Cancel)->click();
        });
        typeFiles(open, {text(folder.path / "other.jamhill")});
    });
    trigger(stage, "open");
    stage.settle();
    CHECK(asked);
    CHECK(stage.place.document.standing() == finished);
}

TEST_CASE("closing while something is made asks, and does what was answered") {
    for (const char* answer : {"finishWork", "stopWork"}) {
        Stage stage(withLayers(2));
        std::atomic<bool> go{false};
        stage.window.workOn("Rain", LevelJob::onAll([&go](Level& l, const Context& c) -> Status {
                                while (!go && !c.cancelled()) std::this_thread::sleep_for(std::chrono::milliseconds(5));
                                if (c.cancelled()) return cancelledError();
                                l.strata[0].heights.set(5, 5, 40);
                                return {};
                            }));
        stage.place.document.markSaved("/nowhere/a.jamhill", stage.place.document.history().serial(),
                                       stage.place.document.standing());
        // Staying stays.
        stage.answer([](QWidget* open) { static_cast<QMessageBox*>(open)->reject(); });
        CHECK_FALSE(stage.window.close());
        CHECK(stage.window.work().running());
        bool unsaved = false;
        stage.answer([&](QWidget* open) {
            stage.answer([&](QWidget* next) {
                unsaved = true;
                static_cast<QMessageBox*>(next)->button(QMessageBox::Discard)->click();
            });
            go = QByteArray(answer) == "finishWork";
            pressIn(open, answer);
        });
        CHECK(stage.window.close());
        // What was made is not saved, which is asked about in its turn.
        CHECK(unsaved == go);
        CHECK(groundSample(stage.place.document.standing(), 5, 5) ==
              (go ? Approx(40).margin(0.5) : Approx(groundSample(withLayers(2), 5, 5))));
        go = true;
    }
}

TEST_CASE("layers are made of pictures of every kind, swapped, and weights taken in, with one layer and with sixteen") {
    const Folder folder;
    QStringList pictures;
    for (const char* ending : {"png", "jpg", "bmp", "tga", "tif", "webp"}) {
        QImage p(24, 16, QImage::Format_RGB32);
        for (int y = 0; y < 16; ++y)
            for (int x = 0; x < 24; ++x) p.setPixel(x, y, qRgb(10 * x, 15 * y, 90));
        const QString file = text(folder.path / (std::string("stone_colour.") + ending));
        if (p.save(file)) pictures << file;
    }
    REQUIRE(pictures.size() >= 4);
    for (const int layers : {1, 15}) {
        Stage stage(withLayers(layers));
        stage.window.actions()["cover"]->trigger();
        for (const QString& file : layers == 1 ? pictures : pictures.mid(0, 1)) {
            INFO(file.toStdString() << " beside " << layers);
            for (const bool takes : {false, true}) {
                const size_t before = stage.place.document.standing().layers.size();
                stage.answer([takes](QWidget* open) {
                    REQUIRE(qobject_cast<LayerDialog*>(open));
                    tryEverything(open);
                    if (takes) accept(open);
                    else static_cast<QDialog*>(open)->reject();
                });
                stage.drop(file);
                stage.window.work().wait();
                stage.settle();
                CHECK(stage.place.document.standing().layers.size() == before + takes);
            }
        }
        if (layers == 15) {
            stage.drop(pictures.front());  // there is no room for a seventeenth
            CHECK(stage.window.lastMessage().contains("16"));
        }
        checkKept(stage.place.document.standing(), folder);
        // Pictures of the chosen layer are swapped.
        stage.answer([](QWidget* open) {
            REQUIRE(qobject_cast<LayerDialog*>(open));
            tryEverything(open);
            accept(open);
        });
        stage.find<QToolButton>("partLayer")->click();
        stage.find<QPushButton>("swapPictures")->click();
        stage.window.work().wait();
        stage.settle();
        checkKept(stage.place.document.standing(), folder);
        // Weights from what was handed over.
        HandoverWish wish;
        stage.window.station<HandOverStation>()->handOverTo(text(folder.path / "out"), wish);
        stage.window.work().wait();
    }
}

TEST_CASE("brushes, clips and tips of nearly the same name lie beside each other, and one of the same is asked about") {
    Stage stage(withLayers(2));
    Shelf& shelf = stage.window.shelf();
    const auto own = [&] {
        QStringList names;
        for (const Shelf::Brush& b : shelf.brushes())
            if (b.own) names << QString::fromStdString(b.preset.name);
        names.sort();
        return names;
    };
    const auto keep = [&](const QString& name, std::optional<const char*> answer) {
        bool asked = false;
        stage.answer([&](QWidget* open) {
            stage.answer([&](QWidget* next) {
                asked = true;
                REQUIRE(answer);
                pressIn(next, *answer);
            });
            open->findChild<QLineEdit*>()->setText(name);
            static_cast<QDialog*>(open)->accept();
        });
        stage.window.actions()["keepBrush"]->trigger();
        // What waited for a question in vain answers nothing later.
        stage.answer([](QWidget*) {});
        return asked;
    };
    const auto radius = [&](const QString& name) {
        for (const Shelf::Brush& b : shelf.brushes())
            if (b.own && QString::fromStdString(b.preset.name) == name) return b.preset.settings.radius;
        return -1.f;
    };
    stage.place.toolbox.setTool(Tool::raise);
    const auto setRadius = [&](float r) {
        stage.place.toolbox.changeSettings([r](StrokeSettings& s) { s.radius = r; });
    };
    setRadius(3);
    REQUIRE(shelf.keep("Rock 1", stage.place.toolbox.settings()));
    setRadius(5);
    REQUIRE(shelf.keep("rock-1", stage.place.toolbox.settings()));
    REQUIRE(shelf.keep("ROCK 1", stage.place.toolbox.settings()));
    CHECK(own() == QStringList({"ROCK 1", "Rock 1", "rock-1"}));
    CHECK(radius("Rock 1") == 3);
    setRadius(7);
    CHECK(keep("Rock 1", "no"));
    CHECK(radius("Rock 1") == 3);
    CHECK(keep("Rock 1", "yes"));
    CHECK(radius("Rock 1") == 7);
    CHECK(own().size() == 3);
    while (!own().isEmpty())
        for (size_t i = 0; i < shelf.brushes().size(); ++i)
            if (shelf.brushes()[i].own) {
                REQUIRE(shelf.removeBrush(i));
                break;
            }
    // Clips: the file of the one that has the very name, or one that is free.
    REQUIRE(saveLevel(
        [] {
            Level l = withLayers(1);
            l.name = "Rock 1";
            return l;
        }(),
        shelf.clipFile("Rock 1").toStdString()));
    shelf.clipsChanged();
    CHECK(shelf.hasClip("Rock 1"));
    CHECK_FALSE(shelf.hasClip("rock-1"));
    CHECK(shelf.clipFile("Rock 1") == shelf.clips().front().file);
    CHECK(shelf.clipFile("rock-1") != shelf.clips().front().file);
    REQUIRE(shelf.removeClip(0));
    // Tips: what is there stays.
    const Folder folder;
    for (const int grey : {60, 200}) {
        Pixels p{8, 8, 1, 8, std::vector<uint16_t>(64, static_cast<uint16_t>(grey))};
        const auto file = folder.path / std::to_string(grey) / "dune.png";
        std::filesystem::create_directories(file.parent_path());
        put(file, encodePng(p));
        REQUIRE(shelf.addTip(text(file)));
    }
    std::vector<float> dunes;
    for (const TipPtr& t : shelf.tips())
        if (t->name.starts_with("Dune")) dunes.push_back(t->values[0]);
    REQUIRE(dunes.size() == 2);
    CHECK(dunes[0] != dunes[1]);
    QDir(Shelf::ownFolder() + "/tips").removeRecursively();
}
