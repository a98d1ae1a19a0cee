// Pulls the width of a course at the chosen post, or its shoulders, by knobs on the ground: at every post while posts
// are alike, and Shift turns that round. The ground follows the hand.
#pragma once

#include "hands/course_hand.h"
#include "view/course_knobs.h"

namespace jam {

class CourseWidthHand : public CoursePull {
public:
    // At the chosen post of the chosen course.
    CourseWidthHand(GroundView& view, const HandEvent& press, const CourseKnob& knob);
    void move(const HandEvent& e) override;
    void paint(QPainter& p) const override;

private:
    QString what() const override;
    // Metres from the post to a place on the ground.
    double away(const glm::dvec3& place) const;

    Course before_;
    bool shoulder_, all_;         // all_: at every post
    double began_ = 0, had_ = 0;  // at the press: metres away, and metres of what is pulled
    QPointF now_;
};

}  // namespace jam
