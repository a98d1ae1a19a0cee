// A press on something that stands on the ground chooses it; pulling moves it, and makes a single of a planting.
// Putting one down: a click sets it, a pull from there turns and sizes it.
#pragma once

#include <QString>

#include "dress/plantings.h"
#include "hands/pull_hand.h"

namespace jam {

// What stands under a pixel, nearest to the eye.
std::optional<OneStanding> plantingUnder(const GroundView& view, Plantings& all, const HandEvent& e);

class SingleHand : public PullHand {
public:
    SingleHand(GroundView& view, const HandEvent& press, const OneStanding& what);
    void paint(QPainter& p) const override;

private:
    void pull(const HandEvent& e) override;
    void keep() override;
    void click() override;

    std::optional<glm::dvec3> begun_, to_;  // on the ground
    QString trouble_;
};

class PutHand : public PullHand {
public:
    // `kind`: the id of what is put down.
    PutHand(GroundView& view, const HandEvent& press, uint32_t kind);
    void paint(QPainter& p) const override;

private:
    void pull(const HandEvent& e) override;
    void keep() override;
    void click() override;

    Single single_;
    QString trouble_;
};

// A line of one kind, pulled from one place to another. A click beside a course lets it run along that, as far from it
// as the click; a click on one of a line leaves a gate there.
class RowHand : public PullHand {
public:
    RowHand(GroundView& view, const HandEvent& press, uint32_t kind, std::optional<OneStanding> under);
    void paint(QPainter& p) const override;

private:
    void pull(const HandEvent& e) override;
    void keep() override;
    void click() override;
    std::vector<std::array<double, 2>> line() const;

    const uint32_t kind_;
    const std::optional<OneStanding> under_;  // what stood under the press
    std::optional<glm::dvec3> begun_, to_;    // on the ground
    size_t count_ = 0;
    QString trouble_;
};

}  // namespace jam
