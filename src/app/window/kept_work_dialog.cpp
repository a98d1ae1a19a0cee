#include "window/kept_work_dialog.h"

#include <QDateTime>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QLocale>
#include <QPushButton>
#include <QVBoxLayout>

#include "looks/theme.h"
#include "watch/level_plan.h"

namespace jam {

namespace {

constexpr int kPicture = 112;  // pixels at scale 1

// "today at 14:05", "yesterday at ...", or the day.
QString moment(int64_t milliseconds) {
    const QDateTime at = QDateTime::fromMSecsSinceEpoch(milliseconds);
    const QString time = at.time().toString("HH:mm");
    const qint64 days = at.date().daysTo(QDate::currentDate());
    if (days == 0) return KeptWorkDialog::tr("today at %1").arg(time);
    if (days == 1) return KeptWorkDialog::tr("yesterday at %1").arg(time);
    return KeptWorkDialog::tr("on %1 at %2").arg(QLocale().toString(at.date(), QLocale::ShortFormat), time);
}

QString told(const KeptWork& w) {
    const auto tr = [](const char* text) { return KeptWorkDialog::tr(text); };
    const QString name = QString::fromStdString(w.name);
    const QString title = w.file.empty()
                              ? tr("%1, never saved").arg(name)
                              : tr("%1, in %2").arg(name, QString::fromStdString(w.file.filename().string()));
    const QString count = w.steps == 1 ? tr("1 step") : tr("%1 steps").arg(QLocale().toString(w.steps));
    const QString since = w.file.empty() ? tr("%1, begun %2").arg(count, moment(w.since))
                                         : tr("%1 since the save of %2").arg(count, moment(w.since));
    return title + "\n" + since + "\n" + tr("The last %1: %2").arg(moment(w.last), QString::fromStdString(w.what));
}

// The same when it is chosen.
QIcon iconOf(const QImage& picture) {
    QIcon icon;
    for (const auto mode : {QIcon::Normal, QIcon::Selected}) icon.addPixmap(QPixmap::fromImage(picture), mode);
    return icon;
}

}  // namespace

KeptWorkDialog::KeptWorkDialog(std::vector<KeptWork> kept, QWidget* parent) : QDialog(parent), kept_(std::move(kept)) {
    setObjectName("keptWork");
    setWindowTitle(tr("Work that was not saved"));
    auto* column = new QVBoxLayout(this);
    column->setSpacing(10);
    says_ = new QLabel(tr("Jam Hill ended before this was saved. Nothing of it is lost, and no file was changed. "
                          "Take it up to go on where you were, and save it then."),
                       this);
    says_->setWordWrap(true);
    column->addWidget(says_);
    list_ = new QListWidget(this);
    list_->setObjectName("keptWorkList");
    list_->setAccessibleName(tr("Work that was kept"));
    list_->setIconSize(QSize(scaled(kPicture), scaled(kPicture)));
    list_->setWordWrap(true);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setSpacing(4);
    const int seen = std::clamp(static_cast<int>(kept_.size()), 1, 3);
    list_->setMinimumSize(scaled(560), seen * scaled(kPicture + 14) + scaled(10));
    for (const KeptWork& w : kept_) {
        auto* item = new QListWidgetItem(told(w), list_);
        QPixmap empty(list_->iconSize());
        empty.fill(Qt::transparent);
        item->setIcon(empty);
        item->setToolTip(w.file.empty() ? tr("Never saved") : QString::fromStdString(w.file.string()));
    }
    column->addWidget(list_, 1);
    trouble_ = new QLabel(this);
    trouble_->setObjectName("keptWorkTrouble");
    trouble_->setWordWrap(true);
    trouble_->hide();
    column->addWidget(trouble_);
    auto* row = new QHBoxLayout;
    away_ = new QPushButton(tr("Throw away"), this);
    away_->setObjectName("throwAway");
    later_ = new QPushButton(tr("Keep for later"), this);
    later_->setObjectName("keepForLater");
    later_->setToolTip(tr("It is offered again at the next start"));
    take_ = new QPushButton(tr("Take it up"), this);
    take_->setObjectName("takeUp");
    take_->setDefault(true);
    row->addWidget(away_);
    row->addStretch();
    row->addWidget(later_);
    row->addWidget(take_);
    column->addLayout(row);
    connect(list_, &QListWidget::currentRowChanged, this, &KeptWorkDialog::choose);
    connect(list_, &QListWidget::itemActivated, this, &KeptWorkDialog::takeUp);
    connect(take_, &QPushButton::clicked, this, &KeptWorkDialog::takeUp);
    connect(later_, &QPushButton::clicked, this, &QDialog::reject);
    connect(away_, &QPushButton::clicked, this, &KeptWorkDialog::throwAwayAsked);
    list_->setCurrentRow(0);
}

KeptWorkDialog::~KeptWorkDialog() { work_.stop(); }

// Reads the chosen one, to show it and to know whether it can be taken up.
void KeptWorkDialog::choose(int row) {
    work_.stop();
    read_.reset();
    asked_ = -1;
    away_->setText(tr("Throw away"));
    trouble_->hide();
    take_->setEnabled(false);
    away_->setEnabled(row >= 0);
    if (row < 0) return;
    struct Read {
        std::optional<TakenUp> work;
        QImage picture;
    };
    using Shared = std::shared_ptr<Read>;
    work_.run<Shared>(
        tr("Reading what was kept"),
        [path = kept_[static_cast<size_t>(row)].journal,
         pixels = scaled(kPicture)](const Context& c) -> Result<Shared> {
            Result<TakenUp> taken = takeUpWork(path, c);
            if (!taken) return taken.error();
            auto read = std::make_shared<Read>();
            read->picture = planPicture(taken.value().history.now(), pixels);
            read->work.emplace(taken.take());
            return read;
        },
        [this, row](Result<Shared> read) {
            if (row != list_->currentRow()) return;
            if (!read) {
                trouble_->setText(
                    tr("It cannot be taken up now: %1").arg(QString::fromStdString(read.error().sentence())));
                trouble_->show();
                return;
            }
            read_ = std::move(read.value()->work);
            list_->item(row)->setIcon(iconOf(read.value()->picture));
            take_->setEnabled(true);
        });
}

void KeptWorkDialog::takeUp() {
    if (!read_) return;
    taken_ = std::move(read_);
    read_.reset();
    accept();
}

void KeptWorkDialog::throwAwayAsked() {
    const int row = list_->currentRow();
    if (row < 0) return;
    if (asked_ != row) {
        asked_ = row;
        away_->setText(tr("Throw it away for good"));
        return;
    }
    work_.stop();
    read_.reset();
    if (const Status gone = throwAway(kept_[static_cast<size_t>(row)].journal); !gone) {
        trouble_->setText(QString::fromStdString(gone.error().sentence()));
        trouble_->show();
        return;
    }
    kept_.erase(kept_.begin() + row);
    delete list_->takeItem(row);
    if (kept_.empty()) return reject();
    choose(list_->currentRow());
}

}  // namespace jam
