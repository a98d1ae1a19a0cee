// Near and far: the ground at the cursor as one sees it walking, and from high above, where a repeat shows first.
#pragma once

#include <QImage>
#include <QTimer>
#include <QWidget>

#include "workplace/workplace.h"

class QLabel;

namespace jam {

class GroundView;

class NearFar : public QWidget {
    Q_OBJECT
public:
    NearFar(Workplace& place, GroundView& view, QWidget* parent = nullptr);

    // Both pictures are of the ground as it is now.
    bool upToDate() const { return !soon_.isActive(); }
    const QImage& near() const { return near_; }
    const QImage& far() const { return far_; }

    static constexpr double kFarMetres = 100;  // above the ground

protected:
    void paintEvent(QPaintEvent*) override;
    void showEvent(QShowEvent*) override;

private:
    void later();
    void look();

    Workplace& place_;
    GroundView& view_;
    QTimer soon_;
    QImage near_, far_;
    double visible_ = 0;  // of the chosen layer's repeat
    QString name_;
};

}  // namespace jam
