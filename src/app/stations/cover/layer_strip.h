// The layers as pictures, bottom to top from left to right; in two rows of small ones where they have little room.
#pragma once

#include <map>

#include "panels/pulled.h"
#include "workplace/workplace.h"

namespace jam {

class Surveyor;

class LayerStrip : public Pulled {
    Q_OBJECT
public:
    LayerStrip(Workplace& place, const Surveyor& surveyor, QWidget* parent = nullptr);
    QRect tile(
        int index) const;  // of layer `index`; the one past the last is the add button; empty when the search hides it
    QSize sizeHint() const override;
    // Side of a thumbnail, in pixels.
    int thumbnail() const { return size_; }
    void setThumbnail(int size);
    static constexpr int kSmallest = 40, kLargest = 220;
    // Only layers whose names hold this are shown.
    void search(const QString& text);

signals:
    void resized();
    void addWanted();
    void menuWanted(uint32_t layer, const QPoint& globalPlace);

protected:
    void paintEvent(QPaintEvent*) override;
    bool take(const QPointF& pixel) override;
    void pull(const QPointF& pixel) override;
    void end(bool keep) override;
    void contextMenuEvent(QContextMenuEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    bool eventFilter(QObject*, QEvent*) override;
    bool event(QEvent*) override;

private:
    // Side of a picture, and from one to the next.
    int side() const { return rows_ > 1 ? kSide : size_; }
    int across() const { return rows_ > 1 ? kSmallAcross : size_ + 8; }
    // How much of the level it covers, in words.
    QString shareOf(int index) const;
    bool shows(int index) const;  // or the search hides it
    int shown() const;
    int perRow() const;
    void arrange();
    int count() const { return static_cast<int>(place_.document.level().layers.size()); }
    int indexAt(const QPoint& pixel) const;
    void again();

    Workplace& place_;
    const Surveyor& surveyor_;
    static constexpr int kSide = 36, kSmallAcross = 62;
    static int smallDown();
    uint32_t dragged_ = 0;  // the layer that is; 0 for none
    int dropAt_ = -1, size_ = 62, rows_ = 1;
    QString search_;
    QPoint pressed_;
};

}  // namespace jam
