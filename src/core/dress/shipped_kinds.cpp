#include "dress/shipped_kinds.h"

#include "grow/recipe.h"

namespace jam {

namespace {

// A growth with some of a recipe's numbers changed.
Growth growthOf(const char* recipe, uint32_t seed, std::initializer_list<std::pair<const char*, float>> numbers) {
    const Recipe& r = *recipeNamed(recipe);
    Growth g = usualGrowth(r);
    g.seed = seed;
    for (const auto& [name, value] : numbers)
        for (size_t i = 0; i < r.numbers.size(); ++i)
            if (std::string_view(r.numbers[i].name) == name) g.numbers[i] = value;
    return g;
}

Kind kindOf(const char* name, Growth growth, float density, float apart) {
    Kind k;
    k.name = name;
    k.growth = std::move(growth);
    k.density = density;
    k.apart = apart;
    k.seed = k.growth.seed;
    k.tintFrom = {0.9f, 0.92f, 0.9f};
    return k;
}

Kind tree(const char* name, Growth growth, float density, float apart) {
    Kind k = kindOf(name, std::move(growth), density, apart);
    k.sink = 0.1f;
    k.lean = 0.1f;
    k.tilt = 3;
    k.blocks = Blocks::cylinder;
    k.blockRadius = 0.22f, k.blockHeight = 1.8f;
    return k;
}

std::vector<Kind> made() {
    std::vector<Kind> all;
    all.push_back(tree("Damson tree", growthOf("tree", 3, {{"fruit", 1.f}}), 2.5f, 3.5f));
    all.push_back(tree("Young damson",
                       growthOf("tree", 5,
                                {{"height", 2.4f},
                                 {"trunk", 0.9f},
                                 {"girth", 0.11f},
                                 {"crown", 1.5f},
                                 {"branches", 5},
                                 {"leafSize", 0.24f}}),
                       4, 2));
    all.push_back(tree("Old apple",
                       growthOf("tree", 9,
                                {{"height", 6.2f},
                                 {"trunk", 1.9f},
                                 {"girth", 0.46f},
                                 {"crown", 6},
                                 {"branches", 9},
                                 {"angle", 60},
                                 {"droop", 0.5f},
                                 {"hue", 0.3f}}),
                       0.8f, 6));
    all.push_back(tree("Ash",
                       growthOf("tree", 12,
                                {{"height", 13},
                                 {"trunk", 3.6f},
                                 {"girth", 0.5f},
                                 {"crown", 7},
                                 {"branches", 14},
                                 {"angle", 38},
                                 {"leafSize", 0.5f},
                                 {"hue", 0.05f}}),
                       0.5f, 6));
    all.push_back(tree(
        "Bare thorn",
        growthOf("tree", 15,
                 {{"height", 3.6f}, {"trunk", 1.1f}, {"crown", 3}, {"branches", 12}, {"leaves", 0}, {"droop", 0.1f}}),
        1, 3));
    Kind hedge = kindOf("Hedge", growthOf("bush", 21, {{"height", 1.5f}, {"width", 1.5f}, {"square", 0.6f}}), 60, 0.9f);
    hedge.blocks = Blocks::box, hedge.blockRadius = 0.7f, hedge.blockHeight = 1.4f;
    all.push_back(std::move(hedge));
    Kind bramble = kindOf(
        "Bramble", growthOf("bush", 23, {{"height", 0.9f}, {"width", 1.9f}, {"hue", 0.35f}, {"leafSize", 0.17f}}), 6,
        1.2f);
    bramble.clump = 14, bramble.clumpTight = 0.8f, bramble.lean = 0.6f, bramble.sink = 0.2f;
    all.push_back(std::move(bramble));
    const auto low = [](Kind k) {
        k.lean = 0.8f, k.tilt = 8, k.sink = 0.07f;
        return k;
    };
    all.push_back(low(kindOf("Meadow tuft", growthOf("tuft", 31, {}), 120, 0)));
    all.push_back(
        low(kindOf("Dry tuft", growthOf("tuft", 33, {{"height", 0.6f}, {"hue", 0.9f}, {"blades", 16}}), 40, 0)));
    Kind daisies =
        low(kindOf("Ox-eye daisies", growthOf("tuft", 35, {{"height", 0.38f}, {"blades", 10}, {"flowers", 1}}), 30, 0));
    daisies.clump = 9, daisies.clumpTight = 0.9f;
    all.push_back(std::move(daisies));
    Kind reeds = kindOf("Reeds", growthOf("reed", 41, {}), 150, 0);
    reeds.clump = 8, reeds.clumpTight = 0.6f, reeds.sink = 0.05f;
    all.push_back(std::move(reeds));
    Kind lilies = kindOf("Pond leaves", growthOf("pads", 43, {{"stalk", 0.6f}}), 25, 0.9f);
    lilies.clump = 7, lilies.clumpTight = 0.8f;
    all.push_back(std::move(lilies));
    Kind flint = low(kindOf(
        "Flints", growthOf("stone", 51, {{"width", 0.35f}, {"height", 0.24f}, {"moss", 0}, {"light", 0.8f}}), 30, 0));
    flint.sinkShare = 0.25f, flint.clump = 12, flint.clumpTight = 0.7f, flint.tilt = 30;
    all.push_back(std::move(flint));
    Kind boulder =
        low(kindOf("Boulder", growthOf("stone", 53, {{"width", 2.2f}, {"height", 1.5f}, {"moss", 0.6f}}), 0.6f, 4));
    boulder.sinkShare = 0.3f, boulder.tilt = 15, boulder.sizeFrom = 0.6f, boulder.sizeTo = 1.7f;
    boulder.blocks = Blocks::hull;
    all.push_back(std::move(boulder));
    Kind post = kindOf("Post and rails", growthOf("post", 61, {}), 100, 0);
    post.rows = Rows::course, post.inRow = 2.5f, post.rowApart = 1.2f, post.turning = Turning::course;
    post.sizeFrom = post.sizeTo = 1, post.tilt = 2, post.blocks = Blocks::box, post.blockRadius = 1.25f,
    post.blockHeight = 1.15f;
    all.push_back(std::move(post));
    Kind bale = kindOf("Straw bale", growthOf("bale", 65, {}), 2, 1.5f);
    bale.lean = 1, bale.sizeFrom = 0.95f, bale.sizeTo = 1.05f, bale.blocks = Blocks::box, bale.blockRadius = 0.5f,
    bale.blockHeight = 0.5f;
    all.push_back(std::move(bale));
    Kind roll = kindOf("Rolled bale", growthOf("bale", 66, {{"length", 1.2f}, {"height", 1.3f}, {"round", 1}}), 0.4f,
                       8);
    roll.blocks = Blocks::box, roll.blockRadius = 0.65f, roll.blockHeight = 1.3f;
    all.push_back(std::move(roll));
    Kind hut = kindOf("Start hut", growthOf("hut", 71, {{"width", 3}, {"length", 4}}), 0.1f, 15);
    Kind kitchen = kindOf(
        "Jam kitchen",
        growthOf("hut", 73, {{"width", 7}, {"length", 11}, {"wall", 2.8f}, {"roof", 3}, {"stone", 1}, {"door", 1.6f}}),
        0.1f, 30);
    for (Kind* k : {&hut, &kitchen}) {
        k->growth.variants = 1;
        k->sizeFrom = k->sizeTo = 1, k->sink = 0.1f, k->blocks = Blocks::hull;
        all.push_back(std::move(*k));
    }
    return all;
}

}  // namespace

const std::vector<Kind>& shippedKinds() {
    static const std::vector<Kind> all = made();
    return all;
}

}  // namespace jam
