#include "neighbours.h"

#include <QDir>
#include <QFileInfo>
#include <QFutureWatcher>
#include <QtConcurrent>

#include "clip/clip.h"
#include "document.h"
#include "files/level_file.h"
#include "match/neighbour.h"
#include "work.h"

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
    connect(&document, &Document::replaced, this, &Neighbours::follow);
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
    ++asked_[static_cast<size_t>(side)];
    beside_[static_cast<size_t>(side)] = {};
    emit changed();
}

void Neighbours::choose(Side side, const QString& file) {
    forget(side);
    beside_[static_cast<size_t>(side)].file = file;
    using Outcome = std::shared_ptr<Result<Level>>;
    auto* watcher = new QFutureWatcher<Outcome>(this);
    connect(watcher, &QFutureWatcherBase::finished, this,
            [this, watcher, side, asked = asked_[static_cast<size_t>(side)]] {
                watcher->deleteLater();
                if (asked != asked_[static_cast<size_t>(side)]) return;
                const Outcome read = watcher->result();
                Beside& b = beside_[static_cast<size_t>(side)];
                if (*read) b.strip = std::make_shared<const Level>(read->take());
                else b.trouble = QString::fromStdString(read->error().sentence());
                if (b.strip)
                    if (const Result<BorderGap> fits = borderGap(document_.level(), *b.strip, side); !fits)
                        b.trouble = QString::fromStdString(fits.error().sentence());
                emit changed();
            });
    watcher->setFuture(QtConcurrent::run([path = file.toStdString(), side] {
        try {
            Result<Level> level = loadLevel(path);
            return std::make_shared<Result<Level>>(level ? stripOf(level.value(), opposite(side)) : std::move(level));
        } catch (...) {
            return std::make_shared<Result<Level>>(caughtError("reading a neighbour"));
        }
    }));
    emit changed();
}

void Neighbours::setGhosts(bool on) {
    if (std::exchange(ghosts_, on) != on) emit changed();
}

}  // namespace jam
