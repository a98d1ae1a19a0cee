#include "panels/brush_shelf.h"

#include <QButtonGroup>
#include <QDesktopServices>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QPainter>
#include <QToolButton>
#include <QUrl>
#include <QVBoxLayout>

#include "house/shelf.h"
#include "looks/theme.h"

namespace jam {

QIcon curveIcon(Curve curve) {
    QIcon icon;
    for (const bool on : {false, true}) {
        QPixmap pixmap(114, 72);
        pixmap.fill(Qt::transparent);
        QPainter p(&pixmap);
        p.setRenderHint(QPainter::Antialiasing);
        QPolygonF line;
        for (int i = 0; i <= 40; ++i) {
            const float x = static_cast<float>(i) / 20 - 1;
            line << QPointF(57 + 52 * x, 66 - 58 * Falloff{curve, 1}.at(std::abs(x)));
        }
        p.setPen(QPen(on ? theme().onActive : theme().text, 4.5, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        p.drawPolyline(line);
        p.end();
        icon.addPixmap(pixmap, QIcon::Normal, on ? QIcon::On : QIcon::Off);
    }
    return icon;
}

QWidget* curveButtons(Workplace& place, QWidget* parent) {
    auto* box = new QWidget(parent);
    auto* row = new QHBoxLayout(box);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(2);
    auto* group = new QButtonGroup(box);
    for (int c = 0; c < kCurves; ++c) {
        const auto curve = static_cast<Curve>(c);
        auto* b = new QToolButton(box);
        b->setCheckable(true);
        const auto draw = [b, curve] { b->setIcon(curveIcon(curve)); };
        draw();
        QObject::connect(&themeChanges(), &ThemeChanges::changed, b, draw);
        b->setIconSize({30, 19});
        b->setFixedSize(36, 28);
        b->setToolTip(
            BrushList::tr("Falloff: %1")
                .arg(QString::fromUtf8(curveName(curve).data(), static_cast<qsizetype>(curveName(curve).size()))));
        group->addButton(b, c);
        row->addWidget(b);
    }
    row->addStretch();
    const auto show = [&place, group] {
        group->button(static_cast<int>(place.toolbox.settings().falloff.curve))->setChecked(true);
    };
    QObject::connect(&place.toolbox, &Toolbox::settingsChanged, box, show);
    QObject::connect(group, &QButtonGroup::idClicked, box, [&place](int c) {
        place.toolbox.changeSettings([c](StrokeSettings& s) { s.falloff.curve = static_cast<Curve>(c); });
    });
    show();
    return box;
}

TipRow::TipRow(House& house, QWidget* parent)
    : QWidget(parent), house_(house), place_(house.place), shelf_(house.shelf) {
    row_ = new QHBoxLayout(this);
    row_->setContentsMargins(0, 0, 0, 0);
    row_->setSpacing(3);
    connect(&shelf_, &Shelf::changed, this, &TipRow::fill);
    connect(&themeChanges(), &ThemeChanges::changed, this, &TipRow::fill);
    connect(&place_.toolbox, &Toolbox::settingsChanged, this, &TipRow::refresh);
    fill();
}

void TipRow::fill() {
    while (QLayoutItem* item = row_->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    const auto add = [&](const Tip& tip, const QString& name) {
        auto* b = new QToolButton(this);
        b->setCheckable(true);
        b->setIcon(tipIcon(tip, 64));
        b->setIconSize({26, 26});
        b->setFixedSize(36, 36);
        b->setToolTip(tr("Tip: %1").arg(name));
        b->setProperty("tip", name);
        row_->addWidget(b);
        connect(b, &QToolButton::clicked, this, [this, tip] {
            place_.toolbox.changeSettings(
                [&](StrokeSettings& s) { s.tip.shape = tip.shape, s.tip.picture = tip.picture; });
            refresh();
        });
    };
    add({TipShape::round, nullptr, 0, false, false, 0}, tr("round"));
    add({TipShape::square, nullptr, 0, false, false, 0}, tr("square"));
    for (const TipPtr& t : shelf_.tips())
        add({TipShape::picture, t, 0, false, false, 0}, QString::fromStdString(t->name).toLower());
    auto* more = new QToolButton(this);
    setThemedIcon(more, "add");
    more->setFixedSize(36, 36);
    more->setToolTip(tr("Add a greyscale picture (PNG) as a tip"));
    connect(more, &QToolButton::clicked, this, &TipRow::add);
    row_->addWidget(more);
    row_->addStretch();
    refresh();
}

void TipRow::add() {
    const QString path = QFileDialog::getOpenFileName(house_.services.window(), tr("Choose a greyscale picture"), {},
                                                      tr("Pictures (*.png)"));
    if (path.isEmpty()) return;
    if (const Status s = shelf_.addTip(path); !s) house_.services.refuse(s.error());
}

void TipRow::refresh() {
    const Tip& tip = place_.toolbox.settings().tip;
    for (auto* b : findChildren<QToolButton*>()) {
        if (!b->isCheckable()) continue;
        const QString name = b->property("tip").toString();
        b->setChecked(tip.shape == TipShape::round ? name == tr("round")
                      : tip.shape == TipShape::square
                          ? name == tr("square")
                          : tip.picture && name == QString::fromStdString(tip.picture->name).toLower());
    }
}

namespace {

bool mayReplaceBrush(House& house, const QString& name) {
    return !house.shelf.hasBrush(name) || house.services.ask(BrushList::tr("There is a brush “%1” already.").arg(name),
                                                             BrushList::tr("Replace it"), BrushList::tr("Keep it"));
}

}  // namespace

void keepBrush(House& house) {
    bool ok = false;
    const QString name = QInputDialog::getText(house.services.window(), BrushList::tr("Keep the brush"),
                                               BrushList::tr("Under the name"), QLineEdit::Normal,
                                               toolTitle(house.place.toolbox.tool()), &ok)
                             .trimmed();
    if (!ok || name.isEmpty() || !mayReplaceBrush(house, name)) return;
    if (const Status s = house.shelf.keep(name, house.place.toolbox.settings()); !s)
        return house.services.refuse(s.error());
    house.services.say(BrushList::tr("“%1” is kept in %2.").arg(name, Shelf::ownFolder() + "/brushes"));
}

BrushList::BrushList(House& house, QWidget* parent)
    : QWidget(parent), house_(house), place_(house.place), shelf_(house.shelf) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(2);
    auto* head = new QHBoxLayout;
    auto* title = new QLabel(tr("Brushes"), this);
    title->setProperty("quiet", true);
    auto* keep = new QToolButton(this);
    keep->setObjectName("keepBrush");
    setThemedIcon(keep, "add");
    keep->setToolTip(tr("Keep the present brush under a name"));
    keep->setFixedSize(24, 20);
    keep->setIconSize({16, 16});
    head->addWidget(title, 1);
    head->addWidget(keep);
    column->addLayout(head);
    list_ = new QListWidget(this);
    list_->setAccessibleName(tr("Brushes"));
    list_->setObjectName("brushes");
    list_->setViewMode(QListView::ListMode);
    list_->setIconSize({26, 26});
    list_->setUniformItemSizes(true);
    list_->setFocusPolicy(Qt::TabFocus);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setContextMenuPolicy(Qt::CustomContextMenu);
    column->addWidget(list_, 1);
    connect(keep, &QToolButton::clicked, this, [this] { keepBrush(house_); });
    connect(list_, &QListWidget::customContextMenuRequested, this, &BrushList::menu);
    for (const auto signal : {&QListWidget::itemClicked, &QListWidget::itemActivated})
        connect(list_, signal, this, [this](QListWidgetItem* item) {
            place_.applyPreset(shelf_.brushes()[static_cast<size_t>(list_->row(item))].preset.settings);
        });
    connect(&shelf_, &Shelf::changed, this, &BrushList::fill);
    connect(&themeChanges(), &ThemeChanges::changed, this, &BrushList::fill);
    fill();
}

void takeBrush(House& house, const QString& path) {
    const Result<Preset> brush = house.shelf.brushFrom(path);
    if (!brush) return house.services.refuse(brush.error());
    const QString name = QString::fromStdString(brush.value().name);
    if (!mayReplaceBrush(house, name)) return;
    if (const Status s = house.shelf.keep(name, brush.value().settings); !s) return house.services.refuse(s.error());
    house.services.say(BrushList::tr("“%1” lies with the other brushes now.").arg(name));
}

void BrushList::take() {
    const QString path = QFileDialog::getOpenFileName(house_.services.window(), tr("Take in a brush"), {},
                                                      tr("Brushes (*.json)"));
    if (!path.isEmpty()) takeBrush(house_, path);
}

void BrushList::fill() {
    list_->clear();
    for (const Shelf::Brush& b : shelf_.brushes()) {
        auto* item = new QListWidgetItem(brushIcon(b.preset.settings, 52), QString::fromStdString(b.preset.name),
                                         list_);
        item->setToolTip(tr("%1: %2, %3 m")
                             .arg(QString::fromStdString(b.preset.name), toolTitle(b.preset.settings.tool))
                             .arg(b.preset.settings.radius, 0, 'g', 3));
    }
}

void BrushList::menu(const QPoint& at) {
    QMenu menu(this);
    menu.addAction(tr("Keep the present brush…"), this, [this] { keepBrush(house_); });
    menu.addAction(tr("Take in a brush file…"), this, &BrushList::take);
    if (const QListWidgetItem* item = list_->itemAt(at)) {
        const auto index = static_cast<size_t>(list_->row(item));
        menu.addAction(tr("Show its file"), this, [this, index] {
            QDesktopServices::openUrl(QUrl::fromLocalFile(QFileInfo(shelf_.brushes()[index].file).path()));
        });
        auto* remove = menu.addAction(tr("Remove"), this, [this, index] {
            if (const Status s = shelf_.removeBrush(index); !s) house_.services.refuse(s.error());
        });
        remove->setEnabled(shelf_.brushes()[index].own);
    }
    menu.exec(list_->viewport()->mapToGlobal(at));
}

}  // namespace jam
