#include "grow/recipe.h"

#include <algorithm>
#include <deque>
#include <mutex>

#include "base/range.h"

namespace jam {

extern const Recipe treeRecipe, bushRecipe, tuftRecipe, reedRecipe, padsRecipe, stoneRecipe, postRecipe, baleRecipe,
    hutRecipe;

const std::vector<const Recipe*>& recipes() {
    static const std::vector<const Recipe*> all = {&treeRecipe,  &bushRecipe, &tuftRecipe, &reedRecipe, &padsRecipe,
                                                   &stoneRecipe, &postRecipe, &baleRecipe, &hutRecipe};
    return all;
}

const Recipe* recipeNamed(std::string_view name) {
    for (const Recipe* r : recipes())
        if (r->name == name) return r;
    return nullptr;
}

Growth usualGrowth(const Recipe& recipe) {
    Growth g;
    g.recipe = recipe.name;
    for (const RecipeNumber& n : recipe.numbers) g.numbers.push_back(n.usual);
    return g;
}

Status checkGrowth(const Growth& g) {
    const Recipe* recipe = recipeNamed(g.recipe);
    if (!recipe) {
        std::string all;
        for (const Recipe* r : recipes()) all += (all.empty() ? "" : ", ") + std::string(r->name);
        return Error{"", "recipe", "it is \"" + g.recipe + "\"", "use one of " + all};
    }
    if (g.numbers.size() != recipe->numbers.size())
        return Error{"", "numbers",
                     "there are " + std::to_string(g.numbers.size()) + " and \"" + g.recipe + "\" has " +
                         std::to_string(recipe->numbers.size()),
                     "give each of them"};
    for (size_t i = 0; i < g.numbers.size(); ++i) {
        const RecipeNumber& n = recipe->numbers[i];
        if (const Status s = checkRange(n.name, g.numbers[i], n.low, n.high, ""); !s) return s;
    }
    return checkRange("variants", g.variants, 1, 8, "");
}

Mesh grown(const Growth& g, int variant, Detail detail) {
    const Recipe* recipe = recipeNamed(g.recipe);
    const float share = g.variants > 1 ? static_cast<float>(variant) / static_cast<float>(g.variants - 1) : 1;
    return recipe->grow(g.numbers, g.seed + 97u * static_cast<uint32_t>(variant), share, detail);
}

std::shared_ptr<const KindMeshes> grownKind(const Growth& growth) {
    static std::mutex guard;
    static std::deque<std::pair<Growth, std::shared_ptr<const KindMeshes>>> known;
    {
        const std::lock_guard lock(guard);
        for (const auto& [g, kind] : known)
            if (g == growth) return kind;
    }
    auto made = std::make_shared<KindMeshes>();
    for (int v = 0; v < growth.variants; ++v) {
        std::array<Mesh, kDetails> details;
        for (int d = 0; d < kDetails; ++d) details[static_cast<size_t>(d)] = grown(growth, v, static_cast<Detail>(d));
        made->add(std::move(details));
    }
    const std::lock_guard lock(guard);
    known.emplace_front(growth, made);
    if (known.size() > 2 * kMaxKinds) known.pop_back();
    return made;
}

}  // namespace jam
