// A named number with a slider and an exact field. Both show the same value.
#pragma once

#include <functional>
#include <QDoubleSpinBox>
#include <QWidget>

class QLabel;
class QSlider;
class QVBoxLayout;

namespace jam {

class NumberField : public QWidget {
    Q_OBJECT
public:
    struct Range {
        double low, high;
        int decimals = 2;
        bool logarithmic = false;  // the slider, so that small values have room
    };
    NumberField(const QString& name, const QString& suffix, Range range, QWidget* parent = nullptr);

    // What it is called where its label says nothing, because something beside it does.
    void setName(const QString& name);
    // Another name, on its label too.
    void setTitle(const QString& title);
    void setValue(double value);  // without telling
    double value() const { return spin_->value(); }
    QDoubleSpinBox* spin() const { return spin_; }

signals:
    void changed(double value);

private:
    double least() const;
    double fromSlider(int position) const;
    int toSlider(double value) const;

    Range range_;
    QLabel* label_;
    QDoubleSpinBox* spin_;
    QSlider* slider_;
};

// A number of a panel: panels have tables of these.
struct NumberSpec {
    const char* id;  // the field's object name
    QString name, unit;
    NumberField::Range range;
    QString tip = {};
};
// Makes its field below what the column has. `changed` hears what a person sets.
NumberField* addNumber(QVBoxLayout* column, const NumberSpec& spec, std::function<void(double)> changed = {});

}  // namespace jam
