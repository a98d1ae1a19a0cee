// Brush tips from greyscale pictures.
#pragma once

#include <filesystem>

#include "brush/tip.h"
#include "files/png.h"

namespace jam {

constexpr uint64_t kMostTipBytes = 64u << 20;  // of a file

using TipPtr = std::shared_ptr<const TipPicture>;

// A tip from any PNG: colours become grey, transparent counts as black, and a picture that is not square is centred in
// a black square. Larger ones than kMaxTipSize are reduced by averaging. Errors: unreadable, not a PNG, not 2 x 2.
Result<TipPtr> readTip(const std::filesystem::path& path);
Result<TipPtr> tipFromPixels(const Pixels& pixels, const std::string& name);

// Every PNG of a folder, by file name; files that cannot be read are left out. A missing folder has none.
std::vector<TipPtr> readTips(const std::filesystem::path& folder);
// "crater-rim.png" gives "Crater rim".
std::string tipTitle(const std::filesystem::path& path);

// A tip as 8-bit grey PNG, for files that carry it along.
Bytes encodeTip(const TipPicture& tip);

}  // namespace jam
