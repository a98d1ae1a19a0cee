#include "stations/lay_out/layout_dialog.h"

#include <cmath>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QVBoxLayout>

#include "looks/layer_art.h"
#include "looks/memory_words.h"
#include "stations/lay_out/ground_preview.h"

namespace jam {

LayoutDialog::LayoutDialog(const std::vector<Layer>& layers, QWidget* parent) : QDialog(parent), layers_(layers) {
    setWindowTitle(tr("Lay out a new level"));
    auto* all = new QVBoxLayout(this);
    all->setSpacing(10);
    auto* row = new QHBoxLayout;
    row->setSpacing(16);
    all->addLayout(row);
    preview_ = new GroundPreview({240, 240}, this);
    auto* left = new QVBoxLayout;
    left->addWidget(preview_);
    left->addStretch();
    row->addLayout(left);
    form_ = new QFormLayout;
    form_->setLabelAlignment(Qt::AlignLeft);
    form_->setVerticalSpacing(5);
    form_->setHorizontalSpacing(18);
    row->addLayout(form_, 1);
    name_ = new QLineEdit(tr("Untitled level"), this);
    name_->setObjectName("name");
    name_->setCursorPosition(0);
    form_->addRow(tr("Name"), name_);
    width_ = metres("width", 512, 0.1, 100000);
    depth_ = metres("depth", 512, 0.1, 100000);
    spacing_ = metres("spacing", 1, 0.01, 100, 2);
    lowest_ = metres("lowest", -50, -10000, 10000);
    highest_ = metres("highest", 200, -10000, 10000);
    start_ = metres("start", 0, -10000, 10000);
    form_->addRow(tr("Width, west to east"), width_);
    form_->addRow(tr("Depth, north to south"), depth_);
    form_->addRow(tr("Spacing of the samples"), spacing_);
    form_->addRow(tr("Lowest ground"), lowest_);
    form_->addRow(tr("Highest ground"), highest_);
    form_->addRow(tr("Start height"), start_);
    start_->setToolTip(tr("Leave room below, so that you can dig."));
    ground_ = new QComboBox(this);
    ground_->setObjectName("ground");
    ground_->addItems({tr("Flat"), tr("Rolling hills"), tr("Ridged mountains"), tr("Island"), tr("Canyon"),
                       tr("Terraces"), tr("Crater lake country")});
    form_->addRow(tr("Ground"), ground_);
    formSize_ = metres("formSize", 260, 1, 50000, 0);
    formHeight_ = metres("formHeight", 60, 0.1, 8000);
    edge_ = metres("edge", 0, 0, 8000);
    edge_->setToolTip(tr("Mountains along the border that enclose the level."));
    seed_ = new QSpinBox(this);
    seed_->setObjectName("seed");
    seed_->setRange(0, 100000);
    seed_->setValue(1);
    seed_->setAlignment(Qt::AlignRight);
    form_->addRow(tr("Form size"), formSize_);
    form_->addRow(tr("Height"), formHeight_);
    form_->addRow(tr("Edge mountains"), edge_);
    form_->addRow(tr("Seed"), seed_);
    first_ = new QComboBox(this);
    first_->setObjectName("firstLayer");
    for (const Layer& l : layers_) first_->addItem(QIcon(layerThumbnail(l, 24, 1)), QString::fromStdString(l.name));
    form_->addRow(tr("First layer, covers all"), first_);
    cover_ = new QComboBox(this);
    for (const int f : {1, 2, 4})
        cover_->addItem(f == 1 ? tr("as fine as the ground") : tr("%1 times as fine").arg(f), f);
    form_->addRow(tr("Paint is"), cover_);

    foot_ = addFoot(this, all);
    // It answers its fields once it is whole.
    for (QDoubleSpinBox* s : {width_, depth_, spacing_, lowest_, highest_, start_, formSize_, formHeight_, edge_})
        connect(s, &QDoubleSpinBox::valueChanged, this, &LayoutDialog::tell);
    connect(seed_, &QSpinBox::valueChanged, this, &LayoutDialog::tell);
    for (QComboBox* c : {cover_, ground_}) connect(c, &QComboBox::currentIndexChanged, this, &LayoutDialog::tell);
    soon_.setSingleShot(true);
    soon_.setInterval(60);
    connect(&soon_, &QTimer::timeout, this, &LayoutDialog::look);
    tell();
    look();
}

QDoubleSpinBox* LayoutDialog::metres(const QString& objectName, double value, double low, double high, int decimals) {
    auto* s = new QDoubleSpinBox(this);
    s->setObjectName(objectName);
    s->setRange(low, high);
    s->setDecimals(decimals);
    s->setValue(value);
    s->setSuffix(tr(" m"));
    s->setAlignment(Qt::AlignRight);
    return s;
}

NewLevel LayoutDialog::wish() const {
    NewLevel w;
    w.name = name_->text().trimmed().toStdString();
    w.spacing = spacing_->value();
    const auto samples = [&](double metres) {
        return static_cast<int>(std::min(std::round(metres / w.spacing) + 1, 1e6));
    };
    w.columns = samples(width_->value());
    w.rows = samples(depth_->value());
    w.lowest = static_cast<float>(lowest_->value());
    w.highest = static_cast<float>(highest_->value());
    w.startHeight = static_cast<float>(start_->value());
    w.coverFactor = cover_->currentData().toInt();
    return w;
}

std::optional<LandscapeWish> LayoutDialog::landscape() const {
    if (ground_->currentIndex() == 0) return std::nullopt;
    LandscapeWish w;
    w.kind = static_cast<Landscape>(ground_->currentIndex() - 1);
    w.seed = static_cast<uint32_t>(seed_->value());
    w.scale = static_cast<float>(formSize_->value());
    w.height = static_cast<float>(formHeight_->value());
    w.edge = static_cast<float>(edge_->value());
    w.edgeWidth = std::clamp(1.6f * w.edge, 20.f, 5000.f);
    return w;
}

void LayoutDialog::tell() {
    const NewLevel w = wish();
    const bool made = ground_->currentIndex() > 0;
    for (QWidget* f : std::initializer_list<QWidget*>{formSize_, formHeight_, edge_, seed_})
        form_->setRowVisible(f, made);
    const double mega = static_cast<double>(w.columns) * w.rows / 1e6;
    foot_.cost->setText(tr("%1 × %2 samples (%3 million), %4 × %5 m. The program will take about %6 MB once it is all "
                           "sculpted and four layers are painted all over.")
                            .arg(w.columns)
                            .arg(w.rows)
                            .arg(mega, 0, 'f', 2)
                            .arg((w.columns - 1) * w.spacing)
                            .arg((w.rows - 1) * w.spacing)
                            .arg(megabytesFor(w, 4, static_cast<int>(layers_.size()))));
    QString wrong;
    if (const Result<Level> r = makeLevel(w); !r) wrong = QString::fromStdString(r.error().sentence());
    else if (made && start_->value() + formHeight_->value() > highest_->value())
        wrong = tr("the ground would rise to %1 m; raise the highest ground, or make it lower")
                    .arg(start_->value() + formHeight_->value());
    tellWrong(foot_, wrong);
    soon_.start();
}

// The ground in small, on as many samples as the picture has.
void LayoutDialog::look() {
    NewLevel w = wish();
    const double most = std::max(width_->value(), depth_->value());
    constexpr int kSide = 200;
    w.spacing = std::clamp(most / (kSide - 1), 0.01, 100.0);
    w.columns = std::clamp(static_cast<int>(width_->value() / w.spacing) + 1, 2, kSide);
    w.rows = std::clamp(static_cast<int>(depth_->value() / w.spacing) + 1, 2, kSide);
    const Result<Level> small = makeLevel(w);
    if (!small) return preview_->setPicture({});
    Raster<float> heights(w.columns, w.rows, 0.f);
    if (const auto land = landscape()) generateLandscape(*land, small.value(), heights);
    preview_->setPicture(shadedRelief(heights.view(), (w.columns - 1) * w.spacing, 1, {240, 240}));
}

Result<Level> LayoutDialog::level() const {
    Result<Level> made = makeLevel(wish());
    if (!made) return made;
    Level& level = made.value();
    const int first = std::max(first_->currentIndex(), 0);
    if (!layers_.empty()) addLayer(level, layers_[static_cast<size_t>(first)]);
    for (size_t i = 0; i < layers_.size(); ++i)
        if (static_cast<int>(i) != first) addLayer(level, layers_[i]);
    return made;
}

}  // namespace jam
