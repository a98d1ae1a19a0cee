// Works on courses: pulls a new one from its foot to its head, lengthens the chosen one by clicks, moves its posts;
// Ctrl puts a post into the line, Alt raises and lowers. The ground follows the hand.
#pragma once

#include "edits/course_edits.h"
#include "view/hand.h"

namespace jam {

// The hand for a press while courses are worked on; null when there is nothing more to do.
std::unique_ptr<Hand> courseHand(GroundView& view, const HandEvent& press);

// The post, or the line, of a course that lies under a pixel.
struct CourseSpot {
    uint32_t course = 0;
    int post = -1;   // under the pixel
    int after = -1;  // the line is, between this post and the next
};
CourseSpot courseUnder(const GroundView& view, const QPointF& pixel);

// Pulls at a post of a course; each move shows the level as it would be.
class CoursePull : public Hand {
public:
    CoursePull(GroundView& view, uint32_t id, Course course, int post)
        : Hand(view), id_(id), course_(std::move(course)), post_(post) {}
    void release(const HandEvent& e) override;
    void letGo(bool drop) override;
    bool drawsWide() const override { return true; }
    bool holdsCamera() const override { return true; }

protected:
    // Shows the level with course_ as it is by now; where that cannot be, what was shown stays.
    void show();
    // Ends the moment, and makes a step of what was pulled.
    virtual void finish();
    virtual QString what() const = 0;

    uint32_t id_;
    Course course_;
    int post_;
    bool changed_ = false;
};

class CourseHand : public CoursePull {
public:
    // Moves a post of a course; of a new one when `id` is 0, whose last post follows the hand.
    CourseHand(GroundView& view, const HandEvent& press, uint32_t id, Course course, int post, QString what);
    void move(const HandEvent& e) override;

private:
    void finish() override;
    QString what() const override { return what_; }

    QString what_;
    QPointF from_;
    float height_;  // of the post at the press
    bool lifts_;
};

}  // namespace jam
