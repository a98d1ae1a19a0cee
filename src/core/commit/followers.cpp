#include <algorithm>

#include "commit/commit.h"
#include "cover/rules.h"

namespace jam {

namespace {

void followRules(Level& level, Change& change, const Context& context) {
    change.cover.add(refreshRules(level, change, context));
}
long long livingRules(const Level& level, const Change& change) {
    const auto alive = std::count_if(level.layers.begin(), level.layers.end(), [](const Layer& l) { return l.alive; });
    const long long finer = static_cast<long long>(level.coverFactor) * level.coverFactor;
    return alive * (change.ground.area() * finer + change.cover.area());
}

}  // namespace

const std::vector<Follower>& followers() {
    static const std::vector<Follower> all = {{"living rules", followRules, livingRules}};
    return all;
}

}  // namespace jam
