#include "changes_of_files.h"

#include <zip.h>
#include <zlib.h>
#include <cstring>
#include <nlohmann/json.hpp>

#include "folder.h"

namespace jam::test {

namespace {

using Json = nlohmann::ordered_json;
using Change = Bytes (*)(const Bytes&, Random&);

bool oneIn(Random& random, int n) { return wholeBetween(random, 1, n) == 1; }
template <class T>
const T& any(const std::vector<T>& all, Random& random) {
    return all[static_cast<size_t>(wholeBetween(random, 0, static_cast<int>(all.size()) - 1))];
}

constexpr uint32_t kNumbers[] = {0,     1,     2,          3,          7,          8,          15,       16,
                                 17,    31,    32,         63,         64,         65,         127,      128,
                                 255,   256,   257,        4095,       8193,       16384,      16385,    32767,
                                 65535, 65536, 0x7fffffff, 0x80000000, 0xfffffffe, 0xffffffff, 1u << 20, 1u << 24};
uint32_t anyNumber(Random& random) { return kNumbers[random() % std::size(kNumbers)]; }

void putBig(uint8_t* to, uint32_t v) {
    for (int i = 0; i < 4; ++i) to[i] = static_cast<uint8_t>(v >> (24 - 8 * i));
}
uint32_t big(const uint8_t* from) {
    return uint32_t{from[0]} << 24 | uint32_t{from[1]} << 16 | uint32_t{from[2]} << 8 | from[3];
}
template <class T>
T little(const uint8_t* from) {
    T v;
    std::memcpy(&v, from, sizeof v);
    return v;
}
uint32_t checkSum(const uint8_t* from, size_t n) { return static_cast<uint32_t>(crc32(0, from, static_cast<uInt>(n))); }

// --- PNG ---------------------------------------------------------------------------------------------------------

struct Chunk {
    std::string type;
    Bytes data;
};

std::vector<Chunk> chunksOf(const Bytes& png) {
    std::vector<Chunk> all;
    for (size_t at = 8; at + 12 <= png.size();) {
        const size_t n = std::min<size_t>(big(&png[at]), png.size() - at - 12);
        const auto from = png.begin() + static_cast<ptrdiff_t>(at);
        all.push_back({std::string(from + 4, from + 8), Bytes(from + 8, from + 8 + static_cast<ptrdiff_t>(n))});
        at += n + 12;
    }
    return all;
}

Bytes pngOf(const std::vector<Chunk>& chunks, const Bytes& like) {
    Bytes out(like.begin(), like.begin() + 8);
    for (const Chunk& c : chunks) {
        Bytes part(4);
        putBig(part.data(), static_cast<uint32_t>(c.data.size()));
        part.insert(part.end(), c.type.begin(), c.type.end());
        part.insert(part.end(), c.data.begin(), c.data.end());
        part.resize(part.size() + 4);
        putBig(&part[part.size() - 4], checkSum(&part[4], part.size() - 8));
        out.insert(out.end(), part.begin(), part.end());
    }
    return out;
}

// The rows of a chunk of them, changed and packed again.
Bytes otherRows(const Bytes& packed, Random& random) {
    Bytes plain(1 << 20);
    uLongf n = plain.size();
    if (uncompress(plain.data(), &n, packed.data(), packed.size()) != Z_OK) return mutated(packed, random);
    plain.resize(n);
    plain = mutated(plain, random);
    Bytes again(compressBound(plain.size()));
    n = again.size();
    compress(again.data(), &n, plain.data(), plain.size());
    again.resize(n);
    return again;
}

}  // namespace

Bytes changedPng(const Bytes& bytes, Random& random) {
    if (bytes.size() < 20 || oneIn(random, 10)) return mutated(bytes, random);
    std::vector<Chunk> chunks = chunksOf(bytes);
    if (chunks.empty()) return mutated(bytes, random);
    for (int k = wholeBetween(random, 1, 2); k > 0; --k) {
        const size_t at = random() % chunks.size();
        Chunk& c = chunks[at];
        switch (wholeBetween(random, 0, 6)) {
            case 0:
                if (Bytes& head = chunks.front().data; head.size() == 13) {
                    if (oneIn(random, 2)) putBig(&head[oneIn(random, 2) ? 0 : 4], anyNumber(random));
                    else head[8 + random() % 5] = static_cast<uint8_t>(random() % 20);
                }
                break;
            case 1: chunks.insert(chunks.begin() + static_cast<ptrdiff_t>(random() % chunks.size()), c); break;
            case 2:
                if (chunks.size() > 1) chunks.erase(chunks.begin() + static_cast<ptrdiff_t>(at));
                break;
            case 3: std::swap(c, chunks[random() % chunks.size()]); break;
            case 4:
                chunks.insert(chunks.begin() + 1,
                              {any<std::string>({"tRNS", "PLTE", "sBIT", "gAMA", "iCCP", "zTXt", "eXIf"}, random),
                               Bytes(random() % 800, static_cast<uint8_t>(random()))});
                break;
            default:
                c.data = c.type == "IDAT" && !oneIn(random, 3) ? otherRows(c.data, random) : mutated(c.data, random);
        }
    }
    return pngOf(chunks, bytes);
}

// --- TIFF --------------------------------------------------------------------------------------------------------

Bytes changedTiff(const Bytes& bytes, Random& random) {
    if (bytes.size() < 32 || oneIn(random, 10)) return mutated(bytes, random);
    Bytes out = bytes;
    const bool large = out[2] == 43;  // 64-bit offsets
    const size_t first = large ? static_cast<size_t>(little<uint64_t>(&out[8])) : little<uint32_t>(&out[4]);
    if (first + 10 > out.size()) return mutated(bytes, random);
    const size_t count = large ? static_cast<size_t>(little<uint64_t>(&out[first])) : little<uint16_t>(&out[first]);
    const size_t head = large ? 8 : 2, each = large ? 20 : 12;
    for (int k = wholeBetween(random, 1, 3); k > 0 && count > 0; --k) {
        const size_t at = first + head + random() % count * each;
        if (at + each > out.size()) break;
        const size_t value = at + (large ? 12 : 8);
        switch (wholeBetween(random, 0, 4)) {
            case 0: out[at] = static_cast<uint8_t>(random()); break;                         // which tag
            case 1: out[at + 2] = static_cast<uint8_t>(wholeBetween(random, 0, 20)); break;  // its type
            case 2: {                                                                        // how many
                const uint32_t n = anyNumber(random);
                std::memcpy(&out[at + 4], &n, sizeof n);
                break;
            }
            default: {
                const uint32_t n = anyNumber(random);
                std::memcpy(&out[value], &n, oneIn(random, 2) ? 2 : 4);
            }
        }
    }
    return out;
}

// --- OpenEXR -----------------------------------------------------------------------------------------------------

Bytes changedExr(const Bytes& bytes, Random& random) {
    if (bytes.size() < 64 || oneIn(random, 10)) return mutated(bytes, random);
    Bytes out = bytes;
    const size_t head = std::min<size_t>(out.size() - 8, 400);
    for (int k = wholeBetween(random, 1, 3); k > 0; --k) {
        const size_t at = 4 + random() % (head - 4);
        if (oneIn(random, 2)) out[at] = static_cast<uint8_t>(random());
        else {
            const uint32_t n = anyNumber(random);
            std::memcpy(&out[at], &n, sizeof n);
        }
    }
    return out;
}

// --- JSON --------------------------------------------------------------------------------------------------------

namespace {

// All places of a value, the value itself among them.
void collect(Json& at, std::vector<Json*>& all) {
    all.push_back(&at);
    if (at.is_structured())
        for (Json& child : at) collect(child, all);
}

Json otherValue(const Json& now, Random& random) {
    if (now.is_number() && !oneIn(random, 4)) {
        const double v = now.get<double>();
        switch (wholeBetween(random, 0, 9)) {
            case 0: return -v;
            case 1: return v + 1;
            case 2: return v - 1;
            case 3: return v * 2;
            case 4: return v / 2;
            case 5: return v + 0.5;
            case 6: return 1e300;
            case 7: return -1e300;
            case 8: return 1e-300;
            default: return anyNumber(random);
        }
    }
    switch (wholeBetween(random, 0, 9)) {
        case 0: return nullptr;
        case 1: return true;
        case 2: return "";
        case 3: return std::string(70000, 'x');
        case 4: return Json::array();
        case 5: return Json::object();
        case 6: return anyNumber(random);
        case 7: return -1;
        case 8: return "\xc3\xa4\n\x01";
        default: return Json::array({0, "a", nullptr});
    }
}

}  // namespace

Bytes changedJson(const Bytes& bytes, Random& random) {
    if (oneIn(random, 10)) return mutated(bytes, random);
    Json json = Json::parse(bytes.begin(), bytes.end(), nullptr, false);
    if (json.is_discarded()) return mutated(bytes, random);
    for (int k = oneIn(random, 3) ? 2 : 1; k > 0; --k) {
        std::vector<Json*> all;
        collect(json, all);
        Json& at = *any(all, random);
        Json& other = *any(all, random);
        switch (wholeBetween(random, 0, 7)) {
            case 0:
                if (at.is_array() && !at.empty()) at.erase(random() % at.size());
                else if (at.is_object() && !at.empty())
                    at.erase(std::next(at.begin(), static_cast<int>(random() % at.size())));
                break;
            case 1:
                if (at.is_array() && !at.empty()) {
                    const Json again = at[random() % at.size()];
                    for (int n = oneIn(random, 5) ? 300 : 1; n > 0; --n) at.push_back(again);
                }
                break;
            case 2: {
                const Json copy = other;
                at = copy;
                break;
            }
            case 3:
                if (at.is_object())
                    at[any<std::string>({"id", "name", "kind", "x", "", "course", "rules"}, random)] =
                        anyNumber(random);
                break;
            default: at = otherValue(at, random);
        }
    }
    const std::string text = json.dump(-1, ' ', false, Json::error_handler_t::replace);
    return Bytes(text.begin(), text.end());
}

// --- glTF --------------------------------------------------------------------------------------------------------

Bytes changedGlb(const Bytes& bytes, Random& random) {
    if (bytes.size() < 28 || oneIn(random, 10)) return mutated(bytes, random);
    const size_t n = little<uint32_t>(&bytes[12]);
    if (20 + n > bytes.size()) return mutated(bytes, random);
    const auto at = bytes.begin() + 20;
    Bytes json(at, at + static_cast<ptrdiff_t>(n)), rest(at + static_cast<ptrdiff_t>(n), bytes.end());
    if (oneIn(random, 5)) rest = mutated(rest, random);
    else json = changedJson(json, random);
    while (json.size() % 4) json.push_back(' ');
    Bytes out(bytes.begin(), bytes.begin() + 20);
    out.insert(out.end(), json.begin(), json.end());
    out.insert(out.end(), rest.begin(), rest.end());
    const auto all = static_cast<uint32_t>(out.size()), text = static_cast<uint32_t>(json.size());
    std::memcpy(&out[8], &all, 4), std::memcpy(&out[12], &text, 4);
    return out;
}

// --- text --------------------------------------------------------------------------------------------------------

Bytes changedWords(const Bytes& bytes, Random& random) {
    if (oneIn(random, 10)) return mutated(bytes, random);
    std::vector<std::pair<size_t, size_t>> words;
    for (size_t i = 0; i < bytes.size();) {
        size_t end = i;
        while (end < bytes.size() && !std::isspace(bytes[end])) ++end;
        if (end > i) words.emplace_back(i, end);
        i = std::max(end, i) + 1;
    }
    if (words.empty()) return mutated(bytes, random);
    // Those near the beginning say how the others are meant.
    const size_t among = oneIn(random, 2) ? std::min<size_t>(words.size(), 16) : words.size();
    const auto [from, to] = words[random() % among];
    const std::string other = any<std::string>({"0",          "-1",
                                                "1",          "nan",
                                                "inf",        "-inf",
                                                "1e999",      "1e-999",
                                                "4294967295", "99999999999999999999",
                                                "x",          "",
                                                "1/1/1",      "-5/-5/-5",
                                                "1//",        std::string(5000, '7'),
                                                "ncols",      "f",
                                                "v",          "mtllib",
                                                "\\"},
                                               random);
    Bytes out(bytes.begin(), bytes.begin() + static_cast<ptrdiff_t>(from));
    out.insert(out.end(), other.begin(), other.end());
    out.insert(out.end(), bytes.begin() + static_cast<ptrdiff_t>(to), bytes.end());
    return out;
}

// --- archives ----------------------------------------------------------------------------------------------------

namespace {

using Parts = std::vector<std::pair<std::string, Bytes>>;

Parts partsOf(const Bytes& bytes) {
    Parts parts;
    zip_source_t* source = zip_source_buffer_create(bytes.data(), bytes.size(), 0, nullptr);
    zip_t* zip = source ? zip_open_from_source(source, ZIP_RDONLY, nullptr) : nullptr;
    if (!zip) return zip_source_free(source), parts;
    for (zip_int64_t i = 0; i < zip_get_num_entries(zip, 0); ++i) {
        zip_stat_t info;
        if (zip_stat_index(zip, static_cast<zip_uint64_t>(i), 0, &info) != 0 || info.size > (1u << 24)) continue;
        Bytes part(info.size);
        if (zip_file_t* file = zip_fopen_index(zip, static_cast<zip_uint64_t>(i), 0)) {
            zip_fread(file, part.data(), part.size());
            zip_fclose(file);
        }
        parts.emplace_back(info.name, std::move(part));
    }
    zip_discard(zip);
    return parts;
}

// Stored as they are.
Bytes zipOf(const Parts& parts) {
    Bytes out, list;
    const auto add = [](Bytes& to, uint32_t v, int n) {
        for (int i = 0; i < n; ++i) to.push_back(static_cast<uint8_t>(v >> (8 * i)));
    };
    for (const auto& [name, bytes] : parts) {
        const auto at = static_cast<uint32_t>(out.size()), size = static_cast<uint32_t>(bytes.size()),
                   sum = checkSum(bytes.data(), bytes.size()), words = static_cast<uint32_t>(name.size());
        const auto common = [&](Bytes& to) {
            add(to, 20, 2), add(to, 0, 2), add(to, 0, 2), add(to, 0, 4);
            add(to, sum, 4), add(to, size, 4), add(to, size, 4), add(to, words, 2), add(to, 0, 2);
        };
        add(out, 0x04034b50, 4), common(out);
        out.insert(out.end(), name.begin(), name.end());
        out.insert(out.end(), bytes.begin(), bytes.end());
        add(list, 0x02014b50, 4), add(list, 20, 2), common(list);
        add(list, 0, 2), add(list, 0, 2), add(list, 0, 2), add(list, 0, 4), add(list, at, 4);
        list.insert(list.end(), name.begin(), name.end());
    }
    const auto from = static_cast<uint32_t>(out.size()), n = static_cast<uint32_t>(parts.size());
    out.insert(out.end(), list.begin(), list.end());
    add(out, 0x06054b50, 4), add(out, 0, 4), add(out, n, 2), add(out, n, 2);
    add(out, static_cast<uint32_t>(list.size()), 4), add(out, from, 4), add(out, 0, 2);
    return out;
}

Bytes changedPart(const std::string& name, const Bytes& bytes, Random& random) {
    constexpr std::pair<const char*, Change> kChanges[] = {
        {".json", changedJson}, {".png", changedPng}, {".tif", changedTiff}, {".glb", changedGlb}};
    for (const auto& [ending, change] : kChanges)
        if (name.ends_with(ending)) return change(bytes, random);
    return mutated(bytes, random);
}

}  // namespace

Bytes changedZip(const Bytes& bytes, Random& random) {
    if (oneIn(random, 10)) return mutated(bytes, random);
    Parts parts = partsOf(bytes);
    if (parts.empty()) return mutated(bytes, random);
    const size_t at = oneIn(random, 2) ? 0 : random() % parts.size();
    auto& [name, part] = parts[at];
    switch (wholeBetween(random, 0, 11)) {
        case 0: parts.erase(parts.begin() + static_cast<ptrdiff_t>(at)); break;
        case 1: std::swap(part, parts[random() % parts.size()].second); break;
        default: part = changedPart(name, part, random);
    }
    return zipOf(parts);
}

}  // namespace jam::test
