// Where and how a clip is set down, on the command line.
#pragma once

#include <CLI/CLI.hpp>

#include "clip/set_down.h"

namespace jam::cli {

struct PlaceOptions {
    Placement place;
    SetDownWish wish;
    std::vector<double> at;
    std::string join = "replace";
    bool noHeights = false, noCover = false, noWash = false, noOpenings = false, noPlantings = false;

    // Declares the options. `parts`: also which parts of a clip are set down.
    void declare(CLI::App* v, bool parts);
    // The place and the wish that were asked for; the middle of the level without --at.
    Placement placement(const Level& level);
};

}  // namespace jam::cli
