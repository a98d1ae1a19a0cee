// Samples between samples.
#pragma once

#include "level/level.h"

namespace jam {

// The wash at fractions of samples, each of the four nearest counting as much as it is strong; over the edge the
// nearest sample counts.
Wash washBetween(const TiledGrid<Wash>& grid, double column, double row);
// Bilinear between the four nearest, and exactly a sample where one lies.
uint16_t shareBetween(const TiledGrid<uint16_t>& grid, double column, double row);
uint8_t shareBetween(const TiledGrid<uint8_t>& grid, double column, double row);

// A share of the way from one sample to another.
float mixed(float a, float b, float share);
uint8_t mixed(uint8_t a, uint8_t b, float share);
uint16_t mixed(uint16_t a, uint16_t b, float share);
Wash mixed(const Wash& a, const Wash& b, float share);

}  // namespace jam
