// The layers as a row of pictures, bottom to top from left to right.
#pragma once

#include <QWidget>
#include <map>

#include "session.h"

namespace jam {

class Surveyor;

// Small square picture of a layer's colour.
QPixmap layerThumbnail(const Layer& layer, int size, qreal ratio);

class LayerStrip : public QWidget {
    Q_OBJECT
public:
    LayerStrip(Session& session, const Surveyor& surveyor, QWidget* parent = nullptr);
    QRect tile(int index) const;  // of layer `index`; the one past the last is the add button
    QSize sizeHint() const override;

signals:
    void addWanted();
    void menuWanted(uint32_t layer, const QPoint& globalPlace);

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void contextMenuEvent(QContextMenuEvent*) override;
    bool event(QEvent*) override;

private:
    int count() const { return static_cast<int>(session_.level().layers.size()); }
    int indexAt(const QPoint& pixel) const;
    void again();

    Session& session_;
    const Surveyor& surveyor_;
    int dragged_ = -1, dropAt_ = -1;
    QPoint pressed_;
};

}  // namespace jam
