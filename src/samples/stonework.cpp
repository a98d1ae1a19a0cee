#include "stonework.h"

#include <cmath>

#include "base/noise.h"
#include "files/disk.h"
#include "files/png.h"
#include "level/ground.h"
#include "survey/slope.h"

namespace jam::samples {

Result<Level> makeWallSegment(const std::vector<Layer>& layers) {
    NewLevel wish;
    wish.name = "dry stone wall";
    wish.columns = 19, wish.rows = 9;
    wish.spacing = 0.5;
    wish.lowest = -5, wish.highest = 20;
    wish.coverFactor = 2;
    Result<Level> made = makeLevel(wish);
    if (!made) return made;
    Level level = made.take();
    for (const char* name : {"Meadow grass", "Limestone"})
        for (const Layer& l : layers)
            if (l.name == name) addLayer(level, l);
    if (level.layers.size() != 2)
        return Error{"", "layers", "grass or limestone is missing", "make the sample layers first"};
    // Thick at the foot, battered inwards, with stones of different height on top.
    const auto beside = [](double z) { return std::abs(z); };
    for (int r = 0; r < level.rows; ++r)
        for (int c = 0; c < level.columns; ++c) {
            const double z = level.originZ + r * level.spacing;
            const auto x = static_cast<float>(c);
            const float top = 1.25f + 0.22f * fractalNoise(x / 2.1f, static_cast<float>(r) / 2.1f, 31, 2);
            level.strata[0].heights.set(c, r, top * static_cast<float>(std::clamp((1.1 - beside(z)) / 0.45, 0.0, 1.0)));
            level.fence.set(c, r, static_cast<uint16_t>(kInside * std::clamp((1.75 - beside(z)) / 0.5, 0.0, 1.0)));
        }
    level.fenced = true;
    for (int r = 0; r < level.coverRows(); ++r)
        for (int c = 0; c < level.coverColumns(); ++c) {
            const double z = level.originZ + r * level.coverSpacing();
            level.layers[1].coverage.set(
                c, r, static_cast<uint16_t>(kFullCover * std::clamp((1.45 - beside(z)) / 0.4, 0.0, 1.0)));
        }
    return level;
}

Status saveClipPicture(const Level& clip, const std::filesystem::path& path) {
    constexpr int kSize = 128;
    Pixels picture{kSize, kSize, 4, 8, std::vector<uint16_t>(kSize * kSize * 4, 0)};
    const double scale = std::max(clip.width(), clip.depth()) / kSize;
    for (int y = 0; y < kSize; ++y)
        for (int x = 0; x < kSize; ++x) {
            const double wx = clip.originX + clip.width() / 2 + (x - kSize / 2 + 0.5) * scale,
                         wz = clip.originZ + clip.depth() / 2 + (y - kSize / 2 + 0.5) * scale;
            if (!clip.holds(wx, wz)) continue;
            const Gradient g = gradientAt(clip, wx, wz);
            const double light = std::clamp(
                (0.55 + 0.3 * (g.east + g.south)) / std::sqrt(1 + g.east * g.east + g.south * g.south) + 0.2, 0.1, 1.0);
            uint16_t* p = &picture.samples[static_cast<size_t>((y * kSize + x) * 4)];
            const double stone[] = {196, 188, 170};
            for (int k = 0; k < 3; ++k) p[k] = static_cast<uint16_t>(stone[k] * light);
            p[3] = static_cast<uint16_t>(clip.fence.at(static_cast<int>(std::lround(clip.toColumn(wx))),
                                                       static_cast<int>(std::lround(clip.toRow(wz)))) /
                                         257);
        }
    AtomicFile file(path);
    if (Status s = file.write(encodePng(picture)); !s) return s;
    return file.commit();
}

}  // namespace jam::samples
