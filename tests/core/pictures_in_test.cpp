// Numbers of pictures that come in, to the bit.
#include <catch2/catch.hpp>

#include <tiffio.h>

#include "files/field_level.h"
#include "files/level_file.h"
#include "files/png.h"
#include "files/weights_file.h"
#include "folder.h"
#include "level/ground.h"
#include "levels.h"
#include "pictures/seam.h"

using namespace jam;
using namespace jam::test;
namespace fs = std::filesystem;

TEST_CASE("full white of an 8 and of a 16-bit picture is exactly the height given for white") {
    const Folder folder;
    for (const int bits : {8, 16}) {
        const uint16_t full = bits == 8 ? 255 : 65535;
        const fs::path tiff = folder.path / "h.tif", png = folder.path / "h.png";
        TIFF* out = TIFFOpen(tiff.c_str(), "w");
        REQUIRE(out);
        TIFFSetField(out, TIFFTAG_IMAGEWIDTH, 9);
        TIFFSetField(out, TIFFTAG_IMAGELENGTH, 5);
        TIFFSetField(out, TIFFTAG_BITSPERSAMPLE, bits);
        TIFFSetField(out, TIFFTAG_SAMPLESPERPIXEL, 1);
        TIFFSetField(out, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_MINISBLACK);
        TIFFSetField(out, TIFFTAG_ROWSPERSTRIP, 5);
        Pixels p{9, 5, 1, bits, {}};
        for (int y = 0; y < 5; ++y) {
            std::vector<uint16_t> row(9, static_cast<uint16_t>(full / 3));
            row[0] = 0, row[8] = full;
            p.samples.insert(p.samples.end(), row.begin(), row.end());
            std::vector<uint8_t> small(row.begin(), row.end());
            TIFFWriteScanline(out, bits == 8 ? static_cast<void*>(small.data()) : row.data(), static_cast<uint32_t>(y),
                              0);
        }
        TIFFClose(out);
        put(png, encodePng(p));
        for (const fs::path& file : {tiff, png}) {
            const HeightField field = readHeightField(file).take();
            FieldWish wish;
            wish.black = -37.25f, wish.white = 412.5f;
            const Level level = levelFromField(field, wish).take();
            INFO(file << ", " << bits);
            CHECK(groundSample(level, 8, 2) == Approx(412.5).margin(1e-4));
            CHECK(groundSample(level, 0, 4) == Approx(-37.25).margin(1e-4));
            CHECK(groundSample(level, 4, 0) == Approx(-37.25 + 449.75 / 3).margin(bits == 8 ? 0.01 : 1e-3));
        }
    }
}

TEST_CASE("weights of 8 and of 16 bits can be mixed in one set") {
    const Folder folder;
    const Level level = flatLevel(6, 4, 3);
    Pixels coarse{6, 4, 1, 8, {}}, fine{6, 4, 1, 16, {}}, rest{6, 4, 1, 8, {}};
    for (int i = 0; i < 24; ++i) {
        coarse.samples.push_back(51);                                  // a fifth
        fine.samples.push_back(static_cast<uint16_t>(65535 * 2 / 5));  // two fifths
        rest.samples.push_back(102);                                   // two fifths
    }
    std::vector<WeightChannel> channels;
    const std::pair<const char*, const Pixels*> files[] = {{"a.png", &coarse}, {"b.png", &fine}, {"c.png", &rest}};
    for (size_t i = 0; i < 3; ++i) {
        put(folder.path / files[i].first, encodePng(*files[i].second));
        channels.push_back({folder.path / files[i].first, 0, level.layers[i].id});
    }
    const Result<Level> done = importWeights(level, channels);
    REQUIRE(done);
    const auto weights = weightsOf(done.value());
    CHECK(std::abs(weights[0].at(3, 2) - 51) <= 1);
    CHECK(std::abs(weights[1].at(3, 2) - 102) <= 1);
    CHECK(std::abs(weights[2].at(3, 2) - 102) <= 1);
}

TEST_CASE("closing a picture's second pair of edges does not open the first again") {
    Random random(3);
    for (int round = 0; round < 6; ++round) {
        // Slopes both ways, bumps, and a bright bar, so that neither pair of edges meets.
        Pixels p{96, 128, 3, 8, {}};
        const double a = between(random, 0.3, 1), b = between(random, 0.3, 1), bar = between(random, 0.2, 0.8);
        for (int y = 0; y < 128; ++y)
            for (int x = 0; x < 96; ++x)
                for (int c = 0; c < 3; ++c) {
                    const double v = 60 + 70 * a * x / 96 + 60 * b * y / 128 +
                                     12 * std::sin(x * 0.7 + c) * std::cos(y * 0.45) +
                                     (std::abs(y / 128.0 - bar) < 0.05 ? 40 : 0);
                    p.samples.push_back(static_cast<uint16_t>(std::clamp(v + wholeBetween(random, -6, 6), 0.0, 255.0)));
                }
        const SeamReport open = checkSeams(p);
        CHECK_FALSE((open.leftRight < SeamReport::kEdgeSeen && open.topBottom < SeamReport::kEdgeSeen));
        const SeamReport closed = checkSeams(makeSeamless({p}).take().front());
        INFO("round " << round);
        CHECK(closed.leftRight < SeamReport::kEdgeSeen);
        CHECK(closed.topBottom < SeamReport::kEdgeSeen);
    }
}
