#include "stations/cover/layer_dialog.h"

#include <cmath>
#include <QCheckBox>
#include <QComboBox>
#include <QCoreApplication>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

#include "files/level_file.h"
#include "looks/theme.h"
#include "panels/number_field.h"
#include "stations/cover/material_view.h"

namespace jam {

namespace {
constexpr int kQuickSide = 512;  // pixels that the dialog works with
constexpr int kTiledSide = 360;
}  // namespace

TiledView::TiledView(QWidget* parent) : QWidget(parent) { setFixedSize(kTiledSide, kTiledSide); }

void TiledView::setPicture(const Picture& colour, const SeamReport& report) {
    report_ = report;
    tile_ = colour ? QImage::fromData(colour->bytes.data(), static_cast<int>(colour->bytes.size()))
                         .convertToFormat(QImage::Format_RGB32)
                   : QImage();
    if (!tile_.isNull())
        tile_ = tile_.scaled(QSize(kTiledSide / 3, kTiledSide / 3) * devicePixelRatioF(), Qt::IgnoreAspectRatio,
                             Qt::SmoothTransformation);
    update();
}

void TiledView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    const int side = kTiledSide / 3;
    for (int y = 0; y < 3; ++y)
        for (int x = 0; x < 3; ++x) p.drawImage(QRect(x * side, y * side, side, side), tile_);
    if (tile_.isNull()) return;
    // Faults as they would return: the worst stretch of an edge, and the spot that sticks out.
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(theme().brush, 2.5));
    const int reach = side / 6;
    for (int y = 0; y < 3; ++y)
        for (int x = 0; x < 3; ++x) {
            const QPointF corner(x * side, y * side);
            if (report_.leftRight >= SeamReport::kEdgeSeen && x > 0) {
                const double at = corner.y() + report_.worstRow * side;
                p.drawLine(QPointF(corner.x(), at - reach), QPointF(corner.x(), at + reach));
            }
            if (report_.topBottom >= SeamReport::kEdgeSeen && y > 0) {
                const double at = corner.x() + report_.worstColumn * side;
                p.drawLine(QPointF(at - reach, corner.y()), QPointF(at + reach, corner.y()));
            }
            if (!report_.even())
                p.drawEllipse(corner + QPointF(report_.spotX, report_.spotY) * side, side / 9.0, side / 9.0);
        }
}

