#include "files/heightmap.h"

#include "base/text.h"

namespace jam {

Result<Pixels> readHeightmap(const std::filesystem::path& path) {
    Result<Bytes> bytes = readFile(path, 512u << 20);
    if (!bytes) return bytes.error();
    Result<Pixels> decoded = decodePng(bytes.value(), path.string(), kMaxSamples);
    if (!decoded) return decoded;
    Pixels p = decoded.take();
    if (p.width < kMinSamples || p.height < kMinSamples)
        return Error{path.string(), "size", "it is " + std::to_string(p.width) + " x " + std::to_string(p.height),
                     "choose a picture of at least 2 x 2"};
    if (p.channels == 1) return p;
    Pixels grey{p.width, p.height, 1, p.bits, {}};
    grey.samples.reserve(p.samples.size() / static_cast<size_t>(p.channels));
    for (size_t i = 0; i < p.samples.size(); i += static_cast<size_t>(p.channels)) {
        if (p.channels >= 3 && (p.samples[i] != p.samples[i + 1] || p.samples[i] != p.samples[i + 2]))
            return Error{path.string(), "channels", "it is a colour picture", "export the heightmap as grey, best with 16 bits"};
        grey.samples.push_back(p.samples[i]);
    }
    return grey;
}

Result<Level> levelFromHeightmap(const Pixels& picture, const std::string& name, const HeightmapWish& wish, float margin) {
    if (!(wish.white > wish.black))
        return Error{name, "white", "it stands for " + number(wish.white) + " m, not above black at " + number(wish.black) + " m",
                     "give white a greater height than black"};
    NewLevel start;
    start.name = std::filesystem::path(name).stem().string();
    start.columns = picture.width;
    start.rows = picture.height;
    start.spacing = wish.spacing;
    start.startHeight = wish.black;
    start.lowest = wish.black - margin;
    start.highest = wish.white + margin;
    Result<Level> made = makeLevel(start);
    if (!made) return made;
    Level level = made.take();
    const double perStep = (static_cast<double>(wish.white) - wish.black) / picture.most();
    Raster<float> row(level.columns, 1);
    for (int z = 0; z < level.rows; ++z) {
        for (int x = 0; x < level.columns; ++x) row.at(x, 0) = static_cast<float>(picture.at(x, z) * perStep);
        level.strata.front().heights.write({0, z, level.columns, z + 1}, row.view());
    }
    return level;
}

}  // namespace jam
