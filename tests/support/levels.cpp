#include "levels.h"

#include "cover/rules.h"
#include "cover/weights.h"
#include "dress/kinds.h"
#include "grow/recipe.h"

#include <sstream>

#include "base/noise.h"
#include "files/png.h"
#include "level/ground.h"
#include "level/strata.h"
#include "tools/tool.h"
#include "water/water.h"

namespace jam::test {

Picture plainPicture(uint8_t red, uint8_t green, uint8_t blue) {
    Pixels p{4, 4, 3, 8, {}};
    for (int i = 0; i < 16; ++i) p.samples.insert(p.samples.end(), {red, green, blue});
    return std::make_shared<PictureFile>(PictureFile{"colour.png", encodePng(p)});
}

Layer plainLayer(const std::string& name, uint8_t red, uint8_t green, uint8_t blue) {
    Layer layer;
    layer.name = name;
    layer.colour = plainPicture(red, green, blue);
    return layer;
}

Level flatLevel(int columns, int rows, int layers, double spacing, int coverFactor) {
    NewLevel wish;
    wish.name = "flat";
    wish.columns = columns;
    wish.rows = rows;
    wish.spacing = spacing;
    wish.lowest = -100;
    wish.highest = 400;
    wish.coverFactor = coverFactor;
    Level level = makeLevel(wish).take();
    for (int i = 0; i < layers; ++i) addLayer(level, plainLayer("layer " + std::to_string(i)));
    return level;
}

Level drawnLevel(const std::string& picture) {
    std::vector<std::string> lines;
    std::istringstream in(picture);
    for (std::string line; std::getline(in, line);) {
        const size_t from = line.find_first_not_of(' ');
        if (from != std::string::npos) lines.push_back(line.substr(from));
    }
    Level level = flatLevel(static_cast<int>(lines.front().size()), static_cast<int>(lines.size()));
    for (int r = 0; r < level.rows; ++r)
        for (int c = 0; c < level.columns; ++c) {
            const char sign = lines[static_cast<size_t>(r)][static_cast<size_t>(c)];
            if (sign != '.') level.strata.front().heights.set(c, r, static_cast<float>(sign - '0'));
        }
    return level;
}

Level hillyLevel(int columns, int rows, uint32_t seed, int layers) {
    Level level = flatLevel(columns, rows, layers);
    for (int r = 0; r < rows; ++r)
        for (int c = 0; c < columns; ++c)
            level.strata.front().heights.set(
                c, r, 40 * fractalNoise(static_cast<float>(c) / 40, static_cast<float>(r) / 40, seed, 4));
    for (size_t i = 1; i < level.layers.size(); ++i)
        for (int r = 0; r < level.coverRows(); ++r)
            for (int c = 0; c < level.coverColumns(); ++c) {
                const float n = fractalNoise(static_cast<float>(c) / 30, static_cast<float>(r) / 30,
                                             seed + 7 * static_cast<uint32_t>(i), 3);
                const float cover = std::min(std::max(0.5f + 2 * n, 0.f), 1.f);
                level.layers[i].coverage.set(c, r, static_cast<uint16_t>(cover * kFullCover));
            }
    return level;
}

Level chequeredLevel(int columns, int rows, uint32_t seed, int across, int down) {
    Level l = hillyLevel(columns, rows, seed, 2);
    l.layers[0].colour = plainLayer("red", 200, 60, 40).colour;
    l.layers[1].colour = plainLayer("blue", 40, 80, 200).colour;
    for (int r = 0; r < l.coverRows(); ++r)
        for (int c = 0; c < l.coverColumns(); ++c)
            l.layers[1].coverage.set(c, r, (c / across + r / down) % 2 ? kFullCover : uint16_t{0});
    return l;
}

namespace {

// Two kinds, one of which keeps off the other; rules give one, and a hand planted both across the borders of tiles.
void dress(Level& level) {
    Kind stones;
    stones.name = "stones", stones.growth = usualGrowth(*recipeNamed("stone"));
    stones.apart = 3, stones.lean = 0.7f;
    const uint32_t first = addKind(level, stones).value();
    Kind tufts;
    tufts.name = "tufts", tufts.growth = usualGrowth(*recipeNamed("tuft"));
    tufts.keepsOff = {{KeptOff::What::kind, first, 1.5f}};
    const uint32_t second = addKind(level, tufts).value();
    changeDensity(level, second, 4);
    changeRules(level, second, {{RuleKind::slope, RuleEffect::add, 0, 14, 5}});
    for (const auto& [kind, onHundred] : {std::pair(first, 2.0), std::pair(second, 25.0)}) {
        Kind& k = *level.kind(kind);
        for (int r = 30; r < 110; ++r)
            for (int c = 90; c < 160; ++c) {
                k.coverage.set(c, r, static_cast<uint16_t>(onHundred * 64));
                k.held.set(c, r, kFullCover);
            }
    }
    Single s;
    s.kind = first, s.x = level.originX + 40, s.z = level.originZ + 90, s.turn = 70, s.size = 2.5f;
    (void)putSingle(level, s);
}

}  // namespace

Level lopsidedLevel(uint32_t seed) {
    Level level = flatLevel(149, 85, 0, 1.5, 2);
    level.name = "lopsided";
    level.originX = 310.5;
    level.originZ = -77;
    level.sun = {137, 21};
    for (int i = 0; i < 10; ++i) {
        Layer layer = plainLayer("layer " + std::to_string(i), static_cast<uint8_t>(30 + 20 * i),
                                 static_cast<uint8_t>(210 - 17 * i), static_cast<uint8_t>(60 + 13 * (i % 4)));
        layer.tileSize = 2 + i;
        layer.blend = static_cast<float>(i) / 10;
        layer.look.turn = static_cast<float>(7 * i);
        layer.look.brightness = 0.8f + 0.05f * static_cast<float>(i);
        addLayer(level, std::move(layer));
    }
    level.layers[4].hidden = true;
    level.layers[6].locked = true;
    setBlendBetween(level, level.layers[1].id, level.layers[3].id, 0.9f);
    level.activeStratum = addStratum(level, "upper", 0);
    level.strata.back().opacity = 0.6f;
    for (int r = 0; r < level.rows; ++r)
        for (int c = 0; c < level.columns; ++c) {
            const float x = static_cast<float>(c), z = static_cast<float>(r);
            level.strata[0].heights.set(c, r, 30 * fractalNoise(x / 40, z / 25, seed, 4) + 0.1f * x);
            if (c > 90) level.strata[1].heights.set(c, r, 9 * fractalNoise(x / 15, z / 15, seed + 1, 3));
            if (c < 40 && r > 50)
                level.wash.set(c, r,
                               {static_cast<uint16_t>(400 * c), static_cast<uint16_t>(700 * r), 9000,
                                static_cast<uint16_t>(1200 * (r - 50))});
            // A hole in the south-east, and no land beyond the north-west corner.
            level.opening.set(
                c, r, static_cast<uint8_t>(std::clamp(255 - 60 * std::hypot(x - 120, z - 66) + 200, 0.f, 255.f)));
            level.noLand.set(c, r, static_cast<uint8_t>(std::clamp(40 * (22 - x - 2 * z), 0.f, 255.f)));
        }
    level.opening.dropDefaultTiles();
    level.noLand.dropDefaultTiles();
    level.cliff = 7;
    for (size_t i = 1; i < level.layers.size(); ++i)
        for (int r = 0; r < level.coverRows(); ++r)
            for (int c = 0; c < level.coverColumns(); ++c) {
                const float n = fractalNoise(static_cast<float>(c) / 35, static_cast<float>(r) / 20,
                                             seed + 7 * static_cast<uint32_t>(i), 3);
                level.layers[i].coverage.set(c, r,
                                             static_cast<uint16_t>(std::clamp(2.5f * n - 0.1f, 0.f, 1.f) * kFullCover));
            }
    level.layers[2].rules = {{RuleKind::slope, RuleEffect::add, 12, 90, 5},
                             {RuleKind::altitude, RuleEffect::only, -5, 60, 4}};
    wakeRules(level, level.layers[2].id, true);
    Pool tarn;
    tarn.id = level.nextId++;
    tarn.name = "tarn";
    tarn.x = level.originX + 60 * level.spacing, tarn.z = level.originZ + 40 * level.spacing;
    tarn.height = groundSample(level, 60, 40) + 1.5f;
    tarn.look.clearness = 4;
    level.pools.push_back(tarn);
    refillWater(level);
    dress(level);
    return level;
}

void giveWork(Level& level, Tool tool) {
    for (int r = 0; r < level.rows; ++r)
        for (int c = 0; c < level.columns; ++c) {
            if (tool == Tool::rinse) level.wash.set(c, r, {9000, 20000, 40000, 50000});
            if (tool == Tool::closeUp) level.opening.set(c, r, 255);
            if (tool == Tool::addLand) level.noLand.set(c, r, 255);
        }
    if (!dresses(tool)) return;
    if (level.kinds.empty()) {
        Kind stones;
        stones.name = "stones", stones.growth = usualGrowth(*recipeNamed("stone"));
        (void)addKind(level, stones);
    }
    if (tool == Tool::plant) return;
    // What becomes the first is the second.
    const size_t there = tool == Tool::restyle ? 1 : 0;
    if (there == 1 && level.kinds.size() < 2) {
        Kind tufts;
        tufts.name = "tufts", tufts.growth = usualGrowth(*recipeNamed("tuft"));
        (void)addKind(level, tufts);
    }
    for (int r = 0; r < level.coverRows(); ++r)
        for (int c = 0; c < level.coverColumns(); ++c) level.kinds[there].coverage.set(c, r, 640);
}

double between(Random& random, double low, double high) {
    return low + (high - low) * (static_cast<double>(random()) / 4294967296.0);
}
int wholeBetween(Random& random, int low, int high) {
    return low + static_cast<int>(random() % static_cast<unsigned>(high - low + 1));
}

std::vector<Raster<uint8_t>> weightsOf(const Level& level) {
    std::vector<Raster<uint8_t>> planes(level.layers.size(), Raster<uint8_t>(level.coverColumns(), level.coverRows()));
    std::vector<View<uint8_t>> views;
    for (auto& p : planes) views.push_back(p.view());
    readWeights(level, level.coverBounds(), views);
    return planes;
}

}  // namespace jam::test
