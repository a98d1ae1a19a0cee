// Levels for tests: small, named by what they look like.
#pragma once

#include <random>
#include <string>
#include <vector>

#include "brush/stroke.h"
#include "level/level.h"

namespace jam::test {

// A colour picture of one tone, so that a layer has what it must have.
Picture plainPicture(uint8_t red, uint8_t green, uint8_t blue);
Layer plainLayer(const std::string& name, uint8_t red = 100, uint8_t green = 120, uint8_t blue = 80);

// A flat level with `layers` layers named "layer 0", ...
Level flatLevel(int columns, int rows, int layers = 1, double spacing = 1, int coverFactor = 1);

// Ground drawn as text, one line per row: digits are metres, '.' is the start height 0.
Level drawnLevel(const std::string& picture);

// Smooth random hills, and random coverage of every layer; the same seed gives the same level.
Level hillyLevel(int columns, int rows, uint32_t seed, int layers = 3);
// The same in two colours, as a board of fields of so many cover samples.
Level chequeredLevel(int columns, int rows, uint32_t seed, int across, int down);

// A level in which symmetry hides nothing: oblong, away from the origin, spacing 1.5, cover twice as fine, two strata
// of which the upper one is dimmed and active, ten layers with looks of their own (one hidden, one protected, one laid
// by living rules), a pair, a wash, an opening, a corner without land, a pool, and a turned
// sun. The same seed gives the same
// level.
Level lopsidedLevel(uint32_t seed = 3);

// What a tool takes away, everywhere: without openings there is nothing to close.
void giveWork(Level& level, Tool tool);

// The weights of all layers over the whole cover, by layer index.
std::vector<Raster<uint8_t>> weightsOf(const Level& level);

using Random = std::mt19937;
double between(Random& random, double low, double high);
int wholeBetween(Random& random, int low, int high);  // both included

}  // namespace jam::test
