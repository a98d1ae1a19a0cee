#include "stations/lay_out/import_dialog.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFileInfo>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "looks/layer_art.h"
#include "looks/memory_words.h"
#include "looks/theme.h"
#include "stations/lay_out/ground_preview.h"

namespace jam {

QDoubleSpinBox* ImportDialog::number(const QString& objectName, double value, double low, double high, int decimals,
                                     const QString& suffix) {
    auto* s = new QDoubleSpinBox(this);
    s->setObjectName(objectName);
    s->setRange(low, high);
    s->setDecimals(decimals);
    s->setValue(value);
    s->setSuffix(suffix);
    s->setAlignment(Qt::AlignRight);
    return s;
}

ImportDialog::ImportDialog(const std::vector<Layer>& layers, Bytes bytes, HeightField field,
                           std::optional<RawLayout> guess, const QString& path, QWidget* parent, const Level* present)
    : QDialog(parent), layers_(layers), bytes_(std::move(bytes)), field_(std::move(field)), raw_(guess.has_value()) {
    setWindowTitle(tr("Take in a heightmap"));
    auto* all = new QVBoxLayout(this);
    all->setSpacing(10);
    auto* row = new QHBoxLayout;
    row->setSpacing(16);
    all->addLayout(row);
    auto* left = new QVBoxLayout;
    preview_ = new GroundPreview({280, 280}, this);
    facts_ = new QLabel(this);
    facts_->setObjectName("facts");
    warns_ = new QLabel(this);
    warns_->setObjectName("warns");
    for (QLabel* l : {facts_, warns_}) {
        l->setWordWrap(true);
        l->setFixedWidth(scaled(280));
    }
    warns_->setStyleSheet(QString("color: %1;").arg(theme().brush.name()));
    left->addWidget(preview_);
    left->addWidget(facts_);
    left->addWidget(warns_);
    left->addStretch();
    row->addLayout(left);
    form_ = new QFormLayout;
    form_->setLabelAlignment(Qt::AlignLeft);
    form_->setVerticalSpacing(5);
    form_->setHorizontalSpacing(16);
    row->addLayout(form_, 1);

    const auto combo = [&](const QString& objectName, const QStringList& items, int at = 0) {
        auto* c = new QComboBox(this);
        c->setObjectName(objectName);
        c->addItems(items);
        c->setCurrentIndex(at);
        return c;
    };
    const auto whole = [&](const QString& objectName, int value, int most) {
        auto* s = new QSpinBox(this);
        s->setObjectName(objectName);
        s->setRange(0, most);
        s->setValue(value);
        s->setAlignment(Qt::AlignRight);
        return s;
    };
    name_ = new QLineEdit(QFileInfo(path).completeBaseName(), this);
    name_->setObjectName("name");
    name_->setCursorPosition(0);
    becomes_ = combo("becomes", {tr("A new level")});
    if (present)
        becomes_->addItem(present->fenced ? tr("A stratum of this level, inside the fence")
                                          : tr("A stratum of this level"));
    form_->addRow(tr("It becomes"), becomes_);
    form_->setRowVisible(becomes_, present != nullptr);
    form_->addRow(tr("Name"), name_);
    const RawLayout l = guess.value_or(RawLayout{});
    rawSample_ = combo("rawSample", {});
    for (int k = 0; k < kRawSamples; ++k) rawSample_->addItem(rawTitle(static_cast<RawSample>(k)));
    rawSample_->setCurrentIndex(static_cast<int>(l.sample));
    rawOrder_ = combo("rawOrder", {tr("lowest first"), tr("highest first")}, l.bigEndian);
    rawWidth_ = whole("rawWidth", l.width, kMostFieldSamples);
    rawDepth_ = whole("rawDepth", l.depth, kMostFieldSamples);
    rawOffset_ = whole("rawOffset", static_cast<int>(l.offset), 1 << 30);
    rawOffset_->setSuffix(tr(" bytes"));
    if (raw_) {
        form_->addRow(tr("Samples are"), rawSample_);
        form_->addRow(tr("Order of bytes"), rawOrder_);
        form_->addRow(tr("Samples in a row"), rawWidth_);
        form_->addRow(tr("Rows"), rawDepth_);
        form_->addRow(tr("Header"), rawOffset_);
    } else {
        for (QWidget* w : std::initializer_list<QWidget*>{rawSample_, rawOrder_, rawWidth_, rawDepth_, rawOffset_})
            w->hide();
    }
    // Samples that are not as far apart one way as the other have to be stretched, or the ground would be.
    const bool sized = field_.cellX > 0 && cellsFit(field_), oblong = sized && !field_.square();
    fit_ = combo("fit", {tr("Keep every sample"), tr("Stretch to a size"), tr("Crop to a size")}, oblong);
    form_->addRow(tr("Size"), fit_);
    spacing_ = number("spacing", sized ? std::min(field_.cellX, field_.cellZ) : 1, kFinest, kCoarsest, 2, tr(" m"));
    form_->addRow(tr("Spacing of the samples"), spacing_);
    width_ = number("width", sized ? (field_.width() - 1) * field_.cellX : 512, 0.1, 1e6, 1, tr(" m"));
    depth_ = number("depth", sized ? (field_.depth() - 1) * field_.cellZ : 512, 0.1, 1e6, 1, tr(" m"));
    kernel_ = combo("kernel", {tr("nearest"), tr("linear"), tr("cubic")}, 2);
    form_->addRow(tr("Width, west to east"), width_);
    form_->addRow(tr("Depth, north to south"), depth_);
    form_->addRow(tr("Resampling"), kernel_);
    black_ = number("black", 0, -kFarHeight, kFarHeight, 2, tr(" m"));
    white_ = number("white", 100, -kFarHeight, kFarHeight, 2, tr(" m"));
    if (field_.metres) black_->setValue(field_.black), white_->setValue(field_.white);
    form_->addRow(tr("Lowest value stands for"), black_);
    form_->addRow(tr("Highest value stands for"), white_);
    soften_ = new QCheckBox(tr("Soften the steps"), this);
    soften_->setObjectName("soften");
    form_->addRow(QString(), soften_);
    first_ = combo("firstLayer", {});
    for (const Layer& layer : layers_)
        first_->addItem(QIcon(layerThumbnail(layer, 24, 1)), QString::fromStdString(layer.name));
    form_->addRow(tr("First layer, covers all"), first_);

    // A picture with few values that really shows them.
    soften_->setChecked(field_.steps == 256);
    foot_ = addFoot(this, all);
    // It answers its fields once it is whole.
    for (QDoubleSpinBox* s : {spacing_, width_, depth_, black_, white_})
        connect(s, &QDoubleSpinBox::valueChanged, this, &ImportDialog::tell);
    for (QComboBox* c : {rawSample_, rawOrder_})
        connect(c, &QComboBox::currentIndexChanged, this, &ImportDialog::readAgain);
    for (QSpinBox* s : {rawWidth_, rawDepth_, rawOffset_})
        connect(s, &QSpinBox::valueChanged, this, &ImportDialog::readAgain);
    for (QComboBox* c : {fit_, kernel_, becomes_})
        connect(c, &QComboBox::currentIndexChanged, this, &ImportDialog::tell);
    connect(soften_, &QCheckBox::toggled, this, &ImportDialog::tell);
    soon_.setSingleShot(true);
    soon_.setInterval(60);
    connect(&soon_, &QTimer::timeout, this, &ImportDialog::look);
    tell();
    look();
}

void ImportDialog::readAgain() {
    const RawLayout l{rawWidth_->value(), rawDepth_->value(), static_cast<RawSample>(rawSample_->currentIndex()),
                      rawOrder_->currentIndex() == 1, static_cast<size_t>(rawOffset_->value())};
    Result<HeightField> read = decodeHeightField(bytes_, field_.name, l);
    if (read) {
        const bool other = read.value().metres || field_.metres;
        field_ = read.take();
        // Metres are what the samples say, read this way.
        if (other)
            black_->setValue(field_.metres ? field_.black : 0), white_->setValue(field_.metres ? field_.white : 100);
        tell();
    } else {
        tellWrong(foot_, QString::fromStdString(read.error().sentence()));
    }
}

FieldWish ImportDialog::wish() const {
    FieldWish w;
    w.fit = static_cast<Fit>(fit_->currentIndex());
    w.spacing = spacing_->value();
    w.width = width_->value();
    w.depth = depth_->value();
    w.black = static_cast<float>(black_->value());
    w.white = static_cast<float>(flat() ? black_->value() : white_->value());
    w.kernel = static_cast<Kernel>(kernel_->currentIndex());
    w.soften = soften_->isChecked();
    return w;
}

QString ImportDialog::levelName() const { return name_->text().trimmed(); }
bool ImportDialog::asStratum() const { return becomes_->currentIndex() == 1; }
int ImportDialog::firstLayer() const { return std::max(first_->currentIndex(), 0); }

void ImportDialog::tell() {
    const bool keeps = fit_->currentIndex() == 0;
    form_->setRowVisible(first_, !asStratum());
    form_->setRowVisible(white_, !flat());
    if (auto* label = qobject_cast<QLabel*>(form_->labelForField(black_)))
        label->setText(flat() ? tr("It lies at") : tr("Lowest value stands for"));
    foot_.make->setText(asStratum() ? tr("Place it") : tr("Make level"));
    for (QWidget* w : std::initializer_list<QWidget*>{width_, depth_, kernel_}) form_->setRowVisible(w, !keeps);
    facts_->setText(tr("%1: %2 × %3 samples, values from %4 to %5.")
                        .arg(QString::fromStdString(field_.format))
                        .arg(field_.width())
                        .arg(field_.depth())
                        .arg(field_.low, 0, 'g', 6)
                        .arg(field_.high, 0, 'g', 6));
    QStringList warns;
    if (raw_ && staticness(field_.values.view()) > kStatic)
        warns << tr("It looks like static: try the other order of bytes, another width, or another kind of sample.");
    if (field_.steps == 256)
        warns << (soften_->isChecked() ? tr("It has only 256 steps; they are softened into slopes, while cliffs stay.")
                                       : tr("It has only 256 steps: slopes will come out stepped. Soften them, or "
                                            "export it again with 16 bits."));
    if (field_.holes) warns << tr("%1 samples without a height are filled from their surroundings.").arg(field_.holes);
    if (!cellsFit(field_))
        warns << tr("Its samples lie %1 × %2 m apart, and those of a level %3 to %4 m. Every sample is taken as it is, "
                    "as far apart as you say here.")
                     .arg(std::lround(field_.cellX))
                     .arg(std::lround(field_.cellZ))
                     .arg(kFinest)
                     .arg(kCoarsest);
    if (field_.low == field_.high) warns << tr("All values are the same; the ground will be flat.");
    warns_->setText(warns.join("\n"));
    warns_->setVisible(!warns.isEmpty());

    const FieldSize size = sizeOf(field_, wish());
    NewLevel w;
    w.columns = size.columns;
    w.rows = size.rows;
    w.spacing = spacing_->value();
    foot_.cost->setText(
        asStratum()
            ? tr("%1 × %2 samples, %3 × %4 m. It is placed, turned and scaled on the ground, then set down.")
                  .arg(w.columns)
                  .arg(w.rows)
                  .arg((w.columns - 1) * w.spacing)
                  .arg((w.rows - 1) * w.spacing)
            : tr("%1 × %2 samples, %3 × %4 m. The program will take about %5 MB once four layers are painted all "
                 "over.")
                  .arg(w.columns)
                  .arg(w.rows)
                  .arg((w.columns - 1) * w.spacing)
                  .arg((w.rows - 1) * w.spacing)
                  .arg(megabytesFor(w, 4, first_->count())));
    QString wrong;
    if (!flat() && white_->value() <= black_->value())
        wrong = tr("The highest value must stand for more metres than the lowest.");
    else if (const Result<Level> r = makeLevel(w); !r) wrong = QString::fromStdString(r.error().sentence());
    tellWrong(foot_, wrong);
    soon_.start();
}

void ImportDialog::look() {
    const double metres =
        flat() ? 0 : (white_->value() - black_->value()) / (static_cast<double>(field_.white) - field_.black);
    preview_->setPicture(
        shadedRelief(field_.values.view(), (field_.width() - 1) * spacing_->value(), metres, {280, 280}));
}

}  // namespace jam
