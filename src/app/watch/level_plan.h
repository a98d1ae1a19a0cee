// The level from above as a little picture: for the chart, and for clips.
#pragma once

#include <QImage>

#include "base/context.h"
#include "grid/tile_set.h"
#include "level/level.h"

namespace jam {

// North on top, shaded, at most so many pixels a side. It follows changes: only what they touch is drawn again.
class LevelPlan {
public:
    explicit LevelPlan(int most) : most_(most) {}

    // `changed` are the ground samples where the ground or anything on it differs since the last time, or the sun's
    // light does; null for everything, which has to be when looks differ. False when cancelled: all is to be drawn
    // then.
    bool follow(const Level& level, const Raster<uint8_t>& sun, const TileSet* changed, const Context& context = {});
    // Without contours.
    const QImage& ground() const { return ground_; }
    // With contours so many metres apart; empty when cancelled.
    QImage withContours(const Level& level, float interval, const Context& context = {}) const;

private:
    int most_, step_ = 1;  // samples from one pixel to the next
    QImage ground_;
};

// A plan in the middle of a square of so many pixels, as large as it fits.
QImage inSquare(const QImage& plan, int pixels);
// The level from above in such a square, in even light. Any thread.
QImage planPicture(const Level& level, int pixels);

}  // namespace jam
