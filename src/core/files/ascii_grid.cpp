#include "files/ascii_grid.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <optional>

#include "base/text.h"

namespace jam {

namespace {

std::string lowered(std::string_view word) {
    std::string out(word);
    std::transform(out.begin(), out.end(), out.begin(),
                   [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    return out;
}

// One word or number after another.
class Words {
public:
    explicit Words(const Bytes& bytes) : at_(reinterpret_cast<const char*>(bytes.data())), end_(at_ + bytes.size()) {}
    std::string_view next() {
        skip();
        const char* from = at_;
        while (at_ < end_ && !std::isspace(static_cast<unsigned char>(*at_))) ++at_;
        return {from, static_cast<size_t>(at_ - from)};
    }
    std::string_view peek() {
        const char* from = at_;
        const std::string_view word = next();
        at_ = from;
        return word;
    }

private:
    void skip() {
        while (at_ < end_ && std::isspace(static_cast<unsigned char>(*at_))) ++at_;
    }
    const char *at_, *end_;
};

// std::from_chars knows no locale.
std::optional<double> numberIn(std::string_view word) {
    if (word.size() > 1 && word[0] == '+' && word[1] != '-') word.remove_prefix(1);
    double v = 0;
    const auto [end, trouble] = std::from_chars(word.data(), word.data() + word.size(), v);
    // Numbers too small to tell from nothing are nothing.
    if (trouble == std::errc::result_out_of_range && end == word.data() + word.size() &&
        lowered(word).find("e-") != word.npos)
        return 0;
    if (trouble != std::errc{} || end != word.data() + word.size()) return std::nullopt;
    return v;
}

// Spellings of "no data" that are no numbers.
bool saysNothing(std::string_view word) {
    const std::string w = lowered(word);
    for (const char* spelling : {"nan", "+nan", "-nan", "nodata", "no_data", "null", "none", "na", "n/a", "*", "-",
                                 "1.#qnan", "-1.#qnan", "1.#ind", "-1.#ind"})
        if (w == spelling) return true;
    return false;
}

struct Head {
    double columns = 0, rows = 0, cellX = 0, cellZ = 0;
    std::optional<double> none;
    bool declared = false;
};

bool beginsHeights(std::string_view word) {
    return word.empty() || !std::isalpha(static_cast<unsigned char>(word.front())) || saysNothing(word) ||
           numberIn(word);
}

Result<Head> readHead(Words& words, const std::string& name) {
    Head h;
    while (!beginsHeights(words.peek())) {
        const std::string key = lowered(words.next());
        const std::string_view word = words.next();
        const std::optional<double> value = numberIn(word);
        const bool nodata = key == "nodata_value" || key == "nodata" || key == "no_data";
        if (!value && !(nodata && saysNothing(word)))
            return Error{name, key, "it is not a number", "write a number after it, with a decimal point"};
        if (key == "ncols") h.columns = *value;
        else if (key == "nrows") h.rows = *value;
        else if (key == "cellsize") h.cellX = h.cellZ = *value;
        else if (key == "dx" || key == "xdim") h.cellX = *value;
        else if (key == "dy" || key == "ydim") h.cellZ = *value;
        else if (nodata) h.declared = true, h.none = value;
        else if (key != "xllcorner" && key != "yllcorner" && key != "xllcenter" && key != "yllcenter")
            return Error{name, key, "this line is not known",
                         "write ncols, nrows, xllcorner, yllcorner, cellsize and nodata_value"};
    }
    if (!(h.columns == std::floor(h.columns) && h.rows == std::floor(h.rows)))
        return Error{name, "ncols", "sizes are not whole numbers", "write whole numbers"};
    for (const double cell : {h.cellX, h.cellZ})
        if (!(cell > 0 && cell < 1e6) && h.columns > 0)
            return Error{name, "cellsize", "it is " + number(cell), "write the metres between samples"};
    return h;
}

}  // namespace

bool isAsciiGrid(const Bytes& b) {
    const std::string head = lowered({reinterpret_cast<const char*>(b.data()), std::min<size_t>(b.size(), 64)});
    const size_t at = head.find_first_not_of(" \t\r\n");
    return at != std::string::npos && (head.compare(at, 5, "ncols") == 0 || head.compare(at, 5, "nrows") == 0);
}

Result<HeightField> decodeAsciiGrid(const Bytes& bytes, const std::string& name) {
    Words words(bytes);
    const Result<Head> head = readHead(words, name);
    if (!head) return head.error();
    const Head& h = head.value();
    const auto whole = [](double v) { return static_cast<long long>(std::clamp(v, -1e9, 1e9)); };
    if (Status s = checkFieldSize(name, whole(h.columns), whole(h.rows)); !s) return s.error();
    // Each height takes at least two bytes, so a file that is too short is known before memory is taken.
    if (h.columns * h.rows * 2 > static_cast<double>(bytes.size()) + 2)
        return Error{name, "heights", "there are fewer than " + number(h.columns * h.rows),
                     "the file is cut off; copy it again"};
    HeightField f;
    f.values = Raster<float>(static_cast<int>(h.columns), static_cast<int>(h.rows));
    const auto none = [&](double v) {
        if (!h.declared) return meansNothing(v);
        return h.none && (v == *h.none || static_cast<float>(v) == static_cast<float>(*h.none));
    };
    for (int z = 0; z < f.depth(); ++z)
        for (int x = 0; x < f.width(); ++x) {
            const std::string_view word = words.next();
            std::optional<double> v = numberIn(word);
            if ((v && (std::isnan(*v) || none(*v))) || (!v && saysNothing(word))) v = NAN;
            else if (!v || std::abs(*v) > 1e30)
                return Error{name, "heights",
                             word.empty() ? "they end in row " + std::to_string(z)
                                          : "\"" + std::string(word.substr(0, 20)) + "\" in row " + std::to_string(z) +
                                                " is not a number",
                             "repair that row"};
            f.values.at(x, z) = static_cast<float>(*v);
        }
    f.format = "ASCII grid";
    f.metres = true;
    f.cellX = h.cellX;
    f.cellZ = h.cellZ;
    return f;
}

}  // namespace jam
