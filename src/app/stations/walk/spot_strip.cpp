#include "stations/walk/spot_strip.h"

#include <algorithm>
#include <QComboBox>
#include <QHBoxLayout>
#include <QListWidget>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include "edits/spot_edits.h"
#include "house/station.h"
#include "level/ground.h"
#include "looks/theme.h"
#include "panels/page.h"
#include "view/ground_view.h"
#include "watch/reach_watch.h"

namespace jam {

namespace {

// A pennant on its pole; how it is cut says the kind, its colour whether the spot is reached.
QIcon spotIcon(const Spot& spot, bool reached, bool known) {
    constexpr int kSide = 56;
    QPixmap picture(kSide, kSide);
    picture.fill(Qt::transparent);
    QPainter p(&picture);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    p.setPen(QPen(t.text, 2.4));
    p.drawLine(QPointF(16, 6), QPointF(16, 52));
    QPainterPath cloth(QPointF(17, 8));
    if (spot.kind == "start") cloth.lineTo(46, 18), cloth.lineTo(17, 28);
    else if (spot.kind == "goal") cloth.lineTo(46, 8), cloth.lineTo(38, 18), cloth.lineTo(46, 28), cloth.lineTo(17, 28);
    else if (spot.kind == "supply") cloth.lineTo(44, 8), cloth.lineTo(44, 28), cloth.lineTo(17, 28);
    else cloth.cubicTo(28, 2, 34, 16, 46, 9), cloth.lineTo(46, 26), cloth.cubicTo(34, 32, 28, 18, 17, 27);
    cloth.closeSubpath();
    p.setPen(QPen(t.text, 1.2));
    p.setBrush(!known ? t.quiet : reached ? t.passes : t.warns);
    p.drawPath(cloth);
    QIcon icon(picture);
    icon.addPixmap(picture, QIcon::Selected);
    return icon;
}

}  // namespace

SpotStrip::SpotStrip(House& house, QWidget* parent) : QWidget(parent), house_(house) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(10);
    auto* left = new QVBoxLayout;
    left->setSpacing(4);
    drop_ = new QPushButton(tr("Drop in"), this);
    drop_->setObjectName("dropIn");
    put_ = new QPushButton(tr("Put down a spot"), this);
    put_->setObjectName("putSpot");
    put_->setCheckable(true);
    put_->setToolTip(tr("Then click the ground where it is to stand"));
    body_ = new QComboBox(this);
    body_->setAccessibleName(tr("Who goes"));
    body_->setObjectName("body");
    body_->setToolTip(tr("Who goes: its numbers are in the sheet"));
    left->addWidget(drop_);
    left->addWidget(put_);
    left->addWidget(body_);
    left->addStretch();
    row->addLayout(left);
    list_ = new QListWidget(this);
    list_->setAccessibleName(tr("Spots"));
    list_->setObjectName("spots");
    list_->setViewMode(QListView::IconMode);
    list_->setMovement(QListView::Static);
    list_->setResizeMode(QListView::Adjust);
    list_->setIconSize({scaled(40), scaled(40)});
    list_->setGridSize({scaled(132), scaled(70)});
    list_->setWordWrap(true);
    list_->setTextElideMode(Qt::ElideRight);
    list_->setFocusPolicy(Qt::TabFocus);
    row->addWidget(list_, 1);
    connect(drop_, &QPushButton::clicked, this, &SpotStrip::dropInWanted);
    connect(put_, &QPushButton::clicked, this, &SpotStrip::putWanted);
    connect(body_, &QComboBox::activated, this,
            [this](int i) { SpotEdits(house_.place).chooseBody(body_->itemText(i)); });
    connect(list_, &QListWidget::itemSelectionChanged, this, &SpotStrip::choose);
    connect(list_, &QListWidget::itemDoubleClicked, this, [this](QListWidgetItem* item) {
        const Level& level = house_.place.document.level();
        if (const Spot* s = level.spot(item->data(Qt::UserRole).toUInt()))
            house_.view.visit({s->x, altitudeAt(level, s->x, s->z), s->z});
    });
    connect(&house.place.standpoint, &Standpoint::spotChosen, this, &SpotStrip::refresh);
    house.place.document.on(About::spots, this, &SpotStrip::fill);
    connect(&house.reach, &ReachWatch::found, this, &SpotStrip::fill);
    connect(&themeChanges(), &ThemeChanges::changed, this, &SpotStrip::fill);
    fill();
}

void SpotStrip::showEvent(QShowEvent* e) {
    fill();
    QWidget::showEvent(e);
}

void SpotStrip::showPutting(bool on) { put_->setChecked(on); }

void SpotStrip::fill() {
    const QSignalBlocker quiet(list_), alsoQuiet(body_);
    const Level& level = house_.place.document.level();
    const auto& r = house_.reach.reach();
    list_->clear();
    for (const Spot& s : level.spots) {
        const bool known = r && r->knows(s.id), start = known && r->begins(s.id), got = known && r->got(s.id);
        auto* item = new QListWidgetItem(spotIcon(s, got, known), QString::fromStdString(s.name), list_);
        item->setData(Qt::UserRole, s.id);
        item->setTextAlignment(Qt::AlignHCenter | Qt::AlignTop);
        const QString says = !known  ? tr("Being looked at.")
                             : start ? tr("One begins here. Double click to go there.")
                             : got   ? tr("It is reached from the start. Double click to go there.")
                                     : tr("Nobody gets here from the start. Double click to go there.");
        item->setToolTip(tr("Kind: %1. %2").arg(QString::fromStdString(s.kind), says));
    }
    body_->clear();
    for (const Body& b : kBodies) body_->addItem(QString::fromStdString(b.name));
    for (const Body& b : level.bodies) body_->addItem(QString::fromStdString(b.name));
    body_->setCurrentIndex(std::max(body_->findText(QString::fromStdString(level.body)), 0));
    refresh();
}

void SpotStrip::refresh() {
    const QSignalBlocker quiet(list_);
    const uint32_t spot = house_.place.standpoint.spot();
    for (int i = 0; i < list_->count(); ++i) {
        QListWidgetItem* item = list_->item(i);
        const bool chosen = item->data(Qt::UserRole).toUInt() == spot;
        if (chosen == item->isSelected()) continue;
        item->setSelected(chosen);
        if (chosen) list_->scrollToItem(item);
    }
    drop_->setToolTip(spot ? tr("Walk from the chosen spot. Esc comes back.")
                           : tr("Walk where you look. Esc comes back."));
}

void SpotStrip::choose() {
    const QList<QListWidgetItem*> chosen = list_->selectedItems();
    if (!chosen.isEmpty()) house_.place.standpoint.setSpot(chosen.front()->data(Qt::UserRole).toUInt());
}

}  // namespace jam
