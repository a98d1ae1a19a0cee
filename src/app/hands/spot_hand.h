// A press on a spot's flag chooses it; pulling moves it, and its pad's ground with it, as one sees.
#pragma once

#include "hands/pull_hand.h"

namespace jam {

// The spot whose flag or foot lies under a pixel, or 0.
uint32_t spotUnder(const GroundView& view, const QPointF& pixel);
// Metres that the flags of spots stand high, so that all are seen alike.
double flagHeight(const GroundView& view, double x, double y, double z);

class SpotHand : public PullHand {
public:
    SpotHand(GroundView& view, const HandEvent& press, uint32_t spot);

    void paint(QPainter& p) const override;

private:
    void pull(const HandEvent& e) override;
    void keep() override;

    uint32_t spot_;
    std::optional<glm::dvec3> to_;
    QString trouble_;
};

}  // namespace jam
