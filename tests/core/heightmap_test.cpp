// Heightmaps of every format: written here by the formats' own libraries, read by ours.
#include <catch2/catch.hpp>

#include <ImfChannelList.h>
#include <ImfFrameBuffer.h>
#include <ImfHeader.h>
#include <ImfOutputFile.h>
#include <tiffio.h>
#include <cmath>
#include <cstring>

#include "files/field_level.h"
#include "files/heightmap.h"
#include "folder.h"
#include "handover/handover.h"
#include "level/ground.h"
#include "levels.h"
#include "survey/check.h"

using namespace jam;
using namespace jam::test;

namespace {

// Hills between 0 and 1.
double hillAt(int x, int z) {
    return 0.5 + 0.3 * std::sin(x * 0.11) * std::cos(z * 0.07) + 0.15 * std::sin(x * 0.031 + z * 0.05);
}

constexpr int kWide = 96, kDeep = 70;

Bytes rawOf(RawSample kind, bool big, size_t header, int width = kWide, int depth = kDeep) {
    Bytes b(header, 0x7f);
    const auto push = [&](uint32_t v, int bytes) {
        for (int i = 0; i < bytes; ++i) b.push_back(static_cast<uint8_t>(v >> (8 * (big ? bytes - 1 - i : i))));
    };
    for (int z = 0; z < depth; ++z)
        for (int x = 0; x < width; ++x) {
            const double h = hillAt(x, z);
            if (kind == RawSample::u8) push(static_cast<uint32_t>(std::lround(h * 255)), 1);
            if (kind == RawSample::u16) push(static_cast<uint32_t>(std::lround(h * 65535)), 2);
            if (kind == RawSample::f32) {
                const auto f = static_cast<float>(h * 100);
                uint32_t v;
                std::memcpy(&v, &f, 4);
                push(v, 4);
            }
        }
    return b;
}

void writeTiff(const std::filesystem::path& path, int bits, bool tiled, bool bigEndian) {
    TIFF* t = TIFFOpen(path.c_str(), bigEndian ? "wb" : "wl");
    TIFFSetField(t, TIFFTAG_IMAGEWIDTH, kWide);
    TIFFSetField(t, TIFFTAG_IMAGELENGTH, kDeep);
    TIFFSetField(t, TIFFTAG_BITSPERSAMPLE, bits);
    TIFFSetField(t, TIFFTAG_SAMPLESPERPIXEL, 1);
    TIFFSetField(t, TIFFTAG_SAMPLEFORMAT, bits == 32 ? SAMPLEFORMAT_IEEEFP : SAMPLEFORMAT_UINT);
    TIFFSetField(t, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_MINISBLACK);
    TIFFSetField(t, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
    TIFFSetField(t, TIFFTAG_COMPRESSION, COMPRESSION_LZW);
    const auto sample = [&](int x, int z, uint8_t* to) {
        const double h = hillAt(std::min(x, kWide - 1), std::min(z, kDeep - 1));
        if (bits == 8) *to = static_cast<uint8_t>(std::lround(h * 255));
        if (bits == 16) {
            const auto v = static_cast<uint16_t>(std::lround(h * 65535));
            std::memcpy(to, &v, 2);
        }
        if (bits == 32) {
            const auto v = static_cast<float>(h * 100);
            std::memcpy(to, &v, 4);
        }
    };
    const size_t size = static_cast<size_t>(bits) / 8;
    if (tiled) {
        TIFFSetField(t, TIFFTAG_TILEWIDTH, 32);
        TIFFSetField(t, TIFFTAG_TILELENGTH, 16);
        std::vector<uint8_t> tile(32 * 16 * size);
        for (int z0 = 0; z0 < kDeep; z0 += 16)
            for (int x0 = 0; x0 < kWide; x0 += 32) {
                for (int z = 0; z < 16; ++z)
                    for (int x = 0; x < 32; ++x)
                        sample(x0 + x, z0 + z,
                               tile.data() + (static_cast<size_t>(z) * 32 + static_cast<size_t>(x)) * size);
                TIFFWriteTile(t, tile.data(), static_cast<uint32_t>(x0), static_cast<uint32_t>(z0), 0, 0);
            }
    } else {
        std::vector<uint8_t> row(kWide * size);
        for (int z = 0; z < kDeep; ++z) {
            for (int x = 0; x < kWide; ++x) sample(x, z, row.data() + static_cast<size_t>(x) * size);
            TIFFWriteScanline(t, row.data(), static_cast<uint32_t>(z), 0);
        }
    }
    TIFFClose(t);
}

void writeExr(const std::filesystem::path& path, const char* channel, Imf::PixelType type) {
    Imf::Header header(kWide, kDeep);
    header.channels().insert(channel, Imf::Channel(type));
    header.compression() = Imf::PIZ_COMPRESSION;
    std::vector<float> values;
    std::vector<half> halves;
    for (int z = 0; z < kDeep; ++z)
        for (int x = 0; x < kWide; ++x)
            values.push_back(static_cast<float>(hillAt(x, z) * 100)), halves.push_back(half(values.back()));
    Imf::FrameBuffer frame;
    const size_t size = type == Imf::FLOAT ? 4 : 2;
    frame.insert(channel, Imf::Slice(type,
                                     type == Imf::FLOAT ? reinterpret_cast<char*>(values.data())
                                                        : reinterpret_cast<char*>(halves.data()),
                                     size, size * kWide));
    Imf::OutputFile file(path.c_str(), header);
    file.setFrameBuffer(frame);
    file.writePixels(kDeep);
}

std::string asciiOf(double holeAt = -1) {
    std::string text = "ncols " + std::to_string(kWide) + "\nnrows " + std::to_string(kDeep) +
                       "\nxllcorner 500\nyllcorner 100\ncellsize 2.5\nNODATA_value -9999\n";
    for (int z = 0; z < kDeep; ++z) {
        for (int x = 0; x < kWide; ++x)
            text += (z * kWide + x == holeAt ? std::string("-9999") : std::to_string(hillAt(x, z) * 100)) + " ";
        text += "\n";
    }
    return text;
}

Bytes bytesIn(const std::string& s) { return Bytes(s.begin(), s.end()); }

// Greatest difference to the hills when values are scaled so that the hills are 0..100.
double error(const HeightField& f, double full) {
    double worst = 0;
    for (int z = 0; z < kDeep; ++z)
        for (int x = 0; x < kWide; ++x)
            worst = std::max(worst, std::abs(f.values.at(x, z) / full * 100 - hillAt(x, z) * 100));
    return worst;
}

}  // namespace

TEST_CASE("every heightmap format is read within half a step") {
    const Folder folder;
    const auto check = [&](const Result<HeightField>& f, double full, double within) {
        if (!f) FAIL(f.error().sentence());
        INFO(f.value().format);
        REQUIRE(f.value().width() == kWide);
        REQUIRE(f.value().depth() == kDeep);
        CHECK(error(f.value(), full) <= within);
    };
    for (const int bits : {8, 16}) {
        Pixels p{kWide, kDeep, 1, bits, {}};
        for (int z = 0; z < kDeep; ++z)
            for (int x = 0; x < kWide; ++x)
                p.samples.push_back(static_cast<uint16_t>(std::lround(hillAt(x, z) * p.most())));
        put(folder.path / "h.png", encodePng(p));
        check(readHeightField(folder.path / "h.png"), p.most(), 50.0 / p.most() + 1e-6);
    }
    for (const int bits : {8, 16, 32})
        for (const bool tiled : {false, true})
            for (const bool big : {false, true}) {
                writeTiff(folder.path / "h.tif", bits, tiled, big);
                const double full = bits == 32 ? 100 : (1 << bits) - 1;
                check(readHeightField(folder.path / "h.tif"), full, bits == 32 ? 1e-5 : 50 / full + 1e-6);
            }
    writeExr(folder.path / "h.exr", "Y", Imf::FLOAT);
    check(readHeightField(folder.path / "h.exr"), 100, 1e-5);
    writeExr(folder.path / "h.exr", "R", Imf::HALF);
    check(readHeightField(folder.path / "h.exr"), 100, 0.04);
    put(folder.path / "h.asc", bytesIn(asciiOf()));
    check(readHeightField(folder.path / "h.asc"), 100, 1e-5);
    for (const RawSample kind : {RawSample::u8, RawSample::u16, RawSample::f32})
        for (const bool big : {false, true}) {
            put(folder.path / "h.raw", rawOf(kind, big, 100));
            const double full = kind == RawSample::u8 ? 255 : kind == RawSample::u16 ? 65535 : 100;
            check(readHeightField(folder.path / "h.raw", RawLayout{kWide, kDeep, kind, big, 100}), full,
                  kind == RawSample::f32 ? 1e-5 : 50 / full + 1e-6);
        }
}

TEST_CASE("the layout of a raw file is guessed from its bytes") {
    const auto guess = [](RawSample kind, bool big, size_t header, int width, int depth) {
        const Result<RawLayout> g = guessRaw(rawOf(kind, big, header, width, depth), "h.raw");
        REQUIRE(g);
        RawLayout wanted{width, depth, kind, kind != RawSample::u8 && big, header};
        INFO(g.value().width << " x " << g.value().depth << " kind " << static_cast<int>(g.value().sample) << " big "
                             << g.value().bigEndian << " offset " << g.value().offset);
        CHECK(g.value() == wanted);
    };
    for (const bool big : {false, true}) {
        guess(RawSample::u16, big, 0, 129, 129);
        guess(RawSample::f32, big, 0, 129, 129);
        guess(RawSample::u16, big, 64, 129, 129);
    }
    guess(RawSample::u8, false, 0, 128, 128);
    guess(RawSample::u16, false, 0, 160, 100);
    CHECK_FALSE(guessRaw({1, 2, 3}, "h.raw"));
}

TEST_CASE("a wrong byte order looks like static, the right one does not") {
    const Bytes b = rawOf(RawSample::u16, false, 0);
    const HeightField right = decodeHeightField(b, "h.raw", RawLayout{kWide, kDeep, RawSample::u16, false, 0}).take();
    const HeightField wrong = decodeHeightField(b, "h.raw", RawLayout{kWide, kDeep, RawSample::u16, true, 0}).take();
    CHECK(staticness(right.values.view()) < 0.05);
    CHECK(staticness(wrong.values.view()) > kStatic);
}

TEST_CASE("heightmaps that cannot be ground are refused by field") {
    const Folder folder;
    const auto refusal = [](const Result<HeightField>& f) { return f ? std::string("accepted") : f.error().field; };
    Pixels colour{8, 8, 3, 8, std::vector<uint16_t>(8 * 8 * 3, 0)};
    colour.samples[1] = 200;
    CHECK(refusal(decodeHeightField(encodePng(colour), "c.png")) == "channels");
    CHECK(refusal(decodeHeightField(encodePng({1, 1, 1, 8, {0}}), "one.png")) == "size");
    CHECK(refusal(decodeHeightField(bytesIn("hello, this is no height"), "x.dat")) == "format");
    CHECK(refusal(decodeHeightField(rawOf(RawSample::u16, false, 0), "h.raw",
                                    RawLayout{1000, 1000, RawSample::u16, false, 0})) == "size");
    CHECK(refusal(decodeHeightField(rawOf(RawSample::u16, false, 0), "h.raw",
                                    RawLayout{0, 5, RawSample::u16, false, 0})) == "size");
    CHECK(refusal(decodeHeightField(bytesIn("ncols 3\nnrows 3\ncellsize 1\n1 2 3 4 5 six 7 8 9"), "h.asc")) ==
          "heights");
    CHECK(refusal(decodeHeightField(bytesIn("ncols 3\nnrows 3\ncellsize 1\n1 2 3 4"), "h.asc")) == "heights");
    CHECK(refusal(decodeHeightField(bytesIn("ncols 3\nnrows 3\ncellsize 0\n1 2 3 4 5 6 7 8 9"), "h.asc")) ==
          "cellsize");
    CHECK(refusal(decodeHeightField(bytesIn("ncols 90000\nnrows 90000\ncellsize 1\n1 2"), "h.asc")) == "size");
    CHECK(refusal(decodeHeightField(bytesIn("ncols 3\nnrows 3\nshoe 1\n"), "h.asc")) == "shoe");
    HeightField f = decodeHeightField(bytesIn(asciiOf()), "h.asc").take();
    FieldWish wish;
    wish.black = wish.white = 5;
    CHECK(levelFromField(f, wish).error().field == "white");
    wish.white = 50;
    wish.fit = Fit::stretch;
    wish.spacing = 0.01;
    CHECK_FALSE(levelFromField(f, wish));
}

TEST_CASE("a heightmap becomes ground and comes back within half a step") {
    const Folder folder;
    Random random(8);
    Pixels p{120, 90, 1, 16, {}};
    for (int i = 0; i < 120 * 90; ++i) p.samples.push_back(static_cast<uint16_t>(wholeBetween(random, 0, 65535)));
    p.samples[0] = 0;
    p.samples[1] = 65535;
    const HeightField field = decodeHeightField(encodePng(p), "in.png").take();
    FieldWish wish;
    wish.spacing = 2;
    wish.black = -10;
    wish.white = 90;
    Level level = levelFromField(field, wish).take();
    addLayer(level, plainLayer("grass"));
    CHECK(checkLevel(level).empty());
    CHECK(groundSample(level, 0, 0) == Approx(-10));
    CHECK(groundSample(level, 1, 0) == Approx(90));
    REQUIRE(handOver(level, folder.path / "out", {}));
    const HeightField back = readHeightField(folder.path / "out" / "heightmap.png").take();
    for (int z = 0; z < 90; ++z)
        for (int x = 0; x < 120; ++x) REQUIRE(back.values.at(x, z) == field.values.at(x, z));
}

TEST_CASE("stretching takes the whole picture, cropping its middle in the shape of the level") {
    const HeightField f = decodeHeightField(bytesIn(asciiOf()), "h.asc").take();
    FieldWish wish;
    wish.black = f.black;
    wish.white = f.white;
    wish.fit = Fit::stretch;
    wish.width = wish.depth = 200;
    wish.spacing = 1;
    const Level stretched = levelFromField(f, wish).take();
    CHECK(stretched.columns == 201);
    CHECK(stretched.rows == 201);
    CHECK(groundSample(stretched, 0, 0) == Approx(hillAt(0, 0) * 100).margin(0.1));
    CHECK(groundSample(stretched, 200, 200) == Approx(hillAt(kWide - 1, kDeep - 1) * 100).margin(0.1));
    wish.fit = Fit::crop;
    const Level cropped = levelFromField(f, wish).take();
    // A square of the picture's depth from its middle: the level's middle shows the picture's.
    CHECK(groundSample(cropped, 100, 100) == Approx(f.values.at(kWide / 2, kDeep / 2)).margin(2.5));
    CHECK(groundSample(cropped, 100, 0) == Approx(f.values.at(kWide / 2, 0)).margin(2.5));
    CHECK(groundSample(cropped, 0, 100) == Approx(f.values.at((kWide - kDeep) / 2, kDeep / 2)).margin(2.5));
}

TEST_CASE("a picture with 256 steps is softened when asked") {
    Pixels p{200, 120, 1, 8, {}};
    for (int z = 0; z < 120; ++z)
        for (int x = 0; x < 200; ++x) p.samples.push_back(static_cast<uint16_t>(40 + x / 8));
    const HeightField f = decodeHeightField(encodePng(p), "steps.png").take();
    CHECK(f.steps == 256);
    FieldWish wish;
    wish.white = 255;
    const auto steepest = [&](bool soften) {
        wish.soften = soften;
        const Level l = levelFromField(f, wish).take();
        double most = 0;
        for (int x = 20; x < 180; ++x)
            most = std::max<double>(most, std::abs(groundSample(l, x + 1, 60) - groundSample(l, x, 60)));
        return most;
    };
    CHECK(steepest(false) == Approx(1));
    CHECK(steepest(true) < 0.25);
}

TEST_CASE("a flat heightmap is a level, whatever its samples are") {
    // A sea in metres, as floats, signed numbers and text; and grey pictures of one tone.
    const auto text = [](const std::string& value) {
        std::string grid = "ncols 30\nnrows 20\nxllcorner 0\nyllcorner 0\ncellsize 10\n";
        for (int z = 0; z < 20; ++z) {
            for (int x = 0; x < 30; ++x) grid += value + " ";
            grid += "\n";
        }
        return bytesIn(grid);
    };
    const auto raw = [](RawSample sample, bool big, std::initializer_list<uint8_t> one) {
        Bytes b;
        for (int i = 0; i < 30 * 20; ++i) b.insert(b.end(), one.begin(), one.end());
        return decodeHeightField(b, "flat.raw", RawLayout{30, 20, sample, big, 0}).take();
    };
    const std::pair<HeightField, float> metres[] = {{decodeHeightField(text("5"), "flat.asc").take(), 5.f},
                                                    {decodeHeightField(text("-12.5"), "flat.asc").take(), -12.5f},
                                                    {decodeHeightField(text("0"), "flat.asc").take(), 0.f},
                                                    {raw(RawSample::i16, true, {0x01, 0x00}), 256.f},
                                                    {raw(RawSample::f32, false, {0, 0, 0xa0, 0x40}), 5.f}};
    for (const auto& [field, height] : metres) {
        INFO(field.format << ", " << height);
        CHECK(field.low == height);
        CHECK(field.high == height);
        FieldWish wish;
        wish.black = field.black, wish.white = field.white;
        const Result<Level> made = levelFromField(field, wish);
        REQUIRE(made);
        CHECK(groundSample(made.value(), 7, 3) == height);
        CHECK(made.value().lowest == height - 50);
        CHECK(made.value().highest == height + 50);
        // All of it at another height.
        wish.black = wish.white = 88;
        CHECK(groundSample(levelFromField(field, wish).value(), 7, 3) == 88);
        wish.white = 80;
        CHECK_FALSE(levelFromField(field, wish));
    }
    Pixels p{30, 20, 1, 16, std::vector<uint16_t>(600, 32768)};
    const HeightField grey = decodeHeightField(encodePng(p), "grey.png").take();
    FieldWish wish;
    CHECK(groundSample(levelFromField(grey, wish).value(), 7, 3) == Approx(100 * 32768 / 65535.0));
    wish.black = wish.white = 5;
    CHECK_FALSE(levelFromField(grey, wish));
}
