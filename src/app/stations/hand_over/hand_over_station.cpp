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
#include "surveyor.h"
#include "work.h"
#include "workplace.h"

namespace jam {

HandOverStation::HandOverStation(House& house)
    : Station("handOver", tr("Hand over"), "hand-over", "F9"), house_(house) {
    connect(&house.place.document, &Document::historyChanged, this, &Station::stateChanged);
    connect(&house.place.document, &Document::opened, this, [this] {
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
    const auto& f = house_.surveyor.findings();
    const auto sets = (l.layers.size() + 3) / 4;
    QStringList lines;
    lines
        << tr("heightmap.png: %1 × %2, 16 bits%3")
               .arg(l.columns)
               .arg(l.rows)
               .arg(
                   f ? tr(", ground from %1 to %2 m").arg(f->ground.lowest, 0, 'f', 2).arg(f->ground.highest, 0, 'f', 2)
                     : QString());
    lines << (sets == 1 ? tr("weights-1.png: %1 × %2, RGBA").arg(l.coverColumns()).arg(l.coverRows())
                        : tr("weights-1.png to weights-%3.png: %1 × %2, RGBA")
                              .arg(l.coverColumns())
                              .arg(l.coverRows())
                              .arg(sets));
    lines << tr("weight-01-… to weight-%1-…: one grey picture for each of %2 layers")
                 .arg(l.layers.size(), 2, 10, QChar('0'))
                 .arg(l.layers.size());
    lines << tr("manifest.json: sizes, ranges, axes, layers");
    return lines.join("\n");
}

QWidget* HandOverStation::benchPage(QWidget* parent) {
    auto* label = new QLabel(parent);
    const auto tell = [this, label] { label->setText(facts()); };
    Document& document = house_.place.document;
    for (const auto signal : {&Document::replaced, &Document::layersChanged}) connect(&document, signal, label, tell);
    connect(&house_.surveyor, &Surveyor::found, label, tell);
    tell();
    return plainPage(tr("Choose in the sheet at the right what goes out. A manifest that says every size, range and "
                        "axis goes with it."),
                     parent, label);
}

QWidget* HandOverStation::sheetPage(QWidget* parent) {
    auto* page = new QWidget(parent);
    auto* c = pageColumn(page);
    c->addWidget(headingLabel(tr("Hand over"), page));
    auto* heights = new QCheckBox(tr("Heightmap, 16-bit PNG"), page);
    auto* fit = new QCheckBox(tr("Use all steps for this ground"), page);
    fit->setToolTip(tr("Black is the lowest and white the highest ground. Otherwise they are the level's range."));
    auto* sets = new QCheckBox(tr("Weights, four layers a picture"), page);
    auto* singles = new QCheckBox(tr("Weights, one picture a layer"), page);
    auto* pictures = new QCheckBox(tr("The layers' pictures"), page);
    for (QCheckBox* b : {heights, fit, sets, singles, pictures}) {
        b->setChecked(true);
        c->addWidget(b);
    }
    auto* deep = new QCheckBox(tr("Weights in 16 bits"), page);
    deep->setObjectName("deepWeights");
    c->addWidget(deep);
    auto* order = new QComboBox(page);
    order->setAccessibleName(tr("Order of the channels"));
    order->setObjectName("channelOrder");
    for (const char* o : {"RGBA", "BGRA", "ARGB", "ABGR", "GRBA"})
        order->addItem(tr("Channels in the order %1").arg(o), QString(o));
    order->setToolTip(tr("In which channel of a set the first, second, third and fourth layer goes."));
    c->addWidget(order);
    connect(sets, &QCheckBox::toggled, order, &QWidget::setEnabled);
    auto* indent = new QHBoxLayout;
    indent->addSpacing(20);
    c->removeWidget(fit);
    indent->addWidget(fit);
    c->insertLayout(2, indent);
    connect(heights, &QCheckBox::toggled, fit, &QWidget::setEnabled);
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
        HandoverWish wish{heights->isChecked(), fit->isChecked(), sets->isChecked(), singles->isChecked()};
        wish.weightBits = deep->isChecked() ? 16 : 8;
        wish.channels = order->currentData().toString().toStdString();
        wish.pictures = pictures->isChecked();
        handOverTo(folder->text(), wish);
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
