#include "stations/walk/reach_panel.h"

#include <algorithm>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSignalBlocker>
#include <QTableWidget>
#include <QToolButton>
#include <QVBoxLayout>

#include "house/station.h"
#include "level/ground.h"
#include "looks/theme.h"
#include "panels/number_field.h"
#include "panels/page.h"
#include "survey/mend_reach.h"
#include "view/ground_view.h"
#include "watch/reach_watch.h"

namespace jam {

namespace {
constexpr int kMostListed = 60, kCell = 24;
}

ReachPanel::ReachPanel(House& house, QWidget* parent) : QWidget(parent), house_(house) {
    auto* c = pageColumn(this);
    c->setSpacing(5);
    c->addWidget(headingLabel(tr("Who gets where"), this));
    says_ = quietLabel({}, this);
    says_->setObjectName("reachSays");
    c->addWidget(says_);
    table_ = new QTableWidget(this);
    table_->setAccessibleName(tr("Who gets where"));
    table_->setObjectName("reachTable");
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Fixed);
    table_->horizontalHeader()->setDefaultSectionSize(scaled(kCell));
    table_->verticalHeader()->setDefaultSectionSize(scaled(kCell));
    table_->verticalHeader()->setSectionResizeMode(QHeaderView::Fixed);
    table_->verticalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    table_->horizontalHeader()->setMinimumSectionSize(scaled(kCell));
    table_->setFocusPolicy(Qt::TabFocus);
    table_->setToolTip(tr("From the spot of the row to that of the column. Click one to see the way."));
    c->addWidget(table_);
    way_ = new QLabel(this);
    way_->setObjectName("waySays");
    way_->setWordWrap(true);
    c->addWidget(way_);
    makePlaces();
    areas_ = quietLabel({}, this);
    areas_->setObjectName("reachAreas");
    c->addWidget(areas_);
    connect(table_, &QTableWidget::currentCellChanged, this, [this](int row, int column) {
        const auto& spots = house_.place.document.level().spots;
        const auto at = [&](int i) {
            return i >= 0 && i < static_cast<int>(spots.size()) ? spots[static_cast<size_t>(i)].id : 0u;
        };
        if (row == column) house_.reach.askWay(0, 0);
        else house_.reach.askWay(at(row), at(column));
    });
    connect(&house.reach, &ReachWatch::found, this, &ReachPanel::refresh);
    connect(&house.reach, &ReachWatch::wayFound, this, &ReachPanel::showWay);
    house.place.document.on(About::spots, this, &ReachPanel::refresh);
    connect(&themeChanges(), &ThemeChanges::changed, this, &ReachPanel::refresh);
    refresh();
}

void ReachPanel::makePlaces() {
    auto* c = static_cast<QVBoxLayout*>(layout());
    places_ = new QListWidget(this);
    places_->setAccessibleName(tr("Places"));
    places_->setObjectName("reachPlaces");
    places_->setFocusPolicy(Qt::TabFocus);
    places_->setMaximumHeight(scaled(112));
    places_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    places_->setTextElideMode(Qt::ElideRight);
    c->addWidget(places_);
    mend_ = new QWidget(this);
    auto* box = pageColumn(mend_);
    box->setSpacing(4);
    mends_ = new QPushButton(mend_);
    mends_->setObjectName("mendReach");
    box->addWidget(mends_);
    bank_.emplace(box, "bank", kBankNumbers);
    bank_->of(&EdgeBank::height)->setToolTip(tr("Above all ground from which you might jump onto it"));
    c->addWidget(mend_);
    connect(places_, &QListWidget::itemSelectionChanged, this, &ReachPanel::choosePlace);
    connect(places_, &QListWidget::itemPressed, this, &ReachPanel::visitPlace);
    connect(mends_, &QPushButton::clicked, this, &ReachPanel::mend);
}

void ReachPanel::showEvent(QShowEvent* e) {
    refresh();
    QWidget::showEvent(e);
}

void ReachPanel::resizeEvent(QResizeEvent* e) {
    QWidget::resizeEvent(e);
    fitTable();
}

void ReachPanel::refresh() {
    if (!isVisible()) return;
    const auto& r = house_.reach.reach();
    const bool any = r && !house_.place.document.level().spots.empty();
    for (QWidget* w : {static_cast<QWidget*>(table_), static_cast<QWidget*>(places_), static_cast<QWidget*>(areas_)})
        w->setVisible(any);
    if (!any) {
        says_->setText(house_.place.document.level().spots.empty() ? tr("There are no spots yet.")
                                                                   : tr("Being looked at…"));
        mend_->hide();
        return showWay();
    }
    says_->setText(tr("By the %1. Rows go, columns are gone to.").arg(QString::fromStdString(r->body.name)) +
                   (r->ground->stride > 1
                        ? tr(" The level is large: samples were looked at in blocks, each as bad as the worst in it.")
                        : QString()));
    showTable(*r);
    showPlaces(*r);
    areas_->setText(tr("%1 m² there and back, %2 m² one way, %3 m² traps, %4 m² never.")
                        .arg(r->areas[1], 0, 'f', 0)
                        .arg(r->areas[2], 0, 'f', 0)
                        .arg(r->areas[3], 0, 'f', 0)
                        .arg(r->areas[4], 0, 'f', 0));
    showWay();
}

