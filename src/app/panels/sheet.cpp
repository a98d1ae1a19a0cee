#include "panels/sheet.h"

#include <QButtonGroup>
#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QFileDialog>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QScrollArea>
#include <QSettings>
#include <QSignalBlocker>
#include <QStackedWidget>
#include <QToolButton>
#include <QVBoxLayout>

#include "panels/brush_fields.h"
#include "panels/fold.h"
#include "panels/layer_panel.h"
#include "panels/number_field.h"
#include "panels/rules_panel.h"
#include "panels/see_fields.h"
#include "panels/sun_dial.h"
#include "panels/whole_panel.h"
#include "surveyor.h"
#include "theme.h"
#include "view/ground_view.h"

namespace jam {

namespace {

QLabel* heading(const QString& text, QWidget* parent) {
    auto* label = new QLabel(text, parent);
    label->setProperty("heading", true);
    return label;
}

QLabel* note(const QString& text, QWidget* parent) {
    auto* label = new QLabel(text, parent);
    label->setProperty("quiet", true);
    label->setWordWrap(true);
    return label;
}

QVBoxLayout* column(QWidget* page) {
    auto* c = new QVBoxLayout(page);
    c->setContentsMargins(0, 0, 0, 0);
    c->setSpacing(7);
    return c;
}

}  // namespace

Sheet::Sheet(Session& session, GroundView& view, const Surveyor& surveyor, Jobs& jobs, QWidget* parent)
    : QWidget(parent), session_(session), view_(view), surveyor_(surveyor), jobs_(jobs) {
    setFixedWidth(262);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(12, 10, 6, 10);
    auto* stack = new QStackedWidget(this);
    for (QWidget* page : {layOutPage(), brushPage(), coverPage(), lightPage(), handOverPage()}) {
        auto* scroll = new QScrollArea(stack);
        scroll->setWidgetResizable(true);
        scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        page->setContentsMargins(0, 0, 8, 0);  // room for the scroll bar
        scroll->setWidget(page);
        stack->addWidget(scroll);
    }
    // Long entries must not make the sheet wider.
    for (QComboBox* box : stack->findChildren<QComboBox*>()) {
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(6);
    }
    all->addWidget(stack, 1);
    all->addWidget(heading(tr("What was done"), this));
    history_ = new QListWidget(this);
    history_->setObjectName("history");
    history_->setFixedHeight(76);
    history_->setFocusPolicy(Qt::NoFocus);
    history_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    all->addWidget(history_);
    connect(history_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) { session_.stepTo(static_cast<size_t>(history_->row(item))); });
    connect(&session, &Session::edited, this, &Sheet::showHistory);
    const auto turn = [stack, &session] { stack->setCurrentIndex(static_cast<int>(session.station())); };
    connect(&session, &Session::stationChanged, stack, turn);
    turn();
    showHistory();
}

void Sheet::showHistory() {
    const QSignalBlocker quiet(history_);
    history_->clear();
    const auto& entries = session_.history().entries();
    for (size_t i = 0; i < entries.size(); ++i) {
        auto* item = new QListWidgetItem(QString::fromStdString(entries[i].what), history_);
        if (i > session_.history().place()) item->setForeground(theme().quiet);
    }
    history_->setCurrentRow(static_cast<int>(session_.history().place()));
    history_->scrollToItem(history_->currentItem());
}

