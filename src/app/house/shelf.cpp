#include "house/shelf.h"

#include <cmath>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QPainter>
#include <QStandardPaths>

#include "base/names.h"
#include "files/layer_set.h"
#include "files/level_file.h"
#include "files/tip_file.h"
#include "level/ground.h"
#include "looks/theme.h"
#include "stroke/stroker.h"
#include "survey/slope.h"

namespace jam {

namespace {

std::filesystem::path toPath(const QString& s) { return std::filesystem::path(s.toStdString()); }

// A file in `folder` for what has this name, that is not there yet: other names may come to the same letters.
QString freeFile(const QString& folder, const QString& name, const QString& ending) {
    constexpr int kMostLetters = 60;
    QString file;
    for (const QChar c : name.toLower().left(kMostLetters)) file += c.isLetterOrNumber() ? c : QChar('-');
    if (file.isEmpty()) file = "brush";
    return folder + "/" +
           QString::fromStdString(freeName(file.toStdString(),
                                           [&](const std::string& wish) {
                                               return QFileInfo::exists(folder + "/" + QString::fromStdString(wish) +
                                                                        ending);
                                           })) +
           ending;
}

// What it was called when it was kept; a file that cannot be read is told when it is taken up.
QString nameOfClip(const QFileInfo& file) {
    const Result<std::string> name = levelName(toPath(file.filePath()));
    return name ? QString::fromStdString(name.value()) : file.completeBaseName().replace('-', ' ');
}

// A small piece of uneven ground for brushes to show themselves on.
Level sampleGround(const StrokeSettings& s, int size) {
    NewLevel wish;
    wish.columns = wish.rows = size;
    wish.spacing = 2.4 * s.radius / (size - 1);
    wish.lowest = -5000;
    wish.highest = 5000;
    Level level = makeLevel(wish).take();
    // Tools that only change what is there need something: a bank of half the radius with bumps on it.
    if (hasRate(s.tool) || !shapesGround(s.tool)) return level;
    Raster<float> before(size, size, 0.f), after(size, size);
    for (int z = 0; z < size; ++z)
        for (int x = 0; x < size; ++x) {
            const float u = static_cast<float>(x) / static_cast<float>(size - 1),
                        v = static_cast<float>(z) / static_cast<float>(size - 1);
            const float bank = 1 / (1 + std::exp(-14 * (u + 0.25f * std::sin(4 * v) - 0.55f)));
            after.at(x, z) = s.radius * (0.7f * bank + 0.03f * std::sin(26 * u + 3 * v) * std::sin(22 * v));
        }
    writeGround(level, level.bounds(), before.view(), after.view());
    return level;
}

}  // namespace

QString Shelf::ownFolder() {
    return QStandardPaths::writableLocation(QStandardPaths::GenericDataLocation) + "/jamhill";
}

Shelf::Shelf(QObject* parent) : QObject(parent) { refresh(); }

void Shelf::refresh() {
    const std::filesystem::path shipped = shareFolder(), own = toPath(ownFolder());
    tips_ = readTips(shipped / "tips");
    for (const TipPtr& t : readTips(own / "tips")) tips_.push_back(t);
    brushes_.clear();
    for (const bool mine : {false, true}) {
        const QDir folder(mine ? ownFolder() + "/brushes" : QString::fromStdString((shipped / "brushes").string()));
        for (const QFileInfo& f : folder.entryInfoList({"*.json"}, QDir::Files, QDir::Name))
            if (Result<Preset> p = readPreset(toPath(f.filePath()), tips_))
                brushes_.push_back({p.take(), f.filePath(), mine});
    }
    clips_.clear();
    for (const bool mine : {true, false}) {
        const QDir folder(mine ? ownFolder() + "/clips" : QString::fromStdString((shipped / "clips").string()));
        for (const QFileInfo& f : folder.entryInfoList({"*.jamhill"}, QDir::Files, QDir::Name))
            clips_.push_back({nameOfClip(f), f.filePath(), folder.filePath(f.completeBaseName() + ".png"), mine});
    }
    emit changed();
}

bool Shelf::hasBrush(const QString& name) const {
    return std::any_of(brushes_.begin(), brushes_.end(),
                       [&](const Brush& b) { return b.own && QString::fromStdString(b.preset.name) == name; });
}

bool Shelf::hasClip(const QString& name) const {
    return std::any_of(clips_.begin(), clips_.end(), [&](const KeptClip& c) { return c.own && c.name == name; });
}

QString Shelf::clipFile(const QString& name) const {
    for (const KeptClip& c : clips_)
        if (c.own && c.name == name) return c.file;
    const QString folder = ownFolder() + "/clips";
    QDir().mkpath(folder);
    return freeFile(folder, name, ".jamhill");
}

void Shelf::clipsChanged() { refresh(); }

Status Shelf::removeFile(const QString& file, bool own) {
    if (!own)
        return Error{file.toStdString(), "", "this came with the program", "only what is your own can be removed"};
    if (!QFile::remove(file))
        return Error{file.toStdString(), "", "it cannot be removed", "check the folder's permissions"};
    return {};
}

Status Shelf::removeClip(size_t index) {
    const KeptClip c = clips_[index];
    if (const Status s = removeFile(c.file, c.own); !s) return s;
    QFile::remove(c.picture);
    refresh();
    return {};
}

Status Shelf::addTip(const QString& path) {
    if (Result<TipPtr> tip = readTip(toPath(path)); !tip) return tip.error();
    const QString folder = ownFolder() + "/tips";
    if (QFileInfo(path).absolutePath() == QFileInfo(folder).absoluteFilePath()) return {};
    QDir().mkpath(folder);
    const Result<Bytes> bytes = readFile(toPath(path), kMostTipBytes);
    if (!bytes) return bytes.error();
    AtomicFile file(toPath(freeFile(folder, QFileInfo(path).completeBaseName(), ".png")));
    if (const Status s = file.write(bytes.value()); !s) return s;
    const Status s = file.commit();
    if (s) refresh();
    return s;
}

Status Shelf::keep(const QString& name, const StrokeSettings& settings) {
    const QString folder = ownFolder() + "/brushes";
    QDir().mkpath(folder);
    if (const Status s = checkName(name.toStdString()); !s) return s;
    StrokeSettings plain = settings;
    plain.mirror = {};
    plain.layer = 0;
    plain.height.reset();
    QString file;
    for (const Brush& b : brushes_)
        if (b.own && QString::fromStdString(b.preset.name) == name) file = b.file;
    if (file.isEmpty()) file = freeFile(folder, name, ".json");
    const Status s = savePreset({name.toStdString(), plain}, toPath(file));
    if (s) refresh();
    return s;
}

Result<Preset> Shelf::brushFrom(const QString& path) const { return readPreset(toPath(path), tips_); }

Status Shelf::removeBrush(size_t index) {
    const Status s = removeFile(brushes_[index].file, brushes_[index].own);
    if (s) refresh();
    return s;
}

QIcon brushIcon(const StrokeSettings& settings, int pixels) {
    StrokeSettings s = settings;
    s.mirror = {};
    if (!shapesGround(s.tool)) s.tool = Tool::raise, s.strength = s.radius * 0.3f;
    if (hasRate(s.tool)) s.strength = std::clamp(s.strength, 0.25f * s.radius, 0.5f * s.radius);
    s.strength = std::min(s.strength, kMaxRate);
    s.limits = {};
    s.height = s.radius * 0.35f;
    if (s.tool == Tool::restore) s.restore = RestoreTo::start;
    Level level = sampleGround(s, pixels);
    Stroke stroke{s, {{0, 0, 1, 0}, {0, 0, 1, s.flow ? 1.0 : 0.0}}};
    bringIntoRange(stroke.settings);
    (void)runStroke(level, stroke);
    QImage picture(pixels, pixels, QImage::Format_RGB32);
    const QColor earth = theme().ground.lighter(230);
    for (int z = 0; z < pixels; ++z)
        for (int x = 0; x < pixels; ++x) {
            const Gradient g = gradientAt(level, level.originX + x * level.spacing, level.originZ + z * level.spacing);
            const double light = std::clamp(
                (0.62 + 0.62 * (g.east + g.south)) / std::sqrt(1 + g.east * g.east + g.south * g.south), 0.08, 1.25);
            picture.setPixel(x, z,
                             qRgb(std::min(255, static_cast<int>(earth.red() * light)),
                                  std::min(255, static_cast<int>(earth.green() * light)),
                                  std::min(255, static_cast<int>(earth.blue() * light))));
        }
    return QIcon(QPixmap::fromImage(picture));
}

QIcon tipIcon(const Tip& tip, int pixels) {
    QIcon icon;
    for (const bool on : {false, true}) {
        QImage picture(pixels, pixels, QImage::Format_ARGB32);
        const QColor ink = on ? theme().onActive : theme().text;
        for (int y = 0; y < pixels; ++y)
            for (int x = 0; x < pixels; ++x) {
                const float u = 2.2f * (static_cast<float>(x) + 0.5f) / static_cast<float>(pixels) - 1.1f,
                            v = 2.2f * (static_cast<float>(y) + 0.5f) / static_cast<float>(pixels) - 1.1f;
                float share = 0;
                if (tip.shape == TipShape::picture && tip.picture) share = tip.picture->at(u, v);
                else
                    share = Falloff{Curve::smooth, 0.35f}.at(tip.shape == TipShape::square ? squareShare(u, v)
                                                                                           : std::sqrt(u * u + v * v));
                picture.setPixel(x, y, qRgba(ink.red(), ink.green(), ink.blue(), static_cast<int>(255 * share)));
            }
        icon.addPixmap(QPixmap::fromImage(picture), QIcon::Normal, on ? QIcon::On : QIcon::Off);
    }
    return icon;
}

}  // namespace jam