void ReachPanel::showTable(const Reach& reach) {
    const QSignalBlocker quiet(table_);
    const auto& spots = house_.place.document.level().spots;
    const int n = static_cast<int>(spots.size());
    table_->setRowCount(n);
    table_->setColumnCount(n);
    for (int i = 0; i < n; ++i) {
        const QString name = QString::fromStdString(spots[static_cast<size_t>(i)].name);
        auto* head = new QTableWidgetItem(QString::number(i + 1) + "  " + name);
        head->setToolTip(tr("from %1").arg(name));
        table_->setVerticalHeaderItem(i, head);
        auto* over = new QTableWidgetItem(QString::number(i + 1));
        over->setToolTip(tr("to %1").arg(name));
        table_->setHorizontalHeaderItem(i, over);
        for (int k = 0; k < n; ++k) {
            const uint32_t from = spots[static_cast<size_t>(i)].id, to = spots[static_cast<size_t>(k)].id;
            const bool got = i != k && reach.reaches(from, to);
            auto* cell = new QTableWidgetItem(i == k ? QString()
                                              : got  ? QString::fromUtf8("✓")
                                                     : QString::fromUtf8("✕"));
            cell->setTextAlignment(Qt::AlignCenter);
            cell->setForeground(got ? theme().passes : theme().warns);
            if (i == k) cell->setFlags(Qt::NoItemFlags);
            else
                cell->setToolTip((got ? tr("%1 reaches %2") : tr("%1 does not reach %2"))
                                     .arg(name, QString::fromStdString(spots[static_cast<size_t>(k)].name)));
            table_->setItem(i, k, cell);
            if (from == house_.reach.from() && to == house_.reach.to()) table_->setCurrentCell(i, k);
        }
    }
    fitTable();
}

void ReachPanel::fitTable() {
    const int n = table_->columnCount();
    // Up to five all columns are seen at once, beside names as wide as there is room for.
    const int wide = std::max(width() - scaled(kCell) * std::min(n, 5) - 4, scaled(90));
    table_->verticalHeader()->setFixedWidth(wide);
    const int rows = std::min(n, 7), head = scaled(kCell);
    table_->horizontalHeader()->setFixedHeight(head);
    table_->setHorizontalScrollBarPolicy(n > 5 ? Qt::ScrollBarAlwaysOn : Qt::ScrollBarAlwaysOff);
    table_->setVerticalScrollBarPolicy(n > 7 ? Qt::ScrollBarAlwaysOn : Qt::ScrollBarAlwaysOff);
    table_->setFixedHeight(scaled(kCell) * rows + head + 4 + (n > 5 ? scaled(12) : 0));
}

void ReachPanel::showPlaces(const Reach& reach) {
    const int row = places_->currentRow();
    const QSignalBlocker quiet(places_);
    places_->clear();
    const auto add = [&](Sort sort, size_t i, const QString& text) {
        if (places_->count() >= kMostListed) return;
        auto* item = new QListWidgetItem(text, places_);
        item->setData(Qt::UserRole, static_cast<int>(sort));
        item->setData(Qt::UserRole + 1, static_cast<int>(i));
        if (sort != Sort::pocket) item->setForeground(theme().warns);
    };
    const Level& level = house_.place.document.level();
    const auto with = [&](const ReachPlace& p) {
        const Spot* s = p.spots.empty() ? nullptr : level.spot(p.spots.front());
        return s ? tr(", with %1").arg(QString::fromStdString(s->name)) : QString();
    };
    for (size_t i = 0; i < reach.waysOut.size(); ++i)
        add(Sort::wayOut, i,
            (reach.waysOut[i].towards == "coast" ? tr("Way out at the %1, %2 m wide")
                                                 : tr("Way out in the %1, %2 m wide"))
                .arg(QString::fromStdString(reach.waysOut[i].towards))
                .arg(reach.waysOut[i].size, 0, 'f', 0));
    for (size_t i = 0; i < reach.traps.size(); ++i)
        add(Sort::trap, i, tr("Trap of %1 m²%2").arg(reach.traps[i].size, 0, 'f', 0).arg(with(reach.traps[i])));
    for (size_t i = 0; i < reach.pockets.size(); ++i)
        add(Sort::pocket, i, tr("Pocket of %1 m²%2").arg(reach.pockets[i].size, 0, 'f', 0).arg(with(reach.pockets[i])));
    if (places_->count() == 0) {
        auto* item = new QListWidgetItem(tr("No way out, no trap, no pocket."), places_);
        item->setFlags(Qt::NoItemFlags);
        item->setForeground(theme().passes);
    }
    places_->setFixedHeight(std::min(scaled(112), places_->sizeHintForRow(0) * std::max(places_->count(), 1) + 6));
    if (row >= 0 && row < places_->count()) places_->setCurrentRow(row);
    choosePlace();
}

