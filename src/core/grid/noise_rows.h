// Noise for many rows of the same columns.
#pragma once

#include <cstdint>
#include <vector>

namespace jam {

// Gives fractalNoise (base/noise.h) to the bit, many times as fast: what the columns have in common is worked out once,
// and the lattice's directions are kept from one row to the next.
class NoiseRows {
public:
    // n places along the rows that do not descend, in lattice cells.
    NoiseRows(const float* x, int n, uint32_t seed, int octaves);
    // out[i] = fractalNoise(x[i], z, seed, octaves). Cheapest when z goes down little by little.
    void row(float z, float* out);

private:
    // The lattice's directions along one of its rows, at the points in use.
    struct Arrows {
        std::vector<float> x, z;
    };
    struct Octave {
        uint32_t seed;
        float strength;
        std::vector<int> points;  // columns of the lattice that lie beside a sample
        std::vector<int> cell;    // of each sample: the point at its left; the next one lies at its right
        std::vector<float> within, fade;
        Arrows upper, lower;
        int row = 0;         // of the lattice, that `upper` holds
        bool known = false;  // whether they hold anything
    };
    void look(Octave& octave, int row) const;

    int n_;
    float perTotal_ = 1;  // one by the sum of all strengths
    std::vector<Octave> octaves_;
    std::vector<float> slope_, rise_;  // at the points, for one row
};

}  // namespace jam
