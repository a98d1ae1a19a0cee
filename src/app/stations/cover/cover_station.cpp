#include "stations/cover/cover_station.h"

#include <QButtonGroup>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QScrollArea>
#include <QSettings>
#include <QSlider>
#include <QToolButton>
#include <QVBoxLayout>

#include "hands/fence_hand.h"
#include "looks/theme.h"
#include "panels/brush_fields.h"
#include "panels/fence_panel.h"
#include "panels/page.h"
#include "panels/rules_panel.h"
#include "panels/tool_shelf.h"
#include "stations/cover/layer_panel.h"
#include "stations/cover/layer_strip.h"
#include "view/ground_view.h"
#include "watch/surveyor.h"
#include "watch/verdicts.h"

namespace jam {

namespace {
constexpr int kButtonWidth = 58;
}

CoverStation::CoverStation(House& house) : Station("cover", tr("Cover"), "cover", "F4"), house_(house) {
    connect(&house.verdicts, &Verdicts::changed, this, &Station::stateChanged);
    house.place.document.on(About::layers, this, &Station::stateChanged);
}

QList<ActionRow> CoverStation::commands() {
    const auto step = [this](int by) {
        return [this, by] {
            const Level& level = house_.place.document.level();
            const int to = level.layerIndex(house_.place.standpoint.layer()) + by;
            if (to < 0 || to >= static_cast<int>(level.layers.size())) return;
            house_.place.chooseLayer(level.layers[static_cast<size_t>(to)].id);
            house_.services.say(
                tr("Paints with “%1”.").arg(QString::fromStdString(level.layers[static_cast<size_t>(to)].name)));
        };
    };
    return {{"layerBelow", tr("Choose the layer below"), ",", "", false, step(-1)},
            {"layerAbove", tr("Choose the layer above"), ".", "", false, step(1)}};
}

Station::State CoverStation::state() const {
    if (!house_.surveyor.findings()) return {};
    if (const auto note = house_.verdicts.first(id(), Check::Weight::note)) return {note->brief};
    return {tr("%1 layers, all used").arg(house_.place.document.level().layers.size()), Mood::passes};
}

std::unique_ptr<Hand> CoverStation::takeHand(const HandEvent& press) {
    return workingHand(house_.view, press, house_.worker());
}

bool CoverStation::takeFiles(const QStringList& paths, bool present) {
    if (!present || (!QFileInfo(paths.front()).isDir() && !namesPicture(paths.front()))) return false;
    addLayerFrom(QFileInfo(paths.front()).isDir() ? picturesIn(paths.front()) : paths);
    return true;
}

QWidget* CoverStation::benchPage(QWidget* parent) {
    auto* page = new QWidget(parent);
    auto* row = new QHBoxLayout(page);
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(new ToolShelf(house_, id(), kButtonWidth, page), 4);
    auto* scroll = new QScrollArea(page);
    auto* layers = new LayerStrip(house_.place, house_.surveyor, scroll);
    scroll->setWidget(layers);
    scroll->setWidgetResizable(true);
    auto* beside = new QVBoxLayout;
    beside->setSpacing(2);
    auto* find = new QLineEdit(page);
    find->setAccessibleName(tr("Search layers"));
    find->setObjectName("findLayer");
    find->setPlaceholderText(tr("Find a layer"));
    find->setClearButtonEnabled(true);
    QAction* glass = find->addAction(icon("search"), QLineEdit::LeadingPosition);
    connect(&themeChanges(), &ThemeChanges::changed, glass, [glass] { glass->setIcon(icon("search")); });
    auto* large = new QSlider(Qt::Horizontal, page);
    large->setAccessibleName(tr("Size of the pictures"));
    large->setObjectName("thumbnailSize");
    large->setRange(LayerStrip::kSmallest, LayerStrip::kLargest);
    large->setFixedWidth(70);
    large->setToolTip(tr("Size of the pictures"));
    large->setValue(QSettings().value("thumbnail", layers->thumbnail()).toInt());
    layers->setThumbnail(large->value());
    connect(find, &QLineEdit::textChanged, layers, &LayerStrip::search);
    connect(large, &QSlider::valueChanged, layers, [layers](int v) {
        layers->setThumbnail(v);
        QSettings().setValue("thumbnail", v);
    });
    connect(layers, &LayerStrip::resized, large, [layers, large] { large->setValue(layers->thumbnail()); });
    // The chosen layer is always to be seen, however it was chosen.
    connect(&house_.place.standpoint, &Standpoint::layerChosen, scroll, [this, layers, scroll] {
        const QRect tile = layers->tile(house_.place.document.level().layerIndex(house_.place.standpoint.layer()));
        if (!tile.isEmpty()) scroll->ensureVisible(tile.center().x(), tile.top(), tile.width(), 0);
    });
    auto* top = new QHBoxLayout;
    top->addWidget(find, 1);
    top->addWidget(large);
    beside->addLayout(top);
    beside->addWidget(scroll, 1);
    row->addLayout(beside, 5);

    connect(layers, &LayerStrip::addWanted, this, &CoverStation::addLayerMenu);
    connect(layers, &LayerStrip::menuWanted, this, [this](uint32_t, const QPoint& at) { layerMenu(at); });
    return page;
}

QWidget* CoverStation::sheetPage(QWidget* parent) {
    auto* page = new QWidget(parent);
    auto* c = pageColumn(page);
    // Brush, layer and its rules, one at a time.
    auto* brush = new BrushFields(house_.place, page);
    auto* rules = new RulesPanel(house_, ThingKind::layer, page);
    auto* layer = new LayerPanel(house_.place, house_.view, *rules, page);
    QButtonGroup* group = addParts(c,
                                   {{"partBrush", tr("Brush"), brush},
                                    {"partLayer", tr("Layer"), layer},
                                    {"partRules", tr("Rules"), rules},
                                    {"partFence", tr("Fence"), new FencePanel(house_, page)}},
                                   page);
    c->addStretch();
    auto* rulesButton = group->buttons()[2];
    connect(rules, &RulesPanel::hinted, rulesButton, [rulesButton](const QString& hint) {
        rulesButton->setText(hint.isEmpty() ? tr("Rules") : tr("Rules •"));
        rulesButton->setToolTip(hint.isEmpty() ? QString() : tr("Rules: %1").arg(hint));
    });
    connect(layer, &LayerPanel::menuWanted, this, [this] { layerMenu(QCursor::pos()); });
    connect(layer, &LayerPanel::picturesWanted, this, &CoverStation::swapPictures);
    return page;
}

}  // namespace jam
