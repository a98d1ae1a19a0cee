// The figures of a level that follow its changes.
#pragma once

#include "cover/weights.h"
#include "level/changes.h"
#include "survey/slope.h"
#include "survey/stretch.h"

namespace jam {

// As surveyGround(), layerShares() and stretchedShare() of kStretched, to the bit.
class Tallies {
public:
    static constexpr float kStretched = 0.5f;  // drawn out by more than half

    // Counts again what has changed since the last count, and everything when `change` is null: the first time, or when
    // the rasters are others. Unspecified when cancelled.
    void follow(const Level& level, const Change* change, const Context& context = {});

    GroundFigures ground(const Level& level, const Context& context = {}) const {
        return figuresOf(level, ground_, context);
    }
    std::array<double, kMaxLayers> shares() const { return sharesOf(layers_); }
    double stretched() const { return shareOf(stretch_); }

private:
    std::vector<GroundTally> ground_;
    std::vector<LayerTally> layers_;
    std::vector<StretchTally> stretch_;
};

}  // namespace jam
