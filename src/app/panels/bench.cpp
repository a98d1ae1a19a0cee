#include "panels/bench.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QProgressBar>
#include <QStackedWidget>
#include <QToolButton>
#include <QVBoxLayout>

#include "looks/theme.h"
#include "panels/chart.h"
#include "panels/course_profile.h"
#include "panels/readout.h"
#include "panels/section.h"
#include "tasks/work.h"
#include "workplace/workplace.h"

namespace jam {

namespace {
constexpr int kHeight = 178, kSaidHeight = 18, kSaidMs = 8000;
// In a narrow window the section and the chart leave their room to what one works with.
constexpr int kNarrow = 1180, kSectionWidth = 390, kNarrowSection = 280, kChartWidth = 158, kNarrowChart = 120;
}  // namespace

QStackedWidget* stationPages(House& house, const std::vector<std::unique_ptr<Station>>& stations, QWidget* parent,
                             const std::function<QWidget*(Station&, QWidget*)>& page) {
    auto* stack = new QStackedWidget(parent);
    for (const auto& s : stations) stack->addWidget(page(*s, stack));
    const auto turn = [stack, &house, &stations] {
        for (size_t i = 0; i < stations.size(); ++i)
            if (stations[i]->id() == house.place.standpoint.station()) stack->setCurrentIndex(static_cast<int>(i));
    };
    QObject::connect(&house.place.standpoint, &Standpoint::stationChanged, stack, turn);
    turn();
    return stack;
}

Bench::Bench(House& house, const std::vector<std::unique_ptr<Station>>& stations, QWidget* parent) : QWidget(parent) {
    setFixedHeight(scaled(kHeight));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(10, 8, 10, 8);
    row->setSpacing(12);

    // A line of its own for what is said, so that the view never moves for it.
    said_ = new QLabel(this);
    said_->setObjectName("said");
    said_->setFixedHeight(scaled(kSaidHeight));
    said_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    saidTimer_.setSingleShot(true);
    saidTimer_.setInterval(kSaidMs);
    connect(&saidTimer_, &QTimer::timeout, said_, &QLabel::clear);
    auto* line = new QHBoxLayout;
    line->addWidget(said_, 1);
    line->addWidget(workLine(house.work));
    auto* left = new QVBoxLayout;
    left->setSpacing(2);
    left->addWidget(stationPages(house, stations, this, [](Station& s, QWidget* p) { return s.benchPage(p); }), 1);
    left->addLayout(line);
    row->addLayout(left, 1);

    auto* live = new QVBoxLayout;
    live->setSpacing(2);
    section_ = new Section(house.place, house.view, this);
    readout_ = new Readout(house.place, this);
    profile_ = new CourseProfile(house.place, house.view, this);
    live->addWidget(section_, 1);
    live->addWidget(profile_, 1);
    const auto turn = [this] {
        section_->setVisible(!profile_->wanted());
        profile_->setVisible(profile_->wanted());
    };
    connect(&house.place.standpoint, &Standpoint::courseChosen, this, turn);
    house.place.document.on(About::strata, this, turn);
    turn();
    live->addWidget(readout_);
    row->addLayout(live);
    chart_ = new Chart(house.place, house.view, house.surveyor, this);
    row->addWidget(chart_);
    fit();
}

void Bench::fit() {
    const bool narrow = width() < scaled(kNarrow);
    profile_->setFixedWidth(narrow ? kNarrowSection : kSectionWidth);
    section_->setFixedWidth(narrow ? kNarrowSection : kSectionWidth);
    readout_->setFixedWidth(narrow ? kNarrowSection : kSectionWidth);
    chart_->setFixedWidth(narrow ? kNarrowChart : kChartWidth);
}

void Bench::resizeEvent(QResizeEvent* e) {
    fit();
    QWidget::resizeEvent(e);
}

// What is being worked at, how far it is, and a way to stop it.
QWidget* Bench::workLine(Work& work) {
    auto* line = new QWidget(this);
    line->setFixedHeight(scaled(kSaidHeight));
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(0, 0, 0, 0);
    auto* name = new QLabel(line);
    auto* bar = new QProgressBar(line);
    bar->setTextVisible(false);
    bar->setFixedSize(90, 6);
    auto* stop = new QToolButton(line);
    stop->setObjectName("cancelWork");
    stop->setText(tr("Cancel"));
    stop->setFixedHeight(scaled(kSaidHeight));
    stop->setStyleSheet("padding: 0 6px;");
    row->addWidget(name);
    row->addWidget(bar);
    row->addWidget(stop);
    line->hide();
    connect(stop, &QToolButton::clicked, &work, &Work::cancel);
    connect(&work, &Work::begun, line, [=, &work] { name->setText(work.what()), bar->setValue(0), line->show(); });
    connect(&work, &Work::progressed, bar, [bar](double share) { bar->setValue(static_cast<int>(share * 100)); });
    connect(&work, &Work::ended, line, &QWidget::hide);
    return line;
}

void Bench::say(const QString& sentence) {
    said_->setText(sentence);
    said_->setToolTip(sentence);
    saidTimer_.start();
}

}  // namespace jam
