// The bench: the strip below the view with what the station works with, the section and the chart.
#pragma once

#include <QTimer>
#include <QWidget>

#include "session.h"

class QAction;
class QLabel;

namespace jam {

class Chart;
class GroundView;
class LayerStrip;
class Readout;
class Section;
class Surveyor;

class Bench : public QWidget {
    Q_OBJECT
public:
    // `tools` are the actions that choose a tool, in the order of Tool.
    Bench(Session& session, GroundView& view, const Surveyor& surveyor, const QList<QAction*>& tools, QWidget* parent = nullptr);

    // Tells something in passing, for some seconds.
    void say(const QString& sentence);

    Section* section() const { return section_; }
    Readout* readout() const { return readout_; }
    LayerStrip* layers() const { return layers_; }

private:
    Section* section_;
    Readout* readout_;
    LayerStrip* layers_;
    Chart* chart_;
    QLabel* said_;
    QTimer saidTimer_;
};

// A button that shows a falloff curve.
QIcon curveIcon(Curve curve);

}  // namespace jam
