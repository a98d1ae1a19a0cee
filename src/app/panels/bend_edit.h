// The falloff that a designer bends: two points to pull.
#pragma once

#include "panels/pulled.h"
#include "workplace/workplace.h"

namespace jam {

class BendEdit : public Pulled {
    Q_OBJECT
public:
    explicit BendEdit(Workplace& place, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {200, 96}; }
    // Where a point stands: 0 at a third of the way, 1 at two thirds.
    QPointF knob(int which) const;

protected:
    void paintEvent(QPaintEvent*) override;
    bool take(const QPointF& pixel) override;
    void pull(const QPointF& pixel) override;
    void end(bool keep) override;

private:
    QPointF at(double t, double strength) const;

    Workplace& place_;
    int held_ = -1;
    StrokeSettings before_;  // the pull
};

}  // namespace jam
