// Elevation data as they are in the world: every kind of sample, sizes of pixels, and what has no value.
#include <catch2/catch.hpp>

#include <tiffio.h>
#include <clocale>
#include <cmath>
#include <cstring>

#include "files/field_level.h"
#include "files/heightmap.h"
#include "folder.h"
#include "level/ground.h"
#include "levels.h"

using namespace jam;
using namespace jam::test;

namespace {

constexpr int kWide = 37, kDeep = 23;

// Metres with a sign, whole ones, lopsided.
int metresAt(int x, int z) { return -40 + 7 * x - 5 * z + (x * z) % 11; }

struct TiffWish {
    int bits = 16, format = SAMPLEFORMAT_INT;
    bool tiled = false, big = false, bigEndian = false;
    std::vector<double> scale = {};
    std::vector<double> ties = {};
    std::vector<uint16_t> keys = {};
    std::string none = {};
    int hole = -1;
    double holeValue = 0;
};

template <class T>
void putSample(uint8_t* to, double v) {
    const T t = static_cast<T>(v);
    std::memcpy(to, &t, sizeof t);
}

void putAs(const TiffWish& w, double v, uint8_t* to) {
    if (w.format == SAMPLEFORMAT_IEEEFP)
        return w.bits == 64 ? putSample<double>(to, v) : putSample<float>(to, static_cast<float>(v));
    if (w.format == SAMPLEFORMAT_INT)
        return w.bits == 8    ? putSample<int8_t>(to, v)
               : w.bits == 16 ? putSample<int16_t>(to, v)
                              : putSample<int32_t>(to, v);
    return w.bits == 8    ? putSample<uint8_t>(to, v)
           : w.bits == 16 ? putSample<uint16_t>(to, v)
                          : putSample<uint32_t>(to, v);
}

// What the samples are: kinds without a sign or with few values get their own.
double valueFor(const TiffWish& w, int x, int z) {
    if (z * kWide + x == w.hole) return w.holeValue;
    const double m = metresAt(x, z);
    if (w.bits == 8) return w.format == SAMPLEFORMAT_INT ? std::fmod(m, 100) : std::fmod(std::abs(m), 250);
    if (w.format == SAMPLEFORMAT_UINT) return m + 500;
    return w.format == SAMPLEFORMAT_IEEEFP ? m + 0.25 : m;
}

void writeTiff(const std::filesystem::path& path, const TiffWish& w) {
    TIFF* t = TIFFOpen(path.c_str(), (std::string("w") + (w.big ? "8" : "") + (w.bigEndian ? "b" : "l")).c_str());
    static const TIFFFieldInfo known[] = {{33550, -1, -1, TIFF_DOUBLE, FIELD_CUSTOM, 1, 1, const_cast<char*>("scale")},
                                          {33922, -1, -1, TIFF_DOUBLE, FIELD_CUSTOM, 1, 1, const_cast<char*>("ties")},
                                          {34735, -1, -1, TIFF_SHORT, FIELD_CUSTOM, 1, 1, const_cast<char*>("keys")},
                                          {42113, -1, -1, TIFF_ASCII, FIELD_CUSTOM, 1, 0, const_cast<char*>("none")}};
    TIFFMergeFieldInfo(t, known, 4);
    TIFFSetField(t, TIFFTAG_IMAGEWIDTH, kWide);
    TIFFSetField(t, TIFFTAG_IMAGELENGTH, kDeep);
    TIFFSetField(t, TIFFTAG_BITSPERSAMPLE, w.bits);
    TIFFSetField(t, TIFFTAG_SAMPLESPERPIXEL, 1);
    TIFFSetField(t, TIFFTAG_SAMPLEFORMAT, w.format);
    TIFFSetField(t, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_MINISBLACK);
    TIFFSetField(t, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
    if (!w.scale.empty()) TIFFSetField(t, 33550, static_cast<int>(w.scale.size()), w.scale.data());
    if (!w.ties.empty()) TIFFSetField(t, 33922, static_cast<int>(w.ties.size()), w.ties.data());
    if (!w.keys.empty()) TIFFSetField(t, 34735, static_cast<int>(w.keys.size()), w.keys.data());
    if (!w.none.empty()) TIFFSetField(t, 42113, w.none.c_str());
    const size_t size = static_cast<size_t>(w.bits) / 8;
    const int tileW = w.tiled ? 16 : kWide, tileD = w.tiled ? 16 : 1;
    if (w.tiled) TIFFSetField(t, TIFFTAG_TILEWIDTH, 16), TIFFSetField(t, TIFFTAG_TILELENGTH, 16);
    std::vector<uint8_t> block(static_cast<size_t>(tileW * tileD) * size);
    for (int z0 = 0; z0 < kDeep; z0 += tileD)
        for (int x0 = 0; x0 < kWide; x0 += tileW) {
            for (int z = 0; z < tileD; ++z)
                for (int x = 0; x < tileW; ++x)
                    putAs(w, valueFor(w, std::min(x0 + x, kWide - 1), std::min(z0 + z, kDeep - 1)),
                          block.data() + static_cast<size_t>(z * tileW + x) * size);
            if (w.tiled) TIFFWriteTile(t, block.data(), static_cast<uint32_t>(x0), static_cast<uint32_t>(z0), 0, 0);
            else TIFFWriteScanline(t, block.data(), static_cast<uint32_t>(z0), 0);
        }
    TIFFClose(t);
}

HeightField readTiff(const TiffWish& w) {
    const Folder folder;
    writeTiff(folder.path / "e.tif", w);
    Result<HeightField> f = readHeightField(folder.path / "e.tif");
    if (!f) FAIL(f.error().sentence());
    REQUIRE(f.value().width() == kWide);
    REQUIRE(f.value().depth() == kDeep);
    return f.take();
}

double worstTo(const HeightField& f, const TiffWish& w, double factor = 1) {
    double worst = 0;
    for (int z = 0; z < kDeep; ++z)
        for (int x = 0; x < kWide; ++x)
            if (z * kWide + x != w.hole)
                worst = std::max(worst, std::abs(f.values.at(x, z) - valueFor(w, x, z) * factor));
    return worst;
}

Bytes text(const std::string& s) { return Bytes(s.begin(), s.end()); }

constexpr const char* kHead = "ncols 3\nnrows 3\nxllcorner 0\nyllcorner 0\ncellsize 2\n";

}  // namespace

TEST_CASE("TIFFs of every kind of sample come in with the same numbers") {
    const std::pair<int, int> kinds[] = {{SAMPLEFORMAT_UINT, 8},    {SAMPLEFORMAT_UINT, 16},  {SAMPLEFORMAT_UINT, 32},
                                         {SAMPLEFORMAT_INT, 8},     {SAMPLEFORMAT_INT, 16},   {SAMPLEFORMAT_INT, 32},
                                         {SAMPLEFORMAT_IEEEFP, 32}, {SAMPLEFORMAT_IEEEFP, 64}};
    for (const auto& [format, bits] : kinds)
        for (int k = 0; k < 8; ++k) {
            TiffWish w{bits, format, (k & 1) != 0, (k & 2) != 0, (k & 4) != 0};
            INFO("format " << format << ", bits " << bits << ", way " << k);
            const HeightField f = readTiff(w);
            CHECK(worstTo(f, w) == 0);
            // What has a sign is metres, what has none is not, until the size of its pixels is known.
            CHECK(f.metres == (format != SAMPLEFORMAT_UINT));
            CHECK(f.cellX == 0);
            CHECK(f.holes == 0);
            if (!f.metres) CHECK(f.white == static_cast<float>(std::ldexp(1.0, bits) - 1));
            else CHECK((f.black == f.low && f.white == f.high));
        }
}

TEST_CASE("the size of a pixel is read in metres, feet and degrees") {
    TiffWish w;
    w.format = SAMPLEFORMAT_UINT;
    w.scale = {2.5, 5, 0};
    HeightField f = readTiff(w);
    CHECK(f.metres);
    CHECK(f.cellX == 2.5);
    CHECK(f.cellZ == 5);
    CHECK_FALSE(f.square());
    CHECK(worstTo(f, w) == 0);
    // Feet along the ground, and feet of height.
    w.keys = {1, 1, 0, 3, 1024, 0, 1, 1, 3076, 0, 1, 9002, 4099, 0, 1, 9002};
    f = readTiff(w);
    CHECK(f.cellX == Approx(2.5 * 0.3048));
    CHECK(worstTo(f, w, 0.3048) < 1e-3);
    // Degrees at 60 north: a degree eastwards is half as long.
    w.scale = {0.001, 0.001, 0};
    w.ties = {0, 0, 0, 10, 60 + 0.001 * kDeep / 2, 0};
    w.keys = {1, 1, 0, 1, 1024, 0, 1, 2};
    f = readTiff(w);
    CHECK(f.cellZ == Approx(111.32));
    CHECK(f.cellX == Approx(111.32 / 2).epsilon(1e-6));
}

TEST_CASE("samples without a value are told and filled from their surroundings") {
    TiffWish w;
    w.hole = 5 * kWide + 9;
    for (const auto& [none, value] :
         {std::pair<std::string, double>{"-9999", -9999}, {"-32768.0", -32768}, {" 77", 77}, {"", -32768}}) {
        w.none = none;
        w.holeValue = value;
        INFO(none << " for " << value);
        const HeightField f = readTiff(w);
        CHECK(f.holes == 1);
        CHECK(worstTo(f, w) == 0);
        const float round[] = {f.values.at(8, 5), f.values.at(10, 5), f.values.at(9, 4), f.values.at(9, 6)};
        CHECK(f.values.at(9, 5) == Approx((round[0] + round[1] + round[2] + round[3]) / 4));
    }
    // A value that is declared to mean nothing is the only one that does.
    w.none = "12345";
    w.holeValue = -9999;
    CHECK(readTiff(w).holes == 0);
    w = {64, SAMPLEFORMAT_IEEEFP};
    w.hole = 0;
    w.holeValue = NAN;
    CHECK(readTiff(w).holes == 1);
    w.holeValue = -3.4028234663852886e38;
    CHECK(readTiff(w).holes == 1);
    w.bits = 32;
    w.none = "-3.40282346638529e+38";
    CHECK(readTiff(w).holes == 1);
}

TEST_CASE("a large hole is filled like a skin stretched over its rim") {
    Raster<float> field(90, 61), plane = field;
    for (int z = 0; z < 61; ++z)
        for (int x = 0; x < 90; ++x) {
            plane.at(x, z) = 100 + 2.f * static_cast<float>(x) - 0.7f * static_cast<float>(z);
            const bool hole = (x > 20 && x < 55 && z > 12 && z < 50) || (x < 4 && z < 30);
            field.at(x, z) = hole ? NAN : plane.at(x, z);
        }
    CHECK(fillHoles(field) == 34 * 37 + 4 * 30);
    double worst = 0;
    for (int z = 0; z < 61; ++z)
        for (int x = 21; x < 55; ++x) worst = std::max<double>(worst, std::abs(field.at(x, z) - plane.at(x, z)));
    // A plane is the skin that its rim asks for; it rises by 180 m from side to side.
    CHECK(worst < 4);
    // Never above or below what is there.
    Random random(3);
    for (int round = 0; round < 40; ++round) {
        const int w = wholeBetween(random, 2, 40), d = wholeBetween(random, 2, 40);
        Raster<float> r(w, d);
        float low = 1e9f, high = -1e9f;
        int holes = 0;
        for (int z = 0; z < d; ++z)
            for (int x = 0; x < w; ++x) {
                const bool hole = wholeBetween(random, 0, 9) < 6;
                r.at(x, z) = hole ? NAN : static_cast<float>(wholeBetween(random, -500, 500));
                holes += hole;
                if (!hole) low = std::min(low, r.at(x, z)), high = std::max(high, r.at(x, z));
            }
        CHECK(fillHoles(r) == holes);
        if (holes == w * d) continue;
        for (int z = 0; z < d; ++z)
            for (int x = 0; x < w; ++x) REQUIRE((r.at(x, z) >= low - 1e-3f && r.at(x, z) <= high + 1e-3f));
    }
}

TEST_CASE("data with nothing but holes are refused") {
    const Result<HeightField> f = decodeHeightField(
        text(std::string(kHead) + "nodata_value -1\n-1 -1 -1 -1 -1 -1 -1 -1 -1"), "void.asc");
    REQUIRE_FALSE(f);
    CHECK(f.error().field == "heights");
    CHECK(f.error().sentence().find("void.asc") == 0);
}

TEST_CASE("ASCII grids take scientific numbers and any spelling of no data, whatever the locale") {
    const auto read = [](const std::string& body) {
        Result<HeightField> f = decodeHeightField(text(kHead + body), "e.asc");
        if (!f) FAIL(f.error().sentence());
        return f.take();
    };
    const char* const before = std::setlocale(LC_ALL, nullptr);
    const std::string kept = before ? before : "C";
    // Where no such locale is installed this round is like the other.
    for (const char* locale : {"C", "de_DE.UTF-8"}) {
        std::setlocale(LC_ALL, locale);
        HeightField f = read("1.5e1 +2.5E+0 -3.25\n4 5 6\n7 8 9e-1");
        CHECK(f.values.at(0, 0) == 15);
        CHECK(f.values.at(1, 0) == 2.5f);
        CHECK(f.values.at(2, 0) == -3.25f);
        CHECK(f.values.at(2, 2) == 0.9f);
        CHECK(f.cellX == 2);
        for (const char* none :
             {"nan", "NaN", "-nan", "NODATA", "null", "*", "-1.#IND", "-9999", "-9999.00", "-9.999e3", "-3.4e38"}) {
            INFO(none);
            CHECK(read(std::string("1 2 3 4 ") + none + " 6 7 8 9").holes == 1);
        }
        CHECK(read("NODATA_value nan\n1 2 3 4 -9999 6 7 8 9").holes == 0);
        CHECK(read("nodata 6.0\n1 2 3 4 5 6 7 8 9").holes == 1);
        CHECK(read("No_Data 6\nnan 2 3 4 5 6 7 8 9").holes == 2);
    }
    std::setlocale(LC_ALL, kept.c_str());
    const HeightField oblong = decodeHeightField(text("nrows 2\nncols 3\ndx 2\ndy 5\n1 2 3\n4 5 6"), "e.asc").take();
    CHECK(oblong.cellX == 2);
    CHECK(oblong.cellZ == 5);
    CHECK(oblong.values.at(0, 1) == 4);
    CHECK(decodeHeightField(text(std::string(kHead) + "1,5 2 3 4 5 6 7 8 9"), "e.asc").error().field == "heights");
    CHECK(decodeHeightField(text(std::string(kHead) + "inf 2 3 4 5 6 7 8 9"), "e.asc").error().field == "heights");
}

TEST_CASE("raw samples of every kind and byte order come in with the same numbers") {
    const auto bytesOfKind = [](RawSample kind, bool big) {
        Bytes b(3, 0x55);
        const size_t n = RawLayout{2, 2, kind}.sampleBytes();
        for (int z = 0; z < kDeep; ++z)
            for (int x = 0; x < kWide; ++x) {
                TiffWish w;
                w.bits = static_cast<int>(n) * 8;
                w.format = kind == RawSample::f32 || kind == RawSample::f64 ? SAMPLEFORMAT_IEEEFP
                           : rawWord(kind)[0] == 'i'                        ? SAMPLEFORMAT_INT
                                                                            : SAMPLEFORMAT_UINT;
                uint8_t sample[8];
                putAs(w, valueFor(w, x, z), sample);
                for (size_t i = 0; i < n; ++i) b.push_back(sample[big ? n - 1 - i : i]);
            }
        return b;
    };
    for (int k = 0; k < kRawSamples; ++k)
        for (const bool big : {false, true}) {
            const auto kind = static_cast<RawSample>(k);
            INFO(rawWord(kind) << " " << big);
            const RawLayout l{kWide, kDeep, kind, big, 3};
            const Result<HeightField> f = decodeHeightField(bytesOfKind(kind, big), "e.raw", l);
            REQUIRE(f);
            TiffWish w;
            w.bits = static_cast<int>(l.sampleBytes()) * 8;
            w.format = rawWord(kind)[0] == 'f'   ? SAMPLEFORMAT_IEEEFP
                       : rawWord(kind)[0] == 'i' ? SAMPLEFORMAT_INT
                                                 : SAMPLEFORMAT_UINT;
            CHECK(worstTo(f.value(), w) == 0);
            CHECK(f.value().metres == (w.format != SAMPLEFORMAT_UINT));
        }
}

TEST_CASE("square tiles of known side are recognised: 16 bits with a sign, highest byte first") {
    constexpr int side = 1201;
    Bytes b;
    for (int z = 0; z < side; ++z)
        for (int x = 0; x < side; ++x) {
            const int h = x == 600 && z == 700 ? -32768
                                               : static_cast<int>(300 * std::sin(x * 0.01) - 200 * std::cos(z * 0.013));
            b.push_back(static_cast<uint8_t>(static_cast<uint16_t>(h) >> 8));
            b.push_back(static_cast<uint8_t>(h));
        }
    const Result<RawLayout> l = guessRaw(b, "n.hgt");
    REQUIRE(l);
    CHECK(l.value() == RawLayout{side, side, RawSample::i16, true, 0});
    const HeightField f = decodeHeightField(b, "n.hgt", l.value()).take();
    CHECK(f.metres);
    CHECK(f.holes == 1);
    CHECK(f.low < -400);
    CHECK(f.values.at(600, 700) == Approx(f.values.at(599, 700)).margin(6));
}

TEST_CASE("ground below the sea is guessed to have a sign") {
    Bytes b;
    for (int z = 0; z < 100; ++z)
        for (int x = 0; x < 100; ++x) {
            const auto h = static_cast<int16_t>(120 * std::sin(x * 0.05) + 90 * std::cos(z * 0.04));
            b.push_back(static_cast<uint8_t>(h));
            b.push_back(static_cast<uint8_t>(static_cast<uint16_t>(h) >> 8));
        }
    const Result<RawLayout> l = guessRaw(b, "sea.raw");
    REQUIRE(l);
    CHECK(l.value() == RawLayout{100, 100, RawSample::i16, false, 0});
}

TEST_CASE("what an independent writer makes comes in with the same numbers") {
    if (std::system("gdal_translate --version > /dev/null 2>&1") != 0) {
        WARN("gdal_translate is not installed; nothing was compared with it");
        return;
    }
    const Folder folder;
    const std::string in = (folder.path / "in.asc").string();
    std::string grid = "ncols " + std::to_string(kWide) + "\nnrows " + std::to_string(kDeep) +
                       "\nxllcorner 0\nyllcorner 0\ncellsize 12.5\nNODATA_value 250\n";
    const auto value = [](int x, int z) { return x == 3 && z == 4 ? 250 : (x * 5 + z * 3) % 240; };
    for (int z = 0; z < kDeep; ++z, grid += "\n")
        for (int x = 0; x < kWide; ++x) grid += std::to_string(value(x, z)) + " ";
    put(folder.path / "in.asc", text(grid));
    const auto same = [&](const std::string& options, const std::string& file, std::optional<RawLayout> layout = {}) {
        INFO(options);
        const std::string out = (folder.path / file).string();
        REQUIRE(std::system(("gdal_translate -q " + options + " " + in + " " + out + " 2> /dev/null").c_str()) == 0);
        const Result<HeightField> f = readHeightField(out, layout);
        if (!f) FAIL(f.error().sentence());
        for (int z = 0; z < kDeep; ++z)
            for (int x = 0; x < kWide; ++x)
                if (x != 3 || z != 4) REQUIRE(f.value().values.at(x, z) == static_cast<float>(value(x, z)));
        if (layout) return;
        CHECK(f.value().cellX == 12.5);
        CHECK(f.value().holes == 1);
        CHECK(f.value().metres);
    };
    for (const char* type : {"Byte", "UInt16", "Int16", "UInt32", "Int32", "Float32", "Float64"})
        for (const char* how :
             {"", "-co TILED=YES -co COMPRESS=DEFLATE -co PREDICTOR=2", "-co BIGTIFF=YES -co COMPRESS=LZW",
              "-co ENDIANNESS=BIG", "-co COMPRESS=PACKBITS -co BLOCKYSIZE=5"}) {
            // Differences of 64-bit floats are another predictor's.
            if (std::string(how).find("PREDICTOR") != std::string::npos && std::string(type).find("Float") == 0)
                continue;
            same(std::string("-of GTiff -ot ") + type + " " + how, std::string(type) + ".tif");
        }
    same("-of AAIGrid -ot Float32 -co FORCE_CELLSIZE=TRUE", "out.asc");
    const std::pair<const char*, RawSample> raws[] = {
        {"Byte", RawSample::u8},   {"UInt16", RawSample::u16},  {"Int16", RawSample::i16},  {"UInt32", RawSample::u32},
        {"Int32", RawSample::i32}, {"Float32", RawSample::f32}, {"Float64", RawSample::f64}};
    for (const auto& [type, sample] : raws)
        same(std::string("-of ENVI -ot ") + type, std::string(type) + ".raw",
             RawLayout{kWide, kDeep, sample, false, 0});
}
