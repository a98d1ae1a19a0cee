// Work that was not saved: kept while one works, offered at the next start, taken up, kept for later or thrown away.
#include <catch2/catch.hpp>

#include <fstream>
#include <QLabel>
#include <QListWidget>
#include <QMessageBox>
#include <QPushButton>

#include "files/level_file.h"
#include "folder.h"
#include "levels.h"
#include "stage.h"
#include "window/kept_work_dialog.h"

using namespace jam;
using namespace jam::test;

namespace {

std::filesystem::path journals(const Folder& folder) { return folder.path / "state" / "jamhill"; }

void stroke(Stage& stage, int x) {
    const QPoint at = stage.view().rect().center() + QPoint(x, 40);
    stage.drag(at, at + QPoint(25, 6));
    stage.settle();
    REQUIRE(stage.window.keeping().settle());
}

// What a killed program would leave, as a copy that nobody writes.
std::filesystem::path leftBy(const Folder& folder) {
    const auto copy = folder.path / "left";
    std::filesystem::remove_all(copy);
    std::filesystem::create_directories(copy);
    if (std::filesystem::exists(journals(folder)))
        std::filesystem::copy(journals(folder), copy, std::filesystem::copy_options::recursive);
    return copy;
}

Level onlyOneTakenUp(const std::filesystem::path& folder) {
    const auto all = keptWork(folder);
    REQUIRE(all.size() == 1);
    Result<TakenUp> taken = takeUpWork(all.front().journal);
    if (!taken) FAIL(taken.error().sentence());
    return taken.value().history.now();
}

bool readable(KeptWorkDialog& dialog) {
    for (int i = 0; i < 600 && !dialog.findChild<QPushButton*>("takeUp")->isEnabled(); ++i) QTest::qWait(10);
    return dialog.findChild<QPushButton*>("takeUp")->isEnabled();
}

}  // namespace

TEST_CASE("strokes, edits and undo are kept as they are made, and a save keeps what comes after it") {
    const Folder folder;
    Stage stage(hillyLevel(129, 97, 3), journals(folder));
    CHECK(keptWork(leftBy(folder)).empty());
    stroke(stage, 0);
    const Level first = stage.place.document.standing();
    CHECK(onlyOneTakenUp(leftBy(folder)) == first);
    stroke(stage, 60);
    stage.key(Qt::Key_Z, Qt::ControlModifier);
    stage.settle();
    REQUIRE(stage.window.keeping().settle());
    CHECK(onlyOneTakenUp(leftBy(folder)) == first);
    stage.place.document.edit("Turn the sun", [](Level& l) { l.sun.azimuth = 12; });
    REQUIRE(stage.window.keeping().settle());
    CHECK(onlyOneTakenUp(leftBy(folder)) == stage.place.document.standing());
    // Saved, nothing is left to lose; what comes then goes on from the file.
    const auto file = folder.path / "a.jamhill";
    stage.window.saveTo(QString::fromStdString(file.string()));
    stage.settle();
    REQUIRE(stage.window.keeping().settle());
    CHECK(keptWork(leftBy(folder)).empty());
    stroke(stage, -60);
    const auto left = leftBy(folder);
    CHECK(onlyOneTakenUp(left) == stage.place.document.standing());
    CHECK(keptWork(left).front().file == file);
    CHECK(keptWork(left).front().steps == 1);
}

TEST_CASE("a save that fails loses nothing of what is kept") {
    const Folder folder;
    Stage stage(hillyLevel(129, 97, 4), journals(folder));
    stroke(stage, 0);
    stage.window.saveTo(QString::fromStdString((folder.path / "gone" / "a.jamhill").string()));
    stage.settle();
    CHECK(stage.place.document.dirty());
    stroke(stage, 50);
    CHECK(onlyOneTakenUp(leftBy(folder)) == stage.place.document.standing());
}

