#include "panels/sheet.h"

#include <QComboBox>
#include <QListWidget>
#include <QScrollArea>
#include <QSignalBlocker>
#include <QStackedWidget>
#include <QVBoxLayout>

#include "looks/theme.h"
#include "panels/bench.h"
#include "panels/fold.h"
#include "workplace/workplace.h"

namespace jam {

namespace {
constexpr int kWidth = 262, kHistoryHeight = 76;
}

Sheet::Sheet(House& house, const std::vector<std::unique_ptr<Station>>& stations, QWidget* parent)
    : QWidget(parent), house_(house) {
    setFixedWidth(scaled(kWidth));
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(12, 10, 6, 10);
    auto* stack = stationPages(house, stations, this, [](Station& s, QWidget* p) -> QWidget* {
        auto* scroll = new QScrollArea(p);
        scroll->setWidgetResizable(true);
        scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        QWidget* page = s.sheetPage(scroll);
        page->setContentsMargins(0, 0, 8, 0);  // room for the scroll bar
        scroll->setWidget(page);
        return scroll;
    });
    // Long entries must not make the sheet wider.
    for (QComboBox* box : stack->findChildren<QComboBox*>()) {
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(4);
    }
    all->addWidget(stack, 1);
    auto* done = new Fold("what-was-done", tr("What was done"), true, this);
    history_ = new QListWidget(done);
    history_->setAccessibleName(tr("What was done"));
    history_->setObjectName("history");
    history_->setFixedHeight(scaled(kHistoryHeight));
    history_->setFocusPolicy(Qt::TabFocus);
    history_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    done->column()->setContentsMargins(0, 0, 0, 0);
    done->column()->addWidget(history_);
    all->addWidget(done);
    connect(&themeChanges(), &ThemeChanges::changed, this, &Sheet::showHistory);
    for (const auto signal : {&QListWidget::itemClicked, &QListWidget::itemActivated})
        connect(history_, signal, this, [this](QListWidgetItem* item) {
            house_.place.document.stepTo(static_cast<size_t>(history_->row(item)));
        });
    house.place.document.on(About::history, this, &Sheet::showHistory);
    showHistory();
}

void Sheet::showHistory() {
    const History& history = house_.place.document.history();
    const QSignalBlocker quiet(history_);
    history_->clear();
    for (size_t i = 0; i < history.entries().size(); ++i) {
        auto* item = new QListWidgetItem(QString::fromStdString(history.entries()[i].what), history_);
        item->setToolTip(item->text());
        if (i > history.place()) item->setForeground(theme().quiet);
    }
    history_->setCurrentRow(static_cast<int>(history.place()));
    history_->scrollToItem(history_->currentItem());
}

}  // namespace jam
