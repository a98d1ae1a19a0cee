#include "level/picture_pool.h"

#include <map>
#include <mutex>
#include <string_view>

namespace jam {

namespace {

class Pool {
public:
    Picture find(const PictureFile& file) {
        const std::lock_guard lock(busy_);
        return find(file, hashOf(file));
    }
    Picture share(PictureFile file) {
        const std::lock_guard lock(busy_);
        const size_t hash = hashOf(file);
        if (Picture there = find(file, hash)) return there;
        std::erase_if(all_, [](const auto& entry) { return entry.second.expired(); });
        Picture made = std::make_shared<const PictureFile>(std::move(file));
        all_.emplace(hash, made);
        return made;
    }

private:
    static size_t hashOf(const PictureFile& file) {
        return std::hash<std::string_view>()({reinterpret_cast<const char*>(file.bytes.data()), file.bytes.size()});
    }
    Picture find(const PictureFile& file, size_t hash) const {
        for (auto [at, end] = all_.equal_range(hash); at != end; ++at)
            if (Picture there = at->second.lock(); there && *there == file) return there;
        return nullptr;
    }

    std::mutex busy_;
    std::multimap<size_t, std::weak_ptr<const PictureFile>> all_;  // by a hash of the bytes
};

Pool& pool() {
    static Pool all;
    return all;
}

}  // namespace

Picture knownPicture(const PictureFile& file) { return pool().find(file); }
Picture sharedPicture(PictureFile file) { return pool().share(std::move(file)); }

}  // namespace jam