TEST_CASE("another level begins another journal, and leaving as one chose leaves none") {
    const Folder folder;
    const auto file = folder.path / "a.jamhill";
    REQUIRE(saveLevel(hillyLevel(97, 129, 5), file));
    Stage stage(hillyLevel(129, 97, 6), journals(folder));
    stroke(stage, 0);
    stage.window.openFile(QString::fromStdString(file.string()));
    stage.answer([](QWidget* box) {
        for (auto* b : box->findChildren<QPushButton*>())
            if (b->text().contains("Discard") || b->text().contains("Don't")) return b->click();
    });
    stage.settle();
    REQUIRE(stage.place.document.path() == QString::fromStdString(file.string()));
    REQUIRE(stage.window.keeping().settle());
    CHECK(keptWork(leftBy(folder)).empty());
    stroke(stage, 0);
    CHECK(keptWork(leftBy(folder)).front().file == file);
    stage.answer([](QWidget* box) {
        for (auto* b : box->findChildren<QPushButton*>())
            if (b->text().contains("Discard") || b->text().contains("Don't")) return b->click();
    });
    CHECK(stage.window.close());
    // Written on a thread of its own, which the window does not wait for before it ends.
    for (int i = 0; i < 300 && !keptWork(leftBy(folder)).empty(); ++i) QTest::qWait(10);
    CHECK(keptWork(leftBy(folder)).empty());
}

TEST_CASE("what was kept is offered, taken up with its history, and goes on being kept") {
    const Folder folder;
    Level kept;
    std::filesystem::path left;
    {
        Stage stage(hillyLevel(129, 97, 7), journals(folder));
        stroke(stage, 0);
        stroke(stage, 60);
        kept = stage.place.document.standing();
        left = leftBy(folder);
        stage.window.keeping().end();
    }
    KeptWorkDialog dialog(keptWork(left));
    dialog.show();
    REQUIRE(readable(dialog));
    auto* list = dialog.findChild<QListWidget*>("keptWorkList");
    REQUIRE(list->count() == 1);
    CHECK(list->item(0)->text().contains("2 steps"));
    CHECK(list->item(0)->text().contains("never saved"));
    dialog.findChild<QPushButton*>("takeUp")->click();
    CHECK(dialog.result() == QDialog::Accepted);
    auto taken = dialog.take();
    REQUIRE(taken);
    Stage stage(hillyLevel(65, 65, 1), left);
    stage.window.keeping().goOn(std::move(*taken));
    stage.settle();
    CHECK(stage.place.document.standing() == kept);
    CHECK(stage.place.document.dirty());
    CHECK(stage.place.document.history().entries().size() == 3);
    stage.place.document.undo();
    stage.settle();
    CHECK_FALSE(stage.place.document.standing() == kept);
    stage.place.document.redo();
    stroke(stage, -40);
    const auto again = folder.path / "again";
    std::filesystem::copy(left, again);
    CHECK(onlyOneTakenUp(again) == stage.place.document.standing());
}

TEST_CASE("work is kept for later, thrown away when asked twice, and refused in words when it does not fit") {
    const Folder folder;
    const auto file = folder.path / "a.jamhill";
    REQUIRE(saveLevel(hillyLevel(97, 129, 8), file));
    std::filesystem::path left;
    {
        Stage stage(hillyLevel(129, 97, 9), journals(folder));
        stage.window.openFile(QString::fromStdString(file.string()));
        stage.settle();
        stroke(stage, 0);
        left = leftBy(folder);
        stage.window.keeping().end();
    }
    {
        KeptWorkDialog later(keptWork(left));
        later.show();
        REQUIRE(readable(later));
        later.findChild<QPushButton*>("keepForLater")->click();
        CHECK(later.result() == QDialog::Rejected);
        CHECK_FALSE(later.take());
    }
    REQUIRE(keptWork(left).size() == 1);
    // The file became another one.
    std::filesystem::rename(file, folder.path / "b.jamhill");
    REQUIRE(saveLevel(hillyLevel(97, 129, 18), file));
    KeptWorkDialog dialog(keptWork(left));
    dialog.show();
    auto* trouble = dialog.findChild<QLabel*>("keptWorkTrouble");
    for (int i = 0; i < 600 && trouble->isHidden(); ++i) QTest::qWait(10);
    CHECK(trouble->text().contains("a.jamhill"));
    CHECK_FALSE(dialog.findChild<QPushButton*>("takeUp")->isEnabled());
    auto* away = dialog.findChild<QPushButton*>("throwAway");
    away->click();
    CHECK(keptWork(left).size() == 1);
    away->click();
    CHECK(keptWork(left).empty());
    CHECK(dialog.result() == QDialog::Rejected);
}

