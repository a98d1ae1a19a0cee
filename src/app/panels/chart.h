// The chart: the level from above with contours and the view's cone. A click goes there.
#pragma once

#include <QWidget>

#include "workplace/workplace.h"

namespace jam {

class GroundView;
class Surveyor;

class Chart : public QWidget {
    Q_OBJECT
public:
    Chart(Workplace& place, GroundView& view, const Surveyor& surveyor, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {150, 150}; }

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;

private:
    QRectF frame() const;  // where the plan lies
    QPointF at(double x, double z) const;
    void goTo(const QPointF& pixel);

    Workplace& place_;
    GroundView& view_;
    const Surveyor& surveyor_;
};

}  // namespace jam
