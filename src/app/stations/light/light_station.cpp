#include "stations/light/light_station.h"

#include <cmath>
#include <QCheckBox>
#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

#include "panels/number_field.h"
#include "panels/page.h"
#include "stations/light/sun_dial.h"
#include "view/ground_view.h"

namespace jam {

LightStation::LightStation(House& house) : Station("light", tr("Light"), "light", "F7"), house_(house) {
    house.place.document.on(About::sun, this, &Station::stateChanged);
}

Station::State LightStation::state() const {
    const Sun& sun = house_.place.document.level().sun;
    return {tr("sun %1° high, from %2°").arg(std::lround(sun.elevation)).arg(std::lround(sun.azimuth))};
}

QWidget* LightStation::benchPage(QWidget* parent) {
    // Suns worth having at hand.
    auto* box = new QWidget(parent);
    auto* row = new QHBoxLayout(box);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    const struct {
        QString name;
        float azimuth, elevation;
    } suns[] = {{tr("First light"), 98, 8},
                {tr("Morning"), 118, 28},
                {tr("Noon"), 180, 58},
                {tr("Afternoon"), 242, 32},
                {tr("Last light"), 276, 8}};
    for (const auto& s : suns) {
        auto* b = new QPushButton(s.name, box);
        row->addWidget(b);
        connect(b, &QPushButton::clicked, box, [this, s] { turnSun(house_.place.document, s.azimuth, s.elevation); });
    }
    row->addStretch();
    return plainPage(tr("Turn the sun in the sheet at the right. A low sun shows relief, a high one shows colour."),
                     parent, box);
}

QWidget* LightStation::sheetPage(QWidget* parent) {
    Document& document = house_.place.document;
    auto* page = new QWidget(parent);
    auto* c = pageColumn(page);
    c->addWidget(headingLabel(tr("Sun"), page));
    c->addWidget(new SunDial(document, page));
    auto* from = new NumberField(tr("From"), tr("°"), {0, 359, 0}, page);
    auto* high = new NumberField(tr("Height"), tr("°"), {1, 90, 0}, page);
    from->setToolTip(tr("Clockwise from north."));
    c->addWidget(from);
    c->addWidget(high);
    auto* flat = new QCheckBox(tr("Flat light, for judging colour"), page);
    c->addWidget(flat);
    c->addStretch();
    connect(from, &NumberField::changed, page,
            [&document](double v) { turnSun(document, static_cast<float>(v), document.level().sun.elevation); });
    connect(high, &NumberField::changed, page,
            [&document](double v) { turnSun(document, document.level().sun.azimuth, static_cast<float>(v)); });
    connect(flat, &QCheckBox::clicked, page, [this](bool on) { house_.view.setFlatLight(on); });
    connect(&house_.view, &GroundView::sightChanged, flat, [this, flat] { flat->setChecked(house_.view.flatLight()); });
    const auto show = [&document, from, high] {
        from->setValue(document.level().sun.azimuth);
        high->setValue(document.level().sun.elevation);
    };
    document.on(About::sun, page, show);
    show();
    return page;
}

}  // namespace jam
