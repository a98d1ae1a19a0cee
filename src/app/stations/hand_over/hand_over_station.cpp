#include "stations/hand_over/hand_over_station.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSettings>
#include <QToolButton>
#include <QVBoxLayout>

#include "panels/page.h"
#include "panels/verdict_list.h"
#include "tasks/work.h"
#include "watch/surveyor.h"
#include "workplace/workplace.h"

namespace jam {

HandOverStation::HandOverStation(House& house)
    : Station("handOver", tr("Hand over"), "hand-over", "F9"), house_(house) {
    house.place.document.on(About::history, this, &Station::stateChanged);
    house.place.document.on(About::level, this, [this] {
        handedOver_.reset();
        emit stateChanged();
    });
}

Station::State HandOverStation::state() const {
    if (!handedOver_) return {tr("not handed over yet")};
    if (*handedOver_ == house_.place.document.history().serial()) return {tr("as handed over"), Mood::passes};
    return {tr("changed since")};
}

// What goes out, in words.
QString HandOverStation::facts() const {
    const Level& l = house_.place.document.standing();
    QStringList lines;
    for (const Writer* w : writers())
        if (wish_.is(w->name) && w->has(l)) lines << QString::fromStdString(w->facts(l, wish_));
    lines << tr("manifest.json: sizes, ranges, axes, layers");
    return lines.join("\n");
}

QWidget* HandOverStation::benchPage(QWidget* parent) {
    auto* label = new QLabel(parent);
    const auto tell = [this, label] { label->setText(facts()); };
    Document& document = house_.place.document;
    document.on(About::samples | About::layers | About::waters, label, tell);
    connect(this, &HandOverStation::wishChanged, label, tell);
    tell();
    return plainPage(tr("Choose in the sheet at the right what goes out. A manifest that says every size, range and "
                        "axis goes with it."),
                     parent, label);
}

// A box for a writer, and its options below it.
void HandOverStation::addWriter(const Writer& writer, QWidget* page, QVBoxLayout* column) {
    const auto say = [this](const std::string& name, int value) {
        wish_.set(name, value);
        emit wishChanged();
    };
    const auto box = [&](const char* name, const char* title, const char* tip) {
        auto* b = new QCheckBox(tr(title), page);
        b->setObjectName(name);
        b->setToolTip(tr(tip));
        b->setChecked(wish_.is(name));
        connect(b, &QCheckBox::toggled, this, [say, name](bool on) { say(name, on); });
        return b;
    };
    QCheckBox* writes = box(writer.name, writer.title, writer.tip);
    column->addWidget(writes);
    if (writer.options.empty()) return;
    auto* options = new QWidget(page);
    auto* below = pageColumn(options);
    below->setContentsMargins(20, 0, 0, 0);
    below->setSpacing(4);
    for (const WriterOption& option : writer.options) {
        if (option.words.empty()) {
            below->addWidget(box(option.name, option.title, option.tip));
            continue;
        }
        auto* words = new QComboBox(options);
        words->setAccessibleName(tr(option.title));
        words->setObjectName(option.name);
        words->setToolTip(tr(option.tip));
        for (const char* word : option.words) words->addItem(QString("%1: %2").arg(tr(option.title), tr(word)));
        words->setCurrentIndex(wish_.of(option.name));
        connect(words, &QComboBox::currentIndexChanged, this, [say, name = option.name](int at) { say(name, at); });
        below->addWidget(words);
    }
    options->setEnabled(writes->isChecked());
    connect(writes, &QCheckBox::toggled, options, &QWidget::setEnabled);
    column->addWidget(options);
}

QWidget* HandOverStation::sheetPage(QWidget* parent) {
    auto* page = new QWidget(parent);
    auto* c = pageColumn(page);
    c->addWidget(new VerdictList(house_, page));
    c->addWidget(headingLabel(tr("Hand over"), page));
    for (const Writer* w : writers()) addWriter(*w, page, c);
    c->addWidget(quietLabel(tr("A manifest that says every size, range and axis goes with them."), page));
    c->addSpacing(4);
    c->addWidget(headingLabel(tr("Into the folder"), page));
    auto* row = new QHBoxLayout;
    auto* folder = new QLineEdit(QSettings().value("handOverFolder", QDir::homePath() + "/jamhill-handover").toString(),
                                 page);
    folder->setAccessibleName(tr("Folder to hand over into"));
    folder->setObjectName("handOverFolder");
    auto* choose = new QToolButton(page);
    choose->setText("…");
    row->addWidget(folder, 1);
    row->addWidget(choose);
    c->addLayout(row);
    auto* go = new QPushButton(tr("Hand over"), page);
    go->setObjectName("handOver");
    c->addWidget(go);
    c->addStretch();
    connect(choose, &QToolButton::clicked, page, [page, folder] {
        const QString chosen = QFileDialog::getExistingDirectory(page, tr("Folder to hand over into"), folder->text());
        if (!chosen.isEmpty()) folder->setText(chosen);
    });
    connect(go, &QPushButton::clicked, page, [=, this] {
        QSettings().setValue("handOverFolder", folder->text());
        handOverTo(folder->text(), wish_);
    });
    return page;
}

void HandOverStation::handOverTo(const QString& folder, const HandoverWish& wish) {
    using Files = std::vector<std::string>;
    const Document& document = house_.place.document;
    const uint64_t serial = document.history().serial();
    house_.work.start<Files>(
        tr("Handing over"),
        [settled = document.settled(), wish,
         path = std::filesystem::path(folder.toStdString())](const Context& c) -> Result<Files> {
            const Result<Level> level = settled(c);
            if (!level) return level.error();
            return handOver(level.value(), path, wish, c);
        },
        [this, folder, serial](Result<Files> files) {
            if (!files) return house_.services.refuse(files.error());
            // Another level may have been opened meanwhile.
            if (house_.place.document.stepLevel(serial)) handedOver_ = serial;
            emit stateChanged();
            house_.services.say(tr("%1 files written to %2.").arg(files.value().size()).arg(folder));
        });
}

}  // namespace jam
