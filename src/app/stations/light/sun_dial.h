// The sun on a dial: the angle is its direction, the distance from the middle its height.
#pragma once

#include <optional>

#include "panels/pulled.h"
#include "workplace/document.h"

namespace jam {

class SunDial : public Pulled {
    Q_OBJECT
public:
    explicit SunDial(Document& document, QWidget* parent = nullptr);
    QPointF sunPlace() const;

protected:
    void paintEvent(QPaintEvent*) override;
    bool take(const QPointF& pixel) override;
    void pull(const QPointF& pixel) override;
    void end(bool keep) override;

private:
    double radius() const { return std::min(width(), height()) / 2.0 - 16; }
    Document& document_;
    std::optional<Sun> to_;  // the pull
};

// Turns the sun as one undo step per gesture.
void turnSun(Document& document, float azimuth, float elevation);

}  // namespace jam