QWidget* Sheet::layOutPage() {
    auto* page = new QWidget(this);
    auto* c = column(page);
    c->addWidget(heading(tr("This level"), page));
    auto* name = new QLineEdit(page);
    name->setObjectName("levelName");
    c->addWidget(name);
    auto* facts = note({}, page);
    c->addWidget(facts);
    auto* make = new QPushButton(tr("New level…"), page);
    auto* take = new QPushButton(tr("Start from a heightmap…"), page);
    auto* factor = new QComboBox(page);
    factor->setObjectName("coverFactor");
    for (const int f : {1, 2, 4}) factor->addItem(f == 1 ? tr("Cover as fine as the ground") : tr("Cover %1 × finer").arg(f), f);
    factor->setToolTip(tr("How fine layers can be painted. It can be changed at any time; what is painted stays."));
    c->addWidget(factor);
    c->addWidget(make);
    c->addWidget(take);
    c->addStretch();
    connect(make, &QPushButton::clicked, this, &Sheet::newLevelWanted);
    connect(take, &QPushButton::clicked, this, &Sheet::importWanted);
    connect(factor, &QComboBox::activated, this, [this, factor](int i) { emit coverFactorWanted(factor->itemData(i).toInt()); });
    connect(name, &QLineEdit::editingFinished, this, [this, name] {
        const std::string text = name->text().trimmed().toStdString();
        if (text.empty() || text == session_.level().name) return;
        session_.edit(tr("Rename the level"), [&](Level& l) { l.name = text; });
    });
    const auto show = [this, name, facts, factor] {
        const Level& l = session_.level();
        factor->setCurrentIndex(factor->findData(l.coverFactor));
        if (!name->hasFocus()) name->setText(QString::fromStdString(l.name));
        facts->setText(tr("%1 × %2 samples, %3 m apart\n%4 × %5 m\nGround may lie from %6 to %7 m\nIt began flat at %8 m\nCover has %9 × as many samples")
                           .arg(l.columns).arg(l.rows).arg(l.spacing).arg(l.width()).arg(l.depth()).arg(l.lowest).arg(l.highest).arg(l.startHeight).arg(l.coverFactor * l.coverFactor));
    };
    connect(&session_, &Session::edited, page, show);
    show();
    return page;
}

QWidget* Sheet::brushPage() {
    auto* page = new QWidget(this);
    auto* c = column(page);
    auto* brush = new QWidget(page);
    auto* b = column(brush);
    b->addWidget(new BrushFields(session_, brush));
    auto* see = new Fold("foldSee", tr("What to see"), true, brush);
    see->column()->addWidget(new SeeFields(session_, view_, surveyor_, see));
    b->addWidget(see);
    b->addStretch();
    c->addWidget(brush);
    whole_ = new WholePanel(session_, jobs_, page);
    whole_->hide();
    c->addWidget(whole_);
    c->addStretch();
    brush_ = brush;
    connect(whole_, &WholePanel::closeWanted, this, [this] { showWhole(false); });
    connect(&session_, &Session::stationChanged, this, [this] { showWhole(false); });
    return page;
}

void Sheet::showWhole(bool on) {
    if (on == whole_->isVisibleTo(this)) return;
    if (on) session_.setStation(Station::shape);
    else whole_->leave();
    brush_->setVisible(!on);
    whole_->setVisible(on);
    if (on) whole_->choose(0);
    emit wholeShown(on);
}

QWidget* Sheet::coverPage() {
    auto* page = new QWidget(this);
    auto* c = column(page);
    // Brush, layer and its rules, one at a time.
    auto* brush = new BrushFields(session_, page);
    rules_ = new RulesPanel(session_, page);
    layer_ = new LayerPanel(session_, view_, *rules_, page);
    auto* row = new QHBoxLayout;
    row->setSpacing(3);
    auto* group = new QButtonGroup(page);
    const struct { const char* id; QString name; QWidget* shows; } parts[] = {{"partBrush", tr("Brush"), brush}, {"partLayer", tr("Layer"), layer_}, {"partRules", tr("Rules"), rules_}};
    for (const auto& part : parts) {
        auto* b = new QToolButton(page);
        b->setObjectName(part.id);
        b->setText(part.name);
        b->setCheckable(true);
        b->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        group->addButton(b);
        row->addWidget(b);
        connect(b, &QToolButton::toggled, part.shows, &QWidget::setVisible);
        part.shows->hide();
    }
    c->addLayout(row);
    for (const auto& part : parts) c->addWidget(part.shows);
    c->addStretch();
    group->buttons().front()->setChecked(true);
    auto* rulesButton = group->buttons().back();
    connect(rules_, &RulesPanel::hinted, rulesButton, [rulesButton](const QString& hint) { rulesButton->setText(hint.isEmpty() ? tr("Rules") : tr("Rules · %1").arg(hint)); });
    connect(layer_, &LayerPanel::menuWanted, this, &Sheet::layerMenuWanted);
    connect(layer_, &LayerPanel::picturesWanted, this, &Sheet::layerPicturesWanted);
    return page;
}

