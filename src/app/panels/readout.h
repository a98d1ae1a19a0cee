// The numbers under the cursor: place, altitude, slope, the strongest layers, the stratum.
#pragma once

#include <QWidget>

#include "session.h"

namespace jam {

class Readout : public QWidget {
    Q_OBJECT
public:
    explicit Readout(Session& session, QWidget* parent = nullptr);
    // What is shown, as one line.
    QString text() const { return numbers_ + "   " + layers_; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    void read();

    Session& session_;
    QString numbers_, layers_;
};

}  // namespace jam
