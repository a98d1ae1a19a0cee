// The rules of the chosen layer, or kind: where it lies, or stands, by slope, altitude, facing and so on.
#pragma once

#include <QTimer>
#include <QWidget>

#include "house/station.h"
#include "workplace/workplace.h"

class QCheckBox;
class QLabel;
class QPushButton;
class QVBoxLayout;

namespace jam {

class NumberField;

class RulesPanel : public QWidget {
    Q_OBJECT
public:
    // `of`: layer or kind. The rules of kinds are always alive.
    RulesPanel(House& house, ThingKind of, QWidget* parent = nullptr);

    // Ends the preview, if it is one of this panel's.
    void leave();
    bool busy() const { return soon_.isActive(); }

signals:
    // A word for the heading: how many, or "alive".
    void hinted(const QString& hint);

private:
    uint32_t chosen() const;     // id of what they are of
    const Ruled* ruled() const;  // as it is seen, or null
    void refresh();
    QWidget* ruleFields(int index);
    QLayout* ruleHead(int index, QWidget* box);
    void ruleValues(int index, QWidget* box);
    // A number of a rule as a field shows it: the range in the rule's own terms, `factor` to what is shown.
    struct RuleNumber {
        QString name, unit;
        double low, high;
        int decimals;
        double factor;
        float Rule::*which;
        bool logarithmic = false;
    };
    NumberField* ruleField(int index, QWidget* box, const RuleNumber& number);
    void change(const QString& what, const std::function<void(std::vector<Rule>&)>& set, const QString& gesture = {});
    void preview();
    void coverEverywhere();
    void setAlive(bool on);

    House& house_;
    Workplace& place_;
    const ThingKind of_;
    QVBoxLayout* rows_;
    QLabel* none_;
    QCheckBox *preview_, *alive_;
    QPushButton *add_, *cover_;
    QTimer soon_;
    uint32_t shownOf_ = 0;
    std::vector<Rule> shown_;
    bool mine_ = false;  // the preview on the ground is this panel's
};

}  // namespace jam
