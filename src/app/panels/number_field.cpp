#include "panels/number_field.h"

#include <cmath>
#include <QGridLayout>
#include <QLabel>
#include <QSignalBlocker>
#include <QSlider>
#include <QVBoxLayout>

#include "looks/theme.h"

namespace jam {

namespace {
constexpr int kSteps = 1000;
}

NumberField::NumberField(const QString& name, const QString& suffix, Range range, QWidget* parent)
    : QWidget(parent), range_(range) {
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setVerticalSpacing(0);
    label_ = new QLabel(name, this);
    spin_ = new QDoubleSpinBox(this);
    spin_->setRange(range.low, range.high);
    spin_->setDecimals(range.decimals);
    spin_->setSuffix(suffix);
    spin_->setAlignment(Qt::AlignRight);
    spin_->setKeyboardTracking(false);
    spin_->setStepType(QAbstractSpinBox::AdaptiveDecimalStepType);
    spin_->setFixedWidth(scaled(96));
    spin_->setFixedHeight(scaled(24));
    label_->setBuddy(spin_);
    slider_ = new QSlider(Qt::Horizontal, this);
    setName(name);
    slider_->setRange(0, kSteps);
    slider_->setFocusPolicy(Qt::NoFocus);
    slider_->setFixedHeight(14);
    grid->addWidget(label_, 0, 0);
    grid->addWidget(spin_, 0, 1);
    grid->addWidget(slider_, 1, 0, 1, 2);
    connect(spin_, &QDoubleSpinBox::valueChanged, this, [this](double v) {
        const QSignalBlocker quiet(slider_);
        slider_->setValue(toSlider(v));
        emit changed(v);
    });
    connect(slider_, &QSlider::valueChanged, this, [this](int p) { spin_->setValue(fromSlider(p)); });
}

void NumberField::setName(const QString& name) {
    spin_->setAccessibleName(name);
    slider_->setAccessibleName(name);
}

void NumberField::setTitle(const QString& title) {
    label_->setText(title);
    setName(title);
}

void NumberField::setValue(double value) {
    const QSignalBlocker quietSpin(spin_), quietSlider(slider_);
    spin_->setValue(value);
    slider_->setValue(toSlider(value));
}

// Where a logarithmic slider begins that goes down to nothing: its first step.
double NumberField::least() const { return range_.low > 0 ? range_.low : std::pow(10.0, -range_.decimals); }

double NumberField::fromSlider(int position) const {
    const double t = static_cast<double>(position) / kSteps;
    if (!range_.logarithmic) return range_.low + t * (range_.high - range_.low);
    if (position == 0) return range_.low;
    const double v = least() * std::pow(range_.high / least(), t);
    const double step = std::pow(10.0, std::floor(std::log10(v)) - 1);
    return std::round(v / step) * step;  // two digits are enough for a slider
}

int NumberField::toSlider(double value) const {
    const double t = range_.logarithmic ? std::log(std::max(value, least()) / least()) / std::log(range_.high / least())
                                        : (value - range_.low) / (range_.high - range_.low);
    return static_cast<int>(std::lround(std::clamp(t, 0.0, 1.0) * kSteps));
}

NumberField* addNumber(QVBoxLayout* column, const NumberSpec& spec, std::function<void(double)> changed) {
    auto* f = new NumberField(spec.name, spec.unit, spec.range, column->parentWidget());
    f->setObjectName(spec.id);
    f->setToolTip(spec.tip);
    column->addWidget(f);
    if (changed) QObject::connect(f, &NumberField::changed, f, std::move(changed));
    return f;
}

}  // namespace jam
