#include "files/archive.h"

#include <zip.h>

#include "base/text.h"

namespace jam {

namespace {

Error zipTrouble(const std::filesystem::path& path, zip_error_t* error) {
    if (zip_error_system_type(error) == ZIP_ET_SYS) return diskError(path, zip_error_code_system(error));
    return {path.string(), "", zip_error_strerror(error), "choose another folder"};
}

}  // namespace

Status writeArchive(const std::vector<ArchivePart>& parts, const AtomicFile& file) {
    zip_error_t error;
    zip_error_init(&error);
    int code = 0;
    zip_t* zip = zip_open(file.path().c_str(), ZIP_CREATE | ZIP_TRUNCATE, &code);
    if (!zip) {
        zip_error_init_with_code(&error, code);
        const Error e = zipTrouble(file.goal(), &error);
        zip_error_fini(&error);
        return e;
    }
    for (const ArchivePart& part : parts) {
        zip_source_t* source = zip_source_buffer(zip, part.content().data(), part.content().size(), 0);
        const zip_int64_t index = source ? zip_file_add(zip, part.name.c_str(), source, ZIP_FL_ENC_UTF_8) : -1;
        if (index < 0) {
            const Error e = zipTrouble(file.goal(), zip_get_error(zip));
            zip_source_free(source);
            zip_discard(zip);
            return e;
        }
        const bool text = part.name.ends_with(".json");
        const auto at = static_cast<zip_uint64_t>(index);
        zip_set_file_compression(zip, at, text ? ZIP_CM_DEFLATE : ZIP_CM_STORE, 0);
        zip_file_set_mtime(zip, at, 315532800, 0);  // 1980-01-01: the same level gives the same bytes
    }
    if (zip_close(zip) != 0) {
        const Error e = zipTrouble(file.goal(), zip_get_error(zip));
        zip_discard(zip);
        return e;
    }
    return {};
}

Status checkWritten(const std::vector<ArchivePart>& parts, const AtomicFile& file) {
    const auto wrong = [&](const std::string& part) {
        return Error{file.goal().string(), part, "it did not read back as it was written; the old file is still there",
                     "save to another disk, and look after this one"};
    };
    const Result<std::unique_ptr<Archive>> opened = Archive::open(file.path());
    if (!opened) return wrong("");
    for (const ArchivePart& part : parts)
        if (!opened.value()->sound(part.name, part.content().size())) return wrong(part.name);
    return {};
}

Result<std::string> fileIdentity(const std::filesystem::path& path) {
    if (const Status s = checkReadable(path); !s) return s.error();
    int code = 0;
    zip_t* zip = zip_open(path.c_str(), ZIP_RDONLY, &code);
    if (!zip)
        return Error{path.string(), "", "it is not a level file, or it is damaged",
                     "open another file or an earlier copy"};
    // Fowler, Noll and Vo, FNV-1a, 64 bits.
    uint64_t hash = 0xcbf29ce484222325;
    const auto add = [&](const void* bytes, size_t n) {
        for (size_t i = 0; i < n; ++i) hash = (hash ^ static_cast<const uint8_t*>(bytes)[i]) * 0x100000001b3;
    };
    const zip_int64_t count = zip_get_num_entries(zip, 0);
    for (zip_int64_t i = 0; i < count; ++i) {
        zip_stat_t info;
        if (zip_stat_index(zip, static_cast<zip_uint64_t>(i), 0, &info) != 0) continue;
        add(info.name, std::char_traits<char>::length(info.name) + 1);
        add(&info.size, sizeof info.size);
        add(&info.crc, sizeof info.crc);
    }
    zip_discard(zip);
    char word[20];
    std::snprintf(word, sizeof word, "%016llx", static_cast<unsigned long long>(hash));
    return std::string(word);
}

Archive::~Archive() { zip_discard(zip_); }

Result<std::unique_ptr<Archive>> Archive::open(const std::filesystem::path& path) {
    // Tested apart, so that a missing file is told from a damaged one.
    if (const Status s = checkReadable(path); !s) return s.error();
    int code = 0;
    zip_t* zip = zip_open(path.c_str(), ZIP_RDONLY | ZIP_CHECKCONS, &code);
    if (!zip)
        return Error{path.string(), "", "it is not a level file, or it is damaged",
                     "open another file or an earlier copy"};
    return std::unique_ptr<Archive>(new Archive(zip, path.string()));
}

bool Archive::sound(const std::string& name, size_t size) const {
    zip_stat_t info;
    if (zip_stat(zip_, name.c_str(), 0, &info) != 0 || info.size != size) return false;
    zip_file_t* part = zip_fopen_index(zip_, info.index, 0);
    if (!part) return false;
    Bytes some(1 << 18);
    zip_int64_t n = 0, all = 0;
    // Reading to the end makes libzip compare the check sum.
    while ((n = zip_fread(part, some.data(), some.size())) > 0) all += n;
    zip_fclose(part);
    return n == 0 && static_cast<size_t>(all) == size;
}

Result<Bytes> Archive::read(const std::string& name, uint64_t most) const {
    zip_stat_t info;
    if (zip_stat(zip_, name.c_str(), 0, &info) != 0)
        return Error{file_, name, "this part is missing", "use a copy or an earlier save of the level"};
    if (!(info.valid & ZIP_STAT_SIZE) || info.size > most)
        return Error{file_, name,
                     "this part would take " + number(static_cast<double>(info.size) / 1e6) + " MB, more than " +
                         number(static_cast<double>(most) / 1e6) + " MB",
                     "the file is damaged or hostile; do not use it"};
    const Error damaged{file_, name, "this part is damaged", "use a copy or an earlier save of the level"};
    zip_file_t* part = zip_fopen_index(zip_, info.index, 0);
    if (!part) return damaged;
    Bytes bytes(info.size);
    const zip_int64_t n = zip_fread(part, bytes.data(), bytes.size());
    uint8_t beyond = 0;
    // Reading past the end makes libzip compare the check sum.
    const bool whole = n == static_cast<zip_int64_t>(bytes.size()) && zip_fread(part, &beyond, 1) == 0;
    zip_fclose(part);
    if (!whole) return damaged;
    return bytes;
}

}  // namespace jam
