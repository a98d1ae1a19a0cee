// Recipes: how kinds grow from numbers and a seed. A recipe is a file in grow/ and a line in recipe.cpp.
#pragma once

#include <memory>
#include <span>
#include <string_view>

#include "base/result.h"
#include "grow/mesh.h"
#include "level/kind.h"

namespace jam {

// How much of a mesh is grown: all of it, for what stands near; the same shape in fewer and larger parts; or the
// fewest that still tell what it is.
enum class Detail { near, middle, far };
constexpr int kDetails = 3;

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
struct GrownKind {
    std::vector<std::array<Mesh, kDetails>> variants;
    float height = 0, radius = 0;  // metres, of the largest, near
    float below = 0;               // metres that each reaches below its foot at least
};
std::shared_ptr<const GrownKind> grownKind(const Growth& growth);

}  // namespace jam
