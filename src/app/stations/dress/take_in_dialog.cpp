#include "stations/dress/take_in_dialog.h"

#include <cmath>
#include <filesystem>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QLocale>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include "looks/theme.h"
#include "stations/dress/kind_panel.h"
#include "stations/dress/turntable.h"

namespace jam {

namespace {
constexpr double kInch = 0.0254, kFoot = 0.3048;
constexpr double kLikely = 40;  // metres: what would be larger was hardly made in metres

double likelyUnit(const ReadShape& shape) {
    double most = 0;
    for (size_t i = 0; i < 3; ++i) most = std::max(most, static_cast<double>(shape.high[i] - shape.low[i]));
    return most <= kLikely ? 1 : most * 0.01 <= kLikely ? 0.01 : 0.001;
}
}  // namespace

TakeInDialog::TakeInDialog(const ReadShape& shape, ReadShape light, QWidget* parent)
    : QDialog(parent), triangles_(shape.mesh.triangles()), light_(std::move(light)) {
    setWindowTitle(tr("Take a shape in"));
    setObjectName("takeInDialog");
    auto* column = new QVBoxLayout(this);
    picture_ = new Turntable(this);
    picture_->setFixedHeight(scaled(220));
    column->addWidget(picture_);
    facts_ = new QLabel(this);
    facts_->setObjectName("shapeFacts");
    facts_->setWordWrap(true);
    column->addWidget(facts_);
    auto* form = new QFormLayout;
    column->addLayout(form);
    name_ = new QLineEdit(QString::fromStdString(std::filesystem::path(shape.from).stem().string()), this);
    name_->setObjectName("takenName");
    name_->setAccessibleName(tr("Name of the kind"));
    name_->setMaxLength(60);
    form->addRow(tr("Name"), name_);
    up_ = new QComboBox(this);
    up_->setObjectName("upAxis");
    up_->setAccessibleName(tr("Which axis leads up"));
    up_->addItems({tr("its second axis (y)"), tr("its third axis (z)")});
    form->addRow(tr("Up is"), up_);
    unit_ = new QComboBox(this);
    unit_->setObjectName("shapeUnit");
    unit_->setAccessibleName(tr("What one of its units is"));
    for (const auto& [text, metres] : {std::pair(tr("a metre"), 1.0),
                                       {tr("a centimetre"), 0.01},
                                       {tr("a millimetre"), 0.001},
                                       {tr("an inch"), kInch},
                                       {tr("a foot"), kFoot},
                                       {tr("something else"), 0.0}})
        unit_->addItem(text, metres);
    form->addRow(tr("One of its units is"), unit_);
    scale_ = number("shapeScale", tr("Metres of one unit"), kLeastShapeScale, kMostShapeScale, 4, tr(" m"));
    form->addRow(tr("In metres"), scale_);
    height_ = number("shapeHeight", tr("How tall it is"), kLeastShapeMetres, kMostShapeMetres, 3, tr(" m"));
    form->addRow(tr("Its height"), height_);
    turn_ = number("shapeTurn", tr("How far it is turned"), 0, 360, 0, tr("°"));
    turn_->setWrapping(true);
    form->addRow(tr("Turned by"), turn_);
    blocks_ = new QComboBox(this);
    blocks_->setObjectName("shapeBlocks");
    blocks_->setAccessibleName(tr("How it blocks who walks"));
    blocks_->addItems(blocksWords());
    blocks_->setCurrentIndex(static_cast<int>(Blocks::hull));
    form->addRow(tr("Blocks who walks"), blocks_);
    foot_ = addFoot(this, column);
    foot_.make->setText(tr("Take it in"));
    setMinimumWidth(scaled(360));
    connect(unit_, &QComboBox::activated, this, [this](int i) {
        if (const double metres = unit_->itemData(i).toDouble(); metres > 0) scale_->setValue(metres);
    });
    connect(scale_, &QDoubleSpinBox::valueChanged, this, [this](double v) {
        const QSignalBlocker quiet(unit_);
        int place = unit_->count() - 1;
        for (int i = 0; i < unit_->count(); ++i)
            if (std::abs(unit_->itemData(i).toDouble() - v) < 1e-9) place = i;
        unit_->setCurrentIndex(place);
        tell();
    });
    connect(height_, &QDoubleSpinBox::valueChanged, this, &TakeInDialog::scaleTo);
    connect(up_, &QComboBox::activated, this, &TakeInDialog::tell);
    connect(turn_, &QDoubleSpinBox::valueChanged, this, &TakeInDialog::tell);
    connect(name_, &QLineEdit::textChanged, this, &TakeInDialog::tell);
    scale_->setValue(likelyUnit(light_));
    tell();
}

QDoubleSpinBox* TakeInDialog::number(const QString& objectName, const QString& name, double low, double high,
                                     int decimals, const QString& suffix) {
    auto* box = new QDoubleSpinBox(this);
    box->setObjectName(objectName);
    box->setAccessibleName(name);
    box->setRange(low, high);
    box->setDecimals(decimals);
    box->setSuffix(suffix);
    box->setKeyboardTracking(false);
    return box;
}

TakeInWish TakeInDialog::wish() const { return {scale_->value(), up_->currentIndex() == 1, turn_->value()}; }

QString TakeInDialog::kindName() const { return name_->text().trimmed(); }

Blocks TakeInDialog::blocks() const { return static_cast<Blocks>(blocks_->currentIndex()); }

double TakeInDialog::tallness() const {
    const size_t axis = up_->currentIndex() == 1 ? 2 : 1;
    return static_cast<double>(light_.high[axis] - light_.low[axis]);
}

void TakeInDialog::scaleTo(double metres) {
    if (tallness() > 0) scale_->setValue(metres / tallness());
}

void TakeInDialog::tell() {
    const QLocale l;
    std::array<double, 3> size{};
    for (size_t i = 0; i < 3; ++i) size[i] = static_cast<double>(light_.high[i] - light_.low[i]) * scale_->value();
    const double tall = up_->currentIndex() == 1 ? size[2] : size[1],
                 deep = up_->currentIndex() == 1 ? size[1] : size[2];
    {
        const QSignalBlocker quiet(height_);
        height_->setValue(tall);
        height_->setEnabled(tallness() > 0);
    }
    const auto metres = [&](double v) { return l.toString(v, 'f', v < 1 ? 3 : 2); };
    QString text = tr("%1 m wide, %2 m deep, %3 m tall; %4 triangles")
                       .arg(metres(size[0]), metres(deep), metres(tall),
                            l.toString(static_cast<qulonglong>(triangles_)));
    if (light_.pictures.size() == 1) text += tr(", one picture");
    else if (!light_.pictures.empty()) text += tr(", %1 pictures").arg(light_.pictures.size());
    facts_->setText(text + tr(". The figure is 1.8 m tall."));
    Result<Mesh> mesh = placedMesh(light_, wish());
    QString wrong;
    if (kindName().isEmpty()) wrong = tr("Give the kind a name.");
    if (!mesh) wrong = QString::fromStdString(mesh.error().sentence());
    else {
        auto meshes = std::make_shared<KindMeshes>();
        meshes->add({mesh.take(), {}, {}});
        auto shown = std::make_shared<TakenShape>();
        shown->meshes = meshes;
        Kind kind;
        kind.taken.shape = shown;
        picture_->show(kind);
    }
    tellWrong(foot_, wrong);
}

}  // namespace jam
