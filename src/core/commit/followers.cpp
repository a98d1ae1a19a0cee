#include <algorithm>

#include "commit/commit.h"
#include "cover/rules.h"

namespace jam {

namespace {

void followRules(Level& level, Change& change, const Context& context) {
    change.cover.add(refreshRules(level, change, context));
}
bool hasLivingRules(const Level& level) {
    return std::any_of(level.layers.begin(), level.layers.end(), [](const Layer& l) { return l.alive; });
}

}  // namespace

const std::vector<Follower>& followers() {
    static const std::vector<Follower> all = {{"living rules", followRules, hasLivingRules}};
    return all;
}

}  // namespace jam
