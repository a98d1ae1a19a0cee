#include "view/camera_hands.h"

#include "view/ground_view.h"

namespace jam {

namespace {
constexpr double kLookDegrees = 0.22, kOrbitDegrees = 0.35;  // for each pixel
}

std::unique_ptr<Hand> cameraHand(GroundView& view, const HandEvent& press) {
    if (press.button == Qt::RightButton) {
        if ((press.modifiers & Qt::ControlModifier) && press.ground) return std::make_unique<OrbitHand>(view, press);
        return std::make_unique<LookHand>(view, press);
    }
    if (press.button == Qt::MiddleButton && press.ground) return std::make_unique<SlideHand>(view, press);
    return nullptr;
}

void CameraHand::move(const HandEvent& e) {
    const QPointF way = e.pixel - last_;
    last_ = e.pixel;
    turn(e.pixel, way);
}

void LookHand::turn(const QPointF&, const QPointF& way) {
    view_.setCamera(view_.navigator().look(view_.camera(), way.x() * kLookDegrees, -way.y() * kLookDegrees));
}

void OrbitHand::turn(const QPointF&, const QPointF& way) {
    view_.setCamera(view_.navigator().orbit(view_.camera(), about_, way.x() * kOrbitDegrees, -way.y() * kOrbitDegrees));
}

void SlideHand::turn(const QPointF& pixel, const QPointF&) {
    const double ratio = view_.devicePixelRatioF();
    view_.setCamera(view_.navigator().slide(view_.camera(), grabbed_, {pixel.x() * ratio, pixel.y() * ratio}));
}

}  // namespace jam
