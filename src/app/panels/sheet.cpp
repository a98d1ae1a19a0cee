#include "panels/sheet.h"

#include <QCheckBox>
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
#include "panels/number_field.h"
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
    all->addWidget(stack, 1);
    all->addWidget(heading(tr("What was done"), this));
    history_ = new QListWidget(this);
    history_->setObjectName("history");
    history_->setFixedHeight(100);
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
    c->addWidget(make);
    c->addWidget(take);
    c->addStretch();
    connect(make, &QPushButton::clicked, this, &Sheet::newLevelWanted);
    connect(take, &QPushButton::clicked, this, &Sheet::importWanted);
    connect(name, &QLineEdit::editingFinished, this, [this, name] {
        const std::string text = name->text().trimmed().toStdString();
        if (text.empty() || text == session_.level().name) return;
        session_.edit(tr("Rename the level"), [&](Level& l) { l.name = text; });
    });
    const auto show = [this, name, facts] {
        const Level& l = session_.level();
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
    c->addWidget(new BrushFields(session_, page));
    auto* row = new QHBoxLayout;
    row->addWidget(heading(tr("Layer"), page));
    row->addStretch();
    auto* hide = new QToolButton(page);
    hide->setObjectName("hideLayer");
    hide->setCheckable(true);
    hide->setIcon(icon("eye-off"));
    hide->setToolTip(tr("Hide the layer"));
    auto* keep = new QToolButton(page);
    keep->setObjectName("keepLayer");
    keep->setCheckable(true);
    keep->setIcon(icon("lock"));
    keep->setToolTip(tr("Protect the layer: no brush changes it"));
    auto* solo = new QToolButton(page);
    solo->setObjectName("soloLayer");
    solo->setCheckable(true);
    solo->setIcon(icon("heat"));
    solo->setToolTip(tr("Show only where this layer lies, as a heat picture"));
    auto* more = new QToolButton(page);
    more->setIcon(icon("menu"));
    more->setToolTip(tr("Move, replace or delete the layer"));
    row->addWidget(solo);
    row->addWidget(keep);
    row->addWidget(hide);
    row->addWidget(more);
    c->addLayout(row);
    auto* name = new QLineEdit(page);
    name->setObjectName("layerName");
    c->addWidget(name);
    auto* tile = new NumberField(tr("Tile size"), tr(" m"), {0.05, 1000, 2, true}, page);
    auto* blend = new NumberField(tr("Blend"), tr(" %"), {0, 100, 0}, page);
    blend->setToolTip(tr("0 %: edges fade like mist. 100 %: what stands tall in the layer comes through first."));
    auto* sides = new QCheckBox(tr("From three sides where steep"), page);
    sides->setObjectName("threeSides");
    sides->setToolTip(tr("Steep ground takes the pictures from the side as well, so that they do not stretch."));
    c->addWidget(tile);
    c->addWidget(blend);
    c->addWidget(sides);
    c->addStretch();
    const auto change = [this](const QString& what, auto set, const QString& gesture = {}) {
        session_.edit(what, [&](Level& l) { set(*l.layer(session_.layer())); }, gesture);
    };
    connect(name, &QLineEdit::editingFinished, this, [=, this] {
        const std::string text = name->text().trimmed().toStdString();
        const Layer* l = session_.level().layer(session_.layer());
        if (l && !text.empty() && text != l->name) change(tr("Rename layer"), [&](Layer& x) { x.name = text; });
    });
    connect(tile, &NumberField::changed, this, [=](double v) { change(tr("Tile size"), [v](Layer& x) { x.tileSize = v; }, "tile"); });
    connect(blend, &NumberField::changed, this, [=](double v) { change(tr("Blend"), [v](Layer& x) { x.blend = static_cast<float>(v / 100); }, "blend"); });
    connect(hide, &QToolButton::clicked, this, [=](bool on) { change(on ? tr("Hide layer") : tr("Show layer"), [on](Layer& x) { x.hidden = on; }); });
    connect(sides, &QCheckBox::clicked, this, [=](bool on) { change(on ? tr("From three sides") : tr("From above"), [on](Layer& x) { x.sides = on; }); });
    connect(keep, &QToolButton::clicked, this, [=](bool on) { change(on ? tr("Protect layer") : tr("Let layer go"), [on](Layer& x) { x.kept = on; }); });
    const auto showSolo = [this, solo] {
        Look look = view_.look();
        look.overlay = solo->isChecked() ? Overlay::coverage : look.overlay == Overlay::coverage ? Overlay::none : look.overlay;
        look.soloLayer = std::max(session_.level().layerIndex(session_.layer()), 0);
        view_.setLook(look);
    };
    connect(solo, &QToolButton::clicked, this, showSolo);
    for (const auto signal : {&Session::layerChosen, &Session::edited}) connect(&session_, signal, page, [=] { if (solo->isChecked()) showSolo(); });
    // Elsewhere the ground is seen as it is.
    connect(&session_, &Session::stationChanged, page, [=, this] {
        if (session_.station() == Station::cover || !solo->isChecked()) return;
        solo->setChecked(false);
        showSolo();
    });
    connect(more, &QToolButton::clicked, this, &Sheet::layerMenuWanted);
    const auto show = [=, this] {
        const Layer* l = session_.level().layer(session_.layer());
        if (!l) return;
        if (!name->hasFocus()) name->setText(QString::fromStdString(l->name));
        tile->setValue(l->tileSize);
        blend->setValue(l->blend * 100);
        hide->setChecked(l->hidden);
        keep->setChecked(l->kept);
        sides->setChecked(l->sides);
    };
    connect(&session_, &Session::edited, page, show);
    connect(&session_, &Session::layerChosen, page, [=, this] {
        if (const Layer* l = session_.level().layer(session_.layer())) name->setText(QString::fromStdString(l->name));
        show();
    });
    show();
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
    for (QCheckBox* b : {heights, fit, sets, singles}) {
        b->setChecked(true);
        c->addWidget(b);
    }
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
        emit handOverWanted(folder->text(), heights->isChecked(), fit->isChecked(), sets->isChecked(), singles->isChecked());
    });
    return page;
}

}  // namespace jam
