#include "stations/cover/layer_pictures.h"

#include <map>
#include <QBuffer>
#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>
#include <QImageReader>

#include "files/exr.h"
#include "files/level_file.h"
#include "files/resized.h"
#include "level/picture_pool.h"
#include "pictures/map_names.h"

namespace jam {

const char* const kPictureFilter = QT_TRANSLATE_NOOP(
    "MainWindow", "Pictures (*.png *.jpg *.jpeg *.bmp *.tga *.tif *.tiff *.exr *.webp)");

namespace {

std::string plainPath(const QString& path) { return path.toStdString(); }

Pixels fromImage(const QImage& image) {
    const bool grey = image.isGrayscale();
    const QImage plain = image.convertToFormat(grey ? QImage::Format_Grayscale8 : QImage::Format_RGB888);
    Pixels p{plain.width(), plain.height(), grey ? 1 : 3, 8, {}};
    p.samples.reserve(static_cast<size_t>(p.width) * static_cast<size_t>(p.height) * static_cast<size_t>(p.channels));
    for (int y = 0; y < p.height; ++y) {
        const uchar* row = plain.constScanLine(y);
        p.samples.insert(p.samples.end(), row, row + p.width * p.channels);
    }
    return p;
}

Pixels fitted(Pixels p, int most) {
    const int longer = std::max(p.width, p.height);
    if (longer <= most) return p;
    return resized(p, std::max(1, static_cast<int>(int64_t{p.width} * most / longer)),
                   std::max(1, static_cast<int>(int64_t{p.height} * most / longer)));
}

}  // namespace

QStringList picturesIn(const QString& folder) {
    QStringList files;
    for (const QFileInfo& f : QDir(folder).entryInfoList(QDir::Files, QDir::Name))
        if (namesPicture(f.filePath())) files << f.filePath();
    return files;
}

bool namesPicture(const QString& path) {
    return QStringList{"png", "jpg", "jpeg", "bmp", "tga", "tif", "tiff", "exr", "webp"}.contains(
        QFileInfo(path).suffix().toLower());
}

Result<Pixels> readPicture(const QString& path, bool light) {
    const QString ending = QFileInfo(path).suffix().toLower();
    if (ending == "png" || ending == "exr") {
        Result<Bytes> bytes = readFile(plainPath(path), kMostPictureBytes);
        if (!bytes) return bytes.error();
        return ending == "png" ? decodePng(bytes.value(), plainPath(path), kLargestTexture)
                               : decodeExrPicture(bytes.value(), plainPath(path), kLargestTexture, light);
    }
    Result<Bytes> bytes = readFile(plainPath(path), kMostPictureBytes);
    if (!bytes) return bytes.error();
    QByteArray data(reinterpret_cast<const char*>(bytes.value().data()), static_cast<qsizetype>(bytes.value().size()));
    // Qt reads TGA of the second version alone, which differs from the first by what stands at the end.
    if (ending == "tga" && !data.contains("TRUEVISION-XFILE."))
        data.append(QByteArray(8, '\0')).append("TRUEVISION-XFILE.", 18);
    QBuffer buffer(&data);
    buffer.open(QIODevice::ReadOnly);
    QImageReader reader(&buffer, ending.toLatin1());
    reader.setDecideFormatFromContent(ending != "tga");
    reader.setAutoTransform(true);
    const QSize size = reader.size();
    if (size.width() > kLargestTexture || size.height() > kLargestTexture)
        return Error{plainPath(path), "size", "it is larger than " + std::to_string(kLargestTexture) + " along a side",
                     "choose a smaller picture"};
    const QImage image = reader.read();
    if (image.isNull())
        return Error{plainPath(path), "", "it is not a picture that can be read",
                     "choose a PNG, JPEG, BMP, TGA, TIFF, EXR or WebP file"};
    if (image.width() > kLargestTexture || image.height() > kLargestTexture)
        return Error{plainPath(path), "size", "it is larger than " + std::to_string(kLargestTexture) + " along a side",
                     "choose a smaller picture"};
    return fromImage(image);
}

Result<Layer> buildLayer(const LayerWish& wish, int most, const Context& context) {
    if (!wish.maps[0].any())
        return Error{wish.base.name, "colour", "no picture is chosen for it",
                     "choose the picture that shows the colour"};
    std::vector<Pixels> pixels;
    std::vector<size_t> used;
    Layer layer = wish.base;
    for (size_t i = 0; i < wish.maps.size(); ++i) {
        const MapSource& source = wish.maps[i];
        layer.*kLayerSlots[i].picture = source.present;
        if (!source.any()) continue;
        if (context.cancelled()) return cancelledError();
        Result<Pixels> p = source.present ? decodePng(source.present->bytes,
                                                      wish.base.name + ": " + source.present->name, kLargestTexture)
                                          : readPicture(source.file, i == 0 || i == 5);
        if (!p) return p.error();
        pixels.push_back(fitted(p.take(), most));
        used.push_back(i);
        context.report(0.5 * static_cast<double>(i + 1) / static_cast<double>(wish.maps.size()));
        // Gloss is the other way round than roughness.
        if (i == 2 && wish.gloss && !source.present)
            for (uint16_t& v : pixels.back().samples) v = static_cast<uint16_t>(pixels.back().most() - v);
    }
    if (wish.even > 0) pixels[0] = evenLight(pixels[0], wish.even, false);
    if (wish.seamless) {
        Result<std::vector<Pixels>> closed = makeSeamless(pixels);
        if (!closed) return Error{wish.base.name, closed.error().field, closed.error().problem, closed.error().remedy};
        pixels = closed.take();
        // The same ground at the same size.
        layer.tileSize *= kSeamlessShare;
    }
    if (context.cancelled()) return cancelledError();
    for (size_t k = 0; k < used.size(); ++k) {
        const size_t i = used[k];
        const MapSource& source = wish.maps[i];
        const bool worked = wish.seamless || (i == 0 && wish.even > 0) || (i == 2 && wish.gloss && !source.present);
        if (source.present && !worked) continue;
        const bool png = source.file.endsWith(".png", Qt::CaseInsensitive);
        PictureFile file;
        file.name = source.present ? source.present->name
                                   : QFileInfo(source.file).completeBaseName().toStdString() + ".png";
        if (png && !worked && most >= kLargestTexture) {
            Result<Bytes> bytes = readFile(plainPath(source.file), kMostPictureBytes);
            if (!bytes) return bytes.error();
            file.bytes = bytes.take();
        } else {
            file.bytes = encodePng(pixels[k], 3);
        }
        layer.*kLayerSlots[i].picture = sharedPicture(std::move(file));
        context.report(0.5 + 0.5 * static_cast<double>(k + 1) / static_cast<double>(used.size()));
    }
    return layer;
}

std::vector<LayerWish> wishesFor(const QStringList& files) {
    std::map<std::string, QString> byName;
    std::vector<std::string> names;
    for (const QString& f : files) {
        const std::string name = QFileInfo(f).fileName().toStdString();
        if (byName.emplace(name, f).second) names.push_back(name);
    }
    std::vector<LayerWish> wishes;
    for (const MapSet& set : mapSetsOf(names)) {
        LayerWish w;
        w.base.name = set.name.empty() ? "Layer" : set.name;
        std::replace(w.base.name.begin(), w.base.name.end(), '_', ' ');
        w.base.look.flipGreen = set.flipGreen;
        w.gloss = set.gloss;
        for (size_t i = 0; i < w.maps.size(); ++i)
            if (!set.files[i].empty()) w.maps[i].file = byName[set.files[i]];
        wishes.push_back(std::move(w));
    }
    return wishes;
}

}  // namespace jam
