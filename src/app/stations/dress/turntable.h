// What a kind looks like, beside a figure of 1.8 m; pulled sideways it turns.
#pragma once

#include <QWidget>

#include "level/kind.h"

namespace jam {

class Turntable : public QWidget {
    Q_OBJECT
public:
    explicit Turntable(QWidget* parent);
    void show(const Kind& kind);

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;

private:
    Kind kind_;
    double turned_ = 25, before_ = 25, from_ = 0;
};

}  // namespace jam
