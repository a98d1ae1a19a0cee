#include "stations/lay_out/lay_out_station.h"

#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "cover/mix.h"
#include "cover/resolution.h"
#include "files/field_level.h"
#include "files/heightmap.h"
#include "panels/page.h"
#include "shape/whole.h"
#include "stations/lay_out/import_dialog.h"
#include "stations/lay_out/layout_dialog.h"
#include "stations/lay_out/neighbour_panel.h"
#include "tasks/work.h"
#include "view/ground_view.h"
#include "workplace/workplace.h"

namespace jam {

namespace {

std::filesystem::path toPath(const QString& s) { return std::filesystem::path(s.toStdString()); }

bool isHeightmap(const QString& path) {
    const QString e = QFileInfo(path).suffix().toLower();
    return QStringList{"png", "tif", "tiff", "exr", "asc"}.contains(e) || namedRaw(toPath(path));
}

}  // namespace

LayOutStation::LayOutStation(House& house) : Station("layOut", tr("Lay out"), "lay-out", "F2"), house_(house) {
    house.place.document.on(About::raster | About::history, this, &Station::stateChanged);
}

Station::State LayOutStation::state() const {
    const Level& l = house_.place.document.level();
    return {tr("%1 × %2 m, every %3 m").arg(l.width()).arg(l.depth()).arg(l.spacing)};
}

QList<ActionRow> LayOutStation::commands() {
    return {{"new", tr("New level…"), "Ctrl+N", "", false, [this] { newLevel(); }},
            {"import", tr("Take in a heightmap…"), "", "", false, [this] { importHeightmap(); }}};
}

bool LayOutStation::takeFiles(const QStringList& paths, bool) {
    if (!isHeightmap(paths.front())) return false;
    importPicture(paths.front());
    return true;
}

QWidget* LayOutStation::benchPage(QWidget* parent) {
    return plainPage(tr("How large the level is, how fine, how high it may rise and how deep one may dig is set in the "
                        "sheet at the right. "
                        "Fly with W A S D, look round with the right button, go towards the cursor with the wheel."),
                     parent);
}

QWidget* LayOutStation::sheetPage(QWidget* parent) {
    Document& document = house_.place.document;
    auto* page = new QWidget(parent);
    auto* c = pageColumn(page);
    c->addWidget(headingLabel(tr("This level"), page));
    auto* name = new QLineEdit(page);
    name->setAccessibleName(tr("Name of the level"));
    name->setObjectName("levelName");
    c->addWidget(name);
    auto* facts = quietLabel({}, page);
    c->addWidget(facts);
    auto* make = new QPushButton(tr("New level…"), page);
    auto* take = new QPushButton(tr("Take in a heightmap…"), page);
    auto* factor = new QComboBox(page);
    factor->setAccessibleName(tr("How fine cover is"));
    factor->setObjectName("coverFactor");
    for (const int f : {1, 2, 4})
        factor->addItem(f == 1 ? tr("Cover as fine as the ground") : tr("Cover %1 × finer").arg(f), f);
    factor->setToolTip(tr("How fine layers can be painted. It can be changed at any time; what is painted stays."));
    c->addWidget(factor);
    c->addWidget(make);
    c->addWidget(take);
    c->addWidget(headingLabel(tr("Neighbours"), page));
    c->addWidget(new NeighbourPanel(house_, page));
    c->addStretch();
    connect(make, &QPushButton::clicked, this, &LayOutStation::newLevel);
    connect(take, &QPushButton::clicked, this, &LayOutStation::importHeightmap);
    connect(factor, &QComboBox::activated, this, [this, factor](int i) {
        changeCover(factor->itemData(i).toInt());
        factor->setCurrentIndex(factor->findData(house_.place.document.level().coverFactor));
    });
    connect(name, &QLineEdit::editingFinished, this, [&document, name] {
        const std::string text = name->text().trimmed().toStdString();
        if (text.empty() || text == document.level().name) return;
        document.edit(tr("Rename the level"), [&](Level& l) { l.name = text; });
    });
    const auto show = [&document, name, facts, factor] {
        const Level& l = document.level();
        factor->setCurrentIndex(factor->findData(l.coverFactor));
        if (!name->hasFocus()) name->setText(QString::fromStdString(l.name));
        facts->setText(tr("%1 × %2 samples, %3 m apart\n%4 × %5 m\nGround may lie from %6 to %7 m\nIt began flat at %8 "
                          "m\nCover has %9 × as many samples")
                           .arg(l.columns)
                           .arg(l.rows)
                           .arg(l.spacing)
                           .arg(l.width())
                           .arg(l.depth())
                           .arg(l.lowest)
                           .arg(l.highest)
                           .arg(l.startHeight)
                           .arg(l.coverFactor * l.coverFactor));
    };
    document.on(About::name | About::history | About::preview, page, show);
    show();
    return page;
}

// --- another level ------------------------------------------------------------------------------------------------

void LayOutStation::startWith(ReadyLevel level, const QString& what, uint64_t asked) {
    if (!house_.services.replaceLevel(std::move(level), {}, what, asked)) return;
    house_.place.standpoint.setStation("shape");
    house_.place.toolbox.fit(house_.view.metresAcross());
}

void LayOutStation::newLevel() {
    if (!house_.services.mayLeave()) return;
    const uint64_t asked = house_.place.document.history().serial();
    LayoutDialog dialog(house_.shippedLayers, house_.services.window());
    if (dialog.exec() != QDialog::Accepted) return;
    Result<Level> level = dialog.level();
    if (!level) return house_.services.refuse(level.error());
    const std::optional<LandscapeWish> land = dialog.landscape();
    if (!land) return startWith(level.take(), tr("New level"), asked);
    WholeWish wish;
    wish.kind = WholeKind::generate;
    wish.landscape = *land;
    house_.work.start<ReadyLevel>(
        tr("Generating"),
        [wish, flat = level.take()](const Context& c) -> Result<ReadyLevel> {
            Result<WholeOutcome> made = reshapeWhole(flat, wish, c);
            if (!made) return made.error();
            return ReadyLevel(std::move(made.value().level));
        },
        [this, asked](Result<ReadyLevel> made) {
            if (!made) return house_.services.refuse(made.error());
            startWith(made.take(), tr("New level"), asked);
        });
}

void LayOutStation::importHeightmap() {
    const QString path = QFileDialog::getOpenFileName(
        house_.services.window(), tr("Choose a heightmap"), {},
        tr("Heightmaps (*.png *.tif *.tiff *.exr *.asc *.raw *.r8 *.r16 *.r32 *.bin *.hgt);;Any file, as raw (*)"));
    if (!path.isEmpty()) importPicture(path);
}

void LayOutStation::importPicture(const QString& path) {
    // Reading and guessing take long for large files; the dialog opens when they are done.
    struct Read {
        Bytes bytes;
        std::optional<RawLayout> layout;
        HeightField field;
    };
    house_.work.start<Read>(
        tr("Reading"),
        [file = toPath(path)](const Context& context) -> Result<Read> {
            Result<Bytes> bytes = readFile(file, 2048u << 20);
            if (!bytes) return bytes.error();
            Read read{bytes.take(), {}, {}};
            if (looksRaw(read.bytes)) {
                const Result<RawLayout> guess = guessRaw(read.bytes, file.string(), context);
                if (context.cancelled()) return cancelledError();
                // Without a likely layout the person corrects the first that fits at all.
                read.layout = guess ? guess.value() : RawLayout{2, 2, RawSample::u8, false, 0};
            }
            Result<HeightField> field = decodeHeightField(read.bytes, file.string(), read.layout);
            if (!field) return field.error();
            read.field = field.take();
            return read;
        },
        [this, path](Result<Read> got) {
            if (!got) return house_.services.refuse(got.error());
            Read read = got.take();
            ImportDialog dialog(house_.shippedLayers, std::move(read.bytes), std::move(read.field), read.layout, path,
                                house_.services.window(), &house_.place.document.level());
            if (dialog.exec() != QDialog::Accepted) return;
            if (dialog.asStratum()) return placeField(dialog);
            // Only a new level takes the place of the present one.
            if (house_.services.mayLeave()) makeFromField(dialog, path, house_.place.document.history().serial());
        },
        true);
}

// It is held like a clip: placed, turned and scaled, and its heights become a stratum of their own.
void LayOutStation::placeField(const ImportDialog& dialog) {
    house_.work.start<Level>(
        tr("Making ground"),
        [field = std::make_shared<HeightField>(dialog.field()), wish = dialog.wish(),
         name = dialog.levelName().toStdString()](const Context& c) {
            Result<Level> made = levelFromField(*field, wish, 50, c);
            if (made && !name.empty()) made.value().name = name;
            return made;
        },
        [this](Result<Level> made) {
            if (!made) return house_.services.refuse(made.error());
            house_.place.standpoint.setStation("shape");
            house_.place.clips.bring(std::make_shared<const Level>(made.take()));
        });
}

void LayOutStation::makeFromField(const ImportDialog& dialog, const QString& path, uint64_t asked) {
    const QString name = dialog.levelName();
    const auto first = static_cast<size_t>(dialog.firstLayer());
    house_.work.start<ReadyLevel>(
        tr("Making ground"),
        [field = std::make_shared<HeightField>(dialog.field()),
         wish = dialog.wish()](const Context& c) -> Result<ReadyLevel> {
            Result<Level> made = levelFromField(*field, wish, 50, c);
            if (!made) return made.error();
            return ReadyLevel(made.take());
        },
        [this, name, first, path, asked](Result<ReadyLevel> made) {
            if (!made) return house_.services.refuse(made.error());
            ReadyLevel ready = made.take();
            Level& level = ready.level;
            if (!name.isEmpty()) level.name = name.toStdString();
            const std::vector<Layer>& shipped = house_.shippedLayers;
            if (!shipped.empty()) addLayer(level, shipped[first]);
            for (size_t i = 0; i < shipped.size(); ++i)
                if (i != first) addLayer(level, shipped[i]);
            startWith(std::move(ready), tr("Start from %1").arg(QFileInfo(path).fileName()), asked);
        });
}

// --- the cover's resolution ---------------------------------------------------------------------------------------

void LayOutStation::changeCover(int factor) {
    const Level& level = house_.place.document.standing();
    if (factor == level.coverFactor) return;
    Level tried = level;
    if (const Status s = changeCoverFactor(tried, factor); !s) return house_.services.refuse(s.error());
    if (const int loss = factor < level.coverFactor ? lossAtFactor(level, factor) : 0; loss > 2) {
        const QString question =
            tr("Some painted detail is finer than that and would be lost: up to %1 % of a layer in "
               "places.")
                .arg(loss * 100 / 255);
        if (!house_.services.ask(question, tr("Make it coarser"), tr("Keep it"))) return;
    }
    house_.services.workOn(tr("Cover %1 × as fine").arg(factor), LevelJob::onAll([factor](Level& l, const Context&) {
                               return changeCoverFactor(l, factor);
                           }));
}

}  // namespace jam
