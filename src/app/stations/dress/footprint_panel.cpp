#include "stations/dress/footprint_panel.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include "course/footprint.h"
#include "house/station.h"
#include "panels/number_field.h"
#include "panels/page.h"

namespace jam {

FootprintPanel::FootprintPanel(House& house, QWidget* parent)
    : QWidget(parent), place_(house.place), edits_(house.place) {
    auto* column = pageColumn(this);
    column->setSpacing(5);
    on_ = new QCheckBox(tr("Even out under each put down"), this);
    on_->setObjectName("footprint");
    on_->setToolTip(
        tr("The ground is even under each that you put down by hand, moves with it, and is as it was when "
           "it goes. Those that stand by density leave the ground alone."));
    column->addWidget(on_);
    connect(on_, &QCheckBox::clicked, this, [this](bool on) {
        if (!edits_.setFootprint(on ? std::optional(Footprint()) : std::nullopt)) refresh();
    });
    details_ = new QWidget(this);
    auto* c = pageColumn(details_);
    c->setSpacing(5);
    column->addWidget(details_);
    for (const FootprintNumber& n : kFootprintNumbers)
        numbers_.push_back(
            {addNumber(c, {n.name, tr(n.title), tr(" m"), {n.low, std::min(n.high, 100.0), 1, n.low >= 0}, tr(n.tip)},
                       [this, &n](double v) { edit(n.value, v, n.name); }),
             n.value});
    const auto layer = [&](const char* id, const QString& title) {
        auto* row = new QHBoxLayout;
        row->addWidget(new QLabel(title, details_));
        auto* box = new QComboBox(details_);
        box->setObjectName(id);
        box->setAccessibleName(title);
        row->addWidget(box, 1);
        c->addLayout(row);
        connect(box, &QComboBox::activated, this,
                [this] { edits_.layOnFootprint(track_->currentData().toUInt(), verge_->currentData().toUInt()); });
        return box;
    };
    track_ = layer("footprintTrack", tr("On it lies"));
    verge_ = layer("footprintVerge", tr("Round it"));
    place_.document.on(About::dress | About::strata | About::layers | About::history, this, &FootprintPanel::refresh);
    connect(&place_.standpoint, &Standpoint::kindChosen, this, &FootprintPanel::refresh);
    refresh();
}

const Stratum* FootprintPanel::footprint() const {
    const Kind* k = place_.kind();
    const Level& level = place_.document.level();
    const int at = k ? footprintPlace(level, k->id) : -1;
    return at < 0 ? nullptr : &level.strata[static_cast<size_t>(at)];
}

void FootprintPanel::edit(float Footprint::*value, double to, const QString& gesture) {
    const Stratum* s = footprint();
    if (!s) return;
    Footprint next = *s->course->footprint;
    next.*value = static_cast<float>(to);
    edits_.setFootprint(next, gesture);
}

void FootprintPanel::showEvent(QShowEvent* e) {
    refresh();
    QWidget::showEvent(e);
}

void FootprintPanel::refresh() {
    const Stratum* s = footprint();
    on_->setChecked(s != nullptr);
    details_->setVisible(s != nullptr);
    if (!s) return;
    for (const Number& n : numbers_) n.field->setValue(static_cast<double>((*s->course->footprint).*n.value));
    for (QComboBox* box : {track_, verge_}) {
        const QSignalBlocker quiet(box);
        box->clear();
        box->addItem(tr("nothing of its own"), 0u);
        const auto& layers = place_.document.level().layers;
        for (size_t i = 1; i < layers.size(); ++i)
            if (!layers[i].locked) box->addItem(QString::fromStdString(layers[i].name), layers[i].id);
        box->setCurrentIndex(std::max(box->findData(box == track_ ? s->course->track : s->course->verge), 0));
    }
}

}  // namespace jam
