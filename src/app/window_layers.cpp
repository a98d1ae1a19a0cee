// The window's work with layers: adding, swapping, replacing, merging, filling, and weights from files.
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QMenu>
#include <QMessageBox>
#include <QPushButton>

#include "cover/mix.h"
#include "files/level_file.h"
#include "files/weights_file.h"
#include "main_window.h"
#include "panels/layer_dialog.h"
#include "panels/layer_panel.h"
#include "panels/layer_strip.h"
#include "panels/rules_panel.h"
#include "panels/sheet.h"
#include "panels/weights_dialog.h"
#include "theme.h"

namespace jam {

void MainWindow::workOn(const QString& what, std::function<bool(Level&, const Context&)> job) {
    sheet_->rules()->leave();
    auto made = std::make_shared<std::optional<Level>>();
    const uint64_t serial = session_.history().serial();
    const bool began = jobs_.start(
        what, [made, job, level = session_.history().now()](const Context& c) mutable { if (job(level, c)) made->emplace(std::move(level)); },
        [this, made, what, serial] {
            if (!*made) return say(tr("“%1” was cancelled; nothing changed.").arg(what));
            if (session_.history().serial() != serial) return say(tr("The level changed meanwhile; do it again."));
            session_.edit(what, [&](Level& l) { l = **made; });
        });
    if (!began) say(tr("Wait until “%1” is done.").arg(jobs_.what()));
}

bool MainWindow::roomForLayer() {
    if (session_.level().layers.size() < kMaxLayers) return true;
    say(tr("A level has at most 16 layers; delete or merge one first."));
    return false;
}

QStringList MainWindow::picturesIn(const QString& folder) {
    QStringList files;
    for (const QFileInfo& f : QDir(folder).entryInfoList(QDir::Files, QDir::Name)) if (namesPicture(f.filePath())) files << f.filePath();
    return files;
}

void MainWindow::addLayerMenu() {
    if (!roomForLayer()) return;
    QMenu menu(this);
    QMenu* shipped = menu.addMenu(tr("From the sample layers"));
    for (const Layer& l : shippedLayers_)
        shipped->addAction(QIcon(layerThumbnail(l, 20, 1)), QString::fromStdString(l.name), this, [this, &l] {
            uint32_t id = 0;
            session_.edit(tr("Add layer"), [&](Level& level) { id = addLayer(level, l); });
            session_.setLayer(id);
        });
    QAction* files = menu.addAction(tr("From pictures…"));
    QAction* folder = menu.addAction(tr("From a folder of pictures…"));
    QAction* chosen = menu.exec(QCursor::pos());
    if (chosen == files) addLayerFrom(QFileDialog::getOpenFileNames(this, tr("Choose the pictures of a layer"), {}, tr(kPictureFilter)));
    else if (chosen == folder)
        if (const QString from = QFileDialog::getExistingDirectory(this, tr("Choose a folder of pictures")); !from.isEmpty()) {
            const QStringList pictures = picturesIn(from);
            if (pictures.isEmpty()) return say(tr("There are no pictures in %1.").arg(from));
            addLayerFrom(pictures);
        }
}

void MainWindow::addLayerFrom(const QStringList& files) {
    if (files.isEmpty() || !roomForLayer()) return;
    std::vector<LayerWish> wishes = wishesFor(files);
    // Files that cannot be read are refused before anything is asked.
    if (const LayerWish& first = wishes.front(); first.maps[0].any())
        if (const Result<Layer> tried = buildLayer(first, 64); !tried) return refuse(tried.error());
    askLayer(std::move(wishes), 0);
}

void MainWindow::swapPictures() {
    const Layer* l = session_.level().layer(session_.layer());
    if (!l) return;
    LayerWish now;
    now.base = *l;
    now.base.coverage = now.base.base = now.base.held = {};
    for (size_t i = 0; i < now.maps.size(); ++i) now.maps[i].kept = l->*kLayerSlots[i].picture;
    askLayer({now}, l->id);
}

void MainWindow::askLayer(std::vector<LayerWish> wishes, uint32_t swapped) {
    LayerDialog dialog(std::move(wishes), swapped != 0, this);
    if (dialog.exec() != QDialog::Accepted) return;
    auto built = std::make_shared<std::optional<Result<Layer>>>();
    const bool began = jobs_.start(
        tr("Reading pictures"), [built, wish = dialog.wish()](const Context& c) { built->emplace(buildLayer(wish, kLargestTexture, c)); },
        [this, built, swapped] {
            Result<Layer>& layer = **built;
            if (!layer) return refuse(layer.error());
            const QString name = QString::fromStdString(layer.value().name);
            if (swapped) {
                if (!session_.level().layer(swapped)) return;
                session_.edit(tr("Swap pictures of %1").arg(name), [&](Level& l) {
                    Layer& to = *l.layer(swapped);
                    for (const LayerSlot& s : kLayerSlots) to.*s.picture = layer.value().*s.picture;
                    to.tileSize = layer.value().tileSize;
                    to.look.flipGreen = layer.value().look.flipGreen;
                });
                return;
            }
            if (!roomForLayer()) return;
            uint32_t id = 0;
            session_.edit(tr("Add %1").arg(name), [&](Level& l) { id = addLayer(l, layer.take()); });
            session_.setLayer(id);
            const Layer& made = *session_.level().layer(id);
            say(made.normal && made.height ? tr("Added “%1”.").arg(name) : tr("Added “%1”. What its pictures do not say is derived from the colour.").arg(name));
        });
    if (!began) say(tr("Wait until “%1” is done.").arg(jobs_.what()));
}

void MainWindow::layerMenu(const QPoint& globalPlace) {
    const Level& level = session_.level();
    const uint32_t id = session_.layer();
    const int at = level.layerIndex(id), last = static_cast<int>(level.layers.size()) - 1;
    if (at < 0) return;
    const Layer layer = level.layers[static_cast<size_t>(at)];
    const QString name = QString::fromStdString(layer.name);
    QMenu menu(this);
    menu.addAction(icon(layer.hidden ? "eye" : "eye-off"), layer.hidden ? tr("Show") : tr("Hide"), this, [this, layer] {
        session_.edit(layer.hidden ? tr("Show layer") : tr("Hide layer"), [&](Level& l) { l.layer(layer.id)->hidden = !layer.hidden; });
    });
    const auto move = [&](const QString& text, const char* iconName, int to, bool possible) {
        QAction* a = menu.addAction(icon(iconName), text, this, [this, at, to] { session_.edit(tr("Reorder layers"), [=](Level& l) { moveLayer(l, at, to); }); });
        a->setEnabled(possible);
    };
    move(tr("Move up, over the next"), "up", at + 1, at < last);
    move(tr("Move down, under the one before"), "down", at - 1, at > 0);
    menu.addAction(icon("add"), tr("Duplicate; the copy covers nothing yet"), this, [this, at] {
        if (!roomForLayer()) return;
        uint32_t copy = 0;
        session_.edit(tr("Duplicate layer"), [&](Level& l) { copy = duplicateLayer(l, at); });
        session_.setLayer(copy);
    });
    menu.addAction(icon("picture"), tr("Swap the pictures…"), this, &MainWindow::swapPictures);
    menu.addSeparator();
    QAction* fill = menu.addAction(icon("cover"), session_.settings().where.anywhere() ? tr("Fill everything") : tr("Fill where the brush may paint"), this, [this, id, name] {
        workOn(tr("Fill with %1").arg(name), [id, s = session_.strokeSettings()](Level& l, const Context& c) { return fillLayer(l, id, s.target, s.where, c); });
    });
    fill->setEnabled(!layer.locked && !layer.hidden && (at > 0 || last > 0));
    const auto others = [&](const QString& title, const char* iconName, const auto& act) {
        QMenu* sub = menu.addMenu(icon(iconName), title);
        for (const Layer& other : level.layers)
            if (other.id != id) sub->addAction(QIcon(layerThumbnail(other, 20, 1)), QString::fromStdString(other.name), this, [act, to = other.id] { act(to); })->setEnabled(!other.locked);
        sub->setEnabled(last > 0 && !layer.locked);
    };
    others(tr("Replace everywhere by"), "replace", [this, id, name](uint32_t to) {
        workOn(tr("Replace %1").arg(name), [id, to](Level& l, const Context&) { return replaceLayer(l, id, to), true; });
    });
    QAction* merge = menu.addAction(icon("down"), tr("Merge into the one below"), this, [this, at, name] {
        workOn(tr("Merge %1").arg(name), [at](Level& l, const Context&) { return mergeDown(l, at), true; });
    });
    merge->setEnabled(at > 0 && !layer.locked && !level.layers[static_cast<size_t>(std::max(at - 1, 0))].locked);
    menu.addSeparator();
    QAction* gone = menu.addAction(icon("remove"), tr("Delete; what lies below shows"), this, [this, at] { session_.edit(tr("Delete layer"), [=](Level& l) { removeLayer(l, at); }); });
    gone->setEnabled(last > 0);
    others(tr("Delete, and put in its place"), "remove", [this, id, name](uint32_t to) {
        workOn(tr("Delete %1").arg(name), [id, to](Level& l, const Context&) {
            replaceLayer(l, id, to);
            removeLayer(l, l.layerIndex(id));
            return true;
        });
    });
    menu.addSeparator();
    menu.addAction(tr("Weights from pictures…"), this, &MainWindow::importWeights);
    menu.exec(globalPlace);
}

void MainWindow::importWeights() {
    const QStringList chosen = QFileDialog::getOpenFileNames(this, tr("Choose pictures of weights"), {}, tr("Weights (*.png)"));
    if (chosen.isEmpty()) return;
    std::vector<std::filesystem::path> files;
    std::vector<std::pair<std::filesystem::path, int>> rows;
    for (const QString& f : chosen) {
        const Result<Pixels> p = readPicture(f, false);
        if (!p) return refuse(p.error());
        files.emplace_back(f.toStdString());
        // Grey and alpha is one weight.
        rows.emplace_back(files.back(), p.value().channels <= 2 ? 1 : p.value().channels);
    }
    const Result<std::vector<WeightChannel>> guess = guessWeightChannels(session_.level(), files);
    if (!guess) return refuse(guess.error());
    WeightsDialog dialog(session_.level(), rows, guess.value(), this);
    if (dialog.exec() != QDialog::Accepted) return;
    auto made = std::make_shared<std::optional<Result<Level>>>();
    const uint64_t serial = session_.history().serial();
    const bool began = jobs_.start(
        tr("Taking weights in"), [made, level = session_.history().now(), channels = dialog.channels()](const Context& c) { made->emplace(jam::importWeights(level, channels, c)); },
        [this, made, serial] {
            if (!**made) return refuse((*made)->error());
            if (session_.history().serial() != serial) return say(tr("The level changed meanwhile; do it again."));
            session_.edit(tr("Weights from pictures"), [&](Level& l) { l = (*made)->take(); });
        });
    if (!began) say(tr("Wait until “%1” is done.").arg(jobs_.what()));
}

void MainWindow::changeCover(int factor) {
    const Level& level = session_.level();
    if (factor == level.coverFactor) return;
    Level tried = level;
    if (const Status s = changeCoverFactor(tried, factor); !s) {
        refuse(s.error());
        return emit session_.edited();  // the field shows again what is
    }
    if (factor < level.coverFactor && !quiet_) {
        if (const int loss = lossAtFactor(level, factor); loss > 2) {
            QMessageBox box(QMessageBox::NoIcon, tr("Jam Hill"), tr("Some painted detail is finer than that and would be lost: up to %1 % of a layer in places.").arg(loss * 100 / 255), QMessageBox::NoButton, this);
            auto* go = box.addButton(tr("Make it coarser"), QMessageBox::AcceptRole);
            box.setEscapeButton(box.addButton(tr("Keep it"), QMessageBox::RejectRole));
            box.exec();
            if (box.clickedButton() != go) return emit session_.edited();
        }
    }
    workOn(tr("Cover %1 × as fine").arg(factor), [factor](Level& l, const Context&) { return static_cast<bool>(changeCoverFactor(l, factor)); });
}

}  // namespace jam
