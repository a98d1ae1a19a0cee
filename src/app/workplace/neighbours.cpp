#include "workplace/neighbours.h"

#include <QDir>
#include <QFileInfo>

#include "clip/clip.h"
#include "files/level_file.h"
#include "match/neighbour.h"
#include "workplace/document.h"

namespace jam {

namespace {

constexpr double kStripMetres = 120;  // of a neighbour that is kept

// What of a neighbour lies nearest to the side that it meets with.
Result<Level> stripOf(const Level& neighbour, Side met) {
    const int deep = std::max(static_cast<int>(kStripMetres / neighbour.spacing), 2), w = neighbour.columns,
              d = neighbour.rows;
    const Region strip = met == Side::north   ? Region{0, 0, w, deep}
                         : met == Side::south ? Region{0, d - deep, w, d}
                         : met == Side::west  ? Region{0, 0, deep, d}
                                              : Region{w - deep, 0, w, d};
    return liftClip(neighbour, strip, neighbour.name);
}

}  // namespace

Neighbours::Neighbours(Document& document, QObject* parent) : QObject(parent), document_(document) {
    document.on(About::raster, this, &Neighbours::follow);
    follow();
}

void Neighbours::follow() {
    for (int s = 0; s < kLevelSides; ++s) forget(static_cast<Side>(s));
    const QDir folder = QFileInfo(document_.path()).dir();
    for (const Stratum& s : document_.level().strata)
        if (s.border && !s.border->file.empty())
            choose(s.border->side, folder.absoluteFilePath(QString::fromStdString(s.border->file)));
}

void Neighbours::forget(Side side) {
    reading_[static_cast<size_t>(side)].drop();
    at_[static_cast<size_t>(side)] = {};
    emit changed();
}

void Neighbours::choose(Side side, const QString& file) {
    forget(side);
    at_[static_cast<size_t>(side)].file = file;
    reading_[static_cast<size_t>(side)].run<Level>(
        tr("Reading a neighbour"),
        [path = file.toStdString(), side](const Context& context) -> Result<Level> {
            Result<Level> level = loadLevel(path, context);
            return level ? stripOf(level.value(), opposite(side)) : std::move(level);
        },
        [this, side](Result<Level> read) {
            Neighbour& n = at_[static_cast<size_t>(side)];
            if (read) n.strip = std::make_shared<const Level>(read.take());
            else n.trouble = QString::fromStdString(read.error().sentence());
            if (n.strip)
                if (const Result<BorderGap> fits = borderGap(document_.level(), *n.strip, side); !fits)
                    n.trouble = QString::fromStdString(fits.error().sentence());
            emit changed();
        });
    emit changed();
}

void Neighbours::setGhosts(bool on) {
    if (std::exchange(ghosts_, on) != on) emit changed();
}

}  // namespace jam