TEST_CASE("a file that another program changed is not saved over unasked") {
    const Folder folder;
    const QString path = QString::fromStdString((folder.path / "a.jamhill").string());
    Stage stage(hillyLevel(65, 97, 2));
    stage.window.saveTo(path);
    stage.settle();
    stroke(stage, 0);
    const Level other = hillyLevel(65, 97, 22);
    REQUIRE(saveLevel(other, folder.path / "a.jamhill"));
    QString asked;
    stage.answer([&](QWidget* box) {
        asked = qobject_cast<QMessageBox*>(box)->text();
        box->findChild<QPushButton*>("no")->click();
    });
    stage.window.saveTo(path);
    stage.settle();
    CHECK(asked.contains("a.jamhill"));
    CHECK(loadLevel(folder.path / "a.jamhill").value() == other);
    CHECK(stage.place.document.dirty());
    stage.answer([](QWidget* box) { box->findChild<QPushButton*>("yes")->click(); });
    stage.window.saveTo(path);
    stage.settle();
    CHECK(loadLevel(folder.path / "a.jamhill").value() == stage.place.document.standing());
    // Its own saves are no other program's.
    stroke(stage, 40);
    stage.window.saveTo(path);
    stage.settle();
    CHECK_FALSE(stage.place.document.dirty());
}

TEST_CASE("the save before is kept beside, and offered when the file is damaged") {
    const Folder folder;
    const auto file = folder.path / "a.jamhill";
    const Level first = hillyLevel(65, 97, 3);
    REQUIRE(saveLevel(first, file));
    CHECK_FALSE(std::filesystem::exists(backupOf(file)));
    REQUIRE(saveLevel(hillyLevel(65, 97, 4), file));
    CHECK(loadLevel(backupOf(file)).value() == first);
    std::filesystem::resize_file(file, std::filesystem::file_size(file) / 2);
    Stage stage(hillyLevel(33, 33, 1));
    QString asked;
    stage.answer([&](QWidget* box) {
        asked = qobject_cast<QMessageBox*>(box)->text();
        box->findChild<QPushButton*>("yes")->click();
    });
    stage.window.openFile(QString::fromStdString(file.string()));
    stage.settle();
    CHECK(asked.contains("damaged"));
    CHECK(stage.place.document.standing() == first);
    // It asks where to, and a damaged file is no backup to keep in place of a good one.
    CHECK(stage.place.document.path().isEmpty());
    stage.window.saveTo(QString::fromStdString(file.string()));
    stage.settle();
    CHECK(loadLevel(file).value() == first);
    CHECK(loadLevel(backupOf(file)).value() == first);
}

TEST_CASE("a file that is open in another window is told") {
    const Folder folder;
    const QString path = QString::fromStdString((folder.path / "a.jamhill").string());
    REQUIRE(saveLevel(hillyLevel(65, 97, 2), path.toStdString()));
    Stage one(hillyLevel(33, 33, 1));
    one.window.openFile(path);
    one.settle();
    CHECK_FALSE(one.window.lastMessage().contains("another window"));
    Stage other(hillyLevel(33, 33, 1));
    other.window.openFile(path);
    other.settle();
    CHECK(other.window.lastMessage().contains("open in another window"));
}
