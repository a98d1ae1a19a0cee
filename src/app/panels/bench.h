// The bench: the strip below the view with what the station works with, the section and the chart, and a line for what
// is said and for work that goes on.
#pragma once

#include <QTimer>
#include <QWidget>

#include "house/station.h"

class QLabel;
class QProgressBar;
class QStackedWidget;

namespace jam {

class Chart;
class Readout;
class CourseProfile;
class Section;

class Bench : public QWidget {
    Q_OBJECT
public:
    Bench(House& house, const std::vector<std::unique_ptr<Station>>& stations, QWidget* parent = nullptr);

    // Tells something in passing, for some seconds.
    void say(const QString& sentence);

    Section* section() const { return section_; }
    CourseProfile* profile() const { return profile_; }
    Readout* readout() const { return readout_; }

protected:
    void resizeEvent(QResizeEvent*) override;

private:
    QWidget* workLine(Work& work);
    void fit();

    Section* section_;
    CourseProfile* profile_;
    Readout* readout_;
    Chart* chart_;
    QLabel* said_;
    QTimer saidTimer_;
};

// Shows the page of the present station; pages are in the order of the stations.
QStackedWidget* stationPages(House& house, const std::vector<std::unique_ptr<Station>>& stations, QWidget* parent,
                             const std::function<QWidget*(Station&, QWidget*)>& page);

}  // namespace jam
