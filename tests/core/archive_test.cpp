// Level files that were changed inside, with their check sums mended, so that what reads the parts is really reached;
// and numbers of pictures that come in.
#include <catch2/catch.hpp>

#include <tiffio.h>
#include <zip.h>

#include "files/field_level.h"
#include "files/level_file.h"
#include "files/png.h"
#include "files/weights_file.h"
#include "folder.h"
#include "level/ground.h"
#include "level/resize.h"
#include "levels.h"
#include "pictures/seam.h"
#include "survey/check.h"

using namespace jam;
using namespace jam::test;
namespace fs = std::filesystem;

namespace {

using Parts = std::vector<std::pair<std::string, Bytes>>;

Parts partsOf(const fs::path& path) {
    Parts parts;
    zip_t* zip = zip_open(path.c_str(), ZIP_RDONLY, nullptr);
    REQUIRE(zip);
    for (zip_int64_t i = 0; i < zip_get_num_entries(zip, 0); ++i) {
        zip_stat_t info;
        zip_stat_index(zip, static_cast<zip_uint64_t>(i), 0, &info);
        Bytes bytes(info.size);
        zip_file_t* part = zip_fopen_index(zip, static_cast<zip_uint64_t>(i), 0);
        zip_fread(part, bytes.data(), bytes.size());
        zip_fclose(part);
        parts.emplace_back(info.name, std::move(bytes));
    }
    zip_discard(zip);
    return parts;
}

void write(const fs::path& path, const Parts& parts) {
    fs::remove(path);
    zip_t* zip = zip_open(path.c_str(), ZIP_CREATE | ZIP_TRUNCATE, nullptr);
    REQUIRE(zip);
    for (const auto& [name, bytes] : parts) {
        zip_source_t* source = zip_source_buffer(zip, bytes.data(), bytes.size(), 0);
        const zip_int64_t at = zip_file_add(zip, name.c_str(), source, ZIP_FL_ENC_UTF_8);
        zip_set_file_compression(zip, static_cast<zip_uint64_t>(at), ZIP_CM_STORE, 0);
    }
    REQUIRE(zip_close(zip) == 0);
}

// Another number in place of one of those in a text, so that it still is JSON.
Bytes otherNumber(const Bytes& text, Random& random) {
    std::vector<std::pair<size_t, size_t>> numbers;
    for (size_t i = 1; i < text.size(); ++i)
        if (std::isdigit(text[i]) && !std::isalnum(text[i - 1]) && text[i - 1] != '.' && text[i - 1] != '_') {
            size_t end = i;
            while (end < text.size() && (std::isdigit(text[end]) || text[end] == '.')) ++end;
            numbers.emplace_back(i, end);
        }
    const auto [from, to] = numbers[random() % numbers.size()];
    const char* const others[] = {"0",   "1",   "2",          "3",    "7",     "65535", "65536", "-1",
                                  "1e9", "0.5", "4294967295", "null", "\"x\"", "[]",    "1e999"};
    Bytes out(text.begin(), text.begin() + static_cast<long>(from));
    for (const char* c = others[random() % std::size(others)]; *c; ++c) out.push_back(static_cast<uint8_t>(*c));
    out.insert(out.end(), text.begin() + static_cast<long>(to), text.end());
    return out;
}

}  // namespace

TEST_CASE("levels that were changed inside are refused in words, or are sound", "[fuzz]") {
    const Folder folder;
    Random random(12);
    Level level = lopsidedLevel();
    level = cropLevel(level, {100, 40, 140, 70}).take();
    const fs::path file = folder.path / "level.jamhill";
    REQUIRE(saveLevel(level, file));
    const Parts good = partsOf(file);
    REQUIRE(good.size() > 15);
    write(file, good);
    REQUIRE(loadLevel(file).value() == level);
    int accepted = 0, refused = 0, text = 0;
    for (int i = 0; i < 4000; ++i) {
        Parts bad = good;
        const size_t at = i % 2 ? 0 : random() % bad.size();
        Bytes& part = bad[at].second;
        const int how = wholeBetween(random, 0, 9);
        if (bad[at].first == "level.json" && how < 8) part = otherNumber(part, random), ++text;
        else if (how == 8) bad.erase(bad.begin() + static_cast<long>(at));
        else if (how == 9) std::swap(part, bad[random() % bad.size()].second);
        else part = mutated(part, random);
        write(file, bad);
        const Result<Level> read = loadLevel(file);
        if (read) {
            ++accepted;
            const std::vector<std::string> wrong = checkLevel(read.value());
            // Heights may have come out of the range; nothing else may be wrong with what was let in.
            for (const std::string& w : wrong) {
                INFO(w);
                CHECK(w.find("altitude") != std::string::npos);
            }
        } else {
            ++refused;
            REQUIRE(read.error().sentence().size() > 20);
            CHECK(read.error().file.find("level.jamhill") != std::string::npos);
        }
    }
    CHECK(accepted > 200);
    CHECK(refused > 1000);
    CHECK(text > 1000);
}

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
