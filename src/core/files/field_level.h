// How a heightmap becomes a level.
#pragma once

#include "base/context.h"
#include "files/heightmap.h"
#include "grid/resample.h"

namespace jam {

enum class Fit { keep, stretch, crop };
struct FieldWish {
    Fit fit = Fit::keep;  // keep: one sample of the level for each of the picture; stretch: the whole picture over
                          // the size; crop: its middle in the shape of the size
    double width = 512, depth = 512;  // metres, with stretch and crop
    double spacing = 1;               // metres between samples
    float black = 0, white = 100;     // metres that field.black and field.white stand for; black < white,
                                      // or the same where all of the field is
    Kernel kernel = Kernel::cubic;    // when samples are not kept
    bool soften = false;              // soften the steps of a picture with few values
};

// Whether a level may have samples as far apart as the file says its own are; it is true where it says nothing.
bool cellsFit(const HeightField& field);
// "its samples lie 928 x 1855 m apart, ...", where they do not.
std::string cellNote(const HeightField& field);

// Samples that the wish comes to.
struct FieldSize {
    int columns = 0, rows = 0;
};
FieldSize sizeOf(const HeightField& field, const FieldWish& wish);

// A level shaped like the heightmap; its range is widened by `margin` metres of room to dig and build on both sides.
// The ground lies in the active stratum as a difference to the start height, which is the lowest of it. Errors: sizes
// out of range, a height range that is empty, cancelled.
Result<Level> levelFromField(const HeightField& field, const FieldWish& wish, float margin = 50,
                             const Context& context = {});

}  // namespace jam
