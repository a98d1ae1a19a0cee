#include "panels/verdict_list.h"

#include <QHBoxLayout>
#include <QListWidget>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include "house/station.h"
#include "level/ground.h"
#include "looks/theme.h"
#include "panels/page.h"
#include "view/ground_view.h"

namespace jam {

namespace {
constexpr int kMostRows = 40, kHeight = 132;
}

VerdictList::VerdictList(House& house, QWidget* parent) : QWidget(parent), house_(house) {
    auto* c = pageColumn(this);
    c->setSpacing(4);
    c->addWidget(headingLabel(tr("What is not right yet"), this));
    list_ = new QListWidget(this);
    list_->setAccessibleName(tr("What is not right yet"));
    list_->setObjectName("verdicts");
    list_->setFocusPolicy(Qt::TabFocus);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setWordWrap(true);
    list_->setToolTip(tr("Click one to go there."));
    c->addWidget(list_);
    mends_ = new QWidget(this);
    buttons_ = new QHBoxLayout(mends_);
    buttons_->setContentsMargins(0, 0, 0, 0);
    buttons_->setSpacing(4);
    c->addWidget(mends_);
    connect(list_, &QListWidget::currentRowChanged, this, &VerdictList::showMends);
    for (const auto signal : {&QListWidget::itemClicked, &QListWidget::itemActivated})
        connect(list_, signal, this, &VerdictList::visit);
    connect(&house.verdicts, &Verdicts::changed, this, &VerdictList::follow);
    connect(&themeChanges(), &ThemeChanges::changed, this, &VerdictList::follow);
    follow();
}

void VerdictList::follow() {
    const QString was = list_->currentItem() ? list_->currentItem()->text() : QString();
    const QSignalBlocker quiet(list_);
    list_->clear();
    found_.clear();
    for (const Verdicts::Verdict& v : house_.verdicts.all())
        for (const Finding& f : v.found) {
            if (list_->count() >= kMostRows) break;
            auto* item = new QListWidgetItem(QString::fromStdString(f.sentence), list_);
            if (v.check->weight == Check::Weight::warns) item->setForeground(theme().warns);
            if (item->text() == was) list_->setCurrentItem(item);
            found_.push_back(f);
        }
    setVisible(!found_.empty());
    const int rows = std::max(list_->sizeHintForRow(0), 1) * list_->count() + 6;
    list_->setFixedHeight(std::min(rows, scaled(kHeight)));
    showMends();
}

const Finding* VerdictList::chosen() const {
    const int row = list_->currentRow();
    return row >= 0 && row < static_cast<int>(found_.size()) ? &found_[static_cast<size_t>(row)] : nullptr;
}

void VerdictList::showMends() {
    while (QLayoutItem* item = buttons_->takeAt(0)) {
        if (item->widget()) item->widget()->deleteLater();
        delete item;
    }
    const Finding* f = chosen();
    mends_->setVisible(f && !f->mends.empty());
    if (!f) return;
    for (const Mend& m : f->mends) {
        const QString what = QString::fromStdString(m.what);
        auto* b = new QPushButton(what, mends_);
        buttons_->addWidget(b);
        connect(b, &QPushButton::clicked, this,
                [this, what, job = LevelJob::on(f->things, m.change)] { house_.services.workOn(what, job); });
    }
    buttons_->addStretch();
}

void VerdictList::visit() {
    const Finding* f = chosen();
    if (!f || !f->at) return;
    const auto [x, z] = *f->at;
    house_.view.visit({x, altitudeAt(house_.place.document.level(), x, z), z});
}

}  // namespace jam
