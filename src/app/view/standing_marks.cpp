#include "view/standing_marks.h"

namespace jam {

void StandingMarks::paint(QPainter& p, const QSize& size, const Camera& camera,
                          const std::function<void(QPainter&)>& marks) {
    const double ratio = p.device()->devicePixelRatioF();
    const QSize pixels = (QSizeF(size) * ratio).toSize();
    if (camera != camera_ || (painted_ > 1 && kept_.size() != pixels)) painted_ = 0;
    camera_ = camera;
    if (painted_++ == 0) return marks(p);
    if (painted_ == 2) {
        kept_ = QImage(pixels, QImage::Format_ARGB32_Premultiplied);
        kept_.setDevicePixelRatio(ratio);
        kept_.fill(Qt::transparent);
        QPainter own(&kept_);
        own.setRenderHint(QPainter::Antialiasing);
        own.setFont(p.font());
        marks(own);
    }
    painted_ = 3;
    p.drawImage(QPointF(0, 0), kept_);
}

}  // namespace jam
