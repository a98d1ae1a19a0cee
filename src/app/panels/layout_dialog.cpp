#include "panels/layout_dialog.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QFileInfo>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>

#include "panels/layer_strip.h"
#include "theme.h"

namespace jam {

namespace {

// The picture as grey, for a first look.
QPixmap lookAt(const Pixels& p, int most) {
    const int step = std::max(1, std::max(p.width, p.height) / most);
    QImage image(p.width / step, p.height / step, QImage::Format_Grayscale8);
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x) image.scanLine(y)[x] = static_cast<uint8_t>(p.at(x * step, y * step) * 255 / p.most());
    return QPixmap::fromImage(image);
}

}  // namespace

LayoutDialog::LayoutDialog(const std::vector<Layer>& layers, std::optional<Pixels> picture, const QString& pictureName, QWidget* parent)
    : QDialog(parent), layers_(layers), picture_(std::move(picture)), pictureName_(pictureName) {
    setWindowTitle(picture_ ? tr("Start from a heightmap") : tr("Lay out a new level"));
    setMinimumWidth(430);
    auto* all = new QVBoxLayout(this);
    all->setSpacing(10);
    auto* form = new QFormLayout;
    form->setLabelAlignment(Qt::AlignLeft);
    form->setHorizontalSpacing(18);
    name_ = new QLineEdit(picture_ ? QFileInfo(pictureName).completeBaseName() : tr("Untitled level"), this);
    name_->setObjectName("name");
    form->addRow(tr("Name"), name_);
    width_ = metres("width", 512, 0.1, 100000);
    depth_ = metres("depth", 512, 0.1, 100000);
    spacing_ = metres("spacing", 1, 0.01, 100, 2);
    lowest_ = metres("lowest", -50, -10000, 10000);
    highest_ = metres("highest", 200, -10000, 10000);
    start_ = metres("start", 0, -10000, 10000);
    black_ = metres("black", 0, -10000, 10000);
    white_ = metres("white", 100, -10000, 10000);
    if (picture_) {
        auto* row = new QHBoxLayout;
        auto* look = new QLabel(this);
        look->setPixmap(lookAt(*picture_, 120));
        row->addWidget(look);
        QString facts = tr("%1 × %2 samples, %3 bits.").arg(picture_->width).arg(picture_->height).arg(picture_->bits);
        if (picture_->bits == 8) facts += "\n" + tr("It has only 256 steps: slopes will come out stepped. Smooth them with the smooth brush, or export it again with 16 bits.");
        auto* text = new QLabel(facts, this);
        text->setWordWrap(true);
        row->addWidget(text, 1);
        all->addLayout(row);
        form->addRow(tr("Spacing of the samples"), spacing_);
        form->addRow(tr("Black stands for"), black_);
        form->addRow(tr("White stands for"), white_);
        for (QWidget* w : {width_, depth_, lowest_, highest_, start_}) w->hide();
    } else {
        form->addRow(tr("Width, west to east"), width_);
        form->addRow(tr("Depth, north to south"), depth_);
        form->addRow(tr("Spacing of the samples"), spacing_);
        form->addRow(tr("Lowest ground"), lowest_);
        form->addRow(tr("Highest ground"), highest_);
        form->addRow(tr("Flat start at"), start_);
        start_->setToolTip(tr("Leave room below, so that you can dig."));
        for (QWidget* w : {black_, white_}) w->hide();
    }
    first_ = new QComboBox(this);
    first_->setObjectName("firstLayer");
    for (const Layer& l : layers_) first_->addItem(QIcon(layerThumbnail(l, 24, 1)), QString::fromStdString(l.name));
    form->addRow(tr("First layer, covers all"), first_);
    cover_ = new QComboBox(this);
    for (const int f : {1, 2, 4}) cover_->addItem(f == 1 ? tr("as fine as the ground") : tr("%1 times as fine").arg(f), f);
    form->addRow(tr("Paint is"), cover_);
    if (picture_) form->setRowVisible(cover_, false);
    all->addLayout(form);

    cost_ = new QLabel(this);
    cost_->setObjectName("cost");
    cost_->setProperty("quiet", true);
    cost_->setWordWrap(true);
    wrong_ = new QLabel(this);
    wrong_->setObjectName("wrong");
    wrong_->setWordWrap(true);
    wrong_->setStyleSheet(QString("color: %1;").arg(theme().warns.name()));
    all->addWidget(cost_);
    all->addWidget(wrong_);
    auto* buttons = new QDialogButtonBox(this);
    make_ = buttons->addButton(tr("Make level"), QDialogButtonBox::AcceptRole);
    make_->setObjectName("make");
    make_->setDefault(true);
    buttons->addButton(tr("Cancel"), QDialogButtonBox::RejectRole);
    all->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    for (QDoubleSpinBox* s : {width_, depth_, spacing_, lowest_, highest_, start_, black_, white_}) connect(s, &QDoubleSpinBox::valueChanged, this, &LayoutDialog::tell);
    connect(cover_, &QComboBox::currentIndexChanged, this, &LayoutDialog::tell);
    tell();
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
    const auto samples = [&](double metres) { return static_cast<int>(std::min(std::round(metres / w.spacing) + 1, 1e6)); };
    w.columns = picture_ ? picture_->width : samples(width_->value());
    w.rows = picture_ ? picture_->height : samples(depth_->value());
    w.lowest = static_cast<float>(lowest_->value());
    w.highest = static_cast<float>(highest_->value());
    w.startHeight = static_cast<float>(start_->value());
    w.coverFactor = picture_ ? 1 : cover_->currentData().toInt();
    return w;
}

void LayoutDialog::tell() {
    const NewLevel w = wish();
    const double mega = static_cast<double>(w.columns) * w.rows / 1e6, memory = static_cast<double>(memoryEstimate(w, 4)) / 1e6;
    cost_->setText(tr("%1 × %2 samples (%3 million), %4 × %5 m. About %6 MB once it is all sculpted and four layers are painted all over.")
                       .arg(w.columns).arg(w.rows).arg(mega, 0, 'f', 2).arg((w.columns - 1) * w.spacing).arg((w.rows - 1) * w.spacing).arg(memory, 0, 'f', memory < 10 ? 1 : 0));
    QString wrong;
    if (picture_) {
        if (white_->value() <= black_->value()) wrong = tr("White must stand for more metres than black.");
    } else if (const Result<Level> r = makeLevel(w); !r) {
        wrong = QString::fromStdString(r.error().sentence());
        wrong[0] = wrong[0].toUpper();
    }
    wrong_->setText(wrong);
    wrong_->setVisible(!wrong.isEmpty());
    make_->setEnabled(wrong.isEmpty());
}

Result<Level> LayoutDialog::level() const {
    Result<Level> made = picture_ ? levelFromHeightmap(*picture_, pictureName_.toStdString(),
                                                       {spacing_->value(), static_cast<float>(black_->value()), static_cast<float>(white_->value())})
                                  : makeLevel(wish());
    if (!made) return made;
    Level& level = made.value();
    if (!name_->text().trimmed().isEmpty()) level.name = name_->text().trimmed().toStdString();
    const int first = std::max(first_->currentIndex(), 0);
    if (!layers_.empty()) addLayer(level, layers_[static_cast<size_t>(first)]);
    for (size_t i = 0; i < layers_.size(); ++i)
        if (static_cast<int>(i) != first) addLayer(level, layers_[i]);
    return made;
}

}  // namespace jam
