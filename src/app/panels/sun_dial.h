// The sun on a dial: the angle is its direction, the distance from the middle its height.
#pragma once

#include <QWidget>

#include "session.h"

namespace jam {

class SunDial : public QWidget {
    Q_OBJECT
public:
    explicit SunDial(Session& session, QWidget* parent = nullptr);
    QPointF sunPlace() const;

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* e) override { mouseMoveEvent(e); }
    void mouseMoveEvent(QMouseEvent*) override;

private:
    double radius() const { return std::min(width(), height()) / 2.0 - 16; }
    Session& session_;
};

// Turns the sun as one undo step per gesture.
void turnSun(Session& session, float azimuth, float elevation);

}  // namespace jam
