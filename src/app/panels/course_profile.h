// The chosen course from its first post to its last: the line, the ground below it, its posts, and where it is steeper
// than can be walked. Posts are dragged up and down.
#pragma once

#include "edits/course_edits.h"
#include "panels/pulled.h"

namespace jam {

class GroundView;

class CourseProfile : public Pulled {
    Q_OBJECT
public:
    CourseProfile(Workplace& place, const GroundView& view, QWidget* parent);

    // Where a post stands, in pixels of this widget.
    QPointF postAt(int post) const;
    // Whether there is a course to show.
    bool wanted() const;

protected:
    void paintEvent(QPaintEvent*) override;
    bool take(const QPointF& pixel) override;
    void pull(const QPointF& pixel) override;
    void end(bool keep) override;

private:
    struct Sight {
        double length, low, high;
    };
    void read();
    QPointF at(double along, double metres) const;

    Workplace& place_;
    const GroundView& view_;
    CourseEdits courses_;
    std::vector<LinePoint> line_;
    std::vector<float> below_;   // at each point of the line
    std::vector<size_t> posts_;  // points of the line
    Sight sight_{1, 0, 1};
    int held_ = -1;
    double heldHeight_ = 0;
    bool bank_ = false;
};

}  // namespace jam
