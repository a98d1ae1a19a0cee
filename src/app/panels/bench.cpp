#include "panels/bench.h"

#include <QAction>
#include <QButtonGroup>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QSettings>
#include <QSlider>
#include <QStackedWidget>
#include <QToolButton>
#include <QWheelEvent>

#include "panels/brush_shelf.h"
#include "panels/chart.h"
#include "panels/layer_strip.h"
#include "panels/readout.h"
#include "panels/section.h"
#include "panels/sun_dial.h"
#include "surveyor.h"
#include "theme.h"

namespace jam {

namespace {

// A line of buttons that the wheel pushes along where it does not fit.
class Line : public QScrollArea {
public:
    using QScrollArea::QScrollArea;

protected:
    void wheelEvent(QWheelEvent* e) override {
        horizontalScrollBar()->setValue(horizontalScrollBar()->value() - (e->angleDelta().y() + e->angleDelta().x()) / 2);
        e->accept();
    }
};

// Tools as buttons with their names, in rows of so many.
QWidget* toolButtons(const QList<QAction*>& actions, int across, QSize size, QWidget* parent) {
    auto* box = new QWidget(parent);
    auto* grid = new QGridLayout(box);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setSpacing(3);
    for (int i = 0; i < actions.size(); ++i) {
        auto* b = new QToolButton(box);
        b->setDefaultAction(actions[i]);
        b->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
        b->setIconSize(size.height() > 50 ? QSize(28, 28) : QSize(22, 22));
        b->setFixedSize(size);
        b->setStyleSheet("padding: 2px 0;");
        grid->addWidget(b, i / across, i % across);
    }
    grid->setColumnStretch(across, 1);
    return box;
}

// A small row of choices without names.
QWidget* wayButtons(const QList<QAction*>& actions, QWidget* parent) {
    auto* box = new QWidget(parent);
    auto* row = new QHBoxLayout(box);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(3);
    for (QAction* a : actions) {
        auto* b = new QToolButton(box);
        b->setDefaultAction(a);
        b->setToolButtonStyle(Qt::ToolButtonIconOnly);
        b->setIconSize({20, 20});
        b->setFixedSize(36, 36);
        row->addWidget(b);
    }
    return box;
}

// Suns worth having at hand.
QWidget* sunButtons(Session& session, QWidget* parent) {
    auto* box = new QWidget(parent);
    auto* row = new QHBoxLayout(box);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    const struct { QString name; float azimuth, elevation; } suns[] = {
        {Bench::tr("First light"), 98, 8}, {Bench::tr("Morning"), 118, 28}, {Bench::tr("Noon"), 180, 58},
        {Bench::tr("Afternoon"), 242, 32}, {Bench::tr("Last light"), 276, 8}};
    for (const auto& s : suns) {
        auto* b = new QPushButton(s.name, box);
        row->addWidget(b);
        QObject::connect(b, &QPushButton::clicked, box, [&session, s] { turnSun(session, s.azimuth, s.elevation); });
    }
    row->addStretch();
    return box;
}

// What goes out, in words, always of the level as it is.
QLabel* handOverFacts(Session& session, const Surveyor& surveyor, QWidget* parent) {
    auto* label = new QLabel(parent);
    const auto tell = [label, &session, &surveyor] {
        const Level& l = session.level();
        QStringList lines;
        const auto& f = surveyor.findings();
        lines << Bench::tr("heightmap.png: %1 × %2, 16 bits%3").arg(l.columns).arg(l.rows)
                     .arg(f ? Bench::tr(", ground from %1 to %2 m").arg(f->relief.lowest, 0, 'f', 2).arg(f->relief.highest, 0, 'f', 2) : QString());
        const auto sets = (l.layers.size() + 3) / 4;
        lines << (sets == 1 ? Bench::tr("weights-1.png: %1 × %2, RGBA").arg(l.coverColumns()).arg(l.coverRows())
                            : Bench::tr("weights-1.png to weights-%3.png: %1 × %2, RGBA").arg(l.coverColumns()).arg(l.coverRows()).arg(sets));
        lines << Bench::tr("weight-01-… to weight-%1-…: one grey picture for each of %2 layers").arg(l.layers.size(), 2, 10, QChar('0')).arg(l.layers.size());
        lines << Bench::tr("manifest.json: sizes, ranges, axes, layers");
        label->setText(lines.join("\n"));
    };
    QObject::connect(&session, &Session::edited, label, tell);
    QObject::connect(&surveyor, &Surveyor::found, label, tell);
    tell();
    return label;
}

QLabel* quietLabel(const QString& text, QWidget* parent) {
    auto* label = new QLabel(text, parent);
    label->setProperty("quiet", true);
    label->setWordWrap(true);
    return label;
}

}  // namespace

Bench::Bench(Session& session, GroundView& view, const Surveyor& surveyor, Shelf& shelf, const QList<QAction*>& tools,
             const QList<QAction*>& ways, QWidget* parent) : QWidget(parent) {
    setFixedHeight(178);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(10, 8, 10, 8);
    row->setSpacing(12);

    auto* stack = new QStackedWidget(this);
    auto* shape = new QWidget(stack);
    auto* shapeRow = new QHBoxLayout(shape);
    shapeRow->setContentsMargins(0, 0, 0, 0);
    shapeRow->setSpacing(10);
    auto* shapeColumn = new QVBoxLayout;
    shapeColumn->setSpacing(3);
    const int shaping = static_cast<int>(Tool::paint);
    shapeColumn->addWidget(toolButtons(tools.mid(0, shaping), 6, {69, 46}, shape));
    // Ways and tips.
    const auto tipLine = [&](QWidget* page) {
        auto* line = new Line(page);
        auto* box = new QWidget(line);
        auto* row = new QHBoxLayout(box);
        row->setContentsMargins(0, 0, 0, 0);
        row->setSpacing(9);
        row->addWidget(wayButtons(ways, box));
        tipRows_ << new TipRow(session, shelf, box);
        row->addWidget(tipRows_.back());
        line->setWidget(box);
        line->setWidgetResizable(true);
        line->setFixedHeight(37);
        line->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        line->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        return line;
    };
    shapeColumn->addWidget(tipLine(shape));
    shapeColumn->addStretch();
    shapeRow->addLayout(shapeColumn, 3);
    brushes_ = new BrushList(session, shelf, shape);
    brushes_->setMinimumWidth(0);
    shapeRow->addWidget(brushes_, 1);

    auto* cover = new QWidget(stack);
    auto* coverRow = new QHBoxLayout(cover);
    coverRow->setContentsMargins(0, 0, 0, 0);
    auto* side = new QVBoxLayout;
    side->setSpacing(3);
    side->addWidget(toolButtons(tools.mid(shaping), 5, {61, 46}, cover));
    side->addWidget(tipLine(cover));
    side->addStretch();
    coverRow->addLayout(side, 4);
    auto* scroll = new QScrollArea(cover);
    layers_ = new LayerStrip(session, surveyor, scroll);
    scroll->setWidget(layers_);
    scroll->setWidgetResizable(true);
    auto* beside = new QVBoxLayout;
    beside->setSpacing(2);
    auto* find = new QLineEdit(cover);
    find->setObjectName("findLayer");
    find->setPlaceholderText(tr("Find a layer"));
    find->setClearButtonEnabled(true);
    find->addAction(icon("search"), QLineEdit::LeadingPosition);
    auto* large = new QSlider(Qt::Horizontal, cover);
    large->setObjectName("thumbnailSize");
    large->setRange(LayerStrip::kSmallest, LayerStrip::kLargest);
    large->setFixedWidth(70);
    large->setToolTip(tr("Size of the pictures"));
    large->setValue(QSettings().value("thumbnail", layers_->thumbnail()).toInt());
    layers_->setThumbnail(large->value());
    connect(find, &QLineEdit::textChanged, layers_, &LayerStrip::search);
    connect(large, &QSlider::valueChanged, layers_, [this](int v) {
        layers_->setThumbnail(v);
        QSettings().setValue("thumbnail", v);
    });
    connect(layers_, &LayerStrip::resized, large, [this, large] { large->setValue(layers_->thumbnail()); });
    // The chosen layer is always to be seen, however it was chosen.
    connect(&session, &Session::layerChosen, scroll, [this, scroll, &session] {
        const QRect tile = layers_->tile(session.level().layerIndex(session.layer()));
        if (!tile.isEmpty()) scroll->ensureVisible(tile.center().x(), tile.top(), tile.width(), 0);
    });
    auto* top = new QHBoxLayout;
    top->addWidget(find, 1);
    top->addWidget(large);
    beside->addLayout(top);
    beside->addWidget(scroll, 1);
    coverRow->addLayout(beside, 5);

    const auto plain = [&](const QString& text, QWidget* more = nullptr) {
        auto* page = new QWidget(stack);
        auto* column = new QVBoxLayout(page);
        column->setContentsMargins(0, 0, 0, 0);
        if (more) column->addWidget(more);
        column->addWidget(quietLabel(text, page));
        column->addStretch();
        return page;
    };
    stack->addWidget(plain(tr("How large the level is, how fine, how high it may rise and how deep one may dig is set in the sheet at the right. "
                              "Fly with W A S D, look round with the right button, go towards the cursor with the wheel.")));
    stack->addWidget(shape);
    stack->addWidget(cover);
    stack->addWidget(plain(tr("Turn the sun in the sheet at the right. A low sun shows relief, a high one shows colour."), sunButtons(session, stack)));
    stack->addWidget(plain(tr("Choose in the sheet at the right what goes out. A manifest that says every size, range and axis goes with it."), handOverFacts(session, surveyor, stack)));
    // A line of its own for what is said, so that the view never moves for it.
    said_ = new QLabel(this);
    said_->setFixedHeight(18);
    said_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    saidTimer_.setSingleShot(true);
    saidTimer_.setInterval(8000);
    connect(&saidTimer_, &QTimer::timeout, said_, &QLabel::clear);
    auto* left = new QVBoxLayout;
    left->setSpacing(2);
    left->addWidget(stack, 1);
    left->addWidget(said_);
    row->addLayout(left, 1);

    auto* live = new QVBoxLayout;
    live->setSpacing(2);
    section_ = new Section(session, view, this);
    section_->setFixedWidth(390);
    readout_ = new Readout(session, this);
    readout_->setFixedWidth(390);
    live->addWidget(section_, 1);
    live->addWidget(readout_);
    row->addLayout(live);
    chart_ = new Chart(session, view, surveyor, this);
    chart_->setFixedWidth(158);
    row->addWidget(chart_);

    const auto turn = [stack, &session] { stack->setCurrentIndex(static_cast<int>(session.station())); };
    connect(&session, &Session::stationChanged, stack, turn);
    turn();
}

void Bench::say(const QString& sentence) {
    said_->setText(sentence);
    said_->setToolTip(sentence);
    saidTimer_.start();
}

}  // namespace jam
