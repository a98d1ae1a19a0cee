// Draws a fence on the ground: a rectangle, a lasso, a brush's path, a line of clicks, or the ground of one layer
// around a click. Shift adds to the fence there is, Ctrl takes away.
#pragma once

#include "fence/fence.h"
#include "hands/clicks_hand.h"
#include "tasks/fence_job.h"
#include "workplace/standpoint.h"

namespace jam {

// The hand for a press while fences are drawn; null when there is nothing more to do.
// What takes long is done by `work`.
std::unique_ptr<Hand> fenceHand(GroundView& view, const HandEvent& press, const WorkOn& work);
// For a press at a station with brushes: works on a course, draws a fence, or uses the brush, whichever is at hand.
std::unique_ptr<Hand> workingHand(GroundView& view, const HandEvent& press, const WorkOn& work);

class FenceHand : public ClicksHand {
public:
    FenceHand(GroundView& view, const HandEvent& press, FenceWay way, FenceJoin join, WorkOn work);
    void press(const HandEvent& e) override;
    void move(const HandEvent& e) override;
    void release(const HandEvent& e) override;
    void paint(QPainter& p) const override;

protected:
    void finish() override;

private:
    std::vector<glm::dvec3> outline() const;

    FenceWay way_;
    FenceJoin join_;
    WorkOn work_;
};

}  // namespace jam
