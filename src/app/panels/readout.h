// The numbers under the cursor: place, altitude, slope, the strongest layers, the stratum.
#pragma once

#include <QColor>
#include <QWidget>
#include <vector>

#include "workplace/workplace.h"

namespace jam {

class Readout : public QWidget {
    Q_OBJECT
public:
    explicit Readout(Workplace& place, QWidget* parent = nullptr);
    // What is shown, as one line.
    QString text() const { return numbers_ + "   " + layers_; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    void read();

    Workplace& place_;
    QString numbers_, short_ /* in few words */, layers_, strata_;
    int lines_ = 0;
    struct Part {
        double x, width;  // shares of the bar
        QColor colour;
    };
    std::vector<Part> bar_;  // the mix below the cursor, strongest first
};

}  // namespace jam
