// The window's work with levels: opening, saving, replacing and leaving them, and long work that becomes a step.
#include <QCloseEvent>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QLocale>
#include <QMessageBox>
#include <QSettings>

#include "files/level_file.h"
#include "files/settings_json.h"
#include "looks/layer_art.h"
#include "window/main_window.h"

namespace jam {

namespace {

const char* const kLevelFilter = QT_TRANSLATE_NOOP("MainWindow", "Jam Hill levels (*.jamhill)");
constexpr int kMostRecent = 8;

std::filesystem::path toPath(const QString& s) { return std::filesystem::path(s.toStdString()); }

}  // namespace

// --- leaving ------------------------------------------------------------------------------------------------------

bool MainWindow::mayLeave() {
    view_->letGo();
    if (!place_.document.dirty()) return true;
    QMessageBox box(
        QMessageBox::NoIcon, tr("Jam Hill"),
        tr("“%1” has changes that are not saved.").arg(QString::fromStdString(place_.document.standing().name)),
        QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, this);
    box.setDefaultButton(QMessageBox::Save);
    const int answer = box.exec();
    if (answer == QMessageBox::Discard) return true;
    if (answer != QMessageBox::Save) return false;
    if (!save()) return false;
    work_.wait();
    return !place_.document.dirty();
}

// Whether what runs may end with the program: what only reads may, and a save that began is finished.
bool MainWindow::mayEndWork() {
    if (work_.what() == tr("Saving")) work_.wait();
    if (!work_.makes()) return true;
    QMessageBox box(QMessageBox::NoIcon, tr("Jam Hill"),
                    tr("“%1” is still at work; what it makes would be lost.").arg(work_.what()), QMessageBox::NoButton,
                    this);
    auto* finish = box.addButton(tr("Let it finish"), QMessageBox::AcceptRole);
    finish->setObjectName("finishWork");
    auto* stop = box.addButton(tr("Stop it"), QMessageBox::DestructiveRole);
    stop->setObjectName("stopWork");
    auto* stay = box.addButton(tr("Stay"), QMessageBox::RejectRole);
    box.setDefaultButton(finish);
    box.setEscapeButton(stay);
    box.exec();
    if (box.clickedButton() == stop) work_.cancel();
    const bool ends = box.clickedButton() == finish || box.clickedButton() == stop;
    // A save that waits for its turn is made in any case.
    if (box.clickedButton() == finish || (ends && work_.hasTurns())) work_.wait();
    return ends;
}

void MainWindow::closeEvent(QCloseEvent* e) {
    view_->letGo();
    if (!mayEndWork() || !mayLeave()) return e->ignore();
    work_.stop();  // nothing is told any more
    rememberBrushes();
    keeping_.end();
    e->accept();
}

bool MainWindow::replaceLevel(ReadyLevel level, const QString& path, const QString& what, uint64_t asked) {
    // Strokes that were made since the question must not vanish silently.
    if (place_.document.history().serial() != asked && !mayLeave()) {
        say(tr("“%1” stays open.").arg(QString::fromStdString(place_.document.standing().name)));
        return false;
    }
    place_.document.open(std::move(level), path, what);
    return true;
}

// --- opening and saving -------------------------------------------------------------------------------------------

void MainWindow::rememberRecent(const QString& path) {
    QSettings settings;
    QStringList recent = settings.value("recent").toStringList();
    const QString full = QFileInfo(path).absoluteFilePath();
    recent.removeAll(full);
    recent.prepend(full);
    settings.setValue("recent", recent.mid(0, kMostRecent));
}

void MainWindow::openFile(const QString& path, std::optional<uint64_t> askedAt) {
    const uint64_t asked = askedAt.value_or(place_.document.history().serial());
    work_.start<ReadyLevel>(
        tr("Opening"),
        [file = toPath(path)](const Context& c) -> Result<ReadyLevel> {
            Result<Level> level = loadLevel(file, c);
            if (!level) return level.error();
            prepareMaterials(level.value());
            prepareThumbnails(level.value().layers);
            return ReadyLevel(level.take());
        },
        [this, path, asked](Result<ReadyLevel> loaded) {
            if (!loaded) return offerBackup(path, loaded.error(), asked);
            // A save that was kept as a backup is opened to be saved again, in its own place or elsewhere.
            const QString home = path.endsWith('~') ? QString() : path;
            if (replaceLevel(loaded.take(), home, tr("Open %1").arg(QFileInfo(path).fileName()), asked) &&
                !home.isEmpty())
                rememberRecent(home);
        },
        true);
}

void MainWindow::offerBackup(const QString& path, const Error& why, std::optional<uint64_t> askedAt) {
    const QString beside = QString::fromStdString(backupOf(toPath(path)).string());
    // What cannot be read at all, such as a missing file, is another matter than what is damaged.
    if (!QFileInfo(path).isFile() || !QFileInfo(beside).isFile() || path.endsWith('~')) return refuse(why);
    const QString question = tr("%1\n\nThe save before it is still there, of %2. Open that one?")
                                 .arg(QString::fromStdString(why.sentence()),
                                      QLocale().toString(QFileInfo(beside).lastModified(), QLocale::ShortFormat));
    if (ask(question, tr("Open the save before"), tr("Leave it"))) openFile(beside, askedAt);
}

void MainWindow::holdFile() {
    const QString path = place_.document.path();
    if (hold_.take(path)) return;
    say(tr("“%1” is open in another window too; what is saved last stays.").arg(QFileInfo(path).fileName()));
}

void MainWindow::openWithDialog() {
    if (!mayLeave()) return;
    // Work may finish while the dialog is up.
    const uint64_t asked = place_.document.history().serial();
    const QString path = QFileDialog::getOpenFileName(this, tr("Open a level"),
                                                      QFileInfo(place_.document.path()).path(), tr(kLevelFilter));
    if (!path.isEmpty()) openFile(path, asked);
}

void MainWindow::saveTo(const QString& path, std::function<void()> then) {
    view_->letGo();
    if (hold_.changedSince(path) &&
        !ask(tr("“%1” was changed by another program since you opened or saved it. Save over it all the same?")
                 .arg(QFileInfo(path).fileName()),
             tr("Save over it"), tr("Do not save")))
        return;
    const bool waits = work_.running();
    if (waits) say(tr("It is saved when “%1” is done.").arg(work_.what()));
    work_.afterwards([this, path, then, waits] {
        // One of several that waited may have done it.
        const bool saved = !place_.document.dirty() && place_.document.path() == path;
        if (!waits || !saved) saveNow(path, then);
        else if (then) then();
    });
}

void MainWindow::saveNow(const QString& path, std::function<void()> then) {
    const Document& document = place_.document;
    const uint64_t serial = document.history().serial();
    work_.start<Level>(
        tr("Saving"),
        [settled = document.settled(), file = toPath(path),
         soon = keeping_.saveBegins(toPath(path))](const Context& c) -> Result<Level> {
            Result<Level> level = settled(c);
            if (!level) return level;
            if (const Status s = saveLevel(level.value(), file, c, soon); !s) return s.error();
            return level;
        },
        [this, path, serial, then](Result<Level> saved) {
            if (!saved) return refuse(saved.error());
            place_.document.markSaved(path, serial, saved.value());
            keeping_.saved();
            holdFile();
            rememberRecent(path);
            say(tr("Saved to %1.").arg(path));
            if (then) then();
        });
}

bool MainWindow::save(std::function<void()> then) {
    if (place_.document.path().isEmpty()) return saveAs(std::move(then));
    saveTo(place_.document.path(), std::move(then));
    return true;
}

bool MainWindow::saveAs(std::function<void()> then) {
    const Document& document = place_.document;
    const QString name = QString::fromStdString(document.standing().name).toLower().replace(' ', '-');
    const QString start = document.path().isEmpty() ? QDir::home().filePath(name + ".jamhill") : document.path();
    const QString path = askSaveFile(tr("Save the level"), start, tr(kLevelFilter), "jamhill");
    if (path.isEmpty()) return false;
    saveTo(path, std::move(then));
    return true;
}

// --- long work ----------------------------------------------------------------------------------------------------

void MainWindow::workOn(const QString& what, LevelJob job) {
    const uint64_t serial = place_.document.history().serial();
    emit workBegun(what, job);
    work_.start<Commit>(
        what,
        [job, settled = place_.document.settled()](const Context& c) -> Result<Commit> {
            const Result<Level> before = settled(c);
            if (!before) return before.error();
            Result<Level> after = job(before.value(), c);
            if (!after) return after.error();
            return commitWork(before.value(), after.take(), c);
        },
        [this, what, job, serial](Result<Commit> done) {
            if (!done && wasCancelled(done.error())) return say(tr("“%1” was cancelled; nothing changed.").arg(what));
            if (!done) return refuse(done.error());
            if (serial != place_.document.history().serial()) {
                say(tr("The level went on meanwhile; “%1” is done on what is there now.").arg(what));
                return workOn(what, job);
            }
            place_.document.commit(what, done.take());
        });
}

// --- brushes from one start to the next ---------------------------------------------------------------------------

void MainWindow::rememberBrushes() const {
    const Toolbox& box = place_.toolbox;
    QSettings settings;
    for (int t = 0; t < kTools; ++t) {
        const StrokeSettings& s = box.settingsOf(static_cast<Tool>(t));
        settings.setValue(QString("brush/") + toolName(s.tool).data(),
                          QString::fromStdString(writePreset({"kept", s})));
    }
    settings.setValue("brush/shared", box.shared());
    const ReliefChoice& relief = place_.standpoint.relief();
    settings.setValue("see/relief", QVariantList{relief.lift, relief.always, relief.oneTone});
    settings.setValue("brush/pen", QVariantList{box.pen().strength, box.pen().radius, box.pen().curve});
}

void MainWindow::recallBrushes() {
    Toolbox& box = place_.toolbox;
    const QSettings settings;
    for (int t = 0; t < kTools; ++t) {
        const QString remembered = settings.value(QString("brush/") + toolName(static_cast<Tool>(t)).data()).toString();
        if (remembered.isEmpty()) continue;
        if (const Result<Preset> p = parsePreset(remembered.toStdString(), "brush", shelf_.tips()))
            box.adoptSettings(p.value().settings);
    }
    box.setShared(settings.value("brush/shared", false).toBool());
    const QVariantList relief = settings.value("see/relief").toList();
    if (relief.size() == 3)
        place_.standpoint.setRelief(
            {std::clamp(relief[0].toFloat(), 0.f, 1.f), relief[1].toBool(), relief[2].toBool()});
    const QVariantList pen = settings.value("brush/pen").toList();
    if (pen.size() == 3) box.setPen({pen[0].toBool(), pen[1].toBool(), std::clamp(pen[2].toFloat(), 0.25f, 4.f)});
}

}  // namespace jam
