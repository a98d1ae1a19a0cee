#include "files/layer_set.h"

#include <algorithm>
#include <cstdlib>

#include "base/text.h"
#include "files/layer_json.h"
#include "files/level_file.h"
#include "files/png.h"
#include "level/picture_pool.h"

namespace jam {

namespace fs = std::filesystem;

namespace {

Result<Picture> readMap(const fs::path& path) {
    Result<Bytes> bytes = readFile(path, kMostPictureBytes);
    if (!bytes) return bytes.error();
    PictureFile file{path.filename().string(), bytes.take()};
    if (Picture known = knownPicture(file)) return known;
    if (Result<Pixels> p = decodePng(file.bytes, path.string(), kLargestTexture); !p) return p.error();
    return sharedPicture(std::move(file));
}

Result<Layer> readLayer(const fs::path& folder) {
    const fs::path description = folder / "layer.json";
    Result<Bytes> text = readFile(description, 65536);
    if (!text) return text.error();
    Result<Json> json = parseJson(std::string(text.value().begin(), text.value().end()), description.string());
    if (!json) return json.error();
    std::optional<Error> error;
    Fields f(json.value(), description.string(), error);
    Layer layer;
    readLayerFields(f, layer);
    if (error) return *error;
    for (const LayerSlot& slot : kLayerSlots) {
        const fs::path file = folder / (std::string(slot.name) + ".png");
        if (&slot != &kLayerSlots[0] && !fs::exists(file)) continue;  // the colour is required
        Result<Picture> picture = readMap(file);
        if (!picture) return picture.error();
        layer.*slot.picture = picture.take();
    }
    return layer;
}

}  // namespace

Result<Layer> layerFromPicture(const fs::path& path) {
    Result<Bytes> bytes = readFile(path, kMostPictureBytes);
    if (!bytes) return bytes.error();
    return layerFromPicture(bytes.take(), path.string());
}

Result<Layer> layerFromPicture(std::vector<uint8_t> png, const std::string& fileName) {
    if (Result<Pixels> p = decodePng(png, fileName, kLargestTexture); !p) return p.error();
    const fs::path path(fileName);
    Layer layer;
    layer.name = asText(path.stem().string());
    layer.colour = sharedPicture({path.filename().string(), std::move(png)});
    return layer;
}

Result<std::vector<Layer>> readLayerSet(const fs::path& folder) {
    std::error_code trouble;
    std::vector<fs::path> folders;
    for (fs::directory_iterator it(folder, trouble), end; !trouble && it != end; it.increment(trouble))
        if (it->is_directory() && fs::exists(it->path() / "layer.json")) folders.push_back(it->path());
    if (trouble) return diskError(folder, trouble.value());
    std::sort(folders.begin(), folders.end());
    std::vector<Layer> layers;
    for (const fs::path& f : folders) {
        Result<Layer> layer = readLayer(f);
        if (!layer) return layer.error();
        layers.push_back(layer.take());
    }
    return layers;
}

fs::path shareFolder() {
    if (const char* named = std::getenv("JAMHILL_SHARE"); named && *named) return named;
    std::error_code none;
    const fs::path program = fs::read_symlink("/proc/self/exe", none);
    for (const char* beside : {"../share/jamhill", "share", "../share"}) {
        const fs::path candidate = (program.parent_path() / beside).lexically_normal();
        if (fs::exists(candidate / "layers", none)) return candidate;
    }
    return {};
}

}  // namespace jam
