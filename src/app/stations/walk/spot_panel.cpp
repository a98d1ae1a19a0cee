#include "stations/walk/spot_panel.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QSignalBlocker>
#include <QToolButton>
#include <QVBoxLayout>

#include "house/station.h"
#include "level/ground.h"
#include "panels/number_field.h"
#include "panels/page.h"
#include "view/ground_view.h"

namespace jam {

SpotPanel::SpotPanel(House& house, QWidget* parent) : QWidget(parent), house_(house), spots_(house.place) {
    auto* column = pageColumn(this);
    column->setSpacing(5);
    says_ = quietLabel({}, this);
    column->addWidget(says_);
    evenNew_ = new QCheckBox(tr("New spots on even ground"), this);
    evenNew_->setObjectName("newSpotsOnPads");
    evenNew_->setToolTip(tr("The ground under them is evened in the same step"));
    connect(evenNew_, &QCheckBox::clicked, this, [this](bool on) { house_.place.standpoint.setSpotsOnPads(on); });
    column->addWidget(evenNew_);
    details_ = new QWidget(this);
    auto* c = pageColumn(details_);
    c->setSpacing(5);
    auto* row = new QHBoxLayout;
    name_ = new QLineEdit(details_);
    name_->setAccessibleName(tr("Name of the spot"));
    name_->setObjectName("spotName");
    QToolButton* remove = iconButton("removeSpot", "remove", tr("Delete it, and its pad"), details_);
    row->addWidget(name_, 1);
    row->addWidget(remove);
    c->addLayout(row);
    kind_ = new QComboBox(details_);
    kind_->setAccessibleName(tr("Kind of spot"));
    kind_->setObjectName("spotKind");
    kind_->setEditable(true);
    kind_->setInsertPolicy(QComboBox::NoInsert);
    kind_->setToolTip(tr("Choose one, or write a word of your own. Who plays begins at a start."));
    for (const std::string_view k : kSpotKinds) kind_->addItem(QString::fromUtf8(k.data(), static_cast<int>(k.size())));
    c->addWidget(kind_);
    facing_ = new NumberField(tr("Faces"), tr("°"), {0, 359, 0}, details_);
    facing_->setObjectName("spotFacing");
    facing_->setToolTip(tr("Where one looks on arriving, clockwise from north"));
    c->addWidget(facing_);
    makePad(details_);
    where_ = new QLabel(details_);
    where_->setObjectName("spotWhere");
    where_->setWordWrap(true);
    c->addWidget(where_);
    column->addWidget(details_);
    connect(name_, &QLineEdit::editingFinished, this, [this] {
        const Spot* s = spots_.chosen();
        if (!s || name_->text() == QString::fromStdString(s->name)) return;
        if (!spots_.rename(name_->text())) refresh();
    });
    const auto setKind = [this] {
        const Spot* s = spots_.chosen();
        const QString kind = kind_->currentText().trimmed();
        if (!s || kind == QString::fromStdString(s->kind)) return;
        if (!spots_.edit(tr("Kind of a spot"), [&](Spot& x) { x.kind = kind.toStdString(); })) refresh();
    };
    connect(kind_, &QComboBox::activated, this, setKind);
    connect(kind_->lineEdit(), &QLineEdit::editingFinished, this, setKind);
    connect(facing_, &NumberField::changed, this, [this](double v) {
        spots_.edit(
            tr("Facing of a spot"), [v](Spot& s) { s.facing = v; }, "spotFacing");
    });
    connect(remove, &QToolButton::clicked, this, [this] { spots_.remove(); });
    house.place.document.on(About::spots | About::history, this, &SpotPanel::refresh);
    connect(&house.place.standpoint, &Standpoint::spotChosen, this, &SpotPanel::refresh);
    refresh();
}

void SpotPanel::makePad(QWidget* details) {
    even_ = new QCheckBox(tr("Even ground under it"), details);
    even_->setObjectName("spotPad");
    details->layout()->addWidget(even_);
    pad_ = new QWidget(details);
    auto* c = pageColumn(pad_);
    const auto set = [this](double) { setPad(); };
    radius_ = addNumber(c, {"padRadius", tr("Radius"), tr(" m"), {0.5, 60, 1, true}}, set);
    rim_ = addNumber(c, {"padRim", tr("Soft rim"), tr(" m"), {0, 60, 1}}, set);
    radius_->setValue(Pad{}.radius);
    rim_->setValue(Pad{}.rim);
    details->layout()->addWidget(pad_);
    connect(even_, &QCheckBox::clicked, this, [this](bool on) {
        if (on) return setPad();
        if (!spots_.setPad(std::nullopt)) refresh();
    });
}

void SpotPanel::setPad() {
    const Spot* s = spots_.chosen();
    if (!s) return;
    Pad pad = padOf(house_.place.document.standing(), *s).value_or(Pad{});
    pad.radius = static_cast<float>(radius_->value());
    pad.rim = static_cast<float>(rim_->value());
    if (!spots_.setPad(pad, "pad")) refresh();
}

void SpotPanel::showEvent(QShowEvent* e) {
    refresh();
    QWidget::showEvent(e);
}

void SpotPanel::refresh() {
    if (!isVisible()) return;
    const Spot* s = spots_.chosen();
    const Level& level = house_.place.document.level();
    says_->setText(level.spots.empty()
                       ? tr("Put down where one starts and where one is to get to; then it is told who gets where.")
                   : s ? tr("Pull its flag over the ground to move it.")
                       : tr("Click a flag to choose a spot."));
    details_->setVisible(s);
    evenNew_->setVisible(!s);
    if (!s) return;
    const QSignalBlocker quiet(kind_);
    if (!name_->hasFocus()) name_->setText(QString::fromStdString(s->name));
    if (!kind_->lineEdit()->hasFocus()) {
        const QString kind = QString::fromStdString(s->kind);
        kind_->setCurrentIndex(kind_->findText(kind));
        kind_->setEditText(kind);
    }
    facing_->setValue(s->facing);
    const std::optional<Pad> pad = padOf(level, *s);
    even_->setChecked(pad.has_value());
    pad_->setVisible(pad.has_value());
    if (pad) radius_->setValue(pad->radius), rim_->setValue(pad->rim);
    where_->setText(tr("At x %1 m, z %2 m, %3 m up.")
                        .arg(s->x, 0, 'f', 1)
                        .arg(s->z, 0, 'f', 1)
                        .arg(altitudeAt(level, s->x, s->z), 0, 'f', 1));
}

}  // namespace jam
