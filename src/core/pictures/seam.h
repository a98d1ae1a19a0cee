// Whether a picture can be laid side by side without anybody seeing it, and making it so.
#pragma once

#include "files/png.h"

namespace jam {

struct SeamReport {
    // How much larger the step from one edge to the opposite one is than between neighbouring columns (rows) inside,
    // each at its worst stretch of a sixteenth of the side. 1 is an edge like any other place.
    double leftRight = 1, topBottom = 1;
    double worstRow = 0, worstColumn = 0;  // where that stretch lies, [0, 1]
    // How far the spot that sticks out most differs in brightness from the mean, as a share of the mean; seen as if
    // from afar (blurred by a sixteenth of the picture).
    double spot = 0;
    double spotX = 0, spotY = 0;  // [0, 1]

    bool edgesMatch() const { return leftRight < kEdgeSeen && topBottom < kEdgeSeen; }
    bool even() const { return spot < kSpotSeen; }
    static constexpr double kEdgeSeen = 1.8, kSpotSeen = 0.16;
};

// Precondition: at least 8 x 8 samples.
SeamReport checkSeams(const Pixels& colour);

// Makes pictures that belong together seamless: the last quarter of each is laid over its beginning, along the path
// where the colours differ least (Efros and Freeman, "Image Quilting", 2001), fine detail cut sharply there and slow
// changes blended over the whole overlap (after Burt and Adelson, "A Multiresolution Spline", 1983); first from left to
// right, then from top to bottom. All come out three quarters as large along a side. The first picture, the colour,
// decides where the cuts run; the others are brought to its size. Errors: fewer than 32 samples along a side.
Result<std::vector<Pixels>> makeSeamless(const std::vector<Pixels>& maps);
constexpr double kSeamlessShare = 0.75;

// Divides slow changes of brightness out of a colour picture, as far as `strength`, [0, 1], keeping its mean. `wraps`
// looks over the edges, for pictures that are seamless already.
Pixels evenLight(const Pixels& colour, float strength, bool wraps);

}  // namespace jam
