#include "stations/water/water_strip.h"

#include <QHBoxLayout>
#include <QListWidget>
#include <QPainter>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include "house/station.h"
#include "looks/theme.h"
#include "panels/page.h"
#include "view/ground_view.h"
#include "watch/surveyor.h"

namespace jam {

namespace {

// A drop of it: its own colour, clear towards the rim. A leak has a mark.
QIcon waterIcon(const WaterLook& look, bool stream, bool warns) {
    constexpr int kSide = 56;
    QPixmap picture(kSide, kSide);
    picture.fill(Qt::transparent);
    QPainter p(&picture);
    p.setRenderHint(QPainter::Antialiasing);
    const QColor own = QColor::fromRgbF(look.colour[0], look.colour[1], look.colour[2]);
    QRadialGradient g(QPointF(28, 30), 26);
    g.setColorAt(0, own);
    g.setColorAt(0.75, own.lighter(150));
    g.setColorAt(1, theme().water);
    p.setPen(QPen(theme().water, 2));
    p.setBrush(g);
    if (stream) {
        QPainterPath run(QPointF(14, 6));
        run.cubicTo(4, 22, 40, 26, 26, 50);
        run.lineTo(44, 50);
        run.cubicTo(56, 24, 18, 22, 26, 6);
        run.closeSubpath();
        p.drawPath(run);
    } else {
        p.drawEllipse(QRectF(4, 14, 48, 32));
    }
    if (warns) {
        p.setPen(QPen(theme().panel, 2));
        p.setBrush(theme().warns);
        p.drawEllipse(QRectF(38, 4, 14, 14));
    }
    QIcon icon(picture);
    icon.addPixmap(picture, QIcon::Selected);
    return icon;
}

}  // namespace

WaterStrip::WaterStrip(House& house, QWidget* parent) : QWidget(parent), house_(house) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(10);
    auto* left = new QVBoxLayout;
    left->setSpacing(4);
    auto* sea = new QPushButton(tr("Let the sea in"), this);
    sea->setObjectName("addSea");
    sea->setToolTip(tr("Floods all low ground that reaches the level's edge"));
    stream_ = new QPushButton(tr("Draw a stream"), this);
    stream_->setObjectName("drawStream");
    stream_->setCheckable(true);
    stream_->setToolTip(tr("Press at its spring and pull to where it flows; clicks after that lengthen it"));
    flow_ = new QPushButton(tr("Let it flow"), this);
    flow_->setObjectName("flow");
    flow_->setCheckable(true);
    flow_->setToolTip(tr("Waves move while this is on; the picture is drawn coarser meanwhile"));
    for (QPushButton* b : {sea, stream_, flow_}) left->addWidget(b);
    left->addStretch();
    row->addLayout(left);
    list_ = new QListWidget(this);
    list_->setAccessibleName(tr("Pools and streams"));
    list_->setObjectName("waters");
    list_->setViewMode(QListView::IconMode);
    list_->setMovement(QListView::Static);
    list_->setResizeMode(QListView::Adjust);
    list_->setIconSize({scaled(40), scaled(40)});
    list_->setGridSize({scaled(112), scaled(78)});
    list_->setWordWrap(true);
    list_->setTextElideMode(Qt::ElideRight);
    list_->setFocusPolicy(Qt::TabFocus);
    row->addWidget(list_, 1);
    connect(sea, &QPushButton::clicked, this, &WaterStrip::seaWanted);
    connect(stream_, &QPushButton::clicked, this, &WaterStrip::streamWanted);
    connect(flow_, &QPushButton::clicked, &house.view, &GroundView::setFlowing);
    connect(&house.view, &GroundView::sightChanged, flow_, [this] { flow_->setChecked(house_.view.flowing()); });
    connect(list_, &QListWidget::itemSelectionChanged, this, &WaterStrip::choose);
    connect(list_, &QListWidget::itemDoubleClicked, this, [this](QListWidgetItem* item) {
        const Level& level = house_.place.document.level();
        const auto id = item->data(Qt::UserRole).toUInt();
        if (const Pool* p = level.pool(id)) house_.view.visit({p->x, p->height, p->z});
        else if (const Stream* s = level.stream(id))
            if (const auto line = streamLine(level, *s); !line.empty()) {
                const LinePoint& at = line[line.size() / 2];
                house_.view.visit({at.x, at.height, at.z});
            }
    });
    Standpoint& stand = house.place.standpoint;
    connect(&stand, &Standpoint::waterChosen, this, &WaterStrip::refresh);
    connect(&stand, &Standpoint::courseChosen, this, &WaterStrip::refresh);
    house.place.document.on(About::waters, this, &WaterStrip::fill);
    connect(&house.surveyor, &Surveyor::found, this, &WaterStrip::fill);
    connect(&themeChanges(), &ThemeChanges::changed, this, &WaterStrip::fill);
    fill();
}

void WaterStrip::showEvent(QShowEvent* e) {
    fill();
    QWidget::showEvent(e);
}

void WaterStrip::fill() {
    const QSignalBlocker quiet(list_);
    const Level& level = house_.place.document.level();
    const auto& found = house_.surveyor.findings();
    list_->clear();
    const auto add = [&](uint32_t id, const std::string& name, const QIcon& icon, const QString& second,
                         const QString& tip) {
        auto* item = new QListWidgetItem(icon, QString::fromStdString(name) + "\n" + second, list_);
        item->setData(Qt::UserRole, id);
        item->setToolTip(tip);
        item->setTextAlignment(Qt::AlignHCenter | Qt::AlignTop);
    };
    for (const Pool& p : level.pools) {
        const auto f = found ? found->pools.find(p.id) : decltype(found->pools.end()){};
        const bool known = found && f != found->pools.end();
        add(p.id, p.name, waterIcon(p.look, false, known && f->second.height == p.height && f->second.leak),
            tr("%1 m").arg(p.height, 0, 'f', 2),
            p.sea ? tr("A sea. Double click to go there.") : tr("A pool. Double click to go there."));
    }
    for (const Stream& s : level.streams) {
        const auto f = found ? found->streams.find(s.id) : decltype(found->streams.end()){};
        const bool known = found && f != found->streams.end();
        add(s.id, s.name, waterIcon(s.look, true, known && f->second.over > kOverBanks),
            known ? tr("%1 m long").arg(f->second.length, 0, 'f', 0) : QString(),
            tr("A stream. Double click to go there."));
    }
    refresh();
}

void WaterStrip::refresh() {
    const QSignalBlocker quiet(list_);
    for (int i = 0; i < list_->count(); ++i) {
        QListWidgetItem* item = list_->item(i);
        const bool chosen = item->data(Qt::UserRole).toUInt() == house_.place.standpoint.water();
        if (chosen == item->isSelected()) continue;
        item->setSelected(chosen);
        if (chosen) list_->scrollToItem(item);
    }
    stream_->setChecked(house_.place.standpoint.streaming());
}

void WaterStrip::choose() {
    const QList<QListWidgetItem*> chosen = list_->selectedItems();
    if (!chosen.isEmpty()) house_.place.standpoint.setWater(chosen.front()->data(Qt::UserRole).toUInt());
}

}  // namespace jam
