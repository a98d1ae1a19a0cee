#include "files/level_file.h"

#include <cmath>
#include <functional>
#include <set>

#include "base/parallel.h"
#include "base/text.h"
#include "course/footprint.h"
#include "files/archive.h"
#include "files/level_text.h"
#include "level/ground.h"
#include "water/water.h"

namespace jam {

namespace {

// --- writing ----------------------------------------------------------------------------------------------------

// They borrow from the level.
Result<std::vector<ArchivePart>> encodeParts(const Level& level, const std::string& text, const Context& context) {
    std::vector<ArchivePart> parts;
    parts.push_back({"level.json", Bytes(text.begin(), text.end())});
    // Large rasters are packed by several threads inside; many small ones, side by side.
    std::vector<std::function<Status()>> small;
    std::optional<Error> error;
    eachRaster(level, [&](const auto& kind, const auto&, uint32_t id, const auto& grid) {
        using Kind = std::remove_cvref_t<decltype(kind)>;
        if constexpr (Kind::kStored) {
            const bool always = isGround(kind) && grid.columns() > 0;
            if (error || (grid.presentTiles() == 0 && !always)) return;
            const size_t at = parts.size();
            parts.push_back({rasterName(kind, id), {}});
            const auto pack = [&parts, &grid, at]() -> Status {
                Result<Bytes> bytes = encodeRaster(grid);
                if (!bytes) return bytes.error();
                parts[at].bytes = bytes.take();
                return {};
            };
            if (!std::is_same_v<typename Kind::Sample, float>) return small.push_back(pack);
            if (const Status s = pack(); !s) error = s.error();
        }
    });
    if (error) return *error;
    context.report(0.4);
    std::vector<Status> packed(small.size());
    parallelFor(static_cast<int>(small.size()), 1, [&](int first, int end) {
        for (int i = first; i < end && !context.cancelled(); ++i)
            packed[static_cast<size_t>(i)] = small[static_cast<size_t>(i)]();
    });
    for (const Status& s : packed)
        if (!s) return s.error();
    eachLent(level, [&](std::string name, const Bytes& bytes) { parts.push_back({std::move(name), {}, &bytes}); });
    if (context.cancelled()) return cancelledError();
    context.report(0.8);
    return parts;
}

// --- reading ----------------------------------------------------------------------------------------------------

// What the parts take once they are read, each of which may be large, but not all of them.
class Account {
public:
    Account(std::string file, uint64_t memory) : file_(std::move(file)), memory_(memory) {}
    Status add(const std::string& part, uint64_t bytes) {
        taken_ += bytes;
        if (taken_ <= memory_) return {};
        return Error{file_, part,
                     "with it the level would take more memory than the " +
                         number(std::round(static_cast<double>(memory_) / 1e8) / 10) + " GB that there are",
                     "open it on a larger machine; if it should be small, it is damaged"};
    }

private:
    const std::string file_;
    const uint64_t memory_;
    uint64_t taken_ = 0;
};

// Reads one raster into its place, which has its size and default already.
template <class T>
Status readRaster(const Archive& archive, const std::string& name, Account& account, TiledGrid<T>& grid) {
    const uint64_t most = static_cast<uint64_t>(grid.bounds().area()) * (sizeof(T) + 1) + (1u << 20);
    Result<Bytes> bytes = archive.read(name, most);
    if (!bytes) return bytes.error();
    Result<TiledGrid<T>> read = decodeRaster<T>(bytes.value(), archive.file() + ": " + name, grid.columns(),
                                                grid.rows(), grid.defaultValue());
    if (!read) return read.error();
    grid = read.take();
    return account.add(name, grid.bytes());
}

class ArchiveParts : public PartSource {
public:
    ArchiveParts(const Archive& archive, Account& account) : archive_(archive), account_(account) {}
    Result<Bytes> read(const std::string& name, uint64_t most) const override {
        Result<Bytes> bytes = archive_.read(name, most);
        if (bytes)
            if (const Status s = account_.add(name, bytes.value().size()); !s) return s.error();
        return bytes;
    }
    std::string file() const override { return archive_.file(); }

private:
    const Archive& archive_;
    Account& account_;
};

Result<std::string> readText(const Archive& archive) {
    const Result<Bytes> bytes = archive.read("level.json", kMostLevelText);
    if (!bytes) return bytes.error();
    return std::string(bytes.value().begin(), bytes.value().end());
}

// The save before stays beside the new one, as a second name of the same file where the disk can do that, and takes the
// place of the one before it once the new one is in place. A damaged one is none to keep. Nothing depends on it, so
// that trouble here is no reason not to save.
class Backup {
public:
    explicit Backup(const std::filesystem::path& path) : beside_(backupOf(path)), fresh_(beside_.string() + "part") {
        std::error_code none;
        if (!std::filesystem::is_regular_file(path, none) || !Archive::open(path)) return;
        std::filesystem::remove(fresh_, none);
        std::filesystem::create_hard_link(path, fresh_, none);
        there_ = !none || std::filesystem::copy_file(path, fresh_, none);
    }
    ~Backup() {
        std::error_code none;
        if (there_) std::filesystem::remove(fresh_, none);
    }
    Backup(const Backup&) = delete;
    void keep() {
        std::error_code none;
        if (there_) std::filesystem::rename(fresh_, beside_, none);
        if (!none) there_ = false;
    }

private:
    const std::filesystem::path beside_, fresh_;
    bool there_ = false;
};

}  // namespace

std::filesystem::path backupOf(const std::filesystem::path& level) { return level.string() + "~"; }

Status saveLevel(const Level& level, const std::filesystem::path& path, const Context& context,
                 const std::function<void(const std::string& identity)>& soon) {
    const std::string text = levelText(level);
    // Asked before anything is written: what could not be opened again must not take the place of what can.
    if (const Result<std::string> again = checkLevelText(text, ""); !again) {
        const Error& e = again.error();
        return Error{path.string(), e.field, "the level could not be opened again: " + e.problem, e.remedy};
    }
    Result<std::vector<ArchivePart>> parts = encodeParts(level, text, context);
    if (!parts) return parts.error();
    AtomicFile file(path);
    if (Status s = writeArchive(parts.value(), file); !s) return s;
    if (Status s = checkWritten(parts.value(), file); !s) return s;
    if (context.cancelled()) return cancelledError();
    if (soon) {
        const Result<std::string> identity = fileIdentity(file.path());
        if (!identity) return Error{path.string(), "", identity.error().problem, "choose another folder"};
        soon(identity.value());
    }
    Backup backup(path);
    if (Status s = file.commit(); !s) return s;
    backup.keep();
    context.report(1);
    return {};
}

Result<std::string> levelName(const std::filesystem::path& path) {
    const Result<std::unique_ptr<Archive>> opened = Archive::open(path);
    if (!opened) return opened.error();
    const Result<std::string> text = readText(*opened.value());
    if (!text) return text.error();
    return checkLevelText(text.value(), opened.value()->file() + ": level.json");
}

Result<Level> loadLevel(const std::filesystem::path& path, const Context& context, uint64_t memory) {
    Result<std::unique_ptr<Archive>> opened = Archive::open(path);
    if (!opened) return opened.error();
    const Archive& archive = *opened.value();
    const Result<std::string> text = readText(archive);
    if (!text) return text.error();
    Account account(archive.file(), memory);
    Result<DescribedLevel> described = levelFromText(text.value(), ArchiveParts(archive, account), context);
    if (!described) return described.error();
    const std::set<std::string>& rasters = described.value().rasters;
    Level level = std::move(described.value().level);
    context.report(0.3);
    const size_t count = rasters.size();
    size_t at = 0;
    std::optional<Error> error;
    eachRaster(level, [&](const auto& kind, const auto&, uint32_t id, auto& grid) {
        if constexpr (std::remove_cvref_t<decltype(kind)>::kStored) {
            const std::string name = rasterName(kind, id);
            if (error || grid.columns() == 0 || !rasters.contains(name)) return;
            if (context.cancelled()) error = cancelledError();
            else if (const Status s = readRaster(archive, name, account, grid); !s) error = s.error();
            context.report(0.3 + 0.6 * static_cast<double>(++at) / static_cast<double>(count));
        }
    });
    if (error) return *error;
    // Where no hand was, a layer lies as its rules say.
    for (Layer& l : level.layers)
        if (l.alive) l.base.shareEqualTiles(l.coverage);
    for (Kind& k : level.kinds)
        if (k.alive) k.base.shareEqualTiles(k.coverage);
    refillHatches(level);
    refillWater(level, context);
    if (context.cancelled()) return cancelledError();
    activateShown(level);  // brushes need a stratum that shows
    context.report(1);
    return level;
}

}  // namespace jam
