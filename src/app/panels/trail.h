// The trail: the stations in working order, each with its own state, and on its right what is always at hand. It has
// room for eight: what does not fit becomes a dot in the state's mood, with the words on hover; names are never cut.
#pragma once

#include <QWidget>

#include "house/station.h"

namespace jam {

class Standpoint;

// One station on the trail: name above, state below.
class StationButton : public QWidget {
    Q_OBJECT
public:
    explicit StationButton(const Station& station, QWidget* parent = nullptr);
    // How much of it is shown.
    enum class Shows { name, icon, state };  // each with all before it; without the state a dot tells its mood
    int widthFor(Shows shows) const;
    void show(Shows shows);
    Shows shows() const { return shows_; }
    void setActive(bool active);
    bool active() const { return active_; }
    const Station& station() const { return station_; }
    QString state() const { return state_.text; }
    Station::Mood mood() const { return state_.mood; }
    // Looks at the station's state again; true when it takes another width.
    bool refresh();

signals:
    // `onState`: what the state tells of is meant, too.
    void chosen(bool onState);

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void enterEvent(QEnterEvent*) override;
    void leaveEvent(QEvent*) override;

private:
    const Station& station_;
    Station::State state_;
    Shows shows_ = Shows::state;
    bool active_ = false, under_ = false;
};

class Trail : public QWidget {
    Q_OBJECT
public:
    Trail(const std::vector<std::unique_ptr<Station>>& stations, Standpoint& standpoint, const QList<QAction*>& atHand,
          QMenu* menu, QWidget* parent = nullptr);
    // Null when there is no such station.
    void openMenu();
    StationButton* station(const QByteArray& id) const;
    const std::vector<StationButton*>& buttons() const { return buttons_; }

signals:
    // The state of a station was clicked: what it tells of is meant.
    void stateChosen(const QByteArray& station);

protected:
    void resizeEvent(QResizeEvent*) override { arrange(); }

private:
    void arrange();

    std::vector<StationButton*> buttons_;
    QWidget* tools_;  // what is at hand
};

}  // namespace jam
