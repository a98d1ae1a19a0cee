// The sun on a dial: the angle is its direction, the distance from the middle its height.
#pragma once

#include <QWidget>

#include "workplace/document.h"

namespace jam {

class SunDial : public QWidget {
    Q_OBJECT
public:
    explicit SunDial(Document& document, QWidget* parent = nullptr);
    QPointF sunPlace() const;

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* e) override { mouseMoveEvent(e); }
    void mouseMoveEvent(QMouseEvent*) override;

private:
    double radius() const { return std::min(width(), height()) / 2.0 - 16; }
    Document& document_;
};

// Turns the sun as one undo step per gesture.
void turnSun(Document& document, float azimuth, float elevation);

}  // namespace jam
