// A layer's material on a ball and on a tile, lit like the ground.
#pragma once

#include <memory>
#include <QImage>
#include <QWidget>

#include "cover/material.h"
#include "level/layer.h"

namespace jam {

// Pictures of `side` pixels: a ball that shows about two repeats, and a tile as it lies on the ground, `repeats` along
// a side.
QImage drawBall(const Material& material, const Layer& layer, int side);
QImage drawTile(const Material& material, const Layer& layer, int side, double repeats);

class MaterialView : public QWidget {
    Q_OBJECT
public:
    explicit MaterialView(QWidget* parent = nullptr);
    void setLayer(const Layer& layer);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    Layer layer_;  // what is shown, without coverage
    QImage ball_, tile_;
};

}  // namespace jam
