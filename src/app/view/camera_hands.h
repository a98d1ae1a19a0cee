// Hands that move the camera: looking round, turning about a place, sliding over the ground.
#pragma once

#include "view/hand.h"

namespace jam {

// Null when this press moves no camera.
std::unique_ptr<Hand> cameraHand(GroundView& view, const HandEvent& press);

class CameraHand : public Hand {
public:
    CameraHand(GroundView& view, const HandEvent& press) : Hand(view), button_(press.button), last_(press.pixel) {}
    void move(const HandEvent& e) override;
    void release(const HandEvent& e) override {
        if (e.button == button_) done_ = true;
    }
    void letGo(bool) override { done_ = true; }

protected:
    // The mouse is at `pixel` and went by `way` since the last time.
    virtual void turn(const QPointF& pixel, const QPointF& way) = 0;

private:
    Qt::MouseButton button_;
    QPointF last_;
};

class LookHand : public CameraHand {
public:
    using CameraHand::CameraHand;

protected:
    void turn(const QPointF& pixel, const QPointF& way) override;
};

class OrbitHand : public CameraHand {
public:
    OrbitHand(GroundView& view, const HandEvent& press) : CameraHand(view, press), about_(*press.ground) {}

protected:
    void turn(const QPointF& pixel, const QPointF& way) override;

private:
    glm::dvec3 about_;
};

class SlideHand : public CameraHand {
public:
    SlideHand(GroundView& view, const HandEvent& press) : CameraHand(view, press), grabbed_(*press.ground) {}

protected:
    void turn(const QPointF& pixel, const QPointF& way) override;

private:
    glm::dvec3 grabbed_;
};

}  // namespace jam
