// Recipes: how kinds grow from numbers and a seed. A recipe is a file in grow/ and a line in recipe.cpp.
#pragma once

#include <memory>
#include <span>
#include <string_view>

#include "base/result.h"
#include "level/kind.h"
#include "level/mesh.h"

namespace jam {

struct RecipeNumber {
    const char* name;   // in files
    const char* title;  // on the screen
    const char* unit;   // as shown, "" for none
    float low, high, usual;
};

struct Recipe {
    const char* name;   // in files
    const char* title;  // on the screen
    std::span<const RecipeNumber> numbers;
    // `share` 0 for the smallest variant, 1 for the largest. The same bits for the same numbers.
    Mesh (*grow)(std::span<const float> numbers, uint32_t seed, float share, Detail detail);
};

const std::vector<const Recipe*>& recipes();
const Recipe* recipeNamed(std::string_view name);  // or null

// A growth with the usual numbers of a recipe.
Growth usualGrowth(const Recipe& recipe);
// Errors: no such recipe, another count of numbers, one out of its range; naming the field.
Status checkGrowth(const Growth& growth);

// What a growth gives for one of its variants, [0, growth.variants). Precondition: checkGrowth() passes.
Mesh grown(const Growth& growth, int variant, Detail detail);

// All that a growth gives, remembered for as long as some dozens of others are not asked for. Any thread.
std::shared_ptr<const KindMeshes> grownKind(const Growth& growth);
// What a kind looks like, grown or taken in.
inline std::shared_ptr<const KindMeshes> meshesOf(const Kind& kind) {
    return kind.taken ? kind.taken.shape->meshes : grownKind(kind.growth);
}

}  // namespace jam
