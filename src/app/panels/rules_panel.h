// The rules of the chosen layer: where it lies by slope, altitude, facing and so on.
#pragma once

#include <QTimer>
#include <QWidget>

#include "session.h"

class QCheckBox;
class QLabel;
class QPushButton;
class QVBoxLayout;

namespace jam {

class Jobs;

class RulesPanel : public QWidget {
    Q_OBJECT
public:
    RulesPanel(Session& session, Jobs& jobs, QWidget* parent = nullptr);

    // Ends the preview, if it is one of this panel's.
    void leave();
    bool busy() const { return soon_.isActive(); }

signals:
    void said(const QString& sentence);
    // A word for the heading: how many, or "alive".
    void hinted(const QString& hint);

private:
    void show();
    QWidget* ruleFields(int index);
    void change(const QString& what, const std::function<void(std::vector<Rule>&)>& set, const QString& gesture = {});
    void preview();
    void coverEverywhere();
    void setAlive(bool on);
    // Works on a copy of the level off the interface thread and makes it one undo step.
    void work(const QString& what, std::function<bool(Level&, const Context&)> job);

    Session& session_;
    Jobs& jobs_;
    QVBoxLayout* rows_;
    QLabel* none_;
    QCheckBox *preview_, *alive_;
    QPushButton *add_, *cover_;
    QTimer soon_;
    uint32_t shownLayer_ = 0;
    std::vector<Rule> shown_;
    bool mine_ = false;   // the preview on the ground is this panel's
};

}  // namespace jam
