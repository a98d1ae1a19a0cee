// The window's work with files: levels, heightmaps, what is handed over, and brushes that are kept.
#include <QFileDialog>
#include <QFileInfo>
#include <QInputDialog>
#include <QLineEdit>
#include <QMessageBox>
#include <QPushButton>
#include <QSettings>

#include "files/heightmap.h"
#include "files/level_file.h"
#include "main_window.h"
#include "panels/import_dialog.h"
#include "panels/layout_dialog.h"
#include "panels/trail.h"
#include "shape/whole.h"

namespace jam {

namespace {

const char* const kLevelFilter = QT_TRANSLATE_NOOP("MainWindow", "Jam Hill levels (*.jamhill)");
constexpr int kMostRecent = 8;

std::filesystem::path toPath(const QString& s) { return std::filesystem::path(s.toStdString()); }

}  // namespace

// --- levels -------------------------------------------------------------------------------------------------------

bool MainWindow::mayLeave() {
    if (!session_.dirty() || quiet_) return true;
    QMessageBox box(QMessageBox::NoIcon, tr("Jam Hill"),
                    tr("“%1” has changes that are not saved.").arg(QString::fromStdString(session_.level().name)), QMessageBox::NoButton, this);
    auto* keep = box.addButton(tr("Save"), QMessageBox::AcceptRole);
    auto* drop = box.addButton(tr("Let them go"), QMessageBox::DestructiveRole);
    auto* stay = box.addButton(tr("Cancel"), QMessageBox::RejectRole);
    box.setDefaultButton(keep);
    box.setEscapeButton(stay);
    box.exec();
    if (box.clickedButton() == drop) return true;
    if (box.clickedButton() != keep) return false;
    save();
    jobs_.wait();
    return !session_.dirty();
}

void MainWindow::rememberRecent(const QString& path) {
    QSettings settings;
    QStringList recent = settings.value("recent").toStringList();
    const QString full = QFileInfo(path).absoluteFilePath();
    recent.removeAll(full);
    recent.prepend(full);
    settings.setValue("recent", recent.mid(0, kMostRecent));
}

void MainWindow::openFile(const QString& path) {
    auto loaded = std::make_shared<std::optional<Result<Level>>>();
    const bool began = jobs_.start(
        tr("Opening"), [loaded, file = toPath(path)](const Context& c) { loaded->emplace(loadLevel(file, c)); },
        [this, loaded, path] {
            Result<Level>& r = **loaded;
            if (!r) return refuse(r.error());
            session_.open(r.take(), path, tr("Open %1").arg(QFileInfo(path).fileName()));
            rememberRecent(path);
        });
    if (!began) say(tr("Wait until “%1” is done.").arg(jobs_.what()));
}

void MainWindow::openWithDialog() {
    if (!mayLeave()) return;
    const QString path = QFileDialog::getOpenFileName(this, tr("Open a level"), QFileInfo(session_.path()).path(), tr(kLevelFilter));
    if (!path.isEmpty()) openFile(path);
}

void MainWindow::saveTo(const QString& path) {
    if (session_.stroking()) session_.endStroke();
    auto outcome = std::make_shared<Status>();
    const uint64_t serial = session_.history().serial();
    const bool began = jobs_.start(
        tr("Saving"), [outcome, level = session_.level(), file = toPath(path)](const Context& c) { *outcome = saveLevel(level, file, c); },
        [this, outcome, path, serial] {
            if (!*outcome) return refuse(outcome->error());
            session_.markSaved(path, serial);
            rememberRecent(path);
            say(tr("Saved to %1.").arg(path));
        });
    if (!began) say(tr("Wait until “%1” is done.").arg(jobs_.what()));
}

void MainWindow::save() {
    if (session_.path().isEmpty()) saveAs();
    else saveTo(session_.path());
}

void MainWindow::saveAs() {
    QString name = QString::fromStdString(session_.level().name).toLower().replace(' ', '-');
    const QString start = session_.path().isEmpty() ? QDir::home().filePath(name + ".jamhill") : session_.path();
    QString path = QFileDialog::getSaveFileName(this, tr("Save the level"), start, tr(kLevelFilter));
    if (path.isEmpty()) return;
    if (QFileInfo(path).suffix().isEmpty()) path += ".jamhill";
    saveTo(path);
}

void MainWindow::newLevel() {
    if (!mayLeave()) return;
    LayoutDialog dialog(shippedLayers_, this);
    if (dialog.exec() != QDialog::Accepted) return;
    Result<Level> level = dialog.level();
    if (!level) return refuse(level.error());
    const auto open = [this](Level l) {
        session_.open(std::move(l), {}, tr("New level"));
        session_.setStation(Station::shape);
    };
    const std::optional<LandscapeWish> land = dialog.landscape();
    if (!land) return open(level.take());
    auto outcome = std::make_shared<std::optional<Result<WholeOutcome>>>();
    WholeWish wish;
    wish.kind = WholeKind::generate;
    wish.landscape = *land;
    const bool began = jobs_.start(
        tr("Generating"), [outcome, wish, flat = level.take()](const Context& c) { outcome->emplace(reshapeWhole(flat, wish, c)); },
        [this, outcome, open] {
            if (!**outcome) return refuse((*outcome)->error());
            open((*outcome)->take().level);
        });
    if (!began) say(tr("Wait until “%1” is done.").arg(jobs_.what()));
}

void MainWindow::importHeightmap() {
    if (!mayLeave()) return;
    const QString path = QFileDialog::getOpenFileName(this, tr("Choose a heightmap"), {},
        tr("Heightmaps (*.png *.tif *.tiff *.exr *.asc *.raw *.r8 *.r16 *.r32 *.bin *.hgt);;Any file, as raw (*)"));
    if (!path.isEmpty()) importPicture(path);
}

void MainWindow::importPicture(const QString& path) {
    // Reading and guessing take long for large files; the dialog opens when they are done.
    struct Read {
        Bytes bytes;
        std::optional<RawLayout> layout;
        std::optional<Result<HeightField>> field;
    };
    auto read = std::make_shared<Read>();
    const bool began = jobs_.start(
        tr("Reading"), [read, file = toPath(path)](const Context&) {
            Result<Bytes> bytes = readFile(file, 2048u << 20);
            if (!bytes) return void(read->field.emplace(bytes.error()));
            read->bytes = bytes.take();
            if (looksRaw(read->bytes)) {
                const Result<RawLayout> guess = guessRaw(read->bytes, file.string());
                // Without a likely layout the person corrects the first that fits at all.
                read->layout = guess ? guess.value() : RawLayout{2, 2, RawSample::u8, false, 0};
            }
            read->field.emplace(decodeHeightField(read->bytes, file.string(), read->layout));
        },
        [this, read, path] {
            if (!*read->field) return refuse(read->field->error());
            ImportDialog dialog(shippedLayers_, std::move(read->bytes), read->field->take(), read->layout, path, this);
            if (dialog.exec() != QDialog::Accepted) return;
            makeFromField(dialog, path);
        });
    if (!began) say(tr("Wait until “%1” is done.").arg(jobs_.what()));
}

void MainWindow::makeFromField(const ImportDialog& dialog, const QString& path) {
    auto made = std::make_shared<std::optional<Result<Level>>>();
    const QString name = dialog.levelName();
    const int first = dialog.firstLayer();
    const bool began = jobs_.start(
        tr("Making ground"), [made, field = std::make_shared<HeightField>(dialog.field()), wish = dialog.wish()](const Context& c) { made->emplace(levelFromField(*field, wish, 50, c)); },
        [this, made, name, first, path] {
            Result<Level>& r = **made;
            if (!r) return refuse(r.error());
            Level level = r.take();
            if (!name.isEmpty()) level.name = name.toStdString();
            if (!shippedLayers_.empty()) addLayer(level, shippedLayers_[static_cast<size_t>(first)]);
            for (size_t i = 0; i < shippedLayers_.size(); ++i)
                if (static_cast<int>(i) != first) addLayer(level, shippedLayers_[i]);
            session_.open(std::move(level), {}, tr("Start from %1").arg(QFileInfo(path).fileName()));
            session_.setStation(Station::shape);
        });
    if (!began) say(tr("Wait until “%1” is done.").arg(jobs_.what()));
}

void MainWindow::handOverTo(const QString& folder, const HandoverWish& wish) {
    using Files = Result<std::vector<std::string>>;
    auto outcome = std::make_shared<std::optional<Files>>();
    const bool began = jobs_.start(
        tr("Handing over"), [outcome, level = session_.level(), wish, path = toPath(folder)](const Context& c) { outcome->emplace(handOver(level, path, wish, c)); },
        [this, outcome, folder] {
            const Files& files = **outcome;
            if (!files) return refuse(files.error());
            trail_->noteHandedOver();
            say(tr("%1 files written to %2.").arg(files.value().size()).arg(folder));
        });
    if (!began) say(tr("Wait until “%1” is done.").arg(jobs_.what()));
}

// --- brushes ------------------------------------------------------------------------------------------------------

void MainWindow::keepBrush() {
    bool ok = false;
    const QString name = QInputDialog::getText(this, tr("Keep the brush"), tr("Under the name"), QLineEdit::Normal, toolTitle(session_.tool()), &ok).trimmed();
    if (!ok || name.isEmpty()) return;
    if (const Status s = shelf_.keep(name, session_.settings()); !s) return refuse(s.error());
    say(tr("“%1” is kept in %2.").arg(name, Shelf::ownFolder() + "/brushes"));
}

void MainWindow::takeBrush() {
    const QString path = QFileDialog::getOpenFileName(this, tr("Take in a brush"), {}, tr("Brushes (*.json)"));
    if (path.isEmpty()) return;
    if (const Status s = shelf_.addBrush(path); !s) refuse(s.error());
}

void MainWindow::addTip() {
    const QString path = QFileDialog::getOpenFileName(this, tr("Choose a greyscale picture"), {}, tr("Pictures (*.png)"));
    if (path.isEmpty()) return;
    if (const Status s = shelf_.addTip(path); !s) refuse(s.error());
}

void MainWindow::rememberBrushes() const {
    QSettings settings;
    for (int t = 0; t < kTools; ++t) {
        const StrokeSettings& s = session_.settingsOf(static_cast<Tool>(t));
        settings.setValue(QString("brush/") + toolName(s.tool).data(), QString::fromStdString(writePreset({"kept", s})));
    }
    settings.setValue("brush/shared", session_.shared());
    settings.setValue("brush/pen", QVariantList{session_.pen().strength, session_.pen().radius, session_.pen().curve});
}

void MainWindow::recallBrushes() {
    const QSettings settings;
    for (int t = 0; t < kTools; ++t) {
        const QString kept = settings.value(QString("brush/") + toolName(static_cast<Tool>(t)).data()).toString();
        if (kept.isEmpty()) continue;
        if (const Result<Preset> p = parsePreset(kept.toStdString(), "brush", shelf_.tips())) session_.adoptSettings(p.value().settings);
    }
    session_.setShared(settings.value("brush/shared", false).toBool());
    const QVariantList pen = settings.value("brush/pen").toList();
    if (pen.size() == 3) session_.setPen({pen[0].toBool(), pen[1].toBool(), std::clamp(pen[2].toFloat(), 0.25f, 4.f)});
}

}  // namespace jam
