// The section: a live cross-cut of the ground through the cursor with the brush's profile drawn into it. Its
// handles are the brush controls: the edge pulls the radius, the crown the strength, the shoulder the falloff.
#pragma once

#include "panels/pulled.h"
#include "workplace/workplace.h"

namespace jam {

class GroundView;

class Section : public Pulled {
    Q_OBJECT
public:
    Section(Workplace& place, const GroundView& view, QWidget* parent = nullptr);

    enum class Grip { none, edge, crown, shoulder };
    // Where a handle is, in pixels of this widget.
    QPointF grip(Grip which) const;
    QSize sizeHint() const override { return {380, 140}; }

protected:
    void paintEvent(QPaintEvent*) override;
    bool take(const QPointF& pixel) override;
    void hover(const QPointF& pixel) override;
    void pull(const QPointF& pixel) override;
    void end(bool keep) override;

private:
    // Metres to pixels: sideways, and up (exaggerated by `tall`).
    struct Scale {
        double perMetre, tall, level;
    };
    Scale scale() const;
    QPointF at(double metres, double altitude) const;
    double groundAt(double metres) const;
    bool alongTape() const;
    double tipAt(double share) const;
    double heightOf(double share) const;
    double profileHeight(double share) const;  // metres that the brush's profile rises at a share of its radius
    Grip gripNear(const QPointF& pixel) const;
    void paintAltitudes(QPainter& p) const;
    void paintGround(QPainter& p) const;
    void paintWater(QPainter& p) const;
    void paintTape(QPainter& p) const;
    void paintBrush(QPainter& p) const;
    void paintGoals(QPainter& p) const;
    void paintGrips(QPainter& p) const;
    void read();

    Workplace& place_;
    const GroundView& view_;
    std::vector<float> ground_;  // along the line, evenly spaced
    std::vector<float> water_;   // surfaces over it, kDry for none
    double turn_ = 0;            // degrees from east that the line runs
    double reach_ = 50;          // metres to each side
    double centreAltitude_ = 0, low_ = 0, high_ = 1;
    Grip held_ = Grip::none, near_ = Grip::none;
    StrokeSettings before_;  // the pull
};

}  // namespace jam
