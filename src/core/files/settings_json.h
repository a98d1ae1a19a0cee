// The settings of a brush as JSON, shared by stroke files and presets.
#pragma once

#include "files/fields.h"
#include "files/tip_file.h"
#include "tools/tool.h"

namespace jam {

// Names the tip's picture; with `carryPictures` it goes along as PNG in base64, so that the file can be shared.
// Values that the tool does not use, and those at their defaults, are left out. The layer and the mirror are not part
// of it unless stated by the caller.
Json settingsToJson(const StrokeSettings& settings, bool carryPictures);
Json mirrorToJson(const Mirror& mirror);

// Reads them back; `tips` are those that can be named. Errors go to the fields.
StrokeSettings readSettings(Fields& fields, const std::vector<TipPtr>& tips);

// A named brush that can be kept and shared: docs/format.md, "Presets".
struct Preset {
    std::string name;
    StrokeSettings settings;

    bool operator==(const Preset&) const = default;
};

std::string writePreset(const Preset& preset);
Result<Preset> parsePreset(const std::string& text, const std::string& file, const std::vector<TipPtr>& tips);
Result<Preset> readPreset(const std::filesystem::path& path, const std::vector<TipPtr>& tips);
Status savePreset(const Preset& preset, const std::filesystem::path& path);

}  // namespace jam