LayerDialog::LayerDialog(std::vector<LayerWish> wishes, bool swaps, QWidget* parent)
    : QDialog(parent), sets_(std::move(wishes)), swaps_(swaps) {
    setWindowTitle(swaps ? tr("Pictures of the layer") : tr("A layer from pictures"));
    auto* all = new QVBoxLayout(this);
    auto* row = new QHBoxLayout;
    row->setSpacing(18);
    auto* left = new QVBoxLayout;
    set_ = new QComboBox(this);
    for (const LayerWish& w : sets_) set_->addItem(tr("Set “%1”").arg(QString::fromStdString(w.base.name)));
    set_->setVisible(sets_.size() > 1);
    left->addWidget(set_);
    name_ = new QLineEdit(this);
    name_->setObjectName("newLayerName");
    name_->setEnabled(!swaps);
    left->addWidget(name_);
    tile_ = new NumberField(tr("Tile size"), tr(" m"), {kMinTile, kMaxTile, 2, true}, this);
    tile_->setToolTip(tr("What one repeat of the picture as it came spans."));
    tile_->setVisible(!swaps);
    left->addWidget(tile_);
    auto* form = new QFormLayout;
    form->setHorizontalSpacing(12);
    const QString names[] = {tr("Colour"),    tr("Normal"),   tr("Roughness"), tr("Height"),
                             tr("Occlusion"), tr("Specular"), tr("Metalness")};
    for (size_t i = 0; i < maps_.size(); ++i) {
        maps_[i] = new QComboBox(this);
        maps_[i]->setObjectName(QString("map-") + kLayerSlots[i].name);
        maps_[i]->setMinimumWidth(scaled(230));
        form->addRow(names[i], maps_[i]);
        connect(maps_[i], &QComboBox::activated, this, [this, i](int at) {
            const QVariant v = maps_[i]->itemData(at);
            wish_.maps[i] = {v.toInt() == 1
                                 ? sets_[static_cast<size_t>(std::max(set_->currentIndex(), 0))].maps[i].present
                                 : nullptr,
                             v.toInt() == 2 ? maps_[i]->itemText(at) : QString()};
            if (v.toInt() == 2)
                for (const QString& f : std::as_const(files_))
                    if (QFileInfo(f).fileName() == maps_[i]->itemText(at)) wish_.maps[i].file = f;
            build();
        });
    }
    left->addLayout(form);
    flipGreen_ = new QCheckBox(tr("The normal map's green runs down"), this);
    gloss_ = new QCheckBox(tr("The roughness map is white where it shines"), this);
    left->addWidget(flipGreen_);
    left->addWidget(gloss_);
    auto* more = new QPushButton(tr("Take in more pictures…"), this);
    left->addWidget(more);
    left->addStretch();
    row->addLayout(left);
    auto* right = new QVBoxLayout;
    material_ = new MaterialView(this);
    right->addWidget(material_);
    tiled_ = new TiledView(this);
    right->addWidget(tiled_, 0, Qt::AlignHCenter);
    says_ = new QLabel(this);
    says_->setObjectName("seamSays");
    says_->setWordWrap(true);
    says_->setFixedWidth(kTiledSide);
    says_->setMinimumHeight(scaled(52));
    says_->setAlignment(Qt::AlignTop);
    right->addWidget(says_);
    seamless_ = new QCheckBox(tr("Make it seamless"), this);
    seamless_->setObjectName("seamless");
    seamless_->setToolTip(tr("Lays the edges over each other where they differ least. The file stays as it is."));
    right->addWidget(seamless_);
    even_ = new NumberField(tr("Even out its light"), tr(" %"), {0, 100, 0}, this);
    even_->setObjectName("evenLight");
    right->addWidget(even_);
    right->addStretch();
    row->addLayout(right);
    all->addLayout(row);
    auto* foot = new QDialogButtonBox(this);
    ok_ = foot->addButton(swaps ? tr("Swap pictures") : tr("Add the layer"), QDialogButtonBox::AcceptRole);
    ok_->setDefault(true);
    foot->addButton(tr("Cancel"), QDialogButtonBox::RejectRole);
    connect(foot, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(foot, &QDialogButtonBox::rejected, this, &QDialog::reject);
    all->addWidget(foot);
    connect(set_, &QComboBox::activated, this, &LayerDialog::chooseSet);
    connect(name_, &QLineEdit::textEdited, this, [this](const QString& t) {
        wish_.base.name = t.trimmed().isEmpty() ? "Layer" : t.trimmed().toStdString();
    });
    connect(tile_, &NumberField::changed, this, [this](double v) { wish_.base.tileSize = v, build(); });
    connect(even_, &NumberField::changed, this,
            [this](double v) { wish_.even = static_cast<float>(v / 100), build(); });
    connect(seamless_, &QCheckBox::clicked, this, [this](bool on) { wish_.seamless = on, build(); });
    connect(flipGreen_, &QCheckBox::clicked, this, [this](bool on) { wish_.base.look.flipGreen = on, build(); });
    connect(gloss_, &QCheckBox::clicked, this, [this](bool on) { wish_.gloss = on, build(); });
    connect(more, &QPushButton::clicked, this, [this] {
        takeMore(QFileDialog::getOpenFileNames(this, tr("Choose pictures"), {},
                                               QCoreApplication::translate("MainWindow", kPictureFilter)));
    });
    chooseSet(0);
}

void LayerDialog::takeMore(const QStringList& files) {
    // Where the names say which map they are, they take their place at once.
    for (const LayerWish& w : wishesFor(files))
        for (size_t i = 0; i < w.maps.size(); ++i) {
            if (w.maps[i].file.isEmpty()) continue;
            files_ << w.maps[i].file;
            wish_.maps[i] = {nullptr, w.maps[i].file};
            if (i == 1) wish_.base.look.flipGreen = w.base.look.flipGreen;
            if (i == 2) wish_.gloss = w.gloss;
        }
    fillMaps();
    build();
}

void LayerDialog::chooseSet(int i) {
    const LayerWish& chosen = sets_[static_cast<size_t>(i)];
    wish_ = chosen;
    if (swaps_ && i > 0) wish_.base = sets_.front().base;
    files_.clear();
    for (const LayerWish& w : sets_)
        for (const MapSource& m : w.maps)
            if (!m.file.isEmpty() && !files_.contains(m.file)) files_ << m.file;
    fillMaps();
    build();
}

void LayerDialog::fillMaps() {
    name_->setText(QString::fromStdString(wish_.base.name));
    tile_->setValue(wish_.base.tileSize);
    flipGreen_->setChecked(wish_.base.look.flipGreen);
    gloss_->setChecked(wish_.gloss);
    const LayerWish& set = sets_[static_cast<size_t>(std::max(set_->currentIndex(), 0))];
    for (size_t i = 0; i < maps_.size(); ++i) {
        QComboBox* box = maps_[i];
        box->clear();
        box->addItem(i == 0             ? tr("Choose a picture")
                     : i == 1 || i == 3 ? tr("Derived from the colour")
                                        : tr("None"),
                     0);
        if (set.maps[i].present)
            box->addItem(tr("As it is: %1").arg(QString::fromStdString(set.maps[i].present->name)), 1);
        for (const QString& f : std::as_const(files_)) box->addItem(QFileInfo(f).fileName(), 2);
        int at = 0;
        if (wish_.maps[i].present) at = box->findData(1);
        else if (!wish_.maps[i].file.isEmpty()) at = box->findText(QFileInfo(wish_.maps[i].file).fileName());
        box->setCurrentIndex(std::max(at, 0));
    }
}

void LayerDialog::build() {
    flipGreen_->setVisible(wish_.maps[1].any());
    gloss_->setVisible(wish_.maps[2].any() && !wish_.maps[2].present);
    ok_->setEnabled(false);
    says_->setText(tr("The pictures are read."));
    building_.run<Built>(
        tr("Reading pictures"),
        [wish = wish_](const Context& context) -> Result<Built> {
            Result<Layer> layer = buildLayer(wish, kQuickSide, context);
            if (!layer) return layer.error();
            Built built{layer.take(), {}};
            const Result<Pixels> colour = decodePng(built.layer.colour->bytes, built.layer.name, kLargestTexture);
            if (colour && std::min(colour.value().width, colour.value().height) >= 8)
                built.report = checkSeams(colour.value());
            return built;
        },
        [this](Result<Built> built) { tell(built); });
}

void LayerDialog::tell(const Result<Built>& built) {
    ok_->setEnabled(static_cast<bool>(built));
    if (!built) {
        says_->setText(QString::fromStdString(built.error().sentence()));
        tiled_->setPicture(nullptr, {});
        return;
    }
    const Layer& layer = built.value().layer;
    material_->setLayer(layer);
    report_ = built.value().report.value_or(SeamReport{});
    if (!built.value().report) {
        says_->setText(tr("The picture is too small to be checked."));
    } else {
        QStringList says;
        if (report_.edgesMatch()) says << tr("The edges match.");
        else
            says << tr("The edges do not match: the step is %1 × as large as inside from left to right, and %2 × from "
                       "top to bottom.")
                        .arg(report_.leftRight, 0, 'f', 1)
                        .arg(report_.topBottom, 0, 'f', 1);
        if (report_.even()) says << tr("No spot sticks out.");
        else
            says << tr("One spot differs by %1 % from the rest and will be seen to return.")
                        .arg(std::lround(report_.spot * 100));
        says_->setText(says.join(" "));
    }
    tiled_->setPicture(layer.colour, report_);
}

}  // namespace jam
