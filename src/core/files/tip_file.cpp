#include "files/tip_file.h"

#include <algorithm>
#include <cctype>
#include <cmath>

#include "base/text.h"

namespace jam {

namespace fs = std::filesystem;

namespace {

float greyAt(const Pixels& p, int x, int y) {
    const auto most = static_cast<float>(p.most());
    const float grey = p.channels >= 3 ? 0.2126f * p.at(x, y, 0) + 0.7152f * p.at(x, y, 1) + 0.0722f * p.at(x, y, 2)
                                       : p.at(x, y, 0);
    const float alpha = p.channels == 2 || p.channels == 4 ? p.at(x, y, p.channels - 1) / most : 1.f;
    return std::min(grey / most * alpha, 1.f);
}

}  // namespace

std::string tipTitle(const fs::path& path) {
    std::string name = asText(path.stem().string());
    std::replace(name.begin(), name.end(), '-', ' ');
    std::replace(name.begin(), name.end(), '_', ' ');
    if (!name.empty()) name[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(name[0])));
    return name;
}

Result<TipPtr> tipFromPixels(const Pixels& pixels, const std::string& name) {
    const int side = std::max(pixels.width, pixels.height);
    if (side < 2)
        return Error{name, "size", "it is " + std::to_string(pixels.width) + " x " + std::to_string(pixels.height),
                     "choose a picture of at least 2 x 2"};
    const int per = (side + kMaxTipSize - 1) / kMaxTipSize, size = std::max((side + per - 1) / per, 2);
    const int left = (side - pixels.width) / 2, top = (side - pixels.height) / 2;
    auto tip = std::make_shared<TipPicture>();
    tip->name = name;
    tip->size = size;
    tip->values.assign(static_cast<size_t>(size) * static_cast<size_t>(size), 0.f);
    for (int y = 0; y < pixels.height; ++y)
        for (int x = 0; x < pixels.width; ++x)
            tip->values[static_cast<size_t>((y + top) / per) * static_cast<size_t>(size) +
                        static_cast<size_t>((x + left) / per)] += greyAt(pixels, x, y) / static_cast<float>(per * per);
    return TipPtr(tip);
}

Result<TipPtr> readTip(const fs::path& path) {
    Result<Bytes> bytes = readFile(path, kMostTipBytes);
    if (!bytes) return bytes.error();
    Result<Pixels> pixels = decodePng(bytes.value(), path.string(), 8192);
    if (!pixels) return pixels.error();
    return tipFromPixels(pixels.value(), tipTitle(path));
}

std::vector<TipPtr> readTips(const fs::path& folder) {
    std::error_code none;
    std::vector<fs::path> paths;
    for (const fs::directory_entry& e : fs::directory_iterator(folder, none))
        if (e.path().extension() == ".png") paths.push_back(e.path());
    std::sort(paths.begin(), paths.end());
    std::vector<TipPtr> tips;
    for (const fs::path& p : paths)
        if (Result<TipPtr> tip = readTip(p)) tips.push_back(tip.take());
    return tips;
}

Bytes encodeTip(const TipPicture& tip) {
    Pixels p{tip.size, tip.size, 1, 8, {}};
    p.samples.reserve(tip.values.size());
    for (const float v : tip.values)
        p.samples.push_back(static_cast<uint16_t>(std::lround(std::clamp(v, 0.f, 1.f) * 255)));
    return encodePng(p, 9);
}

}  // namespace jam
