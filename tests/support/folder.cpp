#include "folder.h"

#include <sys/stat.h>
#include <unistd.h>
#include <fstream>

#include "levels.h"

namespace jam::test {

namespace fs = std::filesystem;

Folder::Folder() {
    std::string name = (fs::temp_directory_path() / "jamhill-test-XXXXXX").string();
    path = ::mkdtemp(name.data());
}

Folder::~Folder() {
    ::chmod(path.c_str(), 0755);
    fs::remove_all(path);
}

size_t Folder::files() const {
    return static_cast<size_t>(std::distance(fs::directory_iterator(path), fs::directory_iterator()));
}

Bytes bytesOf(const fs::path& path) { return readFile(path, 1u << 30).take(); }

void put(const fs::path& path, const Bytes& bytes) {
    std::ofstream(path, std::ios::binary)
        .write(reinterpret_cast<const char*>(bytes.data()), static_cast<std::streamsize>(bytes.size()));
}

Bytes mutated(Bytes bytes, Random& random) {
    const int changes = wholeBetween(random, 1, 8);
    for (int i = 0; i < changes && !bytes.empty(); ++i) {
        const auto at = static_cast<size_t>(wholeBetween(random, 0, static_cast<int>(bytes.size()) - 1));
        switch (wholeBetween(random, 0, 4)) {
            case 0: bytes[at] = static_cast<uint8_t>(random()); break;
            case 1: bytes[at] ^= static_cast<uint8_t>(1 << wholeBetween(random, 0, 7)); break;
            case 2: bytes.resize(at); break;
            case 3:
                bytes.insert(bytes.begin() + static_cast<long>(at), bytes.begin(),
                             bytes.begin() + static_cast<long>(at / 2));
                break;
            default: std::memset(&bytes[at], random() % 2 ? 255 : 0, std::min<size_t>(4, bytes.size() - at));
        }
    }
    return bytes;
}

}  // namespace jam::test
