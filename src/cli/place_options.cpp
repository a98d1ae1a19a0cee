#include "place_options.h"

namespace jam::cli {

void PlaceOptions::declare(CLI::App* v, bool parts) {
    v->add_option("--at", at, "x z in metres: where its middle comes to lie; the middle of the level without it")
        ->expected(2);
    v->add_option("--turn", place.turn, "degrees clockwise seen from above");
    v->add_option("--scale", place.scale, "along the ground, 0.05 to 20");
    v->add_option("--height-scale", place.heightScale, "of its heights above its foot, -20 to 20");
    v->add_option("--raise", place.raise, "metres");
    v->add_flag("--mirror", place.mirror, "West and east change sides");
    v->add_flag("--sit", wish.sit, "Raised or lowered so that its rim lies on the ground");
    v->add_option("--join", join, "With the ground there is: replace, add, higher or lower")
        ->check(CLI::IsMember({"replace", "add", "higher", "lower"}));
    v->add_option("--feather", wish.feather, "metres inwards over which its edge fades in");
    if (!parts) return;
    v->add_option("--stratum", wish.stratum, "Put the heights into a new stratum of this name");
    v->add_flag("--no-heights", noHeights, "Leave its heights out");
    v->add_flag("--no-cover", noCover, "Leave its layers out");
    v->add_flag("--no-wash", noWash, "Leave its wash out");
    v->add_flag("--no-plantings", noPlantings, "Leave what stands there out");
    v->add_flag("--no-openings", noOpenings, "Leave its openings and its lack of land out");
}

Placement PlaceOptions::placement(const Level& level) {
    place.x = at.empty() ? level.originX + level.width() / 2 : at[0];
    place.z = at.empty() ? level.originZ + level.depth() / 2 : at[1];
    wish.join = *clipJoinFromName(join);
    wish.heights = !noHeights;
    wish.cover = !noCover;
    wish.wash = !noWash;
    wish.gaps = !noOpenings;
    wish.plantings = !noPlantings;
    return place;
}

}  // namespace jam::cli