void ReachPanel::showWay() {
    const Level& level = house_.place.document.level();
    const Spot *a = level.spot(house_.reach.from()), *b = level.spot(house_.reach.to());
    way_->setVisible(a && b);
    if (!a || !b) return;
    const auto& way = house_.reach.way();
    const QString names = tr("%1 to %2: ").arg(QString::fromStdString(a->name), QString::fromStdString(b->name));
    if (!way)
        return way_->setText(names + (house_.reach.fresh() ? tr("no way leads there.") : tr("being looked for…")));
    QString text = names + tr("%1 m, %2 s at a run, %3 m up, %4 m down, %5° at the steepest.")
                               .arg(way->length, 0, 'f', 0)
                               .arg(way->seconds, 0, 'f', 0)
                               .arg(way->climb, 0, 'f', 0)
                               .arg(way->fall, 0, 'f', 0)
                               .arg(way->steepest, 0, 'f', 0);
    if (way->leaps > 0) text += way->leaps == 1 ? tr(" One leap.") : tr(" %1 leaps.").arg(way->leaps);
    if (way->feat) text += tr(" One of them takes a run.");
    if (way->drops > 0) text += way->drops == 1 ? tr(" One drop.") : tr(" %1 drops.").arg(way->drops);
    if (way->deepest > 0.3) text += tr(" Through %1 m of water.").arg(way->deepest, 0, 'f', 1);
    way_->setText(text);
}

const ReachPlace* ReachPanel::chosen(Sort* sort) const {
    const QList<QListWidgetItem*> items = places_->selectedItems();
    const auto& r = house_.reach.reach();
    if (items.isEmpty() || !r) return nullptr;
    *sort = static_cast<Sort>(items.front()->data(Qt::UserRole).toInt());
    const auto i = static_cast<size_t>(items.front()->data(Qt::UserRole + 1).toInt());
    const auto& list = *sort == Sort::wayOut ? r->waysOut : *sort == Sort::trap ? r->traps : r->pockets;
    return i < list.size() ? &list[i] : nullptr;
}

void ReachPanel::choosePlace() {
    Sort sort;
    const ReachPlace* p = chosen(&sort);
    mend_->setVisible(p);
    if (!p) return;
    const bool out = sort == Sort::wayOut;
    mends_->setText(out ? tr("Raise a bank along it") : tr("Grade a ramp to it"));
    for (const auto value : {&EdgeBank::height, &EdgeBank::width}) bank_->of(value)->setVisible(out);
}

void ReachPanel::visitPlace() {
    Sort sort;
    const ReachPlace* p = chosen(&sort);
    if (!p) return;
    // A way out is seen from inside, looking out.
    std::optional<double> yaw;
    for (int side = 0; side < kLevelSides; ++side)
        if (sort == Sort::wayOut && p->towards == kSideNames[static_cast<size_t>(side)]) yaw = 90 * side;
    house_.view.visit({p->x, altitudeAt(house_.place.document.level(), p->x, p->z), p->z}, yaw);
}

void ReachPanel::mend() {
    Sort sort;
    const ReachPlace* p = chosen(&sort);
    if (!p) return;
    const EdgeBank bank = bank_->values();
    const auto known = house_.reach.reach();
    if (sort == Sort::wayOut)
        return house_.services.workOn(
            tr("Bank along a way out"),
            LevelJob::onAll([place = *p, bank, known](const Level& before, const Context& context) -> Result<Level> {
                // Where one leaves is looked for again: the level may have gone on.
                const Reach now = surveyReach(before, known->body, context);
                if (context.cancelled()) return cancelledError();
                for (const ReachPlace& w : now.waysOut)
                    if (std::find(w.samples.begin(), w.samples.end(), place.samples.front()) != w.samples.end()) {
                        Result<Mended> done = bankAlong(before, now, w, bank, context);
                        if (!done) return done.error();
                        return std::move(done.value().level);
                    }
                return Error{"", "bank", "nobody gets out there any more", "nothing has to be mended"};
            }));
    house_.services.workOn(
        tr("Grade a ramp"),
        LevelJob::onAll([x = p->x, z = p->z, known](const Level& before, const Context& context) -> Result<Level> {
            const Reach now = surveyReach(before, known->body, context);
            if (context.cancelled()) return cancelledError();
            Result<Mended> done = rampTo(before, now, x, z, context);
            if (!done) return done.error();
            return std::move(done.value().level);
        }));
}

}  // namespace jam
