// Compiled once per processor level, with JAM_GROUND_ROWS naming the set. As in brush/rows.cpp there is nothing here
// but raw pointers and built-in types.
#include "grid/ground_rows.h"

namespace jam {
namespace {

void begin(float* __restrict row, const float* __restrict heights, int n, float share, float start) {
    for (int i = 0; i < n; ++i) row[i] = start + share * heights[i];
}

void add(float* __restrict row, const float* __restrict heights, int n, float share) {
    for (int i = 0; i < n; ++i) row[i] += share * heights[i];
}

void own(float* __restrict row, const float* __restrict heights, const float* __restrict owned, int n, float share) {
    for (int i = 0; i < n; ++i) row[i] = (1 - share * owned[i]) * row[i] + share * heights[i];
}

float kept(float h, float lowest, float highest) {
    const float up = h < lowest ? lowest : h;
    return up > highest ? highest : up;
}

void keep(float* __restrict row, int n, float lowest, float highest) {
    for (int i = 0; i < n; ++i) row[i] = kept(row[i], lowest, highest);
}

GroundRows::Outcome compare(float* __restrict row, const float* __restrict before, int n, float lowest, float highest) {
    int differs = 0, held = 0;
    for (int i = 0; i < n; ++i) {
        row[i] = kept(row[i], lowest, highest);
        differs |= row[i] != before[i];
        held |= (before[i] <= lowest) | (before[i] >= highest);
    }
    return {differs != 0, held != 0};
}

void take(float* __restrict to, const float* __restrict after, const float* __restrict before, int n, float perMetre) {
    for (int i = 0; i < n; ++i) to[i] += (after[i] - before[i]) * perMetre;
}

void span(float* __restrict low, float* __restrict high, const float* __restrict row, int n) {
    for (int i = 0; i < n; ++i) {
        low[i] = row[i] < low[i] ? row[i] : low[i];
        high[i] = row[i] > high[i] ? row[i] : high[i];
    }
}

}  // namespace

extern const GroundRows JAM_GROUND_ROWS;
const GroundRows JAM_GROUND_ROWS = {begin, add, own, keep, compare, take, span};

}  // namespace jam
