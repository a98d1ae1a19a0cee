// The trail: the stations in working order, each with its own state, and on its right what is always at hand.
#pragma once

#include <QWidget>

#include "session.h"

class QToolButton;
class QLabel;
class QProgressBar;

namespace jam {

class Surveyor;
class Jobs;

// One station on the trail: name above, state below.
class StationButton : public QWidget {
    Q_OBJECT
public:
    StationButton(const QString& name, const QString& iconName, QWidget* parent = nullptr);
    enum class Mood { plain, passes, warns };
    void setState(const QString& text, Mood mood);
    void setActive(bool active);
    QString state() const { return state_; }
    QSize sizeHint() const override;

signals:
    void chosen();

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void enterEvent(QEnterEvent*) override;
    void leaveEvent(QEvent*) override;

private:
    QString name_, icon_, state_;
    Mood mood_ = Mood::plain;
    bool active_ = false, under_ = false;
};

class Trail : public QWidget {
    Q_OBJECT
public:
    Trail(Session& session, const Surveyor& surveyor, Jobs& jobs, const QList<QAction*>& atHand, QMenu* menu, QWidget* parent = nullptr);
    StationButton* station(Station s) const { return stations_[static_cast<size_t>(s)]; }
    // Notes that the present level was handed over.
    void noteHandedOver();

private:
    void tell();

    Session& session_;
    const Surveyor& surveyor_;
    StationButton* stations_[5];
    QWidget* job_;
    QLabel* jobName_;
    QProgressBar* jobBar_;
    std::optional<uint64_t> handedOver_;  // history serial
};

}  // namespace jam
