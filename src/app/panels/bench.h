// The bench: the strip below the view with what the station works with, the section and the chart.
#pragma once

#include <QList>
#include <QTimer>
#include <QWidget>

#include "session.h"

class QAction;
class QLabel;

namespace jam {

class BrushList;
class Chart;
class GroundView;
class LayerStrip;
class Readout;
class Section;
class Shelf;
class Surveyor;
class TipRow;

class Bench : public QWidget {
    Q_OBJECT
public:
    // `tools` are the actions that choose a tool, in the order of Tool; `ways` those that choose how
    // strokes are drawn.
    Bench(Session& session, GroundView& view, const Surveyor& surveyor, Shelf& shelf, const QList<QAction*>& tools,
          const QList<QAction*>& ways, QWidget* parent = nullptr);

    // Tells something in passing, for some seconds.
    void say(const QString& sentence);

    Section* section() const { return section_; }
    Readout* readout() const { return readout_; }
    LayerStrip* layers() const { return layers_; }
    // One at Shape, one at Cover.
    const QList<TipRow*>& tipRows() const { return tipRows_; }
    BrushList* brushes() const { return brushes_; }

private:
    Section* section_;
    Readout* readout_;
    LayerStrip* layers_;
    QList<TipRow*> tipRows_;
    BrushList* brushes_;
    Chart* chart_;
    QLabel* said_;
    QTimer saidTimer_;
};

}  // namespace jam
