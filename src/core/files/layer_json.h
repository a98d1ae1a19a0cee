// How a layer is laid and looks, its rules, and which pictures it has, as JSON: for level files, layer sets and
// manifests.
#pragma once

#include "files/fields.h"
#include "level/layer.h"

namespace jam {

// All but id, coverage and pictures: tile size, blend, look, sides, hidden, kept, rules. Fields that have their usual
// value are left out, but for name, tileSize and blend.
Json layerToJson(const Layer& layer);
// Reads the same fields; what is absent keeps its usual value. Trouble is noted in the cursor.
void readLayerFields(Fields& fields, Layer& layer);

std::string_view ruleKindName(RuleKind kind);
std::string_view ruleWayName(RuleEffect way);

// One rule, as layers and kinds keep it.
Json ruleToJson(const Rule& rule);
Rule readRule(Fields f);

}  // namespace jam
