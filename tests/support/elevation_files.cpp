#include "elevation_files.h"

#include <ImfChannelList.h>
#include <ImfFrameBuffer.h>
#include <ImfHeader.h>
#include <ImfOutputFile.h>
#include <tiffio.h>
#include <cmath>
#include <cstring>

#include "files/png.h"
#include "folder.h"

namespace jam::test {

namespace {

constexpr int kWide = 37, kDeep = 22;

// Metres, between 10 and 52.
double hillAt(int x, int z) { return 31 + 20 * std::sin(x * 0.21) * std::cos(z * 0.3) + 0.03 * x; }

template <class T>
void append(Bytes& to, T value, bool bigEndian) {
    uint8_t raw[sizeof(T)];
    std::memcpy(raw, &value, sizeof(T));
    for (size_t i = 0; i < sizeof(T); ++i) to.push_back(raw[bigEndian ? sizeof(T) - 1 - i : i]);
}

template <class T>
Bytes samplesOf(bool bigEndian, double factor) {
    Bytes b;
    for (int z = 0; z < kDeep; ++z)
        for (int x = 0; x < kWide; ++x) append(b, static_cast<T>(hillAt(x, z) * factor), bigEndian);
    return b;
}

template <class T>
void writeTiff(const std::filesystem::path& path, int format, double factor, double pixel) {
    TIFF* t = TIFFOpen(path.c_str(), "wl");
    static const TIFFFieldInfo known[] = {{33550, -1, -1, TIFF_DOUBLE, FIELD_CUSTOM, 1, 1, const_cast<char*>("scale")}};
    TIFFMergeFieldInfo(t, known, 1);
    TIFFSetField(t, TIFFTAG_IMAGEWIDTH, kWide);
    TIFFSetField(t, TIFFTAG_IMAGELENGTH, kDeep);
    TIFFSetField(t, TIFFTAG_BITSPERSAMPLE, static_cast<int>(8 * sizeof(T)));
    TIFFSetField(t, TIFFTAG_SAMPLESPERPIXEL, 1);
    TIFFSetField(t, TIFFTAG_SAMPLEFORMAT, format);
    TIFFSetField(t, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_MINISBLACK);
    TIFFSetField(t, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
    const double scale[] = {pixel, 1.5 * pixel, 0};
    if (pixel > 0) TIFFSetField(t, 33550, 3, scale);
    for (int z = 0; z < kDeep; ++z) {
        T row[kWide];
        for (int x = 0; x < kWide; ++x) row[x] = static_cast<T>(hillAt(x, z) * factor);
        TIFFWriteScanline(t, row, static_cast<uint32_t>(z), 0);
    }
    TIFFClose(t);
}

void writeExr(const std::filesystem::path& path) {
    Imf::Header header(kWide, kDeep);
    header.channels().insert("Y", Imf::Channel(Imf::FLOAT));
    std::vector<float> values;
    for (int z = 0; z < kDeep; ++z)
        for (int x = 0; x < kWide; ++x) values.push_back(static_cast<float>(hillAt(x, z)));
    Imf::FrameBuffer frame;
    frame.insert("Y", Imf::Slice(Imf::FLOAT, reinterpret_cast<char*>(values.data()), 4, 4 * kWide));
    Imf::OutputFile file(path.c_str(), header);
    file.setFrameBuffer(frame);
    file.writePixels(kDeep);
}

Bytes asciiOf(const char* cell, bool flat, bool holes) {
    std::string text = "ncols " + std::to_string(kWide) + "\nnrows " + std::to_string(kDeep) +
                       "\nxllcorner 0\nyllcorner 0\n" + cell + "NODATA_value -9999\n";
    for (int z = 0; z < kDeep; ++z, text += "\n")
        for (int x = 0; x < kWide; ++x)
            text += (holes && (x * z) % 31 == 7 ? std::string("-9999") : std::to_string(flat ? 5 : hillAt(x, z))) + " ";
    return Bytes(text.begin(), text.end());
}

Bytes greyOf(int bits, bool flat) {
    Pixels p{kWide, kDeep, 1, bits, {}};
    for (int z = 0; z < kDeep; ++z)
        for (int x = 0; x < kWide; ++x)
            p.samples.push_back(static_cast<uint16_t>(flat ? 90 : hillAt(x, z) / 60 * p.most()));
    return encodePng(p);
}

}  // namespace

std::vector<ElevationFile> writeElevationFiles(const std::filesystem::path& folder) {
    std::vector<ElevationFile> files;
    const auto named = [&](const char* name, bool metres, int width = kWide, int depth = kDeep) {
        files.push_back({folder / name, metres, width, depth});
        return files.back().path;
    };
    put(named("grey-8.png", false), greyOf(8, false));
    put(named("grey-16.png", false), greyOf(16, false));
    put(named("grey-flat.png", false), greyOf(16, true));
    writeTiff<uint8_t>(named("grey-8.tif", false), SAMPLEFORMAT_UINT, 4, 0);
    writeTiff<uint16_t>(named("grey-16.tiff", false), SAMPLEFORMAT_UINT, 1000, 0);
    writeTiff<int16_t>(named("signed-16.tif", true), SAMPLEFORMAT_INT, 1, 0);
    writeTiff<float>(named("float-32.tif", true), SAMPLEFORMAT_IEEEFP, 1, 0);
    writeTiff<float>(named("sized-32.tif", true), SAMPLEFORMAT_IEEEFP, 1, 2);
    writeTiff<float>(named("flat-32.tif", true), SAMPLEFORMAT_IEEEFP, 0, 0);
    writeExr(named("float.exr", true));
    put(named("grid.asc", true), asciiOf("cellsize 2.5\n", false, false));
    put(named("oblong.asc", true), asciiOf("dx 2\ndy 3\n", false, true));
    put(named("sea.asc", true), asciiOf("cellsize 30\n", true, false));
    put(named("h.r8", false), samplesOf<uint8_t>(false, 4));
    put(named("h.r16", false), samplesOf<uint16_t>(false, 1000));
    put(named("h.raw", false), samplesOf<uint16_t>(true, 1000));
    put(named("h.r32", true), samplesOf<float>(false, 1));
    put(named("h.bin", true), samplesOf<float>(true, 1));
    Bytes tile;
    for (int z = 0; z < 1201; ++z)
        for (int x = 0; x < 1201; ++x) append(tile, static_cast<int16_t>(hillAt(x / 40, z / 40)), true);
    put(named("N50E010.hgt", true, 1201, 1201), tile);
    return files;
}

std::vector<std::filesystem::path> writeBrokenFiles(const std::filesystem::path& folder) {
    std::vector<std::filesystem::path> files;
    const auto file = [&](const char* name, const Bytes& bytes) {
        put(folder / name, bytes);
        files.push_back(folder / name);
    };
    const Bytes grey = greyOf(16, false);
    file("empty.png", {});
    file("cut.png", Bytes(grey.begin(), grey.begin() + static_cast<ptrdiff_t>(grey.size() / 2)));
    file("words.tif", Bytes(300, 'w'));
    file("empty.exr", {});
    file("short.asc", {'n', 'c', 'o', 'l', 's', ' ', '4', '\n'});
    file("byte.raw", {7});
    file("words.jamhill", Bytes(300, 'w'));
    file("words.json", {'{'});
    file("words.walk", {'[', ']'});
    Pixels colour{9, 7, 3, 8, std::vector<uint16_t>(9 * 7 * 3)};
    for (size_t i = 0; i < colour.samples.size(); ++i) colour.samples[i] = static_cast<uint16_t>(i);
    file("colour.png", encodePng(colour));
    return files;
}

}  // namespace jam::test
