// The Cover station's commands on layers: adding, swapping, replacing, merging, filling, and weights from files.
#include <QFileDialog>
#include <QMenu>

#include "cover/mix.h"
#include "files/level_file.h"
#include "files/weights_file.h"
#include "looks/layer_art.h"
#include "looks/theme.h"
#include "stations/cover/cover_station.h"
#include "stations/cover/layer_dialog.h"
#include "stations/cover/weights_dialog.h"
#include "tasks/work.h"
#include "workplace/workplace.h"

namespace jam {

bool CoverStation::roomForLayer() {
    if (house_.place.document.level().layers.size() < kMaxLayers) return true;
    house_.services.say(tr("A level has at most 16 layers; delete or merge one first."));
    return false;
}

void CoverStation::addLayerMenu() {
    if (!roomForLayer()) return;
    QMenu menu(house_.services.window());
    QMenu* shipped = menu.addMenu(tr("From the sample layers"));
    for (const Layer& l : house_.shippedLayers)
        shipped->addAction(QIcon(layerThumbnail(l, 20, 1)), QString::fromStdString(l.name), this, [this, &l] {
            if (!roomForLayer()) return;
            uint32_t id = 0;
            if (house_.place.document.edit(tr("Add layer"), [&](Level& level) { id = addLayer(level, l); }))
                house_.place.chooseLayer(id);
        });
    QAction* files = menu.addAction(tr("From pictures…"));
    QAction* folder = menu.addAction(tr("From a folder of pictures…"));
    QAction* chosen = menu.exec(QCursor::pos());
    if (chosen == files)
        addLayerFrom(QFileDialog::getOpenFileNames(house_.services.window(), tr("Choose the pictures of a layer"), {},
                                                   tr(kPictureFilter)));
    else if (chosen == folder)
        if (const QString from = QFileDialog::getExistingDirectory(house_.services.window(),
                                                                   tr("Choose a folder of pictures"));
            !from.isEmpty()) {
            const QStringList pictures = picturesIn(from);
            if (pictures.isEmpty()) return house_.services.say(tr("There are no pictures in %1.").arg(from));
            addLayerFrom(pictures);
        }
}

void CoverStation::addLayerFrom(const QStringList& files) {
    if (files.isEmpty() || !roomForLayer()) return;
    std::vector<LayerWish> wishes = wishesFor(files);
    if (!wishes.front().maps[0].any()) return askLayer(std::move(wishes), 0);
    // Files that cannot be read are refused before anything is asked.
    house_.work.start<Layer>(
        tr("Reading pictures"),
        [first = wishes.front()](const Context& context) { return buildLayer(first, 64, context); },
        [this, wishes](Result<Layer> tried) {
            if (!tried) return house_.services.refuse(tried.error());
            askLayer(wishes, 0);
        },
        true);
}

void CoverStation::swapPictures() {
    const Layer* l = house_.place.document.level().layer(house_.place.standpoint.layer());
    if (!l) return;
    LayerWish now;
    now.base = *l;
    now.base.coverage = now.base.base = now.base.held = {};
    for (size_t i = 0; i < now.maps.size(); ++i) now.maps[i].present = l->*kLayerSlots[i].picture;
    askLayer({now}, l->id);
}

void CoverStation::askLayer(std::vector<LayerWish> wishes, uint32_t swapped) {
    LayerDialog dialog(std::move(wishes), swapped != 0, house_.services.window());
    if (dialog.exec() != QDialog::Accepted) return;
    house_.work.start<Layer>(
        tr("Reading pictures"),
        [wish = dialog.wish()](const Context& context) { return buildLayer(wish, kLargestTexture, context); },
        [this, swapped](Result<Layer> layer) {
            if (!layer) return house_.services.refuse(layer.error());
            takeInLayer(layer.take(), swapped);
        });
}

// A layer made of pictures becomes one of the level, or gives its pictures to another.
void CoverStation::takeInLayer(Layer layer, uint32_t swapped) {
    Document& document = house_.place.document;
    document.dropPreview();  // it was of the level without these pictures
    const QString name = QString::fromStdString(layer.name);
    if (swapped) {
        if (!document.level().layer(swapped))
            return house_.services.say(tr("The layer that was to get the pictures is gone."));
        document.edit(tr("Swap pictures of %1").arg(name), [&](Level& l) {
            Layer& to = *l.layer(swapped);
            for (const LayerSlot& s : kLayerSlots) to.*s.picture = layer.*s.picture;
            to.tileSize = layer.tileSize;
            to.look.flipGreen = layer.look.flipGreen;
        });
        return;
    }
    if (!roomForLayer()) return;
    const bool derived = !layer.normal || !layer.height;
    uint32_t id = 0;
    if (!document.edit(tr("Add %1").arg(name), [&](Level& l) { id = addLayer(l, std::move(layer)); })) return;
    house_.place.chooseLayer(id);
    house_.services.say(derived ? tr("Added “%1”. What its pictures do not say is derived from the colour.").arg(name)
                                : tr("Added “%1”.").arg(name));
}

void CoverStation::layerMenu(const QPoint& globalPlace) {
    const Level& level = house_.place.document.level();
    const int at = level.layerIndex(house_.place.standpoint.layer());
    if (at < 0) return;
    QMenu menu(house_.services.window());
    addPlacing(menu, level, at);
    menu.addSeparator();
    addCovering(menu, level, at);
    menu.addSeparator();
    addDeleting(menu, level, at);
    menu.addSeparator();
    menu.addAction(tr("Weights from pictures…"), this, &CoverStation::importWeights);
    menu.exec(globalPlace);
}

// Whether it shows, its place among the others, its pictures.
void CoverStation::addPlacing(QMenu& menu, const Level& level, int at) {
    const int last = static_cast<int>(level.layers.size()) - 1;
    const Layer& layer = level.layers[static_cast<size_t>(at)];
    menu.addAction(icon(layer.hidden ? "eye" : "eye-off"), layer.hidden ? tr("Show") : tr("Hide"), this,
                   [this, id = layer.id, hidden = layer.hidden] {
                       house_.place.document.tryEdit(hidden ? tr("Show layer") : tr("Hide layer"),
                                                     [=](Level& l) -> Status {
                                                         if (!l.layer(id)) return goneError(ThingKind::layer);
                                                         l.layer(id)->hidden = !hidden;
                                                         return {};
                                                     });
                   });
    const auto move = [&](const QString& text, const char* iconName, int to, bool possible) {
        QAction* a = menu.addAction(icon(iconName), text, this, [this, id = layer.id, by = to - at] {
            house_.place.document.tryEdit(tr("Reorder layers"),
                                          [=](Level& l) { return moveLayer(l, id, l.layerIndex(id) + by); });
        });
        a->setEnabled(possible);
    };
    move(tr("Move up, over the next"), "up", at + 1, at < last);
    move(tr("Move down, under the one before"), "down", at - 1, at > 0);
    menu.addAction(icon("add"), tr("Duplicate; the copy covers nothing yet"), this, [this, id = layer.id] {
        uint32_t copy = 0;
        const bool done = house_.place.document.tryEdit(tr("Duplicate layer"), [&](Level& l) -> Status {
            const Result<uint32_t> made = duplicateLayer(l, id);
            if (!made) return made.error();
            copy = made.value();
            return {};
        });
        if (done) house_.place.chooseLayer(copy);
    });
    menu.addAction(icon("picture"), tr("Swap the pictures…"), this, &CoverStation::swapPictures);
}

// A menu of the other layers.
void CoverStation::addOthers(QMenu& menu, const Level& level, int at, const QString& title, const char* iconName,
                             const std::function<void(uint32_t)>& act) {
    const Layer& layer = level.layers[static_cast<size_t>(at)];
    QMenu* others = menu.addMenu(icon(iconName), title);
    for (const Layer& other : level.layers)
        if (other.id != layer.id)
            others
                ->addAction(QIcon(layerThumbnail(other, 20, 1)), QString::fromStdString(other.name), this,
                            [act, to = other.id] { act(to); })
                ->setEnabled(!other.locked);
    others->setEnabled(level.layers.size() > 1 && !layer.locked);
}

void CoverStation::addCovering(QMenu& menu, const Level& level, int at) {
    const Layer& layer = level.layers[static_cast<size_t>(at)];
    const uint32_t id = layer.id;
    const QString name = QString::fromStdString(layer.name);
    const bool anywhere = house_.place.toolbox.settings().where.anywhere();
    QAction* fill = menu.addAction(
        icon("cover"), anywhere ? tr("Fill everything") : tr("Fill where the brush may paint"), this, [this, id, name] {
            const StrokeSettings s = house_.place.strokeSettings();
            std::vector<Thing> of{{ThingKind::layer, id}};
            for (const uint32_t other : {s.where.onLayer, s.where.offLayer})
                if (other) of.push_back({ThingKind::layer, other});
            house_.services.workOn(tr("Fill with %1").arg(name), LevelJob::on(of, [id, s](Level& l, const Context& c) {
                                       return fillLayer(l, id, s.target, s.where, c);
                                   }));
        });
    fill->setEnabled(!layer.locked && !layer.hidden && level.layers.size() > 1);
    addOthers(menu, level, at, tr("Replace everywhere by"), "replace", [this, id, name](uint32_t to) {
        house_.services.workOn(tr("Replace %1").arg(name),
                               LevelJob::on({{ThingKind::layer, id}, {ThingKind::layer, to}},
                                            [id, to](Level& l, const Context&) { return replaceLayer(l, id, to); }));
    });
    QAction* merge = menu.addAction(icon("down"), tr("Merge into the one below"), this, [this, id, name] {
        house_.services.workOn(
            tr("Merge %1").arg(name),
            LevelJob::on({{ThingKind::layer, id}}, [id](Level& l, const Context&) { return mergeDown(l, id); }));
    });
    merge->setEnabled(at > 0 && !layer.locked && !level.layers[static_cast<size_t>(std::max(at - 1, 0))].locked);
}

void CoverStation::addDeleting(QMenu& menu, const Level& level, int at) {
    const Layer& layer = level.layers[static_cast<size_t>(at)];
    QAction* gone = menu.addAction(icon("remove"), tr("Delete; what lies below shows"), this, [this, id = layer.id] {
        house_.place.document.tryEdit(tr("Delete layer"), [id](Level& l) { return removeLayer(l, id); });
    });
    gone->setEnabled(level.layers.size() > 1);
    addOthers(menu, level, at, tr("Delete, and put in its place"), "remove",
              [this, id = layer.id, name = QString::fromStdString(layer.name)](uint32_t to) {
                  house_.services.workOn(tr("Delete %1").arg(name),
                                         LevelJob::on({{ThingKind::layer, id}, {ThingKind::layer, to}},
                                                      [id, to](Level& l, const Context&) {
                                                          if (const Status s = replaceLayer(l, id, to); !s) return s;
                                                          return removeLayer(l, id);
                                                      }));
              });
}

void CoverStation::importWeights() {
    const QStringList chosen = QFileDialog::getOpenFileNames(house_.services.window(), tr("Choose pictures of weights"),
                                                             {}, tr("Weights (*.png)"));
    if (chosen.isEmpty()) return;
    using Rows = std::vector<std::pair<std::filesystem::path, int>>;
    house_.work.start<Rows>(
        tr("Reading pictures"),
        [chosen](const Context& context) -> Result<Rows> {
            Rows rows;
            for (const QString& f : chosen) {
                const Result<Pixels> p = readPicture(f, false);
                if (!p) return p.error();
                if (context.cancelled()) return cancelledError();
                // Grey and alpha is one weight.
                rows.emplace_back(f.toStdString(), p.value().channels <= 2 ? 1 : p.value().channels);
            }
            return rows;
        },
        [this](Result<Rows> rows) {
            if (!rows) return house_.services.refuse(rows.error());
            askWeights(rows.value());
        },
        true);
}

void CoverStation::askWeights(const std::vector<std::pair<std::filesystem::path, int>>& rows) {
    std::vector<std::filesystem::path> files;
    for (const auto& [file, channels] : rows) files.push_back(file);
    const Result<std::vector<WeightChannel>> guess = guessWeightChannels(house_.place.document.level(), files);
    if (!guess) return house_.services.refuse(guess.error());
    WeightsDialog dialog(house_.place.document.level(), rows, guess.value(), house_.services.window());
    if (dialog.exec() != QDialog::Accepted) return;
    std::vector<Thing> things;
    for (const WeightChannel& c : dialog.channels())
        if (c.layer) things.push_back({ThingKind::layer, c.layer});
    house_.services.workOn(tr("Weights from pictures"),
                           LevelJob::on(things, [channels = dialog.channels()](const Level& level, const Context& c) {
                               return jam::importWeights(level, channels, c);
                           }));
}

}  // namespace jam
