#include "stations/walk/walk_panel.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "base/maths.h"
#include "files/walk_file.h"
#include "panels/page.h"
#include "stations/walk/walk_station.h"
#include "view/ground_view.h"
#include "watch/reach_watch.h"

namespace jam {

WalkPanel::WalkPanel(House& house, WalkStation& station, QWidget* parent)
    : QWidget(parent), house_(house), station_(station) {
    auto* c = pageColumn(this);
    c->setSpacing(4);
    last_ = quietLabel({}, this);
    last_->setObjectName("lastWalk");
    c->addWidget(last_);
    const auto button = [&](const char* id, const QString& text, const QString& tip) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(id);
        b->setToolTip(tip);
        c->addWidget(b);
        return b;
    };
    along_ = button("goAlong", tr("Go along the way that is shown"),
                    tr("The body goes by itself; take a key and you go on"));
    again_ = button("walkAgain", tr("Walk it again"), tr("The same steps, on the ground as it is now"));
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    save_ = button("saveWalk", tr("Save…"), tr("Keep the walk as a file"));
    auto* open = button("openWalk", tr("Open…"), tr("A walk of this level, to be walked again"));
    row->addWidget(save_);
    row->addWidget(open);
    c->addLayout(row);
    connect(along_, &QPushButton::clicked, this, [this] {
        const auto& way = house_.reach.way();
        if (!way || way->points.empty()) return;
        WalkHand::Begin begin;
        begin.x = way->points.front().x, begin.z = way->points.front().z;
        begin.along = way;
        if (way->points.size() > 1)
            begin.heading = std::atan2(way->points[1].x - begin.x, begin.z - way->points[1].z) * kDegrees;
        station_.walk(begin);
    });
    connect(again_, &QPushButton::clicked, this, [this] {
        if (!station_.lastWalk()) return;
        WalkHand::Begin begin;
        begin.again = station_.lastWalk();
        station_.walk(begin);
    });
    connect(save_, &QPushButton::clicked, this, &WalkPanel::save);
    connect(open, &QPushButton::clicked, this, &WalkPanel::open);
    connect(&station, &WalkStation::walkKept, this, &WalkPanel::refresh);
    connect(&house.reach, &ReachWatch::wayFound, this, &WalkPanel::refresh);
    refresh();
}

void WalkPanel::refresh() {
    const auto& walk = station_.lastWalk();
    again_->setEnabled(walk != nullptr);
    save_->setEnabled(walk != nullptr);
    along_->setEnabled(house_.reach.way() != nullptr);
    last_->setText(walk ? tr("The last walk: %1, %2 s.")
                              .arg(QString::fromStdString(walk->body.name))
                              .arg(walk->seconds(), 0, 'f', 0)
                        : tr("What you walk is kept here until the next walk."));
}

void WalkPanel::save() {
    const auto walk = station_.lastWalk();
    if (!walk) return;
    QString name = QString::fromStdString(walk->level);
    const QString path = house_.services.askSaveFile(tr("Save the walk"), name.replace('/', '-') + ".walk",
                                                     tr("Walks (*.walk)"), "walk");
    if (path.isEmpty()) return;
    if (const Status s = writeWalk(*walk, path.toStdString()); !s) return house_.services.refuse(s.error());
    house_.services.say(tr("Saved %1.").arg(path));
}

void WalkPanel::open() {
    const QString path = QFileDialog::getOpenFileName(window(), tr("Open a walk"), {},
                                                      tr("Walks (*.walk);;All files (*)"));
    if (path.isEmpty()) return;
    Result<WalkRecord> read = readWalk(path.toStdString(), house_.place.document.standing());
    if (!read) return house_.services.refuse(read.error());
    station_.keep(std::make_shared<const WalkRecord>(read.take()));
    WalkHand::Begin begin;
    begin.again = station_.lastWalk();
    station_.walk(begin);
}

}  // namespace jam
