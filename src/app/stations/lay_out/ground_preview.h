// Heights as a small shaded picture, for dialogs that make ground.
#pragma once

#include <QImage>
#include <QWidget>

#include "grid/view.h"

namespace jam {

// North on top, light from the north-west; `metresAcross` over the width and `metresPer` value give slopes their
// steepness, which is reduced where the whole would come out dark.
QImage shadedRelief(View<const float> heights, double metresAcross, double metresPer, QSize most);

class GroundPreview : public QWidget {
    Q_OBJECT
public:
    explicit GroundPreview(QSize size, QWidget* parent = nullptr);
    void setPicture(const QImage& picture);
    const QImage& picture() const { return picture_; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    QImage picture_;
};

}  // namespace jam
