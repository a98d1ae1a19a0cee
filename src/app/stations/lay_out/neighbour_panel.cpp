#include "stations/lay_out/neighbour_panel.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>

#include "house/station.h"
#include "looks/theme.h"
#include "match/neighbour.h"
#include "panels/number_field.h"
#include "panels/page.h"
#include "workplace/workplace.h"

namespace jam {

NeighbourPanel::NeighbourPanel(House& house, QWidget* parent) : QWidget(parent), house_(house) {
    auto* column = pageColumn(this);
    column->setSpacing(5);
    side_ = new QComboBox(this);
    side_->setAccessibleName(tr("Side of the neighbour"));
    side_->setObjectName("neighbourSide");
    side_->addItems({tr("In the north"), tr("In the east"), tr("In the south"), tr("In the west")});
    column->addWidget(side_);
    auto* row = new QHBoxLayout;
    file_ = new QLabel(this);
    file_->setObjectName("neighbourFile");
    forget_ = iconButton("forgetNeighbour", "remove", tr("No neighbour on this side; what was fitted stays"), this);
    row->addWidget(file_, 1);
    row->addWidget(forget_);
    column->addLayout(row);
    choose_ = new QPushButton(tr("Choose its level…"), this);
    choose_->setObjectName("chooseNeighbour");
    column->addWidget(choose_);
    says_ = new QLabel(this);
    says_->setObjectName("neighbourSays");
    says_->setWordWrap(true);
    column->addWidget(says_);
    blend_ = new NumberField(tr("Blended over"), tr(" m"), {0, 500, 1}, this);
    blend_->setObjectName("neighbourBlend");
    blend_->setValue(40);
    column->addWidget(blend_);
    auto* parts = new QHBoxLayout;
    const auto check = [&](const char* id, const QString& name) {
        auto* b = new QCheckBox(name, this);
        b->setObjectName(id);
        b->setChecked(true);
        return b;
    };
    heights_ = check("fitHeights", tr("Heights"));
    cover_ = check("fitCover", tr("Layers"));
    parts->addWidget(heights_);
    parts->addWidget(cover_);
    column->addLayout(parts);
    fit_ = new QPushButton(tr("Fit the border to it"), this);
    fit_->setObjectName("fitBorder");
    column->addWidget(fit_);
    ghosts_ = check("ghosts", tr("Show neighbours as ghosts"));
    column->addWidget(ghosts_);
    Neighbours& neighbours = house.place.neighbours;
    connect(side_, &QComboBox::currentIndexChanged, this, &NeighbourPanel::refresh);
    connect(choose_, &QPushButton::clicked, this, &NeighbourPanel::choose);
    connect(forget_, &QToolButton::clicked, this, [this, &neighbours] { neighbours.forget(side()); });
    connect(fit_, &QPushButton::clicked, this, &NeighbourPanel::fit);
    connect(ghosts_, &QCheckBox::clicked, &neighbours, &Neighbours::setGhosts);
    connect(&neighbours, &Neighbours::changed, this, &NeighbourPanel::refresh);
    house.place.document.on(About::raster | About::history, this, &NeighbourPanel::refresh);
    refresh();
}

void NeighbourPanel::showEvent(QShowEvent* e) {
    refresh();
    QWidget::showEvent(e);
}

Side NeighbourPanel::side() const { return static_cast<Side>(side_->currentIndex()); }

void NeighbourPanel::choose() {
    const QString file = QFileDialog::getOpenFileName(window(), tr("The level beside this one"), {},
                                                      tr("Levels (*.jamhill)"));
    if (!file.isEmpty()) house_.place.neighbours.choose(side(), file);
}

void NeighbourPanel::refresh() {
    if (!isVisible()) return;
    const Neighbours::Neighbour& b = house_.place.neighbours.on(side());
    file_->setText(b.file.isEmpty() ? tr("No neighbour.") : QFileInfo(b.file).fileName());
    forget_->setEnabled(!b.file.isEmpty());
    fit_->setEnabled(b.strip && b.trouble.isEmpty());
    ghosts_->setChecked(house_.place.neighbours.ghosts());
    QString says = b.trouble, colour;
    if (b.file.isEmpty()) {
        says = tr("A level file of the same spacing and as many samples along that side.");
    } else if (!b.trouble.isEmpty()) {
        colour = theme().warns.name();
    } else if (!b.strip) {
        says = tr("Reading…");
    } else if (const Result<BorderGap> gap = borderGap(house_.place.document.standing(), *b.strip, side())) {
        const BorderGap& g = gap.value();
        says = g.none() ? tr("The border is met, to the bit.")
                        : tr("Heights differ by up to %1 m, layers by up to %2 %.")
                              .arg(g.height, 0, 'f', 2)
                              .arg(100.0 * g.weight / 255, 0, 'f', 0);
        colour = (g.none() ? theme().passes : theme().brush).name();
    }
    says_->setText(says);
    says_->setStyleSheet(colour.isEmpty() ? QString() : QString("color: %1;").arg(colour));
}

void NeighbourPanel::fit() {
    const Neighbours::Neighbour& b = house_.place.neighbours.on(side());
    if (!b.strip) return;
    MatchWish wish;
    wish.side = side();
    wish.blend = blend_->value();
    wish.heights = heights_->isChecked();
    wish.cover = cover_->isChecked();
    // As it is seen from where this level lies, so that both can move together.
    const QString own = house_.place.document.path();
    wish.file = (own.isEmpty() ? b.file : QFileInfo(own).dir().relativeFilePath(b.file)).toStdString();
    house_.services.workOn(tr("Fit the border"),
                           LevelJob::onAll([wish, strip = b.strip](const Level& level, const Context& c) {
                               return matchBorder(level, *strip, wish, c);
                           }));
}

}  // namespace jam
