#include "checks/check.h"

namespace jam {

extern const Check leaksCheck, overBanksCheck, lostOpeningsCheck, spotsNowhereCheck, unreachedSpotsCheck, waysOutCheck,
    trapsCheck, steepSpotsCheck, floatingCheck, inTheWayCheck, unusedLayersCheck, drownedCheck;

const std::vector<const Check*>& checks() {
    static const std::vector<const Check*> all = {
        &leaksCheck, &overBanksCheck,  &lostOpeningsCheck, &spotsNowhereCheck, &unreachedSpotsCheck, &waysOutCheck,
        &trapsCheck, &steepSpotsCheck, &floatingCheck,     &inTheWayCheck,     &unusedLayersCheck,   &drownedCheck};
    return all;
}

const Check* checkNamed(const std::string& name) {
    for (const Check* c : checks())
        if (c->name == name) return c;
    return nullptr;
}

}  // namespace jam