QWidget* Sheet::lightPage() {
    auto* page = new QWidget(this);
    auto* c = column(page);
    c->addWidget(heading(tr("Sun"), page));
    c->addWidget(new SunDial(session_, page));
    auto* from = new NumberField(tr("From"), tr("°"), {0, 359, 0}, page);
    auto* high = new NumberField(tr("Height"), tr("°"), {1, 90, 0}, page);
    from->setToolTip(tr("Clockwise from north."));
    c->addWidget(from);
    c->addWidget(high);
    auto* flat = new QCheckBox(tr("Flat light, for judging colour"), page);
    c->addWidget(flat);
    c->addStretch();
    connect(from, &NumberField::changed, this, [this](double v) { turnSun(session_, static_cast<float>(v), session_.level().sun.elevation); });
    connect(high, &NumberField::changed, this, [this](double v) { turnSun(session_, session_.level().sun.azimuth, static_cast<float>(v)); });
    connect(flat, &QCheckBox::toggled, this, [this](bool on) { view_.setFlatLight(on); });
    const auto show = [this, from, high] {
        from->setValue(session_.level().sun.azimuth);
        high->setValue(session_.level().sun.elevation);
    };
    connect(&session_, &Session::edited, page, show);
    show();
    return page;
}

QWidget* Sheet::handOverPage() {
    auto* page = new QWidget(this);
    auto* c = column(page);
    c->addWidget(heading(tr("Hand over"), page));
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
    order->setObjectName("channelOrder");
    for (const char* o : {"RGBA", "BGRA", "ARGB", "ABGR", "GRBA"}) order->addItem(tr("Channels in the order %1").arg(o), QString(o));
    order->setToolTip(tr("In which channel of a set the first, second, third and fourth layer goes."));
    c->addWidget(order);
    connect(sets, &QCheckBox::toggled, order, &QWidget::setEnabled);
    auto* indent = new QHBoxLayout;
    indent->addSpacing(20);
    c->removeWidget(fit);
    indent->addWidget(fit);
    c->insertLayout(2, indent);
    connect(heights, &QCheckBox::toggled, fit, &QWidget::setEnabled);
    c->addWidget(note(tr("A manifest that says every size, range and axis goes with them."), page));
    c->addSpacing(4);
    c->addWidget(heading(tr("Into the folder"), page));
    auto* row = new QHBoxLayout;
    auto* folder = new QLineEdit(QSettings().value("handOverFolder", QDir::homePath() + "/jamhill-handover").toString(), page);
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
    connect(choose, &QToolButton::clicked, this, [this, folder] {
        const QString chosen = QFileDialog::getExistingDirectory(this, tr("Folder to hand over into"), folder->text());
        if (!chosen.isEmpty()) folder->setText(chosen);
    });
    connect(go, &QPushButton::clicked, this, [=, this] {
        QSettings().setValue("handOverFolder", folder->text());
        HandoverWish wish{heights->isChecked(), fit->isChecked(), sets->isChecked(), singles->isChecked()};
        wish.weightBits = deep->isChecked() ? 16 : 8;
        wish.channels = order->currentData().toString().toStdString();
        wish.pictures = pictures->isChecked();
        emit handOverWanted(folder->text(), wish);
    });
    return page;
}

}  // namespace jam
